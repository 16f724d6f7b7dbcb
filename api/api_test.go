package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"io"
	"log/slog"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"strings"
	"syscall"
	"testing"
	"testing/fstest"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"

	"ambivia/api"
	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/demo"
	"ambivia/exchange"
	"ambivia/store"
	"ambivia/store/storetest"
)

const host = "127.0.0.1:8420"

// bench is the handler with a store in memory; every answer is held to the
// contract in openapi.yaml.
type bench struct {
	t      *testing.T
	h      http.Handler
	router routers.Router
	log    *bytes.Buffer
	store  *store.Store
	ids    *storetest.Numbers
}

func newBench(t *testing.T) *bench {
	t.Helper()
	s, err := store.Open(context.Background(), ":memory:")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	doc, err := openapi3.NewLoader().LoadFromFile("openapi.yaml")
	if err != nil {
		t.Fatal(err)
	}
	router, err := gorillamux.NewRouter(doc)
	if err != nil {
		t.Fatal(err)
	}
	page := fstest.MapFS{"index.html": {Data: []byte(`<html><meta name="nonce" content="{{nonce}}" />the page</html>`)}, "assets/a.js": {Data: []byte("1")}}
	b := &bench{t: t, router: router, log: new(bytes.Buffer), store: s, ids: &storetest.Numbers{Store: s}}
	b.h = api.New(s, page, slog.New(slog.NewTextHandler(b.log, nil)), []string{host})
	return b
}

func (b *bench) raw(method, path string, body []byte, header map[string]string) *httptest.ResponseRecorder {
	path = b.ids.Address(b.t, path)
	r := httptest.NewRequest(method, "http://"+host+path, bytes.NewReader(body))
	if body != nil {
		r.Header.Set("Content-Type", "application/json")
	}
	for k, v := range header {
		r.Header.Set(k, v)
		if k == "Host" {
			r.Host = v
		}
	}
	w := httptest.NewRecorder()
	b.h.ServeHTTP(w, r)
	return w
}

func init() {
	// Drawings and calendars are text to the contract.
	for _, kind := range []string{"image/svg+xml", "text/calendar"} {
		openapi3filter.RegisterBodyDecoder(kind, openapi3filter.PlainBodyDecoder)
	}
}

// call sends JSON and holds the answer to the contract.
func (b *bench) call(method, path string, body any, status int) map[string]any {
	b.t.Helper()
	var data []byte
	header := map[string]string{}
	switch x := body.(type) {
	case nil:
	case []byte:
		data = x
		header["Content-Type"] = "application/octet-stream"
	default:
		var err error
		if data, err = json.Marshal(body); err != nil {
			b.t.Fatal(err)
		}
	}
	w := b.raw(method, "/api/v1"+path, data, header)
	if w.Code != status {
		b.t.Fatalf("%s %s: status %d, want %d: %s", method, path, w.Code, status, w.Body)
	}
	request := httptest.NewRequest(method, "/api/v1"+b.ids.Address(b.t, path), nil)
	route, params, err := b.router.FindRoute(request)
	if err != nil {
		b.t.Fatalf("%s %s: %v", method, path, err)
	}
	err = openapi3filter.ValidateResponse(context.Background(), &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: request, PathParams: params, Route: route},
		Status:                 w.Code, Header: w.Header(), Body: io.NopCloser(bytes.NewReader(w.Body.Bytes())),
		Options: &openapi3filter.Options{IncludeResponseStatus: true},
	})
	if err != nil {
		b.t.Fatalf("%s %s: the answer breaks the contract: %v", method, path, err)
	}
	var out map[string]any
	_ = json.Unmarshal(w.Body.Bytes(), &out) // arrays and drawings are looked at by the contract alone
	return out
}

func edit(base any, fields map[string]any) map[string]any {
	return map[string]any{"base": base, "edit": fields}
}

