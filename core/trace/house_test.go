package trace

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/demo"
)

// hiddenHouse makes a random hidden house.
func hiddenHouse(t testing.TB, seed uint64, switches int) *house.House {
	t.Helper()
	c := circuittest.Walls(rand.New(rand.NewPCG(seed, uint64(switches))), switches)
	h, err := house.New(c, seed, nil)
	if err != nil {
		t.Fatal(err)
	}
	return h
}

// trueRoles are the roles of the survey's core ends in the hidden circuit.
func trueRoles(h *house.House) map[circuit.End]electric.Role {
	roles := electric.New(h.Truth()).Roles()
	out := map[circuit.End]electric.Role{}
	for _, k := range h.Survey().Cables {
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, name := range k.Cores {
				e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: name}, Box: *box}
				out[e] = electric.Unused
				if role, known := roles[h.True(e)]; known {
					out[e] = role
				}
			}
		}
	}
	return out
}

// holds reports whether what is left gives every end its true role, among others it may
// have.
func (t *Tracer) holds(roles map[circuit.End]electric.Role) bool {
	odds := t.Odds()
	for i, c := range t.classes {
		for _, e := range c.ends {
			if e.Box != "" && !t.classes[i].ground && odds[e][roles[e]] == 0 {
				return false
			}
		}
	}
	return t.possible()
}

func (t *Tracer) done(tb testing.TB) bool {
	tb.Helper()
	done, err := t.Done(context.Background())
	if err != nil {
		tb.Fatal(err)
	}
	return done
}

// traced is how one hidden house was traced.
type traced struct {
	done, wrong        bool
	walks, tests, live int
	tracer             *Tracer
}

// play asks a hidden house what the tracer wants to know, to the end.
func play(t testing.TB, h *house.House, c *circuit.Circuit, prefer Prefer) traced {
	t.Helper()
	ctx := context.Background()
	tr, err := New(ctx, c)
	if err != nil {
		t.Fatal(err)
	}
	out := traced{tracer: tr}
	last := circuit.Observation{Power: "off"}
	for range 80 {
		test, ok, err := tr.Next(ctx, prefer)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		out.tests++
		out.walks += walks(last, test)
		if last = test; test.Power == "on" {
			out.live++
		}
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatalf("%+v: %v", test, err)
		}
		tr.Observe(test)
	}
	if last.Power == "on" {
		out.walks++
	}
	out.done = tr.done(t)
	out.wrong = !tr.holds(trueRoles(h))
	return out
}

// TestComplete: the true circuit of a random house on any tree of boxes is among the
// worlds, before any reading and after each honest one.
func TestComplete(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	for _, many := range []struct{ switches, houses int }{{2, 60}, {3, 15}, {4, 3}} {
		worlds := []int{}
		for seed := range uint64(many.houses) {
			h := hiddenHouse(t, seed+5000, many.switches)
			tr, err := New(context.Background(), h.Survey())
			if err != nil {
				t.Errorf("%d switches, house %d: %v", many.switches, seed, err)
				continue
			}
			worlds = append(worlds, tr.Worlds())
			roles := trueRoles(h)
			rng := rand.New(rand.NewPCG(seed, 9))
			for n := range 4 {
				if n > 0 && many.switches > 4 {
					break // of five switches the search itself is long enough
				}
				if !tr.holds(roles) {
					t.Errorf("%d switches, house %d, after %d readings: the true roles are in none of %d worlds", many.switches, seed, n, tr.Worlds())
					break
				}
				o := anyTest(rng, h.Survey())
				if o.Reading, err = h.Answer(o); err != nil {
					t.Fatalf("%+v: %v", o, err)
				}
				tr.Observe(o)
			}
		}
		slices.Sort(worlds)
		t.Logf("%d switches: %d houses, %d worlds in the middle, %d at most", many.switches, len(worlds), worlds[len(worlds)/2], worlds[len(worlds)-1])
	}
}

// TestLivedIn: a receptacle on the feed, a second lamp and a switch that nobody wired take
// no house away: the true roles are among the worlds before any reading and after some.
func TestLivedIn(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	odd := map[string]int{}
	for _, many := range []struct{ switches, houses int }{{2, 60}, {3, 25}} {
		for seed := range uint64(many.houses) {
			c := circuittest.LivedIn(rand.New(rand.NewPCG(seed, 77)), many.switches)
			h, err := house.New(c, seed, nil)
			if err != nil {
				t.Fatal(err)
			}
			for _, id := range []string{"outlet", "beside", "idle"} {
				if c.Device(id) != nil {
					odd[id]++
				}
			}
			tr, err := New(context.Background(), h.Survey())
			if err != nil {
				t.Errorf("%d switches, house %d: %v", many.switches, seed, err)
				continue
			}
			roles := trueRoles(h)
			rng := rand.New(rand.NewPCG(seed, 78))
			for n := range 3 {
				if !tr.holds(roles) {
					t.Errorf("%d switches, house %d, after %d readings: the true roles are in none of %d worlds", many.switches, seed, n, tr.Worlds())
					break
				}
				o := anyTest(rng, h.Survey())
				if o.Reading, err = h.Answer(o); err != nil {
					t.Fatal(err)
				}
				tr.Observe(o)
			}
		}
	}
	for id, n := range odd {
		if n < 10 {
			t.Errorf("only %d houses have %s", n, id)
		}
	}
	t.Logf("%v", odd)
}

