package electric_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// TestEachGroupForItself: of several lights between the same boxes, sound or miswired, exploring what has nothing to do with
// each other each for itself says the same of every control and finds the same kinds of fault as going through all states together;
// and it visits states in proportion to the lights.
func TestEachGroupForItself(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(28, 2))
	faulty := 0
	for i := range 60 {
		lights := 5 + i%2
		c := circuittest.Lights(rng, lights)
		if i%3 > 0 {
			circuittest.Miswire(rng, c, 2+rng.IntN(3))
		}
		n := electric.New(c)
		apart, whole := electric.Explore(n), electric.ExploreFrom(n, []electric.State{n.Initial()})
		if len(apart.States) >= len(whole.States) && i%3 == 0 {
			t.Errorf("circuit %d: %d states for %d lights, and %d together", i, len(apart.States), lights, len(whole.States))
		}
		for k, x := range apart.Controls {
			if y := whole.Controls[k]; x.Device != y.Device || x.Works != y.Works || !slices.Equal(x.Lamps, y.Lamps) {
				t.Errorf("circuit %d: %s is %t for %v by itself, %t for %v together", i, x.Device, x.Works, x.Lamps, y.Works, y.Lamps)
			}
		}
		a, b := faultsOf(apart), faultsOf(whole)
		if !slices.Equal(a, b) {
			t.Errorf("circuit %d: by itself %v, together %v", i, a, b)
		}
		if len(b) > 0 {
			faulty++
		}
	}
	if faulty < 5 {
		t.Errorf("%d faulty circuits", faulty)
	}
}

// faultsOf lists the kinds of fault of any state: what a short joins depends on which others stand closed with it.
func faultsOf(r *electric.Result) []string {
	var out []string
	for _, s := range r.States {
		for _, f := range s.Faults {
			out = append(out, fmt.Sprint(f.Kind))
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}
