package trace

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
	"ambivia/core/inspect"
)

// surveyed is a small survey with known names: feed at foot, lamp beyond head.
func surveyed(t testing.TB) (*circuit.Circuit, *house.House) {
	t.Helper()
	h, err := house.New(circuittest.Straight(), 1, []string{"foot", "head"})
	if err != nil {
		t.Fatal(err)
	}
	return h.Survey(), h
}

// named finds the stub of the survey that is a cable of the house, in a box.
func named(h *house.House, cable, box string) string {
	for _, k := range h.Survey().Cables {
		if *k.Ends[0] == box && h.True(circuit.End{Ref: circuit.Ref{Owner: k.ID}}).Owner == cable {
			return k.ID
		}
	}
	return ""
}

func at(t testing.TB, texts ...string) []circuit.End {
	t.Helper()
	var out []circuit.End
	for _, s := range texts {
		e, err := circuit.ParseEnd(s)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, e)
	}
	return out
}

func trace(t testing.TB, c *circuit.Circuit) *Result {
	t.Helper()
	r, err := Trace(context.Background(), c, Dead)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// TestFewestWorlds: an ordinary survey leaves few circuits, the ordinary ones first,
// and nothing that is open is given as certain.
func TestFewestWorlds(t *testing.T) {
	c, h := surveyed(t)
	r := trace(t, c)
	if r.Worlds < 2 || r.Worlds > 40 || r.Done || r.Next == nil || r.Circuit != nil || r.Contradiction != nil {
		t.Fatalf("%d worlds, done %t, next %v", r.Worlds, r.Done, r.Next)
	}
	black := circuit.End{Ref: circuit.Ref{Owner: named(h, "w1", "foot"), Part: "black"}, Box: "foot"}
	if odds := r.Roles[black]; odds[electric.Line] < 0.4 || odds[electric.Load] < 0.4 || odds[electric.Neutral]+odds[electric.Unused] > 0 {
		t.Errorf("the conductor at the common is %v", odds)
	}
	if r.Next.Live || r.Next.Test.Power != "off" {
		t.Errorf("dead tests first, and the next is %s", r.Next.Text)
	}
	for _, o := range r.Next.Outcomes {
		if o.Worlds == 0 || o.Worlds > r.Worlds {
			t.Errorf("%v leaves %d of %d", o.Reading, o.Worlds, r.Worlds)
		}
	}
}

// TestClash: readings that cannot all be true are named, no more of them than clash,
// and the one to doubt first is told.
func TestClash(t *testing.T) {
	c, h := surveyed(t)
	line, load := named(h, "w1", "foot")+".black@foot", named(h, "w3", "head")+".black@head"
	lift := []circuit.Ref{{Owner: "s1", Part: "common"}, {Owner: "s2", Part: "common"}}
	test := func(instrument, power string, reading any, ends ...string) circuit.Observation {
		return circuit.Observation{Power: power, Lifted: lift, LampsOut: []string{"lamp1"}, Instrument: instrument, At: at(t, ends...), Reading: reading}
	}
	look := func(reading string) circuit.Observation {
		return circuit.Observation{Power: "on", Instrument: circuit.LampLook, Reading: reading}
	}
	c.Observations = []circuit.Observation{
		test(circuit.Continuity, "off", "open", line, load),
		look("lit"),
		test(circuit.Continuity, "off", circuit.Unclear, line, load),
		look("dark"),
	}
	r := trace(t, c)
	if r.Worlds != 0 || r.Contradiction == nil {
		t.Fatalf("%d worlds are left of readings that clash", r.Worlds)
	}
	if !slices.Equal(r.Contradiction.Readings, []int{1, 3}) {
		t.Errorf("readings %v clash, want 1 and 3", r.Contradiction.Readings)
	}
	if !strings.Contains(r.Contradiction.Recheck, "ook at the light") {
		t.Errorf("to make again first: %s", r.Contradiction.Recheck)
	}
	c.Observations = c.Observations[:3]
	if r = trace(t, c); r.Worlds == 0 {
		t.Error("without the wrong reading no world comes back")
	}
}

// TestRecordClash: where no reading is to blame, the record is: a screw noted wrong.
func TestRecordClash(t *testing.T) {
	c := circuittest.Straight()
	for i, j := range c.Joins { // the common and a traveler exchanged in the notes of one box
		for n, m := range j.Of {
			switch m.String() {
			case "s2.common":
				c.Joins[i].Of[n].Part = "t1"
			case "s2.t1":
				c.Joins[i].Of[n].Part = "common"
			}
		}
	}
	r := trace(t, c)
	if r.Worlds != 0 || r.Contradiction == nil || !slices.ContainsFunc(r.Contradiction.Records, func(s string) bool { return strings.Contains(s, "3-way switch at head") }) {
		t.Fatalf("%d worlds; %+v", r.Worlds, r.Contradiction)
	}
	loose := true
	c.Device("s2").Unmarked = &loose
	if r = trace(t, c); !r.Done || inspect.Check(r.Circuit).Verdict != inspect.Works {
		t.Errorf("with screws that nobody could read: done %t", r.Done)
	}
}

// TestRemarks: a reading that settles nothing says so.
func TestRemarks(t *testing.T) {
	c, h := surveyed(t)
	traveler := named(h, "w2", "foot") + ".red@foot"
	lift := []circuit.Ref{{Owner: "s1", Part: "common"}, {Owner: "s1", Part: "t1"}, {Owner: "s1", Part: "t2"}, {Owner: "s2", Part: "common"}, {Owner: "s2", Part: "t1"}, {Owner: "s2", Part: "t2"}}
	white := named(h, "w1", "foot") + ".white@foot"
	for _, x := range []struct {
		o    circuit.Observation
		says string
	}{
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.NonContact, At: at(t, traveler), Reading: "live"}, "counts for nothing"},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.Multimeter, At: at(t, traveler, white), Reading: 47.0}, "Ghost volts"},
		{circuit.Observation{Power: "on", Lifted: lift, Instrument: circuit.TwoPole, At: at(t, traveler, white), Reading: 0.0}, ""},
	} {
		c.Observations = []circuit.Observation{x.o}
		before := trace(t, &circuit.Circuit{Format: c.Format, Practice: c.Practice, Boxes: c.Boxes, Cables: c.Cables, Devices: c.Devices, Joins: c.Joins}).Worlds
		r := trace(t, c)
		if remark := r.Log[0].Remark; (x.says == "") != (remark == "") || !strings.Contains(remark, x.says) {
			t.Errorf("%s %v: %q", x.o.Instrument, x.o.Reading, remark)
		}
		if x.says != "" && r.Worlds != before {
			t.Errorf("%s on a floating conductor left %d of %d worlds", x.o.Instrument, r.Worlds, before)
		}
	}
}

