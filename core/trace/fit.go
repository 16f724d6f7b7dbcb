package trace

import (
	"math"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
)

// made is a test with a reading, ready to be held against every circuit.
type made struct {
	instrument string
	at         []probe
	lamp       int // looked at, -1 for the only one
	setup      *setup
	bit        outcome
	index      int   // in the bits of frames
	column     int   // among the tests of its setup, where it was proposed
	bundle     *made // the reading that this is a part of, taken apart; nil for a whole one
	number     int   // tells it from all others of a tracer and its copies, 0 where it was not made
}

// mostReadings is how many readings are told apart in looking for a false one; later ones
// share a bit.
const mostReadings = 62

// taken makes a test ready; ok is false for one that tells nothing.
func (t *Tracer) taken(o circuit.Observation) (m made, ok bool) {
	m = made{instrument: o.Instrument, lamp: t.lampOf(o), bit: t.readingBit(o), index: min(t.readings(), mostReadings-1)}
	if m.bit == 0 {
		return m, false
	}
	for _, e := range o.At {
		m.at = append(m.at, t.probe(e))
	}
	m.setup = t.prepare(o)
	return m, true
}

// apart takes bundles apart: where conductors held together are silent against others held
// together, each is silent against each. That is less than the reading says, and does not
// depend on all of them at once.
func (t *Tracer) apart(m made, o circuit.Observation) []made {
	if m.instrument != circuit.Continuity || m.bit != second || len(m.setup.ties) == 0 {
		return []made{m}
	}
	sides := [2][]probe{{m.at[0]}, {m.at[1]}}
	for _, group := range m.setup.ties {
		for i := range sides {
			if slices.Contains(group, m.at[i]) {
				sides[i] = group
			}
		}
	}
	bare := t.prepare(circuit.Observation{Power: o.Power, Lifted: o.Lifted, Flipped: o.Flipped, LampsOut: o.LampsOut})
	var out []made
	for _, p := range sides[0] {
		for _, q := range sides[1] {
			if p == q {
				return []made{m}
			}
			one := m
			one.at, one.setup, one.bundle = []probe{p, q}, bare, &m
			out = append(out, one)
		}
	}
	return out
}

// readings counts the readings that told something.
func (t *Tracer) readings() int {
	if len(t.tests) == 0 {
		return 0
	}
	return t.tests[len(t.tests)-1].index + 1
}

// lampOf is the lamp that a test looks at: the one that it names, the one at whose ends it
// is made, or -1 for the only one.
func (v *view) lampOf(o circuit.Observation) int {
	for i, l := range v.lamps {
		if l.id == "" {
			continue
		}
		if o.Light == l.id || slices.ContainsFunc(o.At, func(e circuit.End) bool { return e.Box == "" && e.Owner == l.id }) {
			return i
		}
	}
	return -1
}

// scope lists the free classes of a frame that a test touches.
func (f *frame) scope(m *made) []int {
	var out []int
	add := func(p probe) {
		if p.class < 0 || p.ground {
			return
		}
		if i := slices.Index(f.free, p.class); i >= 0 && !slices.Contains(out, i) {
			out = append(out, i)
		}
	}
	for _, p := range m.at {
		add(p)
	}
	for _, group := range m.setup.ties {
		for _, p := range group {
			add(p)
		}
	}
	return out
}

// shows is what a test may show in a combination, with those nets for the free classes.
// The network must have been joined for the test's setup.
func (n *network) shows(m *made, nets []int8, a assignment) outcome {
	if n.bad && n.s.on {
		return tripped
	}
	var at [2]spot
	for i, p := range m.at {
		at[i] = n.place(p, nets, a.of(p))
	}
	return n.read(m.instrument, at[0], at[1], m.lamp)
}

