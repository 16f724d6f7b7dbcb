package procedure

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// same says what differs between two records, the order in which things are listed aside.
func same(a, b *circuit.Circuit) []string {
	plain := func(c *circuit.Circuit) *circuit.Circuit {
		c = Bare(c)
		slices.SortFunc(c.Marks, func(x, y circuit.Mark) int { return strings.Compare(x.End.String(), y.End.String()) })
		if len(c.Marks) == 0 {
			c.Marks = nil
		}
		if len(c.Models) == 0 {
			c.Models = nil
		}
		if len(c.Links) == 0 {
			c.Links = nil
		}
		return c
	}
	return names.Changes(plain(a), plain(b))
}

// short says which fault that burns a record shows in any state, if one does.
func short(c *circuit.Circuit) string {
	for _, s := range electric.Explore(electric.New(c)).States {
		for _, f := range s.Faults {
			switch f.Kind {
			case electric.ShortHotNeutral, electric.ShortHotGround, electric.TwoSupplies, electric.RelayBackfed:
				return string(f.Kind)
			}
		}
	}
	return ""
}

// whole holds one procedure to what every procedure keeps.
func whole(t *testing.T, rng *rand.Rand, name string, before *circuit.Circuit, o retrofit.Option) {
	t.Helper()
	p := For(inspect.Compile(before), &o, nil)
	after, err := p.At(len(p.Steps))
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	if d := same(after, o.After); len(d) > 0 {
		t.Fatalf("%s: all steps done, it is not the plan: %v", name, d)
	}
	operations := 0
	for _, s := range p.Steps {
		if s.Kind == KindPowerOn || s.Kind == KindPowerOf || s.Kind == KindGate && strings.Contains(s.Text, "locked and labelled") {
			operations++
		}
	}
	countShort(inspect.Compile(before), &o, retrofit.Request{})
	if operations != o.Metrics.Walks {
		t.Errorf("%s: the breaker is moved %d times, and the plan says %d", name, operations, o.Metrics.Walks)
	}
	listed(t, name, p)
	joined := map[string]int{} // box → how far the new work there has come, by role
	lifting, power := true, false
	for i, s := range p.Steps {
		switch {
		case s.Number != i+1 || s.Text == "" || strings.ContainsAny(s.Text, "{}"):
			t.Errorf("%s, step %d: %+v", name, i+1, s)
		case s.Kind == KindPowerOn:
			power = true
		case s.Kind == KindPowerOf:
			power = false
		}
		for _, e := range s.Edits {
			if power && !slices.Contains([]string{"pair", "mount", "add-box"}, e.Op()) {
				t.Errorf("%s, step %d: %s under power", name, i+1, e.Op())
			}
			if e.Op() == "lift" && !lifting {
				t.Errorf("%s, step %d: something is lifted after new work began", name, i+1)
			}
			lifting = lifting && e.Op() != "join"
		}
		if s.Kind == KindJoin {
			role := electric.Role(s.Wires[0].Role)
			if now := first(role); now < joined[s.Box] {
				t.Errorf("%s, step %d: %s after what comes later", name, i+1, role)
			} else {
				joined[s.Box] = now
			}
		}
		if s.Phase == Joining && len(s.Edits) == 0 && s.Kind != KindCap && s.Kind != KindCheck && s.Kind != KindSet && s.Kind != KindFit {
			t.Errorf("%s, step %d changes nothing: %s", name, i+1, s.Text)
		}
	}
	for n := range len(p.Steps) + 1 {
		if n > 0 && len(p.Steps[n-1].Edits) == 0 {
			continue
		}
		reached, err := p.At(n)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if fault := short(reached); fault != "" {
			t.Fatalf("%s: with power after step %d: %s", name, n, fault)
		}
	}
	for _, c := range o.Changes { // each end that moves is in a step that moves it
		if !slices.ContainsFunc(p.Steps, func(s Step) bool {
			return slices.Contains(s.At, c.End) && (len(s.Edits) > 0 || s.Kind == KindCap)
		}) && partnersMove(p, c) == 0 {
			t.Errorf("%s: no step is about %s: %s", name, c.End, c.Text)
		}
	}
	n := rng.IntN(len(p.Steps) + 1)
	back, err := p.Back(n)
	if err != nil {
		t.Fatalf("%s, back from %d: %v", name, n, err)
	}
	found, err := back.At(len(back.Steps))
	if err != nil {
		t.Fatalf("%s, back from %d: %v", name, n, err)
	}
	if d := same(found, before); len(d) > 0 {
		t.Fatalf("%s: back from step %d it is not as found: %v", name, n, d)
	}
}

