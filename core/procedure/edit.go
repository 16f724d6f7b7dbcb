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
	"encoding/json"
	"fmt"
	"reflect"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Edit is one change of the record: one of the types below, each of which has an opposite.
type Edit interface {
	// Op is its name where it travels.
	Op() string
	// Opposite is the edit that takes this one back.
	Opposite() Edit
	// Apply makes the edit on a document. The error says what of it is not as the edit takes it to be;
	// the document may then be half changed.
	Apply(c *circuit.Circuit) error
}

// Lift takes an end out of the join that With stands in.
type Lift struct {
	Box  string      `json:"box"`
	End  circuit.Ref `json:"end"`
	With circuit.Ref `json:"with"`
}

// Op is "lift".
func (Lift) Op() string { return "lift" }

// Opposite joins it again.
func (e Lift) Opposite() Edit { return Join(e) }

// Apply takes the end out. A join of which one member is left is none.
func (e Lift) Apply(c *circuit.Circuit) error {
	i := c.JoinOf(e.Box, e.End)
	if i < 0 || c.JoinOf(e.Box, e.With) != i {
		return wrong(c, e.Box, "%s and %s are not joined", e.End, e.With)
	}
	j := &c.Joins[i]
	if j.Of = slices.DeleteFunc(slices.Clone(j.Of), func(m circuit.Ref) bool { return m == e.End }); len(j.Of) < 2 {
		c.Joins = slices.Delete(c.Joins, i, i+1)
	}
	return nil
}

// Join puts an end to the join of With, or makes one with it.
type Join Lift

// Op is "join".
func (Join) Op() string { return "join" }

// Opposite lifts it again.
func (e Join) Opposite() Edit { return Lift(e) }

// Apply joins the end; both must be there.
func (e Join) Apply(c *circuit.Circuit) error {
	for _, m := range []circuit.Ref{e.End, e.With} {
		if !there(c, e.Box, m) {
			return wrong(c, e.Box, "%s is not there", m)
		}
	}
	if c.JoinOf(e.Box, e.End) >= 0 {
		return wrong(c, e.Box, "%s is joined already", e.End)
	}
	if i := c.JoinOf(e.Box, e.With); i >= 0 {
		c.Joins[i].Of = append(slices.Clone(c.Joins[i].Of), e.End)
		return nil
	}
	c.Joins = append(c.Joins, circuit.Join{Box: e.Box, Of: []circuit.Ref{e.With, e.End}})
	return nil
}

// TakeOut takes a device out of its box, with its model where no other device has that.
type TakeOut struct {
	Box    string         `json:"box"`
	Device circuit.Device `json:"device"`
	Model  *circuit.Model `json:"model,omitempty"` // of a smart device
}

// Op is "take-out".
func (TakeOut) Op() string { return "take-out" }

// Opposite mounts it again.
func (e TakeOut) Opposite() Edit { return Mount(e) }

// Apply takes the device out; no wire may be on it any more, and nothing be paired with it.
func (e TakeOut) Apply(c *circuit.Circuit) error {
	if c.Device(e.Device.ID) == nil {
		return wrong(c, e.Box, "the device of the plan is not there")
	}
	if slices.ContainsFunc(c.Links, func(l circuit.Link) bool { return l.From == e.Device.ID || l.To == e.Device.ID }) {
		return wrong(c, e.Box, "%s is still paired", e.Device.ID)
	}
	if i := slices.IndexFunc(c.Joins, func(j circuit.Join) bool {
		return slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return m.Owner == e.Device.ID })
	}); i >= 0 {
		return wrong(c, e.Box, "a wire is still on %s: %s", e.Device.ID, c.Joins[i].Of[0])
	}
	c.Devices = slices.DeleteFunc(c.Devices, func(d circuit.Device) bool { return d.ID == e.Device.ID })
	if e.Model != nil && !slices.ContainsFunc(c.Devices, func(d circuit.Device) bool { return d.Model == e.Device.Model }) {
		if delete(c.Models, e.Device.Model); len(c.Models) == 0 {
			c.Models = nil
		}
	}
	return nil
}

// Mount brings a device into its box.
type Mount TakeOut

// Op is "mount".
func (Mount) Op() string { return "mount" }

// Opposite takes it out again.
func (e Mount) Opposite() Edit { return TakeOut(e) }

// Apply mounts the device.
func (e Mount) Apply(c *circuit.Circuit) error {
	if c.Device(e.Device.ID) != nil {
		return wrong(c, e.Box, "%s is there already", e.Device.ID)
	}
	if c.Box(e.Device.Box) == nil {
		return wrong(c, e.Box, "the place of the plan is not there")
	}
	c.Devices = append(c.Devices, e.Device)
	if e.Model != nil {
		if c.Models == nil {
			c.Models = map[string]circuit.Model{}
		}
		c.Models[e.Device.Model] = *e.Model
	}
	return nil
}

