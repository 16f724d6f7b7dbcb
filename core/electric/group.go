package electric

import (
	"math/bits"
	"slices"

	"ambivia/core/circuit"
)

// mostLampStates bounds lamps times states of one exploration, in memory and time: each lamp of
// each state is kept.
const mostLampStates = 1_500_000

// leastStates is how many states are visited however many lamps there are.
const leastStates = 256

// limit is how many states an exploration visits at most.
func (n *Network) limit() int {
	return min(MaxStates, max(leastStates, mostLampStates/max(1, len(n.lamps))))
}

// groups parts the controls into those that have nothing to do with each other: between them
// run only conductors that stand on the supply itself, whose volts no switch changes. What one
// group does, it does in every state of the others.
func (n *Network) groups() [][]control {
	fixed := map[int]bool{}
	for _, s := range n.supplies {
		for _, x := range []int{s.hot, s.neutral, s.ground} {
			fixed[n.class[x]] = true
		}
	}
	together := newSets(n.classes + len(n.doc.Devices))
	for i, d := range n.doc.Devices {
		for _, t := range n.doc.Terminals(d) {
			if t == "ground" {
				continue
			}
			if class := n.class[n.index[circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}]]; !fixed[class] && d.Type != circuit.TypeSupply {
				together.unite(class, n.classes+i)
			}
		}
	}
	for _, d := range n.smart {
		for _, l := range d.links {
			together.unite(n.classes+d.device, n.classes+n.smart[l.to].device)
		}
	}
	var out [][]control
	place := map[int]int{}
	for _, c := range n.controls() {
		root := together.root(n.classes + c.device)
		at, known := place[root]
		if !known {
			at = len(out)
			place[root], out = at, append(out, nil)
		}
		out[at] = append(out[at], c)
	}
	return out
}

// exploreGroups explores each group for itself, the others standing as recorded. The states are
// those of all groups, the recorded one first and once.
func exploreGroups(n *Network, groups [][]control) *Result {
	r := &Result{Network: n}
	start := n.Initial()
	byDevice := map[string]ControlResult{}
	for i, group := range groups {
		part := explore(n, []State{start}, group)
		r.Truncated = r.Truncated || part.Truncated
		from := 0
		if i > 0 {
			from = 1
		}
		r.States = append(r.States, part.States[from:]...)
		for _, c := range part.Controls {
			byDevice[c.Device] = c
		}
	}
	for _, id := range n.Controls() {
		r.Controls = append(r.Controls, byDevice[id])
	}
	return r
}

// Explore visits every state that pressing controls can reach. Where that are too many, and
// there are controls that have nothing to do with each other, each group of them is explored
// for itself.
func Explore(n *Network) *Result {
	if len(n.contacts) > bits.Len(uint(n.limit()))-1 {
		if groups := n.groups(); len(groups) > 1 {
			return exploreGroups(n, groups)
		}
	}
	return ExploreFrom(n, []State{n.Initial()})
}

// bars numbers the points at which supplies return: neutral terminals on one bar, or on
// bars that cables between panels join, have one number.
func (n *Network) bars() []int {
	points := newSets(n.points)
	for _, e := range n.cores {
		ends := n.doc.Cables[e.cable].Ends
		panels := !slices.ContainsFunc(ends[:], func(b *string) bool {
			return b == nil || n.doc.Box(*b) == nil || n.doc.Box(*b).Kind != circuit.Panel
		})
		if panels {
			points.unite(e.a, e.b)
		}
	}
	out := make([]int, len(n.supplies))
	for i, s := range n.supplies {
		out[i] = points.root(n.point[s.neutral])
	}
	return out
}
