package names

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// Breaker names the breaker of a supply as the practice calls it, by its label where it has one: "breaker 7".
func (s Terms) Breaker(supply string) string {
	word := s.Word("breaker")
	first := true
	var unnamed []string
	name := ""
	for _, d := range s.doc.Devices {
		if d.Type != circuit.TypeSupply {
			continue
		}
		label := d.Breaker
		if label == "" && first && s.doc.Supply != nil {
			label = s.doc.Supply.BreakerLabel
		}
		first = false
		if label == "" && !circuit.Blank(d.Name) {
			label = d.Name
		}
		if label == "" {
			unnamed = append(unnamed, d.ID)
		}
		if d.ID == supply {
			name = label
		}
	}
	switch {
	case name == "" && first && s.doc.Supply != nil:
		name = s.doc.Supply.BreakerLabel
	case name == "" && len(unnamed) > 1:
		return fmt.Sprintf("%s %s", word, lettered(place(supply, unnamed)))
	}
	for p := range practice.Each() { // many labels say it themselves
		if said := p.Word("breaker"); len(name) >= len(said) && strings.EqualFold(name[:len(said)], said) {
			if said == word {
				return name
			}
			name = strings.TrimSpace(name[len(said):])
		}
	}
	return strings.TrimSpace(word + " " + name)
}

// Breakers names the breaker of each supply of the circuit, the one of the circuit where none is recorded.
func (s Terms) Breakers() []string {
	var out []string
	for _, d := range s.doc.Devices {
		if d.Type == circuit.TypeSupply {
			out = append(out, s.Breaker(d.ID))
		}
	}
	if len(out) == 0 {
		out = append(out, s.Breaker(""))
	}
	return out
}
