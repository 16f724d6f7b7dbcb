package survey_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/survey"
)

// enter applies edits one after the other.
func enter(t *testing.T, c *circuit.Circuit, edits ...survey.Edit) *circuit.Circuit {
	t.Helper()
	for _, e := range edits {
		next, said, err := survey.Apply(c, e)
		if err != nil {
			t.Fatalf("%+v: %v", e, err)
		}
		if said == "" {
			t.Errorf("%T says nothing of what it did", e)
		}
		c = next
	}
	return c
}

// travelled is an edit as it is read where it travels.
func travelled(t *testing.T, fields map[string]any) survey.Note {
	t.Helper()
	data, err := json.Marshal(fields)
	if err != nil {
		t.Fatal(err)
	}
	var n survey.Note
	if err := json.Unmarshal(data, &n); err != nil {
		t.Fatal(err)
	}
	return n
}

// TestNote: an edit is read and written as an object with its name and its own fields alone.
func TestNote(t *testing.T) {
	n := travelled(t, map[string]any{"op": "connect", "box": "foot", "of": []string{"k1.black", "s1.common"}, "watts": 9})
	if c, ok := n.Edit.(survey.Connect); !ok || c.Box != "foot" || len(c.Of) != 2 {
		t.Errorf("read as %#v", n.Edit)
	}
	for text, of := range map[string]survey.Edit{
		`{"op":"connect","box":"foot","of":["k1.black","s1.common"]}`: n.Edit,
		`{"op":"gate"}`: survey.PassGate{},
		`{"op":"add-cable","box":"foot","cores":["black","bare"]}`: survey.AddCable{Box: "foot", Cores: []string{"black", "bare"}},
	} {
		if got, err := json.Marshal(survey.Note{Edit: of}); err != nil || string(got) != text {
			t.Errorf("written as %s (%v), want %s", got, err, text)
		}
	}
	var e *circuit.Error
	if err := json.Unmarshal([]byte(`{"op":"weld"}`), &n); !errors.As(err, &e) || e.Problems[0].Place != "op" {
		t.Errorf("an operation that is none: %v", err)
	}
}

func usual(preset, via string) survey.Edit {
	return survey.AddBox{Preset: preset, Cable: via}
}

// TestUsualBoxes: whole circuits from a few taps each, in every practice that
// has the cables for it, work from both switches.
func TestUsualBoxes(t *testing.T) {
	ways := map[string][]survey.Edit{
		"opposite ends":    {usual("panel", ""), usual("feed-here", "k1"), usual("lamp-beyond", "k2"), usual("lamp-end", "k3")},
		"both at one end":  {usual("panel", ""), usual("both-here", "k1"), usual("dead-end", "k2"), usual("lamp-end", "k3")},
		"three controls":   {usual("panel", ""), usual("feed-here", "k1"), usual("middle", "k2"), usual("lamp-beyond", "k3"), usual("lamp-end", "k4")},
		"five controls":    {usual("panel", ""), usual("feed-here", "k1"), usual("middle", "k2"), usual("middle", "k3"), usual("middle", "k4"), usual("lamp-beyond", "k5"), usual("lamp-end", "k6")},
		"rose":             {usual("panel", ""), usual("rose", "k1"), usual("strapped-here", "k2"), usual("dead-end", "k4")},
		"rose, three":      {usual("panel", ""), usual("rose", "k1"), usual("strapped-here", "k2"), usual("middle-strapped", "k4"), usual("strapped-end", "k5")},
		"lamp fed, three":  {usual("panel", ""), usual("feed-at-lamp", "k1"), usual("loop-here", "k2"), usual("middle-three", "k3"), usual("loop-end", "k4")},
		"feed at the lamp": {usual("panel", ""), usual("feed-at-lamp", "k1"), usual("loop-here", "k2"), usual("loop-end", "k3")},
		"chain of lights":  {usual("panel", ""), usual("junction", "k1"), usual("feed-onward", "k2"), usual("lamp-beyond", "k3"), usual("lamp-chain", "k5"), usual("lamp-end", "k6"), usual("outlet", "k4")},
	}
	states := map[string]int{"three controls": 8, "rose, three": 8, "lamp fed, three": 8, "five controls": 32}
	says := map[string]string{"three controls": "lamp beyond", "five controls": "lamp beyond", "rose": "strapped", "opposite ends": "lamp beyond", "both at one end": "dead end", "feed at the lamp": "the last switch is a dead end", "chain of lights": "lamp beyond"}
	for name, edits := range ways {
		for _, p := range practice.All() {
			t.Run(name+" "+p.ID, func(t *testing.T) {
				r := survey.Read(inspect.Compile(enter(t, survey.New("x", p.ID), edits...)))
				if !r.Ready || r.Report.States != max(4, states[name]) {
					t.Fatalf("not ready: %s; %v", r.Next, r.Report.Findings)
				}
				if !strings.Contains(strings.Join(r.Understood, " "), says[name]) {
					t.Errorf("understood %q, nothing of %q", r.Understood, says[name])
				}
			})
		}
	}
}

