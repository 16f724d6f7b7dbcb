package procedure

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
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
	as := &retrofit.Option{Devices: p.Option.Devices, After: start(p.Before)}
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
			return back, nil
		}
	}
	back.Steps = nil
	return back, nil
}

// try writes the first time under power: caps on, people away, every place and state.
func (w *writer) try() {
	w.step(Trying, KindGate, "", "Every bare end is capped; people, children and pets are kept away from the open boxes.")
	w.step(Trying, KindPowerOn, "", "{breaker} on.")
	for _, q := range w.p.Option.Places {
		if !w.wireless(q.Device) {
			here := "here"
			if slices.ContainsFunc(w.p.Option.Places, func(x retrofit.Place) bool { return x.Box == q.Box && x.Device != q.Device }) {
				here = "with " + w.newName(*w.p.After.Device(q.Device)) // one of several in the box
			}
			s := w.step(Trying, KindCheck, q.Box, "Switch the light on and off %s, with every other switch both ways: each press changes it.", here)
			s.Device = q.Device
		}
	}
	w.neighbours()
	w.step(Trying, KindPowerOf, "", "{breaker} off, locked again; each box proved dead again before a hand goes in.")
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

// close writes what comes when the wiring is proved: boxes closed, links made, all tried
// again and written down.
func (w *writer) close(boxes []string) {
	for _, box := range boxes {
		text := "Fold the conductors neatly, screw in, plate on."
		if b := w.p.After.Box(box); b.Kind == circuit.Fixture || b.Kind == circuit.Junction {
			text = "Fold the conductors neatly and close the box; it stays accessible."
		}
		s := w.step(Closing, KindClose, box, "%s", text)
		w.plate(s, box)
		if n := len(w.labelsIn(box)); n > 0 {
			s.Text = "Put the labels of the sheet on, so that each conductor says what it is now. " + s.Text
			s.uses(Labelling, "label for a conductor", n, "on the sheet of labels", nil)
		}
	}
	w.step(Closing, KindPowerOn, "", "{breaker} on.")
	for _, dev := range w.difference.in { // places that no box in the wall holds
		if w.p.Before.Box(dev.Box) == nil {
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
			w.step(Linking, KindCheck, q.Box, "Try this place from the light on and from the light off; note the delay, and the date of a battery.")
		}
	}
	w.step(Linking, KindCheck, "", "Try every place again, with the internet off if that was promised. Write the record and leave it with the customer.")
}
