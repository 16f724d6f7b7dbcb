package fitting

import (
	"context"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
)

// TestMistakeFoundAndMended: a mistake is built into a plan on purpose; it is pressed through as the proof says, found among
// those that explain what was seen, and the run that mends it leads to the plan, with every gate on the way.
func TestMistakeFoundAndMended(t *testing.T) {
	rng := rand.New(rand.NewPCG(16, 7))
	made, first := 0, 0
	for i := range 6 {
		c := circuittest.Walls(rng, 2+i%2)
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || k%7 != i%7 {
				continue
			}
			proof, err := prove.Sequence(context.Background(), c, &o)
			if err != nil {
				t.Fatal(err)
			}
			m, ok := anyMistake(c, &o, rng)
			if !ok {
				continue
			}
			wrong, err := prove.Made(c, &o, m)
			if err != nil {
				t.Fatal(err)
			}
			found, err := prove.Diagnose(context.Background(), c, &o, pressed(wrong, proof.Presses))
			if err != nil {
				t.Fatal(err)
			}
			if len(found.Mistakes) == 0 && found.Right {
				continue // the same as right, or for the meter
			}
			at := -1
			for n, x := range found.Mistakes {
				if x.Kind == m.Kind && x.Ends[0] == m.Ends[0] && x.Ends[len(x.Ends)-1] == m.Ends[len(m.Ends)-1] {
					at = n
				}
			}
			if at < 0 && !found.Right {
				t.Fatalf("%s: %s of %v is not among %d that explain it", o.ID, m.Kind, m.Ends, len(found.Mistakes))
			}
			if made++; at == 0 {
				first++
			}
			j := &job{t: t, found: inspect.Compile(c), o: &o}
			j.put(Entry{Kind: Begin, Began: Began{Run: NewMend(inspect.Compile(c), wrong, &o, device.NewLibrary(nil), 1, nil)}})
			for s := Read(j.log); !s.Over; s = Read(j.log) {
				safe(t, s)
				j.must(j.done(s.Now))
			}
			end, err := Read(j.log).Stands()
			if d := circuit.Diff(o.After, end); err != nil || len(d) > 0 {
				t.Fatalf("%s: mended it is not as planned: %v %v", o.ID, d, err)
			}
			back := Read(j.log).NewBack(j.found, &o, device.NewLibrary(nil), 1, nil)
			if len(back.Steps) == 0 {
				t.Fatalf("%s: after it was mended there is no way back", o.ID)
			}
			j.put(Entry{Kind: Begin, Began: Began{Run: back}})
			end, err = j.whole().Stands()
			if d := circuit.Diff(procedure.Bare(c), end); err != nil || len(d) > 0 {
				t.Fatalf("%s: mended and put back it is not as found: %v %v", o.ID, d, err)
			}
		}
	}
	t.Logf("%d mistakes mended, %d of them the likeliest after the proof's presses alone", made, first)
	if made < 8 {
		t.Errorf("%d mistakes are too few", made)
	}
}

// anyMistake exchanges two ends of a box, or lifts one, at random.
func anyMistake(c *circuit.Circuit, o *retrofit.Option, rng *rand.Rand) (prove.Mistake, bool) {
	var ends []circuit.End
	for _, x := range o.Changes {
		if x.End.Box != "" && o.After.JoinOf(x.End.Box, x.End.Ref) >= 0 && !circuit.GroundColour(x.End.Part) {
			ends = append(ends, x.End)
		}
	}
	for range 40 {
		if len(ends) < 2 {
			break
		}
		a, b := ends[rng.IntN(len(ends))], ends[rng.IntN(len(ends))]
		for _, m := range []prove.Mistake{{Kind: prove.Swap, Ends: []circuit.End{a, b}}, {Kind: prove.Loose, Ends: []circuit.End{a}}} {
			if _, err := prove.Made(c, o, m); err == nil {
				return m, true
			}
		}
	}
	return prove.Mistake{}, false
}

// pressed is what a person sees of a circuit who presses so.
func pressed(c *circuit.Circuit, presses []string) prove.Seen {
	n := electric.New(c)
	state, _ := n.StateOf(nil)
	out := prove.Seen{Presses: []string{}, Lamps: []map[string]string{}}
	tripped := false
	look := func() {
		solved := n.Solve(state)
		lamps := map[string]string{}
		for i, id := range n.LampIDs() {
			lamps[id] = map[bool]string{true: "lit", false: "dark"}[solved.Lit(i)]
			if solved.Tripped {
				lamps[id], tripped = "trip", true
			}
		}
		out.Lamps = append(out.Lamps, lamps)
	}
	look()
	for _, press := range presses {
		if tripped {
			break // the breaker is off, and nothing more is seen
		}
		state, _ = n.Press(state, press, nil)
		out.Presses = append(out.Presses, press)
		look()
	}
	return out
}
