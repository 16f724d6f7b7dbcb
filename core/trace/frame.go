package trace

import (
	"fmt"
	"slices"
)

// undecided is the net of a conductor that no switch settles; earthed that of a ground.
const (
	undecided int8 = -1
	earthed   int8 = -2
)

// frame is a pattern made ready to be held against readings. Its nets are the labels of
// the pattern, two for each pair of travelers. How the switches stood when found, which
// of two travelers is which, whether more lamps hang on a load than the record has, and
// whether the feed is exchanged, are left open: a combination of them is a number of as
// many bits, in that order.
type frame struct {
	*pattern
	routes []*routing
	kinds  []labelKind // by net
	first  []int8      // by label: its net, or the first of its pair
	wild   []bool      // by net: of a light that none of these switches controls
	sides  []side      // pairs of travelers under the screws of seen switches that may lie either way
	screws [][]int8    // by switch and terminal: its net, with no pair turned
	class  [][]int8    // by which of the sides are turned and class: its net; nil where that cannot be
	free   []int       // classes that nothing settles
	bits   int         // of a combination
	domain []uint32    // by free class: nets that it may be on, as bits
	plain  []uint32    // those on which it is where all cables run the plain way

	held    int             // readings that it has been held against
	scoped  uint64          // readings that depend on free conductors, as bits
	lies    uint8           // how the feed may lie
	alive   int             // combinations that no reading excludes by itself
	broken  []uint64        // by combination: readings that it contradicts, whatever the free conductors are
	either  []uint64        // by combination: readings that might have come the other way too
	support []uint32        // by free class: nets that it is on in some circuit that fits
	weight  float64         // with all readings
	fits    bool            // some circuit of this pattern fits all readings
	told    bool            // what the customer says excludes it
	noSlip  map[[3]int]bool // by reading, free class or -1, and net: no circuit fits all but that one
	unled   bool            // its nets cannot be led as people lead them
}

// side is the two terminals of a switch that a pair of travelers stands on, one of them -1
// where a mistake left it empty.
type side struct{ control, a, b int }

// maxNets bounds the nets of a pattern: they are bits of a word.
const maxNets = 32

// frameOf makes a pattern ready; nil where what can be seen contradicts it.
func (v *view) frameOf(p *pattern, routes [][]carrier) (*frame, error) {
	if p.number == 0 {
		v.numbered++
		p.number = v.numbered
	}
	f := &frame{pattern: p}
	for l, k := range p.kinds {
		f.first = append(f.first, int8(len(f.kinds)))
		f.kinds = append(f.kinds, k)
		if k == isTraveler {
			f.kinds = append(f.kinds, k)
		}
		for len(f.wild) < len(f.kinds) {
			f.wild = append(f.wild, slices.Contains(p.elsewhere, label(l)))
		}
	}
	if len(p.elsewhere) > 0 { // its travelers may run through these boxes
		f.kinds, f.wild = append(f.kinds, isTraveler), append(f.wild, true)
	}
	if len(f.kinds) > maxNets {
		return nil, tooMany(len(v.switches))
	}
	f.addSides(v)
	f.bits = len(p.labels) + len(f.sides) + 2
	if f.bits > maxBits {
		return nil, tooMany(len(v.switches))
	}
	possible := false
	for turned := range 1 << len(f.sides) {
		f.class = append(f.class, f.classes(v, turned))
		possible = possible || f.class[turned] != nil
	}
	if !possible {
		return nil, nil
	}
	f.addFree(v)
	for _, route := range routes {
		f.addRoute(route)
	}
	if len(f.routes) == 0 {
		return nil, nil
	}
	all := 1 << f.bits
	f.broken, f.either = make([]uint64, all), make([]uint64, all)
	for c := range all {
		if f.classOf(c) == nil {
			f.broken[c] = impossible
		}
		for s, control := range v.switches {
			if control.fixed >= 0 && c>>s&1 != control.fixed {
				f.broken[c] = impossible
			}
		}
		if f.broken[c] == 0 {
			f.alive++
		}
	}
	if f.alive == 0 {
		return nil, nil
	}
	f.support, f.weight, f.fits, f.lies = slices.Clone(f.domain), p.weight, true, liesUsual|liesExchanged
	return f, nil
}

