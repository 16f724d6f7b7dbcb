// Package procedure says how a plan is done: every step from the circuit as found to the
// circuit as planned, what has to be true before the next one (gates), the way back from
// any step, and what it takes in materials, room and time.
//
// Nothing here is a list of known jobs. The steps are the difference between two documents
// (difference.go), each an [Edit] or several on the record, so that doing them all makes
// exactly the planned document, and undoing those that were done makes exactly the one as
// found (edit.go). They are ordered so that a circuit in the middle of the work is never
// more than a part of the one as found or of the one as planned: first everything that
// changes is lifted, box by box, then everything new is joined, box by box, ground first,
// then neutral, then the rest (steps.go). A part of a sound circuit has no short.
package procedure

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
)

// Op is what one edit does.
type Op string

// What edits do. Each has an opposite.
const (
	Lift     Op = "lift"      // an end comes out of the join that With stands in
	Join     Op = "join"      // an end goes to the join of With, or makes one with it
	TakeOut  Op = "take-out"  // a device leaves its box
	Mount    Op = "mount"     // a device comes into its box
	Mark     Op = "mark"      // tape or sleeving on an end
	Unmark   Op = "unmark"    // and off again
	AddBox   Op = "add-box"   // a place that needs no box in the wall
	DropBox  Op = "drop-box"  // and without it
	AddCable Op = "add-cable" // a cable is drawn
	Withdraw Op = "withdraw"  // and taken out
	Pair     Op = "pair"      // a link without a wire
	Unpair   Op = "unpair"    // and without it
)

var opposite = map[Op]Op{
	Lift: Join, Join: Lift, TakeOut: Mount, Mount: TakeOut, Mark: Unmark, Unmark: Mark,
	AddBox: DropBox, DropBox: AddBox, AddCable: Withdraw, Withdraw: AddCable, Pair: Unpair, Unpair: Pair,
}

// Edit is one change of the record. Which fields it has depends on Op.
type Edit struct {
	Op     Op              `json:"op"`
	Box    string          `json:"box,omitempty"`
	End    *circuit.Ref    `json:"end,omitempty"`
	With   *circuit.Ref    `json:"with,omitempty"`
	Device *circuit.Device `json:"device,omitempty"`
	Model  *circuit.Model  `json:"model,omitempty"`
	Mark   *circuit.Mark   `json:"mark,omitempty"`
	Place  *circuit.Box    `json:"place,omitempty"`
	Cable  *circuit.Cable  `json:"cable,omitempty"`
	Link   *circuit.Link   `json:"link,omitempty"`
}

// Opposite is the edit that takes this one back.
func (e Edit) Opposite() Edit {
	e.Op = opposite[e.Op]
	return e
}

// Apply makes the edit on a document. The error says what of it is not as the edit takes
// it to be; the document may then be half changed.
func (e Edit) Apply(c *circuit.Circuit) error {
	wrong := func(text string, of ...any) error {
		return fmt.Errorf("%s in %q: "+text, append([]any{e.Op, e.Box}, of...)...)
	}
	switch e.Op {
	case Lift:
		i := c.JoinOf(e.Box, *e.End)
		if i < 0 || c.JoinOf(e.Box, *e.With) != i {
			return wrong("%s and %s are not joined", e.End, e.With)
		}
		j := &c.Joins[i]
		if j.Of = slices.DeleteFunc(slices.Clone(j.Of), func(m circuit.Ref) bool { return m == *e.End }); len(j.Of) < 2 {
			c.Joins = slices.Delete(c.Joins, i, i+1)
		}
	case Join:
		if c.JoinOf(e.Box, *e.End) >= 0 {
			return wrong("%s is joined already", e.End)
		}
		if i := c.JoinOf(e.Box, *e.With); i >= 0 {
			c.Joins[i].Of = append(slices.Clone(c.Joins[i].Of), *e.End)
			break
		}
		c.Joins = append(c.Joins, circuit.Join{Box: e.Box, Of: []circuit.Ref{*e.With, *e.End}})
	case TakeOut:
		if c.Device(e.Device.ID) == nil {
			return wrong("there is no device %s", e.Device.ID)
		}
		if i := slices.IndexFunc(c.Joins, func(j circuit.Join) bool {
			return slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return m.Owner == e.Device.ID })
		}); i >= 0 {
			return wrong("a wire is still on %s: %s", e.Device.ID, c.Joins[i].Of[0])
		}
		c.Devices = slices.DeleteFunc(c.Devices, func(d circuit.Device) bool { return d.ID == e.Device.ID })
		if e.Model != nil && !slices.ContainsFunc(c.Devices, func(d circuit.Device) bool { return d.Model == e.Device.Model }) {
			if delete(c.Models, e.Device.Model); len(c.Models) == 0 {
				c.Models = nil
			}
		}
	case Mount:
		if c.Device(e.Device.ID) != nil {
			return wrong("there is a device %s", e.Device.ID)
		}
		c.Devices = append(c.Devices, *e.Device)
		if e.Model != nil {
			if c.Models == nil {
				c.Models = map[string]circuit.Model{}
			}
			c.Models[e.Device.Model] = *e.Model
		}
	case Mark:
		c.Marks = append(c.Marks, *e.Mark)
	case Unmark:
		c.Marks = slices.DeleteFunc(c.Marks, func(m circuit.Mark) bool { return m == *e.Mark })
	case AddBox:
		c.Boxes = append(c.Boxes, *e.Place)
	case DropBox:
		c.Boxes = slices.DeleteFunc(c.Boxes, func(b circuit.Box) bool { return b.ID == e.Place.ID })
	case AddCable:
		c.Cables = append(c.Cables, *e.Cable)
	case Withdraw:
		c.Cables = slices.DeleteFunc(c.Cables, func(k circuit.Cable) bool { return k.ID == e.Cable.ID })
	case Pair:
		c.Links = append(c.Links, *e.Link)
	case Unpair:
		c.Links = slices.DeleteFunc(c.Links, func(l circuit.Link) bool { return l == *e.Link })
	default:
		return wrong("nobody knows how")
	}
	return nil
}

// start is the record that steps work on: readings were taken of the circuit as found, and
// a join of one member says no more than none.
func start(before *circuit.Circuit) *circuit.Circuit {
	c := before.Clone()
	c.Observations = nil
	c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 })
	return c
}
