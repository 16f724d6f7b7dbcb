// Package e2e tests the program as a person uses it: the real page in headless
// Chromium, the real server, a database file of its own for each test.
package e2e

import (
	"context"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"

	"ambivia/api"
	"ambivia/store"
	"ambivia/store/storetest"
	"ambivia/web"
)

// patience is how long a step may take before the test gives up on it: other tests may have the
// cores meanwhile.
const patience = time.Minute

var browser *rod.Browser

func TestMain(m *testing.M) {
	if _, err := fs.Stat(web.Page(), "index.html"); err != nil {
		_, _ = os.Stderr.WriteString("e2e: the page is not built; run make test, which builds it\n")
		os.Exit(1)
	}
	os.Exit(run(m))
}

func run(m *testing.M) int {
	profile, err := os.MkdirTemp("", "ambivia-e2e")
	if err != nil {
		panic(err)
	}
	defer os.RemoveAll(profile)
	path, err := exec.LookPath("chromium-headless-shell") // Chromium without the parts that nobody sees: a third less work
	found := err == nil
	if !found {
		path, found = launcher.LookPath()
	}
	if !found {
		_, _ = os.Stderr.WriteString("e2e: there is no Chromium; run make test, which installs it\n")
		return 1
	}
	l := launcher.New().Bin(path).Leakless(false).Headless(true).NoSandbox(true).UserDataDir(profile).
		Set("disable-gpu").Set("disable-quic").Set("no-first-run").Set("disable-background-networking").
		Set("disable-component-update").Set("disable-sync").Set("force-prefers-reduced-motion")
	browser = rod.New().ControlURL(l.MustLaunch()).MustConnect().Sleeper(looks)
	defer l.Kill()
	defer browser.MustClose()
	return m.Run()
}

// looks is how often it is looked whether what a test waits for has come.
func looks() utils.Sleeper {
	return utils.BackoffSleeper(10*time.Millisecond, 100*time.Millisecond, nil)
}

// house is a running server with its database file.
type house struct {
	t      *testing.T
	path   string
	store  *store.Store
	server *httptest.Server
	addr   string
	ids    *storetest.Numbers // jobs and circuits in the order in which tests made them
}

// url is the address of a path, in which jobs and circuits may stand by number.
func (h *house) url(path string) string {
	h.t.Helper()
	return "http://" + h.addr + h.ids.Address(h.t, path)
}

// start starts a server for a test, which then runs beside others: each has data, server and
// browser profile of its own.
func start(t *testing.T) *house {
	t.Helper()
	t.Parallel()
	h := &house{t: t, path: filepath.Join(t.TempDir(), "test.db"), addr: "127.0.0.1:0"}
	h.up()
	t.Cleanup(h.down)
	return h
}

func (h *house) up() {
	h.t.Helper()
	s, err := store.Open(context.Background(), h.path)
	if err != nil {
		h.t.Fatal(err)
	}
	l, err := net.Listen("tcp", h.addr)
	if err != nil {
		h.t.Fatal(err)
	}
	h.addr = l.Addr().String()
	h.store = s
	if h.ids == nil {
		h.ids = &storetest.Numbers{}
	}
	h.ids.Store = s
	handler := api.New(s, web.Page(), slog.New(slog.NewTextHandler(io.Discard, nil)), []string{h.addr})
	h.server = &httptest.Server{Listener: l, Config: httptest.NewUnstartedServer(handler).Config}
	h.server.Start()
}

func (h *house) down() {
	h.server.CloseClientConnections()
	h.server.Close()
	_ = h.store.Close()
}

// restart stops the server in the middle of things and starts it again.
func (h *house) restart() {
	h.t.Helper()
	h.down()
	h.up()
}

// tab is one page that a person looks at. Every error in its console fails the
// test.
type tab struct {
	*rod.Page
	t      *testing.T
	mu     sync.Mutex
	errors []string
	expect []string // parts of console errors that the test provokes
}

