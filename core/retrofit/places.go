package retrofit

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// Place is one place where the light can be worked afterwards, and what a person can do
// there.
type Place struct {
	Box     string `json:"box"`
	Where   string `json:"where"` // what the box is called
	Device  string `json:"device"`
	Name    string `json:"name"`
	Kept    bool   `json:"kept"` // the old switch
	Dims    bool   `json:"dims"`
	Scenes  bool   `json:"scenes"`
	UpIsOn  bool   `json:"upIsOn"`
	Battery bool   `json:"battery"`
}

// places lists the places of a plan.
func (p *planner) places(g group, d *requirement, k kit) []Place {
	var out []Place
	for _, c := range g.controls {
		if x := p.doc.Device(c); !slices.Contains(d.remove, c) {
			out = append(out, Place{Box: x.Box, Where: p.say.Label(x.Box), Device: c, Name: p.say.Word(x.FoundType()), Kept: true, Dims: x.Type == circuit.TypeThreeWayDimmer})
		}
	}
	for _, x := range d.add {
		kind := d.kinds[x.ID]
		if kind.Model.Button == nil {
			continue
		}
		main := kind.ID == k.main.ID
		out = append(out, Place{
			Box: x.Box, Where: d.label(p, x.Box), Device: x.ID, Name: kind.Name,
			Dims: kind.Dims && (kind.Kind == device.Sensing || k.main.Dims && (main || k.main.DimsFromCompanions)), Scenes: kind.Scenes && (main || k.main.Scenes || kind.Link == "hub"), UpIsOn: kind.UpIsOn, Battery: kind.BatteryMonths > 0,
		})
	}
	return out
}

// label is what a box is called, which may be a place that the plan adds.
func (d *requirement) label(p *planner, box string) string {
	for _, b := range d.boxes {
		if b.ID == box {
			return b.Label()
		}
	}
	return p.say.Label(box)
}

// Outage is something that fails, and from where the light still works then.
type Outage struct {
	When string `json:"when"` // "hub", "internet", "battery", "device" or "power"
	Name string `json:"name"`
	Text string `json:"text"`
	// Avoidable: of something beside the wires that other ways do without, so that options are weighed by it.
	Avoidable bool     `json:"avoidable,omitempty"`
	Works     []string `json:"works"` // boxes
	Lost      []string `json:"lost"`
}

// Fails is an outage and its text: down says what has failed, works at which of the places the light can still be worked,
// and taps lists the boxes at which several taps in a row are rules in what is down.
func Fails(after *circuit.Circuit, when, name, down string, places []Place, works func(Place) bool, taps []string) Outage {
	x := Outage{When: when, Name: name, Avoidable: when != "device" && when != "power", Works: []string{}, Lost: []string{}}
	for _, q := range places {
		if works(q) {
			x.Works = append(x.Works, q.Box)
		} else {
			x.Lost = append(x.Lost, q.Box)
		}
	}
	switch {
	case len(x.Lost) == 0:
		x.Text = down + ": every place still works."
	case len(x.Works) == 0:
		x.Text = down + ": no place works."
	default:
		x.Text = fmt.Sprintf("%s: %s still works; %s does not.", down, boxNames(after, x.Works), boxNames(after, x.Lost))
	}
	if taps = slices.DeleteFunc(taps, func(box string) bool { return slices.Contains(x.Lost, box) }); len(taps) > 0 {
		x.Text = strings.Replace(x.Text, "still works.", "still switches the light.", 1)
		x.Text += fmt.Sprintf(" Several taps in a row do nothing at %s: levels and scenes are rules.", boxNames(after, taps))
	}
	return x
}

