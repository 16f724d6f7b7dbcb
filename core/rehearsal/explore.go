package rehearsal

import (
	"context"
	"slices"

	"ambivia/core/electric"
)

// Bounds of a rehearsal: messages that wait at once (more of them breed without end), moments gone
// through, and gestures of a way that is looked for.
const (
	mostMessages = 48
	mostMoments  = 400_000
	mostGestures = 64
	mostAstray   = 4_000 // where messages breed without end: moments in which quiet is still looked for
)

// ending is how a moment may end when nobody presses any more.
type ending struct {
	states []electric.State // quiet ones, in whatever order messages arrive
	never  bool             // in some order messages breed without end
	near   bool             // then: the quiet states that are near were looked for
}

// explorer goes through what may happen.
type explorer struct {
	*play
	ctx    context.Context
	ends   map[string]*ending
	nexts  map[string][]moment // what the deliveries of a moment lead to
	cut    bool
	looked int
}

func newExplorer(ctx context.Context, p *play) *explorer {
	return &explorer{play: p, ctx: ctx, ends: map[string]*ending{}, nexts: map[string][]moment{}}
}

// met is a moment on the way or behind, as far as time counts.
type met struct {
	zone *zone
	done bool
}

// end finds how a moment may end: a moment met again on the way from itself goes round in a ring without end. Where time counts,
// a ring is a moment in which all is possible again that was; and what comes of one that allows no more than one behind is known.
func (x *explorer) end(from moment) *ending {
	key := from.key()
	if e := x.ends[key]; e != nil {
		return e
	}
	e := &ending{}
	x.ends[key] = e
	known, count := map[string][]*met{}, 0
	var follow func(m moment)
	follow = func(m moment) {
		if e.never {
			return
		}
		place := m.timeless()
		for _, k := range known[place] {
			switch {
			case !k.done && m.zone.holds(k.zone):
				e.never = true
				return
			case k.done && k.zone.holds(m.zone):
				return
			}
		}
		here := &met{zone: m.zone}
		known[place] = append(known[place], here)
		switch count++; {
		case m.quiet():
			if !slices.Contains(e.states, m.state) {
				e.states = append(e.states, m.state)
			}
		case m.waiting() > mostMessages:
			e.never = true
		case count > mostMoments || x.ctx.Err() != nil:
			x.cut = true
		default:
			for _, next := range x.next(m, m.key()) {
				follow(next)
			}
		}
		here.done = true
	}
	follow(from)
	return e
}

// patiently adds to an ending without end the quiet states that are near all the same.
func (x *explorer) patiently(from moment) *ending {
	e := x.end(from)
	if e.never && !e.near {
		e.near, e.states = true, x.quietNear(from)
	}
	return e
}

// quietNear lists the quiet states that a moment may come to with few deliveries, where it may
// also go on without end.
func (x *explorer) quietNear(from moment) []electric.State {
	var out []electric.State
	met := map[string]bool{}
	todo := []moment{from}
	for len(todo) > 0 && len(met) < mostAstray && x.ctx.Err() == nil {
		m := todo[0]
		todo = todo[1:]
		key := m.key()
		if met[key] {
			continue
		}
		met[key] = true
		if m.quiet() {
			if !slices.Contains(out, m.state) {
				out = append(out, m.state)
			}
			continue
		}
		if m.waiting() <= mostMessages {
			todo = append(todo, x.next(m, key)...)
		}
	}
	return out
}

// next lists what the deliveries of a moment lead to.
func (x *explorer) next(m moment, key string) []moment {
	if out, known := x.nexts[key]; known {
		return out
	}
	var out []moment
	for i := range m.queues {
		if x.arrives(m, i) {
			out = append(out, x.deliver(m, i))
		}
	}
	if x.looked++; x.looked > mostMoments {
		clear(x.nexts)
		x.looked = 0
	}
	x.nexts[key] = out
	return out
}

// underway lists the moments with messages still waiting that follow one, itself among them; where time counts, without those
// that allow no more than others of them.
func (x *explorer) underway(from moment) []moment {
	var out []moment
	seen := map[string][]*zone{}
	todo := []moment{from}
	for len(todo) > 0 {
		m := todo[0]
		todo = todo[1:]
		if m.quiet() || m.waiting() > mostMessages || x.ctx.Err() != nil {
			continue
		}
		place := m.timeless()
		if slices.ContainsFunc(seen[place], func(z *zone) bool { return z.holds(m.zone) }) {
			continue
		}
		seen[place] = append(seen[place], m.zone)
		if len(out) >= mostAstray {
			x.cut = x.cut || !x.end(from).never
			break
		}
		out = append(out, m)
		todo = append(todo, x.next(m, m.key())...)
	}
	return out
}

// place is a quiet state with a shortest way to it.
type place struct {
	state electric.State
	way   []Gesture
}

// visit goes through the quiet states that people reach, the nearest first. With hasty, people may
// press once more while messages are under way. For each step from one it calls look, which may
// stop the visit. It returns the states in the order of reaching them.
func (x *explorer) visit(from []electric.State, hasty bool, look func(at place, more []Gesture, e *ending) (stop bool)) []electric.State {
	return x.goThrough(from, hasty, false, look)
}

// goThrough is visit; with unpowered, look is also called for gestures at devices that have no power, which
// lead nowhere: a person presses them all the same.
func (x *explorer) goThrough(from []electric.State, hasty, unpowered bool, look func(at place, more []Gesture, e *ending) (stop bool)) []electric.State {
	byLength := make([][]place, mostGestures+3)
	var order []electric.State
	known := map[electric.State]bool{}
	for _, s := range from {
		byLength[0] = append(byLength[0], place{s, []Gesture{}})
	}
	for n := 0; n <= mostGestures; n++ {
		for i := 0; i < len(byLength[n]); i++ {
			at := byLength[n][i]
			if known[at.state] {
				continue
			}
			if known[at.state] = true; x.ctx.Err() != nil {
				return order
			}
			order = append(order, at.state)
			quiet := x.at(at.state)
			for _, device := range x.devices {
				if !x.isAwake(at.state, device) {
					for _, g := range x.gestures(device) {
						if unpowered && look(at, []Gesture{{device, g}}, &ending{states: []electric.State{at.state}}) {
							return order
						}
					}
					continue
				}
				for _, g := range x.gestures(device) {
					one := Gesture{device, g}
					begun := x.gesture(quiet, one)
					e := x.patiently(begun)
					if x.step(byLength, at, []Gesture{one}, e, look) {
						return order
					}
					if !hasty || e.never { // who waits sees them chase each other already
						continue
					}
					for _, m := range x.underway(begun) {
						for _, second := range x.devices {
							if !x.isAwake(m.state, second) {
								continue
							}
							for _, h := range x.gestures(second) {
								if m.zone != nil && m.zone.pressed(x.delays) == nil {
									continue
								}
								two := Gesture{second, h}
								if x.step(byLength, at, []Gesture{one, two}, x.end(x.gesture(m, two)), look) {
									return order
								}
							}
						}
					}
				}
			}
		}
	}
	if len(byLength[mostGestures+1]) > 0 {
		x.cut = true
	}
	return order
}

// step notes where some gestures lead from a place.
func (x *explorer) step(byLength [][]place, at place, more []Gesture, e *ending, look func(place, []Gesture, *ending) bool) bool {
	if look != nil && look(at, more, e) {
		return true
	}
	for _, s := range e.states {
		way := append(slices.Clone(at.way), more...)
		byLength[len(way)] = append(byLength[len(way)], place{s, way})
	}
	return false
}
