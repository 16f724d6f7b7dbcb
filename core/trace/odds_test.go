package trace

import (
	"context"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// TestOddsMeanWhatTheySay holds what is said of conductors against the truth, before any reading and after
// some: of statements at 99 % and more that are not certain, two in a hundred may be wrong. It prints a
// table by tenths.
func TestOddsMeanWhatTheySay(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	var said, right [11]int // by tenths; the last for 99 % and more
	for _, k := range circuittest.Kinds() {
		for seed := range uint64(oddsHouses()) {
			h, s := surveyOf(t, k, seed+5000)
			tr, err := New(context.Background(), s)
			if err != nil {
				continue
			}
			roles := trueRoles(h)
			for n := range 6 {
				exchanged := k.Name == "feed exchanged" && tr.tell().polarityWord() == "unknown"
				for e, odds := range tr.Odds() {
					for role, p := range odds {
						if p == 1 || exchanged || circuit.GroundColour(e.Part) || roles[e] == "" {
							continue
						}
						at := int(p * 10)
						if p >= 0.99 {
							at = 10
						}
						said[at]++
						if roles[e] == role {
							right[at]++
						}
					}
				}
				test, ok, err := tr.Next(context.Background(), Dead)
				if err != nil || !ok || n == 5 {
					break
				}
				if test.Reading, err = h.Answer(test); err != nil {
					t.Fatal(err)
				}
				tr.Observe(test)
			}
		}
	}
	for i := range said {
		if said[i] > 0 {
			t.Logf("said %3d %%: %6d statements, %5.1f %% right", i*10, said[i], 100*float64(right[i])/float64(said[i]))
		}
	}
	if wrong := said[10] - right[10]; wrong*50 > said[10] {
		t.Errorf("%d of %d statements at 99 %% are wrong", wrong, said[10])
	}
}

// oddsHouses is how many houses of each kind are looked at: a part of those that are traced to the end.
func oddsHouses() int { return housesOfAKind / 4 }
