package house_test

import (
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
)

func end(t *testing.T, text string) circuit.End {
	t.Helper()
	e, err := circuit.ParseEnd(text)
	if err != nil {
		t.Fatal(err)
	}
	return e
}

// TestSurvey: what is seen is valid, holds the opened boxes alone, and names each end
// of a cable on its own.
func TestSurvey(t *testing.T) {
	truth := circuittest.Straight()
	h, err := house.New(truth, 4, nil)
	if err != nil {
		t.Fatal(err)
	}
	s := h.Survey()
	if err := s.Validate(); err != nil {
		t.Fatal(err)
	}
	if len(s.Cables) != 4 {
		t.Errorf("%d stubs", len(s.Cables))
	}
	for _, k := range s.Cables {
		if !k.Stub() {
			t.Errorf("cable %s shows where it goes", k.ID)
		}
		was := truth.Cable(h.True(circuit.End{Ref: circuit.Ref{Owner: k.ID}}).Owner)
		if was == nil || !was.In(*k.Ends[0]) {
			t.Errorf("stub %s is no cable of its box", k.ID)
		}
	}
	for _, j := range s.Joins {
		if j.Box == "panel" || j.Box == "light" {
			t.Errorf("a join of the closed box %s is seen", j.Box)
		}
	}
}

// TestCompare: one role that was taken for another is named with what it is.
func TestCompare(t *testing.T) {
	h, err := house.New(circuittest.Straight(), 4, nil)
	if err != nil {
		t.Fatal(err)
	}
	said := map[circuit.End]electric.Role{}
	for _, k := range h.Survey().Cables {
		if h.True(circuit.End{Ref: circuit.Ref{Owner: k.ID}}).Owner == "w1" {
			said[end(t, k.ID+".black@foot")], said[end(t, k.ID+".white@foot")] = electric.Load, electric.Neutral
		}
	}
	right, wrong := h.Compare(said)
	if right != 1 || len(wrong) != 1 || wrong[0].Is != electric.Line || wrong[0].Claimed != electric.Load {
		t.Errorf("%d right, wrong %v", right, wrong)
	}
}

// TestAnswers: instruments are sure where physics is, and lie where they may.
func TestAnswers(t *testing.T) {
	h, err := house.New(circuittest.Straight(), 4, []string{"panel", "foot", "head", "light"})
	if err != nil {
		t.Fatal(err)
	}
	names := map[string]string{}
	for _, k := range h.Survey().Cables {
		names[h.True(circuit.End{Ref: circuit.Ref{Owner: k.ID}}).Owner+"@"+*k.Ends[0]] = k.ID
	}
	at := func(texts ...string) []circuit.End {
		var out []circuit.End
		for _, text := range texts {
			e := end(t, text)
			if id, ok := names[e.Owner+"@"+e.Box]; ok {
				e.Owner = id
			}
			out = append(out, e)
		}
		return out
	}
	lift := []circuit.Ref{{Owner: "s1", Part: "common"}, {Owner: "s2", Part: "common"}}
	for _, x := range []struct {
		test circuit.Observation
		want any // nil: it may lie
	}{
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.NonContact, At: at("w1.black@foot")}, "live"},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.NonContact, At: at("w1.white@foot")}, "quiet"},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.NonContact, At: at("w2.red@foot")}, nil},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.TwoPole, At: at("w1.black@foot", "w1.bare@foot")}, 120.0},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.TwoPole, At: at("w2.red@foot", "w1.white@foot")}, 0.0},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.Multimeter, At: at("w2.red@foot", "w1.white@foot")}, nil},
		{circuit.Observation{Power: "off", Lifted: lift, LampsOut: []string{"lamp1"}, Instrument: circuit.Continuity, At: at("w3.black@head", "lamp1.l")}, "closed"},
		{circuit.Observation{Power: "off", Lifted: lift, LampsOut: []string{"lamp1"}, Instrument: circuit.Continuity, At: at("w1.black@foot", "lamp1.l")}, "open"},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.LampLook}, "dark"},
		{circuit.Observation{Power: "on", Lifted: append([]circuit.Ref{{Owner: "s1", Part: "t1"}, {Owner: "s1", Part: "t2"}}, lift...),
			Tied: [][]circuit.End{at("w1.black@foot", "w2.red@foot")}, Instrument: circuit.NonContact, At: at("w2.red@head")}, "live"},
	} {
		seen := map[any]bool{}
		for n := range 40 {
			h.Tested(n)
			got, err := h.Answer(x.test)
			if err != nil {
				t.Fatalf("%+v: %v", x.test, err)
			}
			seen[got] = true
		}
		if x.want == nil && len(seen) < 2 {
			t.Errorf("%s at %v never lies", x.test.Instrument, x.test.At)
		}
		if x.want != nil && (len(seen) != 1 || !seen[x.want]) {
			t.Errorf("%s at %v reads %v, want %v", x.test.Instrument, x.test.At, seen, x.want)
		}
	}
	if _, err := h.Answer(circuit.Observation{Power: "on", Instrument: circuit.NonContact, At: []circuit.End{end(t, "nope.black@foot")}}); err == nil {
		t.Error("a test of what is not there has an answer")
	}
	lit := func(flipped ...string) any {
		got, err := h.Answer(circuit.Observation{Power: "on", Flipped: flipped, Instrument: circuit.LampLook})
		if err != nil {
			t.Fatal(err)
		}
		return got
	}
	if lit() == lit("s1") || lit("s1") != lit("s2") || lit() != lit("s1", "s2") {
		t.Error("flipping switches does not switch the light")
	}
}
