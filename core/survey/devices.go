package survey

import (
	"maps"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

func (e AddDevice) apply(w *writer) (string, error) {
	if _, err := w.box(e.Box); err != nil {
		return "", err
	}
	if e.Type == circuit.TypeSmart {
		return "", refuse(circuit.CodeMisplaced, "type", "a survey records what was there before; smart devices come with a plan")
	}
	prefix := devicePrefixes[e.Type]
	if prefix == "" {
		prefix = "s"
	}
	kind, model := w.recordedAs(e.Type)
	d := circuit.Device{ID: w.newID(prefix), Box: e.Box, Type: kind, Model: model, Name: e.Name, Watts: e.Watts, Count: e.Count, Load: e.Load}
	w.Devices = append(w.Devices, d)
	return names.For(w.Circuit).Bare(d.ID) + " added", nil
}

// recordedAs is the type and the model with which something that one finds is recorded. A push-button and an impulse relay have
// a model, which the document has from now on.
func (w *writer) recordedAs(found string) (kind, model string) {
	m, ok := circuit.FoundModel(found)
	if !ok {
		return found, ""
	}
	models := maps.Clone(w.Models)
	if models == nil {
		models = map[string]circuit.Model{}
	}
	models[found] = m
	w.Models = models
	return circuit.TypeSmart, found
}

func (e SetDevice) apply(w *writer) (string, error) {
	d := w.Circuit.Device(e.Device)
	if d == nil {
		return "", refuse(circuit.CodeUnknownID, "device", "that device is not recorded; it may have been removed")
	}
	if is := d.FoundType(); e.Type != "" && e.Type != is {
		if err := w.setType(d, e.Type); err != nil {
			return "", err
		}
	}
	if e.Name != "" {
		d.Name = e.Name
	}
	set(&d.DepthMm, e.DepthMm)
	if e.Unmarked != nil {
		d.Unmarked = e.Unmarked
	}
	if e.Dimmable != nil {
		d.Dimmable = e.Dimmable
	}
	set(&d.Watts, e.Watts)
	set(&d.Count, e.Count)
	if e.Load != "" {
		d.Load = e.Load
	}
	err := clearFacts(e.Clear, map[string]func(){
		"name":     func() { d.Name = "" },
		"load":     func() { d.Load = "" },
		"dimmable": func() { d.Dimmable = nil },
	})
	return names.For(w.Circuit).Bare(d.ID) + " described", err
}

// setType changes what a device is said to be. Wires stay under their screws, so
// every screw in use must be one of the new type too.
func (w *writer) setType(d *circuit.Device, to string) error {
	if !d.Found() || to == circuit.TypeSmart {
		return refuse(circuit.CodeMisplaced, "type", "a survey records what was there before; smart devices come with a plan")
	}
	var next circuit.Device
	next.Type, next.Model = w.recordedAs(to)
	for _, j := range w.Joins {
		for _, m := range j.Of {
			if m.Owner == d.ID && !slices.Contains(w.Terminals(next), m.Part) {
				return refuse(circuit.CodeContradicts, "type", "a wire is under the %s screw, which a %s does not have; lift it first", names.For(w.Circuit).Word(m.Part), names.For(w.Circuit).Word(to))
			}
		}
	}
	d.Type, d.Model = next.Type, next.Model
	if !d.Mechanical() {
		d.Position, d.Unmarked = nil, nil
	}
	if to != circuit.TypeLamp {
		d.Watts, d.Count, d.Load = nil, nil, ""
	}
	return nil
}

func (e RemoveDevice) apply(w *writer) (string, error) {
	if w.Circuit.Device(e.Device) == nil {
		return "", refuse(circuit.CodeUnknownID, "device", "that device is not recorded; it may have been removed")
	}
	name := names.For(w.Circuit).Bare(e.Device)
	w.Devices = slices.DeleteFunc(w.Devices, func(d circuit.Device) bool { return d.ID == e.Device })
	for i := range w.Devices { // a gang whose case went has one of its own
		if w.Devices[i].Case == e.Device {
			w.Devices[i].Case = ""
		}
	}
	return name + " removed", nil
}
