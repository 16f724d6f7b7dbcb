package fitting

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"ambivia/core/procedure"
)

// pause is how long nothing may be written until it counts as a pause of the work: nobody stands half an hour before one
// screw.
const pause = 30 * time.Minute

// Learned is how long own work took, in minutes, by kind of step: the median of at least [enough] steps.
type Learned map[string]float64

// enough is of how many steps the median is taken before it replaces the rule of thumb.
const enough = 5

// Learn takes the medians of all steps of some logs.
func Learn(logs ...[]Entry) Learned {
	took := map[string][]float64{}
	for _, log := range logs {
		for _, t := range spans(log) {
			if t.minutes > 0 {
				took[t.kind] = append(took[t.kind], t.minutes)
			}
		}
	}
	out := Learned{}
	for kind, list := range took {
		if len(list) >= enough {
			slices.Sort(list)
			out[kind] = (list[(len(list)-1)/2] + list[len(list)/2]) / 2
		}
	}
	return out
}

// span is how long one step took.
type span struct {
	phase   procedure.Phase
	kind    string
	minutes float64
}

// spans measures from entry to entry; what several steps took that were ticked together they share.
func spans(log []Entry) []span {
	var out []span
	var run *Run
	var last time.Time
	for i := range log {
		e := &log[i]
		if e.Kind == Begin {
			run, last = e.Run, e.Time
			continue
		}
		took := e.Time.Sub(last)
		if took > 0 { // one that was dated back takes nothing from the next
			last = e.Time
		}
		if run == nil || e.Kind != Done || took > pause || took < 0 {
			continue
		}
		for _, n := range e.Steps {
			if n >= 1 && n <= len(run.Steps) {
				step := &run.Steps[n-1]
				out = append(out, span{step.Phase, step.Kind, took.Minutes() / float64(len(e.Steps))})
			}
		}
	}
	return out
}

// Minutes is how long all the work of a log took, all runs of it, and proving, trials and notes with them; pauses are
// left out, and an entry that was dated back adds nothing.
func Minutes(log []Entry) float64 {
	total, last := time.Duration(0), time.Time{}
	for i := range log {
		at := log[i].Time
		if took := at.Sub(last); !last.IsZero() && log[i].Kind != Begin && took > 0 && took <= pause {
			total += took
		}
		if at.After(last) {
			last = at
		}
	}
	return total.Minutes()
}

// PhaseTime is how long a phase took so far, beside what was thought, in minutes.
type PhaseTime struct {
	Phase   procedure.Phase `json:"phase"`
	Took    float64         `json:"took"`
	Thought float64         `json:"thought"`
}

// Times are those of the phases of the last run, in their order. Pauses are left out.
func (s *State) Times() []PhaseTime {
	if s.Run == nil {
		return nil
	}
	at := map[procedure.Phase]*PhaseTime{}
	of := func(p procedure.Phase) *PhaseTime {
		if at[p] == nil {
			at[p] = &PhaseTime{Phase: p}
		}
		return at[p]
	}
	for i := range s.Run.Steps {
		of(s.Run.Steps[i].Phase).Thought += s.Run.Minutes[i]
	}
	from := slices.IndexFunc(s.Entries, func(e Entry) bool { return e.Number == s.Begun })
	for _, t := range spans(s.Entries[from:]) {
		of(t.phase).Took += t.minutes
	}
	order := func(p procedure.Phase) int {
		for i, x := range procedure.Phases {
			if x.Phase == p {
				return i
			}
		}
		return len(procedure.Phases)
	}
	out := []PhaseTime{}
	for _, t := range slices.SortedFunc(maps.Values(at), func(a, b *PhaseTime) int { return cmp.Compare(order(a.Phase), order(b.Phase)) }) {
		out = append(out, *t)
	}
	return out
}
