package house_test

import (
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

// A plan that one follows is settled in few readings, and what is read on the way takes no plan away because a closed box
// might join anything: some test at hand tells.
func TestToward(t *testing.T) {
	if testing.Short() {
		t.Skip("it plans after each reading")
	}
	i := slices.IndexFunc(circuittest.Kinds(), func(k circuittest.Kind) bool { return k.Name == "plain" })
	kind := circuittest.Kinds()[i]
	var took []int
	for _, n := range []uint64{4, 6, 8} {
		rng := rand.New(rand.NewPCG(n, 30))
		c := circuittest.In(kind.Make(rng, 2), []string{"na", "uk", "au", "in", "eu"}[n%5])
		var open []string
		if kind.Open != nil {
			open = kind.Open(rng, c)
		}
		h, err := house.New(c, n, open)
		if err != nil {
			t.Fatal(err)
		}
		s, follow := h.Survey(), ""
		for len(s.Observations) < 12 {
			o := followed(t, n, s, follow)
			if o == nil {
				break
			}
			if follow = o.ID; len(o.Relies) == 0 {
				took = append(took, len(s.Observations))
				break
			}
			tr, err := trace.New(t.Context(), s)
			if err != nil {
				t.Fatal(err)
			}
			led, err := retrofit.Lead(t.Context(), o, tr, nil)
			if err != nil {
				t.Fatal(err)
			}
			test := led.Next.Test
			if test.Reading, err = h.Answer(test); err != nil {
				t.Fatal(err)
			}
			s.Observations = append(s.Observations, test)
		}
	}
	slices.Sort(took)
	if len(took) < 3 || took[1] > 3 || took[2] > 6 {
		t.Errorf("readings until a plan relies on nothing: %v", took)
	}
}

// followed is the plan that is followed, or the first whose boxes are all open; nil where there is none.
func followed(t *testing.T, n uint64, s *circuit.Circuit, follow string) *retrofit.Option {
	t.Helper()
	plan, err := retrofit.PlanFor(t.Context(), inspect.Compile(s), retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	var first *retrofit.Option
	for i := range plan.Options {
		o := &plan.Options[i]
		if o.ID == follow && !o.Feasible && o.Reasons[0].Code == "not-known" {
			t.Errorf("house %d after %d readings: %s is offered no more: %s", n, len(s.Observations), o.ID, o.Reasons[0].Text)
		}
		closed := func(box string) bool { b := s.Box(box); return b == nil || !b.Seen() }
		if !o.Feasible || o.Metrics.BoxesTouched == 0 || slices.ContainsFunc(o.BoxesTouched, closed) {
			continue
		}
		if o.ID == follow {
			return o
		}
		if first == nil {
			first = o
		}
	}
	return first
}
