package pdf

import (
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"slices"
	"testing"
	"unicode/utf8"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/practice"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// FuzzWholeWay goes the whole way with a random house, sound or miswired, in any practice and
// with any names: checked, planned, stepped from and back to every step, counted and drawn, on
// paper too. Nothing panics, no sentence is left half filled, and every way back leads to what
// was found.
func FuzzWholeWay(f *testing.F) {
	f.Add(uint64(1), uint8(2), uint8(0), uint8(0), "Tide mill")
	f.Add(uint64(2), uint8(3), uint8(1), uint8(1), "आर्द्रा कक्ष")
	f.Add(uint64(3), uint8(4), uint8(2), uint8(2), "مصباح السلم")
	f.Add(uint64(4), uint8(2), uint8(0), uint8(4), "\u202eabc {line} %s \t")
	f.Fuzz(wholeWay)
}

// TestMiswiredWholeWay goes the whole way with random circuits, sound and miswired in nineteen ways,
// in every practice.
func TestMiswiredWholeWay(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	for seed := range uint64(90) {
		wholeWay(t, seed+100, uint8(seed), uint8(seed/3), uint8(seed), "Loom hall")
	}
}

func wholeWay(t *testing.T, seed uint64, controls, mistakes, custom uint8, name string) {
	if !utf8.ValidString(name) || utf8.RuneCountInString(name) > 120 || len(name) == 0 {
		return
	}
	rng := rand.New(rand.NewPCG(seed, 1))
	all := practice.All()
	c := circuittest.In(circuittest.Walls(rng, 2+int(controls%3)), all[int(custom)%len(all)].ID)
	ways := circuittest.Mistakes()
	for range mistakes % 3 {
		again := c.Clone()
		if ways[rng.IntN(len(ways))].Make(rng, again) && again.Validate() == nil {
			c = again
		}
	}
	c.Name = name
	for i := range c.Boxes {
		c.Boxes[i].Name = name
	}
	if c.Validate() != nil {
		return // a name that no document may have
	}
	report := inspect.Check(c)
	answer, err := procedure.Plan(context.Background(), inspect.Compile(c), retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	var fits []retrofit.Option
	for _, o := range answer.Options {
		switch {
		case o.Feasible && report.Verdict == inspect.Faulty:
			t.Errorf("%s is planned on a faulty circuit", o.ID)
		case o.Feasible:
			fits = append(fits, o)
		case len(o.Reasons) == 0:
			t.Errorf("%s is refused without a reason", o.ID)
		}
	}
	if len(fits) == 0 {
		return
	}
	o := fits[rng.IntN(len(fits))]
	p := procedure.For(inspect.Compile(c), &o, nil)
	n := rng.IntN(len(p.Steps) + 1)
	back, err := p.Back(n)
	if err != nil {
		t.Fatalf("back from %d: %v", n, err)
	}
	found, err := back.At(len(back.Steps))
	if err != nil {
		t.Fatalf("the way back from %d: %v", n, err)
	}
	if len(back.Steps) > 0 && len(found.Devices) != len(c.Devices) {
		t.Errorf("back from %d there are %d devices, not %d", n, len(found.Devices), len(c.Devices))
	}
	_, _, _, _ = p.Materials(), p.Labels(), p.Rooms(), p.Known()
	sheets := map[string]func(io.Writer) error{
		"order":    func(w io.Writer) error { return Order(w, p, nil, Info{Job: name, Circuit: name}, A4) },
		"labels":   func(w io.Writer) error { return Labels(w, p, Info{Job: name}, Letter) },
		"drawings": func(w io.Writer) error { return Drawings(w, inspect.Compile(c), Info{Job: name}, A4) },
	}
	for what, print := range sheets {
		if err := print(io.Discard); err != nil {
			t.Errorf("%s: %v", what, err)
		}
	}
	if scene := diagram.Schematic(inspect.Compile(o.After), name, c); scene == nil {
		t.Error("no single line")
	}
}

// FuzzWords: whatever a box, a device or a circuit is called, sentences about it are whole.
func FuzzWords(f *testing.F) {
	f.Add("Sail loft", "s 1")
	f.Add("{neutral}", "%d%s")
	f.Fuzz(func(t *testing.T, box, device string) {
		c := circuittest.Straight()
		c.Boxes[1].Name, c.Devices[1].Name = box, device
		if c.Validate() != nil {
			return
		}
		say := names.For(c)
		for _, text := range []string{say.Box("foot"), say.Device("s1"), say.Cable("w2"), say.End(circuit.End{Ref: circuit.Ref{Owner: "w2", Part: "red"}, Box: "foot"})} {
			if text == "" || !utf8.ValidString(text) {
				t.Errorf("%q", text)
			}
		}
		for _, finding := range inspect.Check(c).Findings {
			if finding.Text == "" || !utf8.ValidString(fmt.Sprint(finding.Text, finding.Advice)) {
				t.Errorf("%+v", finding)
			}
		}
		if !slices.ContainsFunc(retrofit.Plan(c).Options, func(o retrofit.Option) bool { return o.Feasible }) {
			t.Error("a name keeps everything from being planned")
		}
	})
}
