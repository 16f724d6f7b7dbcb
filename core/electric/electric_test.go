package electric_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
)

// wire builds a one-box bench circuit: devices as "id:type[:model]" and joins as
// lists of terminals. A bench has no cables, so only the devices matter.
func wire(t *testing.T, devices string, joins string, models string, links ...circuit.Link) *electric.Network {
	t.Helper()
	c := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "b", Kind: circuit.Switch}}, Links: links}
	for d := range strings.FieldsSeq(devices) {
		p := append(strings.Split(d, ":"), "")
		c.Devices = append(c.Devices, circuit.Device{ID: p[0], Box: "b", Type: p[1], Model: p[2]})
	}
	for j := range strings.SplitSeq(joins, ";") {
		join := circuit.Join{Box: "b"}
		for m := range strings.FieldsSeq(j) {
			ref, err := circuit.ParseRef(m)
			if err != nil {
				t.Fatal(err)
			}
			join.Of = append(join.Of, ref)
		}
		c.Joins = append(c.Joins, join)
	}
	if models != "" {
		if err := json.Unmarshal([]byte(models), &c.Models); err != nil {
			t.Fatal(err)
		}
	}
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	return electric.New(c)
}

// TestLampVolts: bench circuits whose volts anybody can work out.
func TestLampVolts(t *testing.T) {
	cases := []struct {
		name, devices, joins string
		state                map[string]int
		want                 []float64
		fault                electric.FaultKind
	}{
		{"plain", "f:supply l1:lamp", "f.hot l1.l; f.neutral l1.n", nil, []float64{120}, ""},
		{"two in series", "f:supply l1:lamp l2:lamp", "f.hot l1.l; l1.n l2.l; l2.n f.neutral", nil, []float64{60, 60}, electric.PartVolts},
		{"ten in series", "f:supply l1:lamp l2:lamp l3:lamp l4:lamp l5:lamp l6:lamp l7:lamp l8:lamp l9:lamp l10:lamp",
			"f.hot l1.l; l1.n l2.l; l2.n l3.l; l3.n l4.l; l4.n l5.l; l5.n l6.l; l6.n l7.l; l7.n l8.l; l8.n l9.l; l9.n l10.l; l10.n f.neutral", nil, []float64{12, 12, 12, 12, 12, 12, 12, 12, 12, 12}, electric.PartVolts},
		{"a pair in series with one", "f:supply l1:lamp l2:lamp l3:lamp", "f.hot l1.l; l1.n l2.l l3.l; l2.n l3.n f.neutral", nil, []float64{80, 40, 40}, electric.PartVolts},
		{"bridge", "f:supply l1:lamp l2:lamp l3:lamp l4:lamp l5:lamp", "f.hot l1.l l2.l; l1.n l3.l l5.l; l2.n l4.l l5.n; l3.n l4.n f.neutral", nil, []float64{60, 60, 60, 60, 0}, electric.PartVolts},
		{"neutral missing", "f:supply l1:lamp l2:lamp", "f.hot l1.l l2.l; l1.n l2.n", nil, []float64{0, 0}, electric.NeutralSwitched},
		{"loop that floats", "f:supply l1:lamp l2:lamp", "l1.l l2.l; l1.n l2.n", nil, []float64{0, 0}, ""},
		{"single-pole closed", "f:supply s:single-pole l1:lamp", "f.hot s.a; s.b l1.l; f.neutral l1.n", map[string]int{"s": 1}, []float64{120}, ""},
		{"single-pole open", "f:supply s:single-pole l1:lamp", "f.hot s.a; s.b l1.l; f.neutral l1.n", map[string]int{"s": 2}, []float64{0}, ""},
		{"polarity reversed", "f:supply l1:lamp", "f.hot l1.n; f.neutral l1.l", nil, []float64{120}, electric.HotShell},
		{"returns through ground", "f:supply l1:lamp", "f.hot l1.l; f.ground l1.n", nil, []float64{120}, electric.GroundReturn},
		{"short to neutral", "f:supply l1:lamp", "f.hot l1.l f.neutral; l1.n", nil, []float64{0}, electric.ShortHotNeutral},
		{"short to ground", "f:supply l1:lamp", "f.hot l1.l f.ground; f.neutral l1.n", nil, []float64{0}, electric.ShortHotGround},
		{"neutral on ground", "f:supply l1:lamp", "f.hot l1.l; f.neutral l1.n f.ground", nil, []float64{120}, electric.NeutralGround},
		{"live ground screw", "f:supply l1:lamp", "f.hot l1.l l1.ground; f.neutral l1.n", nil, []float64{120}, electric.GroundLive},
		{"two breakers", "f:supply g:supply l1:lamp", "f.hot g.hot l1.l; f.neutral l1.n", nil, []float64{120}, electric.TwoSupplies},
		{"crossed 4-way", "f:supply x:four-way l1:lamp", "f.hot x.a1; x.b2 l1.l; f.neutral l1.n", map[string]int{"x": 2}, []float64{120}, ""},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			n := wire(t, c.devices, c.joins, "")
			s, ok := n.StateOf(c.state)
			if !ok {
				t.Fatal("no such state")
			}
			got := n.Solve(s).LampVolts()
			for i := range got {
				if math.Abs(got[i]-c.want[i]) > 1e-6 {
					t.Errorf("lamp volts %v, want %v", got, c.want)
				}
			}
			r := electric.Explore(n)
			seen := false
			for _, st := range r.States {
				for _, f := range st.Faults {
					seen = seen || f.Kind == c.fault
					if c.fault == "" {
						t.Errorf("unexpected fault %v", f)
					}
				}
			}
			if c.fault != "" && !seen {
				t.Errorf("fault %s not found", c.fault)
			}
		})
	}
}

