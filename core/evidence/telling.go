package evidence

import (
	"cmp"
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// Telling finds the test that settles most of what a plan relies on: the one that rules out most of the walls in which it
// fails. It may need the power, and boxes that are open for the survey. ok is false where none of the walls that were
// gone through makes the plan fail. The error is the context's.
func (w *Walls) Telling(ctx context.Context, after *inspect.Compiled, touched []string) (test Reliance, ok bool, err error) {
	touched, w, err = w.forPlan(ctx, touched)
	if err != nil {
		return test, false, err
	}
	p := w.planned(after)
	if p.left, err = w.leaves(ctx, p.touched); err != nil {
		return test, false, err
	}
	best, ok := candidate{}, false
	if p.sure {
		best, ok = p.first(ctx, touched)
	} else if w.tracer != nil {
		best, ok, err = p.likely(ctx, touched)
	}
	if err = cmp.Or(err, ctx.Err()); err != nil || !ok {
		return test, false, err
	}
	return p.reliance(best), true, nil
}

// first is the test that rules out most among the fewest that settle a plan; among as few the cheaper ones.
func (p *plan) first(ctx context.Context, touched []string) (candidate, bool) {
	failing, _ := p.failingOf(ctx, p.worlds)
	list, left := p.settling(failing, touched, byCost)
	if few, open := p.settling(failing, touched, byCount); left != nil || open == nil && len(few) < len(list) {
		list = few
	}
	if len(list) == 0 {
		return candidate{}, false
	}
	return slices.MaxFunc(list, func(a, b candidate) int { return cmp.Compare(len(a.rules), len(b.rules)) }), true
}

// likely is the test that rules out most of the likely walls in which a plan fails, where not all are gone through.
func (p *plan) likely(ctx context.Context, touched []string) (best candidate, ok bool, err error) {
	worlds, err := p.likeliest(ctx, p.touched)
	if err != nil {
		return best, false, err
	}
	failing, _ := p.failingOf(ctx, worlds)
	all, worth := 0.0, map[*world]float64{}
	for _, x := range failing {
		all += x.weight
	}
	for _, x := range worlds {
		worth[x] = 1 / float64(len(worlds))
	}
	for _, x := range failing {
		worth[x] += x.weight/all + 1/float64(len(failing))
		if x.of != nil {
			worlds = append(worlds, x)
		}
	}
	most := 0.0
	for _, c := range p.candidates(worlds, p.atHand(touched)) {
		sum := 0.0
		for _, f := range c.rules {
			sum += worth[worlds[f]]
		}
		if !ok || sum > most+1e-9 || sum > most-1e-9 && c.cost < best.cost {
			best, most, ok = c, sum, true
		}
	}
	return best, ok, nil
}

// likeliest lists the likely walls where a plan touches some ends.
func (w *Walls) likeliest(ctx context.Context, touched []bool) ([]*world, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	idle, _ := w.idle(touched)
	cases, err := w.tracer.Likeliest(ctx, idle...)
	if err != nil {
		return nil, err
	}
	return w.likelyWorlds(cases), nil
}

// forPlan puts the boxes that a plan opens in the order of the record, and opens those of them that are closed.
func (w *Walls) forPlan(ctx context.Context, touched []string) ([]string, *Walls, error) {
	place := func(box string) int {
		return slices.IndexFunc(w.record.Boxes, func(b circuit.Box) bool { return b.ID == box })
	}
	touched = slices.SortedStableFunc(slices.Values(touched), func(a, b string) int { return cmp.Compare(place(a), place(b)) })
	inside := slices.DeleteFunc(slices.Clone(touched), func(box string) bool { return w.record.Box(box) == nil || w.seen[box] })
	if len(inside) == 0 {
		return touched, w, nil
	}
	open, err := w.opening(ctx, inside)
	return touched, open, err
}
