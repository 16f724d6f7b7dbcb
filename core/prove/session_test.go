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
	shown := func(n *electric.Network) Seen {
		m := newMachine(n)
		s := m.starts()[0]
		seen := Seen{Presses: proof.Presses, Lamps: []map[string]string{look(m, s)}}
		for _, press := range proof.Presses {
			s = m.press(s, press)
			seen.Lamps = append(seen.Lamps, look(m, s))
		}
		return seen
	}
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

// look is how the lamps of a machine look in a state.
func look(m *machine, s electric.State) map[string]string {
	out := map[string]string{}
	for _, id := range m.net.LampIDs() {
		for _, how := range []string{"lit", "dark", "trip"} {
			if m.looks(s, map[string]string{id: how}) {
				out[id] = how
			}
		}
	}
	return out
}
