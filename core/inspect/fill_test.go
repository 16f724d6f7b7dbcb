package inspect_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestBoxFill: counts that anybody can do by hand.
func TestBoxFill(t *testing.T) {
	two, three := []string{"black", "white", "bare"}, []string{"black", "red", "white", "bare"}
	type cable struct {
		cores []string
		gauge string
	}
	cases := []struct {
		name    string
		cm3     float64
		cables  []cable
		devices []string
		inch3   float64
		fits    bool
	}{
		// 5 insulated, 2 grounds, clamps, one yoke: (5 + 1 + 1 + 2) × 2.00
		{"feed and three-core behind a 3-way", 295, []cable{{two, "14AWG"}, {three, "14AWG"}}, []string{circuit.TypeThreeWay}, 18, true},
		{"the same in a shallow box", 205, []cable{{two, "14AWG"}, {three, "14AWG"}}, []string{circuit.TypeThreeWay}, 18, false},
		// 4 × 2.25 + 2 × 2.00 insulated, the rest by the larger: 2.25 × (1 + 1 + 2)
		{"mixed gauges", 400, []cable{{two, "12AWG"}, {two, "12AWG"}, {two, "14AWG"}}, []string{circuit.TypeThreeWay}, 22, true},
		// 10 insulated, five grounds, clamps, no yoke: (10 + 1.25 + 1) × 2.00
		{"five grounds in a fixture box", 352, []cable{{two, "14AWG"}, {two, "14AWG"}, {two, "14AWG"}, {two, "14AWG"}, {two, "14AWG"}}, []string{circuit.TypeLamp}, 24.5, false},
		{"two yokes", 590, []cable{{three, "14AWG"}, {three, "14AWG"}}, []string{circuit.TypeThreeWay, circuit.TypeSinglePole}, 24, true},
	}
	for _, k := range cases {
		t.Run(k.name, func(t *testing.T) {
			c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "b", Kind: circuit.Switch, VolumeCm3: &k.cm3}}}
			box := "b"
			for i, x := range k.cables {
				c.Cables = append(c.Cables, circuit.Cable{ID: fmt.Sprintf("k%d", i), Ends: [2]*string{&box, nil}, Cores: x.cores, Gauge: x.gauge})
			}
			for i, d := range k.devices {
				c.Devices = append(c.Devices, circuit.Device{ID: fmt.Sprintf("d%d", i), Box: "b", Type: d})
			}
			f := inspect.BoxFill(c, "b")
			if f.Missing != "" || math.Abs(f.Inch3-k.inch3) > 1e-9 || f.Fits() != k.fits {
				t.Errorf("needs %.2f of %.2f in³, fits %v (%s): %+v", f.Inch3, f.Volume, f.Fits(), f.Missing, f.Lines)
			}
			if told := slices.Contains(codes(inspect.Check(c)), "box-fill"); told == k.fits {
				t.Errorf("a finding of it: %v", told)
			}
		})
	}
}

// TestBoxFillUnknown: what is not recorded is said to be so and not guessed.
func TestBoxFillUnknown(t *testing.T) {
	c := circuittest.Chain(2)
	if f := inspect.BoxFill(c, "b1"); f.Missing == "" {
		t.Error("a count without the box's volume")
	}
	c.Boxes[1].VolumeCm3 = circuittest.Float(20)
	if f := inspect.BoxFill(c, "b1"); f.Missing == "" {
		t.Error("a count without gauges")
	}
	for i := range c.Cables {
		c.Cables[i].Gauge = "14AWG"
	}
	if got := codes(inspect.Check(c)); !slices.Contains(got, "box-fill") {
		t.Errorf("a box of 20 cm³ passes: %v", got)
	}
	c.Practice = "uk"
	if got := codes(inspect.Check(c)); slices.Contains(got, "box-fill") {
		t.Error("another practice is held to the sum of North America")
	}
}

func TestBreakers(t *testing.T) {
	c := circuittest.Chain(2)
	c.Supply = &circuit.Supply{BreakerAmps: circuittest.Float(20)}
	c.Cables[0].Gauge, c.Cables[1].Gauge = "12AWG", "14AWG"
	var at []string
	for _, f := range inspect.Check(c).Findings {
		if f.Code == "breaker-gauge" {
			at = append(at, f.At[0].Owner)
		}
	}
	if !slices.Equal(at, []string{c.Cables[1].ID}) {
		t.Errorf("cables %v are too thin, want %s", at, c.Cables[1].ID)
	}
	// A second circuit's cable that passes through the first switch box.
	box := *c.Cables[0].Ends[1]
	panel := "panel"
	c.Cables = append(c.Cables, circuit.Cable{ID: "other", Ends: [2]*string{&panel, &box}, Cores: []string{"black", "white"}})
	c.Devices = append(c.Devices, circuit.Device{ID: "second", Box: "panel", Type: circuit.TypeSupply})
	c.Joins = append(c.Joins, circuit.Join{Box: "panel", Of: []circuit.Ref{{Owner: "other", Part: "black"}, {Owner: "second", Part: "hot"}}})
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	if got := codes(inspect.Check(c)); !slices.Contains(got, "two-breakers") {
		t.Errorf("two breakers in %s pass: %v", box, got)
	}
}

// TestFillBound: what needs just the room that there is fits, and a hundredth of a cubic inch more is the
// rounding of a stamped volume; more than that does not.
func TestFillBound(t *testing.T) {
	for inch3, fits := range map[float64]bool{17.9: true, 18: true, 18.01: true, 18.02: false, 18.25: false} {
		if f := (inspect.Fill{Inch3: inch3, Volume: 18}); f.Fits() != fits {
			t.Errorf("%g of 18 in³: fits %t", inch3, f.Fits())
		}
	}
}
