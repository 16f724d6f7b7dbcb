package retrofit

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// TestAssign compares the assignment with a search over all permutations.
func TestAssign(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 1))
	for range 200 {
		rows, cols := 1+rng.IntN(4), 0
		cols = rows + rng.IntN(3)
		cost := make([][]float64, rows)
		for i := range cost {
			cost[i] = make([]float64, cols)
			for j := range cost[i] {
				cost[i][j] = float64(rng.IntN(20))
			}
		}
		best := 1e18
		var search func(row int, used int, sum float64)
		search = func(row int, used int, sum float64) {
			if row == rows {
				best = min(best, sum)
				return
			}
			for j := range cols {
				if used>>j&1 == 0 {
					search(row+1, used|1<<j, sum+cost[row][j])
				}
			}
		}
		search(0, 0, 0)
		got, used := 0.0, map[int]bool{}
		for i, j := range assign(cost) {
			got += cost[i][j]
			if used[j] {
				t.Fatal("a column is used twice")
			}
			used[j] = true
		}
		if got != best {
			t.Fatalf("assignment costs %v, the best %v", got, best)
		}
	}
}

// TestHouses: over random trees, whatever is offered works from every control
// in every state, keeps every cable, and moves nothing in boxes that it does
// not name; whatever is not offered says why.
func TestHouses(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	rng := rand.New(rand.NewPCG(2, 3))
	offered, refused := map[string]int{}, map[string]int{}
	for i := range 500 {
		c := circuittest.House(rng, 2+i%2)
		for _, o := range Plan(c).Options {
			if !o.Feasible {
				refused[o.Strategy]++
				if len(o.Reasons) == 0 || o.After != nil {
					t.Fatalf("house %d, %s: infeasible without a reason", i, o.ID)
				}
				for _, r := range o.Reasons {
					if strings.HasPrefix(r.Code, "fails-") {
						t.Fatalf("house %d, %s: allocated, then %s", i, o.ID, r.Text)
					}
				}
				continue
			}
			offered[o.Strategy]++
			prove(t, fmt.Sprintf("house %d, %s", i, o.ID), c, o)
		}
	}
	for _, s := range Strategies {
		t.Logf("%s: offered %d times, refused %d times", s, offered[s], refused[s])
		always := slices.Contains([]string{NoNeutralRemote, SmartLamps, CentralModule}, s)
		if !slices.Contains([]string{ModuleFour, AddedRemote, OneSmart, MultiGang, ModulePulse}, s) && (offered[s] == 0 || refused[s] == 0 && !always) {
			t.Errorf("%s: the houses do not try it", s)
		}
	}
}

// prove checks an offered plan afresh, without the planner's own checks.
func prove(t *testing.T, name string, before *circuit.Circuit, o Option) {
	t.Helper()
	if err := o.After.Validate(); err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	r := inspect.Check(o.After)
	if r.Verdict != inspect.Works {
		t.Fatalf("%s: %v", name, r.Findings[0].Text)
	}
	for _, ctl := range r.Controls {
		if !ctl.Works {
			t.Fatalf("%s: %s does not work", name, ctl.Device)
		}
	}
	want := len(inspect.Check(before).Controls) - o.Metrics.PlacesLost
	if o.Strategy == AddedRemote {
		want++
	}
	if len(r.Controls) != want {
		t.Fatalf("%s: %d controls, there were %d", name, len(r.Controls), want)
	}
	for _, told := range circuit.Diff(before, o.After) {
		if told.Kind == "cable" && o.Metrics.NewCables == 0 || told.Kind == "box" && !strings.HasPrefix(told.ID, "wall") {
			t.Fatalf("%s: %s; a plan works with the walls that are there", name, told)
		}
	}
	touched := map[string]bool{}
	for _, c := range Changes(before, o.After) {
		touched[c.Box] = true
		if !strings.HasPrefix(strings.ToLower(c.Text), c.End.Part+" ") || !strings.Contains(c.Text, " → ") && !strings.Contains(c.Text, ": stays on ") {
			t.Fatalf("%s: the row %q does not say which core goes from where to where", name, c.Text)
		}
		if !slices.Contains(o.BoxesTouched, c.Box) {
			t.Fatalf("%s: %s changes and is not named", name, c.Box)
		}
	}
	if touched["panel"] {
		t.Fatalf("%s: works in the panel", name)
	}
}

