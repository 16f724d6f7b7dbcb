package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
)

// practise hides the first demo circuit and opens its Trace stage.
func practise(t *testing.T, width, height int) (*house, *tab) {
	t.Helper()
	h := start(t)
	h.seed("observatory")
	b := h.open("/circuits/1/trace", width, height)
	b.see("It is the circuit of record")
	b.press("Hide it and practise")
	b.see("Practice: Chart room")
	b.see("circuits fit")
	return h, b
}

// confirm ticks every box of the gates that stand before tests, and goes on.
func (b *tab) confirm() { b.confirmIn("") }

// confirmIn confirms them in one part of the page: two tests that want the breaker
// otherwise would each undo what the other one asked for.
func (b *tab) confirmIn(part string) {
	b.t.Helper()
	for range 6 {
		gates := b.MustElements(part + " .gates")
		if len(gates) == 0 {
			return
		}
		for _, box := range gates[0].MustElements("[role=checkbox]") {
			box.MustClick()
		}
		gates[0].MustElementR("button", "Confirm and go on").MustClick()
		err := b.Page.Timeout(patience).Wait(rod.Eval(`(part, n) => document.querySelectorAll(part + " .gates").length < n`, part, len(gates)))
		if err != nil {
			b.t.Fatalf("the gate stays; the page says:\n%s", b.MustElement("body").MustText())
		}
		b.still()
	}
}

// readings counts the log, and waits for the test that comes next.
func (b *tab) readings(n int) {
	b.t.Helper()
	if err := b.Page.Timeout(patience).Wait(rod.Eval(`n => document.querySelectorAll(".trace-log li").length === n`, n)); err != nil {
		b.t.Fatalf("never %d readings; the page says:\n%s", n, b.MustElement("body").MustText())
	}
	b.still()
}

// TestTraceToTheRecord traces a hidden house to the end by keyboard, at the width of a
// phone: gates, answers, undo, and the circuit of record.
func TestTraceToTheRecord(t *testing.T) {
	h, b := practise(t, 390, 844)
	for _, a := range b.MustElements(".answer") {
		if disabled, _ := a.Attribute("disabled"); disabled == nil {
			t.Error("an answer can be given before the gates are passed")
		}
	}
	b.key('y')
	b.see("None yet.")
	b.confirm()
	b.key('u')
	b.readings(1)
	b.see("cannot tell")
	done := `() => document.body.innerText.includes("Everything that can be seen is certain")`
	n := 1
	for range 24 {
		if b.MustEval(done).Bool() {
			break
		}
		b.confirm()
		b.key('h')
		n++
		b.readings(n)
	}
	b.see("Everything that can be seen is certain")
	b.press("Open the walls and compare")
	b.see("conductors that are certain are right.")
	if text := b.MustElement(`[aria-label="Practice"] [role=status]`).MustText(); !strings.Contains(text, "14 of 14") {
		t.Errorf("compared: %s", text)
	}
	if wide := b.MustEval(`() => document.documentElement.scrollWidth > innerWidth`).Bool(); wide {
		t.Error("the page is wider than the phone")
	}
	h.restart()
	b.press("Make it the circuit of record")
	b.see("It is the circuit of record")
	b.key('s')
	b.see("It works")
	b.press("Chart table light")
	b.see("centre contact · assumed") // no reading shows where behind the wall a conductor ends
	b.KeyActions().Press(input.ControlLeft).Type('z').MustDo()
	b.key('t')
	b.see("Make it the circuit of record")
}

// TestTraceGuides goes through what stands beside the next test: the whole tree, what
// the customer says, tests chosen by hand, readings that clash and one taken back.
func TestTraceGuides(t *testing.T) {
	_, b := practise(t, 1280, 900)
	b.press("The whole way, before the first step")
	b.press("Follow every reading to the end")
	b.see("At most")
	b.see("All is certain.")
	b.press("What the customer says")
	b.pick("Which switch", "the 3-way switch at Chart room door")
	b.press("It works, however the others stand")
	b.see("works, however the others stand.")
	b.press("Other lights die with the same breaker")
	b.see("Other lights or outlets die with this breaker.")

	b.press("Another test, chosen by hand")
	b.pick("Instrument", "non-contact")
	b.pick("At", "black of untraced cable A at Chart room door")
	b.MustElementR("label", "common screw of the 3-way switch at Chart room door").MustClick()
	b.MustElementR("label", "common screw of the 3-way switch at Chart room window").MustClick()
	b.press("What would it tell?")
	b.see("Parts are live for this test")
	b.confirmIn(`[aria-label="Test by hand"]`)
	b.MustElementR(`[aria-label="Test by hand"] button`, "it sounds").MustClick()
	b.readings(1)
	// The same again with the other answer cannot be: the two clash.
	for i := 2; i < 4 && !b.MustHas(".clashes"); i++ {
		b.press("What would it tell?")
		b.confirmIn(`[aria-label="Test by hand"]`)
		b.MustElementR(`[aria-label="Test by hand"] button`, "it stays silent").MustClick()
		b.readings(i)
	}
	if b.MustHas(".clashes") {
		b.see("Something recorded or read is not so")
		b.see("Make this test again first")
	}
	for i := len(b.MustElements(".trace-log li")); i > 0; i-- {
		b.press(fmt.Sprintf("Take back reading %d", i))
		b.readings(i - 1)
	}
	b.MustElementR("label", "Fewest walks").MustClick()
	b.see("circuits fit")
}

// TestTraceInTwoTabs: two people stand at two boxes with one circuit. The one whose page is
// behind is told so, sees the newest and goes on; a reading is never lost or given twice,
// and a page that is loaded again in the middle stands where it stood.
func TestTraceInTwoTabs(t *testing.T) {
	h, one := practise(t, 1280, 800)
	one.confirm()
	two := h.open(strings.TrimPrefix(one.MustInfo().URL, "http://"+h.addr), 390, 844)
	two.see("circuits fit")
	one.key('u')
	one.readings(1)

	two.tolerate("409")
	two.key('u')
	two.see("Show the newest and go on")
	two.press("Show the newest and go on")
	two.readings(1)
	two.still()
	two.confirm()
	two.key('u')
	two.readings(2)

	one.MustReload().MustWaitLoad()
	one.readings(2)
	one.MustElementR("label", "Fewest walks").MustClick()
	one.see("circuits fit")
	one.MustReload().MustWaitLoad()
	one.see("circuits fit")
	if !one.MustHas(`[role=radio][value="trips"][aria-checked="true"]`) {
		t.Error("after a reload another way is preferred")
	}
	one.press("Take back reading 2")
	one.readings(1)
	// A double press of an answer is one reading.
	one.confirm()
	one.MustElement(".answer:not([disabled])")
	one.MustEval(`() => { const answer = document.querySelector(".answer:not(:disabled)"); answer.click(); answer.click(); }`)
	one.readings(2)
	one.still()
	one.readings(2)
}
