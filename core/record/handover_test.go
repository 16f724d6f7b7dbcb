package record_test

import (
	"encoding/json"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/record"
)

// TestToldAsItStands: the customer is told how to use what stands, and nothing of a plan that was not carried out whole; every list
// is a list, also where it is empty.
func TestToldAsItStands(t *testing.T) {
	doc, f, r := fittedRecord(t, "Plate archive")
	for name, x := range map[string]struct {
		begin          bool
		leave          bool
		back           bool
		used, partial  bool
		wrong, restore bool
		next           record.StageID
	}{
		"nothing begun": {next: record.ToFit},
		"all done":      {begin: true, used: true, restore: true, next: record.ToProve},
		"one left out":  {begin: true, leave: true, partial: true, wrong: true, restore: true, next: record.ToProve},
		"put back":      {begin: true, back: true, next: record.ToChoose},
	} {
		w := &worklog{t: t, doc: doc, found: inspect.Compile(doc), with: r, proof: r.Proved.Proof}
		left := 0
		leave := func(s procedure.Step) bool {
			if x.leave && left == 0 && s.Kind == procedure.KindJoin {
				left = s.Number
			}
			return left == s.Number
		}
		if x.begin {
			w.run(fitting.Read(w.log).NewRun(w.found, f.Option, device.NewLibrary(nil), nil, 1, nil), leave)
		}
		if x.back {
			w.run(fitting.Read(w.log).NewBack(w.found, f.Option, device.NewLibrary(nil), 1, nil), func(procedure.Step) bool { return false })
		}
		h := w.record().Handover("EUR")
		if (len(h.Use) > 0) != x.used || (len(h.Fails) > 0) != x.used || (h.InPart != "") != x.partial || (len(h.Wrong) > 0) != x.wrong || h.Begun != x.begin {
			t.Errorf("%s: %+v", name, h)
		}
		if next := record.StageOf(w.found, true, w.log); next.ID != x.next || next.Of != 0 {
			t.Errorf("%s: next is %+v, want %s", name, next, x.next)
		}
		if strings.Contains(h.Back, "takes") != x.restore {
			t.Errorf("%s: the way back: %q", name, h.Back)
		}
		if text, err := json.Marshal(h); err != nil || strings.Contains(string(text), "null") {
			t.Errorf("%s: %s, %v", name, text, err)
		}
	}
}

// TestNext: what comes next on a circuit follows from what is recorded: what is not followed is traced, a plan is chosen for what
// works, and a run that is under way is gone on with.
func TestNext(t *testing.T) {
	doc, f, _ := fittedRecord(t, "Plate archive")
	half, bare := doc.Clone(), doc.Clone()
	half.Cables[0].Ends[1] = nil
	bare.Devices, bare.Joins = nil, nil
	begun := fitting.Read(nil).NewRun(inspect.Compile(doc), f.Option, device.NewLibrary(nil), nil, 1, nil)
	run := []fitting.Entry{
		{Number: 1, Kind: fitting.Begin, Began: fitting.Began{Run: begun}},
		{Number: 2, Kind: fitting.Done, OfSteps: fitting.OfSteps{Steps: []int{1}}},
	}
	pressed := append(run[:1:1], fitting.Entry{Number: 2, Kind: fitting.End}, fitting.Entry{Number: 3, Kind: fitting.Press})
	for _, x := range []struct {
		doc    *circuit.Circuit
		chosen bool
		log    []fitting.Entry
		want   record.Stage
	}{
		{bare, false, nil, record.Stage{ID: record.ToSurvey}},
		{half, false, nil, record.Stage{ID: record.ToTrace}},
		{doc, false, nil, record.Stage{ID: record.ToChoose}},
		{doc, true, nil, record.Stage{ID: record.ToFit}},
		{doc, true, run, record.Stage{ID: record.ToFit, Done: 1, Of: len(begun.Steps)}},
		{doc, true, pressed[:2], record.Stage{ID: record.ToProve}},
		{doc, true, pressed, record.Stage{ID: record.ToRecord}},
	} {
		if got := record.StageOf(inspect.Compile(x.doc), x.chosen, x.log); got != x.want {
			t.Errorf("next is %+v, want %+v", got, x.want)
		}
	}
}
