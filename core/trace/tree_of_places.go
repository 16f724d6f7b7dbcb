package trace

import (
	"math/bits"

	"ambivia/core/circuit"
)

// merging lets two places be one, where boxes and places stay a tree, and goes on.
func (r *router) merging(x, y int8, on func()) {
	x, y = r.place[x], r.place[y]
	if x == y {
		return
	}
	var before [64]int8
	copy(before[:], r.place)
	r.unite(x, y)
	if r.isTree() {
		on()
	}
	copy(r.place, before[:])
}

// isTree reports whether boxes and places form a tree, cables side by side between two
// opened boxes, or from one to a place, counted once, and nothing is spliced in a panel, nor
// looped.
func (r *router) isTree() bool {
	var at [64]uint64 // by place: stubs and devices there
	for i, p := range r.place {
		at[p] |= 1 << i
	}
	var trees [128]int8
	for i := range r.clusters + len(r.place) {
		trees[i] = int8(i)
	}
	top := func(i int) int8 {
		for trees[i] != int8(i) {
			i = int(trees[i])
		}
		return int8(i)
	}
	var edges [64][2]int8 // stubs: the cables between two opened boxes
	cables := 0
	stubs := uint64(1)<<len(r.view.stubs) - 1
	for x, here := range at[:len(r.place)] {
		if here&stubs == 0 {
			continue
		}
		if here&r.panels != 0 && r.panelUsed(here, stubs) {
			return false
		}
		first := bits.TrailingZeros64(here)
		if second := bits.Len64(here&stubs) - 1; r.rule == plain && second != first && (bits.OnesCount64(here) > 2 || !r.sameCores(first, second)) {
			return false
		}
		if here&^stubs == 0 && bits.OnesCount64(here) == 2 {
			second := bits.Len64(here) - 1
			if r.view.stubs[first].cluster != r.view.stubs[second].cluster {
				beside, ok := r.besides(edges[:cables], first, second)
				if !ok {
					return false
				}
				if beside {
					continue
				}
				edges[cables] = [2]int8{int8(first), int8(second)}
				cables++
			}
		}
		for left := here & stubs; left != 0; left &= left - 1 {
			i := bits.TrailingZeros64(left)
			cluster := r.view.stubs[i].cluster
			double := false
			for before := here & stubs & (1<<i - 1); before != 0; before &= before - 1 {
				if k := bits.TrailingZeros64(before); r.view.stubs[k].cluster == cluster {
					if r.rule == plain || r.loops(k, i) {
						return false
					}
					double = true
				}
			}
			if double {
				continue
			}
			a, b := top(cluster), top(r.clusters+x)
			if a == b {
				return false
			}
			trees[a] = b
		}
	}
	return true
}

// panelUsed reports whether anything is spliced in a panel.
func (r *router) panelUsed(here, stubs uint64) bool {
	for left := here & stubs; left != 0; left &= left - 1 {
		if !r.view.stubs[bits.TrailingZeros64(left)].panel {
			continue
		}
		if here&stubs&(here&stubs-1) != 0 {
			return true
		}
		for devices := here &^ stubs; devices != 0; devices &= devices - 1 {
			if r.devices[bits.TrailingZeros64(devices)-len(r.view.stubs)].kind != circuit.TypeSupply {
				return true
			}
		}
	}
	return false
}

// besides reports whether a cable runs beside one of the others; ok is false where it would
// be a loop with that: cores of the two joined at either end.
func (r *router) besides(edges [][2]int8, first, second int) (beside, ok bool) {
	for _, e := range edges {
		for _, turned := range [2][2]int8{e, {e[1], e[0]}} {
			a, b := int(turned[0]), int(turned[1])
			if r.view.stubs[a].cluster == r.view.stubs[first].cluster && r.view.stubs[b].cluster == r.view.stubs[second].cluster {
				return true, !r.loops(a, first) || !r.loops(b, second)
			}
		}
	}
	return false, true
}

// loops reports whether cores of two stubs are joined in their box.
func (r *router) loops(x, y int) bool {
	for _, c := range r.view.stubs[x].cores {
		for _, d := range r.view.stubs[y].cores {
			if r.cores[c].class == r.cores[d].class {
				return true
			}
		}
	}
	return false
}
