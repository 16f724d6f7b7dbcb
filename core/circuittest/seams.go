package circuittest

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
)

// Crossed is [Walls] in which colours and screws say nothing: each cable's coloured cores are exchanged at
// random, so that red goes on as black behind a closed joint, and what stands on one brass screw of a pair
// stands on the other.
func Crossed(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	neutrals := netOf(c, "supply", "neutral")
	for _, k := range c.Cables {
		var cores []string
		for _, core := range k.Cores {
			ref := circuit.Ref{Owner: k.ID, Part: core}
			neutral := slices.ContainsFunc(k.Ends[:], func(box *string) bool {
				return box != nil && c.JoinOf(*box, ref) >= 0 && neutrals[c.JoinOf(*box, ref)]
			})
			if !circuit.GroundColour(core) && !neutral {
				cores = append(cores, core)
			}
		}
		to := slices.Clone(cores)
		rng.Shuffle(len(to), func(i, j int) { to[i], to[j] = to[j], to[i] })
		for i := range c.Joins {
			for n, r := range c.Joins[i].Of {
				if at := slices.Index(cores, r.Part); r.Owner == k.ID && at >= 0 {
					c.Joins[i].Of[n].Part = to[at]
				}
			}
		}
	}
	pairs := [][2]string{{"t1", "t2"}, {"a1", "a2"}, {"b1", "b2"}}
	for _, d := range c.Devices {
		for _, p := range pairs {
			if rng.IntN(2) == 0 || !slices.Contains(c.Terminals(d), p[0]) || !slices.Contains(c.Terminals(d), p[1]) {
				continue
			}
			for i := range c.Joins {
				for n, r := range c.Joins[i].Of {
					switch {
					case r.Owner != d.ID:
					case r.Part == p[0]:
						c.Joins[i].Of[n].Part = p[1]
					case r.Part == p[1]:
						c.Joins[i].Of[n].Part = p[0]
					}
				}
			}
		}
	}
	return c
}

// Pilot is [Crossed] with a small lamp that is always lit, in a box to which line and neutral come.
func Pilot(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Crossed(rng, controls)
	lines, neutrals := netOf(c, "supply", "hot"), netOf(c, "supply", "neutral")
	for _, i := range rng.Perm(len(c.Boxes)) {
		b := c.Boxes[i]
		l, n := joinIn(c, b.ID, lines), joinIn(c, b.ID, neutrals)
		if b.Kind == circuit.Panel || b.Kind == circuit.Junction || l < 0 || n < 0 {
			continue
		}
		c.Devices = append(c.Devices, circuit.Device{ID: "pilot", Box: b.ID, Type: circuit.TypeLamp, Watts: Float(3)})
		c.Joins[l].Of = append(c.Joins[l].Of, circuit.Ref{Owner: "pilot", Part: "l"})
		c.Joins[n].Of = append(c.Joins[n].Of, circuit.Ref{Owner: "pilot", Part: "n"})
		break
	}
	return c
}

