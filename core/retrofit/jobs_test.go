package retrofit

import (
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// straight is the usual circuit of two switches: feed at the foot, lamp beyond the head.
var straight = [2]string{"a:panel:foot:black,white,bare b:foot:head:black,red,white,bare c:head:light:black,white,bare",
	`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
	 foot a.black s1.common; foot a.white b.white; foot b.black s1.t1; foot b.red s1.t2; foot a.bare b.bare s1.ground;
	 head b.black s2.t1; head b.red s2.t2; head b.white c.white; head c.black s2.common; head b.bare c.bare s2.ground;
	 light c.black l.l; light c.white l.n; light c.bare l.ground`}

// byID finds an option of a plan.
func byID(t *testing.T, a *Result, id string) Option {
	t.Helper()
	i := slices.IndexFunc(a.Options, func(o Option) bool { return o.ID == id })
	if i < 0 {
		t.Fatalf("no option %s", id)
	}
	return a.Options[i]
}

// carries says what the cores of a cable carry in a plan, seen in a box: "capped" where
// they stand in no join.
func carries(o Option, cable, box string, cores ...string) string {
	roles := electric.New(o.After).Roles()
	var out []string
	for _, core := range cores {
		e := circuit.End{Ref: circuit.Ref{Owner: cable, Part: core}, Box: box}
		if o.After.JoinOf(box, e.Ref) < 0 {
			out = append(out, "capped")
		} else {
			out = append(out, string(roles[e]))
		}
	}
	return strings.Join(out, " ")
}

// TestLoadEndDimmer: a dimmer that must stand at the load end is planned at the window and
// refused at the door, with the cable that is too thin for it there.
func TestLoadEndDimmer(t *testing.T) {
	a := planFor(read(t, threeBoxes, straight[0], straight[1]), Request{Wishes: Wishes{Wishes: map[string]string{DimOne: Must}}})
	window := byID(t, a, "sensing-3way-head-sensing-load")
	if !window.Feasible || window.Devices[0].Device != "sensing-dimmer-load" || !slices.Equal(window.BoxesTouched, []string{"head"}) {
		t.Errorf("at the window: feasible %t, %v in %v", window.Feasible, window.Devices, window.BoxesTouched)
	}
	door := byID(t, a, "sensing-3way-foot-sensing-load")
	if door.Feasible || !strings.Contains(door.Reasons[0].Text, "cable between foot and head") {
		t.Errorf("at the door: feasible %t, %v", door.Feasible, door.Reasons)
	}
}

// TestConductors: which core becomes what, for a strategy on usual walls.
func TestConductors(t *testing.T) {
	for _, k := range []struct {
		name, id, cable, box string
		circuit              [2]string
		cores, want          string
	}{
		{"main with keypad: one traveler is the load, one the signal", "main-aux-foot", "b", "head", straight, "black red white", "load signal neutral"},
		{"the same seen in the other box", "main-aux-foot", "b", "foot", straight, "black red white", "load signal neutral"},
		{"main at the lamp's end: one traveler brings line, one the signal", "main-aux-head", "b", "foot", straight, "black red white", "line signal neutral"},
		{"powered switch at a dead end: the freed white becomes a true neutral", "message-switches-foot", "b", "head", bothAtOneEnd, "black red white", "line capped neutral"},
		{"its twin likewise", "paired-switches-foot", "b", "foot", bothAtOneEnd, "black red white", "line capped neutral"},
		{"main at the dead end: red brings the load back", "main-remote-head", "b", "head", bothAtOneEnd, "black red white", "line load neutral"},
		{"remote over the dead end: nothing is live there", "main-remote-foot", "b", "head", bothAtOneEnd, "red", "capped"},
		{"powered remote: line on one core, the load on another", "powered-remote-head", "b", "foot", straight, "white", "neutral"},
		{"no neutral at the head needed", "no-neutral-remote-head", "b", "head", feedAtLampRoomy, "black red", "load line"},
	} {
		t.Run(k.name, func(t *testing.T) {
			c := read(t, threeBoxes, k.circuit[0], k.circuit[1])
			o := byID(t, Plan(c), k.id)
			if !o.Feasible {
				t.Fatalf("%s does not fit: %v", k.id, o.Reasons)
			}
			prove(t, k.id, c, o)
			got := carries(o, k.cable, k.box, strings.Fields(k.cores)...)
			words := strings.Fields(got)
			want := strings.Fields(k.want)
			slices.Sort(words)
			slices.Sort(want)
			if strings.Join(words, " ") != strings.Join(want, " ") {
				t.Errorf("%s carry %s, want %s in some order", k.cores, got, k.want)
			}
		})
	}
}

// feedAtLampRoomy has the feed at the lamp and three cores down to the switches.
var feedAtLampRoomy = [2]string{"a:panel:light:black,white,bare b:light:head:black,red,white,bare c:head:foot:black,red,white,bare",
	`panel a.black f.hot; panel a.white f.neutral; panel a.bare f.ground;
	 light a.black b.red; light a.white l.n b.white; light b.black l.l; light a.bare b.bare l.ground;
	 head b.red c.white; head b.black s2.common; head c.black s2.t1; head c.red s2.t2; head b.bare c.bare s2.ground;
	 foot c.white s1.common; foot c.black s1.t1; foot c.red s1.t2; foot c.bare s1.ground`}

// TestTwoSchoolsOfLoad: a powered remote with the load by-passing its box, or joined on a
// screw of it: both work, and the second shows the load at the remote.
func TestTwoSchoolsOfLoad(t *testing.T) {
	c := read(t, threeBoxes, straight[0], straight[1])
	a := Plan(c)
	past, joined := byID(t, a, "powered-remote-foot"), byID(t, a, "powered-remote-joined-foot")
	for _, o := range []Option{past, joined} {
		if !o.Feasible {
			t.Fatalf("%s: %v", o.ID, o.Reasons)
		}
		prove(t, o.ID, c, o)
	}
	load := func(o Option) bool {
		return slices.ContainsFunc(o.After.Joins, func(j circuit.Join) bool {
			return slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return strings.HasPrefix(m.Owner, "r") && m.Part == "load" })
		})
	}
	if load(past) || !load(joined) {
		t.Errorf("load at the remote: by-passing %t, joined %t", load(past), load(joined))
	}
}