// TestContract walks through every operation, with a circuit that grows from
// nothing, and holds each answer to the contract.
func TestContract(t *testing.T) {
	b := newBench(t)
	b.call("GET", "/practices", nil, 200)
	b.call("GET", "/jobs", nil, 200)
	b.call("POST", "/jobs", map[string]any{"name": "Weaving works"}, 201)
	b.call("PATCH", "/jobs/1", map[string]any{"name": "Weaving works, loom hall"}, 200)
	c := b.call("POST", "/jobs/1/circuits", map[string]any{"name": "Loom hall", "practice": "in"}, 201)
	for _, preset := range []string{"panel", "feed-here", "lamp-beyond", "lamp-end"} {
		fields := map[string]any{"op": "add-box", "preset": preset}
		if cables, _ := c["document"].(map[string]any)["cables"].([]any); len(cables) > 0 {
			fields["cable"] = fmt.Sprintf("k%d", len(cables))
		}
		c = b.call("POST", "/circuits/1/edits", edit(c["revision"], fields), 200)
		b.call("GET", "/circuits/1/plan", nil, 200)
		b.call("GET", "/circuits/1/picture?of=found", nil, 200)
		b.call("POST", "/circuits/1/press", map[string]any{"of": "found", "state": map[string]int{}}, 200)
		b.call("GET", "/jobs/1", nil, 200)
	}
	if ready, _ := c["reading"].(map[string]any)["ready"].(bool); !ready {
		t.Fatalf("not ready: %v", c["reading"].(map[string]any)["next"])
	}
	b.call("GET", "/circuits/1/picture?of=planned", nil, 404)
	b.choosing()
	c = b.call("POST", "/circuits/1/choice", map[string]any{"base": c["revision"], "option": "main-remote-sw1"}, 200)
	b.call("GET", "/circuits/1/picture?of=planned", nil, 200)
	live := b.call("POST", "/circuits/1/press", map[string]any{"of": "planned", "state": map[string]int{}, "press": "r1"}, 200)
	if lit := live["lamps"].([]any)[0].(map[string]any)["lit"].(bool); !lit {
		t.Error("the remote does not light the lamp")
	}
	for _, under := range []map[string][]string{{"lampsOut": {"lamp1"}}, {"breakersOff": {"supply"}}, {"lifted": {"m1.load"}}} {
		live = b.call("POST", "/circuits/1/press", map[string]any{"of": "planned", "state": map[string]int{"m1.out": 1}, "under": under}, 200)
		if live["lamps"].([]any)[0].(map[string]any)["lit"].(bool) {
			t.Errorf("lit under %v", under)
		}
	}
	b.building()
	c = b.call("POST", "/circuits/1/undo", map[string]any{"base": c["revision"]}, 200)
	b.call("GET", "/circuits/1/procedure", nil, 422)
	if c["choice"] != nil {
		t.Error("the choice outlives its undo")
	}
	c = b.call("POST", "/circuits/1/redo", map[string]any{"base": c["revision"]}, 200)
	b.call("POST", "/circuits/1/redo", map[string]any{"base": c["revision"]}, 409)
	b.call("GET", "/circuits/1/file", nil, 200)
	b.call("GET", "/circuits/1/netlist", nil, 200)
	b.files()
	b.call("DELETE", "/circuits/1", nil, 204)
	b.call("DELETE", "/jobs/1", nil, 204)
	if strings.Contains(b.log.String(), "Loom") || strings.Contains(b.log.String(), "Weaving") {
		t.Error("the log names the customer's place")
	}
}

// building walks through what the chosen plan is built from: steps, the way back, documents.
func (b *bench) building() {
	b.t.Helper()
	p := b.call("GET", "/circuits/1/procedure", nil, 200)
	steps := len(p["steps"].([]any))
	if steps < 20 || len(p["materials"].([]any)) < 8 || len(p["labels"].([]any)) == 0 || len(p["cards"].([]any)) < 6 {
		b.t.Errorf("%d steps, %v", steps, p["materials"])
	}
	if back := b.call("GET", fmt.Sprintf("/circuits/1/procedure?back=%d", steps), nil, 200); len(back["steps"].([]any)) < 10 {
		b.t.Error("there is no way back from the finished work")
	}
	if back := b.call("GET", "/circuits/1/procedure?back=1", nil, 200); len(back["steps"].([]any)) != 0 {
		b.t.Error("there is something to put back before anything came off")
	}
	for query, code := range map[string]string{"procedure?back=999": "no-step"} {
		if got := b.call("GET", "/circuits/1/"+query, nil, 422)["code"]; got != code {
			b.t.Errorf("%s: %v", query, got)
		}
	}
	b.call("GET", "/circuits/1/paper/order?size=napkin", nil, 400)
	b.call("GET", "/circuits/1/paper/poster", nil, 400)
	b.call("GET", "/circuits/9/paper/order", nil, 404)
	if w := b.raw("GET", "/api/v1/circuits/1/diagram?of=planned", nil, nil); !strings.Contains(w.Body.String(), "@font-face") || !strings.Contains(w.Body.String(), "Loom hall") {
		b.t.Error("a drawing as a file has no type or no title block")
	}
	for _, view := range []string{"line", "difference"} {
		b.call("GET", "/circuits/1/picture?of=planned&compare=true&view="+view, nil, 200)
	}
	for _, sheet := range []string{"order", "annex", "drawings", "planned", "labels", "found-labels", "order?size=letter"} {
		w := b.raw("GET", "/api/v1/circuits/1/paper/"+sheet, nil, nil)
		if w.Code != 200 || w.Header().Get("Content-Type") != "application/pdf" || !bytes.HasPrefix(w.Body.Bytes(), []byte("%PDF-")) {
			b.t.Errorf("%s: %d, %s", sheet, w.Code, w.Header())
		}
	}
	if w := b.raw("GET", "/api/v1/circuits/1/materials", nil, nil); w.Code != 200 || !strings.HasPrefix(w.Body.String(), "group,item,count") {
		b.t.Errorf("materials: %d, %.60s", w.Code, w.Body)
	}
}

