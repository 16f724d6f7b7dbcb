package trace

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Describe says a test in the words of the practice, as one does it.
func Describe(say names.Terms, o circuit.Observation) string {
	return Conditions(say, o) + " " + say.Expand(names.Capitalize(Measure(say, o))+".")
}

// Conditions says how all stands while a test is made.
func Conditions(say names.Terms, o circuit.Observation) string {
	var parts []string
	if o.Power == "on" {
		parts = append(parts, "{breaker} on")
	} else {
		parts = append(parts, "{breaker} off")
	}
	if len(o.Lifted) > 0 {
		parts = append(parts, "lifted and capped: "+screws(say, o.Lifted))
	}
	for _, group := range o.Tied {
		parts = append(parts, "tied: "+ends(say, group))
	}
	if len(o.LampsOut) > 0 {
		parts = append(parts, "out of its socket: "+devices(say, o.LampsOut))
	}
	for _, id := range o.Flipped {
		parts = append(parts, "flipped: "+say.Device(id))
	}
	return say.Expand(strings.Join(parts, "; ") + ".")
}

// Measure says what is done with the instrument, without how all stands meanwhile.
func Measure(say names.Terms, o circuit.Observation) string {
	switch o.Instrument {
	case circuit.NonContact:
		return "hold the non-contact probe to " + ends(say, o.At)
	case circuit.TwoPole:
		return "two-pole tester between " + between(say, o.At)
	case circuit.Multimeter:
		return "multimeter, volts, between " + between(say, o.At)
	case circuit.Continuity:
		return "continuity between " + between(say, o.At)
	}
	if o.Light != "" {
		return "look at " + say.Device(o.Light)
	}
	return "look at the light"
}

func between(say names.Terms, at []circuit.End) string {
	var list []string
	for _, e := range at {
		list = append(list, End(say, e))
	}
	return strings.Join(list, " and ")
}

func ends(say names.Terms, at []circuit.End) string {
	var list []string
	for _, e := range at {
		list = append(list, End(say, e))
	}
	return strings.Join(list, ", ")
}

// End names an end as one points at it: the centre of a lamp's socket, a core.
func End(say names.Terms, e circuit.End) string {
	return say.End(e)
}

func devices(say names.Terms, ids []string) string {
	var list []string
	for _, id := range ids {
		list = append(list, say.Device(id))
	}
	return strings.Join(list, ", ")
}

func screws(say names.Terms, lifted []circuit.Ref) string {
	by := map[string][]string{}
	var order []string
	for _, r := range lifted {
		if by[r.Owner] == nil {
			order = append(order, r.Owner)
		}
		by[r.Owner] = append(by[r.Owner], say.Word(r.Part))
	}
	var parts []string
	for _, id := range order {
		parts = append(parts, strings.Join(by[id], ", ")+" of "+say.Device(id))
	}
	return strings.Join(parts, "; ")
}

// ReadingWords says a reading as a person would.
func ReadingWords(instrument string, reading any) string {
	switch r := reading.(type) {
	case float64:
		return fmt.Sprintf("%.0f V", r)
	case string:
		if w, ok := map[string]string{
			"live": "it sounds", "quiet": "it stays silent", "closed": "it beeps", "open": "no beep",
			"lit": "it is lit", "dark": "it is dark", circuit.Unclear: "cannot tell",
		}[r]; ok {
			return w
		}
	}
	return fmt.Sprint(reading)
}

// Readings lists what each instrument shows that gives no number, with how a person says it, the positive first.
func Readings() map[string][][2]string {
	out := map[string][][2]string{}
	for _, i := range Instruments {
		for _, r := range wordsOf(i.ID, 0) {
			if word, ok := r.(string); ok {
				out[i.ID] = append(out[i.ID], [2]string{word, ReadingWords(i.ID, word)})
			}
		}
	}
	return out
}

// Remark says what a person should know of a reading that settles nothing, or "".
func (t *Tracer) Remark(o circuit.Observation) string {
	if o.Reading == nil || o.Reading == circuit.Unclear || t.Worlds() == 0 {
		return ""
	}
	m := made{instrument: o.Instrument, lamp: t.lampOf(o), setup: t.prepare(o)}
	for _, e := range o.At {
		m.at = append(m.at, t.probe(e))
	}
	floating, all, either := 0, 0, 0
	for _, w := range t.worlds() {
		for _, n := range w.combinations {
			all++
			t.net.join(w.f, n, m.setup, w.nets)
			nets := w.f.classOf(n)
			if shows := t.net.shows(&m, nets, w.nets); shows&(shows-1) != 0 {
				either++
			}
			for _, p := range m.at {
				if m.setup.on && t.net.tied(t.net.place(p, nets, w.nets.of(p))) >= throughToReturn {
					floating++
					break
				}
			}
		}
	}
	say := names.For(t.doc)
	switch {
	case o.Instrument == circuit.NonContact && floating == all:
		return "This conductor floats: the probe may sound or not, so the reading counts for nothing. Use the two-pole tester, or lift the wire."
	case o.Instrument == circuit.NonContact && floating > 0:
		return "Where this conductor floats the probe may lie; a two-pole tester would not."
	case o.Instrument == circuit.Multimeter && floating > 0 && t.ghost(o):
		return "Ghost volts: a meter of high impedance shows them on a floating conductor beside a live one. A two-pole tester loads it and reads nothing."
	case o.Instrument == circuit.Multimeter && floating > 0:
		return "On a floating conductor a multimeter may show anything; a two-pole tester would not."
	case o.Instrument == circuit.Continuity && either == all:
		return say.Expand("Lamps, other loads or the {panel}’s bond may close this path, or not: it settles nothing.")
	}
	return ""
}

// ghost reports whether volts are neither none nor full.
func (t *Tracer) ghost(o circuit.Observation) bool { return t.readingBit(o) == third }

// teller puts into words what a tracer has found: it reads, and changes nothing that is known.
type teller struct {
	*Tracer
	say names.Terms
}

// tell says what is known in the words of the document's practice.
func (t *Tracer) tell() teller { return teller{t, names.For(t.doc)} }
