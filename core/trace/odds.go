package trace

import (
	"math"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Polarity says how the feed may lie: Usual, Exchanged, or both where nothing has shown it
// yet.
func (t *Tracer) Polarity() (usual, exchanged bool) {
	for _, f := range t.frames {
		if f.fits {
			usual, exchanged = usual || f.lies&liesUsual != 0, exchanged || f.lies&liesExchanged != 0
		}
	}
	return usual, exchanged
}

// physical is a role as the conductor has it where line and neutral are exchanged at the
// feed for certain.
func (t *Tracer) physical(r electric.Role) electric.Role {
	if usual, exchanged := t.Polarity(); usual || !exchanged {
		return r
	}
	switch r {
	case electric.Line:
		return electric.Neutral
	case electric.Neutral:
		return electric.Line
	}
	return r
}

// Odds gives for each core end in an opened box how likely each role is. Nothing
// that is still possible rounds to nothing, and nothing that is open to certainty.
func (t *Tracer) Odds() map[circuit.End]map[electric.Role]float64 {
	out := map[circuit.End]map[electric.Role]float64{}
	possible := t.possibleRoles()
	for i, c := range t.classes {
		by := map[electric.Role]float64{}
		for _, w := range t.worlds() {
			by[t.physical(w.f.roleAt(w.nets[i]))] += w.weight
		}
		odds := map[electric.Role]float64{}
		for role := range possible[i] {
			if odds[role] = 1; len(possible[i]) > 1 {
				odds[role] = math.Min(0.9999, math.Max(0.0001, math.Round(by[role]*1e4)/1e4))
			}
		}
		for _, e := range c.ends {
			if e.Box != "" && len(odds) > 0 {
				out[e] = odds
			}
		}
	}
	return out
}
