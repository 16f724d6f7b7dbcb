package trace

import (
	"math/bits"
	"slices"

	"ambivia/core/circuit"
)

// What carries the current of a light is led as people lead it: line and return, and the
// travelers with either, run together in the same cables, so that the cables which carry
// it form a tree of boxes, some of them two side by side. (Were line and return to run in
// different cables, their currents would not cancel, and metal around them grows warm.) A
// route is one way of leading all nets of a pattern so: which of the conductors that no
// switch settles carry them on. All others may be on anything, wherever their cables run:
// a ring of boxes, a second cable, a spare core, a feed that goes on.
//
// Two cores that are joined in a box never come from one place: they would be a loop.

// carrier is what a route puts on a class: the label, and for a traveler which of the pair.
type carrier struct {
	class int
	l     label
}

// router looks for the routes of one pattern. What lies beyond the opened boxes is places:
// stubs and hidden devices that have come together are at one, which bears the number of
// the first of them. Sets of places are words of bits.
type router struct {
	*view
	p       *pattern
	light   int
	lab     []label // by class
	devices []routed
	place   []int8   // of each stub, then of each hidden device
	stubs64 []uint64 // by class: its stubs
	panels  uint64   // stubs that lead to a panel
	box     []int    // by class: the number of its box
	free    []int    // classes through which a net may be led on
	order   []label
	rule    joints
	middles bool // switches in the middle may stand where nobody has looked

	found [][]carrier
	seen  map[string]bool
	steps int
	limit int  // of steps
	most  int  // conductors that a route may lead through, in this round
	cut   bool // there may be routes of more
	text  []byte
}

// joints says what may meet beyond the opened boxes.
type joints uint8

const (
	plain  joints = iota // nothing but the two ends of one cable, and what is at the end of one
	hidden               // anything that keeps boxes and places a tree
	anyhow               // nothing is said of how nets are led
)

// routed is a hidden device with the labels of its terminals.
type routed struct {
	labels []label
	kind   string
	place  int
}

// Labels of classes that the light does not settle: those that nothing settles, and those
// on nets of other lights.
const (
	undecidedLabel label = -1
	foreignLabel   label = -2
)

// mostSteps bounds the search for the routes of all patterns together, leastSteps that for
// each of many, manySteps that for all of so many that even this takes long, mostRoutes how
// many routes there may be of one: beyond them nothing is said of how its nets are led, which
// rules nothing out.
const (
	mostSteps  = 120_000
	leastSteps = 300
	manySteps  = 500_000
	mostRoutes = 60
)

// stepsFor is the bound for each of so many patterns: the same for all, so that it does not
// matter which comes first.
func stepsFor(patterns int) int {
	return max(min(leastSteps, manySteps/patterns), mostSteps/patterns)
}

// routes lists the ways of leading a pattern: those of each of its lights, combined. Lights
// are led each for itself: between them cables may close rings, and each may have a feed of
// its own. There is none where one cannot be led.
func (v *view) routes(p *pattern, rule joints, steps int) [][]carrier {
	out := [][]carrier{nil}
	for g := range p.lights {
		own := v.routesOf(p, g, rule, steps)
		if len(own)*len(out) > mostRoutes {
			own = [][]carrier{nil}
		}
		var next [][]carrier
		for _, have := range out {
			for _, more := range own {
				next = append(next, slices.Concat(have, more))
			}
		}
		out = next
	}
	return out
}

// routesOf lists the ways of leading the nets of one light, none of which leads them on
// through all that another one does. Routes of few conductors are looked for first: what
// leads a net on through more than those is nothing new.
func (v *view) routesOf(p *pattern, g int, rule joints, steps int) [][]carrier {
	r := &router{view: v, p: p, light: g, rule: rule, limit: steps, middles: v.mayHideMiddles(), lab: make([]label, len(v.classes)), seen: map[string]bool{}}
	for i := range r.lab {
		r.lab[i] = undecidedLabel
	}
	if !r.resolve() {
		return nil
	}
	if rule == anyhow || p.miswired || len(r.stubs)+len(r.devices) > 64 {
		return [][]carrier{nil}
	}
	r.prepare()
	for r.most = 0; ; r.most++ {
		r.cut = false
		clear(r.seen)
		if r.lead(nil); r.steps > r.limit || len(r.found) > mostRoutes {
			return [][]carrier{nil}
		}
		if !r.cut {
			return r.found
		}
	}
}

