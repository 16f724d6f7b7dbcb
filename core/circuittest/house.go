// Package circuittest makes circuits for tests: correct ones on random trees of
// boxes, and miswired ones. Nothing in it comes from a list of known ways of
// wiring: boxes are put at random, and every conductor takes the only way
// through the tree.
package circuittest

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
)

// Bool, Int and Float return pointers, for optional fields.
func Bool(b bool) *bool        { return &b }
func Int(n int) *int           { return &n }
func Float(f float64) *float64 { return &f }

// net is one conductor of the house with the terminals that it joins.
type net struct {
	role  string
	boxes []string
	of    []circuit.Ref
}

// House makes a working circuit of one lamp and the given number of controls
// (at least 2) in a random tree of boxes. Feed, lamp and controls may stand at
// any box; junction boxes may lie between; the lamp may share a switch's box.
func House(rng *rand.Rand, controls int) *circuit.Circuit {
	c := &circuit.Circuit{
		Format: circuit.Format, Name: "Random house", Practice: "na",
		Boxes: []circuit.Box{}, Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{},
	}
	c.Boxes = append(c.Boxes, circuit.Box{ID: "panel", Kind: circuit.Panel})
	for i := range controls {
		c.Boxes = append(c.Boxes, circuit.Box{ID: fmt.Sprintf("b%d", i+1), Kind: circuit.Switch, Opened: Bool(true)})
	}
	c.Boxes = append(c.Boxes, circuit.Box{ID: "light", Kind: circuit.Fixture, Opened: Bool(false)})
	for i := range rng.IntN(3) {
		c.Boxes = append(c.Boxes, circuit.Box{ID: fmt.Sprintf("j%d", i+1), Kind: circuit.Junction})
	}
	nets := devices(c, controls)
	tree(rng, c)
	lead(rng, c, nets)
	return c
}

// lead gives each cable of a tree of boxes the cores that its nets take, and joins them.
func lead(rng *rand.Rand, c *circuit.Circuit, nets []net) {
	for _, k := range c.Cables {
		side := sideOf(c, k)
		carry := []net{}
		for _, n := range nets {
			if crosses(n, side) {
				carry = append(carry, n)
			}
		}
		colour(rng, c, k.ID, carry)
	}
	join(c, nets)
}

// devices puts supply, switches and lamp in their boxes and lists the nets.
func devices(c *circuit.Circuit, controls int) []net {
	ref := func(d, t string) circuit.Ref { return circuit.Ref{Owner: d, Part: t} }
	last := fmt.Sprintf("s%d", controls)
	c.Devices = append(c.Devices, circuit.Device{ID: "supply", Box: "panel", Type: circuit.TypeSupply})
	box := map[string]string{"supply": "panel", "lamp1": "light"}
	for i := range controls {
		id, t := fmt.Sprintf("s%d", i+1), circuit.TypeFourWay
		if i == 0 || i == controls-1 {
			t = circuit.TypeThreeWay
		}
		box[id] = fmt.Sprintf("b%d", i+1)
		c.Devices = append(c.Devices, circuit.Device{ID: id, Box: box[id], Type: t})
	}
	c.Devices = append(c.Devices, circuit.Device{ID: "lamp1", Box: "light", Type: circuit.TypeLamp, Watts: Float(9), Count: Int(4)})
	nets := []net{
		{role: "line", of: []circuit.Ref{ref("supply", "hot"), ref("s1", "common")}},
		{role: "neutral", of: []circuit.Ref{ref("supply", "neutral"), ref("lamp1", "n")}},
		{role: "load", of: []circuit.Ref{ref(last, "common"), ref("lamp1", "l")}},
	}
	for i := 1; i < controls; i++ {
		for _, side := range []string{"1", "2"} {
			from, to := ref(fmt.Sprintf("s%d", i), "b"+side), ref(fmt.Sprintf("s%d", i+1), "a"+side)
			if i == 1 {
				from.Part = "t" + side
			}
			if i == controls-1 {
				to.Part = "t" + side
			}
			nets = append(nets, net{role: "traveler", of: []circuit.Ref{from, to}})
		}
	}
	ground := net{role: "ground"}
	for _, d := range c.Devices {
		ground.of = append(ground.of, ref(d.ID, "ground"))
	}
	nets = append(nets, ground)
	for i := range nets {
		for _, r := range nets[i].of {
			nets[i].boxes = append(nets[i].boxes, box[r.Owner])
		}
	}
	return nets
}

