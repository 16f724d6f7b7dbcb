package e2e

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"

	"ambivia/core/circuittest"
)

// TestWire: a chosen plan is built from: what changes, boxes, one line, steps one by one with
// their ends in the picture of the box, the way back, materials; the place is kept over a
// reload; a conductor is followed; documents come out.
func TestWire(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/choose", 1280, 800)
	b.choose("Smart main in Archive door; Archive ladder becomes a wired auxiliary")
	b.press("Wire")
	b.see("Only what changes")

	b.MustElement(`[aria-label="As it will be"] .wire[data-end="k3.black@sw1"] .casing`).MustEval(`() => this.dispatchEvent(new MouseEvent("click", {bubbles: true}))`)
	b.see("One conductor: BK of the cable between")
	b.until("none or all wires are followed", `() => {
		const of = what => document.querySelectorAll("[aria-label='As it will be'] " + what).length;
		return of(".wire.followed") >= 2 && of(".wire.followed") < of(".wire");
	}`)
	b.press("Show all again")
	b.gone("One conductor:")

	b.find("[role=checkbox]", "Only what changes").MustClick()
	b.until("hardly a wire is thin", `() => document.querySelectorAll("section[aria-label='What changes'] svg .wire.kept").length >= 3`)
	b.press("Box by box")
	b.see("Out: 3-way switch. In: wired auxiliary.")
	b.until("not four pictures of two boxes before and after", `() => document.querySelectorAll(".front svg").length === 4`)
	b.press("Single line")
	b.see("signal, spare, neutral, ground")

	b.press("Steps")
	b.see("Step 1 of 45")
	b.key('.', '.', ',')
	b.see("Step 2 of 45")
	for range 6 {
		b.key('.')
	}
	b.see("Step 8 of 45")
	err := b.Timeout(patience).Wait(rod.Eval(`() => document.querySelectorAll(".step-now .front .pointed").length > 0`))
	if err != nil {
		t.Error("the ends of a step are not shown in its box")
	}
	b.see("Take black (BK) to Archive light off the common screw of the 3-way switch")
	b.MustReload().MustWaitLoad()
	b.see("Step 8 of 45")
	b.pick("List", "put it back")
	b.see("Step 1 of")
	b.press("All")
	b.see("Bring the 3-way switch to the box")
	b.pick("after step", "2")
	b.see("there is nothing to put back")

	b.press("Materials")
	b.see("connector for 4 conductors")
	b.see("needed in all")
	b.see("(was traveler)")
	for path, want := range map[string]string{"paper/order?size=a4": "%PDF-", "paper/labels": "%PDF-", "paper/drawings": "%PDF-", "materials": "group,item"} {
		if got := b.MustEval(`path => fetch("/api/v1/circuits/`+h.ids.Circuit(t, 2)+`/" + path).then(r => r.text()).then(t => t.slice(0, 10))`, path).Str(); !strings.HasPrefix(got, want) {
			t.Errorf("%s begins with %q", path, got)
		}
	}
	if link := *b.find("a", "Work order, PDF").MustAttribute("href"); !strings.HasSuffix(link, "size=letter") {
		t.Errorf("in North America the work order is asked for as %s", link)
	}
	b.pick("Paper", "A4")
	link := *b.find("a", "Work order, PDF").MustAttribute("href")
	if answer, err := http.Get("http://" + h.addr + link); err != nil || answer.StatusCode != 200 || !strings.HasSuffix(link, "size=a4") {
		t.Errorf("%s: %v, %v", link, answer, err)
	} else {
		answer.Body.Close()
	}

	two := h.open("/circuits/2/wire?see=steps", 390, 844) // the choice is taken back in another tab
	two.see("Step 1 of 45")
	b.press("Undo")
	b.see("No plan is chosen yet")
	two.tolerate("422")
	two.MustReload().MustWaitLoad()
	two.see("No plan is chosen yet")
}