// anyTest draws a test that a person might make, sensible or not.
func anyTest(rng *rand.Rand, c *circuit.Circuit) circuit.Observation {
	end := func() circuit.End {
		k := c.Cables[rng.IntN(len(c.Cables))]
		return circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: k.Cores[rng.IntN(len(k.Cores))]}, Box: *k.Ends[0]}
	}
	o := circuit.Observation{Power: []string{"on", "off"}[rng.IntN(2)]}
	var switches []circuit.Device
	for _, d := range c.Devices {
		switch {
		case d.Mechanical():
			switches = append(switches, d)
		case d.Type == circuit.TypeLamp && rng.IntN(2) == 0:
			o.LampsOut = append(o.LampsOut, d.ID)
		}
	}
	for _, d := range switches {
		if rng.IntN(3) == 0 {
			o.Flipped = append(o.Flipped, d.ID)
		}
		for _, terminal := range c.Terminals(d) {
			if rng.IntN(4) == 0 && terminal != "ground" {
				o.Lifted = append(o.Lifted, circuit.Ref{Owner: d.ID, Part: terminal})
			}
		}
	}
	switch rng.IntN(5) {
	case 0:
		o.Instrument, o.At = circuit.NonContact, []circuit.End{end()}
	case 1:
		o.Instrument, o.At = circuit.TwoPole, []circuit.End{end(), end()}
	case 2:
		o.Instrument, o.At = circuit.Multimeter, []circuit.End{end(), end()}
	case 3:
		o.Power, o.Instrument, o.At = "off", circuit.Continuity, []circuit.End{end(), end()}
	default:
		o.Instrument = circuit.LampLook
		var lamps []string
		for _, d := range c.Devices {
			if d.Type == circuit.TypeLamp {
				lamps = append(lamps, d.ID)
			}
		}
		if len(lamps) > 1 {
			o.Light = lamps[rng.IntN(len(lamps))]
		}
	}
	return o
}

// TestSchools holds two of the practitioners' ways beside it: A lifts both commons and
// probes them with the power on; E lifts everything, finds the line, ties it to the
// travelers and looks at the far box.
func TestSchools(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	const houses = 120
	settled, walks := map[string]int{}, map[string]int{}
	for seed := range uint64(houses) {
		for _, convention := range []string{"A", "E"} {
			h := hiddenHouse(t, seed, 2)
			tr, err := New(context.Background(), h.Survey())
			if err != nil {
				t.Fatal(err)
			}
			ask := func(o circuit.Observation) any {
				if o.Reading, err = h.Answer(o); err != nil {
					t.Fatal(err)
				}
				tr.Observe(o)
				return o.Reading
			}
			if convention == "A" {
				walks[convention] += conventionA(tr, ask)
			} else {
				walks[convention] += conventionE(tr, ask)
			}
			if !tr.holds(trueRoles(h)) {
				t.Errorf("convention %s, house %d: a wrong answer", convention, seed)
			}
			if tr.done(t) {
				settled[convention]++
			}
		}
	}
	for _, convention := range []string{"A", "E"} {
		t.Logf("convention %s: %d houses of two switches, %.2f walks in the mean, everything certain in %d", convention, houses, float64(walks[convention])/houses, settled[convention])
	}
}

// wires lists one core end on each screw of a switch in canonical order.
func (t *Tracer) wires(i int) []circuit.End {
	var out []circuit.End
	for _, n := range t.switches[i].nodes {
		for _, s := range t.screws {
			if slices.Contains(s.members, n) {
				for _, m := range s.members {
					if e := t.nodes[m]; e.Box != "" {
						out = append(out, e)
						break
					}
				}
			}
		}
	}
	return out
}

func conventionA(t *Tracer, ask func(circuit.Observation) any) (walks int) {
	o := circuit.Observation{Power: "on", Instrument: circuit.NonContact}
	for i := range t.switches {
		o.Lifted = append(o.Lifted, t.nodes[t.switches[i].nodes[0]].Ref)
	}
	for i := range t.switches {
		o.At = t.wires(i)[:1]
		ask(o)
	}
	return 2
}

