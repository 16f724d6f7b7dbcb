package retrofit

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestImpulse: whatever the buttons are like, a module takes the place of their relay, and no box of a button is opened.
func TestImpulse(t *testing.T) {
	for seed := range uint64(60) {
		rng := rand.New(rand.NewPCG(seed, 29))
		c := circuittest.Impulse(rng, 1+rng.IntN(7))
		if err := c.Validate(); err != nil {
			t.Fatalf("house %d: %v", seed, err)
		}
		r := inspect.Check(c)
		if r.Verdict != inspect.Works {
			t.Fatalf("house %d is %s: %v", seed, r.Verdict, r.Findings)
		}
		for _, x := range r.Controls {
			if !x.Works || !slices.Equal(x.Lamps, []string{"lp"}) {
				t.Fatalf("house %d: %+v", seed, x)
			}
		}
		found := false
		for _, o := range Plan(c).Options {
			if !o.Feasible {
				if o.Reasons[0].Code != "buttons-step-a-relay" {
					t.Errorf("house %d, %s: %v", seed, o.ID, o.Reasons[0])
				}
				continue
			}
			found = true
			prove(t, fmt.Sprintf("house %d, %s", seed, o.ID), c, o)
			if at := c.Device("r").Box; o.Strategy != ModulePulse || !slices.Equal(o.BoxesTouched, []string{at}) {
				t.Errorf("house %d: %s opens %v, not %s", seed, o.ID, o.BoxesTouched, at)
			}
			if o.After.Device("r") != nil {
				t.Errorf("house %d: the relay stays", seed)
			}
			if n := len(inspect.Check(o.After).Controls); n != len(r.Controls) {
				t.Errorf("house %d: %d controls of %d are left", seed, n, len(r.Controls))
			}
		}
		if !found {
			t.Errorf("house %d has no plan", seed)
		}
	}
}

// TestTwoImpulseRelays: where buttons step two relays at once, neither is taken for the light's own.
func TestTwoImpulseRelays(t *testing.T) {
	c := circuittest.Impulse(rand.New(rand.NewPCG(1, 29)), 3)
	box := c.Device("r").Box
	c.Devices = append(c.Devices, circuit.Device{ID: "r2", Box: box, Type: circuit.TypeSmart, Model: circuit.FoundRelay})
	for i, j := range c.Joins {
		for _, m := range j.Of {
			if m.Owner == "r" && m.Part != "load" {
				c.Joins[i].Of = append(slices.Clone(c.Joins[i].Of), circuit.Ref{Owner: "r2", Part: m.Part})
			}
		}
	}
	for _, o := range Plan(c).Options {
		if o.Feasible {
			t.Errorf("%s leaves one of the relays stepped in its stead", o.ID)
		}
	}
}
