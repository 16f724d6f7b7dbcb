package trace

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ambivia/core/electric"
	"ambivia/core/practice"
)

// maxWorlds bounds how many worlds are kept in mind; where there are more, the least
// likely go first.
const maxWorlds = 4_000

// How likely a world must be against the likeliest to be gone through while readings
// leave any of those.
const (
	usualOdds = 1e-4
	manyOdds  = 4e-3 // of four switches and more
)

// undecided is the label of a conductor that no switch settles yet.
const undecided label = -1

// world is one whole circuit that fits what was recorded: what each conductor
// that leaves an opened box hangs on beyond it. How the switches stood when found,
// and which of two travelers is which beyond the wall, are left open in it: each
// combination of them is one bit of alive.
type world struct {
	pattern *pattern
	routes  topology
	labels  []label // by class
	rooms   []int8  // region of each hidden device
	joins   []attach
	nets    int
	bits    int // crossings
	prior   float64
	roles   []electric.Role // by class
	same    int             // number of its set of roles
	alive   bitset
	weight  float64
	soft    [][2]int // nodes that a load may join
	devices []device
	key     string
}

// attach is where a core, or a hidden terminal, hangs on beyond the wall: a net,
// and for one of two travelers the crossing that may exchange them.
type attach struct {
	net int // -1: on nothing
	bit int // -1: nothing is exchanged
}

// device is a hidden device with the labels of its terminals.
type device struct {
	kind     string
	index    int // lamp or switch
	labels   []label
	terms    []int // hidden terminals
	place    int
	required uint64
}

// worlds lists every world that fits what was recorded, readings aside.
func (v *view) worlds(ctx context.Context, patterns []pattern, odds float64) ([]*world, error) {
	routes, err := v.topologies(ctx)
	if err != nil {
		return nil, err
	}
	r := &router{view: v, ctx: ctx, custom: practice.For(v.doc), odds: odds, found: map[string]int{}}
	r.namesakes, r.spare = v.sameNames(), r.spares()
	for i := range routes {
		r.measure(&routes[i])
	}
	r.reach, r.refused, r.home = make([]uint32, len(v.classes)), make([]uint64, len(v.classes)), v.homes()
	r.next, r.leader = make([]int, len(v.classes)), make([]int, len(v.classes))
	for i := range v.cores {
		by, most := r.agreements(i)
		r.fits, r.most, r.idle = append(r.fits, by), append(r.most, most), append(r.idle, by[isNone]/most)
		for k, fit := range by {
			by[k] = fit / r.fits[i][isNone]
		}
		r.gain = append(r.gain, by)
	}
	slices.SortStableFunc(routes, func(a, b topology) int { return cmp.Compare(b.bound, a.bound) })
	r.meetings = newIndex(routes, len(v.stubs))
	for _, r.bending = range []bool{false, true} {
		if r.search(patterns, routes); r.err != nil {
			return nil, r.err
		}
	}
	r.thin(r.odds)
	return r.worlds, nil
}

// thin drops worlds that are too unlikely against the likeliest.
func (r *router) thin(odds float64) {
	r.worlds = slices.DeleteFunc(r.worlds, func(w *world) bool { return w.prior < odds*r.best })
	r.found = map[string]int{}
	for i, w := range r.worlds {
		r.found[w.key] = i
	}
}

// finish keeps the world if every region makes sense.
func (r *router) finish() {
	labels := slices.Clone(r.lab)
	for c := range labels {
		if labels[c] == undecided {
			labels[c] = none
		}
	}
	w := &world{pattern: r.p, routes: *r.t, labels: labels, rooms: slices.Clone(r.rooms), prior: r.p.weight, devices: r.devices}
	for k := range r.t.regions {
		if !r.weighRegion(w, k) {
			return
		}
	}
	if !r.trulyBent(w) {
		return
	}
	w.prior *= r.colourWeight(w)
	if w.prior < r.odds*r.best {
		return
	}
	r.attach(w, r.odds > changesCores)
	key := r.key(w)
	if at, ok := r.found[key]; ok { // the same joins, the cables run otherwise
		if old := r.worlds[at]; w.prior > old.prior {
			w.prior += old.prior
			w.key = key
			r.worlds[at] = w
			r.best = max(r.best, w.prior)
		} else {
			old.prior += w.prior
		}
		return
	}
	if w.bits+len(r.switches) > maxBits {
		r.err = &Error{"too-many-worlds", fmt.Sprintf("devices: %d switches with so many unknown travelers are too many to be gone through; open another box", len(r.switches))}
		return
	}
	r.best = max(r.best, w.prior)
	w.key = key
	r.found[key] = len(r.worlds)
	r.worlds = append(r.worlds, w)
	for odds := r.odds; len(r.worlds) > maxWorlds; odds *= 2 {
		r.thin(odds)
	}
}

// key tells worlds apart by what a test could tell apart: which atoms hang
// together beyond the walls, and on what.
func (r *router) key(w *world) string {
	s := newSets(r.atoms + w.nets)
	for i, c := range r.cores {
		if a := w.joins[i]; a.net >= 0 {
			net := a.net
			if a.bit >= 0 {
				net -= net & 1 // the pair as one
			}
			s.unite(c.atom, r.atoms+net)
		}
	}
	by := map[int]byte{}
	number := func(node int) byte {
		root := s.root(node)
		if _, ok := by[root]; !ok {
			by[root] = byte(len(by))
		}
		return by[root]
	}
	var b []byte
	for _, c := range r.cores {
		b = append(b, number(c.atom))
	}
	for _, dev := range w.devices {
		for _, term := range dev.terms {
			if a := w.joins[len(r.cores)+term]; a.net >= 0 {
				b = append(b, number(r.atoms+a.net))
			}
		}
	}
	for _, l := range w.labels {
		b = append(b, byte(l))
	}
	for s, nodes := range w.pattern.nodes {
		for t, l := range w.pattern.labels[s] {
			b = append(b, byte(l))
			if nodes != nil {
				b = append(b, byte(nodes[t]))
			}
		}
	}
	return string(b)
}
