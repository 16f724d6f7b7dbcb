package circuit_test

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// TestDiff: each kind of change is told in its own words, and nothing else is.
func TestDiff(t *testing.T) {
	cases := []struct {
		change func(c *circuit.Circuit)
		want   string
	}{
		{func(*circuit.Circuit) {}, ""},
		{func(c *circuit.Circuit) { c.Name = "Other" }, "circuit changed"},
		{func(c *circuit.Circuit) { c.Boxes[1].Name = "Door" }, "box b1 changed"},
		{func(c *circuit.Circuit) { c.Cables[0].Gauge = "12AWG" }, "cable w1 changed"},
		{func(c *circuit.Circuit) { c.Devices[1].Position = circuittest.Int(2) }, "device s1 changed"},
		{func(c *circuit.Circuit) {
			c.Boxes = append(c.Boxes, circuit.Box{ID: "new", Kind: circuit.Junction})
		}, "box new added"},
		{func(c *circuit.Circuit) { c.Devices = c.Devices[:len(c.Devices)-1] }, "device lamp1 removed"},
		{func(c *circuit.Circuit) { c.Joins[0].Of = c.Joins[0].Of[:1] }, "wiring panel changed"},
		{func(c *circuit.Circuit) { slices.Reverse(c.Joins) }, ""}, // the order of joins says nothing
		{func(c *circuit.Circuit) { slices.Reverse(c.Joins[0].Of) }, ""},
		{func(c *circuit.Circuit) {
			c.Marks = []circuit.Mark{{End: circuit.End{Ref: circuit.Ref{Owner: "w1", Part: "white"}, Box: "panel"}, As: "line"}}
		}, "marks changed"},
		{func(c *circuit.Circuit) { c.Models = map[string]circuit.Model{"x": {}} }, "models changed"},
		{func(c *circuit.Circuit) {
			c.Observations = []circuit.Observation{{Power: "on", Instrument: "lamp"}}
		}, "readings changed"},
	}
	for _, k := range cases {
		before, after := circuittest.Chain(2), circuittest.Chain(2)
		k.change(after)
		var told []string
		for _, d := range circuit.Diff(before, after) {
			told = append(told, strings.Join(strings.Fields(d.Kind+" "+d.ID+" "+d.How), " "))
		}
		if got := strings.Join(told, "; "); got != k.want {
			t.Errorf("told %q, want %q", got, k.want)
		}
	}
}

// TestClone: a copy says the same and shares nothing.
func TestClone(t *testing.T) {
	c := circuittest.Chain(3)
	copied := c.Clone()
	if diff := circuit.Diff(c, copied); len(diff) > 0 {
		t.Fatalf("the copy differs: %v", diff)
	}
	copied.Joins[0].Of[0].Part = "changed"
	*copied.Cables[0].Ends[0] = "changed"
	copied.Cables[0].Cores[0] = "changed"
	if c.Joins[0].Of[0].Part == "changed" || *c.Cables[0].Ends[0] == "changed" || c.Cables[0].Cores[0] == "changed" {
		t.Error("the copy shares memory with its original")
	}
}

// TestEnds: the two ways of writing an end, and what is none.
func TestEnds(t *testing.T) {
	for _, text := range []string{"w1.black@foot", "s1.common", "a-1.green-yellow@b-2", "w1.black2@x"} {
		e, err := circuit.ParseEnd(text)
		if err != nil || e.String() != text {
			t.Errorf("%q is read as %q, %v", text, e, err)
		}
	}
	for _, text := range []string{"", "w1", "w1.", ".black", "w1.black@", "W1.black", "w1.black@foot@head", "w1.bl ack", "-w.black", strings.Repeat("x", 33) + ".a"} {
		if e, err := circuit.ParseEnd(text); err == nil {
			t.Errorf("%q is read as %q", text, e)
		}
	}
	if circuit.Colour("green-yellow2") != "green-yellow" || !circuit.GroundColour("bare2") || circuit.GroundColour("grey") {
		t.Error("colours are told wrong")
	}
}
