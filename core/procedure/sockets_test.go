package procedure

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestSmartLampsGoIntoSockets: a smart lamp is screwed in, and no wire moves for it; where a
// wire has to come to the lamp, it goes to the socket. So it is on the way back.
func TestSmartLampsGoIntoSockets(t *testing.T) {
	rng := rand.New(rand.NewPCG(63, 64))
	screwed, rewired := 0, 0
	for i := range 12 {
		c := circuittest.Walls(rng, 2+i%3)
		for _, o := range retrofit.Plan(c).Options {
			if !o.Feasible || o.Strategy != retrofit.SmartLamps {
				continue
			}
			whole(t, rng, fmt.Sprintf("house %d, %s", i, o.ID), c, o)
			p := For(inspect.Compile(c), &o, nil)
			back, err := p.Back(len(p.Steps))
			if err != nil {
				t.Fatal(err)
			}
			for _, x := range []*Procedure{p, back} {
				in, out := 0, 0
				for _, s := range x.Steps {
					switch {
					case strings.Contains(s.Text, "into their sockets"), strings.Contains(s.Text, "into the sockets"):
						in++
					case strings.Contains(s.Text, "out of their sockets"):
						out++
					case strings.Contains(s.Text, "smart lamp") && s.Kind != KindPair:
						t.Errorf("house %d: a wire is put on a smart lamp: %s", i, s.Text)
					case strings.Contains(s.Text, " l of lamp"):
						rewired++
					}
				}
				if in == 0 || in != out {
					t.Errorf("house %d: lamps out of %d sockets, into %d", i, out, in)
				}
				screwed += in
			}
		}
	}
	t.Logf("%d sockets; %d wires that go to one", screwed, rewired)
	if screwed < 10 {
		t.Errorf("only %d lamps were changed", screwed)
	}
}

// TestSmartLampsCounted: one smart lamp is ordered and paid for each lamp, however many entries share
// a box, whatever each stands for and in whatever order they were recorded.
func TestSmartLampsCounted(t *testing.T) {
	for _, counts := range [][]int{{1}, {4}, {1, 4}, {4, 1}, {2, 3, 5}} {
		c := circuittest.Chain(2)
		sum := 0
		for i, n := range counts {
			sum += n
			if i == 0 {
				for k := range c.Devices {
					if c.Devices[k].Type == circuit.TypeLamp {
						c.Devices[k].Count = &n
					}
				}
				continue
			}
			first := *c.Device("lamp1")
			first.ID, first.Count = fmt.Sprintf("lamp%d", i+1), &n
			c.Devices = append(c.Devices, first)
			for k := range c.Joins {
				for _, part := range []string{"l", "n", "ground"} {
					if slices.Contains(c.Joins[k].Of, circuit.Ref{Owner: "lamp1", Part: part}) {
						c.Joins[k].Of = append(c.Joins[k].Of, circuit.Ref{Owner: first.ID, Part: part})
					}
				}
			}
		}
		seen := 0
		for _, o := range retrofit.Plan(c).Options {
			if o.Strategy != retrofit.SmartLamps || !o.Feasible {
				continue
			}
			seen++
			ordered, paid := 0, 0.0
			for _, x := range For(inspect.Compile(c), &o, nil).Materials() {
				if strings.Contains(x.What, "lamp") && x.Group == Devices {
					ordered += x.Count
				}
				if x.Group == Devices && x.Price != nil {
					paid += *x.Price
				}
			}
			if ordered != sum || paid != o.Metrics.Price {
				t.Errorf("lamps of %v, %s: %d smart lamps are ordered; devices cost %v, the plan says %v", counts, o.ID, ordered, paid, o.Metrics.Price)
			}
		}
		if seen == 0 {
			t.Errorf("lamps of %v: smart lamps are not planned", counts)
		}
	}
}