// outages simulates what fails, one thing at a time: the hub, the internet, every battery,
// the device that carries the lamp; and the power, gone and back.
func (p *planner) outages(o *Option, g group, d *requirement) []Outage {
	var out []Outage
	add := func(when, name, down string, works func(place Place) bool) {
		out = append(out, Fails(o.After, when, name, down, o.Places, works, p.tapsLost(o, d, when)))
	}
	// Without links of a kind only those controls fail that send over nothing else: the
	// wires are the same.
	over := func(via string) func(Place) bool {
		return func(q Place) bool {
			kind := d.kinds[q.Device]
			sends := kind.Model.Button.Send()
			return !sends || slices.ContainsFunc(d.links, func(l circuit.Link) bool { return l.From == q.Device && l.Via != via })
		}
	}
	add("hub", "Hub down", "Hub down", over("hub"))
	add("internet", "Internet down", "Internet down", over("cloud"))
	if slices.ContainsFunc(o.Places, func(q Place) bool { return q.Battery }) {
		add("battery", "Batteries flat", "Batteries flat", func(q Place) bool { return !q.Battery })
	}
	alive, one := p.withDead(o.After, d)
	down := "The device that carries the lamp dead"
	if one {
		down = "One device dead, at another place"
	}
	add("device", "Device dead", down, func(q Place) bool { return alive[q.Device] })
	back := p.powerBack(o.compiled.Result())
	add("power", "Power gone and back", "Power gone and back, the old switches moved meanwhile", func(q Place) bool { return back[q.Device] })
	last := &out[len(out)-1]
	switch {
	case slices.ContainsFunc(d.add, func(x circuit.Device) bool { return d.kinds[x.ID].Kind == device.SmartLamp }):
		last.Text += " The lamps come on at full, as lamps without a switch do, until told otherwise."
	default:
		last.Text += " That holds for relays that keep their state and for relays that open; the device's instructions say which these are."
	}
	return out
}

// tapsLost lists the boxes at which several taps in a row, for a level or a scene, are rules in what is down.
func (p *planner) tapsLost(o *Option, d *requirement, when string) []string {
	var out []string
	for _, q := range o.Places {
		kind := d.kinds[q.Device]
		if q.Scenes && (when == "hub" && kind.Hub != "none" || when == "internet" && !kind.Local) {
			out = append(out, q.Box)
		}
	}
	return out
}

// powerBack simulates a power cut in every state, with the old switches moved in every way
// while nothing listened: which controls switch the light from each state thereafter.
func (p *planner) powerBack(behaves *electric.Result) map[string]bool {
	out := map[string]bool{}
	for _, c := range electric.AfterPowerCut(behaves).Controls {
		out[c.Device] = c.Works
	}
	return out
}

