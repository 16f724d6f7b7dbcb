package procedure

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/retrofit"
)

// TestGangs: lights whose switches share a box are offered a case with a gang for each. It comes
// in with one step, is bought and counted once, has one screw for what its gangs share, and is one
// yoke; lights of two breakers never share one.
func TestGangs(t *testing.T) {
	rng := rand.New(rand.NewPCG(31, 32))
	for _, x := range []struct {
		lights, breakers int
		cases            []int // gangs of each case, the largest first; nil where none is offered
		price            float64
	}{
		{2, 1, []int{2}, 21 + 9},
		{3, 1, []int{3}, 21 + 2*9},
		{4, 1, []int{3, 1}, 21 + 2*9 + 21},
		{2, 2, nil, 0},
		{4, 2, []int{2, 2}, 2 * (21 + 9)},
	} {
		for _, p := range practice.All() {
			c := circuittest.In(circuittest.Gangs(x.lights, x.breakers), p.ID)
			if err := c.Validate(); err != nil {
				t.Fatal(err)
			}
			name := fmt.Sprintf("%s, %d lights of %d breakers", p.ID, x.lights, x.breakers)
			o := Offer(inspect.Compile(c), retrofit.Request{}, retrofit.MultiGang+"-together")
			if x.cases == nil {
				if o != nil {
					t.Errorf("%s: a case on two supplies", name)
				}
				continue
			}
			if o == nil {
				t.Errorf("%s: no case is offered", name)
				continue
			}
			if err := o.After.Validate(); err != nil {
				t.Fatalf("%s: %v", name, err)
			}
			whole(t, rng, name, c, *o)
			if o.Metrics.Price != x.price || o.Metrics.Devices != len(x.cases) {
				t.Errorf("%s: %g for %d devices, want %g for %d", name, o.Metrics.Price, o.Metrics.Devices, x.price, len(x.cases))
			}
			steps := For(inspect.Compile(c), o, nil)
			bought := map[int]int{}
			for _, s := range steps.Steps {
				if s.Kind == KindMount {
					gangs := 0
					for _, e := range s.Edits {
						if _, in := e.Edit.(Mount); in {
							gangs++
						}
					}
					bought[gangs]++
				}
				for _, w := range s.Wires {
					if o.After.OneScrew(w.End.Ref) {
						t.Errorf("%s: a wire of its own to %s", name, w.End.Ref)
					}
				}
			}
			want := map[int]int{}
			for _, gangs := range x.cases {
				want[gangs]++
			}
			if fmt.Sprint(bought) != fmt.Sprint(want) {
				t.Errorf("%s: cases by gangs %v, want %v", name, bought, want)
			}
			if yokes := inspect.BoxFill(roomy(o.After), "door"); p.ID == "na" && !strings.Contains(fmt.Sprint(yokes.Lines), fmt.Sprintf("yokes (%d,", len(x.cases))) {
				t.Errorf("%s: %+v", name, yokes)
			}
		}
	}
}

// roomy records what a count of the box's room needs.
func roomy(c *circuit.Circuit) *circuit.Circuit {
	c = c.Clone()
	c.Box("door").VolumeCm3 = circuittest.Float(900)
	for i := range c.Cables {
		c.Cables[i].Gauge = "14AWG"
	}
	return c
}
