package procedure

import (
	"cmp"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// changed is one join that comes apart or comes together: which members stay together in
// it throughout, and which come out or in, in order.
type changed struct {
	box   string
	join  circuit.Join // as it stands where all its members are in it
	keep  []circuit.Ref
	moves []circuit.Ref
	with  circuit.Ref // what the moves are lifted from, or join
	role  electric.Role
}

// difference is all that is between two documents with the same boxes in the wall.
type difference struct {
	apart, together []changed
	out, in         []circuit.Device
	places, left    []circuit.Box // that no wall holds: new ones, and those that go
	cables, pulled  []circuit.Cable
	unmark, mark    []circuit.Mark
	unlink, link    []circuit.Link
	sockets         []socket
	bare            []circuit.End // that hung loose, and are capped before anything else
}

// compare finds the difference. What stays joined is left alone: of the joins of a box those
// that share the most are taken for the same one.
func compare(found, planned *inspect.Compiled) *difference {
	d := &difference{}
	before, after := found.Doc, planned.Doc
	was, now := found.Roles(), planned.Roles()
	device := func(x circuit.Device) any { return x.ID }
	box := func(x circuit.Box) any { return x.ID }
	cable := func(x circuit.Cable) any { return x.ID }
	mark := func(x circuit.Mark) any { return x }
	link := func(x circuit.Link) any { return x }
	d.out, d.in = between(before.Devices, after.Devices, device)
	d.left, d.places = between(before.Boxes, after.Boxes, box)
	d.pulled, d.cables = between(before.Cables, after.Cables, cable)
	d.unmark, d.mark = between(before.Marks, after.Marks, mark)
	d.unlink, d.link = between(before.Links, after.Links, link)
	for _, e := range before.Loose {
		if !slices.Contains(after.Loose, e) {
			d.bare = append(d.bare, e)
		}
	}
	for _, b := range after.Boxes {
		d.joins(before, after, b.ID, was, now)
	}
	return d
}

// between lists what only the first list has, and what only the second has, told apart by a
// name.
func between[T any](before, after []T, name func(T) any) (gone, come []T) {
	lacking := func(in, from []T) (out []T) {
		there := make(map[any]bool, len(in))
		for _, y := range in {
			there[name(y)] = true
		}
		for _, x := range from {
			if !there[name(x)] {
				out = append(out, x)
			}
		}
		return out
	}
	return lacking(after, before), lacking(before, after)
}

// sorted lists the joins that change in one box, ground first, then neutral, then the rest;
// or the other way round.
func sorted(list []changed, box string, backwards bool) []changed {
	var out []changed
	for _, x := range list {
		if x.box == box {
			out = append(out, x)
		}
	}
	slices.SortStableFunc(out, func(a, b changed) int {
		if backwards {
			a, b = b, a
		}
		return cmp.Compare(first(a.role), first(b.role))
	})
	return out
}

// joins compares the joins of one box.
func (d *difference) joins(before, after *circuit.Circuit, box string, was, now map[circuit.End]electric.Role) {
	old, fresh := circuit.Kept(before, after, box)
	for i, j := range before.Joins {
		if j.Box != box || len(j.Of) < 2 {
			continue
		}
		if x := split(before, j, old[i], was); len(x.moves) > 0 {
			d.apart = append(d.apart, x)
		}
	}
	for i, j := range after.Joins {
		if j.Box != box || len(j.Of) < 2 {
			continue
		}
		if x := split(after, j, fresh[i], now); len(x.moves) > 0 {
			d.together = append(d.together, x)
		}
	}
}

// split says which members of a join move and what they move from or to: cores rather than
// screws, since a wire is what a hand holds.
func split(c *circuit.Circuit, j circuit.Join, keep []circuit.Ref, roles map[circuit.End]electric.Role) changed {
	x := changed{box: j.Box, join: j, keep: keep}
	isScrew := func(m circuit.Ref) bool { return c.Device(m.Owner) != nil }
	cores := slices.DeleteFunc(slices.Clone(j.Of), isScrew)
	screws := slices.DeleteFunc(slices.Clone(j.Of), func(m circuit.Ref) bool { return !isScrew(m) })
	order := append(slices.Clone(cores), screws...)
	switch {
	case len(keep) > 0:
		x.with = keep[0]
		if i := slices.IndexFunc(order, func(m circuit.Ref) bool { return slices.Contains(keep, m) }); i >= 0 {
			x.with = order[i]
		}
	case len(cores) == 1:
		x.with = screws[0]
	default:
		x.with = order[0]
	}
	for _, m := range order {
		if m != x.with && !slices.Contains(keep, m) {
			x.moves = append(x.moves, m)
		}
	}
	for _, m := range order {
		e := circuit.End{Ref: m, Box: j.Box}
		if isScrew(m) {
			e.Box = ""
		}
		if role := roles[e]; role != "" {
			x.role = role
			break
		}
	}
	return x
}

// first orders roles as new work is done: ground, neutral, then the rest, line last.
func first(role electric.Role) int {
	switch role {
	case electric.RoleGround:
		return 0
	case electric.Neutral:
		return 1
	case electric.Line:
		return 3
	}
	return 2
}
