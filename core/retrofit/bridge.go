package retrofit

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ambivia/core/circuit"
)

// A conductor that runs from one switch box to another through a light's box is spliced
// there, and nobody needs a ladder to make it carry something else: it is joined to the line
// at one door, and is the line at the other. So where a plan would move a core in a box that
// only a ladder reaches, and the conductor that the core is a part of comes back to a switch
// box where what it should carry comes too, they are joined there, and the splice stays shut.

// fromTheFloor reports whether a planned document needs no ladder where the circuit as found has
// boxes that only a ladder reaches: nothing in them changes.
func (p *planner) fromTheFloor(after *circuit.Circuit) bool {
	splices := func(c *circuit.Circuit) (out []string) {
		for _, j := range c.Joins {
			if p.doc.Box(j.Box) != nil && p.ladder(j.Box) {
				of := slices.Clone(j.Of)
				slices.SortFunc(of, func(a, b circuit.Ref) int { return strings.Compare(a.String(), b.String()) })
				out = append(out, fmt.Sprint(j.Box, of))
			}
		}
		slices.Sort(out)
		return out
	}
	return slices.Equal(splices(p.doc), splices(after))
}

// bridge is an allocation in which conductors are led on like that; nil where none can be.
func (p *planner) bridge(d *requirement, a *allocation) *allocation {
	out := &allocation{of: map[circuit.Ref]*net{}, shut: map[string]bool{}, led: map[circuit.Ref]string{}}
	for core, x := range a.of {
		out.of[core] = x
	}
	given := slices.SortedFunc(maps.Keys(a.of), p.compare)
	for _, core := range given {
		k, x := p.doc.Cable(core.Owner), a.of[core]
		if x.class >= 0 && !k.Stub() {
			for _, box := range k.Ends {
				if p.ladder(*box) && p.net.Class(circuit.End{Ref: core, Box: *box}) != x.class {
					if on, by, ok := p.wayRound(d, out, x, core, *box); ok {
						out.of[on], out.of[by], out.shut[*box] = x, x, true
						far, _ := p.doc.Cable(on.Owner).Other(*box)
						out.led[on], out.led[by] = far, far
					}
				}
			}
		}
	}
	if len(out.shut) == 0 {
		return nil
	}
	return out
}

// ladder reports whether a box hangs where nobody reaches it from the floor.
func (p *planner) ladder(box string) bool {
	b := p.doc.Box(box)
	return b.Kind == circuit.Fixture || b.Kind == circuit.Junction
}

// wayRound finds, for a core that should carry a net and is joined to another conductor in a
// box, the core that it goes on in there, and one that carries the net from there to the same
// switch box.
func (p *planner) wayRound(d *requirement, a *allocation, x *net, core circuit.Ref, box string) (on, by circuit.Ref, ok bool) {
	j := p.joinOf(box, core)
	if j < 0 || len(p.doc.Joins[j].Of) != 2 {
		return on, by, false // with more of them, something else would carry it too
	}
	for _, on := range p.doc.Joins[j].Of {
		k := p.doc.Cable(on.Owner)
		if on == core || k == nil || k.Stub() || !p.free(d, a, on, box) {
			continue
		}
		far, known := k.Other(box)
		if allowed, _ := p.say.May(on.Part, string(x.role)); !known || !allowed || p.doc.Box(far).Kind != circuit.Switch {
			continue
		}
		for _, k := range p.doc.Cables {
			if k.Stub() || !k.In(box) || !k.In(far) {
				continue
			}
			for _, name := range k.Cores {
				by := circuit.Ref{Owner: k.ID, Part: name}
				carries := p.net.Class(circuit.End{Ref: by, Box: box}) == x.class && p.joinOf(box, by) >= 0
				if carries && by != core && (a.of[by] == nil || a.of[by] == x) {
					return on, by, true
				}
			}
		}
	}
	return on, by, false
}

// free reports whether a plan needs a core for nothing: neither is it given to a net, nor does
// what it carries as found go on.
func (p *planner) free(d *requirement, a *allocation, core circuit.Ref, box string) bool {
	if a.of[core] != nil || circuit.GroundColour(core.Part) {
		return false
	}
	class := p.net.Class(circuit.End{Ref: core, Box: box})
	return !slices.ContainsFunc(d.nets, func(x *net) bool { return x.class == class && len(x.terminals) > 0 })
}

// keepShut leaves the boxes alone that a ladder would have to be fetched for and in which nothing
// has to be joined otherwise: conductors that are freed stay spliced there, and are capped where
// they come out.
func (r *rebuilder) keepShut(joins []circuit.Join) []circuit.Join {
	for box := range r.shut {
		var freed []circuit.Join
		same := true
		for _, j := range r.p.doc.Joins {
			if j.Box != box {
				continue
			}
			if !slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return !r.spare[m] }) {
				freed = append(freed, j)
				continue
			}
			same = same && slices.ContainsFunc(joins, func(now circuit.Join) bool { return now.Box == box && slices.Equal(now.Of, j.Of) })
		}
		for _, now := range joins {
			same = same && (now.Box != box || slices.ContainsFunc(r.p.doc.Joins, func(j circuit.Join) bool { return j.Box == box && slices.Equal(now.Of, j.Of) }))
		}
		if same {
			joins = append(joins, freed...)
		}
	}
	return joins
}
