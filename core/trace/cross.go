package trace

import (
	"math/bits"
)

// lay is how settled conductors lie, whatever the topology.
type lay struct {
	at     [maxLabels]uint32 // by label: clusters that have it
	here   [][maxLabels]uint8
	single []uint64 // by stub: labels of which a conductor leads nowhere else
	free   []int    // by stub: cores of undecided conductors that are spliced past
	all    []label
	paired []label // that no hidden device offers
}

// layOut reads how settled conductors lie. Paired are the labels in the mask.
func (y *lay) layOut(r *router, mask uint64) *lay {
	y.at = [maxLabels]uint32{}
	if y.here == nil {
		y.here, y.single, y.free = make([][maxLabels]uint8, len(r.stubs)), make([]uint64, len(r.stubs)), make([]int, len(r.stubs))
	}
	y.all, y.paired = y.all[:0], y.paired[:0]
	for l := range r.p.kinds {
		if l != int(none) {
			y.all = append(y.all, label(l))
		}
		if mask>>l&1 == 1 {
			y.paired = append(y.paired, label(l))
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
func (r *router) crosses(t *topology, y *lay, labels []label) bool {
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
		for _, l := range labels {
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
	for _, w := range t.twins {
		if a, b := r.lab[w.class], r.lab[w.otherClass]; a != b && a != undecided && b != undecided {
			bent |= 1 << w.region
		}
	}
	return bits.OnesCount32(bent)
}