// tree joins the boxes at random: the panel is a leaf, any other box may branch.
func tree(rng *rand.Rand, c *circuit.Circuit) {
	rest := []string{}
	for _, b := range c.Boxes[1:] {
		rest = append(rest, b.ID)
	}
	rng.Shuffle(len(rest), func(i, j int) { rest[i], rest[j] = rest[j], rest[i] })
	for i, b := range rest {
		to := "panel"
		if i > 0 {
			to = rest[max(0, i-1-rng.IntN(2))]
		}
		c.Cables = append(c.Cables, circuit.Cable{ID: fmt.Sprintf("w%d", i+1), Ends: [2]*string{&to, &b}})
	}
}

func sideOf(c *circuit.Circuit, cut circuit.Cable) map[string]bool {
	side := map[string]bool{*cut.Ends[0]: true}
	for grown := true; grown; {
		grown = false
		for _, k := range c.Cables {
			if k.ID == cut.ID || side[*k.Ends[0]] == side[*k.Ends[1]] {
				continue
			}
			side[*k.Ends[0]], side[*k.Ends[1]] = true, true
			grown = true
		}
	}
	return side
}

func crosses(n net, side map[string]bool) bool {
	return slices.ContainsFunc(n.boxes, func(b string) bool { return side[b] }) &&
		slices.ContainsFunc(n.boxes, func(b string) bool { return !side[b] })
}

// colour gives a cable a core for each net that it carries. carried remembers
// which, under the net's first terminal.
func colour(rng *rand.Rand, c *circuit.Circuit, id string, carry []net) {
	k := c.Cable(id)
	lines := []string{"black", "red", "blue", "yellow", "orange", "purple", "brown"}
	rng.Shuffle(len(lines), func(i, j int) { lines[i], lines[j] = lines[j], lines[i] })
	coloured := 0
	for _, n := range carry {
		core := ""
		switch n.role {
		case "neutral":
			core = "white"
		case "ground":
			core = "bare"
		default:
			core = lines[coloured%len(lines)]
			if round := coloured / len(lines); round > 0 {
				core = fmt.Sprintf("%s%d", core, round+1)
			}
			coloured++
		}
		k.Cores = append(k.Cores, core)
		for _, box := range k.Ends {
			c.Joins = append(c.Joins, circuit.Join{Box: *box, Of: []circuit.Ref{n.of[0], {Owner: id, Part: core}}})
		}
	}
	if k.Cores == nil { // a dead end that carries nothing
		k.Cores = []string{"black", "white"}
	}
}

// join turns the notes of colour (net's first terminal, core) into joins.
func join(c *circuit.Circuit, nets []net) {
	notes := c.Joins
	c.Joins = []circuit.Join{}
	for _, b := range c.Boxes {
		for _, n := range nets {
			j := circuit.Join{Box: b.ID}
			for _, note := range notes {
				if note.Box == b.ID && note.Of[0] == n.of[0] {
					j.Of = append(j.Of, note.Of[1])
				}
			}
			for i, r := range n.of {
				if n.boxes[i] == b.ID {
					j.Of = append(j.Of, r)
				}
			}
			if len(j.Of) > 1 {
				c.Joins = append(c.Joins, j)
			}
		}
	}
}

// Miswire swaps members of joins within boxes, times over: what a tired person
// does. The result is a valid document that may do anything.
func Miswire(rng *rand.Rand, c *circuit.Circuit, times int) {
	for range times {
		a := rng.IntN(len(c.Joins))
		b := rng.IntN(len(c.Joins))
		if a == b || c.Joins[a].Box != c.Joins[b].Box {
			continue
		}
		x, y := rng.IntN(len(c.Joins[a].Of)), rng.IntN(len(c.Joins[b].Of))
		c.Joins[a].Of[x], c.Joins[b].Of[y] = c.Joins[b].Of[y], c.Joins[a].Of[x]
	}
}

