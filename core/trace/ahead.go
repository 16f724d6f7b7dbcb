package trace

import (
	"context"
	"math"

	"ambivia/core/circuit"
)

// mostFollowed is of how many of the likeliest worlds the tests are followed to their end to
// tell how many walks are still to come; mostTests how many tests of each.
const (
	mostFollowed = 3
	mostTests    = 24
)

// followable bounds the combinations of all frames for which that is done at once: it is
// a forecast, and not worth the wait where there are many. [Tracer.Forecast] takes its time, over the
// likeliest world alone, up to forecastable.
const (
	followable   = 1_200
	forecastable = 120_000
)

// Forecast is what [Tracer.Result] tells of the breaker operations still to come where there is more to
// go through than it waits for: some seconds' work. Both are nil where even that is too much.
func (t *Tracer) Forecast(ctx context.Context, prefer Prefer) (*Operations, map[string]*Operations, error) {
	if !t.possible() {
		return nil, map[string]*Operations{}, nil
	}
	return t.aheadOf(ctx, prefer, forecastable)
}

// ahead tells how many breaker operations are still to come, with the tests that are
// proposed and in the ways of the conventions: of the likeliest worlds, each played to the end.
// They are nil where that was not worked out, those of a convention too where it cannot settle
// every one of these worlds.
func (t *Tracer) ahead(ctx context.Context, prefer Prefer) (*Operations, map[string]*Operations, error) {
	return t.aheadOf(ctx, prefer, followable)
}

func (t *Tracer) aheadOf(ctx context.Context, prefer Prefer, most int) (*Operations, map[string]*Operations, error) {
	byConvention := map[string]*Operations{"A": nil, "B": nil, "E": nil}
	if t.Resolved() {
		on := 0
		if t.isOn() {
			on = 1
		}
		done := &Operations{on, float64(on)}
		return done, map[string]*Operations{"A": done, "B": done, "E": done}, nil
	}
	size := t.size()
	if size > most {
		return nil, byConvention, nil
	}
	worlds := byPolarity(t.worlds())
	if worlds = worlds[:min(len(worlds), mostFollowed)]; size > followable {
		worlds = worlds[:1]
	}
	total := 0.0
	for _, w := range worlds {
		total += w.weight
	}
	ours := &Operations{}
	settled := map[string]bool{"A": true, "B": true, "E": true}
	sums := map[string]*Operations{"A": {}, "B": {}, "E": {}}
	for _, w := range worlds {
		if ctx.Err() != nil {
			return nil, nil, ctx.Err()
		}
		walks, err := t.follow(ctx, w, prefer)
		if err != nil {
			return nil, nil, err
		}
		ours.Worst = max(ours.Worst, walks)
		ours.Mean += w.weight / total * float64(walks)
		for _, convention := range conventions {
			if !settled[convention.name] {
				continue
			}
			walks, ok := t.play(w, convention)
			settled[convention.name] = ok
			sums[convention.name].Worst = max(sums[convention.name].Worst, walks)
			sums[convention.name].Mean += w.weight / total * float64(walks)
		}
	}
	ours.Mean = math.Round(ours.Mean*100) / 100
	for name, ok := range settled {
		if ok {
			byConvention[name] = sums[name]
			byConvention[name].Mean = math.Round(byConvention[name].Mean*100) / 100
		}
	}
	return ours, byConvention, nil
}

func (t *Tracer) isOn() bool { return t.last().Power == "on" }

// last is the test that was made last; before any, with everything as found and the power off.
func (t *Tracer) last() circuit.Observation {
	for i := len(t.made) - 1; i >= 0; i-- {
		if t.made[i].Reading != nil {
			return t.made[i]
		}
	}
	return circuit.Observation{Power: "off"}
}

// answer is what a world shows in its likeliest combination; where that may come either
// way, the second of the two, which tells less more often.
func (t *Tracer) answer(w *world, o circuit.Observation) any {
	m := made{instrument: o.Instrument, lamp: t.lampOf(o), setup: t.prepare(o)}
	for _, e := range o.At {
		m.at = append(m.at, t.probe(e))
	}
	c := w.combinations[0]
	t.net.join(w.f, c, m.setup, w.nets)
	shows := t.net.shows(&m, w.f.classOf(c), w.nets)
	words := wordsOf(o.Instrument, t.custom.Volts)
	for i := len(words) - 1; i >= 0; i-- {
		if shows>>i&1 == 1 && (i == 1 || shows&second == 0) {
			return words[i]
		}
	}
	return circuit.Unclear
}

