package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// Needs lists what a test takes that a person may not have, as inabilities name it: a lamp that comes out, a ladder to the light, a
// helper or a long lead, work with the power on.
func (t *Tracer) Needs(o circuit.Observation) []string {
	out := []string{}
	if len(o.LampsOut) > 0 {
		out = append(out, circuit.CannotLampOut)
	}
	places := map[string]bool{}
	add := func(e circuit.End) {
		box := e.Box
		if d := t.doc.Device(e.Owner); box == "" && d != nil {
			box = d.Box
		}
		places[box] = true
	}
	for _, e := range o.At {
		add(e)
	}
	for _, group := range o.Tied {
		for _, e := range group {
			add(e)
		}
	}
	if slices.ContainsFunc(o.At, func(e circuit.End) bool {
		d := t.doc.Device(e.Owner)
		return d != nil && d.Type == circuit.TypeLamp && !t.open[d.Box]
	}) {
		out = append(out, circuit.CannotLadder)
	}
	if len(places) > 1 {
		out = append(out, circuit.CannotSecondPerson)
	}
	if o.Power == "on" && o.Instrument != circuit.LampLook {
		out = append(out, circuit.CannotLive)
	}
	return out
}

// needs lists what the tests of a round take.
func (t *Tracer) needs(round []RoundTest) []string {
	out := []string{}
	for _, x := range round {
		for _, need := range t.Needs(x.Observation) {
			if !slices.Contains(out, need) {
				out = append(out, need)
			}
		}
	}
	return out
}