// bench devices of the smart tests.
const models = `{
  "main": {"terminals": ["line", "load", "signal", "neutral"], "supply": [["line", "neutral"]],
    "switches": [{"id": "out", "pole": "line", "throws": ["load"]}],
    "inputs": [{"terminal": "signal", "on": "pulse", "toggles": "out"}], "button": {"toggles": "out"}, "remote": "out"},
  "aux": {"terminals": ["neutral", "signal"], "supply": [], "needs": {"neutral": "neutral"}, "button": {"pulse": "signal"}},
  "remote": {"terminals": [], "supply": [], "button": {"sends": true}},
  "edge": {"terminals": ["line", "load", "in", "neutral"], "supply": [["line", "neutral"]],
    "switches": [{"id": "out", "pole": "line", "throws": ["load"]}], "inputs": [{"terminal": "in", "on": "edge", "toggles": "out"}]},
  "dry": {"terminals": ["line", "load", "s1", "s2", "neutral"], "supply": [["line", "neutral"]],
    "switches": [{"id": "out", "pole": "line", "throws": ["load"]}], "inputs": [{"terminal": "s1", "to": "s2", "on": "edge", "toggles": "out"}]},
  "thin": {"terminals": ["line", "load"], "supply": [["line", "load"]], "throughLoad": true,
    "switches": [{"id": "out", "pole": "line", "throws": ["load"]}], "button": {"toggles": "out"}, "remote": "out"},
  "three": {"terminals": ["line", "t1", "t2", "neutral"], "supply": [["line", "neutral"]],
    "switches": [{"id": "relay", "pole": "line", "throws": ["t1", "t2"]}], "button": {"toggles": "relay"}, "remote": "relay"}
}`

