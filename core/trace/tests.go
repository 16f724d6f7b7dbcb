package trace

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// proposal is a test worth a thought in one state of breaker and wires, whoever makes it next.
type proposal struct {
	test circuit.Observation
	key  string // by which it is known again
	m    made
	cost float64 // but for what it takes to come to its box
	box  string  // to which one has to go, "" where it is made anywhere
}

// proposals is what the list of them depends on.
type proposals struct {
	prices
	on, wide, screwsOnly bool
	exchanged            bool // it is certain that line and neutral are exchanged at the feed
	lifted               string
}

// tests lists the tests worth a thought in one state of breaker and wires that were not made.
func (c *chooser) tests(on bool, lifted []circuit.Ref) []candidate {
	usual, _ := c.Polarity()
	key := proposals{c.prices, on, c.wide, c.screwsOnly, !usual, circuit.Observation{Lifted: lifted}.Key()}
	list, ok := c.kept.proposals[key]
	if !ok {
		list = c.propose(on, lifted)
		if c.kept.proposed += len(list); c.kept.proposed > mostProposed {
			clear(c.kept.proposals)
			c.kept.proposed = len(list)
		}
		c.kept.proposals[key] = list
	}
	out := make([]candidate, 0, len(list))
	for i := range list {
		if p := &list[i]; !c.tried[p.key] {
			out = append(out, candidate{test: p.test, m: p.m, cost: p.cost + c.move(p.box)})
		}
	}
	return out
}

// mostProposed bounds the tests in lists that are kept; each takes some hundred bytes.
const mostProposed = 40_000

// propose works the list out.
func (c *chooser) propose(on bool, lifted []circuit.Ref) []proposal {
	base := circuit.Observation{Power: "off", Lifted: lifted}
	if on {
		base.Power = "on"
	}
	var out []proposal
	add := func(o circuit.Observation, cost float64, box string) {
		m := made{instrument: o.Instrument, lamp: c.lampOf(o), bit: first}
		for _, e := range o.At {
			m.at = append(m.at, c.probe(e))
		}
		if n := len(out); n > 0 && sameState(out[n-1].test, o) {
			m.setup = out[n-1].m.setup
		} else {
			m.setup = c.prepare(o)
		}
		m.column = m.setup.columnOf(&m)
		out = append(out, proposal{o, o.Key(), m, cost, box})
	}
	ends := c.representatives(lifted)
	if on {
		c.liveTests(base, ends, add)
	} else {
		c.deadTests(base, ends, add)
	}
	return out
}

// sameState reports whether two tests are made with everything standing the same way.
func sameState(a, b circuit.Observation) bool {
	return a.Power == b.Power && slices.Equal(a.Lifted, b.Lifted) && slices.Equal(a.Flipped, b.Flipped) && slices.Equal(a.LampsOut, b.LampsOut) && len(a.Tied) == 0 && len(b.Tied) == 0
}

func (c *chooser) liveTests(base circuit.Observation, ends []circuit.End, add func(circuit.Observation, float64, string)) {
	if usual, _ := c.Polarity(); !usual && len(base.Lifted) > 0 && !c.cannot[circuit.CannotLampOut] {
		for _, l := range c.lamps { // the feed is exchanged, and feeds backwards through lamps
			if l.id != "" {
				base.LampsOut = append(base.LampsOut, l.id)
			}
		}
	}
	flips := [][]string{nil}
	if c.wide && len(base.Lifted) == 0 { // what hangs on a switch is live or not as it stands
		flips = c.flips()
	}
	for _, flipped := range flips {
		o := base
		o.Flipped = flipped
		c.probes(o, ends, float64(len(flipped))*c.across, add)
	}
	if len(base.Lifted) > 0 {
		return
	}
	for _, flipped := range c.flips() {
		for _, l := range c.lamps {
			o := base
			o.Instrument, o.Flipped = circuit.LampLook, flipped
			if len(c.lamps) > 1 {
				o.Light = l.id
			}
			add(o, c.reading+float64(len(flipped))*c.across, "")
		}
	}
}

