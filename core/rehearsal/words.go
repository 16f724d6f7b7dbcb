package rehearsal

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Said is what a document has in place of wires, in plain words: a line for each, in its order.
type Said struct {
	Links   []string `json:"links"`
	Rules   []string `json:"rules"`
	Mirrors []string `json:"mirrors"`
}

// Say says the links, rules and mirrors of a document.
func Say(c *circuit.Circuit) Said {
	out := Said{Links: []string{}, Rules: []string{}, Mirrors: []string{}}
	how := map[string]string{"radio": "directly by radio", "hub": "by a rule in the hub", "cloud": "by a scene in the cloud", "bus": "over a data cable"}
	for _, l := range c.Links {
		out.Links = append(out.Links, names.For(c).Place(l.From)+" tells "+names.For(c).Place(l.To)+", "+how[l.Via])
	}
	if c.Automation == nil {
		return out
	}
	for _, r := range c.Automation.Rules {
		out.Rules = append(out.Rules, RuleWords(c, r))
	}
	for _, m := range c.Automation.Mirrors {
		out.Mirrors = append(out.Mirrors, MirrorWords(c, m))
	}
	return out
}

// Words says all of them one after the other.
func Words(c *circuit.Circuit) []string {
	said := Say(c)
	return slices.Concat([]string{}, said.Links, said.Rules, said.Mirrors)
}

// MirrorWords says which device of a document follows which.
func MirrorWords(c *circuit.Circuit, m circuit.Mirror) string {
	text := names.For(c).Place(m.From) + " is copied to " + names.For(c).Place(m.To)
	if m.Both {
		text += ", and the other way round"
	}
	return text + ", " + over(m.Via)
}

// over says a way of messages; one that a person named stands as it was written.
func over(via string) string {
	if slices.Contains([]string{"hub", "cloud", "bus"}, via) {
		return "over the " + via
	}
	return "over " + via
}

// RuleWords says one rule of a document.
func RuleWords(c *circuit.Circuit, r circuit.Rule) string {
	told := r.Then.Action
	if told == "toggle" {
		told = "to go the other way"
	}
	if r.Then.Level != nil {
		told += fmt.Sprintf(" at %d %%", *r.Then.Level)
	}
	return fmt.Sprintf("%s at %s: %s is told %s, %s", GestureWords(r.When.Event), names.For(c).Place(r.When.Device), names.For(c).Place(r.Then.Device), told, over(r.Via))
}

// Speaker is a device with what it can tell of, Listener whether it can be told anything, and Dims whether a level can.
type Speaker struct {
	Device   string   `json:"device"`
	Name     string   `json:"name"`
	Events   []Choice `json:"events"`
	Listener bool     `json:"listener"`
	Dims     bool     `json:"dims,omitempty"`
}

// Speakers lists the smart devices of a document that a rule can name, with what may stand in it.
func Speakers(c *circuit.Circuit) []Speaker {
	p := newPlay(c)
	out := []Speaker{}
	for _, d := range c.Devices {
		if d.Type != circuit.TypeSmart {
			continue
		}
		s := Speaker{Device: d.ID, Name: names.For(c).Place(d.ID), Events: []Choice{}, Listener: c.Models[d.Model].Remote != "", Dims: dims(c.Models[d.Model])}
		if slices.Contains(p.devices, d.ID) {
			for _, g := range p.gestures(d.ID) {
				s.Events = append(s.Events, Choice{g, GestureWords(g)})
			}
		}
		if reports := c.Models[d.Model].Reports; reports == circuit.ReportsAll || reports == circuit.ReportsOwn {
			s.Events = append(s.Events, Choice{"on", "its switch goes on"}, Choice{"off", "its switch goes off"})
		}
		if s.Listener || len(s.Events) > 0 {
			out = append(out, s)
		}
	}
	return out
}

// dims reports whether a switch of a model that messages move dims.
func dims(m circuit.Model) bool {
	return slices.ContainsFunc(m.Switches, func(r circuit.Relay) bool { return r.ID == m.Remote && r.Dims != nil && *r.Dims })
}

// Carriers lists the devices whose switch carries the light: with it on, and all else as at the start, the lamp shows
// otherwise. Where no one switch does, it is all that have one.
func Carriers(c *circuit.Circuit) []string {
	p := newPlay(c)
	start := (&explorer{play: p}).start()[0]
	var out []string
	for _, id := range p.switchy {
		if on, _ := p.net.Set(start, id, true); p.shows(on) != p.shows(start) {
			out = append(out, id)
		}
	}
	if out == nil {
		return p.switchy
	}
	return out
}
