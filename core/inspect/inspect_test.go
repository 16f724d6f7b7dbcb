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
		"w1.black@foot": electric.Line, "w1.white@foot": electric.Neutral, "w1.bare@foot": electric.RoleGround,
		"w2.black@head": electric.Traveler, "w2.red@foot": electric.Traveler, "w3.black@lantern": electric.Load,
	}
	for text, role := range want {
		e, _ := circuit.ParseEnd(text)
		if r.Roles[e] != role {
			t.Errorf("%s is %s, want %s", text, r.Roles[e], role)
		}
	}
}

// TestFindings: every finding that a survey can show is found where it is, with
// whole words, and a sound circuit shows none of them.
func TestFindings(t *testing.T) {
	if r := inspect.Check(circuittest.Straight()); r.Verdict != inspect.Works || len(r.Findings) > 0 {
		t.Fatalf("a sound circuit shows %v", codes(r))
	}
	for _, k := range circuittest.Faults() {
		t.Run(k.Code, func(t *testing.T) {
			if err := k.Circuit.Validate(); err != nil {
				t.Fatal(err)
			}
			r := inspect.Check(k.Circuit)
			if !slices.Contains(codes(r), k.Code) || (r.Verdict == inspect.Works) != k.Works {
				t.Errorf("verdict %s with %v; want %s, works %v", r.Verdict, codes(r), k.Code, k.Works)
			}
			for _, f := range r.Findings {
				if strings.ContainsAny(f.Text, "{}%") || f.Text == "" {
					t.Errorf("unfinished words: %q", f.Text)
				}
			}
		})
	}
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
	for _, controls := range []int{2, 4, 6, 8, 10} {
		c := circuittest.Chain(controls)
		b.Run(fmt.Sprintf("controls=%d", controls), func(b *testing.B) {
			for b.Loop() {
				inspect.Check(c)
			}
		})
	}
}

// BenchmarkCheckJob checks a job of 500 circuits, of two to five controls each on
// random trees, one after the other.
func BenchmarkCheckJob(b *testing.B) {
	rng := rand.New(rand.NewPCG(50, 51))
	var job []*circuit.Circuit
	for i := range 500 {
		job = append(job, circuittest.House(rng, 2+i%4))
	}
	for b.Loop() {
		for _, c := range job {
			inspect.Check(c)
		}
	}
}
