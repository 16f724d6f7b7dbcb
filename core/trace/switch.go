package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// control is a switch with its screws in canonical order. One that stands in a box that
// nobody opened has no nodes.
type control struct {
	id       string
	box      string
	kind     kind
	nodes    []int // by canonical terminal; nil where its box is closed
	fixed    int   // 0 or 1 where the record knows its position, else -1
	unmarked bool  // nobody could read which screw is which
}

func (c *control) seen() bool { return c.nodes != nil }

// width is the number of screws of each kind.
var width = map[kind]int{idle: 0, single: 2, ending: 3, middle: 4}

// kindOf is what a switch of a type does with all its screws wired.
func kindOf(deviceType string) kind {
	switch deviceType {
	case circuit.TypeSinglePole:
		return single
	case circuit.TypeFourWay:
		return middle
	}
	return ending
}

// control reads a switch by the screws that are wired: a four-way body with one empty
// screw serves as a three-way, a three-way with one empty screw as a single-pole switch.
// Where a loose conductor hangs in the box, the empty screw may be where it belongs: the
// switch is then read as if that were still under it.
func (v *view) control(d circuit.Device) control {
	c := control{id: d.ID, box: d.Box, fixed: -1, unmarked: d.ScrewsUnmarked()}
	if d.Position != nil {
		c.fixed = *d.Position - 1
	}
	if !v.open[d.Box] {
		c.kind = kindOf(d.Type)
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
		for _, screws := range [][4]string{{"a2", "a1", "b1", "b2"}, {"a1", "a2", "b2", "b1"}, {"b2", "b1", "a1", "a2"}, {"b1", "b2", "a2", "a1"}} {
			if !wired(screws[0]) {
				return take(ending, screws[1], screws[2], screws[3])
			}
		}
		return take(middle, "a1", "a2", "b1", "b2")
	}
	for i, t := range []string{"t1", "t2"} {
		if wired(t) {
			continue
		}
		if c.fixed >= 0 {
			c.fixed ^= 1 - i // a single-pole switch closes in position 1
		}
		return take(single, "common", []string{"t2", "t1"}[i])
	}
	return take(ending, "common", "t1", "t2")
}

// contacts lists the canonical terminals that each position of a kind connects.
var contacts = map[kind][2][][2]int{
	single: {{{0, 1}}, nil},
	ending: {{{0, 1}}, {{0, 2}}},
	middle: {{{0, 2}, {1, 3}}, {{0, 3}, {1, 2}}},
}