// TestNext: at every step of a survey there is one thing to do, and the record
// is never called ready before it is.
func TestNext(t *testing.T) {
	c := survey.New("x", "na")
	want := []string{"Begin where power does", "other end of the untraced cable at the panel", "other end of the untraced cable at the switch box", "other end of the untraced cable at switch box 2", "sound"}
	steps := []survey.Edit{usual("panel", ""), usual("feed-here", "k1"), usual("lamp-beyond", "k2"), usual("lamp-end", "k3")}
	for i := range want {
		r := survey.Read(inspect.Compile(c))
		if !strings.Contains(r.Next, want[i]) || r.Ready != (i == len(want)-1) {
			t.Errorf("step %d: %q, ready %v; want %q", i, r.Next, r.Ready, want[i])
		}
		if r.Understood == nil || r.Findings == nil || r.Strip == nil || r.Suggestions == nil {
			t.Errorf("step %d: a list without anything in it travels as none: %+v", i, r)
		}
		if i < len(steps) {
			c = enter(t, c, steps[i])
		}
	}
	if strip := survey.Read(inspect.Compile(c)).Strip; len(strip) != 4 || strip[0].Kind != circuit.Panel || strip[3].Kind != circuit.Fixture {
		t.Errorf("strip %v", strip)
	}
}