func conventionE(t *Tracer, ask func(circuit.Observation) any) (walks int) {
	o := circuit.Observation{Power: "on", Instrument: circuit.NonContact}
	for i := range t.switches {
		for _, n := range t.switches[i].nodes {
			o.Lifted = append(o.Lifted, t.nodes[n].Ref)
		}
	}
	line, near := circuit.End{}, 0
	for i := range t.switches {
		for _, e := range t.wires(i) {
			o.At = []circuit.End{e}
			if ask(o) == "live" && i == 0 && line.Box == "" {
				line = e
			}
		}
	}
	if line.Box == "" {
		return 2
	}
	tied := o
	tied.Tied = [][]circuit.End{t.wires(near)}
	for _, e := range t.wires(1) {
		tied.At = []circuit.End{e}
		ask(tied)
	}
	return 4
}

// TestBareRecord says nothing of the light or the panel: what can be known is still
// found, and what cannot stays open, with what would settle it.
func TestBareRecord(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	done, walks := 0, 0
	const houses = 60
	for seed := range uint64(houses) {
		h := hiddenHouse(t, seed, 2)
		c := h.Survey()
		c.Boxes = slices.DeleteFunc(c.Boxes, func(b circuit.Box) bool { return !b.Seen() })
		c.Devices = slices.DeleteFunc(c.Devices, func(d circuit.Device) bool { return c.Box(d.Box) == nil })
		r := play(t, h, c, Trips)
		if r.wrong {
			t.Errorf("house %d: a wrong answer", seed)
		}
		walks += r.walks
		if r.done {
			done++
			continue
		}
		c.Observations = r.tracer.made
		told, err := Trace(context.Background(), c, Trips)
		if err != nil || len(told.Open) == 0 || told.Settle == "" || told.Circuit != nil {
			t.Errorf("house %d: what is open is not told: %v", seed, err)
		}
	}
	t.Logf("nothing known of the light: %d of %d certain, %.2f walks in the mean", done, houses, float64(walks)/houses)
	if done < houses/2 {
		t.Errorf("%d of %d certain", done, houses)
	}
}

// TestCircuitOfRecord writes what was traced as a whole circuit: it is valid, works,
// has the roles of the house, and says of each fact how it is known.
func TestCircuitOfRecord(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	var houses []*house.House
	for seed := range uint64(24) {
		houses = append(houses, hiddenHouse(t, seed+300, 2+int(seed/20)))
	}
	for _, j := range demo.Jobs() {
		for _, c := range j.Circuits {
			if inspect.Check(c).Verdict != inspect.Works || len(c.Devices) > 7 || len(c.Models) > 0 {
				continue // what has smart devices already is not traced
			}
			h, err := house.New(c, 7, nil)
			if err != nil {
				t.Fatal(err)
			}
			houses = append(houses, h)
		}
	}
	for i, h := range houses {
		r := play(t, h, h.Survey(), Dead)
		if r.wrong {
			t.Errorf("house %d (%s): a wrong answer", i, h.Truth().Name)
		}
		c := r.tracer.Circuit()
		if err := c.Validate(); err != nil {
			t.Fatalf("house %d: %v", i, err)
		}
		report := inspect.Check(c)
		if report.Verdict != inspect.Works {
			t.Errorf("house %d (%s): the traced circuit is %s: %v", i, h.Truth().Name, report.Verdict, report.Findings[0])
		}
		how := map[string]int{}
		for _, e := range c.Evidence {
			how[e.How]++
		}
		if how[circuit.Seen] == 0 || how[circuit.Measured]+how[circuit.Assumed] == 0 {
			t.Errorf("house %d: evidence %v", i, how)
		}
		if !r.done {
			continue
		}
		for e, role := range trueRoles(h) {
			if got, ok := report.Roles[e]; ok && got != role && role != electric.RoleGround {
				t.Errorf("house %d: %s is %s in the record and %s in the house", i, e, got, role)
			}
		}
	}
}

// BenchmarkNext takes surveys of 200 random houses to their first test, all worlds found
// anew, and reports the slowest of them beside the mean.
func BenchmarkNext(b *testing.B) {
	for _, switches := range []int{2, 3, 4} {
		b.Run(fmt.Sprintf("switches=%d", switches), func(b *testing.B) {
			surveys := make([]*circuit.Circuit, 200)
			for seed := range surveys {
				surveys[seed] = hiddenHouse(b, uint64(seed), switches).Survey()
			}
			worst, n := time.Duration(0), 0
			for b.Loop() {
				start := time.Now()
				tr, err := New(context.Background(), surveys[n%200])
				if err != nil {
					b.Fatal(err)
				}
				if _, _, err := tr.Next(context.Background(), Dead); err != nil {
					b.Fatal(err)
				}
				worst = max(worst, time.Since(start))
				n++
			}
			b.ReportMetric(float64(worst.Milliseconds()), "worst-ms")
		})
	}
}
