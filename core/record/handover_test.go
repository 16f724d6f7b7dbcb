package record_test

import (
	"encoding/json"
	"strings"
	"testing"

	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
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
	}{
		"nothing begun": {},
		"all done":      {begin: true, used: true, restore: true},
		"one left out":  {begin: true, leave: true, partial: true, wrong: true, restore: true},
		"put back":      {begin: true, back: true},
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
		if strings.Contains(h.Back, "takes") != x.restore {
			t.Errorf("%s: the way back: %q", name, h.Back)
		}
		if text, err := json.Marshal(h); err != nil || strings.Contains(string(text), "null") {
			t.Errorf("%s: %s, %v", name, text, err)
		}
	}
}
