package evidence

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// All sentences of this room, in the words of the record's practice.

// reliance says a test, why it is made, and what follows where it reads differently.
func (p *plan) reliance(c candidate) Reliance {
	say := inspect.TermsFor(p.record)
	r := Reliance{At: c.test.At, Test: c.test, Right: c.right, Say: p.say(say, c)}
	at := make([]string, len(c.test.At))
	for i, e := range c.test.At {
		at[i] = p.name(say, e)
	}
	lifted := len(c.test.Lifted) > 0
	switch {
	case c.test.Instrument == circuit.Continuity && c.right == closed:
		r.Text = fmt.Sprintf("Not tested yet: %s and %s are one wire.", at[0], at[1])
		r.Otherwise.Text = "They are two wires. Enter the reading and plan again: the plan takes other cores then."
	case c.test.Instrument == circuit.Continuity:
		r.Text = fmt.Sprintf("Not tested yet: %s and %s are two wires.", at[0], at[1])
		r.Otherwise.Text = "They are one wire. Enter the reading and plan again: the plan takes other cores then."
	case !lifted:
		r.Text = say.Expand("Not tested yet: which feed wire is {line}.")
		r.Otherwise.Text = say.Expand("{line} and {neutral} are swapped at the feed. Put that right at the {panel} first.")
	case c.right == "quiet":
		r.Text = fmt.Sprintf("Not tested yet: %s is %s.", at[0], say.Word("neutral"))
		r.Otherwise.Text = "It is live. Enter the reading and plan again."
	default:
		r.Text = fmt.Sprintf("Not tested yet: %s is %s.", at[0], say.Word("line"))
		r.Otherwise.Text = "It is dead. Enter the reading and plan again."
	}
	return r
}

// say says a test as one does it.
func (p *plan) say(say inspect.Terms, c candidate) string {
	at := make([]string, len(c.test.At))
	for i, e := range c.test.At {
		at[i] = p.name(say, e)
	}
	text := "{breaker} off. "
	if c.test.Power == "on" {
		text = "{breaker} on, parts are live. "
	}
	if len(c.test.Lifted) > 0 {
		text += "Wires off the switches and capped. "
	}
	if len(c.test.LampsOut) > 0 {
		text += "Lamps out. "
	}
	switch {
	case c.test.Instrument == circuit.Continuity && c.right == closed:
		text += "Continuity, " + strings.Join(at, " to ") + ": must beep."
	case c.test.Instrument == circuit.Continuity:
		text += "Continuity, " + strings.Join(at, " to ") + ": must stay silent."
	case c.test.Instrument == circuit.TwoPole:
		text += fmt.Sprintf("Tester, %s: must show %v V.", strings.Join(at, " to "), c.right)
	default:
		text += fmt.Sprintf("Non-contact probe, %s: must be %v.", at[0], c.right)
	}
	return say.Expand(text)
}

// name names an end by where its cable goes and where it is.
func (p *plan) name(say inspect.Terms, e circuit.End) string {
	k := p.record.Cable(e.Owner)
	if k == nil {
		part := e.Part
		if role, lamp := map[string]string{"l": "line", "n": "neutral"}[e.Part]; lamp {
			part = role
		}
		return fmt.Sprintf("the %s terminal of %s", say.Word(part), p.record.Called(e.Owner))
	}
	name := e.Part
	if far, ok := k.Other(e.Box); ok {
		name += " to " + say.Box(far)
		for _, other := range p.record.Cables { // two that go the same way
			if other.ID != k.ID && other.In(e.Box) && other.In(far) {
				name += " (" + k.ID + ")"
				break
			}
		}
	} else {
		name += " of " + k.ID
	}
	return name + " at " + say.Box(e.Box)
}
