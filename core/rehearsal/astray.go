package rehearsal

import (
	"fmt"
	"slices"

	"ambivia/core/electric"
)

// astrayMessages asks what one message does that is lost or arrives twice, after any one gesture of patient people. One that
// is lost is healed where the same gesture once more leaves the light as it was wanted and all in step; one that arrives
// twice is harmless where it leaves that at once. A press is wanted to change the light as it was before it was lost or
// doubled, and as it is before it is tried again.
func (x *explorer) astrayMessages(start []electric.State, code string) Property {
	p := Property{Code: code, Holds: true, Witness: []Gesture{}, Text: "Where a message was lost, the same gesture once more sets all right."}
	fault := x.lose
	if code == Harmless {
		p.Text, fault = "A message that arrives twice does no harm.", x.double
	}
	right := func(before electric.State, g Gesture, after electric.State) bool {
		return x.astray(after) == "" && (!slices.Contains(requests, g.Gesture) || x.obeyed(before, g, after))
	}
	x.visit(start, false, func(at place, more []Gesture, e *ending) bool {
		g := more[0]
		if e.never {
			return false
		}
		quiet := x.at(at.state)
		for _, s := range x.afterFault(x.gesture(quiet, g), fault) {
			way := append(slices.Clone(at.way), g)
			if code == Harmless {
				if right(at.state, g, s) {
					continue
				}
				p.Holds, p.Witness = false, way
				p.Text = fmt.Sprintf("After %s, with a message that arrives twice, %s is %s or a place is out of step.", x.words(way), x.nameOf(x.lightsOf(g.Device)[0]), lamp(x.showsAt(s, x.lightsOf(g.Device)[0])))
				return true
			}
			again := x.end(x.gesture(x.at(s), g))
			if again.never || slices.ContainsFunc(again.states, func(after electric.State) bool { return !right(s, g, after) }) {
				p.Holds, p.Witness = false, append(way, g)
				p.Text = fmt.Sprintf("After %s, with the first message lost, the same again does not set all right.", x.words(way))
				return true
			}
		}
		return false
	})
	return p
}

func lamp(lit bool) string {
	if lit {
		return "lit"
	}
	return "dark"
}

// afterFault lists the quiet states that follow a moment with one fault at one message, in whatever order they arrive.
func (x *explorer) afterFault(from moment, fault func(moment, int) moment) []electric.State {
	var out []electric.State
	seen := map[string]bool{}
	for _, m := range x.underway(from) {
		for i, q := range m.queues {
			if len(q) == 0 {
				continue
			}
			after := fault(m, i)
			if key := after.key(); seen[key] {
				continue
			} else {
				seen[key] = true
			}
			e := x.end(after)
			for _, s := range e.states {
				if !slices.Contains(out, s) {
					out = append(out, s)
				}
			}
		}
	}
	return out
}
