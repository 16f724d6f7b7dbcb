package trace

import (
	"slices"

	"ambivia/core/electric"
)

// roleOf is the role of a conductor on a net of this kind.
func roleOf(k labelKind) electric.Role {
	switch k {
	case isHot:
		return electric.Line
	case isNeutral:
		return electric.Neutral
	case isLoad, isShell:
		return electric.Load
	case isRails, isStrap:
		return electric.Traveler
	}
	return electric.Unused
}

// attach makes the nets of a world's regions and hangs cores and hidden terminals
// on them. Straight says that what seems to be one cable is taken to lead its travelers
// colour to colour.
func (v *view) attach(w *world, straight bool) {
	w.joins = make([]attach, len(v.cores)+v.hidden)
	for i := range w.joins {
		w.joins[i] = attach{-1, -1}
	}
	type at struct {
		region int8
		l      label
	}
	nets := map[at]int{}
	// Travelers first, so that a pair has an even number and the one after it.
	for _, rails := range []bool{true, false} {
		for region := range int8(w.routes.regions) {
			for l, k := range w.pattern.kinds {
				if (k == isRails) != rails || k == isNone {
					continue
				}
				sides := v.sides(w, region, label(l))
				if len(sides) == 0 {
					continue
				}
				net := w.nets
				nets[at{region, label(l)}] = net
				w.nets++
				if !rails {
					for _, points := range sides {
						for _, p := range points {
							w.joins[p] = attach{net, -1}
						}
					}
					continue
				}
				w.nets++
				for i, points := range sides {
					bit := -1
					if i > 0 && !(straight && w.oneCable(region) && v.sameNamed(sides[0], points)) {
						bit = w.bits
						w.bits++
					}
					for n, p := range points {
						w.joins[p] = attach{net + n&1, bit}
					}
				}
			}
		}
	}
	w.roles = make([]electric.Role, len(v.classes))
	for c := range v.classes {
		w.roles[c] = roleOf(w.pattern.kinds[w.labels[c]])
		if v.classes[c].ground {
			w.roles[c] = electric.GroundOf
		}
	}
	v.soften(w)
}

// oneCable reports whether a region is what seems to be one cable.
func (w *world) oneCable(region int8) bool {
	return w.routes.cables>>region&1 == 1 && !slices.Contains(w.rooms, region)
}

// sameNamed reports whether travelers on two sides are cores of the same names.
func (v *view) sameNamed(a, b []int) bool {
	return slices.EqualFunc(a, b, func(x, y int) bool {
		return x < len(v.cores) && y < len(v.cores) && v.cores[x].name == v.cores[y].name
	})
}

// sides lists the points on one label in a region: those of each box together,
// then those of each hidden switch, then all others. Travelers of one box stand in
// the order of their colours, so that a crossing of nought joins like to like.
func (v *view) sides(w *world, region int8, l label) [][]int {
	var out [][]int
	byBox := map[string]int{}
	for i, c := range v.cores {
		if w.routes.region[c.stub] != region || w.labels[c.class] != l {
			continue
		}
		box := v.stubs[c.stub].box
		if _, ok := byBox[box]; !ok {
			byBox[box] = len(out)
			out = append(out, nil)
		}
		out[byBox[box]] = append(out[byBox[box]], i)
	}
	for _, points := range out {
		slices.SortStableFunc(points, func(a, b int) int {
			if v.cores[a].name < v.cores[b].name {
				return -1
			}
			return 1
		})
	}
	for i, d := range w.devices {
		if w.rooms[i] != region {
			continue
		}
		var points []int
		for t, of := range d.labels {
			if of == l {
				points = append(points, len(v.cores)+d.terms[t])
			}
		}
		if points != nil {
			out = append(out, points)
		}
	}
	return out
}

// Nodes of a network beyond atoms: hidden terminals, then the nets of the world.
func (v *view) hiddenNode(terminal int) int { return v.atoms + terminal }

// soften lists what a load may join: it settles nothing when a beeper is quiet or
// sounds across it. Any two conductors that go on to other rooms have loads of
// those rooms between them.
func (v *view) soften(w *world) {
	netNode := func(n int) int { return v.atoms + v.hidden + n }
	for region := range int8(w.routes.regions) {
		var onward []int
		for l, k := range w.pattern.kinds {
			if k != isHot && k != isNeutral && k != isLoad {
				continue
			}
			sides := v.sides(w, region, label(l))
			if len(sides) == 1 && len(sides[0]) == 1 && sides[0][0] < len(v.cores) {
				onward = append(onward, netNode(w.joins[sides[0][0]].net))
			}
		}
		for i := 1; i < len(onward); i++ {
			w.soft = append(w.soft, [2]int{onward[0], onward[i]})
		}
		// One that goes on alone meets its partner in other rooms.
		if len(onward) == 1 {
			w.soft = append(w.soft, [2]int{onward[0], v.terminalNode(v.supply, 1)}, [2]int{onward[0], v.terminalNode(v.supply, 0)})
		}
	}
	w.soft = append(w.soft, [2]int{v.terminalNode(v.supply, 0), v.terminalNode(v.supply, 1)})
	for _, o := range v.outlets {
		w.soft = append(w.soft, o)
	}
}

// terminalNode is the node of the first or second terminal of a lamp or supply.
func (v *view) terminalNode(t thing, which int) int {
	if t.seen {
		return t.atoms[which]
	}
	return v.hiddenNode(t.hidden[which])
}
