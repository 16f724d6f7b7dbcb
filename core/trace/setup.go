package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// kept is what a tracer and its forks work out once: tests are made under few setups, and
// what hangs together under one in a combination is asked for again and again.
type kept struct {
	setups map[string]*setup
	joined int // networks that setups keep
	bases  int // and what they keep of such

	proposals map[proposals][]proposal
	proposed  int              // tests in those
	cells     int              // of the rows that setups keep
	given     map[worldKey]int // worlds, numbered by what they are

	colours [][isStrap + 1]float64 // by class and kind of net
	counted int                    // readings that have a number
}

// worldKey is what a world is: its pattern, by number, and what conductors are on, a byte each.
type worldKey struct {
	pattern int
	nets    string
}

// joint names one combination of a pattern or a world, without what changes nothing under a setup.
func joint(number, combination int) uint64 { return uint64(number)<<maxBits | uint64(combination) }

// row is what tests under a setup show in one combination of a world, which depends on nothing else,
// and worlds stay while readings come in. Its columns are those that [setup.columnOf] gave.
func (k *kept) row(w *world, combination int, s *setup) []outcome {
	key := joint(w.given, combination)
	row := s.shown[key]
	if more := len(s.columns) - len(row); more > 0 {
		if k.cells += more; k.cells > mostSeen {
			for _, any := range k.setups {
				clear(any.shown)
			}
			k.cells = len(s.columns)
		}
		row = append(row, make([]outcome, more)...)
		s.shown[key] = row
	}
	return row
}

// mostSeen bounds what is kept of what tests show, a byte each.
const mostSeen = 8_000_000

// number numbers worlds.
func (k *kept) number(w *world) int {
	nets := make([]byte, len(w.nets))
	for i, n := range w.nets {
		nets[i] = byte(n)
	}
	key := worldKey{w.f.number, string(nets)}
	n, ok := k.given[key]
	if !ok {
		n = len(k.given)
		k.given[key] = n
	}
	return n
}

// column tells tests under one setup apart.
type column struct {
	instrument string
	at         [2]probe
	lamp       int
}

// columnOf is the place of a test among those of its setup.
func (s *setup) columnOf(m *made) int {
	key := column{instrument: m.instrument, lamp: m.lamp}
	copy(key.at[:], m.at)
	n, ok := s.columns[key]
	if !ok {
		n = len(s.columns)
		s.columns[key] = n
	}
	return n
}

// next is the number of a further reading.
func (k *kept) next() int {
	k.counted++
	return k.counted
}

func (n *network) keepBase(key uint64, of *joined) {
	if n.kept.bases++; n.kept.bases > mostKept/4 {
		for _, s := range n.setups {
			clear(s.bases)
		}
		n.kept.bases = 1
	}
	n.s.bases[key] = of
}

// mostKept bounds what is kept of networks; each takes a few hundred bytes.
const mostKept = 60_000

func newKept() *kept {
	return &kept{
		setups: map[string]*setup{}, proposals: map[proposals][]proposal{}, given: map[worldKey]int{},
	}
}

func (n *network) keep(key uint64) {
	if n.kept.joined++; n.kept.joined > mostKept {
		for _, s := range n.setups {
			clear(s.joined)
		}
		n.kept.joined = 1
	}
	n.s.joined[key] = n.joined
}

// setup is what a person has done when a test is made, ready for simulation.
type setup struct {
	on       bool
	screws   [][2]int // atoms that screws hold together
	split    []bool   // by class: a screw that held two of its cores is lifted
	ties     [][]probe
	flipped  int // bit by switch
	lampsOut int // bit by lamp
	idle     int // bits of switches that can change nothing while those wires are off
	tiesFree bool
	columns  map[column]int // of tests that were proposed under it

	joined map[uint64]*joined   // by joint of a pattern
	bases  map[uint64]*joined   // the same by how the travelers lie: what does not depend on how switches stand
	shown  map[uint64][]outcome // by joint of a world, then column; 0 where that was not worked out yet
}

// prepare reads the conditions of a test. Tests made with everything standing the same way
// have one setup.
func (t *Tracer) prepare(o circuit.Observation) *setup {
	key := circuit.Observation{Power: o.Power, Lifted: o.Lifted, Tied: o.Tied, Flipped: o.Flipped, LampsOut: o.LampsOut}.Key()
	s, ok := t.kept.setups[key]
	if !ok {
		s = t.view.setup(o)
		t.kept.setups[key] = s
	}
	return s
}

func (v *view) setup(o circuit.Observation) *setup {
	s := &setup{on: o.Power == "on", split: make([]bool, len(v.classes)), columns: map[column]int{},
		joined: map[uint64]*joined{}, bases: map[uint64]*joined{}, shown: map[uint64][]outcome{}}
	lifted := make([]bool, len(v.nodes))
	for _, r := range o.Lifted {
		if n, ok := v.terminal[r]; ok {
			lifted[n] = true
		}
	}
	for _, j := range v.screws {
		if slices.ContainsFunc(j.terminals, func(t int) bool { return lifted[t] }) {
			class := v.class[v.atom[j.members[0]]]
			s.split[class] = s.split[class] || len(v.classes[class].pieces) > 1
			continue
		}
		for _, m := range j.members[1:] {
			s.screws = append(s.screws, [2]int{v.atom[j.members[0]], v.atom[m]})
		}
	}
	for _, group := range o.Tied {
		var tied []probe
		for _, e := range group {
			p := v.probe(e)
			tied = append(tied, p)
			s.tiesFree = s.tiesFree || p.class >= 0
		}
		s.ties = append(s.ties, tied)
	}
	for i, c := range v.switches {
		if slices.Contains(o.Flipped, c.id) {
			s.flipped |= 1 << i
		}
		off := func(t int) bool { return c.nodes != nil && lifted[c.nodes[t]] }
		if c.kind != idle && (off(0) && c.kind != middle || c.kind == single && off(1) || c.kind == ending && off(1) && off(2) ||
			c.kind == middle && (off(0) && off(1) || off(2) && off(3))) && !c.unmarked {
			s.idle |= 1 << i
		}
	}
	for i, l := range v.lamps {
		if l.id != "" && slices.Contains(o.LampsOut, l.id) {
			s.lampsOut |= 1 << i
		}
	}
	return s
}

// irrelevant lists, as bits, what of a combination changes nothing that a test under this
// setup could show: a switch whose wires are off, the way the feed lies while it is off, and
// more lamps than the record has where none was taken out.
func (f *frame) irrelevant(s *setup) int {
	out := s.idle
	if !s.on {
		out |= 1 << (f.bits - 1)
	}
	if s.lampsOut == 0 {
		out |= 1 << (f.bits - 2)
	}
	return out
}

// relevant lists, as bits, what of a combination changes something that one of some readings
// could show.
func (f *frame) relevant(list []constraint) int {
	out := 0
	for i := range list {
		out |= (1<<f.bits - 1) &^ f.irrelevant(list[i].m.setup)
	}
	return out
}
