package trace

import "slices"

// label names a net of the lights within a pattern; a traveler pair has one label.
type label int8

// none is the label of what hangs on no net of a light. The labels of the feeds follow,
// two for each supply; loads, traveler pairs and straps come after them.
const none label = 0

func hotOf(supply int) label     { return label(1 + 2*supply) }
func neutralOf(supply int) label { return label(2 + 2*supply) }

// labelKind says what a label stands for.
type labelKind uint8

const (
	isNone     labelKind = iota
	isHot                // a supply's line
	isNeutral            // a supply's neutral
	isLoad               // a lamp's line terminal
	isShell              // a lamp's other terminal, where it is not the neutral
	isTraveler           // the two travelers between two switches: one label for the pair
	isStrap              // the commons of two switches, joined
)

// pattern is one way in which switches can control their lights, each from every
// position of the others. It says which net each screw stands on.
//
// There are only so many. A light that each of its switches toggles from every state is
// lit by the parity of their positions, and two changeovers with crossovers between make
// a parity in a ring: common, travelers, crossover, travelers, common, and back. Line and
// load enter the ring where the commons meet (the usual chain) or on the two travelers of
// one link (the commons are strapped then). Line and neutral on such a link with the lamp
// between the commons is the polarity-switching circuit, which is prohibited; it is found
// too.
//
// A switch that nobody has seen may be the other end of a chain; one in the middle that
// nobody has seen only crosses the travelers or does not, which a pattern leaves open
// anyway: so the patterns of the switches that are seen hold for any number of others.
type pattern struct {
	number    int         // among those of a record, from 1; 0 before it is made ready
	labels    [][]label   // by switch and canonical terminal
	unseen    int         // how many of the switches, the last ones, nobody recorded: ends of chains
	nodes     [][]int     // by switch: its canonical terminals, as far as they are seen
	lampL     []label     // by lamp
	lampN     []label     // by lamp
	lamps     []thing     // those on record, then one for each light that has none there
	kinds     []labelKind // by label
	owner     []int       // by label: the light whose net it is, -1 for the feeds
	lights    []light     // in the order of their loads
	now       int         // the light that labels are being added for
	elsewhere []label     // loads of lamps that none of these switches controls
	weight    float64
	polarity  bool // prohibited: line and neutral on one link
	miswired  bool // made for a report of something that fails
}

// light is one light of a pattern: its switches and what feeds it.
type light struct {
	switches []int
	supply   int
}

// unseenEnd stands in a group for an end of its chain that nobody recorded.
const unseenEnd = -1

// group is the switches of one light.
type group struct {
	ends   [2]int // two ends of a chain, unseenEnd for one that nobody recorded; for a single-pole switch ends[0] alone
	mids   []int
	solo   bool
	supply int
	// chainOnly: its other end is where nobody looks for one, and only the usual chain is
	// thought of.
	chainOnly bool
}

// How often one meets a thing, the usual chain having 1. They order worlds and tests and
// rule nothing out.
const (
	strappedWeight  = 0.06
	polarityWeight  = 0.002
	unseenWeight    = 0.03 // an end of a chain that nobody recorded, where none is wanted
	elsewhereWeight = 0.1  // a lamp on record that none of these switches controls
	pilotWeight     = 0.02 // a lamp on record that is always lit
	miswiredWeight  = 0.1
)

// maxPatterns bounds the ways that are gone through.
const maxPatterns = 60_000

// patterns lists every way for the switches of the view, or an error where they are too
// many to be gone through.
func (v *view) patterns() ([]pattern, error) {
	var out []pattern
	for _, g := range v.groupings() {
		more, ok := v.groupsToPatterns(g.groups, g.weight, maxPatterns-len(out))
		if !ok {
			return nil, tooMany(len(v.switches))
		}
		out = append(out, more...)
	}
	return out, nil
}

