package rehearsal

import (
	"slices"

	"ambivia/core/electric"
)

// Latency says how many messages pass one after the other, from a gesture at a place, until the light is as it was wanted: the
// fewest and the most over all states and orders in which it comes to that. A main's own paddle needs none.
type Latency struct {
	Device string `json:"device"`
	Least  int    `json:"least"`
	Most   int    `json:"most"`
}

// latencies are those of the places from which the light is ever changed.
func (x *explorer) latencies(states []electric.State) []Latency {
	out := []Latency{}
	for _, device := range x.devices {
		l := Latency{Device: device, Least: mostMessages}
		met := false
		for _, state := range states {
			for _, g := range x.gestures(device) {
				if !slices.Contains(requests, g) || !x.isAwake(state, device) || g != "press1" && x.obeyed(state, g, state) {
					continue // it is so already
				}
				begun := x.gesture(moment{state, make([][]message, len(x.vias))}, Gesture{device, g})
				seen := map[string]bool{}
				for todo, n := []moment{begun}, 0; len(todo) > 0 && n <= mostMessages; n++ {
					var next []moment
					for _, m := range todo {
						if x.obeyed(state, g, m.state) {
							met, l.Least, l.Most = true, min(l.Least, n), max(l.Most, n)
							continue
						}
						if key := m.key(); !seen[key] {
							seen[key] = true
							next = append(next, x.next(m, key)...)
						}
					}
					if todo = next; len(seen) > mostAstray {
						break
					}
				}
			}
		}
		if met {
			out = append(out, l)
		}
	}
	return out
}
