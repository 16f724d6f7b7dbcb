package circuittest

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
)

// Kind is a kind of house that is easily got wrong. Make draws one with so many controls of
// its first light; Open draws which of its boxes are opened, nil for all that hold a
// switch.
type Kind struct {
	Name     string
	Controls []int
	Make     func(rng *rand.Rand, controls int) *circuit.Circuit
	Open     func(rng *rand.Rand, c *circuit.Circuit) []string
	// Forget takes boxes that were not opened out of the record, as if nobody knew of them.
	Forget bool
	// Faulty is the code of the finding that the circuit draws once it is traced, as one that has to be put right
	// before anything is planned; empty for a circuit that works.
	Faulty string
}

// Kinds lists the kinds of house that tracing must never be wrong about.
func Kinds() []Kind {
	return []Kind{
		{Name: "plain", Controls: []int{2, 3}, Make: Walls},
		{Name: "part open", Controls: []int{2, 2, 3, 3, 4}, Make: Walls, Open: someOpen},
		{Name: "places unknown", Controls: []int{3, 3, 3, 4}, Make: Walls, Open: someOpen, Forget: true},
		{Name: "spare cores", Controls: []int{2, 3}, Make: Spares},
		{Name: "side by side", Controls: []int{2}, Make: Beside},
		{Name: "second feed in a ring", Controls: []int{2}, Make: Ring},
		{Name: "two lights", Controls: []int{2}, Make: TwoLights},
		{Name: "receptacles", Controls: []int{2}, Make: LivedIn},
		{Name: "feed exchanged", Controls: []int{2}, Make: Exchanged},
		{Name: "borrowed neutral", Controls: []int{2}, Make: Borrowed, Open: allOpen},
		{Name: "crossed", Controls: []int{2, 2, 3}, Make: Crossed},
		{Name: "pilot lamp", Controls: []int{2}, Make: Pilot},
		{Name: "earth as strapper", Controls: []int{2, 2, 3}, Make: Strapper, Faulty: "ground-colour-misused"},
		{Name: "several lights", Controls: []int{2}, Make: Lights},
	}
}

// Borrowed is [Walls] whose light has its neutral from somewhere else than its line: what came
// with the line goes on as a neutral that ends at the light, or is cut off at both ends.
func Borrowed(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	neutral := circuit.Ref{Owner: "lamp1", Part: "n"}
	box := c.Device("lamp1").Box
	j := c.JoinOf(box, neutral)
	if j < 0 {
		return c
	}
	was := slices.DeleteFunc(slices.Clone(c.Joins[j].Of), func(r circuit.Ref) bool { return r == neutral })
	c.Joins[j].Of = was
	panel := "panel"
	away := circuit.Ref{Owner: "away", Part: "white"}
	c.Cables = append(c.Cables, circuit.Cable{ID: away.Owner, Ends: [2]*string{&panel, &box}, Cores: []string{"black", "white", "bare"}})
	bare := circuit.Ref{Owner: away.Owner, Part: "bare"}
	for i := range c.Joins {
		j := &c.Joins[i]
		switch {
		case j.Box == panel && slices.Contains(j.Of, circuit.Ref{Owner: "supply", Part: "neutral"}):
			j.Of = append(j.Of, away)
		case (j.Box == panel || j.Box == box) && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return r.Part == "ground" }):
			j.Of = append(j.Of, bare)
		}
	}
	c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{away, neutral}})
	if k := c.Cable(was[0].Owner); len(was) == 1 && k != nil && rng.IntN(2) == 0 {
		if far, ok := k.Other(box); ok {
			if j := c.JoinOf(far, was[0]); j >= 0 {
				c.Joins[j].Of = slices.DeleteFunc(c.Joins[j].Of, func(r circuit.Ref) bool { return r == was[0] })
			}
		}
	}
	c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 })
	return c
}

