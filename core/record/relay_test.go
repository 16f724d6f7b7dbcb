package record_test

import (
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/record"
	"ambivia/core/retrofit"
)

// TestRelayIsTried: a relay without a face obeys the network as a place does, and is tried by it; one that no network reaches is not.
func TestRelayIsTried(t *testing.T) {
	library := device.NewLibrary(nil)
	seen := map[string]bool{}
	for _, o := range retrofit.Plan(circuittest.Row(2)).Options {
		if !o.Feasible {
			continue
		}
		for _, x := range o.Devices {
			m, _ := library.Get(x.Device)
			if m.Model.Button != nil || m.Model.Remote == "" {
				continue
			}
			seen[x.Device] = true
			paths := map[string]int{}
			for _, trial := range record.Trials(&o, library, nil) {
				if trial.Place == x.ID {
					paths[trial.Path]++
				}
			}
			if want := 2 * min(1, len(m.Radio)); paths[record.App] != want || paths[record.Voice] != want || paths[record.Paddle] != 0 {
				t.Errorf("%s: %s is tried by %v", o.ID, x.Device, paths)
			}
		}
	}
	if len(seen) < 2 {
		t.Errorf("relays without a face: %v", seen)
	}
}
