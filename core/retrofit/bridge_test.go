package retrofit

import (
	"os"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// TestNoLadder: where line and travelers come to both doors through the light's box, the line is
// joined to a traveler at one door and comes out at the other: two boxes, no ladder, and what is
// freed is capped where it comes out. It stands first for who wants no ladder.
func TestNoLadder(t *testing.T) {
	data, err := os.ReadFile("testdata/cases/two-controls-no-ladder.json")
	if err != nil {
		t.Fatal(err)
	}
	c, err := circuit.Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	a := planFor(c, Request{Wishes: Wishes{Wishes: map[string]string{NoLadder: Must}}})
	if a.Options[0].Metrics.Ladders != 0 {
		t.Errorf("%s is first, and wants a ladder", a.Options[0].ID)
	}
	for id, at := range map[string]string{"no-neutral-remote-bay": "w2.black w2.red", "no-neutral-remote-door": "w3.black w3.red"} {
		o := OfferFor(inspect.Compile(c), Request{}, id)
		if o == nil {
			t.Errorf("no %s", id)
			continue
		}
		if o.Metrics.Ladders != 0 || o.Metrics.BoxesTouched != 2 {
			t.Errorf("%s: %v ladders, %v boxes", id, o.Metrics.Ladders, o.Metrics.BoxesTouched)
		}
		joined := false
		for _, j := range o.After.Joins {
			joined = joined || len(j.Of) == 2 && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return strings.HasPrefix(at, r.String()) }) && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return strings.HasSuffix(at, r.String()) })
		}
		if !joined {
			t.Errorf("%s joins no %s", id, at)
		}
		for _, end := range []circuit.End{{Ref: circuit.Ref{Owner: "w2", Part: "white"}, Box: "door"}, {Ref: circuit.Ref{Owner: "w3", Part: "white"}, Box: "bay"}} {
			if o.After.JoinOf(end.Box, end.Ref) >= 0 {
				t.Errorf("%s: %s is not capped", id, end)
			}
		}
		if r := inspect.Check(o.After); r.Verdict != inspect.Works {
			t.Errorf("%s: %s, %v", id, r.Verdict, r.Findings)
		}
		told := false
		for _, why := range o.Conductors {
			told = told || strings.Contains(why.Text, "nobody needs a ladder")
		}
		if !told {
			t.Errorf("%s: nothing says why", id)
		}
	}
}
