package prove

import (
	"context"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/retrofit"
)

// Fits reports whether the right work of an option could have shown what was seen, from some starting position and state of its devices. It is what
// is asked after each press: [Diagnose] looks for mistakes only where this is false. The error names what cannot be.
func Fits(ctx context.Context, c *circuit.Circuit, o *retrofit.Option, seen Seen) (bool, error) {
	fits, _, err := FitsFrom(ctx, c, o, seen)
	return fits, err
}

// FitsFrom is [Fits], and reports too whether right work could have shown it where the light was switched off first: the
// presses of a proof show all that they do from there alone.
func FitsFrom(ctx context.Context, c *circuit.Circuit, o *retrofit.Option, seen Seen) (any, off bool, err error) {
	b := &Bench{work: of(c, o)}
	b.presses = b.controls()
	if err := b.check(seen); err != nil {
		return false, false, err
	}
	right, err := b.maker(b.read, Mistake{})
	if err != nil {
		return false, false, err
	}
	any = len(b.explains(right, seen)) > 0
	right.start = right.start[:right.off]
	return any, len(b.explains(right, seen)) > 0, ctx.Err()
}

// Lamps lists the lamps that are looked at, in the order of the record.
func Lamps(c *circuit.Circuit, o *retrofit.Option) []string { return of(c, o).read.net.LampIDs() }

// After is how the lamps look after a press, where the work is right and they looked so before; nil where that depends on
// how switches stood, or on lamps that nobody looked at.
func (e Expected) After(before map[string]string) map[string]string {
	out := map[string]string{}
	for lamp, does := range e.Lamps {
		was := before[lamp]
		switch {
		case does == "stays" && (was == lit || was == dark):
			out[lamp] = was
		case does == "changes" && was == lit:
			out[lamp] = dark
		case does == "changes" && was == dark:
			out[lamp] = lit
		default:
			return nil
		}
	}
	return out
}

// Otherwise is how a single lamp looks that does not look so; nil where there are several, which each have to be told.
func Otherwise(lamps map[string]string) map[string]string {
	if len(lamps) != 1 {
		return nil
	}
	out := map[string]string{}
	for lamp, how := range lamps {
		out[lamp] = map[string]string{lit: dark, dark: lit}[how]
	}
	return out
}

// How a lamp looks.
const (
	lit  = "lit"
	dark = "dark"
)

// agreeing is how far two readings of volts may lie apart and still be one: a tenth and a half of the greater,
// and the few volts that any meter shows.
const (
	agreeingShare = 0.15
	agreeingVolts = 12
)

// Agrees reports whether a reading is what right work shows. An unclear reading agrees with everything.
func Agrees(right, reading any) bool {
	if reading == nil || reading == circuit.Unclear {
		return true
	}
	a, isVolts := right.(float64)
	b, readVolts := reading.(float64)
	if !isVolts || !readVolts {
		return right == reading
	}
	return math.Abs(a-b) <= max(agreeingVolts, agreeingShare*max(math.Abs(a), math.Abs(b)))
}

// MeterTest is a reading with how many mistakes it shows that no press does for certain.
type MeterTest struct {
	Metered
	Mistakes int
}

// Tests are the readings of a proof, each once.
func (p *Proof) Tests() []MeterTest {
	var out []MeterTest
	for _, m := range p.Meter {
		i := slices.IndexFunc(out, func(x MeterTest) bool { return x.Test.Key() == m.Test.Key() })
		if i < 0 {
			i = len(out)
			out = append(out, MeterTest{Metered: m})
		}
		out[i].Mistakes++
	}
	// Those with the power on first, as it is after the presses; then those for which the fewest wires come off.
	slices.SortStableFunc(out, func(a, b MeterTest) int { return a.effort() - b.effort() })
	return out
}

func (x MeterTest) effort() int {
	if x.Test.Power == "on" {
		return len(x.Test.Lifted) - 1
	}
	return len(x.Test.Lifted)
}
