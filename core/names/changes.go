package names

import "ambivia/core/circuit"

// Changes says what differs between two versions of a circuit, a line each, for a person who saw the first.
func Changes(before, after *circuit.Circuit) []string {
	was, now := For(before), For(after)
	out := []string{}
	for _, d := range circuit.Diff(before, after) {
		say := now
		if d.How == "removed" {
			say = was
		}
		var what string
		switch d.Kind {
		case "box":
			what = say.Label(d.ID)
		case "cable":
			what = Capitalize(say.Cable(d.ID))
		case "device":
			what = say.Bare(d.ID)
		case circuit.DiffWiring:
			what = say.Label(d.ID) + ": wiring"
		case circuit.DiffCircuit:
			what = "Description of the circuit"
		case circuit.DiffMarks:
			what = "Marks"
		case circuit.DiffReadings:
			what = "Readings"
		default:
			what = "Smart models or links"
		}
		out = append(out, what+" "+d.How)
	}
	return out
}
