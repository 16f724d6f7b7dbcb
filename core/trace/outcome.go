package trace

import (
	"math"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// sameTest writes a test without its reading, to know it again.
func sameTest(o circuit.Observation) string {
	text := o.Power + " " + o.Instrument
	for _, e := range o.At {
		text += " " + e.String()
	}
	for _, list := range [][]string{o.Flipped, o.LampsOut} {
		text += " |"
		for _, id := range list {
			text += " " + id
		}
	}
	for _, r := range o.Lifted {
		text += " " + r.String()
	}
	return text
}

// Outcome is what a test may show, and how many worlds would be left.
type Outcome struct {
	Reading any    `json:"reading"`
	Words   string `json:"words"`
	Worlds  int    `json:"worlds"`
	// Odds is how likely this reading is.
	Odds float64 `json:"odds"`
	// Done: everything that can be seen would then be certain.
	Done bool `json:"done"`
}

// Outcomes lists what a test may show.
func (t *Tracer) Outcomes(o circuit.Observation) []Outcome {
	words := wordsOf(o.Instrument, practice.Volts(t.doc))
	out := make([]Outcome, len(words))
	sets := make([]map[int]bool, len(words))
	sum := 0.0
	for i, r := range words {
		out[i].Reading, out[i].Words = r, ReadingWords(o.Instrument, r)
		sets[i] = map[int]bool{}
	}
	for _, w := range t.worlds {
		shows := t.could(w, o)
		for i := range words {
			if shows>>i&1 == 1 {
				out[i].Worlds++
				out[i].Odds += w.weight
				sum += w.weight
				sets[i][w.same] = true
			}
		}
	}
	for i := range out {
		out[i].Odds = math.Round(out[i].Odds/sum*1000) / 1000
		out[i].Done = len(sets[i]) == 1
	}
	return out
}