// TestByHand: the split circuit entered core by core, stubs joined afterwards.
func TestByHand(t *testing.T) {
	of := func(s string) (refs []circuit.Ref) {
		for _, f := range strings.Fields(s) {
			r, err := circuit.ParseRef(f)
			if err != nil {
				t.Fatal(err)
			}
			refs = append(refs, r)
		}
		return refs
	}
	two, three := []string{"black", "white", "bare"}, []string{"black", "red", "white", "bare"}
	c := enter(t, survey.New("x", "na"), usual("panel", ""),
		survey.AddBox{Kind: circuit.Switch, Name: "Foot"},
		survey.SetCable{Cable: "k1", To: "sw1"},
		survey.AddCable{Box: "sw1", Cores: three},
		survey.AddDevice{Box: "sw1", Type: circuit.TypeThreeWay},
		survey.Connect{Box: "sw1", Of: of("k1.black s1.common")},
		survey.Connect{Box: "sw1", Of: of("k1.white k2.white")},
		survey.Connect{Box: "sw1", Of: of("k1.bare k2.bare")},
		survey.Connect{Box: "sw1", Of: of("k2.bare s1.ground")},
		survey.Connect{Box: "sw1", Of: of("k2.black s1.t1")},
		survey.Connect{Box: "sw1", Of: of("k2.red s1.t2")},
		survey.AddBox{Kind: circuit.Switch},
		survey.AddCable{Box: "sw2", Cores: three},
		survey.AddCable{Box: "sw2", Cores: two},
		survey.AddDevice{Box: "sw2", Type: circuit.TypeThreeWay},
		survey.Connect{Box: "sw2", Of: of("k3.black s2.t1")},
		survey.Connect{Box: "sw2", Of: of("k3.red s2.t2")},
		survey.Connect{Box: "sw2", Of: of("k4.black s2.common")},
		survey.Connect{Box: "sw2", Of: of("k3.white k4.white")},
		survey.Connect{Box: "sw2", Of: of("k3.bare k4.bare s2.ground")},
		survey.MarkEnd{Box: "sw2", Of: of("k3.red"), As: "traveler"},
		survey.JoinStubs{Cable: "k2", Other: "k3"},
		usual("lamp-end", "k4"),
		survey.SetDevice{Device: "lamp1", Watts: circuittest.Float(9), Count: circuittest.Int(4), Load: "led"},
	)
	if r := inspect.Check(c); r.Verdict != inspect.Works {
		t.Fatalf("%v", r.Findings)
	}
	if got := c.MarkOn(circuit.End{Ref: circuit.Ref{Owner: "k2", Part: "red"}, Box: "sw2"}); got != "traveler" {
		t.Errorf("the mark went astray when the stubs were joined: %q", got)
	}
	if j := c.JoinOf("sw1", circuit.Ref{Owner: "k1", Part: "bare"}); len(c.Joins[j].Of) != 3 {
		t.Errorf("grounds not gathered: %v", c.Joins[j])
	}
	c = enter(t, c, survey.Disconnect{Box: "sw1", Of: of("k2.red")})
	if r := inspect.Check(c); r.Verdict != inspect.Faulty {
		t.Error("a lifted traveler goes unnoticed")
	}
}

func TestRefused(t *testing.T) {
	c := enter(t, survey.New("x", "na"), usual("panel", ""), usual("feed-here", "k1"))
	ref := circuit.Ref{Owner: "k9", Part: "black"}
	cases := []struct {
		edit  survey.Edit
		place string
	}{
		{survey.AddBox{Kind: "attic"}, "boxes[2].kind"},
		{survey.AddBox{Preset: "usual"}, "preset"},
		{survey.AddBox{Preset: "lamp-end", Cable: "k1"}, "cable"},
		{survey.AddCable{Box: "attic", Cores: []string{"black"}}, "box"},
		{survey.AddCable{Box: "sw1", Cores: []string{"pink"}}, "cables[2].cores[0]"},
		{survey.SetCable{Cable: "k2", To: "sw1"}, "cables[1].ends"},
		{survey.JoinStubs{Cable: "k2", Other: "k2"}, "other"},
		{survey.AddDevice{Box: "sw1", Type: circuit.TypeSmart}, "type"},
		{survey.Connect{Box: "sw1", Of: []circuit.Ref{ref}}, "of"},
		{survey.Connect{Box: "sw1", Of: []circuit.Ref{ref, {Owner: "s1", Part: "t1"}}}, "joins[4].of[0]"},
		{survey.Disconnect{Box: "sw1", Of: []circuit.Ref{ref}}, "of"},
		{survey.AddBox{Like: "attic"}, "box"},
		{survey.AddBox{Like: "panel", Cable: "k2"}, "like"},
		{survey.SetDevice{Device: "s1", Type: circuit.TypeSinglePole}, "type"},
		{survey.SetBox{Box: "sw1", Material: "wood"}, "boxes[1].material"},
		{survey.SetCircuit{Colours: "faded"}, "colours"},
		{survey.SetCircuit{Name: strings.Repeat("x", 500)}, "name"},
	}
	for _, k := range cases {
		t.Run(fmt.Sprintf("%T %s", k.edit, k.place), func(t *testing.T) {
			_, _, err := survey.Apply(c, k.edit)
			var e *circuit.Error
			if !errors.As(err, &e) {
				t.Fatalf("got %v, want an *Error", err)
			}
			if e.Problems[0].Place != k.place {
				t.Errorf("the place is %q (%s), want %q", e.Problems[0].Place, e.Problems[0].Text, k.place)
			}
		})
	}
}

