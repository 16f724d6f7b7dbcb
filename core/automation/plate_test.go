package automation

import (
	"context"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// TestPlateOfButtons: two and three lights are worked by plates of buttons, one at each place, and what a button does is changed
// in the table of the bus alone: no end is moved, and what each button does then is rehearsed.
func TestPlateOfButtons(t *testing.T) {
	for name, c := range map[string]*circuit.Circuit{
		"two in one gang": circuittest.Gangs(2, 1), "two lights": circuittest.Lights(rand.New(rand.NewPCG(1, 2)), 2), "three lights": circuittest.Lights(rand.New(rand.NewPCG(5, 6)), 3),
	} {
		options := retrofit.Plan(c).Options
		n := slices.IndexFunc(options, func(o retrofit.Option) bool {
			return o.Feasible && o.Strategy == retrofit.CentralModule && strings.Contains(o.ID, "plate")
		})
		if n < 0 {
			for _, o := range options {
				if o.Strategy == retrofit.CentralModule {
					t.Log(o.ID, o.Feasible, o.Reasons)
				}
			}
			t.Errorf("%s: no plan with plates", name)
			continue
		}
		o := options[n]
		lights := len(o.Light)
		shared := 0
		for _, x := range o.Devices {
			if x.Case != "" {
				shared++
			}
		}
		if places := len(o.Places) / lights; shared != places*(lights-1) {
			t.Errorf("%s: %d buttons share a plate with another at %d places, of %d lights", name, shared, places, lights)
		}
		sets := setsOf(t, o)
		s := Of(sets, Scenes)
		if s == nil || s.Via != "bus" || !s.Sound() {
			t.Fatalf("%s: no sound table for the bus: %+v", name, s.Report)
		}
		// The first two rules are of buttons at different lights, in one plate or not.
		changed := s.Doc.Clone().Automation
		var at []int
		for i, r := range changed.Rules {
			if len(at) == 0 || s.Doc.Device(r.When.Device).Box == s.Doc.Device(changed.Rules[at[0]].When.Device).Box {
				at = append(at, i)
			}
		}
		if len(at) < 2 {
			t.Fatalf("%s: %d rules at the first plate", name, len(at))
		}
		a, b := &changed.Rules[at[0]], &changed.Rules[at[1]]
		a.Then, b.Then = b.Then, a.Then
		again, err := With(context.Background(), sets, o.ID, &Kept{Option: o.ID, Set: Scenes, Automation: changed})
		if err != nil || !again.Sound() {
			t.Errorf("%s: with two buttons exchanged: %v, %+v", name, err, again.Report)
		}
		lit := func(doc *circuit.Circuit, button string) int { // the one light that comes on with it
			hand := rehearsal.NewHand(doc, "")
			shown, err := hand.After(hand.Start().Moment, rehearsal.Move{Device: button, Gesture: "press1"})
			if err == nil {
				shown, err = hand.After(shown.Moment, rehearsal.Move{Deliver: "bus"})
			}
			if err != nil {
				t.Fatal(err)
			}
			n := -1
			for i, l := range shown.Lights {
				if l.Lit && n >= 0 {
					t.Fatalf("%s: %s lights two", name, button)
				} else if l.Lit {
					n = i
				}
			}
			return n
		}
		one, other := a.When.Device, b.When.Device
		if x, y := lit(s.Doc, one), lit(s.Doc, other); x < 0 || y < 0 || x == y || lit(again.Doc, one) != y || lit(again.Doc, other) != x {
			t.Errorf("%s: before, %s lights %d and %s %d; after the exchange %d and %d", name, one, x, other, y, lit(again.Doc, one), lit(again.Doc, other))
		}
		if !slices.EqualFunc(s.Doc.Joins, again.Doc.Joins, func(x, y circuit.Join) bool { return x.Box == y.Box && slices.Equal(x.Of, y.Of) }) {
			t.Errorf("%s: a wire was moved to change what a button does", name)
		}
	}
}