// TestRoseModule: at a light to which the feed comes first, a module finds line and neutral
// there, the old switched conductor becomes its input, and no switch is touched.
func TestRoseModule(t *testing.T) {
	c := read(t, threeBoxes, feedAtLamp[0], feedAtLamp[1])
	o := byID(t, Plan(c), "module-switched-light")
	if !o.Feasible || !slices.Equal(o.BoxesTouched, []string{"light"}) || o.Metrics.SwitchesKept != 2 || o.Metrics.Ladders != 1 {
		t.Fatalf("feasible %t in %v: %v", o.Feasible, o.BoxesTouched, o.Reasons)
	}
	prove(t, o.ID, c, o)
	in := o.After.Joins[o.After.JoinOf("light", circuit.Ref{Owner: "m1", Part: "in"})]
	if !slices.Contains(in.Of, circuit.Ref{Owner: "b", Part: "black"}) || slices.Contains(in.Of, circuit.Ref{Owner: "l", Part: "l"}) {
		t.Errorf("the module's input stands with %v", in.Of)
	}
}

// TestDryContact: a module with a dry input frees the old switches from mains: none of
// their screws is ever live.
func TestDryContact(t *testing.T) {
	tried := 0
	for _, k := range [][2]string{bothAtOneEnd, feedAtLamp, strapped, straight} {
		for _, o := range Plan(read(t, threeBoxes, k[0], k[1])).Options {
			if o.Strategy != ModuleDry || !o.Feasible {
				continue
			}
			tried++
			n := electric.New(o.After)
			for _, s := range electric.Explore(n).States {
				solved := n.Solve(s.State)
				for _, sw := range []string{"s1", "s2"} {
					for _, terminal := range []string{"common", "t1", "t2"} {
						if e := (circuit.End{Ref: circuit.Ref{Owner: sw, Part: terminal}}); solved.At(e) == electric.Live {
							t.Errorf("%s: %s is live", o.ID, e)
						}
					}
				}
			}
		}
	}
	if tried < 2 {
		t.Errorf("%d plans with a dry contact", tried)
	}
}

