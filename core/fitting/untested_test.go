package fitting

import (
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// TestReadOnce: a test that the log says was made is not ordered by the next run; one that was taken back, or
// whose step was left out, is.
func TestReadOnce(t *testing.T) {
	test := func(core string) *circuit.Observation {
		return &circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{{Ref: circuit.Ref{Owner: core, Part: "black"}, Box: "b1"}}}
	}
	o := &retrofit.Option{Proved: retrofit.Proved{Relies: []evidence.Reliance{{Test: *test("k1")}, {Test: *test("k2")}, {Test: *test("k3")}}}}
	log := []Entry{
		{Number: 1, Kind: Begin, Began: Began{Run: &Run{Way: Forth, Steps: []procedure.Step{{Number: 1, Test: test("k1")}, {Number: 2, Test: test("k2")}, {Number: 3, Test: test("k3")}}}}},
		{Number: 2, Kind: Done, OfSteps: OfSteps{Steps: []int{1}}}, {Number: 3, Kind: Done, OfSteps: OfSteps{Steps: []int{2}}}, {Number: 4, Kind: Undo, TookBack: TookBack{Of: 3}}, {Number: 5, Kind: Skip, OfSteps: OfSteps{Steps: []int{3}}},
	}
	left := (&State{Entries: log}).untested(o).Relies
	if len(left) != 2 || left[0].Test.At[0].Owner != "k2" || left[1].Test.At[0].Owner != "k3" {
		t.Errorf("ordered again: %+v", left)
	}
	if len(o.Relies) != 3 {
		t.Error("the plan itself was changed")
	}
}
