package electric_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// behaviour is all that a circuit does, told without regard to any order.
func behaviour(c *circuit.Circuit) string { return does(electric.New(c)) }

func does(n *electric.Network) string {
	r := electric.Explore(n)
	var states []string
	for _, s := range r.States {
		keys := n.Keys(s.State)
		text := ""
		for _, k := range slices.Sorted(maps.Keys(keys)) {
			text += fmt.Sprintf("%s=%d ", k, keys[k])
		}
		var lamps []string
		for i, id := range n.LampIDs() {
			lamps = append(lamps, fmt.Sprintf("%s %.3f %t", id, s.Volts[i], s.Lit[i]))
		}
		var faults []string
		for _, f := range s.Faults {
			faults = append(faults, string(f.Kind))
		}
		slices.Sort(lamps)
		slices.Sort(faults)
		asleep := slices.Sorted(slices.Values(s.Unpowered))
		states = append(states, fmt.Sprint(text, lamps, slices.Compact(faults), asleep))
	}
	var controls, roles []string
	for _, x := range r.Controls {
		controls = append(controls, fmt.Sprint(x.Device, x.Works, slices.Sorted(slices.Values(x.Lamps))))
	}
	for e, role := range n.Roles() {
		roles = append(roles, fmt.Sprint(e, role))
	}
	slices.Sort(states)
	slices.Sort(controls)
	slices.Sort(roles)
	return fmt.Sprintln(states, controls, roles)
}

// TestOrderMeansNothing: a circuit does the same in whatever order its parts are listed, a
// sound one and one with wires in wrong places.
func TestOrderMeansNothing(t *testing.T) {
	rng := rand.New(rand.NewPCG(81, 82))
	for i := range 120 {
		c := circuittest.House(rng, 2+i%4)
		switch i % 3 {
		case 1:
			circuittest.Miswire(rng, c, 1+i%4)
		case 2:
			circuittest.MoreLamps(rng, c)
		}
		want := behaviour(c)
		for range 3 {
			other := circuittest.Shuffled(rng, c)
			if err := other.Validate(); err != nil {
				t.Fatal(err)
			}
			if got := behaviour(other); got != want {
				t.Fatalf("house %d: listed otherwise it does\n%s\nand not\n%s", i, got, want)
			}
		}
	}
}

// TestRejoined: a circuit that differs from another in its joins, compiled on what the two have in
// common, does what it does compiled anew, under conditions too; and the other does not change.
func TestRejoined(t *testing.T) {
	rng := rand.New(rand.NewPCG(83, 84))
	for i := range 60 {
		c := circuittest.House(rng, 2+i%4)
		circuittest.MoreLamps(rng, c)
		n, before := electric.New(c), behaviour(c)
		for range 3 {
			other := c.Clone()
			circuittest.Miswire(rng, other, 1+i%3)
			under := electric.Conditions{LampsOut: []string{"lamp1"}}
			if i%2 == 0 {
				under = electric.Conditions{}
			}
			if i%4 == 1 {
				under.Lifted = []circuit.End{{Ref: other.Joins[0].Of[0]}}
				under.BreakersOff = []string{"supply"}
			}
			if got, want := does(n.Rejoined(other, under)), does(electric.NewUnder(other, under)); got != want {
				t.Fatalf("house %d: rejoined it does\n%s\nand not\n%s", i, got, want)
			}
		}
		if does(n) != before {
			t.Fatalf("house %d has changed", i)
		}
	}
}
