package trace

import (
	"context"
	"iter"
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
	reading  float64 // one with the power on
	contact  float64 // and metal touched for it
	lead     float64 // continuity between two boxes: long lead or helper
	ladder   float64 // to the lamp's socket
	lift     float64 // a wire off its screw and back
	across   float64 // a reading in another box than the one before
	deadless float64 // that anything has to be live at all
}

var pricesOf = map[Prefer]prices{
	Dead:  {walk: 20, reading: 4, contact: 4, lead: 1, ladder: 1.5, lift: 0.4, across: 0.5, deadless: 200},
	Trips: {walk: 20, reading: 1, contact: 0.5, lead: 3, ladder: 5, lift: 0.4, across: 2},
}

// phase is a state of breaker and lifted wires in which any number of tests can be
// made one after the other.
type phase struct {
	tests  []candidate
	cost   float64 // to get there, and back to "off" at the end
	unsure float64 // share of what is open that no test here can settle
	reads  float64 // about what the readings cost that settle the rest
	best   int     // the test that tells most for what it costs, -1 where none tells anything
}

// chooser looks for the next test.
type chooser struct {
	*Tracer
	prices
	worlds []*world
	stake  []float64            // by world: what it counts for
	last   *circuit.Observation // the state in which the person stands
	tried  map[string]bool      // tests that were made
	// screwsOnly: instruments are put to what stands under screws, and to lamps.
	screwsOnly bool
	// wide: more ways to lift wires and flip switches are thought of.
	wide bool
	// states that were gone through already, with the cells of their tables
	states []state
	cells  int
	// confirms: how many of the worlds are what is settled; the others are what a slip would
	// leave.
	confirms int
}

// Next returns the test to make next, or ok false where every conductor is settled and no
// confirming reading is due, or no test can tell what is left apart. The context ends long work.
func (t *Tracer) Next(ctx context.Context, prefer Prefer) (test circuit.Observation, ok bool, err error) {
	t.asked, t.early = nil, false
	switch {
	case !t.possible():
		return test, false, nil
	case t.looking:
		test, ok = t.nextLink()
		return test, ok, nil
	}
	if t.suspected() || t.Resolved() {
		due, err := t.due(ctx, prefer)
		switch {
		case due != nil:
			t.asked = due
			return due.Test, true, nil
		case err != nil:
			return test, false, err
		case t.Resolved():
			if len(t.lamps) > 1 {
				test, ok = t.look(prefer)
			}
			return test, ok, nil
		}
	}
	for _, wide := range []bool{false, true} {
		if test, ok, err = t.splits(ctx, prefer, wide); ok || err != nil {
			return test, ok, err
		}
	}
	if test, ok = t.look(prefer); ok {
		return test, true, nil
	}
	if test, ok, err = t.prohibited(ctx); ok || err != nil {
		return test, ok, err
	}
	// No test tells more. A false reading may be why.
	due, err := t.due(ctx, prefer)
	if due == nil {
		return test, false, err
	}
	t.asked = due
	return due.Test, true, nil
}

// splits looks for the test that splits the worlds best; a wide search thinks of more ways to
// lift wires and flip switches.
func (t *Tracer) splits(ctx context.Context, prefer Prefer, wide bool) (test circuit.Observation, ok bool, err error) {
	c := t.chooser(prefer, t.worlds())
	c.wide = wide
	among := func(powers []bool, liftings [][]circuit.Ref) (circuit.Observation, bool, error) {
		return c.split(ctx, prefer, powers, liftings)
	}
	switch {
	case t.cannot[circuit.CannotLive]:
		return among([]bool{false}, nil)
	case t.isOn(): // what can be told as all stands costs no walk
		if test, ok, err = among([]bool{true}, [][]circuit.Ref{t.last().Lifted}); ok || err != nil {
			return test, ok, err
		}
		return among([]bool{false, true}, nil)
	}
	if prefer != Dead || len(t.switches) > fewSwitches || t.deadReadings() >= mostDeadFirst {
		lifted, live, err := c.liveAtOnce(ctx)
		if err != nil {
			return test, false, err
		}
		if live {
			if test, ok, err = among([]bool{true}, [][]circuit.Ref{lifted}); ok || err != nil {
				t.early = true
				return test, ok, err
			}
		}
	}
	// What can be told with the power off costs no walk and no danger.
	if test, ok, err = among([]bool{false}, nil); ok || err != nil {
		return test, ok, err
	}
	return among([]bool{true}, nil)
}

// deadReadings counts the readings made with the power off.
func (t *Tracer) deadReadings() int {
	n := 0
	for _, o := range t.made {
		if o.Power != "on" && o.Reading != nil {
			n++
		}
	}
	return n
}

