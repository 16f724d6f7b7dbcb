package fitting

import (
	"slices"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/procedure"
)

// Status of a step.
type Status string

// A step waits for others (locked), may be done (open), or was settled in one of three ways.
const (
	Locked  Status = "locked"
	Open    Status = "open"
	Settled Status = "done"
	Skipped Status = "skipped"
	Differ  Status = "differs"
)

// StepState is how far a step is.
type StepState struct {
	Number int    `json:"number"`
	Status Status `json:"status"`
	Why    string `json:"why,omitempty"`    // a locked one waits, in words
	Barred string `json:"barred,omitempty"` // an open one cannot be done, only left out: one before it was
	Entry  int    `json:"entry,omitempty"`  // that settled it
	// Alike are the open steps that may be ticked with it in one go, itself among them.
	Alike []int `json:"alike,omitempty"`
	// Stay are the steps from an open one to the end of its stay at one place that may be ticked in one go.
	Stay []int `json:"stay,omitempty"`
}

// State is how the work stands.
type State struct {
	Run     *Run // of the last run; nil where none was begun
	Begun   int  // its entry
	Entries []Entry
	Steps   []StepState
	Now     int // the step to be done next, 0 where none may
	// Power: "on" where a breaker may be on, "off" where every one was confirmed to be off.
	Power string
	Since time.Time // of Power
	// Proved are the boxes that were proved dead since the power went off.
	Proved []string
	// Secure is what must be confirmed before any step with metal, where the log knows of something live that no step
	// to come turns off; nil where it knows of none.
	Secure []string
	// Stopped is the entry that says that something is not as drawn; nil where the run goes on.
	Stopped *Entry
	clear   bool // bare ends are capped and people away, since the power went on
	Undo    int  // the entry that may be taken back, 0 where none may
	Over    bool // the run is ended, or all its steps are settled
	undone  map[int]bool
}

// Read reads a log.
func Read(log []Entry) *State {
	s := &State{Power: "on", Entries: log, undone: map[int]bool{}}
	for _, e := range log {
		if e.Kind == Undo {
			s.undone[e.Of] = true
		}
	}
	ended := false
	for i := range log {
		e := &log[i]
		switch {
		case e.Kind == Begin:
			s.begin(e)
			ended = false
		case e.Kind == End:
			ended = true
		case s.Run != nil:
			s.take(e)
		case e.Kind == Reading:
			s.read(e, s.undone[e.Number])
		case e.Kind == Press || e.Kind == Trial:
			s.on(e)
		}
	}
	s.Undo = s.undoable()
	if s.Run == nil {
		return s
	}
	settled := !slices.ContainsFunc(s.Steps, func(x StepState) bool { return x.Status == Locked || x.Status == Open })
	s.Over = ended || settled && s.Stopped == nil
	s.unlock()
	return s
}

func (s *State) begin(e *Entry) {
	s.Run, s.Begun, s.Stopped = e.Run, e.Number, nil
	s.Power, s.Since, s.Proved, s.Secure, s.clear = "on", e.Time, nil, nil, false
	s.Steps = make([]StepState, len(s.Run.Steps))
	for i := range s.Steps {
		s.Steps[i] = StepState{Number: i + 1, Status: Locked}
	}
}

// take takes an entry of the run in. Of what was taken back only that counts which made things less safe.
func (s *State) take(e *Entry) {
	undone := s.undone[e.Number]
	switch e.Kind {
	case Done, Skip, Differs:
		for _, n := range e.Steps {
			step := s.step(n)
			if step == nil {
				continue
			}
			if !undone {
				s.Steps[n-1].Status, s.Steps[n-1].Entry = map[Kind]Status{Done: Settled, Skip: Skipped, Differs: Differ}[e.Kind], e.Number
			}
			if e.Kind == Done {
				s.power(e, step, undone)
			}
		}
		if e.Kind == Differs && !undone {
			s.Stopped = e
		}
	case Live:
		s.Power, s.Since, s.Proved, s.Secure, s.clear = "on", e.Time, nil, s.Run.Securing, false
	case Secure:
		if !undone {
			s.Power, s.Since, s.Proved, s.Secure = "off", e.Time, s.Run.Boxes, nil
		}
	case Reading:
		s.read(e, undone)
	case Press, Trial:
		s.on(e)
	}
}

