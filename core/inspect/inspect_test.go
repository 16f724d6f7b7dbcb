package inspect_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

func codes(r *inspect.Report) []string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, f.Code)
	}
	return out
}

func TestSplitExample(t *testing.T) {
	f, err := os.Open("../../../shared/examples/split.json")
	if err != nil {
		t.Skip("the shared example is not beside this checkout")
	}
	defer f.Close()
	c, err := circuit.Read(f)
	if err != nil {
		t.Fatal(err)
	}
	r := inspect.Check(c)
	if r.Verdict != inspect.Works || r.States != 4 || len(r.Table) != 4 || len(r.Findings) != 0 {
		t.Errorf("verdict %s, %d states, findings %v", r.Verdict, r.States, codes(r))
	}
	want := map[string]electric.Role{
		"w1.black@foot": electric.Line, "w1.white@foot": electric.Neutral, "w1.bare@foot": electric.GroundOf,
		"w2.black@head": electric.Traveler, "w2.red@foot": electric.Traveler, "w3.black@lantern": electric.Load,
	}
	for text, role := range want {
		e, _ := circuit.ParseEnd(text)
		if r.Roles[e] != role {
			t.Errorf("%s is %s, want %s", text, r.Roles[e], role)
		}
	}
}

// remake spoils a straight two-switch circuit (panel, b1, b2, light in some
// order along the tree) and names the finding that must come of it.
func TestFindings(t *testing.T) {
	ref := func(s string) circuit.Ref {
		r, err := circuit.ParseRef(s)
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	lift := func(c *circuit.Circuit, r circuit.Ref) {
		for i := range c.Joins {
			c.Joins[i].Of = slices.DeleteFunc(c.Joins[i].Of, func(m circuit.Ref) bool { return m == r })
		}
		c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return len(j.Of) == 0 })
	}
	put := func(c *circuit.Circuit, r, beside circuit.Ref) {
		for i, j := range c.Joins {
			if slices.Contains(j.Of, beside) {
				c.Joins[i].Of = append(c.Joins[i].Of, r)
				return
			}
		}
		t.Fatalf("%s is in no join", beside)
	}
	cases := []struct {
		code    string
		verdict string
		spoil   func(c *circuit.Circuit)
	}{
		{"no-supply", inspect.Faulty, func(c *circuit.Circuit) {
			for _, p := range []string{"supply.hot", "supply.neutral", "supply.ground"} {
				lift(c, ref(p))
			}
			c.Devices = c.Devices[1:]
		}},
		{"lamp-never-lit", inspect.Faulty, func(c *circuit.Circuit) { lift(c, ref("lamp1.n")) }},
		{"neutral-switched", inspect.Faulty, func(c *circuit.Circuit) { lift(c, ref("lamp1.n")) }},
		{"control-does-nothing", inspect.Faulty, func(c *circuit.Circuit) { lift(c, ref("s1.common")) }},
		{"control-disabled", inspect.Faulty, func(c *circuit.Circuit) { lift(c, ref("s1.t1")) }},
		{"empty-screw", inspect.Faulty, func(c *circuit.Circuit) { lift(c, ref("s2.t2")) }},
		{"no-ground", inspect.Works, func(c *circuit.Circuit) { lift(c, ref("s2.ground")) }},
		{"neutral-ground-joined", inspect.Faulty, func(c *circuit.Circuit) { merge(c, "lamp1.n", "lamp1.ground") }},
		{"short-hot-ground", inspect.Faulty, func(c *circuit.Circuit) { merge(c, "s1.common", "s1.ground") }},
		{"far-end-unknown", inspect.Works, func(c *circuit.Circuit) {
			c.Cables = append(c.Cables, circuit.Cable{ID: "on", Ends: [2]*string{c.Cables[0].Ends[1], nil}, Cores: []string{"black", "white"}})
		}},
		{"lamp-always-lit", inspect.Works, func(c *circuit.Circuit) {
			c.Devices = append(c.Devices, circuit.Device{ID: "pilot", Box: "panel", Type: circuit.TypeLamp})
			put(c, ref("pilot.l"), ref("supply.hot"))
			put(c, ref("pilot.n"), ref("supply.neutral"))
			put(c, ref("pilot.ground"), ref("supply.ground"))
		}},
	}
	for _, k := range cases {
		t.Run(k.code, func(t *testing.T) {
			c := circuittest.Chain(2)
			k.spoil(c)
			if err := c.Validate(); err != nil {
				t.Fatal(err)
			}
			r := inspect.Check(c)
			if !slices.Contains(codes(r), k.code) || r.Verdict != k.verdict {
				t.Errorf("verdict %s with %v; want %s with %s", r.Verdict, codes(r), k.verdict, k.code)
			}
			for _, f := range r.Findings {
				if strings.ContainsAny(f.Text, "{}%") || f.Text == "" {
					t.Errorf("unfinished words: %q", f.Text)
				}
			}
		})
	}
}