// choosing walks through wishes, devices of one's own and the drawing of an option.
func (b *bench) choosing() {
	b.t.Helper()
	first := func(plan map[string]any) map[string]any { return plan["options"].([]any)[0].(map[string]any) }
	plain := first(b.call("GET", "/circuits/1/plan", nil, 200))
	if known := b.call("GET", "/circuits/1/wishes", nil, 200)["known"].([]any); len(known) < 12 {
		b.t.Errorf("%d wishes are known", len(known))
	}
	for place, wrong := range map[string]map[string]any{
		"wishes.gold": {"wishes": map[string]string{"gold": "must"}}, "budget": {"wishes": map[string]string{"budget": "nice"}}, "schools.links": {"schools": map[string]string{"links": "shouting"}},
	} {
		if p := b.call("PUT", "/circuits/1/wishes", map[string]any{"base": "", "wishes": wrong}, 422); p["place"] != place {
			b.t.Errorf("%v is refused at %v", wrong, p["place"])
		}
	}
	b.call("PUT", "/circuits/9/wishes", map[string]any{"base": "", "wishes": map[string]any{}}, 404)
	kept := b.call("PUT", "/circuits/1/wishes", map[string]any{"base": "", "wishes": map[string]any{"wishes": map[string]string{"dim-all": "must", "keep-switches": "must"}}}, 200)
	if p := b.call("PUT", "/circuits/1/wishes", map[string]any{"base": "", "wishes": map[string]any{}}, 409); p["code"] != "stale" || p["head"] != kept["version"] {
		b.t.Errorf("wishes in the stead of others that nobody saw: %v", p)
	}
	wished := b.call("GET", "/circuits/1/plan", nil, 200)
	if wished["conflicts"] == nil || len(first(wished)["wishes"].([]any)) != 2 {
		b.t.Errorf("the plan does not know the wishes: %v", wished["conflicts"])
	}
	b.call("PUT", "/circuits/1/wishes", map[string]any{"base": kept["version"], "wishes": map[string]any{}}, 200)
	if again := first(b.call("GET", "/circuits/1/plan", nil, 200)); again["id"] != plain["id"] {
		b.t.Errorf("without wishes %v stands first, it was %v", again["id"], plain["id"])
	}
	b.call("GET", "/circuits/1/picture?of=planned&option="+plain["id"].(string), nil, 200)
	b.call("GET", "/circuits/1/picture?of=planned&option=perpetual", nil, 422)
	if view := b.call("GET", "/circuits/1/options/"+plain["id"].(string), nil, 200); len(view["strip"].([]any)) < 4 {
		b.t.Errorf("the boxes of an option: %v", view["strip"])
	}

	var own map[string]any
	for _, x := range b.call("GET", "/devices?practice=in", nil, 200)["devices"].([]any) {
		if d := x.(map[string]any)["device"].(map[string]any); d["id"] == "radio-main" {
			own = d
		}
	}
	own["id"], own["name"], own["price"] = "attic-main", "attic dimmer", 1.0
	version := b.call("POST", "/devices", own, 201)["version"].(string)
	b.call("POST", "/devices", own, 201) // sent twice, it is kept once
	own["price"] = 2.0
	b.call("POST", "/devices", own, 409)
	version = b.call("POST", "/devices?base="+version, own, 200)["version"].(string)
	own["model"].(map[string]any)["button"] = map[string]any{}
	if bench := b.call("POST", "/devices/try", own, 200); bench["behaves"] != false {
		b.t.Error("a main whose button does nothing behaves on the bench")
	}
	if p := b.call("POST", "/devices", own, 422); p["code"] != "device-behaviour" {
		b.t.Errorf("it is refused as %v", p["code"])
	}
	file := b.raw("GET", "/api/v1/devices/file", nil, nil)
	other := bytes.ReplaceAll(file.Body.Bytes(), []byte("attic dimmer"), []byte("other dimmer"))
	b.call("POST", "/devices/file", other, 409)
	b.call("DELETE", "/devices/attic-main", nil, 409)
	b.call("DELETE", "/devices/attic-main?base="+version, nil, 204)
	b.call("DELETE", "/devices/attic-main?base="+version, nil, 404)
	b.call("POST", "/devices/file", []byte("{}"), 422)
	if kept := b.call("POST", "/devices/file", file.Body.Bytes(), 200); kept["kept"] != 1.0 || b.call("POST", "/devices/file?replace=true", other, 200)["kept"] != 1.0 {
		b.t.Errorf("%v devices come back", kept["kept"])
	}
	got := b.call("GET", "/devices?practice=na", nil, 200)["devices"].([]any)
	last := got[len(got)-1].(map[string]any)
	if last["own"] != true || last["device"].(map[string]any)["name"] != "other dimmer" {
		b.t.Errorf("the last device is not one's own: %v", last)
	}
	b.call("DELETE", "/devices/attic-main?base="+last["version"].(string), nil, 204)
}

