package trace

import (
	"context"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// router leads the nets of a pattern through a topology.
type router struct {
	*view
	ctx       context.Context
	p         *pattern
	t         *topology
	lab       []label
	devices   []device
	rooms     []int8
	room      []int8       // its memory
	spare     []uint8      // by class: which of line and neutral it may be
	namesakes [][][][2]int // by two stubs that may be the ends of one cable: cores of one name
	cable     []bool       // by region: the two ends of one cable, as it seems
	twin      []int        // by core: the one of its name at the other end of that cable, or -1
	meetings  *index
	settled   lay  // of the pattern: travelers and straps
	placed    *lay // of the pattern: all labels
	spread    lay
	home      []int8                 // by class: the cluster of its box
	reach     []uint32               // by class: regions that it leads to
	fits      [][isStrap + 1]float64 // by core and kind of label: how well insulation and mark agree
	bent      []int                  // by region: cores that would change their net in that cable
	steps     []step
	custom    practice.Practice
	found     map[string]int
	worlds    []*world
	seen      inRegion
	odds      float64
	work      int     // decisions so far
	best      float64 // prior of the likeliest world so far
	ceiling   float64 // what the colours of settled conductors leave
	running   float64 // what a world weighs at best after the decisions so far
	err       error
}

// seen labels the classes that the pattern, or a seen supply or lamp, settles.
func (v *view) seenLabels(p *pattern) ([]label, bool) {
	lab := make([]label, len(v.classes))
	for i := range lab {
		lab[i] = undecided
	}
	ok := true
	put := func(class int, l label) {
		if v.classes[class].ground || lab[class] != undecided && lab[class] != l {
			ok = false
			return
		}
		lab[class] = l
	}
	for s, labels := range p.labels {
		for t, l := range labels {
			if p.nodes[s] != nil {
				put(v.class[v.atom[p.nodes[s][t]]], l)
			}
		}
	}
	for i, c := range v.classes {
		if c.hot {
			put(i, hot)
		}
		if c.neutral {
			put(i, neutral)
		}
		for _, l := range c.lampL {
			put(i, p.lampL[l])
		}
		for _, l := range c.lampN {
			put(i, p.lampN[l])
		}
	}
	return lab, ok
}

func (r *router) pattern(p *pattern, routes []topology) error {
	lab, ok := r.seenLabels(p)
	if !ok {
		return nil
	}
	r.p, r.lab, r.devices = p, lab, r.hiddenDevices(p)
	r.rooms = nil
	if r.steps = r.plan(); r.steps == nil {
		return nil
	}
	var pairs, rails uint64 // labels that no hidden device offers: each needs two cores
	offered := uint64(0)
	for _, d := range r.devices {
		offered |= d.required
	}
	for l, k := range p.kinds {
		if k == isRails {
			rails |= 1 << l
		}
		if k == isRails || k == isStrap || k == isShell {
			pairs |= 1 << l
		}
	}
	pairs &^= offered
	rails &^= offered
	masks, free := make([]uint64, len(r.stubs)), make([]int, len(r.stubs))
	for i, s := range r.stubs {
		for _, c := range s.cores {
			if class := r.cores[c].class; lab[class] != undecided {
				masks[i] |= 1 << lab[class]
			} else if len(r.classes[class].cores) > 1 { // something may be spliced past here
				free[i]++
			}
		}
	}
	a := asks{masks, free, pairs, rails}
	r.ceiling = r.colourCeiling()
	settled := r.settled.layOut(r, pairs)
	r.placed = r.spread.layOut(r, ^uint64(0))
	for w, word := range r.meetings.candidates(a) {
		for ; word != 0; word &= word - 1 {
			t := &routes[w<<6+bits.TrailingZeros64(word)]
			if r.running = p.weight * r.ceiling; r.running*t.bound < r.odds*r.best {
				return nil // the others are less likely still
			}
			if r.crosses(t, settled) && a.met(t) && r.running*r.bound(t, r.bentIn(t)) >= r.odds*r.best {
				r.t = t
				r.route()
				r.rooms = nil
			}
			if r.err != nil {
				return r.err
			}
		}
		if w%64 == 0 && r.ctx.Err() != nil {
			return r.ctx.Err()
		}
	}
	return nil
}

// met reports whether each label that must meet something in its region does, or may be
// spliced past in another cable there.
func (a asks) met(t *topology) bool {
	var once, twice [maxStubs]uint64
	var spare [maxStubs]int
	for s, k := range t.region {
		twice[k] |= once[k] & a.masks[s]
		once[k] |= a.masks[s]
		spare[k] += a.free[s]
	}
	for s, k := range t.region {
		lonely := a.masks[s] & a.pairs &^ twice[k]
		if others := spare[k] - a.free[s]; lonely != 0 && (others == 0 || others == 1 && lonely&a.rails != 0) {
			return false
		}
	}
	return true
}

// hiddenDevices lists what stands where nobody looked.
func (v *view) hiddenDevices(p *pattern) []device {
	var out []device
	add := func(d device) {
		for _, l := range d.labels {
			d.required |= 1 << l
		}
		d.required &^= 1 << none
		out = append(out, d)
	}
	if !v.supply.seen {
		add(device{kind: circuit.TypeSupply, labels: []label{hot, neutral}, terms: v.supply.hidden[:], place: v.supply.place})
	}
	for i, l := range v.lamps {
		if !l.seen {
			add(device{kind: circuit.TypeLamp, index: i, labels: []label{p.lampL[i], p.lampN[i]}, terms: l.hidden[:], place: l.place})
		}
	}
	for i, s := range v.switches {
		if s.hidden != nil {
			add(device{kind: circuit.Switch, index: i, labels: p.labels[i], terms: s.hidden, place: s.place})
		}
	}
	return out
}

// step is one decision of a router: put a hidden device somewhere, make a net hang
// together, or see whether all travelers meet.
type step struct {
	device int // -1 for none
	join   label
	check  bool
}

// plan orders the decisions so that what cannot be, or is too odd, shows early: where
// things stand, then the travelers, then the rest. It is nil where nothing could be
// fed.
func (r *router) plan() []step {
	used := uint64(0)
	for _, l := range r.lab {
		if l > none {
			used |= 1 << l
		}
	}
	for _, d := range r.devices {
		used |= d.required
	}
	if used>>hot&1 == 0 || used>>neutral&1 == 0 {
		return nil
	}
	var out []step
	for i := range r.devices {
		out = append(out, step{i, none, false})
	}
	for _, rails := range []bool{true, false} {
		for l, k := range r.p.kinds {
			if used>>l&1 == 1 && (k == isRails || k == isStrap) == rails {
				out = append(out, step{-1, label(l), false})
			}
		}
		if rails {
			out = append(out, step{-1, none, true})
		}
	}
	return out
}

// route goes through the decisions in one topology.
func (r *router) route() {
	r.cable = slices.Grow(r.cable[:0], r.t.regions)[:r.t.regions]
	for k := range r.cable {
		r.cable[k] = r.t.cables>>k&1 == 1
	}
	r.rooms = slices.Grow(r.room[:0], len(r.devices))[:len(r.devices)]
	r.room = r.rooms
	for i := range r.rooms {
		r.rooms[i] = -1
	}
	r.twin = slices.Grow(r.twin[:0], len(r.cores))[:len(r.cores)]
	for i := range r.twin {
		r.twin[i] = -1
	}
	for _, w := range r.t.twins {
		r.twin[w.core], r.twin[w.other] = int(w.other), int(w.core)
	}
	clear(r.reach)
	for _, c := range r.cores {
		r.reach[c.class] |= 1 << r.t.region[c.stub]
	}
	r.bent = slices.Grow(r.bent[:0], r.t.regions)[:r.t.regions]
	clear(r.bent)
	r.decide(0)
}

// bends counts the cores of a conductor that would go on in a core of the same name
// on another net, in what seems to be one cable.
func (r *router) bends(class int, by int) {
	for _, i := range r.classes[class].cores {
		k := r.t.region[r.cores[i].stub]
		if !r.cable[k] || r.twin[i] < 0 {
			continue
		}
		other := r.lab[r.cores[r.twin[i]].class]
		if other == undecided || other == r.lab[class] {
			continue
		}
		if by > 0 && r.bent[k] == 0 {
			r.running *= hiddenJoint * colourChanges
		}
		r.bent[k] += by
	}
}

// A record with so many conductors spliced past each other that its circuits are not gone
// through in reasonable time is gone through less closely: after each so many
// decisions, a circuit must be twice as likely to be kept, up to a bound.
const (
	tiresAfter = 200_000
	tiredOdds  = 0.03
	mostWork   = 12_000_000
)

func (r *router) tire() {
	if r.work++; r.work%tiresAfter != 0 {
		return
	}
	r.odds = max(r.odds, min(r.odds*2, tiredOdds))
	switch {
	case r.ctx.Err() != nil:
		r.err = r.ctx.Err()
	case r.work > mostWork:
		r.err = &Error{"too-many-worlds", "cables: so many conductors are spliced past each other in the opened boxes that the circuits that fit cannot all be gone through. Join what is known to be one cable, or open another box"}
	}
}

func (r *router) decide(n int) {
	if r.err != nil {
		return
	}
	r.tire()
	if n == len(r.steps) {
		if len(r.devices) == 0 {
			r.running *= r.structure()
		}
		if r.sound() {
			before := r.running
			r.running *= r.goesOn()
			if r.running >= r.odds*r.best {
				r.extend(0, r.offers())
			}
			r.running = before
		}
		return
	}
	switch s := r.steps[n]; {
	case s.device >= 0:
		r.settle(n, s.device)
	case s.check:
		for region := range r.t.regions {
			if !r.railsSound(region) {
				return
			}
		}
		r.decide(n + 1)
	default:
		r.join(n, s.join)
	}
}

// oneCable reports whether a region may be a cable between two opened boxes.
func (r *router) oneCable(region int) bool {
	first, second := -1, -1
	for s, k := range r.t.region {
		switch {
		case int(k) != region:
		case first < 0:
			first = s
		case second < 0:
			second = s
		default:
			return false
		}
	}
	return second >= 0 && r.namesakes[first][second] != nil
}

// settle puts a hidden device into each region that may hold it.
func (r *router) settle(n, device int) {
	d := r.devices[device]
	for k := range r.t.regions {
		r.rooms[device] = -1
		if !r.mayHold(d, k) {
			continue
		}
		r.rooms[device] = int8(k)
		was := r.cable[k]
		r.cable[k] = false
		before := r.running
		if device == len(r.devices)-1 {
			r.running *= r.structure()
			clear(r.bent)
			for c := range r.classes {
				if r.lab[c] != undecided {
					r.bends(c, 1)
				}
			}
		}
		if r.running >= r.odds*r.best && (device < len(r.devices)-1 || r.crosses(r.t, r.placed) && r.allMayMeet()) {
			r.decide(n + 1)
		}
		r.running = before
		r.cable[k] = was
	}
	r.rooms[device] = -1
}

// allMayMeet reports whether each core that must meet something beyond its box still
// can: in its region is another core or device on its net, or one that may be.
func (r *router) allMayMeet() bool {
	for region := range r.t.regions {
		in := r.look(region, r.lab)
		for _, s := range in.stubs {
			free := 0
			for _, other := range in.stubs {
				for _, c := range r.stubs[other].cores {
					if class := r.cores[c].class; other != s && r.lab[class] == undecided && len(r.classes[class].cores) > 1 {
						free++
					}
				}
			}
			for _, c := range r.stubs[s].cores {
				class := r.cores[c].class
				if l := r.lab[class]; l > none && in.count[l] == 1 && free == 0 && len(r.classes[class].cores) == 1 && !r.p.faulty {
					return false
				}
			}
		}
	}
	return true
}

// mayHold reports whether a device may stand in a region: something in it can
// bring at least one of its nets, and it is where the record puts it.
func (r *router) mayHold(d device, region int) bool {
	brings := false
	for s, k := range r.t.region {
		if d.place >= 0 && r.stubs[s].to == d.place && int(k) != region {
			return false
		}
		if int(k) != region {
			continue
		}
		if to := r.stubs[s].to; to >= 0 && r.panels[to] && d.kind != circuit.TypeSupply {
			return false
		}
		for _, c := range r.stubs[s].cores {
			l := r.lab[r.cores[c].class]
			brings = brings || l == undecided || l > none && d.required>>l&1 == 1
		}
	}
	for i, room := range r.rooms { // boxes that the record puts in one place lie in one region
		if d.place >= 0 && room >= 0 && r.devices[i].place == d.place && int(room) != region {
			return false
		}
	}
	return brings
}
