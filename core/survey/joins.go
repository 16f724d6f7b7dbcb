package survey

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// connect puts all that is named, and all that each stood with, into one join.
func (e Connect) apply(w *writer) (string, error) {
	if len(e.Of) < 2 {
		return "", refuse(circuit.CodeContradicts, "of", "name two or more that stand under one connector or screw")
	}
	w.notLoose(func(x circuit.End) bool { return x.Box == e.Box && slices.Contains(e.Of, x.Ref) })
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
		return "Joined " + w.named(e.Box, e.Of), nil
	}
	w.Joins[first] = joined
	kept := w.Joins[:0]
	for i, j := range w.Joins {
		if i == first || j.Box != e.Box || !slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return slices.Contains(of, m) }) {
			kept = append(kept, j)
		}
	}
	w.Joins = kept
	return "Joined " + w.named(e.Box, e.Of), nil
}

// notLoose takes back that ends hang loose.
func (w *writer) notLoose(which func(circuit.End) bool) {
	if w.Loose = slices.DeleteFunc(w.Loose, which); len(w.Loose) == 0 {
		w.Loose = nil
	}
}

func (e Move) apply(w *writer) (string, error) {
	if e.Of == e.To {
		return "", refuse(circuit.CodeContradicts, "to", "a core is moved to another one, or to a screw")
	}
	if from := w.JoinOf(e.Box, e.Of); from >= 0 {
		if from == w.JoinOf(e.Box, e.To) {
			return "", refuse(circuit.CodeContradicts, "to", "%s stands there already", w.named(e.Box, []circuit.Ref{e.Of}))
		}
		if _, err := (Disconnect{Box: e.Box, Of: []circuit.Ref{e.Of}}).apply(w); err != nil {
			return "", err
		}
	}
	return Connect{Box: e.Box, Of: []circuit.Ref{e.Of, e.To}}.apply(w)
}

func (e HangLoose) apply(w *writer) (string, error) {
	if len(e.Of) == 0 {
		return "", refuse(circuit.CodeMissingField, "of", "name the core")
	}
	for _, m := range e.Of {
		at := circuit.End{Ref: m, Box: e.Box}
		w.notLoose(func(x circuit.End) bool { return x == at })
		if e.Not {
			continue
		}
		if w.JoinOf(e.Box, m) >= 0 {
			return "", refuse(circuit.CodeContradicts, "of", "%s is joined; lift it first", w.named(e.Box, []circuit.Ref{m}))
		}
		w.Loose = append(w.Loose, at)
	}
	if e.Not {
		return names.Capitalize(w.named(e.Box, e.Of)) + ": capped", nil
	}
	return names.Capitalize(w.named(e.Box, e.Of)) + ": hangs loose", nil
}

func (e Disconnect) apply(w *writer) (string, error) {
	for _, m := range e.Of {
		j := w.JoinOf(e.Box, m)
		if j < 0 {
			return "", refuse(circuit.CodeUnknownID, "of", "%s is joined to nothing in %s", w.named(e.Box, []circuit.Ref{m}), names.For(w.Circuit).Box(e.Box))
		}
		w.Joins[j].Of = slices.DeleteFunc(w.Joins[j].Of, func(x circuit.Ref) bool { return x == m })
	}
	w.Joins = slices.DeleteFunc(w.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 && j.Box == e.Box })
	return "Lifted " + w.named(e.Box, e.Of), nil
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
		return "Mark taken off " + w.named(e.Box, e.Of), nil
	}
	return names.Capitalize(w.named(e.Box, e.Of)) + " marked as " + e.As, nil
}

// named says what stands together in a box.
func (w *writer) named(box string, refs []circuit.Ref) string {
	say := names.For(w.Circuit)
	var parts []string
	for _, r := range refs {
		if w.Device(r.Owner) != nil {
			parts = append(parts, say.ScrewHere(r))
		} else {
			parts = append(parts, say.Core(circuit.End{Ref: r, Box: box}))
		}
	}
	return strings.Join(parts, ", ")
}