// follow plays the proposed tests in one world to the end, and counts the walks.
func (t *Tracer) follow(ctx context.Context, w *world, prefer Prefer) (operations int, err error) {
	f := t.fork()
	last := t.last()
	for range mostTests {
		test, ok, err := f.Next(ctx, prefer)
		if err != nil {
			return 0, err
		}
		if !ok {
			break
		}
		operations += walks(last, test)
		test.Reading = f.answer(w, test)
		last = test
		f.Observe(test)
	}
	if last.Power == "on" {
		operations++
	}
	return operations, nil
}

// convention is one of the practitioners' ways of tracing.
type convention struct {
	name string
	// tests lists what is measured, in order, as sessions of one state of breaker and wires;
	// told is what was read so far.
	tests func(t *Tracer, told []circuit.Observation) (circuit.Observation, bool)
}

// conventions are the practitioners’ ways: A lifts both commons, caps them and probes them
// with the power on; B leaves all connected and probes each common, with the light on and
// off; E lifts everything, finds the line, ties it to both travelers and looks at the far
// box which of its conductors are live.
var conventions = []convention{
	{"A", func(t *Tracer, told []circuit.Observation) (circuit.Observation, bool) {
		o := circuit.Observation{Power: "on", Instrument: circuit.NonContact, Lifted: t.commons()}
		return t.each(o, t.wiresOf(t.commons()), told)
	}},
	{"B", func(t *Tracer, told []circuit.Observation) (circuit.Observation, bool) {
		o := circuit.Observation{Power: "on", Instrument: circuit.NonContact}
		wires := t.wiresOf(t.commons())
		if len(told) >= len(wires) && len(t.switches) > 0 {
			o.Flipped = []string{t.switches[0].id}
			told = told[len(wires):]
		}
		return t.each(o, wires, told)
	}},
	{"E", func(t *Tracer, told []circuit.Observation) (circuit.Observation, bool) {
		o := circuit.Observation{Power: "on", Instrument: circuit.NonContact}
		var near, far []circuit.End
		for i := range t.switches {
			s := &t.switches[i]
			if !s.seen() || s.kind == idle {
				continue
			}
			var screws []circuit.Ref
			for _, n := range s.nodes {
				screws = append(screws, t.nodes[n].Ref)
			}
			o.Lifted = append(o.Lifted, screws...)
			if wires := t.wiresOf(screws); near == nil {
				near = wires
			} else {
				far = append(far, wires...)
			}
		}
		if len(told) < len(near) {
			return t.each(o, near, told)
		}
		if len(near) < 2 {
			return o, false
		}
		o.Tied = [][]circuit.End{near}
		return t.each(o, far, told[len(near):])
	}},
}

// each is the test of the next of some ends.
func (t *Tracer) each(o circuit.Observation, ends []circuit.End, told []circuit.Observation) (circuit.Observation, bool) {
	if len(told) >= len(ends) {
		return o, false
	}
	o.At = []circuit.End{ends[len(told)]}
	return o, true
}

// commons lists the odd screws of the seen switches.
func (t *Tracer) commons() []circuit.Ref {
	var out []circuit.Ref
	for i := range t.switches {
		if s := &t.switches[i]; s.seen() && s.kind == ending {
			out = append(out, t.nodes[s.nodes[0]].Ref)
		}
	}
	return out
}

// wiresOf lists one core end under each of some screws.
func (t *Tracer) wiresOf(screws []circuit.Ref) []circuit.End {
	var out []circuit.End
	for _, r := range screws {
		class := t.class[t.atom[t.terminal[r]]]
		box := t.doc.Device(r.Owner).Box
		for _, e := range t.classes[class].ends {
			if e.Box == box {
				out = append(out, e)
				break
			}
		}
	}
	return out
}

// play plays a convention in one world; ok where it settles every conductor, as those who
// go that way see it: they trust that line and return run in the same cables.
func (t *Tracer) play(w *world, by convention) (walks int, ok bool) {
	f := t.fork()
	f.trusts = true
	on, state := t.isOn(), ""
	var told []circuit.Observation
	for range mostTests {
		test, more := by.tests(f, told)
		if !more {
			break
		}
		// Wires are lifted, put back and tied with the power off.
		now := circuit.Observation{Power: test.Power, Lifted: test.Lifted, Tied: test.Tied}.Key()
		if on && now != state && state != "" {
			walks += 2
		} else if !on {
			walks++
			on = true
		}
		state = now
		test.Reading = f.answer(w, test)
		told = append(told, test)
		f.Observe(test)
	}
	if on {
		walks++
	}
	return walks, f.Resolved()
}