// TestSensingLeavesTheOthers: with line at the replaced switch, nothing moves
// in any other box.
func TestSensingLeavesTheOthers(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(4, 5))
	seen := 0
	for i := range 200 {
		c := circuittest.House(rng, 2+i%3)
		for _, o := range Plan(c).Options {
			if o.ID == "sensing-3way-b1" && o.Feasible {
				seen++
				if !slices.Equal(o.BoxesTouched, []string{"b1"}) {
					t.Fatalf("house %d: works in %v", i, o.BoxesTouched)
				}
			}
		}
	}
	if seen == 0 {
		t.Error("no house had line and neutral at its first switch")
	}
}

// read builds a document from a compact table of cables and joins.
func read(t *testing.T, boxes, cables, joins string) *circuit.Circuit {
	t.Helper()
	c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Devices: []circuit.Device{
		{ID: "f", Box: "panel", Type: circuit.TypeSupply}, {ID: "s1", Box: "foot", Type: circuit.TypeThreeWay},
		{ID: "s2", Box: "head", Type: circuit.TypeThreeWay}, {ID: "l", Box: "light", Type: circuit.TypeLamp},
	}}
	for b := range strings.FieldsSeq(boxes) {
		id, kind, _ := strings.Cut(b, ":")
		c.Boxes = append(c.Boxes, circuit.Box{ID: id, Kind: kind})
	}
	for k := range strings.FieldsSeq(cables) {
		p := strings.Split(k, ":")
		c.Cables = append(c.Cables, circuit.Cable{ID: p[0], Ends: [2]*string{&p[1], &p[2]}, Cores: strings.Split(p[3], ",")})
	}
	for j := range strings.SplitSeq(joins, ";") {
		p := strings.Fields(j)
		join := circuit.Join{Box: p[0]}
		for _, m := range p[1:] {
			ref, err := circuit.ParseRef(m)
			if err != nil {
				t.Fatal(err)
			}
			join.Of = append(join.Of, ref)
		}
		c.Joins = append(c.Joins, join)
	}
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	return c
}

const threeBoxes = "panel:panel foot:switch head:switch light:fixture"

// Circuits as found in the field: feed and lamp at one end, the far switch a
// dead end; feed at the lamp without neutral; strapped common to common.
var (
	bothAtOneEnd = [2]string{"a:panel:foot:black,white,bare b:foot:head:black,red,white,bare c:foot:light:black,white,bare",
		`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
		 foot a.black b.black; foot a.white c.white; foot a.bare b.bare c.bare s1.ground; foot s1.common c.black; foot s1.t1 b.red; foot s1.t2 b.white;
		 head b.black s2.common; head b.red s2.t1; head b.white s2.t2; head b.bare s2.ground;
		 light c.black l.l; light c.white l.n; light c.bare l.ground`}
	feedAtLamp = [2]string{"a:panel:light:black,white,bare b:light:foot:black,white,bare c:foot:head:black,red,white,bare",
		`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
		 light a.black b.white; light a.white l.n; light b.black l.l; light a.bare b.bare l.ground;
		 foot b.white c.white; foot b.black s1.common; foot c.black s1.t1; foot c.red s1.t2; foot b.bare c.bare s1.ground;
		 head c.white s2.common; head c.black s2.t1; head c.red s2.t2; head c.bare s2.ground`}
	strapped = [2]string{"a:panel:light:black,white,bare b:light:foot:black,red,white,bare c:foot:head:black,red,blue,bare",
		`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
		 light a.black b.black; light a.white b.white l.n; light b.red l.l; light a.bare b.bare l.ground;
		 foot b.black s1.t1 c.red; foot b.red s1.t2 c.blue; foot c.black s1.common; foot b.bare c.bare s1.ground;
		 head c.black s2.common; head c.red s2.t1; head c.blue s2.t2; head c.bare s2.ground`}
)