// TestReports: what the customer says of the light counts as a reading does.
func TestReports(t *testing.T) {
	c, _ := surveyed(t)
	plain := trace(t, c)
	c.Reports = []circuit.Report{{Says: circuit.SaysWorks}}
	if r := trace(t, c); r.Worlds != plain.Worlds {
		t.Errorf("it works as it was taken to, and %d of %d worlds are left", r.Worlds, plain.Worlds)
	}
	// Two wires exchanged behind the wall: the far switch does not always work.
	c.Reports = []circuit.Report{{Says: circuit.SaysSometimes, Device: "s2"}}
	r := trace(t, c)
	if r.Worlds == 0 {
		t.Fatal("no world in which the far switch fails")
	}
	tr, err := New(context.Background(), c)
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range tr.frames {
		if got := tr.does(f, 1); f.fits && got != circuit.SaysSometimes {
			t.Errorf("a world is left in which the switch %s", got)
		}
	}
	c.Reports = []circuit.Report{{Says: circuit.SaysNothing, Device: "s1"}, {Says: circuit.SaysWorks, Device: "s2"}}
	if r := trace(t, c); r.Contradiction != nil && len(r.Contradiction.Reports) == 0 {
		t.Errorf("a clash that names no report: %+v", r.Contradiction)
	}
}