// hold holds one more reading against all combinations of a frame, as far as it does not
// depend on free conductors.
func (t *Tracer) hold(f *frame, m *made) {
	if len(f.scope(m)) > 0 {
		return
	}
	irrelevant := m.setup.idle
	if !m.setup.on {
		irrelevant |= 1 << (f.bits - 1) // how the feed lies does not show with the power off
	}
	if m.instrument == circuit.LampLook || m.instrument == circuit.NonContact {
		irrelevant |= 1 << (f.bits - 2)
	}
	not := inverse(m.instrument, m.bit)
	for c := range len(f.broken) {
		if c&irrelevant != 0 {
			continue
		}
		needed := false
		for sub := irrelevant; ; sub = (sub - 1) & irrelevant {
			needed = needed || bits.OnesCount64(f.broken[c|sub]) < 2 && f.broken[c|sub] != impossible
			if sub == 0 {
				break
			}
		}
		if !needed {
			continue
		}
		t.net.join(f, c, m.setup, nil)
		o := t.net.shows(m, f.classOf(c), nil)
		for sub := irrelevant; ; sub = (sub - 1) & irrelevant {
			if o&m.bit == 0 {
				f.broken[c|sub] |= 1 << m.index
			}
			if o&not != 0 {
				f.either[c|sub] |= 1 << m.index
			}
			if sub == 0 {
				break
			}
		}
	}
}

// doubt is a set of readings to leave out, and one to take the other way round; -1 for
// none.
type doubt struct {
	without uint64
	invert  int
}

var noDoubt = doubt{invert: -1}

// may reports whether a combination is left by the readings that do not depend on free
// conductors.
func (f *frame) may(c int, d doubt) bool {
	broken := f.broken[c] &^ d.without
	if d.invert < 0 {
		return broken == 0
	}
	bit := uint64(1) << d.invert
	return broken&^bit == 0 && (f.either[c]&bit != 0 || f.scoped&bit != 0)
}

// constraint is a reading that depends on free conductors.
type constraint struct {
	m     *made
	scope []int
	want  outcome
	of    [2]int // by probe: its place in the scope, -1 where its conductor is settled
}

func (f *frame) constraint(m *made, scope []int, want outcome) constraint {
	k := constraint{m, scope, want, [2]int{-1, -1}}
	for i, p := range m.at {
		if p.class >= 0 && !p.ground {
			k.of[i] = slices.IndexFunc(scope, func(u int) bool { return f.free[u] == p.class })
		}
	}
	return k
}

// constraints lists the readings of a frame that depend on free conductors.
func (t *Tracer) constraints(f *frame, d doubt) []constraint {
	var out []constraint
	var bundled *made
	for i := range t.tests {
		m := &t.tests[i]
		scope := f.scope(m)
		if len(scope) == 0 || d.without>>m.index&1 == 1 || len(scope) > 3 {
			continue
		}
		want := m.bit
		if d.invert == m.index {
			if m.bundle != nil { // not silence against each, but a beep with one at least
				bundled = m.bundle
				continue
			}
			want = inverse(m.instrument, m.bit)
		}
		out = append(out, f.constraint(m, scope, want))
	}
	if bundled != nil {
		if scope := f.scope(bundled); len(scope) <= 3 {
			out = append(out, f.constraint(bundled, scope, inverse(bundled.instrument, bundled.bit)))
		}
	}
	return out
}

// feasible narrows what the free classes may be on in one combination, and reports whether
// anything is left. masks holds what may be, and is narrowed in place.
func (t *Tracer) feasible(f *frame, c int, list []constraint, masks []uint32) bool {
	nets := f.classOf(c)
	a := t.scratch(f)
	var joined *setup
	join := func(s *setup) {
		if joined != s || s.tiesFree {
			t.net.join(f, c, s, a)
			joined = s
		}
	}
	for changed, round := true, 0; changed && round < 8; round++ {
		changed = false
		for i := range list {
			k := &list[i]
			if len(k.scope) == 1 && round > 0 {
				continue
			}
			var seen [3]uint32
			if k.m.setup.tiesFree {
				var try func(n int)
				try = func(n int) {
					if n == len(k.scope) {
						join(k.m.setup)
						if t.net.shows(k.m, nets, a)&k.want != 0 {
							for j, u := range k.scope {
								seen[j] |= 1 << a[f.free[u]]
							}
						}
						return
					}
					u := k.scope[n]
					for left := masks[u]; left != 0; left &= left - 1 {
						a[f.free[u]] = int8(bits.TrailingZeros32(left))
						try(n + 1)
					}
					a[f.free[u]] = undecided
				}
				try(0)
			} else {
				join(k.m.setup)
				seen = t.net.supports(k, nets, masks)
			}
			for j, u := range k.scope {
				if narrowed := masks[u] & seen[j]; narrowed != masks[u] {
					masks[u] = narrowed
					changed = true
					if narrowed == 0 {
						return false
					}
				}
			}
		}
	}
	return true
}