func (h *house) open(path string, width, height int) *tab {
	h.t.Helper()
	context := browser.MustIncognito()
	page := context.MustPage().Timeout(10 * time.Minute)
	page.MustEvalOnNewDocument(countRequests)
	page.MustSetViewport(width, height, 1, width < 600)
	b := &tab{Page: page, t: h.t}
	go page.EachEvent(func(e *proto.RuntimeConsoleAPICalled) {
		if e.Type == proto.RuntimeConsoleAPICalledTypeError {
			var said []string
			for _, arg := range e.Args { // an error says what it is in its description alone
				said = append(said, strings.TrimSpace(arg.Description+" "+arg.Value.String()))
			}
			b.complain(strings.Join(said, " "))
		}
	}, func(e *proto.RuntimeExceptionThrown) {
		text := e.ExceptionDetails.Text
		if e.ExceptionDetails.Exception != nil {
			text += " " + e.ExceptionDetails.Exception.Description
		}
		b.complain(text)
	}, func(e *proto.LogEntryAdded) {
		if e.Entry.Level == proto.LogLogEntryLevelError {
			b.complain(e.Entry.Text + " " + e.Entry.URL)
		}
	})()
	page.EnableDomain(proto.LogEnable{})
	page.MustNavigate(h.url(path)).MustWaitLoad()
	h.t.Cleanup(func() {
		if h.t.Failed() {
			if dir := os.Getenv("AMBIVIA_FAILURES"); dir != "" {
				page.MustScreenshotFullPage(filepath.Join(dir, strings.ReplaceAll(h.t.Name(), "/", "_")+".png"))
			}
		}
		b.mu.Lock()
		for _, text := range b.errors {
			h.t.Errorf("the page's console: %s", text)
		}
		b.mu.Unlock()
		context.MustClose()
	})
	return b
}

func (b *tab) complain(text string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, part := range b.expect {
		if strings.Contains(text, part) {
			return
		}
	}
	b.errors = append(b.errors, text)
}

// tolerate says that the test provokes console errors with this part, such as
// the browser's note of an answer with status 409.
func (b *tab) tolerate(part string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.expect = append(b.expect, part)
}

// see waits until the text stands on the page.
func (b *tab) see(text string) {
	b.t.Helper()
	err := b.Page.Timeout(patience).Wait(rod.Eval(`text => document.body.innerText.replace(/\s+/g, " ").includes(text)`, text))
	if err != nil {
		b.t.Fatalf("never saw %q; the page says:\n%s", text, b.MustElement("body").MustText())
	}
}

// until waits until something is so on the page; otherwise the test fails, in these words, and goes on.
func (b *tab) until(otherwise, js string, args ...any) {
	b.t.Helper()
	if err := b.Page.Timeout(patience).Wait(rod.Eval(js, args...)); err != nil {
		b.t.Error(otherwise)
	}
}

// gone waits until the text does not stand on the page.
func (b *tab) gone(text string) {
	b.t.Helper()
	err := b.Page.Timeout(patience).Wait(rod.Eval(`text => !document.body.innerText.replace(/\s+/g, " ").includes(text)`, text))
	if err != nil {
		b.t.Fatalf("%q never went away", text)
	}
}

// find waits for an element of the role-like selector whose accessible name or
// text begins with the words.
func (b *tab) find(selector, words string) *rod.Element {
	b.t.Helper()
	e, err := b.Page.Timeout(patience).ElementByJS(rod.Eval(`(selector, words) => {
		const plain = text => (text ?? "").replace(/\s+/g, " ").trim();
		const read = e => { // as a reader says it
			if (!e.querySelector("[aria-hidden]")) return e.textContent.trim();
			const copy = e.cloneNode(true);
			copy.querySelectorAll("[aria-hidden]").forEach(x => x.remove());
			return copy.textContent.trim();
		};
		const names = e => {
			const name = plain(e.getAttribute("aria-label") ?? e.innerText);
			return [name, name.replace(/^\d /, ""), read(e), [...(e.labels ?? [])].map(l => l.innerText.trim()).join(" ")];
		};
		const all = [...document.querySelectorAll(selector)].filter(e => !e.disabled).map(e => ({ e, names: names(e) }));
		return (all.find(x => x.e.closest("[role=dialog]") && x.names.includes(words)) ?? all.find(x => x.names.includes(words)) ??
			all.find(x => x.names.some(name => name.startsWith(words))))?.e ?? null;
	}`, selector, words))
	if err != nil {
		b.t.Fatalf("no %s %q; the page says:\n%s", selector, words, b.MustElement("body").MustText())
	}
	return e.CancelTimeout()
}

// press clicks a button or link as a person does, scrolling to it first. One that is drawn anew
// before it could be pressed is looked for again.
func (b *tab) press(words string) {
	b.t.Helper()
	for begun := time.Now(); ; {
		e := b.find(`button, a, [role="button"]`, words)
		err := e.Timeout(3*time.Second).Click(proto.InputMouseButtonLeft, 1)
		if err == nil {
			return
		}
		if time.Since(begun) > patience {
			b.t.Fatalf("pressing %q: %v", words, err)
		}
	}
}

