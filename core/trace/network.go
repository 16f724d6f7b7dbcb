package trace

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// outcome is a set of readings, as bits; what each bit means depends on the
// instrument: live or quiet, closed or open, lit or dark, no volts, full volts or
// some between.
type outcome uint8

// Bits of an outcome.
const (
	first    outcome = 1 << iota // live, closed, lit, no volts
	second                       // quiet, open, dark, full volts
	third                        // volts between
	tripped                      // the breaker
	anything = first | second | third
)

// fraction of the nominal volts below which a reading counts as none, and above
// which as full.
const (
	noneBelow = 0.15
	fullAbove = 0.85
)

// probe is one place where an instrument is put.
type probe struct {
	atom   int  // -1 where nothing of it is seen
	class  int  // of the atom, -1
	lamp   int  // a hidden lamp whose terminal it is, -1
	supply int  // a hidden supply whose terminal it is, -1
	second bool // of the two terminals the second
	ground bool // stands with the ground
	sure   bool // and the ground is known to be whole there
	bundle bool // or it is that or nothing: a core of earth colour does other work in this circuit, and may be missing here
}

func (v *view) probe(e circuit.End) probe {
	p := probe{atom: -1, class: -1, lamp: -1, supply: -1}
	if n, ok := v.index[e]; ok {
		p.atom = v.atom[n]
		p.class = v.class[p.atom]
		if v.earthed[p.atom] {
			p.ground, p.bundle = true, !v.loneGround[p.atom]
			p.sure = p.bundle && !v.earthUsed
		}
		return p
	}
	p.ground = e.Box == "" && e.Part == "ground"
	for i, l := range v.lamps {
		if l.id == e.Owner && !l.seen && (e.Part == "l" || e.Part == "n") {
			p.lamp, p.second = i, e.Part == "n"
		}
	}
	for i, s := range v.supplies {
		if s.id == e.Owner && !s.seen && (e.Part == "hot" || e.Part == "neutral") {
			p.supply, p.second = i, e.Part == "neutral"
		}
	}
	return p
}

// network joins up one combination of a frame under a setup. Nodes are the atoms, then
// the nets.
type network struct {
	*view
	*kept
	f *frame
	s *setup
	*joined
	own  joined // where what is joined is not kept
	may  [2][]choice
	room []matching
}

// joined is what hangs together in a network. What is certainly one conductor is one in
// strong; what a lamp or another load may join besides, or a part of a net whose way nobody
// knows while a screw is lifted that holds two of its cores, in weak.
//
// Once it is built, both say of each node in one step what it hangs together with.
type joined struct {
	strong  forest
	weak    forest
	hangs   []uint8 // by weak root, with the power on: what it hangs on through loads
	split   uint32  // nets that lifting has taken apart
	sources [maxSupplies][2]int16
	bad     bool // line and neutral meet

	nobodies  []int16 // nodes of tied conductors that nothing uses
	met       bool    // together and lost are worked out
	relations []relation
	together  []meeting
	lost      uint32 // nets of which nobody knows where they are
}

// meeting is a node at which some nets hang together.
type meeting struct {
	node int16
	nets uint32
}

// forest says which nodes hang together.
type forest = sets.Of[int16]

func root(f forest, node int) int16 { return f.Root(int16(node)) }

func (n *network) unite(a, b int) { n.strong[root(n.strong, a)] = root(n.strong, b) }

func (n *network) node(net int8) int { return n.atoms + int(net) }

// assignment gives nets to free classes, undecided where it says nothing of one.
type assignment []int8

// of is the net that it gives to the conductor of a probe.
func (a assignment) of(p probe) int8 {
	if a == nil || p.class < 0 {
		return undecided
	}
	return a[p.class]
}

// join makes the network. Ends that are tied may be of free classes: those are on the nets
// that a gives them.
func (n *network) join(f *frame, combination int, s *setup, a assignment) {
	n.f, n.s = f, s
	if s.tiesFree || n.kept == nil {
		n.joined = &n.own
		n.build(combination, a)
		return
	}
	key := joint(f.number, combination&^f.irrelevant(s))
	if n.joined = s.joined[key]; n.joined == nil {
		n.joined = &joined{}
		n.build(combination, a)
		n.keep(key)
	}
}

