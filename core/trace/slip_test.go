package trace

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/practice"
)

// misread is a reading the other way round.
func misread(o circuit.Observation, volts float64) any {
	switch r := o.Reading.(type) {
	case string:
		for _, pair := range [][2]string{{"live", "quiet"}, {"closed", "open"}, {"lit", "dark"}} {
			for i := range pair {
				if r == pair[i] {
					return pair[1-i]
				}
			}
		}
	case float64:
		if r < noneBelow*volts {
			return volts
		}
		return 0.0
	}
	return o.Reading
}

// misreadings counts how tracing ended where one reading was false.
type misreadings struct {
	houses, right, wrong, open, caught int
	unconfirmed                        int // of the wrong ones, those in which no free reading could have shown it
	readings, confirming               int
}

// trace traces a house in which one of the first readings is false, whichever it is.
func (n *misreadings) trace(t testing.TB, k circuittest.Kind, seed uint64, confirm string) {
	ctx := context.Background()
	h, c := surveyOf(t, k, seed)
	c.Confirm = confirm
	tr, err := New(ctx, c)
	if err != nil {
		return
	}
	n.houses++
	falsely := rand.New(rand.NewPCG(seed, 5)).IntN(8)
	for i := range 45 {
		confirms := tr.Resolved()
		test, ok, err := tr.Next(ctx, Dead)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if n.readings++; confirms {
			n.confirming++
		}
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatal(err)
		}
		if i == falsely {
			test.Reading = misread(test, practice.Volts(c))
		}
		tr.Observe(test)
	}
	switch {
	case !tr.possible():
		n.caught++
	case !tr.done(t):
		n.open++
	case tr.holds(trueRoles(h)) || k.Name == "feed exchanged" && tr.tell().polarityWord() == "unknown":
		n.right++
	default:
		n.wrong++
		if !exposed(t, h, tr) {
			n.unconfirmed++
		}
	}
}

// exposed reports, knowing the house, whether some reading without a walk would come as it
// could not if what was traced were so.
func exposed(t testing.TB, h *house.House, tr *Tracer) bool {
	t.Helper()
	c := tr.chooser(Dead, tr.worlds())
	liftings := c.liftings()
	if tr.isOn() {
		liftings = [][]circuit.Ref{c.last.Lifted}
	}
	for _, lifted := range liftings {
		for _, k := range c.tests(tr.isOn(), lifted) {
			test := k.test
			var err error
			if test.Reading, err = h.Answer(test); err != nil {
				t.Fatal(err)
			}
			f := tr.fork()
			if f.Observe(test); !f.possible() {
				return true
			}
		}
	}
	return false
}

func (n *misreadings) add(m misreadings) {
	n.houses, n.right, n.wrong, n.open, n.caught = n.houses+m.houses, n.right+m.right, n.wrong+m.wrong, n.open+m.open, n.caught+m.caught
	n.unconfirmed, n.readings, n.confirming = n.unconfirmed+m.unconfirmed, n.readings+m.readings, n.confirming+m.confirming
}

// TestOneSlip traces houses in which one reading is false. Without a confirming reading many
// would end known and wrong; with those that take no walk hardly any do.
func TestOneSlip(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	all := misreadings{}
	kinds := circuittest.Kinds()
	parts := make([]misreadings, 4)
	t.Run("houses", func(t *testing.T) {
		for part := range parts {
			t.Run(fmt.Sprint(part), func(t *testing.T) {
				t.Parallel()
				for i := part; i < 65; i += len(parts) {
					parts[part].trace(t, kinds[i%len(kinds)], uint64(i), circuit.ConfirmAlways)
				}
			})
		}
	})
	for _, part := range parts {
		all.add(part)
	}
	t.Logf("%d houses with one false reading: %d shown as contradictions, %d right in spite of it, %d still open, %d done and wrong (in %d of them no reading without a walk could show it); %.1f readings, %.1f of them confirming",
		all.houses, all.caught, all.right, all.open, all.wrong, all.unconfirmed, float64(all.readings)/float64(all.houses), float64(all.confirming)/float64(all.houses))
	if shown := all.wrong - all.unconfirmed; shown*20 > all.houses {
		t.Errorf("%d of %d done and wrong where a reading without a walk shows it", shown, all.houses)
	}
	unasked := misreadings{}
	for seed := range uint64(12) {
		unasked.trace(t, kinds[0], seed, circuit.ConfirmNever)
	}
	if unasked.confirming > 0 || unasked.wrong == 0 {
		t.Errorf("never asked to confirm: %+v", unasked)
	}
	t.Logf("%d plain houses without confirming readings: %d done and wrong", unasked.houses, unasked.wrong)
}

// TestSlipsCutOff: where not all that a false reading would leave could be gone through, the
// answer says so among what is assumed, and does not where it could.
func TestSlipsCutOff(t *testing.T) {
	ctx := context.Background()
	for _, cut := range []bool{false, true} {
		h := hiddenHouse(t, 3, 2)
		tr, err := New(ctx, h.Survey())
		if err != nil {
			t.Fatal(err)
		}
		tr.doc.Confirm = circuit.ConfirmAlways
		if cut {
			tr.slipLooks = 0
		}
		for range 40 {
			test, ok, err := tr.Next(ctx, Dead)
			if err != nil {
				t.Fatal(err)
			}
			if !ok {
				break
			}
			if test.Reading, err = h.Answer(test); err != nil {
				t.Fatal(err)
			}
			tr.Observe(test)
		}
		r, err := tr.Result(ctx, Dead)
		if err != nil {
			t.Fatal(err)
		}
		told := slices.ContainsFunc(r.Assumed, func(a Assumption) bool { return strings.HasPrefix(a.Text, "No reading is false.") })
		if !r.Done || told != cut {
			t.Errorf("cut off %t: done %t, told %t", cut, r.Done, told)
		}
	}
}
