package procedure

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestStepsOfTheTrade: what an electrician does without being told is a step: boxes opened for tracing are closed, remotes are
// fixed to the wall once they are paired, radio in a box of metal is tried before the plate goes on.
func TestStepsOfTheTrade(t *testing.T) {
	steps := func(c *circuit.Circuit, strategy string) []Step {
		t.Helper()
		for _, o := range retrofit.Plan(c).Options {
			if o.Strategy == strategy && o.Feasible {
				return For(inspect.Compile(c), &o, nil).Steps
			}
		}
		t.Fatalf("no option of %s", strategy)
		return nil
	}
	at := func(list []Step, words string) int {
		return slices.IndexFunc(list, func(s Step) bool { return strings.Contains(s.Text, words) })
	}

	c := circuittest.Straight()
	if at(steps(c, retrofit.SensingSwitch), "It was opened to trace") >= 0 {
		t.Error("a box that was never opened is closed")
	}
	c.Observations = []circuit.Observation{{Power: "off", Instrument: circuit.Continuity, Reading: "open",
		At: []circuit.End{{Ref: circuit.Ref{Owner: "w2", Part: "black"}, Box: "foot"}, {Ref: circuit.Ref{Owner: "w2", Part: "red"}, Box: "foot"}}}}
	list := steps(c, retrofit.SensingSwitch)
	closed, on := at(list, "It was opened to trace"), -1
	for i, s := range list {
		if s.Kind == KindPowerOn {
			on = i
		}
	}
	if closed < 1 || list[closed-1].Gate != DeadGate || list[closed-1].Box != list[closed].Box || closed > on {
		t.Errorf("the box that was opened to trace is closed at step %d, and the breaker put on at %d", closed+1, on+1)
	}

	c = circuittest.Straight()
	list = steps(c, retrofit.MainRemote)
	paired, fixed, tried := at(list, "Pair "), at(list, "on the wall. "), at(list, "Try this place")
	if paired < 0 || fixed < paired || tried < fixed || !strings.Contains(list[fixed].Text, "Not on") {
		t.Errorf("paired at %d, fixed at %d, tried at %d", paired+1, fixed+1, tried+1)
	}
	if at(list, "weakens radio") >= 0 {
		t.Error("a box of unknown material is taken for metal")
	}
	for i := range c.Boxes {
		c.Boxes[i].Material = circuit.Metal
	}
	if at(steps(c, retrofit.MainRemote), "weakens radio") < 0 {
		t.Error("nothing is said of radio in a box of metal")
	}
}
