package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// TestRoundInOneGo: several readings with power and wires as they are stand as rows on a phone, are entered together, and are
// taken back together.
func TestRoundInOneGo(t *testing.T) {
	h := start(t)
	h.seed("tide mill, mill house")
	b := h.open("/circuits/3/trace", 390, 844)
	offered := `() => [...document.querySelectorAll("button")].some(e => e.innerText.includes("in one go"))`
	for range 6 {
		b.still()
		if b.MustEval(`() => document.querySelector(".gates") !== null`).Bool() {
			b.MustEval(`() => document.querySelectorAll(".gates [role=checkbox]").forEach(c => c.click())`)
			b.press("Confirm and go on")
			b.still()
		}
		if b.MustEval(offered).Bool() {
			break
		}
		b.key('n')
	}
	read := func() int { return strings.Count(h.fetch("circuits/3/file"), `"instrument"`) }
	was := read()
	b.press("Take ")
	b.see("As all stands now")
	rows := b.MustEval(`() => document.querySelectorAll("[aria-label='The round'] li").length`).Int()
	if rows < 2 {
		t.Fatalf("a round of %d", rows)
	}
	b.MustEval(`() => document.querySelectorAll("[aria-label='The round'] li [role=radio]:first-child").forEach(e => e.click())`)
	b.press(fmt.Sprintf("Enter %d readings", rows))
	b.gone("As all stands now")
	b.still()
	if n := read(); n != was+rows {
		t.Errorf("%d readings more, %d were entered", n-was, rows)
	}
	b.KeyActions().Press(input.ControlLeft).Type('z').MustDo()
	b.until("the round is not taken back as one", `() => !window.waiting`)
	b.still()
	if n := read(); n != was {
		t.Errorf("%d readings are left of a round that was taken back", n-was)
	}
}
