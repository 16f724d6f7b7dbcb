package retrofit

import (
	"slices"
	"testing"

	"ambivia/core/circuittest"
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
