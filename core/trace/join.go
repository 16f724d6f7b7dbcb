package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// join makes one net hang together.
func (r *router) join(n int, l label) {
	parts := r.parts(l)
	if parts.count <= 1 {
		r.decide(n + 1)
		return
	}
	if parts.first < 0 {
		return
	}
	// One part grows towards another through a conductor that is spliced past: from a
	// region that it reaches to one of another part, or nearer to one.
	var ours, theirs uint32
	for k, p := range parts.byRegion[:r.t.regions] {
		switch {
		case p < 0:
		case p == parts.first:
			ours |= 1 << k
		default:
			theirs |= 1 << k
		}
	}
	dist := r.distances(r.t)
	toOther := func(region int) int8 {
		best := int8(127)
		for k := range r.t.regions {
			if theirs>>k&1 == 1 && dist[region][k] >= 0 {
				best = min(best, dist[region][k])
			}
		}
		return best
	}
	near, nearer := int8(127), theirs
	for k := range r.t.regions {
		if ours>>k&1 == 1 {
			near = min(near, toOther(k))
		}
	}
	for k := range r.t.regions {
		if ours>>k&1 == 0 && toOther(k) < near {
			nearer |= 1 << k
		}
	}
	serves := func(c int) bool {
		return r.lab[c] == undecided && r.reach[c]&ours != 0 && r.reach[c]&nearer != 0
	}
	for c := range r.classes {
		if !serves(c) {
			continue
		}
		if r.p.kinds[l] != isRails {
			r.with(c, l, func() { r.join(n, l) })
			continue
		}
		for other := range c {
			if serves(other) && r.reach[c] == r.reach[other] { // both travelers pass by the same boxes
				r.with(c, l, func() { r.with(other, l, func() { r.join(n, l) }) })
			}
		}
	}
}

// with goes on with a conductor put on a net, unless that is too unlikely.
func (r *router) with(class int, l label, on func()) {
	before := r.running
	for _, i := range r.classes[class].cores {
		r.running *= r.coreWeight(i, l)
	}
	r.lab[class] = l
	r.bends(class, 1)
	if r.running >= r.odds*r.best {
		on()
	}
	r.bends(class, -1)
	r.lab[class] = undecided
	r.running = before
}

// parts says how a label hangs together: a part number for each region that it
// reaches, -1 elsewhere. first is the part that grows, -1 where it reaches none.
type parts struct {
	byRegion [maxStubs]int8
	count    int
	first    int8
}

func (r *router) parts(l label) (p parts) {
	var parent [maxStubs]int8 // regions that conductors of this label join
	var reached uint32
	for k := range r.t.regions {
		parent[k] = int8(k)
		p.byRegion[k] = -1
	}
	root := func(k int8) int8 {
		for parent[k] != k {
			k = parent[k]
		}
		return k
	}
	loose := 0 // conductors that leave no opened box
	for c, lab := range r.lab {
		if lab != l {
			continue
		}
		at := int8(-1)
		for _, i := range r.classes[c].cores {
			k := r.t.region[r.cores[i].stub]
			reached |= 1 << k
			if at >= 0 {
				parent[root(k)] = root(at)
			}
			at = k
		}
		if at < 0 {
			loose++
		}
	}
	for i, room := range r.rooms {
		if room >= 0 && r.devices[i].required>>l&1 == 1 {
			reached |= 1 << room
		}
	}
	if r.p.kinds[l] == isRails && loose == 2 && reached == 0 {
		loose = 1 // both travelers can be followed to their ends
	}
	p.count, p.first = loose, -1
	for k := range int8(r.t.regions) {
		if reached>>k&1 == 0 {
			continue
		}
		if root(k) == k {
			p.count++
		}
		p.byRegion[k] = root(k)
		if p.first < 0 {
			p.first = root(k)
		}
	}
	return p
}

// extend lets the conductors that nothing needs hang on a net that they reach, or
// on none: a neutral capped for later, a feed that goes on to other rooms, a spare
// core.
func (r *router) extend(from int) {
	for c := from; c < len(r.classes); c++ {
		if r.lab[c] != undecided || r.classes[c].ground || r.classes[c].screwed {
			continue
		}
		for _, l := range r.reaches(c) {
			r.with(c, l, func() { r.extend(0) }) // another may reach this net through it
		}
		r.with(c, none, func() { r.extend(c + 1) })
		return
	}
	r.finish()
}

// reaches lists the nets that meet an undecided conductor in some region: those
// that others may hang on, never a traveler.
func (r *router) reaches(class int) []label {
	mask := uint64(0)
	for _, i := range r.classes[class].cores {
		k := r.t.region[r.cores[i].stub]
		if r.cable[k] { // in one cable a core goes on in the core of its name
			for j, other := range r.cores {
				if j != i && r.t.region[r.cores[j].stub] == k && other.stub != r.cores[i].stub && other.name == r.cores[i].name {
					if l := r.lab[other.class]; l > none {
						mask |= 1 << l
					}
				}
			}
			continue
		}
		for _, other := range r.cores {
			if l := r.lab[other.class]; r.t.region[other.stub] == k && l > none {
				mask |= 1 << l
			}
		}
		for d, room := range r.rooms {
			if room == k {
				mask |= r.devices[d].required
			}
		}
	}
	var out []label
	returns, lines := r.colours(class)
	for l, k := range r.p.kinds {
		if mask>>l&1 == 1 && (k == isHot && lines || k == isNeutral && returns) {
			out = append(out, label(l))
		}
	}
	return out
}

// colours says what a conductor that nothing needs may be by its insulation: a
// neutral keeps its colour, and a core of that colour alone is no feed. This is
// asked of spare conductors only; what a switch or lamp needs may have any colour.
func (r *router) colours(class int) (returns, lines bool) {
	for _, i := range r.classes[class].cores {
		name := r.cores[i].name
		returns = returns || slices.Contains(r.custom.Colours.Neutral, circuit.Colour(name))
		lines = lines || !r.custom.NeutralOnly(name)
	}
	return returns, lines
}