// TestAnyEdits: whatever is added, joined and removed in whatever order, the
// record stays a valid document and the original is never touched.
func TestAnyEdits(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 9))
	pick := func(list []string) string {
		if len(list) == 0 {
			return "none"
		}
		return list[rng.IntN(len(list))]
	}
	done := 0
	for range 120 {
		c := survey.New("x", pick([]string{"na", "uk", "au", "in", "eu"}))
		for range 40 {
			var boxes, cables, devices []string
			var refs []circuit.Ref
			for _, b := range c.Boxes {
				boxes = append(boxes, b.ID)
			}
			for _, k := range c.Cables {
				cables = append(cables, k.ID)
			}
			for _, d := range c.Devices {
				devices = append(devices, d.ID)
			}
			box := pick(boxes)
			refs = c.EndsIn(box)
			for _, d := range c.Devices {
				if d.Box == box {
					refs = append(refs, circuit.Ref{Owner: d.ID, Part: c.Terminals(d)[0]})
				}
			}
			rng.Shuffle(len(refs), func(i, j int) { refs[i], refs[j] = refs[j], refs[i] })
			fields := map[string]any{
				"op": pick([]string{"add-box", "add-box", "add-box", "add-cable", "set-cable", "join-stubs", "remove-box", "remove-cable",
					"add-device", "remove-device", "set-device", "connect", "connect", "disconnect", "mark"}),
				"box": box, "to": pick(boxes), "cable": pick(cables), "other": pick(cables), "device": pick(devices),
				"kind": pick([]string{"switch", "fixture", "junction"}), "type": pick([]string{"three-way", "four-way", "lamp"}),
				"cores": []string{"black", "white", "bare"}, "of": refs[:min(len(refs), 2)], "as": pick([]string{"line", ""}),
			}
			if rng.IntN(3) == 0 {
				fields["like"] = pick(boxes)
			} else {
				fields["preset"] = survey.Presets[rng.IntN(len(survey.Presets))].ID
			}
			e := travelled(t, fields)
			before := fmt.Sprint(*c)
			next, _, err := survey.Apply(c, e)
			if fmt.Sprint(*c) != before {
				t.Fatalf("%T changes the circuit that it was given", e.Edit)
			}
			if err != nil {
				continue
			}
			done++
			if err := next.Validate(); err != nil {
				t.Fatalf("%T leaves an invalid record: %v", e.Edit, err)
			}
			for _, ask := range survey.Read(inspect.Compile(next)).Suggestions {
				if _, _, err := survey.Apply(next, ask.Edit); err != nil {
					t.Fatalf("%q cannot be confirmed: %v", ask.Text, err)
				}
			}
			c = next
		}
	}
	if done < 500 {
		t.Errorf("only %d edits were accepted; the property was hardly tried", done)
	}
}

func TestPresetTitles(t *testing.T) {
	for _, p := range practice.All() {
		for _, u := range survey.Usual(p) {
			if strings.ContainsAny(u.Title, "{}") {
				t.Errorf("%s: %q has words that the practice lacks", p.ID, u.Title)
			}
		}
	}
	if len(survey.Usual(practice.Of("na"))) == 0 {
		t.Error("no usual boxes")
	}
}

