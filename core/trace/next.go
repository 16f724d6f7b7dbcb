package trace

import (
	"context"
	"math"
	"slices"

	"ambivia/core/circuit"
)

// Prefer is what a person wants to spare.
type Prefer string

// Preferences. Dead tests first is the default: nothing is live while it is touched.
const (
	Dead  Prefer = "dead"  // as little live work as can be
	Trips Prefer = "trips" // as few walks as can be
)

// prices say what each thing costs a person, in the time of a dead reading in one
// box. A walk is one change of the breaker.
type prices struct {
	walk     float64 // to the panel
	live     float64 // reading with the power on
	contact  float64 // and metal touched for it
	lead     float64 // continuity between two boxes: long lead or helper
	ladder   float64 // to the lamp's socket
	lift     float64 // a wire off its screw and back
	across   float64 // a reading in another box than the one before
	deadless float64 // that anything has to be live at all
}

var pricesOf = map[Prefer]prices{
	Dead:  {walk: 20, live: 4, contact: 4, lead: 1, ladder: 1.5, lift: 0.4, across: 0.5, deadless: 200},
	Trips: {walk: 20, live: 1, contact: 0.5, lead: 3, ladder: 5, lift: 0.4, across: 2},
}

// How many worlds are weighed against each other when a test is chosen, and how many
// combinations of each: readings themselves are held against all of them.
const (
	mostCompared     = 120
	mostCombinations = 32
)

// candidate is a test with what it may show in each world.
type candidate struct {
	test  circuit.Observation
	at    []probe
	cost  float64
	shows []outcome    // by world: what it may show
	sure  []outcome    // by world: what it shows for certain in some combination
	odds  [][3]float32 // by world: in what share of the combinations it may show each
	firm  [][3]float32 // by world: in what share it shows each for certain
}

// phase is a state of breaker and lifted wires in which any number of tests can be
// made one after the other.
type phase struct {
	tests  []candidate
	cost   float64 // to get there, and back to "off" at the end
	unsure float64 // share of what is open that no test here can settle
	reads  float64 // about how many readings settle the rest
}

// chooser looks for the next test.
type chooser struct {
	*Tracer
	prices
	prefer Prefer
	worlds []*world
	last   *circuit.Observation // the state in which the person stands
	tried  map[string]bool      // tests that told nothing
	ends   []circuit.End
}

// Next returns the test to make next, or ok false where tracing is done or no test
// can tell what is left apart. The context ends long work.
func (t *Tracer) Next(ctx context.Context, prefer Prefer) (test circuit.Observation, ok bool, err error) {
	if len(t.worlds) == 0 || t.Done() {
		return test, false, nil
	}
	c := &chooser{Tracer: t, prices: pricesOf[prefer], prefer: prefer, worlds: t.worlds, tried: map[string]bool{}}
	if len(c.worlds) > mostCompared {
		c.worlds = t.mixed(mostCompared)
	}
	for i := range t.made {
		if t.made[i].Reading == nil {
			continue
		}
		c.last = &t.made[i]
		c.tried[sameTest(t.made[i])] = true
	}
	best, value := phase{}, math.Inf(1)
	for _, on := range []bool{false, true} {
		for _, lifted := range c.liftings() {
			if err := ctx.Err(); err != nil {
				return test, false, err
			}
			p := c.phase(on, lifted)
			if p.unsure > 1-1e-12 {
				continue
			}
			if v := p.cost + p.reads + p.unsure*(2*c.walk+c.deadless+10); v < value {
				best, value = p, v
			}
		}
		if prefer == Dead && !on && value < math.Inf(1) {
			break // whatever can be settled with nothing live is settled first
		}
	}
	if value == math.Inf(1) {
		return test, false, nil
	}
	return c.pick(best), true, nil
}

// mixed keeps the likeliest worlds, and at least one of each set of roles.
func (t *Tracer) mixed(n int) []*world {
	out := slices.Clone(t.worlds[:n])
	seen := map[int]bool{}
	for _, w := range out {
		seen[w.same] = true
	}
	for _, w := range t.worlds[n:] {
		if !seen[w.same] && len(out) < 2*n {
			seen[w.same] = true
			out = append(out, w)
		}
	}
	return out
}

// liftings lists sets of terminals worth lifting: nothing, what is lifted now, all
// commons, everything.
func (c *chooser) liftings() [][]circuit.Ref {
	out := [][]circuit.Ref{nil}
	if c.last != nil && len(c.last.Lifted) > 0 {
		out = append(out, c.last.Lifted)
	}
	var commons, all []circuit.Ref
	for _, s := range c.switches {
		if s.nodes == nil {
			continue
		}
		for i, n := range s.nodes {
			all = append(all, c.nodes[n].Ref)
			if s.kind != middle && (i == 0 || s.loose) {
				commons = append(commons, c.nodes[n].Ref)
			}
		}
	}
	return append(out, commons, all)
}

