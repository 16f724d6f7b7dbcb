package trace

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
)

// A lamp that is always lit hangs on the feed, or another switch in a closed box keeps it on. No
// reading tells the two apart, so the first is taken for granted, and told among what is assumed, once
// somebody saw it lit while the switches stood in two ways, and never dark.

// alwaysLit lists such lamps on record, by number.
func (t *Tracer) alwaysLit() []int {
	var out []int
	for i, l := range t.lamps {
		ways, dark := map[string]bool{}, false
		for _, o := range t.made {
			if o.Instrument != circuit.LampLook || o.Power != "on" || l.id == "" || t.lampOf(o) != i && !(t.lampOf(o) < 0 && len(t.lamps) == 1) {
				continue
			}
			switch o.Reading {
			case "lit":
				ways[strings.Join(slices.Sorted(slices.Values(o.Flipped)), " ")] = true
			case "dark":
				dark = true
			}
		}
		if len(ways) > 1 && !dark {
			out = append(out, i)
		}
	}
	return out
}

// litElsewhere reports whether a frame has one of those hang on the switch of another light.
func (t *Tracer) litElsewhere(f *frame) bool {
	if len(f.elsewhere) == 0 {
		return false
	}
	return slices.ContainsFunc(t.alwaysLit(), func(lamp int) bool { return slices.Contains(f.elsewhere, f.lampL[lamp]) })
}
