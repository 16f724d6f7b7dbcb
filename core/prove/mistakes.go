package prove

import (
	"errors"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/retrofit"
)

// Kinds of mistake.
const (
	Loose     = "loose"
	Swap      = "swap"
	Misplaced = "misplaced"
)

// Mistake is one thing done wrong. Of a misplaced end the second of Ends is one of those that it
// stands with.
type Mistake struct {
	Kind string        `json:"kind"`
	Ends []circuit.End `json:"ends"`
}

// boxOf is the box in which an end is.
func (w *work) boxOf(e circuit.End) string {
	if e.Box != "" {
		return e.Box
	}
	return w.doc.Device(e.Owner).Box
}

// joinOf is the join in which an end stands with others, -1 where it is alone.
func (w *work) joinOf(e circuit.End) int {
	j := w.doc.JoinOf(w.boxOf(e), e.Ref)
	if j >= 0 && len(w.doc.Joins[j].Of) < 2 {
		return -1
	}
	return j
}

func isScrew(e circuit.End) bool { return e.Box == "" }

// mostMistakes bounds how many mistakes are gone through: each is a circuit of its own.
const mostMistakes = 20_000

var errTooManyEnds = errors.New("cables: so many ends stand in one box that their mistakes are too many to be gone through; give the option whose work is to be proved, or split what has nothing to do with each other")

// mistakes lists every single mistake; the error is [errTooManyEnds].
func (w *work) mistakes() ([]Mistake, error) {
	var out []Mistake
	boxes, joins := make([]string, len(w.ends)), make([]int, len(w.ends))
	alone := map[string]int{} // ends of a box that stand alone
	for i, e := range w.ends {
		boxes[i], joins[i] = w.boxOf(e), w.joinOf(e)
		if joins[i] < 0 {
			alone[boxes[i]]++
		} else {
			out = append(out, Mistake{Loose, []circuit.End{e}})
		}
	}
	expected := 0 // of those alone in a box each may be exchanged with each that is not
	for i, box := range boxes {
		if joins[i] >= 0 {
			expected += alone[box]
		}
	}
	if expected > mostMistakes {
		return nil, errTooManyEnds
	}
	for i, e := range w.ends {
		for k, f := range w.ends[:i] {
			if boxes[i] == boxes[k] && joins[i] != joins[k] {
				out = append(out, Mistake{Swap, []circuit.End{f, e}})
			}
		}
		if len(out) > mostMistakes {
			return nil, errTooManyEnds
		}
	}
	for i, e := range w.ends {
		if isScrew(e) {
			continue
		}
		for j, join := range w.doc.Joins {
			if join.Box == e.Box && j != joins[i] && len(join.Of) > 1 {
				out = append(out, Mistake{Misplaced, []circuit.End{e, w.endOf(join, join.Of[0])}})
			}
		}
		for k, f := range w.ends {
			if isScrew(f) && boxes[k] == e.Box && joins[k] < 0 {
				out = append(out, Mistake{Misplaced, []circuit.End{e, f}})
			}
		}
	}
	if len(out) > mostMistakes {
		return nil, errTooManyEnds
	}
	return out, nil
}

func (w *work) endOf(j circuit.Join, m circuit.Ref) circuit.End {
	if w.doc.Device(m.Owner) != nil {
		return circuit.End{Ref: m}
	}
	return circuit.End{Ref: m, Box: j.Box}
}

// make is the circuit with a mistake in it.
func (w *work) make(m Mistake) *circuit.Circuit {
	c := *w.doc // only its joins differ
	c.Joins = make([]circuit.Join, len(w.doc.Joins))
	for i, j := range w.doc.Joins {
		c.Joins[i] = circuit.Join{Box: j.Box, Of: slices.Clone(j.Of)}
	}
	out := func(e circuit.End) {
		if j := c.JoinOf(w.boxOf(e), e.Ref); j >= 0 {
			c.Joins[j].Of = slices.DeleteFunc(c.Joins[j].Of, func(x circuit.Ref) bool { return x == e.Ref })
		}
	}
	switch e := m.Ends[0]; m.Kind {
	case Loose:
		out(e)
	case Swap:
		f := m.Ends[1]
		a, b := w.joinOf(e), w.joinOf(f)
		out(e)
		out(f)
		if a >= 0 {
			c.Joins[a].Of = append(c.Joins[a].Of, f.Ref)
		}
		if b >= 0 {
			c.Joins[b].Of = append(c.Joins[b].Of, e.Ref)
		}
	case Misplaced:
		with := m.Ends[1]
		out(e)
		if j := c.JoinOf(w.boxOf(with), with.Ref); j >= 0 {
			c.Joins[j].Of = append(c.Joins[j].Of, e.Ref)
		} else {
			c.Joins = append(c.Joins, circuit.Join{Box: e.Box, Of: []circuit.Ref{with.Ref, e.Ref}})
		}
	}
	c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 })
	return &c
}

// wrong is that circuit compiled.
func (w *work) wrong(m Mistake) *electric.Network {
	return w.read.net.Rejoined(w.make(m), electric.Conditions{})
}

// text says a mistake in a sentence.
func (w *work) text(m Mistake) string {
	name := func(e circuit.End) string { return w.say.End(e) }
	switch m.Kind {
	case Loose:
		return name(m.Ends[0]) + " is loose."
	case Swap:
		return name(m.Ends[0]) + " and " + name(m.Ends[1]) + " are exchanged."
	}
	return name(m.Ends[0]) + " stands with " + name(m.Ends[1]) + ", where it does not belong."
}

// Made is the work of an option, or the circuit where that is nil, with a mistake in it. The error says that nobody could
// have made it there.
func Made(c *circuit.Circuit, o *retrofit.Option, m Mistake) (*circuit.Circuit, error) {
	w := of(c, o)
	all, err := w.mistakes()
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(all, func(x Mistake) bool { return x.Kind == m.Kind && slices.Equal(x.Ends, m.Ends) }) {
		return nil, errors.New("mistake: nobody could have made it in this work")
	}
	return w.make(m), nil
}
