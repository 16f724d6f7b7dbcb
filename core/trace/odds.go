package trace

import (
	"math"
	"math/bits"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Polarity says how the feed may lie: Usual, Exchanged, or both where nothing has shown it
// yet.
func (t *Tracer) Polarity() (usual, exchanged bool) {
	if t.looking {
		return true, true
	}
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

// Odds gives for each core end in an opened box how likely each role is. Nothing that is still possible
// rounds to nothing, and nothing that is open to certainty.
//
// Each pattern counts by how usual it is with all readings, and within one each conductor that no switch
// settles by how usual each of the nets is that the readings leave it.
func (t *Tracer) Odds() map[circuit.End]map[electric.Role]float64 {
	if t.looking {
		return t.anything()
	}
	out := map[circuit.End]map[electric.Role]float64{}
	possible := t.possibleRoles()
	by := make([]map[electric.Role]float64, len(t.classes))
	for i := range by {
		by[i] = map[electric.Role]float64{}
	}
	sum := 0.0
	for _, f := range t.frames {
		if f.fits {
			sum += f.weight
			t.weigh(f, by)
		}
	}
	for i, c := range t.classes {
		odds := map[electric.Role]float64{}
		for role := range possible[i] {
			if odds[role] = 1; len(possible[i]) > 1 {
				odds[role] = math.Min(0.9999, math.Max(0.0001, math.Round(by[i][role]/sum*1e4)/1e4))
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

// weigh adds what one frame says of each class.
func (t *Tracer) weigh(f *frame, by []map[electric.Role]float64) {
	for _, nets := range f.class {
		if nets == nil {
			continue
		}
		for class, n := range nets {
			if n != undecided {
				by[class][t.physical(f.roleAt(n))] += f.weight
			}
		}
		break
	}
	for u, class := range f.free {
		all := 0.0
		for left := f.support[u]; left != 0; left &= left - 1 {
			all += t.suits(f, class, int8(bits.TrailingZeros32(left)))
		}
		for left := f.support[u]; left != 0; left &= left - 1 {
			n := int8(bits.TrailingZeros32(left))
			by[class][t.physical(f.roleAt(n))] += f.weight * t.suits(f, class, n) / all
		}
	}
}
