package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// Reading is what the program says back of a survey: what it understood, what
// to do next in one sentence, and the full report.
type Reading struct {
	Understood []string        `json:"understood"`
	Next       string          `json:"next"`
	Ready      bool            `json:"ready"` // the record is sound: a plan can be chosen
	Strip      []Stop          `json:"strip"` // the boxes in the order that power meets them
	Report     *inspect.Report `json:"report"`
	// Terminals lists the screws of each device by its id.
	Terminals map[string][]string `json:"terminals"`
	// Usual lists by id the usual boxes that may come next: at the far end of
	// each cable whose end is not known, and under "" those without a cable.
	Usual map[string][]string `json:"usual"`
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
func Read(c *circuit.Circuit) *Reading {
	r := &Reading{Understood: []string{}, Strip: []Stop{}, Report: inspect.Check(c)}
	say := inspect.Speak(c)
	for _, b := range Order(c) {
		stop := Stop{Box: b.ID, Label: b.Label(), Kind: b.Kind, Known: b.Kind == circuit.Panel || b.Seen(), Holds: holds(c, say, b.ID, r.Report.Roles)}
		r.Strip = append(r.Strip, stop)
		if b.Kind == circuit.Switch && stop.Holds != "" {
			r.Understood = append(r.Understood, b.Label()+": "+stop.Holds+".")
		}
	}
	r.Understood = append(path(c, say, r.Report), r.Understood...)
	r.Ready = r.Report.Verdict == inspect.Works && len(r.Report.Controls) > 0
	r.Next = next(c, say, r)
	r.Terminals = map[string][]string{}
	for _, d := range c.Devices {
		r.Terminals[d.ID] = c.Terminals(d)
	}
	r.Usual = usualNext(c)
	return r
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
func holds(c *circuit.Circuit, say inspect.Speaker, box string, roles map[circuit.End]electric.Role) string {
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
		} else {
			parts = append(parts, "no "+say.Word("neutral"))
		}
	}
	if unknown > 0 {
		parts = append(parts, fmt.Sprintf("%d not known yet", unknown))
	}
	return strings.Join(parts, ", ")
}

// path says where feed, lamp and controls lie.
func path(c *circuit.Circuit, say inspect.Speaker, r *inspect.Report) []string {
	out := []string{}
	first := func(role electric.Role) string {
		for _, b := range Order(c) {
			if b.Kind != circuit.Switch {
				continue
			}
			for _, d := range c.Devices {
				if d.Box == b.ID && (d.Type == circuit.TypeThreeWay || d.Type == circuit.TypeThreeWayDimmer) {
					j := c.JoinOf(b.ID, circuit.Ref{Owner: d.ID, Part: "common"})
					if j < 0 {
						continue
					}
					for _, m := range c.Joins[j].Of {
						if r.Roles[circuit.End{Ref: m, Box: b.ID}] == role {
							return b.ID
						}
					}
				}
			}
		}
		return ""
	}
	line, load := first(electric.Line), first(electric.Load)
	if feedAtLamp(c) && len(r.Controls) > 0 {
		out = append(out, "Feed at the lamp; the switches hang below it.")
	}
	if box := strappedAt(c, r); box != "" {
		out = append(out, fmt.Sprintf("%s and %s are both at %s: the switches are strapped %s to %s.",
			inspect.Sentence(say.Word("line")), say.Word("load"), say.Box(box), say.Word("common"), say.Word("common")))
	}
	if line != "" && load != "" {
		feed, lamp := nearest(c, line, load, circuit.Panel), nearest(c, line, load, circuit.Fixture)
		switch {
		case feedAtLamp(c):
		case feed == lamp && feed != "":
			out = append(out, "Feed and lamp both at "+say.Box(feed)+"; the other switch is a dead end.")
		case feed != "" && lamp != "":
			out = append(out, "Feed at "+say.Box(feed)+", lamp beyond "+say.Box(lamp)+".")
		}
		out = append(out, fmt.Sprintf("%s arrives at the %s in %s; the %s in %s leads to the lamp.",
			inspect.Sentence(say.Word("line")), say.Word("common"), say.Box(line), say.Word("common"), say.Box(load)))
	}
	works := slices.ContainsFunc(r.Controls, func(x inspect.Control) bool { return x.Works })
	if n := len(r.Controls); n > 0 && r.Verdict == inspect.Works && works {
		out = append(out, fmt.Sprintf("It works: each of %d controls switches its light from each of %d states.", n, r.States))
	}
	return out
}

// strappedAt returns the box of the first switch that has line and load on its
// pair, and so its common strapped to another's, or "".
func strappedAt(c *circuit.Circuit, r *inspect.Report) string {
	on := func(d circuit.Device, t string, role electric.Role) bool {
		j := c.JoinOf(d.Box, circuit.Ref{Owner: d.ID, Part: t})
		return j >= 0 && slices.ContainsFunc(c.Joins[j].Of, func(m circuit.Ref) bool {
			return r.Roles[circuit.End{Ref: m, Box: d.Box}] == role
		})
	}
	for _, b := range Order(c) {
		for _, d := range c.Devices {
			if d.Box == b.ID && d.Type == circuit.TypeThreeWay &&
				(on(d, "t1", electric.Line) && on(d, "t2", electric.Load) || on(d, "t2", electric.Line) && on(d, "t1", electric.Load)) {
				return b.ID
			}
		}
	}
	return ""
}

// nearest returns which of two boxes a box of the kind reaches first.
func nearest(c *circuit.Circuit, a, b, kind string) string {
	for _, from := range c.Boxes {
		if from.Kind != kind {
			continue
		}
		queue, seen := []string{from.ID}, map[string]bool{from.ID: true}
		for i := 0; i < len(queue); i++ {
			if queue[i] == a || queue[i] == b {
				return queue[i]
			}
			for _, k := range c.Cables {
				if k.In(queue[i]) {
					if other, ok := k.Other(queue[i]); ok && !seen[other] {
						seen[other] = true
						queue = append(queue, other)
					}
				}
			}
		}
	}
	return ""
}

// feedAtLamp reports whether a cable runs from the panel to a box with a lamp.
func feedAtLamp(c *circuit.Circuit) bool {
	lampIn := func(box string) bool {
		return slices.ContainsFunc(c.Devices, func(d circuit.Device) bool { return d.Box == box && d.Type == circuit.TypeLamp })
	}
	return slices.ContainsFunc(c.Cables, func(k circuit.Cable) bool {
		if k.Stub() {
			return false
		}
		a, b := c.Box(*k.Ends[0]), c.Box(*k.Ends[1])
		return a.Kind == circuit.Panel && lampIn(b.ID) || b.Kind == circuit.Panel && lampIn(a.ID)
	})
}

// next is the one thing to do now.
func next(c *circuit.Circuit, say inspect.Speaker, r *Reading) string {
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
		return "The record is sound. Flip the switches to see it, then choose what it shall become."
	case stub != "" && (!has(circuit.Switch) || !has(circuit.Fixture) || len(r.Report.Controls) < 2):
		return "Add the box at the other end of cable " + stub + "."
	}
	for _, f := range r.Report.Findings {
		if f.Severity == inspect.Error {
			return "To mend first: " + f.Text
		}
	}
	return "Add the next box that you opened."
}
