package inspect

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// Alike is findings of one kind that are told in one line. Of are their places in the report.
type Alike struct {
	Severity Severity `json:"severity"`
	Text     string   `json:"text"`
	Of       []int    `json:"of"`
}

// FindingsAlike puts findings that say the same of several places into one line each, in the order
// of the report.
func FindingsAlike(c *circuit.Circuit, findings []Finding) []Alike {
	say := names.For(c)
	out := []Alike{}
	at := map[string]int{} // by code
	for i, f := range findings {
		k, met := at[f.Code]
		if !met {
			k = len(out)
			at[f.Code], out = k, append(out, Alike{Severity: f.Severity})
		}
		out[k].Of = append(out[k].Of, i)
	}
	for k := range out {
		out[k].Text = alike(say, findings, out[k].Of)
	}
	return out
}

// alike says several findings of one code in a line: what they have in common, and where.
func alike(say names.Terms, findings []Finding, of []int) string {
	first := findings[of[0]]
	if len(of) == 1 {
		return first.Text
	}
	switch first.Code {
	case "spare-core":
		cores := named(findings, of, func(e circuit.End) string { return e.Ref.String() }) // counted, not said
		if len(cores) == 1 {
			return "1 spare core, capped at both ends."
		}
		return fmt.Sprintf("%d spare cores, capped at every end seen.", len(cores))
	case "far-end-unknown":
		cables := named(findings, of, func(e circuit.End) string { return say.Cable(e.Owner) })
		return fmt.Sprintf("Not known yet: where %d cables go: %s.", len(cables), strings.Join(cables, ", "))
	case "not-recorded-yet":
		boxes := named(findings, of, say.Where)
		return "Nothing is recorded yet of how the conductors are joined in " + strings.Join(boxes, ", ") + "."
	}
	return fmt.Sprintf("%s And %d more like it.", first.Text, len(of)-1)
}

// named lists what the ends of findings are called by, each once.
func named(findings []Finding, of []int, name func(circuit.End) string) []string {
	var out []string
	for _, i := range of {
		for _, e := range findings[i].At {
			if n := name(e); !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	return out
}
