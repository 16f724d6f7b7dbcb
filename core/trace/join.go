package trace

import (
	"math/bits"
	"slices"

	"ambivia/core/circuit"
)

// choice is a conductor that may join two parts of a net; travelers come in pairs.
type choice struct{ class, other int }

// choices lists the conductors by which a net may grow: its first part grows towards
// another through a conductor that is spliced past, from a region that it reaches to one
// of another part, or nearer to one.
func (r *router) choices(l label, p *parts, out []choice) []choice {
	var ours, theirs uint32
	for k, part := range p.byRegion[:r.t.regions] {
		switch {
		case part < 0:
		case part == p.first:
			ours |= 1 << k
		default:
			theirs |= 1 << k
		}
	}
	dist := r.distances(r.t)
	var toOther [maxStubs]int8
	near, nearer := int8(127), theirs
	for k := range r.t.regions {
		toOther[k] = 127
		for other := range r.t.regions {
			if theirs>>other&1 == 1 && dist[k][other] >= 0 {
				toOther[k] = min(toOther[k], dist[k][other])
			}
		}
		if ours>>k&1 == 1 {
			near = min(near, toOther[k])
		}
	}
	for k := range r.t.regions {
		if ours>>k&1 == 0 && toOther[k] < near {
			nearer |= 1 << k
		}
	}
	serves := func(c int) bool {
		return r.leader[c] == c && r.lab[c] == undecided && r.refused[c]>>l&1 == 0 && r.reach[c]&ours != 0 && r.reach[c]&nearer != 0
	}
	for c := range r.classes {
		if !serves(c) {
			continue
		}
		if r.p.kinds[l] != isRails {
			out = append(out, choice{c, -1})
			continue
		}
		for other := range c {
			if serves(other) && r.reach[c] == r.reach[other] { // both travelers pass by the same boxes
				out = append(out, choice{c, other})
			}
		}
	}
	return out
}

// decide makes all nets hang together, of those that do not yet the one first that
// leaves the fewest choices. Travelers and straps have to be sound before line, neutral
// and load are led.
func (r *router) decide(left uint64, sound bool) {
	if r.tire(1); r.err != nil {
		return
	}
	bound := r.running * r.goesOn()
	if bound < r.odds*r.best {
		return
	}
	first := none
	start := len(r.choice)
	defer func() { r.choice = r.choice[:start] }()
	for try := left; try != 0; try &= try - 1 {
		l := label(bits.TrailingZeros64(try))
		p := r.parts(l)
		if p.count <= 1 {
			left &^= 1 << l
			continue
		}
		if p.first < 0 {
			return
		}
		had := len(r.choice)
		r.choice = r.choices(l, &p, r.choice)
		if bound *= r.bestOf(r.choice[had:], l); bound < r.odds*r.best {
			return
		}
		switch n := len(r.choice) - had; {
		case n == 0:
			return
		case first == none || n < had-start:
			copy(r.choice[start:], r.choice[had:])
			r.choice = r.choice[:start+n]
			first = l
		default:
			r.choice = r.choice[:had]
		}
	}
	if !sound && left&r.links == 0 {
		for region := range r.t.regions {
			if !r.railsSound(region) {
				return
			}
		}
		sound = true
	}
	if left == 0 {
		if r.sound() {
			r.extend(0, r.offers())
		}
		return
	}
	end := len(r.choice)
	for i := start; i < end; i++ {
		c := r.choice[i]
		if c.other < 0 {
			r.with(c.class, first, func() { r.decide(left, sound) })
		} else {
			r.with(c.class, first, func() { r.with(c.other, first, func() { r.decide(left, sound) }) })
		}
		if i+1 == end || r.choice[i+1].class != c.class { // what comes after does without it
			r.refused[c.class] |= 1 << first
		}
	}
	for _, c := range r.choice[start:end] {
		r.refused[c.class] &^= 1 << first
	}
}

