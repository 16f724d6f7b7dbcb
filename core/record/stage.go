package record

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
)

// Stage is what comes next on a circuit, by what is recorded of it.
type Stage struct {
	ID StageID `json:"id"`
	// Steps of the run that is under way, and how many of them are settled; both 0 where none is.
	Done int `json:"done"`
	Of   int `json:"of"`
}

// StageID names a stage as the page does.
type StageID string

// Stages in the order of the work.
const (
	ToSurvey StageID = "survey"
	ToTrace  StageID = "trace"
	ToChoose StageID = "choose"
	ToFit    StageID = "fit"
	ToProve  StageID = "prove"
	ToRecord StageID = "record"
)

// StageIDs lists the stages in the order of the work.
var StageIDs = []StageID{ToSurvey, ToTrace, ToChoose, ToFit, ToProve, ToRecord}

// StageOf says what comes next on a circuit. chosen says that a plan is chosen for it.
func StageOf(found *inspect.Compiled, chosen bool, log []fitting.Entry) Stage {
	s := fitting.Read(log)
	switch {
	case s.Run != nil && !s.Over:
		settled := 0
		for _, x := range s.Steps {
			if x.Status == fitting.Settled || x.Status == fitting.Skipped {
				settled++
			}
		}
		return Stage{ToFit, settled, len(s.Steps)}
	case s.Run != nil && s.Run.Way == fitting.Back:
		return Stage{ID: ToChoose}
	case s.Run != nil && pressed(s):
		return Stage{ID: ToRecord}
	case s.Run != nil:
		return Stage{ID: ToProve}
	case chosen:
		return Stage{ID: ToFit}
	case evidence.HalfKnown(found):
		return Stage{ID: ToTrace}
	case found.Report().Verdict == inspect.Works && slices.ContainsFunc(found.Doc.Devices, func(d circuit.Device) bool { return d.Mechanical() }):
		return Stage{ID: ToChoose}
	}
	return Stage{ID: ToSurvey}
}

// pressed reports whether a control of the finished work was tried: after the last step was settled.
func pressed(s *fitting.State) bool {
	last := s.Begun
	for _, x := range s.Steps {
		last = max(last, x.Entry)
	}
	return slices.ContainsFunc(s.Entries, func(e fitting.Entry) bool {
		return e.Number > last && (e.Kind == fitting.Press || e.Kind == fitting.Trial)
	})
}