// TestSmart: each kind of smart behaviour, with every control expected to work
// or not, and the number of states that can be reached.
func TestSmart(t *testing.T) {
	radio := circuit.Link{From: "r", To: "m", Via: "radio"}
	cases := []struct {
		name, devices, joins string
		links                []circuit.Link
		works                string // controls in order, y or n
		states               int
		asleep               bool
	}{
		{"main and auxiliary", "f:supply m:smart:main a:smart:aux l:lamp",
			"f.hot m.line; f.neutral m.neutral a.neutral l.n; m.load l.l; m.signal a.signal", nil, "yy", 2, false},
		{"auxiliary without neutral", "f:supply m:smart:main a:smart:aux l:lamp",
			"f.hot m.line; f.neutral m.neutral l.n; m.load l.l; m.signal a.signal", nil, "yn", 2, true},
		{"auxiliary on the load core", "f:supply m:smart:main a:smart:aux l:lamp",
			"f.hot m.line; f.neutral m.neutral a.neutral l.n; m.load l.l a.signal", nil, "yn", 2, false},
		{"main without neutral", "f:supply m:smart:main l:lamp", "f.hot m.line; f.neutral l.n; m.load l.l", nil, "n", 1, true},
		{"ground is no neutral", "f:supply m:smart:main l:lamp", "f.hot m.line; f.neutral l.n; f.ground m.neutral; m.load l.l", nil, "n", 1, true},
		{"remote", "f:supply m:smart:main r:smart:remote l:lamp", "f.hot m.line; f.neutral m.neutral l.n; m.load l.l", []circuit.Link{radio}, "yy", 2, false},
		{"remote without link", "f:supply m:smart:main r:smart:remote l:lamp", "f.hot m.line; f.neutral m.neutral l.n; m.load l.l", nil, "yn", 2, false},
		{"old chain as edge input", "f:supply e:smart:edge s1:three-way s2:three-way l:lamp",
			"f.hot e.line s1.common; f.neutral e.neutral l.n; s1.t1 s2.t1; s1.t2 s2.t2; s2.common e.in; e.load l.l", nil, "yy", 4, false},
		{"old chain as dry contact", "f:supply e:smart:dry s1:three-way s2:three-way l:lamp",
			"f.hot e.line; f.neutral e.neutral l.n; e.s1 s1.common; s1.t1 s2.t1; s1.t2 s2.t2; s2.common e.s2; e.load l.l", nil, "yy", 4, false},
		{"a kept switch cuts the power", "f:supply s:single-pole m:smart:main l:lamp",
			"f.hot s.a; s.b m.line; f.neutral m.neutral l.n; m.load l.l", nil, "nn", 4, true},
		{"power through the lamp", "f:supply m:smart:thin l:lamp", "f.hot m.line; m.load l.l; l.n f.neutral", nil, "y", 2, false},
		{"power through no lamp", "f:supply m:smart:thin l:lamp", "f.hot m.line; l.l; l.n f.neutral", nil, "n", 1, true},
		{"sensing with a mechanical end", "f:supply m:smart:three s:three-way l:lamp",
			"f.hot m.line; m.t1 s.t1; m.t2 s.t2; s.common l.l; l.n m.neutral f.neutral", nil, "yy", 4, false},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			r := electric.Explore(wire(t, c.devices, c.joins, models, c.links...))
			works, asleep := "", false
			for _, ctl := range r.Controls {
				works += map[bool]string{true: "y", false: "n"}[ctl.Works]
			}
			for _, s := range r.States {
				asleep = asleep || len(s.Unpowered) > 0
			}
			if works != c.works || len(r.States) != c.states || asleep != c.asleep {
				t.Errorf("controls %s, %d states, asleep %v; want %s, %d, %v", works, len(r.States), asleep, c.works, c.states, c.asleep)
			}
		})
	}
}

// TestOutage: a link that is down carries nothing.
func TestOutage(t *testing.T) {
	n := wire(t, "f:supply m:smart:main r:smart:remote l:lamp", "f.hot m.line; f.neutral m.neutral l.n; m.load l.l", models,
		circuit.Link{From: "r", To: "m", Via: "hub"})
	if s, _ := n.Press(n.Initial(), "r", nil); s == n.Initial() {
		t.Error("the remote does nothing with the hub up")
	}
	if s, _ := n.Press(n.Initial(), "r", electric.Outage{"hub": true}); s != n.Initial() {
		t.Error("the remote works with the hub down")
	}
}

// TestAfterPowerCut: switches may be moved in the dark in every way, each with every
// position that the relays had, and with their rest.
func TestAfterPowerCut(t *testing.T) {
	for n := 2; n <= 5; n++ {
		r := electric.Explore(electric.New(circuittest.Chain(n)))
		back := electric.AfterPowerCut(r)
		if len(back.States) != 1<<n || len(back.States) != len(r.States) {
			t.Errorf("a chain of %d: %d states after a cut, %d before", n, len(back.States), len(r.States))
		}
	}
	n := wire(t, "f:supply e:smart:edge s1:three-way s2:three-way l:lamp",
		"f.hot e.line s1.common; f.neutral e.neutral l.n; s1.t1 s2.t1; s1.t2 s2.t2; s2.common e.in; e.load l.l", models)
	before := electric.Explore(n)
	after := electric.AfterPowerCut(before)
	if len(before.States) != 4 || len(after.States) != 8 {
		t.Errorf("a chain and its module reach %d states, %d after a power cut; want 4 and 8", len(before.States), len(after.States))
	}
	for _, c := range after.Controls {
		if !c.Works {
			t.Errorf("%s does not work after a power cut", c.Device)
		}
	}
}

