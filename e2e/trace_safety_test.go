package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"

	"ambivia/core/circuit"
	hidden "ambivia/core/house"
	"ambivia/core/trace"
)

// settled is a survey of a demo circuit with the readings that settle it, and nothing made to
// confirm them.
func settled(t *testing.T) *circuit.Circuit {
	t.Helper()
	walls, err := hidden.New(scene("tide mill, mill house")[1], 4, nil)
	if err != nil {
		t.Fatal(err)
	}
	c := walls.Survey()
	c.Confirm = circuit.ConfirmNever
	for range 40 {
		tr, err := trace.New(context.Background(), c)
		if err != nil {
			t.Fatal(err)
		}
		test, ok, err := tr.Next(context.Background(), trace.Dead)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if test.Reading, err = walls.Answer(test); err != nil {
			t.Fatal(err)
		}
		c.Observations = append(c.Observations, test)
	}
	c.Confirm = ""
	return c
}

// TestBreakerIsAFact: after a reading with the power on, neither undo nor taking the reading
// back lets a hand near a wire before the breaker is confirmed off and the boxes are proved
// dead. Proving dead has an answer for a conductor that is live.
func TestBreakerIsAFact(t *testing.T) {
	_, b := practise(t, 1280, 900)
	b.see("Prove dead")
	b.pick("One is live with the power off", "black of")
	b.press("One is live")
	b.readings(1)
	b.see("STOP: a second feed is in")
	b.press("Take back reading 1")
	b.readings(0)
	b.gone("STOP: a second feed is in")

	b.confirm()
	b.press("Another test, chosen by hand")
	b.pick("Instrument", "look at the light")
	b.press("What would it tell?")
	b.see("Parts are live for this test")
	b.confirmIn(`[aria-label="Test by hand"]`)
	b.MustElementR(`[aria-label="Test by hand"] button`, "it is lit").MustClick()
	b.readings(1)
	dead := func(when string) {
		t.Helper()
		b.still()
		gates := b.MustElement(`[aria-label="The next test"] .gates`).MustText()
		if !strings.Contains(gates, "off, locked and labelled") || !strings.Contains(gates, "Prove dead") {
			t.Errorf("%s: the gates say %q", when, gates)
		}
	}
	if strings.Contains(b.MustElement(`[aria-label="The next test"]`).MustText(), "· dead") {
		dead("with the breaker on")
	}
	b.KeyActions().Press(input.ControlLeft).Type('z').MustDo()
	b.readings(0)
	dead("after undo")
	b.KeyActions().Press(input.ControlLeft, input.ShiftLeft).Type('Z').MustDo()
	b.readings(1)
	b.press("Take back reading 1")
	b.readings(0)
	dead("after the reading was taken back")
}

// TestTraceSettings: what a person cannot do is one tap, and no such test is proposed again; a
// conductor may be taken for what it most likely is, which stays marked as assumed; a
// conductor tied to another has its steps.
func TestTraceSettings(t *testing.T) {
	h, b := practise(t, 390, 844)
	lampOut := func() bool {
		return strings.Contains(b.MustElement(`[aria-label="The next test"]`).MustText(), "out of its socket")
	}
	if !lampOut() {
		t.Fatal("the first test leaves the lamp in, so this test shows nothing")
	}
	b.MustElementR("label", "The lamp cannot come out").MustClick()
	b.still()
	b.see("circuits fit")
	for range 3 {
		if b.confirm(); lampOut() {
			t.Error("the lamp is asked out of its socket")
		}
		n := len(b.MustElements(".trace-log li"))
		b.key('u')
		b.readings(n + 1)
	}
	c := settled(t)
	c.Observations = c.Observations[:len(c.Observations)-1]
	b = h.open(fmt.Sprintf("/circuits/%s/trace", h.put(h.ids.Job(t, 1), c)), 390, 844)
	b.see("circuits fit")
	take := b.MustElementR("button", "Take it as")
	as := strings.TrimPrefix(take.MustText(), "Take it as ")
	take.MustClick()
	b.see("is taken as " + as)
	b.press("Take back")
	b.gone("is taken as " + as)

	b.press("Another test, chosen by hand")
	b.pick("Between", "brown")
	b.press("Tied together for the test")
	for range 2 {
		b.MustElement(`div.choices [role=checkbox][data-state=unchecked]`).MustClick()
	}
	b.press("Tie these")
	b.see(" + ")
}

// TestMakeSure: where all is settled tracing is done; who wants to make sure is asked for a reading that would show a slip, and
// can leave that again.
func TestMakeSure(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	b := h.open(fmt.Sprintf("/circuits/%s/trace", h.put(h.ids.Job(t, 1), settled(t))), 1280, 800)
	b.see("circuit")
	b.still()
	b.see("Everything that can be seen is certain")
	n := len(b.MustElements(".trace-log li"))
	b.press("Make sure")
	b.see("Confirming reading")
	if got := b.MustElementR("label", "Make sure").MustElement("[role=combobox]").MustText(); !strings.Contains(got, "always") {
		t.Errorf("the setting says %q", got)
	}
	b.see("Everything is settled, if no reading is false")
	b.confirm()
	b.key('u')
	b.readings(n + 1)
	b.press("Do not confirm")
	b.see("Everything that can be seen is certain")
}

// TestNoHelper: what a test takes and a person has not is said with one tap at the test; another is asked then, and undo takes it back.
func TestNoHelper(t *testing.T) {
	_, b := practise(t, 390, 844)
	if len(b.MustElements(`[aria-label="I cannot do this"]`)) == 0 {
		t.Fatal("nothing that the first test takes can be refused")
	}
	var said string
	for range 4 { // each tap asks for another test, until one takes nothing that was refused
		list := b.MustElements(`[aria-label="I cannot do this"] button`)
		if len(list) == 0 {
			break
		}
		if said = list[0].MustText(); strings.Contains(said, "No work with the power on") {
			break
		}
		list[0].MustClick()
		b.still()
		for _, x := range b.MustElements(`[aria-label="I cannot do this"] button`) {
			if x.MustText() == said {
				t.Errorf("the next test takes it again: %s", said)
			}
		}
	}
	if said == "" {
		t.Error("nothing was refused")
	}
}

// TestPutBackInTrace: once a lamp is out or a wire is off its screw, the way back to what was found is at hand.
func TestPutBackInTrace(t *testing.T) {
	_, b := practise(t, 390, 844)
	b.gone("Put it back as found")
	for n := 1; n < 12 && len(b.MustElementsX(`//button[contains(., "Put it back as found")]`)) == 0; n++ {
		b.confirm()
		b.key('h')
		b.readings(n)
	}
	b.press("Put it back as found")
	b.see("close every box")
	b.see("try every switch")
}

// TestHeldKey: a key that is held, and one that is pressed again before the next card can have
// been read, make one reading.
func TestHeldKey(t *testing.T) {
	_, b := practise(t, 1280, 800)
	b.confirm()
	b.key('u')
	b.readings(1)
	press := `(repeat, times) => new Promise((done) => {
		let n = 0;
		const tick = () => {
			document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "u", bubbles: true, repeat: repeat && n > 0 }));
			if (++n < times) setTimeout(tick, 60);
			else done();
		};
		tick();
	})`
	for i, repeat := range []bool{true, false} {
		b.confirm()
		if err := b.Page.Timeout(patience).Wait(rod.Eval(`() => !document.querySelector("[data-arriving]")`)); err != nil {
			t.Fatal(err)
		}
		times := 6
		if repeat {
			times = 40
		}
		b.MustEval(press, repeat, times)
		b.still()
		b.readings(2 + i)
	}
}
