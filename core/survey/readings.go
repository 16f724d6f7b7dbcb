package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
)

// observe enters a test and what it showed.
func (e Observe) apply(w *writer) (string, error) {
	if e.Observation == nil || e.Observation.Reading == nil {
		return "", refuse(circuit.CodeMissingField, "observation", "name the test and what it showed")
	}
	w.Observations = append(w.Observations, *e.Observation)
	for i, o := range e.More {
		if o.Reading == nil {
			return "", refuse(circuit.CodeMissingField, fmt.Sprintf("more[%d]", i), "say what this test of the round showed, or leave it out")
		}
		w.Observations = append(w.Observations, o)
	}
	if n := len(e.More); n > 0 {
		return fmt.Sprintf("%d readings entered", n+1), nil
	}
	return "Reading entered", nil
}

func (e Unobserve) apply(w *writer) (string, error) {
	if e.Index == nil || *e.Index < 0 || *e.Index >= len(w.Observations) {
		return "", refuse(circuit.CodeUnknownID, "index", "there is no such reading; it may have been taken back already")
	}
	w.RemoveReading(*e.Index)
	return "Reading taken back", nil
}

// setCannot notes which ways of testing this person cannot use.
func (e SetCannot) apply(w *writer) (string, error) {
	w.Cannot = nil
	for _, way := range e.Ways {
		if !slices.Contains(w.Cannot, way) {
			w.Cannot = append(w.Cannot, way)
		}
	}
	return "What cannot be tested noted", nil
}

// accept takes a conductor for what it most likely is; it stays assumed.
func (e Accept) apply(w *writer) (string, error) {
	if e.End == nil {
		return "", refuse(circuit.CodeMissingField, "end", "name the conductor")
	}
	w.Accepted = slices.DeleteFunc(w.Accepted, func(a circuit.Accepted) bool { return a.End == *e.End })
	if e.As == "" {
		if len(w.Accepted) == 0 {
			w.Accepted = nil
		}
		return "Acceptance taken back", nil
	}
	w.Accepted = append(w.Accepted, circuit.Accepted{End: *e.End, As: e.As, Odds: e.Odds})
	return "Conductor accepted", nil
}

func (e AddReport) apply(w *writer) (string, error) {
	w.Reports = append(slices.DeleteFunc(slices.Clone(w.Reports), func(r circuit.Report) bool {
		other := []string{circuit.SaysOthersDie, circuit.SaysNothingElse}
		return r.Device == e.Device && slices.Contains(other, r.Says) == slices.Contains(other, e.Says)
	}), circuit.Report{Says: e.Says, Device: e.Device})
	return "What the customer says noted", nil
}

func (e RemoveReport) apply(w *writer) (string, error) {
	if e.Index == nil || *e.Index < 0 || *e.Index >= len(w.Reports) {
		return "", refuse(circuit.CodeUnknownID, "index", "nothing of the kind was noted; it may have been taken back already")
	}
	if w.Reports = slices.Delete(w.Reports, *e.Index, *e.Index+1); len(w.Reports) == 0 {
		w.Reports = nil
	}
	return "What the customer says taken back", nil
}

// passGate notes what a person confirmed, after the readings made so far.
func (e PassGate) apply(w *writer) (string, error) {
	if len(e.Gates) == 0 {
		return "", refuse(circuit.CodeMissingField, "gates", "name what was confirmed")
	}
	var names []string
	for _, g := range e.Gates {
		if g.Gate == circuit.GateWasOn {
			return "", refuse(circuit.CodeUnknownID, "gates", "%s is noted by the program and confirmed by nobody", g.Gate)
		}
		g.After = len(w.Observations)
		w.Gates = append(w.Gates, g)
		names = append(names, g.Gate)
	}
	return fmt.Sprintf("Confirmed: %s", strings.Join(names, ", ")), nil
}

// renameReadings gives the ends of a cable in all readings its new name.
func (w *writer) renameReadings(from, to string) {
	ends := func(list []circuit.End) {
		for i := range list {
			if list[i].Owner == from {
				list[i].Owner = to
			}
		}
	}
	for i := range w.Observations {
		ends(w.Observations[i].At)
		for _, group := range w.Observations[i].Tied {
			ends(group)
		}
	}
	for i, e := range w.Evidence {
		if owner, rest, found := strings.Cut(e.Of, "."); owner == from && found {
			w.Evidence[i].Of = to + "." + rest
		}
	}
	w.Evidence = slices.DeleteFunc(w.Evidence, func(e circuit.Evidence) bool { return e.Of == from })
}

// tidyReadings drops readings, reports, gates and evidence of what was removed.
func (w *writer) tidyReadings() {
	here := func(e circuit.End) bool {
		if k := w.Circuit.Cable(e.Owner); k != nil {
			return k.In(e.Box)
		}
		return w.Circuit.Device(e.Owner) != nil
	}
	all := func(ids []string) bool {
		return !slices.ContainsFunc(ids, func(id string) bool { return w.Circuit.Device(id) == nil })
	}
	gone := func(o circuit.Observation) bool {
		lost := slices.ContainsFunc(o.At, func(e circuit.End) bool { return !here(e) }) || !all(o.Flipped) || !all(o.LampsOut) ||
			slices.ContainsFunc(o.Lifted, func(r circuit.Ref) bool { return w.Circuit.Device(r.Owner) == nil })
		for _, group := range o.Tied {
			lost = lost || slices.ContainsFunc(group, func(e circuit.End) bool { return !here(e) })
		}
		return lost
	}
	for i := len(w.Observations) - 1; i >= 0; i-- {
		if gone(w.Observations[i]) {
			w.RemoveReading(i)
		}
	}
	w.Reports = slices.DeleteFunc(w.Reports, func(r circuit.Report) bool { return r.Device != "" && w.Circuit.Device(r.Device) == nil })
	w.Gates = slices.DeleteFunc(w.Gates, func(g circuit.Gate) bool { return g.Box != "" && w.Circuit.Box(g.Box) == nil })
	w.Evidence = slices.DeleteFunc(w.Evidence, func(e circuit.Evidence) bool {
		end, err := circuit.ParseEnd(e.Of)
		return err != nil && w.Circuit.Cable(e.Of) == nil && w.Device(e.Of) == nil && w.Box(e.Of) == nil || err == nil && !here(end)
	})
	if len(w.Observations) == 0 {
		w.Observations = nil
	}
	if len(w.Reports) == 0 {
		w.Reports = nil
	}
	if len(w.Gates) == 0 {
		w.Gates = nil
	}
	if len(w.Evidence) == 0 {
		w.Evidence = nil
	}
}
