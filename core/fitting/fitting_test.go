package fitting

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// job is a log that is written to as a person would.
type job struct {
	t     *testing.T
	log   []Entry
	now   time.Time
	found *inspect.Compiled
	o     *retrofit.Option
}

func begin(t *testing.T, c *circuit.Circuit, o *retrofit.Option) *job {
	j := &job{t: t, now: time.Date(2026, 11, 27, 8, 0, 0, 0, time.UTC), found: inspect.Compile(c), o: o}
	j.put(Entry{Kind: Begin, Began: Began{Run: Read(nil).NewRun(j.found, o, device.NewLibrary(nil), nil, 1, nil)}})
	return j
}

// put writes an entry as the store does: through JSON, so that nothing lives but what is written.
func (j *job) put(e Entry) {
	j.t.Helper()
	j.now = j.now.Add(2 * time.Minute)
	e.Number, e.Time = len(j.log)+1, j.now
	data, err := json.Marshal(e)
	if err != nil {
		j.t.Fatal(err)
	}
	var kept Entry
	if err := json.Unmarshal(data, &kept); err != nil {
		j.t.Fatal(err)
	}
	j.log = append(j.log, kept)
}

// doc is the circuit that is worked towards.
func (j *job) doc() *circuit.Circuit {
	if j.o != nil {
		return j.o.After
	}
	return j.found.Doc
}

func (j *job) try(e Entry) error { return Read(j.log).Check(j.doc(), e) }

// must adds an entry that has to be taken.
func (j *job) must(e Entry) {
	j.t.Helper()
	if err := j.try(e); err != nil {
		j.t.Fatalf("%s %v: %v", e.Kind, e.Steps, err)
	}
	j.put(e)
}

// refused tries an entry that must not be taken.
func (j *job) refused(code string, e Entry) {
	j.t.Helper()
	var wrong *Error
	if err := j.try(e); !errors.As(err, &wrong) || wrong.Code != code {
		j.t.Errorf("%s %v: %v, want %s", e.Kind, e.Steps, err, code)
	}
}

// done confirms all that the step asks.
func (j *job) done(n int) Entry {
	return Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{n}, Asked: Read(j.log).Run.Steps[n-1].Asks}}
}

// to does steps in their order until one satisfies; it returns its number.
func (j *job) to(until func(procedure.Step) bool) int {
	j.t.Helper()
	for {
		s := Read(j.log)
		if s.Now == 0 {
			j.t.Fatalf("no step is open; over %v", s.Over)
		}
		if until(s.Run.Steps[s.Now-1]) {
			return s.Now
		}
		j.must(j.done(s.Now))
	}
}

func (j *job) whole() *State {
	j.t.Helper()
	for {
		s := Read(j.log)
		if s.Over {
			return s
		}
		if s.Now == 0 {
			j.t.Fatalf("stuck: %+v", s.Steps)
		}
		j.must(j.done(s.Now))
	}
}

func three(t *testing.T) *job {
	c := circuittest.Chain(3)
	for _, o := range retrofit.Plan(c).Options {
		if o.Feasible && o.Metrics.BoxesTouched >= 2 {
			return begin(t, c, &o)
		}
	}
	t.Fatal("nothing fits")
	return nil
}

