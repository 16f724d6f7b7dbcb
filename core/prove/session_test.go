package prove

import (
	"context"
	"testing"

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
