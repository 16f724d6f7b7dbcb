package evidence

import (
	"context"
	"errors"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/trace"
)

// HalfKnown reports whether a record has cables whose far ends are not known and does not work without
// knowing them: what was seen is a part of a circuit.
func HalfKnown(c *inspect.Compiled) bool {
	return slices.ContainsFunc(c.Doc.Cables, func(k circuit.Cable) bool { return k.Stub() }) && c.Report().Verdict != inspect.Works &&
		slices.ContainsFunc(c.Doc.Devices, func(d circuit.Device) bool { return d.Mechanical() })
}

// Likely is the circuit that a record is planned on, listed as [circuit.Circuit.InOrder] does.
type Likely struct {
	*inspect.Compiled
	// AsRecorded is the same circuit listed as the record is.
	AsRecorded *inspect.Compiled
	// recorded names the ends of a half-known record by their names in the circuit; nil where both are one.
	recorded map[circuit.End]circuit.End
	lamps    map[string]bool // those that the record has
}

// Likeliest is the circuit that a half-known record most likely is, with all of it that was not seen
// assumed; any other record as it is, and one that cannot be traced, or whose readings
// clash. The error is the context's.
func Likeliest(ctx context.Context, c *inspect.Compiled) (Likely, error) {
	ordered, joins := c.Doc.InOrder()
	as := Likely{Compiled: inspect.Compile(ordered), AsRecorded: c}
	if !Certain(c.Doc) || !HalfKnown(as.Compiled) {
		return as, nil
	}
	t, err := trace.New(ctx, ordered)
	var refused *trace.Error
	switch {
	case errors.As(err, &refused):
		return as, nil
	case err != nil:
		return as, err
	}
	likely, now := t.CircuitNamed()
	if likely == nil {
		return as, nil
	}
	whole, err := circuit.Reread(likely)
	if err != nil {
		return as, nil // it cannot be written down; the record as it is says what is missing
	}
	recorded := listedAs(c.Doc, ordered, whole, joins)
	whole, _ = whole.InOrder()
	as.Compiled, as.AsRecorded, as.recorded = inspect.Compile(whole), inspect.Compile(recorded), map[circuit.End]circuit.End{}
	as.lamps = map[string]bool{}
	for _, d := range c.Doc.Devices {
		as.lamps[d.ID] = true
	}
	for was, is := range now {
		k := c.Doc.Cable(was)
		for _, box := range k.Ends {
			for _, core := range k.Cores {
				if box != nil {
					as.recorded[circuit.End{Ref: circuit.Ref{Owner: is, Part: core}, Box: *box}] = circuit.End{Ref: circuit.Ref{Owner: was, Part: core}, Box: *box}
				}
			}
		}
	}
	return as, nil
}

// listedAs lists a circuit that was traced of a record in order as the record itself is listed. Joins of the
// record keep their places, with the names that tracing gave; what tracing adds stands behind them.
func listedAs(record, ordered, whole *circuit.Circuit, joins []int) *circuit.Circuit {
	out := whole.Clone()
	out.Follow(record)
	out.Joins = whole.Clone().Joins
	for n, i := range joins {
		is := circuit.Join{Box: whole.Joins[n].Box}
		for _, m := range record.Joins[i].Of {
			if q := slices.Index(ordered.Joins[n].Of, m); q < len(whole.Joins[n].Of) {
				is.Of = append(is.Of, whole.Joins[n].Of[q])
			}
		}
		out.Joins[i] = is
	}
	return out
}

// Recorded writes what plans rely on with the names of the record, in which readings are entered.
func (l Likely) Recorded(relies []Reliance) {
	if l.recorded == nil {
		return
	}
	rename := func(list []circuit.End) []circuit.End {
		out := make([]circuit.End, len(list))
		for i, e := range list {
			if out[i] = e; l.recorded[e] != (circuit.End{}) {
				out[i] = l.recorded[e]
			}
		}
		return out
	}
	for i := range relies {
		r := &relies[i]
		planned := r.Test
		r.planned = &planned
		r.At, r.Test.At = rename(r.At), rename(r.Test.At)
		r.Test.LampsOut = slices.DeleteFunc(slices.Clone(r.Test.LampsOut), func(id string) bool { return !l.lamps[id] }) // a supposed lamp has no socket to empty
	}
}

// Planned is the test with the names of the circuit that was planned on.
func (r Reliance) Planned() circuit.Observation {
	if r.planned != nil {
		return *r.planned
	}
	return r.Test
}

// AsPlanned writes what a plan relies on with the names of the circuit that was planned on, once that is the
// record.
func AsPlanned(relies []Reliance) []Reliance {
	out := slices.Clone(relies)
	for i := range out {
		out[i].Test = out[i].Planned()
		out[i].At, out[i].planned = out[i].Test.At, nil
	}
	return out
}
