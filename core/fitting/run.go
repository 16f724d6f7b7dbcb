package fitting

import (
	"slices"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/evidence"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// Standing is the wiring as it stands. Changed: it is not as it was found. Lost are edits of the log that do not go with a
// record that was corrected since, in words.
type Standing struct {
	Wiring  *circuit.Circuit
	Changed bool
	Lost    []string
}

// Stood is the wiring as it stands by the log, on the record of the circuit as found as it is now. Where that was
// corrected since the run began, all that was done to the circuit as found is done to the corrected one; what does not go
// with it any more is told and left out.
func (s *State) Stood(found *circuit.Circuit) Standing {
	bare := procedure.Bare(found)
	out := Standing{Wiring: bare}
	if s.Run == nil {
		return out
	}
	stands, err := s.Stands()
	switch {
	case err != nil:
		out.Lost = []string{err.Error()}
		return out
	case len(circuit.Diff(s.Run.Found, bare)) == 0:
		out.Wiring = stands
	default:
		for _, e := range procedure.Between(s.Run.Found, stands) {
			next := out.Wiring.Clone()
			if err := e.Apply(next); err != nil {
				out.Lost = append(out.Lost, err.Error())
				continue
			}
			out.Wiring = next
		}
	}
	out.Changed = len(circuit.Diff(out.Wiring, bare)) > 0
	return out
}

// NewRun writes the run to a chosen option from the wiring as it stands. Revision is that of the record; made is how its
// links are made, nil where it has none; the estimate takes what own work has shown, where it has shown enough.
func (s *State) NewRun(found *inspect.Compiled, o *retrofit.Option, library *device.Library, made *automation.Set, revision int, learned Learned) *Run {
	stands := s.Stood(found.Doc).Wiring
	p := procedure.For(inspect.Compile(stands), s.untested(o), library)
	made.Enter(p)
	return write(p, Forth, o, revision, found, stands, o.After, learned)
}

// untested is the option without the tests that the log says were made and read right: what was read is not
// ordered again.
func (s *State) untested(o *retrofit.Option) *retrofit.Option {
	made := map[string]bool{}
	var run *Run
	for _, e := range Counted(s.Entries) {
		if e.Kind == Begin {
			run = e.Run
		}
		for _, n := range e.Steps {
			if e.Kind == Done && run != nil && n >= 1 && n <= len(run.Steps) && run.Steps[n-1].Test != nil {
				made[run.Steps[n-1].Test.Key()] = true
			}
		}
	}
	if len(made) == 0 {
		return o
	}
	left := *o
	left.Relies = slices.DeleteFunc(slices.Clone(o.Relies), func(r evidence.Reliance) bool { return made[r.Test.Key()] })
	return &left
}

// NewBack writes the run back to the circuit as found, from the wiring as it truly stands. It has no steps where nothing
// was changed.
func (s *State) NewBack(found *inspect.Compiled, o *retrofit.Option, library *device.Library, revision int, learned Learned) *Run {
	stands := s.Stood(found.Doc).Wiring
	p := procedure.For(found, o, library).BackFrom(stands)
	return write(p, Back, o, revision, found, stands, procedure.Bare(found.Doc), learned)
}

// MayBegin reports whether a new run to the plan of a revision of the record makes sense: where none was begun, where
// the last stopped, was put back or left something out, or where the record was changed since.
func (s *State) MayBegin(revision int) bool {
	left := slices.ContainsFunc(s.Steps, func(x StepState) bool { return x.Status != Settled })
	return s.Run == nil || s.Stopped != nil || s.Over && (s.Run.Way == Back || left || s.Run.Revision != revision)
}

// NewMend writes the run from a mistake that was found to the plan: what stands wrong is lifted and joined anew, with the
// gates of any other work.
func NewMend(found *inspect.Compiled, wrong *circuit.Circuit, o *retrofit.Option, library *device.Library, revision int, learned Learned) *Run {
	wrong = procedure.Bare(wrong)
	p := procedure.For(inspect.Compile(wrong), o, library)
	return write(p, Mend, o, revision, found, wrong, o.After, learned)
}

// When says of which moment the wiring around a step is.
type When string

// The moments.
const (
	Now    When = "now"    // the step may be done: as it stands
	Before When = "before" // the step is settled: as it stood when it was its turn
	Ahead  When = "ahead"  // the step waits: as it will stand once the steps before it are done
)

// Around is the wiring just before a step, and just after it.
type Around struct {
	Step   *procedure.Step
	When   When
	Before *circuit.Circuit
	After  *circuit.Circuit // nil where the step cannot be done: one that it needs was left out
}

// Around draws up the wiring around a step. The error says that there is no such step, or that the wiring is not known.
func (s *State) Around(n int) (*Around, error) {
	step := s.step(n)
	if step == nil {
		return nil, refuse("unknown-step", "step", "the run has no step %d", n)
	}
	out := &Around{Step: step}
	switch s.Steps[n-1].Status {
	case Open:
		stands, err := s.Stands()
		if err != nil {
			return nil, err
		}
		out.When, out.Before = Now, stands
	case Locked:
		out.When, out.Before = Ahead, s.until(n, Settled, Open, Locked)
	default:
		out.When, out.Before = Before, s.until(n, Settled)
	}
	out.After = out.Before.Clone()
	if do(out.After, step) != nil {
		out.After = nil
	}
	return out, nil
}

// until is the wiring just before a step, with the steps before it done that stand so.
func (s *State) until(n int, as ...Status) *circuit.Circuit {
	c := s.Run.Start.Clone()
	for i := range n - 1 {
		if slices.Contains(as, s.Steps[i].Status) {
			_ = do(c, &s.Run.Steps[i]) // what cannot be done, since something was left out, is not
		}
	}
	return c
}

// do changes the wiring as a step does, up to what cannot be done.
func do(c *circuit.Circuit, step *procedure.Step) error {
	for _, e := range step.Edits {
		if err := e.Apply(c); err != nil {
			return err
		}
	}
	return nil
}

func write(p *procedure.Procedure, way string, o *retrofit.Option, revision int, found *inspect.Compiled, start, after *circuit.Circuit, learned Learned) *Run {
	return &Run{Way: way, Option: o.ID, Title: o.Title, Revision: revision, Start: start, After: after, Steps: p.Steps, Minutes: p.Minutes(learned),
		Securing: p.Securing(), Boxes: p.Opened(), Found: procedure.Bare(found.Doc)}
}