// TestLike: a box entered as another one is has the same devices under the same
// wires, whichever of the three ways of reaching it; far ends stay unknown.
func TestLike(t *testing.T) {
	c := enter(t, survey.New("x", "na"), usual("panel", ""), usual("feed-here", "k1"), usual("middle", "k2"),
		survey.AddBox{Like: "sw2", Cable: "k3", Name: "Second landing"}, usual("lamp-beyond", "k4"), usual("lamp-end", "k5"))
	if r := survey.Read(inspect.Compile(c)); !r.Ready || len(r.Report.Controls) != 4 || r.Report.States != 16 {
		t.Errorf("%s; %v", r.Next, r.Report.Findings)
	}
	if got := survey.Read(inspect.Compile(enter(t, survey.New("x", "na"), usual("panel", ""), usual("feed-here", "k1"), usual("middle", "k2")))).Like; fmt.Sprint(got["k3"]) != "[sw2 sw1]" {
		t.Errorf("the box behind k3 may be like %v", got)
	}
	alone := enter(t, c, survey.AddBox{Like: "sw1"})
	b := alone.Boxes[len(alone.Boxes)-1].ID
	if len(alone.EndsIn(b)) != len(alone.EndsIn("sw1")) {
		t.Errorf("%d core ends, not %d", len(alone.EndsIn(b)), len(alone.EndsIn("sw1")))
	}
	for _, k := range alone.Cables {
		if k.In(b) && !k.Stub() {
			t.Errorf("cable %s of the copy ends in a box that nobody saw", k.ID)
		}
	}
}

// TestSuggestions: what is asked, and never entered by itself.
func TestSuggestions(t *testing.T) {
	three := []string{"black", "red", "white", "bare"}
	c := enter(t, survey.New("x", "na"), usual("panel", ""), survey.AddBox{Kind: circuit.Switch, Name: "Foot", Cable: "k1"},
		survey.AddCable{Box: "sw1", Cores: three}, survey.AddDevice{Box: "sw1", Type: circuit.TypeThreeWay},
		survey.AddBox{Kind: circuit.Switch, Name: "Head"}, survey.AddCable{Box: "sw2", Cores: three})
	want := []string{"Do all ground conductors of Foot stand together?", "Do the white cores of Foot stand together", "are the untraced cable at Foot and the untraced cable at Head one cable"}
	asked := func(c *circuit.Circuit) string {
		var all []string
		for _, s := range survey.Read(inspect.Compile(c)).Suggestions {
			all = append(all, strings.ToLower(s.Text))
		}
		return strings.Join(all, "\n")
	}
	for _, text := range want {
		if !strings.Contains(asked(c), strings.ToLower(text)) {
			t.Errorf("%q is not asked, only:\n%s", text, asked(c))
		}
	}
	if n := len(c.Joins); n != 3 {
		t.Errorf("%d joins: something was entered that nobody confirmed", n)
	}
	for range 12 { // confirming everything comes to an end, and leaves nothing to ask of these
		asks := survey.Read(inspect.Compile(c)).Suggestions
		if len(asks) == 0 {
			break
		}
		c = enter(t, c, asks[0].Edit)
	}
	if left := asked(c); left != "" {
		t.Errorf("still asked: %s", left)
	}
	of := []circuit.Ref{{Owner: "k1", Part: "black"}, {Owner: "s1", Part: "common"}}
	c = enter(t, c, survey.Connect{Box: "sw1", Of: of},
		survey.Connect{Box: "sw1", Of: []circuit.Ref{{Owner: "k2", Part: "black"}, {Owner: "s1", Part: "t1"}}})
	if left := asked(c); !strings.Contains(left, "one core and one screw of foot are left") {
		t.Errorf("the last core is not asked for: %q", left)
	}
}

// TestOldHouse: a house of the old colours offers its own cables first and is
// held to its own colours; nothing electrical changes.
func TestOldHouse(t *testing.T) {
	steps := []survey.Edit{usual("panel", ""), usual("feed-here", "k1"), usual("lamp-beyond", "k2"), usual("lamp-end", "k3")}
	for said, core := range map[string]string{circuit.ColoursOld: "red", circuit.ColoursNew: "brown", "": "brown"} {
		c := survey.New("x", "uk")
		c.Colours = said
		c = enter(t, c, steps...)
		r := survey.Read(inspect.Compile(c))
		if c.Cables[0].Cores[0] != core || r.Cables[0].Cores[0] != core || !r.Ready {
			t.Errorf("colours %q: the first cable is %v, ready %v", said, c.Cables[0].Cores, r.Ready)
		}
	}
	c := enter(t, survey.New("x", "uk"), steps...) // blue is neutral in it
	if r := survey.Read(inspect.Compile(enter(t, c, survey.SetCircuit{Colours: circuit.ColoursOld}))); !strings.Contains(fmt.Sprint(r.Report.Findings), "colour-misused") {
		t.Error("a blue neutral passes in a house that is said to have old colours")
	}
}

