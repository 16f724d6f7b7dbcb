package circuittest

import (
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
)

// Mistake is one way in which a tired person wires a sound circuit wrong. Make does it to the
// circuit, and reports false where there is no place for it.
type Mistake struct {
	Name string
	Make func(rng *rand.Rand, c *circuit.Circuit) bool
}

// Mistakes lists nineteen ways to miswire.
func Mistakes() []Mistake {
	return []Mistake{
		{"two wires of a switch exchanged", func(rng *rand.Rand, c *circuit.Circuit) bool {
			s := anySwitch(rng, c)
			return exchange(c, s.Box, screwOf(rng, c, s), screwOf(rng, c, s))
		}},
		{"wires of two joints exchanged", func(rng *rand.Rand, c *circuit.Circuit) bool {
			a, b := twoJoins(rng, c)
			return a >= 0 && exchange(c, c.Joins[a].Box, anyOf(rng, c.Joins[a].Of), anyOf(rng, c.Joins[b].Of))
		}},
		{"two joints made one", func(rng *rand.Rand, c *circuit.Circuit) bool {
			a, b := twoJoins(rng, c)
			return a >= 0 && mergeJoins(c, a, b)
		}},
		{"a wire fallen out", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return pullOut(c, rng.IntN(len(c.Joins)), rng.IntN(64))
		}},
		{"line and neutral exchanged at the lamp", func(_ *rand.Rand, c *circuit.Circuit) bool {
			l := firstOf(c, circuit.TypeLamp)
			return l != nil && exchange(c, l.Box, circuit.Ref{Owner: l.ID, Part: "l"}, circuit.Ref{Owner: l.ID, Part: "n"})
		}},
		{"line and neutral exchanged in the panel", func(_ *rand.Rand, c *circuit.Circuit) bool {
			s := firstOf(c, circuit.TypeSupply)
			return exchange(c, s.Box, circuit.Ref{Owner: s.ID, Part: "hot"}, circuit.Ref{Owner: s.ID, Part: "neutral"})
		}},
		{"neutral joined to ground", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return mergeRoles(rng, c, func(p string) bool { return circuit.Colour(p) == "white" }, circuit.GroundColour)
		}},
		{"line joined to ground", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return mergeRoles(rng, c, func(p string) bool { return circuit.Colour(p) == "black" }, circuit.GroundColour)
		}},
		{"ground carries the return", func(_ *rand.Rand, c *circuit.Circuit) bool {
			l := firstOf(c, circuit.TypeLamp)
			if l == nil {
				return false
			}
			n, g := c.JoinOf(l.Box, circuit.Ref{Owner: l.ID, Part: "n"}), c.JoinOf(l.Box, circuit.Ref{Owner: l.ID, Part: "ground"})
			return n >= 0 && g >= 0 && n != g && moveTo(c, n, g, circuit.Ref{Owner: l.ID, Part: "n"})
		}},
		{"two cores of a cable taken for each other at one end", func(rng *rand.Rand, c *circuit.Circuit) bool {
			k := c.Cables[rng.IntN(len(c.Cables))]
			return exchange(c, *k.Ends[0], circuit.Ref{Owner: k.ID, Part: anyOf(rng, k.Cores)}, circuit.Ref{Owner: k.ID, Part: anyOf(rng, k.Cores)})
		}},
		{"a three-way for a four-way", func(_ *rand.Rand, c *circuit.Circuit) bool {
			return rebody(c, circuit.TypeFourWay, circuit.TypeThreeWay, map[string]string{"a1": "common", "b1": "t1", "b2": "t2"})
		}},
		{"a single-pole for a three-way", func(_ *rand.Rand, c *circuit.Circuit) bool {
			return rebody(c, circuit.TypeThreeWay, circuit.TypeSinglePole, map[string]string{"common": "a", "t1": "b"})
		}},
		{"the pairs of a four-way crossed", func(_ *rand.Rand, c *circuit.Circuit) bool {
			s := firstOf(c, circuit.TypeFourWay)
			return s != nil && exchange(c, s.Box, circuit.Ref{Owner: s.ID, Part: "a2"}, circuit.Ref{Owner: s.ID, Part: "b1"})
		}},
		{"common and traveler exchanged", func(rng *rand.Rand, c *circuit.Circuit) bool {
			s := firstOf(c, circuit.TypeThreeWay)
			return s != nil && exchange(c, s.Box, circuit.Ref{Owner: s.ID, Part: "common"}, circuit.Ref{Owner: s.ID, Part: anyOf(rng, []string{"t1", "t2"})})
		}},
		{"a second breaker on the same conductor", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return secondSupply(c, circuit.Ref{Owner: "second", Part: "hot"}, c.Joins[rng.IntN(len(c.Joins))])
		}},
		{"a receptacle across two joints", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return across(rng, c, circuit.TypeReceptacle)
		}},
		{"a lamp across two joints", func(rng *rand.Rand, c *circuit.Circuit) bool {
			return across(rng, c, circuit.TypeLamp)
		}},
		{"a switch across two joints", func(rng *rand.Rand, c *circuit.Circuit) bool {
			a, b := twoJoins(rng, c)
			if a < 0 {
				return false
			}
			c.Devices = append(c.Devices, circuit.Device{ID: "more", Box: c.Joins[a].Box, Type: circuit.TypeSinglePole})
			c.Joins[a].Of = append(c.Joins[a].Of, circuit.Ref{Owner: "more", Part: "a"})
			c.Joins[b].Of = append(c.Joins[b].Of, circuit.Ref{Owner: "more", Part: "b"})
			return true
		}},
		{"a cable between two boxes that carries on any joint", func(rng *rand.Rand, c *circuit.Circuit) bool {
			a, b := rng.IntN(len(c.Joins)), rng.IntN(len(c.Joins))
			from, to := c.Joins[a].Box, c.Joins[b].Box
			if from == to {
				return false
			}
			c.Cables = append(c.Cables, circuit.Cable{ID: "more", Ends: [2]*string{&from, &to}, Cores: []string{"black"}})
			c.Joins[a].Of = append(c.Joins[a].Of, circuit.Ref{Owner: "more", Part: "black"})
			c.Joins[b].Of = append(c.Joins[b].Of, circuit.Ref{Owner: "more", Part: "black"})
			return true
		}},
	}
}