// allOpen opens every box but the panel.
func allOpen(_ *rand.Rand, c *circuit.Circuit) []string {
	var all []string
	for _, b := range c.Boxes {
		if b.Kind != circuit.Panel {
			all = append(all, b.ID)
		}
	}
	return all
}

// someOpen opens some of the boxes that hold a switch, not all.
func someOpen(rng *rand.Rand, c *circuit.Circuit) []string {
	var all []string
	for _, b := range c.Boxes {
		if b.Kind == circuit.Switch {
			all = append(all, b.ID)
		}
	}
	rng.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	return all[:max(1, len(all)/2)]
}

// Spares is [Walls] with more cores than are used, in any colours. Some are capped at both
// ends; some hang on the line, the neutral or the load at one end and are capped at the
// other; some are joined to each other from cable to cable.
func Spares(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	colours := []string{"red", "blue", "yellow", "white", "brown", "grey"}
	for i := range c.Cables {
		k := &c.Cables[i]
		if k.Stub() || rng.IntN(2) == 0 {
			continue
		}
		name := colours[rng.IntN(len(colours))]
		for n := 2; slices.Contains(k.Cores, name); n++ {
			name = fmt.Sprintf("%s%d", circuit.Colour(name), n)
		}
		k.Cores = append(k.Cores, name)
		spare := circuit.Ref{Owner: k.ID, Part: name}
		box := *k.Ends[rng.IntN(2)]
		switch rng.IntN(4) {
		case 0: // on whatever stands in that box, grounds apart
			if j := anyJoin(rng, c, box); j >= 0 {
				c.Joins[j].Of = append(c.Joins[j].Of, spare)
			}
		case 1: // on to a spare core of another cable
			for _, other := range c.Cables {
				free := slices.IndexFunc(other.Cores, func(core string) bool {
					return !circuit.GroundColour(core) && c.JoinOf(box, circuit.Ref{Owner: other.ID, Part: core}) < 0
				})
				if other.ID != k.ID && other.In(box) && free >= 0 {
					c.Joins = append(c.Joins, circuit.Join{Box: box, Of: []circuit.Ref{spare, {Owner: other.ID, Part: other.Cores[free]}}})
					break
				}
			}
		}
	}
	return c
}

// anyJoin draws a join of a box that is no ground; -1 where there is none.
func anyJoin(rng *rand.Rand, c *circuit.Circuit, box string) int {
	for _, i := range rng.Perm(len(c.Joins)) {
		if c.Joins[i].Box == box && !slices.ContainsFunc(c.Joins[i].Of, func(r circuit.Ref) bool { return circuit.GroundColour(r.Part) || r.Part == "ground" }) {
			return i
		}
	}
	return -1
}

// Beside is [Walls] with a second cable beside one of the cables: it carries one of that
// one's conductors in its place, or nothing that is used, with cores that hang on line or
// neutral at one end.
func Beside(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	k := c.Cables[rng.IntN(len(c.Cables))]
	for k.Stub() || *k.Ends[0] == "panel" || *k.Ends[1] == "panel" {
		k = c.Cables[rng.IntN(len(c.Cables))]
	}
	second := circuit.Cable{ID: "second", Ends: k.Ends, Cores: []string{"black", "white", "bare"}}
	c.Cables = append(c.Cables, second)
	ref := func(core string) circuit.Ref { return circuit.Ref{Owner: second.ID, Part: core} }
	for _, box := range second.Ends {
		for i, j := range c.Joins {
			if j.Box == *box && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return circuit.GroundColour(r.Part) }) {
				c.Joins[i].Of = append(c.Joins[i].Of, ref("bare"))
				break
			}
		}
	}
	if rng.IntN(2) == 0 { // one conductor moves over
		moved := k.Cores[rng.IntN(len(k.Cores))]
		to := ref("black")
		if circuit.Colour(moved) == "white" {
			to = ref("white")
		}
		if !circuit.GroundColour(moved) {
			for _, box := range k.Ends {
				if j := c.JoinOf(*box, circuit.Ref{Owner: k.ID, Part: moved}); j >= 0 {
					c.Joins[j].Of[slices.Index(c.Joins[j].Of, circuit.Ref{Owner: k.ID, Part: moved})] = to
				}
			}
		}
		return c
	}
	box := *second.Ends[rng.IntN(2)]
	for core, net := range map[string]string{"black": "hot", "white": "neutral"} {
		if j := joinIn(c, box, netOf(c, "supply", net)); j >= 0 {
			c.Joins[j].Of = append(c.Joins[j].Of, ref(core))
		}
	}
	return c
}

