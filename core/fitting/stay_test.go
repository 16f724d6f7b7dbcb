package fitting

import (
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/procedure"
)

// TestStay: the lines of one stay are ticked in one go, from the one that is next to any of them, and leave the wiring as each by
// itself does; nothing that is confirmed, read or pressed goes with them, and none is left out between.
func TestStay(t *testing.T) {
	j, single := three(t), three(t)
	single.whole()
	ticks := 0
	for range 200 {
		s := Read(j.log)
		if s.Over {
			break
		}
		stay := s.Steps[s.Now-1].Stay
		ticks++
		if stay == nil {
			j.must(j.done(s.Now))
			continue
		}
		for _, n := range stay {
			if step := s.Run.Steps[n-1]; step.Gate != "" || len(step.Asks) > 0 || step.Proves || step.Kind == procedure.KindPowerOn {
				t.Fatalf("step %d goes with others: %s", n, step.Text)
			}
			if a, b := s.Run.Steps[n-1], s.Run.Steps[s.Now-1]; a.Box != b.Box && a.Phase != procedure.Linking { // what is paired is paired from anywhere
				t.Fatalf("step %d is at another place than %d", n, s.Now)
			}
		}
		if len(stay) > 2 {
			j.refused("step-locked", Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{stay[0], stay[2]}}})
			j.refused("step-locked", Entry{Kind: Skip, OfSteps: OfSteps{Steps: stay, Reason: "no time"}})
			stay = stay[:1+len(stay)/2] // the rest is one of the next
		}
		last := stay[len(stay)-1]
		if last < len(s.Run.Steps) && !slices.Contains(s.Steps[s.Now-1].Stay, last+1) {
			j.refused("step-locked", Entry{Kind: Done, OfSteps: OfSteps{Steps: append(slices.Clone(stay), last+1)}})
		}
		j.must(Entry{Kind: Done, OfSteps: OfSteps{Steps: stay}})
	}
	got, err := Read(j.log).Stands()
	want, also := Read(single.log).Stands()
	if err != nil || also != nil || len(circuit.Diff(got, want)) > 0 {
		t.Errorf("it stands otherwise: %v, %v, %v", err, also, circuit.Diff(got, want))
	}
	if steps := len(Read(j.log).Steps); ticks*3 > 2*steps {
		t.Errorf("%d ticks for %d steps", ticks, steps)
	}
}
