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

// Likeliest is the circuit that a half-known record most likely is, with all of it that was not seen
// assumed; any other record as it is, and one that cannot be traced, or of which nothing fits what was
// read. The error is the context's.
func Likeliest(ctx context.Context, c *inspect.Compiled) (*inspect.Compiled, error) {
	if !Certain(c.Doc) || !HalfKnown(c) {
		return c, nil
	}
	t, err := trace.New(ctx, c.Doc)
	var refused *trace.Error
	switch {
	case errors.As(err, &refused):
		return c, nil
	case err != nil:
		return nil, err
	}
	likely := t.Circuit()
	if likely == nil {
		return c, nil
	}
	whole, err := circuit.Reread(likely)
	if err != nil {
		return c, nil // it cannot be written down; the record as it is says what is missing
	}
	return inspect.Compile(whole), nil
}
