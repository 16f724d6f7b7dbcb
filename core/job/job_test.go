package job_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/job"
)

// random draws a job that is hard to choose for: equal prices, options that cost nothing, families that only one circuit has, and
// circuits that nothing fits.
func random(rng *rand.Rand) []job.Circuit {
	circuits := make([]job.Circuit, 1+rng.IntN(4))
	for i := range circuits {
		circuits[i].ID = fmt.Sprint(i + 1)
		for k := range rng.IntN(5) {
			o := job.Option{ID: fmt.Sprintf("o%d", k), Family: fmt.Sprintf("S%d", 1+rng.IntN(5)), Price: float64(10 * rng.IntN(6)), Minutes: float64(15 * rng.IntN(6)), Readings: rng.IntN(3)}
			if rng.IntN(2) == 0 {
				o.Hubs = []string{[]string{"mesh", "wifi"}[rng.IntN(2)]}
			}
			o.Devices = map[string]int{fmt.Sprintf("model%d", rng.IntN(3)): 1 + rng.IntN(2)}
			circuits[i].Options = append(circuits[i].Options, o)
		}
	}
	return circuits
}

// every hands out each combination of one option for each circuit that any fits.
func every(circuits []job.Circuit, take func([]job.Option)) {
	var put func(i int, so []job.Option)
	put = func(i int, so []job.Option) {
		switch {
		case i == len(circuits):
			take(so)
		case len(circuits[i].Options) == 0:
			put(i+1, so)
		default:
			for _, o := range circuits[i].Options {
				put(i+1, append(so[:len(so):len(so)], o))
			}
		}
	}
	put(0, nil)
}

// TestBest: no combination has less of what a plan is to have least of, and its sums are those of its options.
func TestBest(t *testing.T) {
	for seed := range uint64(600) {
		rng := rand.New(rand.NewPCG(seed, 32))
		circuits, rate := random(rng), float64(30*rng.IntN(3))
		for _, by := range job.Bys {
			measure := func(so []job.Option) (first, then float64) {
				families := map[string]bool{}
				for _, o := range so {
					families[o.Family] = true
					switch by {
					case job.Time:
						first += o.Minutes
					case job.Price:
						first += o.Price + rate*o.Minutes/60
					case job.Families:
						then += o.Price + rate*o.Minutes/60
					}
				}
				if by == job.Families {
					first = float64(len(families))
				}
				return first, then
			}
			first, then := math.Inf(1), math.Inf(1)
			every(circuits, func(so []job.Option) {
				if a, b := measure(so); a < first-1e-9 || a < first+1e-9 && b < then {
					first, then = a, b
				}
			})
			got := job.Best(circuits, by, rate)
			var chosen []job.Option
			price, hubs := 0.0, []string{}
			for _, c := range circuits {
				i := slices.IndexFunc(c.Options, func(o job.Option) bool { return o.ID == got.Choices[c.ID] })
				if (i < 0) != (len(c.Options) == 0) {
					t.Fatalf("seed %d by %s: circuit %s has no choice", seed, by, c.ID)
				}
				if i >= 0 {
					chosen = append(chosen, c.Options[i])
					price += c.Options[i].Price
					hubs = append(hubs, c.Options[i].Hubs...)
				}
			}
			a, b := measure(chosen)
			slices.Sort(hubs)
			if math.Abs(a-first) > 1e-9 || math.Abs(b-then) > 1e-9 {
				t.Fatalf("seed %d by %s: %v and %v; the least are %v and %v", seed, by, a, b, first, then)
			}
			if got.Price != price || !slices.Equal(got.Hubs, slices.Compact(hubs)) {
				t.Fatalf("seed %d by %s: %+v", seed, by, got)
			}
		}
	}
}

// TestPlans: the plan that was asked for stands first, and none is listed twice.
func TestPlans(t *testing.T) {
	circuits := []job.Circuit{{ID: "1", Options: []job.Option{{ID: "cheap", Family: "S1", Price: 10, Minutes: 60}, {ID: "quick", Family: "S5", Price: 40, Minutes: 10}}}}
	for by, want := range map[job.By][]string{job.Price: {"cheap", "quick"}, job.Time: {"quick", "cheap"}, job.Families: {"cheap", "quick"}} {
		var got []string
		for _, p := range job.Plans(circuits, by, 0) {
			got = append(got, p.Choices["1"])
		}
		if !slices.Equal(got, want) {
			t.Errorf("by %s: %v, want %v", by, got, want)
		}
	}
	if p := job.Plans(circuits, job.Price, 60); p[0].Choices["1"] != "quick" || p[0].Cost != 50 {
		t.Errorf("at 60 an hour: %+v", p[0])
	}
	if got := job.Plans([]job.Circuit{{ID: "1"}}, job.Price, 0); len(got) != 0 {
		t.Errorf("where nothing fits: %+v", got)
	}
}

func BenchmarkFamilies(b *testing.B) {
	rng := rand.New(rand.NewPCG(1, 32))
	circuits := make([]job.Circuit, 12)
	for i := range circuits {
		circuits[i].ID = fmt.Sprint(i + 1)
		for k := range 40 {
			circuits[i].Options = append(circuits[i].Options, job.Option{ID: fmt.Sprint(k), Family: fmt.Sprintf("S%d", 1+rng.IntN(14)), Price: rng.Float64(), Minutes: rng.Float64()})
		}
	}
	for b.Loop() {
		job.Best(circuits, job.Families, 60)
	}
}
