package prove

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// conductors numbers what hangs together without any switch: the first end of each conductor
// stands for it. Ends may be called by other names, to find whether two like ones only changed
// places.
func conductors(n *electric.Network, ends []circuit.End, name func(circuit.End) circuit.End) string {
	class := make(map[circuit.End]int, len(ends))
	for _, e := range n.Ends() {
		class[name(e)] = n.Class(e)
	}
	number := map[int]int{}
	var out strings.Builder
	for _, e := range ends {
		k, known := class[e]
		if !known {
			k = -1
		}
		if _, met := number[k]; !met {
			number[k] = len(number)
		}
		fmt.Fprintf(&out, "%d ", number[k])
	}
	return out.String()
}

// likeScrews are pairs of screws that a switch does not tell apart.
var likeScrews = map[string][][2][]string{
	circuit.TypeSinglePole:     {{{"a"}, {"b"}}},
	circuit.TypeThreeWay:       {{{"t1"}, {"t2"}}},
	circuit.TypeThreeWayDimmer: {{{"t1"}, {"t2"}}},
	circuit.TypeFourWay:        {{{"a1"}, {"a2"}}, {{"b1"}, {"b2"}}, {{"a1", "a2"}, {"b1", "b2"}}},
}

// likes lists the screws of a device that it does not tell apart. Of a smart one those are any two
// that its model would not miss if they were called by each other's name.
func (w *work) likes(d circuit.Device) [][2][]string {
	if d.Type != circuit.TypeSmart {
		return likeScrews[d.Type]
	}
	var out [][2][]string
	m := w.doc.Models[d.Model]
	for i, a := range m.Terminals {
		for _, b := range m.Terminals[:i] {
			if a != "ground" && b != "ground" && described(m, nil) == described(m, map[string]string{a: b, b: a}) {
				out = append(out, [2][]string{{b}, {a}})
			}
		}
	}
	return out
}

// described writes a model with other names for some terminals, so that order says nothing.
func described(m circuit.Model, names map[string]string) string {
	name := func(t string) string {
		if to, ok := names[t]; ok {
			return to
		}
		return t
	}
	var out []string
	for _, pair := range m.Supply {
		out = append(out, "supply "+name(pair[0])+" "+name(pair[1]))
	}
	for _, r := range m.Switches {
		var throws []string
		for _, t := range r.Throws {
			throws = append(throws, name(t))
		}
		slices.Sort(throws)
		out = append(out, "switch "+name(r.Pole)+" "+strings.Join(throws, " "))
	}
	for _, in := range m.Inputs {
		of := []string{name(in.Terminal), name(in.To)}
		slices.Sort(of)
		out = append(out, "input "+in.On+" "+strings.Join(of, " "))
	}
	for t, net := range m.Needs {
		out = append(out, "needs "+name(t)+" "+net)
	}
	if m.Button != nil {
		out = append(out, "button "+name(m.Button.Pulse))
	}
	slices.Sort(out)
	return strings.Join(out, ", ")
}

// sameAsRight reports whether a mistake leaves each end joined to what it belongs to, but for
// which of two like ends stands where.
func (w *work) sameAsRight(m Mistake, wrong *electric.Network) bool {
	if w.identical(wrong) {
		return true
	}
	box := w.boxOf(m.Ends[0])
	for _, d := range w.doc.Devices {
		if d.Box != box {
			continue
		}
		for _, pair := range w.likes(d) {
			renamed := func(e circuit.End) circuit.End {
				if e.Owner != d.ID {
					return e
				}
				for i := range pair[0] {
					switch e.Part {
					case pair[0][i]:
						e.Part = pair[1][i]
					case pair[1][i]:
						e.Part = pair[0][i]
					default:
						continue
					}
					break
				}
				return e
			}
			if conductors(wrong, w.bare, renamed) == w.together {
				return true
			}
		}
	}
	return false
}

// identical reports whether a mistake leaves each end joined to what it belongs to.
func (w *work) identical(wrong *electric.Network) bool {
	return conductors(wrong, w.bare, func(e circuit.End) circuit.End { return e }) == w.together
}

// meter finds a reading that shows a mistake: continuity, with the power off, between an end of
// it and another; where that cannot be, volts.
func (w *work) meter(m Mistake, read *sample) (Metered, bool) {
	when := ""
	test, right, ok := w.tell(w.read, read, m.Ends, false)
	if !ok {
		when = " Before anything is pressed."
		test, right, ok = w.tell(w.read, read, m.Ends, true)
	}
	if !ok {
		return Metered{}, false
	}
	return Metered{m, test, right, names.Capitalize(w.text(m)) + when + " " + w.reading(test, right) + " where the work is right."}, true
}