// MoreLamps hangs one to three lamps of different watts between joins of one
// box, wherever that leads: side by side, in series, across the supply.
func MoreLamps(rng *rand.Rand, c *circuit.Circuit) {
	for i := range 1 + rng.IntN(3) {
		a, b := rng.IntN(len(c.Joins)), rng.IntN(len(c.Joins))
		if a == b || c.Joins[a].Box != c.Joins[b].Box {
			continue
		}
		id := fmt.Sprintf("extra%d", i+1)
		c.Devices = append(c.Devices, circuit.Device{ID: id, Box: c.Joins[a].Box, Type: circuit.TypeLamp, Watts: Float(float64(5 + rng.IntN(95)))})
		if rng.IntN(3) == 0 { // in series: the lamp's far side carries what stood in the join
			moved := c.Joins[a].Of[0]
			c.Joins[a].Of = append(c.Joins[a].Of[1:], circuit.Ref{Owner: id, Part: "l"})
			c.Joins = append(c.Joins, circuit.Join{Box: c.Joins[a].Box, Of: []circuit.Ref{moved, {Owner: id, Part: "n"}}})
			continue
		}
		c.Joins[a].Of = append(c.Joins[a].Of, circuit.Ref{Owner: id, Part: "l"})
		c.Joins[b].Of = append(c.Joins[b].Of, circuit.Ref{Owner: id, Part: "n"})
	}
}

// Chain makes a straight circuit of the given number of controls: panel, every
// switch in a box of its own, lamp at the end.
func Chain(controls int) *circuit.Circuit {
	for seed := uint64(1); ; seed++ {
		c := House(rand.New(rand.NewPCG(seed, uint64(controls))), controls)
		if len(c.Boxes) == controls+2 {
			return c
		}
	}
}

// Doubled is a straight chain twice in the same boxes: two lights, each with so many
// controls and a breaker of its own, in one row of boxes.
func Doubled(controls int) *circuit.Circuit {
	c, second := Chain(controls), Chain(controls)
	name := func(id string) string { return "g2-" + id }
	for _, k := range second.Cables {
		k.ID = name(k.ID)
		c.Cables = append(c.Cables, k)
	}
	for _, d := range second.Devices {
		d.ID = name(d.ID)
		c.Devices = append(c.Devices, d)
	}
	for _, j := range second.Joins {
		for i := range j.Of {
			j.Of[i].Owner = name(j.Of[i].Owner)
		}
		c.Joins = append(c.Joins, j)
	}
	return c
}

// Shuffled is the same circuit with everything listed in another order: boxes, cables,
// devices, joins, what a join holds, and which end of a cable comes first.
func Shuffled(rng *rand.Rand, c *circuit.Circuit) *circuit.Circuit {
	out := c.Clone()
	rng.Shuffle(len(out.Boxes), func(i, j int) { out.Boxes[i], out.Boxes[j] = out.Boxes[j], out.Boxes[i] })
	rng.Shuffle(len(out.Cables), func(i, j int) { out.Cables[i], out.Cables[j] = out.Cables[j], out.Cables[i] })
	rng.Shuffle(len(out.Devices), func(i, j int) { out.Devices[i], out.Devices[j] = out.Devices[j], out.Devices[i] })
	rng.Shuffle(len(out.Joins), func(i, j int) { out.Joins[i], out.Joins[j] = out.Joins[j], out.Joins[i] })
	for k := range out.Joins {
		of := out.Joins[k].Of
		rng.Shuffle(len(of), func(i, j int) { of[i], of[j] = of[j], of[i] })
	}
	for k := range out.Cables {
		if e := &out.Cables[k].Ends; rng.IntN(2) == 0 {
			e[0], e[1] = e[1], e[0]
		}
	}
	return out
}
