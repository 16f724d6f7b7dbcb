package trace

import "slices"

// label names a net of the light: what hangs together, beyond what can be seen.
type label int8

// The labels that every circuit has. Loads, travelers and straps follow.
const (
	none    label = iota // hangs on nothing
	hot                  // the supply's line
	neutral              // the supply's neutral
	firstLoad
)

// labelKind says what a label stands for.
type labelKind uint8

const (
	isNone labelKind = iota
	isHot
	isNeutral
	isLoad  // a lamp's line terminal
	isShell // a lamp's other terminal, where it is not the neutral
	isRails // the two travelers between two switches: one label for the pair
	isStrap // the commons of two switches, joined
)

// pattern is one way in which switches can control their lights, each from every
// position of the others. It says which net each screw stands on.
//
// There are only so many. A light that each of its switches toggles from every
// state is lit by the parity of their positions, and two changeovers with
// crossovers between make a parity in a ring: common, travelers, crossover,
// travelers, common, and back. Line and load enter the ring where the commons
// meet (the usual chain) or on the two travelers of one link (the commons are
// strapped then). Line and neutral on such a link with the lamp between the
// commons is the old circuit that is prohibited; it is found too.
type pattern struct {
	labels [][]label // by switch and canonical terminal
	nodes  [][]int   // by switch: its canonical terminals, as far as they are seen
	lampL  []label   // by lamp
	lampN  []label
	kinds  []labelKind // by label
	weight float64
	odd    bool // prohibited
	faulty bool // made for a report of something that fails
}

// group is the switches of one light.
type group struct {
	ends [2]int // two ends of a chain; for a single-pole switch ends[0] alone
	mids []int
	solo bool
}

// patterns lists every way for the switches of the view.
func (v *view) patterns() []pattern {
	var singles, ends, mids []int
	for i, s := range v.switches {
		switch s.kind {
		case single:
			singles = append(singles, i)
		case ending:
			ends = append(ends, i)
		case middle:
			mids = append(mids, i)
		}
	}
	var out []pattern
	for _, pairs := range pairings(ends) {
		if len(pairs) == 0 && len(mids) > 0 {
			continue
		}
		for _, spread := range spreads(mids, len(pairs)) {
			var groups []group
			for i, p := range pairs {
				groups = append(groups, group{ends: p, mids: spread[i]})
			}
			for _, s := range singles {
				groups = append(groups, group{ends: [2]int{s, s}, solo: true})
			}
			out = append(out, v.groupsToPatterns(groups)...)
		}
	}
	return out
}

// groupsToPatterns combines the ways of each group, for each way in which lamps
// belong to groups.
func (v *view) groupsToPatterns(groups []group) []pattern {
	if len(groups) == 0 {
		return nil
	}
	start := pattern{labels: make([][]label, len(v.switches)), nodes: make([][]int, len(v.switches)), weight: 1}
	start.kinds = []labelKind{isNone, isHot, isNeutral}
	for range groups {
		start.kinds = append(start.kinds, isLoad)
	}
	for i, s := range v.switches {
		start.labels[i] = make([]label, width[s.kind])
		start.nodes[i] = s.nodes
	}
	var out []pattern
	for _, lamps := range assignments(len(v.lamps), len(groups)) {
		if v.sameAgain(lamps) {
			continue
		}
		p := start.clone()
		for _, g := range lamps {
			p.lampL = append(p.lampL, firstLoad+label(g))
			p.lampN = append(p.lampN, neutral)
		}
		list := v.loosen([]pattern{p})
		for g, members := range groups {
			var next []pattern
			for _, p := range list {
				next = append(next, v.ways(members, p, firstLoad+label(g))...)
			}
			list = next
		}
		out = append(out, list...)
	}
	return out
}

// sameAgain reports whether lamps that nobody recorded, and that nothing tells apart,
// stand in another order than the first.
func (v *view) sameAgain(groups []int) bool {
	last := -1
	for i, g := range groups {
		if v.lamps[i].id != "" || v.lamps[i].place >= 0 {
			continue
		}
		if g < last {
			return true
		}
		last = g
	}
	return false
}