// merge puts what two joins hold into one.
func merge(c *circuit.Circuit, one, other string) {
	index := func(member string) int {
		return slices.IndexFunc(c.Joins, func(j circuit.Join) bool {
			return slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return m.String() == member })
		})
	}
	a, b := index(one), index(other)
	c.Joins[a].Of = append(c.Joins[a].Of, c.Joins[b].Of...)
	c.Joins = slices.Delete(c.Joins, b, b+1)
}

// TestColours: insulation that may not carry its role, or is not re-marked.
func TestColours(t *testing.T) {
	recolour := func(c *circuit.Circuit, from, to string) {
		for i, k := range c.Cables {
			for n, core := range k.Cores {
				if core == from {
					c.Cables[i].Cores[n] = to
				}
			}
		}
		for i, j := range c.Joins {
			for n, m := range j.Of {
				if c.Cable(m.Owner) != nil && m.Part == from {
					c.Joins[i].Of[n].Part = to
				}
			}
		}
	}
	c := circuittest.Chain(2)
	recolour(c, "white", "brown2")
	if got := codes(inspect.Check(c)); !slices.Contains(got, "colour-misused") {
		t.Errorf("a brown neutral passes: %v", got)
	}
	c = circuittest.Chain(2)
	recolour(c, "bare", "orange2")
	recolour(c, "white", "green")
	r := inspect.Check(c)
	if got := codes(r); !slices.Contains(got, "ground-colour-misused") || r.Verdict != inspect.Faulty {
		t.Errorf("a green neutral passes: %v", got)
	}
}

// TestPracticeChangesNothingElectric: the same circuit in another practice has
// the same table and roles; only words, colours and cautions differ.
func TestPracticeChangesNothingElectric(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 8))
	for range 20 {
		c := circuittest.House(rng, 3)
		c.Supply = &circuit.Supply{Volts: circuittest.Float(230)}
		first := inspect.Check(c)
		for _, p := range []string{"uk", "au", "in", "eu"} {
			c.Practice = p
			r := inspect.Check(c)
			if fmt.Sprint(r.Table, r.Controls) != fmt.Sprint(first.Table, first.Controls) || len(r.Roles) != len(first.Roles) {
				t.Fatalf("practice %s changes what the circuit does", p)
			}
		}
	}
}

// TestAnythingIsTold: whatever a tired person has wired, the report has whole
// words, ends that exist and a state that can be reached.
func TestAnythingIsTold(t *testing.T) {
	rng := rand.New(rand.NewPCG(31, 32))
	codes := map[string]int{}
	for i := range 400 {
		c := circuittest.House(rng, 2+i%3)
		circuittest.Miswire(rng, c, 1+rng.IntN(8))
		circuittest.MoreLamps(rng, c)
		if i%5 == 0 { // a second breaker somewhere
			c.Devices = append(c.Devices, circuit.Device{ID: "second", Box: "panel", Type: circuit.TypeSupply})
			j := rng.IntN(len(c.Joins))
			for c.Joins[j].Box != "panel" {
				j = rng.IntN(len(c.Joins))
			}
			c.Joins[j].Of = append(c.Joins[j].Of, circuit.Ref{Owner: "second", Part: []string{"hot", "neutral"}[rng.IntN(2)]})
		}
		if i%5 == 1 { // the neutral runs in a cable beside the hot's
			beside := c.Cables[0]
			beside.ID, beside.Cores = "beside", []string{"white"}
			c.Cables = append(c.Cables, beside)
			for j := range c.Joins {
				for m, r := range c.Joins[j].Of {
					if r == (circuit.Ref{Owner: c.Cables[0].ID, Part: "white"}) {
						c.Joins[j].Of[m].Owner = "beside"
					}
				}
			}
		}
		if i%5 == 2 { // a wire has slipped out of its connector
			j := rng.IntN(len(c.Joins))
			c.Joins[j].Of = c.Joins[j].Of[1:]
		}
		if err := c.Validate(); err != nil {
			t.Fatal(err)
		}
		n := electric.New(c)
		for _, f := range inspect.Check(c).Findings {
			codes[f.Code]++
			if f.Text == "" || strings.ContainsAny(f.Text, "{}%") || f.State == nil {
				t.Errorf("house %d: unfinished: %+v", i, f)
			}
			for _, e := range f.At {
				if n.Class(e) < 0 {
					t.Errorf("house %d: %s is no end of the circuit", i, e)
				}
			}
			if _, ok := n.StateOf(f.State); !ok {
				t.Errorf("house %d: no such state: %v", i, f.State)
			}
		}
	}
	for _, want := range []string{"short-hot-neutral", "short-hot-ground", "neutral-ground-joined", "two-supplies-joined", "part-volts", "hot-shell",
		"neutral-switched", "ground-live", "ground-return", "cable-unbalanced", "control-disabled", "control-does-nothing", "lamp-never-lit", "loose-end"} {
		if codes[want] == 0 {
			t.Errorf("400 miswired houses never show %s: %v", want, codes)
		}
	}
}

func BenchmarkCheck(b *testing.B) {
	for _, controls := range []int{2, 10} {
		c := circuittest.Chain(controls)
		b.Run(fmt.Sprintf("controls=%d", controls), func(b *testing.B) {
			for b.Loop() {
				inspect.Check(c)
			}
		})
	}
}
