package e2e

import (
	"context"
	"fmt"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"ambivia/core/circuittest"
)

// What a page may weigh over the wire, in bytes, and how far it may jump: the share of the screen times the
// share of the way, as browsers count it.
const (
	firstLoad = 250_000
	jobsPage  = 60_000
	mostShift = 0.05
)

// weigh counts what comes over the wire from now on.
func (b *tab) weigh() (bytes func() int64) {
	var sum atomic.Int64
	b.EnableDomain(proto.NetworkEnable{})
	go b.EachEvent(func(e *proto.NetworkLoadingFinished) { sum.Add(int64(e.EncodedDataLength)) })()
	return sum.Load
}

// TestBytes: the first page is light, and so is a job's after that.
func TestBytes(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/nowhere", 1280, 800) // its events are heard from here on
	b.see("There is nothing here")
	if err := (proto.NetworkSetCacheDisabled{CacheDisabled: true}).Call(b); err != nil {
		t.Fatal(err)
	}
	bytes := b.weigh()
	b.MustNavigate(h.url("/")).MustWaitLoad()
	b.see("Observatory guest house")
	b.still()
	// What the page fetches ahead while it is read counts for neither: it is waited for.
	if err := b.Timeout(patience).Wait(rod.Eval(`() => performance.getEntriesByType("resource").some(e => e.name.includes("CircuitPage"))`)); err != nil {
		t.Fatal("the circuit's page is not fetched ahead")
	}
	b.still()
	ahead := int64(b.MustEval(`() => {
		const loaded = performance.getEntriesByType("navigation")[0].loadEventEnd;
		return performance.getEntriesByType("resource").filter(e => e.startTime > loaded + 1400 && e.name.includes("/assets/")).reduce((n, e) => n + e.transferSize, 0);
	}`).Int())
	first := bytes() - ahead
	b.press("Observatory guest house")
	b.see("West dome stair")
	b.still()
	job := bytes() - first - ahead
	b.press("Chart room")
	b.see("As recorded")
	b.still()
	circuit := bytes() - first - ahead - job
	t.Logf("first load %d bytes, %d fetched ahead, a job's page %d after that, a circuit's %d", first, ahead, job, circuit)
	if first > firstLoad || first < 10_000 || job > jobsPage {
		t.Errorf("first load %d bytes of %d, then %d of %d", first, firstLoad, job, jobsPage)
	}
}

// lag is how long an answer takes on its way to a phone in a cellar: on the machine itself all comes at once.
const lag = 200 * time.Millisecond

// TestEveryScreen opens every screen on a desk and in a hand, as slowly as it comes there. None moves under the pointer, none
// is wider than a window of 320 pixels, which is 1280 at 400 %, and none says an id of a circuit file.
func TestEveryScreen(t *testing.T) {
	h := furnish(t)
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		b := h.open("/nowhere", size[0], size[1])
		b.tolerate("422")
		slow := proto.NetworkEmulateNetworkConditions{Latency: float64(lag.Milliseconds()), DownloadThroughput: -1, UploadThroughput: -1}
		if err := slow.Call(b); err != nil {
			t.Fatal(err)
		}
		for _, s := range screens {
			b.MustNavigate(h.url(s.path)).MustWaitLoad()
			b.see(s.ready)
			b.still()
			name := fmt.Sprintf("%s at %d", s.name, size[0])
			if sum, what := b.shift(); sum > mostShift {
				t.Errorf("%s: it jumps by %.3f: %s", name, sum, what)
			}
			if size[0] > 640 {
				b.saysNoId(name)
				continue
			}
			b.MustSetViewport(320, 480, 1, true)
			b.narrow(name)
			b.MustSetViewport(size[0], size[1], 1, true)
		}
	}
}

// shift is by how much the page moved since it was opened, and what of it did.
func (b *tab) shift() (sum float64, what string) {
	b.t.Helper()
	moved := b.MustEval(`() => new Promise(done => {
		let sum = 0;
		const what = [];
		new PerformanceObserver(list => {
			for (const e of list.getEntries()) {
				if (e.hadRecentInput) continue;
				sum += e.value;
				for (const s of e.sources) what.push(e.value.toFixed(3) + " " + (s.node?.outerHTML ?? s.node?.textContent ?? "gone").slice(0, 70));
			}
		}).observe({ type: "layout-shift", buffered: true });
		setTimeout(() => done([sum, what.join("; ")]), 50);
	})`).Arr()
	return moved[0].Num(), moved[1].Str()
}

// narrow fails where the page is wider than its window of 320 pixels.
func (b *tab) narrow(name string) {
	b.t.Helper()
	if wide := b.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > 320 {
		who := b.MustEval(`() => [...document.querySelectorAll("body *")].filter(e => e.getBoundingClientRect().right > 321 && !e.closest("[class*=overflow-auto], [class*=overflow-x-auto], .strip, .sheet, .front, .board, svg"))
			.slice(0, 3).map(e => e.outerHTML.slice(0, 90)).join(" | ")`).Str()
		b.t.Errorf("%s is %d pixels wide: %s", name, wide, who)
	}
}

// TestQuick: at ten controls the time from a press to what it shows, and from a wish to the new order, is
// printed; it asserts that both come.
func TestQuick(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Weaving works")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Chain(10))
	b := h.open("/circuits/1/survey", 1280, 800)
	b.see("As recorded")
	b.still()
	b.MustEval(`() => {
		window.tasks = [];
		new PerformanceObserver(list => { for (const e of list.getEntries()) window.tasks.push(e.duration); }).observe({ type: "longtask" });
	}`)
	var presses []time.Duration
	lit := b.MustEval(`() => document.querySelector(".board .lamp").classList.contains("lit")`).Bool()
	for range 6 {
		lit = !lit
		begun := time.Now()
		b.key(input.Digit1)
		b.MustWait(`lit => document.querySelector(".board .lamp").classList.contains("lit") === lit`, lit)
		presses = append(presses, time.Since(begun))
	}
	tasks := b.MustEval(`() => JSON.stringify(window.tasks)`).Str()
	b.key(input.KeyC)
	b.see("What these conductors can carry")
	b.still()
	first := firstOption(b)
	begun := time.Now()
	b.press("What is wanted")
	wish(b, "Dims from every place", "must")
	b.MustWait(`first => document.querySelector("[data-option]").innerText !== first`, first)
	t.Logf("ten controls: press to paint %v, long tasks %s ms; wish to new order %v, with the opening of the list", fmt.Sprint(presses), tasks, time.Since(begun).Round(time.Millisecond))
}
