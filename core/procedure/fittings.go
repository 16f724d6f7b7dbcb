package procedure

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// uses adds what a step fits to it.
func (s *Step) uses(group, what string, count int, note string, price *float64) {
	if count > 0 {
		s.Uses = append(s.Uses, Item{group, what, count, note, price})
	}
}

// fits adds a device of the plan to the step that brings it.
func (w *writer) fits(s *Step, id string) {
	for _, x := range w.p.Option.Devices {
		if x.ID != id || w.p.Before.Device(id) != nil {
			continue
		}
		d, known := w.p.library.Get(x.Device)
		if !known {
			s.uses(Devices, x.Name, 1, "its model is not in the catalogue any more", nil)
			return
		}
		count, price := 1, d.Price
		if d.PerLamp {
			count = x.Count
			price *= float64(count)
		}
		note, name := "", d.Name
		if len(x.SetTo) > 0 {
			note = "set to " + strings.Join(x.SetTo, ", ")
		}
		if more := w.p.gangsIn(id); len(more) > 0 {
			names := []string{d.Name}
			for _, dev := range more {
				if of, known := w.p.model(dev.ID); known {
					price += of.GangPrice
					if !slices.Contains(names, of.Name) {
						names = append(names, of.Name)
					}
				}
			}
			if name = fmt.Sprintf("case of %d gangs: %s", len(more)+1, strings.Join(names, "; ")); d.LowVoltage {
				name, note = d.Name, fmt.Sprintf("%d of its buttons in use", len(more)+1)
			}
		}
		s.uses(Devices, name, count, note, &price)
		return
	}
}

// gangsIn lists the devices that are further gangs in the case of another.
func (p *Procedure) gangsIn(host string) []circuit.Device {
	return slices.DeleteFunc(slices.Clone(p.After.Devices), func(d circuit.Device) bool { return d.Case != host })
}

// physical is what a hand finds of a join: screws that are one in a case of several gangs count
// once.
func (w *writer) physical(x changed) changed {
	c := w.p.After
	if c.OneScrew(x.with) {
		x.with.Owner = c.Device(x.with.Owner).Case
	}
	twice := func(m circuit.Ref) bool { return c.OneScrew(m) || m == x.with }
	x.join.Of = slices.DeleteFunc(slices.Clone(x.join.Of), c.OneScrew)
	x.keep = slices.DeleteFunc(slices.Clone(x.keep), c.OneScrew)
	x.moves = slices.DeleteFunc(slices.Clone(x.moves), twice)
	return x
}

// set says how the selectors of a new device stand before it goes in.
func (w *writer) set(dev circuit.Device) {
	for _, x := range w.p.Option.Devices {
		if x.ID != dev.ID || len(x.SetTo) == 0 {
			continue
		}
		model, _ := w.p.library.Get(x.Device)
		var ways []string
		for i, to := range x.SetTo {
			if i < len(model.Selector) {
				to = model.Selector[i].Name + ": " + to
			}
			ways = append(ways, to)
		}
		s := w.step(Joining, KindSet, dev.Box, "Set the selectors of %s before it goes in. %s.", w.newName(dev), names.Capitalize(strings.Join(ways, "; ")))
		s.Device = dev.ID
	}
}

// newName is what a device is called that comes in.
func (w *writer) newName(dev circuit.Device) string {
	return w.now.Here(dev.ID)
}