func (n *network) build(combination int, a assignment) {
	f, s := n.f, n.s
	n.split, n.bad, n.nobodies = 0, false, n.nobodies[:0]
	if size := n.atoms + len(f.kinds); cap(n.strong) < size {
		both := make([]int16, 2*size)
		n.strong, n.weak, n.hangs = both[:size:size], both[size:], make([]uint8, size)
	} else {
		n.strong, n.weak, n.hangs = n.strong[:size], n.weak[:size], n.hangs[:size]
	}
	nets := f.classOf(combination)
	n.base(combination&f.turns(), nets)
	positions := combination ^ s.flipped
	for i := range f.labels {
		k := f.kindAt(n.view, i)
		for _, pair := range contacts[k][positions>>i&1] {
			n.unite(n.screwNode(i, pair[0]), n.screwNode(i, pair[1]))
		}
	}
	for _, group := range s.ties {
		first := -1
		for _, p := range group {
			x := n.unresolved(p, nets, a.of(p))
			if x.node < 0 {
				continue
			}
			if x.nobody {
				n.nobodies = append(n.nobodies, root(n.strong, x.node))
			}
			if first < 0 {
				first = x.node
			}
			n.unite(first, x.node)
		}
	}
	n.soften(combination, nets)
	for i := range n.weak {
		n.weak[i] = root(n.weak, i)
	}
	n.met = false
}

// meet notes which nets hang together, where that was not done yet.
func (n *network) meet() {
	if n.met {
		return
	}
	n.met, n.together, n.lost = true, n.together[:0], 0
	for net := 1; net < len(n.f.kinds); net++ {
		if n.f.wild[net] || n.split>>net&1 == 1 {
			n.lost |= 1 << net
			continue
		}
		at := n.strong[n.node(int8(net))]
		i := slices.IndexFunc(n.together, func(m meeting) bool { return m.node == at })
		if i < 0 {
			i = len(n.together)
			n.together = append(n.together, meeting{node: at})
		}
		n.together[i].nets |= 1 << net
	}
}

// base joins up what does not depend on how the switches stand.
func (n *network) base(turned int, nets []int8) {
	f, s := n.f, n.s
	key := joint(f.number, turned)
	if n.kept != nil {
		if known := s.bases[key]; known != nil {
			n.split = known.split
			copy(n.strong, known.strong)
			return
		}
	}
	for i := range n.strong {
		n.strong[i] = int16(i)
	}
	for class, net := range nets {
		if net > 0 && s.split[class] {
			n.split |= 1 << net
		}
	}
	for class, net := range nets {
		if net > 0 && n.split>>net&1 == 0 {
			for _, piece := range n.classes[class].pieces {
				n.unite(piece, n.node(net))
			}
		}
	}
	for _, u := range s.screws {
		n.unite(u[0], u[1])
	}
	if n.kept != nil {
		n.keepBase(key, &joined{strong: append([]int16{}, n.strong...), split: n.split})
	}
}

// screwNode is the node of a screw of a switch: what stood under a lifted screw does not
// hang on it any more, since prepare leaves that join out.
func (n *network) screwNode(control, terminal int) int {
	if nodes := n.f.nodes[control]; nodes != nil {
		return n.atom[nodes[terminal]]
	}
	return n.node(n.f.screws[control][terminal])
}

// terminal is the node of the first or second terminal of a lamp or supply that stands on
// a net.
func (n *network) terminal(t thing, which int, net int8) int {
	if t.seen {
		return t.atoms[which]
	}
	return n.node(net)
}

