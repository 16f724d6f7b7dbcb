package diagram

import (
	"encoding/json"
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/inspect"
)

// TestPicture: a picture holds every end of the circuit as a wire or a screw with its conductor, every
// switch with what is pressed there and its contacts, every lamp; what shows a state has no ink; and
// ends of one conductor bear one number.
func TestPicture(t *testing.T) {
	c := circuittest.Straight()
	k := inspect.Compile(c)
	picture := Layout(c).Draw(k, "Stair", nil).Picture()
	ends, contacts, lamps, presses := map[string]int{}, map[string]int{}, 0, 0
	var walk func(list []Mark)
	note := func(of *Subject) {
		if of != nil && of.End != "" {
			if of.Conductor == nil {
				t.Fatalf("%s is on no conductor", of.End)
			}
			ends[of.End] = *of.Conductor
		}
	}
	walk = func(list []Mark) {
		for _, m := range list {
			switch m := m.(type) {
			case GroupMark:
				note(m.Of)
				if m.Part == PartLamp {
					lamps++
				}
				if m.Of != nil && m.Of.Press != "" {
					presses++
				}
				walk(m.Marks)
			case CircleMark:
				note(m.Of)
			case PathMark:
				if m.Part == PartContact {
					contacts[m.Of.Contact]++
				}
				if (m.Part == PartState || m.Part == PartRays) != (m.Stroke == "" && m.Fill == "") {
					t.Errorf("a %q with the ink %+v", m.Part, m.Ink)
				}
			}
		}
	}
	walk(picture.Marks)
	if lamps != 1 || presses != 2 || len(contacts) != 2 || contacts["s1"] != 2 {
		t.Errorf("%d lamps, %d switches to press, contacts %v", lamps, presses, contacts)
	}
	for _, e := range k.Network.Ends() {
		if got, drawn := ends[e.String()]; !drawn || got != k.Network.Class(e) {
			t.Errorf("%s is drawn %t, on conductor %d of %d", e, drawn, got, k.Network.Class(e))
		}
	}
}

// TestMarksTravel: each kind of mark says which it is, with its place in tenths of a pixel.
func TestMarksTravel(t *testing.T) {
	for text, m := range map[string]Mark{
		`{"kind":"path","d":"M1 2L3.3 4z","fill":"ink","part":"flag"}`:                        PathMark{Part: PartFlag, Runs: [][]Point{{{1, 2}, {3.3333, 4}}}, Closed: true, Ink: Ink{Fill: ink}},
		`{"kind":"rect","x":1,"y":2,"w":3,"h":4.5,"part":"room","of":{"box":"b1"},"round":3}`: RectMark{Part: PartRoom, Of: &Subject{Box: "b1"}, Rect: Rect{1, 2, 3, 4.5}, Round: 3},
		`{"kind":"circle","x":0,"y":2,"stroke":"#ffffff","width":1.5,"r":5}`:                  CircleMark{Center: Point{-0.01, 2}, Radius: 5, Ink: Ink{Stroke: "#ffffff", Width: 1.5}},
		`{"kind":"text","x":1,"y":2,"middle":true,"size":12,"text":"\u003cb\u003e"}`:          TextMark{At: Point{1, 2}, Middle: true, Size: 12, Text: "<b>"},
		`{"kind":"group","part":"wire","of":{"end":"k1.red@b1","conductor":0},"marks":[]}`:    GroupMark{Part: PartWire, Of: &Subject{End: "k1.red@b1", Conductor: class(0)}, Marks: []Mark{}},
	} {
		got, err := json.Marshal(m)
		if err != nil {
			t.Fatal(err)
		}
		if string(got) != text {
			t.Errorf("%s, want %s", got, text)
		}
	}
}

// TestViews: what is shown is drawn in the same places whichever version it is, and a box that there is
// not is an error.
func TestViews(t *testing.T) {
	k := inspect.Compile(circuittest.Straight())
	for _, view := range []View{Wiring, OneLine, OneBox, Difference} {
		s, err := Show{View: view, Found: k, Planned: k, AsPlanned: true, Box: "foot", Title: "Stair"}.Scene()
		if err != nil || len(s.Marks()) == 0 {
			t.Errorf("%s: %v", view, err)
		}
	}
	if _, err := (Show{View: OneBox, Found: k, Box: "attic"}).Scene(); err == nil || !strings.Contains(err.Error(), "no such box") {
		t.Errorf("a box that there is not: %v", err)
	}
}
