package rehearsal

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
)

// reading is a second, slow reading of the contract that shares nothing with the package: up to three devices of which the
// first carries the lamp, with paddles or plain pushes, each telling all, its own changes or nothing, one perhaps without
// power while the lamp is dark, and one way perhaps down.
type reading struct {
	c      *circuit.Circuit
	ids    []string
	fed    string // has power only while the lamp is lit
	down   string
	broken bool // messages breed without end, or too many to be gone through
}

type told struct{ to, action string }

type then struct {
	on   [3]bool
	ways map[string][]told
}

func (r *reading) index(id string) int { return slices.Index(r.ids, id) }

func (t then) clone() then {
	out := then{t.on, map[string][]told{}}
	for via, list := range t.ways {
		if len(list) > 0 {
			out.ways[via] = slices.Clone(list)
		}
	}
	return out
}

func (t then) name() string { return fmt.Sprint(t.on, t.ways) }

func (t then) quiet() bool {
	for _, list := range t.ways {
		if len(list) > 0 {
			return false
		}
	}
	return true
}

func (r *reading) awake(t then, id string) bool { return id != r.fed || t.on[0] }

func (r *reading) send(t *then, via string, x told) {
	if via != r.down {
		t.ways[via] = append(t.ways[via], x)
	}
}

// set is letter 2.
func (r *reading) set(t *then, id string, to, byMessage bool) {
	i := r.index(id)
	if t.on[i] == to {
		return
	}
	t.on[i] = to
	switch r.c.Models[r.c.Device(id).Model].Reports {
	case "all":
	case "own":
		if byMessage {
			return
		}
	default:
		return
	}
	word := "off"
	if to {
		word = "on"
	}
	for _, rule := range r.c.Automation.Rules {
		if rule.When.Device == id && rule.When.Event == word {
			r.send(t, rule.Via, told{rule.Then.Device, rule.Then.Action})
		}
	}
	for _, m := range r.c.Automation.Mirrors {
		if m.From == id {
			r.send(t, m.Via, told{m.To, word})
		}
		if m.Both && m.To == id {
			r.send(t, m.Via, told{m.From, word})
		}
	}
}

// press is letter 1.
func (r *reading) press(from then, id, gesture string) then {
	t := from.clone()
	if !r.awake(t, id) {
		return t
	}
	if d := r.c.Device(id); d.Local == nil || *d.Local {
		switch gesture {
		case "up1":
			r.set(&t, id, true, false)
		case "down1":
			r.set(&t, id, false, false)
		case "press1":
			r.set(&t, id, !t.on[r.index(id)], false)
		}
	}
	for _, rule := range r.c.Automation.Rules {
		if rule.When.Device == id && rule.When.Event == gesture {
			r.send(&t, rule.Via, told{rule.Then.Device, rule.Then.Action})
		}
	}
	return t
}

// after lists what the deliveries of a moment lead to: letter 3.
func (r *reading) after(t then) []then {
	var out []then
	for via, list := range t.ways {
		if len(list) == 0 {
			continue
		}
		next := t.clone()
		next.ways[via] = next.ways[via][1:]
		if x := list[0]; r.awake(next, x.to) {
			r.set(&next, x.to, x.action == "on" || x.action == "toggle" && !next.on[r.index(x.to)], true)
		}
		out = append(out, next)
	}
	return out
}

// ends lists the quiet moments that follow one, and those on the way that are not quiet; forever is true where one comes
// again on the way from itself, or the queues grow and grow.
func (r *reading) ends(from then) (quiet, way []then, forever bool) {
	const open, closed = 1, 2
	met := map[string]int{}
	var walk func(t then, deep int)
	walk = func(t then, deep int) {
		name := t.name()
		switch {
		case forever || met[name] == closed:
			return
		case met[name] == open || deep > 70:
			forever = true
			return
		case len(met) > 3000:
			r.broken = true
			return
		}
		met[name] = open
		if t.quiet() {
			quiet = append(quiet, t)
		} else {
			way = append(way, t)
		}
		for _, next := range r.after(t) {
			walk(next, deep+1)
		}
		met[name] = closed
	}
	walk(from, 0)
	return quiet, way, forever
}

func (r *reading) gestures(id string) []string {
	if r.c.Models[r.c.Device(id).Model].HasPaddle() {
		return []string{"up1", "down1", "up2"}
	}
	return []string{"press1"}
}

