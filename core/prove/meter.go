package prove

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
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
func (w *work) sameAsRight(m Mistake) bool {
	wrong := electric.New(w.make(m))
	var ends []circuit.End
	for _, e := range w.all {
		if e.Part != "ground" && !(e.Box != "" && circuit.GroundColour(e.Part)) {
			ends = append(ends, e)
		}
	}
	itself := func(e circuit.End) circuit.End { return e }
	if w.right == "" {
		w.right = conductors(electric.New(w.doc), ends, itself)
	}
	right := w.right
	if conductors(wrong, ends, itself) == right {
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
			if conductors(wrong, ends, renamed) == right {
				return true
			}
		}
	}
	return false
}

// surely is what continuity between two ends shows with the power off and every lamp out, however
// switches and relays stand: "closed", "open", or "" where that depends, or electronics may pass something.
func (w *work) surely(c *circuit.Circuit, lifted []circuit.Ref, rest bool) func(a, b circuit.End) string {
	under := electric.Conditions{}
	for _, r := range lifted {
		under.Lifted = append(under.Lifted, circuit.End{Ref: r})
	}
	for _, d := range c.Devices {
		switch d.Type {
		case circuit.TypeLamp:
			under.LampsOut = append(under.LampsOut, d.ID)
		case circuit.TypeSupply:
			under.BreakersOff = append(under.BreakersOff, d.ID)
		}
	}
	n := electric.NewUnder(c, under)
	may := map[int][]int{} // conductors that contacts or electronics may join
	for _, d := range c.Devices {
		for _, pair := range mayJoin(c, d, rest) {
			x, y := n.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: pair[0]}}), n.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: pair[1]}})
			may[x], may[y] = append(may[x], y), append(may[y], x)
		}
	}
	return func(a, b circuit.End) string {
		x, y := n.Class(a), n.Class(b)
		if x < 0 || y < 0 {
			return ""
		}
		if x == y {
			return "closed"
		}
		met := map[int]bool{x: true}
		for todo := []int{x}; len(todo) > 0; todo = todo[1:] {
			for _, k := range may[todo[0]] {
				if !met[k] {
					met[k] = true
					todo = append(todo, k)
				}
			}
		}
		if met[y] {
			return ""
		}
		return "open"
	}
}

// mayJoin lists the pairs of screws that a device may join: by a contact as it may stand, or
// through what is in it. With rest its relays are at nought, as before anything was pressed.
func mayJoin(c *circuit.Circuit, d circuit.Device, rest bool) [][2]string {
	switch d.Type {
	case circuit.TypeSinglePole:
		return [][2]string{{"a", "b"}}
	case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
		return [][2]string{{"common", "t1"}, {"common", "t2"}}
	case circuit.TypeFourWay:
		return [][2]string{{"a1", "b1"}, {"a1", "b2"}, {"a2", "b1"}, {"a2", "b2"}}
	case circuit.TypeReceptacle: // whatever is plugged in
		return [][2]string{{"l", "n"}}
	case circuit.TypeSmart:
		m := c.Models[d.Model]
		out := slices.Clone(m.Supply)
		for _, r := range m.Switches {
			throws := r.Throws
			if rest { // open, or on the first of two
				throws = throws[:len(throws)-1]
			}
			for _, t := range throws {
				out = append(out, [2]string{r.Pole, t})
			}
		}
		for _, in := range m.Inputs {
			if in.To != "" {
				out = append(out, [2]string{in.Terminal, in.To})
			}
		}
		return out
	}
	return nil
}

// positions lists how switches and relays may stand.
func positions(n *electric.Network) []electric.State {
	out := []electric.State{0}
	for i, bit := range n.Bits() {
		if i == mostBits {
			break
		}
		for _, s := range out {
			out = append(out, s|bit)
		}
	}
	return out
}

// volts is what a two-pole tester shows between two ends with the power on, however switches
// stand; ok is false where that depends, nobody can tell, or the breaker trips.
func (w *work) volts(c *circuit.Circuit) func(a, b circuit.End) (volts float64, ok bool) {
	n := electric.New(c)
	var solved []*electric.Solution
	for _, s := range positions(n) {
		solved = append(solved, n.Solve(s))
	}
	return func(a, b circuit.End) (float64, bool) {
		first := 0.0
		for i, s := range solved {
			x, known := s.Volts(a)
			y, also := s.Volts(b)
			if v := math.Abs(x - y); !known || !also || s.Tripped || i > 0 && v != first {
				return 0, false
			} else if i == 0 {
				first = v
			}
		}
		return first, true
	}
}

// mostBits bounds the positions of switches for which a reading is looked at.
const mostBits = 10

// meter finds a reading that shows a mistake: continuity, with the power off, between an end of
// it and another; where that cannot be, volts.
func (w *work) meter(m Mistake) (Metered, bool) {
	when := ""
	test, right, ok := w.tell(w.doc, w.make(m), m.Ends, false)
	if !ok {
		when = " Before anything is pressed."
		test, right, ok = w.tell(w.doc, w.make(m), m.Ends, true)
	}
	if !ok {
		return Metered{}, false
	}
	return Metered{m, test, right, w.text(m) + when + " " + w.reading(test, right) + " where the work is right."}, true
}

// reading says a reading as one makes it.
func (w *work) reading(o circuit.Observation, shown any) string {
	a, b := w.say.End(o.At[0]), w.say.End(o.At[1])
	if o.Power == "on" {
		return fmt.Sprintf("Power on, nobody near what is bare: the tester shows %v V between %s and %s", shown, a, b)
	}
	lifted := ""
	if len(o.Lifted) > 0 {
		var names []string
		for _, r := range o.Lifted {
			names = append(names, r.String())
		}
		lifted = ", the wires lifted off " + strings.Join(names, ", ")
	}
	return fmt.Sprintf("Power off and proved dead, lamps out%s: continuity between %s and %s is %v", lifted, a, b, shown)
}

// tell finds a reading at some ends that tells two circuits apart for certain, and what it shows
// in the first: however relays stand or, with rest, while they are at nought.
func (w *work) tell(one, two *circuit.Circuit, ends []circuit.End, rest bool) (test circuit.Observation, shown any, ok bool) {
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
	for _, d := range w.doc.Devices { // a relay may join two screws: one of them is lifted
		for _, t := range w.doc.Terminals(d) {
			if d.Type == circuit.TypeSmart && d.Box == box && t != "ground" {
				liftings = append(liftings, []circuit.Ref{{Owner: d.ID, Part: t}})
			}
		}
	}
	for _, lifted := range liftings {
		first, second := w.surely(one, lifted, rest), w.surely(two, lifted, rest)
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
	first, second := w.volts(one), w.volts(two)
	for _, e := range ends {
		for _, f := range w.against(box, others) {
			a, ok := first(e, f)
			b, also := second(e, f)
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
