package trace

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// boxes makes a survey of switches, each in a box of its own with one cable that has a
// core for each of its screws.
func boxes(types ...string) *circuit.Circuit {
	c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{}, Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{}}
	colours := []string{"black", "red", "blue", "white"}
	open := true
	for i, kind := range types {
		box, k, s := fmt.Sprintf("b%d", i), fmt.Sprintf("k%d", i), fmt.Sprintf("s%d", i)
		c.Boxes = append(c.Boxes, circuit.Box{ID: box, Kind: circuit.Switch, Opened: &open})
		d := circuit.Device{ID: s, Box: box, Type: kind}
		c.Devices = append(c.Devices, d)
		screws := slices.DeleteFunc(slices.Clone(c.Terminals(d)), func(t string) bool { return t == "ground" })
		c.Cables = append(c.Cables, circuit.Cable{ID: k, Ends: [2]*string{&box, nil}, Cores: colours[:len(screws)]})
		for n, t := range screws {
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{{Owner: k, Part: colours[n]}, {Owner: s, Part: t}}})
		}
	}
	return c
}

// lights finds in which positions of its switches each load of a pattern is fed: the
// two travelers of a link join like to like.
func lights(v *view, p pattern, positions int) map[label]bool {
	type spot struct{ s, t int }
	at := map[spot]int{}
	var nets sets
	node := func(k spot) int {
		if _, ok := at[k]; !ok {
			at[k] = len(nets)
			nets = append(nets, len(nets))
		}
		return at[k]
	}
	first := map[label]int{}
	rail := map[[2]int]int{}
	for s, labels := range p.labels {
		seen := map[label]int{}
		for t, l := range labels {
			n := node(spot{s, t})
			if p.kinds[l] == isRails {
				key := [2]int{int(l), seen[l]}
				seen[l]++
				if other, ok := rail[key]; ok {
					nets.unite(n, other)
				}
				rail[key] = n
				continue
			}
			if other, ok := first[l]; ok {
				nets.unite(n, other)
			}
			first[l] = n
		}
		for _, pair := range contacts[v.switches[s].kind][positions>>s&1] {
			nets.unite(node(spot{s, pair[0]}), node(spot{s, pair[1]}))
		}
	}
	out := map[label]bool{}
	for l, k := range p.kinds {
		if k == isLoad {
			out[label(l)] = nets.root(first[label(l)]) == nets.root(first[hot])
		}
	}
	return out
}

// TestPatterns: in every pattern that feeds its light by the line alone, each switch of
// a light changes it from every position of the others, and no other switch does.
func TestPatterns(t *testing.T) {
	three, four, one := circuit.TypeThreeWay, circuit.TypeFourWay, circuit.TypeSinglePole
	for _, x := range []struct {
		types  []string
		chains int // patterns of the usual chain, each told apart by who is where
	}{
		{[]string{one}, 2}, {[]string{three, three}, 2}, {[]string{three, four, three}, 4}, {[]string{three, four, four, three}, 16},
		{[]string{four, three, four, three, four}, 96}, {[]string{three, three, one}, 4}, {[]string{three, three, three, three}, 12},
	} {
		v, err := newView(boxes(x.types...))
		if err != nil {
			t.Fatal(err)
		}
		chains := 0
		seen := map[string]bool{}
		for _, p := range v.patterns() {
			key := fmt.Sprint(p.labels, p.lampL, p.lampN)
			if seen[key] {
				t.Errorf("%v: a pattern twice: %v", x.types, p.labels)
			}
			seen[key] = true
			if p.odd {
				continue
			}
			if p.weight == 1 {
				chains++
			}
			for positions := range 1 << len(v.switches) {
				was := lights(v, p, positions)
				for s := range v.switches {
					changed := 0
					for l, lit := range lights(v, p, positions^1<<s) {
						if lit != was[l] {
							changed++
						}
					}
					if changed != 1 {
						t.Fatalf("%v, %v: in position %b switch %d changes %d lights", x.types, p.labels, positions, s, changed)
					}
				}
			}
		}
		if chains != x.chains {
			t.Errorf("%v: %d usual chains, want %d", x.types, chains, x.chains)
		}
	}
}