// groupsToPatterns combines the ways of each light, for each way in which lamps and
// supplies belong to them. It reports false where there would be more than most.
func (v *view) groupsToPatterns(groups []group, weight float64, most int) ([]pattern, bool) {
	if len(groups) == 0 {
		return nil, true
	}
	groups = slices.Clone(groups)
	start := pattern{weight: weight, kinds: []labelKind{isNone}, lamps: slices.Clone(v.lamps)}
	for range v.supplies {
		start.kinds = append(start.kinds, isHot, isNeutral)
	}
	firstLoad := label(len(start.kinds))
	for range firstLoad {
		start.owner = append(start.owner, -1)
	}
	for g := range groups {
		start.kinds, start.owner = append(start.kinds, isLoad), append(start.owner, g)
	}
	for _, s := range v.switches {
		start.labels = append(start.labels, make([]label, width[s.kind]))
		start.nodes = append(start.nodes, s.nodes)
	}
	for g := range groups {
		for e, end := range groups[g].ends {
			if end == unseenEnd {
				groups[g].ends[e] = len(start.labels)
				start.labels, start.nodes = append(start.labels, make([]label, width[ending])), append(start.nodes, nil)
				start.unseen++
			}
		}
	}
	var out []pattern
	for _, lamps := range v.assignments(len(groups)) {
		start.lamps = slices.Clone(v.lamps)
		for len(start.lamps) < len(lamps) {
			start.lamps = append(start.lamps, thing{place: -1})
		}
		for _, feeds := range choices(len(groups), len(v.supplies)) {
			p := start.clone()
			for _, g := range lamps {
				if g < len(groups) {
					p.lampL, p.lampN = append(p.lampL, firstLoad+label(g)), append(p.lampN, neutralOf(feeds[g]))
					continue
				}
				if s := g - len(groups) - 1; s >= 0 { // always lit: it hangs on a feed
					p.lampL, p.lampN = append(p.lampL, hotOf(s)), append(p.lampN, neutralOf(s))
					p.weight *= pilotWeight
					continue
				}
				p.now = -1
				l := p.add(isLoad)
				p.lampL, p.lampN = append(p.lampL, l), append(p.lampN, neutralOf(0))
				p.elsewhere = append(p.elsewhere, l)
				p.weight *= elsewhereWeight
			}
			list := v.unmarkedWays([]pattern{p})
			for g, members := range groups {
				members.supply = feeds[g]
				var next []pattern
				for _, p := range list {
					p.now = g
					p.lights = append(slices.Clone(p.lights), light{slices.Compact(slices.Concat(members.ends[:], members.mids)), feeds[g]})
					next = append(next, v.ways(members, p, firstLoad+label(g))...)
					if len(next) > most {
						return nil, false
					}
				}
				list = next
			}
			if out = append(out, list...); len(out) > most {
				return nil, false
			}
		}
	}
	return out, true
}

func (p pattern) clone() pattern {
	q := p
	q.labels = make([][]label, len(p.labels))
	for i, l := range p.labels {
		q.labels[i] = slices.Clone(l)
	}
	q.nodes = slices.Clone(p.nodes)
	q.kinds, q.lampL, q.lampN = slices.Clone(p.kinds), slices.Clone(p.lampL), slices.Clone(p.lampN)
	q.elsewhere, q.owner = slices.Clone(p.elsewhere), slices.Clone(p.owner)
	return q
}

// add makes a new label of a kind.
func (p *pattern) add(k labelKind) label {
	p.kinds, p.owner = append(p.kinds, k), append(p.owner, p.now)
	return label(len(p.kinds) - 1)
}

// ways adds one light to a pattern in every way that agrees with what is seen.
func (v *view) ways(g group, p pattern, load label) []pattern {
	hot := hotOf(g.supply)
	if g.solo {
		a, b := p.clone(), p.clone()
		a.labels[g.ends[0]] = []label{hot, load}
		b.labels[g.ends[0]] = []label{load, hot}
		return slices.DeleteFunc([]pattern{a, b}, func(q pattern) bool { return !v.agrees(q, true) })
	}
	var out []pattern
	first, last := g.ends[0], g.ends[1]
	// grow lengthens the chain by one crossover after the other, either side first.
	var grow func(ring pattern, links []label, rest []int, from int)
	grow = func(ring pattern, links []label, rest []int, from int) {
		end := links[len(links)-1]
		if len(out) > maxPatterns {
			return // more than are gone through
		}
		if len(rest) == 0 {
			if !v.linked(from, v.portAt(last, 0)) {
				return
			}
			ring.labels[last] = []label{none, end, end}
			out = append(out, ring.enter(links, load, g)...)
			return
		}
		for i, m := range rest {
			for side, turned := range []bool{false, true} {
				if !v.linked(from, v.portAt(m, side)) {
					continue
				}
				next := ring.clone()
				far := next.add(isTraveler)
				next.labels[m] = []label{end, end, far, far}
				if turned {
					next.labels[m] = []label{far, far, end, end}
				}
				if v.agrees(next, false) {
					grow(next, append(slices.Clone(links), far), slices.Concat(rest[:i], rest[i+1:]), v.portAt(m, 1-side))
				}
			}
		}
	}
	ring := p.clone()
	start := ring.add(isTraveler)
	ring.labels[first] = []label{none, start, start}
	grow(ring, []label{start}, g.mids, v.portAt(first, 0))
	return slices.DeleteFunc(out, func(q pattern) bool { return !v.agrees(q, true) })
}

// agrees reports whether no conductor that is seen would be on two nets. While a ring
// grows, a link of travelers may still turn out to be where the feed enters.
func (v *view) agrees(p pattern, grown bool) bool {
	seen := make([]label, len(v.classes))
	for s, labels := range p.labels {
		for t, l := range labels {
			if p.nodes[s] == nil || l == none {
				continue
			}
			c := v.class[v.atom[p.nodes[s][t]]]
			pair := p.kinds[seen[c]] == isTraveler || p.kinds[l] == isTraveler
			both := p.kinds[seen[c]] == isTraveler && p.kinds[l] == isTraveler
			if seen[c] != none && seen[c] != l && (grown || both || !pair) {
				return false
			}
			for u := range t { // both travelers of a link under one screw
				if labels[u] == l && p.kinds[l] == isTraveler && v.class[v.atom[p.nodes[s][u]]] == c {
					return false
				}
			}
			seen[c] = l
		}
	}
	return true
}

