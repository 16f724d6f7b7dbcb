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

// TestOldHouses: in a house of the old colours what was line then is line, its cables come
// first, and what only the new colours allow is not; who says nothing accepts both.
func TestOldHouses(t *testing.T) {
	eras := 0
	for _, p := range practice.All() {
		if len(p.Eras) == 0 {
			continue
		}
		eras++
		house := func(colours string) practice.Practice {
			return practice.For(&circuit.Circuit{Practice: p.ID, Colours: colours})
		}
		both, old, fresh := house(""), house(circuit.ColoursOld), house(circuit.ColoursNew)
		for _, era := range []practice.Practice{old, fresh} {
			for _, colour := range slices.Concat(era.Colours.Line, era.Colours.Neutral) {
				if a, _ := both.May(colour, "line"); !a {
					if n, _ := both.May(colour, "neutral"); !n {
						t.Errorf("%s: %s is of one time and neither line nor neutral where nobody said which", p.ID, colour)
					}
				}
			}
		}
		if fmt.Sprint(old.Colours) == fmt.Sprint(fresh.Colours) {
			t.Errorf("%s: old and new colours are the same", p.ID)
		}
		if old.Cables[0].Era == circuit.ColoursNew || fresh.Cables[0].Era == circuit.ColoursOld {
			t.Errorf("%s: cables of the other time come first", p.ID)
		}
		if len(old.Cables) != len(p.Cables) || fmt.Sprint(house("mixed").Colours) != fmt.Sprint(both.Colours) {
			t.Errorf("%s: a house of both times is not as one of which nobody spoke", p.ID)
		}
	}
	if eras == 0 {
		t.Error("no practice changed its colours")
	}
}

// TestLookups: unknown practices speak canonical words, unknown words stand for themselves,
// recorded volts beat nominal ones.
func TestLookups(t *testing.T) {
	if p := practice.Of("mars"); p.ID != "na" || p.Word("flux") != "flux" || p.Word("traveler") != "traveler" {
		t.Errorf("%s, %s", p.ID, p.Word("flux"))
	}
	volts := 208.0
	for _, k := range []struct {
		c    circuit.Circuit
		want float64
	}{
		{circuit.Circuit{Practice: "na"}, 120}, {circuit.Circuit{Practice: "uk"}, 230}, {circuit.Circuit{Practice: "in", Supply: &circuit.Supply{}}, 230},
		{circuit.Circuit{Practice: "na", Supply: &circuit.Supply{Volts: &volts}}, 208},
	} {
		if got := practice.Volts(&k.c); got != k.want {
			t.Errorf("%+v: %g V, want %g", k.c, got, k.want)
		}
	}
	for _, k := range []struct {
		practice, core string
		only           bool
	}{{"na", "white", true}, {"na", "black", false}, {"uk", "blue", true}, {"in", "black", true}, {"au", "white", false}, {"eu", "blue", true}} {
		if got := practice.Of(k.practice).NeutralOnly(k.core); got != k.only {
			t.Errorf("%s, %s: taken for neutral and nothing else: %t", k.practice, k.core, got)
		}
	}
}

// TestGroundIsGround: in every practice and for every role, ground colours carry ground and
// nothing else, and nothing else carries ground.
func TestGroundIsGround(t *testing.T) {
	for _, p := range practice.All() {
		for _, core := range []string{"bare", "green", "green-yellow", "black", "white", "red", "blue", "brown", "grey", "yellow", "orange", "purple"} {
			ground, remark := p.May(core, "ground")
			if remark || circuit.GroundColour(core) && !ground {
				t.Errorf("%s: %s may not be ground, or only with tape", p.ID, core)
			}
			for _, role := range []string{"line", "load", "traveler", "signal", "neutral"} {
				if ok, _ := p.May(core, role); ok && ground {
					t.Errorf("%s: %s may be ground and %s", p.ID, core, role)
				}
			}
		}
	}
}
