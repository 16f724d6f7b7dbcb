package electric_test

import (
	"math"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// TestBorrowedNeutral: the lamp returns through another cable than its hot.
func TestBorrowedNeutral(t *testing.T) {
	c := circuittest.Chain(2)
	panel, far := c.Cables[0], c.Cables[1]
	second := circuit.Cable{ID: "extra", Ends: [2]*string{panel.Ends[0], panel.Ends[1]}, Cores: []string{"white"}}
	c.Cables = append(c.Cables, second)
	_ = far
	for i, j := range c.Joins {
		for k, m := range j.Of {
			if m.Owner == panel.ID && m.Part == "white" {
				c.Joins[i].Of[k] = circuit.Ref{Owner: "extra", Part: "white"}
			}
		}
	}
	r := electric.Explore(electric.New(c))
	seen := map[string]bool{}
	for _, s := range r.States {
		for _, f := range s.Faults {
			if f.Kind == electric.CableUnbalanced {
				seen[f.At[0].Owner] = true
			}
		}
	}
	if !seen[panel.ID] || !seen["extra"] || len(seen) != 2 {
		t.Errorf("unbalanced cables %v, want %s and extra", seen, panel.ID)
	}
}

// TestCableCurrents: where line and neutral of two lamps, one behind the other, run in two cables, each
// carries the current of both: 60 W at 120 V, out in the one and back in the other; the cable between
// them balances.
func TestCableCurrents(t *testing.T) {
	c := circuittest.Chain(2)
	panel, box, beyond := c.Cables[0], c.Device("lamp1").Box, "beyond"
	watts := 24.0
	c.Boxes = append(c.Boxes, circuit.Box{ID: beyond, Kind: circuit.Fixture})
	c.Devices = append(c.Devices, circuit.Device{ID: "lamp2", Box: beyond, Type: circuit.TypeLamp, Watts: &watts})
	c.Cables = append(c.Cables, circuit.Cable{ID: "on", Ends: [2]*string{&box, &beyond}, Cores: []string{"black", "white"}},
		circuit.Cable{ID: "extra", Ends: panel.Ends, Cores: []string{"white"}})
	for i, j := range c.Joins {
		for k, m := range j.Of {
			if m.Owner == panel.ID && m.Part == "white" {
				c.Joins[i].Of[k] = circuit.Ref{Owner: "extra", Part: "white"}
			}
		}
		for _, lead := range [][2]string{{"l", "black"}, {"n", "white"}} {
			if slices.Contains(j.Of, circuit.Ref{Owner: "lamp1", Part: lead[0]}) {
				c.Joins[i].Of = append(c.Joins[i].Of, circuit.Ref{Owner: "on", Part: lead[1]})
			}
		}
	}
	c.Joins = append(c.Joins, circuit.Join{Box: beyond, Of: []circuit.Ref{{Owner: "on", Part: "black"}, {Owner: "lamp2", Part: "l"}}},
		circuit.Join{Box: beyond, Of: []circuit.Ref{{Owner: "on", Part: "white"}, {Owner: "lamp2", Part: "n"}}})
	n := electric.New(c)
	lit := 0
	for _, s := range electric.Explore(n).States {
		want := 0.0
		if s.Lit[0] {
			want, lit = (36.0+24)/120, lit+1
		}
		for i, got := range n.CableCurrents(n.Solve(s.State)) {
			should := map[string]float64{panel.ID: want, "extra": -want}[c.Cables[i].ID]
			if math.Abs(got-should) > 1e-9 {
				t.Errorf("cable %s carries %v A, want %v", c.Cables[i].ID, got, should)
			}
		}
	}
	if lit != 2 {
		t.Errorf("the lamps are lit in %d states", lit)
	}
}

// TestParallelCores: two cores of two cables that carry one conductor share
// its current by resistance, so neither cable balances.
func TestParallelCores(t *testing.T) {
	c := circuittest.Chain(2)
	k := c.Cables[0]
	c.Cables = append(c.Cables, circuit.Cable{ID: "extra", Ends: k.Ends, Cores: []string{"white"}})
	for i, j := range c.Joins {
		if slices.Contains(j.Of, circuit.Ref{Owner: k.ID, Part: "white"}) && (j.Box == *k.Ends[0] || j.Box == *k.Ends[1]) {
			c.Joins[i].Of = append(c.Joins[i].Of, circuit.Ref{Owner: "extra", Part: "white"})
		}
	}
	n := electric.New(c)
	for _, s := range electric.Explore(n).States {
		amps := n.CableCurrents(n.Solve(s.State))
		want := 0.0
		if s.Lit[0] {
			want = 36.0 / 120 / 2
		}
		if got := math.Abs(amps[len(amps)-1]); math.Abs(got-want) > 1e-9 {
			t.Errorf("the extra cable carries %v A, want %v", got, want)
		}
	}
}
