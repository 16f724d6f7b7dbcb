package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// TestStages: each stage opens by its key at a desk and by thumb on a phone. The open one is in sight among their names, and its page
// starts at the top. The record of a circuit with no plan offers to choose one.
func TestStages(t *testing.T) {
	h := start(t)
	h.seed("observatory")
	for _, width := range []int{1280, 390} {
		b := h.open("/circuits/1/survey", width, 800)
		b.see("to Chart room window")
		for _, s := range []struct {
			key        input.Key
			name, says string
		}{
			{'t', "Trace", "certain"}, {'c', "Choose", "What these conductors can carry"}, {'r', "Rehearse", "The light is"},
			{'w', "Wire", "Choose"}, {'f', "Fit", "Choose"}, {'p', "Prove", "how do the lamps look now?"}, {'i', "Use", "Keep and work out"},
			{'o', "Record", "Nothing was fitted."}, {'s', "Survey", "to Chart room window"},
		} {
			if width > 1000 {
				b.key(s.key)
			} else {
				b.find(`nav[aria-label="Stages"] a`, s.name).MustClick()
			}
			b.see(s.says)
			b.until(fmt.Sprintf("%s is not in sight among the stages at %d", s.name, width), `(name) => {
				const open = document.querySelector("nav[aria-label=Stages] [aria-current=step]");
				const at = open.getBoundingClientRect();
				return open.innerText.trim() === name && at.left >= 0 && at.right <= innerWidth;
			}`, s.name)
			b.until(s.name+" does not open at its top", `() => scrollY === 0 && [...document.querySelectorAll("main section")].every((x) => x.scrollTop === 0)`)
			b.MustEval(`() => { scrollTo(0, 9999); for (const x of document.querySelectorAll("main section")) x.scrollTop = 9999; }`)
		}
	}
	b := h.open("/circuits/1/record", 1280, 800)
	b.find("a", "Choose a plan").MustClick()
	b.see("What these conductors can carry")
}
