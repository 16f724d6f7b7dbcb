package circuittest

import "ambivia/core/circuit"

// colours of other practices for those in which houses are made here.
var colours = map[string]map[string]string{
	"uk": {"black": "brown", "white": "blue", "bare": "green-yellow", "red": "grey", "blue": "black", "yellow": "white", "brown": "red", "orange": "yellow", "purple": "purple"},
	"au": {"black": "red", "white": "black", "bare": "green-yellow", "red": "white", "blue": "blue", "yellow": "yellow", "brown": "brown", "orange": "grey", "purple": "orange"},
	"in": {"black": "red", "white": "black", "bare": "green", "red": "yellow", "blue": "blue", "yellow": "white", "brown": "grey", "orange": "brown", "purple": "orange"},
	"eu": {"black": "brown", "white": "blue", "bare": "green-yellow", "red": "black", "blue": "grey", "yellow": "yellow", "brown": "white", "orange": "orange", "purple": "purple"},
}

// In gives a circuit the practice and, core by core, its colours.
func In(c *circuit.Circuit, practice string) *circuit.Circuit {
	out := c.Clone()
	if out.Practice = practice; practice == "na" {
		return out
	}
	if out.Supply != nil {
		out.Supply.Volts = nil
	}
	rename := func(core string) string {
		if to, ok := colours[practice][core]; ok {
			return to
		}
		return core
	}
	isCable := map[string]bool{}
	for i, k := range out.Cables {
		isCable[k.ID] = true
		cores := make([]string, len(k.Cores))
		for n, core := range k.Cores {
			cores[n] = rename(core)
		}
		out.Cables[i].Cores, out.Cables[i].Gauge = cores, ""
	}
	for i := range out.Joins {
		of := make([]circuit.Ref, len(out.Joins[i].Of))
		for n, m := range out.Joins[i].Of {
			if of[n] = m; isCable[m.Owner] {
				of[n].Part = rename(m.Part)
			}
		}
		out.Joins[i].Of = of
	}
	for i := range out.Marks {
		out.Marks[i].End.Part = rename(out.Marks[i].End.Part)
	}
	return out
}
