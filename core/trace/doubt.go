package trace

import (
	"context"

	"ambivia/core/electric"
)

// People lead what carries the current of a light out and back in the same cables, and a
// route takes that for granted: it is how tests are chosen, and how most houses are known with
// few. A neutral borrowed from somewhere else, or a spare core where a neutral should be, breaks
// it, and looks the same in the boxes. So when all is settled by the rule, or when nothing
// shows all that was read, the rule is given up, and what is known then is known without it.

// doubtRoutes gives the rule of routes up where it has said all that it can. Where there is too
// much to go through without it, it stays, and [Tracer.Done] stays false. The context ends it.
func (t *Tracer) doubtRoutes(ctx context.Context) error {
	if t.rule == anyhow || t.trusts || t.possible() && !t.Resolved() {
		return nil
	}
	strict, settled := *t, t.possible()
	if ok, err := t.giveUpRoutes(ctx); !ok || err != nil {
		return err
	}
	if t.byRule = settled; !settled && !t.forked && len(t.tests) > 0 && t.possible() {
		t.strict = &strict
		return t.suspect(ctx)
	}
	return nil
}

// giveUpRoutes looks at all again without the rule of routes; false where that is too much to go
// through.
func (t *Tracer) giveUpRoutes(ctx context.Context) (ok bool, err error) {
	unled := t.unledHeld
	if unled == nil {
		if unled, ok, err = t.others.of(ctx, t); !ok {
			return false, err
		}
	}
	frames := make([]*frame, 0, len(t.frames)+len(unled))
	for _, f := range t.frames {
		if f = f.copy(); !f.told {
			f.routes = nil
			f.addRoute(nil)
			f.fits = t.accepts(f)
		}
		frames = append(frames, f)
	}
	for _, f := range unled {
		frames = append(frames, f.copy())
	}
	t.work = t.others.work
	t.frames, t.rule, t.reps, t.every, t.slipped = frames, anyhow, nil, nil, nil
	for _, f := range t.frames {
		if f.fits {
			t.catchUp(f)
		}
	}
	t.refit()
	return true, nil
}

// mostHeld bounds the combinations of which copies are kept for that; each takes sixteen bytes.
const mostHeld = 1_000_000

// keepUp holds the readings against what giving up the rule of routes will look at again, so that
// this is not done anew from the first of them each time that it is given up.
func (t *Tracer) keepUp(ctx context.Context) error {
	if t.forked || t.rule == anyhow || t.trusts { // forks share frames
		return nil
	}
	if t.unledHeld == nil {
		unled, ok, err := t.others.of(ctx, t)
		if !ok || t.others.work > mostHeld {
			return err
		}
		t.unledHeld = make([]*frame, len(unled))
		for i, f := range unled {
			t.unledHeld[i] = f.copy()
		}
	}
	for _, list := range [][]*frame{t.frames, t.unledHeld} {
		for i, f := range list {
			if !f.told {
				t.catchUp(f)
			}
			if i%64 == 0 && ctx.Err() != nil {
				return ctx.Err()
			}
		}
	}
	return nil
}

// possibleRoles gives for each class the roles that anything which fits gives it, as the
// conductor has them and led in whatever way. Where there is too much to go through for that, a
// conductor under no screw may be anything.
func (t *Tracer) possibleRoles() []map[electric.Role]bool {
	if t.rule == anyhow || t.trusts {
		out := t.roles()
		for i, roles := range out {
			out[i] = map[electric.Role]bool{}
			for r := range roles {
				out[i][t.physical(r)] = true
			}
		}
		return out
	}
	if t.led == nil {
		_ = t.workOutRoles(context.Background()) // which does not end
	}
	return t.led
}

// workOutRoles makes what [Tracer.Odds] needs ready; the context ends it.
func (t *Tracer) workOutRoles(ctx context.Context) error {
	if t.rule == anyhow || t.trusts || t.led != nil {
		return nil
	}
	if err := t.keepUp(ctx); err != nil {
		return err
	}
	wide := t.fork()
	ok, err := wide.giveUpRoutes(ctx)
	if err != nil {
		return err
	}
	t.led = t.rolesOf(wide, ok)
	return nil
}

// rolesOf gives the roles that a tracer without the rule of routes leaves, ok false where it
// could not be made.
func (t *Tracer) rolesOf(wide *Tracer, ok bool) []map[electric.Role]bool {
	if !ok {
		out := t.roles()
		for i, c := range t.classes {
			if !c.screwed && !c.ground && len(c.pieces) > 0 {
				for _, r := range []electric.Role{electric.Line, electric.Neutral, electric.Load, electric.Traveler, electric.Unused} {
					out[i][r] = true
				}
			}
		}
		return out
	}
	if usual, exchanged := t.Polarity(); usual || !exchanged {
		return wide.roles() // by the usual way round, where either may be
	}
	// What is exchanged in one circuit that fits need not be in another.
	out := make([]map[electric.Role]bool, len(t.classes))
	for i := range out {
		out[i] = map[electric.Role]bool{}
	}
	for _, exchanged := range []bool{false, true} {
		one := wide.fork()
		for _, f := range one.frames {
			for c := range f.broken {
				if f.fits && f.exchanged(c) != exchanged {
					f.broken[c] = impossible
				}
			}
		}
		one.refit()
		for i, roles := range one.roles() {
			for r := range roles {
				out[i][one.physical(r)] = true
			}
		}
	}
	return out
}

// suspect gathers what one false reading would leave by the rule of routes, where that was
// given up since nothing shows all that was read: a slip is likelier than a house so odd, and
// is asked about first. It does so anew when readings have left nothing of what was gathered.
func (t *Tracer) suspect(ctx context.Context) (err error) {
	if t.strict == nil || t.plainer != nil && len(t.plainer.list) > 0 {
		return nil
	}
	t.strict.tests, t.strict.made = t.tests, t.made
	if t.plainer, err = t.strict.gather(ctx, nil); err == nil && len(t.plainer.list) == 0 {
		t.strict = nil
	}
	return err
}

// copy is a frame that readings can narrow without touching the one it was made of.
func (f *frame) copy() *frame {
	own := *f
	own.noSlip = nil
	own.broken, own.either, own.support = append([]uint64{}, f.broken...), append([]uint64{}, f.either...), append([]uint32{}, f.support...)
	own.routes = make([]*routing, len(f.routes))
	for i, w := range f.routes {
		of := *w
		own.routes[i] = &of
	}
	return &own
}