// listed holds that materials and steps tell the same: all that is joined, capped, mounted,
// marked, closed or paired is in the list with its count, and all in the list is fitted by a step.
func listed(t *testing.T, name string, p *Procedure) {
	t.Helper()
	items := p.Materials()
	in := func(group, words string) (n int) {
		for _, x := range items {
			if x.Group == group && strings.Contains(x.What, words) {
				n += x.Count
			}
		}
		return n
	}
	want := map[string]int{}
	wired := map[string]bool{} // devices that steps mount
	for _, s := range p.Steps {
		for _, e := range s.Edits {
			switch e := e.Edit.(type) {
			case Mount:
				wired[e.Device.ID] = true
				if e.Device.Case != "" { // it is bought with its case, which comes in with it
					if !slices.ContainsFunc(s.Edits, func(x Note) bool { in, mounts := x.Edit.(Mount); return mounts && in.Device.ID == e.Device.Case }) {
						t.Errorf("%s: %s comes in without its case", name, e.Device.ID)
					}
					continue
				}
				if fitted := slices.IndexFunc(p.Option.Devices, func(x retrofit.Fitted) bool { return x.ID == e.Device.ID }); fitted >= 0 && p.Before.Device(e.Device.ID) == nil {
					d, _ := p.library.Get(p.Option.Devices[fitted].Device)
					n := 1
					if d.PerLamp {
						n = p.Before.Device(p.After.LampBehind(e.Device.ID).ID).Lamps()
					}
					want[Devices+" "+d.Name] += n
				}
			case Mark:
				want[Labelling+" end to tape"]++
			case AddCable:
				want[Wiring+" new cable"]++
			}
		}
		switch s.Kind {
		case KindCap:
			want[Wiring+" cap that stays"]++
		case KindJoin, KindLift: // what stood under one screw and stays together gets one too
			if s.Connector != nil {
				want[Wiring+" "+names.For(p.After).Word("connector")+" for"] += len(s.Connector.Pieces)
				holds := 0
				for _, n := range s.Connector.Pieces {
					if n > circuit.MostInConnector || n < 2 {
						t.Errorf("%s: a connector for %d conductors", name, n)
					}
					holds += n
				}
				if holds-2*(len(s.Connector.Pieces)-1) != s.Connector.Conductors {
					t.Errorf("%s: %d conductors in connectors for %v", name, s.Connector.Conductors, s.Connector.Pieces)
				}
			}
		case KindClose:
			ids := func(c *circuit.Circuit) (out []string) { // what stands in its front
				for _, d := range c.Devices {
					model, smart := p.model(d.ID)
					if d.Box == s.Box && (d.Mechanical() || smart && len(model.Mount) == 0) {
						out = append(out, d.ID)
					}
				}
				return out
			}
			if p.After.Box(s.Box).Kind == circuit.Switch && !slices.Equal(ids(p.Before), ids(p.After)) {
				want[Covering+" gang"]++
			}
		}
	}
	for _, x := range p.Option.Devices {
		if !wired[x.ID] && p.Before.Device(x.ID) == nil && p.After.Device(x.ID) != nil {
			t.Errorf("%s: no step mounts %s", name, x.ID)
		}
	}
	for what, n := range want {
		group, words := "", ""
		for _, g := range []string{Devices, Wiring, Covering, Labelling} {
			if w, ok := strings.CutPrefix(what, g+" "); ok {
				group, words = g, w
			}
		}
		if got := in(group, words); got != n {
			t.Errorf("%s: %d of %q in the list, %d in the steps", name, got, what, n)
		}
	}
	if in(Devices, "bypass") != len(p.Option.BypassAt) {
		t.Errorf("%s: %d bypasses listed, %d promised", name, in(Devices, "bypass"), len(p.Option.BypassAt))
	}
	hub := slices.ContainsFunc(p.Option.Devices, func(x retrofit.Fitted) bool {
		d, _ := p.library.Get(x.Device)
		return d.Hub == "needed"
	})
	if got := in(Devices, "hub for"); (got == 1) != hub {
		t.Errorf("%s: %d hubs, and one is needed: %t", name, got, hub)
	}
}

