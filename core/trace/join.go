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
// core. offers are the labels that each region has for them.
func (r *router) extend(from int, offers [maxStubs]uint8) {
	r.tire()
	for c := from; c < len(r.classes); c++ {
		if r.lab[c] != undecided || r.classes[c].ground || r.classes[c].screwed {
			continue
		}
		mask := r.reaches(c, &offers)
		for _, l := range [2]label{hot, neutral} {
			if mask>>l&1 == 0 {
				continue
			}
			wider, before := offers, r.running
			for _, i := range r.classes[c].cores {
				k := r.t.region[r.cores[i].stub]
				if offers[k]>>l&1 == 0 { // it goes on to other rooms there: with its partner, at best
					r.running *= halfOnward
				}
				wider[k] |= 1 << l
			}
			r.with(c, l, func() { r.extend(0, wider) }) // another may reach this net through it
			r.running = before
		}
		r.with(c, none, func() { r.extend(c+1, offers) })
		return
	}
	r.finish()
}

// offers lists which of line and neutral are in each region, as bits.
func (r *router) offers() (by [maxStubs]uint8) {
	for _, c := range r.cores {
		if l := r.lab[c.class]; l == hot || l == neutral {
			by[r.t.region[c.stub]] |= 1 << l
		}
	}
	for d, room := range r.rooms {
		for _, l := range r.devices[d].labels {
			if l == hot || l == neutral {
				by[room] |= 1 << l
			}
		}
	}
	return by
}

// reaches says which of line and neutral an undecided conductor may hang on in some
// region, as bits: those that its insulation lets it be.
func (r *router) reaches(class int, offers *[maxStubs]uint8) (mask uint8) {
	for _, i := range r.classes[class].cores {
		k := r.t.region[r.cores[i].stub]
		if !r.cable[k] {
			mask |= offers[k]
		} else if j := r.twin[i]; j >= 0 { // in one cable a core goes on in the core of its name
			if l := r.lab[r.cores[j].class]; l == hot || l == neutral {
				mask |= 1 << l
			}
		}
	}
	return mask & r.spare[class]
}

// spares says for each class which of line and neutral it may be where nothing needs
// it: a neutral keeps its colour, and a core of that colour alone is no feed. What a
// switch or lamp needs may have any colour.
func (r *router) spares() []uint8 {
	out := make([]uint8, len(r.classes))
	for _, c := range r.cores {
		if slices.Contains(r.custom.Colours.Neutral, circuit.Colour(c.name)) {
			out[c.class] |= 1 << neutral
		}
		if !r.custom.NeutralOnly(c.name) {
			out[c.class] |= 1 << hot
		}
	}
	return out
}
