package retrofit

import (
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuittest"
)

// TestOrderMeansNothing: what fits a circuit, and where, does not depend on the order in
// which its parts are listed, nor does how many ends it moves; a plan made twice is the same.
func TestOrderMeansNothing(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(83, 84))
	ends := map[string]int{}
	fits := func(a *Result) []string {
		var out []string
		clear(ends)
		for _, o := range a.Options {
			if o.Feasible && o.Metrics.NewCables == 0 {
				out = append(out, o.ID)
				ends[o.ID] = o.Metrics.EndsMoved
			}
		}
		slices.Sort(out)
		return out
	}
	for i := range 25 {
		c := circuittest.Walls(rng, 2+i%3)
		want := fits(Plan(c))
		if again := fits(Plan(c)); !slices.Equal(again, want) {
			t.Fatalf("house %d: planned twice\n%v\n%v", i, want, again)
		}
		was := maps.Clone(ends)
		got := fits(Plan(circuittest.Shuffled(rng, c)))
		for _, x := range want {
			if !slices.Contains(got, x) {
				t.Errorf("house %d: listed otherwise there is no %s", i, x)
			}
		}
		if len(got) != len(want) {
			t.Errorf("house %d: %d fit, listed otherwise %d", i, len(want), len(got))
		}
		for id, n := range was {
			if n != ends[id] {
				t.Errorf("house %d: %s moves %d ends, listed otherwise %d", i, id, n, ends[id])
			}
		}
	}
}
