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

// patience is how many messages pass at most after one gesture, from any state, until nothing is under way.
func (x *explorer) patience(states []electric.State) *int {
	most := 0
	left := map[string]int{} // by moment: how many pass until it is quiet
	var longest func(m moment) int
	longest = func(m moment) int {
		if m.quiet() {
			return 0
		}
		key := m.key()
		n, known := left[key]
		if !known {
			for _, next := range x.next(m, key) {
				n = max(n, 1+longest(next))
			}
			left[key] = n
		}
		return n
	}
	for _, state := range states {
		for _, device := range x.devices {
			if !x.isAwake(state, device) {
				continue
			}
			for _, g := range x.gestures(device) {
				begun := x.gesture(x.at(state), Gesture{device, g})
				if x.end(begun).never || x.cut {
					return nil
				}
				most = max(most, longest(begun))
			}
		}
	}
	return &most
}

// latencies are those of the places from which the light is ever changed.
func (x *explorer) latencies(states []electric.State) []Latency {
	out := []Latency{}
	for _, device := range x.devices {
		l := Latency{Device: device, Least: mostMessages}
		met := false
		for _, state := range states {
			for _, g := range x.gestures(device) {
				if !slices.Contains(requests, g) || !x.isAwake(state, device) || g != "press1" && x.obeyed(state, Gesture{device, g}, state) {
					continue // it is so already
				}
				begun := x.gesture(x.at(state), Gesture{device, g})
				seen := map[string]bool{}
				for todo, n := []moment{begun}, 0; len(todo) > 0 && n <= mostMessages; n++ {
					var next []moment
					for _, m := range todo {
						if x.obeyed(state, Gesture{device, g}, m.state) {
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

// Delay is how many seconds a light took that a gesture at a device was to change, as somebody noted it.
type Delay struct {
	Device  string
	Seconds float64
}

// Measured is what one message takes, in seconds, by so many trials.
type Measured struct {
	Quickest float64 `json:"quickest"`
	Slowest  float64 `json:"slowest"`
	Trials   int     `json:"trials"`
}

// Measured says what one message takes by what was noted: of a place from which it takes several, each took its share. Nil
// where nothing was noted of a place that speaks by messages.
func (r *Report) Measured(delays []Delay) *Measured {
	var out *Measured
	for _, d := range delays {
		for _, l := range r.Latencies {
			if l.Device != d.Device || l.Least == 0 {
				continue
			}
			if out == nil {
				out = &Measured{Quickest: d.Seconds / float64(l.Most)}
			}
			out.Quickest = min(out.Quickest, d.Seconds/float64(l.Most))
			out.Slowest = max(out.Slowest, d.Seconds/float64(l.Least))
			out.Trials++
		}
	}
	return out
}
