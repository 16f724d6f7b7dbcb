// Package inspect says in words what a recorded circuit does, what is wrong
// with it and what its record still lacks.
//
// Package electric reports facts about states; this package turns them, and
// the record itself, into findings: a code, a severity, plain words of the
// practice, the ends concerned, and what to do. Rules come from the practice's
// own custom and are never law: local code decides.
package inspect

import (
	"cmp"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/practice"
)

// Severity orders findings: an error keeps a circuit from being called
// working, a warning is to be mended, a note is to be known.
type Severity string

// Severities.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
	Note    Severity = "note"
)

// Verdicts of a check. What was explored or entered in part, and shows no error as far as it
// was, is unknown.
const (
	Works   = "works"
	Faulty  = "faulty"
	Unknown = "unknown"
)

// Finding is one thing to know about the circuit. Advice says what to do. State
// is one state that shows the finding, empty where every state does or none
// matters.
type Finding struct {
	Code     string         `json:"code"`
	Severity Severity       `json:"severity"`
	Text     string         `json:"text"`
	Advice   string         `json:"advice,omitempty"`
	At       []circuit.End  `json:"at"`
	State    map[string]int `json:"state"`
	// Lines is a count that led to the finding, line by line.
	Lines []string `json:"lines,omitempty"`
	// Tight: it may fit all the same; only trying tells.
	Tight bool `json:"tight,omitempty"`
}

// Lamp is what one lamp does in one state. Volts are rounded to a thousandth.
type Lamp struct {
	Volts float64 `json:"volts"`
	Lit   bool    `json:"lit"`
}

// Row is one state of the table.
type Row struct {
	State     map[string]int  `json:"state"`
	Lamps     map[string]Lamp `json:"lamps"`
	Unpowered []string        `json:"asleep"`
	Faults    []string        `json:"faults"`
}

// Control says whether one control toggles its lamps from every state.
type Control struct {
	Device string   `json:"device"`
	Works  bool     `json:"works"`
	Lamps  []string `json:"lamps,omitempty"`
}

// Report is the answer of a check, in the shape of the command line.
type Report struct {
	Verdict  string                        `json:"verdict"`
	States   int                           `json:"states"`
	Findings []Finding                     `json:"findings"`
	Table    []Row                         `json:"table"`
	Controls []Control                     `json:"controls"`
	Roles    map[circuit.End]electric.Role `json:"roles"`
}

// inspector gathers findings while it walks one circuit.
type inspector struct {
	doc      *circuit.Circuit
	net      *electric.Network
	result   *electric.Result
	roles    map[circuit.End]electric.Role
	practice practice.Practice
	found    []Finding
	begun    bool                    // there are boxes of which nothing is entered yet
	half     bool                    // there are devices that hang on what is not followed, and on no supply
	feeds    map[string][]string     // by box: the supplies whose conductors are in it
	reach    map[string]map[int]bool // by supply: the conductors that its line reaches, whatever a switch may join to it
}

// Check simulates every reachable state of a valid circuit and reports.
func Check(c *circuit.Circuit) *Report {
	return Compile(c).Report()
}

// ReportOn reports on a circuit that was explored already.
func ReportOn(result *electric.Result) *Report {
	doc := result.Network.Doc()
	i := &inspector{
		doc: doc, net: result.Network, result: result,
		roles: result.Network.Roles(), practice: practice.For(doc),
	}
	i.findFeeds()
	i.recordFindings()
	i.stateFindings()
	if !i.begun { // else what these tell only follows from what is not entered
		i.controlFindings()
		i.colourFindings()
	}
	i.wiringFindings()
	i.numberFindings()
	slices.SortStableFunc(i.found, func(a, b Finding) int { return cmp.Compare(rank[a.Severity], rank[b.Severity]) })
	return i.report()
}

var rank = map[Severity]int{Error: 0, Warning: 1, Note: 2}

func (i *inspector) add(code string, severity Severity, at []circuit.End, text, advice string) {
	if at == nil {
		at = []circuit.End{}
	}
	i.found = append(i.found, Finding{Code: code, Severity: severity, Text: text, Advice: advice, At: at, State: map[string]int{}})
}

func (i *inspector) report() *Report {
	r := &Report{Verdict: Works, States: len(i.result.States), Findings: i.found, Roles: map[circuit.End]electric.Role{}}
	if r.Findings == nil {
		r.Findings = []Finding{}
	}
	if i.result.Truncated || i.begun || i.half {
		r.Verdict = Unknown
	}
	if slices.ContainsFunc(i.found, func(f Finding) bool { return f.Severity == Error }) {
		r.Verdict = Faulty
	}
	lamps := i.net.LampIDs()
	r.Table = make([]Row, len(i.result.States))
	for n, s := range i.result.States {
		row := Row{State: i.net.Keys(s.State), Lamps: make(map[string]Lamp, len(lamps)), Unpowered: []string{}, Faults: []string{}}
		for l, id := range lamps {
			row.Lamps[id] = Lamp{round(s.Volts[l]), s.Lit[l]}
		}
		row.Unpowered = append(row.Unpowered, s.Unpowered...)
		for _, f := range s.Faults {
			if !slices.Contains(row.Faults, string(f.Kind)) {
				row.Faults = append(row.Faults, string(f.Kind))
			}
		}
		r.Table[n] = row
	}
	r.Controls = []Control{}
	for _, c := range i.result.Controls {
		r.Controls = append(r.Controls, Control{c.Device, c.Works, c.Lamps})
	}
	for e, role := range i.roles {
		if e.Box != "" {
			r.Roles[e] = role
		}
	}
	return r
}

func round(v float64) float64 { return float64(int64(v*1000+0.5)) / 1000 }