// enter lets line and load into a ring, where the commons meet or on one link.
func (p pattern) enter(links []label, load label, g group) []pattern {
	var out []pattern
	for _, lineAt := range g.ends {
		q := p.clone()
		q.labels[g.ends[0]][0], q.labels[g.ends[1]][0] = load, load
		q.labels[lineAt][0] = hotOf(g.supply)
		out = append(out, q)
	}
	if g.chainOnly {
		return out
	}
	for _, link := range links {
		out = append(out, p.enterAt(link, load, g)...)
	}
	return out
}

// enterAt lets the feed into the ring on the two travelers of one link.
func (p pattern) enterAt(link, load label, g group) []pattern {
	hot, neutral := hotOf(g.supply), neutralOf(g.supply)
	first, last := g.ends[0], g.ends[1]
	var places [][2]int // switch and terminal of each screw on the link
	for s, labels := range p.labels {
		for t, l := range labels {
			if l == link {
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
		strap := q.add(isStrap)
		q.labels[first][0], q.labels[last][0] = strap, strap
		q.weight *= strappedWeight
		out = append(out, q)
		for _, tip := range [2]int{first, last} {
			q := with(hot, neutral)
			shell := q.add(isShell)
			q.labels[first][0], q.labels[last][0] = shell, shell
			q.labels[tip][0] = load
			for i, l := range q.lampL {
				if l == load {
					q.lampN[i] = shell
				}
			}
			q.weight *= polarityWeight
			q.polarity = true
			out = append(out, q)
		}
	}
	return out
}

// unmarkedWays adds the ways in which the screws of a switch can stand that nobody could
// tell apart.
func (v *view) unmarkedWays(list []pattern) []pattern {
	orders := map[kind][][]int{
		ending: {{0, 1, 2}, {1, 0, 2}, {2, 0, 1}},
		middle: {{0, 1, 2, 3}, {0, 2, 1, 3}, {0, 3, 1, 2}},
	}
	for i, s := range v.switches {
		if !s.unmarked || s.nodes == nil || orders[s.kind] == nil {
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

// miswired lists patterns with one mistake each: two conductors exchanged at a switch, or
// one that leads nowhere. They are asked for when the customer says that something fails.
func (v *view) miswired(list []pattern) []pattern {
	var out []pattern
	for _, p := range list {
		if p.polarity {
			continue
		}
		for s, labels := range p.labels {
			if p.nodes[s] == nil {
				continue
			}
			for a := range labels {
				add := func(change func(q *pattern)) {
					q := p.clone()
					change(&q)
					q.weight, q.miswired = p.weight*miswiredWeight, true
					if v.agrees(q, true) {
						out = append(out, q)
					}
				}
				for b := range a {
					if labels[a] != labels[b] {
						add(func(q *pattern) { q.labels[s][a], q.labels[s][b] = labels[b], labels[a] })
					}
				}
				if p.kinds[labels[a]] == isTraveler {
					add(func(q *pattern) { q.labels[s][a] = none })
				}
			}
		}
	}
	return out
}

// assignments lists the ways in which the lamps on record can belong to lights, by lamp: the number of
// a light; the number of lights for a lamp that none of these switches controls, where there are several
// lamps; or that number and one more for each supply, for a lamp that hangs on its feed and is always
// lit. A light without any of them has a lamp that is not on record, after those.
func (v *view) assignments(groups int) [][]int {
	var out [][]int
	var walk func(now []int)
	walk = func(now []int) {
		if len(now) == len(v.lamps) {
			all, switched := slices.Clone(now), 0
			for _, g := range now {
				if g <= groups {
					switched++
				}
			}
			for g := range groups {
				if !slices.Contains(now, g) {
					all = append(all, g)
				}
			}
			if len(all)-len(now) <= max(0, groups-switched) { // no more go without than have to
				out = append(out, all)
			}
			return
		}
		l := v.lamps[len(now)]
		if l.id == "" { // made up for the first light
			walk(append(now, 0))
			return
		}
		for g := range groups {
			walk(append(now, g))
		}
		if v.recordedLamps > 1 {
			walk(append(now, groups))
		}
		if v.recordedLamps > 1 || l.seen {
			for s := range v.supplies {
				walk(append(now, groups+1+s))
			}
		}
	}
	walk(nil)
	return out
}

// choices lists all ways to choose one of so many for each of n things.
func choices(n, of int) [][]int {
	out := [][]int{nil}
	for range n {
		var next [][]int
		for _, c := range out {
			for i := range of {
				next = append(next, append(slices.Clone(c), i))
			}
		}
		out = next
	}
	return out
}