// TestAsFoundInTheField: for each usual circuit, the families that fit at each
// place and why the others do not.
func TestAsFoundInTheField(t *testing.T) {
	cases := []struct {
		name    string
		circuit [2]string
		want    map[string]string // option → "" where it fits, else a part of the reason
	}{
		{"both at one end", bothAtOneEnd, map[string]string{
			"sensing-3way-foot": "", "main-aux-foot": "", "main-remote-foot": "",
			"sensing-3way-head": "this needs four: line, neutral, 2 travelers",
			"main-aux-head":     "this needs four: line, load, neutral, signal",
			"main-remote-head":  "", // the freed white becomes a true neutral at the dead end
		}},
		{"feed at the lamp", feedAtLamp, map[string]string{
			"sensing-3way-foot": "has two cores (black, white)", "main-aux-foot": "this needs three: line, load, neutral",
			"main-remote-foot": "this needs three: line, load, neutral", "sensing-3way-head": "this needs three",
			"main-aux-head": "this needs four", "main-remote-head": "this needs three",
		}},
		{"strapped common to common", strapped, map[string]string{
			"sensing-3way-foot": "", "sensing-3way-head": "needs", "main-aux-foot": "no core there may carry neutral",
			"main-remote-foot": "", "main-remote-head": "no core there may carry neutral",
		}},
	}
	for _, k := range cases {
		t.Run(k.name, func(t *testing.T) {
			c := read(t, threeBoxes, k.circuit[0], k.circuit[1])
			if r := inspect.Check(c); r.Verdict != inspect.Works {
				t.Fatalf("as found: %s", r.Findings[0].Text)
			}
			got := map[string]Option{}
			for _, o := range Plan(c).Options {
				got[o.ID] = o
			}
			for id, reason := range k.want {
				o, ok := got[id]
				switch {
				case !ok:
					t.Errorf("%s is not answered", id)
				case o.Feasible != (reason == ""):
					t.Errorf("%s: feasible %v, %v", id, o.Feasible, o.Reasons)
				case reason == "":
					prove(t, id, c, o)
				case !slices.ContainsFunc(o.Reasons, func(r Reason) bool { return strings.Contains(r.Text, reason) }):
					t.Errorf("%s: %v; want %q", id, o.Reasons, reason)
				}
			}
		})
	}
}

// TestRecolouredSignal: at a straight circuit with three cores between, one
// becomes the load, one the signal, and neutral goes on untouched.
func TestStraightMainAux(t *testing.T) {
	c := read(t, threeBoxes, "a:panel:foot:black,white,bare b:foot:head:black,red,white,bare c:head:light:black,white,bare",
		`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
		 foot a.black s1.common; foot a.white b.white; foot b.black s1.t1; foot b.red s1.t2; foot a.bare b.bare s1.ground;
		 head b.black s2.t1; head b.red s2.t2; head b.white c.white; head c.black s2.common; head b.bare c.bare s2.ground;
		 light c.black l.l; light c.white l.n; light c.bare l.ground`)
	for _, o := range Plan(c).Options {
		if o.ID != "main-aux-foot" {
			continue
		}
		roles := electric.New(o.After).Roles()
		got := []electric.Role{}
		for _, core := range []string{"black", "red", "white"} {
			got = append(got, roles[circuit.End{Ref: circuit.Ref{Owner: "b", Part: core}, Box: "head"}])
		}
		if fmt.Sprint(got) != "[load signal neutral]" {
			t.Errorf("black, red, white carry %v", got)
		}
		return
	}
	t.Error("no main with auxiliary at the foot")
}

