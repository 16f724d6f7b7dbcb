package demo

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
	"ambivia/core/survey"
)

// foreign words of each practice: what people of another one say for the same
// thing.
var foreign = map[string][]string{
	"na": {"earth", "strapper", "traveller", "two-way", "intermediate", "crossover", "mcb", "permanent live", "consumer unit", "phase", "fly lead", "terminal block"},
	"uk": {"ground", "traveler", "3-way", "4-way", "panel", "breaker", "crossover", "phase", "pigtail", "terminal block"},
	"au": {"ground", "traveler", "3-way", "4-way", "panel", "mcb", "permanent live", "phase", "pigtail", "terminal block"},
	"in": {"ground", "traveler", "strapper", "3-way", "4-way", "panel", "breaker", "permanent live", "pigtail"},
	"eu": {"ground", "traveler", "strapper", "3-way", "4-way", "panel", "breaker", "intermediate", "permanent live", "pigtail"},
}

// said lists all that the program says of a circuit to a person.
func said(t *testing.T, v any) []string {
	t.Helper()
	data, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	var plain any
	if err := json.Unmarshal(data, &plain); err != nil {
		t.Fatal(err)
	}
	var out []string
	var walk func(key string, v any)
	walk = func(key string, v any) {
		switch v := v.(type) {
		case map[string]any:
			for k, x := range v {
				walk(k, x)
			}
		case []any:
			for _, x := range v {
				walk(key, x)
			}
		case string:
			switch key {
			case "screw", "what", "note", "role":
				if v != "ground" && v != "traveler" { // a role is canonical in data
					out = append(out, v)
				}
			case "text", "advice", "lines", "title", "about", "pros", "cons", "understood", "next", "holds":
				out = append(out, v)
			}
		}
	}
	walk("", plain)
	return out
}

// TestWordsOfThePractice: every message, plan and drawing of every demo circuit
// speaks the words of its practice and no other's, whichever practice it is
// switched to; and switching changes nothing electrical.
func TestWordsOfThePractice(t *testing.T) {
	for _, job := range Jobs() {
		for _, c := range job.Circuits {
			was := survey.Read(inspect.Compile(c)).Report
			for _, p := range practice.All() {
				doc := c.Clone()
				doc.Practice = p.ID
				reading := survey.Read(inspect.Compile(doc))
				if now := reading.Report; fmt.Sprint(now.Roles) != fmt.Sprint(was.Roles) || now.States != was.States || fmt.Sprint(now.Controls) != fmt.Sprint(was.Controls) {
					t.Errorf("%s: switching to %s changes what the circuit does", c.Name, p.ID)
				}
				plan := retrofit.Plan(doc)
				texts := append(said(t, reading), said(t, plan)...)
				var b bytes.Buffer
				drawn := map[string]bool{}
				for _, o := range plan.Options {
					if !o.Feasible || drawn[o.Strategy] {
						continue
					}
					drawn[o.Strategy] = true
					work := procedure.For(inspect.Compile(doc), &o, nil)
					back, err := work.Back(len(work.Steps))
					if err != nil {
						t.Fatal(err)
					}
					for _, x := range []any{work.Steps, work.Materials(), work.Rooms(), work.Labels(), back.Steps} {
						texts = append(texts, said(t, x)...)
					}
					if err := diagram.Schematic(inspect.Compile(o.After), "x").File(&b, diagram.Block{}); err != nil {
						t.Fatal(err)
					}
				}
				if err := diagram.Layout(doc).Draw(inspect.Compile(doc), "x", nil).File(&b, diagram.Block{}); err != nil {
					t.Fatal(err)
				}
				for _, m := range svgText.FindAllStringSubmatch(b.String(), -1) {
					texts = append(texts, m[1])
				}
				for _, text := range texts {
					plain := strings.ToLower(text)
					for _, b := range doc.Boxes { // names are the user's own words
						plain = strings.ReplaceAll(plain, strings.ToLower(b.Label()), "")
					}
					for _, word := range foreign[p.ID] {
						if strings.Contains(plain, word) {
							t.Errorf("%s in %s says %q, which is another practice's: %s", c.Name, p.ID, word, text)
						}
					}
				}
			}
		}
	}
}