// resolve labels the classes that the light settles, and lists its hidden devices. What the
// other lights resolve may carry line or neutral for this one too, and nothing else.
func (r *router) resolve() bool {
	ok := true
	put := func(class int, l label) {
		if r.classes[class].ground || r.lab[class] >= none && r.lab[class] != l {
			ok = false
		}
		r.lab[class] = l
	}
	own := r.p.lights[r.light]
	for s, labels := range r.p.labels {
		for t, l := range labels {
			if r.p.nodes[s] == nil {
				continue
			}
			class := r.view.class[r.atom[r.p.nodes[s][t]]]
			if slices.Contains(own.switches, s) {
				put(class, l)
			} else if r.lab[class] == undecidedLabel && r.p.kinds[l] != isHot && r.p.kinds[l] != isNeutral {
				r.lab[class] = foreignLabel
			}
		}
		if r.p.nodes[s] == nil && slices.Contains(own.switches, s) {
			place := -1
			if s < len(r.switches) {
				place = r.placeOf[r.switches[s].box]
			}
			r.devices = append(r.devices, routed{labels, circuit.Switch, place})
		}
	}
	supply := r.supplies[own.supply]
	if supply.seen {
		put(r.view.class[supply.atoms[0]], hotOf(own.supply))
		put(r.view.class[supply.atoms[1]], neutralOf(own.supply))
	} else {
		r.devices = append(r.devices, routed{[]label{hotOf(own.supply), neutralOf(own.supply)}, circuit.TypeSupply, supply.place})
	}
	for i, l := range r.p.lamps {
		switch {
		case r.p.owner[r.p.lampL[i]] != r.light:
		case l.seen:
			put(r.view.class[l.atoms[0]], r.p.lampL[i])
			put(r.view.class[l.atoms[1]], r.p.lampN[i])
		default:
			r.devices = append(r.devices, routed{[]label{r.p.lampL[i], r.p.lampN[i]}, circuit.TypeLamp, l.place})
		}
	}
	return ok
}

// prepare numbers what the search needs, and brings together what the record says ends at
// one place.
func (r *router) prepare() {
	r.place = make([]int8, len(r.stubs)+len(r.devices))
	for i := range r.place {
		r.place[i] = int8(i)
	}
	boxes := map[string]int{}
	for class := range r.classes {
		mask := uint64(0)
		for _, i := range r.classes[class].cores {
			mask |= 1 << r.cores[i].stub
		}
		box := r.boxOf(class)
		if _, ok := boxes[box]; !ok {
			boxes[box] = len(boxes)
		}
		r.stubs64, r.box = append(r.stubs64, mask), append(r.box, boxes[box])
		if r.lab[class] == undecidedLabel && !r.classes[class].ground && mask&(mask-1) != 0 {
			r.free = append(r.free, class)
		}
	}
	for i, s := range r.view.stubs {
		if s.panel {
			r.panels |= 1 << i
		}
		for k := range i {
			if s.to >= 0 && r.view.stubs[k].to == s.to && !s.panel {
				r.unite(r.place[i], r.place[k])
			}
		}
		for d, dev := range r.devices {
			if s.to >= 0 && dev.place == s.to {
				r.unite(r.place[i], r.place[len(r.view.stubs)+d])
			}
		}
	}
	for _, kinds := range [][]labelKind{{isTraveler}, {isStrap, isShell}, {isLoad}, {isHot}, {isNeutral}} {
		for l, k := range r.p.kinds {
			own := r.p.owner[l] == r.light || k == isHot && label(l) == hotOf(r.p.lights[r.light].supply) || k == isNeutral && label(l) == neutralOf(r.p.lights[r.light].supply)
			if own && slices.Contains(kinds, k) {
				r.order = append(r.order, label(l))
			}
		}
	}
}

func (r *router) boxOf(class int) string {
	for _, e := range r.classes[class].ends {
		if e.Box != "" {
			return e.Box
		}
	}
	return r.doc.Device(r.classes[class].ends[0].Owner).Box
}

// unite makes one place of two.
func (r *router) unite(x, y int8) {
	from, to := max(x, y), min(x, y)
	for i, p := range r.place {
		if p == from {
			r.place[i] = to
		}
	}
}

// places are those to which stubs lead.
func (r *router) places(stubs uint64) (out uint64) {
	for ; stubs != 0; stubs &= stubs - 1 {
		out |= 1 << r.place[bits.TrailingZeros64(stubs)]
	}
	return out
}

// lead goes on with the first net that does not hang together yet.
func (r *router) lead(carriers []carrier) {
	if r.steps++; r.steps > r.limit || r.covered(carriers) {
		return
	}
	r.text = r.text[:0]
	for _, p := range r.place {
		r.text = append(r.text, byte(p))
	}
	for _, class := range r.free {
		r.text = append(r.text, byte(r.lab[class]))
	}
	if r.seen[string(r.text)] {
		return
	}
	r.seen[string(r.text)] = true
	var parts parts
	for _, l := range r.order {
		if parts.find(r, l); parts.n > 1 {
			r.join(l, &parts, carriers)
			return
		}
	}
	r.found = append(r.found, slices.Clone(carriers))
}

// covered reports whether a route was found that leads through these conductors at most.
func (r *router) covered(carriers []carrier) bool {
	return slices.ContainsFunc(r.found, func(route []carrier) bool {
		return !slices.ContainsFunc(route, func(c carrier) bool { return !slices.Contains(carriers, c) })
	})
}

// parts is what hangs together of a net: for each part the places that it leads to. The
// first is the one that grows.
type parts struct {
	places [maxParts]uint64
	n      int
}

// maxParts bounds the parts of a net: one for each box, and a few devices.
const maxParts = 48

