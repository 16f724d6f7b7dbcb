package inspect_test

import (
	"os"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

func caseFile(t *testing.T, name string) *circuit.Circuit {
	t.Helper()
	data, err := os.ReadFile("testdata/cases/" + name + ".json")
	if err != nil {
		t.Fatal(err)
	}
	c, err := circuit.Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// TestCases checks records that were once judged wrong.
func TestCases(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	for _, test := range []struct {
		file, verdict string
		has, lacks    []string
	}{
		{"eight-lights", inspect.Works, nil, []string{"too-many-states", "control-disabled"}},
		{"fifteen-switches-called-faulty", inspect.Works, nil, []string{"too-many-states", "control-disabled"}},
		{"hot-shell-two-controls", inspect.Faulty, []string{"hot-shell"}, nil},
		{"neutrals-of-two-breakers-tied-0", inspect.Faulty, []string{"neutrals-joined", "cable-unbalanced"}, nil},
		{"receptacle-ground-return", inspect.Faulty, []string{"ground-return"}, nil},
		{"ring-of-boxes", inspect.Works, []string{"two-breakers"}, []string{"conductor-ring", "neutrals-joined"}},
		{"two-breakers", inspect.Works, []string{"two-breakers"}, []string{"neutrals-joined", "cable-unbalanced"}},
		{"two-roses-one-plate", inspect.Works, []string{"two-breakers"}, []string{"conductor-ring", "cable-unbalanced"}},
		{"padded-devices", inspect.Works, nil, []string{"too-many-states"}},
		{"lamp-mesh", inspect.Faulty, []string{"too-many-states"}, nil},
	} {
		r := inspect.Check(caseFile(t, test.file))
		if r.Verdict != test.verdict {
			t.Errorf("%s: %s, with %v", test.file, r.Verdict, codes(r))
		}
		for _, code := range test.has {
			if !slices.Contains(codes(r), code) {
				t.Errorf("%s: no %s among %v", test.file, code, codes(r))
			}
		}
		for _, code := range test.lacks {
			if slices.Contains(codes(r), code) {
				t.Errorf("%s: a false %s", test.file, code)
			}
		}
	}
}

// edited is the straight stair of three cables with something done to its joins.
func edited(t *testing.T, edit func(c *circuit.Circuit, in func(box, with string, add ...string))) *inspect.Report {
	t.Helper()
	c := circuittest.Straight()
	in := func(box, with string, add ...string) {
		t.Helper()
		ref := func(s string) circuit.Ref {
			r, err := circuit.ParseRef(s)
			if err != nil {
				t.Fatal(err)
			}
			return r
		}
		if with == "" {
			j := circuit.Join{Box: box}
			for _, s := range add {
				j.Of = append(j.Of, ref(s))
			}
			c.Joins = append(c.Joins, j)
			return
		}
		i := c.JoinOf(box, ref(with))
		if i < 0 {
			t.Fatalf("%s is in no join", with)
		}
		for _, s := range add {
			c.Joins[i].Of = append(c.Joins[i].Of, ref(s))
		}
	}
	edit(c, in)
	if err := c.Validate(); err != nil {
		t.Fatal(err)
	}
	return inspect.Check(c)
}

// TestReceptacles: right as it is, reversed, without neutral, on a traveler.
func TestReceptacles(t *testing.T) {
	for _, test := range []struct{ l, n, code string }{
		{"w1.black", "w1.white", ""},
		{"w1.white", "w1.black", string(electric.LoadReversed)},
		{"w1.black", "", string(electric.LoadNoNeutral)},
		{"w1.black", "w1.bare", string(electric.GroundReturn)},
		{"w2.black", "w1.white", "receptacle-on-traveler"},
	} {
		r := edited(t, func(c *circuit.Circuit, in func(string, string, ...string)) {
			c.Devices = append(c.Devices, circuit.Device{ID: "r1", Box: "foot", Type: circuit.TypeReceptacle})
			in("foot", test.l, "r1.l")
			if test.n != "" {
				in("foot", test.n, "r1.n")
			}
			in("foot", "w1.bare", "r1.ground")
		})
		switch {
		case test.code == "" && r.Verdict != inspect.Works:
			t.Errorf("a receptacle on the feed: %v", codes(r))
		case test.code != "" && (r.Verdict != inspect.Faulty || !slices.Contains(codes(r), test.code)):
			t.Errorf("a receptacle on %q and %q: %s, %v", test.l, test.n, r.Verdict, codes(r))
		}
	}
}

// TestRingsAndBars: a conductor that closes a ring is told, a ring of grounds is not, nor are
// two breakers that share the panel's bar; neutrals that meet beyond it are.
func TestRingsAndBars(t *testing.T) {
	second := func(c *circuit.Circuit) {
		panel, foot := "panel", "foot"
		c.Cables = append(c.Cables, circuit.Cable{ID: "x", Ends: [2]*string{&panel, &foot}, Cores: []string{"black", "white", "bare"}})
	}
	ring := edited(t, func(c *circuit.Circuit, in func(string, string, ...string)) {
		second(c)
		in("panel", "w1.white", "x.white")
		in("foot", "w1.white", "x.white")
	})
	if !slices.Contains(codes(ring), "conductor-ring") || !slices.Contains(codes(ring), "cable-unbalanced") {
		t.Errorf("a neutral over two cables: %v", codes(ring))
	}
	grounds := edited(t, func(c *circuit.Circuit, in func(string, string, ...string)) {
		second(c)
		in("panel", "w1.bare", "x.bare")
		in("foot", "w1.bare", "x.bare")
	})
	if slices.Contains(codes(grounds), "conductor-ring") {
		t.Error("a ring of grounds is called one")
	}
	for _, joined := range []bool{false, true} {
		bar := edited(t, func(c *circuit.Circuit, in func(string, string, ...string)) {
			second(c)
			c.Devices = append(c.Devices, circuit.Device{ID: "supply2", Box: "panel", Type: circuit.TypeSupply},
				circuit.Device{ID: "r1", Box: "foot", Type: circuit.TypeReceptacle})
			in("panel", "w1.white", "x.white", "supply2.neutral")
			in("panel", "w1.bare", "x.bare", "supply2.ground")
			in("panel", "", "supply2.hot", "x.black")
			in("foot", "", "x.black", "r1.l")
			in("foot", "w1.bare", "x.bare", "r1.ground")
			if joined {
				in("foot", "w1.white", "x.white", "r1.n")
			} else {
				in("foot", "", "x.white", "r1.n")
			}
		})
		faulty := slices.Contains(codes(bar), "cable-unbalanced")
		if slices.Contains(codes(bar), "neutrals-joined") || faulty != joined || !slices.Contains(codes(bar), "two-breakers") {
			t.Errorf("two breakers on one bar, neutrals joined in the wall %t: %v", joined, codes(bar))
		}
	}
}

// TestNotEntered: what is merely not entered yet is told once for a box, and is not wrong; a core
// recorded as loose is not a cap.
func TestNotEntered(t *testing.T) {
	r := edited(t, func(c *circuit.Circuit, _ func(string, string, ...string)) {
		c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return j.Box == "head" })
	})
	told := map[string]int{}
	for _, f := range r.Findings {
		told[f.Code]++
	}
	if told["not-recorded-yet"] != 1 || told["empty-screw"]+told["no-ground"]+told["loose-end"]+told["control-does-nothing"] > 0 {
		t.Errorf("a box of which nothing is entered: %v", told)
	}
	for _, core := range []string{"w2.black", "w1.black"} {
		r := edited(t, func(c *circuit.Circuit, _ func(string, string, ...string)) {
			for i := range c.Joins {
				if c.Joins[i].Box == "foot" {
					c.Joins[i].Of = slices.DeleteFunc(c.Joins[i].Of, func(m circuit.Ref) bool { return m.String() == core })
				}
			}
			c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) < 1 })
			end, err := circuit.ParseEnd(core + "@foot")
			if err != nil {
				t.Fatal(err)
			}
			c.Loose = []circuit.End{end}
		})
		i := slices.IndexFunc(r.Findings, func(f inspect.Finding) bool { return f.Code == "loose-core" })
		if i < 0 || slices.Contains(codes(r), "capped-live") || (r.Findings[i].Severity == inspect.Error) != (core == "w1.black") {
			t.Errorf("%s hangs loose: %v", core, codes(r))
		}
	}
}

// TestExploredInPart: of more controls than can be gone through, what is not known is not called
// faulty.
func TestExploredInPart(t *testing.T) {
	r := inspect.Check(circuittest.Chain(17))
	if r.Verdict != inspect.Unknown || !slices.Contains(codes(r), "too-many-states") || slices.Contains(codes(r), "control-disabled") {
		t.Errorf("seventeen controls of one light: %s, %v", r.Verdict, codes(r))
	}
}
