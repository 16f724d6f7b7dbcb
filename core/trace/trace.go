// Package trace works out what the walls hide.
//
// # The idea in one page
//
// A survey shows stubs: cables that leave opened boxes for where nobody has
// looked. A world is one whole circuit that fits the survey: which stubs are the
// two ends of one cable, which go to the panel, to the light, to a hidden joint,
// on to other rooms, and what each core hangs on there. [New] finds all of them.
// They come out of two sides: the ways in which these switches can each toggle
// their light (see pattern), and the trees in which these cables can run (see
// topology); a world is a way led through a tree.
//
// A reading rules worlds out: each predicts what an instrument would show, and a
// world that could not have shown what was read is gone. What an instrument shows
// on a conductor that floats, or across a lamp, settles nothing; such a prediction
// is "either". How the switches stood when found, and which of two travelers is
// which beyond a wall, stays open inside each world as a set of combinations.
//
// [Tracer.Next] looks for the test whose readings would split the worlds best for
// what it costs over the rest of the way, dead tests first or fewest walks. Tracing
// is done when all worlds that are left give every conductor that can be seen the
// same role; [Tracer.Circuit] then writes the circuit of record.
//
// # What is taken for granted
//
// Each switch works from every position of the others, unless the customer reports
// otherwise; only the line is switched, or line and neutral enter on one pair of
// travelers as in the old prohibited circuit; grounds hang together; one breaker
// feeds the light; one net does not run twice in one cable.
package trace

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Tracer holds all worlds of one survey and what readings have left of them. Use
// one Tracer from one goroutine at a time.
type Tracer struct {
	*view
	patterns []pattern
	worlds   []*world
	all      []*world // before any reading
	made     []circuit.Observation
	left     []int // worlds left after each of them
	net      network
	visible  []int   // classes with a core end in an opened box
	odds     float64 // how likely a world must be to be gone through
}

// New finds every world that fits the record, and rules out those that the
// document's own observations exclude. It returns an [*Error] for records that are
// too large or not to be traced, and the context's error when that ends.
func New(ctx context.Context, c *circuit.Circuit) (*Tracer, error) {
	t, err := fill(ctx, c, usualOf(c))
	if err != nil || len(t.worlds) > 0 {
		return t, err
	}
	// Only when no usual circuit is left are the unusual ones gone through, and that
	// for a while: where they are too many, it stays with the usual.
	within, cancel := context.WithTimeout(ctx, unusualTime)
	defer cancel()
	deep, err := fill(within, c, usualOf(c)*unusualOdds)
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case err != nil:
		return t, nil
	}
	return deep, nil
}

// How much less likely than usual a circuit may be once no usual one is left, and for
// how long such are looked for.
const (
	unusualOdds = 1e-3
	unusualTime = 5 * time.Second
)

// usualOf is how likely a world must be, against the likeliest, to be gone through.
func usualOf(c *circuit.Circuit) float64 {
	if count(c) > 3 {
		return manyOdds
	}
	return usualOdds
}

// fill is a tracer that has taken the document's own observations.
func fill(ctx context.Context, c *circuit.Circuit, odds float64) (*Tracer, error) {
	t, err := blank(ctx, c, odds)
	if err != nil {
		return nil, err
	}
	for _, o := range c.Observations {
		t.Observe(o)
	}
	return t, nil
}

// count counts the switches of a record.
func count(c *circuit.Circuit) int {
	n := 0
	for _, d := range c.Devices {
		if d.Mechanical() {
			n++
		}
	}
	return n
}

// blank is a tracer before any reading.
func blank(ctx context.Context, c *circuit.Circuit, odds float64) (*Tracer, error) {
	v, err := newView(c)
	if err != nil {
		return nil, err
	}
	t := &Tracer{view: v, odds: odds}
	t.net.view = v
	t.patterns = v.patterns()
	if slices.ContainsFunc(c.Reports, func(r circuit.Report) bool { return fails(r.Says) }) {
		t.patterns = append(t.patterns, spoilt(t.patterns)...)
	}
	if t.worlds, err = v.worlds(ctx, t.patterns, odds); err != nil {
		return nil, err
	}
	t.begin()
	for _, r := range c.Reports {
		t.report(r)
	}
	t.all = slices.Clone(t.worlds)
	return t, nil
}

func fails(says string) bool { return says == circuit.SaysNothing || says == circuit.SaysSometimes }

// begin gives each world its combinations, its weight and its set of roles.
func (t *Tracer) begin() {
	for i, c := range t.classes {
		if !c.ground && slices.ContainsFunc(c.ends, func(e circuit.End) bool { return e.Box != "" }) {
			t.visible = append(t.visible, i)
		}
	}
	number := map[string]int{}
	for _, w := range t.worlds {
		w.alive = newBitset(1 << (len(t.switches) + w.bits))
		for i := range 1 << (len(t.switches) + w.bits) {
			for s, c := range t.switches {
				if c.fixed >= 0 && i>>s&1 != c.fixed {
					w.alive.drop(i)
				}
			}
		}
		w.weight = w.prior
		key := ""
		for _, c := range t.visible {
			key += string(w.roles[c]) + " "
		}
		if _, ok := number[key]; !ok {
			number[key] = len(number)
		}
		w.same = number[key]
	}
	t.sort()
}

