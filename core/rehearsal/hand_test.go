package rehearsal

import (
	"encoding/json"
	"testing"

	"ambivia/core/circuit"
)

// TestByHand: a witness played move by move, in some order of the messages, comes to what the report says of it; what is
// sent over the wire in between changes nothing.
func TestByHand(t *testing.T) {
	mirrored := passage(1, true, circuit.ReportsAll)
	mirrored.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: false, Via: "hub"}}
	both := passage(1, true, circuit.ReportsAll)
	both.Automation.Mirrors = []circuit.Mirror{{From: "m2", To: "m1", Both: true, Via: "hub"}}
	scened := passage(2, true, circuit.ReportsAll)
	scenes(scened, 2)
	flawed, hasty := 0, 0
	for name, c := range map[string]*circuit.Circuit{"mirrored one way": mirrored, "mirrored both ways": both, "scenes beside own switches": scened} {
		r := rehearse(t, c)
		h := NewHand(c, "")
		for _, p := range r.Properties {
			if p.Code == ConvergesHasty && !p.Holds {
				if way := h.Witness(p); len(way) != len(p.Witness) || way[len(way)-1].Shown.Quiet {
					t.Errorf("%s: a hasty person waits: %+v", name, way)
				}
				hasty++
			}
			if p.Holds || p.Code == ConvergesHasty || p.Code == Converges {
				continue
			}
			flawed++
			way := h.Witness(p)
			if len(way) < len(p.Witness) {
				t.Fatalf("%s: %v is played in %d moves", name, p.Witness, len(way))
			}
			shown := wire(t, way[len(way)-1].Shown)
			if !shown.Quiet {
				t.Errorf("%s: not quiet after %v", name, p.Witness)
			}
			astray := false
			for _, x := range shown.Places {
				astray = astray || x.Astray
			}
			if p.Code == InStep && !astray {
				t.Errorf("%s: %s, and all are in step: %+v", name, p.Text, shown.Places)
			}
		}
	}
	if flawed == 0 || hasty == 0 {
		t.Errorf("%d witnesses were played, %d of them hasty", flawed, hasty)
	}
}

func must(t *testing.T) func(Shown, error) Shown {
	return func(s Shown, err error) Shown {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
}

func wire(t *testing.T, s Shown) Shown {
	t.Helper()
	data, err := json.Marshal(s)
	if err != nil {
		t.Fatal(err)
	}
	var out Shown
	if err := json.Unmarshal(data, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// TestHandRefuses: what is not of the document is refused where it stands; with the hub down messages vanish.
func TestHandRefuses(t *testing.T) {
	c := passage(1, false, circuit.ReportsOwn)
	scenes(c, 1)
	h := NewHand(c, "")
	start := h.Start()
	if ways := h.Ways(); len(ways) != 1 || ways[0] != "hub" || !start.Quiet || start.Lit || len(start.Places) != 2 {
		t.Fatalf("%v, %+v", ways, start)
	}
	sent := must(t)(h.After(start.Moment, Move{Device: "m2", Gesture: "up1"}))
	if sent.Quiet || sent.Lit || sent.Moment.Queues[0].Messages[0] != (Message{To: "m1", Action: "on"}) {
		t.Errorf("up at the second place: %+v", sent)
	}
	if came := must(t)(h.After(sent.Moment, Move{Deliver: "hub"})); !came.Quiet || !came.Lit {
		t.Errorf("the message came: %+v", came)
	}
	if lost := must(t)(NewHand(c, "hub").After(start.Moment, Move{Device: "m2", Gesture: "up1"})); !lost.Quiet || lost.Lit {
		t.Errorf("with the hub down: %+v", lost)
	}
	many := Moment{State: start.Moment.State, Queues: []Queue{{Via: "hub"}}}
	for range mostWaiting + 1 {
		many.Queues[0].Messages = append(many.Queues[0].Messages, Message{To: "m1", Action: "on"})
	}
	for name, x := range map[string]struct {
		from Moment
		move Move
	}{
		"a way that is none":     {start.Moment, Move{Deliver: "moon"}},
		"nothing to deliver":     {start.Moment, Move{Deliver: "hub"}},
		"a gesture of no paddle": {start.Moment, Move{Device: "m2", Gesture: "up9"}},
		"a state of no switch":   {Moment{State: map[string]int{"x": 1}}, Move{Device: "m2", Gesture: "up1"}},
		"a queue of no way":      {Moment{State: start.Moment.State, Queues: []Queue{{Via: "moon"}}}, Move{Device: "m2", Gesture: "up1"}},
		"an action of none":      {Moment{State: start.Moment.State, Queues: []Queue{{Via: "hub", Messages: []Message{{To: "m1", Action: "dance"}}}}}, Move{Device: "m2", Gesture: "up1"}},
		"a flood":                {many, Move{Device: "m2", Gesture: "up1"}},
	} {
		if _, err := h.After(x.from, x.move); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
}
