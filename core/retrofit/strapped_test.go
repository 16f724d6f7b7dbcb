package retrofit

import (
	"fmt"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// strappedChain is a chain strapped common to common with so many switches, feed and lamp
// at the first: the four-ways between stand on the pair, the common passes them by.
func strappedChain(t *testing.T, controls int) *circuit.Circuit {
	t.Helper()
	c := read(t, threeBoxes, strapped[0], strapped[1])
	last := "foot"
	for i := range controls - 2 {
		box, cable, dev := fmt.Sprintf("mid%d", i+1), fmt.Sprintf("m%d", i+1), fmt.Sprintf("x%d", i+1)
		c.Boxes = append(c.Boxes, circuit.Box{ID: box, Kind: circuit.Switch})
		c.Devices = append(c.Devices, circuit.Device{ID: dev, Box: box, Type: circuit.TypeFourWay})
		k := c.Cable("c")
		from, to := last, box
		c.Cables = append(c.Cables, circuit.Cable{ID: cable, Ends: [2]*string{&from, &to}, Cores: k.Cores})
		c.Cable("c").Ends[0] = &to
		for j := range c.Joins {
			if c.Joins[j].Box == from {
				for n, m := range c.Joins[j].Of {
					if m.Owner == "c" {
						c.Joins[j].Of[n].Owner = cable
					}
				}
			}
		}
		ref := func(owner, part string) circuit.Ref { return circuit.Ref{Owner: owner, Part: part} }
		for _, of := range [][]circuit.Ref{{ref(cable, "black"), ref("c", "black")}, {ref(cable, "red"), ref(dev, "a1")}, {ref(cable, "blue"), ref(dev, "a2")},
			{ref("c", "red"), ref(dev, "b1")}, {ref("c", "blue"), ref(dev, "b2")}, {ref(cable, "bare"), ref("c", "bare"), ref(dev, "ground")}} {
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: of})
		}
		last = box
	}
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	if r := inspect.Check(c); r.Verdict != inspect.Works {
		t.Fatalf("%d strapped: %s", controls, r.Findings[0].Text)
	}
	return c
}

// TestStrappedIsTurned: a strapped chain of any length is turned round for a sensing switch
// and for a contact; the switches between stay, and all that must hold is proved.
func TestStrappedIsTurned(t *testing.T) {
	for controls := 2; controls <= 5; controls++ {
		c := strappedChain(t, controls)
		fits := map[string]int{}
		for _, o := range Plan(c).Options {
			if o.Feasible && o.Metrics.NewCables == 0 {
				fits[o.Strategy]++
				prove(t, o.ID, c, o)
			}
			for _, r := range o.Reasons {
				if strings.HasPrefix(r.Code, "fails-") {
					t.Errorf("%d controls, %s: %s", controls, o.ID, r.Text)
				}
			}
		}
		for _, s := range []string{SensingSwitch, MainContact, ChangeoverRelay} {
			if fits[s] == 0 {
				t.Errorf("%d controls strapped: no %s fits", controls, s)
			}
		}
	}
}
