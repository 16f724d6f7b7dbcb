package evidence

import (
	"context"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/practice"
)

// Reliance is one fact that a plan needs and that was neither seen nor measured, with the test that would
// show it.
type Reliance struct {
	Text  string              `json:"text"`
	Say   string              `json:"say"` // the test as one does it
	At    []circuit.End       `json:"at"`
	Test  circuit.Observation `json:"test"` // without a reading
	Right any                 `json:"right"`
	// Otherwise says what follows where the test reads differently.
	Otherwise Otherwise            `json:"otherwise"`
	planned   *circuit.Observation // the test with the names of the circuit that was planned on, where Test has others
}

// Otherwise is what to do where a test does not read as a plan needs: Option is a plan that is right then
// too, nil where there is none.
type Otherwise struct {
	Text   string  `json:"text"`
	Option *string `json:"option"`
}

// Judgement is what was found of one plan.
type Judgement struct {
	Relies []Reliance
	// Open: some wall in which the plan fails looks like the recorded one to every test that can be made.
	// At are the ends concerned.
	Open bool
	At   []circuit.End
	// fails are the walls of the record's closed boxes in which the plan fails; judged says that all were
	// gone through.
	fails  map[*world]bool
	judged bool
	left   *left // what was gone through for it
}

// Holds reports whether a plan is right in everything that is left where a test of another plan reads
// otherwise than that one needs. It is false where that is not known.
func (w *Walls) Holds(plan Judgement, r Reliance) bool {
	if !plan.judged || plan.Open {
		return false
	}
	some := false
	for _, x := range plan.left.worlds {
		if w.could(x, with(r.Planned(), r.Right)) {
			continue
		}
		if some = true; plan.fails[x] {
			return false
		}
	}
	return some
}

// Judge finds what a plan relies on: what it is to become is the record with the plan carried out, touched
// the boxes that it opens.
//
// A closed box that the plan works in is opened for it: it is judged as if what the record has of it had
// been seen, since who opens it sees whether that is so. The error is the context's.
func (w *Walls) Judge(ctx context.Context, after *inspect.Compiled, touched []string) (Judgement, error) {
	touched, open, err := w.forPlan(ctx, touched)
	if err != nil {
		return Judgement{}, err
	}
	inside := slices.DeleteFunc(slices.Clone(touched), func(box string) bool { return w.record.Box(box) == nil || w.seen[box] })
	w = open
	p := w.planned(after)
	if p.left, err = w.leaves(ctx, p.touched); err != nil {
		return Judgement{}, err
	}
	found := Judgement{left: p.left}
	if failing, sure := p.failing(ctx); sure {
		found = p.byTrial(failing, touched)
		found.left, found.judged, found.fails = p.left, len(inside) == 0, map[*world]bool{}
		for _, x := range failing {
			found.fails[x] = true
			found.judged = found.judged && (x.of == nil || slices.Contains(p.left.worlds, x.of))
			if x.of != nil {
				found.fails[x.of] = true
			}
		}
	} else {
		found = p.byUse(touched)
	}
	if err := ctx.Err(); err != nil {
		return Judgement{}, err
	}
	if !found.Open {
		found.Relies = append(found.Relies, p.inside(inside, found.Relies)...)
	}
	return found, nil
}

// inside asks of each cable that comes to a closed box in which the plan works whether it is the one that
// the record has there, where nothing else asks it.
func (p *plan) inside(boxes []string, asked []Reliance) []Reliance {
	var out []Reliance
	for _, k := range p.record.Cables {
		if k.Ends[0] == nil || k.Ends[1] == nil {
			continue
		}
		for i, box := range k.Ends {
			far := *k.Ends[1-i]
			at := func(core, box string) circuit.End {
				return circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: box}
			}
			if !slices.Contains(boxes, *box) || !p.seen[far] || slices.Contains(boxes, far) || slices.ContainsFunc(asked, func(r Reliance) bool {
				return slices.ContainsFunc(r.At, func(e circuit.End) bool { return e.Owner == k.ID && e.Box == *box })
			}) {
				continue
			}
			core := slices.IndexFunc(k.Cores, func(core string) bool {
				n, ok := p.index[at(core, *box)]
				return ok && p.found[n] >= 0
			})
			if core < 0 {
				continue
			}
			a, b := at(k.Cores[core], far), at(k.Cores[core], *box)
			test := circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: p.lampsOut(), At: []circuit.End{a, b}, Lifted: p.lifts(far, *box)}
			if !p.read(test, closed) {
				out = append(out, p.reliance(candidate{test: test, right: closed}))
			}
		}
	}
	return out
}