// phase weighs what tests in one state of breaker and wires can tell.
func (c *chooser) phase(on bool, lifted []circuit.Ref) phase {
	p := phase{cost: float64(len(lifted)) * c.lift}
	isOn := c.last != nil && c.last.Power == "on"
	sameLift := c.last != nil && slices.Equal(c.last.Lifted, lifted)
	switch {
	case on && isOn && sameLift:
		p.cost = c.walk // only to switch off at the end
	case on && isOn:
		p.cost += 3*c.walk + c.deadless // off, lift, on, off
	case on:
		p.cost += 2*c.walk + c.deadless
	case isOn:
		p.cost += c.walk
	}
	if on && isOn && sameLift {
		p.cost -= c.walk // it has to be paid whatever is done next
	}
	p.tests = c.tests(on, lifted)
	if len(p.tests) == 0 {
		p.unsure = 1
		return p
	}
	c.simulate(&p)
	c.weigh(&p)
	return p
}

// tests lists the tests worth a thought in one state of breaker and wires.
func (c *chooser) tests(on bool, lifted []circuit.Ref) []candidate {
	base := circuit.Observation{Power: "off", Lifted: lifted}
	if on {
		base.Power = "on"
	}
	var out []candidate
	add := func(o circuit.Observation, cost float64) {
		if c.tried[sameTest(o)] {
			return
		}
		out = append(out, candidate{test: o, at: c.probes(o), cost: cost})
	}
	ends := c.representatives(lifted)
	if on {
		for _, e := range ends {
			o := base
			o.Instrument, o.At = circuit.NonContact, []circuit.End{e}
			add(o, c.live+c.move(e))
			if g, ok := c.groundIn(e.Box); ok {
				o.Instrument, o.At = circuit.TwoPole, []circuit.End{e, g}
				add(o, c.live+c.contact+c.move(e))
			}
			for _, other := range ends { // a neutral shows against the line, a spare core does not
				if other.Box == e.Box && c.index[other] < c.index[e] {
					o.Instrument, o.At = circuit.TwoPole, []circuit.End{other, e}
					add(o, c.live+c.contact+c.move(e))
				}
			}
		}
		if len(lifted) == 0 {
			o := base
			o.Instrument = circuit.LampLook
			add(o, c.live)
			for _, s := range c.switches {
				if s.id != "" {
					o.Flipped = []string{s.id}
					add(o, c.live+c.across)
				}
			}
		}
		return out
	}
	base.LampsOut = nil
	for _, l := range c.lamps {
		if l.id == "" {
			continue
		}
		base.LampsOut = append(base.LampsOut, l.id)
		for _, terminal := range []string{"l", "n"} {
			ends = append(ends, circuit.End{Ref: circuit.Ref{Owner: l.id, Part: terminal}})
		}
	}
	for i, a := range ends {
		for _, b := range ends[:i] {
			if a.Box == "" && b.Box == "" {
				continue
			}
			o := base
			o.Instrument, o.At = circuit.Continuity, []circuit.End{b, a}
			cost := 1 + c.move(b)
			switch {
			case a.Box == "":
				cost += c.lead + c.ladder
			case a.Box != b.Box:
				cost += c.lead
			}
			add(o, cost)
		}
	}
	return out
}

// move is what it costs to read in another box than the one before.
func (c *chooser) move(e circuit.End) float64 {
	if c.last == nil || len(c.last.At) == 0 || c.last.At[0].Box == e.Box {
		return 0
	}
	return c.across
}