// probes are readings of conductors with the power on, with an instrument that touches
// nothing, against ground, and against another in the box.
func (c *chooser) probes(o circuit.Observation, ends []circuit.End, extra float64, add func(circuit.Observation, float64, string)) {
	for _, e := range ends {
		o.Instrument, o.At = circuit.NonContact, []circuit.End{e}
		add(o, c.reading+extra, e.Box)
		if g, ok := c.groundIn(e.Box); ok {
			o.Instrument, o.At = circuit.TwoPole, []circuit.End{e, g}
			add(o, c.reading+c.contact+extra, e.Box)
		}
		for _, other := range ends { // a neutral shows against the line, a spare core does not
			if other.Box == e.Box && c.index[other] < c.index[e] {
				o.Instrument, o.At = circuit.TwoPole, []circuit.End{other, e}
				add(o, c.reading+c.contact+extra, e.Box)
			}
		}
	}
}

// flips lists which switches are worth flipping: none, or one that is seen.
func (c *chooser) flips() [][]string {
	out := [][]string{nil}
	for i := range c.switches {
		if s := &c.switches[i]; s.seen() && s.kind != idle {
			out = append(out, []string{s.id})
		}
	}
	return out
}

func (c *chooser) deadTests(base circuit.Observation, ends []circuit.End, add func(circuit.Observation, float64, string)) {
	var sockets []circuit.End
	if !c.cannot[circuit.CannotLampOut] {
		for _, l := range c.lamps {
			if l.id == "" {
				continue
			}
			base.LampsOut = append(base.LampsOut, l.id)
			if !l.seen && !c.cannot[circuit.CannotLadder] {
				for _, terminal := range []string{"l", "n"} {
					sockets = append(sockets, circuit.End{Ref: circuit.Ref{Owner: l.id, Part: terminal}})
				}
			}
		}
	}
	flips := [][]string{nil}
	if len(base.Lifted) == 0 && (c.wide || len(c.switches) <= fewSwitches) {
		flips = c.flips()
	}
	for _, flipped := range flips {
		o := base
		o.Instrument, o.Flipped = circuit.Continuity, flipped
		extra := float64(len(flipped)) * (1 + c.across)
		for i, a := range slices.Concat(ends, sockets) {
			for _, b := range ends[:min(i, len(ends))] {
				cost := deadReading + extra
				switch {
				case a.Box == "" && c.cannot[circuit.CannotSecondPerson], a.Box != "" && a.Box != b.Box && c.cannot[circuit.CannotSecondPerson]:
					continue
				case a.Box == "":
					cost += c.lead + c.ladder
				case a.Box != b.Box:
					cost += c.lead
				}
				o.At = []circuit.End{b, a}
				add(o, cost, b.Box)
			}
		}
	}
	c.bundles(base, ends, sockets, add)
}

// fewSwitches is up to how many switches dead tests with one of them flipped are thought of:
// with more, lifting the commons tells the same.
const fewSwitches = 2

