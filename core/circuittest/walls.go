package circuittest

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
)

// Walls makes a working circuit as [House] does, wired as people wire: with cables
// that can be bought, spare cores capped at both ends or a neutral capped for
// later, a feed that goes on to other rooms, four-way bodies used as three-ways.
func Walls(rng *rand.Rand, controls int) *circuit.Circuit {
	c := House(rng, controls)
	c.Name = "Random walls"
	rename := map[circuit.Ref]circuit.Ref{}
	for i := range c.Cables {
		recore(rng, &c.Cables[i], rename, c)
	}
	for i := range c.Joins {
		for n, r := range c.Joins[i].Of {
			if to, ok := rename[r]; ok {
				c.Joins[i].Of[n] = to
			}
		}
	}
	if rng.IntN(3) == 0 {
		onward(rng, c)
	}
	if rng.IntN(4) == 0 {
		spareNeutral(rng, c)
	}
	if rng.IntN(6) == 0 {
		bodies(rng, c)
	}
	return c
}

// recore gives a cable the cores of the smallest cable that can be bought.
func recore(rng *rand.Rand, k *circuit.Cable, rename map[circuit.Ref]circuit.Ref, c *circuit.Circuit) {
	var lines []string
	hasNeutral := false
	for _, core := range k.Cores {
		switch {
		case core == "white":
			hasNeutral = true
		case core != "bare":
			lines = append(lines, core)
		}
	}
	need := len(lines)
	if hasNeutral {
		need++
	}
	sold := []string{"black", "white"}
	if need > 2 || rng.IntN(8) == 0 {
		sold = []string{"black", "red", "white"}
	}
	if need > 3 {
		sold = []string{"black", "red", "blue", "white"}
	}
	for i := 2; len(sold) < need; i++ {
		sold = slices.Insert(sold, len(sold)-1, fmt.Sprintf("black%d", i))
	}
	free := slices.Clone(sold)
	if hasNeutral {
		free = free[:len(free)-1]
	}
	for i, core := range lines {
		rename[circuit.Ref{Owner: k.ID, Part: core}] = circuit.Ref{Owner: k.ID, Part: free[i]}
	}
	k.Cores = append(sold, "bare")
	// The ground is joined through even where nothing else is.
	for _, box := range k.Ends {
		if c.JoinOf(*box, circuit.Ref{Owner: k.ID, Part: "bare"}) >= 0 {
			continue
		}
		for i, j := range c.Joins {
			if j.Box == *box && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return r.Part == "bare" || r.Part == "ground" }) {
				c.Joins[i].Of = append(c.Joins[i].Of, circuit.Ref{Owner: k.ID, Part: "bare"})
				break
			}
		}
	}
}

// onward hangs a cable to other rooms on line and neutral, in a box that has both.
func onward(rng *rand.Rand, c *circuit.Circuit) {
	lines, neutrals := netOf(c, "supply", "hot"), netOf(c, "supply", "neutral")
	boxes := slices.Clone(c.Boxes)
	rng.Shuffle(len(boxes), func(i, j int) { boxes[i], boxes[j] = boxes[j], boxes[i] })
	for _, b := range boxes {
		l, n := joinIn(c, b.ID, lines), joinIn(c, b.ID, neutrals)
		if b.Kind == circuit.Panel || l < 0 || n < 0 {
			continue
		}
		c.Cables = append(c.Cables, circuit.Cable{ID: "onward", Ends: [2]*string{&b.ID, nil}, Cores: []string{"black", "white", "bare"}})
		c.Joins[l].Of = append(c.Joins[l].Of, circuit.Ref{Owner: "onward", Part: "black"})
		c.Joins[n].Of = append(c.Joins[n].Of, circuit.Ref{Owner: "onward", Part: "white"})
		ground := slices.IndexFunc(c.Joins, func(j circuit.Join) bool {
			return j.Box == b.ID && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return r.Part == "bare" })
		})
		c.Joins[ground].Of = append(c.Joins[ground].Of, circuit.Ref{Owner: "onward", Part: "bare"})
		return
	}
}