// files walks through photographs and archives of job 1, circuit 1.
func (b *bench) files() {
	b.t.Helper()
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 40, 30))); err != nil {
		b.t.Fatal(err)
	}
	p := b.call("POST", "/circuits/1/boxes/sw1/photos", picture.Bytes(), 201)
	if p["width"] != 40.0 || p["box"] != "sw1" {
		b.t.Errorf("the photograph is %v", p)
	}
	b.call("PATCH", "/photos/1", map[string]any{"note": "before anything came off"}, 200)
	kept := b.raw("GET", "/api/v1/photos/1", nil, nil)
	if _, err := jpeg.Decode(kept.Body); err != nil {
		b.t.Errorf("the picture that is kept: %v", err)
	}
	whole := b.raw("GET", "/api/v1/jobs/1/archive", nil, nil)
	if whole.Code != 200 || !archive.Is(whole.Body.Bytes()) {
		b.t.Fatalf("archive: status %d", whole.Code)
	}
	b.call("POST", "/import", whole.Body.Bytes(), 201)
	was, now := b.call("GET", "/circuits/1", nil, 200), b.call("GET", "/circuits/2", nil, 200)
	for _, same := range []string{"document", "reading", "choice", "number", "summary", "canUndo", "canRedo"} {
		if !reflect.DeepEqual(was[same], now[same]) {
			b.t.Errorf("%s comes back as %v, it was %v", same, now[same], was[same])
		}
	}
	if photos := now["photos"].([]any); len(photos) != 1 || photos[0].(map[string]any)["note"] != "before anything came off" {
		b.t.Errorf("photographs come back as %v", photos)
	}
	if undone := b.call("POST", "/circuits/2/undo", map[string]any{"base": now["revision"]}, 200); undone["choice"] != nil {
		b.t.Error("an imported circuit cannot be taken a step back")
	}
	b.call("POST", "/jobs/1/import", whole.Body.Bytes(), 422)
	b.call("DELETE", "/photos/1", nil, 204)
	b.call("DELETE", "/jobs/2", nil, 204)
}

// TestDemoRoundTrip: what is imported and exported again says the same.
func TestDemoRoundTrip(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	circuits := demo.Jobs()[0].Circuits
	circuits = append(circuits, circuittest.Chain(4))
	for i, c := range circuits {
		var data bytes.Buffer
		if err := circuit.Write(&data, c); err != nil {
			t.Fatal(err)
		}
		b.call("POST", "/jobs/1/import", data.Bytes(), 201)
		w := b.raw("GET", fmt.Sprintf("/api/v1/circuits/%d/file", i+1), nil, nil)
		back, err := circuit.Parse(w.Body.Bytes())
		if err != nil {
			t.Fatal(err)
		}
		if diff := circuit.Diff(c, back); len(diff) > 0 {
			t.Errorf("circuit %d came back with %v", i, diff)
		}
	}
}

