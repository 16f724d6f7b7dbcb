package trace

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// layout says where the cables of a world may run: which stubs meet beyond the opened
// boxes, and where the hidden devices stand. It is the likeliest that was found, and
// never evidence of more than the joins that it makes.
type layout struct {
	region  []int // by stub
	regions int
	devices []device
	rooms   []int // by device: its region
	weight  float64
}

// device is a hidden device with the nets of its terminals.
type device struct {
	kind  string
	index int    // lamp, supply, or unseen switch
	nets  []int8 // of its terminals
	box   string // where the record has it, "" where nobody knows
	place int    // of that box, -1
}

// How usual it is that cables meet so, the plainest way having 1.
const (
	hiddenJoint   = 0.03 // two cables meet in a box that nobody knows of
	coloursChange = 0.1  // and their colours change there
	feedAtLight   = 0.4  // the feed comes to the light first
	feedInJoint   = 0.06 // the feed comes to a hidden joint
	lightInJoint  = 0.15 // travelers spliced at the light
	besideAnother = 0.05 // a cable runs beside another one
	closesRing    = 0.02
	onwardFeed    = 0.25 // line and neutral go on to other rooms
	onwardPart    = 0.05 // only one conductor does
	deadCable     = 0.1  // nothing in a cable is used
)

// mostLayouts bounds the steps of looking for a layout.
const mostLayouts = 60_000

// layoutOf finds the likeliest layout of a world; where none was found in reasonable time,
// all that hangs together meets in one hidden joint, which is always one.
func (t *Tracer) layoutOf(w *world) *layout {
	l := &placer{Tracer: t, w: w, devices: t.hiddenDevices(w), region: make([]int, len(t.stubs))}
	l.put(0, 0, 1)
	if l.best == nil {
		l.together()
	}
	return l.best
}

// hiddenDevices lists what stands where nobody looked.
func (t *Tracer) hiddenDevices(w *world) []device {
	var out []device
	f := w.f
	at := func(thing thing) (string, int) {
		if thing.place < 0 {
			return "", -1
		}
		return thing.box, thing.place
	}
	for i, s := range t.supplies {
		if !s.seen {
			box, place := at(s)
			out = append(out, device{circuit.TypeSupply, i, []int8{f.first[hotOf(i)], f.first[neutralOf(i)]}, box, place})
		}
	}
	for i, l := range f.lamps {
		if !l.seen && !f.wild[f.first[f.lampL[i]]] {
			box, place := at(l)
			out = append(out, device{circuit.TypeLamp, i, []int8{f.first[f.lampL[i]], f.first[f.lampN[i]]}, box, place})
		}
	}
	for s := range f.labels {
		if f.nodes[s] == nil && (s >= len(t.switches) || t.switches[s].kind != idle) && len(f.screws[s]) > 0 && slices.Max(f.screws[s]) > 0 {
			d := device{circuit.Switch, s, f.screws[s], "", -1}
			if s < len(t.switches) {
				d.box, d.place = t.switches[s].box, t.placeOf[t.switches[s].box]
			}
			out = append(out, d)
		}
	}
	return out
}

type placer struct {
	*Tracer
	w       *world
	devices []device
	region  []int
	steps   int
	best    *layout
}

// put decides for stub i; weight is what is usual of it so far.
func (l *placer) put(i, regions int, weight float64) {
	if l.steps++; l.steps > mostLayouts || l.best != nil && weight <= l.best.weight {
		return
	}
	if i == len(l.stubs) {
		l.rooms(regions, weight)
		return
	}
	s := l.stubs[i]
	known := -1
	for k := range i {
		if s.to >= 0 && l.stubs[k].to == s.to {
			known = l.region[k]
		}
	}
	try := func(r int) {
		if known >= 0 && r != known {
			return
		}
		factor, met := 1.0, false
		for k := range i {
			if l.region[k] != r {
				continue
			}
			if l.stubs[k].panel || s.panel { // nothing is spliced in a panel
				return
			}
			if l.stubs[k].box == s.box {
				factor *= besideAnother
			}
			if met || !l.sameCores(k, i) || !l.straight(k, i) { // more than a cable: at best the light's box
				factor *= feedAtLight
			}
			met = true
		}
		if met && l.closes(i, r) {
			factor *= closesRing
		}
		l.region[i] = r
		l.put(i+1, max(regions, r+1), weight*factor)
	}
	first := -1 // the likeliest: where the other end of the cable would be
	for k := range i {
		if l.stubs[k].box != s.box && l.sameCores(k, i) && l.straight(k, i) && first < 0 {
			first = l.region[k]
			try(first)
		}
	}
	if first != regions {
		try(regions)
	}
	for r := range regions {
		if r != first {
			try(r)
		}
	}
}

// closes reports whether a stub would close a ring of boxes, one beside another apart.
func (l *placer) closes(i, r int) bool {
	s := sets.New(l.clusters + len(l.stubs))
	for k := range i {
		s.Unite(l.stubs[k].cluster, l.clusters+l.region[k])
	}
	if s.Root(l.stubs[i].cluster) != s.Root(l.clusters+r) {
		return false
	}
	for k := range i {
		if l.region[k] == r && l.stubs[k].cluster == l.stubs[i].cluster {
			return false
		}
	}
	return true
}

// rooms puts the hidden devices into the regions, and keeps what is likelier than the best.
func (l *placer) rooms(regions int, weight float64) {
	rooms := make([]int, len(l.devices))
	var place func(d int)
	place = func(d int) {
		if l.steps++; l.steps > mostLayouts {
			return
		}
		if d == len(l.devices) {
			if w := weight * l.meeting(regions, rooms); (l.best == nil || w > l.best.weight) && l.hangs(regions, rooms) {
				l.best = &layout{slices.Clone(l.region), regions, l.devices, slices.Clone(rooms), w}
			}
			return
		}
		for r := range regions {
			if l.mayStand(d, r, rooms) {
				rooms[d] = r
				place(d + 1)
			}
		}
	}
	place(0)
}