// Mark puts tape or sleeving on an end.
type Mark struct {
	Box  string       `json:"box"`
	Mark circuit.Mark `json:"mark"`
}

// Op is "mark".
func (Mark) Op() string { return "mark" }

// Opposite takes it off again.
func (e Mark) Opposite() Edit { return Unmark(e) }

// Apply notes the mark; the end must be there.
func (e Mark) Apply(c *circuit.Circuit) error {
	if !there(c, e.Box, e.Mark.End.Ref) {
		return wrong(c, e.Box, "%s is not there", e.Mark.End.Ref)
	}
	c.Marks = append(c.Marks, e.Mark)
	return nil
}

// Unmark takes tape or sleeving off.
type Unmark Mark

// Op is "unmark".
func (Unmark) Op() string { return "unmark" }

// Opposite puts it on again.
func (e Unmark) Opposite() Edit { return Mark(e) }

// Apply drops the mark.
func (e Unmark) Apply(c *circuit.Circuit) error {
	c.Marks = slices.DeleteFunc(c.Marks, func(m circuit.Mark) bool { return m == e.Mark })
	return nil
}

// Cover caps an end that hung loose and bare.
type Cover struct {
	Box string      `json:"box"`
	End circuit.Ref `json:"end"`
}

// Op is "cover".
func (Cover) Op() string { return "cover" }

// Opposite takes the cap off again.
func (e Cover) Opposite() Edit { return Uncover(e) }

// Apply notes that it hangs loose no more.
func (e Cover) Apply(c *circuit.Circuit) error {
	at := slices.Index(c.Loose, circuit.End{Ref: e.End, Box: e.Box})
	if at < 0 {
		return wrong(c, e.Box, "%s does not hang loose", e.End)
	}
	if c.Loose = slices.Delete(slices.Clone(c.Loose), at, at+1); len(c.Loose) == 0 {
		c.Loose = nil
	}
	return nil
}

// Uncover takes the cap off an end that nothing uses.
type Uncover Cover

// Op is "uncover".
func (Uncover) Op() string { return "uncover" }

// Opposite puts it on again.
func (e Uncover) Opposite() Edit { return Cover(e) }

// Apply notes that the end hangs loose; it must be there, and be joined to nothing.
func (e Uncover) Apply(c *circuit.Circuit) error {
	if !there(c, e.Box, e.End) || c.JoinOf(e.Box, e.End) >= 0 {
		return wrong(c, e.Box, "%s is not there, or is joined", e.End)
	}
	c.Loose = append(slices.Clone(c.Loose), circuit.End{Ref: e.End, Box: e.Box})
	return nil
}

// AddBox makes a place that needs no box in the wall.
type AddBox struct {
	Place circuit.Box `json:"place"`
}

// Op is "add-box".
func (AddBox) Op() string { return "add-box" }

// Opposite takes it back.
func (e AddBox) Opposite() Edit { return DropBox(e) }

// Apply adds it to the record.
func (e AddBox) Apply(c *circuit.Circuit) error {
	c.Boxes = append(c.Boxes, e.Place)
	return nil
}

// DropBox takes such a place away.
type DropBox AddBox

// Op is "drop-box".
func (DropBox) Op() string { return "drop-box" }

// Opposite brings it back.
func (e DropBox) Opposite() Edit { return AddBox(e) }

// Apply drops it from the record; nothing may be in it any more.
func (e DropBox) Apply(c *circuit.Circuit) error {
	if slices.ContainsFunc(c.Devices, func(d circuit.Device) bool { return d.Box == e.Place.ID }) || slices.ContainsFunc(c.Joins, func(j circuit.Join) bool { return j.Box == e.Place.ID }) {
		return wrong(c, e.Place.ID, "something is still there")
	}
	c.Boxes = slices.DeleteFunc(c.Boxes, func(x circuit.Box) bool { return x.ID == e.Place.ID })
	return nil
}

// AddCable is a cable that is drawn.
type AddCable struct {
	Cable circuit.Cable `json:"cable"`
}

// Op is "add-cable".
func (AddCable) Op() string { return "add-cable" }

// Opposite takes it back.
func (e AddCable) Opposite() Edit { return Withdraw(e) }

// Apply adds it to the record, between places that are there.
func (e AddCable) Apply(c *circuit.Circuit) error {
	for _, end := range e.Cable.Ends {
		if end != nil && c.Box(*end) == nil {
			return wrong(c, *end, "the place for a new cable is not there")
		}
	}
	c.Cables = append(c.Cables, e.Cable)
	return nil
}

// Withdraw takes a cable out.
type Withdraw AddCable

