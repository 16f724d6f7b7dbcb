package procedure

import (
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/gates"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// Back is the way back to the circuit as found after the first n steps were done: a
// procedure of its own, with the same gates and the same safe order. It has no steps where
// nothing was changed yet.
func (p *Procedure) Back(n int) (*Procedure, error) {
	reached, err := p.At(n)
	if err != nil {
		return nil, err
	}
	return p.BackFrom(reached), nil
}

// BackFrom is the way back to the circuit as found from the wiring as it truly stands, whichever steps led there.
func (p *Procedure) BackFrom(reached *circuit.Circuit) *Procedure {
	as := &retrofit.Option{Kitted: retrofit.Kitted{Devices: p.Option.Devices}, Carried: retrofit.Carried{After: Bare(p.Before)}}
	for _, d := range p.Before.Devices {
		if d.Mechanical() {
			as.Places = append(as.Places, retrofit.Place{Box: d.Box, Device: d.ID, Kept: true})
		}
	}
	back := For(inspect.Compile(reached), as, p.library)
	for i := range back.Steps { // on the way back the circuit as found comes last
		s := &back.Steps[i]
		s.Drawn = map[string]string{Found: Planned, Planned: Found}[s.Drawn]
	}
	for _, s := range back.Steps {
		if len(s.Edits) > 0 {
			return back
		}
	}
	back.Steps = nil
	return back
}

// Between lists the edits that make one wiring of a circuit of another, in the safe order.
func Between(from, to *circuit.Circuit) []Note {
	var out []Note
	for _, s := range For(inspect.Compile(from), &retrofit.Option{Carried: retrofit.Carried{After: to}}, nil).Steps {
		out = append(out, s.Edits...)
	}
	return out
}

// Gate says what a gate makes true.
type Gate string

// The gates: who may do the work, power off, a box proved dead, bare ends capped before power, and off and dead again.
const (
	PermissionGate Gate = "permission"
	OffGate        Gate = "off"
	DeadGate       Gate = "dead"
	CapsGate       Gate = "caps"
	AgainGate      Gate = "again"
)

const boxDead = "Tester proved on a known live source; every conductor in the box tested against every other and against {ground}, {neutral}s too; tester proved again."

// gate writes a gate with what is confirmed for it.
func (w *writer) gate(gate Gate, box, text string, of ...any) {
	s := w.step(Preparing, KindGate, box, text, of...)
	if gate == CapsGate {
		s.Phase, s.Drawn = Trying, Planned
	}
	s.Gate, s.Asks = gate, w.asks(gate, box)
	if gate == DeadGate {
		s.Conductors = w.p.Before.CoreEnds(box)
	}
}

func (w *writer) asks(gate Gate, box string) []string {
	switch gate {
	case PermissionGate:
		return []string{"I may do this work by law, or work under somebody who may", "The permission or notice that it needs is there"}
	case OffGate:
		return gates.Off(w.p.Before, w.now)
	case DeadGate:
		return gates.Dead(w.now, box)
	case CapsGate:
		return gates.Capped()
	}
	return w.p.Securing()
}

// Securing is all that is confirmed once something was, or may have been, live: each breaker, and each box that is worked in.
func (p *Procedure) Securing() []string {
	say := p.Planned.Terms()
	return append(gates.Off(p.Before, say), gates.Dead(say, p.opened...)...)
}

// Opened lists the boxes in the wall that are worked in.
func (p *Procedure) Opened() []string { return slices.Clone(p.opened) }

// handlesMetal reports whether a step puts a hand where conductors are bare or may be: all that is done between the gates
// and the last time under power, labels on conductors before that, and pulling or drawing a cable.
func handlesMetal(s *Step) bool {
	switch s.Phase {
	case Preparing:
		return s.Kind == KindLabel || s.Test != nil && s.Test.Power == "off"
	case Lifting, Joining, Closing:
		return s.Kind != KindPowerOn
	}
	return false
}

// breakers names every breaker of the circuit by its label.
func (w *writer) breakers() string {
	return names.Capitalize(strings.Join(w.now.Breakers(), " and "))
}

// begin writes what comes before the first box.
func (w *writer) begin(boxes []string) {
	w.gate(PermissionGate, "", "%s Check your local code and permits.", w.now.WhoMay)
	if evidence.Certain(w.p.Before) {
		w.polarity(boxes)
	}
	w.tests(true)
	w.gate(OffGate, "", "%s off, locked and labelled.", w.breakers())
}

// ready writes what comes in a box before anything of it comes off.
func (w *writer) ready(box string) {
	if w.p.After.Box(box).Kind == circuit.Panel {
		w.step(Preparing, KindCheck, box, inPanel)
	}
	w.gate(DeadGate, box, boxDead)
	w.step(Preparing, KindCheck, box, "Photograph the box from two sides, before anything comes off.")
	if at := w.labelled(box); len(at) > 0 {
		s := w.step(Preparing, KindLabel, box, "Label every conductor that will move, with what it is and which cable it is of, before it comes off.")
		s.At = at
		for _, e := range at {
			s.Wires = append(s.Wires, w.wire(w.p.Before, w.was, e, w.found))
		}
		s.Read = w.read(at)
	}
}

// inPanel is said of a box in which one breaker off does not make all dead.
const inPanel = "One {breaker} off leaves the {panel} live: what feeds it comes before the main switch, and the other circuits are on. Main switch off too, and the covers over its incoming side stay on."

// try writes the first time under power: all closed, people away, every place and state.
func (w *writer) try() {
	w.gate(CapsGate, "", "Every bare end is capped, and every box is closed; people, children and pets are kept away from any that is not.")
	w.step(Trying, KindPowerOn, "", "%s on.", w.breakers())
	for _, q := range w.p.Option.Places {
		if !w.wireless(q.Device) {
			here := "here"
			if slices.ContainsFunc(w.p.Option.Places, func(x retrofit.Place) bool { return x.Box == q.Box && x.Device != q.Device }) {
				here = "with " + w.newName(*w.p.After.Device(q.Device)) // one of several in the box
			}
			s := w.step(Trying, KindCheck, q.Box, "Switch the light on and off %s, with every other switch both ways: each press changes it.", here)
			s.Device, s.Proves = q.Device, len(w.p.After.Links) == 0
		}
	}
	w.neighbours()
}

// closeTraced closes the boxes that were opened for tracing and in which nothing is done.
func (w *writer) closeTraced(boxes []string) {
	if len(w.p.Before.Observations) == 0 {
		return
	}
	for _, b := range w.p.Before.Boxes {
		if b.Seen() && b.Kind != circuit.Panel && !slices.Contains(boxes, b.ID) {
			w.gate(DeadGate, b.ID, boxDead)
			w.p.Steps[len(w.p.Steps)-1].Phase = Closing
			w.step(Closing, KindClose, b.ID, "It was opened to trace, and stays as it was. Fold the conductors neatly and close the box.")
		}
	}
}

// hang puts a place that needs no box on its wall, once it is paired and before it is tried.
func (w *writer) hang(dev circuit.Device) {
	model, known := w.p.model(dev.ID)
	if !known || len(w.p.After.Terminals(dev)) > 0 || !w.radio(dev.ID) {
		return
	}
	where := "Not on metal, in a wet zone or near heat, nor over a box that holds other wiring."
	if b := w.p.Before.Box(dev.Box); b != nil && model.Surface {
		where = "It covers the old box, which stays accessible. Not on a metal plate, in a wet zone or near heat, nor over another box."
	}
	s := w.step(Linking, KindFit, dev.Box, "Fix %s on the wall. %s", w.newName(dev), where)
	s.Device = dev.ID
}

// wireless reports whether a place speaks without a wire, so that it works only when paired.
func (w *writer) wireless(id string) bool {
	for _, l := range w.p.After.Links {
		if l.From == id {
			return true
		}
	}
	return false
}

// close closes a box in which all is joined: the power goes on once for all, with nothing bare in reach.
func (w *writer) close(box string) {
	text := "Fold the conductors neatly, screw in, plate on."
	if b := w.p.After.Box(box); b.Kind == circuit.Fixture || b.Kind == circuit.Junction {
		text = "Fold the conductors neatly and close the box; it stays accessible."
	} else if b.Kind == circuit.Panel {
		text = "Fold the conductors neatly, all covers back on; write the circuit's name beside its {breaker}."
	}
	s := w.step(Closing, KindClose, box, "%s", text)
	w.plate(s, box)
	if n := len(w.labelsIn(box)); n > 0 {
		s.Text = "Put the labels of the sheet on, so that each conductor says what it is now. " + s.Text
		s.uses(Labelling, "label for a conductor", n, "on the sheet of labels", nil)
	}
}

// link writes what comes once the power is on: links made, all tried again and written down.
func (w *writer) link() {
	for _, dev := range w.difference.in { // places that no box in the wall holds
		if w.p.Before.Box(dev.Box) == nil && dev.Case == "" {
			w.mount(dev)
			w.p.Steps[len(w.p.Steps)-1].Phase = Linking
		}
	}
	w.network()
	cabled := map[string]bool{}
	for _, l := range w.difference.link {
		how := map[string]string{"radio": "directly by radio", "hub": "by a rule in the hub", "cloud": "by a scene in the cloud", "bus": "there"}[l.Via]
		text := "Pair %s with %s, %s. Give each its name and room; note the firmware."
		if l.Via == "bus" {
			text = "Lead the data cable of %s to %s, kept apart from mains; assign %s what it switches. Its length is not known here."
		}
		s := w.step(Linking, KindPair, w.p.After.Device(l.From).Box, text, w.now.Device(l.From), w.now.Device(l.To), how)
		s.Edits = []Note{{Pair{l}}}
		if box := w.p.After.Device(l.From).Box; l.Via == "bus" && !cabled[box] { // the buttons of a plate share one
			cabled[box] = true
			s.uses(Wiring, "data cable to a button", 1, "its length is not known here", nil)
		}
	}
	for _, q := range w.p.Option.Places {
		if w.wireless(q.Device) {
			w.hang(*w.p.After.Device(q.Device))
			note := "note the delay"
			if model, known := w.p.model(q.Device); known && model.BatteryMonths > 0 {
				note += ", and the date of its battery"
			}
			w.step(Linking, KindCheck, q.Box, "Try this place from the light on and from the light off; %s.", note)
		}
	}
	last := w.step(Linking, KindCheck, "", "Try every place again, with the internet off if that was promised. Write the record and leave it with the customer.")
	last.Proves = len(w.p.After.Links) > 0
}
