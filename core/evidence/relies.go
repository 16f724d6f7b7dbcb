package evidence

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/practice"
)

// Reliance is one fact that a plan needs and that nobody has seen or measured, with the test that would
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
}

// Holds reports whether a plan is right in everything that is left where a test of another plan reads
// otherwise than that one needs. It is false where that is not known.
func (w *Walls) Holds(plan Judgement, r Reliance) bool {
	if !plan.judged || plan.Open {
		return false
	}
	some := false
	for _, x := range w.worlds {
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
	inside := slices.DeleteFunc(slices.Clone(touched), func(box string) bool { return w.record.Box(box) == nil || w.seen[box] })
	if len(inside) > 0 {
		var err error
		if w, err = w.opening(ctx, inside); err != nil {
			return Judgement{}, err
		}
	}
	p := w.planned(after)
	found := Judgement{}
	if failing, sure := p.failing(); sure {
		found = p.byTrial(failing, touched)
		found.judged, found.fails = len(inside) == 0, map[*world]bool{}
		for _, x := range failing {
			found.fails[x] = true
			found.judged = found.judged && (x.of == nil || slices.Contains(w.worlds, x.of))
			if x.of != nil {
				found.fails[x.of] = true
			}
		}
	} else {
		found = p.byUse(touched)
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

// candidate is a test with what it shows behind the recorded walls.
type candidate struct {
	test  circuit.Observation
	right any
	cost  float64
	rules []int // of the failing worlds, those that show something else
	about string
}

// What a test costs, in touches of the meter: a lead to another room takes a helper, a lamp's socket a
// ladder, the power a walk.
const (
	costTouch  = 1.0
	costLead   = 4.0
	costSocket = 12.0
	costPower  = 8.0
)

// byTrial finds the fewest tests that leave none of the worlds in which the plan fails.
func (p *plan) byTrial(failing []*world, touched []string) Judgement {
	if len(failing) == 0 {
		return Judgement{}
	}
	list := p.candidates(failing, touched)
	var chosen []candidate
	left := make([]bool, len(failing))
	for i := range left {
		left[i] = true
	}
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
			if v := float64(n) / c.cost; best < 0 || v > worth {
				best, worth = i, v
			}
		}
		if best < 0 {
			break
		}
		for _, f := range list[best].rules {
			left[f] = false
		}
		chosen = append(chosen, list[best])
	}
	for i, is := range left {
		if is {
			return Judgement{Open: true, At: p.differs(failing[i])}
		}
	}
	chosen = needed(chosen, len(failing))
	out := Judgement{}
	for _, c := range chosen {
		out.Relies = append(out.Relies, p.reliance(c))
	}
	return out
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

// candidates lists the tests that can be made with what a plan opens, each with the failing worlds that
// would show something else than the recorded walls.
func (p *plan) candidates(failing []*world, touched []string) []candidate {
	var out []candidate
	add := func(c candidate) {
		if len(c.rules) > 0 {
			out = append(out, c)
		}
	}
	var ends []int
	for i := range p.wires {
		if slices.Contains(touched, p.ends[i].Box) {
			ends = append(ends, i)
		}
	}
	if slices.ContainsFunc(failing, func(x *world) bool { return x.swapped }) {
		for _, c := range p.polarity() {
			for i, x := range failing {
				if !p.could(x, with(c.test, c.right)) {
					c.rules = append(c.rules, i)
				}
			}
			add(c)
		}
	}
	if !slices.ContainsFunc(failing, func(x *world) bool { return !x.swapped }) {
		return out
	}
	for _, c := range p.live(touched) {
		for i, x := range failing {
			if !p.could(x, with(c.test, c.right)) {
				c.rules = append(c.rules, i)
			}
		}
		add(c)
	}
	for _, boxes := range pairsOf(touched) {
		t := p.tester(failing, boxes)
		for k, a := range ends {
			for _, b := range ends[:k] {
				switch in := [2]string{p.box(b), p.box(a)}; {
				case in != boxes && in != [2]string{boxes[1], boxes[0]}:
				case boxes[0] == boxes[1]:
					add(t.between(b, a, costTouch))
				default:
					add(t.between(b, a, costLead))
				}
			}
			if boxes[0] != boxes[1] || p.box(a) != boxes[0] {
				continue
			}
			for l := p.wires; l < len(p.ends); l++ {
				if d := p.record.Device(p.ends[l].Owner); d.Type == circuit.TypeLamp && !p.seen[d.Box] {
					add(t.between(a, l, costSocket))
				}
			}
		}
	}
	return out
}

// pairsOf lists all pairs of boxes, each with itself too.
func pairsOf(boxes []string) [][2]string {
	var out [][2]string
	for i, a := range boxes {
		for _, b := range boxes[:i+1] {
			out = append(out, [2]string{b, a})
		}
	}
	return out
}

// tester makes continuity tests under one set of conditions.
type tester struct {
	*plan
	test  circuit.Observation
	base  hold
	holds []hold // by failing world
}

// tester lifts the switches of two boxes and takes the lamps out.
func (p *plan) tester(failing []*world, boxes [2]string) *tester {
	t := &tester{plan: p, test: circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: p.lampsOut(), Lifted: p.lifts(boxes[:]...)}}
	t.base = p.under(p.Walls.base, t.test)
	for _, x := range failing {
		t.holds = append(t.holds, p.under(x, t.test))
	}
	return t
}

// between is the test from one end to another, with the worlds that it rules out; none where it is not
// certain what it shows behind the recorded walls.
func (t *tester) between(a, b int, cost float64) candidate {
	c := candidate{test: t.test, cost: cost}
	c.test.At = []circuit.End{t.ends[a], t.ends[b]}
	right := t.base.beep(a, b)
	if right == "" {
		return c
	}
	c.right = right
	for i, h := range t.holds {
		if is := h.beep(a, b); is != "" && is != right {
			c.rules = append(c.rules, i)
		}
	}
	return c
}

func with(o circuit.Observation, reading any) circuit.Observation {
	o.Reading = reading
	return o
}

// lampsOut are all lamps on record: one in its socket is a path.
func (p *plan) lampsOut() []string {
	var out []string
	for _, d := range p.record.Devices {
		if d.Type == circuit.TypeLamp {
			out = append(out, d.ID)
		}
	}
	return out
}

// lifts are the screws of the switches in some boxes: what hangs on one may hang on anything.
func (p *plan) lifts(boxes ...string) []circuit.Ref {
	var out []circuit.Ref
	for i := p.wires; i < len(p.ends); i++ {
		d := p.record.Device(p.ends[i].Owner)
		if slices.Contains(boxes, d.Box) && d.Mechanical() && p.found[i] >= 0 && len(p.record.Joins[p.found[i]].Of) > 1 {
			out = append(out, p.ends[i].Ref)
		}
	}
	return out
}

// live are readings with the power on and the switches of the plan's boxes lifted: of what is line then
// against ground, of what is neutral that it is silent.
func (p *plan) live(touched []string) []candidate {
	var out []candidate
	test := circuit.Observation{Power: "on", Lifted: p.lifts(touched...)}
	h := p.under(p.base, test)
	for i := range p.wires {
		if !slices.Contains(touched, p.box(i)) {
			continue
		}
		live, back := p.source(h, i)
		one := test
		switch ground, ok := p.groundIn(p.box(i)); {
		case live && ok:
			one.Instrument, one.At = circuit.TwoPole, []circuit.End{p.ends[i], ground}
			out = append(out, candidate{test: one, right: practice.Volts(p.record), cost: costPower + costTouch})
		case live:
			one.Instrument, one.At = circuit.NonContact, []circuit.End{p.ends[i]}
			out = append(out, candidate{test: one, right: "live", cost: costPower + costTouch})
		case back:
			one.Instrument, one.At = circuit.NonContact, []circuit.End{p.ends[i]}
			out = append(out, candidate{test: one, right: "quiet", cost: costPower + costTouch})
		}
	}
	return out
}

// groundIn is a core end of a box that stands with the ground.
func (p *plan) groundIn(box string) (circuit.End, bool) {
	for _, e := range p.record.CoreEnds(box) {
		if p.earthed(e) {
			return e, true
		}
	}
	return circuit.End{}, false
}

// polarity are the readings with the power on, all in place, that show which of the feed's conductors is
// line.
func (p *plan) polarity() []candidate {
	var out []candidate
	h := p.under(p.base, circuit.Observation{Power: "on"})
	for i := range p.wires {
		live, back := p.source(h, i)
		if !live && !back {
			continue
		}
		if g, ok := p.groundIn(p.box(i)); live && ok {
			out = append(out, candidate{test: circuit.Observation{Power: "on", Instrument: circuit.TwoPole, At: []circuit.End{p.ends[i], g}}, right: practice.Volts(p.record), cost: costPower})
		}
		right := "quiet"
		if live {
			right = "live"
		}
		out = append(out, candidate{test: circuit.Observation{Power: "on", Instrument: circuit.NonContact, At: []circuit.End{p.ends[i]}}, right: right, cost: costPower + costTouch})
	}
	return out
}

// earthed reports whether a core end stands with the ground for certain.
func (w *Walls) earthed(e circuit.End) bool {
	return circuit.GroundColour(e.Part) && w.grounded(e) && w.record.JoinOf(e.Box, e.Ref) >= 0
}

// byUse asks for each conductor that the plan moves whether it is what the record has it for: it takes
// more tests than are needed, and none of them can be left out where not all walls are gone through.
func (p *plan) byUse(touched []string) Judgement {
	out := Judgement{}
	seen := map[string]bool{}
	need := func(test circuit.Observation, right any, about string) {
		if key := test.Key(); !seen[key] {
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
			a, b := circuit.End{Ref: r, Box: *k.Ends[0]}, circuit.End{Ref: r, Box: *k.Ends[1]}
			if circuit.GroundColour(core) && p.grounded(a) && p.grounded(b) {
				continue
			}
			if (moves(a) || moves(b)) && p.reach(a, touched) && p.reach(b, touched) {
				need(circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: lamps, At: []circuit.End{a, b}, Lifted: p.lifts(*k.Ends[0], *k.Ends[1])}, closed, "")
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
	return out
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
