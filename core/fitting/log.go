// Package fitting is the work itself, as it is lived: a log of what was done, skipped, found otherwise, proved dead and
// seen, to which is only ever added.
//
// The log is a list of entries. One of them begins a run: the steps from the wiring as it stands to what it is to become,
// written down as they were that day, so that nothing said later changes what was done. All that a page shows of the work
// is read from the log (state.go): which steps are done, which may be done now and why others may not, what is live, which
// wiring stands, and how long it took. Nothing is taken back but by a further entry; and what made things less safe stays
// true though the entry be taken back: a breaker that somebody put on is on until somebody confirms that it is off.
package fitting

import (
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/procedure"
)

// Kind says what an entry tells.
type Kind string

// Kinds of entry.
const (
	Begin   Kind = "begin"   // a run of steps begins
	Done    Kind = "done"    // steps were done
	Skip    Kind = "skip"    // steps were left out, for a reason
	Differs Kind = "differs" // what is there is not as drawn
	Undo    Kind = "undo"    // the last entry that counts is taken back
	Live    Kind = "live"    // something is live that was held to be dead
	Secure  Kind = "secure"  // every breaker off, every box proved dead, once more
	Remark  Kind = "note"    // something to remember
	Press   Kind = "press"   // a control was pressed, and the lamps looked at
	Reading Kind = "reading" // an instrument was read
	Trial   Kind = "trial"   // a place was tried on one path
	Device  Kind = "device"  // a fact of a device: serial, firmware, setting
	Fault   Kind = "fault"   // something that does not work as it should
	End     Kind = "end"     // the run is over, done or not
)

// Ways in which a run goes.
const (
	Forth = "forth" // to the plan
	Back  = "back"  // to the circuit as found
	Mend  = "mend"  // from a mistake that was found to the plan
)

// Run is a stretch of work with its steps, as they were written when it began.
type Run struct {
	Way    string `json:"way"`
	Option string `json:"option"` // of the plan, its id
	Title  string `json:"title"`
	// Revision is the number of that of the record from which the plan was made.
	Revision int `json:"revision"`
	// Start is the wiring as it stood when the run began, After what it is to become.
	Start *circuit.Circuit `json:"start"`
	After *circuit.Circuit `json:"after"`
	Steps []procedure.Step `json:"steps"`
	// Securing is what is confirmed once something was, or may have been, live; Boxes are those that it proves dead.
	Securing []string `json:"securing"`
	Boxes    []string `json:"boxes"`
	// Found is the circuit as found, by the record of that day.
	Found *circuit.Circuit `json:"found"`
	// Minutes is how long each step was thought to take when the run began.
	Minutes []float64 `json:"minutes"`
}

// Entry is one line of the log: what every line has, and what lines of its kind have besides. In a file all of it stands side
// by side.
type Entry struct {
	Number int       `json:"number"` // counted from one
	Time   time.Time `json:"time"`
	By     string    `json:"by,omitempty"`
	Kind   Kind      `json:"kind"`
	Began
	OfSteps
	Note  string `json:"note,omitempty"`
	Value string `json:"value,omitempty"` // what was read or noted
	Photo string `json:"photo,omitempty"`
	FoundLive
	TookBack
	Pressed
	Measured
	Place string `json:"place,omitempty"` // of a trial and of a fact: the device
	Tried
	Fact
}

// Began is what the beginning of a run says.
type Began struct {
	Run *Run `json:"run,omitempty"`
}

// OfSteps is what is said of steps that were done, left out or found otherwise.
type OfSteps struct {
	Steps []int `json:"steps,omitempty"`
	// Asked are the lines that were confirmed, word for word: of steps, and of all off once more.
	Asked  []string `json:"asked,omitempty"`
	Reason string   `json:"reason,omitempty"`
}

// FoundLive is the conductor that is live and was held to be dead.
type FoundLive struct {
	End *circuit.End `json:"end,omitempty"`
}

// TookBack is the entry that one takes back, by its number.
type TookBack struct {
	Of int `json:"of,omitempty"`
}

// Pressed is a control, or none for the start, and how the lamps looked then: "lit", "dark" or "trip" by lamp.
type Pressed struct {
	Press string            `json:"press,omitempty"`
	Lamps map[string]string `json:"lamps,omitempty"`
}

// Measured is a test with what was read.
type Measured struct {
	Test *circuit.Observation `json:"test,omitempty"`
}

// Tried is how one place was tried: on which path (paddle, remote, app), from how the light stood, after how long it obeyed, and
// whether it did.
type Tried struct {
	Path    string  `json:"path,omitempty"`
	From    string  `json:"from,omitempty"`
	Seconds float64 `json:"seconds,omitempty"`
	Works   *bool   `json:"works,omitempty"`
}

// Fact says which fact of a device an entry gives.
type Fact struct {
	Field string `json:"field,omitempty"`
}