// sort drops what is ruled out, weighs the rest to 1 and puts the likeliest first.
func (t *Tracer) sort() {
	t.worlds = slices.DeleteFunc(slices.Clone(t.worlds), func(w *world) bool { return w.weight == 0 })
	sum := 0.0
	for _, w := range t.worlds {
		sum += w.weight
	}
	for _, w := range t.worlds {
		w.weight /= sum
	}
	slices.SortStableFunc(t.worlds, func(a, b *world) int {
		switch {
		case a.weight > b.weight:
			return -1
		case a.weight < b.weight:
			return 1
		}
		return 0
	})
}

// report takes what the customer says into account.
func (t *Tracer) report(r circuit.Report) {
	for _, w := range t.worlds {
		switch r.Says {
		case circuit.SaysOthersDie, circuit.SaysNothingElse:
			if onward := len(w.soft) > 1+len(t.outlets); onward != (r.Says == circuit.SaysOthersDie) {
				w.weight *= 0.1
			}
		default:
			for i, s := range t.switches {
				if (r.Device == "" || s.id == r.Device) && t.does(w, i) != r.Says {
					w.weight = 0
				}
			}
		}
	}
	t.sort()
}

// does says what a switch does in a world, in the words of a report.
func (t *Tracer) does(w *world, i int) string {
	if !w.pattern.faulty {
		return circuit.SaysWorks
	}
	s := t.prepare(circuit.Observation{Power: "on"})
	changes, all := 0, 1<<len(t.switches)
	for positions := range all {
		was := t.lit(w, positions, &s)
		if was < 0 {
			return "shorts"
		}
		if was != t.lit(w, positions^1<<i, &s) {
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

// lit says which lamps are lit, as bits; -1 where the breaker trips.
func (t *Tracer) lit(w *world, positions int, s *setup) int {
	t.net.join(w, positions, s)
	if t.net.shorted() {
		return -1
	}
	out := 0
	for l, lamp := range t.lamps {
		a := t.net.root(t.terminalNode(lamp, 0))
		b := t.net.root(t.terminalNode(lamp, 1))
		if a == t.net.source[0] && b == t.net.source[1] || a == t.net.source[1] && b == t.net.source[0] {
			out |= 1 << l
		}
	}
	return out
}

// Observe rules out what could not have shown a reading. A test that was not made,
// or that nobody could read, rules nothing out.
func (t *Tracer) Observe(o circuit.Observation) {
	t.made = append(t.made, o)
	defer func() { t.left = append(t.left, len(t.worlds)) }()
	bit := t.readingBit(o)
	if bit == 0 {
		return
	}
	s := t.prepare(o)
	at := t.probes(o)
	for _, w := range t.worlds {
		before := w.alive.count()
		w.alive = slices.Clone(w.alive)
		for i := range 1 << (len(t.switches) + w.bits) {
			if w.alive.has(i) && t.predict(w, i, o.Instrument, at, &s)&bit == 0 {
				w.alive.drop(i)
			}
		}
		w.weight *= float64(w.alive.count()) / float64(before)
	}
	t.sort()
}

func (t *Tracer) probes(o circuit.Observation) []probe {
	var at []probe
	for _, e := range o.At {
		at = append(at, t.probe(e))
	}
	return at
}

func (t *Tracer) predict(w *world, combination int, instrument string, at []probe, s *setup) outcome {
	t.net.join(w, combination, s)
	t.net.soften(w, s)
	return t.net.read(instrument, s.on, at, s)
}

// could lists what a test may show in any world that is left.
func (t *Tracer) could(w *world, o circuit.Observation) outcome {
	s := t.prepare(o)
	at := t.probes(o)
	out := outcome(0)
	for i := range 1 << (len(t.switches) + w.bits) {
		if w.alive.has(i) {
			out |= t.predict(w, i, o.Instrument, at, &s)
		}
	}
	return out
}

// Worlds counts the worlds that are left.
func (t *Tracer) Worlds() int { return len(t.worlds) }

// Done reports whether every world that is left gives each conductor that can be
// seen the same role.
func (t *Tracer) Done() bool {
	return len(t.worlds) > 0 && !slices.ContainsFunc(t.worlds, func(w *world) bool { return w.same != t.worlds[0].same })
}

// Odds gives for each core end in an opened box how likely each role is. Nothing
// that is still possible rounds to nothing, and nothing that is open to certainty.
func (t *Tracer) Odds() map[circuit.End]map[electric.Role]float64 {
	out := map[circuit.End]map[electric.Role]float64{}
	for i, c := range t.classes {
		by := map[electric.Role]float64{}
		for _, w := range t.worlds {
			by[w.roles[i]] += w.weight
		}
		for role, p := range by {
			if by[role] = 1; len(by) > 1 {
				by[role] = math.Min(0.9999, math.Max(0.0001, math.Round(p*1e4)/1e4))
			}
		}
		for _, e := range c.ends {
			if e.Box != "" && len(by) > 0 {
				out[e] = by
			}
		}
	}
	return out
}

// String says in a line how far tracing is.
func (t *Tracer) String() string {
	return fmt.Sprintf("%d worlds, done %t", len(t.worlds), t.Done())
}