// Op is "withdraw".
func (Withdraw) Op() string { return "withdraw" }

// Opposite brings it back.
func (e Withdraw) Opposite() Edit { return AddCable(e) }

// Apply drops it from the record; none of its cores may be joined any more.
func (e Withdraw) Apply(c *circuit.Circuit) error {
	for _, j := range c.Joins {
		if slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return m.Owner == e.Cable.ID }) {
			return wrong(c, j.Box, "a core of %s is still joined", e.Cable.ID)
		}
	}
	c.Cables = slices.DeleteFunc(c.Cables, func(x circuit.Cable) bool { return x.ID == e.Cable.ID })
	return nil
}

// Pair makes a link without a wire.
type Pair struct {
	Link circuit.Link `json:"link"`
}

// Op is "pair".
func (Pair) Op() string { return "pair" }

// Opposite takes it back.
func (e Pair) Opposite() Edit { return Unpair(e) }

// Apply adds it to the record. The error says that a device is not there.
func (e Pair) Apply(c *circuit.Circuit) error {
	for _, id := range []string{e.Link.From, e.Link.To} {
		if c.Device(id) == nil {
			return fmt.Errorf("a device that is paired is not there")
		}
	}
	c.Links = append(c.Links, e.Link)
	return nil
}

// Unpair ends a link without a wire.
type Unpair Pair

// Op is "unpair".
func (Unpair) Op() string { return "unpair" }

// Opposite brings it back.
func (e Unpair) Opposite() Edit { return Pair(e) }

// Apply drops it from the record.
func (e Unpair) Apply(c *circuit.Circuit) error {
	c.Links = slices.DeleteFunc(c.Links, func(x circuit.Link) bool { return x == e.Link })
	return nil
}

// there reports whether a terminal or the end of a core is in a box.
func there(c *circuit.Circuit, box string, m circuit.Ref) bool {
	if d := c.Device(m.Owner); d != nil {
		return d.Box == box && slices.Contains(c.Terminals(*d), m.Part)
	}
	k := c.Cable(m.Owner)
	return k != nil && slices.Contains(k.Cores, m.Part) && slices.ContainsFunc(k.Ends[:], func(end *string) bool { return end != nil && *end == box })
}

// wrong says why an edit does not go with a record, by the names of what it is about.
func wrong(c *circuit.Circuit, box, text string, of ...any) error {
	say := names.For(c)
	for i, x := range of {
		switch x := x.(type) {
		case circuit.Ref:
			if c.Device(x.Owner) != nil {
				of[i] = say.ScrewHere(x)
			} else {
				of[i] = say.Core(circuit.End{Ref: x, Box: box})
			}
		case string:
			switch {
			case c.Device(x) != nil:
				of[i] = say.Here(x)
			case c.Cable(x) != nil:
				of[i] = say.Cable(x)
			default:
				of[i] = "what the plan has"
			}
		}
	}
	return fmt.Errorf("%s: "+text, append([]any{say.Label(box)}, of...)...)
}

// edits is one of each type, by which they are known when they are read.
var edits = []Edit{Lift{}, Join{}, TakeOut{}, Mount{}, Mark{}, Unmark{}, Cover{}, Uncover{}, AddBox{}, DropBox{}, AddCable{}, Withdraw{}, Pair{}, Unpair{}}

// Note is an edit as it travels: an object whose "op" says which edit it is, beside the fields of that.
type Note struct{ Edit }

// MarshalJSON writes an edit.
func (n Note) MarshalJSON() ([]byte, error) {
	fields, err := json.Marshal(n.Edit)
	if err != nil {
		return nil, err
	}
	op, err := json.Marshal(n.Op())
	if err != nil {
		return nil, err
	}
	return append(append(append([]byte(`{"op":`), op...), ','), fields[1:]...), nil
}

// UnmarshalJSON reads an edit that was written by [Note.MarshalJSON].
func (n *Note) UnmarshalJSON(data []byte) error {
	var what struct {
		Op string `json:"op"`
	}
	if err := json.Unmarshal(data, &what); err != nil {
		return err
	}
	for _, e := range edits {
		if e.Op() != what.Op {
			continue
		}
		at := reflect.New(reflect.TypeOf(e))
		if err := json.Unmarshal(data, at.Interface()); err != nil {
			return fmt.Errorf("edit %q: %w", what.Op, err)
		}
		n.Edit = at.Elem().Interface().(Edit)
		return nil
	}
	return fmt.Errorf("there is no edit %q", what.Op)
}

// Bare is the record that steps work on: readings were taken of the circuit as found, and a join of one member says no more than none.
func Bare(before *circuit.Circuit) *circuit.Circuit {
	c := before.Clone()
	c.Observations, c.Evidence = nil, before.EvidenceAlone()
	c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 })
	return c
}
