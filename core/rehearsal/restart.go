package rehearsal

import (
	"fmt"
	"slices"

	"ambivia/core/electric"
	"ambivia/core/names"
)

// restarts asks what is left where a device starts anew: its power went for a moment, or it took in an update. It hears
// nothing and says nothing meanwhile, and comes back with its switch as it was, off or on: which of them is a setting that
// nobody knows of a device at hand. All is set right where any gesture after that leaves the light as it was wanted, and
// all in step. Where people come to that state without it, what does not hold is told of them.
func (x *explorer) restarts(start, states []electric.State) Property {
	p := Property{Code: Restarts, Holds: true, Witness: []Gesture{}, Text: "Where a device starts anew and comes back off, on or as it was, the next gesture sets all right."}
	away := map[string]*explorer{}
	for _, id := range x.switchy {
		away[id] = x.without(id)
	}
	tried, anyway := map[electric.State]bool{}, false
	back := func(way []Gesture, id string, s electric.State, meanwhile string) bool {
		bit := x.bits[id]
		for _, how := range []struct {
			as string
			s  electric.State
		}{{"as it was", s}, {"off", s &^ bit}, {"on", s | bit}} {
			if tried[how.s] {
				continue
			}
			tried[how.s] = true
			if g := x.unhealed(how.s); g != nil {
				if slices.Contains(states, how.s) {
					anyway = true
					continue
				}
				p.Holds, p.Witness = false, append(slices.Clone(way), *g)
				after := ""
				if len(way) > 0 {
					after = "After " + x.words(way) + meanwhile
				}
				p.Text = fmt.Sprintf("%s%s starts anew and comes back %s: then %s at %s does not set all right.",
					after, names.For(x.doc).Place(id), how.as, GestureWords(g.Gesture), names.For(x.doc).Place(g.Device))
				return true
			}
		}
		return false
	}
	x.visit(start, false, func(at place, more []Gesture, e *ending) bool {
		for _, id := range x.switchy {
			if back(at.way, id, at.state, ", ") {
				return true
			}
			if id == more[0].Device || e.never {
				continue
			}
			quiet := x.at(at.state)
			way := append(slices.Clone(at.way), more...)
			for _, s := range away[id].end(away[id].gesture(quiet, more[0])).states {
				if back(way, id, s, ", of which it heard nothing, ") {
					return true
				}
			}
		}
		return false
	})
	if p.Holds && anyway {
		p.Holds, p.Text = false, "Where a device starts anew it comes to no more than what people bring about without that: see above what does not hold."
	}
	for _, w := range away {
		x.cut = x.cut || w.cut
	}
	return p
}

// unhealed is a gesture after which, from a quiet state, the light is not as it was wanted or something is out of step; nil
// where there is none.
func (x *explorer) unhealed(s electric.State) *Gesture {
	for _, device := range x.devices {
		if !x.isAwake(s, device) {
			continue
		}
		for _, g := range x.gestures(device) {
			if !slices.Contains(requests, g) {
				continue
			}
			one := Gesture{device, g}
			e := x.end(x.gesture(x.at(s), one))
			if e.never || slices.ContainsFunc(e.states, func(after electric.State) bool { return !x.obeyed(s, one, after) || x.astray(after) != "" }) {
				return &one
			}
		}
	}
	return nil
}

// without is an explorer of the same document in which a way or a device is down.
func (x *explorer) without(down string) *explorer {
	out := newExplorer(x.ctx, newPlay(x.doc))
	out.play.down = down
	return out
}
