package fitting

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/gates"
	"ambivia/core/names"
)

// Asks are the lines to confirm before a reading, given how the power stands by the log; none where all of them were
// confirmed and still hold. A dead reading needs every breaker off and each box that is touched proved dead. A live reading
// needs bare ends capped and people away, and if wires come off for it, everything that a dead reading needs first.
func (s *State) Asks(c *circuit.Circuit, test circuit.Observation) []string {
	say := names.For(c)
	var out []string
	dead := test.Power != "on"
	if dead || len(test.Lifted) > 0 {
		if s.Power != "off" || s.Secure != nil {
			out = append(out, gates.Off(c, say)...)
		}
		if boxes := s.unproved(c, test); len(boxes) > 0 {
			out = append(out, gates.Dead(say, boxes...)...)
		}
	}
	if !dead && (len(out) > 0 || s.Power != "on" || !s.clear) {
		out = append(out, gates.Live()...)
	}
	return out
}

// Carries reports whether the last run carries out an option as it was planned on a revision of the record, a mistake of it
// mended or not.
func (s *State) Carries(option string, revision int) bool {
	return s.Run != nil && s.Run.Way != Back && s.Run.Option == option && s.Run.Revision == revision
}

// unproved are the boxes touched by a test that were not proved dead since the power went off.
func (s *State) unproved(c *circuit.Circuit, test circuit.Observation) []string {
	if test.Power == "on" {
		test.At = nil // of a live reading, those in which wires come off
	}
	return slices.DeleteFunc(gates.Touched(c, test), func(box string) bool {
		return c.Box(box) == nil || s.Power == "off" && s.Secure == nil && slices.Contains(s.Proved, box)
	})
}

// read takes in what a reading tells of the power: a dead one that it was off, a live one that it is on. One that is taken
// back made things no safer.
func (s *State) read(e *Entry, undone bool) {
	switch {
	case e.Test == nil:
	case e.Test.Power == "on":
		s.on(e)
		s.clear = !undone && (s.clear || len(e.Asked) > 0)
	case undone || len(e.Asked) == 0 || s.Secure != nil: // one reading does not secure every box
	default:
		var boxes []string
		if s.Run != nil { // else they are proved dead for each reading
			boxes = gates.Touched(s.Run.After, *e.Test)
		}
		if s.Power == "off" && s.Secure == nil {
			boxes = append(boxes, s.Proved...)
		}
		s.Power, s.Since, s.Proved, s.Secure, s.clear = "off", e.Time, boxes, nil, false
	}
}

// on says that a breaker is on again, where it was off: somebody measured, pressed or tried under power.
func (s *State) on(e *Entry) {
	if s.Power == "off" {
		s.Power, s.Since, s.Proved, s.clear = "on", e.Time, nil, false
		if slices.ContainsFunc(s.Steps, func(x StepState) bool { return x.Status == Locked }) {
			s.Secure = s.Run.Securing // steps are left, and none of them has to turn it off again
		}
	}
}
