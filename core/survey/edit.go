// Package survey records what one sees at an open box: each [Edit] is one thing
// that a person notes (a cable with its cores, a wire under a screw, wires under
// one connector), and [Apply] writes it into a copy of the circuit. Usual boxes
// are entered as one edit from [Presets]. [Read] says back what was understood
// and what to record next.
//
// An edit never guesses: what the person did not see stays unknown.
package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// New returns an empty circuit of a practice.
func New(name, practice string) *circuit.Circuit {
	return &circuit.Circuit{
		Format: circuit.Format, Name: name, Practice: practice,
		Boxes: []circuit.Box{}, Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{},
	}
}

// Apply returns a copy of the circuit with the edit in it, and in a few words
// what was done. An edit that makes no sense returns an [*circuit.Error] whose
// place names the field of the edit, or of the document that would result.
func Apply(c *circuit.Circuit, e Edit) (*circuit.Circuit, string, error) {
	changed, said, err := change(c, e)
	if err != nil {
		return nil, "", err
	}
	// What the schema says of files holds for edits too: lengths, ranges, words.
	out, err := circuit.Reread(changed)
	if err != nil {
		return nil, "", err
	}
	return out, said, nil
}

// change is [Apply] without what the schema says.
func change(c *circuit.Circuit, e Edit) (*circuit.Circuit, string, error) {
	w := &writer{c.Clone()}
	said, err := e.apply(w)
	if err != nil {
		return nil, "", err
	}
	switch e.(type) {
	case RemoveBox, RemoveCable, RemoveDevice:
		w.tidy()
	}
	if _, passes := e.(PassGate); !passes && c.BreakerOn() && !w.BreakerOn() { // no other edit turns a breaker off
		w.NoteOn()
	}
	return w.Circuit, said, nil
}

func refuse(code circuit.Code, place, format string, args ...any) error {
	return &circuit.Error{Problems: []circuit.Problem{{Code: code, Place: place, Text: fmt.Sprintf(format, args...)}}}
}

// writer changes its own copy of a circuit.
type writer struct{ *circuit.Circuit }

// newID is an id that names nothing yet.
func (w *writer) newID(prefix string) string { return w.FreshID(prefix, nil) }

func (w *writer) box(id string) (*circuit.Box, error) {
	if b := w.Circuit.Box(id); b != nil {
		return b, nil
	}
	return nil, refuse(circuit.CodeUnknownID, "box", "that box is not recorded; it may have been removed")
}

func (w *writer) cable(id, place string) (*circuit.Cable, error) {
	if k := w.Circuit.Cable(id); k != nil {
		return k, nil
	}
	return nil, refuse(circuit.CodeUnknownID, place, "that cable is not recorded; it may have been removed")
}

func (e SetCircuit) apply(w *writer) (string, error) {
	if e.Name != "" {
		w.Name = e.Name
	}
	if e.Practice != "" {
		w.Practice = e.Practice
	}
	if e.Colours != "" {
		w.Circuit.Colours = e.Colours
	}
	if e.Volts != nil || e.BreakerAmps != nil || e.BreakerLabel != "" {
		if w.Supply == nil {
			w.Supply = &circuit.Supply{}
		}
		set(&w.Supply.Volts, e.Volts)
		set(&w.Supply.BreakerAmps, e.BreakerAmps)
		if e.BreakerLabel != "" {
			w.Supply.BreakerLabel = e.BreakerLabel
		}
	}
	if e.Controls != nil {
		if w.Controls = e.Controls; *e.Controls == 0 {
			w.Controls = nil
		}
	}
	if e.Confirm != "" {
		if w.Circuit.Confirm = e.Confirm; e.Confirm == circuit.ConfirmFree {
			w.Circuit.Confirm = ""
		}
	}
	err := clearFacts(e.Clear, map[string]func(){
		"colours": func() { w.Circuit.Colours = "" },
		"breakerLabel": func() {
			if w.Supply != nil {
				w.Supply.BreakerLabel = ""
			}
		},
	})
	return "Circuit described", err
}

// clearFacts makes facts unknown again, by name; the error names one that cannot be.
func clearFacts(names []string, known map[string]func()) error {
	for i, name := range names {
		forget := known[name]
		if forget == nil {
			return refuse(circuit.CodeUnknownID, fmt.Sprintf("clear[%d]", i), "%q is nothing that can be cleared here", name)
		}
		forget()
	}
	return nil
}

