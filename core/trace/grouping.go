package trace

import (
	"slices"
)

// grouping is one way of sorting the switches into the lights that they control.
type grouping struct {
	groups []group
	weight float64
}

// groupings sorts the switches into lights in every way that the record allows.
func (v *view) groupings() []grouping {
	var singles, ends, mids, otherEnds, otherMids []int
	for i, s := range v.switches {
		switch {
		case s.kind == single:
			singles = append(singles, i)
		case s.kind == ending && s.seen():
			ends = append(ends, i)
		case s.kind == middle && s.seen():
			mids = append(mids, i)
		case s.kind == ending:
			otherEnds = append(otherEnds, i)
		case s.kind == middle:
			otherMids = append(otherMids, i)
		}
	}
	most := v.unseenEnds(len(ends), len(mids))
	var out []grouping
	var pair func(ends, others []int, groups []group, unseen int, weight float64)
	pair = func(ends, others []int, groups []group, unseen int, weight float64) {
		if len(ends) == 0 {
			out = append(out, v.spread(groups, mids, otherMids, most-unseen, weight)...)
			return
		}
		first, rest := ends[0], ends[1:]
		for i, other := range rest {
			pair(slices.Concat(rest[:i], rest[i+1:]), others, append(slices.Clone(groups), group{ends: [2]int{first, other}}), unseen, weight)
		}
		for i, other := range others {
			pair(rest, slices.Concat(others[:i], others[i+1:]), append(slices.Clone(groups), group{ends: [2]int{first, other}}), unseen, weight)
		}
		if unseen < most {
			pair(rest, others, append(slices.Clone(groups), group{ends: [2]int{first, unseenEnd}, chainOnly: v.unseenOdds(len(ends)) < 1}), unseen+1, weight*v.unseenOdds(len(ends)))
		}
	}
	pair(ends, otherEnds, nil, 0, 1)
	for i := range out {
		for _, s := range singles {
			out[i].groups = append(out[i].groups, group{ends: [2]int{s, s}, solo: true})
		}
	}
	return out
}

// mayHideMiddles reports whether a switch in the middle of a chain may stand where nobody
// has looked: unless the record says in how many places the light is switched, and has
// them all.
func (v *view) mayHideMiddles() bool {
	seen := 0
	for i := range v.switches {
		if s := &v.switches[i]; s.seen() && s.kind >= ending {
			seen++
		}
	}
	return v.doc.Controls == nil || *v.doc.Controls > seen
}

// unseenOdds is how usual it is that an end of a chain has its other end where nobody
// has looked.
func (v *view) unseenOdds(ends int) float64 {
	if ends%2 == 1 || v.closedSwitchBoxes > 0 {
		return 1
	}
	return unseenWeight
}

// unseenEnds is how many ends of chains may stand where nobody has looked. There is one at
// least where the record has an odd end, or where a 4-way has none. A record that says in
// how many places the light is switched, and has them all, has no more.
func (v *view) unseenEnds(ends, mids int) int {
	switch {
	case ends == 0 && mids == 0:
		return 0
	case v.doc.Controls != nil && ends%2 == 0 && ends > 0 && *v.doc.Controls <= ends+mids:
		return 0
	case ends > 0 && v.closedSwitchBoxes == 0 && (v.doc.Controls == nil || *v.doc.Controls <= ends+mids):
		return ends % 2 // all boxes on record are open: each end has its partner here
	}
	most := ends + 2*min(mids, 1)
	if v.doc.Controls != nil { // of those that the record has no box of, and no fewer than it cannot do without
		least := ends % 2
		if ends == 0 {
			least = 2
		}
		most = min(most, max(least, *v.doc.Controls-ends-mids))
	}
	return most
}

// spread puts switches in the middle into the lights, those in closed boxes into any or
// none.
func (v *view) spread(groups []group, mids, others []int, unseen int, weight float64) []grouping {
	if len(mids)+len(others) == 0 {
		return []grouping{{groups, weight}}
	}
	var out []grouping
	take := func(m int, rest, others []int) {
		for g := range groups {
			next := slices.Clone(groups)
			next[g].mids = append(slices.Clone(next[g].mids), m)
			out = append(out, v.spread(next, rest, others, unseen, weight)...)
		}
	}
	if len(mids) == 0 {
		take(others[0], nil, others[1:])
		return append(out, v.spread(groups, nil, others[1:], unseen, weight)...)
	}
	take(mids[0], mids[1:], others)
	if unseen >= 2 { // a light of which only a switch in the middle is seen
		alone := group{ends: [2]int{unseenEnd, unseenEnd}, mids: []int{mids[0]}}
		odds := v.unseenOdds(1)
		if len(groups) > 0 {
			odds = unseenWeight
		}
		out = append(out, v.spread(append(slices.Clone(groups), alone), mids[1:], others, unseen-2, weight*odds)...)
	}
	return out
}