// TestFaultyIsRefused: nothing is planned on a circuit that is not sound.
func TestFaultyIsRefused(t *testing.T) {
	c := circuittest.Chain(2)
	for i, j := range c.Joins {
		c.Joins[i].Of = slices.DeleteFunc(j.Of, func(m circuit.Ref) bool { return m.String() == "s1.t1" })
	}
	for _, o := range Plan(c).Options {
		if o.Feasible || o.Reasons[0].Code != "circuit-faulty" {
			t.Errorf("%s: feasible %v, %v", o.ID, o.Feasible, o.Reasons)
		}
	}
}

// TestNothingLiveIsLeft: in every plan each core that nothing needs any more is
// capped at both ends and dead, and none is paired with another.
func TestNothingLiveIsLeft(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(6, 7))
	spares := 0
	for i := range 120 {
		c := circuittest.House(rng, 2+i%2)
		for _, o := range Plan(c).Options {
			if !o.Feasible {
				continue
			}
			n := electric.New(o.After)
			for _, s := range electric.Explore(n).States {
				solved := n.Solve(s.State)
				for _, k := range o.After.Cables {
					classes := map[int]string{}
					for _, core := range k.Cores {
						near := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}
						a, b := o.After.JoinOf(*k.Ends[0], near.Ref), o.After.JoinOf(*k.Ends[1], near.Ref)
						if (a < 0) != (b < 0) && solved.At(near) == electric.Live {
							t.Fatalf("house %d, %s: %s is live and capped at one end", i, o.ID, near)
						}
						if a < 0 && b < 0 {
							spares++
							continue
						}
						if other, twice := classes[n.Class(near)]; twice && !outAndBack(o.After, k, core, other) {
							t.Fatalf("house %d, %s: %s and %s of %s carry one conductor", i, o.ID, core, other, k.ID)
						}
						classes[n.Class(near)] = core
					}
				}
			}
		}
	}
	if spares == 0 {
		t.Error("no plan frees a core; the property was not tried")
	}
}

// outAndBack reports whether two cores of a cable are one conductor that goes from a box on a
// ladder to a switch box and back, in two connectors up there.
func outAndBack(c *circuit.Circuit, k circuit.Cable, a, b string) bool {
	return slices.ContainsFunc(k.Ends[:], func(box *string) bool {
		up := c.Box(*box).Kind == circuit.Fixture || c.Box(*box).Kind == circuit.Junction
		return up && c.JoinOf(*box, circuit.Ref{Owner: k.ID, Part: a}) != c.JoinOf(*box, circuit.Ref{Owner: k.ID, Part: b})
	})
}

// TestTwoGroups: two lights whose switches share the boxes are planned each for
// itself, and the other group is left as it is.
func TestTwoGroups(t *testing.T) {
	c := read(t, threeBoxes, "a:panel:foot:black,white,bare b:foot:head:black,red,white,bare c:head:light:black,white,bare",
		`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
		 foot a.black s1.common; foot a.white b.white; foot b.black s1.t1; foot b.red s1.t2; foot a.bare b.bare s1.ground;
		 head b.black s2.t1; head b.red s2.t2; head b.white c.white; head c.black s2.common; head b.bare c.bare s2.ground;
		 light c.black l.l; light c.white l.n; light c.bare l.ground`)
	// The second group: the same once more, on cables of its own.
	twin := c.Clone()
	rename := func(r circuit.Ref) circuit.Ref {
		if twin.Device(r.Owner) != nil && r.Owner == "f" {
			return circuit.Ref{Owner: "g", Part: r.Part}
		}
		return circuit.Ref{Owner: r.Owner + "x", Part: r.Part}
	}
	for _, k := range twin.Cables {
		k.ID += "x"
		c.Cables = append(c.Cables, k)
	}
	for _, d := range twin.Devices {
		if d.ID == "f" {
			d.ID = "g"
		} else {
			d.ID += "x"
		}
		c.Devices = append(c.Devices, d)
	}
	for _, j := range twin.Joins {
		for i := range j.Of {
			j.Of[i] = rename(j.Of[i])
		}
		c.Joins = append(c.Joins, j)
	}
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	r := inspect.Check(c)
	if r.Verdict != inspect.Works || r.States != 16 {
		t.Fatalf("%s in %d states: %v", r.Verdict, r.States, r.Findings)
	}
	seen := map[string]bool{}
	for _, o := range Plan(c).Options {
		if seen[o.ID] {
			t.Errorf("two options are called %s", o.ID)
		}
		seen[o.ID] = true
		if !o.Feasible {
			continue
		}
		if got := inspect.Check(o.After); got.Verdict != inspect.Works || len(got.Controls) != 4-o.Metrics.PlacesLost {
			t.Errorf("%s: %s with %d controls", o.ID, got.Verdict, len(got.Controls))
		}
		if strings.HasSuffix(o.ID, together) {
			if again := Offer(c, o.ID); again == nil || len(again.Changes) != len(o.Changes) {
				t.Errorf("%s is not offered again", o.ID)
			}
			continue
		}
		mine := o.After.Device("s1") == nil || o.After.Device("s2") == nil
		for _, ch := range o.Changes {
			if strings.HasSuffix(ch.End.Owner, "x") == mine {
				t.Errorf("%s moves %s of the other group", o.ID, ch.End)
			}
		}
	}
	if !seen["sensing-3way-foot-1"] || !seen["sensing-3way-foot-2"] {
		t.Errorf("options %v", seen)
	}
}