// spareNeutral joins one free white core to the neutral in one of its boxes.
func spareNeutral(rng *rand.Rand, c *circuit.Circuit) {
	neutrals := netOf(c, "supply", "neutral")
	for _, i := range rng.Perm(len(c.Cables)) {
		k := c.Cables[i]
		white := circuit.Ref{Owner: k.ID, Part: "white"}
		if k.Stub() || c.JoinOf(*k.Ends[0], white) >= 0 || c.JoinOf(*k.Ends[1], white) >= 0 {
			continue
		}
		for _, box := range k.Ends {
			if j := joinIn(c, *box, neutrals); j >= 0 {
				c.Joins[j].Of = append(c.Joins[j].Of, white)
				return
			}
		}
	}
}

// bodies puts a four-way body in the place of a three-way.
func bodies(rng *rand.Rand, c *circuit.Circuit) {
	i := slices.IndexFunc(c.Devices, func(d circuit.Device) bool { return d.Type == circuit.TypeThreeWay })
	d := &c.Devices[i]
	d.Type = circuit.TypeFourWay
	to := map[string]string{"common": "a1", "t1": "b1", "t2": "b2"}
	if rng.IntN(2) == 0 {
		to = map[string]string{"common": "b2", "t1": "a2", "t2": "a1"}
	}
	for j := range c.Joins {
		for n, r := range c.Joins[j].Of {
			if r.Owner == d.ID && to[r.Part] != "" {
				c.Joins[j].Of[n].Part = to[r.Part]
			}
		}
	}
}

// netOf finds the joins that hang together with a terminal, through cables.
func netOf(c *circuit.Circuit, device, terminal string) map[int]bool {
	out := map[int]bool{}
	var walk func(j int)
	walk = func(j int) {
		if j < 0 || out[j] {
			return
		}
		out[j] = true
		for _, r := range c.Joins[j].Of {
			if k := c.Cable(r.Owner); k != nil {
				if far, ok := k.Other(c.Joins[j].Box); ok {
					walk(c.JoinOf(far, r))
				}
			}
		}
	}
	walk(c.JoinOf(c.Device(device).Box, circuit.Ref{Owner: device, Part: terminal}))
	return out
}

func joinIn(c *circuit.Circuit, box string, joins map[int]bool) int {
	for i, j := range c.Joins {
		if j.Box == box && joins[i] {
			return i
		}
	}
	return -1
}

// LivedIn is [Walls] with what else is found in such boxes: a receptacle on the feed, a
// second lamp beside the first, a switch that nobody wired or wants any more.
func LivedIn(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	put := func(box string, joins []int, of ...circuit.Ref) {
		for i, m := range of {
			if joins[i] >= 0 {
				c.Joins[joins[i]].Of = append(c.Joins[joins[i]].Of, m)
			}
		}
	}
	lines, neutrals := netOf(c, "supply", "hot"), netOf(c, "supply", "neutral")
	if rng.IntN(2) == 0 {
		boxes := slices.Clone(c.Boxes)
		rng.Shuffle(len(boxes), func(i, j int) { boxes[i], boxes[j] = boxes[j], boxes[i] })
		for _, b := range boxes {
			l, n := joinIn(c, b.ID, lines), joinIn(c, b.ID, neutrals)
			if b.Kind != circuit.Switch || l < 0 || n < 0 {
				continue
			}
			c.Devices = append(c.Devices, circuit.Device{ID: "outlet", Box: b.ID, Type: circuit.TypeReceptacle})
			put(b.ID, []int{l, n}, circuit.Ref{Owner: "outlet", Part: "l"}, circuit.Ref{Owner: "outlet", Part: "n"})
			break
		}
	}
	if rng.IntN(2) == 0 {
		for _, d := range c.Devices {
			if d.Type == circuit.TypeLamp {
				l, n := c.JoinOf(d.Box, circuit.Ref{Owner: d.ID, Part: "l"}), c.JoinOf(d.Box, circuit.Ref{Owner: d.ID, Part: "n"})
				c.Devices = append(c.Devices, circuit.Device{ID: "beside", Box: d.Box, Type: circuit.TypeLamp})
				put(d.Box, []int{l, n}, circuit.Ref{Owner: "beside", Part: "l"}, circuit.Ref{Owner: "beside", Part: "n"})
				break
			}
		}
	}
	if rng.IntN(2) == 0 {
		for _, b := range c.Boxes {
			if b.Kind == circuit.Switch {
				c.Devices = append(c.Devices, circuit.Device{ID: "idle", Box: b.ID, Type: circuit.TypeSinglePole, Position: Int(1)})
				break
			}
		}
	}
	return c
}
