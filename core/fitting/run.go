package fitting

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// Conflict is an edit of the log that does not go with a record that was corrected since.
type Conflict struct {
	Text string `json:"text"`
}

// Stood is the wiring as it stands by the log on a record of the circuit as found that may have been corrected since:
// every edit of every run is made on it again. What does not go with it any more is told and left out. The edits that
// were made are returned with it, to be carried on.
func (s *State) Stood(found *circuit.Circuit) (*circuit.Circuit, []procedure.Note, []Conflict) {
	c := procedure.Bare(found)
	var made []procedure.Note
	var lost []Conflict
	if s.Run == nil {
		return c, nil, nil
	}
	all := append(append([]procedure.Note{}, s.Run.Carried...), s.Applied()...)
	for _, e := range all {
		next := c.Clone()
		if err := e.Apply(next); err != nil {
			lost = append(lost, Conflict{Text: err.Error()})
			continue
		}
		c, made = next, append(made, e)
	}
	if len(circuit.Diff(c, procedure.Bare(found))) == 0 { // all is as it was found
		return c, nil, lost
	}
	return c, made, lost
}

// NewRun writes the run to a chosen option from the wiring as it stands. Revision is that of the record; the estimate
// takes what own work has shown, where it has shown enough.
func (s *State) NewRun(found *inspect.Compiled, o *retrofit.Option, library *device.Library, revision int, learned Learned) (*Run, []Conflict) {
	stands, carried, lost := s.Stood(found.Doc)
	p := procedure.For(inspect.Compile(stands), o, library)
	return write(p, Forth, o, revision, stands, o.After, carried, learned), lost
}

// NewBack writes the run back to the circuit as found, from the wiring as it truly stands. It has no steps where nothing
// was changed.
func (s *State) NewBack(found *inspect.Compiled, o *retrofit.Option, library *device.Library, revision int, learned Learned) (*Run, []Conflict) {
	stands, carried, lost := s.Stood(found.Doc)
	p := procedure.For(found, o, library).BackFrom(stands)
	return write(p, Back, o, revision, stands, procedure.Bare(found.Doc), carried, learned), lost
}

// MayBegin reports whether a new run to the plan of a revision of the record makes sense: where none was begun, where
// the last stopped, was put back or left something out, or where the record was changed since.
func (s *State) MayBegin(revision int) bool {
	left := slices.ContainsFunc(s.Steps, func(x StepState) bool { return x.Status != IsDone })
	return s.Run == nil || s.Stopped != nil || s.Over && (s.Run.Way == Back || left || s.Run.Revision != revision)
}

// NewMend writes the run from a mistake that was found to the plan: what stands wrong is lifted and joined anew, with the
// gates of any other work.
func (s *State) NewMend(wrong *circuit.Circuit, o *retrofit.Option, library *device.Library, revision int, learned Learned) *Run {
	wrong = procedure.Bare(wrong)
	p := procedure.For(inspect.Compile(wrong), o, library)
	return write(p, Mend, o, revision, wrong, o.After, nil, learned)
}

// Around is the wiring as it stands with the step not done, and with it done; a step that is done already is left out of
// the first. The error says that there is no such step, or that it cannot be done.
func (s *State) Around(n int) (now, after *circuit.Circuit, step *procedure.Step, err error) {
	if step = s.step(n); step == nil {
		return nil, nil, nil, refuse("unknown-step", "step", "the run has no step %d", n)
	}
	now = s.Run.Start.Clone()
	for i, x := range s.Steps {
		before := x.Status == IsDone && x.Number != n
		if later := i >= n && s.Steps[n-1].Status != IsDone; before && !later {
			for _, e := range s.Run.Steps[i].Edits {
				if e.Apply(now) != nil { // what needed the step itself is not shown
					break
				}
			}
		}
	}
	after = now.Clone()
	for _, e := range step.Edits {
		if err := e.Apply(after); err != nil {
			return nil, nil, nil, err
		}
	}
	return now, after, step, nil
}

func write(p *procedure.Procedure, way string, o *retrofit.Option, revision int, start, after *circuit.Circuit, carried []procedure.Note, learned Learned) *Run {
	r := &Run{Way: way, Option: o.ID, Title: o.Title, Revision: revision, Start: start, After: after, Steps: p.Steps,
		Securing: p.Securing(), Boxes: p.Opened(), Carried: carried}
	for i := range p.Steps {
		r.Minutes = append(r.Minutes, learned.minutes(&p.Steps[i]))
	}
	return r
}