// TestPractices: the same walls in each practice's colours give plans whose
// colours that practice allows.
func TestPractices(t *testing.T) {
	colours := map[string][4]string{ // line, second, neutral, ground
		"na": {"black", "red", "white", "bare"}, "uk": {"brown", "brown2", "blue", "green-yellow"},
		"au": {"red", "white", "black", "green-yellow"}, "in": {"red", "yellow", "black", "green"}, "eu": {"brown", "black", "blue", "green-yellow"},
	}
	for id, col := range colours {
		r := strings.NewReplacer("black", col[0], "red", col[1], "white", col[2], "bare", col[3])
		c := read(t, threeBoxes, r.Replace("a:panel:foot:black,white,bare b:foot:head:black,red,white,bare c:head:light:black,white,bare"),
			r.Replace(`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
			 foot a.black s1.common; foot a.white b.white; foot b.black s1.t1; foot b.red s1.t2; foot a.bare b.bare s1.ground;
			 head b.black s2.t1; head b.red s2.t2; head b.white c.white; head c.black s2.common; head b.bare c.bare s2.ground;
			 light c.black l.l; light c.white l.n; light c.bare l.ground`))
		c.Practice = id
		feasible := map[string]bool{}
		for _, o := range Plan(c).Options {
			if !o.Feasible {
				continue
			}
			feasible[o.Strategy] = true
			for _, f := range inspect.Check(o.After).Findings {
				if f.Severity != inspect.Note { // a spare core is a note
					t.Errorf("%s, %s: %s", id, o.ID, f.Text)
				}
			}
		}
		for _, s := range []string{SensingSwitch, MainAux, MainPush, NoNeutralAux, MainRemote, Paired, PoweredRemote, Messages, Selectors, SmartLamps, CentralModule} {
			if !feasible[s] {
				t.Errorf("%s: nothing of %s fits", id, s)
			}
		}
	}
}

func BenchmarkPlan(b *testing.B) {
	for _, controls := range []int{2, 4, 6, 8, 10} {
		c := circuittest.Chain(controls)
		b.Run(fmt.Sprintf("controls=%d", controls), func(b *testing.B) {
			for b.Loop() {
				Plan(c)
			}
		})
	}
}

// planFor plans with a context that does not end.
func planFor(c *circuit.Circuit, request Request) *Result {
	answer, err := PlanFor(context.Background(), inspect.Compile(c), request)
	if err != nil {
		panic(err)
	}
	return answer
}

// TestPlanStops: planning ends with its context.
func TestPlanStops(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	stop()
	if answer, err := PlanFor(ctx, inspect.Compile(circuittest.Chain(6)), Request{}); answer != nil || !errors.Is(err, context.Canceled) {
		t.Errorf("%v, %v", answer, err)
	}
}
