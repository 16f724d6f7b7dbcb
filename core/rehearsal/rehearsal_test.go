package rehearsal

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"ambivia/core/circuit"
)

// passage is a lamp that one device carries, with so many others that are only powered and speak;
// their paddles move their own switches unless local is false.
func passage(others int, local bool, reports string) *circuit.Circuit {
	yes := true
	main := circuit.Model{Terminals: []string{"line", "load", "neutral"}, Supply: [][2]string{{"line", "neutral"}}, Switches: []circuit.Relay{{ID: "out", Pole: "line", Throws: []string{"load"}}},
		Button: &circuit.Button{Toggles: "out"}, Remote: "out", Paddle: &yes, Events: []string{"up1", "down1", "up2"}, Reports: reports}
	c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "b", Kind: circuit.Switch}}, Cables: []circuit.Cable{}, Models: map[string]circuit.Model{"main": main}}
	ref := func(owner, part string) circuit.Ref { return circuit.Ref{Owner: owner, Part: part} }
	line, neutral := []circuit.Ref{ref("supply", "hot"), ref("m1", "line")}, []circuit.Ref{ref("supply", "neutral"), ref("m1", "neutral"), ref("lamp", "n")}
	c.Devices = []circuit.Device{{ID: "supply", Box: "b", Type: circuit.TypeSupply}, {ID: "lamp", Box: "b", Type: circuit.TypeLamp}, {ID: "m1", Box: "b", Type: circuit.TypeSmart, Model: "main"}}
	for i := range others {
		id := fmt.Sprintf("m%d", i+2)
		d := circuit.Device{ID: id, Box: "b", Type: circuit.TypeSmart, Model: "main"}
		if !local {
			no := false
			d.Local = &no
		}
		c.Devices = append(c.Devices, d)
		line, neutral = append(line, ref(id, "line")), append(neutral, ref(id, "neutral"))
	}
	c.Joins = []circuit.Join{{Box: "b", Of: line}, {Box: "b", Of: neutral}, {Box: "b", Of: []circuit.Ref{ref("m1", "load"), ref("lamp", "l")}}}
	c.Automation = &circuit.Automation{}
	return c
}

// scenes lets each other place switch the main on by up and off by down.
func scenes(c *circuit.Circuit, others int) {
	for i := range others {
		id := fmt.Sprintf("m%d", i+2)
		for event, action := range map[string]string{"up1": "on", "down1": "off"} {
			c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: id + "-" + action, When: circuit.When{Device: id, Event: event}, Then: circuit.Then{Device: "m1", Action: action}, Via: "hub"})
		}
	}
	slices.SortFunc(c.Automation.Rules, func(a, b circuit.Rule) int { return cmpString(a.ID, b.ID) })
}

func cmpString(a, b string) int {
	if a < b {
		return -1
	}
	if a > b {
		return 1
	}
	return 0
}

func rehearse(t testing.TB, c *circuit.Circuit) *Report {
	t.Helper()
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	r, err := Rehearse(context.Background(), c)
	if err != nil || r.CutOff {
		t.Fatalf("cut off %v, %v", r != nil && r.CutOff, err)
	}
	return r
}

// of is what is asked under a code, beyond what the verdict hangs on too.
func (r *Report) of(code string) Property {
	for _, p := range slices.Concat(r.Properties, r.Beyond) {
		if p.Code == code {
			return p
		}
	}
	return Property{}
}