// TestWholeTree: the tree tells its walks before the first step, agrees with the houses
// that are traced by it, and can be stopped.
func TestWholeTree(t *testing.T) {
	c, h := surveyed(t)
	tr, err := New(context.Background(), c)
	if err != nil {
		t.Fatal(err)
	}
	nodes := 0
	root, err := tr.Tree(context.Background(), Dead, func(o circuit.Observation) string { return o.Key() }, func(n int) { nodes = n })
	if err != nil {
		t.Fatal(err)
	}
	if nodes == 0 || root.WorstTests == 0 || root.MeanTests > float64(root.WorstTests) || root.MeanWalks > float64(root.WorstWalks) {
		t.Errorf("%d nodes, tests %.2f of %d, walks %.2f of %d", nodes, root.MeanTests, root.WorstTests, root.MeanWalks, root.WorstWalks)
	}
	if tr.Worlds() != trace(t, c).Worlds {
		t.Error("following the tree changed what is left")
	}
	r := play(t, h, c, Dead)
	if r.tests > root.WorstTests || r.walks > root.WorstWalks {
		t.Errorf("a house took %d tests and %d walks, more than the worst of the tree", r.tests, r.walks)
	}
	// Only readings that contradict each other but for other lamps on the line leave something
	// open, and what is cut is far from likely.
	var cut, open float64
	var ends func(n *Node, odds float64)
	ends = func(n *Node, odds float64) {
		switch {
		case n.Test == nil && n.Cut:
			cut += odds
		case n.Test == nil && !n.Done:
			open += odds
		}
		all := 0.0
		for _, b := range n.Branches {
			all += b.Odds
		}
		for _, b := range n.Branches {
			ends(b.Then, odds*b.Odds/all)
		}
	}
	ends(root, 1)
	if t.Logf("%d tests followed, %.2f walks in the mean; by odds %.3f of the ends are open, %.3f cut", nodes, root.MeanWalks, open, cut); open > 0.15 || cut > 0.02 || len(root.Branches) < 2 {
		t.Error("too much is open or cut")
	}
	stopped, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := tr.Tree(stopped, Dead, func(circuit.Observation) string { return "" }, nil); err == nil {
		t.Error("a tree that was stopped has no error")
	}
}

// TestUnopened: a switch box that nobody opened is part of the circuit; a box on record
// with a known cable is used for what it is.
func TestUnopened(t *testing.T) {
	whole := circuittest.Chain(3)
	h, err := house.New(whole, 3, []string{"b1", "b2"})
	if err != nil {
		t.Fatal(err)
	}
	c := h.Survey()
	tr, err := New(context.Background(), c)
	if err != nil {
		t.Fatal(err)
	}
	roles := trueRoles(h)
	if !tr.holds(roles) {
		t.Errorf("the true circuit is in none of %d worlds while the third box is closed", tr.Worlds())
	}
	if r := play(t, h, c, Trips); r.wrong {
		t.Error("a wrong answer with a closed switch box")
	}
	known, from := surveyed(t)
	panel := "panel"
	for i := range known.Cables {
		if len(known.Cables[i].Cores) == 3 && *known.Cables[i].Ends[0] == "foot" {
			known.Cables[i].Ends[1] = &panel
		}
	}
	black := circuit.End{Ref: circuit.Ref{Owner: named(from, "w1", "foot"), Part: "black"}, Box: "foot"}
	if r := trace(t, known); r.Roles[black][electric.Line] != 1 {
		t.Errorf("with the feed known, its black is %v", r.Roles[black])
	}
}