// representatives names one core end of each conductor in each opened box, as it is
// apart while those terminals are lifted.
func (c *chooser) representatives(lifted []circuit.Ref) []circuit.End {
	s := c.prepare(circuit.Observation{Lifted: lifted})
	joined := newSets(c.atoms)
	for _, u := range s.screws {
		joined.unite(u[0], u[1])
	}
	type spot struct {
		root int
		box  string
	}
	seen := map[spot]bool{}
	var out []circuit.End
	for n, e := range c.nodes {
		a := c.atom[n]
		if e.Box == "" || c.earthed[a] || c.doc.Box(e.Box).Kind == circuit.Panel {
			continue
		}
		if at := (spot{joined.root(a), e.Box}); !seen[at] {
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

// simulate finds what each test of a phase may show in each world.
func (c *chooser) simulate(p *phase) {
	for i := range p.tests {
		t := &p.tests[i]
		t.shows, t.sure = make([]outcome, len(c.worlds)), make([]outcome, len(c.worlds))
		t.odds, t.firm = make([][3]float32, len(c.worlds)), make([][3]float32, len(c.worlds))
	}
	for from := 0; from < len(p.tests); {
		to := from
		for to < len(p.tests) && slices.Equal(p.tests[to].test.Flipped, p.tests[from].test.Flipped) {
			to++
		}
		s := c.prepare(p.tests[from].test)
		for i, w := range c.worlds {
			some := w.some(1 << (len(c.switches) + w.bits))
			share := 1 / float32(len(some))
			for _, n := range some {
				c.net.join(w, n, &s)
				c.net.soften(w, &s)
				for k := from; k < to; k++ {
					t := &p.tests[k]
					o := c.net.read(t.test.Instrument, s.on, t.at, &s)
					t.shows[i] |= o
					if o&(o-1) == 0 {
						t.sure[i] |= o
					}
					for b := range t.odds[i] {
						if o>>b&1 == 1 {
							t.odds[i][b] += share
							if o&(o-1) == 0 {
								t.firm[i][b] += share
							}
						}
					}
				}
			}
		}
		from = to
	}
}

// some picks combinations of a world, spread over all that are left.
func (w *world) some(all int) []int {
	var left []int
	for n := range all {
		if w.alive.has(n) {
			left = append(left, n)
		}
	}
	if len(left) <= mostCombinations {
		return left
	}
	out := make([]int, mostCombinations)
	for i := range out {
		out[i] = left[(i*len(left)+i*7)/mostCombinations%len(left)] // not in step with any one switch
	}
	return out
}

// perhapsApart is how much of a pair of worlds stays open that a test may tell apart,
// but need not: the travelers may lie the other way.
const perhapsApart = 0.2

// weigh finds how much of what is open a phase can settle: the share, by weight, of
// pairs of worlds with different roles that no test here tells apart.
func (c *chooser) weigh(p *phase) {
	words := (len(p.tests) + 63) / 64
	type sets [3][]uint64
	make3 := func(of func(*candidate) []outcome) []sets {
		out := make([]sets, len(c.worlds))
		for i := range out {
			for b := range 3 {
				out[i][b] = make([]uint64, words)
			}
			for k := range p.tests {
				for b := range 3 {
					if of(&p.tests[k])[i]>>b&1 == 1 {
						out[i][b][k>>6] |= 1 << (k & 63)
					}
				}
			}
		}
		return out
	}
	can := make3(func(t *candidate) []outcome { return t.shows })
	sure := make3(func(t *candidate) []outcome { return t.sure })
	open, left := 0.0, 0.0
	for i, a := range c.worlds {
		for j, b := range c.worlds[:i] {
			if a.same == b.same {
				continue
			}
			weight := a.weight * b.weight
			open += weight
			apart, perhaps := false, false
			for w := range words {
				var agree, differ uint64
				for o := range 3 {
					agree |= can[i][o][w] & can[j][o][w]
					differ |= sure[i][o][w]&^can[j][o][w] | sure[j][o][w]&^can[i][o][w]
				}
				full := ^uint64(0)
				if w == words-1 && len(p.tests)&63 != 0 {
					full = 1<<(len(p.tests)&63) - 1
				}
				apart = apart || agree != full
				perhaps = perhaps || differ != 0
			}
			switch {
			case apart:
			case perhaps:
				left += weight * perhapsApart
			default:
				left += weight
			}
		}
	}
	p.unsure = left / open
	roles := map[int]bool{}
	for _, w := range c.worlds {
		roles[w.same] = true
	}
	cheapest := math.Inf(1)
	for _, t := range p.tests {
		cheapest = min(cheapest, t.cost)
	}
	p.reads = cheapest * math.Log2(float64(len(roles)))
}

// pick returns the test of a phase that tells most apart for what it costs.
func (c *chooser) pick(p phase) circuit.Observation {
	best, value := 0, -1.0
	for k, t := range p.tests {
		if v := c.tells(t) / t.cost; v > value*(1+1e-9) {
			best, value = k, v
		}
	}
	return p.tests[best].test
}

// tells is by how much a test may be expected to lessen what is open: the odds that
// two circuits drawn from what is left differ in their roles. Where a reading may come
// either way, it is taken to come the way that tells least.
func (c *chooser) tells(t candidate) float64 {
	var all, firm [3]float64
	roles := map[int]*[4]float64{}
	for i, w := range c.worlds {
		r := roles[w.same]
		if r == nil {
			r = new([4]float64)
			roles[w.same] = r
		}
		r[3] += w.weight
		for o := range 3 {
			all[o] += w.weight * float64(t.odds[i][o])
			firm[o] += w.weight * float64(t.firm[i][o])
			r[o] += w.weight * float64(t.odds[i][o])
		}
	}
	total := 0.0
	for _, r := range roles {
		total += r[3]
	}
	open := func(o int, of float64) float64 {
		left := 1.0
		for _, r := range roles {
			left -= r[o] * r[o] / (of * of)
		}
		return left
	}
	after, sure, worst := 0.0, 0.0, 0.0
	for o := range 3 {
		if all[o] == 0 {
			continue
		}
		left := open(o, all[o])
		after += firm[o] * left
		sure += firm[o]
		worst = max(worst, left)
	}
	return open(3, total) - (after+(total-sure)*worst)/total
}
