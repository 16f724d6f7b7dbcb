package practice_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// TestData: every practice speaks of the same things, and its cables are cores
// that the file format knows.
func TestData(t *testing.T) {
	all := practice.All()
	names := slices.Sorted(maps.Keys(all[0].Words))
	for _, p := range all {
		if got := slices.Sorted(maps.Keys(p.Words)); !slices.Equal(got, names) {
			t.Errorf("%s has words for %v, %s for %v", p.ID, got, all[0].ID, names)
		}
		if p.Volts == 0 || p.Hertz == 0 || p.WhoMay == "" || p.Caution == "" || len(p.Cables) < 3 {
			t.Errorf("%s is incomplete", p.ID)
		}
		for _, k := range p.Cables {
			to := "b"
			c := &circuit.Circuit{
				Format: circuit.Format, Practice: p.ID, Boxes: []circuit.Box{{ID: "b", Kind: circuit.Switch}},
				Cables:  []circuit.Cable{{ID: "k", Ends: [2]*string{&to, nil}, Cores: k.Cores, Gauge: k.Gauge}},
				Devices: []circuit.Device{}, Joins: []circuit.Join{},
			}
			if err := circuit.Recheck(c); err != nil {
				t.Errorf("%s, cable %s: %v", p.ID, k.ID, err)
			}
			if k.Neutral != "" {
				if ok, _ := p.May(k.Neutral, "neutral"); !ok || !slices.Contains(k.Cores, k.Neutral) {
					t.Errorf("%s, cable %s: %s cannot be its neutral", p.ID, k.ID, k.Neutral)
				}
			}
		}
	}
}

// TestMay: what insulation may carry, by practice.
func TestMay(t *testing.T) {
	cases := []struct {
		practice, core, role string
		allowed, remark      bool
	}{
		{"na", "black", "line", true, false},
		{"na", "red2", "load", true, false},
		{"na", "white", "neutral", true, false},
		{"na", "white", "line", true, true},
		{"na", "white", "traveler", true, true},
		{"na", "white", "load", false, false}, // not the switched return to the lamp
		{"na", "red", "neutral", false, false},
		{"na", "bare", "line", false, false},
		{"na", "bare", "ground", true, false},
		{"na", "black", "ground", false, false},
		{"uk", "brown", "line", true, false},
		{"uk", "grey", "load", true, true},
		{"uk", "blue", "neutral", true, false},
		{"uk", "blue", "load", true, true},
		{"uk", "green-yellow", "traveler", false, false},
		{"au", "white", "load", true, false}, // the switch wire
		{"in", "black", "neutral", true, false},
		{"in", "yellow", "traveler", true, false},
		{"eu", "blue", "neutral", true, false},
		{"eu", "brown", "neutral", false, false},
	}
	for _, k := range cases {
		t.Run(fmt.Sprintf("%s %s %s", k.practice, k.core, k.role), func(t *testing.T) {
			allowed, remark := practice.Of(k.practice).May(k.core, k.role)
			if allowed != k.allowed || remark != k.remark {
				t.Errorf("allowed %v, re-mark %v", allowed, remark)
			}
		})
	}
}

// TestVolts: recorded volts go before the nominal ones.
func TestVolts(t *testing.T) {
	v := 127.0
	c := &circuit.Circuit{Practice: "uk"}
	if got := practice.Volts(c); got != 230 {
		t.Errorf("nominal %v", got)
	}
	c.Supply = &circuit.Supply{Volts: &v}
	if got := practice.Volts(c); got != v {
		t.Errorf("recorded %v", got)
	}
	if practice.Of("nowhere").ID != "na" || practice.Of("uk").Word("nothing") != "nothing" {
		t.Error("what nobody knows is not taken as it is")
	}
}
