package procedure

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestPolarityFirst: nobody has measured which of the feed's conductors is line, so that is a
// step before the breaker goes off; a reading against ground, with the power on, does away
// with it, one without or at something else does not. The way back does not ask again.
func TestPolarityFirst(t *testing.T) {
	c := circuittest.Straight()
	asked := func(t *testing.T, observations ...circuit.Observation) bool {
		t.Helper()
		doc := c.Clone()
		doc.Observations = observations
		plans := retrofit.Plan(doc).Options
		i := slices.IndexFunc(plans, func(o retrofit.Option) bool { return slices.Contains(o.BoxesTouched, "foot") })
		if i < 0 {
			t.Fatal("no plan where line comes in")
		}
		p := For(inspect.Compile(doc), &plans[i], nil)
		off := slices.IndexFunc(p.Steps, func(s Step) bool { return strings.Contains(s.Text, "locked and labelled") })
		at := slices.IndexFunc(p.Steps, func(s Step) bool { return strings.Contains(s.Text, "Nobody has measured") })
		if at > off {
			t.Errorf("step %d measures under power after the breaker went off in step %d", at+1, off+1)
		}
		if at >= 0 && (p.Steps[at].Box == "" || len(p.Steps[at].At) < 2 || len(p.Steps[at].Edits) > 0) {
			t.Errorf("where it is measured: %+v", p.Steps[at])
		}
		back, err := p.Back(len(p.Steps))
		if err != nil {
			t.Fatal(err)
		}
		if slices.ContainsFunc(back.Steps, func(s Step) bool { return strings.Contains(s.Text, "Nobody has measured") }) {
			t.Error("asked again on the way back")
		}
		return at >= 0
	}
	end := func(s string) circuit.End {
		e, err := circuit.ParseEnd(s)
		if err != nil {
			t.Fatal(err)
		}
		return e
	}
	against := circuit.Observation{Power: "on", Instrument: circuit.TwoPole, At: []circuit.End{end("w1.black@foot"), end("w1.bare@foot")}, Reading: 120.0}
	dead, unclear, other := against, against, against
	dead.Power, dead.Reading = "off", 0.0
	unclear.Reading = circuit.Unclear
	other.At = []circuit.End{end("w2.black@foot"), end("w1.bare@foot")}
	for name, test := range map[string]struct {
		readings []circuit.Observation
		asked    bool
	}{
		"no reading":           {nil, true},
		"one with power":       {[]circuit.Observation{against}, false},
		"one without":          {[]circuit.Observation{dead}, true},
		"one that told nobody": {[]circuit.Observation{unclear}, true},
		"one at a traveler":    {[]circuit.Observation{other}, true},
	} {
		if got := asked(t, test.readings...); got != test.asked {
			t.Errorf("%s: asked %t", name, got)
		}
	}
}

// TestWhatWasRead: where a conductor is first used, its steps say what the record's readings showed of it, and say nothing of
// an unclear one.
func TestWhatWasRead(t *testing.T) {
	c := circuittest.Straight()
	at := func(cable, core, box string) circuit.End {
		return circuit.End{Ref: circuit.Ref{Owner: cable, Part: core}, Box: box}
	}
	c.Observations = []circuit.Observation{
		{Power: "on", Instrument: circuit.TwoPole, At: []circuit.End{at("w1", "black", "foot"), at("w1", "bare", "foot")}, Reading: 121.0},
		{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{at("w2", "red", "foot"), at("w2", "red", "head")}, Reading: circuit.Unclear},
		{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{at("w2", "black", "foot"), at("w2", "black", "head")}, Reading: "closed"},
	}
	found := inspect.Compile(c)
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Metrics.BoxesTouched < 2 {
			continue
		}
		for _, s := range For(found, &o, nil).Steps {
			if s.Kind != KindLabel {
				continue
			}
			said := strings.Join(s.Read, " ")
			for n, want := range map[int]string{1: "121 V", 2: "", 3: "beep"} {
				touched := slices.ContainsFunc(s.At, func(e circuit.End) bool { return slices.Contains(c.Observations[n-1].At, e) })
				if has := strings.Contains(said, fmt.Sprintf("Reading %d,", n)); has != (touched && want != "") || has && !strings.Contains(said, want) {
					t.Errorf("%s, step %d of %v: %q", o.ID, s.Number, s.At, s.Read)
				}
			}
		}
	}
}
