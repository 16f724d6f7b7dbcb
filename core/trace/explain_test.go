package trace

import (
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// TestAcceptedTakenBack: a conductor that was taken for what it is not is what is named when
// nothing fits, not the honest reading that shows it.
func TestAcceptedTakenBack(t *testing.T) {
	c, h := surveyed(t)
	truth := trueRoles(h)
	end := at(t, named(h, "w1", "foot")+".black@foot")[0]
	other := at(t, named(h, "w3", "head")+".black@head")[0]
	wrong := electric.Load
	if truth[end] == electric.Load {
		wrong = electric.Line
	}
	c.Accepted = []circuit.Accepted{{End: end, As: string(wrong)}, {End: other, As: string(truth[end])}}
	r := trace(t, c)
	if r.Contradiction != nil {
		t.Fatalf("before any reading: %+v", r.Contradiction)
	}
	o := circuit.Observation{Power: "off", Instrument: circuit.Continuity, Lifted: []circuit.Ref{{Owner: "s1", Part: "common"}, {Owner: "s2", Part: "common"}},
		LampsOut: []string{"lamp1"}, At: []circuit.End{end, {Ref: circuit.Ref{Owner: "lamp1", Part: "l"}}}}
	for _, reading := range []string{"open", "closed"} {
		o.Reading = reading
		c.Observations = append(c.Observations[:0], o)
		if r = trace(t, c); r.Contradiction != nil {
			break
		}
	}
	if r.Contradiction == nil || len(r.Contradiction.Accepted) == 0 || len(r.Contradiction.Readings) > 0 || !strings.Contains(r.Contradiction.Recheck, "taken as") {
		t.Errorf("to take back: %+v", r.Contradiction)
	}
}

// TestFalseReport: what a customer says of a switch is a hypothesis. A flip and a look at the
// light are offered, one after the other; where the light changes, the report is named as
// what is not so, and not the readings.
func TestFalseReport(t *testing.T) {
	c, _ := surveyed(t)
	c.Reports = []circuit.Report{{Says: circuit.SaysNothing, Device: "s1"}}
	for i, reading := range []string{"lit", "dark"} {
		r := trace(t, c)
		if r.Look == nil || r.Look.Next == nil || r.Look.Next.Test.Instrument != circuit.LampLook || len(r.Look.Next.Test.Flipped) != i {
			t.Fatalf("look %d: %+v", i, r.Look)
		}
		o := r.Look.Next.Test
		o.Reading = reading
		c.Observations = append(c.Observations, o)
	}
	r := trace(t, c)
	if r.Look == nil || r.Look.Next != nil || !strings.Contains(r.Look.Text, "not so") {
		t.Errorf("after both looks: %+v", r.Look)
	}
	if r.Contradiction == nil || len(r.Contradiction.Reports) != 1 || !strings.Contains(r.Contradiction.Recheck, "broken") {
		t.Errorf("what clashes: %+v", r.Contradiction)
	}
	c.Observations[1].Reading = "lit"
	if r = trace(t, c); r.Look == nil || !strings.Contains(r.Look.Text, "wires stand wrong, or it is broken") {
		t.Errorf("where the light did not change: %+v", r.Look)
	}
	c.Cannot = []string{circuit.CannotLive}
	if r = trace(t, c); r.Look != nil {
		t.Error("offered to somebody who does no live work")
	}
}

// TestLooseCore: a core that hangs loose is told as why nothing fits, with the screw under
// which it would.
func TestLooseCore(t *testing.T) {
	c := circuittest.Straight()
	for i, j := range c.Joins {
		for n, m := range j.Of {
			if m.String() == "s2.t1" {
				loose := j.Of[1-n]
				c.Joins = append(c.Joins[:i:i], c.Joins[i+1:]...)
				c.Loose = []circuit.End{{Ref: loose, Box: j.Box}}
				r := trace(t, c)
				if r.Contradiction == nil || len(r.Contradiction.Records) == 0 || !strings.Contains(r.Contradiction.Records[0], "hangs loose") || !strings.Contains(r.Contradiction.Records[0], "switch at head") {
					t.Errorf("%+v", r.Contradiction)
				}
				return
			}
		}
	}
	t.Fatal("no such screw")
}
