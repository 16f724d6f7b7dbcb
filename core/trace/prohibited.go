package trace

import (
	"context"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// In a circuit that is prohibited, and that old houses have all the same, a switch at each end of the light chooses between line
// and neutral: its shell is live in half of all positions. No reading is sure to tell it from a sound circuit in which the same
// conductor is the load, since what they show depends on how the switches stand. With the light lit it is: the load is live then,
// and the neutral is not. So where nothing else is left to ask, the light is brought to be lit, and that conductor is read.

// prohibited returns that look or that reading, where it is open whether the shell of the only light is live. The rule of routes
// is not heeded: such a circuit breaks it.
func (t *Tracer) prohibited(ctx context.Context) (test circuit.Observation, ok bool, err error) {
	if t.cannot[circuit.CannotLive] || t.trusts || len(t.lamps) != 1 {
		return test, false, nil
	}
	wide := t
	if t.rule != anyhow {
		wide = t.fork()
		if ok, err := wide.giveUpRoutes(ctx); !ok || err != nil {
			return test, false, err
		}
	}
	suspect := wide.loadOrNeutral()
	if suspect < 0 {
		return test, false, nil
	}
	test = circuit.Observation{Power: "on", Instrument: circuit.LampLook, Light: t.lamps[0].id}
	lit := t.looksAt(0).lit
	if len(lit) == 0 {
		for _, flips := range append([][]string{nil}, t.flips()...) {
			if test.Flipped = flips; !t.wasMade(test) {
				return test, true, nil
			}
		}
		return test, false, nil
	}
	test.Instrument, test.Light, test.Flipped = circuit.TwoPole, "", strings.Fields(lit[0])
	for _, e := range t.classes[suspect].ends {
		for _, ground := range t.doc.CoreEnds(e.Box) {
			if n, known := t.index[ground]; known && e.Box != "" && t.classes[t.class[t.atom[n]]].ground {
				test.At = []circuit.End{e, ground}
				return test, !t.wasMade(test), nil
			}
		}
	}
	return test, false, nil
}

// flips lists the switches that were seen, each to be flipped alone.
func (t *Tracer) flips() [][]string {
	var out [][]string
	for _, s := range t.switches {
		if s.seen() {
			out = append(out, []string{s.id})
		}
	}
	return out
}

// wasMade reports whether a test stands in the log, whatever it read.
func (t *Tracer) wasMade(test circuit.Observation) bool {
	return slices.ContainsFunc(t.made, func(o circuit.Observation) bool { return o.Key() == test.Key() })
}

// loadOrNeutral finds a conductor in sight that is the load where the shell is sound, and line or neutral where it is live; -1
// where there is none.
func (t *Tracer) loadOrNeutral() int {
	live, sound := map[int]bool{}, map[int]bool{}
	for _, f := range t.frames {
		if !f.fits {
			continue
		}
		switched := f.kinds[f.lampN[0]] != isNeutral
		for _, nets := range f.class {
			if nets == nil {
				continue
			}
			for _, class := range t.visible {
				if nets[class] == undecided {
					continue
				}
				switch role := f.roleAt(nets[class]); {
				case switched && (role == electric.Neutral || role == electric.Line):
					live[class] = true
				case !switched && role == electric.Load:
					sound[class] = true
				}
			}
			break
		}
	}
	for _, class := range t.visible {
		if live[class] && sound[class] {
			return class
		}
	}
	return -1
}

// shellSwitched reports whether all that is left has the light between two switched conductors.
func (t *Tracer) shellSwitched() bool {
	some := false
	for _, f := range t.frames {
		if !f.fits {
			continue
		}
		if some = true; len(f.lampN) == 0 || f.kinds[f.lampN[0]] == isNeutral {
			return false
		}
	}
	return some && t.possible()
}