func (p pattern) clone() pattern {
	q := p
	q.labels = make([][]label, len(p.labels))
	for i, l := range p.labels {
		q.labels[i] = slices.Clone(l)
	}
	q.nodes = slices.Clone(p.nodes)
	q.kinds, q.lampL, q.lampN = slices.Clone(p.kinds), slices.Clone(p.lampL), slices.Clone(p.lampN)
	return q
}

func (p *pattern) fresh(k labelKind) label {
	p.kinds = append(p.kinds, k)
	return label(len(p.kinds) - 1)
}

// Weights of the ways, the usual chain having 1: how often one meets them.
const (
	strappedWeight = 0.06
	oddWeight      = 0.002
)

// ways adds one group to a pattern in every way that agrees with what is seen.
func (v *view) ways(g group, p pattern, load label) []pattern {
	if g.solo {
		a, b := p.clone(), p.clone()
		a.labels[g.ends[0]] = []label{hot, load}
		b.labels[g.ends[0]] = []label{load, hot}
		return []pattern{a, b}
	}
	var out []pattern
	first, last := g.ends[0], g.ends[1]
	// grow lengthens the chain by one crossover after the other, either side first.
	var grow func(ring pattern, rails []label, rest []int)
	grow = func(ring pattern, rails []label, rest []int) {
		end := rails[len(rails)-1]
		if len(rest) == 0 {
			ring.labels[last] = []label{none, end, end}
			out = append(out, ring.enter(rails, load, first, last)...)
			return
		}
		for i, m := range rest {
			for _, turned := range []bool{false, true} {
				next := ring.clone()
				far := next.fresh(isRails)
				next.labels[m] = []label{end, end, far, far}
				if turned {
					next.labels[m] = []label{far, far, end, end}
				}
				if v.agrees(next, false) {
					grow(next, append(slices.Clone(rails), far), slices.Concat(rest[:i], rest[i+1:]))
				}
			}
		}
	}
	ring := p.clone()
	start := ring.fresh(isRails)
	ring.labels[first] = []label{none, start, start}
	grow(ring, []label{start}, g.mids)
	return slices.DeleteFunc(out, func(q pattern) bool { return !v.agrees(q, true) })
}

// agrees reports whether no conductor that is seen would be on two nets. While a
// ring grows, a link of travelers may still turn out to be where the feed enters.
func (v *view) agrees(p pattern, grown bool) bool {
	seen := make([]label, len(v.classes))
	for s, labels := range p.labels {
		for t, l := range labels {
			if p.nodes[s] == nil || l == none {
				continue
			}
			c := v.class[v.atom[p.nodes[s][t]]]
			rails := p.kinds[seen[c]] == isRails || p.kinds[l] == isRails
			both := p.kinds[seen[c]] == isRails && p.kinds[l] == isRails
			if seen[c] != none && seen[c] != l && (grown || both || !rails) {
				return false
			}
			for u := range t { // both travelers of a link under one screw
				if labels[u] == l && p.kinds[l] == isRails && v.class[v.atom[p.nodes[s][u]]] == c {
					return false
				}
			}
			seen[c] = l
		}
	}
	return true
}

// enter lets line and load into a ring, where the commons meet or on one link.
func (p pattern) enter(rails []label, load label, first, last int) []pattern {
	var out []pattern
	for _, lineAt := range [2]int{first, last} {
		q := p.clone()
		q.labels[first][0], q.labels[last][0] = load, load
		q.labels[lineAt][0] = hot
		out = append(out, q)
	}
	for _, rail := range rails {
		out = append(out, p.enterAt(rail, load, first, last)...)
	}
	return out
}

