package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"ambivia/core/circuittest"
)

// measures are what the bench is held to, in CSS pixels.
type measures struct {
	Page, Head, Least     float64 // height of the whole page; of what stands above the circuit; of the smallest letter
	Stops, Beyond         int     // boxes on the strip, and those of them that reach out of the screen
	X, Y, Scale           float64 // of the drawing
	Focus, Picked, Inside string
}

func (b *tab) measure() measures {
	b.t.Helper()
	var m measures
	data := b.MustEval(`() => {
		const paper = document.querySelector(".board > div");
		const at = new DOMMatrix(getComputedStyle(paper).transform);
		const texts = [...document.querySelectorAll(".board text")];
		const stops = [...document.querySelectorAll(".strip button")];
		const board = document.querySelector(".board").getBoundingClientRect();
		const room = document.querySelector(".board .room.picked")?.getBoundingClientRect();
		return JSON.stringify({
			Page: document.documentElement.scrollHeight,
			Head: document.querySelector(".board").closest("section").getBoundingClientRect().top,
			Least: Math.min(...texts.map((t) => parseFloat(t.getAttribute("font-size")))) * at.a,
			Stops: stops.length,
			Beyond: stops.filter((s) => s.getBoundingClientRect().right > innerWidth).length,
			X: at.e, Y: at.f, Scale: at.a,
			Focus: document.activeElement?.getAttribute("aria-label") ?? "",
			Picked: document.querySelector(".strip [aria-pressed=true]")?.innerText ?? "",
			Inside: room && room.left >= board.left - 1 && room.right <= board.right + 1 ? "yes" : "no",
		});
	}`).Str()
	if err := json.NewDecoder(bytes.NewReader([]byte(data))).Decode(&m); err != nil {
		b.t.Fatal(err)
	}
	return m
}

// TestBench: on a screen of 1280 by 800 a circuit of ten controls is recorded and traced on one screen
// that does not scroll: head and strip take less than 112 pixels, all boxes stand on the strip, no letter
// of the drawing is smaller than 11, and the box that is picked is in sight. The drawing is moved and
// zoomed by keys, buttons and wheel, and goes on answering presses.
func TestBench(t *testing.T) {
	h := start(t)
	job, err := h.store.CreateJob(context.Background(), "Weaving works")
	if err != nil {
		t.Fatal(err)
	}
	h.put(job.ID, circuittest.Chain(10))
	b := h.open("/circuits/1/survey", 1280, 800)
	b.tolerate("422") // ten controls are too many to be traced, and that is said
	b.see("As recorded")
	b.MustElement(".board .room.picked")
	b.still()
	for _, stage := range []string{"survey", "trace"} {
		m := b.measure()
		if m.Page > 800 || m.Head > 112 || m.Least < 10.99 || m.Inside != "yes" {
			t.Errorf("%s: the page is %g high, its head %g, the smallest letter %.2f; the box that is picked is in sight: %s", stage, m.Page, m.Head, m.Least, m.Inside)
		}
		if m.Stops != 12 || m.Beyond > 0 {
			t.Errorf("%s: %d boxes on the strip, %d beyond the screen", stage, m.Stops, m.Beyond)
		}
		if stage == "survey" {
			b.key(input.KeyT)
			b.see("Dead tests first")
			b.key(input.KeyS)
			b.see("Missing or odd")
		}
	}

	was := b.measure()
	b.MustElement(".board").MustFocus()
	b.key(input.Equal, input.ArrowLeft, input.ArrowUp)
	now := b.measure()
	if now.Scale <= was.Scale || now.Focus != "As recorded: drawing" {
		t.Errorf("by keys the drawing goes from %+v to %+v", was, now)
	}
	b.key(input.Digit0)
	whole := b.measure()
	if whole.Scale >= was.Scale || whole.X < 0 {
		t.Errorf("seen as a whole it stands at %g, scale %g", whole.X, whole.Scale)
	}
	b.MustElement(`[aria-label="Larger"]`).MustClick()
	if m := b.measure(); m.Scale <= whole.Scale {
		t.Errorf("the button leaves it at %g", m.Scale)
	}
	b.MustElement(".board").MustHover()
	b.Mouse.MustScroll(0, -240)
	if m := b.measure(); m.Scale <= whole.Scale*1.25 {
		t.Errorf("the wheel leaves it at %g", m.Scale)
	}
	b.press("In words") // the drawing for who does not see it
	b.see("Joined to the neutral")
	b.key(input.Escape)
	b.gone("Joined to the neutral")
	b.MustElement(".board").MustHover()
	b.key(input.BracketRight)
	b.still()
	m := b.measure()
	for end := time.Now().Add(patience); (m.Inside != "yes" || m.Picked == was.Picked) && time.Now().Before(end); m = b.measure() {
		time.Sleep(100 * time.Millisecond) // the board moves once it has been drawn
	}
	if m.Inside != "yes" || m.Picked == was.Picked {
		t.Errorf("the next box is %q, in sight: %s", m.Picked, m.Inside)
	}
	lit := b.MustEval(`() => document.querySelector(".board .lamp").classList.contains("lit")`).Bool()
	b.MustEval(`() => document.querySelector(".board [data-control]").dispatchEvent(new MouseEvent("click", { bubbles: true }))`)
	b.lamp(!lit)
}