// power follows what a step does to it.
func (s *State) power(e *Entry, step *procedure.Step, undone bool) {
	switch {
	case step.Kind == procedure.KindPowerOn:
		s.Power, s.Since, s.Proved, s.Secure, s.clear = "on", e.Time, nil, nil, false
		if undone { // no step says any more that it goes off
			s.Secure = s.Run.Securing
		}
	case undone:
	case step.Gate == procedure.OffGate:
		s.Power, s.Since = "off", e.Time
	case step.Gate == procedure.DeadGate:
		s.Proved = append(s.Proved, step.Box)
	case step.Gate == procedure.AgainGate:
		s.Power, s.Since, s.Proved, s.Secure = "off", e.Time, s.Run.Boxes, nil
	}
}

// step is one of the run, nil where it has none of that number.
func (s *State) step(n int) *procedure.Step {
	if s.Run == nil || n < 1 || n > len(s.Run.Steps) {
		return nil
	}
	return &s.Run.Steps[n-1]
}

// unlock opens the steps that may be done.
func (s *State) unlock() {
	if s.Over || s.Stopped != nil {
		for i := range s.Steps {
			if s.Steps[i].Status == Locked {
				s.Steps[i].Why = "Something is not as drawn: settle that first."
				if s.Over {
					s.Steps[i].Why = "The run is over."
				}
			}
		}
		return
	}
	stands, _ := s.Stands()
	for i := range s.Steps {
		x := &s.Steps[i]
		if x.Status != Locked {
			continue
		}
		if x.Why = s.waits(i); x.Why != "" {
			continue
		}
		x.Status, x.Barred = Open, barred(&s.Run.Steps[i], stands)
		if s.Now == 0 {
			s.Now = x.Number
		}
	}
	for i := range s.Steps {
		if s.Steps[i].Status == Open {
			s.Steps[i].Alike = s.alike(i)
			if i+1 == s.Now {
				s.Steps[i].Stay = s.stay(i)
			}
		}
	}
}

// waits says what a step waits for, or "". Steps go phase by phase, and in a box one after the other; gates, and what
// concerns all boxes, hold for all that follows. Whatever the order: nothing with bare metal is open while a breaker may
// be on or the box was not proved dead since.
func (s *State) waits(i int) string { return s.waitsBut(i, nil) }

// waitsBut says what a step waits for once some others were done.
func (s *State) waitsBut(i int, done []int) string {
	step := &s.Run.Steps[i]
	for k := range i {
		before := &s.Run.Steps[k]
		if status := s.Steps[k].Status; status == Settled || status == Skipped || slices.Contains(done, k+1) {
			continue
		}
		sameBox := before.Box == step.Box || before.Box == "" || step.Box == ""
		if before.Phase != step.Phase || sameBox || before.Gate != "" || before.Kind == procedure.KindPowerOf {
			return "Step " + itoa(k+1) + " comes first."
		}
	}
	return s.unsafe(step)
}

// barred says why a step whose turn it is cannot be done on the wiring as it stands, or "".
func barred(step *procedure.Step, stands *circuit.Circuit) string {
	if stands == nil {
		return "The wiring as it stands is not known."
	}
	if err := do(stands.Clone(), step); err != nil {
		return "A step before it was left out: " + err.Error() + "."
	}
	return ""
}

