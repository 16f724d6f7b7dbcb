package record_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/record"
	"ambivia/core/retrofit"
)

// TestUsage: each place is told as what it is: an old switch is flipped, an old button pressed, a paddle has an up and a down; dimming
// and taps are promised only where the plan and its rules have them.
func TestUsage(t *testing.T) {
	said := map[string]bool{}
	for _, c := range []*circuit.Circuit{circuittest.Straight(), circuittest.Impulse(rand.New(rand.NewPCG(30, 1)), 3)} {
		options := retrofit.Plan(c).Options
		if !slices.ContainsFunc(options, func(o retrofit.Option) bool { return o.Feasible }) {
			t.Fatalf("nothing fits %s", c.Name)
		}
		for i := range options {
			o := &options[i]
			if !o.Feasible {
				continue
			}
			told := (&record.Circuit{Source: record.Source{Found: inspect.Compile(c), Option: o}}).Usage()
			for n, q := range o.Places {
				text := told[n].Text
				said[text] = true
				d := o.After.Device(q.Device)
				holds := map[string]bool{
					"push-button":  q.Kept && d.FoundType() == circuit.FoundButton,
					"flip":         q.Kept && d.FoundType() != circuit.FoundButton,
					"Press up":     !q.Kept && q.UpIsOn,
					"Hold to dim":  !q.Kept && q.Dims,
					"Several taps": q.Scenes,
					"battery":      q.Battery,
				}
				for words, is := range holds {
					if strings.Contains(text, words) != is {
						t.Errorf("%s: %q is told as %q", o.ID, q.Name, text)
					}
				}
				if q.Name == circuit.TypeSmart {
					t.Errorf("%s: a place has no name", o.ID)
				}
			}
		}
	}
	if len(said) < 5 {
		t.Errorf("all places are told alike: %v", said)
	}
}
