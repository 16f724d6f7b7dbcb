package evidence

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
	"ambivia/core/sets"
)

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
		for _, c := range p.ruled(p.polarity(), failing) {
			add(c)
		}
	}
	if len(out) > 0 && allRuled(out, len(failing)) {
		return out // nothing but which way round the feed is
	}
	for _, c := range p.ruled(p.live(touched), failing) {
		add(c)
	}
	for _, boxes := range pairsOf(touched) {
		t := p.tester(failing, boxes)
		known := map[[2]int]bool{}
		try := func(a, b int, cost float64) {
			x, y := t.seen.Root(a), t.seen.Root(b)
			if key := [2]int{min(x, y), max(x, y)}; !known[key] { // what hangs together in the boxes reads alike
				known[key] = true
				add(t.between(a, b, cost))
			}
		}
		for k, a := range ends {
			for _, b := range ends[:k] {
				switch in := [2]string{p.box(b), p.box(a)}; {
				case in != boxes && in != [2]string{boxes[1], boxes[0]}:
				case boxes[0] == boxes[1]:
					try(b, a, costTouch)
				default:
					try(b, a, costLead)
				}
			}
			if boxes[0] != boxes[1] || p.box(a) != boxes[0] {
				continue
			}
			for l := p.wires; l < len(p.ends); l++ {
				if d := p.record.Device(p.ends[l].Owner); d.Type == circuit.TypeLamp && !p.seen[d.Box] {
					try(a, l, costSocket)
				}
			}
		}
	}
	return out
}

// ruled finds for tests under one set of conditions the failing worlds that would show something else.
func (p *plan) ruled(list []candidate, failing []*world) []candidate {
	if len(list) == 0 {
		return nil
	}
	reads := make([]reading, len(list))
	for i, c := range list {
		reads[i] = p.readingOf(with(c.test, c.right))
	}
	for f, x := range failing {
		h := p.joined(x, reads[0])
		for i, r := range reads {
			if !r.blind && !p.shows(h, r) {
				list[i].rules = append(list[i].rules, f)
			}
		}
	}
	return list
}

// allRuled reports whether some tests rule out all failing worlds.
func allRuled(list []candidate, failing int) bool {
	ruled := map[int]bool{}
	for _, c := range list {
		for _, f := range c.rules {
			ruled[f] = true
		}
	}
	return len(ruled) == failing
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
	seen  sets.Sets // what hangs together in the boxes
	base  hold
	holds []hold // by failing world
}

// tester lifts the switches of two boxes and takes the lamps out.
func (p *plan) tester(failing []*world, boxes [2]string) *tester {
	t := &tester{plan: p, test: circuit.Observation{Power: "off", Instrument: circuit.Continuity, LampsOut: p.lampsOut(), Lifted: p.lifts(boxes[:]...)}}
	t.seen, t.base = slices.Clone(p.inBoxes(t.test).certain), p.under(p.Walls.base, t.test)
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
	out = append(out, p.across(test, h, touched)...)
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

// across are readings of what is line against what is neutral of the same box: one shows of both that they are fed, and that
// they are not one wire.
func (p *plan) across(test circuit.Observation, h hold, touched []string) []candidate {
	var out []candidate
	test.Instrument = circuit.TwoPole
	known := map[[2]int]bool{}                    // by what hangs together in the box: it reads alike
	seen := slices.Clone(p.inBoxes(test).certain) // which is shared, and looking compresses it
	for a := range p.wires {
		live, _ := p.source(h, a)
		if !live || !slices.Contains(touched, p.box(a)) {
			continue
		}
		for b := range p.wires {
			key := [2]int{seen.Root(a), seen.Root(b)}
			if _, back := p.source(h, b); !back || p.box(a) != p.box(b) || known[key] {
				continue
			}
			known[key] = true
			test.At = []circuit.End{p.ends[a], p.ends[b]}
			out = append(out, candidate{test: test, right: practice.Volts(p.record), cost: costPower + costTouch})
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