// bestOf is how well the best of the choices agrees with a net, by the cores that meet
// others: those that do not are weighed where they are alone.
func (r *router) bestOf(choices []choice, l label) (best float64) {
	meeting := func(class int) float64 {
		weight := 1.0
		r.coresOf(class, func(i int) {
			if len(r.t.stubs[r.t.region[r.cores[i].stub]]) > 1 {
				weight *= r.coreWeight(i, l) / r.most[i]
			}
		})
		return weight
	}
	for _, c := range choices {
		weight := meeting(c.class)
		if c.other >= 0 {
			weight *= meeting(c.other)
		}
		best = max(best, weight)
	}
	return best
}

// with goes on with a conductor, and all that are one with it, put on a net, unless
// that is too unlikely.
func (r *router) with(class int, l label, on func()) {
	if l != none && r.twice(class, l) {
		return
	}
	before := r.running
	for m := r.next[class]; ; m = r.next[m] {
		r.running *= r.classWeight(m, l)
		r.lab[m] = l
		if m == class {
			break
		}
	}
	if r.running >= r.odds*r.best {
		on()
	}
	for m := r.next[class]; ; m = r.next[m] {
		r.lab[m] = undecided
		if m == class {
			break
		}
	}
	r.running = before
}

// twice reports whether a net would run in one cable again.
func (r *router) twice(class int, l label) bool {
	most := 1
	if r.p.kinds[l] == isRails {
		most = 2
	}
	for m := r.next[class]; ; m = r.next[m] {
		for _, i := range r.classes[m].cores {
			n := 1
			for _, other := range r.stubs[r.cores[i].stub].cores {
				if c := r.cores[other].class; other != i && (r.lab[c] == l || r.leader[c] == r.leader[class]) {
					n++
				}
			}
			if n > most {
				return true
			}
		}
		if m == class {
			return false
		}
	}
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
	if r.tire(1); r.err != nil || r.running*r.goesOn() < r.odds*r.best {
		return
	}
	for c := from; c < len(r.classes); c++ {
		if r.leader[c] != c || r.lab[c] != undecided || !r.spareable(c) {
			continue
		}
		may := r.mayBe(c)
		mask := r.reaches(c, &offers) & may &^ uint8(r.refused[c])
		if mask == 0 {
			continue // it may be reached through another yet
		}
		for _, l := range [2]label{hot, neutral} {
			if mask>>l&1 == 0 {
				continue
			}
			wider := offers
			r.coresOf(c, func(i int) {
				if k := r.t.region[r.cores[i].stub]; !r.one(k) {
					wider[k] |= 1 << l
				}
			})
			r.with(c, l, func() { r.extend(0, wider) })
		}
		r.refused[c] |= uint64(mask)
		if may&^uint8(r.refused[c]) == 0 {
			r.with(c, none, func() { r.extend(c+1, offers) })
		} else {
			r.extend(c+1, offers)
		}
		r.refused[c] &^= uint64(mask)
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
// region, as bits.
func (r *router) reaches(class int, offers *[maxStubs]uint8) (mask uint8) {
	r.coresOf(class, func(i int) {
		k := r.t.region[r.cores[i].stub]
		if !r.cable[k] {
			mask |= offers[k]
		} else if j := r.twin[i]; j >= 0 { // in one cable a core goes on in the core of its name
			if l := r.lab[r.cores[j].class]; l == hot || l == neutral {
				mask |= 1 << l
			}
		}
	})
	return mask
}

// mayBe says which of line and neutral a conductor may be where nothing needs it.
func (r *router) mayBe(class int) (mask uint8) {
	mask = r.spare[class]
	for m := r.next[class]; m != class; m = r.next[m] {
		mask &= r.spare[m]
	}
	return mask
}

// coresOf goes through the cores of a conductor and of all that are one with it.
func (r *router) coresOf(class int, do func(core int)) {
	for m := r.next[class]; ; m = r.next[m] {
		for _, i := range r.classes[m].cores {
			do(i)
		}
		if m == class {
			return
		}
	}
}

// one reports whether a region is a cable whose cores go straight on.
func (r *router) one(region int8) bool { return r.cable[region] && r.bent>>region&1 == 0 }

// spareable reports whether nothing says what a conductor is: it is no ground, and
// neither it nor what it goes on in is under a screw.
func (r *router) spareable(class int) bool {
	for m := r.next[class]; ; m = r.next[m] {
		if r.classes[m].ground || r.classes[m].screwed {
			return false
		}
		if m == class {
			return true
		}
	}
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
