package record

import (
	"testing"

	"ambivia/core/fitting"
)

// TestLevelsTried: of what was noted as people write it, the narrower counts; what is no level counts for nothing.
func TestLevelsTried(t *testing.T) {
	facts := func(id string, values ...string) []DeviceFacts {
		var out []DeviceFacts
		for _, v := range values {
			out = append(out, DeviceFacts{Facts: []Fact{{ID: id, Value: v}, {ID: "fade", Value: "3"}}})
		}
		return out
	}
	for _, x := range []struct {
		values          []string
		lowest, highest int
	}{
		{nil, 0, 0}, {[]string{""}, 0, 0}, {[]string{"12"}, 12, 12}, {[]string{" 12 %", "8%"}, 12, 8}, {[]string{"12,5"}, 13, 13},
		{[]string{"steady", "0", "-4", "101", "NaN", "Inf"}, 0, 0}, {[]string{"100", "7"}, 100, 7},
	} {
		if got, _ := LevelsTried(facts(lowestFact, x.values...)); got != x.lowest {
			t.Errorf("lowest of %q: %d, want %d", x.values, got, x.lowest)
		}
		if _, got := LevelsTried(facts(highestFact, x.values...)); got != x.highest {
			t.Errorf("highest of %q: %d, want %d", x.values, got, x.highest)
		}
	}
}

// TestDelays: of the trials that stand in the table, those count that worked, were timed, and were made by hand.
func TestDelays(t *testing.T) {
	yes, no := true, false
	log := []fitting.Entry{
		{Number: 1, Kind: fitting.Trial, Tried: fitting.Tried{Works: &yes, Seconds: 0.4}}, {Number: 2, Kind: fitting.Trial, Tried: fitting.Tried{Works: &no, Seconds: 9}},
		{Number: 3, Kind: fitting.Trial, Tried: fitting.Tried{Works: &yes}}, {Number: 4, Kind: fitting.Trial, Tried: fitting.Tried{Works: &yes, Seconds: 2}}, {Number: 5, Kind: fitting.Trial, Tried: fitting.Tried{Works: &yes, Seconds: 7}},
	}
	trials := []Trial{{Place: "m1", Path: Paddle, Entry: 1}, {Place: "m1", Path: Paddle, Entry: 2}, {Place: "r1", Path: Remote, Entry: 3}, {Place: "r1", Path: Voice, Entry: 4}, {Place: "r1", Path: Paddle}}
	if got := Delays(trials, log); len(got) != 1 || got[0].Device != "m1" || got[0].Seconds != 0.4 {
		t.Errorf("delays: %+v", got)
	}
}