// partnersMove counts the steps that move what shares the end's join: the end itself may
// stay where it is while others come to it or leave it.
func partnersMove(p *Procedure, c retrofit.Change) (n int) {
	for _, s := range p.Steps {
		for _, e := range s.Edits {
			at, moves := e.Edit.(Lift)
			if in, joins := e.Edit.(Join); joins {
				at, moves = Lift(in), true
			}
			if moves && at.Box == c.Box && strings.Contains(c.Was+", "+c.Now, at.End.String()) {
				n++
			}
		}
	}
	return n
}

// TestSteps: for random houses of two to six controls and all that may be offered: the
// steps make exactly the plan, nothing burns if somebody puts the breaker on in the middle,
// and from any step there is a way back to exactly what was found.
func TestSteps(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(61, 62))
	plans := 0
	for i := range 25 {
		c := circuittest.Walls(rng, 2+i%5)
		if i == 24 {
			c = circuittest.Doubled(2)
		}
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || i%5 > 1 && k%7 != 0 {
				continue
			}
			whole(t, rng, fmt.Sprintf("house %d, %s", i, o.ID), c, o)
			plans++
			if t.Failed() {
				return
			}
		}
	}
	t.Logf("%d procedures", plans)
}

// planned is the procedure of the first option of a strategy.
func planned(t *testing.T, strategy string, c *circuit.Circuit) (*Procedure, retrofit.Option) {
	t.Helper()
	for _, o := range retrofit.Plan(c).Options {
		if o.Feasible && o.Strategy == strategy {
			return For(inspect.Compile(c), &o, nil), o
		}
	}
	t.Fatalf("no %s", strategy)
	return nil, retrofit.Option{}
}

func count(items []Item, words string) (n int) {
	for _, x := range items {
		if strings.Contains(x.What+" "+x.Note, words) {
			n += x.Count
		}
	}
	return n
}

// TestMaterials: what is counted is what the steps use: a plate for every box that is
// worked in, a blank where a switch went, a cap on every end that stays unused, a connector
// for every join that needs one, two ends of tape for a re-marked core.
func TestMaterials(t *testing.T) {
	for _, k := range []struct {
		strategy                     string
		devices, plates, blanks, cap int
	}{
		{retrofit.SensingSwitch, 1, 1, 0, 0}, {retrofit.MainAux, 2, 2, 0, 2}, {retrofit.MainRemote, 2, 2, 0, 4},
	} {
		p, o := planned(t, k.strategy, circuittest.Straight())
		items := p.Materials()
		devices := 0
		price := 0.0
		for _, x := range items {
			if x.Group == Devices && x.Price != nil {
				devices += x.Count
				price += *x.Price
			}
		}
		caps := 0
		for _, b := range o.After.Boxes {
			for _, m := range o.After.EndsIn(b.ID) {
				if o.After.JoinOf(b.ID, m) < 0 && p.Before.JoinOf(b.ID, m) >= 0 {
					caps++
				}
			}
		}
		if devices != k.devices || count(items, "plate,") != k.plates || count(items, "blank") != k.blanks || count(items, "cap that stays") != caps || price != o.Metrics.Price {
			t.Errorf("%s: %d devices for %g, %d plates, %d blanks, %d caps (of %d): %+v", k.strategy, devices, price, count(items, "plate,"), count(items, "blank"), count(items, "cap that stays"), caps, items)
		}
		marks := 0
		for _, c := range o.Changes {
			if c.Mark != "" {
				marks++
			}
		}
		if got := count(items, "end to tape"); got != marks {
			t.Errorf("%s: %d ends to tape, %d in the plan", k.strategy, got, marks)
		}
		var b strings.Builder
		if err := CSV(&b, items); err != nil || strings.Count(b.String(), "\n") != len(items)+1 || !strings.HasPrefix(b.String(), "group,item,count,note,price\n") {
			t.Errorf("%v, %s", err, b.String())
		}
	}
}

