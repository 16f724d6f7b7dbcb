package electric_test

import (
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// TestLoads: what counts as a lamp by how it hangs. A receptacle that a switch feeds does, one on the feed or on a traveler does
// not; a small lamp across the contacts of a switch in its box does not, a large one, one of unknown watts and one in another box
// do; two single-pole switches are two poles of one where they break line and neutral of one load in one box.
func TestLoads(t *testing.T) {
	for _, x := range []struct {
		name  string
		edit  func(c *circuit.Circuit)
		lamps []string
		poles int
	}{
		{"as it is", func(*circuit.Circuit) {}, []string{"lamp1"}, 0},
		{"a receptacle beside the lamp", hang("light", circuit.TypeReceptacle, 0, "lamp1.l", "lamp1.n"), []string{"lamp1", "x"}, 0},
		{"a receptacle on the feed", hang("foot", circuit.TypeReceptacle, 0, "s1.common", "w1.white"), []string{"lamp1"}, 0},
		{"a receptacle on a traveler", hang("foot", circuit.TypeReceptacle, 0, "s1.t1", "w1.white"), []string{"lamp1"}, 0},
		{"a small lamp across a switch", hang("foot", circuit.TypeLamp, 0.5, "s1.common", "s1.t1"), []string{"lamp1"}, 0},
		{"a large lamp across a switch", hang("foot", circuit.TypeLamp, 40, "s1.common", "s1.t1"), []string{"lamp1", "x"}, 0},
		{"one of unknown watts", hang("foot", circuit.TypeLamp, 0, "s1.common", "s1.t1"), []string{"lamp1", "x"}, 0},
		{"a small lamp on line and neutral", hang("foot", circuit.TypeLamp, 0.5, "s1.common", "w1.white"), []string{"lamp1", "x"}, 0},
		{"two poles in one box", poles("foot", "foot"), []string{"lamp1", "y"}, 1},
		{"two switches in two boxes", poles("foot", "head"), []string{"lamp1", "y"}, 0},
	} {
		c := circuittest.Straight()
		x.edit(c)
		if err := c.Validate(); err != nil {
			t.Fatal(x.name, err)
		}
		n := electric.New(c)
		if got := n.LampIDs(); !slices.Equal(got, x.lamps) {
			t.Errorf("%s: %v are lamps, want %v", x.name, got, x.lamps)
		}
		for second, first := range n.Poles() { // they move together, whichever is named
			keys := n.Keys(n.Initial())
			if keys[first] != keys[second] {
				t.Errorf("%s: poles stand at %v", x.name, keys)
			}
			for _, one := range []string{first, second} {
				if s, ok := n.StateOf(map[string]int{one: 2}); !ok || n.Keys(s)[first] != 2 || n.Keys(s)[second] != 2 {
					t.Errorf("%s: with %s at 2 they stand at %v, %v", x.name, one, n.Keys(s), ok)
				}
			}
			if _, ok := n.StateOf(map[string]int{first: 1, second: 2}); ok {
				t.Errorf("%s: the two poles of a switch stand apart", x.name)
			}
		}
		if len(n.Poles()) != x.poles {
			t.Errorf("%s: poles %v", x.name, n.Poles())
		}
	}
}

// at adds members to the join of one that stands in a box.
func at(c *circuit.Circuit, box, with string, more ...circuit.Ref) {
	r, err := circuit.ParseRef(with)
	if err != nil {
		panic(err)
	}
	c.Joins[c.JoinOf(box, r)].Of = append(c.Joins[c.JoinOf(box, r)].Of, more...)
}

func hang(box, kind string, watts float64, l, n string) func(*circuit.Circuit) {
	return func(c *circuit.Circuit) {
		d := circuit.Device{ID: "x", Box: box, Type: kind}
		if watts > 0 {
			d.Watts = &watts
		}
		c.Devices = append(c.Devices, d)
		at(c, box, l, circuit.Ref{Owner: "x", Part: "l"})
		at(c, box, n, circuit.Ref{Owner: "x", Part: "n"})
	}
}

// poles hangs a lamp of its own behind two single-pole switches, one in the line and one in the neutral.
func poles(line, neutral string) func(*circuit.Circuit) {
	return func(c *circuit.Circuit) {
		ref := func(owner, part string) circuit.Ref { return circuit.Ref{Owner: owner, Part: part} }
		foot, head := "foot", "head"
		c.Devices = append(c.Devices, circuit.Device{ID: "p1", Box: line, Type: circuit.TypeSinglePole}, circuit.Device{ID: "p2", Box: neutral, Type: circuit.TypeSinglePole},
			circuit.Device{ID: "y", Box: foot, Type: circuit.TypeLamp})
		c.Cables = append(c.Cables, circuit.Cable{ID: "y1", Ends: [2]*string{&foot, &head}, Cores: []string{"black", "white"}})
		at(c, foot, "s1.common", ref("p1", "a"))
		c.Joins = append(c.Joins, circuit.Join{Box: foot, Of: []circuit.Ref{ref("p1", "b"), ref("y", "l")}})
		if neutral == foot {
			at(c, foot, "w1.white", ref("p2", "a"))
			c.Joins = append(c.Joins, circuit.Join{Box: foot, Of: []circuit.Ref{ref("p2", "b"), ref("y", "n")}})
			return
		}
		at(c, head, "w3.white", ref("p2", "a"))
		c.Joins = append(c.Joins, circuit.Join{Box: head, Of: []circuit.Ref{ref("p2", "b"), ref("y1", "white")}}, circuit.Join{Box: foot, Of: []circuit.Ref{ref("y1", "white"), ref("y", "n")}})
	}
}
