package electric

import "slices"

// flow is the scratch space for following currents from point to point.
type flow struct {
	edges  []edge
	from   [][]int // point → edges
	source []bool
	inject []float64 // current that leaves each point into a load
	drawn  []float64
	seen   []bool
	order  []step
	cables []float64
}

// step is a point as the search reached it, and the edge by which it did.
type step struct{ point, edge int }

func newFlow(n *Network) flow {
	f := flow{
		edges: slices.Clone(n.cores), from: make([][]int, n.points), source: make([]bool, n.points),
		inject: make([]float64, n.points), drawn: make([]float64, n.points), seen: make([]bool, n.points),
		cables: make([]float64, len(n.doc.Cables)),
	}
	for i := range n.contacts {
		for position, pairs := range n.contacts[i].closed {
			for _, pair := range pairs {
				f.edges = append(f.edges, edge{n.point[pair[0]], n.point[pair[1]], -1, i, position})
			}
		}
	}
	for i, e := range f.edges {
		if e.a != e.b {
			f.from[e.a] = append(f.from[e.a], i)
			f.from[e.b] = append(f.from[e.b], i)
		}
	}
	for _, sup := range n.supplies {
		for _, x := range []int{sup.hot, sup.neutral, sup.ground} {
			f.source[n.point[x]] = true
		}
	}
	return f
}

// CableCurrents returns the net current of every cable in amperes, by cable in
// document order, positive from its first end to its second. Hot and its return
// belong in one cable, so each should be zero; a cable whose far end is not
// known counts as zero. Smart devices that are awake and receptacles count with
// a small draw of their own, so that a borrowed neutral shows.
func (n *Network) CableCurrents(s *Solution) []float64 {
	x := n.borrow()
	defer n.giveBack(x)
	return slices.Clone(n.cableCurrents(&x.flow, s, allSupplies))
}

// allSupplies asks for the currents that any supply feeds.
const allSupplies = ^uint64(0)

// cableCurrents is CableCurrents in scratch space, of what those supplies feed.
func (n *Network) cableCurrents(f *flow, s *Solution, fed uint64) []float64 {
	clear(f.inject)
	clear(f.drawn)
	clear(f.seen)
	clear(f.cables)
	draw := func(from, to int, amps float64) {
		if fed != allSupplies && (s.feed[s.root(from)]|s.feed[s.root(to)])&fed == 0 {
			return
		}
		f.inject[n.point[from]] += amps
		f.inject[n.point[to]] -= amps
	}
	for i, l := range n.lamps {
		if s.lampVolts(i) > 0 {
			draw(l.l, l.n, (s.volts[s.root(l.l)]-s.volts[s.root(l.n)])*l.watts/(n.Volts*n.Volts))
		}
	}
	for _, l := range n.loads {
		if s.hot(l.l) && (s.neutral(l.n) || s.onlyGround(l.n)) {
			draw(l.l, l.n, smallLoadWatts/n.Volts)
		}
	}
	for _, d := range n.smart {
		if p := s.pairOf(d); p >= 0 && !d.throughLoad {
			a, b := d.supply[p][0], d.supply[p][1]
			if !s.hot(a) {
				a, b = b, a
			}
			draw(a, b, smallLoadWatts/n.Volts)
		}
	}
	for _, first := range []bool{true, false} { // sources first: trees grow from them
		for p := range n.points {
			if !f.seen[p] && f.source[p] == first {
				f.tree(p, s.State)
			}
		}
	}
	return f.cables
}

// closed reports whether the edge conducts in the state.
func (e edge) closed(s State) bool {
	return e.cable >= 0 || int(s>>e.contact&1) == e.position
}

// tree spans what hangs together with the root. On a tree the current of an
// edge is all that is drawn behind it. Where cables close a ring, or two sources hang
// together, the conductors share by resistance.
func (f *flow) tree(root int, s State) {
	f.order = append(f.order[:0], step{root, -1})
	f.seen[root] = true
	extra := false
	for i := 0; i < len(f.order); i++ {
		here := f.order[i]
		for _, ei := range f.from[here.point] {
			e := &f.edges[ei]
			if ei == here.edge || !e.closed(s) {
				continue
			}
			other := e.a + e.b - here.point
			if f.seen[other] {
				extra = true
				continue
			}
			extra = extra || f.source[other]
			f.seen[other] = true
			f.order = append(f.order, step{other, ei})
		}
	}
	if extra {
		f.share(s)
		return
	}
	for _, at := range slices.Backward(f.order[1:]) {
		amps := f.drawn[at.point] + f.inject[at.point]
		e := f.edges[at.edge]
		f.drawn[e.a+e.b-at.point] += amps
		f.count(e, at.point == e.b, amps)
	}
}

// count adds a current to its cable; forward is from a to b.
func (f *flow) count(e edge, forward bool, amps float64) {
	if e.cable < 0 {
		return
	}
	if !forward {
		amps = -amps
	}
	f.cables[e.cable] += amps
}

// share solves a meshed net with one ohm for each core and next to none for a
// contact; every source in it is held, or else its first point.
func (f *flow) share(s State) {
	const contactSiemens = 1000
	row := map[int]int{}
	inside := map[int]bool{}
	held := f.source[f.order[0].point]
	for i, at := range f.order {
		inside[at.point] = true
		if f.source[at.point] || !held && i == 0 {
			continue
		}
		row[at.point] = len(row)
	}
	m := make([][]float64, len(row))
	for i := range m {
		m[i] = make([]float64, len(row)+1)
	}
	for p, r := range row {
		m[r][len(row)] = -f.inject[p]
	}
	siemens := func(e edge) float64 {
		if e.cable < 0 {
			return contactSiemens
		}
		return 1
	}
	for _, e := range f.edges {
		if e.a == e.b || !inside[e.a] || !e.closed(s) {
			continue
		}
		for _, side := range [][2]int{{e.a, e.b}, {e.b, e.a}} {
			if r, ok := row[side[0]]; ok {
				m[r][r] += siemens(e)
				if k, ok := row[side[1]]; ok {
					m[r][k] -= siemens(e)
				}
			}
		}
	}
	solved := eliminate(m)
	volts := func(p int) float64 {
		if r, ok := row[p]; ok {
			return solved[r]
		}
		return 0
	}
	for _, e := range f.edges {
		if e.a != e.b && inside[e.a] && e.closed(s) {
			f.count(e, true, siemens(e)*(volts(e.a)-volts(e.b)))
		}
	}
}
