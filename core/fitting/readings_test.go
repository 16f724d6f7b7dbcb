package fitting

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/procedure"
)

// TestReadingsHaveTheirGate: a reading beside the steps asks for what is not confirmed as the power stands, and is refused
// without it; what was confirmed is not asked again while it holds, and never after somebody put the power on.
func TestReadingsHaveTheirGate(t *testing.T) {
	j := three(t)
	j.to(func(s procedure.Step) bool { return s.Kind == procedure.KindPowerOn })
	j.must(j.done(Read(j.log).Now)) // every box is closed, and the power on
	after := j.o.After
	var boxes []string
	for _, p := range j.o.Places {
		if len(after.CoreEnds(p.Box)) > 1 {
			boxes = append(boxes, p.Box)
		}
	}
	if len(boxes) < 2 {
		t.Fatalf("the plan is of %v alone", boxes)
	}
	reading := func(power, instrument string, value any, box string, lifted ...circuit.Ref) Entry {
		return Entry{Kind: Reading, Measured: Measured{Test: &circuit.Observation{Power: power, Instrument: instrument, At: after.CoreEnds(box)[:2], Lifted: lifted, Reading: value}}}
	}
	dead := func(box string) Entry { return reading("off", circuit.Continuity, "open", box) }
	live := func(box string, lifted ...circuit.Ref) Entry {
		return reading("on", circuit.TwoPole, 120.0, box, lifted...)
	}
	asks := func(e Entry) []string { return Read(j.log).Asks(after, *e.Test) }
	take := func(e Entry) {
		t.Helper()
		e.Asked = asks(e)
		j.must(e)
	}
	has := func(list []string, want ...string) {
		t.Helper()
		for _, w := range want {
			if !slices.ContainsFunc(list, func(line string) bool { return strings.Contains(line, w) }) {
				t.Errorf("%q is not asked: %q", w, list)
			}
		}
	}
	first, second := boxes[0], boxes[1]

	has(asks(live(first)), "bare end is capped", "kept away", "by law")
	j.refused("not-confirmed", live(first))
	take(live(first))
	if again := asks(live(second)); again != nil {
		t.Errorf("with the power still on: %q", again)
	}

	has(asks(dead(first)), "off, locked and labelled", "Tester proved", "every conductor in the box tested")
	j.refused("not-confirmed", dead(first))
	half := dead(first)
	half.Asked = asks(half)[:1]
	j.refused("not-confirmed", half)
	take(dead(first))
	if again := asks(dead(first)); again != nil {
		t.Errorf("in a box that was proved dead: %q", again)
	}
	other := asks(dead(second))
	has(other, "every conductor in the box tested")
	if strings.Contains(strings.Join(other, " "), "locked") {
		t.Errorf("the breaker is off already: %q", other)
	}
	take(dead(second))

	screw := circuit.Ref{}
	for _, d := range after.Devices {
		if d.Box == first && len(after.Terminals(d)) > 1 {
			screw = circuit.Ref{Owner: d.ID, Part: after.Terminals(d)[0]}
		}
	}
	if list := asks(live(first, screw)); strings.Contains(strings.Join(list, " "), "Tester proved") {
		t.Errorf("a wire comes off in a box that is dead: %q", list)
	}
	take(live(first)) // the power goes on
	has(asks(live(first, screw)), "off, locked and labelled", "Tester proved", "bare end is capped")
	has(asks(dead(first)), "off, locked and labelled", "every conductor in the box tested")

	take(dead(first))
	j.put(Entry{Kind: Press, Pressed: Pressed{Lamps: map[string]string{"lamp1": "lit"}}}) // a light that is seen needs power
	has(asks(dead(first)), "off, locked and labelled")

	take(dead(first))
	j.put(Entry{Kind: Undo, TookBack: TookBack{Of: Read(j.log).Undo}})
	has(asks(dead(first)), "off, locked and labelled")
}

// TestPressInTheMiddle: a press while wires are off says that the power is on. No step with metal is open then, one dead
// reading does not open any, and the work goes on once all is made safe.
func TestPressInTheMiddle(t *testing.T) {
	j := three(t)
	n := j.to(func(s procedure.Step) bool { return s.Phase == procedure.Joining && s.Metal })
	j.must(Entry{Kind: Press, Pressed: Pressed{Lamps: map[string]string{"lamp1": "lit"}}})
	locked := func() {
		t.Helper()
		if s := Read(j.log); s.Steps[n-1].Status != Locked || s.Secure == nil || s.Power != "on" {
			t.Fatalf("step %d is %s, power %s, to be secured %q", n, s.Steps[n-1].Status, s.Power, s.Secure)
		}
	}
	locked()
	box := Read(j.log).Run.Boxes[0]
	e := Entry{Kind: Reading, Measured: Measured{Test: &circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: j.o.After.CoreEnds(box)[:2], Reading: "open"}}}
	e.Asked = Read(j.log).Asks(j.o.After, *e.Test)
	j.must(e)
	locked()
	j.must(Entry{Kind: Secure, OfSteps: OfSteps{Asked: Read(j.log).Run.Securing}})
	if s := j.whole(); !s.Over {
		t.Error("the work is stuck")
	}
}
