package procedure

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestOpposites: every edit of every step has an opposite that takes it back, and the
// opposite of that is the edit.
func TestOpposites(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(65, 66))
	kinds := map[string]int{}
	for i := range 6 {
		c := circuittest.Walls(rng, 2+i%3)
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || k%3 != 0 && o.Metrics.NewCables == 0 {
				continue
			}
			reached := Bare(c)
			for _, s := range For(inspect.Compile(c), &o, nil).Steps {
				for _, e := range s.Edits {
					kinds[e.Op()]++
					was := reached.Clone()
					if err := e.Apply(reached); err != nil {
						t.Fatalf("%s, step %d: %v", o.ID, s.Number, err)
					}
					if d := same(was, reached); len(d) == 0 {
						t.Fatalf("%s, step %d: %s changes nothing", o.ID, s.Number, e.Op())
					}
					back := reached.Clone()
					if err := e.Opposite().Apply(back); err != nil {
						t.Fatalf("%s, step %d: back from %s: %v", o.ID, s.Number, e.Op(), err)
					}
					if d := same(was, back); len(d) > 0 {
						t.Fatalf("%s, step %d: %s and back leaves %v", o.ID, s.Number, e.Op(), d)
					}
					if e.Opposite().Opposite().Op() != e.Op() {
						t.Fatalf("the opposite of the opposite of %s is another", e.Op())
					}
				}
			}
		}
	}
	for _, op := range []string{"lift", "join", "take-out", "mount", "pair"} {
		if kinds[op] == 0 {
			t.Errorf("no step does %s", op)
		}
	}
}

