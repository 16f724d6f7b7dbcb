package trace

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// router leads the nets of patterns through topologies.
type router struct {
	*view
	ctx    context.Context
	custom practice.Practice

	// Of the record.
	namesakes [][][][2]int           // by two stubs that may be the ends of one cable: cores of one name
	spare     []uint8                // by class: which of line and neutral it may be where nothing needs it
	home      []int8                 // by class: the cluster of its box
	fits      [][isStrap + 1]float64 // by core and kind of label: how well insulation and mark agree
	most      []float64              // by core: the best of that
	idle      []float64              // by core: what of the best is left where it is spare
	gain      [][isStrap + 1]float64 // by core and kind: against being spare

	// What is gone through.
	meetings *index
	ways     ways
	bending  bool // cables that change their cores are looked for
	odds     float64
	best     float64 // prior of the likeliest world so far
	work     int     // decisions so far
	err      error

	// The pattern and the topology that are gone through now.
	stream  *stream
	p       *pattern
	lab     []label // by class
	devices []device
	used    uint64 // labels that something hangs on
	links   uint64 // those of travelers and straps
	t       *topology
	cable   []bool // by region: the two ends of one cable, as it seems
	twin    []int  // by core: the one of its name at the other end of that cable, or -1
	rooms   []int8 // by hidden device: its region
	room    []int8 // its memory

	// The decisions so far.
	bent    uint32   // regions whose cables change their cores
	next    []int    // by class: the next one that is one with it, round
	leader  []int    // by class: the one that stands for all that are one with it
	reach   []uint32 // by leader: regions that they lead to
	refused []uint64 // by leader: labels that they are not to have
	trail   []int    // classes settled by those that are one with them
	joined  lay      // how conductors lie once straight cables are taken together
	choice  []choice
	running float64 // what a world weighs at best
	seen    inRegion

	found  map[string]int
	worlds []*world
}

// seenLabels labels the classes that the pattern, or a seen supply or lamp, settles.
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

// nets are the labels that something hangs on, as bits, and which of them are travelers
// and straps. There are none where nothing could be fed.
func (r *router) nets() (used, links uint64) {
	for _, l := range r.lab {
		if l > none {
			used |= 1 << l
		}
	}
	for _, d := range r.devices {
		used |= d.required
	}
	if used>>hot&1 == 0 || used>>neutral&1 == 0 {
		return 0, 0
	}
	for l, k := range r.p.kinds {
		if k == isRails || k == isStrap {
			links |= used & (1 << l)
		}
	}
	return used, links
}

// route makes the router ready for one topology.
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
}

// A record with so many conductors spliced past each other that its circuits are not gone
// through in reasonable time is gone through less closely: after each so many
// decisions, a circuit must be twice as likely to be kept, up to a bound.
const (
	tiresAfter = 200_000
	takeTires  = 10 // decisions that a pattern in a topology counts for
	tiredOdds  = 0.03
	mostWork   = 12_000_000
)

func (r *router) tire(by int) {
	before := r.work / tiresAfter
	if r.work += by; r.work/tiresAfter == before {
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
