package survey_test

import (
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/practice"
	"ambivia/core/survey"
)

// TestUsualDrawn: in every practice each usual box that is offered behind a cable, or behind one that
// nobody can name, can be added there, and stands in the circuit as it was drawn by itself.
func TestUsualDrawn(t *testing.T) {
	for _, p := range practice.All() {
		c := &circuit.Circuit{Format: circuit.Format, Practice: p.ID, Boxes: []circuit.Box{}, Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{}}
		for round := range 3 {
			cables := []string{""}
			for _, k := range c.Cables {
				if k.Stub() {
					cables = append(cables, k.ID)
				}
			}
			var next *circuit.Circuit
			for _, cable := range cables {
				usual := survey.UsualBoxes(c, cable)
				if len(usual) == 0 {
					t.Errorf("%s, round %d: nothing may stand behind %q", p.ID, round, cable)
				}
				for _, u := range usual {
					via := cable
					if u.Via == "" {
						via = ""
					}
					got, _, err := survey.Apply(c, survey.AddBox{Preset: u.ID, Cable: via})
					if err != nil {
						t.Errorf("%s, %s behind %q: %v", p.ID, u.ID, cable, err)
						continue
					}
					box := got.Boxes[len(got.Boxes)-1].ID
					in := 0
					for _, k := range got.Cables {
						if k.In(box) {
							in++
						}
					}
					if in != u.Cables || len(got.Joins)-len(c.Joins) != len(u.Alone.Joins) || u.Title == "" || u.Cores < 2 {
						t.Errorf("%s, %s behind %q: %d cables and %d joins, drawn with %d and %d", p.ID, u.ID, cable, in, len(got.Joins)-len(c.Joins), u.Cables, len(u.Alone.Joins))
					}
					next = got
				}
			}
			c = next
		}
	}
}