func (e AddBox) apply(w *writer) (string, error) {
	kind := e.Kind
	var preset Preset
	if e.Preset != "" {
		i := slices.IndexFunc(Presets, func(p Preset) bool { return p.ID == e.Preset })
		if i < 0 {
			return "", refuse(circuit.CodeUnknownID, "preset", "there is no usual box %q", e.Preset)
		}
		preset = Presets[i]
		kind = preset.Kind
	}
	var source *circuit.Box
	if e.Like != "" {
		from, err := w.box(e.Like)
		if err != nil {
			return "", err
		}
		copied := *from // adding a box may move the others in memory
		source, kind = &copied, from.Kind
	}
	b := circuit.Box{ID: w.newID(prefixes[kind]), Kind: kind, Name: e.Name}
	if kind == circuit.Panel && w.Circuit.Box("panel") == nil {
		b.ID = "panel"
	}
	if kind == circuit.Switch || preset.ID != "" {
		opened := true
		b.Opened = &opened
	}
	w.Boxes = append(w.Boxes, b)
	if e.Cable != "" {
		k, err := w.cable(e.Cable, "cable")
		if err != nil {
			return "", err
		}
		if !k.Stub() {
			return "", refuse(circuit.CodeContradicts, "cable", "both ends of %s are known already", names.For(w.Circuit).Cable(k.ID))
		}
		w.end(k, b.ID)
	}
	if preset.ID != "" {
		if err := w.fill(preset, b.ID, e.Cable); err != nil {
			return "", err
		}
	}
	if source != nil {
		if err := w.fillLike(*source, b.ID, e.Cable); err != nil {
			return "", err
		}
	}
	return names.For(w.Circuit).Label(b.ID) + " added", nil
}

var prefixes = map[string]string{circuit.Panel: "panel", circuit.Switch: "sw", circuit.Fixture: "light", circuit.Junction: "jb"}

// end gives the unknown end of a cable its box.
func (w *writer) end(k *circuit.Cable, box string) {
	for i := range k.Ends {
		if k.Ends[i] == nil {
			k.Ends[i] = &box
			return
		}
	}
}

// set notes a number that was given: 0 takes it back, so that it is not known again.
func set[T int | float64](number **T, given *T) {
	switch {
	case given == nil:
	case *given == 0:
		*number = nil
	default:
		*number = given
	}
}

func (e SetBox) apply(w *writer) (string, error) {
	b, err := w.box(e.Box)
	if err != nil {
		return "", err
	}
	if e.Name != "" {
		b.Name = e.Name
	}
	if e.Opened != nil {
		b.Opened = e.Opened
	}
	set(&b.Gangs, e.Gangs)
	set(&b.VolumeCm3, e.VolumeCm3)
	set(&b.DepthMm, e.DepthMm)
	if e.Material != "" {
		b.Material = e.Material
	}
	if e.Clamps != nil {
		b.Clamps = e.Clamps
	}
	err = clearFacts(e.Clear, map[string]func(){
		"name":     func() { b.Name = "" },
		"material": func() { b.Material = "" },
		"clamps":   func() { b.Clamps = nil },
	})
	return names.For(w.Circuit).Label(b.ID) + " described", err
}

func (e RemoveBox) apply(w *writer) (string, error) {
	b, err := w.box(e.Box)
	if err != nil {
		return "", err
	}
	label := names.For(w.Circuit).Label(b.ID)
	w.Boxes = slices.DeleteFunc(w.Boxes, func(x circuit.Box) bool { return x.ID == e.Box })
	w.Devices = slices.DeleteFunc(w.Devices, func(d circuit.Device) bool { return d.Box == e.Box })
	w.Joins = slices.DeleteFunc(w.Joins, func(j circuit.Join) bool { return j.Box == e.Box })
	for i := range w.Cables {
		for n, end := range w.Cables[i].Ends {
			if end != nil && *end == e.Box {
				w.Cables[i].Ends[n] = nil
			}
		}
	}
	w.Cables = slices.DeleteFunc(w.Cables, func(k circuit.Cable) bool { return k.Ends[0] == nil && k.Ends[1] == nil })
	return label + " removed", nil
}

