package prove

import (
	"context"

	"ambivia/core/circuit"
	"ambivia/core/retrofit"
)

// Fits reports whether the right work of an option could have shown what was seen, from some starting position. It is what
// is asked after each press: [Diagnose] looks for mistakes only where this is false. The error names what cannot be.
func Fits(ctx context.Context, c *circuit.Circuit, o *retrofit.Option, seen Seen) (bool, error) {
	w := of(c, o)
	m := newMachine(w.read.net)
	if len(m.net.MechanicalBits()) > mostSwitches {
		return false, errTooMany
	}
	if err := w.check(m, seen); err != nil {
		return false, err
	}
	return len(explains(m, w.read, seen)) > 0, ctx.Err()
}

// Lamps lists the lamps that are looked at, in the order of the record.
func Lamps(c *circuit.Circuit, o *retrofit.Option) []string { return of(c, o).read.net.LampIDs() }