// TestGang: a single-pole switch for another light, whose lamp nobody recorded, shares a
// box of the stair: both are told apart, and the record holds both lamps.
func TestGang(t *testing.T) {
	whole := circuittest.Straight()
	porch, foot := "porch", "foot"
	whole.Boxes = append(whole.Boxes, circuit.Box{ID: porch, Kind: circuit.Fixture})
	whole.Cables = append(whole.Cables, circuit.Cable{ID: "w4", Ends: [2]*string{&foot, &porch}, Cores: []string{"black", "white", "bare"}})
	whole.Devices = append(whole.Devices, circuit.Device{ID: "s3", Box: foot, Type: circuit.TypeSinglePole}, circuit.Device{ID: "lamp2", Box: porch, Type: circuit.TypeLamp})
	ref := func(s string) circuit.Ref {
		r, err := circuit.ParseRef(s)
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	for i, j := range whole.Joins {
		for own, more := range map[string][]string{"s1.common": {"s3.a"}, "w2.white": {"w4.white"}, "w2.bare": {"w4.bare", "s3.ground"}} {
			if j.Box == foot && slices.Contains(j.Of, ref(own)) {
				for _, m := range more {
					whole.Joins[i].Of = append(whole.Joins[i].Of, ref(m))
				}
			}
		}
	}
	whole.Joins = append(whole.Joins, circuit.Join{Box: foot, Of: []circuit.Ref{ref("w4.black"), ref("s3.b")}}, circuit.Join{Box: porch, Of: []circuit.Ref{ref("w4.black"), ref("lamp2.l")}},
		circuit.Join{Box: porch, Of: []circuit.Ref{ref("w4.white"), ref("lamp2.n")}}, circuit.Join{Box: porch, Of: []circuit.Ref{ref("w4.bare"), ref("lamp2.ground")}})
	h, err := house.New(whole, 9, []string{"foot", "head"})
	if err != nil {
		t.Fatal(err)
	}
	for _, bare := range []bool{false, true} {
		c := h.Survey()
		if bare { // the porch was never recorded
			c.Boxes = slices.DeleteFunc(c.Boxes, func(b circuit.Box) bool { return b.ID == porch })
			c.Devices = slices.DeleteFunc(c.Devices, func(d circuit.Device) bool { return d.Box == porch })
		}
		r := play(t, h, c, Dead)
		if r.wrong || !r.done {
			t.Fatalf("porch unrecorded %t: done %t, wrong %t, %d worlds", bare, r.done, r.wrong, r.tracer.Worlds())
		}
		traced := r.tracer.Circuit()
		lamps := 0
		for _, d := range traced.Devices {
			if d.Type == circuit.TypeLamp {
				lamps++
			}
		}
		if report := inspect.Check(traced); lamps != 2 || report.Verdict != inspect.Works {
			t.Errorf("porch unrecorded %t: %d lamps, %s %v", bare, lamps, report.Verdict, report.Findings)
		}
	}
}

// TestRefused: what cannot be traced is refused in one line that names the place.
func TestRefused(t *testing.T) {
	smart := circuittest.Straight()
	smart.Models = map[string]circuit.Model{"x": {Terminals: []string{"line"}, Supply: [][2]string{}}}
	smart.Devices = append(smart.Devices, circuit.Device{ID: "m1", Box: "foot", Type: circuit.TypeSmart, Model: "x"})
	many := circuittest.Straight()
	for i := range maxSupplies {
		many.Devices = append(many.Devices, circuit.Device{ID: fmt.Sprintf("supply%d", i+2), Box: "panel", Type: circuit.TypeSupply})
	}
	for name, c := range map[string]*circuit.Circuit{"smart": smart, "many supplies": many} {
		if _, err := New(context.Background(), c); err == nil || !strings.HasPrefix(err.Error(), "devices: ") {
			t.Errorf("%s: %v", name, err)
		}
	}
	stopped, cancel := context.WithCancel(context.Background())
	cancel()
	h := hiddenHouse(t, 12, 4)
	if _, err := New(stopped, h.Survey()); err == nil {
		t.Error("a search that was stopped has no error")
	}
}