// TestWireByKeys: with keys alone one goes through the plan: views by arrows, the lamp by a
// number, steps by full stop and comma, a step by Enter, the way back by its list, and to the documents.
func TestWireByKeys(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/2/choose", 1280, 800)
	b.choose("Smart main in Archive door; Archive ladder becomes a wired auxiliary")
	b.key('w')
	b.see("Only what changes")
	lamps := b.MustElement(`[aria-label="As it will be"] .lamps`).MustText()
	b.key('1')
	b.until("the key 1 does not press the first control",
		`was => document.querySelector("[aria-label='As it will be'] .lamps").innerText !== was`, lamps)
	focus(b, "Whole wiring")
	for _, view := range []string{"Box by box", "Single line", "Steps"} {
		b.key(input.ArrowRight)
		// The row of views moves its focus a moment later: a second arrow pressed too early is lost.
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`view => document.activeElement.innerText === view && document.activeElement.ariaSelected === "true"`, view)); err != nil {
			t.Fatalf("an arrow does not lead to %s", view)
		}
	}
	b.see("Step 1 of 45")
	b.key('.')
	b.see("Step 2 of 45")
	focus(b, "All 45 steps")
	b.key(input.Enter)
	focus(b, "7 Take the connector off")
	b.key(input.Enter)
	b.see("Step 7 of 45")
	b.key('?') // single keys can be switched off
	b.see("Single keys act")
	b.find("[role=switch]", "Single keys act").MustClick()
	b.key(input.Escape)
	b.gone("Single keys act")
	b.key('.', 's')
	b.still()
	b.see("Step 7 of 45")
	b.key('?')
	b.find("[role=switch]", "Single keys act").MustClick()
	b.key(input.Escape)
	b.gone("Single keys act")
	b.key(',')
	b.see("Step 6 of 45")
	b.MustEval(`() => document.querySelector(".sights button[aria-selected=true]").focus()`)
	b.key(input.Tab)
	for b.MustEval(`() => document.activeElement.role !== "combobox"`).Bool() {
		b.key(input.Tab)
	}
	b.key(input.Enter)
	option := func(words string) {
		t.Helper()
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`words => document.activeElement.role === "option" && document.activeElement.innerText.includes(words)`, words)); err != nil {
			t.Fatalf("the list never stands at %q", words)
		}
	}
	option("the steps to the plan")
	b.hold(input.ArrowDown)
	option("put it back")
	b.key(input.Enter)
	b.see("after step")
	b.press("All")
	b.see("Bring the 3-way switch to the box")
	b.MustNavigate(h.url("/circuits/2/wire")).MustWaitLoad()
	b.see("Only what changes")
	focus(b, "Work order, PDF")
	focus(b, "Other documents")
	b.key(input.Enter)
	focus(b, "Labels, PDF")
}

// TestWireOfTen: a chain of ten is built from on a phone: a step, its box, its picture.
func TestWireOfTen(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	ten := circuittest.Chain(10)
	ten.Name = "Ten on a tower stair"
	at := fmt.Sprintf("/circuits/%s/", h.put(h.ids.Job(t, 1), ten))
	b := h.open(at+"choose", 390, 844)
	b.choose("Smart main in switch box 1; switch box 2")
	b.MustNavigate(h.url(at + "wire?see=steps")).MustWaitLoad()
	b.press("All")
	b.see("rewire, close")
	b.until("fewer than 60 steps for ten boxes", `() => document.querySelectorAll(".step").length >= 60`)
	b.press(". Next step")
	b.see("Step 2 of")
	if wide := b.MustEval(`() => document.documentElement.scrollWidth - innerWidth`).Int(); wide > 0 {
		t.Errorf("the page is %d pixels wider than the phone", wide)
	}
	b.press("Single line")
	b.until("not twelve boxes before and after", `() => document.querySelectorAll("figure .sheet .room").length === 24`)
}