// TestListenAndStop: a port in use is one line with the way out, and the server
// stops when it is told to, after the request that runs.
func TestListenAndStop(t *testing.T) {
	l, err := api.Listen("127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := api.Listen(l.Addr().String()); err == nil || strings.Contains(err.Error(), "\n") || !strings.Contains(err.Error(), "--address") {
		t.Errorf("a port in use: %v", err)
	}
	ctx, stop := context.WithCancel(context.Background())
	done := make(chan error, 1)
	started := make(chan struct{})
	slow := http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		close(started)
		time.Sleep(200 * time.Millisecond)
		_, _ = io.WriteString(w, "done")
	})
	go func() { done <- api.Serve(ctx, l, slow) }()
	answer := make(chan string, 1)
	go func() {
		r, err := http.Get("http://" + l.Addr().String())
		if err != nil {
			answer <- err.Error()
			return
		}
		defer r.Body.Close()
		text, _ := io.ReadAll(r.Body)
		answer <- string(text)
	}()
	<-started
	stop()
	if text := <-answer; text != "done" {
		t.Errorf("the running request got %q", text)
	}
	if err := <-done; err != nil {
		t.Error(err)
	}
	if _, err := net.DialTimeout("tcp", l.Addr().String(), time.Second); err == nil {
		t.Error("the server still listens")
	}
}

// TestPageNotBuilt: a program built without the page says what to do.
func TestPageNotBuilt(t *testing.T) {
	s, err := store.Open(context.Background(), ":memory:")
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	h := api.New(s, os.DirFS(t.TempDir()), slog.New(slog.DiscardHandler), []string{host})
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequest("GET", "http://"+host+"/", nil))
	if w.Code != http.StatusServiceUnavailable || !strings.Contains(w.Body.String(), "make demo") {
		t.Errorf("status %d: %s", w.Code, w.Body)
	}
}

// BenchmarkJobPage answers with a job of 500 circuits: each is read from the
// database, parsed and checked.
func BenchmarkJobPage(b *testing.B) {
	ctx := context.Background()
	s, err := store.Open(ctx, ":memory:")
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	rng := rand.New(rand.NewPCG(52, 53))
	var list []*circuit.Circuit
	for i := range 500 {
		list = append(list, circuittest.House(rng, 2+i%4))
	}
	job, err := exchange.Fresh("x", list...)
	if err != nil {
		b.Fatal(err)
	}
	if _, err := job.Write(ctx, s); err != nil {
		b.Fatal(err)
	}
	log := slog.New(slog.DiscardHandler)
	h := api.New(s, fstest.MapFS{}, log, []string{host})
	h.ServeHTTP(httptest.NewRecorder(), httptest.NewRequest("GET", "http://"+host+"/api/v1/jobs/1", nil))
	b.Run("again", func(b *testing.B) { askJob(b, func() http.Handler { return h }) })
	b.Run("first", func(b *testing.B) {
		askJob(b, func() http.Handler { return api.New(s, fstest.MapFS{}, log, []string{host}) })
	})
}

func askJob(b *testing.B, handler func() http.Handler) {
	for b.Loop() {
		h := handler()
		w := httptest.NewRecorder()
		h.ServeHTTP(w, httptest.NewRequest("GET", "http://"+host+"/api/v1/jobs/1", nil))
		if w.Code != http.StatusOK {
			b.Fatal(w.Body)
		}
	}
}

// broken is an answer that cannot be written.
type broken struct {
	*httptest.ResponseRecorder
	err error
}

func (w broken) Write([]byte) (int, error) { return 0, &net.OpError{Op: "write", Err: w.err} }

// TestNobodyWaits: an answer that nobody waits for any more is no error of the program; another that cannot be written is.
func TestNobodyWaits(t *testing.T) {
	for err, said := range map[error]string{syscall.EPIPE: "INFO", syscall.ECONNRESET: "INFO", io.ErrShortWrite: "ERROR"} {
		b := newBench(t)
		b.h.ServeHTTP(broken{httptest.NewRecorder(), err}, httptest.NewRequest("GET", "http://"+host+"/api/v1/practices", nil))
		if log := b.log.String(); !strings.Contains(log, "level="+said+` msg="answer not written"`) {
			t.Errorf("%v is no %s: %s", err, said, log)
		}
	}
}
