package demo_test

import (
	"slices"
	"testing"

	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/demo"
)

// TestDemo: each demo circuit does what its story tells: it works, but for the
// one with faults to be found, and the families fit that its walls allow.
func TestDemo(t *testing.T) {
	all := []string{"main-aux", "main-remote", "sensing-3way"}
	stories := map[string]struct {
		states int
		fits   []string
		faults []string
	}{
		"Chart room":                     {4, all, nil},
		"Plate archive":                  {4, all, nil},
		"West dome stair":                {4, nil, nil}, // feed at the lamp, two cores down: no neutral can be brought
		"Mill landing, rose":             {4, nil, nil}, // loop-in rose: the same
		"Sluice walk":                    {8, all, nil},
		"Shearing board, five doors":     {32, all, nil},
		"Wool table":                     {4, nil, []string{"ground-return", "control-disabled", "control-disabled", "loose-end", "loose-end", "empty-screw"}},
		"Loom hall corridor, two lights": {16, all, nil},
		"Card room":                      {4, all, nil},
		"Granary flat, corridor":         {8, all, nil},
	}
	told := 0
	for _, j := range demo.Jobs() {
		for _, c := range j.Circuits {
			told++
			story, known := stories[c.Name]
			if !known {
				t.Errorf("%s has no story", c.Name)
			}
			r := inspect.Check(c)
			var faults []string
			for _, f := range r.Findings {
				if f.Severity != inspect.Note {
					faults = append(faults, f.Code)
				}
			}
			if (r.Verdict == inspect.Works) != (story.faults == nil) || r.States != story.states || !slices.Equal(faults, story.faults) {
				t.Errorf("%s: %s in %d states, %v", c.Name, r.Verdict, r.States, faults)
			}
			var got []string
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible && !slices.Contains(got, o.Strategy) {
					got = append(got, o.Strategy)
				}
			}
			slices.Sort(got)
			if !slices.Equal(got, story.fits) {
				t.Errorf("%s: %v fit, want %v", c.Name, got, story.fits)
			}
		}
	}
	if told != len(stories) {
		t.Errorf("%d circuits, %d stories", told, len(stories))
	}
}