// Words says an entry in a few words.
func (e *Entry) Words() string {
	steps := make([]string, len(e.Steps))
	for i, n := range e.Steps {
		steps[i] = strconv.Itoa(n)
	}
	of := "step " + strings.Join(steps, ", ")
	switch e.Kind {
	case Begin:
		return map[string]string{Forth: "began: " + e.Run.title(), Back: "began to put it back", Mend: "began to mend a mistake"}[e.Run.way()]
	case Done:
		return of + " done"
	case Skip:
		return of + " left out: " + e.Reason
	case Differs:
		return of + " is not as drawn: " + e.Note
	case Undo:
		return "entry " + strconv.Itoa(e.Of) + " taken back"
	case Live:
		return "live that was held to be dead: " + e.end()
	case Secure:
		return "all off, locked, labelled, and proved dead anew"
	case Press:
		if e.Press == "" {
			return "looked at the lamps"
		}
		return "pressed " + e.Press
	case Reading:
		return "a reading"
	case Trial:
		how := "as expected"
		if e.Works == nil || !*e.Works {
			how = "not as expected"
		}
		if e.Seconds > 0 {
			how += fmt.Sprintf(", after %g s", e.Seconds)
		}
		return "tried " + e.Place + " by " + e.Path + ": " + how
	case Device:
		return "noted of " + e.Place + ", " + e.Field + ": " + e.Value
	case Fault:
		return "a fault: " + e.Note
	case End:
		return "ended"
	}
	return "noted: " + e.Note
}

func (e *Entry) end() string {
	if e.End == nil {
		return ""
	}
	return e.End.String()
}

func (r *Run) title() string {
	if r == nil {
		return ""
	}
	return r.Title
}

func (r *Run) way() string {
	if r == nil {
		return Forth
	}
	return r.Way
}

// Limits of an entry, in letters and lines.
const (
	mostText  = 2000
	mostLines = 200
	mostSteps = 500
)

// Error says what of an entry cannot be, and where.
type Error struct {
	Code  string // step-locked, not-confirmed, gate-skipped, no-reason, unknown-step, nothing-to-undo, no-run, too-long, unknown-kind, step-barred
	Place string // the field
	Text  string
}

func (e *Error) Error() string { return e.Text }

func refuse(code, place, text string, of ...any) *Error {
	return &Error{code, place, fmt.Sprintf(text, of...)}
}

// Parse reads an entry that somebody sends. The error is an [*Error].
func Parse(data []byte) (Entry, error) {
	var e Entry
	if err := json.Unmarshal(data, &e); err != nil {
		return e, refuse("unreadable", "entry", "this is no entry of a log: %v", err)
	}
	return e, e.fits()
}

// Valid holds a whole log from outside against the form of one: its entries follow each other, steps are steps of their run,
// and what begins a run has a circuit to begin at. Whether each was allowed at its time is not asked again: [Read] trusts
// none of them with what is live. The error is an [*Error].
func Valid(log []Entry) error {
	var run *Run
	for i, e := range log {
		switch {
		case e.Number != i+1:
			return refuse("number", "number", "entry %d stands where %d belongs", e.Number, i+1)
		case (e.Kind == Begin) != (e.Run != nil):
			return refuse("no-run", "run", "entry %d: a run, and only that, begins with its steps", i+1)
		}
		if e.Run != nil {
			if err := e.Run.valid(); err != nil {
				return refuse("run", "run", "entry %d: %v", i+1, err)
			}
			run = e.Run
		}
		if err := e.fits(); err != nil {
			return err
		}
		for _, n := range e.Steps {
			if run == nil || n < 1 || n > len(run.Steps) {
				return refuse("unknown-step", "steps", "entry %d: the run has no step %d", i+1, n)
			}
		}
	}
	return nil
}

func (r *Run) valid() error {
	if r.Start == nil || r.After == nil || r.Found == nil || len(r.Minutes) != len(r.Steps) {
		return errors.New("a run has its wiring at the start and at the end, and a time for each step")
	}
	for _, c := range []*circuit.Circuit{r.Found, r.Start, r.After} {
		if err := c.Validate(); err != nil {
			return err
		}
	}
	for i, s := range r.Steps {
		if s.Number != i+1 {
			return fmt.Errorf("step %d stands where %d belongs", s.Number, i+1)
		}
		for _, e := range s.Edits {
			if e.Edit == nil {
				return fmt.Errorf("step %d has an edit that is none", s.Number)
			}
		}
	}
	return nil
}

// WithPhotos writes an entry with other ids for its photographs.
func WithPhotos(data []byte, ids map[string]string) ([]byte, error) {
	var e Entry
	if err := json.Unmarshal(data, &e); err != nil {
		return nil, err
	}
	if e.Photo == "" {
		return data, nil
	}
	e.Photo = ids[e.Photo] // "" where it is gone
	return json.Marshal(e)
}

// fits holds an entry against the limits.
func (e *Entry) fits() error {
	for _, x := range []struct{ place, text string }{
		{"reason", e.Reason}, {"note", e.Note}, {"value", e.Value}, {"by", e.By}, {"press", e.Press}, {"place", e.Place}, {"path", e.Path}, {"from", e.From}, {"field", e.Field},
	} {
		if len([]rune(x.text)) > mostText {
			return refuse("too-long", x.place, "this is longer than %d letters", mostText)
		}
	}
	if len(e.Asked) > mostLines || len(e.Lamps) > mostLines {
		return refuse("too-long", "asked", "these are more than %d lines", mostLines)
	}
	if len(e.Steps) > mostSteps {
		return refuse("too-long", "steps", "these are more than %d steps", mostSteps)
	}
	return nil
}