// TestFins: in a box full of devices a dimmer loses its fins on both sides, and carries less
// of halogen; the plan says so.
func TestFins(t *testing.T) {
	gang := func(watts float64) Option {
		c := read(t, threeBoxes, straight[0], straight[1])
		for _, id := range []string{"x1", "x2", "x3"} {
			c.Devices = append(c.Devices, circuit.Device{ID: id, Box: "foot", Type: circuit.TypeReceptacle})
			for i, j := range c.Joins {
				for _, pair := range [][2]string{{"a.black", "l"}, {"a.white", "n"}, {"a.bare", "ground"}} {
					if j.Box == "foot" && slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return m.String() == pair[0] }) {
						c.Joins[i].Of = append(c.Joins[i].Of, circuit.Ref{Owner: id, Part: pair[1]})
					}
				}
			}
		}
		lamp := c.Device("l")
		lamp.Load, lamp.Watts = "halogen", &watts
		if r := inspect.Check(c); r.Verdict != inspect.Works {
			t.Fatalf("as found: %v", r.Findings[0].Text)
		}
		return byID(t, Plan(c), "no-neutral-remote-foot")
	}
	if o := gang(390); !o.Feasible {
		t.Errorf("390 W: %v", o.Reasons)
	}
	o := gang(450)
	if o.Feasible || !strings.Contains(o.Reasons[0].Text, "fins broken off") {
		t.Errorf("450 W: feasible %t, %v", o.Feasible, o.Reasons)
	}
}

// TestKitOrSingle: where one sensing switch will do, the plan says what it saves against a
// kit of two.
func TestKitOrSingle(t *testing.T) {
	a := Plan(read(t, threeBoxes, straight[0], straight[1]))
	one := byID(t, a, "sensing-3way-foot")
	if one.Metrics.Devices != 1 || one.Metrics.SavedAgainstKit == nil || *one.Metrics.SavedAgainstKit <= 0 {
		t.Fatalf("%d devices, saved %v", one.Metrics.Devices, one.Metrics.SavedAgainstKit)
	}
	cheapest := 1e9
	for _, o := range a.Options {
		if o.Feasible && o.Metrics.Devices > 1 && o.Strategy != SmartLamps && o.Strategy != CentralModule && o.Strategy != Messages && !strings.Contains(o.ID, "scene-remote") {
			cheapest = min(cheapest, o.Metrics.Price)
		}
	}
	if got := one.Metrics.Price + *one.Metrics.SavedAgainstKit; got != cheapest {
		t.Errorf("the kit would cost %g, the cheapest costs %g", got, cheapest)
	}
}

// TestChains: chains of three to ten controls keep what they may: a sensing switch at one
// end leaves every other box alone, a 4-way cannot be the one that goes, and the reason
// names where the device could stand.
func TestChains(t *testing.T) {
	for controls := 3; controls <= 10; controls += 7 {
		a := Plan(circuittest.Chain(controls))
		kept := 0
		for _, o := range a.Options {
			if o.Strategy != SensingSwitch {
				continue
			}
			if o.Feasible {
				if kept++; kept > 1 {
					continue // turning the chain round is more work; it stands behind
				}
				if len(o.BoxesTouched) != 1 || o.Metrics.SwitchesKept != controls-1 {
					t.Errorf("%d controls, %s: work in %v, %d switches stay", controls, o.ID, o.BoxesTouched, o.Metrics.SwitchesKept)
				}
			} else if !o.Feasible && o.Reasons[0].Code == "four-way-stays" && !strings.Contains(o.Reasons[0].Text, "It could stand in") {
				t.Errorf("%s: %s", o.ID, o.Reasons[0].Text)
			}
		}
		if kept == 0 {
			t.Errorf("%d controls: no sensing switch fits", controls)
		}
	}
}

// TestEnergy: standby and lamps in a year, in kilowatt-hours and money, only where the
// record and the wishes allow it.
func TestEnergy(t *testing.T) {
	c := read(t, threeBoxes, straight[0], straight[1])
	o := byID(t, Plan(c), "main-aux-foot")
	if told := o.Metrics.LampsYear != nil; told || o.Metrics.StandbyYear != 7.01 { // 0.7 W + 0.1 W, 8,760 hours
		t.Errorf("lamps told %t, standby %g kWh", told, o.Metrics.StandbyYear)
	}
	watts, count := 9.0, 4
	c.Device("l").Watts, c.Device("l").Count = &watts, &count
	o = byID(t, planFor(c, Request{Wishes: Wishes{HoursPerDay: 5, EnergyPrice: 0.25}}), "main-aux-foot")
	m := o.Metrics
	if m.LampsYear == nil || m.LampsCostYear == nil || m.StandbyCostYear == nil {
		t.Fatalf("not told: %+v", m)
	}
	if *m.LampsYear != 65.7 || *m.LampsCostYear != 16.43 || *m.StandbyCostYear != 1.75 {
		t.Errorf("lamps %g kWh for %g, standby %g", *m.LampsYear, *m.LampsCostYear, *m.StandbyCostYear)
	}
}
