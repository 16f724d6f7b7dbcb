package procedure

import (
	"cmp"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
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
}

// compare finds the difference. What stays joined is left alone: of the joins of a box those
// that share the most are taken for the same one.
func compare(before, after *circuit.Circuit) *difference {
	d := &difference{}
	was, now := electric.New(before).Roles(), electric.New(after).Roles()
	for _, x := range before.Devices {
		if after.Device(x.ID) == nil {
			d.out = append(d.out, x)
		}
	}
	for _, x := range after.Devices {
		if before.Device(x.ID) == nil {
			d.in = append(d.in, x)
		}
	}
	for _, b := range after.Boxes {
		if before.Box(b.ID) == nil {
			d.places = append(d.places, b)
		}
		d.joins(before, after, b.ID, was, now)
	}
	for _, b := range before.Boxes {
		if after.Box(b.ID) == nil {
			d.left = append(d.left, b)
		}
	}
	for _, k := range before.Cables {
		if after.Cable(k.ID) == nil {
			d.pulled = append(d.pulled, k)
		}
	}
	for _, k := range after.Cables {
		if before.Cable(k.ID) == nil {
			d.cables = append(d.cables, k)
		}
	}
	lacks := func(m circuit.Mark, list []circuit.Mark) bool { return !slices.Contains(list, m) }
	for _, m := range before.Marks {
		if lacks(m, after.Marks) {
			d.unmark = append(d.unmark, m)
		}
	}
	for _, m := range after.Marks {
		if lacks(m, before.Marks) {
			d.mark = append(d.mark, m)
		}
	}
	for _, l := range before.Links {
		if !slices.Contains(after.Links, l) {
			d.unlink = append(d.unlink, l)
		}
	}
	for _, l := range after.Links {
		if !slices.Contains(before.Links, l) {
			d.link = append(d.link, l)
		}
	}
	return d
}

func joinsIn(c *circuit.Circuit, box string) []circuit.Join {
	var out []circuit.Join
	for _, j := range c.Joins {
		if j.Box == box && len(j.Of) > 1 {
			out = append(out, j)
		}
	}
	return out
}

func shared(a, b circuit.Join) []circuit.Ref {
	var out []circuit.Ref
	for _, m := range a.Of {
		if slices.Contains(b.Of, m) {
			out = append(out, m)
		}
	}
	return out
}

// joins compares the joins of one box.
func (d *difference) joins(before, after *circuit.Circuit, box string, was, now map[circuit.End]electric.Role) {
	old, fresh := joinsIn(before, box), joinsIn(after, box)
	type pair struct {
		old, fresh int
		keep       []circuit.Ref
	}
	var pairs []pair
	for i, a := range old {
		for j, b := range fresh {
			if keep := shared(a, b); len(keep) > 1 {
				pairs = append(pairs, pair{i, j, keep})
			}
		}
	}
	slices.SortStableFunc(pairs, func(a, b pair) int { return cmp.Compare(len(b.keep), len(a.keep)) })
	oldKeeps, freshKeeps := map[int][]circuit.Ref{}, map[int][]circuit.Ref{}
	for _, p := range pairs {
		if oldKeeps[p.old] == nil && freshKeeps[p.fresh] == nil {
			oldKeeps[p.old], freshKeeps[p.fresh] = p.keep, p.keep
		}
	}
	for i, j := range old {
		if x := split(before, j, oldKeeps[i], was); len(x.moves) > 0 {
			d.apart = append(d.apart, x)
		}
	}
	for i, j := range fresh {
		if x := split(after, j, freshKeeps[i], now); len(x.moves) > 0 {
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
	case electric.GroundOf:
		return 0
	case electric.Neutral:
		return 1
	case electric.Line:
		return 3
	}
	return 2
}
