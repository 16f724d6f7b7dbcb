package procedure

import "ambivia/core/circuit"

// usualMinutes is how long a step takes, by its kind, until own work has shown it. Rules of thumb of the trade for a person who
// knows it, and no promise: a screw a minute, a connector a minute and a half, a device five, a box proved dead three, a cable
// drawn in a finished house an hour and a half at least.
var usualMinutes = map[string]float64{
	KindGate: 3, KindLabel: 2, KindLift: 1, KindTakeOut: 3, KindCable: 90, KindMount: 2, KindMark: 0.5, KindJoin: 1.5, KindCap: 0.5,
	KindCheck: 2, KindPowerOn: 2, KindPowerOf: 4, KindSet: 1, KindFit: 5, KindPair: 5, KindClose: 4,
}

// aloftMinutes is what a ladder takes for a box at a lamp or in a ceiling, with the first step there.
const aloftMinutes = 10

// Minutes says how long each step takes, about: as own work has shown by kind of step, and by rules of thumb where it has not.
func (p *Procedure) Minutes(own map[string]float64) []float64 {
	aloft := map[string]bool{}
	out := make([]float64, len(p.Steps))
	for i := range p.Steps {
		s := &p.Steps[i]
		took, known := own[s.Kind]
		if !known {
			took = usualMinutes[s.Kind]
		}
		if s.Box != "" && !aloft[s.Box] && p.high(s.Box) {
			aloft[s.Box] = true
			took += aloftMinutes
		}
		out[i] = took
	}
	return out
}

// high reports whether a box is reached from a ladder.
func (p *Procedure) high(box string) bool {
	b := p.After.Box(box)
	if b == nil {
		b = p.Before.Box(box)
	}
	return b != nil && (b.Kind == circuit.Fixture || b.Kind == circuit.Junction)
}
