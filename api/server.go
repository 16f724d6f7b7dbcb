// Package api answers the contract in openapi.yaml: it turns requests into
// calls of core and store, and their results and errors into answers. It holds
// no rules of the work.
package api

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"path"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/getkin/kin-openapi/routers"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/photo"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
	"ambivia/core/wire"
	"ambivia/store"
)

//go:generate go tool -modfile=../tools/go.mod oapi-codegen -config generate.yaml -o types.gen.go openapi.yaml

// Limits for requests.
const (
	maxBody       = 256 << 10
	maxImportBody = circuit.MaxBytes + 1
)

// Server answers requests of the page.
type Server struct {
	store    *store.Store
	log      *slog.Logger
	hosts    []string
	mu       sync.Mutex
	told     *lru.Cache[string, CircuitSummary]   // by revision and length of the log
	heads    *lru.Cache[string, *head]            // by revision
	traced   *lru.Cache[string, *standing]        // by circuit
	plans    *lru.Cache[string, *retrofit.Result] // by revision, wishes and devices
	offers   *lru.Cache[string, *retrofit.Option] // likewise, and by option
	proofs   *lru.Cache[string, *prove.Proof]     // by revision
	thumbs   *lru.Cache[string, []byte]           // small pictures, by photograph
	desk     *desk
	contract routers.Router
	stand    stand
	followed sync.Map // by the key of a tree of tests that is being followed: how many tests it has
}

// New makes the handler of the whole program: the contract below /api/v1 and
// the built page elsewhere. hosts are the values of the Host header that are
// answered; any other is refused, so that a name that someone else lets point
// at this machine (DNS rebinding) leads nowhere.
func New(s *store.Store, page fs.FS, log *slog.Logger, hosts []string) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	routes, err := agreed()
	if err != nil {
		panic("api: the embedded contract is unusable: " + err.Error())
	}
	server := &Server{store: s, log: log, hosts: hosts, contract: routes,
		told: newCache[CircuitSummary](keptOfJobs), heads: newCache[*head](keptHeads), traced: newCache[*standing](keptTraced),
		plans: newCache[*retrofit.Result](keptPlans), offers: newCache[*retrofit.Option](keptOffers), thumbs: newCache[[]byte](keptThumbs), proofs: newCache[*prove.Proof](keptPlans),
	}
	server.desk = newDesk(func(x any, stack []byte) { log.Error("panic", "panic", fmt.Sprint(x), "stack", string(stack)) })
	engine := gin.New()
	engine.HandleMethodNotAllowed = true
	engine.Use(server.logged, server.recovered, server.guarded, server.validated, server.named)
	engine.Use(gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedExtensions([]string{".png", ".jpg", ".woff", ".woff2"}),
		gzip.WithExcludedPathsRegexs([]string{"/photos/", "/archive$", "/paper/"}))) // what is compressed already
	strict := NewStrictHandlerWithOptions(server, []StrictMiddlewareFunc{own, whole}, StrictGinServerOptions{
		RequestErrorHandlerFunc: func(c *gin.Context, err error) { server.refuse(c, badRequest(err)) },
		HandlerErrorFunc:        func(c *gin.Context, err error) { server.refuse(c, err) },
		ResponseErrorHandlerFunc: func(c *gin.Context, err error) {
			level := slog.LevelError
			if c.Request.Context().Err() != nil || errors.Is(err, syscall.EPIPE) || errors.Is(err, syscall.ECONNRESET) {
				level = slog.LevelInfo // whoever asked does not wait any more
			}
			server.log.Log(context.WithoutCancel(c.Request.Context()), level, "answer not written", "error", err.Error())
		},
	})
	RegisterHandlersWithOptions(engine, strict, GinServerOptions{
		BaseURL:      "/api/v1",
		ErrorHandler: func(c *gin.Context, err error, _ int) { server.refuse(c, badRequest(err)) },
	})
	engine.NoRoute(servePage(page, server))
	engine.NoMethod(func(c *gin.Context) {
		server.refuse(c, &problemError{http.StatusMethodNotAllowed, "method", "", "this address does not take that method"})
	})
	return engine
}

// newCache keeps so many of what was asked for last.
func newCache[T any](size int) *lru.Cache[string, T] {
	c, err := lru.New[string, T](size)
	if err != nil {
		panic("api: " + err.Error()) // a size that is not above 0
	}
	return c
}

// Listen opens the loopback address, or says in one line what to do.
func Listen(address string) (net.Listener, error) {
	l, err := net.Listen("tcp", address)
	if err != nil {
		return nil, fmt.Errorf("cannot listen at %s: another program may use the port; stop it, or choose another with --address 127.0.0.1:PORT (make demo PORT=8421)", address)
	}
	return l, nil
}

// patience is how long running requests may still take when the program is to stop.
const patience = 1500 * time.Millisecond

// Serve answers on the listener until ctx ends, then lets running requests finish that do not
// take long.
func Serve(ctx context.Context, l net.Listener, h http.Handler) error {
	server := &http.Server{
		Handler: h, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second,
		WriteTimeout: treeTime + 30*time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 32 << 10,
	}
	done := make(chan error, 1)
	go func() { done <- server.Serve(l) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
		stop, cancel := context.WithTimeout(context.Background(), patience)
		defer cancel()
		err := server.Shutdown(stop)
		if errors.Is(err, context.DeadlineExceeded) { // what is being worked out is worked out anew when it is asked for again
			return server.Close()
		}
		return err
	}
}