// shortest gives for each property the number of gestures of a shortest way to where it does not hold, 0 where it holds; -1
// for in-step at the start. works says from which devices the light obeys, from all these states on.
func (r *reading) shortest(start []then, hasty bool) (found map[string]int, works map[string]bool, states []then) {
	found, works = map[string]int{}, map[string]bool{}
	for _, id := range r.ids {
		works[id] = true
	}
	note := func(code string, n int) {
		if found[code] == 0 || n < found[code] {
			found[code] = n
		}
	}
	at := map[string]int{}
	byCost := [][]then{start}
	for cost := 0; cost < len(byCost) && !r.broken; cost++ {
		for _, t := range byCost[cost] {
			if _, known := at[t.name()]; known {
				continue
			}
			at[t.name()] = cost
			states = append(states, t)
			for i, id := range r.ids {
				reports := r.c.Models[r.c.Device(id).Model].Reports
				if (reports == "all" || reports == "own") && t.on[i] != t.on[0] {
					note(InStep, max(cost, 1))
				}
			}
			come := func(list []then, n int) {
				for len(byCost) <= n {
					byCost = append(byCost, nil)
				}
				byCost[n] = append(byCost[n], list...)
			}
			for _, id := range r.ids {
				if !r.awake(t, id) { // a press there does nothing
					for _, g := range r.gestures(id) {
						if g == "up1" && !t.on[0] || g == "down1" && t.on[0] || g == "press1" {
							note(Obeys, cost+1)
						}
					}
					continue
				}
				for _, g := range r.gestures(id) {
					quiet, way, forever := r.ends(r.press(t, id, g))
					if forever {
						note(Converges, cost+1)
						works[id] = works[id] && g == "up2"
						continue
					}
					come(quiet, cost+1)
					for _, q := range quiet {
						if g == "up1" && !q.on[0] || g == "down1" && q.on[0] || g == "press1" && q.on[0] == t.on[0] {
							note(Obeys, cost+1)
							works[id] = false
						}
					}
					for _, m := range way {
						if !hasty {
							break
						}
						for _, second := range r.ids {
							if !r.awake(m, second) {
								continue
							}
							for _, h := range r.gestures(second) {
								more, _, endless := r.ends(r.press(m, second, h))
								if endless {
									note(ConvergesHasty, cost+2)
									continue
								}
								come(more, cost+2)
							}
						}
					}
				}
			}
			if hasty && found[ConvergesHasty] > 0 && cost+1 >= found[ConvergesHasty] {
				return found, works, states
			}
		}
	}
	return found, works, states
}

// TestSecondReading holds random sets of two and three devices against the slow reading: which properties hold, how long the
// shortest way to where one does not is, and what works while a way is down.
func TestSecondReading(t *testing.T) {
	rng := rand.New(rand.NewPCG(17, 27))
	count := map[string]int{}
	played := 0
	for i := 0; played < 800 && i < 6000; i++ {
		n := 2 + rng.IntN(2)
		c := passage(n-1, rng.IntN(3) > 0, "all")
		r := &reading{c: c}
		tidy := rng.IntN(3) == 0 // as somebody would make it who knows
		yes := true
		for k := range n {
			id := fmt.Sprintf("m%d", k+1)
			r.ids = append(r.ids, id)
			model := c.Models["main"]
			model.Reports = []string{"all", "all", "own", "none"}[rng.IntN(4)]
			if tidy && k > 0 { // a second without a state of its own
				no := false
				model.Reports, c.Device(id).Local = "none", &no
			}
			if model.Paddle = &yes; rng.IntN(4) == 0 && !tidy {
				model.Paddle, model.Events = nil, nil
			}
			c.Models["main-"+id] = model
			c.Device(id).Model = "main-" + id
		}
		if rng.IntN(4) == 0 { // the last has power only behind the first
			r.fed = r.ids[n-1]
			line := circuit.Ref{Owner: r.fed, Part: "line"}
			c.Joins[0].Of = slices.DeleteFunc(c.Joins[0].Of, func(x circuit.Ref) bool { return x == line })
			c.Joins[2].Of = append(c.Joins[2].Of, line)
		}
		delete(c.Models, "main")
		vias := []string{"hub", "cloud"}[:1+rng.IntN(2)]
		for k := 1; tidy && k < n; k++ {
			for _, does := range [][2]string{{"up1", "on"}, {"down1", "off"}} {
				c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: r.ids[k] + does[0], When: circuit.When{Device: r.ids[k], Event: does[0]}, Then: circuit.Then{Device: "m1", Action: does[1]}, Via: vias[rng.IntN(len(vias))]})
			}
		}
		more := rng.IntN(5)
		if tidy {
			more = rng.IntN(2)
		}
		for k := range more {
			from := r.ids[rng.IntN(n)]
			events := append(r.gestures(from), "on", "off")
			c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: fmt.Sprintf("r%d", k), When: circuit.When{Device: from, Event: events[rng.IntN(len(events))]},
				Then: circuit.Then{Device: r.ids[rng.IntN(n)], Action: []string{"on", "off", "toggle"}[rng.IntN(3)]}, Via: vias[rng.IntN(len(vias))]})
		}
		for range rng.IntN(4) {
			if tidy && rng.IntN(3) > 0 {
				continue
			}
			from, to := rng.IntN(n), rng.IntN(n)
			if from != to {
				c.Automation.Mirrors = append(c.Automation.Mirrors, circuit.Mirror{From: r.ids[from], To: r.ids[to], Both: rng.IntN(2) == 0, Via: vias[rng.IntN(len(vias))]})
			}
		}
		if err := c.Validate(); err != nil {
			t.Fatal(err)
		}
		start := []then{{ways: map[string][]told{}}}
		patient, _, states := r.shortest(start, false)
		if r.broken || patient[Converges] > 0 && rng.IntN(3) == 0 { // most of what chases itself is dull
			continue
		}
		hasty := patient
		if patient[Converges] == 0 {
			hasty, _, _ = r.shortest(start, true)
		}
		if r.broken {
			continue
		}
		played++
		got := rehearse(t, c)
		name := fmt.Sprintf("set %d (%d devices, fed %q): %+v", i, n, r.fed, c.Automation)
		want := map[string]int{Converges: patient[Converges], InStep: patient[InStep], Obeys: patient[Obeys], ConvergesHasty: hasty[ConvergesHasty]}
		for code, least := range want {
			p := got.of(code)
			if patient[Converges] > 0 && code != Converges {
				continue // what is quiet at last is then a question of how long one looks
			}
			if p.Holds != (least == 0) || !p.Holds && len(p.Witness) != least && !(code == InStep && len(p.Witness) == 0) {
				t.Fatalf("%s: %s holds %v with the witness %v; slowly %d", name, code, p.Holds, p.Witness, least)
			}
			count[fmt.Sprint(code, " ", least == 0)]++
		}
		if patient[Converges] > 0 {
			continue
		}
		for _, out := range got.Outages {
			cut := &reading{c: c, ids: r.ids, fed: r.fed, down: out.Down}
			_, works, _ := cut.shortest(states, false)
			for id, is := range out.Works {
				if !slices.ContainsFunc(states, func(s then) bool { return r.awake(s, id) }) {
					works[id] = false // nobody ever gets it to do anything
				}
				if is != works[id] {
					t.Fatalf("%s: with %s down %s works: %v; slowly %v", name, out.Down, id, is, works[id])
				}
				count[fmt.Sprint("works ", is)]++
			}
		}
	}
	t.Log(played, count)
	for _, code := range []string{Converges, InStep, Obeys, ConvergesHasty} {
		for _, holds := range []bool{true, false} {
			if count[fmt.Sprint(code, " ", holds)] < 10 {
				t.Errorf("%s %v was met %d times of %d", code, holds, count[fmt.Sprint(code, " ", holds)], played)
			}
		}
	}
}

