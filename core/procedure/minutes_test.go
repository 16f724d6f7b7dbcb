package procedure

import (
	"context"
	"math"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestMinutes: a step takes what its kind takes, by own work where that is known; a ladder counts once for each box that needs
// one, be it there before or after alone.
func TestMinutes(t *testing.T) {
	before := &circuit.Circuit{Boxes: []circuit.Box{{ID: "door", Kind: circuit.Switch}, {ID: "rose", Kind: circuit.Fixture}}}
	after := &circuit.Circuit{Boxes: []circuit.Box{{ID: "door", Kind: circuit.Switch}, {ID: "loft", Kind: circuit.Junction}}}
	p := &Procedure{Before: before, After: after}
	for _, s := range [][2]string{{KindGate, ""}, {KindLift, "door"}, {KindLift, "rose"}, {KindJoin, "rose"}, {KindJoin, "loft"}, {KindCable, ""}} {
		p.Steps = append(p.Steps, Step{Kind: s[0], Box: s[1]})
	}
	for i, want := range []float64{3, 1, 1 + 10, 1.5, 1.5 + 10, 90} {
		if got := p.Minutes(nil)[i]; got != want {
			t.Errorf("step %d takes %g minutes, want %g", i+1, got, want)
		}
	}
	if own := p.Minutes(map[string]float64{KindJoin: 4}); own[3] != 4 || own[4] != 14 || own[1] != 1 {
		t.Errorf("by own work: %v", own)
	}
	// Every step of every plan has its time, and an option takes what its steps take.
	found := inspect.Compile(circuittest.Straight())
	answer, err := Plan(context.Background(), found, retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	for _, o := range answer.Options {
		if !o.Feasible {
			continue
		}
		sum := 0.0
		for i, took := range For(found, &o, nil).Minutes(nil) {
			if sum += took; took <= 0 {
				t.Errorf("%s: step %d takes no time", o.ID, i+1)
			}
		}
		if o.Metrics.Minutes != math.Ceil(sum) {
			t.Errorf("%s takes %g minutes, its steps %g", o.ID, o.Metrics.Minutes, sum)
		}
	}
}
