package record

import (
	"fmt"
	"time"
)

// Handover is what the customer is told of a circuit, in sentences: on paper and on the page the same. A list is empty where
// there is nothing to say under its heading.
type Handover struct {
	Is        string   `json:"is"`     // what the circuit is now, in a few words
	Status    string   `json:"status"` // how far the work is
	Begun     bool     `json:"begun"`  // whether anything was fitted
	Wrong     []string `json:"wrong"`  // what is not right, and what was left out
	InPart    string   `json:"inPart,omitempty"`
	Use       []Told   `json:"use"`   // how to use each place
	Fails     []string `json:"fails"` // what still works when something fails
	Links     []string `json:"links"`
	Batteries []string `json:"batteries"`
	Schedules []string `json:"schedules"`
	Devices   []Told   `json:"devices"`
	Open      []string `json:"open"`     // what was not tested, as counts
	Untested  []string `json:"untested"` // the same, each by name
	Back      string   `json:"back"`     // where the way back to the old wiring lies
}

// Handover says what the customer is told, with money in that currency. How to use the places and what their links do is promised
// only where the work is as planned: it holds for the whole plan, and for no part of it.
func (c *Circuit) Handover(currency string) *Handover {
	h := &Handover{Is: c.Is(), Status: c.Status, Begun: !c.Begun.IsZero(), Wrong: c.Wrong(), Use: []Told{}, Fails: []string{}, Links: []string{}, Batteries: []string{},
		Schedules: append([]string{}, c.UsedSo(currency)...), Devices: append([]Told{}, c.Noted()...), Open: append([]string{}, c.Open...),
		Untested: append([]string{}, c.Untested...), Back: c.WayBack()}
	switch c.Became {
	case AsPlanned:
		h.Use = append(h.Use, c.Usage()...)
		for _, x := range c.Option.Outages {
			h.Fails = append(h.Fails, x.Text)
		}
		h.Links = append(h.Links, c.LinksInWords()...)
	case InPart:
		h.InPart = "The plan was: " + c.Option.Title + ". How the places work holds for the whole plan only, so this record does not say it."
	}
	for _, b := range c.Batteries {
		h.Batteries = append(h.Batteries, fmt.Sprintf("%s, %s: put in %s, due %s.", b.Where, b.Name, b.In.Format(time.DateOnly), b.Due.Format(time.DateOnly)))
	}
	return h
}

// Wrong lists what is not right with a circuit, and what was left out.
func (c *Circuit) Wrong() []string {
	out := append([]string{}, c.Failed...)
	for _, l := range c.LeftOut {
		out = append(out, l.What+" "+l.How)
	}
	return out
}
