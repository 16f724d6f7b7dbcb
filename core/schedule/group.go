package schedule

import "slices"

// Light is one of a job: what it is called, and how it is used.
type Light struct {
	Name string
	Use  *Use
}

// Reaches reports whether an input turns on a light that is called so: it is of its group, or the input names none.
func (in *Input) Reaches(called ...string) bool {
	return len(in.Lights) == 0 || slices.ContainsFunc(called, func(name string) bool { return slices.Contains(in.Lights, name) })
}

// Reaching lists the inputs that were entered with other lights of the job and turn on one that is called so, each with the
// name of the light that it was entered with.
func Reaching(others []Light, called ...string) []Input {
	out := []Input{}
	for _, o := range others {
		for _, in := range o.Use.Inputs {
			if in.Reaches(called...) {
				in.Name += ", of " + o.Name
				out = append(out, in)
			}
		}
	}
	return out
}

// With is the use with more inputs.
func (u *Use) With(more []Input) *Use {
	out := *u
	out.Inputs = slices.Concat(u.Inputs, more)
	return &out
}