func boxNames(c *circuit.Circuit, boxes []string) string {
	say := names.For(c)
	var out []string
	for _, b := range boxes {
		name := say.Box(b)
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return strings.Join(out, ", ")
}

// withDead simulates the plan with what carries the lamp dead, its relays as they stand: which controls
// still switch the light from every state. A relay with one throw leaves nothing to try: the lamp stays as
// it was. Where several changeovers carry it one after the other, one is dead at a time, and a place works
// that does so with any other one dead; one is then true.
func (p *planner) withDead(after *circuit.Circuit, d *requirement) (alive map[string]bool, one bool) {
	alive = map[string]bool{}
	var carrying, changeovers []circuit.Device
	for _, x := range d.add {
		if m := d.kinds[x.ID].Model; len(m.Switches) > 0 {
			if carrying = append(carrying, x); len(m.Switches[0].Throws) == 2 {
				changeovers = append(changeovers, x)
			}
		}
	}
	switch {
	case len(changeovers) == 0:
		return alive, false
	case len(changeovers) < 2 || len(changeovers) < len(carrying):
		for _, c := range p.without(after, carrying) {
			alive[c.Device] = c.Works
		}
		return alive, false
	}
	for i, x := range changeovers {
		for _, c := range p.without(after, []circuit.Device{x}) {
			if was, known := alive[c.Device]; c.Device != x.ID {
				alive[c.Device] = c.Works && (was || !known || i == 0)
			}
		}
	}
	return alive, true
}

// without simulates a plan with some of its devices dead.
func (p *planner) without(after *circuit.Circuit, devices []circuit.Device) []electric.ControlResult {
	dead := after.Clone()
	for _, x := range devices {
		id := dead.FreshID("dead", func(id string) bool { _, taken := dead.Models[id]; return taken })
		m := after.Models[x.Model]
		dead.Models[id] = circuit.Model{Terminals: m.Terminals, Supply: [][2]string{}, Switches: m.Switches}
		dead.Device(x.ID).Model = id
	}
	return electric.Explore(electric.New(dead)).Controls
}

// weighUp says in plain words what speaks for an option and against it.
func (p *planner) weighUp(o *Option, g group, d *requirement, k kit) (pros, cons []string) {
	pro := func(s string, of ...any) { pros = append(pros, fmt.Sprintf(s, of...)) }
	con := func(s string, of ...any) { cons = append(cons, fmt.Sprintf(s, of...)) }
	all := func(is func(Place) bool) bool {
		return !slices.ContainsFunc(o.Places, func(q Place) bool { return !is(q) })
	}
	kept := o.Metrics.SwitchesKept
	switch {
	case len(o.BoxesTouched) == 1:
		pro("Work in one box only.")
	case len(o.BoxesTouched) > 2:
		con("Work in %s boxes.", numeral(len(o.BoxesTouched)))
	}
	if kept > 0 {
		pro("%s of %s old switches %s.", upper(numeral(kept)), numeral(len(g.controls)), map[bool]string{true: "stays", false: "stay"}[kept == 1])
	}
	switch {
	case k.dims() && all(func(q Place) bool { return q.Dims }):
		pro("Dims from every place.")
	case k.dims() && slices.ContainsFunc(o.Places, func(q Place) bool { return q.Dims }):
		con("Dims from some places only; the others switch it.")
	case !k.dims():
		con("Does not dim.")
	}
	if !all(func(q Place) bool { return q.UpIsOn }) {
		con("Up is not on at every place.")
	}
	if n := o.Metrics.Batteries; n > 0 {
		con("%s to change about every %d months; a remote hides its box, which must stay accessible.", upper(plural(n, "battery", "batteries")), k.companion.BatteryMonths)
	}
	if k.main.ThroughLoad {
		con("Lives through the lamp: needs %g W at least, and lamps may glow or flicker without a bypass.", k.main.MinimumWatts)
	}
	for _, x := range o.Outages {
		switch {
		case x.When == "hub" && len(x.Lost) > 0:
			con("Without the hub %s does nothing.", boxNames(o.After, x.Lost))
		case x.When == "internet" && len(x.Lost) > 0:
			con("Without the internet %s does nothing.", boxNames(o.After, x.Lost))
		case x.When == "device" && len(x.Lost) == 0 && o.Strategy == SensingBoth:
			pro("With one smart device dead the others still work.")
		case x.When == "device" && len(x.Lost) == 0:
			pro("Even with the smart device dead every place that is left works.")
		case x.When == "device" && len(x.Works) > 0:
			pro("With the smart device dead the old switches still work.")
		}
	}
	if o.Metrics.Remarked == 0 {
		pro("No conductor is re-marked.")
	}
	if len(d.tied) > 0 {
		con("Spare {traveler}s are joined to the other, as your setting asks: the two count as one conductor, and an inspector may ask for them to be parted.")
	}
	if o.Metrics.Ladders > 0 {
		con("Work on a ladder, at the lamp.")
	}
	if o.Strategy == ChangeoverRelay {
		con("The place of the switch that goes has none any more.")
	}
	if o.Strategy == CentralModule {
		con("Data cable to every button, kept apart from mains: its length is not known here.")
	}
	if linked(o.Strategy) {
		if p.request.Wishes.conventionOf(conventionLinks) == "mirroring" {
			con("Mirroring: one way it gets out of step; two ways it may chase its own tail, on dimmers visibly. Rates and lowest levels must be alike.")
		} else {
			pro("By scenes: single tap up for on, down for off; two to four taps for 25 to 100 %%.")
		}
		con("The way from a second place is slower than the main's own.")
	}
	return pros, cons
}

func plural(n int, one, many string) string {
	if n == 1 {
		return "one " + one
	}
	return numeral(n) + " " + many
}
