package retrofit

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// TestSharedDepth: a module behind a switch that stays and the switch share the depth of the box: just
// enough is enough, a millimetre less is not, and where nobody measured the switch it is not known.
func TestSharedDepth(t *testing.T) {
	const module = 19.0 // of the catalogue's relay module
	for _, k := range []struct {
		box, old float64 // 0: not measured
		fits     bool
		known    bool
	}{
		{44, 25, true, true}, {43, 25, false, true}, {60, 0, true, true}, {38, 0, true, false},
	} {
		c := circuittest.Chain(2)
		c.Box("b2").DepthMm = &k.box
		if k.old > 0 {
			c.Device("s2").DepthMm = &k.old
		}
		o := byID(t, Plan(c), "module-switched-b2")
		if o.Feasible != k.fits {
			t.Errorf("a box of %g mm, a switch of %g mm and a module of %g mm: fits %t, want %t: %v", k.box, k.old, module, o.Feasible, k.fits, o.Reasons)
			continue
		}
		if !k.fits {
			if o.Reasons[0].Code != "fails-box-room" {
				t.Errorf("a box of %g mm: refused for %s", k.box, o.Reasons[0].Code)
			}
			continue
		}
		for _, check := range o.Checks {
			if check.Code == "box-room" && check.Unknown == k.known {
				t.Errorf("a box of %g mm, a switch of %g mm: known %t, want %t: %s", k.box, k.old, !check.Unknown, k.known, check.Text)
			}
		}
	}
}

// TestEffort: what is done weighs by kind: a box more than a device, that more than an end, that more than
// a mark, and a new cable more than all of a usual plan.
func TestEffort(t *testing.T) {
	box, device, end, mark := Metrics{BoxesTouched: 1}, Metrics{Devices: 1}, Metrics{EndsMoved: 1}, Metrics{Remarked: 1}
	ladder, cable := Metrics{Ladders: 1}, Metrics{NewCables: 1}
	usual := Metrics{BoxesTouched: 2, EndsMoved: 14, Devices: 2}
	order := []*Metrics{&mark, &end, &device, &box, &ladder, &usual, &cable}
	for i, m := range order[1:] {
		if m.effort() <= order[i].effort() {
			t.Errorf("%+v weighs %g, %+v %g", *m, m.effort(), *order[i], order[i].effort())
		}
	}
}

// TestTogetherAdds: options that are carried out together count together, each number as its own sum.
func TestTogetherAdds(t *testing.T) {
	one, two := 1.5, 2.5
	m := Metrics{Remarked: 1, Capped: 2, Devices: 3, Batteries: 4, SwitchesKept: 5, PlacesLost: 6, Bypasses: 7, NewCables: 8, Price: 9, StandbyWatts: 10, StandbyYear: 11, LampsYear: &one}
	m.add(&Metrics{Remarked: 10, Capped: 20, Devices: 30, Batteries: 40, SwitchesKept: 50, PlacesLost: 60, Bypasses: 70, NewCables: 80, Price: 90, StandbyWatts: 100, StandbyYear: 110, LampsYear: &two, LampsCostYear: &two})
	want := Metrics{Remarked: 11, Capped: 22, Devices: 33, Batteries: 44, SwitchesKept: 55, PlacesLost: 66, Bypasses: 77, NewCables: 88, Price: 99, StandbyWatts: 110, StandbyYear: 121}
	if m.LampsYear == nil || *m.LampsYear != 4 || m.LampsCostYear == nil || *m.LampsCostYear != 2.5 || m.StandbyCostYear != nil || one != 1.5 {
		t.Errorf("lamps %v, %v; standby %v", m.LampsYear, m.LampsCostYear, m.StandbyCostYear)
	}
	if m.LampsYear, m.LampsCostYear = nil, nil; m != want {
		t.Errorf("%+v, want %+v", m, want)
	}
}

// TestRemarkCosts: of two spare cores alike the one that needs no tape is taken.
func TestRemarkCosts(t *testing.T) {
	c := circuittest.Chain(2)
	a, b := "b1", "b2"
	c.Cables = append(c.Cables, circuit.Cable{ID: "spare", Ends: [2]*string{&a, &b}, Cores: []string{"black", "white"}})
	p := newPlanner(inspect.Compile(c), Request{})
	i := slices.IndexFunc(p.boxTree.spans, func(s span) bool {
		return slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return k.ID == "spare" })
	})
	d, out := &requirement{home: map[string]bool{"spare": true}}, &allocation{of: map[circuit.Ref]*net{}}
	line := &net{role: electric.Line, class: -1}
	cost := func(core string) float64 {
		return p.cost(d, out, line, circuit.Ref{Owner: "spare", Part: core}, p.boxTree.spans[i])
	}
	if black, white := cost("black"), cost("white"); black <= 0 || white <= black || white >= costForbidden {
		t.Errorf("a black core costs %g, a white one that needs tape %g", black, white)
	}
}

// TestTapsAreRules: where several taps in a row are rules in what is down, the outage says so at each place that has them and
// still switches; where no place has them it says nothing of taps.
func TestTapsAreRules(t *testing.T) {
	said, silent := 0, 0
	for _, o := range Plan(circuittest.Straight()).Options {
		if !o.Feasible {
			continue
		}
		i := slices.IndexFunc(o.Outages, func(x Outage) bool { return x.When == "hub" })
		down := o.Outages[i]
		told := strings.Contains(down.Text, "Several taps")
		scenes := slices.ContainsFunc(o.Places, func(q Place) bool { return q.Scenes && slices.Contains(down.Works, q.Box) })
		switch {
		case told && (!scenes || strings.Contains(down.Text, "still works.")):
			t.Errorf("%s: %q", o.ID, down.Text)
		case told:
			said++
		case !scenes:
			silent++
		}
	}
	if said == 0 || silent == 0 {
		t.Errorf("%d options tell of taps, %d have none", said, silent)
	}
}
