package retrofit

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuittest"
)

// TestNarrowPlaces: every refusal for want of cores stands at its stretch of cable, with the numbers
// that its words give; nothing else does, and every family has a name.
func TestNarrowPlaces(t *testing.T) {
	rng := rand.New(rand.NewPCG(15, 3))
	met := 0
	for range 30 {
		c := circuittest.House(rng, 2+rng.IntN(2))
		result := Plan(c)
		refused, barred := 0, 0
		for _, o := range result.Options {
			if o.FamilyName == "" {
				t.Errorf("%s of family %q has no name", o.ID, o.Family)
			}
			for _, r := range o.Reasons {
				if r.Code == "too-few-cores" || r.Code == "colours" {
					refused++
					i := slices.IndexFunc(result.Narrow, func(n Narrow) bool { return strings.HasPrefix(r.Text, n.Text[:strings.Index(n.Text, " beside ")]) })
					if i < 0 {
						t.Fatalf("%s: %q stands at none of %+v", o.ID, r.Text, result.Narrow)
					}
					b := slices.IndexFunc(result.Narrow[i].Bars, func(b Bar) bool { return b.Family == o.Family })
					if b < 0 {
						t.Fatalf("%s: %q bars family %s, and that is not told", o.ID, r.Text, o.Family)
					}
					if bar := result.Narrow[i].Bars[b]; !bar.Colours && bar.Needs <= result.Narrow[i].Has {
						t.Errorf("%s: %+v of %d", o.ID, bar, result.Narrow[i].Has)
					}
				}
			}
		}
		for _, n := range result.Narrow {
			for _, b := range n.Bars {
				barred += b.Options
			}
		}
		if refused != barred {
			t.Errorf("%d refusals for want of cores, %d told", refused, barred)
		}
		met += barred
	}
	if met < 100 {
		t.Errorf("%d refusals met", met)
	}
}
