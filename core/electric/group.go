package electric

import (
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// mostWork bounds one exploration to about a second on a slow machine: each lamp of each state is kept, and where
// lamps feed each other a state costs the square of those that do not hang side by side.
const mostWork = 5_000_000

// manyContacts is the number of contacts above which independent groups are explored one by one. Each state of a group is
// the same in all states of the others, so all combinations would tell nothing new.
const manyContacts = 8

// leastStates is how many states are visited however many lamps there are.
const leastStates = 128

// limit is how many states an exploration visits at most.
func (n *Network) limit() int {
	each := 20*len(n.lamps) + len(n.strings)*len(n.strings)
	return min(MaxStates, max(leastStates, mostWork/max(1, each)))
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
	together := sets.New(n.classes + len(n.doc.Devices))
	for i, d := range n.doc.Devices {
		for _, t := range n.doc.Terminals(d) {
			if t == "ground" {
				continue
			}
			if class := n.class[n.index[circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}]]; !fixed[class] && d.Type != circuit.TypeSupply {
				together.Unite(class, n.classes+i)
			}
		}
	}
	for _, d := range n.smart {
		for _, l := range d.links {
			together.Unite(n.classes+d.device, n.classes+n.smart[l.to].device)
		}
	}
	var out [][]control
	place := map[int]int{}
	for _, c := range n.controls() {
		root := together.Root(n.classes + c.device)
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
		part := explore(n, []State{start}, group, true)
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
	tooMany := len(n.contacts) > bits.Len(uint(n.limit()))-1
	if tooMany || len(n.contacts) > manyContacts {
		if groups := n.groups(); len(groups) > 1 {
			if r := exploreGroups(n, groups); tooMany || !r.trips() {
				return r
			}
		}
	}
	return ExploreFrom(n, []State{n.Initial()})
}

// trips reports whether the breaker goes in any of the states: nothing is seen of the other groups then.
func (r *Result) trips() bool {
	return slices.ContainsFunc(r.States, func(s StateResult) bool {
		return slices.ContainsFunc(s.Faults, func(f Fault) bool { return f.Kind == ShortHotNeutral || f.Kind == ShortHotGround })
	})
}

// bars numbers the points at which supplies return: neutral terminals on one bar, or on
// bars that cables between panels join, have one number.
func (n *Network) bars() []int {
	points := sets.New(n.points)
	for _, e := range n.cores {
		ends := n.doc.Cables[e.cable].Ends
		panels := !slices.ContainsFunc(ends[:], func(b *string) bool {
			return b == nil || n.doc.Box(*b) == nil || n.doc.Box(*b).Kind != circuit.Panel
		})
		if panels {
			points.Unite(e.a, e.b)
		}
	}
	out := make([]int, len(n.supplies))
	for i, s := range n.supplies {
		out[i] = points.Root(n.point[s.neutral])
	}
	return out
}

// AfterPowerCut tells what each control does once power comes back: mechanical switches were
// moved meanwhile as anyone liked; relays stayed as they were in one of the states of r, or all
// went to rest (open, or on their first throw), for devices differ in this. Controls that have
// nothing to do with each other are looked at each group for itself. Faults are not told.
func AfterPowerCut(r *Result) *Result {
	n := r.Network
	out := &Result{Network: n, Truncated: r.Truncated}
	byDevice := map[string]ControlResult{}
	for _, group := range n.groups() {
		from := cut(r, group)
		part := explore(n, from, group, false)
		out.Truncated = out.Truncated || part.Truncated
		out.States = append(out.States, part.States...)
		for _, c := range part.Controls {
			byDevice[c.Device] = c
		}
	}
	for _, id := range n.Controls() {
		out.Controls = append(out.Controls, byDevice[id])
	}
	return out
}

// cut lists the states in which the contacts of a group may stand when power comes back, at most
// [MaxStates]; the others stand as recorded.
func cut(r *Result, group []control) []State {
	n := r.Network
	var byHand, relays State
	for i, c := range n.contacts {
		switch {
		case !slices.ContainsFunc(group, func(x control) bool { return x.device == c.device }) && !c.smart:
		case c.smart:
			relays |= 1 << i
		default:
			byHand |= 1 << i
		}
	}
	others := n.Initial() &^ (byHand | relays)
	var out []State
	seen := map[State]bool{}
	for i := -1; i < len(r.States); i++ {
		var held State // at rest
		if i >= 0 {
			held = r.States[i].State & relays
		}
		if seen[held] {
			continue
		}
		seen[held] = true
		for hand := byHand; len(out) < n.limit(); hand = (hand - 1) & byHand { // every subset
			if out = append(out, others|held|hand); hand == 0 {
				break
			}
		}
	}
	return out
}
