package retrofit

import (
	"fmt"
	"strings"
	"testing"

	"ambivia/core/circuit"
)

// singles is a box with some single-pole switches, each for a light of its own, all on one
// feed.
func singles(t *testing.T, lights int) *circuit.Circuit {
	t.Helper()
	panel, foot := "panel", "foot"
	c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "panel", Kind: circuit.Panel}, {ID: "foot", Kind: circuit.Switch}},
		Cables:  []circuit.Cable{{ID: "a", Ends: [2]*string{&panel, &foot}, Cores: []string{"black", "white", "bare"}}},
		Devices: []circuit.Device{{ID: "f", Box: "panel", Type: circuit.TypeSupply}}}
	join := func(box, of string) {
		j := circuit.Join{Box: box}
		for m := range strings.FieldsSeq(of) {
			ref, err := circuit.ParseRef(m)
			if err != nil {
				t.Fatal(err)
			}
			j.Of = append(j.Of, ref)
		}
		c.Joins = append(c.Joins, j)
	}
	join("panel", "a.black f.hot")
	join("panel", "a.white f.neutral")
	join("panel", "a.bare f.ground")
	line, back, ground := "a.black", "a.white", "a.bare"
	for i := range lights {
		light, k, s, l := fmt.Sprintf("light%d", i), fmt.Sprintf("k%d", i), fmt.Sprintf("s%d", i), fmt.Sprintf("l%d", i)
		c.Boxes = append(c.Boxes, circuit.Box{ID: light, Kind: circuit.Fixture})
		c.Cables = append(c.Cables, circuit.Cable{ID: k, Ends: [2]*string{&foot, &light}, Cores: []string{"black", "white", "bare"}})
		c.Devices = append(c.Devices, circuit.Device{ID: s, Box: "foot", Type: circuit.TypeSinglePole}, circuit.Device{ID: l, Box: light, Type: circuit.TypeLamp})
		line, back, ground = line+" "+s+".a", back+" "+k+".white", ground+" "+k+".bare "+s+".ground"
		join("foot", s+".b "+k+".black")
		join(light, k+".black "+l+".l")
		join(light, k+".white "+l+".n")
		join(light, k+".bare "+l+".ground")
	}
	join("foot", line)
	join("foot", back)
	join("foot", ground)
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	return c
}

// TestSingles: a light with one switch becomes smart, gets a second place from nothing, and
// a module; several of them fit on one module with four channels.
func TestSingles(t *testing.T) {
	c := singles(t, 1)
	fits := map[string]bool{}
	for _, o := range Plan(c).Options {
		if o.Feasible {
			fits[o.Strategy] = true
			prove(t, o.ID, c, o)
		}
	}
	for _, s := range []string{OneSmart, AddedRemote, ModuleSwitched, ModuleDry, ModuleBare, SmartLamps} {
		if !fits[s] {
			t.Errorf("%s does not fit a light with one switch", s)
		}
	}
	c = singles(t, 3)
	four, some := 0, 0
	for _, o := range Plan(c).Options {
		if o.Strategy == ModuleFour && o.Feasible {
			four++
			prove(t, o.ID, c, o)
			if len(o.Light) < 3 {
				some++
			}
			if len(o.Devices) != 1 || len(o.Places) != len(o.Light) || len(o.BoxesTouched) != 1 {
				t.Errorf("%s: %d devices, %d places, work in %v", o.ID, len(o.Devices), len(o.Places), o.BoxesTouched)
			}
		}
	}
	if four == some || some != 3 {
		t.Errorf("one module with four channels: %d plans for three lights, %d for two of them", four-some, some)
	}
}
