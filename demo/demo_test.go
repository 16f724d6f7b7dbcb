package demo_test

import (
	"slices"
	"testing"

	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/demo"
)

// TestDemo: each demo circuit works as recorded, without a finding, and has the
// families fit that its story promises.
func TestDemo(t *testing.T) {
	fits := map[string][]string{
		"Chart room":      {"main-aux", "main-remote", "sensing-3way"},
		"Plate archive":   {"main-aux", "main-remote", "sensing-3way"},
		"West dome stair": nil, // feed at the lamp, two cores down: no neutral can be brought
	}
	for _, j := range demo.Jobs() {
		for _, c := range j.Circuits {
			r := inspect.Check(c)
			if r.Verdict != inspect.Works || len(r.Findings) > 0 {
				t.Errorf("%s: %s, %v", c.Name, r.Verdict, r.Findings)
			}
			var got []string
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible && !slices.Contains(got, o.Strategy) {
					got = append(got, o.Strategy)
				}
			}
			slices.Sort(got)
			if want, known := fits[c.Name]; !known || !slices.Equal(got, want) {
				t.Errorf("%s: %v fit, want %v", c.Name, got, want)
			}
		}
	}
}
