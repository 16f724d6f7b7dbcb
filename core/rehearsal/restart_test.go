package rehearsal

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
)

// TestRestarts: by scenes a device that starts anew is right again at the next gesture. Mirrored ways are not: what carries the
// lamp comes back on, the other still says off, and up there is no news that anything could follow. Up that toggles is wrong
// where it comes back on.
func TestRestarts(t *testing.T) {
	sound := passage(2, false, circuit.ReportsNone)
	scenes(sound, 2)
	if p := rehearse(t, sound).of(Restarts); !p.Holds || len(p.Witness) > 0 {
		t.Errorf("scenes: %+v", p)
	}
	toggled := passage(1, false, circuit.ReportsNone)
	toggled.Automation.Rules = []circuit.Rule{{ID: "a", When: circuit.When{Device: "m2", Event: "up1"}, Then: circuit.Then{Device: "m1", Action: "toggle"}, Via: "hub"}}
	if p := rehearse(t, toggled).of(Restarts); p.Holds {
		t.Errorf("up that toggles: %+v", p)
	}
	one := passage(1, true, circuit.ReportsAll)
	one.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Via: "hub"}}
	if p := rehearse(t, one).of(Restarts); p.Holds || len(p.Witness) > 0 { // people get it out of step all by themselves
		t.Errorf("mirrored one way: %+v", p)
	}
	c := passage(1, true, circuit.ReportsAll)
	c.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: true, Via: "hub"}}
	p := rehearse(t, c).of(Restarts)
	// Even before anybody presses: of one that comes back on by itself there is no news when it is switched on.
	if p.Holds || len(p.Witness) != 1 || p.Witness[0] != (Gesture{"m1", "up1"}) || !strings.Contains(p.Text, "smart device 1 starts anew and comes back on: then up at") {
		t.Fatalf("mirrored both ways: %+v", p)
	}
	// That is so: played by hand from there, a place says otherwise than the light.
	h := NewHand(c, "")
	from := h.Start().Moment
	for key := range from.State {
		if strings.HasPrefix(key, "m1") {
			from.State[key] = 1
		}
	}
	after, err := h.After(from, Move{Device: p.Witness[0].Device, Gesture: p.Witness[0].Gesture})
	if err == nil {
		after, _, err = h.Quieten(after.Moment)
	}
	if err != nil || !slices.ContainsFunc(after.Places, func(q Standing) bool { return q.Astray }) {
		t.Errorf("after %v nothing is out of step: %+v, %v", p.Witness, after, err)
	}
}

// TestPatience: a press by scenes takes one message, and two where each taps tells two; a ring of three takes as many as it
// has links; where messages breed without end there is no time after which all is quiet.
func TestPatience(t *testing.T) {
	c := passage(2, false, circuit.ReportsNone)
	scenes(c, 2)
	if n := rehearse(t, c).Patience; n == nil || *n != 1 {
		t.Errorf("scenes: %v", n)
	}
	c.Automation.Rules = append(c.Automation.Rules, circuit.Rule{ID: "z", When: circuit.When{Device: "m2", Event: "up1"}, Then: circuit.Then{Device: "m1", Action: "on"}, Via: "cloud"})
	if n := rehearse(t, c).Patience; n == nil || *n != 2 {
		t.Errorf("told over two ways: %v", n)
	}
	ring := passage(2, true, circuit.ReportsAll)
	ring.Automation.Mirrors = []circuit.Mirror{{From: "m1", To: "m2", Via: "hub"}, {From: "m2", To: "m3", Via: "hub"}, {From: "m3", To: "m1", Via: "hub"}}
	if n := rehearse(t, ring).Patience; n == nil || *n != 3 {
		t.Errorf("a ring of three: %v", n)
	}
	loop := passage(1, true, circuit.ReportsAll)
	for _, x := range [][2]string{{"on", "off"}, {"off", "on"}} {
		loop.Automation.Rules = append(loop.Automation.Rules, circuit.Rule{ID: x[0], When: circuit.When{Device: "m1", Event: x[0]}, Then: circuit.Then{Device: "m1", Action: x[1]}, Via: "hub"})
	}
	if n := rehearse(t, loop).Patience; n != nil {
		t.Errorf("without end: %d", *n)
	}
}

// TestMeasured: of a place that takes one to three messages a trial of 0.6 s says 0.2 to 0.6 s for each; a place at which the
// light changes without any says nothing.
func TestMeasured(t *testing.T) {
	r := &Report{Latencies: []Latency{{"m1", 0, 0}, {"m2", 1, 3}, {"m3", 1, 1}}}
	if m := r.Measured([]Delay{{"m1", 0.1}, {"nobody", 9}}); m != nil {
		t.Errorf("nothing was measured: %+v", m)
	}
	m := r.Measured([]Delay{{"m1", 0.1}, {"m2", 0.6}, {"m3", 0.9}})
	if m == nil || m.Trials != 2 || m.Slowest != 0.9 || m.Quickest < 0.199 || m.Quickest > 0.201 {
		t.Errorf("measured: %+v", m)
	}
	for _, how := range []Delays{Usual([]string{"hub", "cloud"}, nil), Usual([]string{"hub"}, m), Usual([]string{"hub"}, &Measured{70, 90, 1})} {
		if place, text := how.Check(); place != "" || len(how.Ways) == 0 {
			t.Errorf("%+v: %s, %s", how, place, text)
		}
	}
}
