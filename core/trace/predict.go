package trace

import (
	"fmt"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// bitset holds one bit for each combination of positions and crossings of a world.
type bitset []uint64

func newBitset(n int) bitset {
	b := make(bitset, (n+63)/64)
	for i := range n {
		b[i>>6] |= 1 << (i & 63)
	}
	return b
}

func (b bitset) has(i int) bool { return b[i>>6]>>(i&63)&1 == 1 }
func (b bitset) drop(i int)     { b[i>>6] &^= 1 << (i & 63) }

func (b bitset) count() int {
	n := 0
	for _, w := range b {
		n += bits.OnesCount64(w)
	}
	return n
}

// outcome is a set of readings, as bits; what each bit means depends on the
// instrument: live or quiet, closed or open, lit or dark, no volts, full volts or
// some between.
type outcome uint8

// Bits of an outcome.
const (
	first  outcome = 1 << iota // live, closed, lit, no volts
	second                     // quiet, open, dark, full volts
	third                      // volts between
)

// fraction of the nominal volts below which a reading counts as none, and above
// which as full.
const (
	noneBelow = 0.15
	fullAbove = 0.85
)

// setup is what a person has done when a test is made, ready for simulation.
type setup struct {
	on       bool
	screws   [][2]int // atoms that screws hold together
	ties     [][2]int
	flipped  int // bit by switch
	lampsOut int // bit by lamp
}

// prepare reads the conditions of a test.
func (v *view) prepare(o circuit.Observation) setup {
	s := setup{on: o.Power == "on"}
	lifted := map[int]bool{}
	for _, r := range o.Lifted {
		if n, ok := v.terminal[r]; ok {
			lifted[n] = true
		}
	}
	for _, j := range v.screws {
		if slices.ContainsFunc(j.terminals, func(t int) bool { return lifted[t] }) {
			continue
		}
		for _, m := range j.members[1:] {
			s.screws = append(s.screws, [2]int{v.atom[j.members[0]], v.atom[m]})
		}
	}
	for _, group := range o.Tied {
		for _, e := range group[1:] {
			a, b := v.nodeOf(group[0]), v.nodeOf(e)
			if a >= 0 && b >= 0 {
				s.ties = append(s.ties, [2]int{a, b})
			}
		}
	}
	for i, c := range v.switches {
		if slices.Contains(o.Flipped, c.id) && c.id != "" {
			s.flipped |= 1 << i
		}
	}
	for i, l := range v.lamps {
		if l.id != "" && slices.Contains(o.LampsOut, l.id) {
			s.lampsOut |= 1 << i
		}
	}
	return s
}

// nodeOf is the network node of an end: its atom, or the hidden terminal of a lamp,
// a switch or the supply; -1 for what lies where nobody looked.
func (v *view) nodeOf(e circuit.End) int {
	if n, ok := v.index[e]; ok {
		return v.atom[n]
	}
	terms := func(t thing, names [2]string) int {
		for i, name := range names {
			if t.id == e.Owner && !t.seen && name == e.Part {
				return v.hiddenNode(t.hidden[i])
			}
		}
		return -1
	}
	for _, l := range v.lamps {
		if n := terms(l, [2]string{"l", "n"}); n >= 0 {
			return n
		}
	}
	return terms(v.supply, [2]string{"hot", "neutral"})
}

// groundAt says what is known of an end that stands with the ground.
func (v *view) groundAt(e circuit.End) (ground, sure bool) {
	n, ok := v.index[e]
	if !ok {
		return e.Box == "" && e.Part == "ground", false
	}
	a := v.atom[n]
	return v.earthed[a], v.earthed[a] && !v.loneGround[a]
}

// network is the scratch space in which one combination of one world is joined up.
type network struct {
	*view
	parent []int16
	weak   []int16 // the same with what loads join
	hangs  []uint8 // by weak root, with the power on: what it hangs on through loads
	source [3]int16
}

func (n *network) root(i int) int16 {
	p := n.parent
	for p[i] != int16(i) {
		p[i] = p[p[i]]
		i = int(p[i])
	}
	return int16(i)
}

func (n *network) unite(a, b int) { n.parent[n.root(a)] = n.root(b) }

// join makes the network of a combination under a setup.
func (n *network) join(w *world, combination int, s *setup) {
	size := n.atoms + n.hidden + w.nets
	if cap(n.parent) < size {
		n.parent, n.weak, n.hangs = make([]int16, size), make([]int16, size), make([]uint8, size)
	}
	n.parent = n.parent[:size]
	for i := range n.parent {
		n.parent[i] = int16(i)
	}
	base := n.atoms + n.hidden
	crossed := combination >> len(n.switches)
	for p, a := range w.joins {
		if a.net < 0 {
			continue
		}
		net := a.net
		if a.bit >= 0 && crossed>>a.bit&1 == 1 {
			net ^= 1
		}
		node := n.atoms + p - len(n.cores)
		if p < len(n.cores) {
			node = n.cores[p].atom
		}
		n.unite(node, base+net)
	}
	for _, u := range s.screws {
		n.unite(u[0], u[1])
	}
	for _, u := range s.ties {
		n.unite(u[0], u[1])
	}
	positions := combination ^ s.flipped
	for i, c := range n.switches {
		for _, pair := range contacts[c.kind][positions>>i&1] {
			n.unite(n.screwNode(w, i, pair[0]), n.screwNode(w, i, pair[1]))
		}
	}
	n.source = [3]int16{n.root(n.terminalNode(n.supply, 0)), n.root(n.terminalNode(n.supply, 1)), -1}
}

// screwNode is the node of a canonical screw of a switch. What stood under a lifted
// screw does not hang on it any more: prepare leaves that join out.
func (n *network) screwNode(w *world, i, terminal int) int {
	if c := n.switches[i]; c.hidden != nil {
		return n.hiddenNode(c.hidden[terminal])
	}
	return n.atom[w.pattern.nodes[i][terminal]]
}

// soften joins in a second forest what lamps and loads join too. With the power on a
// source ends such a path: what hangs on it through a load is only noted.
func (n *network) soften(w *world, s *setup) {
	n.weak = n.weak[:len(n.parent)]
	n.hangs = n.hangs[:len(n.parent)]
	for i := range n.parent {
		n.weak[i] = n.root(i)
		n.hangs[i] = 0
	}
	for _, noted := range []bool{false, true} {
		for _, pair := range w.soft {
			n.weaken(pair[0], pair[1], s.on, noted)
		}
		for i, l := range n.lamps {
			if s.lampsOut>>i&1 == 0 {
				n.weaken(n.terminalNode(l, 0), n.terminalNode(l, 1), s.on, noted)
			}
		}
	}
}

func (n *network) weakRoot(i int) int16 {
	for n.weak[i] != int16(i) {
		i = int(n.weak[i])
	}
	return int16(i)
}

func (n *network) weaken(a, b int, on, noted bool) {
	if !on {
		n.weak[n.weakRoot(a)] = n.weakRoot(b)
		return
	}
	for _, pair := range [2][2]int{{a, b}, {b, a}} {
		from, to := n.root(pair[0]), n.root(pair[1])
		source := to == n.source[0] || to == n.source[1]
		switch {
		case from == n.source[0] || from == n.source[1]:
			return
		case source && noted && to == n.source[0]:
			n.hangs[n.weakRoot(pair[0])] |= hangsOnLine
		case source && noted:
			n.hangs[n.weakRoot(pair[0])] |= hangsOnReturn
		case !source && !noted:
			n.weak[n.weakRoot(a)] = n.weakRoot(b)
		}
	}
}

// What a floating conductor hangs on through a load.
const (
	hangsOnLine = 1 << iota
	hangsOnReturn
)

// What a conductor is tied to while the power is on.
type tied uint8

const (
	tiedHot tied = iota
	tiedReturn
	throughToReturn // hangs on the neutral through a lamp or another load, and on nothing else
	throughToLine   // hangs on the line through one, or on both
	floats
	unknownTie
)

func (n *network) tied(node int) tied {
	switch r := n.root(node); {
	case r == n.source[0]:
		return tiedHot
	case r == n.source[1]:
		return tiedReturn
	}
	switch n.hangs[n.weakRoot(node)] {
	case 0:
		return floats
	case hangsOnReturn:
		return throughToReturn
	}
	return throughToLine
}

// probe is one place where an instrument is put.
type probe struct {
	node   int  // -1 where nothing is known of the end
	ground bool // stands with the ground
	sure   bool // and the ground is known to be whole there
}

func (v *view) probe(e circuit.End) probe {
	g, sure := v.groundAt(e)
	p := probe{node: v.nodeOf(e), ground: g, sure: sure}
	if g {
		p.node = -1
	}
	return p
}

// tiedAt says the same of a place where an instrument is put.
func (n *network) tiedAt(p probe) tied {
	switch {
	case p.ground && p.sure:
		return tiedReturn
	case p.node < 0:
		return unknownTie
	}
	return n.tied(p.node)
}

// read predicts what an instrument may show in the network as joined.
func (n *network) read(instrument string, on bool, at []probe, s *setup) outcome {
	switch instrument {
	case circuit.NonContact:
		if !on {
			return second
		}
		switch n.tiedAt(at[0]) {
		case tiedHot:
			return first
		case tiedReturn:
			return second
		}
		return first | second
	case circuit.TwoPole, circuit.Multimeter:
		loads := instrument == circuit.TwoPole
		if !on && loads {
			return first
		}
		if !on { // what runs beside other circuits shows ghost volts even then
			return first | second | third
		}
		a, b := n.tiedAt(at[0]), n.tiedAt(at[1])
		switch {
		case a <= tiedReturn && b <= tiedReturn:
			if a == b {
				return first
			}
			return second
		case loads && (a == floats || b == floats):
			return first
		case loads && (a == throughToReturn && (b == tiedReturn || b == throughToReturn) || b == throughToReturn && a == tiedReturn):
			return first
		}
		return first | second | third
	case circuit.Continuity:
		a, b := at[0], at[1]
		switch {
		case a.node < 0 || b.node < 0:
			if a.ground && b.ground && a.sure && b.sure {
				return first
			}
			return n.toGround(a, b)
		case n.root(a.node) == n.root(b.node):
			return first
		case n.weakRoot(a.node) == n.weakRoot(b.node):
			return first | second
		}
		return second
	}
	return n.lamp(on, at, s)
}

// toGround predicts continuity between a conductor and the ground: the panel's bond
// may join neutral and ground, and loads join line and neutral.
func (n *network) toGround(a, b probe) outcome {
	p := a
	if a.node < 0 {
		p = b
	}
	if p.node < 0 {
		return first | second
	}
	if r := n.weakRoot(p.node); r == n.weakRoot(n.terminalNode(n.supply, 0)) || r == n.weakRoot(n.terminalNode(n.supply, 1)) {
		return first | second
	}
	return second
}

// lamp predicts whether a lamp is lit: the one at the ends named, else any.
func (n *network) lamp(on bool, at []probe, s *setup) outcome {
	if !on {
		return second
	}
	for i, l := range n.lamps {
		a, b := n.terminalNode(l, 0), n.terminalNode(l, 1)
		if s.lampsOut>>i&1 == 1 || len(at) > 0 && !slices.ContainsFunc(at, func(p probe) bool { return p.node == a || p.node == b }) {
			continue
		}
		if n.root(a) == n.source[0] && n.root(b) == n.source[1] || n.root(a) == n.source[1] && n.root(b) == n.source[0] {
			return first
		}
	}
	return second
}

// shorted reports whether line and neutral meet.
func (n *network) shorted() bool { return n.source[0] == n.source[1] }

// readingBit is the bit of a reading that a person entered; 0 for one that counts
// for nothing.
func (v *view) readingBit(o circuit.Observation) outcome {
	switch r := o.Reading.(type) {
	case string:
		switch r {
		case "live", "closed", "lit":
			return first
		case "quiet", "open", "dark":
			return second
		}
	case float64:
		return voltsBit(r, practice.Volts(v.doc))
	}
	return 0
}

func voltsBit(volts, nominal float64) outcome {
	switch {
	case volts < noneBelow*nominal:
		return first
	case volts > fullAbove*nominal:
		return second
	}
	return third
}

// wordsOf lists the readings of an instrument by bit.
func wordsOf(instrument string, nominal float64) []any {
	switch instrument {
	case circuit.NonContact:
		return []any{"live", "quiet"}
	case circuit.Continuity:
		return []any{"closed", "open"}
	case circuit.LampLook:
		return []any{"lit", "dark"}
	}
	return []any{0.0, nominal}
}

func readingText(r any) string {
	if volts, ok := r.(float64); ok {
		return fmt.Sprintf("%.0f V", volts)
	}
	return fmt.Sprint(r)
}
