package rehearsal

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

func within(t *testing.T, c *circuit.Circuit, d Delays) *Timed {
	t.Helper()
	if place, text := d.Check(); place != "" {
		t.Fatal(place, text)
	}
	r, err := Within(context.Background(), c, d)
	if err != nil || r.CutOff {
		t.Fatalf("cut off %v, %v", r != nil && r.CutOff, err)
	}
	return r
}

func (r *Timed) flaws() (out []string) {
	for _, p := range r.Properties {
		if !p.Holds {
			out = append(out, p.Code)
		}
	}
	return out
}

// TestWithin: two that mirror each other chase their tails only where a hand is quicker than what is under way; an off that
// overtakes an on does harm only where it can come second.
func TestWithin(t *testing.T) {
	mirrored := passage(1, true, circuit.ReportsAll)
	mirrored.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: true, Via: "hub"}}
	raced := passage(1, false, circuit.ReportsNone)
	for _, x := range [][2]string{{"hub", "on"}, {"cloud", "off"}} {
		raced.Automation.Rules = append(raced.Automation.Rules, circuit.Rule{ID: x[0], When: circuit.When{Device: "m2", Event: "up1"}, Then: circuit.Then{Device: "m1", Action: x[1]}, Via: x[0]})
	}
	raced.Automation.Rules = append(raced.Automation.Rules, circuit.Rule{ID: "down", When: circuit.When{Device: "m2", Event: "down1"}, Then: circuit.Then{Device: "m1", Action: "off"}, Via: "hub"})
	hub := func(from, to float64) map[string]Span { return map[string]Span{"hub": {from, to}} }
	both := func(cloudFrom, cloudTo float64) map[string]Span {
		return map[string]Span{"hub": {0.1, 0.3}, "cloud": {cloudFrom, cloudTo}}
	}
	for _, x := range []struct {
		name string
		doc  *circuit.Circuit
		how  Delays
		want []string
	}{
		{"in haste", mirrored, Delays{hub(0.1, 0.3), 0}, []string{ConvergesHasty}},
		{"half a second between", mirrored, Delays{hub(0.1, 0.3), 0.25}, []string{ConvergesHasty}},
		{"longer than anything is under way", mirrored, Delays{hub(0.1, 0.3), 0.61}, nil},
		{"the same over a slow hub", mirrored, Delays{hub(0.1, 2), 0.61}, []string{ConvergesHasty}},
		{"off cannot come second", raced, Delays{both(0, 0.09), 0}, nil},
		{"off can come second", raced, Delays{both(0, 0.2), 0}, []string{Obeys}},
		{"off always comes second", raced, Delays{both(1, 3), 0}, []string{Obeys}},
		{"nobody knows how long the cloud takes", raced, Delays{hub(0.1, 0.3), 0}, []string{Obeys}},
	} {
		if r := within(t, x.doc, x.how); !slices.Equal(r.flaws(), x.want) || (r.Verdict == Sound) != (len(x.want) == 0) {
			t.Errorf("%s: %v, want %v", x.name, r.flaws(), x.want)
		}
	}
	r := within(t, mirrored, Delays{hub(0.1, 0.3), 0})
	if len(r.Waits) != 2 || r.Waits[0] != (Wait{"m1", Span{}}) || r.Waits[1] != (Wait{"m2", Span{0.1, 0.3}}) || r.Quiet == nil || *r.Quiet != 0.6 {
		t.Errorf("waits: %+v, quiet after %v", r.Waits, r.Quiet)
	}
	for _, d := range []Delays{{Pause: -1}, {Pause: 61}, {Ways: hub(-1, 1)}, {Ways: hub(2, 1)}, {Ways: hub(0, 61)}} {
		if place, _ := d.Check(); place == "" {
			t.Errorf("%+v is let through", d)
		}
	}
}

// TestAnyDelay: where a message may take any time and a hand none, the same holds as in every order, with as short a way to
// what does not.
func TestAnyDelay(t *testing.T) {
	rng := rand.New(rand.NewPCG(8, 1))
	for i := range 150 {
		c := randomSet(rng)
		all, timed := rehearse(t, c), within(t, c, Delays{})
		for k, p := range timed.Properties {
			if q := all.Properties[k]; p.Code != q.Code || p.Holds != q.Holds || len(p.Witness) != len(q.Witness) {
				t.Fatalf("set %d: with any delay %+v, in every order %+v", i, p, q)
			}
		}
	}
}

// ticking is a slow second reading of delays: time goes by the millisecond, and every message has its age.
type ticking struct {
	*play
	d *delays
}

// aged is a moment with ages by queue, and the time since the last gesture.
type aged struct {
	m    moment
	ages [][]int32
	hand int32
}

func (k aged) name() string { return fmt.Sprint(k.m.key(), k.ages, k.hand) }

// grown is the aged with ages for what a gesture or a delivery sent.
func (k aged) grown(m moment) aged {
	out := aged{m: m, hand: k.hand}
	for q, ages := range k.ages {
		out.ages = append(out.ages, append(slices.Clone(ages), make([]int32, len(m.queues[q])-len(ages))...))
	}
	return out
}

// next lists what may happen next: a message arrives, or a millisecond passes.
func (s *ticking) next(k aged) (out []aged) {
	late := false
	for q, ages := range k.ages {
		if len(ages) == 0 {
			continue
		}
		late = late || ages[0] >= s.d.slowest[q]
		if ages[0] >= s.d.quickest[q] {
			rest := aged{hand: k.hand, ages: slices.Clone(k.ages)}
			rest.ages[q] = ages[1:]
			out = append(out, rest.grown(s.deliver(k.m, q)))
		}
	}
	if !late && !k.m.quiet() {
		older := aged{m: k.m, hand: min(k.hand+1, s.d.pause)}
		for _, ages := range k.ages {
			more := slices.Clone(ages)
			for i := range more {
				more[i]++
			}
			older.ages = append(older.ages, more)
		}
		out = append(out, older)
	}
	return out
}