// byTrial finds the fewest tests that leave none of the worlds in which the plan fails.
func (p *plan) byTrial(failing []*world, touched []string) Judgement {
	chosen, left := p.settling(failing, touched, byCost)
	if left != nil {
		return Judgement{Open: true, At: p.differs(left)}
	}
	out := Judgement{}
	for _, c := range chosen {
		out.Relies = append(out.Relies, p.reliance(c))
	}
	return out
}

// settling finds tests that rule out all worlds in which a plan fails; left is one that none of them rules out.
func (p *plan) settling(failing []*world, touched []string, cost func(candidate) float64) (chosen []candidate, left *world) {
	open := make([]bool, len(failing))
	for i := range open {
		open[i] = true
	}
	chosen = cover(p.candidates(failing, touched), open, cost)
	if slices.Contains(open, true) { // the boxes of the survey are at hand, too
		chosen = append(chosen, cover(p.candidates(failing, p.atHand(touched)), open, cost)...)
	}
	if i := slices.Index(open, true); i >= 0 {
		return nil, failing[i]
	}
	return needed(chosen, len(failing)), nil
}

// A test counts for what it costs, or as one.
func byCost(c candidate) float64 { return c.cost }
func byCount(candidate) float64  { return 1 }

// atHand are the boxes that the plan opens and those that were seen.
func (p *plan) atHand(touched []string) []string {
	out := slices.Clone(touched)
	for _, b := range p.record.Boxes {
		if p.seen[b.ID] && !slices.Contains(out, b.ID) {
			out = append(out, b.ID)
		}
	}
	return out
}

// cover chooses tests that rule out those failing worlds that are left, by what each rules out for its cost, and strikes
// those out.
func cover(list []candidate, left []bool, cost func(candidate) float64) (chosen []candidate) {
	for {
		best, worth := -1, 0.0
		for i, c := range list {
			n := 0
			for _, f := range c.rules {
				if left[f] {
					n++
				}
			}
			if n == 0 {
				continue
			}
			if v := float64(n) / cost(c); best < 0 || v > worth {
				best, worth = i, v
			}
		}
		if best < 0 {
			return chosen
		}
		for _, f := range list[best].rules {
			left[f] = false
		}
		chosen = append(chosen, list[best])
	}
}

// needed leaves out tests without which the others still rule out all.
func needed(chosen []candidate, worlds int) []candidate {
	for i := 0; i < len(chosen); {
		covered := map[int]bool{}
		for k, c := range chosen {
			if k != i {
				for _, f := range c.rules {
					covered[f] = true
				}
			}
		}
		if len(covered) == worlds {
			chosen = slices.Delete(chosen, i, i+1)
		} else {
			i++
		}
	}
	return chosen
}

// differs lists the ends that move and stand with other screws in a world than planned.
func (p *plan) differs(x *world) []circuit.End {
	out := []circuit.End{}
	is := p.meets(x.blocks)
	for i, n := range p.judged {
		if is[i] != p.want[i] && n < p.wires {
			out = append(out, p.ends[n])
		}
	}
	return out
}

