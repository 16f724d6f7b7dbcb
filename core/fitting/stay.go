package fitting

import (
	"slices"

	"ambivia/core/procedure"
)

// stay lists the steps, from an open one to the end of its stay, that may be ticked off in one go. They ask for no confirmation,
// no reading and no press, and each can be done after those before it. A step on its own has no stay.
func (s *State) stay(i int) []int {
	stands, _ := s.Stands()
	if stands == nil || !line(&s.Run.Steps[i]) {
		return nil
	}
	stands = stands.Clone()
	in := procedure.StayOf(s.Run.Steps, i+1)
	var out []int
	for _, n := range in[slices.Index(in, i+1):] {
		step := &s.Run.Steps[n-1]
		if status := s.Steps[n-1].Status; status != Open && status != Locked {
			continue
		}
		if !line(step) || s.Steps[n-1].Status == Locked && s.waitsBut(n-1, out) != "" || do(stands, step) != nil {
			break
		}
		out = append(out, n)
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// line reports whether a step is a plain line of a stay.
func line(step *procedure.Step) bool {
	return step.Gate == "" && len(step.Asks) == 0 && step.Test == nil && !step.Proves && step.Kind != procedure.KindPowerOn && step.Kind != procedure.KindPowerOf
}
