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

	"ambivia/core/circuit"
)

// Op names what an edit does.
type Op string

// Operations. The comment of each names the fields of [Edit] that it reads.
const (
	SetCircuit   Op = "set-circuit"   // Name, Practice, Colours, Volts, BreakerAmps, BreakerLabel, Controls (0: not known), Confirm
	AddBox       Op = "add-box"       // Kind, Name, Preset or Like (a box), Cable (a stub that ends in the new box)
	SetBox       Op = "set-box"       // Box, Name, Opened, Gangs, VolumeCm3, DepthMm, Material
	RemoveBox    Op = "remove-box"    // Box
	AddCable     Op = "add-cable"     // Box, To ("" where unknown), Cores, Gauge
	SetCable     Op = "set-cable"     // Cable, To
	JoinStubs    Op = "join-stubs"    // Cable, Other: two stubs are one cable
	RemoveCable  Op = "remove-cable"  // Cable
	AddDevice    Op = "add-device"    // Box, Type, Name, Watts, Count, Load
	SetDevice    Op = "set-device"    // Device, Type (of the same screws), Name, Watts, Count, Load, DepthMm, Unmarked, Dimmable
	RemoveDevice Op = "remove-device" // Device
	Connect      Op = "connect"       // Box, Of: under one connector or screw
	Disconnect   Op = "disconnect"    // Box, Of: each is taken out and capped
	MarkEnd      Op = "mark"          // Box, Of, As ("" takes the mark off)
	Observe      Op = "observe"       // Observation: a test and its reading
	Unobserve    Op = "unobserve"     // Index: a reading is taken back
	AddReport    Op = "report"        // Says, Device: what the customer says
	RemoveReport Op = "remove-report" // Index
	PassGate     Op = "gate"          // Gates: what a person confirmed
	SetCannot    Op = "cannot"        // Ways: ways of testing that the person cannot use, all of them
	Accept       Op = "accept"        // End, As, Odds: a conductor is taken for that ("" takes it back)
)

// Edit is one thing that a person notes. Fields that the operation does not
// read are ignored.
type Edit struct {
	Op           Op            `json:"op"`
	Name         string        `json:"name,omitempty"`
	Practice     string        `json:"practice,omitempty"`
	Volts        *float64      `json:"volts,omitempty"`
	BreakerAmps  *float64      `json:"breakerAmps,omitempty"`
	BreakerLabel string        `json:"breakerLabel,omitempty"`
	Kind         string        `json:"kind,omitempty"`
	Preset       string        `json:"preset,omitempty"`
	Like         string        `json:"like,omitempty"`
	Colours      string        `json:"colours,omitempty"`
	Box          string        `json:"box,omitempty"`
	To           string        `json:"to,omitempty"`
	Cable        string        `json:"cable,omitempty"`
	Other        string        `json:"other,omitempty"`
	Device       string        `json:"device,omitempty"`
	Type         string        `json:"type,omitempty"`
	Cores        []string      `json:"cores,omitempty"`
	Gauge        string        `json:"gauge,omitempty"`
	Of           []circuit.Ref `json:"of,omitempty"`
	As           string        `json:"as,omitempty"`
	Opened       *bool         `json:"opened,omitempty"`
	Gangs        *int          `json:"gangs,omitempty"`
	VolumeCm3    *float64      `json:"volumeCm3,omitempty"`
	DepthMm      *float64      `json:"depthMm,omitempty"`
	Material     string        `json:"material,omitempty"`
	Unmarked     *bool         `json:"unmarked,omitempty"`
	Dimmable     *bool         `json:"dimmable,omitempty"`
	Watts        *float64      `json:"watts,omitempty"`
	Count        *int          `json:"count,omitempty"`
	Load         string        `json:"load,omitempty"`
	Says         string        `json:"says,omitempty"`
	Index        *int          `json:"index,omitempty"`
	Controls     *int          `json:"controls,omitempty"`
	Ways         []string      `json:"ways,omitempty"`
	Confirm      string        `json:"confirm,omitempty"`
	End          *circuit.End  `json:"end,omitempty"`
	Odds         *float64      `json:"odds,omitempty"`

	Observation *circuit.Observation `json:"observation,omitempty"`
	Gates       []circuit.Gate       `json:"gates,omitempty"`
}

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
	do, ok := operations[e.Op]
	if !ok {
		return nil, "", refuse(circuit.CodeUnknownID, "op", "there is no operation %q", e.Op)
	}
	w := &writer{c.Clone()}
	said, err := do(w, e)
	if err != nil {
		return nil, "", err
	}
	if e.Op == RemoveBox || e.Op == RemoveCable || e.Op == RemoveDevice {
		w.tidy()
	}
	if c.BreakerOn() && !w.BreakerOn() && e.Op != PassGate { // no edit turns a breaker off
		w.NoteOn()
	}
	return w.Circuit, said, nil
}

