package survey

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Suggestion is something that is often so and that nobody recorded: a person
// looks, and confirms it as the edit that it is, or leaves it. Nothing is ever
// entered by itself.
type Suggestion struct {
	Box  string `json:"box"`
	Text string `json:"text"`
	Edit Note   `json:"edit"`
}

// suggest finds what may be asked about the record as it stands.
func suggest(c *circuit.Circuit, say names.Terms) []Suggestion {
	out := []Suggestion{}
	for _, b := range Order(c) {
		if !b.Seen() && b.Kind != circuit.Panel {
			continue
		}
		out = append(out, grounds(c, say, b)...)
		out = append(out, neutrals(c, say, b)...)
		out = append(out, lastScrew(c, say, b)...)
		out = append(out, atLamp(c, say, b)...)
	}
	for _, s := range oneCable(c, say) {
		if joined, _, err := change(c, s.Edit); err == nil && joined.Validate() == nil { // else it would close a ring
			out = append(out, s)
		}
	}
	return out
}

// free lists the members of a box that stand in no join: cores, then screws.
func free(c *circuit.Circuit, box string, keep func(circuit.Ref, *circuit.Device) bool) []circuit.Ref {
	var out []circuit.Ref
	for _, m := range c.EndsIn(box) {
		if c.JoinOf(box, m) < 0 && keep(m, nil) {
			out = append(out, m)
		}
	}
	for _, d := range c.Devices {
		if d.Box != box {
			continue
		}
		for _, t := range c.Terminals(d) {
			if m := (circuit.Ref{Owner: d.ID, Part: t}); c.JoinOf(box, m) < 0 && keep(m, &d) {
				out = append(out, m)
			}
		}
	}
	return out
}

// grounds: all that is for ground and stands alone is often under one connector.
func grounds(c *circuit.Circuit, say names.Terms, b circuit.Box) []Suggestion {
	alone := free(c, b.ID, func(m circuit.Ref, d *circuit.Device) bool {
		return d == nil && circuit.GroundColour(m.Part) || d != nil && m.Part == "ground"
	})
	if len(alone) == 0 {
		return nil
	}
	of := alone
	if len(alone) == 1 { // one more beside those that are joined already
		i := slices.IndexFunc(c.Joins, func(j circuit.Join) bool {
			return j.Box == b.ID && slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return circuit.GroundColour(m.Part) })
		})
		if i < 0 {
			return nil
		}
		of = []circuit.Ref{alone[0], c.Joins[i].Of[0]}
	}
	return []Suggestion{{b.ID, fmt.Sprintf("Do all %s conductors of %s stand together?", say.Word("ground"), say.Box(b.ID)),
		Note{Connect{Box: b.ID, Of: of}}}}
}

// neutrals: in a switch box cores of the neutral's colour from several cables
// often pass by the switch under one connector.
func neutrals(c *circuit.Circuit, say names.Terms, b circuit.Box) []Suggestion {
	alone := free(c, b.ID, func(m circuit.Ref, d *circuit.Device) bool { return d == nil && say.NeutralOnly(m.Part) })
	owners := map[string]bool{}
	for _, m := range alone {
		owners[m.Owner] = true
	}
	if b.Kind == circuit.Panel || len(alone) < 2 || len(owners) < len(alone) {
		return nil
	}
	return []Suggestion{{b.ID, fmt.Sprintf("Do the %s cores of %s stand together, past the switch?", circuit.Colour(alone[0].Part), say.Box(b.ID)),
		Note{Connect{Box: b.ID, Of: alone}}}}
}

// lastScrew: one insulated core and one screw are left over.
func lastScrew(c *circuit.Circuit, say names.Terms, b circuit.Box) []Suggestion {
	left := free(c, b.ID, func(m circuit.Ref, d *circuit.Device) bool {
		return d == nil && !circuit.GroundColour(m.Part) || d != nil && d.Mechanical() && m.Part != "ground"
	})
	if len(left) != 2 || c.Cable(left[0].Owner) == nil || c.Device(left[1].Owner) == nil {
		return nil
	}
	return []Suggestion{{b.ID, fmt.Sprintf("One core and one screw of %s are left: does %s stand under %s?", say.Box(b.ID),
		say.End(circuit.End{Ref: left[0], Box: b.ID}), say.End(circuit.End{Ref: left[1]})),
		Note{Connect{Box: b.ID, Of: left}}}}
}

// atLamp: a lamp on the only cable of its box hangs on it colour by colour.
func atLamp(c *circuit.Circuit, say names.Terms, b circuit.Box) []Suggestion {
	cores := slices.DeleteFunc(c.EndsIn(b.ID), func(m circuit.Ref) bool { return circuit.GroundColour(m.Part) })
	var lamps []circuit.Device
	for _, d := range c.Devices {
		if d.Box == b.ID {
			lamps = append(lamps, d)
		}
	}
	if len(cores) != 2 || len(lamps) != 1 || lamps[0].Type != circuit.TypeLamp {
		return nil
	}
	line, neutral := cores[0], cores[1]
	if say.NeutralOnly(line.Part) {
		line, neutral = neutral, line
	}
	if !say.NeutralOnly(neutral.Part) || say.NeutralOnly(line.Part) {
		return nil
	}
	var out []Suggestion
	for _, pair := range [][2]circuit.Ref{{line, {Owner: lamps[0].ID, Part: "l"}}, {neutral, {Owner: lamps[0].ID, Part: "n"}}} {
		if c.JoinOf(b.ID, pair[0]) < 0 && c.JoinOf(b.ID, pair[1]) < 0 {
			out = append(out, Suggestion{b.ID, fmt.Sprintf("Does %s go to %s?", say.End(circuit.End{Ref: pair[0], Box: b.ID}), say.End(circuit.End{Ref: pair[1]})),
				Note{Connect{Box: b.ID, Of: pair[:]}}})
		}
	}
	return out
}

// oneCable: two stubs in different boxes are the only ones with their cores.
func oneCable(c *circuit.Circuit, say names.Terms) []Suggestion {
	var out []Suggestion
	alike := func(a, b circuit.Cable) bool { return a.ID != b.ID && b.Stub() && sameCores(a.Cores, b.Cores) }
	near := func(k circuit.Cable) string {
		if k.Ends[0] != nil {
			return *k.Ends[0]
		}
		return *k.Ends[1]
	}
	for i, a := range c.Cables {
		if !a.Stub() {
			continue
		}
		count, other := 0, circuit.Cable{}
		for n, b := range c.Cables {
			if alike(a, b) {
				count++
				if n > i {
					other = b
				}
			}
		}
		if count == 1 && other.ID != "" && near(a) != near(other) {
			out = append(out, Suggestion{near(a), fmt.Sprintf("Are %s and %s one cable? No other two have these cores.", say.Cable(a.ID), say.Cable(other.ID)),
				Note{JoinStubs{Cable: a.ID, Other: other.ID}}})
		}
	}
	return out
}
