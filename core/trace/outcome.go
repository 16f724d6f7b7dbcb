package trace

import (
	"math"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/practice"
)

// Outcome is what a test may show, and how many worlds would be left.
type Outcome struct {
	Reading any    `json:"reading"`
	Words   string `json:"words"`
	Worlds  int    `json:"worlds"`
	// Odds is how likely this reading is.
	Odds float64 `json:"odds"`
	// Done: everything that can be seen would then be certain.
	Done bool `json:"done"`
	// Narrows are the odds of the roles that open core ends would then have, where they change much; asked for the
	// proposed test alone.
	Narrows map[circuit.End]map[electric.Role]float64 `json:"narrows,omitempty"`
}

// toldFrom is the share by which the odds of a role change before a person is told so.
const toldFrom = 0.05

// narrows gives the odds that the tracer with one reading more gives to the ends that are open here, where it makes them
// certain or changes them by [toldFrom].
func (t *Tracer) narrows(next *Tracer) map[circuit.End]map[electric.Role]float64 {
	then := next.Odds()
	for e, now := range t.Odds() {
		moved := 0.0
		for role, odds := range now {
			moved = max(moved, math.Abs(odds-then[e][role]))
		}
		if len(now) < 2 || len(then[e]) > 1 && moved < toldFrom {
			delete(then, e)
		}
	}
	return then
}

// Outcomes lists what a test may show. One that some world could show has one world at
// least.
func (t *Tracer) Outcomes(o circuit.Observation) []Outcome { return t.outcomes(o, false) }

// outcomes is [Tracer.Outcomes], and says also what each would make of the conductors, where that is asked: it costs as much again.
func (t *Tracer) outcomes(o circuit.Observation, narrows bool) []Outcome {
	if t.looking {
		return t.linkOutcomes(o)
	}
	words := wordsOf(o.Instrument, practice.Volts(t.doc))
	out := make([]Outcome, len(words))
	c := t.chooser(Dead, t.worlds()) // in which each way round of the feed has its own odds
	m := made{instrument: o.Instrument, lamp: t.lampOf(o), bit: first, setup: t.prepare(o)}
	for _, e := range o.At {
		m.at = append(m.at, t.probe(e))
	}
	m.column = m.setup.columnOf(&m)
	list := []candidate{{test: o, m: m}}
	c.simulate(list)
	sum := 0.0
	for i, r := range words {
		out[i].Reading, out[i].Words = r, ReadingWords(o.Instrument, r)
		counted := map[*int8]bool{}
		for k, w := range c.worlds {
			if list[0].shows[k]>>i&1 == 1 {
				if !counted[&w.nets[0]] {
					counted[&w.nets[0]] = true
					out[i].Worlds++
				}
				out[i].Odds += w.weight * list[0].share(k, i)
			}
		}
		sum += out[i].Odds
		next := t.fork()
		made := o
		made.Reading = r
		next.Observe(made)
		if out[i].Done = next.Resolved(); !next.possible() {
			out[i].Worlds = 0
		} else {
			out[i].Worlds = max(out[i].Worlds, 1)
			if narrows {
				out[i].Narrows = t.narrows(next)
			}
		}
	}
	for i := range out {
		out[i].Odds = math.Round(out[i].Odds/math.Max(sum, 1e-9)*1000) / 1000
	}
	return out
}
