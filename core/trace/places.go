package trace

import (
	"cmp"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
)

// placement puts each hidden device into a region of a topology.
type placement struct {
	rooms  []int8
	weight float64 // how usual it is that all meet so, whatever runs in the cables
}

// keptPlacements is up to how many placements of a topology are kept for other patterns.
const keptPlacements = 256

// places lists the ways in which the hidden devices may stand in a topology, whatever
// net they need, the most usual first.
func (r *router) places() []placement {
	if r.t.places != nil {
		return r.t.places
	}
	var out []placement
	var put func(device int)
	put = func(device int) {
		if device == len(r.devices) {
			out = append(out, placement{slices.Clone(r.rooms), r.structure()})
			return
		}
		for k := range r.t.regions {
			if r.mayStand(device, k) {
				r.rooms[device] = int8(k)
				put(device + 1)
			}
		}
		r.rooms[device] = -1
	}
	put(0)
	slices.SortStableFunc(out, func(a, b placement) int { return cmp.Compare(b.weight, a.weight) })
	if len(out) <= keptPlacements {
		r.t.places = out
	}
	return out
}

// mayStand reports whether a device may stand in a region, by where the record puts it
// and those before it: boxes that the record puts in one place lie in one region, and
// nothing but the supply is in a panel.
func (r *router) mayStand(device, region int) bool {
	d := r.devices[device]
	for s, k := range r.t.region {
		to := r.stubs[s].to
		switch {
		case int(k) != region:
			if d.place >= 0 && to == d.place {
				return false
			}
		case to >= 0 && r.panels[to] && d.kind != circuit.TypeSupply:
			return false
		}
	}
	for i, room := range r.rooms[:device] {
		if d.place >= 0 && r.devices[i].place == d.place && int(room) != region {
			return false
		}
	}
	return true
}

// settle puts the hidden devices into their places, each way that may be, and keeps it to
// be gone through in its turn.
func (r *router) settle() {
	bare, lonely := r.stream.lonely(r.t)
	for _, p := range r.places() {
		if r.running*p.weight*lonely < r.odds*r.best {
			return // the others are less usual still
		}
		if !r.stream.serves(r.t, p.rooms) {
			continue
		}
		copy(r.rooms, p.rooms)
		for _, k := range p.rooms {
			r.cable[k] = false
		}
		r.keep(p, bare)
		for _, k := range p.rooms {
			r.cable[k] = r.t.cables>>k&1 == 1
		}
	}
}

// keep weighs a placement and keeps it, if all nets may get there.
func (r *router) keep(p placement, bare float64) {
	bound := r.running * p.weight * r.stream.lonelyWith(r, bare)
	if bound < r.odds*r.best {
		return
	}
	forced, _ := r.bentCables()
	for range bits.OnesCount32(forced) {
		bound *= changesCores
	}
	if bound >= r.odds*r.best && r.crosses(r.t, &r.stream.settled, r.stream.settled.all) && r.allMayMeet() {
		r.ways.push(way{r.stream, r.t, p.rooms, true, bound})
	}
}

// serves reports whether each hidden device stands where something can bring one of its
// nets.
func (s *stream) serves(t *topology, rooms []int8) bool {
	for device, room := range rooms {
		if !slices.ContainsFunc(t.stubs[room], func(stub int) bool { return s.brings[device]>>stub&1 == 1 }) {
			return false
		}
	}
	return true
}

// brings are, for each hidden device, the stubs that can bring one of its nets.
func (r *router) brings() []uint32 {
	out := make([]uint32, len(r.devices))
	for i, d := range r.devices {
		for s, stub := range r.stubs {
			for _, c := range stub.cores {
				if l := r.lab[r.cores[c].class]; l == undecided || l > none && d.required>>l&1 == 1 {
					out[i] |= 1 << s
				}
			}
		}
	}
	return out
}

// offered are the labels that hidden devices in a region offer, and whether there are any
// devices.
func (r *router) offered(region int) (labels uint64, device bool) {
	for i, room := range r.rooms {
		if int(room) == region {
			labels |= r.devices[i].required
			device = true
		}
	}
	return labels, device
}

// structure says how usual it is that all meet as they do, whatever runs in them.
func (r *router) structure() float64 {
	weight := r.t.plain
	for i, room := range r.rooms {
		first := true // of the devices there
		feed, lamp, devices := false, false, 0
		for k, other := range r.rooms {
			if other == room {
				first = first && k >= i
				devices++
				feed = feed || r.devices[k].kind == circuit.TypeSupply
				lamp = lamp || r.devices[k].kind == circuit.TypeLamp
			}
		}
		if first {
			stubs := len(r.t.stubs[room])
			weight *= meetWeight(stubs, devices, feed, lamp, false) / meetWeight(stubs, 0, false, false, r.t.cables>>room&1 == 1)
		}
	}
	return weight
}
