package procedure

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestNumbersAgree: over random circuits in every practice, with lamps of any count and kind, what the materials come to is what
// the plan says it costs, there is a label for every core in a box that is worked in and no other, and one for each end that is
// joined differently.
func TestNumbersAgree(t *testing.T) {
	rng := rand.New(rand.NewPCG(28, 12))
	plans := 0
	for _, practice := range []string{"na", "uk", "au", "in", "eu"} {
		for n := range 3 {
			c := circuittest.In([]*circuit.Circuit{circuittest.Row(2 + rng.IntN(2)), circuittest.Gangs(2, 1), circuittest.House(rng, 2)}[n], practice)
			for i := range c.Devices {
				if d := &c.Devices[i]; d.Type == circuit.TypeLamp {
					count, watts := 1+rng.IntN(5), float64(3+rng.IntN(40))
					d.Count, d.Watts, d.Load = &count, &watts, []string{"led", "incandescent", "halogen"}[rng.IntN(3)]
				}
			}
			found := inspect.Compile(c)
			for _, o := range retrofit.Plan(c).Options {
				if !o.Feasible || rng.IntN(3) > 0 {
					continue
				}
				plans++
				p := For(found, &o, nil)
				paid := 0.0
				for _, x := range p.Materials() {
					if x.Group == Devices && x.Price != nil {
						paid += *x.Price
					}
				}
				if math.Abs(paid-o.Metrics.Price) > 0.005 {
					t.Errorf("%s, %s, %s: the devices of the list cost %g, the plan says %g", practice, c.Name, o.ID, paid, o.Metrics.Price)
				}
				labels := map[circuit.End]Label{}
				for _, l := range p.Labels() {
					if _, twice := labels[l.End]; twice {
						t.Errorf("%s, %s, %s: two labels for %s", practice, c.Name, o.ID, l.End)
					}
					labels[l.End] = l
				}
				want := map[circuit.End]bool{}
				for _, b := range o.BoxesTouched {
					if o.Strategy == retrofit.SmartLamps && !rewired(c, o.After, b) {
						continue // a smart lamp is screwed into its socket there, and no wire is seen
					}
					for _, m := range o.After.EndsIn(b) {
						want[circuit.End{Ref: m, Box: b}] = true
					}
				}
				for e := range want {
					if _, ok := labels[e]; !ok {
						t.Errorf("%s, %s, %s: no label for %s", practice, c.Name, o.ID, e)
					}
				}
				for e := range labels {
					if !want[e] {
						t.Errorf("%s, %s, %s: a label for %s, in a box that stays closed", practice, c.Name, o.ID, e)
					}
				}
				for _, e := range o.Moved() {
					if !circuit.GroundColour(e.Part) && !slices.Contains(o.BoxesTouched, e.Box) {
						t.Errorf("%s, %s, %s: %s moves in a box that stays closed", practice, c.Name, o.ID, e)
					}
				}
			}
		}
	}
	if plans < 150 {
		t.Errorf("only %d plans were looked at", plans)
	}
}

// rewired reports whether a core of a box stands with other cores or old switches than before: what hangs in a lamp's socket does
// not count.
func rewired(before, after *circuit.Circuit, box string) bool {
	with := func(c *circuit.Circuit, m circuit.Ref) (out []string) {
		if i := c.JoinOf(box, m); i >= 0 {
			for _, r := range c.Joins[i].Of {
				d := c.Device(r.Owner)
				if d == nil || d.Type != circuit.TypeLamp && c.Box(box).Kind == circuit.Switch {
					out = append(out, r.String())
				}
			}
		}
		slices.Sort(out)
		return out
	}
	return slices.ContainsFunc(after.EndsIn(box), func(m circuit.Ref) bool {
		return !slices.Equal(with(before, m), with(after, m))
	})
}
