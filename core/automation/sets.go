package automation

import (
	"context"
	"fmt"
	"slices"

	"ambivia/core/circuit"
)

// maker makes the sets of one plan.
type maker struct {
	after *circuit.Circuit
	faces map[string]Face
}

// senders lists the devices that speak over the links, each once, in the order of the links.
func (m *maker) senders() []string {
	var out []string
	for _, l := range m.after.Links {
		if !slices.Contains(out, l.From) {
			out = append(out, l.From)
		}
	}
	return out
}

// targets lists the devices that a device speaks to.
func (m *maker) targets(from string) []circuit.Link {
	var out []circuit.Link
	for _, l := range m.after.Links {
		if l.From == from {
			out = append(out, l)
		}
	}
	return out
}

// full reports whether a device is one that could carry a lamp and is only powered here: it has a relay that is disabled,
// or whose terminal for the load is capped.
func (m *maker) full(id string) bool {
	model := m.after.Models[m.after.Device(id).Model]
	return len(model.Switches) == 0 && len(model.Supply) > 0 && slices.Contains(model.Terminals, "line") && slices.Contains(model.Terminals, "load")
}

// over is what stands between where rules are made: what the links speak over, and the hub in the place of a direct radio;
// "" where no hub hears the devices.
func (m *maker) over() string {
	if via := m.after.Links[0].Via; via != "radio" {
		return via
	}
	if slices.ContainsFunc(m.after.Links, func(l circuit.Link) bool { return !m.faces[l.From].Hub || !m.faces[l.To].Hub }) {
		return ""
	}
	return "hub"
}

// direct leaves the links as they are, where devices are paired with each other.
func (m *maker) direct(context.Context) (*Set, error) {
	if slices.ContainsFunc(m.after.Links, func(l circuit.Link) bool { return l.Via != "radio" }) {
		return nil, nil
	}
	s := &Set{Kind: Direct, Title: "Paired directly", Via: "radio", Settings: []Setting{}, Doc: m.after.Clone(),
		Text: "Each place is paired with the device that carries the light. Nothing stands between, and no rule is made."}
	for _, d := range m.after.Devices {
		if set := m.faces[d.ID].Selector; set != "" {
			s.Title = "Main and secondaries"
			s.Settings = append(s.Settings, Setting{d.ID, "Selector set to " + set + ", before it is paired."})
		}
	}
	return s, nil
}

// scenes makes a rule of each tap: the places have nothing that could be out of step.
func (m *maker) scenes(context.Context) (*Set, error) {
	via := m.over()
	if via == "" {
		return nil, nil
	}
	names := map[string]string{"hub": "Scene control by a hub or a local broker", "cloud": "A scene in the cloud for each tap", "bus": "A table of what each button does"}
	s := &Set{Kind: Scenes, Title: names[via], Via: via, Settings: []Setting{}, Doc: m.unlinked()}
	s.Text = "Each tap at a place is a rule of its own. The place has no state that could be another than the light's."
	for _, id := range m.senders() {
		if m.full(id) {
			s.Settings = append(s.Settings, Setting{id, "Its own relay disabled, or its local control off; its terminal for the load capped."})
		}
		m.face(s.Doc, id)
		for _, l := range m.targets(id) {
			m.taps(s.Doc, id, l.To, via)
		}
	}
	s.Rules = len(s.Doc.Automation.Rules)
	return s, nil
}

// levels are what several taps up set, in percent of the highest level: the usual table.
var levels = map[string]int{"up2": 25, "up3": 50, "up4": 75, "up5": 100}

// What a half that is held sets, in percent: all the light there is, or enough to find one's way by. A message says that it is
// held, and sets a level; a level that follows the finger takes a pairing.
const (
	heldUp   = 100
	heldDown = 5
)

// taps adds the rules of the taps at one place for one device.
func (m *maker) taps(c *circuit.Circuit, from, to, via string) {
	if !m.faces[from].Paddle {
		rule(c, from, "press1", to, "toggle", 0, via)
		return
	}
	rule(c, from, "up1", to, "on", 0, via)
	rule(c, from, "down1", to, "off", 0, via)
	if !dims(c, to) {
		return
	}
	for n := 2; n <= 5 && m.faces[from].Taps; n++ {
		event := fmt.Sprintf("up%d", n)
		rule(c, from, event, to, "on", levels[event], via)
	}
	if m.faces[from].Held {
		rule(c, from, "held-up", to, "on", heldUp, via)
		rule(c, from, "held-down", to, "on", heldDown, via)
	}
}

