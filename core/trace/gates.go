package trace

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// GateNeed is what a person confirms before a test: that the breaker is off, that a box
// was proved dead, or that the power may go on. Confirm lists what is confirmed one by
// one.
type GateNeed struct {
	Gate    string   `json:"gate"`
	Box     string   `json:"box,omitempty"`
	Text    string   `json:"text"`
	Confirm []string `json:"confirm"`
}

// Gates lists what must still be confirmed before a test: each once since the breaker
// was last moved. Proving dead is done at every box that is touched.
func Gates(c *circuit.Circuit, test circuit.Observation) []GateNeed {
	say := inspect.Speak(c)
	// A gate holds while the power stays as it was; the readings say when it changed.
	since := 0
	for i, o := range c.Observations {
		if (o.Power == "on") != (test.Power == "on") {
			since = i + 1
		}
	}
	passed := func(gate, box string) bool {
		return slices.ContainsFunc(c.Gates, func(g circuit.Gate) bool { return g.Gate == gate && g.Box == box && g.After >= since })
	}
	need := []GateNeed{}
	if test.Power == "on" {
		sameLift := since < len(c.Observations) && slices.Equal(c.Observations[len(c.Observations)-1].Lifted, test.Lifted)
		if passed(circuit.GatePowerOn, "") && (sameLift || since == len(c.Observations)) {
			return need
		}
		return append(need, GateNeed{Gate: circuit.GatePowerOn, Text: say.Fill("Before the {breaker} goes on"), Confirm: []string{
			"Every bare end is capped, each on its own; nothing touches",
			"People, children and pets are kept away from every open box",
			"I may do this work by law, and do it knowing that parts will be live",
		}})
	}
	if !passed(circuit.GateBreakerOff, "") {
		need = append(need, GateNeed{Gate: circuit.GateBreakerOff, Text: "Before anything is touched", Confirm: []string{
			say.Fill("{breaker} off, locked and labelled"),
		}})
	}
	for _, box := range touched(c, test) {
		if passed(circuit.GateProvedDead, box) {
			continue
		}
		need = append(need, GateNeed{Gate: circuit.GateProvedDead, Box: box, Text: "Prove dead: " + say.Box(box), Confirm: []string{
			"Tester proved on a known live source",
			say.Fill("Every conductor in the box tested: dead, {neutral} too"),
			"Tester proved again on the live source",
		}})
	}
	return need
}

// touched lists the opened boxes in which a test puts a hand.
func touched(c *circuit.Circuit, test circuit.Observation) []string {
	var out []string
	add := func(box string) {
		if b := c.Box(box); b != nil && b.Seen() && !slices.Contains(out, box) {
			out = append(out, box)
		}
	}
	of := func(r circuit.Ref, box string) {
		if d := c.Device(r.Owner); d != nil {
			box = d.Box
		}
		add(box)
	}
	for _, r := range test.Lifted {
		of(r, "")
	}
	for _, e := range test.At {
		of(e.Ref, e.Box)
	}
	for _, group := range test.Tied {
		for _, e := range group {
			of(e.Ref, e.Box)
		}
	}
	return out
}
