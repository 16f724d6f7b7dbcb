package trace

import (
	"context"
	"maps"
	"slices"
	"sync"

	"ambivia/core/circuit"
)

// Standing is a tracer that stays while readings come in: finding everything that fits a survey
// takes long, holding one reading more against it does not. Use one from one goroutine at a time;
// the tracers that it hands out are independent of it and of each other.
type Standing struct {
	// base holds all readings of the record, before the rule of routes is doubted: what is given
	// up for one reading need not be given up for it and the next.
	base *Tracer
	mark string // of the survey
}

// Stand finds everything that fits the record, as [New] does and with its errors.
func Stand(ctx context.Context, c *circuit.Circuit) (*Standing, error) {
	base, err := blank(ctx, c, hidden)
	if err != nil {
		return nil, err
	}
	s := &Standing{base, c.SurveyMark()}
	return s, s.hold(ctx, c.Observations)
}

// hold holds further readings against the base.
func (s *Standing) hold(ctx context.Context, readings []circuit.Observation) error {
	t := s.base
	if t.looking {
		t.made = append(t.made, readings...)
		for range readings {
			t.leaves = append(t.leaves, notCounted)
		}
		return nil
	}
	for i, o := range readings {
		told := t.take(o)
		n := len(t.leaves) - 1
		if t.leaves[n] = notCounted; t.size() <= followable {
			if told {
				t.refit()
			}
			t.leaves[n] = t.Worlds()
		}
		if i%8 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
	}
	return nil
}

// Advance goes on to a later state of the same record. It reports false, and changes nothing,
// where the later one differs in more than further readings and gates, or where a reading flips a
// switch in a closed box that no reading did before: such a record is to be traced anew. After an
// error the Standing is of no more use.
func (s *Standing) Advance(ctx context.Context, c *circuit.Circuit) (bool, error) {
	was := s.base.doc
	n := len(was.Observations)
	if s.base.looking || len(c.Observations) < n || !slices.EqualFunc(c.Observations[:n], was.Observations, circuit.Observation.Same) || s.mark == "" || c.SurveyMark() != s.mark {
		return false, nil
	}
	for _, o := range c.Observations[n:] {
		for _, id := range o.Flipped {
			if !slices.ContainsFunc(s.base.switches, func(x control) bool { return x.id == id }) {
				return false, nil
			}
		}
	}
	own := *s.base.view
	own.doc = c
	s.base.view, s.base.net.view = &own, &own
	return true, s.hold(ctx, c.Observations[n:])
}

// Tracer makes a tracer of the record as it stands.
func (s *Standing) Tracer(ctx context.Context) (*Tracer, error) {
	if s.base.looking {
		return s.base.independent(), nil
	}
	if err := s.base.keepUp(ctx); err != nil {
		return nil, err
	}
	t := s.base.independent()
	n := len(t.leaves)
	if len(t.tests) > 0 {
		t.refit()
	}
	if err := t.doubtRoutes(ctx); err != nil {
		return nil, err
	}
	if n > 0 && (len(t.tests) > 0 || t.leaves[n-1] != notCounted) {
		t.leaves[n-1] = t.Worlds()
	}
	return t, ctx.Err()
}

// Trace says all that is known of the record as it stands, as [Trace] does.
func (s *Standing) Trace(ctx context.Context, prefer Prefer) (*Result, error) {
	t, err := s.Tracer(ctx)
	if err != nil {
		return nil, err
	}
	return t.Result(ctx, prefer)
}

// independent is a copy that shares nothing with the tracer that changes.
func (t *Tracer) independent() *Tracer {
	g := t.fork()
	g.forked = false
	for i, f := range t.frames {
		g.frames[i] = f.copy()
	}
	g.unledHeld = nil
	for _, f := range t.unledHeld {
		g.unledHeld = append(g.unledHeld, f.copy())
	}
	g.kept = newKept()
	g.kept.counted = t.kept.counted // readings keep their numbers
	g.net.kept = g.kept
	g.cannot = maps.Clone(t.cannot)
	return g
}

// unledFrames are the frames of the patterns that nobody leads so, as they are before any reading.
// A tracer and its copies share them: they are made once.
type unledFrames struct {
	mu     sync.Mutex
	made   bool
	fits   bool // there are no more of them than can be gone through
	frames []*frame
	work   int // combinations of those, and of all others
}

// of returns the frames, making them where they are not; ok false where they are too much to go
// through. The error is the context's.
func (u *unledFrames) of(ctx context.Context, t *Tracer) (frames []*frame, ok bool, err error) {
	u.mu.Lock()
	defer u.mu.Unlock()
	if u.made {
		return u.frames, u.fits, nil
	}
	work := t.work
	defer func() { t.work = work }()
	frames = nil
	for i, p := range t.unled {
		if i%64 == 0 && ctx.Err() != nil {
			return nil, false, ctx.Err()
		}
		f, err := t.admit(p, [][]carrier{nil})
		if err != nil {
			u.made = true
			return nil, false, nil
		}
		if f == nil {
			continue
		}
		f.unled = true
		for _, r := range t.doc.Reports {
			t.report(f, r)
		}
		frames = append(frames, f)
	}
	u.made, u.fits, u.frames, u.work = true, true, frames, t.work
	return frames, true, nil
}
