package circuit

import (
	"cmp"
	"slices"
)

// MostInConnector is how many conductors the largest connector of the usual sizes holds. More
// of them take several connectors with short wires between: a rule of thumb of the trade, whose
// own marking rules.
const MostInConnector = 5

// Fastening is what holds together what is joined anew: connectors by the conductors that each
// holds, short wires between connectors, and pigtails from a connector to a screw. It is empty
// where one conductor stands under one screw.
type Fastening struct {
	Connectors []int
	Bridges    int
	Pigtails   int
}

// OneScrew reports whether a terminal is the same screw as one of the device in whose case it
// sits: both stand in one join.
func (c *Circuit) OneScrew(m Ref) bool {
	d := c.Device(m.Owner)
	if d == nil || d.Case == "" {
		return false
	}
	i := c.JoinOf(d.Box, m)
	return i >= 0 && slices.Contains(c.Joins[i].Of, Ref{Owner: d.Case, Part: m.Part})
}

// UnderScrew reports whether the two wires of a join stand under a screw as found: it has a screw, or several with short
// wires between, and none of a smart device. More wires are held by a connector with a pigtail.
func (c *Circuit) UnderScrew(j Join) bool {
	wires, screws := 0, 0
	for _, m := range j.Of {
		switch d := c.Device(m.Owner); {
		case d == nil:
			wires++
		case d.Type == TypeSmart:
			return false
		default:
			screws++
		}
	}
	return wires == 2 && screws > 0
}

// Fasten says what holds a join together whose kept members stood together before.
func (c *Circuit) Fasten(j Join, kept []Ref) Fastening {
	var f Fastening
	j.Of = slices.DeleteFunc(slices.Clone(j.Of), c.OneScrew)
	screws, fresh := 0, 0
	for _, m := range j.Of {
		if c.Device(m.Owner) == nil {
			continue
		}
		if screws++; !slices.Contains(kept, m) {
			fresh++
		}
	}
	switch {
	case len(j.Of) == 2 && screws == 1:
		return f
	case len(j.Of) == 2 && screws == 2: // one short wire from screw to screw
		f.Pigtails = 1
		return f
	}
	f.Pigtails = fresh
	left := len(j.Of)
	for left > MostInConnector { // a place in it and one in the next are the bridge's
		f.Connectors = append(f.Connectors, MostInConnector)
		f.Bridges++
		left -= MostInConnector - 2
	}
	f.Connectors = append(f.Connectors, left)
	return f
}

// Kept finds what stays together in a box from one record to the next: of the joins of both
// those that share the most are taken for the same one. It gives the members that stay, by
// join of the record before and of the one after.
func Kept(before, after *Circuit, box string) (old, fresh map[int][]Ref) {
	type pair struct {
		old, fresh int
		keep       []Ref
	}
	var pairs []pair
	for i, a := range before.Joins {
		if a.Box != box {
			continue
		}
		for k, b := range after.Joins {
			if b.Box != box {
				continue
			}
			if keep := shared(a, b); len(keep) > 1 {
				pairs = append(pairs, pair{i, k, keep})
			}
		}
	}
	slices.SortStableFunc(pairs, func(a, b pair) int { return cmp.Compare(len(b.keep), len(a.keep)) })
	old, fresh = map[int][]Ref{}, map[int][]Ref{}
	for _, p := range pairs {
		if old[p.old] == nil && fresh[p.fresh] == nil {
			old[p.old], fresh[p.fresh] = p.keep, p.keep
		}
	}
	return old, fresh
}

func shared(a, b Join) []Ref {
	var out []Ref
	for _, m := range a.Of {
		if slices.Contains(b.Of, m) {
			out = append(out, m)
		}
	}
	return out
}
