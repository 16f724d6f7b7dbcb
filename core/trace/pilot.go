package trace

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
)

// What controls a lamp on record is told by looks alone: readings in the boxes say where conductors lead,
// not which of two lamps behind a wall hangs there. A lamp that is always lit hangs on the feed, or
// another switch in a closed box keeps it on; no reading tells the two apart, so the first is taken for
// granted, and told among what is assumed, once somebody saw it lit while the switches stood in two ways,
// and never dark. A lamp that one saw lit and dark with the switches in two ways answers to them, and
// hangs on no switch elsewhere.

// looked is what looks at one lamp showed, by how the switches stood, with all wires in their places.
type looked struct{ lit, dark []string }

// looksAt collects them.
func (t *Tracer) looksAt(lamp int) looked {
	var out looked
	if t.lamps[lamp].id == "" {
		return out
	}
	for _, o := range t.made {
		if o.Instrument != circuit.LampLook || o.Power != "on" || len(o.Lifted)+len(o.Tied)+len(o.LampsOut) > 0 || t.lampOf(o) != lamp && !(t.lampOf(o) < 0 && len(t.lamps) == 1) {
			continue
		}
		flipped := strings.Join(slices.Sorted(slices.Values(o.Flipped)), " ")
		switch o.Reading {
		case "lit":
			out.lit = append(out.lit, flipped)
		case "dark":
			out.dark = append(out.dark, flipped)
		}
	}
	return out
}

// alwaysLit reports whether it was lit in two ways, and never dark.
func (l looked) alwaysLit() bool {
	return len(l.dark) == 0 && slices.ContainsFunc(l.lit, func(f string) bool { return f != l.lit[0] })
}

// answers reports whether it was lit with the switches in one way and dark in another.
func (l looked) answers() bool {
	return slices.ContainsFunc(l.lit, func(f string) bool { return slices.ContainsFunc(l.dark, func(g string) bool { return g != f }) })
}

// alwaysLit lists lamps on record that are, by number.
func (t *Tracer) alwaysLit() []int {
	var out []int
	for i := range t.lamps {
		if t.looksAt(i).alwaysLit() {
			out = append(out, i)
		}
	}
	return out
}

// toldByLooks reports whether looks exclude a frame: it hangs a lamp on switches elsewhere that was always
// lit, or that answered to these.
func (t *Tracer) toldByLooks(f *frame) bool {
	for i := range t.lamps {
		if t.isElsewhere(f, i) {
			if l := t.looksAt(i); l.alwaysLit() || l.answers() {
				return true
			}
		}
	}
	return false
}

// isElsewhere reports whether a frame hangs a lamp on switches that are none of these.
func (t *Tracer) isElsewhere(f *frame, lamp int) bool {
	return slices.Contains(f.elsewhere, f.lampL[lamp])
}

// unsureLamps lists the lamps on record that these switches control in some of the frames left, and not in
// others.
func (t *Tracer) unsureLamps() []int {
	var out []int
	for i, l := range t.lamps {
		here, elsewhere := false, false
		for _, f := range t.frames {
			if f.fits {
				here, elsewhere = here || !t.isElsewhere(f, i), elsewhere || t.isElsewhere(f, i)
			}
		}
		if l.id != "" && here && elsewhere {
			out = append(out, i)
		}
	}
	return out
}

// look finds a look at a light that these switches may or may not control: first as all
// stands, then with one switch after the other flipped, until it answers. It takes the power on and no
// wire off; false where no such look is left.
func (t *Tracer) look(prefer Prefer) (test circuit.Observation, ok bool) {
	if t.cannot[circuit.CannotLive] {
		return test, false
	}
	unsure := t.unsureLamps()
	if len(unsure) == 0 {
		return test, false
	}
	c := t.chooser(prefer, nil)
	c.wide = true
	best := candidate{}
	for _, x := range c.tests(true, nil) {
		if x.test.Instrument != circuit.LampLook || !slices.ContainsFunc(unsure, func(l int) bool { return x.m.lamp == l || x.m.lamp < 0 }) {
			continue
		}
		if !ok || x.cost < best.cost {
			best, ok = x, true
		}
	}
	return best.test, ok
}
