// Package trace works out what the walls hide.
//
// # The idea in one page
//
// A survey shows stubs: cables that leave opened boxes for where nobody has looked. A
// world is one way in which everything may hang together beyond: which net each conductor
// is on, how the switches stood when found, which of two travelers is which. Nothing is
// taken for granted of where cables run: boxes may lie in rings, cables side by side,
// joints and switches may be hidden anywhere, so a conductor is known only where a reading
// leaves it no other net.
//
// Worlds come in two parts. A [pattern] is a way in which the switches that are seen, with
// any number that are not, can each toggle their light from every position of the others:
// it says on which net each screw stands. All other conductors are free: each may be on
// any net of the pattern, or on none. A [frame] holds a pattern with what readings have
// left of it: a bit for each combination of positions, and for each free conductor the set
// of nets that some combination leaves it. So what is possible is found without listing
// every world, and none is ever dropped for being unlikely. What odds there are order the
// worlds, and the tests, and decide nothing.
//
// A reading rules out what could not have shown it. What an instrument shows on a
// conductor that floats, or across a lamp, settles nothing; such a prediction is "either".
//
// [Tracer.Next] looks for the test whose readings would split the worlds best for what it
// costs over the rest of the way, dead tests first or fewest walks. Every conductor is
// settled when everything that is left gives it one role; [Tracer.Circuit] then writes the
// circuit of record.
//
// # What is taken for granted
//
// Each switch that is wired works from every position of the others, unless the customer
// reports otherwise; grounds hang together; no second feed is in the boxes that nobody
// recorded, unless a conductor is live with the breaker off. That line and neutral are not
// exchanged at the feed is assumed until a reading with the power on says so, and told
// among what is assumed.
package trace

import (
	"context"
	"fmt"
	"slices"
	"sync/atomic"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/practice"
)

// Tracer holds everything that fits one survey and what readings have left of it. Use one
// Tracer from one goroutine at a time.
//
// What it knows comes in layers, each made of those before it: what the survey shows, what was
// read, what that leaves, which rule of routes it is held by, and which false reading would leave
// something else. The next question (next.go) and the words (say.go) are made of these.
type Tracer struct {
	*view // what the survey shows; it does not change
	*kept // what is worked out once for all readings to come
	log
	left
	byRoutes
	doubted
	cannot  map[string]bool // ways of testing that this person cannot use
	looking bool            // for links, before anything that fits is gone through
	early   bool            // the next test is live though dead ones would still tell something
	forked  bool            // made to see where a reading leads
}

// New finds everything that fits the record, and rules out what the document's own
// observations exclude. It returns an [*Error] for records that are too large or not to be
// traced, and the context's error when that ends.
func New(ctx context.Context, c *circuit.Circuit) (*Tracer, error) {
	s, err := Stand(ctx, c)
	if err != nil {
		return nil, err
	}
	return s.Tracer(ctx)
}

// notCounted stands for how many worlds a reading left where that was not worked out.
const notCounted = -1

// size counts the combinations of all frames that fit.
func (t *Tracer) size() int {
	n := 0
	for _, f := range t.frames {
		if f.fits {
			n += len(f.broken)
		}
	}
	return n
}

var enumerations atomic.Int64

// Enumerations counts how often everything that fits a survey was gone through since the program
// began: readings are held against what stands, see [Standing].
func Enumerations() int64 { return enumerations.Load() }

