package procedure

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/trace"
)

// tests writes the readings that a plan relies on, each with what follows where it reads differently. Those
// with the power on and all in place come before the breaker goes off, so that they cost no walk; the
// others once every box is proved dead, before anything comes off for good. What was read is not asked.
func (w *writer) tests(inPlace bool) {
	for _, r := range w.p.Option.Relies {
		if lies := r.Test.Power == "on" && len(r.Test.Lifted) == 0; lies != inPlace {
			continue
		}
		planned := r.Planned()
		box := ""
		for _, e := range planned.At {
			if e.Box != "" {
				box = e.Box
				break
			}
		}
		s := w.step(Preparing, KindTest, box, "%s", w.testText(r))
		s.At, s.Test, s.Right, s.Otherwise = planned.At, &r.Test, r.Right, r.Otherwise.Text
		if r.Test.Power == "on" && !inPlace {
			s.Gate, s.Asks = AgainGate, w.asks(AgainGate, "")
		}
	}
}

// testedDead reports whether a reading that the plan relies on waits for the boxes to be dead.
func (w *writer) testedDead() bool {
	return slices.ContainsFunc(w.p.Option.Relies, func(r evidence.Reliance) bool { return r.Test.Power != "on" || len(r.Test.Lifted) > 0 })
}

// read says what the record's readings showed of some conductors, each reading once, by its number.
func (w *writer) read(at []circuit.End) []string {
	var out []string
	for i, o := range w.p.Before.Observations {
		if o.Reading == nil || o.Reading == circuit.Unclear || !slices.ContainsFunc(o.At, func(e circuit.End) bool { return slices.Contains(at, e) }) {
			continue
		}
		out = append(out, fmt.Sprintf("Reading %d, %s: %s.", i+1, w.was.Expand(trace.Measure(w.was, o)), trace.ReadingWords(o.Instrument, o.Reading)))
	}
	return out
}

// testText says one of them as it is done.
func (w *writer) testText(r evidence.Reliance) string {
	test := r.Planned()
	var text []string
	var off []string
	for _, m := range test.Lifted {
		off = append(off, w.screw(w.p.Before, w.was, m))
	}
	if len(off) > 0 {
		text = append(text, "Take the wires off "+list(off)+" and cap each.")
	}
	var lamps []string
	for _, id := range test.LampsOut {
		lamps = append(lamps, w.was.Short(id))
	}
	if len(lamps) > 0 {
		text = append(text, "Take out "+list(lamps)+".")
	}
	live := test.Power == "on"
	if live && len(off) > 0 {
		text = append(text, "{breaker} on.")
	}
	var at []string
	for _, e := range test.At {
		if e.Box != "" {
			at = append(at, w.core(w.p.Before, w.was, e)+" in "+w.was.Box(e.Box))
		} else {
			at = append(at, w.screw(w.p.Before, w.was, e.Ref))
		}
	}
	switch test.Instrument {
	case circuit.Continuity:
		want := "it must stay silent"
		if r.Right == "closed" {
			want = "it must beep"
		}
		text = append(text, fmt.Sprintf("Meter on continuity, from %s: %s.", strings.Join(at, " to "), want))
	case circuit.TwoPole:
		text = append(text, fmt.Sprintf("Parts are live. Tester between %s: it must show %v V.", strings.Join(at, " and "), r.Right))
	default:
		text = append(text, fmt.Sprintf("Parts are live. Non-contact probe at %s: it must be %v.", strings.Join(at, " and "), r.Right))
	}
	if live && len(off) > 0 {
		text = append(text, "{breaker} off, locked again; prove dead again.")
	}
	if len(off) > 0 {
		text = append(text, "Put back what does not move.")
	}
	return strings.Join(append(text, "If not: "+r.Otherwise.Text), " ")
}
