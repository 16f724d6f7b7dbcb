package prove

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/retrofit"
)

// TestStraight: two switches and a lamp: every counted mistake is shown, the same as right, or has
// a reading that shows it, and each press is needed.
func TestStraight(t *testing.T) {
	c := circuittest.Straight()
	p, err := Sequence(context.Background(), c, nil)
	if err != nil {
		t.Fatal(err)
	}
	if n := p.Mistakes; n.All != n.Revealed+n.SameAsRight+n.Meter || n.Revealed == 0 || n.Meter != len(p.Meter) {
		t.Errorf("%+v, %d readings", n, len(p.Meter))
	}
	if len(p.Presses) < 2 || len(p.Presses) > 5 || len(p.Expect) != len(p.Presses) || p.Expect[0].Lamps["lamp1"] != "changes" {
		t.Errorf("%v, %+v", p.Presses, p.Expect)
	}
	t.Logf("%v %+v", p.Presses, p.Mistakes)
}

// TestTooMany: more switches than can be gone through are refused in one line, at once.
func TestTooMany(t *testing.T) {
	c := circuittest.Chain(mostSwitches + 1)
	if _, err := Sequence(context.Background(), c, nil); !errors.Is(err, errTooMany) {
		t.Error(err)
	}
	if _, err := Diagnose(context.Background(), c, nil, Seen{Lamps: []map[string]string{{}}}); !errors.Is(err, errTooMany) {
		t.Error(err)
	}
}

// TestTooManyLamps: one lamp more than can be told apart is refused; it would look like a breaker that tripped.
func TestTooManyLamps(t *testing.T) {
	c := circuittest.Straight()
	box := c.Device("lamp1").Box
	for i := range mostLamps {
		c.Devices = append(c.Devices, circuit.Device{ID: fmt.Sprint("more", i), Box: box, Type: circuit.TypeLamp})
	}
	if _, err := Sequence(context.Background(), c, nil); !errors.Is(err, errTooMany) {
		t.Errorf("%d lamps: %v", mostLamps+1, err)
	}
}

// some are random plans: houses of two to five controls with one of their options each.
func some(t testing.TB, n int, each func(name string, c *circuit.Circuit, o *retrofit.Option)) {
	t.Helper()
	rng := rand.New(rand.NewPCG(101, 102))
	for i := 0; n > 0; i++ {
		c := circuittest.Walls(rng, 2+i%4)
		var fits []retrofit.Option
		for _, o := range retrofit.Plan(c).Options {
			if o.Feasible && o.Metrics.NewCables == 0 {
				fits = append(fits, o)
			}
		}
		for range min(len(fits), 6) {
			if n--; n < 0 {
				return
			}
			o := fits[rng.IntN(len(fits))]
			each(fmt.Sprintf("house %d, %s", i, o.ID), c, &o)
		}
	}
}

// TestRandomPlans: what is counted adds up; the presses reveal what they are said to, each of them
// is needed, and no reading is given that would not show its mistake. It prints what it took.
func TestRandomPlans(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	plans := 300
	mistakes, revealed, same, metered, unmetered, presses, naive, readings := 0, 0, 0, 0, 0, 0, 0, 0
	slowest := time.Duration(0)
	some(t, plans, func(name string, c *circuit.Circuit, o *retrofit.Option) {
		began := time.Now()
		p, err := Sequence(context.Background(), c, o)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		slowest = max(slowest, time.Since(began))
		n := p.Mistakes
		if n.All != n.Revealed+n.SameAsRight+n.Meter {
			t.Errorf("%s: %+v", name, n)
		}
		mistakes, revealed, same, metered, presses = mistakes+n.All, revealed+n.Revealed, same+n.SameAsRight, metered+n.Meter, presses+len(p.Presses)
		readings += len(p.Tests())
		controls := electric.New(o.After).Controls()
		naive += len(controls) << (len(controls) - 1)
		w := of(c, o)
		single, err := w.mistakes()
		if err != nil {
			t.Fatal(err)
		}
		s, err := newSearch(context.Background(), w, single)
		if err != nil {
			t.Fatal(err)
		}
		all := s.alive()
		index := func(ids []string) (out []int) {
			for _, id := range ids {
				out = append(out, slices.Index(s.controls, id))
			}
			return out
		}
		if left := s.play(all, index(p.Presses)); len(left) > 0 {
			t.Errorf("%s: %d trials that presses can reveal are not", name, len(left))
		}
		for i := range p.Presses {
			if left := s.play(all, index(slices.Delete(slices.Clone(p.Presses), i, i+1))); len(left) == 0 {
				t.Errorf("%s: press %d of %v is not needed", name, i+1, p.Presses)
			}
		}
		shown := s.revealedBy(index(p.Presses))
		for i, m := range single {
			if !shown[i] && !w.sameAsRight(m, s.wrong[i]) && !slices.ContainsFunc(p.Meter, func(x Metered) bool { return x.Mistake.Kind == m.Kind && slices.Equal(x.Mistake.Ends, m.Ends) }) {
				unmetered++
				t.Errorf("%s: neither a press nor a reading shows it: %s", name, w.text(m))
			}
		}
		for _, x := range p.Meter {
			wrongly := newSample(electric.New(w.make(x.Mistake)))
			if x.Test.Power == "on" {
				right, ok := w.read.volts(x.Test.At[0], x.Test.At[1])
				wrong, also := wrongly.volts(x.Test.At[0], x.Test.At[1])
				if strings.Contains(x.Text, "with the light off") {
					wrong, also = wrongly.voltsOff(x.Test.At[0], x.Test.At[1])
				}
				if !ok || !also || x.Right != right || wrong == right {
					t.Errorf("%s: %s shows %g and %g V", name, x.Text, right, wrong)
				}
				continue
			}
			rest := strings.Contains(x.Text, "Before anything is pressed.")
			wrong := wrongly.surely(x.Test.Lifted, rest)
			right := w.read.surely(x.Test.Lifted, rest)
			if a, b := right(x.Test.At[0], x.Test.At[1]), wrong(x.Test.At[0], x.Test.At[1]); a != x.Right || a == b {
				t.Errorf("%s: %s shows %q and %q", name, x.Text, a, b)
			}
		}
	})
	t.Logf("%d plans: %d mistakes, %d revealed by presses, %d the same as right, %d for the meter (%d without a sure reading) by %.1f readings; %.1f presses in the mean, %.1f to try every control in every state; slowest %v",
		plans, mistakes, revealed, same, metered, unmetered, float64(readings)/float64(plans), float64(presses)/float64(plans), float64(naive)/float64(plans), slowest.Round(time.Millisecond))
}