func anyOf[T any](rng *rand.Rand, list []T) T { return list[rng.IntN(len(list))] }

func firstOf(c *circuit.Circuit, kind string) *circuit.Device {
	for i := range c.Devices {
		if c.Devices[i].Type == kind {
			return &c.Devices[i]
		}
	}
	return nil
}

func anySwitch(rng *rand.Rand, c *circuit.Circuit) circuit.Device {
	return anyOf(rng, slices.DeleteFunc(slices.Clone(c.Devices), func(d circuit.Device) bool { return !d.Mechanical() }))
}

func screwOf(rng *rand.Rand, c *circuit.Circuit, d circuit.Device) circuit.Ref {
	return circuit.Ref{Owner: d.ID, Part: anyOf(rng, c.Terminals(d))}
}

// twoJoins picks two joins of one box; -1 where it met none.
func twoJoins(rng *rand.Rand, c *circuit.Circuit) (a, b int) {
	for range 20 {
		a, b = rng.IntN(len(c.Joins)), rng.IntN(len(c.Joins))
		if a != b && c.Joins[a].Box == c.Joins[b].Box {
			return a, b
		}
	}
	return -1, -1
}

// exchange puts each of two ends of a box where the other stood.
func exchange(c *circuit.Circuit, box string, x, y circuit.Ref) bool {
	a, b := c.JoinOf(box, x), c.JoinOf(box, y)
	if a < 0 || b < 0 || a == b {
		return false
	}
	i, k := slices.Index(c.Joins[a].Of, x), slices.Index(c.Joins[b].Of, y)
	c.Joins[a].Of[i], c.Joins[b].Of[k] = y, x
	return true
}

