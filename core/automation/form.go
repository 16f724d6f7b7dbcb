package automation

import (
	"bytes"
	_ "embed"
	"encoding/csv"
	"encoding/json"
	"errors"
	"io"
	"strconv"

	"github.com/goccy/go-yaml"

	"ambivia/core/circuit"
	"ambivia/core/limits"
	"ambivia/core/rehearsal"
)

// Format is the value of the format field of a file of rules.
const Format = "ambivia-rules/1"

// Schema is the JSON Schema of a file of rules.
//
//go:embed schema.json
var Schema []byte

// Form is a set of rules as a file for whoever enters them: what each device is and how it is set, each rule with its words,
// the topics of a broker, and what was found when it was tried out.
type Form struct {
	Format   string       `json:"format"`
	Circuit  string       `json:"circuit"`
	Title    string       `json:"title"`
	Verdict  string       `json:"verdict"` // "sound" or "flawed"
	Flaws    []string     `json:"flaws"`
	Devices  []FormDevice `json:"devices"`
	Rules    []FormRule   `json:"rules"`
	Mirrors  []FormMirror `json:"mirrors"`
	Topics   []Topic      `json:"topics"`
	Settings []Setting    `json:"settings"`
	// Timed is what schedules, alarms and absences ask of the light, in words; left out where nobody said.
	Timed []string `json:"timed,omitempty"`
}

// FormDevice is a device of a form.
type FormDevice struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Model string `json:"model"`
}

// FormRule is a rule of a form. Level is a percentage, left out where the last level is taken.
type FormRule struct {
	ID     string `json:"id"`
	Device string `json:"device"`
	Event  string `json:"event"`
	Tells  string `json:"tells"`
	Action string `json:"action"`
	Level  *int   `json:"level,omitempty"`
	Via    string `json:"via"`
	Words  string `json:"words"`
}

// FormMirror is a device that follows another, and with both the other way round.
type FormMirror struct {
	From string `json:"from"`
	To   string `json:"to"`
	Both bool   `json:"both"`
	Via  string `json:"via"`
}

// Topic is a topic of a broker, with an example of its payload and who sends it when.
type Topic struct {
	Topic   string `json:"topic"`
	Payload string `json:"payload"`
	Who     string `json:"who"`
}

// FormOf writes the rules of a document as a form: of a way to make the links of a plan, or, where that is nil, of what the
// circuit has itself. Timed is what is asked of the light by time, in words.
func FormOf(doc *circuit.Circuit, set *Set, report *rehearsal.Report, topics []Topic, timed []string) *Form {
	f := &Form{Timed: timed, Format: Format, Circuit: doc.Name, Title: "As recorded", Verdict: report.Verdict, Flaws: []string{}, Devices: []FormDevice{}, Rules: []FormRule{}, Mirrors: []FormMirror{}, Topics: topics, Settings: []Setting{}}
	if set != nil {
		f.Title, f.Settings = set.Title, set.Settings
	}
	for _, p := range report.Properties {
		if !p.Holds {
			f.Flaws = append(f.Flaws, p.Text)
		}
	}
	for _, s := range rehearsal.Speakers(doc) {
		f.Devices = append(f.Devices, FormDevice{s.Device, s.Name, doc.Device(s.Device).Model})
	}
	if a := doc.Automation; a != nil {
		for _, r := range a.Rules {
			f.Rules = append(f.Rules, FormRule{r.ID, r.When.Device, r.When.Event, r.Then.Device, r.Then.Action, r.Then.Level, r.Via, rehearsal.RuleWords(doc, r)})
		}
		for _, m := range a.Mirrors {
			f.Mirrors = append(f.Mirrors, FormMirror(m))
		}
	}
	return f
}

// ErrNoForm is what [Form.Write] says of a form that there is none of.
var ErrNoForm = errors.New("rules are written as json, csv or yaml")

// Write writes the form as "json", as its schema says, as "csv", the rules as a table, or as "yaml", to be read by people.
func (f *Form) Write(w io.Writer, as string) error {
	switch as {
	case "json":
		return f.json(w)
	case "csv":
		return f.csv(w)
	case "yaml":
		return f.yaml(w)
	}
	return ErrNoForm
}

func (f *Form) json(w io.Writer) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(f)
}

func (f *Form) yaml(w io.Writer) error {
	var b bytes.Buffer
	if err := f.json(&b); err != nil {
		return err
	}
	data, err := yaml.JSONToYAML(b.Bytes())
	if err != nil {
		return err
	}
	_, err = w.Write(data)
	return err
}

// csv writes the rules as a table, mirrors after them, and what is asked by time last.
func (f *Form) csv(w io.Writer) error {
	name := map[string]string{}
	for _, d := range f.Devices {
		name[d.ID] = d.Name
	}
	rows := [][]string{{"rule", "where", "what happens there", "who is told", "what", "level %", "over", "in words"}}
	for _, r := range f.Rules {
		level := ""
		if r.Level != nil {
			level = strconv.Itoa(*r.Level)
		}
		rows = append(rows, []string{r.ID, name[r.Device], rehearsal.GestureWords(r.Event), name[r.Tells], r.Action, level, r.Via, r.Words})
	}
	for _, m := range f.Mirrors {
		both := "follows"
		if m.Both {
			both = "follows, and the other way round"
		}
		rows = append(rows, []string{"", name[m.From], "its switch changes", name[m.To], both, "", m.Via, ""})
	}
	for _, text := range f.Timed {
		rows = append(rows, []string{"", "", "by time, or by an alarm", "", "", "", "", text})
	}
	for _, row := range rows {
		for i, cell := range row {
			row[i] = limits.Cell(cell)
		}
	}
	return csv.NewWriter(w).WriteAll(rows)
}
