package survey

import (
	"slices"

	"ambivia/core/circuit"
)

// connect puts all that is named, and all that each stood with, into one join.
func (e Connect) apply(w *writer) (string, error) {
	if len(e.Of) < 2 {
		return "", refuse(circuit.CodeContradicts, "of", "name two or more that stand under one connector or screw")
	}
	first := -1
	var of []circuit.Ref
	add := func(m circuit.Ref) {
		if !slices.Contains(of, m) {
			of = append(of, m)
		}
	}
	for _, m := range e.Of {
		if j := w.JoinOf(e.Box, m); j >= 0 {
			if first < 0 {
				first = j
			}
			for _, x := range w.Joins[j].Of {
				add(x)
			}
		}
		add(m)
	}
	joined := circuit.Join{Box: e.Box, Of: of}
	if first < 0 {
		w.Joins = append(w.Joins, joined)
		return "Joined " + names(e.Of), nil
	}
	w.Joins[first] = joined
	kept := w.Joins[:0]
	for i, j := range w.Joins {
		if i == first || j.Box != e.Box || !slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return slices.Contains(of, m) }) {
			kept = append(kept, j)
		}
	}
	w.Joins = kept
	return "Joined " + names(e.Of), nil
}

func (e Disconnect) apply(w *writer) (string, error) {
	for _, m := range e.Of {
		j := w.JoinOf(e.Box, m)
		if j < 0 {
			return "", refuse(circuit.CodeUnknownID, "of", "%s stands in no join in box %q", m, e.Box)
		}
		w.Joins[j].Of = slices.DeleteFunc(w.Joins[j].Of, func(x circuit.Ref) bool { return x == m })
	}
	w.Joins = slices.DeleteFunc(w.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 && j.Box == e.Box })
	return "Lifted " + names(e.Of), nil
}

func (e MarkEnd) apply(w *writer) (string, error) {
	for _, m := range e.Of {
		at := circuit.End{Ref: m, Box: e.Box}
		w.Marks = slices.DeleteFunc(w.Marks, func(x circuit.Mark) bool { return x.End == at })
		if e.As != "" {
			w.Marks = append(w.Marks, circuit.Mark{End: at, As: e.As})
		}
	}
	if e.As == "" {
		return "Mark taken off " + names(e.Of), nil
	}
	return names(e.Of) + " marked as " + e.As, nil
}

func names(refs []circuit.Ref) string {
	s := ""
	for i, r := range refs {
		if i > 0 {
			s += ", "
		}
		s += r.String()
	}
	return s
}