// own gives a handler a context that stays its own: the router uses its contexts again for the
// next request, while the database may still listen to the last one's.
func own(handle StrictHandlerFunc, _ string) StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) { return handle(c.Copy(), request) }
}

// whole writes each list of an answer as a list, an empty one as [].
func whole(handle StrictHandlerFunc, _ string) StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) {
		answer, err := handle(c, request)
		if err != nil {
			return answer, err
		}
		return wire.Whole(answer), nil
	}
}

// byHeader is where the page says who works at it, percent-encoded; nobody is held to it.
const byHeader = "Ambivia-By"

// named keeps who makes a request, as they call themselves.
func (s *Server) named(c *gin.Context) {
	if name, err := url.PathUnescape(c.GetHeader(byHeader)); err == nil {
		c.Set(byHeader, name)
	}
	c.Next()
}

// who makes the request that a handler answers, "" where nobody said.
func who(ctx context.Context) string {
	name, _ := ctx.Value(byHeader).(string)
	return name
}

// logged writes one line for each request: the route, not the address, so that
// nothing of a customer stands in the log.
func (s *Server) logged(c *gin.Context) {
	start := time.Now()
	c.Next()
	s.log.Info("request", "method", c.Request.Method, "route", c.FullPath(), "status", c.Writer.Status(),
		"milliseconds", time.Since(start).Milliseconds())
}

func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if x := recover(); x != nil {
			s.log.Error("panic", "route", c.FullPath(), "panic", fmt.Sprint(x), "stack", string(debug.Stack()))
			s.refuse(c, errors.New("panic"))
		}
	}()
	c.Next()
}

const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; " +
	"manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

// guarded keeps others out: foreign hosts, writes from other sites, large
// bodies.
func (s *Server) guarded(c *gin.Context) {
	h := c.Writer.Header()
	h.Set("Content-Security-Policy", policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	own := strings.HasPrefix(c.Request.URL.Path, "/api/")
	if own {
		h.Set("Cache-Control", "no-store") // a customer's walls are nobody else's business
	}
	if !slices.Contains(s.hosts, c.Request.Host) {
		s.refuse(c, &problemError{http.StatusForbidden, "foreign-host", "Host", "this server answers on the loopback address only"})
		return
	}
	read := c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead
	if !read && !s.sameOrigin(c.Request) {
		s.refuse(c, &problemError{http.StatusForbidden, "foreign-origin", "Origin", "changes are taken from this program's own page only"})
		return
	}
	if site := c.Request.Header.Get("Sec-Fetch-Site"); read && own && (site == "cross-site" || site == "same-site") {
		s.refuse(c, &problemError{http.StatusForbidden, "foreign-origin", "Sec-Fetch-Site", "answers are given to this program's own page only"})
		return
	}
	if kind, _, _ := mime.ParseMediaType(c.GetHeader("Content-Type")); !read && own && c.Request.ContentLength != 0 && kind != "application/json" && kind != "application/octet-stream" {
		s.refuse(c, &problemError{http.StatusUnsupportedMediaType, "media-type", "Content-Type", "this address takes application/json, and files as application/octet-stream"})
		return
	}
	limit := int64(maxBody)
	switch path := c.FullPath(); {
	case path == "/api/v1/firm":
		limit = 4 << 20
	case path == "/api/v1/import":
		limit = archive.MaxBytes + 1
	case strings.HasSuffix(path, "/import"):
		limit = maxImportBody
	case strings.HasSuffix(path, "/photos"):
		limit = photo.MaxBytes + 1
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}

// sameOrigin reports whether a write comes from the program's own page, or from
// a program that is no browser at all.
func (s *Server) sameOrigin(r *http.Request) bool {
	if site := r.Header.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" {
		return false
	}
	origin := r.Header.Get("Origin")
	return origin == "" || origin == "http://"+r.Host
}

// servePage serves the built page; any path that is no file is the page's own
// to show.
func servePage(page fs.FS, s *Server) gin.HandlerFunc {
	files := http.FileServerFS(page)
	return func(c *gin.Context) {
		if strings.HasPrefix(c.Request.URL.Path, "/api/") {
			s.refuse(c, &problemError{http.StatusNotFound, "not-found", "", "there is nothing at this address"})
			return
		}
		name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if name == "" {
			name = "index.html"
		}
		if info, err := fs.Stat(page, name); err != nil || info.IsDir() { // folders are nobody's to list
			if err == nil && name != "." {
				c.Status(http.StatusNotFound)
				return
			}
			if path.Ext(name) != "" && name != "index.html" {
				c.Status(http.StatusNotFound)
				return
			}
			name = "index.html"
		}
		if strings.HasPrefix(name, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			c.Header("Cache-Control", "no-cache")
		}
		if name == "index.html" {
			data, err := fs.ReadFile(page, name)
			if err != nil {
				c.String(http.StatusServiceUnavailable, "The page is not built yet: run make demo.\n")
				return
			}
			once := rand.Text()
			c.Header("Content-Security-Policy", strings.Replace(policy, "style-src 'self'", "style-src 'self' 'nonce-"+once+"'", 1))
			c.Data(http.StatusOK, "text/html; charset=utf-8", bytes.Replace(data, []byte("{{nonce}}"), []byte(once), 1))
			return
		}
		c.Status(http.StatusOK)
		files.ServeHTTP(c.Writer, c.Request)
	}
}
