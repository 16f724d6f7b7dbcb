package trace

import "slices"

// choice is a place in the network where a probe may be, with the nets that put it there.
type choice struct {
	at   spot
	nets uint32
}

// choices lists where a probe on a free conductor may be, on those nets. Most nets of a combination
// hang together, so that they are few. They are kept in of, which is used again.
func (n *network) choices(of []choice, p probe, nets []int8, may uint32) []choice {
	of = of[:0]
	if p.ground || p.lamp >= 0 || p.supply >= 0 || n.s.split[p.class] {
		return append(of, choice{n.place(p, nets, undecided), may})
	}
	n.meet()
	on := spot{node: -1, class: p.class, sure: p.sure}
	if lost := may & n.lost; lost != 0 {
		of = append(of, choice{on, lost})
	}
	if may&1 != 0 {
		of = append(of, choice{n.place(p, nets, 0), 1})
	}
	for _, g := range n.together {
		if nets := may & g.nets; nets != 0 {
			on.node = int(g.node)
			of = append(of, choice{on, nets})
		}
	}
	return of
}

// matching is nets of a reading's first free conductor and of its second that go together in one
// network: each of the first with each of the second.
type matching struct{ a, b uint32 }

// relation is all pairs of a constraint in one network. It does not depend on what else is known, so
// that it is worked out once for all times that a frame is fitted.
type relation struct {
	of    int // the number of the reading, and what it is wanted to show
	pairs []matching
}

// relate lists the pairs of a constraint in the network as joined.
func (n *network) relate(k *constraint, nets []int8) []matching {
	key := k.m.number<<4 | int(k.want)
	cached := k.m.number > 0 && n.joined != &n.own
	if cached {
		for i := range n.relations {
			if n.relations[i].of == key {
				return n.relations[i].pairs
			}
		}
	}
	out := n.pairs(k, nets, n.room[:0])
	n.room = out
	if cached {
		out = slices.Clone(out)
		n.relations = append(n.relations, relation{key, out})
	}
	return out
}

// pairs works them out.
func (n *network) pairs(k *constraint, nets []int8, out []matching) []matching {
	all := uint32(1)<<len(n.f.kinds) - 1
	if len(k.m.at) == 2 && k.of[0] >= 0 && k.of[0] == k.of[1] { // both probes on one conductor
		may := uint32(0)
		for net := range n.f.kinds {
			if n.agrees(k, n.place(k.m.at[0], nets, int8(net)), n.place(k.m.at[1], nets, int8(net))) {
				may |= 1 << net
			}
		}
		return append(out, matching{may, may})
	}
	may := &n.may
	may[1] = append(may[1][:0], choice{})
	for i, p := range k.m.at {
		if k.of[i] < 0 {
			may[i] = append(may[i][:0], choice{n.place(p, nets, undecided), all})
		} else {
			may[i] = n.choices(may[i], p, nets, all)
		}
	}
	for _, x := range may[0] {
		for _, y := range may[1] {
			if n.agrees(k, x.at, y.at) {
				out = append(out, matching{x.nets, y.nets})
			}
		}
	}
	return out
}

// supports finds the nets of the conductors of a reading that some nets of the others go with.
// The network must have been joined for the reading's setup, which ties no free conductor.
func (n *network) supports(k *constraint, nets []int8, masks []uint32) (seen [3]uint32) {
	may := [2]uint32{^uint32(0), ^uint32(0)}
	for i := range k.m.at {
		if u := k.of[i]; u >= 0 {
			may[i] = masks[k.scope[u]]
		}
	}
	for _, p := range n.relate(k, nets) {
		a, b := p.a&may[0], p.b&may[1]
		if len(k.m.at) == 2 && (a == 0 || b == 0) || a == 0 {
			continue
		}
		if k.of[0] >= 0 {
			seen[k.of[0]] |= a
		}
		if k.of[1] >= 0 {
			seen[k.of[1]] |= b
		}
	}
	return seen
}

// agrees reports whether a reading may be what it was with its probes at those places, the second
// of which says nothing where there is one probe.
func (n *network) agrees(k *constraint, x, y spot) bool {
	shown := tripped
	if !n.bad || !n.s.on {
		shown = n.read(k.m.instrument, x, y, k.m.lamp)
	}
	return shown&k.want != 0
}
