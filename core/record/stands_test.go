package record_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/record"
)

// worklog is a log that is written on as work is done.
type worklog struct {
	t     *testing.T
	doc   *circuit.Circuit
	found *inspect.Compiled
	with  *record.Circuit
	log   []fitting.Entry
	proof *prove.Proof
}

func (w *worklog) add(e fitting.Entry) {
	e.Number = len(w.log) + 1
	if e.Time.IsZero() {
		e.Time = time.Date(2026, 12, 1, 8, 2*e.Number, 0, 0, time.UTC)
	}
	w.log = append(w.log, e)
}

// run begins a run and does its steps, but those that are left out.
func (w *worklog) run(run *fitting.Run, leave func(s procedure.Step) bool) {
	w.add(fitting.Entry{Kind: fitting.Begin, Began: fitting.Began{Run: run}})
	for range 500 {
		s := fitting.Read(w.log)
		if s.Now == 0 {
			return
		}
		step := s.Run.Steps[s.Now-1]
		if leave(step) || s.Steps[s.Now-1].Barred != "" {
			w.add(fitting.Entry{Kind: fitting.Skip, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Reason: "no time"}, Note: "the box is full"})
		} else {
			w.add(fitting.Entry{Kind: fitting.Done, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Asked: step.Asks}})
		}
	}
	w.t.Fatal("the run does not end")
}

func (w *worklog) record() *record.Circuit {
	w.t.Helper()
	if err := fitting.Valid(w.log); err != nil {
		w.t.Fatal(err)
	}
	proved, err := record.HowFar(context.Background(), w.doc, w.with.Option, w.proof, fitting.Read(w.log))
	if err != nil {
		w.t.Fatal(err)
	}
	return record.Of(record.Source{Found: w.found, Option: w.with.Option, Library: device.NewLibrary(nil), Log: w.log, Proved: proved})
}

// TestWhatItIsNow: what stands comes from the log, not from the plan: fitted, in part, put back, nothing
// begun; materials, batteries and promises are those of what stands.
func TestWhatItIsNow(t *testing.T) {
	doc, f, r := fittedRecord(t, "Plate archive")
	begin := func() *worklog {
		return &worklog{t: t, doc: doc, found: inspect.Compile(doc), with: r, proof: r.Proved.Proof}
	}
	promises := func(c *record.Circuit) int {
		n := 0
		for _, x := range c.Claims() {
			if x.Kind == record.Promised {
				n++
			}
		}
		return n
	}
	forth := func(w *worklog) *fitting.Run {
		return fitting.Read(w.log).NewRun(w.found, f.Option, device.NewLibrary(nil), nil, 1, nil)
	}
	none := func(procedure.Step) bool { return false }

	w := begin()
	if c := w.record(); c.Became != record.AsFound || c.Is() != "As found" || len(c.Materials) > 0 {
		t.Errorf("nothing begun: %s, %q", c.Became, c.Is())
	}
	w.run(forth(w), none)
	whole := w.record()
	if whole.Became != record.AsPlanned || len(whole.Materials) == 0 || promises(whole) == 0 || len(whole.LeftOut) > 0 {
		t.Errorf("all done: %s, %d materials, %d promises", whole.Became, len(whole.Materials), promises(whole))
	}
	w.run(fitting.Read(w.log).NewBack(w.found, f.Option, device.NewLibrary(nil), 1, nil), none)
	if c := w.record(); c.Became != record.PutBack || len(c.Materials) > 0 || len(c.Batteries) > 0 || promises(c) > 0 || !strings.Contains(c.Is(), "put back") || c.Minutes <= whole.Minutes {
		t.Errorf("put back: %s, %q, %d materials, %d batteries, %d promises, %.0f minutes after %.0f", c.Became, c.Is(), len(c.Materials), len(c.Batteries), promises(c), c.Minutes, whole.Minutes)
	}

	left := 0
	w = begin()
	w.run(forth(w), func(s procedure.Step) bool {
		if left == 0 && s.Kind == procedure.KindJoin {
			left = s.Number
			return true
		}
		return false
	})
	c := w.record()
	if c.Became != record.InPart || len(c.LeftOut) == 0 || !strings.Contains(c.LeftOut[0].How, "no time the box is full") || promises(c) > 0 || !strings.Contains(c.Is(), "not as planned") {
		t.Errorf("step %d left out: %s, %q, %+v", left, c.Became, c.Is(), c.LeftOut)
	}
}

// TestContraryReading: one reading that right work does not show fails the proof, whenever it was taken, and is
// named with what was expected; one press more does not take a proof away.
func TestContraryReading(t *testing.T) {
	doc, f, r := fittedRecord(t, "Plate archive")
	w := &worklog{t: t, doc: doc, found: inspect.Compile(doc), with: r, proof: r.Proved.Proof, log: slices.Clone(f.Log)}
	if !w.record().Proved.Whole() {
		t.Fatal("the demo's work is not proved")
	}
	last := w.log[slices.IndexFunc(w.log, func(e fitting.Entry) bool {
		return e.Kind == fitting.Press && e.Press == w.proof.Presses[len(w.proof.Presses)-1]
	})]
	again := fitting.Entry{Kind: fitting.Press, Pressed: fitting.Pressed{Press: w.proof.Presses[0], Lamps: map[string]string{}}, Time: w.log[len(w.log)-1].Time.Add(time.Minute)}
	seen := fitting.Read(w.log).Seen()
	for lamp, how := range seen[len(seen)-1].Lamps {
		again.Lamps[lamp] = map[string]string{"lit": "dark", "dark": "lit"}[how]
	}
	w.add(again)
	if c := w.record(); !c.Proved.Right || c.Proved.At != len(w.proof.Presses) {
		t.Errorf("after one press more: right %t, %d of %d presses (the last was %s)", c.Proved.Right, c.Proved.At, len(w.proof.Presses), last.Press)
	}
	tests := w.proof.Tests()
	if len(tests) == 0 {
		t.Fatal("the proof has no reading")
	}
	contrary := tests[0].Test
	contrary.Reading = map[any]any{"open": "closed", "closed": "open", "live": "quiet", "quiet": "live"}[tests[0].Right]
	if volts, is := tests[0].Right.(float64); is {
		contrary.Reading = 0.0
		if volts < 1 {
			contrary.Reading = 120.0
		}
	}
	w.add(fitting.Entry{Kind: fitting.Reading, Measured: fitting.Measured{Test: &contrary}, Note: "twice", Time: w.log[len(w.log)-1].Time.Add(time.Minute)})
	w.add(fitting.Entry{Kind: fitting.Remark, Note: "dated back", Time: w.log[0].Time.Add(-time.Hour)})
	c := w.record()
	if c.Proved.Right || len(c.Failed) == 0 || !strings.Contains(c.Failed[0], "right work reads") || strings.Contains(c.Status, "works as planned.") {
		t.Errorf("right %t, failed %q, %q", c.Proved.Right, c.Failed, c.Status)
	}
	told := c.Readings[len(c.Readings)-1]
	if !strings.Contains(told.How, "right: ") || !strings.Contains(told.How, "CONTRARY") || !strings.Contains(told.How, "twice") {
		t.Errorf("the reading is told as %q", told.How)
	}
	if !c.Begun.Equal(w.log[0].Time.Add(-time.Hour)) || len(c.Notes) == 0 {
		t.Errorf("begun %v, %d notes", c.Begun, len(c.Notes))
	}
}
