package evidence

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
	"ambivia/core/sets"
)

// A reading is held against a world without knowing how switches stand: what hangs together however they
// do is certain, what might hang together through a contact, a lamp or a load elsewhere is possible. What
// lies between settles nothing.

// hold is what hangs together in a world while a test is made, as found.
type hold struct {
	certain, possible sets.Sets
	swapped           bool
}

// under joins up a world as found, under the conditions of a test.
func (w *Walls) under(x *world, o circuit.Observation) hold {
	return w.joined(x, reading{key: w.inBoxes(o)})
}

// inBoxes is what hangs together under the conditions of a test without any walls. It is worked out once for
// each set of conditions.
func (w *Walls) inBoxes(o circuit.Observation) hold {
	key := circuit.Observation{Power: o.Power, Lifted: o.Lifted, Tied: o.Tied, LampsOut: o.LampsOut}.Key()
	w.holding.Lock()
	defer w.holding.Unlock()
	if known, ok := w.holds[key]; ok {
		return known
	}
	if w.holds == nil {
		w.holds = map[string]hold{}
	}
	h := w.joinedIn(o)
	w.holds[key] = h
	return h
}

func (w *Walls) joinedIn(o circuit.Observation) hold {
	h := hold{certain: sets.New(len(w.ends)), possible: sets.New(len(w.ends))}
	both := func(a, b int) {
		h.certain.Unite(a, b)
		h.possible.Unite(a, b)
	}
	apart := map[int]bool{}
	for _, r := range o.Lifted {
		if n, ok := w.index[circuit.End{Ref: r}]; ok && w.found[n] >= 0 {
			apart[w.found[n]] = true
		}
	}
	for i, j := range w.record.Joins {
		if !w.seen[j.Box] || apart[i] {
			continue
		}
		first := -1
		for _, r := range j.Of {
			if n, ok := w.at(r, j.Box); ok {
				if first < 0 {
					first = n
				}
				both(first, n)
			}
		}
	}
	w.alongCables(both)
	for _, group := range o.Tied {
		first := -1
		for _, e := range group {
			if n, ok := w.index[e]; ok {
				if first < 0 {
					first = n
				}
				both(first, n)
			}
		}
	}
	for _, c := range w.contacts {
		h.possible.Unite(c[0], c[1])
	}
	for _, l := range w.loads {
		supply := l[0] == 1 && o.Power == "on" // with the power on a source ends such a path
		if l[1] >= 0 && l[2] >= 0 && !supply && (l[0] == 1 || !w.out(l[1], o)) {
			h.possible.Unite(l[1], l[2])
		}
	}
	return h
}

// out reports whether the lamp whose terminal an end is was taken out for a test.
func (w *Walls) out(terminal int, o circuit.Observation) bool {
	return slices.Contains(o.LampsOut, w.ends[terminal].Owner)
}

// Outcomes of a continuity test.
const (
	closed = "closed"
	open   = "open"
)

// beep predicts continuity; "" where either may come.
func (h hold) beep(a, b int) string {
	switch {
	case h.certain.Root(a) == h.certain.Root(b):
		return closed
	case h.possible.Root(a) != h.possible.Root(b):
		return open
	}
	return ""
}

// ground stands for an end that is with the ground.
const ground = -1

// reading is one of the record, or of a test that is thought of, with its ends as numbers.
type reading struct {
	circuit.Observation
	at    []int
	key   hold // what hangs together in the boxes under its conditions
	blind bool // it tells nothing of walls
}

func (w *Walls) readingOf(o circuit.Observation) reading {
	r := reading{Observation: o, at: make([]int, len(o.At)), key: w.inBoxes(o)}
	for i, e := range o.At {
		n, ok := w.index[e]
		switch {
		case ok:
			r.at[i] = n
		case e.Box != "" && w.earthed(e):
			r.at[i] = ground
		default:
			r.blind = true
		}
	}
	on := o.Power == "on"
	switch {
	case o.Instrument == circuit.Continuity && len(o.At) == 2 && !slices.Contains(r.at, ground):
	case o.Instrument == circuit.NonContact && on && len(o.At) == 1 && !slices.Contains(r.at, ground):
	case o.Instrument == circuit.TwoPole && on && len(o.At) == 2:
		volts, is := o.Reading.(float64)
		doubtful := slices.Contains(r.at, ground) && !w.tracer.GroundsWhole() && volts < practice.Volts(w.record)/2
		r.blind = r.blind || !is || doubtful
	default:
		r.blind = true
	}
	return r
}

// could reports whether a world may show a reading.
func (w *Walls) could(x *world, o circuit.Observation) bool { return w.may(x, w.readingOf(o)) }

func (w *Walls) may(x *world, r reading) bool { return r.blind || w.shows(w.joined(x, r), r) }

// joined is what hangs together in a world under the conditions of a reading.
func (w *Walls) joined(x *world, r reading) hold {
	h := hold{slices.Clone(r.key.certain), slices.Clone(r.key.possible), x.swapped}
	for _, b := range x.blocks {
		for _, e := range b[1:] {
			h.certain.Unite(b[0], e)
			h.possible.Unite(b[0], e)
		}
	}
	return h
}

// shows reports whether what hangs together so may show a reading.
func (w *Walls) shows(h hold, r reading) bool {
	switch r.Instrument {
	case circuit.Continuity:
		is := h.beep(r.at[0], r.at[1])
		return is == "" || is == r.Reading
	case circuit.NonContact:
		live, dead := w.source(h, r.at[0])
		return !(r.Reading == "quiet" && live) && !(r.Reading == "live" && dead)
	}
	one, other := 0, 0
	for i, n := range r.at {
		live, back := w.source(h, n)
		if live {
			one |= 1 << i
		}
		if back {
			other |= 1 << i
		}
	}
	if slices.ContainsFunc(r.at, func(n int) bool { return w.floats(h, n) }) { // what loads it reads nothing there
		return r.Reading.(float64) < practice.Volts(w.record)/2
	}
	full := one == 1 && other == 2 || one == 2 && other == 1
	none := one == 3 && len(w.hots()) == 1 || other == 3 || r.at[0] != ground && r.at[1] != ground && h.certain.Root(r.at[0]) == h.certain.Root(r.at[1])
	volts, nominal := r.Reading.(float64), practice.Volts(w.record)
	return !(full && volts < nominal/2) && !(none && volts > nominal/2)
}

// floats reports whether an end hangs on nothing that is fed, through whatever switch or lamp.
func (w *Walls) floats(h hold, n int) bool {
	return n != ground && !slices.ContainsFunc(slices.Concat(w.hots(), w.supplies(2)), func(s int) bool { return h.possible.Root(s) == h.possible.Root(n) })
}

// hots are the line terminals of the supplies.
func (w *Walls) hots() []int { return w.supplies(1) }

func (w *Walls) supplies(terminal int) []int {
	var out []int
	for _, l := range w.loads {
		if l[0] == 1 && l[terminal] >= 0 {
			out = append(out, l[terminal])
		}
	}
	return out
}

// source reports whether an end hangs on line, or on neutral, for certain.
func (w *Walls) source(h hold, n int) (live, back bool) {
	if n == ground {
		return false, true
	}
	on := func(list []int) bool {
		return slices.ContainsFunc(list, func(s int) bool { return h.certain.Root(s) == h.certain.Root(n) })
	}
	live, back = on(w.hots()), on(w.supplies(2))
	if h.swapped {
		live, back = back, live
	}
	return live, back
}
