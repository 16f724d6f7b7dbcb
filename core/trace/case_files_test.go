package trace

import (
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/gates"
	"ambivia/core/house"
)

func caseFile(t testing.TB, name string) *circuit.Circuit {
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

// TestCaseHouses traces whole houses that were once got wrong, with the boxes open that are
// named, to the end: what is true is always among what is left, nothing is done that is
// wrong, and where all switch boxes are open it is done in the end, within so many readings.
func TestCaseHouses(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	for _, test := range []struct {
		file     string
		open     string // "" for all that hold a switch
		controls int
		done     bool
		most     int
	}{
		{"dead-end", "", 0, true, 16},
		{"dead-end", "b", 0, false, 16},
		{"dead-end", "a", 2, false, 16},
		{"trace-spare-core-swaps-line-and-load", "", 0, true, 40},
		{"trace-second-cable-LN-called-unused", "", 0, true, 26},
		{"trace-uk-rose-blue-called-neutral", "", 0, true, 42},
		{"trace-uk-rose-blue-called-neutral", "", 4, true, 42},
		{"swapped-feed", "foot,head", 0, false, 36}, // the box of the receptacle is closed, and may hold a switch
		{"swapped-feed", "foot,head", 2, true, 36},
		{"two-breakers", "near,far", 0, true, 36},
		{"ring-of-boxes", "near,far", 0, true, 36},
		{"two-roses-one-plate", "door,end", 0, true, 36},
		{"two-lights", "door,far", 0, true, 30},
		{"two-lights", "door", 0, false, 30},
		{"feed-at-lamp-three-controls", "", 0, true, 15}, // under 12 is wanted: 10 to 15 with the confirming ones
	} {
		for _, prefer := range []Prefer{Dead, Trips} {
			name := fmt.Sprintf("%s open %q controls %d %s", test.file, test.open, test.controls, prefer)
			var open []string
			if test.open != "" {
				open = strings.Split(test.open, ",")
			}
			h, err := house.New(caseFile(t, test.file), 11, open)
			if err != nil {
				t.Fatal(err)
			}
			c := h.Survey()
			if test.controls > 0 {
				c.Controls = &test.controls
			}
			r := play(t, h, c, prefer)
			usual, exchanged := r.tracer.Polarity()
			if r.wrong && !(test.file == "swapped-feed" && usual && exchanged) {
				t.Errorf("%s: wrong after %d readings", name, r.tests)
			}
			if r.done != test.done || r.tests > test.most {
				t.Errorf("%s: done %t after %d readings", name, r.done, r.tests)
			}
			t.Logf("%s: %d readings, %d walks", name, r.tests, r.walks)
		}
	}
}

// TestCaseSurveys looks at surveys that were once got wrong.
func TestCaseSurveys(t *testing.T) {
	t.Parallel()
	t.Run("one-of-three", func(t *testing.T) {
		c := caseFile(t, "one-of-three")
		r := trace(t, c)
		for _, cable := range c.Cables {
			for _, core := range cable.Cores {
				roles := r.Roles[at(t, fmt.Sprintf("%s.%s@store", cable.ID, core))[0]]
				switch core {
				case "white":
					if roles[electric.Line] == 0 || roles[electric.Load] == 0 || roles[electric.Traveler] == 1 {
						t.Errorf("white is %v", roles)
					}
				case "black", "red":
					if roles[electric.Traveler] == 0 {
						t.Errorf("%s is %v", core, roles)
					}
				}
			}
		}
		if r.Done || r.OpenNext == nil || !slices.Contains([]string{"loft", "turret"}, r.OpenNext.Box) {
			t.Errorf("done %t, to open next %+v", r.Done, r.OpenNext)
		}
	})
	t.Run("hidden-middle", func(t *testing.T) {
		c := caseFile(t, "hidden-middle")
		for _, k := range trace(t, c).Cables {
			if k.Odds == 1 && len(k.Stubs) > 1 {
				t.Errorf("%v are one cable for certain, though a place may stand between", k.Stubs)
			}
		}
		r := trace(t, c)
		if r.Done || !slices.ContainsFunc(r.Assumed, func(a Assumption) bool { return strings.Contains(a.Text, "how many places") }) && r.OpenNext == nil {
			t.Errorf("done %t, assumed %v, open next %v", r.Done, r.Assumed, r.OpenNext)
		}
	})
	t.Run("chain10", func(t *testing.T) {
		h, err := house.New(caseFile(t, "chain10"), 1, nil)
		if err != nil {
			t.Fatal(err)
		}
		_, err = New(context.Background(), h.Survey())
		var e *Error
		if err == nil {
			return // an answer
		}
		if !errors.As(err, &e) || e.Code != "too-many-worlds" || strings.Contains(e.Text, "\n") {
			t.Errorf("ten controls: %v", err)
		}
	})
	t.Run("two-breakers", func(t *testing.T) {
		c := caseFile(t, "two-breakers")
		need := gates.Before(c, circuit.Observation{Power: "off", Instrument: circuit.Continuity, At: at(t, firstCore(c, "near"), firstCore(c, "far"))})
		if len(need) == 0 || len(need[0].Confirm) != 2 || need[0].Confirm[0] == need[0].Confirm[1] {
			t.Errorf("two breakers feed these boxes: %+v", need)
		}
	})
}

// firstCore names a core end in a box.
func firstCore(c *circuit.Circuit, box string) string { return c.CoreEnds(box)[0].String() }

// FuzzTrace reads any document and traces it: it never panics, what it proposes can be
// entered, and what it says is done has one role for each conductor.
func FuzzTrace(f *testing.F) {
	entries, err := os.ReadDir("testdata/cases")
	if err != nil {
		f.Fatal(err)
	}
	for _, e := range entries {
		data, err := os.ReadFile("testdata/cases/" + e.Name())
		if err != nil {
			f.Fatal(err)
		}
		if !strings.HasPrefix(e.Name(), "chain10") {
			f.Add(data)
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := circuit.Parse(data)
		if err != nil || len(c.Cables) > 8 || len(c.Devices) > 8 || len(c.Observations) > 12 {
			return
		}
		r, err := Trace(context.Background(), c, Dead)
		if err != nil {
			return
		}
		if r.Done {
			for end, roles := range r.Roles {
				if len(roles) != 1 {
					t.Errorf("done, and %s is %v", end, roles)
				}
			}
		}
		if r.Next != nil {
			enter(t, c, r.Next.Test)
		}
	})
}

// enter holds a proposed test, with its first reading, against what a document may say.
func enter(t *testing.T, c *circuit.Circuit, o circuit.Observation) {
	t.Helper()
	d := c.Clone()
	o.Reading = wordsOf(o.Instrument, 120)[0]
	d.Observations = append(d.Observations, o)
	if err := circuit.Recheck(d); err != nil {
		t.Errorf("the next test cannot be entered: %v", err)
	}
}

// FuzzReadings makes any readings on a house, true or not, in any order: nothing panics, and
// what was asked for is never refused.
func FuzzReadings(f *testing.F) {
	f.Add([]byte{0, 1, 2, 3}, uint8(0))
	f.Add([]byte{9, 200, 31, 7, 77, 4}, uint8(1))
	f.Add([]byte{255, 254, 253, 3, 2, 1, 0}, uint8(2))
	files := []string{"dead-end", "swapped-feed", "trace-second-cable-LN-called-unused"}
	f.Fuzz(func(t *testing.T, script []byte, which uint8) {
		h, err := house.New(caseFile(t, files[int(which)%len(files)]), 3, nil)
		if err != nil {
			t.Fatal(err)
		}
		c := h.Survey()
		tr, err := New(context.Background(), c)
		if err != nil {
			t.Fatal(err)
		}
		for _, b := range script[:min(len(script), 10)] {
			o, ok, err := tr.Next(context.Background(), []Prefer{Dead, Trips}[b&1])
			if err != nil {
				t.Fatal(err)
			}
			if !ok {
				break
			}
			enter(t, c, o)
			words := wordsOf(o.Instrument, 120)
			o.Reading = append(slices.Clone(words), circuit.Unclear)[int(b>>1)%(len(words)+1)]
			tr.Observe(o)
		}
		if !tr.possible() {
			c.Observations = tr.made
			if clash, err := Clash(context.Background(), c); err != nil || clash == nil || clash.Recheck == "" {
				t.Errorf("nothing fits, and nobody says why: %+v, %v", clash, err)
			}
		}
	})
}