// find lists the parts of a net. A pair of travelers leads where both do.
func (p *parts) find(r *router, l label) {
	p.n = 0
	if r.p.kinds[l] == isTraveler {
		p.findPair(r, l)
	} else {
		for class, lab := range r.lab {
			if lab == l {
				p.add(r.places(r.stubs64[class]))
			}
		}
	}
	for d, dev := range r.devices {
		if slices.Contains(dev.labels, l) {
			p.add(1 << r.place[len(r.view.stubs)+d])
		}
	}
}

// findPair lists the parts of a pair in boxes: where it leads in two conductors.
func (p *parts) findPair(r *router, l label) {
	var all, both [maxParts]uint64 // by box: places of any, and of two
	boxes := uint64(0)
	for class, lab := range r.lab {
		if lab != l {
			continue
		}
		places := r.places(r.stubs64[class])
		b := r.box[class] % maxParts
		both[b] |= all[b] & places
		all[b] |= places
		boxes |= 1 << b
	}
	for ; boxes != 0; boxes &= boxes - 1 {
		p.add(both[bits.TrailingZeros64(boxes)])
	}
}

// add adds what leads to some places, with the parts that lead there too.
func (p *parts) add(places uint64) {
	n := 0
	for i := range p.n {
		if p.places[i]&places != 0 {
			places |= p.places[i]
			continue
		}
		p.places[n] = p.places[i]
		n++
	}
	if n < maxParts {
		p.places[n] = places
		n++
	}
	p.n = n
}

// each goes through the places of a set.
func each(places uint64, do func(int8)) {
	for ; places != 0; places &= places - 1 {
		do(int8(bits.TrailingZeros64(places)))
	}
}

// join joins a part of a net to another, in every way: where one of its places is that of
// another part, or of a conductor that carries it on.
func (r *router) join(l label, parts *parts, carriers []carrier) {
	ours, others := parts.places[0], uint64(0)
	for i := 1; i < parts.n; i++ {
		others |= parts.places[i]
	}
	if r.p.kinds[l] == isTraveler { // two of one box may leave it in two cables
		r.bringTogether(l, carriers)
	}
	each(ours, func(x int8) {
		each(others, func(y int8) { r.merging(x, y, func() { r.lead(carriers) }) })
		r.carryOn(l, x, carriers)
	})
}

// bringTogether lets two travelers that leave one box in two cables come to one place.
func (r *router) bringTogether(l label, carriers []carrier) {
	for a, lab := range r.lab {
		if lab != l {
			continue
		}
		for b := range a {
			x, y := r.places(r.stubs64[a]), r.places(r.stubs64[b])
			if r.lab[b] == l && r.box[a] == r.box[b] && x&y == 0 {
				each(x, func(x int8) { each(y, func(y int8) { r.merging(x, y, func() { r.lead(carriers) }) }) })
			}
		}
	}
}

// carryOn leads a net on from a place through a conductor that nothing settles, travelers
// through two.
func (r *router) carryOn(l label, x int8, carriers []carrier) {
	pair := r.p.kinds[l] == isTraveler
	if wanted := len(carriers) + 1; wanted > r.most || pair && wanted+1 > r.most {
		r.cut = true
		return
	}
	for i, class := range r.free {
		if r.lab[class] != undecidedLabel || r.twice(class, l) {
			continue
		}
		if !pair {
			r.through(l, x, carriers, class)
			continue
		}
		for _, other := range r.free[:i] {
			if r.lab[other] == undecidedLabel && r.box[class] == r.box[other] && !r.twice(other, l) {
				r.through(l, x, carriers, other, class)
			}
		}
	}
}

// through leads a net through conductors from a place to which they lead, or which is then
// one with such a place.
func (r *router) through(l label, x int8, carriers []carrier, classes ...int) {
	places := ^uint64(0)
	for _, class := range classes {
		places &= r.places(r.stubs64[class])
	}
	if places&(places-1) == 0 && places&^(1<<x) == 0 {
		return
	}
	next := make([]carrier, len(carriers), len(carriers)+len(classes))
	copy(next, carriers)
	for _, class := range classes {
		r.lab[class] = l
		next = append(next, carrier{class, l})
	}
	each(places, func(y int8) {
		if y == x {
			r.lead(next)
		} else {
			r.merging(x, y, func() { r.lead(next) })
		}
	})
	for _, class := range classes {
		r.lab[class] = undecidedLabel
	}
}

// twice reports whether a net would run in a cable again.
func (r *router) twice(class int, l label) bool {
	most := 1
	switch {
	case r.p.kinds[l] == isTraveler && r.middles: // before a switch that nobody has seen, and after it
		most = 4
	case r.p.kinds[l] == isTraveler:
		most = 2
	}
	for left := r.stubs64[class]; left != 0; left &= left - 1 {
		n := 1 // a second core of the same conductor is a spare one that hangs on it
		for _, c := range r.view.stubs[bits.TrailingZeros64(left)].cores {
			if other := r.cores[c].class; other != class && r.lab[other] == l {
				n++
			}
		}
		if n > most {
			return true
		}
	}
	return false
}
