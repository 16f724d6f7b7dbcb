package trace

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/sets"
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
	var nets sets.Sets
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
			if p.kinds[l] == isTraveler {
				key := [2]int{int(l), seen[l]}
				seen[l]++
				if other, ok := rail[key]; ok {
					nets.Unite(n, other)
				}
				rail[key] = n
				continue
			}
			if other, ok := first[l]; ok {
				nets.Unite(n, other)
			}
			first[l] = n
		}
		for _, pair := range contacts[v.switches[s].kind][positions>>s&1] {
			nets.Unite(node(spot{s, pair[0]}), node(spot{s, pair[1]}))
		}
	}
	out := map[label]bool{}
	for l, k := range p.kinds {
		if k == isLoad {
			out[label(l)] = nets.Root(first[label(l)]) == nets.Root(first[hotOf(0)])
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
		patterns, err := v.patterns()
		if err != nil {
			t.Fatal(err)
		}
		for _, p := range patterns {
			key := fmt.Sprint(p.labels, p.lampL, p.lampN)
			if seen[key] {
				t.Errorf("%v: a pattern twice: %v", x.types, p.labels)
			}
			seen[key] = true
			if p.polarity {
				continue
			}
			if p.unseen > 0 {
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
		text := Describe(names.For(c), o)
		for _, w := range append(want, "out of its socket: the lamp at the light", "the shell of the lamp at the light") {
			if !strings.Contains(text, w) {
				t.Errorf("%s: %q is not in %q", practice, w, text)
			}
		}
	}
}
