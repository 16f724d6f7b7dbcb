package trace

import (
	"cmp"
	"context"
	"fmt"
	"math/bits"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Case is one way in which the conductors that are seen may hang together as found. Conductors with the
// same number are one net of the walls; 0 is no net of these lights. What joins a net beyond the opened
// boxes is left open: see package evidence.
type Case struct {
	Net   map[circuit.End]int // of each core end and screw in an opened box, grounds left out
	Role  []electric.Role     // by net
	Feeds []Feed              // the supplies, by the nets of their line and neutral
	Lamps []Hanging           // the lamps, on record or not
	Wild  []bool              // by net: of a light that none of these switches controls, its whereabouts unknown
	// Exchanged: line and neutral are exchanged at the feed in all of this, Usual: they are not in all of this.
	Usual, Exchanged bool
	// Hidden: a switch of these lights stands in a place that was not opened.
	Hidden bool
	// Weight orders the cases, the usual ones first.
	Weight float64
	world  *world
}

// Feed is a supply of a case. Hidden: its box was not opened.
type Feed struct {
	ID           string
	Hot, Neutral int
	Hidden       bool
}

// Hanging is a lamp of a case with the nets of its terminals. ID is "" for one that is not on record.
type Hanging struct {
	ID     string
	L, N   int
	Hidden bool
}

// Limits of going through all cases: beyond them they are not all gone through.
const (
	mostCases      = 2000
	mostCaseTrials = 200_000
	// For the likeliest cases of many, ten times as many are looked at.
	mostLooked = 10
)

// Cases lists every way in which what is seen may hang together, that the record and its readings leave,
// the usual ones first; ways that differ in nothing but how switches stand are one. Before all is settled
// they are those in which line and return run in the same cables. all is false where there are more than
// are gone through. The error is the context's.
//
// Idle are core ends that are bare in an opened box. Each is looked at by itself, and at most one is on another net than it
// has to be, since a bare end joins nothing to anything.
func (t *Tracer) Cases(ctx context.Context, idle ...circuit.End) (cases []Case, all bool, err error) {
	var worlds []*world
	if len(idle) == 0 {
		worlds, all, err = t.everyWorld(ctx)
	} else {
		worlds, all, err = t.goThrough(ctx, t.idle(idle), 1)
	}
	return t.casesOf(worlds), all, err
}

// Likeliest lists the likeliest cases where there may be more than [Tracer.Cases] goes through, as it lists
// them. The error is the context's.
func (t *Tracer) Likeliest(ctx context.Context, idle ...circuit.End) ([]Case, error) {
	worlds, _, err := t.goThrough(ctx, t.idle(idle), mostLooked)
	slices.SortStableFunc(worlds, func(a, b *world) int { return cmp.Compare(b.weight, a.weight) })
	return t.casesOf(worlds[:min(mostCases, len(worlds))]), err
}

// idle marks the classes that are one of some ends alone.
func (t *Tracer) idle(ends []circuit.End) []bool {
	of := make([]bool, len(t.classes))
	for i, c := range t.classes {
		of[i] = len(c.ends) == 1 && slices.Contains(ends, c.ends[0])
	}
	return of
}

func (t *Tracer) casesOf(worlds []*world) (cases []Case) {
	for _, w := range worlds {
		cases = append(cases, t.caseOf(w))
	}
	slices.SortStableFunc(cases, func(a, b Case) int { return cmp.Compare(b.Weight, a.Weight) })
	return cases
}

// everyone is all worlds that differ in more than how switches stand and how the feed lies.
type everyone struct {
	worlds []*world
	all    bool
}

// everyWorld lists them; all is false where there are more than are gone through. While the rule of routes
// holds they are those that are led by it.
func (t *Tracer) everyWorld(ctx context.Context) (worlds []*world, all bool, err error) {
	if t.every == nil {
		worlds, all, err := t.goThrough(ctx, make([]bool, len(t.classes)), 1)
		if err != nil {
			return nil, false, err
		}
		t.every = &everyone{worlds, all}
	}
	return t.every.worlds, t.every.all, nil
}

// goThrough lists them, each idle class by itself, up to so many times the usual bounds.
func (t *Tracer) goThrough(ctx context.Context, idle []bool, times int) (worlds []*world, all bool, err error) {
	trials := mostCaseTrials * times
	seen := map[string]bool{}
	for _, f := range t.frames {
		if !f.fits {
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, false, err
		}
		list := t.constraints(f, noDoubt)
		relevant := f.relevant(list) | f.turns()
		var tried []int
		for c := range f.broken {
			if !f.may(c, noDoubt) || slices.Contains(tried, c&relevant) {
				continue
			}
			tried = append(tried, c&relevant)
			for _, r := range f.routes {
				if !r.fits {
					continue
				}
				whole := t.eachAssignment(f, c, list, slices.Clone(r.support), idle, &trials, func(masks []uint32) bool {
					key := t.caseKey(f, c, masks)
					if seen[key] {
						return true
					}
					seen[key] = true
					worlds = append(worlds, t.worldOf(f, c, list, masks, noDoubt))
					return len(worlds) < mostCases*times
				})
				if !whole {
					return worlds, false, nil
				}
			}
		}
	}
	return worlds, true, nil
}

// eachAssignment hands out each choice of one net for each free class that all readings leave in a
// combination, with at most one idle class on another net than it has to be; false where that was given up,
// or the receiver wants no more.
func (t *Tracer) eachAssignment(f *frame, c int, list []constraint, masks []uint32, idle []bool, trials *int, take func([]uint32) bool) bool {
	if *trials--; *trials < 0 {
		return false
	}
	if !t.feasible(f, c, list, masks) {
		return true
	}
	u := -1
	for i, m := range masks {
		if bits.OnesCount32(m) > 1 && !idle[f.free[i]] {
			u = i
			break
		}
	}
	if u < 0 {
		return t.eachIdle(f, c, list, masks, take)
	}
	for left := masks[u]; left != 0; left &= left - 1 {
		next := slices.Clone(masks)
		next[u] = left & -left
		if !t.eachAssignment(f, c, list, next, idle, trials, take) {
			return false
		}
	}
	return true
}

// eachIdle hands out the choices in which at most one of the classes that are still open is on another net
// than it has to be.
func (t *Tracer) eachIdle(f *frame, c int, list []constraint, masks []uint32, take func([]uint32) bool) bool {
	base := slices.Clone(masks)
	for i, m := range base {
		base[i] = m & -m
	}
	whole := slices.Equal(base, masks)
	if !whole && !t.feasible(f, c, list, base) {
		if base = slices.Clone(masks); !t.solve(f, c, list, base) {
			return true
		}
	}
	if !take(slices.Clone(base)) {
		return false
	}
	if whole {
		return true
	}
	for i, m := range masks {
		for left := m &^ base[i]; left != 0; left &= left - 1 {
			next := slices.Clone(base)
			if next[i] = left & -left; !t.feasible(f, c, list, next) {
				next = slices.Clone(masks)
				next[i] = left & -left
				if !t.solve(f, c, list, next) {
					continue
				}
			}
			if !take(next) {
				return false
			}
		}
	}
	return true
}

// caseKey tells assignments apart by what is one net with what, and what each net is. Nets of like
// pairs of travelers have no names of their own.
func (t *Tracer) caseKey(f *frame, c int, masks []uint32) string {
	nets := slices.Clone(f.classOf(c))
	for i, class := range f.free {
		nets[class] = int8(bits.TrailingZeros32(masks[i]))
	}
	number := map[int8]int{}
	out := fmt.Appendf(nil, "%v %v %d ", f.lampL, f.lampN, f.unseen)
	for _, n := range nets {
		switch {
		case n <= 0:
			out = append(out, byte(n), ' ')
			continue
		case f.kinds[n] != isTraveler:
			out = append(out, byte(n), 'n')
			continue
		}
		if _, known := number[n]; !known {
			number[n] = len(number)
		}
		out = append(out, byte(number[n]), 't')
	}
	return string(out)
}

// caseOf says of a world what others need to know.
func (t *Tracer) caseOf(w *world) Case {
	f := w.f
	c := Case{Net: map[circuit.End]int{}, Weight: w.weight, world: w, Wild: slices.Clone(f.wild), Usual: f.lies&liesUsual != 0, Exchanged: f.lies&liesExchanged != 0}
	for net := range f.kinds {
		c.Role = append(c.Role, f.roleAt(int8(net)))
	}
	for class, n := range w.nets {
		if n == earthed {
			continue
		}
		for _, e := range t.classes[class].ends {
			c.Net[e] = int(n)
		}
	}
	for i, s := range t.supplies {
		c.Feeds = append(c.Feeds, Feed{ID: s.id, Hot: int(f.first[hotOf(i)]), Neutral: int(f.first[neutralOf(i)]), Hidden: !s.seen})
	}
	for i, l := range f.lamps {
		c.Lamps = append(c.Lamps, Hanging{ID: l.id, L: int(f.first[f.lampL[i]]), N: int(f.first[f.lampN[i]]), Hidden: !l.seen})
	}
	for s := range f.labels {
		c.Hidden = c.Hidden || f.nodes[s] == nil && (s >= len(t.switches) || t.switches[s].kind != idle)
	}
	return c
}
