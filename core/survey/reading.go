package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/practice"
)

// Reading is what the program says back of a survey: what it understood, what
// to do next in one sentence, and the full report.
type Reading struct {
	Understood []string        `json:"understood"`
	Next       string          `json:"next"`
	Ready      bool            `json:"ready"` // the record is sound: a plan can be chosen
	Strip      []Stop          `json:"strip"` // the boxes in the order that power meets them
	Report     *inspect.Report `json:"report"`
	// Findings are those of the report, like ones in one line.
	Findings []inspect.Alike `json:"findings"`
	// Terminals lists the screws of each device by its id.
	Terminals map[string][]string `json:"terminals"`
	// Breakers are called as people call them, by the id of their supply.
	Breakers map[string]string `json:"breakers"`
	// Usual lists by id the usual boxes that may come next: at the far end of
	// each cable whose end is not known, and under "" those without a cable.
	Usual map[string][]string `json:"usual"`
	// Like lists the same way the recorded boxes that the next may be the same as.
	Like map[string][]string `json:"like"`
	// Cables are the usual ones of the practice, those of this house's time first.
	Cables []practice.CablePreset `json:"cables"`
	// Gauges are those that a cable of the practice may be of, thinnest first.
	Gauges []string `json:"gauges"`
	// Names is what everything is called.
	Names names.Book `json:"names"`
	// Suggestions wait for somebody who looks and confirms them.
	Suggestions []Suggestion `json:"suggestions"`
}

// Stop is one box of the strip. Known is false while something about the box is
// open: not seen inside, or a cable whose far end nobody knows.
type Stop struct {
	Box   string `json:"box"`
	Label string `json:"label"`
	Kind  string `json:"kind"`
	Known bool   `json:"known"`
	Holds string `json:"holds"`
}

// Read reads a survey.
func Read(k *inspect.Compiled) *Reading {
	c, say := k.Doc, k.Terms()
	r := &Reading{Understood: []string{}, Strip: []Stop{}, Report: k.Report()}
	r.Strip = Strip(c, r.Report.Roles)
	for _, stop := range r.Strip {
		if stop.Kind == circuit.Switch && stop.Holds != "" {
			r.Understood = append(r.Understood, stop.Label+": "+stop.Holds+".")
		}
	}
	r.Understood = append(append(works(r.Report), method(c, say, r.Report)...), r.Understood...)
	r.Ready = r.Report.Verdict == inspect.Works && len(r.Report.Controls) > 0
	r.Next = next(c, say, r)
	breakers := say.Breakers()
	r.Terminals, r.Breakers = map[string][]string{}, map[string]string{}
	for _, d := range c.Devices {
		r.Terminals[d.ID] = c.Terminals(d)
		if d.Type == circuit.TypeSupply {
			r.Breakers[d.ID] = breakers[len(r.Breakers)]
		}
	}
	r.Usual, r.Like = usualNext(c), twins(c)
	r.Findings = inspect.FindingsAlike(c, r.Report.Findings)
	r.Cables = practice.For(c).Cables
	r.Gauges, r.Names = gauges(say.Practice), say.Book()
	r.Suggestions = suggest(c, say)
	return r
}

// gauges are those of lighting circuits, in the unit in which the practice's own cables are written.
func gauges(p practice.Practice) []string {
	if slices.ContainsFunc(p.Cables, func(k practice.CablePreset) bool { return strings.HasSuffix(k.Gauge, "AWG") }) {
		return []string{"14AWG", "12AWG", "10AWG"}
	}
	return []string{"1mm2", "1.5mm2", "2.5mm2", "4mm2"}
}

// Strip lists the boxes in the order that power meets them, with what each offers by
// the roles that are known.
func Strip(c *circuit.Circuit, roles map[circuit.End]electric.Role) []Stop {
	out := []Stop{}
	say := names.For(c)
	for _, b := range Order(c) {
		out = append(out, Stop{Box: b.ID, Label: say.Label(b.ID), Kind: b.Kind, Known: known(c, b), Holds: holds(c, say, b.ID, roles)})
	}
	return out
}

// known reports whether nothing about a box is open.
func known(c *circuit.Circuit, b circuit.Box) bool {
	if b.Kind == circuit.Panel {
		return true
	}
	return b.Seen() && !slices.ContainsFunc(c.Cables, func(k circuit.Cable) bool { return k.In(b.ID) && k.Stub() }) &&
		!slices.ContainsFunc(c.Devices, func(d circuit.Device) bool { return d.Box == b.ID && d.ScrewsUnmarked() })
}

