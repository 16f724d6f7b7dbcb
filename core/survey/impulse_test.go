package survey_test

import (
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/survey"
)

// TestImpulse enters push-buttons and the relay that they step, box by box, by what one finds; a switch that turns out to be a
// button is corrected with its wires in place.
func TestImpulse(t *testing.T) {
	of := func(text string) []circuit.Ref {
		var refs []circuit.Ref
		for _, one := range strings.Fields(text) {
			owner, part, _ := strings.Cut(one, ".")
			refs = append(refs, circuit.Ref{Owner: owner, Part: part})
		}
		return refs
	}
	three := []string{"brown", "black", "green-yellow"}
	c := enter(t, survey.New("loft", "eu"), usual("panel", ""),
		survey.AddDevice{Box: "panel", Type: circuit.FoundRelay},
		survey.AddBox{Kind: circuit.Switch, Name: "Hoist"},
		survey.AddCable{Box: "panel", Cores: three},
		survey.SetCable{Cable: "k2", To: "sw1"},
		survey.AddDevice{Box: "sw1", Type: circuit.TypeSinglePole},
		survey.Connect{Box: "sw1", Of: of("k2.brown s2.b")},
		survey.Connect{Box: "sw1", Of: of("k2.black s2.a")},
		survey.SetDevice{Device: "s2", Type: circuit.FoundButton},
		survey.Connect{Box: "panel", Of: of("supply.hot s1.line")},
		survey.Connect{Box: "panel", Of: of("s1.line k2.brown")},
		survey.Connect{Box: "panel", Of: of("supply.neutral s1.neutral")},
		survey.Connect{Box: "panel", Of: of("s1.signal k2.black")},
	)
	if d := c.Device("s2"); d.FoundType() != circuit.FoundButton || !d.Found() || c.JoinOf("sw1", of("s2.b")[0]) < 0 {
		t.Fatalf("%+v", d)
	}
	if got := names.For(c).Bare("s2"); got != "Push-button at Hoist" {
		t.Errorf("it is called %q", got)
	}
	for _, x := range inspect.Check(c).Findings {
		if x.Severity == inspect.Error {
			t.Errorf("%s: %s", x.Code, x.Text)
		}
	}
	if back := enter(t, c, survey.SetDevice{Device: "s2", Type: circuit.TypeSinglePole}); back.Device("s2").Model != "" || back.Device("s2").Type != circuit.TypeSinglePole {
		t.Errorf("%+v", back.Device("s2"))
	}
}

// TestRound: the readings of a round are entered in their order, all with a time, or none of them.
func TestRound(t *testing.T) {
	c := survey.New("loft", "na")
	test := func(reading any) circuit.Observation {
		return circuit.Observation{Power: "off", Instrument: circuit.LampLook, Reading: reading}
	}
	first := test("dark")
	edit := survey.Stamped(survey.Observe{Observation: &first, More: []circuit.Observation{test("lit"), test(circuit.Unclear)}}, "2026-12-02T06:00:00Z")
	next, said, err := survey.Apply(c, edit)
	if err != nil || said != "3 readings entered" || len(next.Observations) != 3 || next.Observations[1].Reading != "lit" {
		t.Fatalf("%v, %q, %v", next, said, err)
	}
	for _, o := range next.Observations {
		if o.Time == "" {
			t.Errorf("%v has no time", o)
		}
	}
	if next, _, err := survey.Apply(c, survey.Observe{Observation: &first, More: []circuit.Observation{test(nil)}}); err == nil {
		t.Errorf("one without a reading: %v", next.Observations)
	}
}