// enterAt lets the feed into the ring on the two travelers of one link.
func (p pattern) enterAt(rail, load label, first, last int) []pattern {
	var places [][2]int // switch and terminal of each screw on the link
	for s, labels := range p.labels {
		for t, l := range labels {
			if l == rail {
				places = append(places, [2]int{s, t})
			}
		}
	}
	var out []pattern
	for ways := range 4 {
		with := func(a, b label) pattern {
			q := p.clone()
			for i, at := range places { // two on each of the two sides
				l := a
				if (i&1 == 1) != (ways>>(i/2)&1 == 1) {
					l = b
				}
				q.labels[at[0]][at[1]] = l
			}
			return q
		}
		q := with(hot, load)
		strap := q.fresh(isStrap)
		q.labels[first][0], q.labels[last][0] = strap, strap
		q.weight *= strappedWeight
		out = append(out, q)
		for _, tip := range [2]int{first, last} {
			q := with(hot, neutral)
			shell := q.fresh(isShell)
			q.labels[first][0], q.labels[last][0] = shell, shell
			q.labels[tip][0] = load
			for i, l := range q.lampL {
				if l == load {
					q.lampN[i] = shell
				}
			}
			q.weight *= oddWeight
			q.odd = true
			out = append(out, q)
		}
	}
	return out
}

// loosen adds the ways in which the screws of a switch can stand that nobody
// could tell apart.
func (v *view) loosen(list []pattern) []pattern {
	orders := map[kind][][]int{
		ending: {{0, 1, 2}, {1, 0, 2}, {2, 0, 1}},
		middle: {{0, 1, 2, 3}, {0, 2, 1, 3}, {0, 3, 1, 2}},
	}
	for i, s := range v.switches {
		if !s.loose || s.nodes == nil || orders[s.kind] == nil {
			continue
		}
		var next []pattern
		for _, p := range list {
			for _, order := range orders[s.kind] {
				q := p.clone()
				q.nodes[i] = make([]int, len(order))
				for t, from := range order {
					q.nodes[i][t] = s.nodes[from]
				}
				next = append(next, q)
			}
		}
		list = next
	}
	return list
}

// spoilt lists patterns with one mistake each: two conductors exchanged at a
// switch, or one that leads nowhere. They are asked for when the customer says
// that something fails.
func spoilt(list []pattern) []pattern {
	var out []pattern
	for _, p := range list {
		if p.odd {
			continue
		}
		for s, labels := range p.labels {
			for a := range labels {
				for b := range a {
					if labels[a] != labels[b] {
						q := p.clone()
						q.labels[s][a], q.labels[s][b] = labels[b], labels[a]
						q.weight, q.faulty = p.weight*0.1, true
						out = append(out, q)
					}
				}
				if p.kinds[labels[a]] == isRails {
					q := p.clone()
					q.labels[s][a] = none
					q.weight, q.faulty = p.weight*0.1, true
					out = append(out, q)
				}
			}
		}
	}
	return out
}

// pairings lists the ways to make pairs of an even number of things.
func pairings(things []int) [][][2]int {
	if len(things) == 0 {
		return [][][2]int{nil}
	}
	var out [][][2]int
	for i := 1; i < len(things); i++ {
		rest := slices.Concat(things[1:i], things[i+1:])
		for _, p := range pairings(rest) {
			out = append(out, append([][2]int{{things[0], things[i]}}, p...))
		}
	}
	return out
}

// spreads lists the ways to put things into bins.
func spreads(things []int, bins int) [][][]int {
	if len(things) == 0 {
		return [][][]int{make([][]int, bins)}
	}
	var out [][][]int
	for _, s := range spreads(things[1:], bins) {
		for b := range bins {
			t := slices.Clone(s)
			t[b] = append([]int{things[0]}, t[b]...)
			out = append(out, t)
		}
	}
	return out
}

// assignments lists the ways in which lamps can belong to groups, none of which
// goes without.
func assignments(lamps, groups int) [][]int {
	var out [][]int
	var walk func(now []int)
	walk = func(now []int) {
		if len(now) == lamps {
			used := map[int]bool{}
			for _, g := range now {
				used[g] = true
			}
			if len(used) == groups {
				out = append(out, slices.Clone(now))
			}
			return
		}
		for g := range groups {
			walk(append(now, g))
		}
	}
	walk(nil)
	return out
}

func permutations(things []int) [][]int {
	if len(things) == 0 {
		return [][]int{nil}
	}
	var out [][]int
	for i := range things {
		rest := slices.Concat(things[:i], things[i+1:])
		for _, p := range permutations(rest) {
			out = append(out, append([]int{things[i]}, p...))
		}
	}
	return out
}
