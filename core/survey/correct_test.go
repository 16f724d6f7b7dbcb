package survey_test

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/survey"
)

func ref(t *testing.T, text string) circuit.Ref {
	t.Helper()
	e, err := circuit.ParseEnd(text)
	if err != nil {
		t.Fatal(err)
	}
	return e.Ref
}

// TestMove: a core goes from one screw to another, and what it stood with stays there.
func TestMove(t *testing.T) {
	c := circuittest.Straight()
	move := survey.Move{Box: "foot", Of: ref(t, "w2.black"), To: ref(t, "s1.t2")}
	before := c.Joins[c.JoinOf("foot", ref(t, "s1.t2"))].Of
	out, said, err := survey.Apply(c, move)
	if err != nil {
		t.Fatal(err)
	}
	if j := out.JoinOf("foot", ref(t, "w2.black")); j < 0 || len(out.Joins[j].Of) != len(before)+1 || !slices.Contains(out.Joins[j].Of, ref(t, "s1.t2")) {
		t.Errorf("it stands in %v", out.Joins[j].Of)
	}
	if j := out.JoinOf("foot", ref(t, "s1.t1")); j >= 0 {
		t.Errorf("its old screw still holds %v", out.Joins[j].Of)
	}
	if strings.Contains(said, "w2") || !strings.Contains(said, "3-way switch") {
		t.Errorf("said %q", said)
	}
	for _, wrong := range []survey.Move{{Box: "foot", Of: ref(t, "w2.black"), To: ref(t, "w2.black")}, {Box: "foot", Of: ref(t, "w2.black"), To: ref(t, "s1.t1")}, {Box: "foot", Of: ref(t, "w2.black"), To: ref(t, "s9.t1")}} {
		if _, _, err := survey.Apply(c, wrong); err == nil {
			t.Errorf("%v is taken", wrong)
		}
	}
}

// TestHangsLoose: a bare core is recorded as such, until it is joined, capped or gone.
func TestHangsLoose(t *testing.T) {
	c := circuittest.Straight()
	core := ref(t, "w2.black")
	if _, _, err := survey.Apply(c, survey.HangLoose{Box: "foot", Of: []circuit.Ref{core}}); err == nil {
		t.Error("a joined core hangs loose")
	}
	lifted, _, err := survey.Apply(c, survey.Disconnect{Box: "foot", Of: []circuit.Ref{core}})
	if err != nil {
		t.Fatal(err)
	}
	loose, _, err := survey.Apply(lifted, survey.HangLoose{Box: "foot", Of: []circuit.Ref{core}})
	if err != nil || len(loose.Loose) != 1 {
		t.Fatalf("%v %v", loose.Loose, err)
	}
	if !slices.ContainsFunc(inspect.Check(loose).Findings, func(f inspect.Finding) bool { return f.Code == inspect.LooseCore }) {
		t.Error("nothing is said of a bare core")
	}
	for name, e := range map[string]survey.Edit{
		"joined": survey.Connect{Box: "foot", Of: []circuit.Ref{core, ref(t, "s1.t1")}}, "moved": survey.Move{Box: "foot", Of: core, To: ref(t, "s1.t1")},
		"capped": survey.HangLoose{Box: "foot", Of: []circuit.Ref{core}, Not: true}, "gone": survey.RemoveCable{Cable: "w2"},
	} {
		if out, _, err := survey.Apply(loose, e); err != nil || len(out.Loose) > 0 {
			t.Errorf("%s: %v %v", name, out, err)
		}
	}
}

// TestGauge: the gauge of a cable is corrected, also of one whose ends are known, by those that the practice offers.
func TestGauge(t *testing.T) {
	for _, practice := range []string{"na", "uk", "au", "in", "eu"} {
		c := circuittest.In(circuittest.Straight(), practice)
		offered := survey.Read(inspect.Compile(c)).Gauges
		for _, gauge := range append(offered, "none") {
			out, _, err := survey.Apply(c, survey.SetCable{Cable: "w1", Gauge: gauge})
			if err != nil {
				t.Fatalf("%s, %s: %v", practice, gauge, err)
			}
			if got := out.Cable("w1").Gauge; got != strings.TrimPrefix(gauge, "none") {
				t.Errorf("%s: asked for %q, got %q", practice, gauge, got)
			}
		}
	}
	if _, _, err := survey.Apply(circuittest.Straight(), survey.SetCable{Cable: "w1", Gauge: "thick"}); err == nil {
		t.Error("a gauge that is none is taken")
	}
}

// TestTiedPair: two screws that a switch chooses between, under one connector, are told; a right switch is not.
func TestTiedPair(t *testing.T) {
	told := func(c *circuit.Circuit) (n int) {
		for _, f := range inspect.Check(c).Findings {
			if f.Code == "tied-pair" {
				n++
			}
		}
		return n
	}
	for controls := 2; controls < 5; controls++ {
		c := circuittest.Chain(controls)
		if told(c) > 0 {
			t.Errorf("%d controls: a right circuit has tied screws", controls)
		}
		for _, d := range c.Devices {
			pair := map[string][2]string{circuit.TypeThreeWay: {"t1", "t2"}, circuit.TypeFourWay: {"b1", "b2"}}[d.Type]
			if pair[0] == "" {
				continue
			}
			out, _, err := survey.Apply(c, survey.Connect{Box: d.Box, Of: []circuit.Ref{{Owner: d.ID, Part: pair[0]}, {Owner: d.ID, Part: pair[1]}}})
			if err != nil || told(out) != 1 {
				t.Errorf("%s tied: told %d times, %v", d.ID, told(out), err)
			}
		}
	}
}