// unsafe says why a step may not be done as the power stands, or "".
func (s *State) unsafe(step *procedure.Step) string {
	if s.Secure != nil && (step.Metal || step.Kind == procedure.KindPowerOn) {
		return "Something is live that was held to be dead: make it safe first."
	}
	if !step.Metal {
		return ""
	}
	if s.Power != "off" {
		return "The power may be on: confirm that it is off, locked and labelled, and prove the box dead."
	}
	for _, box := range s.Run.Boxes {
		if (step.Box == box || step.Box == "") && !slices.Contains(s.Proved, box) {
			return "This box was not proved dead since the power went off."
		}
	}
	return ""
}

// Kinds of step of which several are ticked in one go: they are alike, and none makes anything live or safe.
var grouped = []string{procedure.KindLabel, procedure.KindMark, procedure.KindCap, procedure.KindCheck, procedure.KindClose, procedure.KindSet}

// alike lists the open steps of the same kind and phase; what is looked at or set is alike only in the same words, or where
// the same presses show it.
func (s *State) alike(i int) []int {
	step := &s.Run.Steps[i]
	if !slices.Contains(grouped, step.Kind) {
		return nil
	}
	var out []int
	for k := range s.Run.Steps {
		other := &s.Run.Steps[k]
		if s.Steps[k].Status == Open && s.Steps[k].Barred == "" && other.Kind == step.Kind && other.Phase == step.Phase && other.Gate == "" &&
			(other.Text == step.Text || step.Proves && other.Proves || step.Kind != procedure.KindCheck && step.Kind != procedure.KindSet) {
			out = append(out, k+1)
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// undoable is the last entry of the run that counts and can be taken back.
func (s *State) undoable() int {
	for i := len(s.Entries) - 1; i >= 0; i-- {
		switch e := &s.Entries[i]; {
		case e.Number <= s.Begun || e.Kind == End || e.Kind == Begin:
			return 0
		case e.Kind == Undo || s.undone[e.Number] || e.Kind == Live || e.Kind == Secure:
			continue
		default:
			return e.Number
		}
	}
	return 0
}

// Applied lists the edits of all steps that were done in this run, in the order of the steps.
func (s *State) Applied() []procedure.Note {
	var out []procedure.Note
	for i, x := range s.Steps {
		if x.Status == Settled {
			out = append(out, s.Run.Steps[i].Edits...)
		}
	}
	return out
}

// Stands is the wiring as it stands now, by the log. The error says which edit does not go with the others.
func (s *State) Stands() (*circuit.Circuit, error) {
	if s.Run == nil {
		return nil, nil
	}
	c := s.Run.Start.Clone()
	for _, e := range s.Applied() {
		if err := e.Apply(c); err != nil {
			return nil, err
		}
	}
	return c, nil
}

// Undone reports whether an entry was taken back.
func (s *State) Undone(entry int) bool { return s.undone[entry] }

// Seen are the presses of the last time through: from the last look at the lamps on, those that count.
func (s *State) Seen() []Entry {
	var out []Entry
	for _, e := range s.Entries {
		switch {
		case e.Kind == Begin:
			out = nil
		case e.Kind != Press || s.undone[e.Number]:
		case e.Press == "":
			out = []Entry{e}
		case len(out) > 0:
			out = append(out, e)
		}
	}
	return out
}

// ReadAfter are the readings that were taken since the last press, of the circuit as it was then left.
func (s *State) ReadAfter() []circuit.Observation {
	out := []circuit.Observation{}
	for _, e := range s.Entries {
		switch {
		case e.Kind == Press || e.Kind == Begin:
			out = out[:0]
		case e.Kind == Reading && !s.undone[e.Number]:
			out = append(out, *e.Test)
		}
	}
	return out
}

// ReadOf is the last reading of a test since the run began, nil where nobody took it.
func (s *State) ReadOf(test circuit.Observation) *Entry {
	var out *Entry
	for i := range s.Entries {
		e := &s.Entries[i]
		if e.Kind == Begin {
			out = nil
		}
		if e.Kind == Reading && !s.undone[e.Number] && e.Test.Key() == test.Key() {
			out = e
		}
	}
	return out
}
