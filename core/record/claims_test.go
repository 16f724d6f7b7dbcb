package record_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/record"
)

// TestClaims: each claim that names an entry of the log says what that entry says, no fact is claimed twice,
// and all that counts in the log is claimed.
func TestClaims(t *testing.T) {
	_, f, r := fittedRecord(t, "Plate archive")
	claims := r.Claims()
	seen, entries := map[string]string{}, map[int]bool{}
	for _, c := range claims {
		if before, twice := seen[c.What]; twice {
			t.Errorf("%s is claimed as %s and as %s", c.What, before, c.Kind)
		}
		if seen[c.What] = c.Kind; c.Text == "" || c.Circuit != "Plate archive" {
			t.Errorf("half a claim: %+v", c)
		}
		if c.Entry == nil {
			continue
		}
		entries[*c.Entry] = true
		e := f.Log[*c.Entry-1]
		want := map[fitting.Kind][]string{
			fitting.Done: {record.Done, record.Confirmed, record.Measured}, fitting.Skip: {record.NotTested}, fitting.Press: {record.Pressed},
			fitting.Reading: {record.Measured}, fitting.Trial: {record.Pressed}, fitting.Device: {record.Confirmed}, fitting.Secure: {record.Confirmed},
		}[e.Kind]
		if !strings.Contains(fmt.Sprint(want), c.Kind) {
			t.Errorf("entry %d is %s, and is claimed as %s", e.Number, e.Kind, c.Kind)
		}
		if e.Kind == fitting.Device && !strings.Contains(c.Text, e.Value) {
			t.Errorf("entry %d notes %q, the claim says %q", e.Number, e.Value, c.Text)
		}
	}
	for _, e := range f.Log {
		if (e.Kind == fitting.Press || e.Kind == fitting.Secure) && !entries[e.Number] {
			t.Errorf("entry %d, %s, is claimed nowhere", e.Number, e.Kind)
		}
	}
	if len(entries) < 10 {
		t.Errorf("only %d entries are claimed", len(entries))
	}
}

// TestTakenBackIsNotClaimed: whatever is noted and then taken back stands nowhere as true: not among the
// claims, the readings, the trials, the facts of devices, or the dates of batteries.
func TestTakenBackIsNotClaimed(t *testing.T) {
	c, f, r := fittedRecord(t, "Plate archive")
	yes := true
	place := f.Option.Places[0].Device
	for name, e := range map[string]fitting.Entry{
		"reading": {Kind: fitting.Reading, Measured: fitting.Measured{Test: &circuit.Observation{Power: "off", Instrument: circuit.TwoPole, Reading: 77.0, At: c.CoreEnds(f.Option.BoxesTouched[0])[:2]}}},
		"trial":   {Kind: fitting.Trial, Place: place, Tried: fitting.Tried{Path: "voice", From: "lit", Works: &yes}},
		"fact":    {Kind: fitting.Device, Place: place, Fact: fitting.Fact{Field: "serial"}, Value: "XQ-77"},
		"fault":   {Kind: fitting.Fault, Note: "XQ-77 hums"},
		"press":   {Kind: fitting.Press, Pressed: fitting.Pressed{Press: place, Lamps: map[string]string{"lamp1": "trip"}}},
	} {
		log := append([]fitting.Entry{}, f.Log...)
		e.Number, e.Time = len(log)+1, time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)
		log = append(log, e, fitting.Entry{Number: e.Number + 1, Time: e.Time, Kind: fitting.Undo, TookBack: fitting.TookBack{Of: e.Number}})
		with := record.Of(record.Source{Found: inspect.Compile(c), Option: f.Option, Library: device.NewLibrary(nil), Log: log})
		for _, claim := range with.Claims() {
			if claim.Entry != nil && *claim.Entry >= e.Number {
				t.Errorf("%s taken back is claimed: %+v", name, claim)
			}
		}
		for list, lines := range map[string][]record.Line{"readings": with.Readings, "proving": with.Proving, "faults": with.Faults, "notes": with.Notes} {
			was := map[string][]record.Line{"readings": r.Readings, "proving": r.Proving, "faults": r.Faults, "notes": r.Notes}[list]
			if len(lines) != len(was) {
				t.Errorf("%s taken back stands among the %s", name, list)
			}
		}
		for i, d := range with.Devices {
			for n, fact := range d.Facts {
				if fact.Value != r.Devices[i].Facts[n].Value {
					t.Errorf("%s taken back: %s is %q", name, fact.ID, fact.Value)
				}
			}
		}
		if len(with.Tried) != len(r.Tried) {
			t.Errorf("%s taken back counts as a trial", name)
		}
	}
}