// mayStand reports whether a device may stand in a region, by where the record puts it and
// by the cores that come there.
func (l *placer) mayStand(d, r int, rooms []int) bool {
	dev := l.devices[d]
	for i, s := range l.stubs {
		if s.to >= 0 && dev.place >= 0 && (s.to == dev.place) != (l.region[i] == r) && s.to == dev.place {
			return false
		}
		if l.region[i] == r && s.panel && dev.kind != circuit.TypeSupply {
			return false
		}
	}
	for other := range d {
		if dev.place >= 0 && l.devices[other].place == dev.place && rooms[other] != r {
			return false
		}
	}
	return true
}

// meeting says how usual it is that all meet as they do.
func (l *placer) meeting(regions int, rooms []int) float64 {
	weight := 1.0
	for r := range regions {
		var stubs []int
		for i, k := range l.region {
			if k == r {
				stubs = append(stubs, i)
			}
		}
		feed, lamp, devices := false, false, 0
		for d, room := range rooms {
			if room == r {
				devices++
				feed = feed || l.devices[d].kind == circuit.TypeSupply
				lamp = lamp || l.devices[d].kind == circuit.TypeLamp
			}
		}
		switch {
		case devices == 0 && len(stubs) == 1:
			weight *= l.onward(stubs[0])
		case devices == 0 && len(stubs) == 2 && l.sameCores(stubs[0], stubs[1]):
			if !l.straight(stubs[0], stubs[1]) {
				weight *= hiddenJoint * coloursChange
			}
		case devices == 0:
			weight *= hiddenJoint
		case feed && lamp:
			weight *= feedAtLight
		case feed && !l.fedApart(l.w, stubs):
			weight *= feedInJoint
		case lamp && len(stubs) > 1:
			weight *= lightInJoint
		}
	}
	return weight
}

// onward says how usual it is that a stub leads to other rooms with what it carries.
func (l *placer) onward(stub int) float64 {
	var have [isStrap + 1]bool
	for _, c := range l.stubs[stub].cores {
		have[l.w.f.kinds[l.w.nets[l.cores[c].class]]] = true
	}
	switch {
	case have[isHot] && have[isNeutral], have[isLoad] && have[isNeutral]:
		return onwardFeed
	case have[isHot] || have[isNeutral] || have[isLoad] || have[isTraveler]:
		return onwardPart
	}
	return deadCable
}

// straight reports whether two stubs carry the same nets in cores of one name.
func (l *placer) straight(x, y int) bool {
	by := map[string]int8{}
	for _, c := range l.stubs[x].cores {
		by[l.cores[c].name] = l.w.nets[l.cores[c].class]
	}
	for _, c := range l.stubs[y].cores {
		if by[l.cores[c].name] != l.w.nets[l.cores[c].class] {
			return false
		}
	}
	return true
}

// hangs reports whether each net hangs together in a layout.
func (l *placer) hangs(regions int, rooms []int) bool {
	kinds := len(l.w.f.kinds)
	s := sets.New(len(l.classes) + regions*kinds)
	at := func(r int, n int8) int { return len(l.classes) + r*kinds + int(n) }
	first := make([]int, kinds)
	for i := range first {
		first[i] = -1
	}
	var all [][2]int // point and net
	for i, c := range l.cores {
		if n := l.w.nets[c.class]; n > 0 {
			s.Unite(c.class, at(l.region[l.cores[i].stub], n))
		}
	}
	for class, n := range l.w.nets[:len(l.classes)] {
		if n > 0 {
			all = append(all, [2]int{class, int(n)})
		}
	}
	for d, dev := range l.devices {
		for _, n := range dev.nets {
			if n > 0 {
				all = append(all, [2]int{at(rooms[d], n), int(n)})
			}
		}
	}
	for _, p := range all {
		switch f := first[p[1]]; {
		case l.w.f.wild[p[1]]:
		case f < 0:
			first[p[1]] = p[0]
		case s.Root(f) != s.Root(p[0]):
			return false
		}
	}
	return true
}

// together lets everything that hangs together meet in one place.
func (l *placer) together() {
	s := sets.New(len(l.stubs) + len(l.w.f.kinds))
	for _, c := range l.cores {
		if n := l.w.nets[c.class]; n > 0 {
			s.Unite(c.stub, len(l.stubs)+int(n))
		}
	}
	for _, d := range l.devices {
		for _, n := range d.nets[1:] {
			s.Unite(len(l.stubs)+int(d.nets[0]), len(l.stubs)+int(n))
		}
	}
	number := map[int]int{}
	of := func(node int) int {
		r := s.Root(node)
		if _, ok := number[r]; !ok {
			number[r] = len(number)
		}
		return number[r]
	}
	out := &layout{region: make([]int, len(l.stubs)), devices: l.devices}
	for i := range l.stubs {
		out.region[i] = of(i)
	}
	for _, d := range l.devices {
		out.rooms = append(out.rooms, of(len(l.stubs)+int(slices.Max(d.nets))))
	}
	out.regions = len(number)
	l.best = out
}

// stubsIn and devicesIn list what meets in a region.
func (l *layout) stubsIn(region int) []int {
	var out []int
	for s, k := range l.region {
		if k == region {
			out = append(out, s)
		}
	}
	return out
}

func (l *layout) devicesIn(region int) []int {
	var out []int
	for d, k := range l.rooms {
		if k == region {
			out = append(out, d)
		}
	}
	return out
}
