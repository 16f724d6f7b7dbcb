package retrofit

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
)

// TestLimitsByKind: lamps of two kinds are held against both limits at once, each taking its share; a kind that a device does
// not take refuses it, and an unrecorded kind leaves the rest to be judged.
func TestLimitsByKind(t *testing.T) {
	limits := device.Limits{"led": 150, "incandescent": 600}
	for name, x := range map[string]struct {
		watts   map[string]float64
		share   float64
		refused string
	}{
		"one kind":        {map[string]float64{"led": 75}, 0.5, ""},
		"two kinds":       {map[string]float64{"led": 75, "incandescent": 450}, 1.25, ""},
		"halogen is both": {map[string]float64{"halogen": 300, "incandescent": 300}, 1, ""},
		"not taken":       {map[string]float64{"led": 1, "motor": 1}, 0, "motor"},
		"not noted":       {map[string]float64{"": 5000, "led": 30}, 0.2, ""},
	} {
		if share, refused := limits.Share(x.watts); share != x.share || refused != x.refused {
			t.Errorf("%s: %g, %q", name, share, refused)
		}
	}
}

// TestMixedLamps: a thousand watts of filament are too much for every device that is wired to them, whatever small lamp of
// another kind hangs beside; lamps that speak for themselves fit still.
func TestMixedLamps(t *testing.T) {
	c := circuittest.Straight()
	c.Device("lamp1").Watts, c.Device("lamp1").Count, c.Device("lamp1").Load = circuittest.Float(1000), nil, "incandescent"
	c.Devices = append(c.Devices, circuit.Device{ID: "lamp2", Box: "light", Type: circuit.TypeLamp, Watts: circuittest.Float(9), Load: "led"})
	for screw, with := range map[string]string{"l": "w3.black", "n": "w3.white", "ground": "w3.bare"} {
		owner, part, _ := strings.Cut(with, ".")
		j := c.JoinOf("light", circuit.Ref{Owner: owner, Part: part})
		c.Joins[j].Of = append(c.Joins[j].Of, circuit.Ref{Owner: "lamp2", Part: screw})
	}
	overloaded := 0
	for _, o := range Plan(c).Options {
		if slices.ContainsFunc(o.Reasons, func(r Reason) bool {
			return r.Code == "load-limit" && strings.Contains(r.Text, "1000 W incandescent and 9 W led")
		}) {
			overloaded++
		}
		if !o.Feasible {
			continue
		}
		for _, f := range o.Devices {
			d, _ := device.NewLibrary(nil).Get(f.Device)
			if share, _ := d.Limits.Share(c.Load().Watts); share > 1 && !d.PerLamp {
				t.Errorf("%s fits %s", o.ID, d.Name)
			}
		}
	}
	if overloaded == 0 {
		t.Error("nothing is overloaded")
	}
}

// TestFinsByGangs: a device is derated for each neighbour that its box has a gang for, recorded or not.
func TestFinsByGangs(t *testing.T) {
	c := circuittest.Straight()
	for gangs, want := range map[int]int{1: 0, 2: 1, 3: 2, 5: 2} {
		c.Box("foot").Gangs = &gangs
		p := &planner{doc: c}
		if got := p.fins("foot"); got != want {
			t.Errorf("%d gangs: fins on %d sides, not %d", gangs, got, want)
		}
	}
}