// TestKnownSets: scene control is sound while the others keep their hands off their own switch; a
// mirror one way gets out of step; a mirror both ways that is told of every change settles when one
// waits, and chases its tail when one does not.
func TestKnownSets(t *testing.T) {
	sound := passage(2, false, circuit.ReportsNone)
	scenes(sound, 2)
	if r := rehearse(t, sound); r.Verdict != Sound || !r.Outages[0].Works["m1"] || r.Outages[0].Works["m2"] || r.Outages[0].Down != "hub" {
		t.Errorf("scene control: %+v", r)
	}
	one := passage(1, true, circuit.ReportsOwn)
	one.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Via: "hub"}}
	r := rehearse(t, one)
	if p := r.of(InStep); r.Verdict != Flawed || p.Holds || len(p.Witness) != 1 || p.Witness[0] != (Gesture{"m1", "up1"}) {
		t.Errorf("mirrored one way: %+v", r)
	}
	if p := r.of(Obeys); p.Holds || len(p.Witness) != 2 {
		t.Errorf("mirrored one way, the second tap does nothing: %+v", p) // up at m1 then down at m2, which is down already
	}
	both := passage(1, true, circuit.ReportsAll)
	both.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: true, Via: "hub"}}
	r = rehearse(t, both)
	if !r.of(Converges).Holds || !r.of(InStep).Holds || !r.of(Obeys).Holds {
		t.Errorf("mirrored both ways, patiently: %+v", r)
	}
	if p := r.of(ConvergesHasty); p.Holds || len(p.Witness) != 2 {
		t.Errorf("mirrored both ways, hastily: %+v", p)
	}
	loop := passage(1, true, circuit.ReportsAll)
	loop.Automation.Rules = []circuit.Rule{
		{ID: "a", When: circuit.When{Device: "m1", Event: "on"}, Then: circuit.Then{Device: "m2", Action: "toggle"}, Via: "hub"},
		{ID: "b", When: circuit.When{Device: "m2", Event: "on"}, Then: circuit.Then{Device: "m1", Action: "toggle"}, Via: "cloud"},
		{ID: "c", When: circuit.When{Device: "m2", Event: "off"}, Then: circuit.Then{Device: "m1", Action: "toggle"}, Via: "cloud"},
		{ID: "d", When: circuit.When{Device: "m1", Event: "off"}, Then: circuit.Then{Device: "m2", Action: "toggle"}, Via: "hub"},
	}
	if p := rehearse(t, loop).of(Converges); p.Holds || len(p.Witness) != 1 {
		t.Errorf("two that toggle each other: %+v", p)
	}
}

// slowly plays the contract's letters by themselves, over all orders of delivery, for two devices
// and one lamp that m1 carries: a second reading that shares nothing with the package. It answers
// whether the patient person's properties hold.
func slowly(c *circuit.Circuit) (settles, obeys, inStep bool) {
	type msg struct{ to, action string }
	type moment struct {
		on   map[string]bool
		ways map[string][]msg
	}
	copyOf := func(m moment) moment {
		n := moment{map[string]bool{}, map[string][]msg{}}
		for k, v := range m.on {
			n.on[k] = v
		}
		for k, v := range m.ways {
			if len(v) > 0 {
				n.ways[k] = slices.Clone(v)
			}
		}
		return n
	}
	key := func(m moment) string { return fmt.Sprint(m.on, m.ways) }
	reports := c.Models["main"].Reports
	change := func(m *moment, id string, to, message bool) {
		if m.on[id] == to {
			return
		}
		if m.on[id] = to; reports == "none" || reports == "own" && message {
			return
		}
		word := map[bool]string{true: "on", false: "off"}[to]
		for _, r := range c.Automation.Rules {
			if r.When.Device == id && r.When.Event == word {
				m.ways[r.Via] = append(m.ways[r.Via], msg{r.Then.Device, r.Then.Action})
			}
		}
		for _, x := range c.Automation.Mirrors {
			if x.From == id {
				m.ways[x.Via] = append(m.ways[x.Via], msg{x.To, word})
			}
			if x.Both && x.To == id {
				m.ways[x.Via] = append(m.ways[x.Via], msg{x.From, word})
			}
		}
	}
	press := func(from moment, id, g string) moment {
		m := copyOf(from)
		if d := c.Device(id); d.Local == nil || *d.Local {
			switch g {
			case "up1":
				change(&m, id, true, false)
			case "down1":
				change(&m, id, false, false)
			}
		}
		for _, r := range c.Automation.Rules {
			if r.When.Device == id && r.When.Event == g {
				m.ways[r.Via] = append(m.ways[r.Via], msg{r.Then.Device, r.Then.Action})
			}
		}
		return m
	}
	settles, obeys, inStep = true, true, true
	seen := map[string]bool{}
	todo := []moment{{map[string]bool{"m1": false, "m2": false}, map[string][]msg{}}}
	for len(todo) > 0 && settles {
		at := todo[0]
		todo = todo[1:]
		if seen[key(at)] {
			continue
		}
		seen[key(at)] = true
		if reports != "none" && at.on["m2"] != at.on["m1"] {
			inStep = false
		}
		for _, id := range []string{"m1", "m2"} {
			for _, g := range []string{"up1", "down1", "up2"} {
				var walk func(m moment, trail []string)
				done := map[string]bool{}
				walk = func(m moment, trail []string) {
					k := key(m)
					if slices.Contains(trail, k) || len(trail) > 60 {
						settles = false
					}
					if !settles || done[k] {
						return
					}
					defer func() { done[k] = true }()
					empty := true
					for via, list := range m.ways {
						if len(list) == 0 {
							continue
						}
						empty = false
						n := copyOf(m)
						x := list[0]
						n.ways[via] = n.ways[via][1:]
						to := x.action == "on" || x.action == "toggle" && !n.on[x.to]
						change(&n, x.to, to, true)
						walk(n, append(slices.Clone(trail), k))
					}
					if !empty {
						return
					}
					if g == "up1" && !m.on["m1"] || g == "down1" && m.on["m1"] {
						obeys = false
					}
					todo = append(todo, copyOf(m))
				}
				walk(press(at, id, g), nil)
			}
		}
	}
	return settles, obeys, inStep
}

