package rehearsal

import (
	"ambivia/core/circuit"
	"context"
	"math"
	"slices"
	"testing"
)

func ramp(t *testing.T, h Held) *Ramped {
	t.Helper()
	r, err := h.Ramp(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// TestRamp is a table of what comes of a paddle that is held at one of two dimmers.
func TestRamp(t *testing.T) {
	quick := Dimmer{Ramp: 2}
	chatty := Dimmer{Ramp: 2, Every: 0.2}
	slow := Dimmer{Ramp: 6, Every: 0.2}
	echo := Dimmer{Ramp: 0.5, Every: 0.1, Echo: true}
	high := Dimmer{Ramp: 2, Least: 20}
	for _, x := range []struct {
		name    string
		h       Held
		settles bool
		turns   bool
		apart   float64
	}{
		{"one way, told at the end", Held{First: quick, Second: quick, For: 1, Slowest: 0.3}, true, false, 0},
		{"one way, told on the way", Held{First: chatty, Second: quick, For: 1, Slowest: 0.3}, true, false, 0},
		{"one way, the second slower", Held{First: chatty, Second: slow, For: 1, Slowest: 0.3}, true, false, 0},
		{"one way, the lowest of the second is higher", Held{First: quick, Second: high, For: 0.2, Slowest: 0.1}, true, false, 10},
		{"both ways, told at the end", Held{First: quick, Second: quick, Both: true, For: 1, Slowest: 0.3}, true, false, 0},
		{"both ways, told on the way, slow", Held{First: chatty, Second: slow, Both: true, For: 1, Quickest: 0.2, Slowest: 0.9}, true, true, 0},
		{"both ways, each tells all", Held{First: echo, Second: echo, Both: true, For: 0.9, Quickest: 0.5, Slowest: 0.9}, false, true, -1},
	} {
		r := ramp(t, x.h)
		if r.Settles != x.settles || (r.Turns > 0) != x.turns || x.apart >= 0 && math.Abs(r.Apart-x.apart) > 1 {
			t.Errorf("%s: settles %v after %g s, %d turns, %g apart: %s", x.name, r.Settles, r.Seconds, r.Turns, r.Apart, r.Text)
		}
		last := r.Points[len(r.Points)-1]
		for _, p := range r.Points {
			if p.First < 0 || p.First > 100 || p.Second < 0 || p.Second > 100 || p.Seconds > last.Seconds {
				t.Errorf("%s: %+v", x.name, p)
			}
		}
	}
	// Held to the end it is at full; held for a second of two, at half.
	if r := ramp(t, Held{First: quick, Second: quick, For: 20}); r.Points[len(r.Points)-1].First != 100 {
		t.Errorf("held to the end: %+v", r.Points[len(r.Points)-1])
	}
	if r := ramp(t, Held{First: quick, Second: quick, For: 1}); math.Abs(r.Points[len(r.Points)-1].First-50) > 1 {
		t.Errorf("held for half its way: %+v", r.Points[len(r.Points)-1])
	}
	wrong := Held{First: Dimmer{Ramp: 31}}
	if place, _ := wrong.Check(); place != "first.ramp" {
		t.Errorf("a ramp of 31 s: %q", place)
	}
	wrong = Held{Quickest: 2, Slowest: 1}
	if place, _ := wrong.Check(); place != "slowest" {
		t.Errorf("the slowest before the quickest: %q", place)
	}
}

// TestLatency: the main's own paddle acts at once, one that speaks by a rule after one message, one that speaks to the second
// that the main follows after two.
func TestLatency(t *testing.T) {
	c := passage(2, true, circuit.ReportsAll)
	c.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Via: "hub"}, {From: "m3", To: "m2", Via: "hub"}}
	r := rehearse(t, c)
	want := []Latency{{"m1", 0, 0}, {"m2", 1, 1}, {"m3", 2, 2}}
	if !slices.Equal(r.Latencies, want) {
		t.Errorf("%v, want %v", r.Latencies, want)
	}
}