func mergeJoins(c *circuit.Circuit, a, b int) bool {
	c.Joins[a].Of = append(c.Joins[a].Of, c.Joins[b].Of...)
	c.Joins = slices.Delete(c.Joins, b, b+1)
	return true
}

func pullOut(c *circuit.Circuit, join, n int) bool {
	j := &c.Joins[join]
	n %= len(j.Of)
	if j.Of = slices.Delete(slices.Clone(j.Of), n, n+1); len(j.Of) == 0 {
		c.Joins = slices.Delete(c.Joins, join, join+1)
	}
	return true
}

func moveTo(c *circuit.Circuit, from, to int, m circuit.Ref) bool {
	c.Joins[from].Of = slices.DeleteFunc(slices.Clone(c.Joins[from].Of), func(x circuit.Ref) bool { return x == m })
	c.Joins[to].Of = append(c.Joins[to].Of, m)
	if len(c.Joins[from].Of) == 0 {
		c.Joins = slices.Delete(c.Joins, from, from+1)
	}
	return true
}

// mergeRoles makes one of two joins of a box of which one holds a core of the first kind of
// colour, the other one of the second.
func mergeRoles(rng *rand.Rand, c *circuit.Circuit, one, other func(core string) bool) bool {
	holds := func(j circuit.Join, is func(string) bool) bool {
		return slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return c.Cable(m.Owner) != nil && is(m.Part) })
	}
	for range 40 {
		a, b := twoJoins(rng, c)
		if a >= 0 && holds(c.Joins[a], one) && holds(c.Joins[b], other) {
			return mergeJoins(c, a, b)
		}
	}
	return false
}

// rebody gives the first switch of a kind the body of another.
func rebody(c *circuit.Circuit, from, to string, screws map[string]string) bool {
	d := firstOf(c, from)
	if d == nil {
		return false
	}
	d.Type = to
	for i := range c.Joins {
		var of []circuit.Ref
		for _, m := range c.Joins[i].Of {
			if m.Owner == d.ID && m.Part != "ground" {
				if screws[m.Part] == "" {
					continue
				}
				m.Part = screws[m.Part]
			}
			of = append(of, m)
		}
		c.Joins[i].Of = of
	}
	c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) == 0 })
	return true
}

// secondSupply brings another breaker's conductor to a join, in the join's box.
func secondSupply(c *circuit.Circuit, hot circuit.Ref, to circuit.Join) bool {
	panel := firstOf(c, circuit.TypeSupply).Box
	c.Devices = append(c.Devices, circuit.Device{ID: hot.Owner, Box: panel, Type: circuit.TypeSupply})
	i := c.JoinOf(to.Box, to.Of[0])
	if to.Box == panel {
		c.Joins[i].Of = append(c.Joins[i].Of, hot)
		return true
	}
	box := to.Box
	c.Cables = append(c.Cables, circuit.Cable{ID: "more", Ends: [2]*string{&panel, &box}, Cores: []string{"red"}})
	c.Joins[i].Of = append(c.Joins[i].Of, circuit.Ref{Owner: "more", Part: "red"})
	c.Joins = append(c.Joins, circuit.Join{Box: panel, Of: []circuit.Ref{hot, {Owner: "more", Part: "red"}}})
	return true
}

// across hangs a device with two poles between two joins of a box.
func across(rng *rand.Rand, c *circuit.Circuit, kind string) bool {
	a, b := twoJoins(rng, c)
	if a < 0 {
		return false
	}
	d := circuit.Device{ID: "more", Box: c.Joins[a].Box, Type: kind}
	if kind == circuit.TypeLamp {
		d.Watts = Float(9)
	}
	c.Devices = append(c.Devices, d)
	c.Joins[a].Of = append(c.Joins[a].Of, circuit.Ref{Owner: "more", Part: "l"})
	c.Joins[b].Of = append(c.Joins[b].Of, circuit.Ref{Owner: "more", Part: "n"})
	return true
}
