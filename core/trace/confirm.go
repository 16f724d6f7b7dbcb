package trace

import (
	"context"
	"fmt"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// Everybody misreads a tester now and then: a probe slips, a beep is taken for another's.
// So before a circuit is called known, a reading is looked for that would come out wrong if
// any one of those made so far was: the circuits that one reading the other way round would
// leave are gathered, and a test is asked that shows something else in each.

// slip is a world that fits all readings but one, which it shows the other way round, and
// that gives some conductor another role than what is settled.
type slip struct {
	w       *world
	reading int // in the bits of frames
}

// How many slips are weighed against each other, and how many frames and readings are gone
// through for them at most: what is past that is not confirmed, and said so.
const (
	mostSlips       = 160
	mostSlipWork    = 60_000 // combinations gone through
	mostSlipLooks   = 40_000 // combinations in which a circuit is looked for, which takes longer
	mostSlipsByPair = 3      // of one frame and reading
)

// slips are the worlds that one false reading would leave, as far as they were told apart.
type slips struct {
	list  []slip
	whole bool // nothing was left out for being too much to go through
	made  int  // readings made when they were gathered
	work  int
	until int // of all combinations in which a circuit was looked for
}

// hold takes out what one more reading excludes.
func (s *slips) hold(t *Tracer, m *made) {
	if s == nil {
		return
	}
	s.list = slices.DeleteFunc(s.list, func(one slip) bool {
		one.w.combinations = slices.DeleteFunc(one.w.combinations, func(c int) bool {
			t.net.join(one.w.f, c, m.setup, one.w.nets)
			return t.net.shows(m, one.w.f.classOf(c), one.w.nets)&m.bit == 0
		})
		return len(one.w.combinations) == 0
	})
}

// slips gathers what one false reading would leave, anew where readings have left nothing of
// what was gathered before.
func (t *Tracer) slips(ctx context.Context) (*slips, error) {
	if s := t.slipped; s != nil && (len(s.list) > 0 || s.made == len(t.made)) {
		return s, nil
	}
	out, err := t.gather(ctx, t.roles())
	t.slipped = out
	return out, err
}

// gather goes through what one false reading would leave, as far as it gives some conductor
// another role than what is settled; nil for all of it.
func (t *Tracer) gather(ctx context.Context, settled []map[electric.Role]bool) (*slips, error) {
	out := &slips{whole: true, made: len(t.made), until: t.looked + t.slipLooks}
	for i, f := range t.frames {
		if i%16 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if f.told {
			continue
		}
		if out.work > mostSlipWork || t.looked > out.until || len(out.list) >= mostSlips {
			out.whole = false
			break
		}
		t.catchUp(f)
		out.of(t, f, settled)
	}
	return out, nil
}

// of gathers those of one frame.
func (s *slips) of(t *Tracer, f *frame, settled []map[electric.Role]bool) {
	scoped := uint64(0)
	for i := range t.tests {
		if len(f.scope(&t.tests[i])) > 0 {
			scoped |= 1 << t.tests[i].index
		}
	}
	single, clean := uint64(0), false
	for _, broken := range f.broken {
		switch {
		case broken == impossible:
		case broken == 0:
			clean = true
		case bits.OnesCount64(broken) == 1:
			single |= broken
		}
	}
	s.work += len(f.broken)
	if clean {
		single |= scoped
	}
	if f.scoped = scoped; single == 0 {
		return
	}
	other := settled == nil || f.otherRole(t, settled)
	for left := single; left != 0; left &= left - 1 {
		d := doubt{invert: bits.TrailingZeros64(left)}
		n := 0
		add := func(w *world) {
			if w != nil && n < mostSlipsByPair && (settled == nil || t.differs(w, settled)) {
				n++
				s.list = append(s.list, slip{w, d.invert})
			}
		}
		if f.noSlip[[3]int{d.invert, -1, 0}] {
			continue
		}
		if t.looked > s.until {
			s.whole = false
			return
		}
		w := t.witnessUnder(f, -1, 0, d)
		s.work += len(f.routes) * len(f.free)
		if w == nil {
			f.rulesOut(d.invert, -1, 0)
			continue
		}
		add(w)
		for u, class := range f.free {
			for net := range f.kinds {
				if s.whole = s.whole && t.looked <= s.until; !s.whole {
					return
				}
				if n < mostSlipsByPair && f.domain[u]>>net&1 == 1 && !other && t.seen(class) && !settled[class][f.roleAt(int8(net))] && !f.noSlip[[3]int{d.invert, u, net}] {
					s.work += len(f.routes) * len(f.free)
					if w := t.witnessUnder(f, u, int8(net), d); w != nil {
						add(w)
					} else {
						f.rulesOut(d.invert, u, net)
					}
				}
			}
		}
	}
}

// rulesOut notes that no circuit of a frame fits all readings but one, with a free class on a
// net: none will when there are more readings.
func (f *frame) rulesOut(reading, free, net int) {
	if f.noSlip == nil {
		f.noSlip = map[[3]int]bool{}
	}
	f.noSlip[[3]int{reading, free, net}] = true
}

// otherRole reports whether a frame itself gives some conductor that can be seen another
// role than what is settled, whatever its free ones carry.
func (f *frame) otherRole(t *Tracer, settled []map[electric.Role]bool) bool {
	for _, nets := range f.class {
		if nets != nil {
			return slices.ContainsFunc(t.visible, func(class int) bool {
				return nets[class] != undecided && !settled[class][f.roleAt(nets[class])]
			})
		}
	}
	return false
}

// seen reports whether a class has a core end in an opened box.
func (t *Tracer) seen(class int) bool { return slices.Contains(t.visible, class) }

// differs reports whether a world gives some conductor another role than what is settled.
func (t *Tracer) differs(w *world, settled []map[electric.Role]bool) bool {
	return slices.ContainsFunc(t.visible, func(class int) bool { return !settled[class][w.f.roleAt(w.nets[class])] })
}

// Confirmation is a reading that would show a slip.
type Confirmation struct {
	Test  circuit.Observation
	Walks int // what it takes, in changes of the breaker beyond those that are due anyway
	Slips int // circuits that one false reading would leave, as far as they were told apart
	Shows int // how many of them this reading would show
}

// Confirm looks for a reading that would show it if one of those made so far was false;
// nil where everything is safe against that, where no test could tell, or where something
// is still open without it. It wants as few walks as can be, and no matter what the person
// has set: the caller decides whether that is asked, offered or left.
func (t *Tracer) Confirm(ctx context.Context, prefer Prefer) (*Confirmation, error) {
	if !t.possible() || len(t.tests) == 0 {
		return nil, nil
	}
	all, err := t.slips(ctx)
	if err != nil || len(all.list) == 0 {
		return nil, err
	}
	found, err := t.shows(ctx, prefer, all.list)
	if found != nil && found.Walks == 0 || err != nil || all.made == len(t.made) {
		return found, err
	}
	t.slipped = nil // nothing shows what is left of them here and now, but there may be others
	if all, err = t.slips(ctx); err != nil || len(all.list) == 0 {
		return nil, err
	}
	return t.shows(ctx, prefer, all.list)
}

// shows looks for a test that shows some of those slips.
func (t *Tracer) shows(ctx context.Context, prefer Prefer, list []slip) (*Confirmation, error) {
	on := t.isOn()
	powers := []bool{on, !on} // switching off has to be done at the end whatever is read
	if t.cannot[circuit.CannotLive] {
		powers = []bool{false}
	}
	c := t.confirmer(prefer, list)
	for _, power := range powers {
		best, err := c.best(ctx, power, list)
		if err != nil || best != nil {
			if best != nil && power && !on {
				best.Walks = 2
			}
			return best, err
		}
	}
	return nil, nil
}

// suspected reports whether one false reading is likelier than what is left.
func (t *Tracer) suspected() bool {
	return !t.forked && t.plainer != nil && len(t.plainer.list) > 0 && t.possible()
}

// due is the confirming reading that is asked before tracing is done: by what the person has
// set always, never, or where it takes no walk.
func (t *Tracer) due(ctx context.Context, prefer Prefer) (*Confirmation, error) {
	if t.forked || t.doc.Confirm == circuit.ConfirmNever {
		return nil, nil
	}
	var c *Confirmation
	var err error
	switch {
	case t.suspected():
		c, err = t.shows(ctx, prefer, t.plainer.list)
	case t.doc.Confirm != circuit.ConfirmAlways && t.Resolved():
		return nil, nil // they come in the rounds that are made anyway
	default:
		c, err = t.Confirm(ctx, prefer)
	}
	if c != nil && c.Walks > 0 && t.doc.Confirm != circuit.ConfirmAlways {
		c = nil
	}
	return c, err
}

// unconfirmed says that a false reading may have gone unseen, where the search for what it
// would leave was cut off.
func (t teller) unconfirmed() []Assumption {
	if t.slipped == nil || t.slipped.whole {
		return nil
	}
	return []Assumption{{"No reading is false. One false reading would leave more circuits here than could be gone through, so not every one of them was ruled out.", []circuit.End{}}}
}

// whyConfirm says why the confirming reading that is asked is worth making.
func (t teller) whyConfirm() string {
	of := fmt.Sprintf("of %d such circuits it rules out %d", t.asked.Slips, t.asked.Shows)
	switch {
	case t.suspected():
		return "Only an unusual circuit shows all of these readings. If one of them is false a plainer one does: " + of + "."
	case t.Resolved():
		return "Everything is settled, if no reading is false. If one is, another circuit fits: " + of + "."
	}
	return "No test tells more as the readings stand. If one of them is false another circuit fits: " + of + "."
}

// safer is the reading that would still show a false one when tracing is done, for a price
// that the person has not said to pay; nil where there is none.
func (t teller) safer(ctx context.Context, prefer Prefer) (*Safer, error) {
	c, err := t.Confirm(ctx, prefer)
	if c == nil || err != nil {
		return nil, err
	}
	if c.Walks == 0 {
		return &Safer{Text: "One reading more, without a walk, makes this safer against one wrong reading."}, nil
	}
	return &Safer{Walks: c.Walks, Text: names.For(t.doc).Expand("One walk more, {breaker} on and off again, makes this safer against one wrong reading.")}, nil
}

// confirmer is a chooser over what is settled and what a slip would leave, in this order.
func (t *Tracer) confirmer(prefer Prefer, list []slip) *chooser {
	own := t.worlds()
	c := t.chooser(prefer, own[:min(len(own), mostCombinations)])
	for _, s := range list {
		c.worlds = append(c.worlds, s.w)
	}
	c.confirms = len(c.worlds) - len(list)
	return c
}

// again is how much more a test counts that was made before: whoever read it falsely once
// may do so again for the same reason.
const again = 4

// best is the test with the power on or off that shows most slips for what it costs.
func (c *chooser) best(ctx context.Context, on bool, list []slip) (*Confirmation, error) {
	liftings := c.liftings()
	if on && c.isOn() {
		liftings = [][]circuit.Ref{c.last.Lifted} // nothing is lifted while it is live
	}
	made := c.tried
	c.tried = map[string]bool{}
	for i := range c.made {
		if c.made[i].Reading == circuit.Unclear {
			c.tried[c.made[i].Key()] = true
		}
	}
	defer func() { c.tried = made }()
	var best *Confirmation
	rate := 0.0
	for _, lifted := range liftings {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		tests := c.tests(on, lifted)
		c.simulate(tests)
		moves := float64(c.moved(lifted)) * c.lift
		for k := range tests {
			shown := c.shown(&tests[k])
			cost := tests[k].cost + moves
			if made[tests[k].test.Key()] {
				cost *= again
			}
			if v := float64(shown) / cost; shown > 0 && v > rate*(1+1e-9) {
				best, rate = &Confirmation{Test: tests[k].test, Slips: len(list), Shows: shown}, v
			}
		}
	}
	return best, nil
}

// further lists the confirming tests that follow a first one with nothing moved: each shows slips that none before it shows, the one
// that shows most of them first, so many at most.
func (c *chooser) further(first circuit.Observation, list []slip, most int) []circuit.Observation {
	made := c.tried
	c.tried = map[string]bool{}
	defer func() { c.tried = made }()
	tests := slices.DeleteFunc(c.tests(first.Power == "on", first.Lifted), func(k candidate) bool { return !standsAs(k.test, first) })
	c.simulate(tests)
	left := make([]bool, len(list))
	for i := range left {
		left[i] = true
	}
	take := func(k *candidate) {
		for i, is := range c.showsEach(k) {
			left[i] = left[i] && !is
		}
	}
	if i := slices.IndexFunc(tests, func(k candidate) bool { return k.test.Key() == first.Key() }); i >= 0 {
		take(&tests[i])
	}
	var out []circuit.Observation
	for len(out) < most {
		best, worth := -1, 0.0
		for k := range tests {
			n := 0
			for i, is := range c.showsEach(&tests[k]) {
				if is && left[i] {
					n++
				}
			}
			cost := tests[k].cost
			if made[tests[k].test.Key()] {
				cost *= again
			}
			if v := float64(n) / cost; n > 0 && v > worth*(1+1e-9) {
				best, worth = k, v
			}
		}
		if best < 0 {
			break
		}
		take(&tests[best])
		out = append(out, tests[best].test)
	}
	return out
}

// showsEach says of each slip whether a test rules it out, whichever way it comes among the readings that what is settled may show.
func (c *chooser) showsEach(t *candidate) []bool {
	may := outcome(0)
	for i := range c.confirms {
		may |= t.shows[i]
	}
	out := make([]bool, len(c.worlds)-c.confirms)
	for i := range out {
		out[i] = may != 0 && t.shows[c.confirms+i]&may == 0
	}
	return out
}

// shown counts the slips that a test rules out, whichever way it comes among the readings
// that what is settled may show.
func (c *chooser) shown(t *candidate) int {
	may := outcome(0)
	for i := range c.confirms {
		may |= t.shows[i]
	}
	least := len(c.worlds)
	for o := first; o <= third; o <<= 1 {
		if may&o == 0 {
			continue
		}
		n := 0
		for i := c.confirms; i < len(c.worlds); i++ {
			if t.shows[i]&o == 0 {
				n++
			}
		}
		least = min(least, n)
	}
	return least
}
