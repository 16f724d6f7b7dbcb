package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// control is a switch with its screws in canonical order. A hidden one stands in
// a box that nobody opened: it has hidden terminals in place of nodes.
type control struct {
	id     string
	box    string
	kind   kind
	nodes  []int // by canonical terminal; nil when hidden
	hidden []int // hidden terminals; nil when seen
	place  int   // of a hidden one, -1 where nobody knows
	fixed  int   // 0 or 1 where the record knows its position, else -1
	loose  bool  // nobody could read which screw is which
}

// addUnseenSwitches adds a switch for each closed switch box that has none on
// record, and one more where an end of a chain has no other end.
func (v *view) addUnseenSwitches() {
	ends := 0
	for _, s := range v.switches {
		if s.kind == ending {
			ends++
		}
	}
	for _, b := range v.doc.Boxes {
		if b.Kind != circuit.Switch || v.open[b.ID] || slices.ContainsFunc(v.doc.Devices, func(d circuit.Device) bool { return d.Box == b.ID }) {
			continue
		}
		k := middle
		if ends%2 == 1 {
			k = ending
			ends++
		}
		v.switches = append(v.switches, control{box: b.ID, kind: k, hidden: v.hide(width[k]), place: v.placeOf[b.ID], fixed: -1})
	}
	if ends%2 == 1 {
		v.switches = append(v.switches, control{kind: ending, hidden: v.hide(3), place: -1, fixed: -1})
	}
}

// width is the number of screws of each kind.
var width = map[kind]int{idle: 0, single: 2, ending: 3, middle: 4}

// control reads a switch by the screws that are wired: a four-way body with one
// empty screw serves as a three-way, a three-way with one empty screw as a
// single-pole switch.
func (v *view) control(d circuit.Device) control {
	c := control{id: d.ID, box: d.Box, place: -1, fixed: -1, loose: d.ScrewsUnmarked()}
	if d.Position != nil {
		c.fixed = *d.Position - 1
	}
	if !v.open[d.Box] {
		c.place = v.placeOf[d.Box]
		switch d.Type {
		case circuit.TypeSinglePole:
			c.kind = single
		case circuit.TypeFourWay:
			c.kind = middle
		default:
			c.kind = ending
		}
		c.hidden = v.hide(width[c.kind])
		return c
	}
	wired := func(t string) bool {
		j := v.doc.JoinOf(d.Box, circuit.Ref{Owner: d.ID, Part: t})
		return j >= 0 && len(v.doc.Joins[j].Of) > 1
	}
	take := func(k kind, terminals ...string) control {
		if slices.ContainsFunc(terminals, func(t string) bool { return !wired(t) }) {
			return c
		}
		c.kind = k
		for _, t := range terminals {
			c.nodes = append(c.nodes, v.terminal[circuit.Ref{Owner: d.ID, Part: t}])
		}
		return c
	}
	switch d.Type {
	case circuit.TypeSinglePole:
		return take(single, "a", "b")
	case circuit.TypeFourWay:
		for _, way := range [][4]string{{"a2", "a1", "b1", "b2"}, {"a1", "a2", "b2", "b1"}, {"b2", "b1", "a1", "a2"}, {"b1", "b2", "a2", "a1"}} {
			if !wired(way[0]) {
				return take(ending, way[1], way[2], way[3])
			}
		}
		return take(middle, "a1", "a2", "b1", "b2")
	}
	for i, t := range []string{"t1", "t2"} {
		if !wired(t) {
			if c.fixed >= 0 {
				c.fixed ^= 1 - i // a single-pole switch closes in position 1
			}
			return take(single, "common", []string{"t2", "t1"}[i])
		}
	}
	return take(ending, "common", "t1", "t2")
}

// contacts lists the canonical terminals that each position of a kind connects.
var contacts = map[kind][2][][2]int{
	single: {{{0, 1}}, nil},
	ending: {{{0, 1}}, {{0, 2}}},
	middle: {{{0, 2}, {1, 3}}, {{0, 3}, {1, 2}}},
}

// lights counts the lights that the switches can be for: one for each single-pole
// switch, one for each two ends of a chain.
func (v *view) lights() int {
	singles, ends := 0, 0
	for _, s := range v.switches {
		switch s.kind {
		case single:
			singles++
		case ending:
			ends++
		}
	}
	return singles + ends/2
}