// scratch is an assignment that says nothing yet.
func (t *Tracer) scratch(f *frame) assignment {
	if len(t.assigned) < len(t.classes) {
		t.assigned = make(assignment, len(t.classes))
	}
	for i := range t.assigned {
		t.assigned[i] = undecided
	}
	return t.assigned
}

// fit finds what is left of a frame: the nets that each free class may be on, and how the
// feed may lie. It looks no further than it must.
func (t *Tracer) fit(f *frame) {
	if t.toldByLooks(f) {
		f.fits, f.weight, f.told = false, 0, true
		return
	}
	list := t.constraints(f, noDoubt)
	f.scoped = 0
	for _, k := range list {
		f.scoped |= 1 << k.m.index
	}
	f.alive = 0
	sum, all := 0.0, 0.0
	for c := range f.broken {
		if f.broken[c] == impossible {
			continue
		}
		all += f.usual(c)
		if f.broken[c] == 0 {
			f.alive++
			sum += f.usual(c)
		}
	}
	f.support, f.lies, f.fits = make([]uint32, len(f.free)), 0, false
	share := 0.0
	for _, w := range f.routes {
		if !w.fits {
			continue
		}
		share += t.fitRoute(f, w, list)
		f.fits = f.fits || w.fits
		f.lies |= w.lies
		for u := range w.support {
			f.support[u] |= w.support[u]
		}
	}
	if f.weight = 0; f.fits {
		f.weight = f.pattern.weight * sum / all * share / float64(len(f.routes))
		for u := range f.free {
			best := 0.0
			for left := f.support[u]; left != 0; left &= left - 1 {
				best = max(best, t.suits(f, f.free[u], int8(bits.TrailingZeros32(left))))
			}
			f.weight *= best
		}
		if f.weight *= t.suitsAll(f); f.unled {
			f.weight *= unledWeight
		}
	}
}

// unledWeight is how usual it is that line and return run in different cables.
const unledWeight = 0.01

// fitRoute does so for one route, and returns in what share of the combinations it fits, as
// far as they were looked at.
func (t *Tracer) fitRoute(f *frame, w *routing, list []constraint) float64 {
	found, lies := make([]uint32, len(f.free)), uint8(0)
	masks := make([]uint32, len(f.free))
	tried, good := 0, 0
	relevant := f.relevant(list) | f.turns()
	var fits, fails []int // combinations in which there is one or none, without what changes nothing
	for c := range f.broken {
		if f.broken[c] != 0 {
			continue
		}
		tried++
		switch {
		case slices.Contains(fails, c&relevant):
			continue
		case slices.Contains(fits, c&relevant): // as found before
		default:
			if copy(masks, w.support); !t.feasible(f, c, list, masks) {
				fails = append(fails, c&relevant)
				continue
			}
			fits = append(fits, c&relevant)
		}
		good++
		missing := false
		for u := range masks {
			found[u] |= masks[u]
			missing = missing || found[u] != w.support[u]
		}
		if f.exchanged(c) {
			lies |= liesExchanged
		} else {
			lies |= liesUsual
		}
		if !missing && lies == w.lies {
			break
		}
	}
	w.fits, w.support, w.lies = good > 0, found, lies
	return float64(good) / math.Max(1, float64(tried))
}

// How the feed may lie, as bits.
const (
	liesUsual = 1 << iota
	liesExchanged
)

// refit finds anew what is left of all frames.
func (t *Tracer) refit() {
	t.reps, t.every = nil, nil
	for _, f := range t.frames {
		if f.fits {
			t.fit(f)
		}
	}
}