// split looks for the best test with one of those powers, and with one of those sets of
// wires lifted where they are given. First what the screws are on, then all else: that depends
// on it.
func (c *chooser) split(ctx context.Context, prefer Prefer, powers []bool, liftings [][]circuit.Ref) (test circuit.Observation, ok bool, err error) {
	if patterns := c.likeliestOfFrames(); differ(patterns) {
		first := c.chooser(prefer, patterns)
		first.screwsOnly, first.wide = true, c.wide
		if test, ok, err = first.choose(ctx, powers, liftings); ok || err != nil {
			return test, ok, err
		}
	}
	return c.choose(ctx, powers, liftings)
}

// differ reports whether worlds give conductors different roles.
func differ(worlds []*world) bool {
	return slices.ContainsFunc(worlds, func(w *world) bool { return w.same != worlds[0].same })
}

// choose weighs all states of breaker and wires, and returns the best test in the best.
func (c *chooser) choose(ctx context.Context, powers []bool, liftings [][]circuit.Ref) (test circuit.Observation, ok bool, err error) {
	if liftings == nil {
		liftings = c.liftings()
	}
	best, value := phase{}, math.Inf(1)
	for _, on := range powers {
		for _, lifted := range liftings {
			if err := ctx.Err(); err != nil {
				return test, false, err
			}
			p := c.phase(on, lifted)
			if p.best < 0 {
				continue
			}
			if v := p.cost + p.reads + p.unsure*(2*c.walk+c.deadless+10); v < value {
				best, value = p, v
			}
		}
	}
	if value == math.Inf(1) {
		return test, false, nil
	}
	return best.tests[best.best].test, true, nil
}

// Every world must be ruled out by a reading but those of one set of roles, the unlikely
// ones too: they count for nearly as much as the likely ones, by their odds raised to this
// power.
const flatter = 0.1

func (t *Tracer) chooser(prefer Prefer, worlds []*world) *chooser {
	c := &chooser{Tracer: t, prices: pricesOf[prefer], worlds: byPolarity(worlds), tried: map[string]bool{}}
	sum := 0.0
	for _, w := range c.worlds {
		c.stake = append(c.stake, math.Pow(w.weight, flatter))
		sum += c.stake[len(c.stake)-1]
	}
	for i := range c.stake {
		c.stake[i] /= sum
	}
	for i := range t.made {
		if t.made[i].Reading == nil {
			continue
		}
		c.last = &t.made[i]
		c.tried[t.made[i].Key()] = true
	}
	return c
}

// liftings lists sets of terminals worth lifting: nothing, what is lifted now, all
// commons, those that hold one wire, everything.
func (c *chooser) liftings() [][]circuit.Ref {
	out := [][]circuit.Ref{nil}
	if c.last != nil && len(c.last.Lifted) > 0 {
		out = append(out, c.last.Lifted)
	}
	var commons, alone, all []circuit.Ref
	for _, s := range c.switches {
		for i, n := range s.nodes {
			all = append(all, c.nodes[n].Ref)
			if s.kind == middle || i > 0 && !s.unmarked {
				continue
			}
			commons = append(commons, c.nodes[n].Ref)
			if len(c.classes[c.class[c.atom[n]]].pieces) == 1 {
				alone = append(alone, c.nodes[n].Ref)
			}
		}
	}
	sets := [][]circuit.Ref{commons, alone, all}
	if c.wide {
		for _, s := range c.switches {
			from := len(all)
			for _, n := range s.nodes {
				all = append(all, c.nodes[n].Ref)
				sets = append(sets, all[len(all)-1:])
			}
			sets = append(sets, all[from:])
		}
	}
	for _, more := range sets {
		if !slices.ContainsFunc(out, func(have []circuit.Ref) bool { return slices.Equal(have, more) }) {
			out = append(out, more)
		}
	}
	return out
}

// phase weighs what tests in one state of breaker and wires can tell.
func (c *chooser) phase(on bool, lifted []circuit.Ref) phase {
	p := phase{cost: float64(c.moved(lifted)) * c.lift}
	isOn := c.last != nil && c.last.Power == "on"
	sameLift := c.last != nil && slices.Equal(c.last.Lifted, lifted)
	switch {
	case on && isOn && sameLift:
		p.cost = 0 // switching off at the end has to be paid whatever is done next
	case on && isOn:
		p.cost += 3*c.walk + c.deadless // off, lift, on, off
	case on:
		p.cost += 2*c.walk + c.deadless
	case isOn:
		p.cost += c.walk
	}
	p.tests, p.best = c.simulated(on, lifted), -1
	if len(p.tests) == 0 {
		return p
	}
	most, rate := 0.0, 0.0
	for k := range p.tests {
		gain := c.informationGain(&p.tests[k])
		if v := gain / p.tests[k].cost; v > rate*(1+1e-9) {
			p.best, rate = k, v
		}
		most = max(most, gain)
	}
	if now := c.open(); most < leastGain*now {
		p.best = -1
	} else {
		p.reads = now / rate
		c.weigh(&p)
	}
	return p
}