// TestTopologies: the trees are those that going through every way of putting stubs
// together finds, for surveys of two and three boxes.
func TestTopologies(t *testing.T) {
	for _, perBox := range [][]int{{1, 1}, {2, 2}, {2, 1, 2}, {1, 3}, {2, 2, 2}} {
		v := &view{clusters: len(perBox), panels: map[int]bool{}}
		for box, n := range perBox {
			for range n {
				v.stubs = append(v.stubs, stub{cluster: box, box: fmt.Sprint(box), to: -1})
			}
		}
		got, err := v.topologies(context.Background())
		if err != nil {
			t.Fatal(err)
		}
		plain := map[string]bool{}
		for _, x := range got {
			if x.doubled == 0 {
				plain[fmt.Sprint(x.region)] = true
			}
		}
		want := 0
		var walk func(region []int8, regions int8)
		walk = func(region []int8, regions int8) {
			if len(region) == len(v.stubs) {
				nodes := len(perBox) + int(regions)
				s := newSets(nodes)
				ring := false
				for i, r := range region {
					a, b := s.root(v.stubs[i].cluster), s.root(len(perBox)+int(r))
					ring = ring || a == b
					s.unite(a, b)
				}
				if !ring && len(region) == nodes-1 {
					want++
					if !plain[fmt.Sprint(region)] {
						t.Errorf("%v: the tree %v was not found", perBox, region)
					}
				}
				return
			}
			for r := range regions + 1 {
				walk(append(slices.Clone(region), r), max(regions, r+1))
			}
		}
		walk(nil, 0)
		if len(plain) != want {
			t.Errorf("%v: %d trees, want %d", perBox, len(plain), want)
		}
	}
}

// TestIndex: the index of meetings leaves out only what the exact look refuses.
func TestIndex(t *testing.T) {
	h := hidden(t, 3, 3)
	v, err := newView(h.Survey())
	if err != nil {
		t.Fatal(err)
	}
	routes, err := v.topologies(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	x := newIndex(routes, len(v.stubs))
	for seed := range uint64(60) {
		a := asks{masks: make([]uint64, len(v.stubs)), free: make([]int, len(v.stubs)), pairs: 0b1100, rails: 0b0100}
		for s := range a.masks {
			a.masks[s] = seed * 2654435761 >> (4 * s) & 0b1111
			a.free[s] = int(seed>>s) % 3
		}
		may := x.candidates(a, 0, (len(routes)+63)/64)
		for i := range routes {
			if a.met(&routes[i]) && !may.has(i) {
				t.Fatalf("topology %v fits %+v, and the index leaves it out", routes[i].region, a)
			}
		}
	}
}

// TestBounds: what is left out as too unlikely, before it is gone through, would have been
// too unlikely: a search that leaves nothing out finds no other world above the line.
func TestBounds(t *testing.T) {
	t.Parallel()
	kept := 0
	for seed := range uint64(60) {
		c := hidden(t, seed+900, 2).Survey()
		v, err := newView(c)
		if err != nil {
			t.Fatal(err)
		}
		patterns := v.patterns()
		closely, err := v.worlds(context.Background(), patterns, usualOdds)
		if err != nil {
			t.Fatal(err)
		}
		all, err := v.worlds(context.Background(), patterns, 0)
		if err != nil {
			t.Fatal(err)
		}
		found := map[string]bool{}
		best := 0.0
		for _, w := range closely {
			found[w.key] = true
			best = max(best, w.prior)
		}
		kept += len(closely)
		for _, w := range all {
			// Cables that run otherwise add to a world, each less than the line.
			if w.prior > best*1.001 || w.prior > 3*usualOdds*best && !found[w.key] {
				t.Errorf("house %d: a world of %g, the best is %g, is found %t", seed, w.prior, best, found[w.key])
			}
		}
	}
	if kept < 200 {
		t.Errorf("only %d worlds were kept in all houses", kept)
	}
}

// TestDescribe: a test is told in the words of each practice.
func TestDescribe(t *testing.T) {
	words := map[string][]string{
		"na": {"Breaker off", "common of the 3-way switch"}, "uk": {"MCB off", "COM of the two-way switch"}, "au": {"Circuit breaker off", "C of the two-way switch"},
		"in": {"MCB off", "middle of the two-way switch"}, "eu": {"MCB off", "COM of the two-way switch"},
	}
	for practice, want := range words {
		c, h := surveyed(t)
		c.Practice = practice
		o := circuit.Observation{Power: "off", Lifted: []circuit.Ref{{Owner: "s1", Part: "common"}}, LampsOut: []string{"lamp1"}, Flipped: []string{"s2"},
			Instrument: circuit.Continuity, At: at(t, named(h, "w1", "foot")+".black@foot", "lamp1.n")}
		text := Describe(inspect.Speak(c), o)
		for _, w := range append(want, "out of its socket: lamp1", "the shell of lamp1’s socket") {
			if !strings.Contains(text, w) {
				t.Errorf("%s: %q is not in %q", practice, w, text)
			}
		}
	}
}