func dims(c *circuit.Circuit, id string) bool {
	return slices.ContainsFunc(c.Models[c.Device(id).Model].Switches, func(r circuit.Relay) bool { return r.Dims != nil && *r.Dims })
}

// rule adds a rule.
func rule(c *circuit.Circuit, from, event, to, action string, level int, via string) {
	then := circuit.Then{Device: to, Action: action}
	if level > 0 {
		then.Level = &level
	}
	c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: fmt.Sprintf("r%d", len(c.Automation.Rules)+1), When: circuit.When{Device: from, Event: event}, Then: then, Via: via})
}

// unlinked is the plan without its links, and with the faces of what carries the lamps.
func (m *maker) unlinked() *circuit.Circuit {
	c := m.after.Clone()
	c.Links = nil
	c.Automation = &circuit.Automation{}
	for _, l := range m.after.Links {
		m.face(c, l.To)
	}
	return c
}

// face gives a device the model that tells of its taps.
func (m *maker) face(c *circuit.Circuit, id string) { m.remodel(c, id, false) }

// remodel gives a device a model of its own that tells of its taps; with a relay of its own where it has one that was
// disabled. What carries the lamp tells all changes, as such devices do.
func (m *maker) remodel(c *circuit.Circuit, id string, relay bool) {
	d := c.Device(id)
	before := m.after.Models[m.after.Device(id).Model]
	model := before
	f := m.faces[id]
	name := m.after.Device(id).Model + "-taps"
	if f.Paddle {
		yes := true
		model.Paddle, model.Events = &yes, []string{"up1", "down1"}
		if f.Taps {
			model.Events = append(model.Events, "up2", "up3", "up4", "up5")
		}
		if f.Held {
			model.Events = append(model.Events, "held-up", "held-down")
		}
	}
	if relay && m.full(id) {
		name = m.after.Device(id).Model + "-own"
		model.Switches = []circuit.Relay{{ID: "own", Pole: "line", Throws: []string{"load"}}}
		model.Button, model.Remote = &circuit.Button{Toggles: "own"}, "own"
	}
	if model.Remote != "" {
		model.Reports = circuit.ReportsAll
	}
	for n := 2; ; n++ { // a name that is taken by another model
		if have, taken := c.Models[name]; !taken || same(have, model) {
			break
		}
		name = fmt.Sprintf("%s-%d", name, n)
	}
	c.Models[name], d.Model = model, name
}

func same(a, b circuit.Model) bool {
	return a.HasPaddle() == b.HasPaddle() && slices.Equal(a.Events, b.Events) && a.Reports == b.Reports && len(a.Switches) == len(b.Switches) && slices.Equal(a.Terminals, b.Terminals) && a.Remote == b.Remote
}

// mirrored lets devices follow each other. Only whoever has a switch of its own can be followed.
func (m *maker) mirrored(kind, title, text string, both bool) *Set {
	senders := m.senders()
	if m.over() != "hub" || len(senders)+1 > mostInStep || slices.ContainsFunc(senders, func(id string) bool { return !m.full(id) }) {
		return nil
	}
	s := &Set{Kind: kind, Title: title, Text: text, Via: m.over(), Settings: []Setting{}, Doc: m.unlinked()}
	for _, id := range senders {
		m.remodel(s.Doc, id, true)
		s.Settings = append(s.Settings, Setting{id, "Its own relay stays enabled, its terminal for the load capped. Fade times, ramp rate and lowest level are set as at the other."})
		for _, l := range m.targets(id) {
			s.Doc.Automation.Mirrors = append(s.Doc.Automation.Mirrors, circuit.Mirror{From: id, To: l.To, Both: both, Via: s.Via})
		}
	}
	s.Mirrors = len(s.Doc.Automation.Mirrors)
	return s
}

func (m *maker) mirrorOne(context.Context) (*Set, error) {
	return m.mirrored(MirrorOne, "Mirrored one way", "What carries the light follows the other places. Nothing tells those when the light is switched elsewhere.", false), nil
}

func (m *maker) mirrorTwo(context.Context) (*Set, error) {
	return m.mirrored(MirrorTwo, "Mirrored both ways", "Each place follows the other. What one tells comes back as news, and on dimmers is seen as ramping up and down.", true), nil
}