// TestEveryPlanIsFitted: of random houses, each plan's log from the first step to the last leads to the plan, and the way
// back from any step to the circuit as found; nothing with metal is ever open while a breaker may be on.
func TestEveryPlanIsFitted(t *testing.T) {
	rng := rand.New(rand.NewPCG(16, 1))
	plans, backs := 0, 0
	for i := range 8 {
		c := circuittest.Walls(rng, 2+i%3)
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || k%5 != 0 {
				continue
			}
			plans++
			j := begin(t, c, &o)
			stop := rng.IntN(len(j.log[0].Run.Steps) + 1)
			for range stop {
				s := Read(j.log)
				safe(t, s)
				j.must(j.done(s.Now))
			}
			s := Read(j.log)
			run := s.NewBack(j.found, &o, device.NewLibrary(nil), 1, nil)
			if stood := s.Stood(c); len(stood.Lost) > 0 || stood.Changed != (len(run.Steps) > 0) {
				t.Fatalf("%s: lost %v, changed %v, and %d steps back", o.ID, stood.Lost, stood.Changed, len(run.Steps))
			}
			if len(run.Steps) > 0 {
				backs++
				whole := &job{t: t, log: slices.Clone(j.log), now: j.now, found: j.found, o: &o}
				whole.put(Entry{Kind: Begin, Began: Began{Run: run}})
				end, err := whole.whole().Stands()
				if d := circuit.Diff(procedure.Bare(c), end); err != nil || len(d) > 0 {
					t.Fatalf("%s: back from step %d it is not as found: %v %v", o.ID, stop, d, err)
				}
			}
			end, err := j.whole().Stands()
			if d := circuit.Diff(o.After, end); err != nil || len(d) > 0 {
				t.Fatalf("%s: it is not as planned: %v %v", o.ID, d, err)
			}
		}
	}
	t.Logf("%d plans, %d ways back", plans, backs)
	if plans < 20 || backs < 10 {
		t.Errorf("%d plans and %d ways back are too few", plans, backs)
	}
}

// safe holds a state against the rule of metal, worked out from the steps alone.
func safe(t *testing.T, s *State) {
	t.Helper()
	for i, x := range s.Steps {
		step := s.Run.Steps[i]
		inWork := step.Phase == procedure.Lifting || step.Phase == procedure.Joining || step.Phase == procedure.Closing
		if x.Status != Open || !inWork || step.Kind == procedure.KindPowerOn {
			continue
		}
		unproved := slices.ContainsFunc(s.Run.Boxes, func(box string) bool {
			return (step.Box == box || step.Box == "") && !slices.Contains(s.Proved, box)
		})
		if s.Power != "off" || unproved {
			t.Fatalf("step %d (%s) is open with the power %s, proved %v", i+1, step.Kind, s.Power, s.Proved)
		}
	}
}

// TestNoWayToLiveMetal tries every way around the gates: leaping, skipping, half a confirmation, taking back.
func TestNoWayToLiveMetal(t *testing.T) {
	j := three(t)
	metal := func(s procedure.Step) bool { return s.Metal }
	gate := func(g procedure.Gate) func(procedure.Step) bool {
		return func(s procedure.Step) bool { return s.Gate == g }
	}
	first := slices.IndexFunc(j.log[0].Run.Steps, metal) + 1
	j.refused("step-locked", j.done(first))
	off := j.to(gate(procedure.OffGate))
	half := j.done(off)
	half.Asked = half.Asked[1:]
	j.refused("not-confirmed", half)
	j.refused("gate-skipped", Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{off}, Reason: "no time"}})
	j.must(j.done(off))
	j.refused("step-locked", j.done(first))
	j.to(metal)
	safe(t, Read(j.log))

	// One is live: all must be secured anew, and the log says so though somebody wants to take it back.
	end := j.found.Doc.CoreEnds(Read(j.log).Run.Boxes[0])[0]
	j.must(Entry{Kind: Live, FoundLive: FoundLive{End: &end}})
	s := Read(j.log)
	safe(t, s)
	if s.Secure == nil || s.Power != "on" {
		t.Errorf("one is live, and the power is said to be %s, to secure %v", s.Power, s.Secure)
	}
	j.refused("nothing-to-undo", Entry{Kind: Undo, TookBack: TookBack{Of: len(j.log)}})
	j.refused("not-confirmed", Entry{Kind: Secure, OfSteps: OfSteps{Asked: s.Secure[:1]}})
	j.must(Entry{Kind: Secure, OfSteps: OfSteps{Asked: s.Secure}})
	if s := Read(j.log); s.Power != "off" || s.Now == 0 {
		t.Errorf("it is secured, and the power is said to be %s, the next step %d", s.Power, s.Now)
	}

	// The breaker goes on; taking that back in the log does not turn it off.
	caps := j.to(gate(procedure.CapsGate))
	j.refused("gate-skipped", Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{caps}, Reason: "it works"}})
	on := j.to(func(s procedure.Step) bool { return s.Kind == procedure.KindPowerOn })
	j.must(j.done(on))
	j.must(Entry{Kind: Undo, TookBack: TookBack{Of: len(j.log)}})
	s = Read(j.log)
	safe(t, s)
	if s.Power != "on" || s.Secure == nil {
		t.Errorf("the breaker was put on and that was taken back: power %s, to secure %v", s.Power, s.Secure)
	}
	j.refused("step-locked", j.done(on))
	j.must(Entry{Kind: Secure, OfSteps: OfSteps{Asked: s.Secure}})
	j.must(j.done(on))
	j.whole()
	j.refused("step-locked", j.done(1))
}

