package electric

import "slices"

// CableCurrents returns the net current of every cable in amperes, by cable in
// document order, positive from its first end to its second. Hot and its return
// belong in one cable, so each should be zero; a cable whose far end is not
// known counts as zero. Smart devices that are awake and receptacles count with
// a small draw of their own, so that a borrowed neutral shows.
func (n *Network) CableCurrents(s *Solution) []float64 {
	c := currents{n: n, s: s, inject: make([]float64, n.points), source: make([]bool, n.points)}
	for i, l := range n.lamps {
		if s.lampVolts(i) == 0 {
			continue
		}
		a, b := s.volts[s.root(l.l)], s.volts[s.root(l.n)]
		c.draw(l.l, l.n, (a-b)*l.watts/(n.Volts*n.Volts))
	}
	for _, l := range n.loads {
		if s.hot(l.l) && s.neutral(l.n) {
			c.draw(l.l, l.n, smallLoadWatts/n.Volts)
		}
	}
	for _, d := range n.smart {
		if p := s.pairOf(d); p >= 0 && !d.throughLoad {
			a, b := d.supply[p][0], d.supply[p][1]
			if !s.hot(a) {
				a, b = b, a
			}
			c.draw(a, b, smallLoadWatts/n.Volts)
		}
	}
	for _, sup := range n.supplies {
		for _, x := range []int{sup.hot, sup.neutral, sup.ground} {
			c.source[n.point[x]] = true
		}
	}
	return c.solve()
}

// currents follows the current from point to point in one state.
type currents struct {
	n      *Network
	s      *Solution
	inject []float64 // current that leaves each point into a load
	source []bool
	edges  []edge
	from   [][]int // point → edges
	cables []float64
}

func (c *currents) draw(from, to int, amps float64) {
	c.inject[c.n.point[from]] += amps
	c.inject[c.n.point[to]] -= amps
}

func (c *currents) solve() []float64 {
	n := c.n
	c.cables = make([]float64, len(n.doc.Cables))
	c.edges = append(c.edges, n.cores...)
	for i := range n.contacts {
		for _, pair := range n.contacts[i].closed[c.s.State>>i&1] {
			c.edges = append(c.edges, edge{n.point[pair[0]], n.point[pair[1]], -1})
		}
	}
	c.from = make([][]int, n.points)
	for i, e := range c.edges {
		if e.a != e.b {
			c.from[e.a] = append(c.from[e.a], i)
			c.from[e.b] = append(c.from[e.b], i)
		}
	}
	seen := make([]bool, n.points)
	for _, first := range []bool{true, false} { // sources first: trees grow from them
		for p := range n.points {
			if !seen[p] && c.source[p] == first {
				c.tree(p, seen)
			}
		}
	}
	return c.cables
}

// tree spans what hangs together with the root. On a tree the current of an
// edge is all that is drawn behind it. Edges beyond the tree only matter where
// two cables run side by side: then the conductors share by resistance.
func (c *currents) tree(root int, seen []bool) {
	type step struct{ point, edge int }
	order := []step{{root, -1}}
	seen[root] = true
	extra := false
	for i := 0; i < len(order); i++ {
		for _, ei := range c.from[order[i].point] {
			if ei == order[i].edge {
				continue
			}
			e := c.edges[ei]
			other := e.a + e.b - order[i].point
			if seen[other] {
				extra = true
				continue
			}
			seen[other] = true
			order = append(order, step{other, ei})
		}
	}
	if extra && c.n.parallel {
		points := make([]int, len(order))
		for i, s := range order {
			points[i] = s.point
		}
		c.share(points)
		return
	}
	drawn := map[int]float64{}
	for _, s := range slices.Backward(order[1:]) {
		amps := drawn[s.point] + c.inject[s.point]
		e := c.edges[s.edge]
		drawn[e.a+e.b-s.point] += amps
		c.count(e, s.point == e.b, amps)
	}
}

// count adds a current to its cable; forward is from a to b.
func (c *currents) count(e edge, forward bool, amps float64) {
	if e.cable < 0 {
		return
	}
	if !forward {
		amps = -amps
	}
	c.cables[e.cable] += amps
}

// share solves a meshed net with one ohm for each core and next to none for a
// contact; the first point, or every source in it, is held.
func (c *currents) share(points []int) {
	const contactSiemens = 1000
	row := map[int]int{}
	held := c.source[points[0]]
	for i, p := range points {
		if c.source[p] || !held && i == 0 {
			continue
		}
		row[p] = len(row)
	}
	m := make([][]float64, len(row))
	for i := range m {
		m[i] = make([]float64, len(row)+1)
	}
	inside := map[int]bool{}
	for _, p := range points {
		inside[p] = true
		if r, ok := row[p]; ok {
			m[r][len(row)] = -c.inject[p]
		}
	}
	siemens := func(e edge) float64 {
		if e.cable < 0 {
			return contactSiemens
		}
		return 1
	}
	for _, e := range c.edges {
		if e.a == e.b || !inside[e.a] {
			continue
		}
		g := siemens(e)
		for _, side := range [][2]int{{e.a, e.b}, {e.b, e.a}} {
			if r, ok := row[side[0]]; ok {
				m[r][r] += g
				if k, ok := row[side[1]]; ok {
					m[r][k] -= g
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
	for _, e := range c.edges {
		if e.a != e.b && inside[e.a] {
			c.count(e, true, siemens(e)*(volts(e.a)-volts(e.b)))
		}
	}
}
