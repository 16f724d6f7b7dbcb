package circuittest

import (
	"slices"

	"ambivia/core/circuit"
)

// Spacious is a chain of so many controls with cores to spare, so that every strategy finds its place in it.
func Spacious(controls int) *circuit.Circuit {
	c := Chain(controls)
	for i, k := range c.Cables {
		for _, core := range []string{"yellow", "purple"} {
			if !slices.Contains(k.Cores, core) {
				c.Cables[i].Cores = append(slices.Clone(c.Cables[i].Cores), core)
			}
		}
	}
	return c
}
