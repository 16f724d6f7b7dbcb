package retrofit_test

import (
	"context"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestFirst: up to three plans stand first, the best of all among them, none twice, and each reason holds of the plan that it stands
// at and not of all plans.
func TestFirst(t *testing.T) {
	rng := rand.New(rand.NewPCG(30, 7))
	for i := range 12 {
		c := circuittest.Walls(rng, 2+i%3)
		for _, wishes := range []retrofit.Wishes{{}, {Wishes: map[string]string{retrofit.DimAll: "must"}}} {
			answer, err := retrofit.PlanFor(context.Background(), inspect.Compile(c), retrofit.Request{Wishes: wishes})
			if err != nil {
				t.Fatal(err)
			}
			fits := slices.DeleteFunc(slices.Clone(answer.Options), func(o retrofit.Option) bool { return !o.Feasible })
			if len(fits) == 0 {
				if len(answer.First) > 0 {
					t.Errorf("house %d: %v stands first, and nothing fits", i, answer.First)
				}
				continue
			}
			if len(answer.First) == 0 || len(answer.First) > 3 || answer.First[0].Option != fits[0].ID {
				t.Fatalf("house %d: %v", i, answer.First)
			}
			seen := map[string]bool{}
			for _, x := range answer.First {
				o := fits[slices.IndexFunc(fits, func(o retrofit.Option) bool { return o.ID == x.Option })]
				if seen[x.Option] || len(x.Reasons) == 0 {
					t.Errorf("house %d: %v", i, answer.First)
				}
				seen[x.Option] = true
				holds := map[string]bool{
					"best overall": len(wishes.Wishes) == 0 && o.ID == fits[0].ID, "meets your preferences best": len(wishes.Wishes) > 0,
					"no reading to go":               len(o.Relies) == 0,
					"dims from every place":          !slices.ContainsFunc(o.Places, func(q retrofit.Place) bool { return !q.Dims }),
					"least work":                     !slices.ContainsFunc(fits, func(y retrofit.Option) bool { return y.Metrics.Minutes < o.Metrics.Minutes }),
					"lowest price":                   !slices.ContainsFunc(fits, func(y retrofit.Option) bool { return y.Metrics.Price < o.Metrics.Price }),
					"opens the fewest boxes":         !slices.ContainsFunc(fits, func(y retrofit.Option) bool { return y.Metrics.BoxesTouched < o.Metrics.BoxesTouched }),
					"keeps the most switches":        !slices.ContainsFunc(fits, func(y retrofit.Option) bool { return y.Metrics.SwitchesKept > o.Metrics.SwitchesKept }),
					"works without hub and internet": !slices.ContainsFunc(o.Outages, func(y retrofit.Outage) bool { return (y.When == "hub" || y.When == "internet") && len(y.Lost) > 0 }),
				}
				for _, reason := range x.Reasons {
					if !holds[reason] {
						t.Errorf("house %d: %q of %s", i, reason, x.Option)
					}
				}
			}
		}
	}
}
