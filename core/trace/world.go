package trace

import (
	"cmp"
	"fmt"
	"math/bits"
	"slices"
)

// world is one way in which all visible conductors may hang together: a frame with a net
// for each of its classes, and some of the combinations that are left of it.
type world struct {
	f            *frame
	nets         assignment // by class
	given        int        // number of that assignment
	combinations []int
	weight       float64
	same         int // number of its set of roles
}

// How many worlds are weighed against each other when a test is chosen, and how many
// combinations of each.
const (
	mostWorlds       = 48
	mostCombinations = 12
	mostLookedAt     = 192 // combinations that are looked at for those
)

// worlds lists the worlds by which tests are chosen, the likeliest first: of each frame
// the likeliest, and those that differ from it in one free conductor. Every role that
// anything which fits gives to a conductor is in one of them.
func (t *Tracer) worlds() []*world {
	if t.reps == nil {
		t.reps = t.representatives()
	}
	return t.reps
}

// likeliestOfFrames lists the likeliest world of each frame, told apart by the roles of what
// the screws stand on.
func (t *Tracer) likeliestOfFrames() []*world {
	var out []*world
	for _, f := range t.frames {
		if f.fits {
			if w := t.witness(f, -1, 0); w != nil {
				out = append(out, w)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b *world) int { return cmp.Compare(b.weight, a.weight) })
	out = out[:min(len(out), mostWorlds)]
	t.number(out, func(class int) bool { return t.classes[class].screwed })
	return out
}

func (t *Tracer) representatives() []*world {
	frames := slices.DeleteFunc(slices.Clone(t.frames), func(f *frame) bool { return !f.fits })
	slices.SortStableFunc(frames, func(a, b *frame) int { return cmp.Compare(b.weight, a.weight) })
	out := []*world{}
	have := map[[2]int]bool{} // class and net kind, told by role
	seen := map[string]bool{}
	add := func(f *frame, u int, net int8) {
		w := t.witness(f, u, net)
		if w == nil {
			return
		}
		key := fmt.Sprintf("%p %v", f, w.nets)
		if seen[key] {
			return
		}
		seen[key] = true
		for _, class := range t.visible {
			have[[2]int{class, int(roleNumber(f.kinds[w.nets[class]]))}] = true
		}
		out = append(out, w)
	}
	for i, f := range frames {
		if i < mostWorlds/2 || len(out) < mostWorlds {
			add(f, -1, 0)
		}
	}
	for _, f := range frames {
		for u := range f.free {
			for net := range f.kinds {
				role := roleNumber(f.kinds[net])
				if f.support[u]>>net&1 == 1 && (len(out) < mostWorlds || !have[[2]int{f.free[u], int(role)}]) {
					add(f, u, int8(net))
				}
			}
		}
		for _, nets := range f.class {
			if nets == nil {
				continue
			}
			for _, class := range t.visible {
				if n := nets[class]; n >= 0 && !have[[2]int{class, int(roleNumber(f.kinds[n]))}] {
					add(f, -1, 0)
				}
			}
			break
		}
	}
	t.number(out, func(int) bool { return true })
	return out
}

// roleNumber tells kinds of net apart by the role that they give.
func roleNumber(k labelKind) labelKind {
	switch k {
	case isShell:
		return isLoad
	case isStrap:
		return isTraveler
	}
	return k
}

// number weighs worlds to 1, sorts them and numbers their sets of roles, of those classes.
func (t *Tracer) number(list []*world, of func(class int) bool) {
	sum := 0.0
	for _, w := range list {
		sum += w.weight
	}
	number := map[string]int{}
	for _, w := range list {
		w.weight /= sum
		var key []byte
		for _, c := range t.visible {
			if of(c) {
				key = append(key, byte(roleNumber(w.f.kinds[w.nets[c]])))
			}
		}
		if _, ok := number[string(key)]; !ok {
			number[string(key)] = len(number)
		}
		w.same = number[string(key)]
	}
	slices.SortStableFunc(list, func(a, b *world) int { return cmp.Compare(b.weight, a.weight) })
}

// witness makes the likeliest world of a frame, or where u is not -1 the likeliest in which
// that free class is on a net; nil where none was found in reasonable time.
func (t *Tracer) witness(f *frame, u int, net int8) *world { return t.witnessUnder(f, u, net, noDoubt) }

func (t *Tracer) witnessUnder(f *frame, u int, net int8, d doubt) *world {
	list := t.constraints(f, d)
	masks := make([]uint32, len(f.free))
	looked, relevant := 0, f.relevant(list)|f.turns()
	for _, routing := range f.routes {
		if !routing.fits && d == noDoubt || u >= 0 && routing.domain[u]>>net&1 == 0 || u >= 0 && d == noDoubt && routing.support[u]>>net&1 == 0 {
			continue
		}
		domain := routing.support
		if d != noDoubt {
			domain = routing.domain
		}
		var none []int // combinations in which there is none, without what changes nothing
		for c := range f.broken {
			if !f.may(c, d) || slices.Contains(none, c&relevant) {
				continue
			}
			t.looked++
			if looked++; looked > mostLookedAt*4 {
				return nil
			}
			copy(masks, domain)
			if u >= 0 {
				masks[u] = 1 << net
			}
			if t.solve(f, c, list, masks) {
				return t.worldOf(f, c, list, masks, d)
			}
			none = append(none, c&relevant)
		}
	}
	return nil
}

// worldOf makes a world of a frame with those nets for its free classes.
func (t *Tracer) worldOf(f *frame, c int, list []constraint, masks []uint32, d doubt) *world {
	w := &world{f: f, nets: make(assignment, len(t.classes)), weight: f.weight}
	if d != noDoubt || w.weight == 0 {
		w.weight = f.pattern.weight
	}
	for class, n := range f.classOf(c) {
		w.nets[class] = max(n, 0)
		if n == earthed {
			w.nets[class] = earthed
		}
	}
	for i, class := range f.free {
		n := int8(bits.TrailingZeros32(masks[i]))
		w.nets[class] = n
		best := 0.0
		for left := f.domain[i]; left != 0; left &= left - 1 {
			best = max(best, t.suits(f, class, int8(bits.TrailingZeros32(left))))
		}
		w.weight *= t.suits(f, class, n) / best
	}
	w.given = t.kept.number(w)
	w.combinations = t.combinationsOf(w, c, list, d)
	return w
}

// solve chooses a net for each free class, the usual ones first.
func (t *Tracer) solve(f *frame, c int, list []constraint, masks []uint32) bool {
	if !t.feasible(f, c, list, masks) {
		return false
	}
	for u, class := range f.free {
		if bits.OnesCount32(masks[u]) == 1 {
			continue
		}
		order := []int8{}
		for left := masks[u]; left != 0; left &= left - 1 {
			order = append(order, int8(bits.TrailingZeros32(left)))
		}
		slices.SortStableFunc(order, func(a, b int8) int { return cmp.Compare(t.suits(f, class, b), t.suits(f, class, a)) })
		done := false
		for _, n := range order {
			next := slices.Clone(masks)
			if next[u] = 1 << n; t.feasible(f, c, list, next) {
				copy(masks, next)
				done = true
				break
			}
		}
		if !done {
			return false
		}
	}
	return true
}

// spread is a prime by which combinations are picked from all over, not in step with any one
// switch.
const spread = 7919

// combinationsOf picks combinations in which a world fits, spread over all that are left.
func (t *Tracer) combinationsOf(w *world, first int, list []constraint, d doubt) []int {
	var may []int
	for c := range w.f.broken {
		if w.f.may(c, d) {
			may = append(may, c)
		}
	}
	out := []int{first}
	for i := range min(len(may), mostLookedAt) {
		c := may[i*spread%len(may)]
		if len(out) == mostCombinations {
			break
		}
		if c != first && !slices.Contains(out, c) && t.agreesIn(w, c, list) {
			out = append(out, c)
		}
	}
	return out
}

// agreesIn reports whether a world in a combination agrees with the readings that depend
// on free conductors.
func (t *Tracer) agreesIn(w *world, c int, list []constraint) bool {
	var joined *setup
	for i := range list {
		k := &list[i]
		if joined != k.m.setup {
			t.net.join(w.f, c, k.m.setup, w.nets)
			joined = k.m.setup
		}
		if t.net.shows(k.m, w.f.classOf(c), w.nets)&k.want == 0 {
			return false
		}
	}
	return true
}
