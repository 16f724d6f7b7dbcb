package api

import (
	"context"
	"fmt"
	"net/http"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/names"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/trace"
)

// proofOf is what shows that a circuit's work is right, worked out once for all who ask.
func (s *Server) proofOf(ctx context.Context, o *opened) (*prove.Proof, error) {
	key := o.ID + "/" + o.Head.ID
	if known, ok := s.proofs.Get(key); ok {
		return known, nil
	}
	proof, err := askOnce(ctx, s.desk, "proof "+key, func(ctx context.Context) (*prove.Proof, error) { return prove.Sequence(ctx, o.doc(), o.option) })
	if err != nil {
		return nil, cannotProve(ctx, err)
	}
	s.proofs.Add(key, proof)
	return proof, nil
}

// cannotProve says why nothing can be proved of a circuit.
func cannotProve(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	return &problemError{http.StatusUnprocessableEntity, "no-proof", "", err.Error()}
}

// Proof leads through what shows that the work is right.
func (s *Server) Proof(ctx context.Context, r ProofRequestObject) (ProofResponseObject, error) {
	o, state, err := s.working(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	proved, err := s.proved(ctx, o, state)
	if err != nil {
		return nil, err
	}
	proof, seen := proved.Proof, state.Seen()
	out := Proof200JSONResponse{Last: len(state.Entries), Planned: o.option != nil, Mistakes: proof.Mistakes, Presses: []ProvePress{}, Meter: meterTests(o.proved(), proof, state), Power: ProofPower(state.Power),
		Lamps: []Named{}, Seen: append([]WorkEntry{}, seen...), At: proved.At, Right: proved.Right, SwitchOff: proved.SwitchOff, Trials: []Trial{}, Devices: []DeviceFacts{}, Troubles: record.Troubles(o.found.Terms())}
	doc := o.proved()
	if o.option != nil {
		own, _, _, err := s.ownDevices(ctx)
		if err != nil {
			return nil, err
		}
		library := device.NewLibrary(own)
		out.Trials = append(out.Trials, record.Trials(o.option, library, state.Entries)...)
		out.Devices = record.Facts(o.option, library, state.Entries)
	}
	say := names.For(doc)
	for _, id := range prove.Lamps(o.doc(), o.option) {
		out.Lamps = append(out.Lamps, Named{ID: id, Text: say.Short(id)})
	}
	for i, x := range proof.Expect {
		press := ProvePress{Press: x.Press, Box: x.Box, Name: say.Short(x.Press), Where: x.Box, Expect: []LampExpected{}}
		if b := doc.Box(x.Box); b != nil {
			press.Where = say.Label(b.ID)
		}
		for _, lamp := range out.Lamps {
			press.Expect = append(press.Expect, LampExpected{Lamp: lamp.ID, Name: lamp.Text, Does: x.Lamps[lamp.ID]})
		}
		if i == out.At && len(seen) > 0 {
			if shows := x.After(seen[len(seen)-1].Lamps); shows != nil {
				otherwise := prove.Otherwise(shows)
				out.Shows = &shows
				if otherwise != nil {
					out.Otherwise = &otherwise
				}
			}
		}
		out.Presses = append(out.Presses, press)
	}
	return out, nil
}

// proved is the circuit that is to be proved: what the chosen plan makes of it, or what is on record.
func (o *opened) proved() *circuit.Circuit {
	if o.option != nil {
		return o.option.After
	}
	return o.doc()
}

// proved is how far it is shown that the work is right.
func (s *Server) proved(ctx context.Context, o *opened, state *fitting.State) (*record.Proved, error) {
	proof, err := s.proofOf(ctx, o)
	if err != nil {
		return nil, err
	}
	out, err := record.HowFar(ctx, o.doc(), o.option, proof, state)
	if err != nil {
		return nil, cannotProve(ctx, err)
	}
	return out, nil
}

// meterTests are the readings that show what no press does, with what was read of each.
func meterTests(c *circuit.Circuit, proof *prove.Proof, state *fitting.State) []MeterTest {
	out := []MeterTest{}
	for _, x := range proof.Tests() {
		test := MeterTest{Text: x.Text, Test: x.Test, Right: trace.ReadingWords(x.Test.Instrument, x.Right), Mistakes: x.Mistakes, Asks: append([]string{}, state.Asks(c, x.Test)...)}
		if e := state.ReadOf(x.Test); e != nil {
			value := trace.ReadingWords(x.Test.Instrument, e.Test.Reading)
			test.Entry, test.Value = &e.Number, &value
		}
		out = append(out, test)
	}
	return out
}

// Diagnosis says which single mistakes explain what was seen.
func (s *Server) Diagnosis(ctx context.Context, r DiagnosisRequestObject) (DiagnosisResponseObject, error) {
	o, state, err := s.working(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	what := record.Seen(state)
	if len(what.Lamps) == 0 {
		return nil, &problemError{http.StatusUnprocessableEntity, "nothing-seen", "", "nothing was seen yet: look at the lamps first"}
	}
	key := fmt.Sprintf("diagnosis %s/%s/%d", o.ID, o.Head.ID, len(state.Entries))
	found, err := askOnce(ctx, s.desk, key, func(ctx context.Context) (*prove.Diagnosis, error) {
		return prove.Diagnose(ctx, o.doc(), o.option, what)
	})
	if err != nil {
		return nil, cannotProve(ctx, err)
	}
	out := *found
	if next := found.Next; next != nil && next.Test != nil {
		asked := *next
		asked.Asks = state.Asks(o.proved(), *next.Test)
		out.Next = &asked
	}
	return Diagnosis200JSONResponse(out), nil
}

// MistakePicture draws a box as it is where a mistake was made in the work, and as it should be.
func (s *Server) MistakePicture(ctx context.Context, r MistakePictureRequestObject) (MistakePictureResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	right := o.proved()
	if right.Box(r.Body.Box) == nil {
		return nil, &problemError{http.StatusUnprocessableEntity, "unknown-box", "box", "there is no such box"}
	}
	wrong, err := prove.Made(o.doc(), o.option, r.Body.Mistake)
	if err != nil {
		return nil, &problemError{http.StatusUnprocessableEntity, "no-mistake", "mistake", err.Error()}
	}
	drawn := front(wrong, r.Body.Box)
	drawn.SayLoose()
	return MistakePicture200JSONResponse{Wrong: drawn.Picture(), Right: front(right, r.Body.Box).Picture()}, nil
}