// blank is a tracer before any reading.
func blank(ctx context.Context, c *circuit.Circuit, rule joints) (*Tracer, error) {
	enumerations.Add(1)
	v, unreadable := newView(c)
	if unreadable != nil {
		return nil, unreadable
	}
	t := &Tracer{view: v, kept: newKept(), byRoutes: byRoutes{rule: rule, others: &unledFrames{}}, doubted: doubted{slipLooks: mostSlipLooks}, cannot: map[string]bool{}}
	t.net.view, t.net.kept = v, t.kept
	for _, inability := range c.Cannot {
		t.cannot[inability] = true
	}
	if v.pairs = v.pairable(); v.pairs != nil {
		v.pairs.read(v, c.Observations)
	}
	var patterns []pattern
	var err error
	if !v.fewLinks() {
		patterns, err = v.patterns()
	}
	if v.tooManyLinks(patterns, err) {
		t.looking = true
		t.see()
		return t, nil
	}
	if err != nil {
		return nil, err
	}
	if slices.ContainsFunc(c.Reports, func(r circuit.Report) bool { return fails(r.Says) }) {
		patterns = append(patterns, v.miswired(patterns)...)
	}
	for i := range patterns {
		routes := v.routes(&patterns[i], rule, stepsFor(len(patterns)))
		if len(routes) == 0 {
			t.unled = append(t.unled, &patterns[i])
			continue
		}
		f, err := t.admit(&patterns[i], routes)
		if err != nil {
			return nil, err
		}
		if f != nil && len(patterns) <= mostExpected {
			f.expect(v.routes(&patterns[i], plain, leastSteps))
		}
		if f != nil {
			t.frames = append(t.frames, f)
		}
		if i%64 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	t.see()
	for _, f := range t.frames {
		t.fit(f)
		for _, r := range c.Reports {
			t.report(f, r)
		}
	}
	return t, nil
}

// see lists the classes with a core end in an opened box.
func (t *Tracer) see() {
	for i, c := range t.classes {
		if !c.ground && slices.ContainsFunc(c.ends, func(e circuit.End) bool { return e.Box != "" }) {
			t.visible = append(t.visible, i)
		}
	}
}

// admit makes a frame of a pattern that is led so; nil where the record, or what the person
// took as given, leaves none of it.
func (t *Tracer) admit(p *pattern, routes [][]carrier) (*frame, error) {
	f, err := t.frameOf(p, routes)
	if err != nil || f == nil || !t.accepts(f) {
		return nil, err
	}
	if t.work += 1 << f.bits; t.work > maxWork {
		return nil, tooMany(len(t.switches))
	}
	return f, nil
}

// mostExpected is up to how many patterns it is worked out for each what its conductors
// carry where all cables run the plain way.
const mostExpected = 400

// maxWork bounds the combinations of all patterns together: each takes sixteen bytes, and
// a few microseconds for each reading.
const maxWork = 6_000_000

func fails(says string) bool {
	return says == circuit.SaysNothing || says == circuit.SaysSometimes || says == circuit.SaysNeverLights || says == circuit.SaysTrips
}

// accepts narrows a frame to the roles that the person took as given; false where none of
// it is left.
func (t *Tracer) accepts(f *frame) bool {
	for class, role := range t.accepted {
		u := slices.Index(f.free, class)
		if u < 0 {
			for _, nets := range f.class {
				if nets != nil && string(f.roleAt(nets[class])) != role {
					return false
				}
			}
			continue
		}
		mask := uint32(0)
		for net := range f.kinds {
			if string(f.roleAt(int8(net))) == role {
				mask |= 1 << net
			}
		}
		f.routes = slices.DeleteFunc(f.routes, func(w *routing) bool {
			w.domain[u] &= mask
			w.support[u] &= mask
			return w.domain[u] == 0
		})
	}
	return len(f.routes) > 0
}

// report takes what the customer says into account.
func (t *Tracer) report(f *frame, r circuit.Report) {
	for i := range t.switches {
		s := &t.switches[i]
		switch r.Says {
		case circuit.SaysOthersDie, circuit.SaysNothingElse:
		case circuit.SaysNeverLights, circuit.SaysTrips:
			if never, trips := t.fails(f); r.Says == circuit.SaysNeverLights && !never || r.Says == circuit.SaysTrips && !trips {
				f.fits, f.told = false, true
			}
		default:
			if s.kind != idle && (r.Device == "" || s.id == r.Device) && t.does(f, i) != r.Says {
				f.fits, f.told = false, true
			}
		}
	}
}

// does says what a switch does in a pattern, in the words of a report.
func (t *Tracer) does(f *frame, i int) string {
	if !f.miswired {
		return circuit.SaysWorks
	}
	s := t.prepare(circuit.Observation{Power: "on"})
	changes, all := 0, 1<<len(f.labels)
	from := slices.IndexFunc(f.class, func(nets []int8) bool { return nets != nil }) << len(f.labels)
	for positions := range all {
		was := t.lit(f, from|positions, s)
		if was < 0 {
			return "shorts"
		}
		if was != t.lit(f, from|positions^1<<i, s) {
			changes++
		}
	}
	switch changes {
	case 0:
		return circuit.SaysNothing
	case all:
		return circuit.SaysWorks
	}
	return circuit.SaysSometimes
}

// fails reports whether no light of a pattern ever comes on, and whether the breaker trips
// in some position.
func (t *Tracer) fails(f *frame) (never, trips bool) {
	s := t.prepare(circuit.Observation{Power: "on"})
	from := slices.IndexFunc(f.class, func(nets []int8) bool { return nets != nil }) << len(f.labels)
	never = true
	for positions := range 1 << len(f.labels) {
		switch lit := t.lit(f, from|positions, s); {
		case lit < 0:
			trips = true
		case lit > 0:
			never = false
		}
	}
	return never, trips
}

// lit says which lamps are lit, as bits; -1 where the breaker trips.
func (t *Tracer) lit(f *frame, combination int, s *setup) int {
	t.net.join(f, combination, s, nil)
	if t.net.bad {
		return -1
	}
	out := 0
	for l := range f.lamps {
		if t.net.look(l) == first {
			out |= 1 << l
		}
	}
	return out
}

// Observe rules out what could not have shown a reading. A test that was not made,
// or that nobody could read, rules nothing out.
func (t *Tracer) Observe(o circuit.Observation) {
	if t.looking {
		t.seek(o)
		return
	}
	if t.take(o) {
		t.refit()
	}
	ctx := context.Background() // which does not end
	_ = t.doubtRoutes(ctx)
	if !t.forked {
		_ = t.suspect(ctx)
	}
	t.leaves[len(t.leaves)-1] = t.Worlds()
}

// take holds a reading against every frame; false where it tells nothing.
func (t *Tracer) take(o circuit.Observation) bool {
	t.made, t.leaves, t.led = append(t.made, o), append(t.leaves, 0), nil
	if t.second(o) {
		t.live = append(t.live, len(t.made)-1)
		return false
	}
	m, ok := t.taken(o)
	if !ok {
		return false
	}
	m.number = t.kept.next()
	t.slipped.hold(t, &m)
	t.plainer.hold(t, &m)
	for _, one := range t.apart(m, o) {
		if one.bundle != nil {
			one.number = t.kept.next()
		}
		t.tests = append(t.tests, one)
	}
	for _, f := range t.frames {
		if f.fits {
			t.catchUp(f)
		}
	}
	return true
}

// catchUp holds all readings against a frame that it has not been held against yet.
func (t *Tracer) catchUp(f *frame) {
	for ; f.held < len(t.tests); f.held++ {
		t.hold(f, &t.tests[f.held])
	}
}

// second reports whether a reading shows something live while the breaker is off: another
// feed than the one that this circuit hangs on.
func (t *Tracer) second(o circuit.Observation) bool {
	if o.Power == "on" {
		return false
	}
	switch r := o.Reading.(type) {
	case string:
		return r == "live" || r == "lit"
	case float64:
		return o.Instrument == circuit.TwoPole && voltsBit(r, practice.Volts(t.doc)) != first
	}
	return false
}

// Worlds counts the worlds that are gone through in choosing a test: all, where they are
// few, else the likeliest, with at least one for each role that any world gives to a
// conductor.
func (t *Tracer) Worlds() int {
	if t.looking && !t.pairs.clash {
		return mostWorlds
	}
	return len(t.worlds())
}

// More reports whether there are more worlds than those that are gone through.
func (t *Tracer) More() bool { return t.Worlds() >= mostWorlds }

// roles gives for each class the roles that anything which fits gives it.
func (t *Tracer) roles() []map[electric.Role]bool {
	out := make([]map[electric.Role]bool, len(t.classes))
	for i := range out {
		out[i] = map[electric.Role]bool{}
	}
	for _, f := range t.frames {
		if !f.fits {
			continue
		}
		for _, nets := range f.class {
			if nets == nil {
				continue
			}
			for class, n := range nets {
				if n != undecided {
					out[class][f.roleAt(n)] = true
				}
			}
			break
		}
		for u, class := range f.free {
			for net := range f.kinds {
				if f.support[u]>>net&1 == 1 {
					out[class][f.roleAt(int8(net))] = true
				}
			}
		}
	}
	return out
}

// Resolved reports whether everything that is left gives each conductor that can be seen
// the same role.
func (t *Tracer) Resolved() bool {
	if t.looking {
		return false
	}
	roles := t.roles()
	for _, class := range t.visible {
		if len(roles[class]) != 1 {
			return false
		}
	}
	return t.possible()
}

func (t *Tracer) possible() bool {
	if t.looking {
		return !t.pairs.clash
	}
	return slices.ContainsFunc(t.frames, func(f *frame) bool { return f.fits })
}

// Done reports whether every conductor that can be seen is settled, no box that may hold a
// switch of these lights is closed, and no reading is due that would show a slip: the whole
// circuit can be written down. The context ends looking for such a reading.
func (t *Tracer) Done(ctx context.Context) (bool, error) {
	if !t.Resolved() || t.rule != anyhow || len(t.closedSwitches()) > 0 {
		return false, nil
	}
	due, err := t.due(ctx, Dead)
	return due == nil, err
}

// closedSwitches lists the closed boxes that may hold a switch of these lights.
func (t *Tracer) closedSwitches() []string {
	var out []string
	if n := t.doc.Controls; n != nil && t.seenControls() >= *n {
		return nil
	}
	for _, b := range t.doc.Boxes {
		if b.Kind == circuit.Switch && !t.open[b.ID] {
			out = append(out, b.ID)
		}
	}
	return out
}

// seenControls counts the switches in opened boxes that can be one of several for a light.
func (t *Tracer) seenControls() int {
	n := 0
	for i := range t.switches {
		if s := &t.switches[i]; s.seen() && s.kind >= ending {
			n++
		}
	}
	return n
}

// String says in a line how far tracing is.
func (t *Tracer) String() string {
	return fmt.Sprintf("%d worlds, settled %t", t.Worlds(), t.Resolved())
}