// TestNeverSettles: a relay that watches its own output never comes to rest,
// and that is said rather than run for ever.
func TestNeverSettles(t *testing.T) {
	n := wire(t, "f:supply e:smart:edge s:single-pole l:lamp", "f.hot e.line s.a; f.neutral e.neutral l.n; s.b e.in e.load l.l", models)
	r := electric.Explore(n)
	if !slices.ContainsFunc(r.States, func(s electric.StateResult) bool {
		return slices.ContainsFunc(s.Faults, func(f electric.Fault) bool {
			return f.Kind == electric.NeverConverges || f.Kind == electric.RelayBackfed
		})
	}) {
		t.Error("a relay that drives its own input passes as sound")
	}
}

// TestHouses: what circuittest builds right works, in 2ⁿ states, with every
// control and without a fault, whatever the tree.
func TestHouses(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	for i := range 300 {
		controls := 2 + i%5
		c := circuittest.House(rng, controls)
		r := electric.Explore(electric.New(c))
		if len(r.States) != 1<<controls {
			t.Fatalf("house %d: %d states, want %d", i, len(r.States), 1<<controls)
		}
		for _, s := range r.States {
			if len(s.Faults) > 0 {
				t.Fatalf("house %d: fault %v", i, s.Faults[0])
			}
		}
		for _, ctl := range r.Controls {
			if !ctl.Works {
				t.Fatalf("house %d: %s does not work", i, ctl.Device)
			}
		}
		wantRoles(t, c, r.Network.Roles())
	}
}

// wantRoles checks roles of a house against the terminals they lead to.
func wantRoles(t *testing.T, c *circuit.Circuit, roles map[circuit.End]electric.Role) {
	t.Helper()
	for e, role := range roles {
		if e.Box == "" {
			continue
		}
		var want electric.Role
		switch e.Part {
		case "white":
			want = electric.Neutral
		case "bare":
			want = electric.RoleGround
		default:
			if role != electric.Line && role != electric.Load && role != electric.Traveler && role != electric.Unused {
				t.Errorf("%s is %s", e, role)
			}
			continue
		}
		if role != want && role != electric.Unused {
			t.Errorf("%s is %s, want %s", e, role, want)
		}
	}
}

// TestMiswired: on any miswired house the laws of physics hold: volts within
// the supply, the same state solved twice gives the same, and pressing a plain
// switch twice leads back.
func TestMiswired(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 6))
	faults := 0
	for i := range 300 {
		c := circuittest.House(rng, 2+i%3)
		circuittest.Miswire(rng, c, 6)
		if err := c.Validate(); err != nil {
			t.Fatal(err)
		}
		n := electric.New(c)
		for _, s := range electric.Explore(n).States {
			faults += len(s.Faults)
			for _, v := range s.Volts {
				if v < 0 || v > 120+1e-6 {
					t.Fatalf("house %d: %v V across a lamp", i, v)
				}
			}
			if again := n.Solve(s.State).LampVolts(); !slices.Equal(again, s.Volts) {
				t.Fatalf("house %d: %v V, then %v V", i, s.Volts, again)
			}
			for _, id := range n.Controls() {
				to, _ := n.Press(s.State, id, nil)
				if back, _ := n.Press(to, id, nil); back != s.State {
					t.Fatalf("house %d: pressing %s twice does not lead back", i, id)
				}
			}
		}
	}
	if faults == 0 {
		t.Error("no miswired house shows a fault: the miswiring does nothing")
	}
}

// TestPanelBond: the bond of neutral and ground on the panel's bar is no fault,
// a second one further on is, even behind the first.
func TestPanelBond(t *testing.T) {
	bond := func(c *circuit.Circuit, box string) {
		var kept []circuit.Join
		merged := circuit.Join{Box: box}
		for _, j := range c.Joins {
			isBar := j.Box == box && slices.ContainsFunc(j.Of, func(r circuit.Ref) bool { return r.Part == "white" || r.Part == "bare" })
			if isBar {
				merged.Of = append(merged.Of, j.Of...)
			} else {
				kept = append(kept, j)
			}
		}
		c.Joins = append(kept, merged)
	}
	found := func(c *circuit.Circuit) bool {
		for _, s := range electric.Explore(electric.New(c)).States {
			for _, f := range s.Faults {
				if f.Kind == electric.NeutralGround {
					return true
				}
			}
		}
		return false
	}
	c := circuittest.Chain(2)
	bond(c, "panel")
	if found(c) {
		t.Error("the panel's own bond is called a fault")
	}
	bond(c, *c.Cables[0].Ends[1])
	if !found(c) {
		t.Error("a second bond hides behind the panel's")
	}
}