// impossible marks a combination that the record itself excludes.
const impossible = 1 << 63

// addSides finds which pairs of travelers may lie either way: the first seen side of a
// pair names its two nets. Where readings showed which traveler is which, there is nothing open.
func (f *frame) addSides(v *view) {
	named := map[label][2]int{} // the switch and the screw that have the first of its nets
	for s, labels := range f.labels {
		nets := make([]int8, len(labels))
		done := map[label]bool{}
		var turned [][2]int // pairs of screws that stand the other way round
		for t, l := range labels {
			if nets[t] = f.first[l]; f.pattern.kinds[l] != isTraveler {
				continue
			}
			if done[l] {
				nets[t]++
				continue
			}
			done[l] = true
			if f.nodes[s] == nil {
				continue
			}
			other := -1
			for u := t + 1; u < len(labels); u++ {
				if labels[u] == l {
					other = u
				}
			}
			at, again := named[l]
			if !again {
				named[l] = [2]int{s, t}
				continue
			}
			turn := uint8(0)
			if other >= 0 {
				turn = v.turnOf(at[0], at[1], s, t)
			}
			if turn == 2 {
				turned = append(turned, [2]int{t, other})
			} else if turn != 1 {
				f.sides = append(f.sides, side{s, t, other})
			}
		}
		for _, pair := range turned {
			nets[pair[0]], nets[pair[1]] = nets[pair[1]], nets[pair[0]]
		}
		f.screws = append(f.screws, nets)
	}
}

// netAt is the net of a terminal where those sides are turned.
func (f *frame) netAt(control, terminal, turned int) int8 {
	n := f.screws[control][terminal]
	for i, s := range f.sides {
		if turned>>i&1 == 1 && s.control == control && (s.a == terminal || s.b == terminal) {
			return f.first[f.labels[control][terminal]]*2 + 1 - n
		}
	}
	return n
}

// classes finds the net of each class; nil where one would be on two.
func (f *frame) classes(v *view, turned int) []int8 {
	out := make([]int8, len(v.classes))
	held := make([]int, len(f.kinds)) // places that each net has beyond a class without cores
	ok := true
	put := func(class int, n int8) {
		if out[class] == earthed || out[class] != undecided && out[class] != n {
			ok = false
			return
		}
		out[class] = n
	}
	for i, c := range v.classes {
		if out[i] = undecided; c.ground {
			out[i] = earthed
		}
		for _, s := range c.hot {
			put(i, f.first[hotOf(s)])
		}
		for _, s := range c.neutral {
			put(i, f.first[neutralOf(s)])
		}
		for _, l := range c.lampL {
			put(i, f.first[f.lampL[l]])
		}
		for _, l := range c.lampN {
			put(i, f.first[f.lampN[l]])
		}
	}
	for s, labels := range f.labels {
		for t := range labels {
			if f.nodes[s] != nil {
				put(v.class[v.atom[f.nodes[s][t]]], f.netAt(s, t, turned))
			} else {
				held[f.screws[s][t]]++
			}
		}
	}
	if !ok {
		return nil
	}
	for i, l := range f.lamps {
		if !l.seen {
			held[f.first[f.lampL[i]]]++
			held[f.first[f.lampN[i]]]++
		}
	}
	for i, s := range v.supplies {
		if !s.seen {
			held[f.first[hotOf(i)]]++
			held[f.first[neutralOf(i)]]++
		}
	}
	for _, n := range out {
		if n > 0 {
			held[n]++
		}
	}
	for i, n := range out {
		switch c := v.classes[i]; {
		case n <= 0:
		case len(c.pieces) == 0 && held[n] > 1:
			return nil // nothing leads from here to where its net is too
		case c.panel && f.kinds[n] > isNeutral:
			return nil
		}
	}
	return out
}