// bundles are tests of conductors against others, those of a box held together for a
// moment: silence means that none of these is one of those. All that are capped in a box are
// held against what is not, there, in another box and at the lamps.
func (c *chooser) bundles(base circuit.Observation, ends, sockets []circuit.End, add func(circuit.Observation, float64, string)) {
	var boxes []string
	capped, others := map[string][]circuit.End{}, map[string][]circuit.End{}
	for _, e := range ends {
		if !slices.Contains(boxes, e.Box) {
			boxes = append(boxes, e.Box)
		}
		if of := c.classOf(c.probe(e).atom); !of.screwed && len(of.ends) == 1 {
			capped[e.Box] = append(capped[e.Box], e)
		} else {
			others[e.Box] = append(others[e.Box], e)
		}
	}
	test := func(these, those []circuit.End, cost float64) {
		if len(these) == 0 || len(those) == 0 || len(these)+len(those) < 3 {
			return
		}
		o := base
		o.Instrument, o.At = circuit.Continuity, []circuit.End{these[0], those[0]}
		for _, group := range [][]circuit.End{these, those} {
			if len(group) > 1 {
				o.Tied = append(slices.Clone(o.Tied), group)
			}
		}
		add(o, deadReading+cost+tieCost*float64(len(these)+len(those)), these[0].Box)
	}
	if pairs := c.pairs(base.Lifted); len(pairs) > 1 && !c.cannot[circuit.CannotSecondPerson] {
		for i, p := range pairs {
			for _, q := range pairs[:i] {
				if p[0].Box != q[0].Box {
					test(q, p, c.lead)
				}
			}
			for _, e := range sockets {
				test(p, []circuit.End{e}, c.lead+c.ladder)
			}
			for _, e := range ends {
				if of := c.classOf(c.probe(e).atom); e.Box != p[0].Box && of.screwed && !slices.ContainsFunc(pairs, func(q []circuit.End) bool { return slices.Contains(q, e) }) {
					test([]circuit.End{e}, p, c.lead)
				}
			}
		}
	}
	for _, box := range boxes {
		test(capped[box], others[box], 0)
		for _, e := range sockets {
			test(capped[box], []circuit.End{e}, c.lead+c.ladder)
		}
		for _, other := range boxes {
			if other != box && !c.cannot[circuit.CannotSecondPerson] {
				test(capped[box], others[other], c.lead)
			}
		}
		for i, e := range others[box] {
			if !c.classOf(c.probe(e).atom).screwed {
				test([]circuit.End{e}, slices.Concat(others[box][:i], others[box][i+1:]), 0)
			}
		}
	}
}

// pairs lists the two conductors of each pair of travelers that a switch may hold, where all
// that stands under them is lifted: held together, one reading tells of both.
func (c *chooser) pairs(lifted []circuit.Ref) [][]circuit.End {
	var out [][]circuit.End
	for i := range c.switches {
		s := &c.switches[i]
		if !s.seen() || s.unmarked {
			continue
		}
		var of [][2]int
		switch s.kind {
		case ending:
			of = [][2]int{{1, 2}}
		case middle:
			of = [][2]int{{0, 1}, {2, 3}}
		}
		for _, p := range of {
			screws := []circuit.Ref{c.nodes[s.nodes[p[0]]].Ref, c.nodes[s.nodes[p[1]]].Ref}
			if slices.Contains(lifted, screws[0]) && slices.Contains(lifted, screws[1]) {
				if wires := c.wiresOf(screws); len(wires) == 2 && wires[0] != wires[1] {
					out = append(out, wires)
				}
			}
		}
	}
	return out
}

// tieCost is what it takes to hold one more wire into a bundle, in dead readings.
const tieCost = 0.2

// deadReading is what a reading costs with nothing live, two ends in one box.
const deadReading = 2

// move is what it costs to read in another box than the one before.
func (c *chooser) move(box string) float64 {
	if box == "" || c.last == nil || len(c.last.At) == 0 || c.last.At[0].Box == box {
		return 0
	}
	return c.across
}

// representatives names one core end of each conductor in each opened box, as it is
// apart while those terminals are lifted.
func (c *chooser) representatives(lifted []circuit.Ref) []circuit.End {
	s := c.prepare(circuit.Observation{Lifted: lifted})
	joined := sets.New(c.atoms)
	for _, u := range s.screws {
		joined.Unite(u[0], u[1])
	}
	type spot struct {
		root int
		box  string
	}
	seen := map[spot]bool{}
	var out []circuit.End
	for n, e := range c.nodes {
		a := c.atom[n]
		if e.Box == "" || c.screwsOnly && !c.classOf(a).screwed || c.earthed[a] || c.doc.Box(e.Box).Kind == circuit.Panel {
			continue
		}
		if at := (spot{joined.Root(a), e.Box}); !seen[at] {
			seen[at] = true
			out = append(out, e)
		}
	}
	return out
}

// groundIn finds a ground core in a box to measure against.
func (c *chooser) groundIn(box string) (circuit.End, bool) {
	for n, e := range c.nodes {
		if a := c.atom[n]; e.Box == box && c.earthed[a] && !c.loneGround[a] {
			return e, true
		}
	}
	return circuit.End{}, false
}
