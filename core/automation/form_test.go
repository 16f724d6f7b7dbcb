package automation

import (
	"bytes"
	"encoding/csv"
	"errors"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"

	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// TestForms: each way to make the links of some plans, written as JSON, holds to its schema; the table has a line for each
// rule and mirror, and YAML says the same as JSON.
func TestForms(t *testing.T) {
	loaded, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		t.Fatal(err)
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("rules.json", loaded); err != nil {
		t.Fatal(err)
	}
	schema, err := compiler.Compile("rules.json")
	if err != nil {
		t.Fatal(err)
	}
	write := func(f *Form, as string) string {
		t.Helper()
		var b strings.Builder
		if err := f.Write(&b, as); err != nil {
			t.Fatal(err)
		}
		return b.String()
	}
	topics := []Topic{{"ambivia/m1/state", `{"switch":"on"}`, "kept"}}
	for key, o := range linked(t, 3) {
		sets := setsOf(t, o)
		for i := range sets {
			s := &sets[i]
			f := FormOf(s.Doc, s, s.Report, topics, []string{"evening: on at full, at 18:00"})
			value, err := jsonschema.UnmarshalJSON(strings.NewReader(write(f, "json")))
			if err != nil {
				t.Fatal(err)
			}
			if err := schema.Validate(value); err != nil {
				t.Errorf("%s, %s: %v", key, s.Kind, err)
			}
			if flawed := f.Verdict == rehearsal.Flawed; flawed != (len(f.Flaws) > 0) {
				t.Errorf("%s, %s: %s, with the flaws %v", key, s.Kind, f.Verdict, f.Flaws)
			}
			rows, err := csv.NewReader(strings.NewReader(write(f, "csv"))).ReadAll()
			if err != nil || len(rows) != 1+s.Rules+s.Mirrors+1 {
				t.Errorf("%s, %s: %d rows for %d rules and %d mirrors, %v", key, s.Kind, len(rows), s.Rules, s.Mirrors, err)
			}
			var back struct{ Rules []map[string]any }
			if err := yaml.Unmarshal([]byte(write(f, "yaml")), &back); err != nil || len(back.Rules) != s.Rules {
				t.Errorf("%s, %s: %d rules as YAML, %v", key, s.Kind, len(back.Rules), err)
			}
		}
	}
	// A level is a number in each form, and left out where the last one is taken.
	o := linked(t, 2)[retrofit.Paired+" radio"]
	s := Of(setsOf(t, o), Scenes)
	f := FormOf(s.Doc, s, s.Report, topics, nil)
	rows, err := csv.NewReader(strings.NewReader(write(f, "csv"))).ReadAll()
	if err != nil || rows[1][5] != "" || rows[3][5] != "25" || !strings.Contains(write(f, "yaml"), "level: 25") || strings.Count(write(f, "json"), `"level"`) != 6 {
		t.Errorf("levels: %v, %v", rows, err)
	}
	if err := f.Write(&strings.Builder{}, "xml"); !errors.Is(err, ErrNoForm) {
		t.Errorf("as xml: %v", err)
	}
}
