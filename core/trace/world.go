package trace

import (
	"cmp"
	"context"
	"fmt"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/practice"
)

// maxWorlds bounds how many worlds are kept in mind; where there are more, the least
// likely go first.
const maxWorlds = 4_000

// How likely a world must be against the likeliest to be gone through: at first, and
// when readings have left none of those.
const (
	usualOdds = 1e-4
	manyOdds  = 1e-3 // of four switches and more
	leastOdds = 1e-9
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
	for i := range routes {
		r.measure(&routes[i])
	}
	r.reach, r.home = make([]uint32, len(v.classes)), v.homes()
	for i := range v.cores {
		var by [isStrap + 1]float64
		for k := range by {
			by[k] = r.agreement(i, labelKind(k))
		}
		r.fits = append(r.fits, by)
	}
	slices.SortStableFunc(routes, func(a, b topology) int { return cmp.Compare(b.bound, a.bound) })
	slices.SortStableFunc(patterns, func(a, b pattern) int { return cmp.Compare(b.weight, a.weight) })
	for i := range patterns {
		if err := r.pattern(&patterns[i], routes); err != nil {
			return nil, err
		}
	}
	r.thin(odds)
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

// router leads the nets of a pattern through a topology.
type router struct {
	*view
	ctx     context.Context
	p       *pattern
	t       *topology
	lab     []label
	devices []device
	rooms   []int8
	cable   []bool // by region: the two ends of one cable, as it seems
	twin    []int  // by core: the one of its name at the other end of that cable, or -1
	settled lay    // of the pattern: travelers and straps
	placed  *lay   // of the pattern: all labels
	spread  lay
	home    []int8                 // by class: the cluster of its box
	reach   []uint32               // by class: regions that it leads to
	fits    [][isStrap + 1]float64 // by core and kind of label: how well insulation and mark agree
	bent    []int                  // by region: cores that would change their net in that cable
	steps   []step
	custom  practice.Practice
	found   map[string]int
	worlds  []*world
	seen    inRegion
	odds    float64
	best    float64 // prior of the likeliest world so far
	ceiling float64 // what the colours of settled conductors leave
	running float64 // what a world weighs at best after the decisions so far
	err     error
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
	once, twice := make([]uint64, len(r.stubs)+1), make([]uint64, len(r.stubs)+1)
	spare := make([]int, len(r.stubs)+1)
	r.ceiling = r.colourCeiling()
	settled := r.settled.layOut(r, pairs)
	r.placed = r.spread.layOut(r, ^uint64(0))
	for i := range routes {
		t := &routes[i]
		for k := range t.regions {
			once[k], twice[k], spare[k] = 0, 0, 0
		}
		for s, k := range t.region {
			twice[k] |= once[k] & masks[s]
			once[k] |= masks[s]
			spare[k] += free[s]
		}
		if r.running = p.weight * r.ceiling; r.running*t.bound < r.odds*r.best {
			break // the others are less likely still
		}
		fits := r.running*r.bound(t, r.bentIn(t)) >= r.odds*r.best && r.crosses(t, settled)
		for s, k := range t.region {
			if !fits {
				break
			} // what meets nothing must be spliced past in another cable
			lonely := masks[s] & pairs &^ twice[k]
			if others := spare[k] - free[s]; lonely != 0 && (others == 0 || others == 1 && lonely&rails != 0) {
				fits = false
				break
			}
		}
		if fits {
			r.t = t
			r.route()
			r.rooms = nil
		}
		if r.err != nil {
			return r.err
		}
		if i%4096 == 0 && r.ctx.Err() != nil {
			return r.ctx.Err()
		}
	}
	return nil
}

// lay is how settled conductors lie, whatever the topology.
type lay struct {
	at     [maxLabels]uint32 // by label: clusters that have it
	here   [][maxLabels]uint8
	single []uint64 // by stub: labels of which a conductor leads nowhere else
	free   []int    // by stub: cores of undecided conductors that are spliced past
	labels []label  // to be looked at
}

// layOut reads how settled conductors lie. Labels are those in the mask.
func (y *lay) layOut(r *router, mask uint64) *lay {
	y.at = [maxLabels]uint32{}
	if y.here == nil {
		y.here, y.single, y.free = make([][maxLabels]uint8, len(r.stubs)), make([]uint64, len(r.stubs)), make([]int, len(r.stubs))
	}
	y.labels = y.labels[:0]
	for l := range r.p.kinds {
		if l != int(none) && mask>>l&1 == 1 {
			y.labels = append(y.labels, label(l))
		}
	}
	for c, l := range r.lab {
		if l > none {
			y.at[l] |= 1 << r.home[c]
		}
	}
	for s := range r.stubs {
		y.here[s], y.single[s], y.free[s] = [maxLabels]uint8{}, 0, 0
		for _, c := range r.stubs[s].cores {
			class := r.cores[c].class
			lone := len(r.classes[class].cores) == 1
			switch l := r.lab[class]; {
			case l > none:
				y.here[s][l]++
				if lone {
					y.single[s] |= 1 << l
				}
			case l == undecided && !lone:
				y.free[s]++
			}
		}
	}
	return y
}

// crosses reports whether each net can get from where it is on one side of each stub
// to where it is on the other: it has a core there, or one that may be spliced past;
// and whether no core leads it to where it has no business.
func (r *router) crosses(t *topology, y *lay) bool {
	if r.p.faulty {
		return true
	}
	var devices [maxLabels]uint32
	for i, room := range r.rooms {
		if room >= 0 {
			for _, l := range r.devices[i].labels {
				devices[l] |= 1 << room
			}
		}
	}
	for s := range t.near {
		near := &t.near[s]
		if near.whole {
			continue
		}
		free := y.free[s]
		for _, l := range y.labels {
			far := y.at[l]&^near.clusters != 0 || devices[l]&^near.regions != 0
			if !far {
				if y.single[s]>>l&1 == 1 {
					return false
				}
				continue
			}
			need := uint8(1)
			if r.p.kinds[l] == isRails {
				need = 2
			}
			if here := y.here[s][l]; here < need && (y.at[l]&near.clusters != 0 || devices[l]&near.regions != 0) {
				if free -= int(need - here); free < 0 {
					return false
				}
			}
		}
	}
	return true
}

// bentIn counts the regions that seem to be one cable and in which settled conductors
// of different nets would be one core.
func (r *router) bentIn(t *topology) int {
	var bent uint32
	for _, twin := range t.twins {
		if a, b := r.lab[twin[0]], r.lab[twin[1]]; a != b && a != undecided && b != undecided {
			bent |= 1 << twin[2]
		}
	}
	return bits.OnesCount32(bent)
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
	r.cable = make([]bool, r.t.regions)
	for k := range r.cable {
		r.cable[k] = r.oneCable(k)
	}
	r.rooms = make([]int8, len(r.devices))
	for i := range r.rooms {
		r.rooms[i] = -1
	}
	r.twin = make([]int, len(r.cores))
	for i, c := range r.cores {
		r.twin[i] = -1
		for j, other := range r.cores {
			if k := r.t.region[c.stub]; r.cable[k] && r.t.region[other.stub] == k && other.stub != c.stub && other.name == c.name {
				r.twin[i] = j
			}
		}
	}
	clear(r.reach)
	for _, c := range r.cores {
		r.reach[c.class] |= 1 << r.t.region[c.stub]
	}
	r.bent = make([]int, r.t.regions)
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

func (r *router) decide(n int) {
	if r.err != nil {
		return
	}
	if n == len(r.steps) {
		if len(r.devices) == 0 {
			r.running *= r.structure()
		}
		if r.sound() {
			r.extend(0)
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
	var ends []int
	for s, k := range r.t.region {
		if int(k) == region {
			ends = append(ends, s)
		}
	}
	if len(ends) != 2 {
		return false
	}
	return r.stubs[ends[0]].box != r.stubs[ends[1]].box && r.sameCores(ends[0], ends[1])
}

// sameCores reports whether two stubs may be the ends of one cable by what they are.
func (v *view) sameCores(x, y int) bool {
	a, b := v.doc.Cables[v.stubs[x].cable], v.doc.Cables[v.stubs[y].cable]
	return (a.Gauge == b.Gauge || a.Gauge == "" || b.Gauge == "") && v.stubs[x].to < 0 && v.stubs[y].to < 0 &&
		slices.Equal(slices.Sorted(slices.Values(a.Cores)), slices.Sorted(slices.Values(b.Cores)))
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

// beside reports whether two conductors reach the same regions.
func (r *router) beside(a, b int) bool {
	reach := func(c int) (mask uint32) {
		for _, i := range r.classes[c].cores {
			mask |= 1 << r.t.region[r.cores[i].stub]
		}
		return mask
	}
	return reach(a) == reach(b)
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
	w.prior *= r.colourWeight(w)
	if w.prior < r.odds*r.best {
		return
	}
	r.attach(w)
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
