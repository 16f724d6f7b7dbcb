package fitting

import (
	"slices"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// TestUnsafe is a table of what may be done as the power stands: each condition by itself.
func TestUnsafe(t *testing.T) {
	run := &Run{Boxes: []string{"a", "b"}}
	secure := []string{"Breaker 7: off"}
	for _, x := range []struct {
		name   string
		power  string
		proved []string
		secure []string
		step   procedure.Step
		safe   bool
	}{
		{"off and proved", "off", []string{"a", "b"}, nil, procedure.Step{Box: "a", Metal: true}, true},
		{"proved, and the power on since", "on", []string{"a", "b"}, nil, procedure.Step{Box: "a", Metal: true}, false},
		{"another box proved", "off", []string{"b"}, nil, procedure.Step{Box: "a", Metal: true}, false},
		{"of no box: one is not proved", "off", []string{"a"}, nil, procedure.Step{Metal: true}, false},
		{"of no box: all are proved", "off", []string{"b", "a"}, nil, procedure.Step{Metal: true}, true},
		{"no metal in it", "on", nil, nil, procedure.Step{Box: "a"}, true},
		{"something is live", "off", []string{"a", "b"}, secure, procedure.Step{Box: "a", Metal: true}, false},
		{"something is live, no metal in it", "on", nil, secure, procedure.Step{Box: "a"}, true},
		{"power on while something is live", "on", nil, secure, procedure.Step{Kind: procedure.KindPowerOn}, false},
		{"power on", "off", nil, nil, procedure.Step{Kind: procedure.KindPowerOn}, true},
	} {
		s := &State{Run: run, Power: x.power, Proved: x.proved, Secure: x.secure}
		if why := s.unsafe(&x.step); (why == "") != x.safe {
			t.Errorf("%s: %q", x.name, why)
		}
	}
}

// TestOneIsLive: what was proved dead before somebody found one live is proved no more, and it is told even where the
// power goes off in between.
func TestOneIsLive(t *testing.T) {
	j := three(t)
	lift := j.to(func(s procedure.Step) bool { return s.Kind == procedure.KindLift })
	end := j.found.Doc.CoreEnds(Read(j.log).Run.Boxes[0])[0]
	j.must(Entry{Kind: Live, FoundLive: FoundLive{End: &end}})
	s := Read(j.log)
	if len(s.Proved) > 0 || s.Power != "on" || !slices.Equal(s.Secure, s.Run.Securing) {
		t.Errorf("one is live: power %s, still proved %v, to secure %v", s.Power, s.Proved, s.Secure)
	}
	j.refused("step-locked", j.done(lift))
	j.refused("step-locked", Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{lift}, Reason: "no time"}})
	j.must(Entry{Kind: Secure, OfSteps: OfSteps{Asked: s.Secure}})
	if s = Read(j.log); s.Now != lift || !slices.Equal(s.Proved, s.Run.Boxes) {
		t.Errorf("it is secured: step %d of %d is next, proved %v", s.Now, lift, s.Proved)
	}
	j.must(j.done(lift))
}

// TestOrder: at every entry of a whole job, no step is open while one of an earlier phase is not settled, or a gate
// before it, or one before it in its box; and some steps of other boxes are open beside the next.
func TestOrder(t *testing.T) {
	j := three(t)
	beside := 0
	for {
		s := Read(j.log)
		for i, x := range s.Steps {
			if x.Status != Open {
				continue
			}
			step := s.Run.Steps[i]
			if x.Number != s.Now {
				beside++
			}
			for k, before := range s.Run.Steps[:i] {
				if s.Steps[k].Status == Settled || s.Steps[k].Status == Skipped {
					continue
				}
				if before.Phase != step.Phase || before.Gate != "" || before.Box == step.Box || before.Box == "" {
					t.Fatalf("step %d (%s) is open, and step %d (%s, %s) is not settled", i+1, step.Phase, k+1, before.Phase, s.Steps[k].Status)
				}
			}
		}
		if s.Over {
			break
		}
		j.must(j.done(s.Now))
	}
	if beside == 0 {
		t.Error("never was there a choice of boxes")
	}
}

