package inspect

import (
	"strings"

	"ambivia/core/circuit"
)

// Breakers names the breaker of each supply of a circuit as the practice calls it, with its label where it has one.
func (t Terms) Breakers(c *circuit.Circuit) []string {
	of := ""
	if c.Supply != nil {
		of = c.Supply.BreakerLabel
	}
	var out []string
	word := t.Word("breaker")
	name := func(label string) {
		if !strings.HasPrefix(strings.ToLower(label), strings.ToLower(word)) { // many labels say it themselves
			label = strings.TrimSpace(word + " " + label)
		}
		out = append(out, label)
	}
	for _, d := range c.Devices {
		if d.Type != circuit.TypeSupply {
			continue
		}
		label := d.Breaker
		if label == "" && len(out) == 0 {
			label = of
		}
		if label == "" && !circuit.Blank(d.Name) {
			label = d.Name
		}
		name(label)
	}
	if len(out) == 0 {
		name(of)
	}
	return out
}