// byUse asks for each conductor that the plan moves whether it is what the record has it for: it takes
// more tests than are needed, and none of them can be left out where not all walls are gone through.
func (p *plan) byUse(touched []string) Judgement {
	out := Judgement{}
	seen := map[string]bool{}
	need := func(test circuit.Observation, right any, about string) {
		either := test // which lead stands where tells nothing
		either.At = slices.SortedFunc(slices.Values(test.At), func(a, b circuit.End) int { return strings.Compare(a.String(), b.String()) })
		if key := either.Key(); !seen[key] {
			seen[key] = true
			if !p.read(test, right) {
				out.Relies = append(out.Relies, p.reliance(candidate{test: test, right: right, about: about}))
			}
		}
	}
	if p.exchangeable() {
		if list := p.polarity(); len(list) > 0 {
			c := slices.MinFunc(list, func(a, b candidate) int { return int(a.cost - b.cost) })
			need(c.test, c.right, "")
		}
	}
	lamps := p.lampsOut()
	moves := func(e circuit.End) bool {
		if n, ok := p.index[e]; ok {
			return p.touched[n]
		}
		was, is := p.record.JoinOf(e.Box, e.Ref), p.after.JoinOf(e.Box, e.Ref)
		return !(was < 0 && is < 0) && !(was >= 0 && is >= 0 && sameMembers(p.record.Joins[was].Of, p.after.Joins[is].Of))
	}
	known := how(p.record)
	for _, k := range p.record.Cables {
		if k.Ends[0] == nil || k.Ends[1] == nil || known[k.ID] == circuit.Seen || known[k.ID] == "" {
			continue
		}
		for _, core := range k.Cores {
			r := circuit.Ref{Owner: k.ID, Part: core}
			both := p.bothEnds(k)
			a, b := circuit.End{Ref: r, Box: *both[0]}, circuit.End{Ref: r, Box: *both[1]}
			if circuit.GroundColour(core) && p.grounded(a) && p.grounded(b) {
				continue
			}
			if (moves(a) || moves(b)) && p.reach(a, touched) && p.reach(b, touched) {
				need(circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: lamps, At: []circuit.End{a, b}, Lifted: p.lifts(a.Box, b.Box)}, closed, "")
			}
		}
	}
	for _, b := range p.base.blocks {
		for i, x := range b {
			for _, y := range b[:i] {
				if x < p.wires && y < p.wires && (p.touched[x] || p.touched[y]) && p.ends[x].Owner != p.ends[y].Owner {
					need(circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: lamps, At: []circuit.End{p.ends[y], p.ends[x]}, Lifted: p.lifts(p.ends[x].Box, p.ends[y].Box)}, closed, "")
				}
			}
		}
	}
	p.whichLamp(touched, need)
	p.whichSource(touched, need, &out)
	if at := p.atUnseenSwitches(touched); len(at) > 0 {
		out.Open, out.At = true, append(out.At, at...)
	}
	return out
}

// atUnseenSwitches lists the conductors that the plan moves and that lead to an assumed switch in a box that stays closed. What
// is in that box may be something else.
func (p *plan) atUnseenSwitches(touched []string) []circuit.End {
	var out []circuit.End
	for _, b := range p.base.blocks {
		unseen := slices.ContainsFunc(b, func(x int) bool {
			d := p.record.Device(p.ends[x].Owner)
			return x >= p.wires && d != nil && d.Mechanical() && !p.reach(circuit.End{Box: d.Box}, touched)
		})
		for _, x := range b {
			if unseen && x < p.wires && p.touched[x] && p.reach(p.ends[x], touched) {
				out = append(out, p.ends[x])
			}
		}
	}
	return out
}

// whichLamp asks of each conductor that the plan moves and that leads to a lamp whether it does.
func (p *plan) whichLamp(touched []string, need func(test circuit.Observation, right any, about string)) {
	known, h := how(p.record), p.under(p.base, circuit.Observation{Power: "off"})
	moved := map[int]bool{} // by conductor as found
	for x := range p.wires {
		if p.touched[x] {
			moved[h.certain.Root(x)] = true
		}
	}
	for _, b := range p.base.blocks {
		lamp := slices.IndexFunc(b, func(x int) bool {
			d := p.record.Device(p.ends[x].Owner)
			return x >= p.wires && d != nil && d.Type == circuit.TypeLamp && !p.seen[d.Box] && known[d.Box] != circuit.Assumed && p.ends[x].Part == "l" // one on record, that somebody can reach
		})
		core := slices.IndexFunc(b, func(x int) bool { return x < p.wires && p.reach(p.ends[x], touched) })
		if lamp >= 0 && core >= 0 && moved[h.certain.Root(b[lamp])] {
			a, l := p.ends[b[core]], p.ends[b[lamp]]
			need(circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: p.lampsOut(), At: []circuit.End{a, l}, Lifted: p.lifts(a.Box)}, closed, "")
		}
	}
}

