package prove

import (
	"context"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/retrofit"
)

// watch presses a circuit from one starting position and notes what the lamps show.
func watch(x *machine, from int, presses []string) Seen {
	s := x.starts()[from]
	out := Seen{Presses: presses}
	note := func() {
		lamps := map[string]string{}
		for i, id := range x.net.LampIDs() {
			switch shown := x.shows(s); {
			case shown == trip:
				lamps[id] = "trip"
			case shown>>i&1 == 1:
				lamps[id] = "lit"
			default:
				lamps[id] = "dark"
			}
		}
		out.Lamps = append(out.Lamps, lamps)
	}
	note()
	for _, id := range presses {
		s = x.press(s, id)
		note()
	}
	return out
}

// TestDiagnose: in random plans, one random mistake that matters is always among the answers, and
// once what is asked next was looked at it is first or second in four of five. It prints how often.
func TestDiagnose(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	rng := rand.New(rand.NewPCG(111, 112))
	plans, top, asked, at := 0, 0, 0, 0
	some(t, 300, func(name string, c *circuit.Circuit, o *retrofit.Option) {
		proof, err := Sequence(context.Background(), c, o)
		if err != nil {
			t.Fatal(err)
		}
		w := of(c, o)
		mistakes, err := w.mistakes()
		if err != nil {
			t.Fatal(err)
		}
		var m Mistake
		for {
			if m = mistakes[rng.IntN(len(mistakes))]; !w.sameAsRight(m, w.wrong(m)) {
				break
			}
		}
		plans++
		bench, err := NewBench(context.Background(), c, o)
		if err != nil {
			t.Fatal(err)
		}
		x := newMachine(w.wrong(m))
		wrong := newSample(x.net)
		from := rng.IntN(len(x.starts()))
		presses := slices.Clone(proof.Presses)
		var readings []circuit.Observation
		ends := electric.New(w.doc).Ends()
		same := func(e circuit.End) circuit.End { return e }
		circuits := map[string]string{} // what hangs together, by mistake: some are one and the same
		hangs := func(x Mistake) string {
			key := fmt.Sprint(x)
			if circuits[key] == "" {
				circuits[key] = conductors(w.wrong(x), ends, same)
			}
			return circuits[key]
		}
		rank := func(d *Diagnosis) int {
			k := slices.IndexFunc(d.Mistakes, func(s Suspect) bool { return reflect.DeepEqual(s.Mistake, m) })
			before := map[string]bool{}
			for _, s := range d.Mistakes[:max(k, 0)] {
				if hangs(s.Mistake) != hangs(m) {
					before[hangs(s.Mistake)] = true
				}
			}
			return min(k, len(before))
		}
		for n := 0; ; n++ {
			seen := watch(x, from, presses)
			seen.Readings = readings
			d, err := bench.Diagnose(context.Background(), seen)
			if err != nil {
				t.Fatalf("%s, %v: %v", name, m, err)
			}
			k := rank(d)
			if k < 0 {
				t.Fatalf("%s: %v is not among %d answers after %v, %v", name, m, len(d.Mistakes), presses, readings)
			}
			if n == 20 || d.Next == nil || len(d.Mistakes) <= 2 {
				asked += n
				at += k
				if k < 2 {
					top++
				}
				return
			}
			if d.Next.Test != nil {
				reading := *d.Next.Test
				switch shown := wrong.shows(reading); {
				case shown == "": // nobody can say what it shows
					reading.Reading = circuit.Unclear
				case reading.Power == "on":
					volts, _ := wrong.volts(reading.At[0], reading.At[1])
					reading.Reading = volts
				default:
					reading.Reading = shown
				}
				readings = append(readings, reading)
				continue
			}
			presses = append(presses, d.Next.Press)
		}
	})
	t.Logf("%d plans with one mistake: among the answers always, first or second in %d (%.0f %%), %.2f answers before it in the mean, after %.1f presses and readings more than the proof",
		plans, top, 100*float64(top)/float64(plans), float64(at)/float64(plans), float64(asked)/float64(plans))
	if top*5 < plans*4 {
		t.Errorf("first or second in %d of %d", top, plans)
	}
}

// TestRightAndTwoMistakes: what the right work shows is right; where two mistakes were made and no
// single one explains it, that is said, with boxes to look at.
func TestRightAndTwoMistakes(t *testing.T) {
	c := circuittest.Straight()
	p, err := Sequence(context.Background(), c, nil)
	if err != nil {
		t.Fatal(err)
	}
	d, err := Diagnose(context.Background(), c, nil, watch(newMachine(electric.New(c)), 1, p.Presses))
	if err != nil || !d.Right {
		t.Errorf("right work: %+v, %v", d, err)
	}
	impossible := watch(newMachine(electric.New(c)), 1, append(slices.Clone(p.Presses), "s1", "s2", "s1", "s2"))
	for i := range impossible.Lamps { // lit and dark in turn whatever is pressed, but once
		impossible.Lamps[i]["lamp1"] = []string{"dark", "lit"}[i%2]
	}
	impossible.Lamps[2]["lamp1"] = "lit"
	impossible.Lamps[3]["lamp1"] = "lit"
	d, err = Diagnose(context.Background(), c, nil, impossible)
	if err != nil || d.Right || len(d.Mistakes) > 0 || len(d.Boxes) < 2 || d.Text == "" {
		t.Errorf("nothing single explains it: %+v, %v", d, err)
	}
	for _, wrong := range []Seen{{Presses: []string{"s9"}, Lamps: []map[string]string{{}, {}}}, {Presses: []string{"s1"}, Lamps: []map[string]string{{}}}, {Lamps: []map[string]string{{"lamp1": "bright"}}}, {Lamps: []map[string]string{{"lamp9": "lit"}}}} {
		if _, err := Diagnose(context.Background(), c, nil, wrong); err == nil {
			t.Errorf("%v is taken", fmt.Sprint(wrong))
		}
	}
}

// TestLikeEndsExplain: two travelers exchanged at one of two sensing switches are the same as right by what
// meets what, and yet from where their relays stand at the start the light shows it. Whatever it shows,
// that exchange is among the mistakes that explain it.
func TestLikeEndsExplain(t *testing.T) {
	c := circuittest.Straight()
	shown := 0
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Strategy != retrofit.SensingBoth {
			continue
		}
		bench, err := NewBench(context.Background(), c, &o)
		if err != nil {
			t.Fatal(err)
		}
		w := of(c, &o)
		right := newMachine(newSample(w.read.net).net)
		for _, made := range bench.alike {
			x := newMachine(w.wrong(made.m))
			presses := []string{bench.presses[0], bench.presses[len(bench.presses)-1], bench.presses[0]}
			for from := range x.starts() {
				seen := watch(x, from, presses)
				if reflect.DeepEqual(seen, watch(right, from, presses)) {
					continue
				}
				shown++
				d, err := bench.Diagnose(context.Background(), seen)
				if err != nil {
					t.Fatal(err)
				}
				if !d.Right && !slices.ContainsFunc(d.Mistakes, func(s Suspect) bool { return reflect.DeepEqual(s.Mistake, made.m) }) {
					t.Errorf("%s: %v is denied: %s", o.ID, made.m, d.Text)
				}
			}
		}
	}
	if shown == 0 {
		t.Error("no exchange of like ends showed in the light")
	}
}
