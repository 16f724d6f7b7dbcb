package procedure

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// liftText says what comes off what.
func (w *writer) liftText(x changed) string {
	c, say := w.p.Before, w.was
	var cores, screws []string
	for _, m := range x.moves {
		if c.Device(m.Owner) == nil {
			cores = append(cores, w.core(c, say, circuit.End{Ref: m, Box: x.box}))
		} else {
			screws = append(screws, w.screw(c, say, m))
		}
	}
	if d := c.Device(x.with.Owner); d != nil && len(x.keep) == 0 {
		text := "Take " + list(cores) + " off " + w.screw(c, say, x.with)
		if len(cores) == 0 {
			text = "Take the {pigtail} off " + w.screw(c, say, x.with)
		}
		if len(screws) > 0 {
			text += ", and the {pigtail} off " + list(screws)
		}
		if len(cores) > 1 {
			text += ". Two wires stand on one screw here: something else may hang on the second"
		}
		return text + ". Cap what is bare."
	}
	if len(x.keep) == 0 {
		all := append([]string{w.core(c, say, circuit.End{Ref: x.with, Box: x.box})}, cores...)
		for _, s := range screws {
			all = append(all, "the {pigtail} of "+s)
		}
		return "Take the {connector} off " + list(all) + ". Cap each."
	}
	if c.UnderScrew(x.join) {
		var kept, others []string
		for _, m := range x.keep {
			if c.Device(m.Owner) == nil {
				kept = append(kept, w.core(c, say, circuit.End{Ref: m, Box: x.box}))
			} else {
				others = append(others, w.screw(c, say, m))
			}
		}
		switch {
		case len(screws) > 0 && len(kept) == 2 && len(others) == 0:
			return "Take " + list(kept) + " off " + list(screws) + ". They stay together: put them in a {connector}."
		case len(screws) > 0 && len(kept) == 2:
			return "Take " + list(kept) + " off " + list(screws) + ". They stay together: put them in a {connector}, with a {pigtail} to " + list(others) + "."
		case len(screws) == 0 && len(others) == 1:
			return "Take " + list(cores) + " off " + list(others) + ". The other wire stays under it. Cap what is bare."
		}
	}
	all := cores
	for _, s := range screws {
		all = append(all, "the {pigtail} of "+s)
	}
	return "Take " + list(all) + " out of the {connector} with " + w.name(c, say, x.box, x.with) + ". Leave the others in it together. Cap what is bare."
}

// staysTogether brings the connector for two wires that come off one screw and stay together, where nothing joins them later:
// else it is the connector of that step.
func (w *writer) staysTogether(s *Step, x changed) {
	if !w.p.Before.UnderScrew(x.join) || len(x.keep) < 2 {
		return
	}
	for _, later := range w.difference.together {
		if later.box == x.box && slices.ContainsFunc(later.keep, func(m circuit.Ref) bool { return slices.Contains(x.keep, m) }) {
			return
		}
	}
	gauge := ""
	for _, m := range x.keep {
		if k := w.p.Before.Cable(m.Owner); k != nil && thicker(k.Gauge, gauge) {
			gauge = k.Gauge
		}
	}
	s.Connector = &Connector{len(x.keep), gauge, []int{len(x.keep)}}
	s.uses(Wiring, fmt.Sprintf("{connector} for %d conductors", len(x.keep)), 1, "for wires that stood under one screw", nil)
}

// joinText says what goes where.
func (w *writer) joinText(x changed) string {
	c, say := w.p.After, w.now
	role := w.carries(x)
	lone := len(x.join.Of) == 2 && c.Device(x.with.Owner) != nil
	if lone {
		if m := x.moves[0]; c.Device(m.Owner) == nil {
			return upper(role) + ": " + w.core(c, say, circuit.End{Ref: m, Box: x.box}) + " under " + w.screw(c, say, x.with) + "."
		}
	}
	var parts []string
	for _, m := range x.moves {
		switch {
		case c.Device(m.Owner) != nil:
			parts = append(parts, "a {pigtail} to "+w.screw(c, say, m))
		default:
			parts = append(parts, w.core(c, say, circuit.End{Ref: m, Box: x.box}))
		}
	}
	start := w.name(c, say, x.box, x.with)
	if c.Device(x.with.Owner) != nil && len(x.keep) == 0 && len(parts) == len(x.join.Of)-1 && !slices.ContainsFunc(x.join.Of, func(m circuit.Ref) bool { return c.Device(m.Owner) == nil }) {
		return upper(role) + ": a short wire between " + start + " and " + strings.ReplaceAll(list(parts), "a {pigtail} to ", "") + "."
	}
	if len(x.keep) > 0 {
		return upper(role) + ": to " + start + ", which stays as it is, add " + list(parts) + "."
	}
	if c.Device(x.with.Owner) != nil { // the wire first, then the screws
		return upper(role) + ": in one {connector} " + list(append(parts, "a {pigtail} to "+start)) + "."
	}
	return upper(role) + ": in one {connector} " + list(append([]string{start}, parts...)) + "."
}

// carries says what a join is in the plan. What a module senses is no traveler any more.
func (w *writer) carries(x changed) string {
	for _, m := range x.join.Of {
		model, known := w.p.model(m.Owner)
		switch stands := model.Stands[m.Part]; {
		case !known:
		case strings.HasPrefix(stands, "switched"):
			return "switched live from the switches"
		case stands == "dry" || stands == "dry-return" || stands == "contact-return":
			return "contact of the old switches"
		}
	}
	return w.now.Word(string(x.role))
}