// randomSet is a passage of two with up to five rules and a mirror over two ways.
func randomSet(rng *rand.Rand) *circuit.Circuit {
	c := passage(1, rng.IntN(2) == 0, []string{"all", "own", "none"}[rng.IntN(3)])
	ids, vias := []string{"m1", "m2"}, []string{"hub", "cloud"}
	for n := range rng.IntN(5) {
		c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: fmt.Sprintf("r%d", n), When: circuit.When{Device: ids[rng.IntN(2)], Event: []string{"up1", "down1", "up2", "on", "off"}[rng.IntN(5)]},
			Then: circuit.Then{Device: ids[rng.IntN(2)], Action: []string{"on", "off", "toggle"}[rng.IntN(3)]}, Via: vias[rng.IntN(2)]})
	}
	if rng.IntN(2) == 0 {
		k := rng.IntN(2)
		c.Automation.Mirrors = []circuit.Mirror{{From: ids[k], To: ids[1-k], Both: rng.IntN(2) == 0, Via: vias[rng.IntN(2)]}}
	}
	return c
}

// TestRandomSets holds random sets of rules and mirrors against the second reading.
func TestRandomSets(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 6))
	count := map[string]int{}
	for i := range 400 {
		c := randomSet(rng)
		r := rehearse(t, c)
		settles, obeys, inStep := slowly(c)
		if r.of(Converges).Holds != settles || settles && (r.of(InStep).Holds != inStep || r.of(Obeys).Holds != obeys) {
			t.Fatalf("set %d: %+v; slowly settles %t, obeys %t, in step %t: %+v", i, r.Properties, settles, obeys, inStep, c.Automation)
		}
		count[fmt.Sprint(settles, obeys, inStep)]++
		again := rehearse(t, c)
		if !reflect.DeepEqual(again, r) {
			t.Fatalf("set %d is told otherwise the second time", i)
		}
	}
	t.Log(count)
}

// TestRehearsalStops: it ends with its context.
func TestRehearsalStops(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	stop()
	if _, err := Rehearse(ctx, passage(3, true, "all")); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
}

func BenchmarkRehearse(b *testing.B) {
	ten := passage(9, false, circuit.ReportsNone)
	scenes(ten, 9)
	three := passage(2, true, circuit.ReportsAll)
	three.Automation.Mirrors = []circuit.Mirror{{From: "m1", To: "m2", Both: true, Via: "hub"}, {From: "m2", To: "m3", Both: true, Via: "hub"}}
	for name, c := range map[string]*circuit.Circuit{"scenes=10": ten, "mirrors=3": three} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				rehearse(b, c)
			}
		})
	}
}

// BenchmarkWithin: three places mirrored both ways and ten by scenes, with delays and people in haste.
func BenchmarkWithin(b *testing.B) {
	mirrored := passage(2, true, circuit.ReportsAll)
	mirrored.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: true, Via: "hub"}, {From: "m3", To: "m1", Both: true, Via: "hub"}}
	ten := passage(9, false, circuit.ReportsNone)
	scenes(ten, 9)
	for name, c := range map[string]*circuit.Circuit{"mirrors=3": mirrored, "scenes=10": ten} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := Within(b.Context(), c, Delays{Ways: map[string]Span{"hub": {0.1, 0.6}}, Pause: 0.3}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