func (e AddCable) apply(w *writer) (string, error) {
	if _, err := w.box(e.Box); err != nil {
		return "", err
	}
	k := circuit.Cable{ID: w.newID("k"), Ends: [2]*string{&e.Box, nil}, Cores: e.Cores, Gauge: e.Gauge}
	if e.To != "" {
		k.Ends[1] = &e.To
	}
	w.Cables = append(w.Cables, k)
	return names.Capitalize(strings.TrimPrefix(names.For(w.Circuit).Cable(k.ID), "the ")) + " added", nil
}

func (e SetCable) apply(w *writer) (string, error) {
	k, err := w.cable(e.Cable, "cable")
	if err != nil {
		return "", err
	}
	switch {
	case e.Gauge == "none":
		k.Gauge = ""
	case e.Gauge != "":
		k.Gauge = e.Gauge
	}
	if e.Gauge != "" && e.To == "" {
		return "Gauge of " + names.For(w.Circuit).Cable(k.ID) + " noted", nil
	}
	if !k.Stub() {
		return "", refuse(circuit.CodeContradicts, "cable", "both ends of %s are known already", names.For(w.Circuit).Cable(k.ID))
	}
	w.end(k, e.To)
	return names.Capitalize(names.For(w.Circuit).Cable(k.ID)) + " followed to its other end", nil
}

// joinStubs makes one cable of two that were seen from their two boxes.
func (e JoinStubs) apply(w *writer) (string, error) {
	a, err := w.cable(e.Cable, "cable")
	if err != nil {
		return "", err
	}
	b, err := w.cable(e.Other, "other")
	if err != nil {
		return "", err
	}
	cores := func(k *circuit.Cable) []string { return slices.Sorted(slices.Values(k.Cores)) }
	switch {
	case a == b, !a.Stub(), !b.Stub():
		return "", refuse(circuit.CodeContradicts, "other", "two different cables with an unknown end each are joined")
	case !slices.Equal(cores(a), cores(b)):
		return "", refuse(circuit.CodeContradicts, "other", "%s and %s have different cores, so they are not one cable", names.For(w.Circuit).Cable(a.ID), names.For(w.Circuit).Cable(b.ID))
	}
	far := b.Ends[0]
	if far == nil {
		far = b.Ends[1]
	}
	w.end(a, *far)
	id, other := a.ID, b.ID
	for i := range w.Joins {
		for n, m := range w.Joins[i].Of {
			if m.Owner == other {
				w.Joins[i].Of[n].Owner = id
			}
		}
	}
	for i := range w.Marks {
		if w.Marks[i].End.Owner == other {
			w.Marks[i].End.Owner = id
		}
	}
	w.renameReadings(other, id)
	w.Cables = slices.DeleteFunc(w.Cables, func(k circuit.Cable) bool { return k.ID == other })
	return "Two ends found to be one cable: " + names.For(w.Circuit).Cable(id), nil
}

func (e RemoveCable) apply(w *writer) (string, error) {
	if _, err := w.cable(e.Cable, "cable"); err != nil {
		return "", err
	}
	name := names.Capitalize(strings.TrimPrefix(names.For(w.Circuit).Cable(e.Cable), "the "))
	w.Cables = slices.DeleteFunc(w.Cables, func(k circuit.Cable) bool { return k.ID == e.Cable })
	return name + " removed", nil
}

var devicePrefixes = map[string]string{circuit.TypeSupply: "supply", circuit.TypeLamp: "lamp", circuit.TypeReceptacle: "outlet"}

// tidy drops what refers to something that an edit removed.
func (w *writer) tidy() {
	exists := func(m circuit.Ref, box string) bool {
		if k := w.Circuit.Cable(m.Owner); k != nil {
			return k.In(box)
		}
		return w.Circuit.Device(m.Owner) != nil
	}
	for i := range w.Joins {
		j := &w.Joins[i]
		before := len(j.Of)
		j.Of = slices.DeleteFunc(j.Of, func(m circuit.Ref) bool { return !exists(m, j.Box) })
		if len(j.Of) < before && len(j.Of) < 2 {
			j.Of = nil
		}
	}
	w.Joins = slices.DeleteFunc(w.Joins, func(j circuit.Join) bool { return len(j.Of) == 0 })
	w.Marks = slices.DeleteFunc(w.Marks, func(m circuit.Mark) bool { return !exists(m.End.Ref, m.End.Box) })
	w.notLoose(func(e circuit.End) bool { return !exists(e.Ref, e.Box) })
	if len(w.Marks) == 0 {
		w.Marks = nil
	}
	w.tidyReadings()
}
