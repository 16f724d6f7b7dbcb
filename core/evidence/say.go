package evidence

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// All sentences of this room, in the words of the record's practice.

// reliance says a test, why it is made, and what follows where it reads differently.
func (p *plan) reliance(c candidate) Reliance {
	say := names.For(p.record)
	r := Reliance{At: c.test.At, Test: c.test, Right: c.right, Say: p.say(say, c)}
	at := make([]string, len(c.test.At))
	for i, e := range c.test.At {
		at[i] = say.End(e)
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
func (p *plan) say(say names.Terms, c candidate) string {
	at := make([]string, len(c.test.At))
	for i, e := range c.test.At {
		at[i] = say.End(e)
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
