package prove

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// conductors numbers what hangs together without any switch: the first end of each conductor
// stands for it. Ends may be called by other names, to find whether two like ones only changed
// places.
func conductors(c *circuit.Circuit, ends []circuit.End, name func(circuit.End) circuit.End) string {
	n := electric.New(c)
	class := map[circuit.End]int{}
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

// sameAsRight reports whether a mistake leaves each end joined to what it belongs to, but for
// which of two like ends stands where.
func (w *work) sameAsRight(m Mistake) bool {
	wrong := w.make(m)
	var ends []circuit.End
	for _, e := range electric.New(w.doc).Ends() {
		if e.Part != "ground" && !(e.Box != "" && circuit.GroundColour(e.Part)) {
			ends = append(ends, e)
		}
	}
	itself := func(e circuit.End) circuit.End { return e }
	right := conductors(w.doc, ends, itself)
	if conductors(wrong, ends, itself) == right {
		return true
	}
	box := w.boxOf(m.Ends[0])
	for _, d := range w.doc.Devices {
		if d.Box != box {
			continue
		}
		for _, pair := range likeScrews[d.Type] {
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
// switches stand: "closed", "open", or "" where that depends, or electronics may pass something.
func (w *work) surely(c *circuit.Circuit, lifted []circuit.Ref) func(a, b circuit.End) string {
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
	var solved []*electric.Solution
	positions := []electric.State{0} // of the switches that hands move; relays stand at nought
	for i, bit := range n.MechanicalBits() {
		if i == mostBits {
			break
		}
		for _, s := range positions {
			positions = append(positions, s|bit)
		}
	}
	for _, s := range positions {
		solved = append(solved, n.Solve(s))
	}
	loads := map[int][]int{} // conductors that electronics join
	for _, d := range c.Devices {
		if d.Type != circuit.TypeSmart && d.Type != circuit.TypeReceptacle {
			continue
		}
		var of []int
		for _, t := range c.Terminals(d) {
			of = append(of, n.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}))
		}
		for _, k := range of {
			loads[k] = append(loads[k], of...)
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
			for _, k := range loads[todo[0]] {
				if !met[k] {
					met[k] = true
					todo = append(todo, k)
				}
			}
		}
		if met[y] || slices.ContainsFunc(solved, func(s *electric.Solution) bool { return s.Together(a, b) }) || len(loads[x]) > 0 && len(loads[y]) > 0 {
			return ""
		}
		return "open"
	}
}

// mostBits bounds the positions of switches for which a reading is looked at.
const mostBits = 10

// meter finds a reading that shows a mistake: continuity, with the power off, between an end of
// it and another.
func (w *work) meter(m Mistake) (Metered, bool) {
	wrong := w.make(m)
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
	var others []circuit.End
	box := w.boxOf(m.Ends[0])
	near := func(e circuit.End) bool { return w.boxOf(e) == box }
	for _, e := range electric.New(w.doc).Ends() {
		if e.Part != "ground" && !(e.Box != "" && circuit.GroundColour(e.Part)) {
			others = append(others, e)
		}
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
	for _, lifted := range [][]circuit.Ref{nil, screws} {
		right, astray := w.surely(w.doc, lifted), w.surely(wrong, lifted)
		for _, e := range m.Ends {
			for _, f := range others {
				if e == f || slices.Contains(lifted, e.Ref) && e.Box == "" || slices.Contains(lifted, f.Ref) && f.Box == "" {
					continue
				}
				a, b := right(e, f), astray(e, f)
				if a == "" || b == "" || a == b {
					continue
				}
				test := circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{e, f}, LampsOut: lamps, Lifted: lifted}
				return Metered{m, test, a, fmt.Sprintf("%s Power off and proved dead, lamps out: continuity between %s and %s is %s where the work is right.",
					w.text(m), w.say.End(e), w.say.End(f), a)}, true
			}
		}
	}
	return Metered{}, false
}