// Lights makes several lights, each switched from the same two boxes, whose cables meet in closed boxes:
// nothing but a reading tells which switch is which light's.
func Lights(rng *rand.Rand, lights int) *circuit.Circuit {
	c := &circuit.Circuit{
		Format: circuit.Format, Name: "Random lights", Practice: "na",
		Boxes: []circuit.Box{
			{ID: "panel", Kind: circuit.Panel},
			{ID: "b1", Kind: circuit.Switch, Opened: Bool(true), Gangs: &lights},
			{ID: "b2", Kind: circuit.Switch, Opened: Bool(true), Gangs: &lights},
		}, Cables: []circuit.Cable{}, Devices: []circuit.Device{{ID: "supply", Box: "panel", Type: circuit.TypeSupply}}, Joins: []circuit.Join{},
	}
	ref := func(d, t string) circuit.Ref { return circuit.Ref{Owner: d, Part: t} }
	line, neutral := net{role: "line", of: []circuit.Ref{ref("supply", "hot")}}, net{role: "neutral", of: []circuit.Ref{ref("supply", "neutral")}}
	var nets []net
	for i := range lights {
		fixture := "f1"
		if i == 0 || rng.IntN(2) == 0 {
			fixture = fmt.Sprintf("f%d", i+1)
			c.Boxes = append(c.Boxes, circuit.Box{ID: fixture, Kind: circuit.Fixture, Opened: Bool(false)})
		}
		near, far, lamp := fmt.Sprintf("s%d", 2*i+1), fmt.Sprintf("s%d", 2*i+2), fmt.Sprintf("lamp%d", i+1)
		c.Devices = append(c.Devices, circuit.Device{ID: near, Box: "b1", Type: circuit.TypeThreeWay}, circuit.Device{ID: far, Box: "b2", Type: circuit.TypeThreeWay},
			circuit.Device{ID: lamp, Box: fixture, Type: circuit.TypeLamp, Watts: Float(9)})
		line.of, neutral.of = append(line.of, ref(near, "common")), append(neutral.of, ref(lamp, "n"))
		nets = append(nets, net{role: "load", of: []circuit.Ref{ref(far, "common"), ref(lamp, "l")}})
		for _, t := range []string{"t1", "t2"} {
			to := t
			if rng.IntN(2) == 0 {
				to = map[string]string{"t1": "t2", "t2": "t1"}[t]
			}
			if t == "t2" { // the screw that the first left
				to = map[string]string{"t1": "t2", "t2": "t1"}[nets[len(nets)-1].of[1].Part]
			}
			nets = append(nets, net{role: "traveler", of: []circuit.Ref{ref(near, t), ref(far, to)}})
		}
	}
	ground := net{role: "ground"}
	for _, d := range c.Devices {
		ground.of = append(ground.of, ref(d.ID, "ground"))
	}
	nets = append(nets, line, neutral, ground)
	for i := range nets {
		for _, r := range nets[i].of {
			nets[i].boxes = append(nets[i].boxes, c.Device(r.Owner).Box)
		}
	}
	tree(rng, c)
	lead(rng, c, nets)
	return c
}

// Strapper is [Walls] in which one traveler runs in a core of earth colour, as where a cable had too few cores: the
// cable carries no ground then. It comes to a box that holds a switch, where it can be seen: behind closed boxes alone
// nothing shows it.
func Strapper(rng *rand.Rand, controls int) *circuit.Circuit {
	c := Walls(rng, controls)
	travelers := map[int]bool{}
	for _, d := range c.Devices {
		for _, screw := range []string{"t1", "t2", "a1", "a2", "b1", "b2"} {
			if slices.Contains(c.Terminals(d), screw) {
				for j := range netOf(c, d.ID, screw) {
					travelers[j] = true
				}
			}
		}
	}
	for _, i := range rng.Perm(len(c.Cables)) {
		k := &c.Cables[i]
		if k.Ends[0] == nil || k.Ends[1] == nil || c.Box(*k.Ends[0]).Kind != circuit.Switch && c.Box(*k.Ends[1]).Kind != circuit.Switch {
			continue
		}
		joined := func(core string, box *string) int { return c.JoinOf(*box, circuit.Ref{Owner: k.ID, Part: core}) }
		carries := slices.IndexFunc(k.Cores, func(core string) bool {
			return travelers[joined(core, k.Ends[0])] && travelers[joined(core, k.Ends[1])]
		})
		earth := slices.IndexFunc(k.Cores, circuit.GroundColour)
		if carries < 0 || earth < 0 {
			continue
		}
		was, is := circuit.Ref{Owner: k.ID, Part: k.Cores[carries]}, circuit.Ref{Owner: k.ID, Part: k.Cores[earth]}
		for j := range c.Joins {
			of := slices.DeleteFunc(c.Joins[j].Of, func(r circuit.Ref) bool { return r == is })
			if n := slices.Index(of, was); n >= 0 {
				of[n] = is
			}
			c.Joins[j].Of = of
		}
		c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 2 })
		k.Cores = slices.Delete(k.Cores, carries, carries+1)
		return c
	}
	return c
}
