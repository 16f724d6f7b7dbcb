package gates

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Need is what a person confirms before a test: that the breaker is off, that a box
// was proved dead, or that the power may go on. Confirm lists what is confirmed one by
// one.
type Need struct {
	Gate    string   `json:"gate"`
	Box     string   `json:"box,omitempty"`
	Text    string   `json:"text"`
	Confirm []string `json:"confirm"`
	// Conductors are what is proved dead, one by one: any of them may turn out to be live.
	Conductors []circuit.End `json:"conductors,omitempty"`
}

// Before lists what must still be confirmed before a test. How the breaker stands is a fact of
// the log: of the gates in the order in which they were passed, and of readings made with
// the power on. Nothing that takes a reading back takes that back, nor going back to an older
// record ([circuit.Circuit.KeepGates]). Whoever lifts a wire, or
// puts one back, does so with the breaker off and the box proved dead, before a live test
// too.
func Before(c *circuit.Circuit, test circuit.Observation) []Need {
	say := names.For(c)
	off, on := c.LastGate(circuit.GateBreakerOff), c.LastGate(circuit.GatePowerOn)
	isOff := off >= 0 && !c.BreakerOn()
	need := []Need{}
	live := test.Power == "on"
	boxes := seen(c, Touched(c, test))
	if live {
		boxes = moved(c, test)
	} else {
		isOff = isOff && off > on
	}
	after := off // the gate that the power may go on after
	if !live || len(boxes) > 0 {
		if !isOff {
			need = append(need, Need{Gate: circuit.GateBreakerOff, Text: "Before anything is touched", Confirm: Off(c, say)})
		}
		for _, box := range boxes {
			dead := slices.IndexFunc(c.Gates, func(g circuit.Gate) bool { return g.Gate == circuit.GateProvedDead && g.Box == box })
			for i, g := range c.Gates {
				if g.Gate == circuit.GateProvedDead && g.Box == box {
					dead = i
				}
			}
			if isOff && dead > off {
				after = max(after, dead)
				continue
			}
			need = append(need, Need{Gate: circuit.GateProvedDead, Box: box, Conductors: c.CoreEnds(box), Text: "Prove dead: " + say.Box(box), Confirm: []string{testerProved, say.Expand(boxDead), testerAgain}})
		}
	}
	if live && (len(need) > 0 || on <= after) {
		need = append(need, Need{Gate: circuit.GatePowerOn, Text: "Before the power goes on", Confirm: Live()})
	}
	return need
}

// Ask is what a person confirms in one go: gates of one kind together.
type Ask struct {
	Title string   `json:"title"`
	Lines []string `json:"lines"`
}

// Asks puts gates into what is asked, on one card: where several boxes are proved dead one after the
// other, the tester is proved before the first and after the last.
func Asks(c *circuit.Circuit, gates []Need) []Ask {
	say := names.For(c)
	out := []Ask{}
	var dead []Need
	for _, g := range gates {
		if g.Gate == circuit.GateProvedDead {
			dead = append(dead, g)
		}
	}
	for _, g := range gates {
		switch {
		case g.Gate != circuit.GateProvedDead || len(dead) == 1:
			out = append(out, Ask{g.Text, g.Confirm})
		case g.Box == dead[0].Box:
			var boxes []string
			for _, of := range dead {
				boxes = append(boxes, of.Box)
			}
			out = append(out, Ask{"Prove each box dead", Dead(say, boxes...)})
		}
	}
	return out
}

// Passed says what was confirmed already and holds: that the breaker is off, and which boxes were proved
// dead since; or that the power may be on.
func Passed(c *circuit.Circuit) []string {
	say := names.For(c)
	out := []string{}
	off := c.LastGate(circuit.GateBreakerOff)
	switch {
	case c.LastGate(circuit.GatePowerOn) > off:
		return append(out, breakers(c, say)+" may be on: what is bare is capped, nobody is near")
	case c.BreakerOn() || off < 0:
		return out
	}
	out = append(out, breakers(c, say)+" off, locked and labelled")
	var dead []string
	for _, g := range c.Gates[off+1:] {
		if name := say.Box(g.Box); g.Gate == circuit.GateProvedDead && !slices.Contains(dead, name) {
			dead = append(dead, name)
		}
	}
	if len(dead) > 0 {
		out = append(out, "Proved dead: "+strings.Join(dead, ", "))
	}
	return out
}

// breakers names the breaker of each supply by its label.
func breakers(c *circuit.Circuit, say names.Terms) string {
	return names.Capitalize(strings.Join(say.Breakers(), " and "))
}

// moved lists the opened boxes in which wires are lifted, put back or tied between the last
// reading and a test.
func moved(c *circuit.Circuit, test circuit.Observation) []string {
	var last circuit.Observation
	for _, o := range c.Observations {
		if o.Reading != nil {
			last = o
		}
	}
	change := circuit.Observation{Lifted: slices.DeleteFunc(slices.Concat(test.Lifted, last.Lifted), func(r circuit.Ref) bool {
		return slices.Contains(test.Lifted, r) && slices.Contains(last.Lifted, r)
	})}
	if !slices.EqualFunc(test.Tied, last.Tied, func(a, b []circuit.End) bool { return slices.Equal(a, b) }) {
		change.Tied = slices.Concat(test.Tied, last.Tied)
	}
	return seen(c, Touched(c, change))
}

// seen are those of some boxes that were opened.
func seen(c *circuit.Circuit, boxes []string) []string {
	return slices.DeleteFunc(boxes, func(box string) bool { b := c.Box(box); return b == nil || !b.Seen() })
}

// Touched lists the boxes in which a test puts a hand, each once.
func Touched(c *circuit.Circuit, test circuit.Observation) []string {
	var out []string
	of := func(r circuit.Ref, box string) {
		if d := c.Device(r.Owner); d != nil {
			box = d.Box
		}
		if box != "" && !slices.Contains(out, box) {
			out = append(out, box)
		}
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