// TestEditsThatDoNotFit: an edit that finds the record otherwise than it takes it to be is
// refused, and says what it found.
func TestEditsThatDoNotFit(t *testing.T) {
	ref := func(text string) circuit.Ref {
		r, err := circuit.ParseRef(text)
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	c := circuittest.Straight()
	box := c.Device("s1").Box
	joined := c.Joins[c.JoinOf(box, ref("s1.common"))].Of
	core := joined[slices.IndexFunc(joined, func(m circuit.Ref) bool { return m.Owner != "s1" })]
	for _, k := range []struct {
		name string
		edit Edit
		says string
	}{
		{"lifted from what it is not on", Lift{box, core, ref("s1.t1")}, "not joined"},
		{"lifted in another box", Lift{"attic", core, ref("s1.common")}, "not joined"},
		{"joined twice", Join{box, core, ref("s1.t2")}, "joined already"},
		{"taken out with wires on it", TakeOut{Box: box, Device: *c.Device("s1")}, "a wire is still on the 3-way switch"},
		{"a device that is none", TakeOut{Box: box, Device: circuit.Device{ID: "ghost"}}, "the device of the plan is not there"},
		{"mounted twice", Mount{Box: box, Device: *c.Device("s1")}, "the 3-way switch is there already"},
	} {
		if err := k.edit.Apply(c.Clone()); err == nil || !strings.Contains(err.Error(), k.says) || !strings.Contains(err.Error(), ": ") || strings.Contains(err.Error(), "s1") {
			t.Errorf("%s: %v; want something about %q", k.name, err, k.says)
		}
	}
}

// TestGauges: the thickest conductor of a connector decides, in either system.
func TestGauges(t *testing.T) {
	for _, k := range []struct {
		a, b    string
		thicker bool
	}{
		{"12AWG", "14AWG", true}, {"14AWG", "12AWG", false}, {"2.5mm2", "1.5mm2", true}, {"1.5mm2", "2.5mm2", false},
		{"14AWG", "", true}, {"", "14AWG", false}, {"14AWG", "14AWG", false},
	} {
		if got := thicker(k.a, k.b); got != k.thicker {
			t.Errorf("%q is thicker than %q: %t", k.a, k.b, got)
		}
	}
}

// TestPlates: a plate has the gangs of its box; where a switch went and nothing came there is
// a blank; a remote over an old box covers it, so that there is none. Gangs without a recorded device may need one, which is
// said.
func TestPlates(t *testing.T) {
	c := circuittest.Straight()
	for i := range c.Boxes {
		if c.Boxes[i].Kind == circuit.Switch {
			c.Boxes[i].Gangs = circuittest.Int(3)
		}
	}
	for strategy, want := range map[string]struct{ blanks, covered int }{
		retrofit.MainAux: {0, 0}, retrofit.MainRemote: {0, 1}, retrofit.ChangeoverRelay: {1, 0}, retrofit.SmartLamps: {0, 2},
	} {
		p, _ := planned(t, strategy, c)
		items := p.Materials()
		blanks, covered, plates := 0, 0, 0
		for _, x := range items {
			if strings.HasPrefix(x.What, "plate,") {
				plates += x.Count
				if !strings.HasPrefix(x.What, "plate, 3 gang") {
					t.Errorf("%s: %s", strategy, x.What)
				}
			}
			if strings.Contains(x.Note, "with 1 blank") {
				blanks++
			}
			if strings.HasPrefix(x.What, "plate,") && !strings.Contains(x.Note, "for each of the 2 unrecorded gangs") {
				t.Errorf("%s: the unrecorded gangs are not mentioned: %q", strategy, x.Note)
			}
			if strings.Contains(x.Note, "covers a place") {
				covered++
			}
		}
		if blanks != want.blanks || covered != want.covered || plates == 0 {
			t.Errorf("%s: %d plates, %d blanks, %d covered; want %d and %d: %v", strategy, plates, blanks, covered, want.blanks, want.covered, items)
		}
	}
}

// TestSpareIsDead: what a label or a step calls spare is live in no state of the planned
// circuit, and stands with no screw.
func TestSpareIsDead(t *testing.T) {
	rng := rand.New(rand.NewPCG(67, 68))
	spares := 0
	for i := range 8 {
		c := circuittest.Walls(rng, 2+i%2)
		for _, o := range retrofit.Plan(c).Options {
			if !o.Feasible {
				continue
			}
			p := For(inspect.Compile(c), &o, nil)
			spare := map[circuit.End]bool{}
			for _, l := range p.Labels() {
				if l.Role == "spare" {
					spare[l.End] = true
				}
			}
			for _, s := range p.Steps {
				if s.Kind == KindCap {
					spare[s.At[0]] = true
				}
			}
			spares += len(spare)
			n := electric.New(o.After)
			for _, state := range electric.Explore(n).States {
				solved := n.Solve(state.State)
				for e := range spare {
					if at := solved.At(e); at == electric.Live || at == electric.ThroughLamp {
						t.Fatalf("house %d, %s: %s is called spare and is %s", i, o.ID, e, at)
					}
				}
			}
			for e := range spare {
				j := o.After.JoinOf(e.Box, e.Ref)
				if j >= 0 && slices.ContainsFunc(o.After.Joins[j].Of, func(m circuit.Ref) bool { return o.After.Device(m.Owner) != nil }) {
					t.Fatalf("house %d, %s: %s is called spare and stands under a screw", i, o.ID, e)
				}
			}
		}
	}
	t.Logf("%d ends are called spare", spares)
}

// TestUnusedLeads: a device that is only powered has its load lead capped, and the step says so.
func TestUnusedLeads(t *testing.T) {
	p, o := planned(t, retrofit.Paired, circuittest.Straight())
	if !slices.ContainsFunc(p.Steps, func(s Step) bool {
		return strings.HasPrefix(s.Text, "Nothing goes to the load screw of") && s.Box == o.Devices[1].Box && len(s.At) > 0
	}) {
		t.Errorf("nobody is told of the load lead of %s", o.Devices[1].Name)
	}
}

// TestKnown: who builds on a record is told what of it nobody saw or measured.
func TestKnown(t *testing.T) {
	c := circuittest.Straight()
	p, _ := planned(t, retrofit.SensingSwitch, c)
	if got := p.Known(); !strings.Contains(got, "does not say") {
		t.Errorf("without evidence: %s", got)
	}
	for i, k := range c.Cables {
		how := []string{circuit.Seen, circuit.Measured, circuit.Assumed}[i%3]
		c.Evidence = append(c.Evidence, circuit.Evidence{Of: k.ID, How: how})
		for _, core := range k.Cores {
			c.Evidence = append(c.Evidence, circuit.Evidence{Of: k.ID + "." + core + "@" + *k.Ends[0], How: how})
		}
	}
	p, _ = planned(t, retrofit.SensingSwitch, c)
	counts := map[string]int{}
	for _, e := range c.Evidence {
		counts[e.How]++
	}
	want := fmt.Sprintf("%d were seen, %d measured and %d assumed", counts[circuit.Seen], counts[circuit.Measured], counts[circuit.Assumed])
	if got := p.Known(); !strings.Contains(got, want) || !strings.Contains(got, "look again") {
		t.Errorf("%s; want %q", got, want)
	}
}

// TestBypass: lamps that take less than a dimmer lives on ask for a bypass, and others do not.
func TestBypass(t *testing.T) {
	for watts, want := range map[float64]int{9: 1, 60: 0} {
		c := circuittest.Straight()
		for i, d := range c.Devices {
			if d.Type == circuit.TypeLamp {
				c.Devices[i].Load, c.Devices[i].Watts, c.Devices[i].Count = "led", &watts, nil
			}
		}
		p, _ := planned(t, retrofit.NoNeutralAux, c)
		if got := count(p.Materials(), "bypass"); got != want {
			t.Errorf("%g W: %d bypasses, want %d", watts, got, want)
		}
	}
}

// TestDrawn: what is lifted is seen on the circuit as it was before the work, what is joined
// on what it becomes; on the way back it is the other way round.
func TestDrawn(t *testing.T) {
	p, _ := planned(t, retrofit.MainAux, circuittest.Straight())
	back, err := p.Back(len(p.Steps))
	if err != nil {
		t.Fatal(err)
	}
	for name, k := range map[string]struct {
		steps      []Step
		lift, join string
	}{"there": {p.Steps, Found, Planned}, "back": {back.Steps, Planned, Found}} {
		for _, s := range k.steps {
			if s.Kind == KindLift && s.Drawn != k.lift || s.Kind == KindJoin && s.Drawn != k.join {
				t.Errorf("%s: step %d, %s, is drawn as %s", name, s.Number, s.Kind, s.Drawn)
			}
		}
	}
}

// TestLooseIsCappedFirst: an end that hangs loose and bare is capped before anything else comes off, live or not, in a box
// that the plan would not open otherwise too; nothing makes it bare again, on the way back either.
func TestLooseIsCappedFirst(t *testing.T) {
	for name, live := range map[string]bool{"live": true, "dead": false} {
		c := circuittest.Straight()
		c.Cables[1].Cores = append(c.Cables[1].Cores, "blue")
		blue := circuit.Ref{Owner: "w2", Part: "blue"}
		if live {
			at := c.JoinOf("foot", circuit.Ref{Owner: "w1", Part: "black"})
			c.Joins[at].Of = append(c.Joins[at].Of, blue)
		}
		c.Loose = []circuit.End{{Ref: blue, Box: "head"}}
		plans := 0
		for _, o := range retrofit.Plan(c).Options {
			if !o.Feasible {
				continue
			}
			plans++
			if !slices.Contains(o.BoxesTouched, "head") {
				t.Errorf("%s, %s opens %v", name, o.ID, o.BoxesTouched)
			}
			p := For(inspect.Compile(c), &o, nil)
			first := slices.IndexFunc(p.Steps, func(s Step) bool { return s.Phase == Lifting && s.Box == "head" })
			if first < 0 || p.Steps[first].Kind != KindCap || !p.Steps[first].Metal {
				t.Errorf("%s, %s: the loose end is not capped first", name, o.ID)
				continue
			}
			whole, err := p.At(len(p.Steps))
			if err != nil || len(whole.Loose) > 0 {
				t.Errorf("%s, %s: %v, loose %v", name, o.ID, err, whole.Loose)
				continue
			}
			back, err := p.Back(len(p.Steps))
			if err != nil {
				t.Fatalf("%s, %s: %v", name, o.ID, err)
			}
			if as, err := back.At(len(back.Steps)); err != nil || len(as.Loose) > 0 {
				t.Errorf("%s, %s: the way back: %v, loose %v", name, o.ID, err, as.Loose)
			}
		}
		if plans == 0 {
			t.Errorf("%s: nothing is planned", name)
		}
	}
}
