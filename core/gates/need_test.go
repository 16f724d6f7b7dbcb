package gates_test

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/gates"
	"ambivia/core/survey"
)

// TestGates: each gate is asked once while the breaker stays as it is, dead is proved at
// every box that is touched, and power-on is asked again after every power-off.
func TestGates(t *testing.T) {
	c := circuittest.Straight()
	at := func(ends ...string) (out []circuit.End) {
		for _, text := range ends {
			var e circuit.End
			if err := e.UnmarshalText([]byte(text)); err != nil {
				t.Fatal(err)
			}
			out = append(out, e)
		}
		return out
	}
	test := circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: at("w1.black@foot", "w3.black@head")}
	names := func(need []gates.Need) string {
		var out []string
		for _, g := range need {
			out = append(out, strings.TrimSpace(g.Gate+" "+g.Box))
		}
		return strings.Join(out, ", ")
	}
	if got := names(gates.Before(c, test)); got != "breaker-off, proved-dead foot, proved-dead head" {
		t.Errorf("before the first test: %s", got)
	}
	passed := func(want ...string) {
		t.Helper()
		if got := gates.Passed(c); !slices.Equal(got, want) {
			t.Errorf("what is held confirmed: %q, not %q", got, want)
		}
	}
	asks := gates.Asks(c, gates.Before(c, test)) // the tester is proved before the first box and after the last
	if len(asks) != 2 || len(asks[1].Lines) != 4 || !strings.Contains(asks[1].Lines[1], "foot: every conductor") || !strings.HasPrefix(asks[1].Lines[3], "Tester proved again") {
		t.Errorf("on one card: %+v", asks)
	}
	passed()
	c.Gates = []circuit.Gate{{Gate: circuit.GateBreakerOff}, {Gate: circuit.GateProvedDead, Box: "foot"}}
	passed("Breaker 7 off, locked and labelled", "Proved dead: foot")
	if got := names(gates.Before(c, test)); got != "proved-dead head" {
		t.Errorf("with one box proved: %s", got)
	}
	live := circuit.Observation{Power: "on", Instrument: circuit.LampLook, Reading: "lit"}
	if got := names(gates.Before(c, live)); got != "power-on" {
		t.Errorf("before power: %s", got)
	}
	c.Gates = append(c.Gates, circuit.Gate{Gate: circuit.GatePowerOn})
	c.Observations = []circuit.Observation{live}
	if got := names(gates.Before(c, live)); got != "" {
		t.Errorf("the power is on already: %s", got)
	}
	passed("Breaker 7 may be on: what is bare is capped, nobody is near")
	if got := names(gates.Before(c, test)); got != "breaker-off, proved-dead foot, proved-dead head" {
		t.Errorf("after power: %s", got)
	}
	lifting := live
	lifting.Lifted = []circuit.Ref{{Owner: "s1", Part: "common"}}
	for _, c := range []*circuit.Circuit{c, back(t, c), takenBack(t, c)} {
		for name, next := range map[string]circuit.Observation{"dead": test, "live, with a wire lifted for it": lifting} {
			if got := names(gates.Before(c, next)); !strings.HasPrefix(got, "breaker-off, proved-dead foot") {
				t.Errorf("with the breaker on, %d readings and %v in the log, a test that is %s asks for %q", len(c.Observations), c.Gates, name, got)
			}
		}
	}
}

// back is the record before its last reading, as somebody who undoes that gets it.
func back(t *testing.T, newest *circuit.Circuit) *circuit.Circuit {
	t.Helper()
	c := newest.Clone()
	c.Observations, c.Gates = nil, c.Gates[:2]
	c.KeepGates(newest)
	return c
}

// takenBack is the record with its first reading taken back.
func takenBack(t *testing.T, c *circuit.Circuit) *circuit.Circuit {
	t.Helper()
	first := 0
	out, _, err := survey.Apply(c, survey.Unobserve{Index: &first})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// TestTwoBreakers: each breaker of a circuit is off by its own line, by its label.
func TestTwoBreakers(t *testing.T) {
	c := circuittest.Gangs(2, 2) // breakers without labels
	for _, b := range c.Boxes {
		if b.Kind != circuit.Switch {
			continue
		}
		need := gates.Before(c, circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: c.CoreEnds(b.ID)[:2]})
		if len(need) == 0 || need[0].Gate != circuit.GateBreakerOff || len(need[0].Confirm) != 2 || need[0].Confirm[0] == need[0].Confirm[1] {
			t.Errorf("two breakers feed %s: %+v", b.ID, need)
		}
	}
}