// soften joins in a second forest what loads may join too. With the power on a source
// ends such a path: what hangs on it through a load is only noted.
func (n *network) soften(combination int, nets []int8) {
	f, s := n.f, n.s
	for i := range n.strong {
		r := root(n.strong, i)
		n.strong[i], n.weak[i], n.hangs[i] = r, r, 0
	}
	for i, supply := range n.supplies {
		n.sources[i] = [2]int16{root(n.strong, n.terminal(supply, 0, f.first[hotOf(i)])), root(n.strong, n.terminal(supply, 1, f.first[neutralOf(i)]))}
		n.bad = n.bad || n.sources[i][0] == n.sources[i][1]
		if f.exchanged(combination) {
			n.sources[i][0], n.sources[i][1] = n.sources[i][1], n.sources[i][0]
		}
	}
	if n.split != 0 { // the parts of a net may hang together otherwise
		for class, net := range nets {
			if net > 0 && n.split>>net&1 == 1 {
				for _, piece := range n.classes[class].pieces {
					n.weakly(piece, n.node(net))
				}
			}
		}
	}
	for _, noted := range []bool{false, true} {
		if !s.on && noted {
			break
		}
		for i, supply := range n.supplies {
			n.weaken(n.terminal(supply, 0, f.first[hotOf(i)]), n.terminal(supply, 1, f.first[neutralOf(i)]), noted)
			if i > 0 { // one bar in the panel
				n.weaken(n.terminal(n.supplies[0], 1, f.first[neutralOf(0)]), n.terminal(supply, 1, f.first[neutralOf(i)]), noted)
			}
		}
		for i, l := range f.lamps {
			a, b := n.terminal(l, 0, f.first[f.lampL[i]]), n.terminal(l, 1, f.first[f.lampN[i]])
			if s.lampsOut>>i&1 == 0 || f.moreLamps(combination) {
				n.weaken(a, b, noted)
			}
			if f.wild[f.first[f.lampL[i]]] {
				n.weaken(a, n.terminal(n.supplies[0], 0, f.first[hotOf(0)]), noted)
			}
		}
	}
}

func (n *network) weakly(a, b int) { n.weak[root(n.weak, a)] = root(n.weak, b) }

func (n *network) source(r int16) (line, back bool) {
	for i := range n.supplies {
		line = line || r == n.sources[i][0]
		back = back || r == n.sources[i][1]
	}
	return line, back
}

// What a floating conductor hangs on through a load.
const (
	hangsOnLine = 1 << iota
	hangsOnReturn
)

func (n *network) weaken(a, b int, noted bool) {
	if !n.s.on {
		n.weakly(a, b)
		return
	}
	for _, pair := range [2][2]int{{a, b}, {b, a}} {
		fromLine, fromBack := n.source(root(n.strong, pair[0]))
		toLine, toBack := n.source(root(n.strong, pair[1]))
		switch {
		case fromLine || fromBack:
			return
		case noted && toLine:
			n.hangs[root(n.weak, pair[0])] |= hangsOnLine
		case noted && toBack:
			n.hangs[root(n.weak, pair[0])] |= hangsOnReturn
		case !toLine && !toBack && !noted:
			n.weakly(a, b)
		}
	}
}

// spot is a probe in a network: its node, or -1 where it may be on anything.
type spot struct {
	node   int
	class  int
	nobody bool // on nothing that these lights use: another such conductor may be the same
	ground bool
	sure   bool
	bundle bool
}

// place finds a probe in the network, where its conductor is on that net if it is a free one. Two
// places are the same where nothing tells them apart.
func (n *network) place(p probe, nets []int8, free int8) spot {
	out := n.unresolved(p, nets, free)
	if out.node >= 0 {
		out.node = int(n.strong[out.node])
	}
	return out
}

func (n *network) unresolved(p probe, nets []int8, free int8) spot {
	out := spot{node: -1, class: p.class, ground: p.ground, sure: p.sure, bundle: p.bundle}
	var net int8
	switch {
	case p.ground:
		return out
	case p.lamp >= 0:
		if net = n.f.first[n.f.lampL[p.lamp]]; p.second {
			net = n.f.first[n.f.lampN[p.lamp]]
		}
	case p.supply >= 0:
		if net = n.f.first[hotOf(p.supply)]; p.second {
			net = n.f.first[neutralOf(p.supply)]
		}
	case p.class < 0:
		return out
	case nets[p.class] != undecided:
		out.node, net = p.atom, nets[p.class]
		if net > 0 && n.f.wild[net] {
			out.node = -1
		}
		return out
	default:
		if net = free; net == undecided || n.s.split[p.class] {
			return out
		}
		if net == 0 {
			out.node, out.nobody = p.atom, true
			return out
		}
	}
	if n.f.wild[net] || n.split>>net&1 == 1 {
		return out
	}
	out.node = n.node(net)
	return out
}