// addFree lists the classes that nothing settles, with the nets that they may be on.
func (f *frame) addFree(v *view) {
	i := slices.IndexFunc(f.class, func(nets []int8) bool { return nets != nil })
	for class, n := range f.class[i] {
		if n != undecided {
			continue
		}
		domain := uint32(1)
		for net := 1; net < len(f.kinds) && len(v.classes[class].pieces) > 0; net++ {
			if !v.classes[class].panel || f.kinds[net] <= isNeutral {
				domain |= 1 << net
			}
		}
		f.free, f.domain = append(f.free, class), append(f.domain, domain)
	}
}

// routing is one route of a frame: what it leaves to each free class.
type routing struct {
	domain  []uint32 // by free class: nets that it may be on, as bits
	support []uint32 // those on which it is in some circuit that fits
	lies    uint8    // how the feed may lie
	fits    bool     // some circuit that is led so fits all readings
}

func (f *frame) addRoute(route []carrier) {
	w := &routing{domain: slices.Clone(f.domain), lies: liesUsual | liesExchanged, fits: true}
	for _, c := range route {
		u := slices.Index(f.free, c.class)
		if u < 0 { // settled: on that net, or not at all
			if slices.ContainsFunc(f.class, func(nets []int8) bool { return nets != nil && nets[c.class] != f.first[c.l] }) {
				return
			}
			continue
		}
		mask := uint32(1) << f.first[c.l]
		if f.pattern.kinds[c.l] == isTraveler {
			mask |= mask << 1
		}
		if w.domain[u] &= mask; w.domain[u] == 0 {
			return
		}
	}
	w.support = slices.Clone(w.domain)
	f.routes = append(f.routes, w)
}

// expect notes what free classes carry where all cables run the plain way. It is a guess, by
// which tests are chosen.
func (f *frame) expect(routes [][]carrier) {
	f.plain = make([]uint32, len(f.free))
	for _, route := range routes {
		for _, c := range route {
			if u := slices.Index(f.free, c.class); u >= 0 {
				mask := uint32(1) << f.first[c.l]
				if f.pattern.kinds[c.l] == isTraveler {
					mask |= mask << 1
				}
				f.plain[u] |= mask
			}
		}
	}
}

func (f *frame) turned(combination int) int {
	return combination >> len(f.labels) & (1<<len(f.sides) - 1)
}

// turns are the bits of a combination that say how pairs of travelers lie.
func (f *frame) turns() int { return (1<<len(f.sides) - 1) << len(f.labels) }

// classOf gives the net of each class in a combination.
func (f *frame) classOf(combination int) []int8 { return f.class[f.turned(combination)] }

// moreLamps and exchanged say of a combination whether more lamps hang on the loads than
// the record has, and whether line and neutral are exchanged at the feed.
func (f *frame) moreLamps(combination int) bool { return combination>>(f.bits-2)&1 == 1 }
func (f *frame) exchanged(combination int) bool { return combination>>(f.bits-1)&1 == 1 }

// How usual more lamps and an exchanged feed are.
const (
	moreLampsWeight = 0.15
	exchangedWeight = 0.01
)

// usual is how usual a combination is, the usual one having 1.
func (f *frame) usual(combination int) float64 {
	w := 1.0
	if f.moreLamps(combination) {
		w *= moreLampsWeight
	}
	if f.exchanged(combination) {
		w *= exchangedWeight
	}
	return w
}

// control is a switch of the pattern: a seen one, or an end that nobody recorded.
func (f *frame) kindAt(v *view, control int) kind {
	if control < len(v.switches) {
		return v.switches[control].kind
	}
	return ending
}

func tooMany(switches int) *Error {
	return &Error{"too-many-worlds", fmt.Sprintf("devices: %d switches whose cables nobody knows can be joined in more ways than can be gone through. Join what is known to be one cable, say in how many places the light is switched, or trace the boxes of one light at a time", switches)}
}