// Ring is [Walls] with a second breaker that feeds a light of its own, switched in one of
// the boxes: where the two feeds meet in a box, the cables close a ring.
func Ring(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	c.Devices = append(c.Devices, circuit.Device{ID: "supply2", Box: "panel", Type: circuit.TypeSupply})
	single(rng, c, "supply2")
	return c
}

// TwoLights is [Walls] with a second light, switched by a single-pole switch in one of the
// boxes, on the same breaker.
func TwoLights(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	single(rng, c, "supply")
	return c
}

// single adds a light with a single-pole switch in one of the boxes, fed from a supply by a
// cable of its own.
func single(rng *rand.Rand, c *circuit.Circuit, supply string) {
	var boxes []string
	for _, b := range c.Boxes {
		if b.Kind == circuit.Switch {
			boxes = append(boxes, b.ID)
		}
	}
	box, panel, yard := boxes[rng.IntN(len(boxes))], "panel", "yard"
	c.Boxes = append(c.Boxes, circuit.Box{ID: yard, Kind: circuit.Fixture, Opened: Bool(false)})
	c.Devices = append(c.Devices, circuit.Device{ID: "p1", Box: box, Type: circuit.TypeSinglePole}, circuit.Device{ID: "lamp2", Box: yard, Type: circuit.TypeLamp, Watts: Float(9)})
	cores := []string{"black", "white", "bare"}
	c.Cables = append(c.Cables, circuit.Cable{ID: "x0", Ends: [2]*string{&panel, &box}, Cores: cores}, circuit.Cable{ID: "x1", Ends: [2]*string{&box, &yard}, Cores: cores})
	ref := func(owner, part string) circuit.Ref { return circuit.Ref{Owner: owner, Part: part} }
	put := func(box string, refs ...circuit.Ref) {
		for i, j := range c.Joins {
			if j.Box == box && slices.Contains(j.Of, refs[0]) {
				c.Joins[i].Of = append(c.Joins[i].Of, refs[1:]...)
				return
			}
		}
		c.Joins = append(c.Joins, circuit.Join{Box: box, Of: refs})
	}
	put(panel, ref(supply, "hot"), ref("x0", "black"))
	put(panel, ref(supply, "neutral"), ref("x0", "white"))
	put(panel, ref(supply, "ground"), ref("x0", "bare"))
	put(box, ref("x0", "black"), ref("p1", "a"))
	put(box, ref("p1", "b"), ref("x1", "black"))
	put(box, ref("x0", "white"), ref("x1", "white"))
	put(box, ref("x0", "bare"), ref("x1", "bare"), ref("p1", "ground"))
	put(yard, ref("x1", "black"), ref("lamp2", "l"))
	put(yard, ref("x1", "white"), ref("lamp2", "n"))
	put(yard, ref("x1", "bare"), ref("lamp2", "ground"))
}

// Exchanged is [Walls] with line and neutral exchanged in the panel.
func Exchanged(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	for i, j := range c.Joins {
		for n, r := range j.Of {
			switch r.String() {
			case "supply.hot":
				c.Joins[i].Of[n].Part = "neutral"
			case "supply.neutral":
				c.Joins[i].Of[n].Part = "hot"
			}
		}
	}
	return c
}
