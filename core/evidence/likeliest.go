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

// Likely is the circuit that a record is planned on.
type Likely struct {
	*inspect.Compiled
	// recorded names the ends of a half-known record by their names in the circuit; nil where both are one.
	recorded map[circuit.End]circuit.End
}

// Likeliest is the circuit that a half-known record most likely is, with all of it that was not seen
// assumed; any other record as it is, and one that cannot be traced, or whose readings
// clash. The error is the context's.
func Likeliest(ctx context.Context, c *inspect.Compiled) (Likely, error) {
	as := Likely{Compiled: c}
	if !Certain(c.Doc) || !HalfKnown(c) {
		return as, nil
	}
	t, err := trace.New(ctx, c.Doc)
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
	as.Compiled, as.recorded = inspect.Compile(whole), map[circuit.End]circuit.End{}
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