// TestReadings: what was read, reported and confirmed is kept with the circuit, follows
// a cable that gets another name, and goes with what is removed.
func TestReadings(t *testing.T) {
	c := survey.New("Sail loft", "na")
	c = enter(t, c, survey.AddBox{Kind: circuit.Switch, Name: "Foot"}, survey.AddBox{Kind: circuit.Switch, Name: "Head"},
		survey.AddCable{Box: "sw1", Cores: []string{"black", "white"}}, survey.AddCable{Box: "sw2", Cores: []string{"black", "white"}},
		survey.AddDevice{Box: "sw1", Type: circuit.TypeThreeWay})
	end := func(text string) circuit.End {
		e, err := circuit.ParseEnd(text)
		if err != nil {
			t.Fatal(err)
		}
		return e
	}
	test := circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: []circuit.End{end("k1.black@sw1"), end("k2.black@sw2")}, Reading: "closed"}
	index := 0
	c = enter(t, c, survey.PassGate{Gates: []circuit.Gate{{Gate: circuit.GateBreakerOff}}},
		survey.Observe{Observation: &test}, survey.Observe{Observation: &test},
		survey.PassGate{Gates: []circuit.Gate{{Gate: circuit.GateProvedDead, Box: "sw2"}}},
		survey.AddReport{Says: circuit.SaysNothing, Device: "s1"}, survey.AddReport{Says: circuit.SaysWorks, Device: "s1"},
		survey.Unobserve{Index: &index})
	if len(c.Observations) != 1 || len(c.Reports) != 1 || c.Reports[0].Says != circuit.SaysWorks || c.Gates[0].After != 0 || c.Gates[1].After != 1 {
		t.Errorf("%d readings, reports %v, gates %v", len(c.Observations), c.Reports, c.Gates)
	}
	one := enter(t, c, survey.JoinStubs{Cable: "k1", Other: "k2"})
	if got := one.Observations[0].At[1].String(); got != "k1.black@sw2" {
		t.Errorf("after the two stubs are one, the reading is at %s", got)
	}
	gone := enter(t, c, survey.RemoveBox{Box: "sw2"}, survey.RemoveDevice{Device: "s1"})
	if len(gone.Observations) != 0 || len(gone.Reports) != 0 || len(gone.Gates) != 1 {
		t.Errorf("with the box gone: %d readings, %d reports, gates %v", len(gone.Observations), len(gone.Reports), gone.Gates)
	}
	for _, e := range []survey.Edit{survey.Observe{}, survey.Unobserve{}, survey.RemoveReport{Index: &index}, survey.PassGate{},
		survey.AddReport{Says: circuit.SaysNothing}, survey.Observe{Observation: &circuit.Observation{Power: "on", Instrument: circuit.Continuity, At: test.At, Reading: "open"}}} {
		bad := c.Clone()
		bad.Reports = nil
		if _, _, err := survey.Apply(bad, e); err == nil {
			t.Errorf("%T without sense was taken", e)
		}
	}
}