// capText says what is to be done with an end that stands alone from now on. Ground is never
// spare: it goes to a metal box.
func (w *writer) capText(e circuit.End) string {
	core := w.core(w.p.After, w.now, e)
	if circuit.GroundColour(e.Part) {
		return "Cap " + core + ": it is {ground}, and no device here takes it. Where the box is of metal it goes to the box instead."
	}
	if w.roles[e] == "" {
		return "Cap " + core + " for good and label it \"not known\": where it leads is not recorded, and it may be live."
	}
	text := "Cap " + core + " for good and label it spare. Nothing uses it any more"
	if other, known := w.p.After.Cable(e.Owner).Other(e.Box); known && w.p.After.JoinOf(other, e.Ref) < 0 {
		text += "; its other end is capped too"
	}
	return text + "."
}

func (w *writer) strip(screw circuit.Ref) float64 {
	if m, known := w.p.model(screw.Owner); known {
		return m.StripMm
	}
	return 0
}

// What short wires are called among the materials.
const (
	pigtailName = "{pigtail}"
	bridgeName  = "short wire between two {connectors}"
)

// fasten says what holds a join together: nothing where one conductor stands under one screw.
func (w *writer) fasten(s *Step, x changed) {
	c := w.p.After
	f := c.Fasten(x.join, x.keep)
	s.uses(Wiring, pigtailName, f.Pigtails, "of the colour of what it carries", nil)
	s.uses(Wiring, bridgeName, f.Bridges, "of the colour of what it carries", nil)
	if len(f.Connectors) == 0 {
		return
	}
	gauge := ""
	for _, m := range x.join.Of {
		if k := c.Cable(m.Owner); k != nil && thicker(k.Gauge, gauge) {
			gauge = k.Gauge
		}
	}
	s.Connector = &Connector{len(x.join.Of), gauge, f.Connectors}
	note := circuit.GaugeText(gauge)
	if note == "" {
		note = "gauge not recorded"
	}
	for _, holds := range f.Connectors {
		s.uses(Wiring, fmt.Sprintf("{connector} for %d conductors", holds), 1, note, nil)
	}
	if f.Bridges > 0 {
		s.Text += w.now.Fill(fmt.Sprintf(" They are too many for one {connector}: %d {connectors}, with a short wire from each to the next.", len(f.Connectors)))
	}
}

// thicker compares two gauges of one system: a smaller number is thicker in AWG, a larger
// one in square millimetres.
func thicker(a, b string) bool {
	var x, y float64
	fmt.Sscanf(a, "%g", &x)
	fmt.Sscanf(b, "%g", &y)
	switch {
	case a == "":
		return false
	case b == "":
		return true
	case strings.HasSuffix(a, "AWG"):
		return x < y
	}
	return x > y
}

// ends fills in the wires of a lift or a join.
func (w *writer) ends(s *Step, c *circuit.Circuit, say names.Terms, x changed, roles map[circuit.End]electric.Role) {
	all := x.moves
	if len(x.keep) == 0 {
		all = append([]circuit.Ref{x.with}, all...)
	}
	screw := ""
	if len(x.join.Of) == 2 && c.Device(x.with.Owner) != nil && c.Device(x.moves[0].Owner) == nil {
		screw = w.screw(c, say, x.with)
	}
	for _, m := range all {
		e := circuit.End{Ref: m, Box: x.box}
		if c.Device(m.Owner) != nil {
			s.At = append(s.At, circuit.End{Ref: m})
			if screw == "" {
				s.Wires = append(s.Wires, Wire{End: circuit.End{Ref: m}, Screw: w.screw(c, say, m), Role: string(x.role), StripMm: w.strip(m)})
			}
			continue
		}
		s.At = append(s.At, e)
		wire := w.wire(c, say, e, roles)
		if screw != "" {
			wire.Screw, wire.StripMm = screw, w.strip(x.with)
		}
		s.Wires = append(s.Wires, wire)
	}
}

func (w *writer) wire(c *circuit.Circuit, say names.Terms, e circuit.End, roles map[circuit.End]electric.Role) Wire {
	out := Wire{End: e, Colour: e.Part, Letters: circuit.Letters(e.Part), Cable: e.Owner, Role: string(roles[e]), Mark: c.MarkOn(e)}
	out.Towards = say.Far(e.Owner, e.Box)
	return out
}

func (w *writer) name(c *circuit.Circuit, say names.Terms, box string, m circuit.Ref) string {
	if c.Device(m.Owner) != nil {
		return w.screw(c, say, m)
	}
	return w.core(c, say, circuit.End{Ref: m, Box: box})
}

func (w *writer) core(c *circuit.Circuit, say names.Terms, e circuit.End) string {
	text := e.Part + " (" + circuit.Letters(e.Part) + ")"
	if circuit.Letters(e.Part) == e.Part {
		text = e.Part
	}
	return text + strings.TrimPrefix(say.Core(e), e.Part)
}

func (w *writer) screw(c *circuit.Circuit, say names.Terms, m circuit.Ref) string {
	d := c.Device(m.Owner)
	if lamp := w.difference.lampOf(d.ID); lamp != "" { // a wire goes to the socket, whatever is screwed into it
		return w.screw(c, say, circuit.Ref{Owner: lamp, Part: "l"})
	}
	text := say.ScrewHere(m)
	if model, known := w.p.model(d.ID); known {
		if colour := model.Lead(m.Part, say.Practice); colour != "" {
			text += " (" + colour + ")"
		}
	}
	return text
}

func list(parts []string) string {
	if len(parts) < 2 {
		return strings.Join(parts, "")
	}
	return strings.Join(parts[:len(parts)-1], ", ") + " and " + parts[len(parts)-1]
}

func upper(s string) string { return names.Capitalize(s) }
