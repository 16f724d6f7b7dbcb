package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// kept is what a tracer and its forks work out once: tests are made under few setups, and
// what hangs together under one in a combination is asked for again and again.
type kept struct {
	setups map[string]*setup
	joined map[joint]*joined
	bases  map[joint]*joined // by how the travelers lie: what does not depend on how switches stand

	colours [][isStrap + 1]float64 // by class and kind of net
	made    int                    // readings, numbered
}

// joint is one combination of a pattern under a setup, without what changes nothing there.
type joint struct {
	p           *pattern
	combination int
	s           *setup
}

// next is the number of a further reading.
func (k *kept) next() int {
	k.made++
	return k.made
}

func (k *kept) keepBase(key joint, of *joined) {
	if len(k.bases) >= mostKept/4 {
		clear(k.bases)
	}
	k.bases[key] = of
}

// mostKept bounds what is kept of networks; each takes a few hundred bytes.
const mostKept = 60_000

func newKept() *kept {
	return &kept{setups: map[string]*setup{}, joined: map[joint]*joined{}, bases: map[joint]*joined{}}
}

func (n *network) keep(key joint) {
	if len(n.kept.joined) >= mostKept {
		clear(n.kept.joined)
	}
	n.kept.joined[key] = n.joined
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
}

// prepare reads the conditions of a test. Tests made with everything standing the same way
// have one setup.
func (t *Tracer) prepare(o circuit.Observation) *setup {
	key := sameTest(circuit.Observation{Power: o.Power, Lifted: o.Lifted, Tied: o.Tied, Flipped: o.Flipped, LampsOut: o.LampsOut})
	s, ok := t.kept.setups[key]
	if !ok {
		s = t.view.setup(o)
		t.kept.setups[key] = s
	}
	return s
}

func (v *view) setup(o circuit.Observation) *setup {
	s := &setup{on: o.Power == "on", split: make([]bool, len(v.classes))}
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
