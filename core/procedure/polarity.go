package procedure

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// measured reports whether some reading of the record, with the power on and against ground,
// has shown which of the feed's two conductors is line. A probe that touches no metal reads
// against ground too, through whoever holds it.
func (w *writer) measured() bool {
	feed := func(e circuit.End) bool { return w.found[e] == electric.Line || w.found[e] == electric.Neutral }
	return slices.ContainsFunc(w.p.Before.Observations, func(o circuit.Observation) bool {
		if o.Power != "on" || o.Reading == nil || o.Reading == circuit.Unclear || !slices.ContainsFunc(o.At, feed) {
			return false
		}
		return o.Instrument == circuit.NonContact ||
			slices.ContainsFunc(o.At, func(e circuit.End) bool { return w.found[e] == electric.RoleGround })
	})
}

// polarity writes the reading that shows which of the feed's conductors is line, where nobody
// has made it: everything that is fitted is built on it. It is made before the breaker goes
// off, so that it costs no walk.
func (w *writer) polarity(boxes []string) {
	if len(boxes) == 0 || w.p.Option.ID == "" || w.measured() {
		return
	}
	for _, box := range boxes {
		of := map[electric.Role]circuit.End{}
		for _, m := range w.p.Before.EndsIn(box) {
			e := circuit.End{Ref: m, Box: box}
			if role, known := w.found[e]; known {
				if _, have := of[role]; !have {
					of[role] = e
				}
			}
		}
		line, hasLine := of[electric.Line]
		ground, hasGround := of[electric.RoleGround]
		if !hasLine || !hasGround {
			continue
		}
		text := "With the {breaker} still on, parts are live: tester between %s and %s shows the full volts"
		args := []any{w.core(w.p.Before, w.was, line), w.core(w.p.Before, w.was, ground)}
		at := []circuit.End{line, ground}
		if neutral, ok := of[electric.Neutral]; ok {
			text += ", between %s and {ground} nothing"
			args, at = append(args, w.core(w.p.Before, w.was, neutral)), append(at, neutral)
		}
		w.step(Preparing, KindCheck, box, text+". Nobody has measured yet which of the feed’s two conductors is {line}. If it is the other way round, stop: the feed is exchanged, and is put right at the {panel} first.", args...).At = at
		return
	}
	w.step(Preparing, KindCheck, "", "Nobody has measured yet which of the feed’s two conductors is {line}, and no box of this work has {line} and {ground} side by side: measure it at the {panel}, against {ground}, before anything is fitted.")
}
