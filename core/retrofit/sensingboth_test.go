package retrofit

import (
	"context"
	"slices"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestDimmerWithItsSecond: a dimmer that must stand at the load end is planned there, with the second that goes with it at the
// line end, where somebody wants to dim. It dims from there alone; the second is offered nowhere by itself, and no plan has two
// that dim in one chain.
func TestDimmerWithItsSecond(t *testing.T) {
	for _, controls := range []int{2, 3, 4} {
		c := circuittest.Row(controls)
		r, err := PlanFor(context.Background(), inspect.Compile(c), Request{Wishes: Wishes{Wishes: map[string]string{DimOne: Must}}})
		if err != nil {
			t.Fatal(err)
		}
		found := false
		for _, o := range r.Options {
			kinds := []string{}
			for _, x := range o.Devices {
				kinds = append(kinds, x.Device)
			}
			if o.Strategy == SensingSwitch && slices.Contains(kinds, "sensing-dimmer-second") {
				t.Errorf("%d controls: %s has the second alone", controls, o.ID)
			}
			if o.Strategy != SensingBoth {
				continue
			}
			dims := slices.DeleteFunc(slices.Clone(o.Places), func(q Place) bool { return !q.Dims })
			if len(dims) > 1 {
				t.Errorf("%d controls: %s dims at two places of one chain: %v", controls, o.ID, dims)
			}
			if !o.Feasible || !slices.Contains(kinds, "sensing-dimmer-load") {
				continue
			}
			found = true
			second := kinds[1-slices.Index(kinds, "sensing-dimmer-load")]
			if second != "sensing-dimmer-second" || len(dims) != 1 {
				t.Errorf("%d controls: %s has %v and dims at %v", controls, o.ID, kinds, dims)
				continue
			}
			dead := o.After.Clone()
			model := dead.Models["sensing-dimmer-second"]
			model.Button = nil
			dead.Models["sensing-dimmer-second"] = model
			if got := inspect.Check(dead); slices.ContainsFunc(got.Findings, func(f inspect.Finding) bool { return f.Severity == inspect.Error }) {
				t.Errorf("%d controls: with the second dead: %v", controls, got.Findings)
			}
		}
		if !found {
			t.Errorf("%d controls: no dimmer with its second", controls)
		}
	}
}
