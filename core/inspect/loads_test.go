package inspect

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

func found(c *circuit.Circuit, code string) []Finding {
	return slices.DeleteFunc(Check(c).Findings, func(f Finding) bool { return f.Code != code })
}

// TestEachBreakerForItself: in random gangs each breaker is held against the lamps that hang on it and its own amperes, and no
// other's; one whose amperes are not noted takes those of the circuit.
func TestEachBreakerForItself(t *testing.T) {
	rng := rand.New(rand.NewPCG(28, 1))
	over, under := 0, 0
	for range 60 {
		breakers := 1 + rng.IntN(3)
		lights := breakers + rng.IntN(4)
		c := circuittest.Gangs(lights, breakers)
		c.Supply = &circuit.Supply{Volts: circuittest.Float(120), BreakerAmps: circuittest.Float(15)}
		amps, watts := make([]float64, breakers), make([]float64, breakers)
		for b := range breakers {
			d := c.Device(fmt.Sprintf("supply%d", b+1))
			d.Breaker, amps[b] = fmt.Sprint(10+b), 15
			if rng.IntN(2) == 0 {
				amps[b] = []float64{10, 20, 30}[rng.IntN(3)]
				d.Amps = &amps[b]
			}
		}
		for i := range lights {
			d := c.Device(fmt.Sprintf("lamp%d", i+1))
			each, n := float64(100+rng.IntN(900)), 1+rng.IntN(3)
			d.Watts, d.Count = &each, &n
			watts[i%breakers] += each * float64(n)
		}
		list := found(c, "breaker-load")
		for b := range breakers {
			name := fmt.Sprintf("breaker %d is", 10+b)
			if breakers == 1 {
				name = "the breaker is"
			}
			said := slices.ContainsFunc(list, func(f Finding) bool {
				return strings.Contains(strings.ToLower(f.Text), name) && strings.Contains(f.Text, fmt.Sprintf("%.0f W", watts[b])) && strings.Contains(f.Text, fmt.Sprintf("of %g A", amps[b]))
			})
			if is := watts[b] > 120*amps[b]; is != said {
				t.Errorf("%g W on breaker %d of %g A: %v", watts[b], 10+b, amps[b], list)
			} else if is {
				over++
			} else {
				under++
			}
		}
		for _, k := range c.Cables {
			c.Cable(k.ID).Gauge = "14AWG"
		}
		thin := found(c, "breaker-gauge")
		for b := range breakers {
			said := slices.ContainsFunc(thin, func(f Finding) bool { return strings.HasPrefix(f.At[0].Owner, fmt.Sprintf("f%d", b+1)) })
			if said != (amps[b] > 15) {
				t.Errorf("14 AWG behind %g A: %v", amps[b], thin)
			}
		}
	}
	if over == 0 || under == 0 {
		t.Errorf("%d over, %d under", over, under)
	}
}

// TestDepthAddsUp: a switch and the module behind it need room together; without the depth of the switch nothing is added
// up.
func TestDepthAddsUp(t *testing.T) {
	for name, x := range map[string]struct {
		box, front, module float64
		gangs              int
		want               string // of the text of the finding, "" for none
	}{
		"fits":        {60, 30, 18, 1, ""},
		"tight":       {52, 30, 18, 1, "leaves 4 mm"},
		"does not":    {47, 30, 18, 1, "needs 48 mm"},
		"nor in two":  {47, 30, 18, 2, "needs 48 mm"},
		"not noted":   {47, 0, 18, 1, ""},
		"switch deep": {28, 30, 0, 1, "reaches 30 mm"},
	} {
		c := circuittest.Straight()
		foot := c.Box("foot")
		foot.DepthMm, foot.Gangs = &x.box, &x.gangs
		if x.front > 0 {
			c.Device("s1").DepthMm = &x.front
		}
		if x.module > 0 {
			c.Models = map[string]circuit.Model{"module": {Terminals: []string{"in", "out"}}}
			c.Devices = append(c.Devices, circuit.Device{ID: "m1", Box: "foot", Type: circuit.TypeSmart, Model: "module", DepthMm: &x.module})
		}
		var said []string
		for _, f := range Room(c) {
			if f.Code == "box-depth" {
				said = append(said, f.Text)
			}
		}
		if all := strings.Join(said, " "); (x.want == "") != (len(said) == 0) || !strings.Contains(all, x.want) {
			t.Errorf("%s: %q", name, said)
		}
	}
}

// TestYokeByWhatIsJoined: a yoke counts by the largest conductor that is joined to its device, not by one that passes through
// the box.
func TestYokeByWhatIsJoined(t *testing.T) {
	c := circuittest.Straight()
	for i := range c.Cables {
		c.Cables[i].Gauge = "14AWG"
	}
	c.Box("foot").VolumeCm3 = circuittest.Float(300)
	plain := BoxFill(c, "foot").Inch3
	foot, panel := "foot", "panel"
	c.Cables = append(c.Cables, circuit.Cable{ID: "w9", Ends: [2]*string{&panel, &foot}, Cores: []string{"black", "white", "bare"}, Gauge: "10AWG"})
	// Two insulated conductors at 2.50, one ground more that is free, and ground and clamps by the largest.
	if more := BoxFill(c, "foot").Inch3 - plain; more != 2*2.5+2*0.5 {
		t.Errorf("a thick cable that passes through adds %g in³", more)
	}
	at := c.JoinOf("foot", circuit.Ref{Owner: "s1", Part: "common"})
	c.Joins[at].Of = append(c.Joins[at].Of, circuit.Ref{Owner: "w9", Part: "black"})
	if more := BoxFill(c, "foot").Inch3 - plain; more != 2*2.5+2*0.5+2*0.5 {
		t.Errorf("joined to the switch it adds %g in³", more)
	}
}