// TestSkipAndDiffer: what is left out has a reason, and what needs it waits; what is not as drawn stops the run.
func TestSkipAndDiffer(t *testing.T) {
	j := three(t)
	lift := j.to(func(s procedure.Step) bool { return s.Kind == procedure.KindLift })
	j.refused("no-reason", Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{lift}}})
	j.must(Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{lift}, Reason: "it was loose already"}})
	s := Read(j.log)
	if stands, err := s.Stands(); err != nil || len(circuit.Diff(stands, procedure.Bare(j.found.Doc))) > 0 {
		t.Errorf("what was left out is held to be done: %v", err)
	}
	if s.Undo != len(j.log) {
		t.Fatalf("entry %d may be taken back, not the last", s.Undo)
	}
	j.must(Entry{Kind: Undo, TookBack: TookBack{Of: s.Undo}})
	j.refused("no-reason", Entry{Kind: Differs, OfSteps: OfSteps{Steps: []int{lift}}})
	j.must(Entry{Kind: Differs, OfSteps: OfSteps{Steps: []int{lift}}, Note: "two blacks under this screw"})
	s = Read(j.log)
	if s.Stopped == nil || s.Now != 0 || s.Over {
		t.Errorf("it is not as drawn, and step %d is next", s.Now)
	}
	j.refused("step-locked", j.done(lift))
	j.must(Entry{Kind: Undo, TookBack: TookBack{Of: s.Undo}})
	j.whole()
}

// TestCorrectedRecord: after the record is corrected in the middle of the work, the wiring as it stands is the corrected
// one with all that was done, and a new run leads from there to the plan.
func TestCorrectedRecord(t *testing.T) {
	j := three(t)
	j.to(func(s procedure.Step) bool { return s.Kind == procedure.KindJoin })
	corrected := j.found.Doc.Clone()
	corrected.Cables[0].Cores = append(slices.Clone(corrected.Cables[0].Cores), "orange") // one more than was seen
	found := inspect.Compile(corrected)
	var o *retrofit.Option
	for _, x := range retrofit.Plan(corrected).Options {
		if x.ID == j.o.ID && x.Feasible {
			o = &x
		}
	}
	if o == nil {
		t.Fatalf("%s does not fit with a core more", j.o.ID)
	}
	run := Read(j.log).NewRun(found, o, device.NewLibrary(nil), nil, 2, nil)
	if stood := Read(j.log).Stood(corrected); len(stood.Lost) > 0 || !stood.Changed {
		t.Errorf("a core more loses %v", stood.Lost)
	}
	fresh := Read(nil).NewRun(found, o, device.NewLibrary(nil), nil, 2, nil)
	lifts := func(r *Run) (n int) {
		for _, s := range r.Steps {
			if s.Kind == procedure.KindLift || s.Kind == procedure.KindTakeOut {
				n++
			}
		}
		return n
	}
	if lifts(run) != 0 || lifts(fresh) == 0 {
		t.Errorf("all was lifted, and %d lifts are still to do; from the start there are %d", lifts(run), lifts(fresh))
	}
	j.put(Entry{Kind: Begin, Began: Began{Run: run}})
	end, err := j.whole().Stands()
	if d := circuit.Diff(o.After, end); err != nil || len(d) > 0 {
		t.Errorf("it does not become the plan: %v %v", d, err)
	}

	// A cable that turns out not to be there takes what was done to it along, and that is told.
	gone := j.found.Doc.Clone()
	gone.Joins = nil
	if stood := Read(j.log).Stood(gone); len(stood.Lost) == 0 {
		t.Error("no edit is lost on a record without a joint")
	}
}