// TestUnknownStaysUnknown: a conductor that runs on into a stub has no role.
func TestUnknownStaysUnknown(t *testing.T) {
	c := circuittest.Chain(2)
	box := *c.Cables[1].Ends[1]
	c.Cables = append(c.Cables, circuit.Cable{ID: "stub", Ends: [2]*string{&box, nil}, Cores: []string{"black", "white"}})
	roles := electric.New(c).Roles()
	if role, known := roles[circuit.End{Ref: circuit.Ref{Owner: "stub", Part: "black"}, Box: box}]; known {
		t.Errorf("the stub's core is called %s", role)
	}
}

// TestConditions: what a person does to a circuit for a while, on two lamps in
// series and beside them a plain one.
func TestConditions(t *testing.T) {
	base := wire(t, "f:supply s:single-pole a:lamp b:lamp c:lamp", "f.hot s.a; s.b a.l c.l; a.n b.l; b.n c.n f.neutral", "").Doc()
	end := func(s string) circuit.End {
		e, err := circuit.ParseEnd(s)
		if err != nil {
			t.Fatal(err)
		}
		return e
	}
	cases := []struct {
		name  string
		under electric.Conditions
		want  []float64
		at    electric.Potential // of b.l
	}{
		{"as recorded", electric.Conditions{}, []float64{60, 60, 120}, electric.ThroughLamp},
		{"one of two in series out", electric.Conditions{LampsOut: []string{"b"}}, []float64{0, 0, 120}, electric.ThroughLamp},
		{"the first of them out", electric.Conditions{LampsOut: []string{"a"}}, []float64{0, 0, 120}, electric.Floating},
		{"all out", electric.Conditions{LampsOut: []string{"a", "b", "c"}}, []float64{0, 0, 0}, electric.Floating},
		{"breaker off", electric.Conditions{BreakersOff: []string{"f"}}, []float64{0, 0, 0}, electric.Floating},
		{"switch lifted", electric.Conditions{Lifted: []circuit.End{end("s.b")}}, []float64{0, 0, 0}, electric.Floating},
		{"a name that is not there", electric.Conditions{LampsOut: []string{"x"}, Lifted: []circuit.End{end("y.z@b")}}, []float64{60, 60, 120}, electric.ThroughLamp},
	}
	for _, k := range cases {
		t.Run(k.name, func(t *testing.T) {
			n := electric.NewUnder(base, k.under)
			s := n.Solve(n.Initial())
			for i, v := range s.LampVolts() {
				if math.Abs(v-k.want[i]) > 1e-6 {
					t.Errorf("lamp volts %v, want %v", s.LampVolts(), k.want)
				}
			}
			// With the supply off what hangs on lamps to neutral is at rest, not live.
			if got := s.At(end("b.l")); got != k.at {
				t.Errorf("between the lamps: %s, want %s", got, k.at)
			}
		})
	}
}

// TestLiftedWires: a lifted terminal parts all wires under it; a lifted core
// leaves the others together.
func TestLiftedWires(t *testing.T) {
	c := circuittest.Chain(3)
	for _, j := range c.Joins {
		if len(j.Of) < 3 || j.Box == "panel" {
			continue
		}
		core, others := j.Of[0], j.Of[1:]
		at := func(r circuit.Ref) circuit.End {
			if c.Device(r.Owner) != nil {
				return circuit.End{Ref: r}
			}
			return circuit.End{Ref: r, Box: j.Box}
		}
		n := electric.NewUnder(c, electric.Conditions{Lifted: []circuit.End{at(core)}})
		if n.Class(at(others[0])) != n.Class(at(others[1])) {
			t.Errorf("%s lifted: %s and %s have come apart", core, others[0], others[1])
		}
		if n.Class(at(core)) == n.Class(at(others[0])) {
			t.Errorf("%s lifted, and still with %s", core, others[0])
		}
		for _, m := range j.Of {
			if c.Device(m.Owner) == nil {
				continue
			}
			n := electric.NewUnder(c, electric.Conditions{Lifted: []circuit.End{at(m)}})
			if n.Class(at(core)) == n.Class(at(others[0])) && c.Device(others[0].Owner) == nil {
				t.Errorf("%s lifted, and %s still with %s", m, core, others[0])
			}
		}
	}
}

func BenchmarkExplore(b *testing.B) {
	for _, controls := range []int{2, 4, 6, 8, 10} {
		c := circuittest.Chain(controls)
		b.Run(fmt.Sprintf("controls=%d", controls), func(b *testing.B) {
			for b.Loop() {
				if r := electric.Explore(electric.New(c)); len(r.States) != 1<<controls {
					b.Fatal(len(r.States))
				}
			}
		})
	}
}