// atLines are the readings that show at each device whether its line screw is live while the light is off: one that stands
// with line and load exchanged may do all that is seen of it, and so may one with line and neutral exchanged where
// walls are not as recorded.
func (w *work) atLines() []Metered {
	var out []Metered
	for _, d := range w.doc.Devices {
		line := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "line"}}
		if d.Type != circuit.TypeSmart || !slices.Contains(w.ends, line) {
			continue
		}
		for _, e := range w.against(d.Box, w.all) {
			if right, ok := w.read.volts(line, e); e != line && ok && right >= w.say.Volts/2 {
				test := circuit.Observation{Power: "on", Instrument: circuit.TwoPole, At: []circuit.End{line, e}}
				out = append(out, Metered{Test: test, Right: right, Text: w.reading(test, right) + " with the light off."})
				break
			}
		}
	}
	return out
}

// shownBy is a mistake with the first of some readings that shows it while the light is off.
func (w *work) shownBy(list []Metered, m Mistake, wrong *sample) (Metered, bool) {
	for _, x := range list {
		if volts, ok := wrong.voltsOff(x.Test.At[0], x.Test.At[1]); ok && math.Abs(volts-x.Right.(float64)) >= w.say.Volts/2 {
			x.Mistake, x.Text = m, names.Capitalize(w.text(m))+" "+x.Text
			return x, true
		}
	}
	return Metered{}, false
}

// reading says a reading as one makes it.
func (w *work) reading(o circuit.Observation, shown any) string {
	a, b := w.say.End(o.At[0]), w.say.End(o.At[1])
	if o.Power == "on" {
		return fmt.Sprintf("Power on, nobody near what is bare: the tester shows %v V between %s and %s", shown, a, b)
	}
	lifted := ""
	if len(o.Lifted) > 0 {
		var screws []string
		for _, r := range o.Lifted {
			screws = append(screws, w.say.End(circuit.End{Ref: r}))
		}
		lifted = ", the wires lifted off " + strings.Join(screws, ", ")
	}
	return fmt.Sprintf("Power off and proved dead, lamps out%s: continuity between %s and %s is %v", lifted, a, b, shown)
}

// tell finds a reading at some ends that tells two circuits apart for certain, and what it shows
// in the first: however relays stand or, with rest, while they are at nought.
func (w *work) tell(one, two *sample, ends []circuit.End, rest bool) (test circuit.Observation, shown any, ok bool) {
	lamps := []string{}
	var screws []circuit.Ref
	for _, d := range w.doc.Devices {
		switch {
		case d.Type == circuit.TypeLamp:
			lamps = append(lamps, d.ID)
		case d.Mechanical():
			for _, t := range w.doc.Terminals(d) {
				if t != "ground" {
					screws = append(screws, circuit.Ref{Owner: d.ID, Part: t})
				}
			}
		}
	}
	box := w.boxOf(ends[0])
	var others, grounds []circuit.End
	near := func(e circuit.End) bool { return w.boxOf(e) == box }
	for _, e := range w.all {
		if e.Part == "ground" || e.Box != "" && circuit.GroundColour(e.Part) {
			if e.Box == box {
				grounds = append(grounds, e)
			}
			continue
		}
		others = append(others, e)
	}
	slices.SortStableFunc(others, func(a, b circuit.End) int { // in the same box first
		switch {
		case near(a) && !near(b):
			return -1
		case near(b) && !near(a):
			return 1
		}
		return 0
	})
	others = append(others, grounds...) // the panel's bond joins neutral to them, so they come last
	liftings := [][]circuit.Ref{nil, screws}
	var farther [][]circuit.Ref
	for _, d := range w.doc.Devices { // a relay may join two screws: one of them is lifted
		for _, t := range w.doc.Terminals(d) {
			lift := []circuit.Ref{{Owner: d.ID, Part: t}}
			switch {
			case d.Type != circuit.TypeSmart || t == "ground":
			case d.Box == box:
				liftings = append(liftings, lift)
			default:
				farther = append(farther, lift)
			}
		}
	}
	liftings = append(liftings, farther...)
	for _, lifted := range liftings {
		first, second := one.surely(lifted, rest), two.surely(lifted, rest)
		for _, e := range ends {
			for _, f := range others {
				if e == f || slices.Contains(lifted, e.Ref) && e.Box == "" || slices.Contains(lifted, f.Ref) && f.Box == "" {
					continue
				}
				if a, b := first(e, f), second(e, f); a != "" && b != "" && a != b {
					return circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{e, f}, LampsOut: lamps, Lifted: lifted}, a, true
				}
			}
		}
	}
	for _, e := range ends {
		for _, f := range w.against(box, others) {
			a, ok := one.volts(e, f)
			b, also := two.volts(e, f)
			if e != f && ok && also && math.Abs(a-b) >= w.say.Volts/2 {
				return circuit.Observation{Power: "on", Instrument: circuit.TwoPole, At: []circuit.End{e, f}}, a, true
			}
		}
	}
	return circuit.Observation{}, nil, false
}

// against lists what a tester is held against in a box: a ground first.
func (w *work) against(box string, others []circuit.End) []circuit.End {
	var out []circuit.End
	for _, m := range w.doc.EndsIn(box) {
		if circuit.GroundColour(m.Part) {
			out = append(out, circuit.End{Ref: m, Box: box})
		}
	}
	for _, e := range others {
		if w.boxOf(e) == box {
			out = append(out, e)
		}
	}
	return out
}
