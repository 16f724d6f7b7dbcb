package fitting

import (
	"slices"
	"strconv"

	"ambivia/core/circuit"
	"ambivia/core/procedure"
)

func itoa(n int) string { return strconv.Itoa(n) }

// Check holds a new entry against how the work on a circuit stands: whether it may be added now. The error is an [*Error].
func (s *State) Check(c *circuit.Circuit, e Entry) error {
	if err := e.fits(); err != nil {
		return err
	}
	switch e.Kind {
	case Begin: // what begins is made by the program, never sent
		return nil
	case Remark, Press, Reading, Trial, Device, Fault:
		return s.observation(c, e)
	case Undo:
		if s.Undo == 0 || e.Of != s.Undo {
			return refuse("nothing-to-undo", "of", "that is not the last entry that counts")
		}
		return nil
	}
	if s.Run == nil {
		return refuse("no-run", "kind", "nothing was begun yet")
	}
	switch e.Kind {
	case Done, Skip, Differs:
		return s.settles(e)
	case Live:
		if e.End == nil || !slices.ContainsFunc(s.Run.Start.CoreEnds(e.End.Box), func(x circuit.End) bool { return x == *e.End }) {
			return refuse("unknown-end", "end", "name the conductor that is live, as the record has it")
		}
	case Secure:
		return confirmed(s.Run.Securing, e.Asked)
	case End:
	default:
		return refuse("unknown-kind", "kind", "there is no entry of the kind %q", e.Kind)
	}
	return nil
}

// settles checks what is said of steps.
func (s *State) settles(e Entry) error {
	if len(e.Steps) == 0 {
		return refuse("unknown-step", "steps", "name a step")
	}
	staying := s.stays(e)
	for i, n := range e.Steps {
		step := s.step(n)
		if step == nil || slices.Contains(e.Steps[:i], n) {
			return refuse("unknown-step", "steps", "the run has no step %d, or it is named twice", n)
		}
		x := s.Steps[n-1]
		if staying {
			continue
		}
		if x.Status != Open {
			why := x.Why
			if why == "" {
				why = "It is settled already."
			}
			return refuse("step-locked", "steps", "step %d: %s", n, why)
		}
		if e.Kind == Done && x.Barred != "" {
			return refuse("step-barred", "steps", "step %d: %s Leave it out too, or take that back", n, x.Barred)
		}
		if len(e.Steps) > 1 && (e.Kind != Done || !slices.Contains(s.Steps[e.Steps[0]-1].Alike, n)) {
			return refuse("step-locked", "steps", "step %d is not alike to step %d: it is ticked by itself", n, e.Steps[0])
		}
		if err := s.settlesOne(e, step); err != nil {
			return err
		}
	}
	return nil
}

// stays reports whether an entry says of the lines of a stay, from the one that is next, that they are done.
func (s *State) stays(e Entry) bool {
	if e.Kind != Done || len(e.Steps) < 2 || e.Steps[0] != s.Now {
		return false
	}
	stay := s.Steps[s.Now-1].Stay
	return len(e.Steps) <= len(stay) && slices.Equal(e.Steps, stay[:len(e.Steps)])
}

func (s *State) settlesOne(e Entry, step *procedure.Step) error {
	switch e.Kind {
	case Done:
		return confirmed(step.Asks, e.Asked)
	case Skip:
		if step.Gate != "" || step.Kind == procedure.KindPowerOf {
			return refuse("gate-skipped", "steps", "step %d is a gate: it is confirmed, or the work stops there", step.Number)
		}
		if e.Reason == "" {
			return refuse("no-reason", "reason", "say why step %d is left out", step.Number)
		}
	case Differs:
		if e.Note == "" {
			return refuse("no-reason", "note", "say what is there in its stead")
		}
	}
	return nil
}

// confirmed checks that every line that is asked was confirmed, in its order.
func confirmed(asks, asked []string) error {
	for _, line := range asks {
		if !slices.Contains(asked, line) {
			return refuse("not-confirmed", "asked", "not confirmed: %s", line)
		}
	}
	return nil
}

// observation checks what was seen or noted beside the steps.
func (s *State) observation(c *circuit.Circuit, e Entry) error {
	switch e.Kind {
	case Remark, Fault:
		if e.Note == "" && e.Value == "" {
			return refuse("no-reason", "note", "say what it is")
		}
	case Press:
		for lamp, how := range e.Lamps {
			if how != "lit" && how != "dark" && how != "trip" {
				return refuse("unknown-look", "lamps", "%s: %q is neither lit, dark nor trip", lamp, how)
			}
		}
		if len(e.Lamps) == 0 {
			return refuse("unknown-look", "lamps", "say how the lamps look")
		}
	case Reading:
		if e.Test == nil || e.Test.Reading == nil {
			return refuse("no-reading", "test", "say what was read, and where")
		}
		return confirmed(s.Asks(c, *e.Test), e.Asked)
	case Trial:
		if e.Place == "" || e.Path == "" || e.Works == nil || e.Seconds < 0 || e.Seconds > 3600 {
			return refuse("no-trial", "place", "name the place, the path and whether it works; the delay in seconds")
		}
	case Device:
		if e.Place == "" || e.Field == "" {
			return refuse("no-fact", "field", "name the device and the fact")
		}
	}
	return nil
}
