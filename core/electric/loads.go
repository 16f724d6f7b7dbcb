package electric

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// mostTrickle is the most watts of a locator lamp: one across a switch, that shows where the switch is. A lamp without recorded
// watts is no locator lamp.
const mostTrickle = 5

// hangTogether are the nodes that joins and cables make one, switches aside.
func (l *layout) hangTogether(c *circuit.Circuit) sets.Sets {
	at := sets.New(len(l.nodes))
	for _, r := range l.runs {
		at.Unite(r.from, r.to)
	}
	for _, j := range c.Joins {
		first := -1
		for _, m := range j.Of {
			i, known := l.index[circuit.End{Ref: m, Box: j.Box}]
			if !known {
				i, known = l.index[circuit.End{Ref: m}]
			}
			if !known {
				continue
			}
			if first < 0 {
				first = i
			}
			at.Unite(first, i)
		}
	}
	return at
}

// sortLoads tells loads apart by how they hang: a receptacle that a switch feeds is worked like a lamp, one on the feed is for
// whatever is plugged in; and a small lamp across the contacts of a switch in its own box is a locator lamp, through which no more
// than a trickle runs.
func (l *layout) sortLoads(c *circuit.Circuit, at sets.Sets) {
	hot := map[int]bool{}
	for _, s := range l.feeds {
		hot[at.Root(s.hot)] = true
	}
	l.sockets = slices.DeleteFunc(l.sockets, func(x lamp) bool {
		if l.locates(c, at, x) {
			l.locators = append(l.locators, x.device)
			return true
		}
		return false
	})
	l.loads = slices.DeleteFunc(l.loads, func(x lamp) bool {
		if hot[at.Root(x.l)] || at.Root(x.l) == at.Root(x.n) || l.onTraveler(c, at, at.Root(x.l)) || !l.switched(at, at.Root(x.l), hot) {
			return false
		}
		l.sockets = append(l.sockets, x)
		return true
	})
	slices.SortFunc(l.sockets, func(a, b lamp) int { return a.device - b.device })
}

// locates reports whether a lamp lies across the two sides of a switch in its box.
func (l *layout) locates(c *circuit.Circuit, at sets.Sets, x lamp) bool {
	d := c.Devices[x.device]
	if b := c.Box(d.Box); b == nil || b.Kind != circuit.Switch || d.Watts == nil || *d.Watts > mostTrickle {
		return false
	}
	return slices.ContainsFunc(l.contacts, func(k contact) bool {
		return !k.smart && c.Devices[k.device].Box == d.Box && slices.ContainsFunc(slices.Concat(k.closed[0], k.closed[1]), func(pair [2]int) bool {
			a, b := at.Root(pair[0]), at.Root(pair[1])
			return a != b && (a == at.Root(x.l) && b == at.Root(x.n) || b == at.Root(x.l) && a == at.Root(x.n))
		})
	})
}

// onTraveler reports whether a conductor runs between two switches: what hangs on it is fed while they stand one way, by no plan.
func (l *layout) onTraveler(c *circuit.Circuit, at sets.Sets, conductor int) bool {
	return slices.ContainsFunc(c.Devices, func(d circuit.Device) bool {
		switch d.Type {
		case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
			return at.Root(l.terminal(d.ID, "t1")) == conductor || at.Root(l.terminal(d.ID, "t2")) == conductor
		case circuit.TypeFourWay:
			return slices.ContainsFunc([]string{"a1", "a2", "b1", "b2"}, func(t string) bool { return at.Root(l.terminal(d.ID, t)) == conductor })
		}
		return false
	})
}

// switched reports whether mains reach a conductor through contacts, in whatever positions.
func (l *layout) switched(at sets.Sets, from int, hot map[int]bool) bool {
	seen, todo := map[int]bool{from: true}, []int{from}
	for ; len(todo) > 0; todo = todo[1:] {
		for _, k := range l.contacts {
			for _, pair := range slices.Concat(k.closed[0], k.closed[1]) {
				a, b := at.Root(pair[0]), at.Root(pair[1])
				if b == todo[0] {
					a, b = b, a
				}
				if a != todo[0] || seen[b] {
					continue
				}
				if hot[b] {
					return true
				}
				seen[b] = true
				todo = append(todo, b)
			}
		}
	}
	return false
}

// twoPoles finds pairs of single-pole switches in one box that break line and neutral of one load: they are taken for the two poles
// of one switch, and the one in the neutral moves with the other.
func (l *layout) twoPoles(c *circuit.Circuit, at sets.Sets) map[int]int {
	node := func(d circuit.Device, t string) int { return at.Root(l.terminal(d.ID, t)) }
	feeds := map[string]map[int]bool{"hot": {}, "neutral": {}}
	loads := map[[2]int]bool{}
	for _, d := range c.Devices {
		switch d.Type {
		case circuit.TypeSupply:
			feeds["hot"][node(d, "hot")], feeds["neutral"][node(d, "neutral")] = true, true
		case circuit.TypeLamp, circuit.TypeReceptacle:
			loads[[2]int{node(d, "l"), node(d, "n")}] = true
		}
	}
	// beyond is the side of a switch that is not on the feed, -1 where not one side is.
	beyond := func(d circuit.Device, feed map[int]bool) int {
		a, b := node(d, "a"), node(d, "b")
		switch {
		case feed[a] && !feed[b]:
			return b
		case feed[b] && !feed[a]:
			return a
		}
		return -1
	}
	out := map[int]int{}
	for i, d := range c.Devices {
		if d.Type != circuit.TypeSinglePole || beyond(d, feeds["hot"]) < 0 {
			continue
		}
		for k, x := range c.Devices {
			if _, taken := out[k]; taken || x.Type != circuit.TypeSinglePole || x.Box != d.Box || !loads[[2]int{beyond(d, feeds["hot"]), beyond(x, feeds["neutral"])}] {
				continue
			}
			out[k] = i
			break
		}
	}
	return out
}

// Poles gives for each switch that is taken for the neutral pole of another one that other, by their ids.
func (n *Network) Poles() map[string]string {
	out := map[string]string{}
	for second, first := range n.poles {
		out[n.doc.Devices[second].ID] = n.doc.Devices[first].ID
	}
	return out
}

// Locators lists the lamps that show where a switch is: they lie across its contacts, and are no load that it switches.
func (n *Network) Locators() []string {
	var out []string
	for _, i := range n.locators {
		out = append(out, n.doc.Devices[i].ID)
	}
	return out
}
