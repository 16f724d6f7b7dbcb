package prove

import (
	"context"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/retrofit"
)

// TestFits: what right work shows fits from whatever starting position; what a mistake shows that presses reveal does not,
// and the circuit with that mistake in it is the one that is mended.
func TestFits(t *testing.T) {
	c := circuittest.Chain(3)
	var o *retrofit.Option
	for _, x := range retrofit.Plan(c).Options {
		if x.Feasible && o == nil {
			o = &x
		}
	}
	proof, err := Sequence(context.Background(), c, o)
	if err != nil {
		t.Fatal(err)
	}
	w := of(c, o)
	mistakes, err := w.mistakes()
	if err != nil {
		t.Fatal(err)
	}
	shown := func(n *electric.Network) Seen { return watch(newMachine(n), 0, proof.Presses) }
	if ok, err := Fits(context.Background(), c, o, shown(w.read.net)); !ok || err != nil {
		t.Errorf("right work does not fit: %v", err)
	}
	misfits := 0
	for _, m := range mistakes {
		made, err := Made(c, o, m)
		if err != nil {
			t.Fatal(err)
		}
		ok, err := Fits(context.Background(), c, o, shown(electric.New(made)))
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			misfits++
		}
	}
	if misfits != proof.Mistakes.Revealed {
		t.Errorf("%d mistakes do not fit, the proof reveals %d", misfits, proof.Mistakes.Revealed)
	}
	if _, err := Made(c, o, Mistake{Swap, mistakes[0].Ends}); err == nil {
		t.Error("a mistake that nobody could have made is made")
	}
	if _, err := Fits(context.Background(), c, o, Seen{Presses: []string{"moon"}, Lamps: []map[string]string{{}, {}}}); err == nil {
		t.Error("the moon is pressed")
	}
	if lamps := Lamps(c, o); len(lamps) != 1 {
		t.Errorf("lamps are %v", lamps)
	}
}

// TestAfter: what a press should show is known where nothing depends on how switches stood.
func TestAfter(t *testing.T) {
	e := Expected{Lamps: map[string]string{"a": "changes", "b": "stays"}}
	if got := e.After(map[string]string{"a": "lit", "b": "dark"}); got["a"] != "dark" || got["b"] != "dark" {
		t.Errorf("%v", got)
	}
	if got := e.After(map[string]string{"a": "dark", "b": "lit"}); got["a"] != "lit" || got["b"] != "lit" || Otherwise(got) != nil {
		t.Errorf("%v, otherwise %v", got, Otherwise(got))
	}
	for _, before := range []map[string]string{{"a": "lit"}, {"a": "trip", "b": "lit"}} {
		if got := e.After(before); got != nil {
			t.Errorf("after %v it is known: %v", before, got)
		}
	}
	if got := (Expected{Lamps: map[string]string{"a": "depends"}}).After(map[string]string{"a": "lit"}); got != nil {
		t.Errorf("what depends is known: %v", got)
	}
	if got := Otherwise(map[string]string{"a": "lit"}); got["a"] != "dark" {
		t.Errorf("%v", got)
	}
}

// TestRightIsNeverFaulty: whatever state devices kept, and however switches stand, right work is never called
// faulty, for every plan; from a light that was left on the presses of a proof do not count.
func TestRightIsNeverFaulty(t *testing.T) {
	houses := []*circuit.Circuit{circuittest.Straight(), circuittest.House(rand.New(rand.NewPCG(5, 6)), 3)}
	kept, tried := 0, 0
	for _, c := range houses {
		for _, o := range retrofit.Plan(c).Options {
			if !o.Feasible {
				continue
			}
			w := of(c, &o)
			n := w.read.net
			if len(n.MechanicalBits()) > mostSwitches {
				continue
			}
			from := anyStarts(n)
			rng := rand.New(rand.NewPCG(uint64(len(from)), 7))
			for k := range min(6, len(from)) {
				at := from[(k*len(from)/6+rng.IntN(len(from)))%len(from)]
				seen := Seen{Lamps: []map[string]string{shownAs(n, at)}}
				for range 5 {
					id := n.Controls()[rng.IntN(len(n.Controls()))]
					if at, _ = n.Press(at, id, nil); n.Solve(at).Tripped {
						t.Fatalf("%s trips", o.ID)
					}
					seen.Presses, seen.Lamps = append(seen.Presses, id), append(seen.Lamps, shownAs(n, at))
				}
				fits, off, err := FitsFrom(context.Background(), c, &o, seen)
				if err != nil {
					t.Fatal(err)
				}
				if tried++; !fits {
					t.Errorf("%s: right work is called faulty for %+v", o.ID, seen)
				}
				if !off {
					kept++
				}
			}
		}
	}
	if kept == 0 {
		t.Error("no device kept its state")
	}
	t.Logf("%d times pressed through, %d of them from a state that a device kept", tried, kept)
}

// shownAs is how the lamps of a circuit look that stands so.
func shownAs(n *electric.Network, at electric.State) map[string]string {
	out := map[string]string{}
	solved := n.Solve(at)
	for i, id := range n.LampIDs() {
		out[id] = dark
		if solved.Lit(i) {
			out[id] = lit
		}
	}
	return out
}