// bypass fits a bypass beside the lamp: it lets the current pass on which a device lives that
// has no neutral.
func (w *writer) bypass(box string) {
	for _, at := range w.p.Option.BypassAt {
		if at != box {
			continue
		}
		name := w.now.Box(box)
		s := w.step(Joining, KindFit, box, "Fit the bypass at the lamp, across it: one lead to the {load}, the other to the {neutral} there. %s holds it from now on; it may be warm.", names.Capitalize(name))
		s.uses(Devices, bypassName, 1, "", nil)
		for _, d := range w.p.After.Devices {
			if d.Box == box && d.Type == circuit.TypeLamp {
				for _, t := range w.p.After.Terminals(d) {
					s.At = append(s.At, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
				}
				break
			}
		}
	}
}

const bypassName = "bypass for a small load, at the lamp"

// cover fits a deeper box or cover where the room asks for one.
func (w *writer) cover(box string) {
	for _, f := range w.room {
		if f.about != box {
			continue
		}
		what := "deeper box, or an extension on it"
		if w.p.After.Box(box).Kind == circuit.Fixture {
			what = "deeper cover"
		}
		text := "Fit a %s."
		if f.Tight {
			what += ", if it proves too tight"
			text = "Look whether all goes in with room to spare. If not, fit a %s."
		}
		s := w.step(Joining, KindFit, box, text+" %s", strings.TrimSuffix(what, ", if it proves too tight"), f.Text)
		s.uses(Covering, what, 1, f.Text, nil)
	}
}

// tight is a finding of room with the box that it is about.
type tight struct {
	inspect.Finding
	about string
}

// tightBoxes lists what the record as planned says of the room in boxes.
func tightBoxes(after *circuit.Circuit) []tight {
	var out []tight
	for _, f := range inspect.Room(after) {
		for _, e := range f.At {
			box := e.Box
			if d := after.Device(e.Owner); box == "" && d != nil {
				box = d.Box
			}
			if box != "" {
				out = append(out, tight{f, box})
				break
			}
		}
	}
	return out
}

// network joins what speaks by radio to the hub or the house, before anything is paired with it.
func (w *writer) network() {
	hub := false
	for _, x := range w.p.Option.Devices {
		d, known := w.p.library.Get(x.Device)
		if !known || w.p.Before.Device(x.ID) != nil || w.p.After.Device(x.ID) == nil {
			continue
		}
		if !hub && retrofit.NeedsHub(w.p.After, x.ID, d) {
			hub = true
			s := w.step(Linking, KindPair, "", "Set up the hub, if the house has none: near the boxes, not behind metal, with its own name and a password that the customer keeps.")
			s.uses(Devices, hubFor+retrofit.HubFor(d), 1, "if the house has none", nil)
		}
	}
	for _, x := range w.p.Option.Devices {
		d, known := w.p.library.Get(x.Device)
		dev := w.p.After.Device(x.ID)
		if !known || dev == nil || dev.Case != "" || w.p.Before.Device(x.ID) != nil || !d.JoinsNetwork() {
			continue
		}
		to := map[string]string{"mesh": "the mesh", "wifi": "the Wi-Fi of the house", "bluetooth": "the phone, by Bluetooth"}[d.Radio[0]]
		switch d.Hub {
		case "needed":
			to = "the hub, by " + radioWords[d.Radio[0]]
		case "optional":
			to = "the hub, by " + radioWords[d.Radio[0]] + ", if there is one: it works at its own place without"
		}
		s := w.step(Linking, KindPair, dev.Box, "Join %s to %s. Give it its name and room; note its firmware and serial number.", w.newName(*dev), to)
		s.Device = dev.ID
	}
	for _, x := range w.p.Option.Devices {
		d, known := w.p.library.Get(x.Device)
		dev := w.p.After.Device(x.ID)
		if !known || dev == nil || w.p.Before.Device(x.ID) != nil {
			continue
		}
		switch {
		case d.Kind == device.Secondary:
			s := w.step(Linking, KindSet, dev.Box, "Switch the local control of %s off in its settings: it carries no load, and only sends.", w.newName(*dev))
			s.Device = dev.ID
		case d.Dims && !d.PerLamp && d.Kind != device.Auxiliary && d.Kind != device.Remote:
			s := w.step(Linking, KindSet, dev.Box, "Set the load kind of %s, and the lowest level at which the lamps hold steady after a start; note both, and the highest.", w.newName(*dev))
			s.Device = dev.ID
		}
	}
}

var radioWords = map[string]string{"mesh": "mesh radio", "wifi": "Wi-Fi", "bluetooth": "Bluetooth"}

// newFront reports whether what stands in the front of a box changes: where only wires move, tape is added or a module goes
// in behind a switch, the plate that is there goes back.
func (w *writer) newFront(box string) bool {
	front := func(d circuit.Device) bool {
		model, known := w.p.model(d.ID)
		return d.Box == box && (d.Mechanical() || d.Type == circuit.TypeReceptacle || known && len(model.Mount) == 0)
	}
	return slices.ContainsFunc(w.difference.out, front) || slices.ContainsFunc(w.difference.in, front)
}

// plate covers a box in the wall again, with a new plate where its front changes.
func (w *writer) plate(s *Step, box string) {
	b := w.p.After.Box(box)
	if b.Kind != circuit.Switch || !w.newFront(box) {
		return
	}
	was, now, covers := w.p.faces(w.p.Before, box), w.p.faces(w.p.After, box), 0
	for _, x := range w.p.Option.Devices {
		if d, known := w.p.library.Get(x.Device); known && x.Box == box && d.Surface {
			covers++
		}
	}
	gangs := max(was, now, 1)
	if b.Gangs != nil {
		gangs = *b.Gangs
	}
	note := "at " + w.now.Box(b.ID)
	if b.Gangs != nil { // what stood two in a gang leaves one opening
		was = min(was, gangs)
	}
	if blanks := max(0, was-now-covers); blanks > 0 {
		note += fmt.Sprintf(", with %d blank", blanks)
	}
	if b.Gangs != nil { // they may hold switches of other circuits
		switch n := gangs - max(was, now+covers); {
		case n == 1:
			note += "; a blank for the unrecorded gang, if it is empty"
		case n > 1:
			note += fmt.Sprintf("; a blank for each of the %d unrecorded gangs, if it is empty", n)
		}
	}
	if w.ungrounded(box) {
		note += w.now.Fill("; insulating, with insulating screws: no {ground} comes here")
	}
	if covers > 0 {
		note += "; a remote covers a place: the box stays accessible"
	}
	s.uses(Covering, fmt.Sprintf("plate, %d gang", gangs), 1, note, nil)
}

// ungrounded reports whether devices stand in a box to which no ground comes.
func (w *writer) ungrounded(box string) bool {
	roles := w.p.Planned.Roles()
	return w.p.After.Box(box).Kind == circuit.Switch && !slices.ContainsFunc(w.p.After.CoreEnds(box), func(e circuit.End) bool { return roles[e] == electric.RoleGround }) &&
		slices.ContainsFunc(w.p.After.Devices, func(d circuit.Device) bool {
			return d.Box == box && slices.Contains(w.p.After.Terminals(d), "ground")
		})
}

// buttons adds the plate that low-voltage buttons share, to the step that brings the first one.
func (w *writer) buttons(s *Step, dev circuit.Device, first bool) {
	if model, _ := w.p.model(dev.ID); !model.LowVoltage || model.Gangs > 1 || !first {
		return // one of several buttons is its own plate
	}
	n := 0
	for _, x := range w.p.After.Devices {
		if model, known := w.p.model(x.ID); known && model.LowVoltage && x.Box == dev.Box {
			n++
		}
	}
	s.uses(Covering, fmt.Sprintf("low-voltage plate, %d button%s", n, map[bool]string{true: "s"}[n > 1]), 1, "at "+w.now.Box(dev.Box), nil)
}

// neighbours lists what else hangs on a hot conductor that is moved: where two wires stand on
// one screw, the second often feeds a switch or outlet that nobody thinks of.
func (w *writer) neighbours() {
	told := map[string]bool{}
	for _, x := range w.difference.apart {
		if x.role != electric.Line && x.role != electric.Neutral {
			continue
		}
		moved := slices.Clone(x.moves)
		if len(x.keep) == 0 {
			moved = append(moved, x.with)
		}
		if wires := slices.DeleteFunc(slices.Clone(x.join.Of), func(m circuit.Ref) bool { return w.p.Before.Cable(m.Owner) == nil }); len(wires) < 2 {
			continue // what comes from the supply stands alone
		}
		for _, m := range moved {
			k := w.p.Before.Cable(m.Owner)
			if k == nil || told[k.ID] || w.p.Before.Box(x.box) == nil {
				continue
			}
			other, known := k.Other(x.box)
			var what string
			switch {
			case !known:
				what = "whatever hangs on " + w.was.To(k.ID, x.box)
			case w.p.Before.Box(other) == nil || w.p.Before.Box(other).Kind == circuit.Panel:
				continue // it comes from there
			default:
				if what = w.loads(other); what == "" {
					continue
				}
			}
			told[k.ID] = true
			s := w.step(Trying, KindCheck, x.box, "Try %s as well: the {%s} of %s runs on from here, and was moved.", what, x.role, w.was.To(k.ID, x.box))
			s.At = []circuit.End{{Ref: m, Box: x.box}}
		}
	}
}

// loads names what stands in a box and is no part of this plan.
func (w *writer) loads(box string) string {
	var out []string
	for _, d := range w.p.Before.Devices {
		if d.Box != box || slices.Contains(w.p.Option.Light, d.ID) || d.Type == circuit.TypeSupply ||
			slices.ContainsFunc(w.p.Option.Places, func(q retrofit.Place) bool { return q.Device == d.ID || q.Box == box }) || w.p.After.Device(d.ID) == nil {
			continue
		}
		out = append(out, w.was.Device(d.ID))
	}
	return list(out)
}

// labelsIn lists the core ends of a box that take a label.
func (w *writer) labelsIn(box string) []circuit.Ref {
	return slices.DeleteFunc(w.p.After.EndsIn(box), func(m circuit.Ref) bool { return circuit.GroundColour(m.Part) })
}
