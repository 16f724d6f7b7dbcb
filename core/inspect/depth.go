package inspect

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// bendRoomMm is what wires need behind a device to be folded without force: a
// rule of thumb of the trade, not of any code.
const bendRoomMm = 10

// Depth is how far what stands in a box reaches into it, in millimetres, as far as it is recorded: the deepest device; or, in
// a switch box, the deepest that has a face with the modules behind it, all of them where the box has one gang, else the
// deepest, since others go behind other gangs.
type Depth struct {
	Mm      float64
	Of      []string // the devices that make it up
	Stacked bool     // they stand one behind the other
}

// DepthIn works out the depth that is used of a box.
func DepthIn(c *circuit.Circuit, box string) Depth {
	b := c.Box(box)
	var front, deepest circuit.Device
	var modules []circuit.Device
	depth := func(d circuit.Device) float64 {
		if d.DepthMm == nil {
			return 0
		}
		return *d.DepthMm
	}
	faces, unmeasured := 0, false
	for _, d := range c.Devices {
		if d.Box != box || d.Case != "" {
			continue
		}
		if depth(d) > depth(deepest) {
			deepest = d
		}
		switch model := c.Models[d.Model]; {
		case d.Mechanical() || d.Type == circuit.TypeSmart && model.Button != nil:
			faces++
			unmeasured = unmeasured || d.DepthMm == nil
			if depth(d) > depth(front) {
				front = d
			}
		case d.Type == circuit.TypeSmart && d.DepthMm != nil:
			modules = append(modules, d)
		}
	}
	slices.SortStableFunc(modules, func(x, y circuit.Device) int { return cmp.Compare(depth(y), depth(x)) })
	if b != nil && b.Gangs != nil && *b.Gangs > 1 && len(modules) > 1 {
		modules = modules[:1]
	}
	if b == nil || b.Kind != circuit.Switch || faces == 0 || unmeasured || len(modules) == 0 {
		if deepest.ID == "" {
			return Depth{}
		}
		return Depth{Mm: depth(deepest), Of: []string{deepest.ID}}
	}
	out := Depth{Mm: depth(front), Of: []string{front.ID}, Stacked: true}
	for _, m := range modules {
		out.Mm, out.Of = out.Mm+depth(m), append(out.Of, m.ID)
	}
	return out
}

// stacked compares the depth of a box with what stands one behind the other in it.
func (i *inspector) stacked(say names.Terms) {
	for _, b := range i.doc.Boxes {
		used := DepthIn(i.doc, b.ID)
		if b.DepthMm == nil || !used.Stacked {
			continue
		}
		var at []circuit.End
		var of []string
		for _, id := range used.Of {
			d := i.doc.Device(id)
			at, of = append(at, i.allScrews(*d)...), append(of, fmt.Sprintf("%s %g mm", say.Device(id), *d.DepthMm))
		}
		text := fmt.Sprintf("%s is %g mm deep, and what stands one behind the other in it needs %g mm: %s.", names.Capitalize(say.Box(b.ID)), *b.DepthMm, used.Mm, strings.Join(of, ", "))
		switch room := *b.DepthMm - used.Mm; {
		case room < 0:
			i.add("box-depth", Warning, at, text, "It does not fit. A deeper box, a spacer, or a device of less depth.")
		case room < bendRoomMm:
			i.add("box-depth", Warning, at, text+fmt.Sprintf(" That leaves %g mm to bend the wires; about %d mm are needed.", room, bendRoomMm),
				"This is a fit, not a sum of any code: try it before you promise it.")
			i.found[len(i.found)-1].Tight = true
		}
	}
}

// depthFindings compares box depths with the devices in them.
func (i *inspector) depthFindings(say names.Terms) {
	i.stacked(say)
	for _, d := range i.doc.Devices {
		b := i.doc.Box(d.Box)
		if d.DepthMm == nil || b.DepthMm == nil {
			continue
		}
		at, room := i.allScrews(d), *b.DepthMm-*d.DepthMm
		switch {
		case room < 0:
			i.add("box-depth", Warning, at, fmt.Sprintf("%s reaches %g mm into %s, which is %g mm deep.", names.Capitalize(say.Device(d.ID)), *d.DepthMm, say.Box(b.ID), *b.DepthMm),
				"It does not fit. A deeper box, a spacer, or a device of less depth.")
		case room < bendRoomMm:
			i.add("box-depth", Warning, at, fmt.Sprintf("%s leaves %g mm behind it in %s to bend the wires; about %d mm are needed.", names.Capitalize(say.Device(d.ID)), room, say.Box(b.ID), bendRoomMm),
				"This is a fit, not a sum of any code: try it before you promise it.")
			i.found[len(i.found)-1].Tight = true
		}
	}
}
