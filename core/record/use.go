package record

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// Told is something in words, under the name of what it is about.
type Told struct {
	Name string `json:"name"`
	Text string `json:"text"`
}

// Usage says how to use each place, in sentences for the customer. Levels and scenes are promised only where the chosen rules
// call them.
func (c *Circuit) Usage() []Told {
	var out []Told
	for _, q := range c.Option.Places {
		out = append(out, Told{q.Where, usage(q, c.Option.After.Device(q.Device))})
	}
	return out
}

func usage(q retrofit.Place, d *circuit.Device) string {
	var say []string
	switch {
	case q.Kept && d != nil && d.FoundType() == circuit.FoundButton:
		say = append(say, "The old push-button: each press changes the light.")
	case q.Kept:
		say = append(say, "The old switch: each flip changes the light.")
	case q.UpIsOn:
		say = append(say, "Press up for on, down for off.")
	default:
		say = append(say, "Each press changes the light.")
	}
	switch {
	case q.Dims && q.Kept:
		say = append(say, "Its own knob dims.")
	case q.Dims:
		say = append(say, "Hold to dim.")
	}
	if q.Scenes {
		say = append(say, "Several taps in a row call levels and scenes.")
	}
	if q.Battery {
		say = append(say, "It works by radio, on a battery.")
	}
	return strings.Join(say, " ")
}

// Noted lists what was noted of each device, and nothing that was not.
func (c *Circuit) Noted() []Told {
	var out []Told
	for _, d := range c.Devices {
		if c.Now.Device(d.Device) == nil {
			continue
		}
		var facts []string
		for _, f := range d.Facts {
			if f.Value != "" {
				facts = append(facts, names.Uncapitalize(f.Label)+" "+f.Value)
			}
		}
		out = append(out, Told{d.Where, strings.TrimSpace(names.Capitalize(d.Name) + ". " + names.Capitalize(strings.Join(facts, "; ")))})
	}
	return out
}

// LinksInWords says in one sentence how the links work, and names each flaw that rehearsing found. It is empty where nothing speaks
// with anything.
func (c *Circuit) LinksInWords() []string {
	if len(c.Links()) == 0 {
		return nil
	}
	if c.Made == nil {
		return []string{names.Capitalize(strings.Join(c.Links(), "; ")) + "."}
	}
	out := []string{c.Made.Title + ": " + names.Uncapitalize(strings.TrimSuffix(c.Made.Text, ".")) + "."}
	for _, p := range c.Made.Report.Properties {
		if !p.Holds {
			out = append(out, "Flaw: "+p.Text)
		}
	}
	return out
}

// Taken is how long the work of one phase took, in minutes, and how long before it.
type Taken struct {
	Name           string
	Worked, Before float64
}

// Taken lists the phases that were worked on.
func (c *Circuit) Taken() []Taken {
	say := c.Found.Terms()
	var out []Taken
	for _, t := range c.State.Times() {
		name := string(t.Phase)
		for _, p := range procedure.Phases {
			if p.Phase == t.Phase {
				name = say.Expand(p.Name)
			}
		}
		out = append(out, Taken{name, t.Took, t.Thought})
	}
	return out
}

// WayBack says where the way back to the old wiring lies.
func (c *Circuit) WayBack() string {
	if len(c.Back) == 0 {
		return "The wiring is as it was found."
	}
	return fmt.Sprintf("The way back to the old wiring takes %d steps. They are in the annex of this record, and in Ambivia under Fit, Put it back.", len(c.Back))
}
