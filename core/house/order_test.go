package house_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

// listedOtherwise is the same record in another order, under other names.
func listedOtherwise(rng *rand.Rand, c *circuit.Circuit) (*circuit.Circuit, func(circuit.End) circuit.End) {
	out, now := circuittest.Renamed(rng, circuittest.Shuffled(rng, c))
	for i := range out.Cables {
		cores := out.Cables[i].Cores
		rng.Shuffle(len(cores), func(a, b int) { cores[a], cores[b] = cores[b], cores[a] })
	}
	return out, now
}

// planned says of each option all that does not name a part, in no order.
func planned(t *testing.T, c *circuit.Circuit) []string {
	r, err := retrofit.PlanFor(context.Background(), inspect.Compile(c), retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	var out []string
	for _, o := range r.Options {
		text := fmt.Sprintf("%s %s feasible %t, %d boxes, relies %d", o.Family, o.Strategy, o.Feasible, len(o.BoxesTouched), len(o.Relies))
		if o.Score != nil {
			text += fmt.Sprintf(", %.2f", *o.Score)
		}
		if m := o.Metrics; m != nil {
			text += fmt.Sprintf(", ends %d, cables %d, minutes %v", m.EndsMoved, m.NewCables, m.Minutes)
		}
		for _, why := range o.Reasons {
			text += " " + string(why.Code)
		}
		out = append(out, text)
	}
	slices.Sort(out)
	return out
}

// TestOrderMeansNothing: the order in which boxes, cables, cores, devices and joins are listed, and what they
// are called, changes no odds, no plan, no score and no refusal.
func TestOrderMeansNothing(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	for _, k := range circuittest.Kinds() {
		t.Run(k.Name, func(t *testing.T) {
			t.Parallel()
			for seed := range uint64(1) {
				rng := rand.New(rand.NewPCG(seed, 0x0de2))
				h, err := house.New(k.Make(rng, k.Controls[0]), seed, nil)
				if err != nil {
					t.Fatal(err)
				}
				s := h.Survey()
				for n := range 4 {
					other, now := listedOtherwise(rng, s)
					a, err := trace.New(context.Background(), s)
					if err != nil {
						t.Fatal(err)
					}
					b, err := trace.New(context.Background(), other)
					if err != nil {
						t.Fatalf("listed otherwise: %v", err)
					}
					want, got := a.Odds(), b.Odds()
					for e, odds := range want {
						for role, p := range odds {
							if q := got[now(e)][role]; math.Abs(p-q) > 1.5e-4 {
								t.Errorf("house %d, after %d readings: %s is %s by %v, listed otherwise by %v", seed, n, e, role, p, q)
							}
						}
					}
					test, ok, err := a.Next(context.Background(), trace.Dead)
					if err != nil {
						t.Fatal(err)
					}
					if !ok {
						break
					}
					if test.Reading, err = h.Answer(test); err != nil {
						t.Fatal(err)
					}
					s.Observations = append(s.Observations, test)
				}
				for name, c := range map[string]*circuit.Circuit{"whole": h.Truth(), "half known": s} {
					other, _ := listedOtherwise(rng, c)
					want, got := planned(t, c), planned(t, other)
					if again := planned(t, c); !slices.Equal(again, want) {
						t.Errorf("house %d, %s: planned twice, and not the same", seed, name)
					}
					for i := range max(len(want), len(got)) {
						switch {
						case i >= len(want) || i >= len(got):
							t.Errorf("house %d, %s: %d options, listed otherwise %d", seed, name, len(want), len(got))
						case want[i] != got[i]:
							t.Errorf("house %d, %s: %s; listed otherwise %s", seed, name, want[i], got[i])
						default:
							continue
						}
						break
					}
				}
			}
		})
	}
}