// usualNext finds which usual boxes fit behind which open cable: by the number
// of its insulated cores, as [Preset.Via] says. Once two switches are recorded
// the light comes first, since it is what is missing.
func usualNext(c *circuit.Circuit) map[string][]string {
	out := map[string][]string{"": {}}
	switches := 0
	for _, d := range c.Devices {
		if d.Mechanical() {
			switches++
		}
	}
	hasPanel := slices.ContainsFunc(c.Boxes, func(b circuit.Box) bool { return b.Kind == circuit.Panel })
	for _, p := range Presets {
		if p.Via == "" && !hasPanel {
			out[""] = append(out[""], p.ID)
		}
	}
	for _, k := range c.Cables {
		if !k.Stub() {
			continue
		}
		out[k.ID] = []string{}
		cores := len(insulated(k.Cores))
		for _, p := range Presets {
			if p.Via == "two" && cores == 2 || p.Via == "three" && cores > 2 {
				out[k.ID] = append(out[k.ID], p.ID)
			}
		}
		if switches >= 2 && slices.Contains(out[k.ID], "lamp-end") {
			out[k.ID] = append([]string{"lamp-end"}, slices.DeleteFunc(out[k.ID], func(id string) bool { return id == "lamp-end" })...)
		}
	}
	return out
}

// Order lists the boxes in the order that power meets them: from the panel on,
// near boxes before far ones; boxes that no recorded cable reaches come last.
func Order(c *circuit.Circuit) []circuit.Box {
	var out []circuit.Box
	seen := map[string]bool{}
	var walk func(id string)
	walk = func(id string) {
		if seen[id] {
			return
		}
		seen[id] = true
		out = append(out, *c.Box(id))
		for _, k := range c.Cables {
			if k.In(id) {
				if other, ok := k.Other(id); ok {
					walk(other)
				}
			}
		}
	}
	for _, panels := range []bool{true, false} {
		for _, b := range c.Boxes {
			if (b.Kind == circuit.Panel) == panels {
				walk(b.ID)
			}
		}
	}
	return out
}

// holds says what a box offers: line, load, travelers, neutral.
func holds(c *circuit.Circuit, say names.Terms, box string, roles map[circuit.End]electric.Role) string {
	count := map[electric.Role]int{}
	classes := map[electric.Role]bool{}
	unknown := 0
	for _, m := range c.EndsIn(box) {
		if circuit.GroundColour(m.Part) {
			continue
		}
		role, known := roles[circuit.End{Ref: m, Box: box}]
		if !known {
			unknown++
			continue
		}
		count[role]++
		classes[role] = true
	}
	var parts []string
	for _, role := range []electric.Role{electric.Line, electric.Load, electric.Traveler, electric.Signal} {
		if !classes[role] {
			continue
		}
		word := say.Word(string(role))
		if role == electric.Traveler && count[role] > 1 {
			word = fmt.Sprintf("%d %s", count[role], say.Word("travelers"))
		}
		parts = append(parts, word)
	}
	if c.Box(box).Kind == circuit.Switch && len(parts) > 0 {
		if classes[electric.Neutral] {
			parts = append(parts, say.Word("neutral"))
		} else if unknown == 0 {
			parts = append(parts, "no "+say.Word("neutral"))
		}
	}
	if unknown > 0 {
		parts = append(parts, fmt.Sprintf("%d not known yet", unknown))
	}
	return strings.Join(parts, ", ")
}

// next is the one thing to do now.
func next(c *circuit.Circuit, say names.Terms, r *Reading) string {
	has := func(kind string) bool {
		return slices.ContainsFunc(c.Boxes, func(b circuit.Box) bool { return b.Kind == kind })
	}
	stub := ""
	for _, k := range c.Cables {
		if k.Stub() {
			stub = k.ID
		}
	}
	switch {
	case len(c.Boxes) == 0:
		return "Begin where power does: add the " + say.Word("panel") + ", or the first box you opened."
	case r.Ready:
		return "The record is sound. Flip the switches to see it, then choose what it will become."
	case stub != "" && (!has(circuit.Switch) || !has(circuit.Fixture) || len(r.Report.Controls) < 2):
		return "Add the box at the other end of " + say.Cable(stub) + "."
	}
	for _, f := range r.Report.Findings {
		if f.Severity == inspect.Error {
			return "To mend first: " + f.Text
		}
	}
	return "Add the next box that you opened."
}