var operations = map[Op]func(*writer, Edit) (string, error){
	SetCircuit: (*writer).setCircuit, AddBox: (*writer).addBox, SetBox: (*writer).setBox, RemoveBox: (*writer).removeBox,
	AddCable: (*writer).addCable, SetCable: (*writer).setCable, JoinStubs: (*writer).joinStubs, RemoveCable: (*writer).removeCable,
	AddDevice: (*writer).addDevice, SetDevice: (*writer).setDevice, RemoveDevice: (*writer).removeDevice,
	Connect: (*writer).connect, Disconnect: (*writer).disconnect, MarkEnd: (*writer).mark,
	Observe: (*writer).observe, Unobserve: (*writer).unobserve, AddReport: (*writer).addReport, RemoveReport: (*writer).removeReport,
	PassGate: (*writer).passGate, SetCannot: (*writer).setCannot, Accept: (*writer).accept,
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
	return nil, refuse(circuit.CodeUnknownID, "box", "there is no box %q", id)
}

func (w *writer) cable(id, place string) (*circuit.Cable, error) {
	if k := w.Circuit.Cable(id); k != nil {
		return k, nil
	}
	return nil, refuse(circuit.CodeUnknownID, place, "there is no cable %q", id)
}

func (w *writer) setCircuit(e Edit) (string, error) {
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
	return "Circuit described", nil
}

func (w *writer) addBox(e Edit) (string, error) {
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
			return "", refuse(circuit.CodeContradicts, "cable", "both ends of cable %q are known already", k.ID)
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
	return "Box " + b.Label() + " added", nil
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

func (w *writer) setBox(e Edit) (string, error) {
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
	return "Box " + b.Label() + " described", nil
}

func (w *writer) removeBox(e Edit) (string, error) {
	b, err := w.box(e.Box)
	if err != nil {
		return "", err
	}
	label := b.Label()
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
	return "Box " + label + " removed", nil
}

func (w *writer) addCable(e Edit) (string, error) {
	if _, err := w.box(e.Box); err != nil {
		return "", err
	}
	k := circuit.Cable{ID: w.newID("k"), Ends: [2]*string{&e.Box, nil}, Cores: e.Cores, Gauge: e.Gauge}
	if e.To != "" {
		k.Ends[1] = &e.To
	}
	w.Cables = append(w.Cables, k)
	return "Cable " + k.ID + " added", nil
}

func (w *writer) setCable(e Edit) (string, error) {
	k, err := w.cable(e.Cable, "cable")
	if err != nil {
		return "", err
	}
	if !k.Stub() {
		return "", refuse(circuit.CodeContradicts, "cable", "both ends of cable %q are known already", k.ID)
	}
	w.end(k, e.To)
	return "Cable " + k.ID + " followed to its other end", nil
}

// joinStubs makes one cable of two that were seen from their two boxes.
func (w *writer) joinStubs(e Edit) (string, error) {
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
		return "", refuse(circuit.CodeContradicts, "other", "cables %q and %q have different cores, so they are not one cable", a.ID, b.ID)
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
	return "Cables " + id + " and " + other + " are one", nil
}

func (w *writer) removeCable(e Edit) (string, error) {
	if _, err := w.cable(e.Cable, "cable"); err != nil {
		return "", err
	}
	w.Cables = slices.DeleteFunc(w.Cables, func(k circuit.Cable) bool { return k.ID == e.Cable })
	return "Cable " + e.Cable + " removed", nil
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
	if len(w.Marks) == 0 {
		w.Marks = nil
	}
	w.tidyReadings()
}
