package retrofit

import (
	"regexp"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// numbered is what ids end in that say for which of several lights they are.
var numbered = regexp.MustCompile(`-\d$`)

// TestForeignSwitchBlocksNothing: a neighbour's switch in one of the boxes, with cables that were not followed, makes
// nothing faulty and takes no plan away, whether it is fed from this circuit, by a cable of its own, or holds two travelers.
func TestForeignSwitchBlocksNothing(t *testing.T) {
	stub := func(c *circuit.Circuit, id, box string) {
		c.Cables = append(c.Cables, circuit.Cable{ID: id, Ends: [2]*string{&box, nil}, Cores: []string{"black", "red", "white", "bare"}})
	}
	feed := func(c *circuit.Circuit, box, core string, more ...circuit.Ref) {
		for i, j := range c.Joins {
			for _, r := range j.Of {
				if j.Box == box && c.Cable(r.Owner) != nil && c.Cable(r.Owner).In("panel") && r.Part == core {
					c.Joins[i].Of = append(c.Joins[i].Of, more...)
					return
				}
			}
		}
		t.Fatalf("no %s of the feed in %s", core, box)
	}
	for name, add := range map[string]func(c *circuit.Circuit, box string){
		"fed from here": func(c *circuit.Circuit, box string) {
			stub(c, "x", box)
			c.Devices = append(c.Devices, circuit.Device{ID: "foreign", Box: box, Type: circuit.TypeSinglePole})
			feed(c, box, "black", circuit.Ref{Owner: "foreign", Part: "a"})
			feed(c, box, "white", circuit.Ref{Owner: "x", Part: "white"})
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{{Owner: "x", Part: "black"}, {Owner: "foreign", Part: "b"}}})
		},
		"fed by a cable of its own": func(c *circuit.Circuit, box string) {
			stub(c, "x", box)
			stub(c, "y", box)
			c.Devices = append(c.Devices, circuit.Device{ID: "foreign", Box: box, Type: circuit.TypeSinglePole})
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{{Owner: "x", Part: "black"}, {Owner: "foreign", Part: "a"}}},
				circuit.Join{Box: box, Of: []circuit.Ref{{Owner: "y", Part: "black"}, {Owner: "foreign", Part: "b"}}})
		},
		"a three-way fed from here": func(c *circuit.Circuit, box string) {
			stub(c, "x", box)
			c.Devices = append(c.Devices, circuit.Device{ID: "foreign", Box: box, Type: circuit.TypeThreeWay})
			feed(c, box, "black", circuit.Ref{Owner: "foreign", Part: "common"})
			feed(c, box, "white", circuit.Ref{Owner: "x", Part: "white"})
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{{Owner: "x", Part: "black"}, {Owner: "foreign", Part: "t1"}}},
				circuit.Join{Box: box, Of: []circuit.Ref{{Owner: "x", Part: "red"}, {Owner: "foreign", Part: "t2"}}})
		},
	} {
		c := circuittest.Row(3)
		before := Plan(c).Options
		add(c, "b1")
		if err := c.Validate(); err != nil {
			t.Fatal(name, err)
		}
		if r := inspect.Check(c); r.Verdict == inspect.Faulty {
			t.Errorf("%s: faulty: %v", name, r.Findings)
		}
		still := map[string]bool{}
		for _, o := range Plan(c).Options {
			if slices.Contains(o.Light, "lamp1") {
				still[numbered.ReplaceAllString(o.ID, "")] = o.Feasible
			}
		}
		for _, o := range before {
			if o.Feasible && !still[o.ID] {
				t.Errorf("%s: %s goes no more", name, o.ID)
			}
		}
	}
}
