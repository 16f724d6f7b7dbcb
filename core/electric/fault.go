package electric

import (
	"math"

	"ambivia/core/circuit"
)

// faults lists what is wrong in one state.
func (n *Network) faults(s *Solution) []Fault {
	var out []Fault
	out = append(out, n.netFaults(s)...)
	if s.Tripped {
		return out
	}
	for i, l := range n.lamps {
		if l.out {
			continue
		}
		at := []circuit.End{n.nodes[l.l], n.nodes[l.n]}
		v := s.lampVolts(i)
		switch {
		case v > 0.02*n.Volts && v < fullFraction*n.Volts:
			out = append(out, Fault{PartVolts, at})
		case s.hot(l.n): // whether or not its other side is live too
			out = append(out, Fault{HotShell, at[1:]})
		case v < 1 && s.hot(l.l):
			out = append(out, Fault{NeutralSwitched, at})
		}
		if v >= fullFraction*n.Volts && (s.onlyGround(l.n) || s.onlyGround(l.l)) {
			out = append(out, Fault{GroundReturn, at})
		}
		if v > 0 && n.borrowed(s, l) {
			out = append(out, Fault{BorrowedNeutral, at[1:]})
		}
	}
	for _, l := range n.loads {
		at := []circuit.End{n.nodes[l.l], n.nodes[l.n]}
		switch {
		case s.hot(l.n) && !s.hot(l.l):
			out = append(out, Fault{LoadReversed, at})
		case s.hot(l.l) && s.onlyGround(l.n):
			out = append(out, Fault{GroundReturn, at})
		case s.hot(l.l) && !s.neutral(l.n) && !n.stub[n.class[l.n]]:
			out = append(out, Fault{LoadNoNeutral, at})
		}
	}
	for i, d := range n.smart {
		if s.awake>>i&1 == 0 {
			out = append(out, Fault{DeviceUnpowered, n.terminals(d.device)})
		}
		for _, x := range d.signals {
			if s.tie[s.root(x)] != 0 {
				out = append(out, Fault{SignalClash, []circuit.End{n.nodes[x]}})
			}
		}
		out = append(out, n.backfed(s, d)...)
	}
	return append(out, n.unbalanced(s)...)
}

// borrowed reports whether a lamp is fed by one breaker and returns through the
// neutral of others alone.
func (n *Network) borrowed(s *Solution, l lamp) bool {
	hot, back := s.root(l.l), s.root(l.n)
	if !s.hot(l.l) {
		hot, back = back, hot
	}
	var fed, returns uint64
	for i, sup := range n.supplies {
		if s.root(sup.hot) == hot && !sup.off {
			fed |= 1 << (i & 63)
		}
		if s.root(sup.neutral) == back {
			returns |= 1 << (i & 63)
		}
	}
	return fed != 0 && returns != 0 && fed&returns == 0
}

// backfed finds an open throw of a smart relay that is hot from elsewhere while
// its pole is not: closing would tie a live conductor to whatever the pole
// feeds. A single throw that is hot beside a hot pole is as bad: the device can
// never switch its load off.
func (n *Network) backfed(s *Solution, d smart) []Fault {
	var out []Fault
	for i, c := range n.contacts {
		if !c.smart || c.device != d.device || len(c.closed[0]) > 0 {
			continue
		}
		open := s.State>>i&1 == 0
		pair := c.closed[1][0]
		if open && s.hot(pair[1]) {
			out = append(out, Fault{RelayBackfed, []circuit.End{n.nodes[pair[1]]}})
		}
	}
	return out
}

func (s *Solution) onlyGround(node int) bool {
	t := s.tie[s.root(node)]
	return t&tieGround != 0 && t&tieNeutral == 0
}

// netFaults finds nets that are tied to what must stay apart.
func (n *Network) netFaults(s *Solution) []Fault {
	var out []Fault
	for root, t := range s.tie {
		if t == 0 {
			continue
		}
		kind := FaultKind("")
		switch {
		case t&tieHot != 0 && t&tieNeutral != 0:
			kind = ShortHotNeutral
		case t&tieHot != 0 && t&tieGround != 0:
			kind = ShortHotGround
		case t&tieNeutral != 0 && t&tieGround != 0:
			kind = NeutralGround
		case t&tieNeutral != 0 && n.barsOf(s, root) > 1:
			kind = NeutralsJoined
		case s.feed[root]&(s.feed[root]-1) != 0:
			kind = TwoSupplies
		}
		if kind != "" {
			out = append(out, Fault{kind, n.coresOf(s, root)})
		}
		if t&tieHot != 0 && t&tieGround == 0 {
			if at := n.groundParts(s, root); len(at) > 0 {
				out = append(out, Fault{GroundLive, at})
			}
		}
	}
	return out
}

// barsOf counts the bars of panels that a net is tied to.
func (n *Network) barsOf(s *Solution, root int) int {
	if len(n.supplies) < 2 {
		return len(n.supplies)
	}
	seen := map[int]bool{}
	for i, sup := range n.supplies {
		if s.root(sup.neutral) == root {
			seen[n.bar[i]] = true
		}
	}
	return len(seen)
}

// coresOf lists the core ends of a net, or its terminals where it has none.
func (n *Network) coresOf(s *Solution, root int) []circuit.End {
	var cores, terminals []circuit.End
	for i, e := range n.nodes {
		if s.root(i) != root {
			continue
		}
		if isCore(e) {
			cores = append(cores, e)
		} else {
			terminals = append(terminals, e)
		}
	}
	if cores == nil {
		return terminals
	}
	return cores
}

// groundParts lists the ground-coloured cores and ground terminals of a net.
func (n *Network) groundParts(s *Solution, root int) []circuit.End {
	var out []circuit.End
	for _, i := range n.grounds {
		if s.root(i) == root {
			out = append(out, n.nodes[i])
		}
	}
	return out
}

// unbalanced finds cables whose cores' currents do not sum to zero.
func (n *Network) unbalanced(s *Solution) []Fault {
	var out []Fault
	astray := make([]bool, len(n.doc.Cables))
	x := n.borrow()
	defer n.giveBack(x)
	for i := range max(1, len(n.supplies)) { // each for itself: two that are astray may cancel out
		fed := uint64(allSupplies)
		if len(n.supplies) > 1 {
			fed = 1 << (i & 63)
		}
		for cable, amps := range n.cableCurrents(&x.flow, s, fed) {
			astray[cable] = astray[cable] || math.Abs(amps) >= balanceTolerance
		}
	}
	for i, is := range astray {
		if !is {
			continue
		}
		k := n.doc.Cables[i]
		var at, all []circuit.End
		for _, core := range k.Cores {
			e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}
			all = append(all, e)
			if p := s.At(e); p != Floating && p != Ground {
				at = append(at, e)
			}
		}
		if at == nil { // the current runs in the ground alone
			at = all
		}
		out = append(out, Fault{CableUnbalanced, at})
	}
	return out
}
