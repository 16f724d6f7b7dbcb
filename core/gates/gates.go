// Package gates is what a person confirms before a hand goes where it may be hurt: that every breaker is off, that a box is
// proved dead, that nothing bare is left before the power goes on. The same lines hold wherever work can hurt: while tracing,
// while fitting, and for the readings that prove the work. What they ask is the usual practice of the trade everywhere;
// local rules may ask for more, and go first.
package gates

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

const (
	testerProved = "Tester proved on a known live source"
	boxDead      = "Every conductor in the box tested against the others and {ground}: dead, {neutral} too"
	testerAgain  = "Tester proved again on the live source"
)

// Off asks for each breaker of a circuit, by its label: off, locked and labelled.
func Off(c *circuit.Circuit, say names.Terms) []string {
	breakers := say.Breakers()
	var out []string
	for i, name := range breakers {
		line := names.Capitalize(name)
		if slices.Contains(breakers[:i], name) || slices.Contains(breakers[i+1:], name) { // no label tells them apart
			line += fmt.Sprintf(" %d of %d", i+1, len(breakers))
		}
		out = append(out, line+" off, locked and labelled")
	}
	return out
}

// Dead asks that boxes are proved dead one after the other: the tester is proved before the first and after the last.
func Dead(say names.Terms, boxes ...string) []string {
	out := []string{testerProved}
	for _, box := range boxes {
		out = append(out, say.Box(box)+": "+names.Uncapitalize(say.Expand(boxDead)))
	}
	return append(out, testerAgain)
}

// Capped asks what must be so before the power goes on.
func Capped() []string {
	return []string{"Every bare end is capped, each on its own; nothing touches", "People, children and pets are kept away from every open box"}
}

// Live asks what must be so before somebody measures where parts are live.
func Live() []string {
	return append(Capped(), "I may do this work by law, and do it knowing that parts will be live")
}