// TestLeftOut: what needs a step that was left out cannot be done, and says so; it is left out in its turn, so that no
// run is stuck.
func TestLeftOut(t *testing.T) {
	j := three(t)
	lifts, barred := 0, 0
	for {
		s := Read(j.log)
		if s.Over {
			break
		}
		if s.Now == 0 {
			t.Fatalf("stuck after %d lifts were left out", lifts)
		}
		leave := Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{s.Now}, Reason: "the screw is seized"}}
		switch k := s.Run.Steps[s.Now-1].Kind; {
		case s.Steps[s.Now-1].Barred != "":
			barred++
			j.refused("step-barred", j.done(s.Now))
			j.must(leave)
		case k == procedure.KindLift || k == procedure.KindTakeOut:
			lifts++
			j.must(leave)
		default:
			j.must(j.done(s.Now))
		}
	}
	if lifts == 0 || barred == 0 {
		t.Errorf("%d lifts left out, %d steps could not be done for it", lifts, barred)
	}
	if _, err := Read(j.log).Stands(); err != nil {
		t.Errorf("the wiring as it stands is not known: %v", err)
	}
}

// TestPause: half an hour before one step is work, more is a pause; what was ticked in one go shares the time; a clock
// set back counts for nothing.
func TestPause(t *testing.T) {
	at := time.Date(2026, 11, 27, 8, 0, 0, 0, time.UTC)
	run := &Run{Minutes: make([]float64, 5)}
	for range 5 {
		run.Steps = append(run.Steps, procedure.Step{Phase: procedure.Joining, Kind: procedure.KindJoin})
	}
	after := func(minutes int, e Entry) Entry {
		at = at.Add(time.Duration(minutes) * time.Minute)
		e.Time = at
		return e
	}
	log := []Entry{
		after(0, Entry{Number: 1, Kind: Begin, Began: Began{Run: run}}),
		after(30, Entry{Number: 2, Kind: Done, OfSteps: OfSteps{Steps: []int{1}}}),
		after(31, Entry{Number: 3, Kind: Done, OfSteps: OfSteps{Steps: []int{2}}}),
		after(5, Entry{Number: 4, Kind: Remark, Note: "the kettle"}),
		after(8, Entry{Number: 5, Kind: Done, OfSteps: OfSteps{Steps: []int{3, 4}}}),
		after(-3, Entry{Number: 6, Kind: Done, OfSteps: OfSteps{Steps: []int{5}}}),
	}
	var minutes []float64
	for _, x := range spans(log) {
		minutes = append(minutes, x.minutes)
	}
	if want := []float64{30, 4, 4}; !slices.Equal(minutes, want) {
		t.Errorf("the steps took %v, want %v", minutes, want)
	}
	if times := Read(log).Times(); len(times) != 1 || times[0].Took != 38 {
		t.Errorf("the phase took %+v", times)
	}
}

// TestTwoBreakersAreOff: where two breakers feed the boxes, each is off, locked and labelled by its name before a step with
// metal.
func TestTwoBreakersAreOff(t *testing.T) {
	c := circuittest.Gangs(2, 2)
	var breakers []string
	for i := range c.Devices {
		if d := &c.Devices[i]; d.Type == circuit.TypeSupply {
			d.Breaker = "panel " + string(rune('A'+len(breakers)))
			breakers = append(breakers, d.Breaker)
		}
	}
	if len(breakers) != 2 {
		t.Fatalf("%d breakers", len(breakers))
	}
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Metrics.BoxesTouched == 0 {
			continue
		}
		j := begin(t, c, &o)
		off := j.to(func(s procedure.Step) bool { return s.Gate == procedure.OffGate })
		asks := Read(j.log).Run.Steps[off-1].Asks
		for _, name := range breakers {
			line := "Breaker " + name + " off, locked and labelled"
			at := slices.Index(asks, line)
			if at < 0 {
				t.Fatalf("%q is not asked: %q", line, asks)
			}
			e := j.done(off)
			e.Asked = slices.Delete(slices.Clone(asks), at, at+1)
			j.refused("not-confirmed", e)
		}
		return
	}
	t.Fatal("nothing fits")
}
