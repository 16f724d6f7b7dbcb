package retrofit

import (
	"maps"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// onOnePole is a circuit in which no neutral is switched: what one switch breaks with two poles a plan breaks in the line alone,
// and the neutral is joined through where the second pole was. Most circuits have none, and stay as they are.
func onOnePole(k *inspect.Compiled) *inspect.Compiled {
	poles := k.Network.Poles()
	if len(poles) == 0 {
		return k
	}
	c := k.Doc.Clone()
	for _, second := range slices.Sorted(maps.Keys(poles)) {
		box := c.Device(second).Box
		a, b := c.JoinOf(box, circuit.Ref{Owner: second, Part: "a"}), c.JoinOf(box, circuit.Ref{Owner: second, Part: "b"})
		c.Joins[a].Of = append(c.Joins[a].Of, c.Joins[b].Of...)
		c.Joins = slices.Delete(c.Joins, b, b+1)
		c.Devices = slices.DeleteFunc(c.Devices, func(d circuit.Device) bool { return d.ID == second })
		for i := range c.Joins {
			c.Joins[i].Of = slices.DeleteFunc(c.Joins[i].Of, func(m circuit.Ref) bool { return m.Owner == second })
		}
		c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) == 0 })
	}
	return inspect.Compile(c)
}