// whichSource asks of each conductor that the plan moves and that the record has for line or neutral whether it is
// that. A probe that stays quiet shows no neutral: a core that hangs on nothing is quiet too. So it is read against
// line; where the box has none, nothing in it shows the neutral, and the plan cannot be known to be right.
func (p *plan) whichSource(touched []string, need func(test circuit.Observation, right any, about string), out *Judgement) {
	test := circuit.Observation{Power: "on", Lifted: p.lifts(touched...)}
	h, volts := p.under(p.base, test), practice.Volts(p.record)
	lines := map[string][]circuit.End{} // by box
	for i := range p.wires {
		if live, _ := p.source(h, i); live && slices.Contains(touched, p.box(i)) {
			lines[p.box(i)] = append(lines[p.box(i)], p.ends[i])
		}
	}
	// against asks for the volts of a conductor against any of some others.
	against := func(one circuit.Observation, e circuit.End, any []circuit.End) {
		one.Instrument = circuit.TwoPole
		for k := range any {
			one.At = []circuit.End{any[len(any)-1-k], e}
			if p.read(one, volts) {
				return
			}
		}
		need(one, volts, "")
	}
	for i := range p.wires {
		live, back := p.source(h, i)
		if !p.touched[i] || !slices.Contains(touched, p.box(i)) || !live && !back || p.seenSource(i) {
			continue
		}
		grounds := slices.DeleteFunc(p.record.CoreEnds(p.box(i)), func(e circuit.End) bool { return !p.earthed(e) })
		switch {
		case live && len(grounds) > 0:
			against(test, p.ends[i], grounds)
		case live:
			one := test
			one.Instrument, one.At = circuit.NonContact, []circuit.End{p.ends[i]}
			need(one, "live", "")
		case len(lines[p.box(i)]) > 0:
			against(test, p.ends[i], lines[p.box(i)])
		default:
			out.Open, out.At = true, append(out.At, p.ends[i])
		}
	}
}

// seenSource reports whether a conductor was followed by eye to a terminal of the supply: nothing is left to be read of it but
// which way round the feed is. What is in a box that only the plan opens is not seen yet.
func (p *plan) seenSource(n int) bool {
	return !p.asOpened && slices.ContainsFunc(slices.Concat(p.hots(), p.supplies(2)), func(s int) bool {
		d := p.record.Device(p.ends[s].Owner)
		return d != nil && p.seen[d.Box] && p.inSight[s] == p.inSight[n]
	})
}

// reach reports whether an end can be touched: its box was seen, or the plan opens it.
func (p *plan) reach(e circuit.End, touched []string) bool {
	return p.seen[e.Box] || slices.Contains(touched, e.Box)
}

// exchangeable reports whether nothing has shown which way round the feed is joined.
func (w *Walls) exchangeable() bool {
	if w.tracer == nil {
		return true
	}
	_, exchanged := w.tracer.Polarity()
	return exchanged
}

// read reports whether a test was made already, and read so.
func (w *Walls) read(test circuit.Observation, right any) bool {
	return slices.ContainsFunc(w.record.Observations, func(o circuit.Observation) bool {
		if o.Reading != right || o.Instrument != test.Instrument || len(o.At) != 2 || len(test.At) != 2 {
			return false
		}
		same := o.At[0] == test.At[0] && o.At[1] == test.At[1] || o.At[0] == test.At[1] && o.At[1] == test.At[0]
		return same && !slices.ContainsFunc(test.Lifted, func(r circuit.Ref) bool { return !slices.Contains(o.Lifted, r) })
	})
}