// moved counts the wires that are lifted and put back to come to where these are lifted.
func (c *chooser) moved(lifted []circuit.Ref) int {
	if c.last == nil {
		return len(lifted)
	}
	return len(missing(lifted, c.last.Lifted)) + len(missing(c.last.Lifted, lifted))
}

// leastGain is the share of what is open that the best test of a phase must be sure to
// settle for the phase to be worth while.
const leastGain = 1e-3

// open is how much is open among the worlds: what all count for but the one that counts
// most.
func (c *chooser) open() float64 { return 1 - slices.Max(c.stake) }

// byPolarity makes two of each world in which the feed may lie either way. They are of one
// set of roles, but a reading tells little before it is known which of them it is.
func byPolarity(worlds []*world) []*world {
	var out []*world
	for _, w := range worlds {
		var usual, exchanged []int
		for _, c := range w.combinations {
			if w.f.exchanged(c) {
				exchanged = append(exchanged, c)
			} else {
				usual = append(usual, c)
			}
		}
		for _, part := range [2][]int{usual, exchanged} {
			if len(part) == 0 {
				continue
			}
			own := *w
			if own.combinations = part; w.f.exchanged(part[0]) && len(usual) > 0 {
				own.weight *= exchangedWeight
			}
			out = append(out, &own)
		}
	}
	return out
}

// perhapsApart is how much of a pair of worlds stays open that a test may tell apart,
// but need not: the travelers may lie the other way.
const perhapsApart = 0.2

// weigh finds how much of what is open a phase can settle: the share, by weight, of
// pairs of worlds with different roles that no test here tells apart.
func (c *chooser) weigh(p *phase) {
	open, left := 0.0, 0.0
	for pair, how := range c.separations(p.tests) {
		weight := c.stake[pair.i] * c.stake[pair.j]
		open += weight
		switch how {
		case never:
			left += weight
		case perhaps:
			left += weight * perhapsApart
		}
	}
	p.unsure = left / open
}

// separation says whether tests tell two worlds apart.
type separation uint8

const (
	never   separation = iota
	perhaps            // the travelers may lie so that one of them does
	surely
)

// pair is two worlds that give conductors different roles.
type pair struct{ i, j int }

// separations goes through all pairs of worlds with different roles, and says whether some
// of those tests tells them apart.
func (c *chooser) separations(tests []candidate) iter.Seq2[pair, separation] {
	words := (len(tests) + 63) / 64
	type sets [3][]uint64
	make3 := func(of func(*candidate) []outcome) []sets {
		out := make([]sets, len(c.worlds))
		for i := range out {
			for b := range 3 {
				out[i][b] = make([]uint64, words)
			}
			for k := range tests {
				for b := range 3 {
					if of(&tests[k])[i]>>b&1 == 1 {
						out[i][b][k>>6] |= 1 << (k & 63)
					}
				}
			}
		}
		return out
	}
	can := make3(func(t *candidate) []outcome { return t.shows })
	sure := make3(func(t *candidate) []outcome { return t.sure })
	return func(yield func(pair, separation) bool) {
		for i, a := range c.worlds {
			for j, b := range c.worlds[:i] {
				if a.same == b.same {
					continue
				}
				how := never
				for w := range words {
					var agree, differ uint64
					for o := range 3 {
						agree |= can[i][o][w] & can[j][o][w]
						differ |= sure[i][o][w]&^can[j][o][w] | sure[j][o][w]&^can[i][o][w]
					}
					full := ^uint64(0)
					if w == words-1 && len(tests)&63 != 0 {
						full = 1<<(len(tests)&63) - 1
					}
					if agree != full {
						how = surely
						break
					}
					if differ != 0 {
						how = perhaps
					}
				}
				if !yield(pair{i, j}, how) {
					return
				}
			}
		}
	}
}

// informationGain is how many of the worlds that are left a test may be expected to rule
// out, by what they count for. Where a reading may come either way, it is taken to come
// the way that tells least.
func (c *chooser) informationGain(t *candidate) float64 {
	var odds, sure, left [3]float64
	for i, w := range c.worlds {
		for o := range 3 {
			odds[o] += w.weight * t.share(i, o)
			sure[o] += w.weight * t.firmShare(i, o)
			if t.shows[i]>>o&1 == 1 {
				left[o] += c.stake[i]
			}
		}
	}
	after, firm, most := 0.0, 0.0, 0.0
	for o := range 3 {
		if odds[o] > 0 {
			after += sure[o] * left[o]
			firm += sure[o]
			most = max(most, left[o])
		}
	}
	return 1 - after - (1-firm)*most
}