// open opens the option whose title begins so.
func (b *tab) open(title string) {
	b.t.Helper()
	b.see("What these conductors can carry")
	row, err := b.Timeout(patience).ElementByJS(rod.Eval(`title => {
		document.querySelector("section[aria-label='What fits'] > button[aria-expanded=false]")?.click();
		return [...document.querySelectorAll("[data-option]")].find(e => e.innerText.startsWith(title)) ?? null;
	}`, title))
	if err != nil {
		b.t.Fatalf("no option %q; the page says:\n%s", title, b.MustElement("body").MustText())
	}
	if err := row.CancelTimeout().Timeout(patience).Click(proto.InputMouseButtonLeft, 1); err != nil {
		b.t.Fatalf("opening %q: %v", title, err)
	}
}

// choose chooses the option whose title begins so, which may stand among others of its
// kind.
func (b *tab) choose(title string) {
	b.t.Helper()
	b.open(title)
	b.press("Choose this")
	b.see("Chosen — take back")
}

// fill writes into the field with the label.
func (b *tab) fill(label, text string) {
	b.t.Helper()
	b.find("input", label).MustSelectAllText().MustInput(text)
}

// pick opens the list with the label and chooses the first of it that contains the words.
func (b *tab) pick(label, words string) {
	b.t.Helper()
	if err := b.find("[role=combobox]", label).Timeout(patience).Click(proto.InputMouseButtonLeft, 1); err != nil {
		b.t.Fatalf("opening %q: %v", label, err)
	}
	one, err := b.Timeout(patience).ElementByJS(rod.Eval(`words => [...document.querySelectorAll("[role=option]")].find(e => e.innerText.includes(words)) ?? null`, words))
	if err != nil {
		b.t.Fatalf("no %q under %q", words, label)
	}
	if err := one.CancelTimeout().Timeout(patience).Click(proto.InputMouseButtonLeft, 1); err != nil {
		b.t.Fatalf("choosing %q under %q: %v", words, label, err)
	}
	b.Page.Timeout(patience).MustWait(`() => !document.querySelector("[role=listbox]")`)
}

// countRequests counts in each new page the requests that are not answered yet.
const countRequests = `(() => {
	const fetch = window.fetch;
	window.waiting = 0;
	window.fetch = (...args) => { window.waiting++; return fetch(...args).finally(() => window.waiting--); };
})()`

// still waits until no request is under way, no card has just come, and nothing on the page has moved for a quarter of a
// second.
func (b *tab) still() {
	b.t.Helper()
	_, err := b.Page.Timeout(patience).Eval(`() => new Promise(done => {
		let timer;
		const rest = () => {
			clearTimeout(timer);
			timer = setTimeout(() => window.waiting > 0 || document.querySelector("[data-arriving]") ? rest() : (observer.disconnect(), done()), 250);
		};
		const observer = new MutationObserver(rest);
		observer.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
		rest();
	})`)
	if err != nil {
		b.t.Fatalf("the page never comes to rest: %v", err)
	}
}

// key presses keys one after the other, when no request is under way and a card that has just come may be answered.
func (b *tab) key(keys ...input.Key) {
	b.t.Helper()
	if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => !document.querySelector("[data-arriving]") && !window.waiting`)); err != nil {
		b.t.Fatalf("a card never may be answered: %v", err)
	}
	b.Keyboard.MustType(keys...)
}

// back goes back in the history. Where that leaves the page, the page that was asked is gone before it answers: so it is asked
// to do so in a moment.
func (b *tab) back() { b.MustEval(`() => void setTimeout(() => history.back())`) }

// hold presses a key for as long as a finger does.
func (b *tab) hold(key input.Key) {
	b.t.Helper()
	if err := b.Keyboard.Press(key); err != nil {
		b.t.Fatal(err)
	}
	time.Sleep(80 * time.Millisecond)
	if err := b.Keyboard.Release(key); err != nil {
		b.t.Fatal(err)
	}
}

// lamp waits until the page says that the lamp is lit or dark.
func (b *tab) lamp(lit bool) {
	b.t.Helper()
	word := "dark"
	if lit {
		word = "lit"
	}
	if err := b.Timeout(patience).Wait(rod.Eval(`word => document.querySelector(".lamps")?.innerText.includes(" " + word + ",")`, word)); err != nil {
		b.t.Errorf("no lamp is %s: %v", word, err)
	}
}