// TestTimes: what was ticked in one go shares its time, pauses are left out, and the estimate becomes the median.
func TestTimes(t *testing.T) {
	j := three(t)
	j.whole()
	var took, thought float64
	for _, x := range Read(j.log).Times() {
		took, thought = took+x.Took, thought+x.Thought
	}
	if want := 2 * float64(len(j.log)-1); took != want || thought == 0 {
		t.Errorf("%v minutes of %v, thought %v", took, want, thought)
	}
	slow := slices.Clone(j.log)
	for i := range slow {
		slow[i].Time = slow[i].Time.Add(time.Duration(i) * time.Minute)
	}
	learned := Learn(slow, j.log)
	if got := Learn(j.log)[procedure.KindJoin]; got != 2 {
		t.Errorf("every joint took two minutes, learned %v", got)
	}
	if learned[procedure.KindJoin] <= 2 {
		t.Errorf("slow work taught nothing: %v", learned)
	}
	run := Read(nil).NewRun(j.found, j.o, device.NewLibrary(nil), nil, 1, Learn(j.log))
	for i, s := range run.Steps {
		if s.Kind == procedure.KindJoin && run.Minutes[i] != 2 {
			t.Errorf("step %d is thought to take %v", i+1, run.Minutes[i])
		}
	}
}

// TestAlike: steps that are alike are ticked in one go, others are not.
func TestAlike(t *testing.T) {
	j := three(t)
	n := j.to(func(s procedure.Step) bool { return s.Proves })
	s := Read(j.log)
	alike := s.Steps[n-1].Alike
	if len(alike) < 2 {
		t.Fatalf("pressing at %d places is not alike", len(j.o.Places))
	}
	j.refused("unknown-step", Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{n, n}}})
	j.refused("unknown-step", Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{999}}})
	j.refused("step-locked", Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{n, alike[len(alike)-1] + 1}}})
	j.must(Entry{Kind: Done, OfSteps: OfSteps{Steps: alike}})
	if s := Read(j.log); s.Steps[alike[1]-1].Status != Settled {
		t.Error("the second is not done")
	}
}

// TestSeen: what was seen and noted is held against what it must say.
func TestSeen(t *testing.T) {
	j := three(t)
	yes := true
	for _, x := range []struct {
		code string
		e    Entry
	}{
		{"", Entry{Kind: Press, Pressed: Pressed{Press: "s1", Lamps: map[string]string{"lamp1": "lit"}}}},
		{"unknown-look", Entry{Kind: Press, Pressed: Pressed{Lamps: map[string]string{"lamp1": "blue"}}}},
		{"unknown-look", Entry{Kind: Press}},
		{"", Entry{Kind: Trial, Place: "m1", Tried: Tried{Path: "app", Works: &yes, Seconds: 0.4}}},
		{"no-trial", Entry{Kind: Trial, Place: "m1", Tried: Tried{Path: "app"}}},
		{"no-reading", Entry{Kind: Reading, Measured: Measured{Test: &circuit.Observation{}}}},
		{"no-fact", Entry{Kind: Device, Place: "m1"}},
		{"", Entry{Kind: Device, Place: "m1", Fact: Fact{Field: "serial"}, Value: "0042"}},
		{"no-reason", Entry{Kind: Remark}},
		{"unknown-kind", Entry{Kind: "dance"}},
		{"unknown-end", Entry{Kind: Live}},
		{"too-long", Entry{Kind: Remark, Note: string(make([]rune, mostText+1))}},
	} {
		if x.code == "" {
			j.must(x.e)
		} else {
			j.refused(x.code, x.e)
		}
	}
	if _, err := Parse([]byte("{")); err == nil {
		t.Error("half an entry is read")
	}
	if err := Read(nil).Check(nil, Entry{Kind: Done, OfSteps: OfSteps{Steps: []int{1}}}); err == nil {
		t.Error("a step of nothing is done")
	}
}
