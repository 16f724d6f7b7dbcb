package retrofit

import (
	"slices"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestDimmable: whether lamps may be dimmed is asked where the record does not say, and not
// passed; a filament lamp may be, and one that may not is refused.
func TestDimmable(t *testing.T) {
	yes, no := true, false
	for _, test := range []struct {
		load     string
		dimmable *bool
		unknown  bool
		refused  bool
	}{
		{"led", nil, true, false},
		{"fluorescent", nil, true, false},
		{"led", &yes, false, false},
		{"led", &no, false, true},
		{"incandescent", nil, false, false},
	} {
		c := circuittest.Straight()
		lamp := c.Device("lamp1")
		watts := 20.0
		lamp.Load, lamp.Dimmable, lamp.Watts = test.load, test.dimmable, &watts
		asked, passed, refused := 0, 0, 0
		for _, o := range Plan(c).Options {
			for _, k := range o.Checks {
				if k.Code == "dimmable" && o.Feasible {
					if k.Unknown {
						asked++
					} else {
						passed++
					}
				}
			}
			if slices.ContainsFunc(o.Reasons, func(r Reason) bool { return r.Code == "not-dimmable" }) {
				refused++
			}
		}
		if (asked > 0) != test.unknown || test.unknown && passed > 0 || (refused > 0) != test.refused {
			t.Errorf("%s lamps: asked of %d options, passed by %d, refused for %d", test.load, asked, passed, refused)
		}
	}
}

// TestNeutralFirst: where a box has a neutral, no device that takes its power through the lamp
// stands before the best one there that uses it.
func TestNeutralFirst(t *testing.T) {
	compared := 0
	for _, n := range []int{2, 3} {
		c := circuittest.Chain(n)
		p := newPlanner(inspect.Compile(c), Request{})
		options := Plan(c).Options
		for _, through := range options {
			if !through.Feasible || len(through.Devices) == 0 {
				continue
			}
			d, _ := p.library.Get(through.Devices[0].Device)
			if !d.ThroughLoad || !p.hasNeutral(through.Devices[0].Box) {
				continue
			}
			best := -1.0
			for _, o := range options {
				if !o.Feasible || len(o.Devices) == 0 || o.Devices[0].Box != through.Devices[0].Box || !slices.Equal(o.Light, through.Light) {
					continue
				}
				if d, _ := p.library.Get(o.Devices[0].Device); !d.ThroughLoad && d.At("neutral") != "" {
					best = max(best, *o.Score)
				}
			}
			if compared++; best >= 0 && *through.Score >= best {
				t.Errorf("chain of %d: %s scores %.1f, with neutral there %.1f", n, through.ID, *through.Score, best)
			}
		}
	}
	if compared == 0 {
		t.Error("nothing was compared")
	}
}
