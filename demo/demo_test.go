package demo_test

import (
	"slices"
	"testing"

	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
	"ambivia/demo"
)

// TestDemo: each demo circuit does what its story tells: it works, but for the
// one with faults to be found, and the families fit that its walls allow.
func TestDemo(t *testing.T) {
	all := []string{retrofit.MainAux, retrofit.MainRemote, retrofit.SensingSwitch}
	bare := []string{retrofit.NoNeutralAux, retrofit.NoNeutralRemote, retrofit.ModuleSwitched, retrofit.ModuleDry}
	needsNeutral := []string{retrofit.SensingSwitch, retrofit.MainAux, retrofit.MainRemote, retrofit.Paired}
	stories := map[string]struct {
		states int
		fits   []string // among what fits
		not    []string // never
		faults []string
		traced int // readings made, where it is traced in part
	}{
		"Chart room":                           {4, all, nil, nil, 0},
		"Plate archive":                        {4, all, nil, nil, 0},
		"West dome stair":                      {4, bare, needsNeutral, nil, 0}, // feed at the lamp, two cores down: no neutral can be brought
		"Mill landing, rose":                   {4, bare, needsNeutral, nil, 0}, // loop-in rose: the same, and a module at the rose
		"Sluice walk":                          {8, all, nil, nil, 0},
		"Shearing board, five doors":           {32, all, nil, nil, 0},
		"Wool table":                           {4, nil, retrofit.Strategies, []string{"ground-return", "control-disabled", "control-disabled", "loose-end", "loose-end", "empty-screw"}, 0},
		"Loom hall corridor, two lights":       {16, all, nil, nil, 0},
		"Card room":                            {4, all, nil, nil, 0},
		"Granary flat, corridor":               {8, all, nil, nil, 0},
		"Granary loft, push-buttons":           {2, []string{retrofit.ModulePulse}, needsNeutral, nil, 0},
		"Meridian passage, by scenes":          {2, nil, retrofit.Strategies, nil, 0},
		"Meridian passage, mirrored both ways": {4, nil, retrofit.Strategies, nil, 0},
		"Mill house, three floors":             {8, []string{retrofit.Messages}, nil, nil, 0},
		"Weaving shed, six switches":           {64, []string{retrofit.CentralModule}, nil, nil, 0},
		"Wheel pit stair":                      {4, []string{retrofit.MainContact, retrofit.NoNeutralAux}, nil, nil, 5}, // planned on what it most likely is
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
			if story.traced > 0 { // nobody knows yet what it does
				tr, err := trace.New(t.Context(), c)
				if err != nil || r.Verdict != inspect.Unknown || len(c.Observations) != story.traced || tr.Resolved() {
					t.Errorf("%s: %s with %d readings, %v", c.Name, r.Verdict, len(c.Observations), err)
				}
			} else if (r.Verdict == inspect.Works) != (story.faults == nil) || r.States != story.states || !slices.Equal(faults, story.faults) {
				t.Errorf("%s: %s in %d states, %v", c.Name, r.Verdict, r.States, faults)
			}
			var got []string
			for _, o := range retrofit.Plan(c).Options {
				if o.Feasible && o.Metrics.NewCables == 0 && !slices.Contains(got, o.Strategy) {
					got = append(got, o.Strategy)
				}
			}
			for _, want := range story.fits {
				if !slices.Contains(got, want) {
					t.Errorf("%s: %v fit, and %s does not", c.Name, got, want)
				}
			}
			for _, never := range story.not {
				if slices.Contains(got, never) {
					t.Errorf("%s: %s fits", c.Name, never)
				}
			}
		}
	}
	if told != len(stories) {
		t.Errorf("%d circuits, %d stories", told, len(stories))
	}
}
