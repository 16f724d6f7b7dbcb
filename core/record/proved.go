package record

import (
	"context"

	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
)

// Proved is how far it is shown that the work is right.
type Proved struct {
	Proof *prove.Proof
	// At is how many presses of the proof were made, in its order, since somebody looked at the lamps; -1 where nobody did,
	// or others were pressed in between.
	At int
	// Contrary are readings since the run began that right work does not show. They fail the proof, whenever they were taken.
	Contrary []fitting.Entry
	// Right: all that was seen so far is what right work shows. It is true where nothing was seen.
	Right bool
	// SwitchOff: the light must be switched off and the lamps looked at again, since a device kept its state. The
	// presses catch every mistake only from off.
	SwitchOff bool
}

// Whole reports whether every press was made and did what right work does.
func (p *Proved) Whole() bool { return p.Right && p.At == len(p.Proof.Presses) }

// Seen is what the log says that a person saw of the last time through, as proving takes it.
func Seen(s *fitting.State) prove.Seen {
	out := prove.Seen{Presses: []string{}, Lamps: []map[string]string{}, Readings: s.ReadAfter()}
	for i, e := range s.Seen() {
		if i > 0 {
			out.Presses = append(out.Presses, e.Press)
		}
		out.Lamps = append(out.Lamps, e.Lamps)
	}
	return out
}

// HowFar holds what the log says was seen of an option, or of the circuit as recorded where that is nil, against its proof.
// The error names what cannot have been seen, or is the context's.
func HowFar(ctx context.Context, c *circuit.Circuit, o *retrofit.Option, proof *prove.Proof, s *fitting.State) (*Proved, error) {
	out := &Proved{Proof: proof, At: -1, Right: true, Contrary: contrary(proof, s)}
	seen := Seen(s)
	if len(seen.Lamps) == 0 {
		out.Right = len(out.Contrary) == 0
		return out, nil
	}
	var err error
	off := false
	if out.Right, off, err = prove.FitsFrom(ctx, c, o, seen); err != nil {
		return nil, err
	}
	out.Right = out.Right && len(out.Contrary) == 0
	if out.SwitchOff = out.Right && !off; out.SwitchOff {
		return out, nil
	}
	for i, press := range seen.Presses {
		if i == len(proof.Presses) {
			break // what was shown stays shown, whatever is pressed afterwards
		}
		if proof.Presses[i] != press {
			return out, nil
		}
	}
	out.At = min(len(seen.Presses), len(proof.Presses))
	return out, nil
}