// ends goes through all that may come of a aged: the quiet states, what is under way on the way there, and whether it may go on
// without end.
func (s *ticking) ends(from aged) (quiet []electric.State, way []aged, forever bool) {
	const under, done = 1, 2
	met := map[string]int{}
	var follow func(k aged)
	follow = func(k aged) {
		switch met[k.name()] {
		case under:
			forever = true
			return
		case done:
			return
		}
		met[k.name()] = under
		if k.m.quiet() {
			quiet = append(quiet, k.m.state)
		} else if k.m.waiting() > 9 {
			forever = true
		} else {
			way = append(way, k)
			for _, n := range s.next(k) {
				follow(n)
			}
		}
		met[k.name()] = done
	}
	follow(from)
	return quiet, way, forever
}

// holds answers the four questions slowly; of sets in which messages breed without end for patient people the first alone.
func (s *ticking) holds() (settles, hasty, obeys, inStep bool) {
	x := &explorer{play: s.play}
	settles, hasty, obeys, inStep = true, true, true, true
	for _, haste := range []bool{false, true} {
		known, todo := map[electric.State]bool{}, x.start()
		for len(todo) > 0 {
			at := todo[0]
			todo = todo[1:]
			if known[at] {
				continue
			}
			known[at] = true
			inStep = inStep && (haste || x.astray(at) == "")
			for _, device := range s.devices {
				for _, g := range s.gestures(device) {
					begun := aged{ages: make([][]int32, len(s.vias))}.grown(s.gesture(s.at(at), Gesture{device, g}))
					quiet, way, forever := s.ends(begun)
					settles = settles && !forever
					todo = append(todo, quiet...)
					for _, q := range quiet {
						obeys = obeys && (haste || !slices.Contains(requests, g) || x.obeyed(at, Gesture{device, g}, q))
					}
					for _, k := range way {
						if !haste || forever || k.hand < s.d.pause {
							continue
						}
						for _, other := range s.devices {
							for _, h := range s.gestures(other) {
								again := k.grown(s.gesture(k.m, Gesture{other, h}))
								again.hand = 0
								quiet, _, forever := s.ends(again)
								hasty = hasty && !forever
								todo = append(todo, quiet...)
							}
						}
					}
				}
			}
		}
	}
	return settles, hasty && settles, obeys, inStep
}

// hurried is a passage of two whose rules are such as people make, told over one way or the other, some twice: where it goes
// wrong it is mostly for what overtakes what.
func hurried(rng *rand.Rand) *circuit.Circuit {
	c := passage(1, rng.IntN(3) > 0, []string{circuit.ReportsAll, circuit.ReportsOwn, circuit.ReportsNone}[rng.IntN(3)])
	via := func() string { return []string{"hub", "cloud"}[rng.IntN(2)] }
	for n, x := range [][3]string{{"m2", "up1", "on"}, {"m2", "down1", "off"}, {"m1", "up1", "on"}, {"m1", "down1", "off"}, {"m2", "up1", "off"}, {"m2", "up1", "on"}} {
		if n < 2 || rng.IntN(3) == 0 {
			to := map[string]string{"m1": "m2", "m2": "m1"}[x[0]]
			c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: fmt.Sprintf("r%d", n), When: circuit.When{Device: x[0], Event: x[1]}, Then: circuit.Then{Device: to, Action: x[2]}, Via: via()})
		}
	}
	if rng.IntN(2) == 0 {
		c.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: rng.IntN(2) == 0, Via: via()}}
	}
	return c
}

// TestWithinSlowly holds random sets with random delays of a few milliseconds against the second reading.
func TestWithinSlowly(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 9))
	count, narrower := map[string]int{}, 0
	for i := range 120 {
		c := hurried(rng)
		if i%4 == 0 {
			c = randomSet(rng)
		}
		p := newPlay(c)
		how, d := Delays{Ways: map[string]Span{}}, &delays{pause: []int32{0, 2, 4, 9}[rng.IntN(4)]}
		how.Pause = float64(d.pause) / 1000
		for _, via := range p.vias {
			from := 3 * rng.IntN(2)
			to := from + rng.IntN(3)
			how.Ways[via] = Span{float64(from) / 1000, float64(to) / 1000}
			d.quickest, d.slowest = append(d.quickest, int32(from)), append(d.slowest, int32(to))
		}
		settles, hasty, obeys, inStep := (&ticking{p, d}).holds()
		got := within(t, c, how).Properties
		if got[0].Holds != settles || settles && (got[1].Holds != hasty || got[2].Holds != obeys || got[3].Holds != inStep) {
			t.Fatalf("set %d, %+v: %+v; slowly settles %t, in haste %t, obeys %t, in step %t: %+v", i, how, got, settles, hasty, obeys, inStep, c.Automation)
		}
		count[fmt.Sprint(settles, hasty, obeys, inStep)]++
		for k, q := range rehearse(t, c).Properties {
			if q.Holds && !got[k].Holds {
				t.Fatalf("set %d: what holds in every order does not with %+v: %+v", i, how, got[k])
			}
			if !q.Holds && got[k].Holds {
				narrower++
			}
		}
	}
	if t.Log(count, narrower); narrower < 5 {
		t.Errorf("delays made a difference %d times: the sets are too tame", narrower)
	}
}