// TestShortWires: connectors and pigtails of a plan that one can count by hand: a sensing switch
// at the foot takes a pigtail from neutral and stands with the grounds.
func TestShortWires(t *testing.T) {
	answer, err := Plan(context.Background(), inspect.Compile(circuittest.Straight()), retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	for _, o := range answer.Options {
		if o.ID != "sensing-3way-foot" {
			continue
		}
		if *o.Metrics.Connectors != 2 || *o.Metrics.Pigtails != 2 || o.Metrics.Capped != 0 {
			t.Errorf("%d connectors, %d pigtails, %d caps", *o.Metrics.Connectors, *o.Metrics.Pigtails, o.Metrics.Capped)
		}
		return
	}
	t.Error("no such option")
}

// TestManyInOneConnector: eleven conductors that stand together take several connectors with
// short wires between, and those are on the list.
func TestManyInOneConnector(t *testing.T) {
	for n, want := range map[int][]int{2: {2}, 5: {5}, 6: {5, 3}, 8: {5, 5}, 11: {5, 5, 5}} {
		j := circuit.Join{Box: "b"}
		for i := range n {
			j.Of = append(j.Of, circuit.Ref{Owner: fmt.Sprintf("k%d", i), Part: "white"})
		}
		f := (&circuit.Circuit{}).Fasten(j, nil)
		if !slices.Equal(f.Connectors, want) || f.Bridges != len(want)-1 {
			t.Errorf("%d conductors: %+v", n, f)
		}
	}
}

// TestLabelsAndRooms: every core of a box that is worked in has a label in the
// practice's words; the room is counted before and after.
func TestLabelsAndRooms(t *testing.T) {
	c := circuittest.Straight()
	for i := range c.Cables {
		c.Cables[i].Gauge = "14AWG"
	}
	for i := range c.Boxes {
		c.Boxes[i].VolumeCm3 = circuittest.Float(295)
	}
	p, o := planned(t, retrofit.MainAux, c)
	want := 0
	for _, b := range o.BoxesTouched {
		want += len(o.After.EndsIn(b))
	}
	labels := p.Labels()
	if len(labels) != want {
		t.Errorf("%d labels, %d cores", len(labels), want)
	}
	if !slices.ContainsFunc(labels, func(l Label) bool { return l.Role == "ground" && l.End.Part == "bare" }) {
		t.Errorf("no label says ground: %+v", labels)
	}
	if !slices.ContainsFunc(labels, func(l Label) bool { return l.Role == "signal" && l.Was == "traveler" }) {
		t.Errorf("no label says that a traveler is a signal now: %+v", labels)
	}
	for _, r := range p.Rooms() {
		last := r.Lines[len(r.Lines)-1]
		if r.Verdict != Fits || r.Note != "" || last.After != "18.00 in³" || !strings.Contains(fmt.Sprint(r.Lines), "device yokes (1, two each) 2 × 2.00 = 4.00 in³ 2 × 2.00 = 4.00 in³") {
			t.Errorf("%+v", r)
		}
	}
}

func BenchmarkSteps(b *testing.B) {
	for _, n := range []int{2, 10} {
		c := circuittest.Chain(n)
		var o *retrofit.Option
		for _, x := range retrofit.Plan(c).Options {
			if x.Feasible && (o == nil || x.Metrics.EndsMoved > o.Metrics.EndsMoved) {
				o = &x
			}
		}
		b.Run(fmt.Sprintf("controls=%d", n), func(b *testing.B) {
			for b.Loop() {
				For(inspect.Compile(c), o, nil)
			}
		})
	}
}