// TestNumbersTakenBack: a number that was noted can be taken back, so that it is not known again.
func TestNumbersTakenBack(t *testing.T) {
	c := circuittest.Straight()
	value, none := 12.5, 0.0
	count, zero := 3, 0
	for _, edit := range []struct{ set, clear survey.Edit }{
		{survey.SetBox{Box: "foot", DepthMm: &value, VolumeCm3: &value, Gangs: &count}, survey.SetBox{Box: "foot", DepthMm: &none, VolumeCm3: &none, Gangs: &zero}},
		{survey.SetDevice{Device: "lamp1", Watts: &value, Count: &count}, survey.SetDevice{Device: "lamp1", Watts: &none, Count: &zero}},
		{survey.SetCircuit{BreakerAmps: &value, Volts: &value}, survey.SetCircuit{BreakerAmps: &none, Volts: &none}},
	} {
		noted, _, err := survey.Apply(c, edit.set)
		if err != nil {
			t.Fatal(err)
		}
		back, _, err := survey.Apply(noted, edit.clear)
		if err != nil {
			t.Fatal(err)
		}
		b, d := back.Box("foot"), back.Device("lamp1")
		stays := false
		switch edit.set.(type) {
		case survey.SetBox:
			stays = b.DepthMm != nil || b.VolumeCm3 != nil || b.Gangs != nil
		case survey.SetDevice:
			stays = d.Watts != nil || d.Count != nil
		case survey.SetCircuit:
			stays = back.Supply.BreakerAmps != nil || back.Supply.Volts != nil
		}
		if stays {
			t.Errorf("%T: a number stays", edit.set)
		}
	}
}

// TestCleared: what is no number can be made unknown again by its name, and nothing else can.
func TestCleared(t *testing.T) {
	yes := true
	c := enter(t, circuittest.Straight(),
		survey.SetBox{Box: "foot", Name: "Foot", Material: "metal"},
		survey.SetDevice{Device: "lamp1", Name: "Lamp", Load: "led", Dimmable: &yes},
		survey.SetCircuit{Colours: "old", BreakerLabel: "9"},
		survey.SetBox{Box: "foot", Clear: []string{"name", "material"}},
		survey.SetDevice{Device: "lamp1", Clear: []string{"name", "load", "dimmable"}},
		survey.SetCircuit{Clear: []string{"colours", "breakerLabel"}})
	b, d := c.Box("foot"), c.Device("lamp1")
	if b.Name != "" || b.Material != "" || d.Name != "" || d.Load != "" || d.Dimmable != nil || c.Colours != "" || c.Supply.BreakerLabel != "" {
		t.Errorf("something stays: %+v, %+v, %q, %+v", b, d, c.Colours, c.Supply)
	}
	for _, edit := range []survey.Edit{survey.SetBox{Box: "foot", Clear: []string{"gangs"}}, survey.SetCircuit{Clear: []string{"practice"}}, survey.SetDevice{Device: "lamp1", Clear: []string{"name", "type"}}} {
		var p *circuit.Error
		if _, _, err := survey.Apply(c, edit); !errors.As(err, &p) || !strings.HasPrefix(p.Problems[0].Place, "clear[") {
			t.Errorf("%+v: %v", edit, err)
		}
	}
}

// TestStamped: a reading and a gate bear the time at which they are written, where they bring none.
func TestStamped(t *testing.T) {
	const own, now = "2026-03-01T08:00:00Z", "2026-03-01T09:30:00Z"
	for given, want := range map[string]string{"": now, own: own} {
		o := &circuit.Observation{Power: "off", Instrument: circuit.Continuity, Time: given}
		gates := []circuit.Gate{{Gate: circuit.GateBreakerOff, Time: given}}
		read, passed := survey.Stamped(survey.Observe{Observation: o}, now), survey.Stamped(survey.PassGate{Gates: gates}, now)
		if got := read.(survey.Observe).Observation.Time; got != want || o.Time != given {
			t.Errorf("a reading of %q bears %q; what was given bears %q now", given, got, o.Time)
		}
		if got := passed.(survey.PassGate).Gates[0].Time; got != want || gates[0].Time != given {
			t.Errorf("a gate of %q bears %q; what was given bears %q now", given, got, gates[0].Time)
		}
	}
	if e := (survey.RemoveBox{Box: "foot"}); survey.Stamped(e, now) != e {
		t.Error("an edit that bears no time is another")
	}
}