// TestRenamed: a set says the same of the same circuit whatever its devices are called and in whatever order they, its rules
// and its mirrors stand, but for the order of what is sent at once over one way.
func TestRenamed(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 9))
	for _, local := range []bool{true, false} {
		c := passage(3, local, circuit.ReportsAll)
		if !local {
			for _, id := range []string{"m2", "m3", "m4"} {
				c.Device(id).Model = "second"
			}
			second := c.Models["main"]
			second.Switches, second.Button, second.Remote, second.Reports = nil, nil, "", ""
			c.Models["second"] = second
			scenes(c, 3)
		} else {
			c.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Via: "hub"}}
		}
		want := rehearse(t, c)
		for range 6 {
			other := c.Clone()
			names := map[string]string{}
			for i, k := range rng.Perm(4) {
				names[fmt.Sprintf("m%d", i+1)] = fmt.Sprintf("x%d", k)
			}
			called := func(id *string) {
				if to := names[*id]; to != "" {
					*id = to
				}
			}
			for i := range other.Devices {
				called(&other.Devices[i].ID)
			}
			for i := range other.Joins {
				for k := range other.Joins[i].Of {
					called(&other.Joins[i].Of[k].Owner)
				}
			}
			for i := range other.Automation.Rules {
				called(&other.Automation.Rules[i].When.Device)
				called(&other.Automation.Rules[i].Then.Device)
			}
			for i := range other.Automation.Mirrors {
				called(&other.Automation.Mirrors[i].From)
				called(&other.Automation.Mirrors[i].To)
			}
			rng.Shuffle(len(other.Devices), func(a, b int) { other.Devices[a], other.Devices[b] = other.Devices[b], other.Devices[a] })
			rng.Shuffle(len(other.Automation.Rules), func(a, b int) {
				other.Automation.Rules[a], other.Automation.Rules[b] = other.Automation.Rules[b], other.Automation.Rules[a]
			})
			got := rehearse(t, other)
			if got.Verdict != want.Verdict || got.States != want.States {
				t.Errorf("renamed it is %s in %d states, not %s in %d", got.Verdict, got.States, want.Verdict, want.States)
			}
			for _, p := range want.Properties {
				if q := got.of(p.Code); q.Holds != p.Holds || len(q.Witness) != len(p.Witness) {
					t.Errorf("renamed, %s holds %v with %d gestures, not %v with %d", p.Code, q.Holds, len(q.Witness), p.Holds, len(p.Witness))
				}
			}
		}
		if (want.Verdict == Sound) == local {
			t.Errorf("local %v: %s", local, want.Verdict)
		}
	}
}
