package names_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/names"
	"ambivia/core/practice"
)

func at(box string) *string { return &box }

// stair has two boxes with two cables between them, a stub in each, and things without names.
func stair() *circuit.Circuit {
	return &circuit.Circuit{
		Practice: "na",
		Boxes: []circuit.Box{
			{ID: "b1", Kind: circuit.Switch, Name: "Foot"}, {ID: "b2", Kind: circuit.Switch, Name: "Head"},
			{ID: "j1", Kind: circuit.Junction}, {ID: "sw3", Kind: circuit.Switch}, {ID: "sw4", Kind: circuit.Switch, Name: "  "}, {ID: "loft", Kind: circuit.Switch},
		},
		Cables: []circuit.Cable{
			{ID: "k1", Ends: [2]*string{at("b1"), at("b2")}, Cores: []string{"black"}}, {ID: "k2", Ends: [2]*string{at("b2"), at("b1")}, Cores: []string{"black"}},
			{ID: "k3", Ends: [2]*string{at("b1"), nil}, Cores: []string{"black"}}, {ID: "k4", Ends: [2]*string{nil, at("b2")}, Cores: []string{"black"}},
			{ID: "k5", Ends: [2]*string{nil, at("b2")}, Cores: []string{"black"}}, {ID: "k6", Ends: [2]*string{at("b1"), at("j1")}, Cores: []string{"black"}},
		},
		Devices: []circuit.Device{
			{ID: "s1", Type: circuit.TypeThreeWay, Box: "b1"}, {ID: "s2", Type: circuit.TypeThreeWay, Box: "b2"}, {ID: "s3", Type: circuit.TypeThreeWay, Box: "b2"},
			{ID: "lamp1", Type: circuit.TypeLamp, Box: "b1"}, {ID: "lamp2", Type: circuit.TypeLamp, Box: "b2", Name: "Stair lamp"},
			{ID: "supply", Type: circuit.TypeSupply, Box: "j1"}, {ID: "supply2", Type: circuit.TypeSupply, Box: "j1", Breaker: "7"},
			{ID: "m1", Type: circuit.TypeSmart, Box: "sw3", Name: "Dimmer"}, {ID: "m2", Type: circuit.TypeSmart, Box: "sw4", Name: "Dimmer"},
			{ID: "m3", Type: circuit.TypeSmart, Box: "sw4", Name: "Dimmer", Case: "m2"},
		},
	}
}

func TestNames(t *testing.T) {
	c := stair()
	say := names.For(c)
	end := func(text string) circuit.End {
		e, err := circuit.ParseEnd(text)
		if err != nil {
			t.Fatal(err)
		}
		return e
	}
	for want, got := range map[string]string{
		"Foot": say.Box("b1"), "the junction box": say.Box("j1"), "Junction box": say.Label("j1"), "switch box 3": say.Box("sw3"), "switch box 4": say.Box("sw4"), "loft": say.Box("loft"),
		"a box that is not recorded":    say.Box("gone"),
		"cable B between Head and Foot": say.Cable("k2"), "the untraced cable at Foot": say.Cable("k3"), "untraced cable B": say.To("k5", "b2"), "the cable to the junction box": say.To("k6", "b1"),
		"cable A to Head": say.To("k1", "b1"), "Head, cable A": say.Far("k1", "b1"), "": say.Far("k3", "b1"), "to the junction box": say.Towards("k6", "b1"),
		"black of cable A to Head at Foot": say.End(end("k1.black@b1")), "black to the junction box": say.Core(end("k6.black@b1")), "black of the untraced cable": say.Core(end("k3.black@b1")),
		"the common screw of the 3-way switch at Foot": say.End(end("s1.common")), "the brass 1 screw of 3-way switch 2": say.ScrewHere(end("s3.t1").Ref), "the centre contact of Stair lamp": say.End(end("lamp2.l")),
		"3-way switch 2 at Head": say.Short("s3"), "Foot, 3-way switch": say.Short("s1") + ", " + strings.TrimPrefix(say.Here("s1"), "the "), "Stair lamp": say.Device("lamp2"),
		"Dimmer at switch box 3": say.Device("m1"), "Dimmer": say.Here("m1"), "gang 2 of Dimmer": say.Here("m3"), "switch box 4, Dimmer": say.Place("m2"),
		"breaker": say.Breaker("supply"), "breaker 7": say.Breaker("supply2"), "a device that is not recorded": say.Device("gone"),
	} {
		if got != want {
			t.Errorf("got %q, want %q", got, want)
		}
	}
	c.Devices[6].Breaker = ""
	if a, b := say.Breaker("supply"), say.Breaker("supply2"); a != "breaker A" || b != "breaker B" {
		t.Errorf("two breakers without a label are %q and %q", a, b)
	}
}

// TestChanges: what another version changed is said by name.
func TestChanges(t *testing.T) {
	before, after := stair(), stair()
	after.Boxes[0].Name = "Bottom"
	after.Cables = after.Cables[:5]
	after.Devices = append(after.Devices, circuit.Device{ID: "s9", Type: circuit.TypeThreeWay, Box: "sw3"})
	after.Joins = []circuit.Join{{Box: "b2", Of: []circuit.Ref{{Owner: "k1", Part: "black"}, {Owner: "s2", Part: "t1"}}}}
	want := "Bottom changed; The cable between Foot and the junction box removed; 3-way switch at switch box 3 added; Head: wiring added"
	if got := strings.Join(names.Changes(before, after), "; "); got != want {
		t.Errorf("got %q, want %q", got, want)
	}
}

// TestNamesKeepTheirOrder: the order of the record changes no name.
func TestNamesKeepTheirOrder(t *testing.T) {
	c := stair()
	was := names.For(c).Book()
	slices.Reverse(c.Boxes)
	slices.Reverse(c.Cables)
	slices.Reverse(c.Devices)
	for id, name := range names.For(c).Book().Ends {
		if name != was.Ends[id] {
			t.Errorf("%s was called %q, and is called %q in another order", id, was.Ends[id], name)
		}
	}
}

// TestNamesTellApart: two things have two names, also where a circuit names neither.
func TestNamesTellApart(t *testing.T) {
	rng := rand.New(rand.NewPCG(28, 1))
	for _, k := range circuittest.Kinds() {
		for i := range 20 {
			c := k.Make(rng, k.Controls[i%len(k.Controls)])
			if in := circuittest.In(c, practice.All()[i%5].ID); in.Validate() == nil {
				c = in
			}
			for n := range c.Cables { // some are not followed
				if rng.IntN(4) == 0 && !c.Cables[n].Stub() {
					c.Cables[n].Ends[rng.IntN(2)] = nil
				}
			}
			book := names.For(c).Book()
			for _, list := range []map[string]string{book.Boxes, book.Cables, book.Devices, book.Ends} {
				seen := map[string]string{}
				for id, name := range list {
					if other, taken := seen[name]; taken {
						t.Fatalf("%s %d: %s and %s are both called %q", k.Name, i, id, other, name)
					}
					seen[name] = id
				}
			}
		}
	}
}
