package procedure

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestCases goes through every option of records that were once got wrong: no two have one id,
// every device is mounted before anything is joined to it, the breakers are named, what is freed
// is capped, and from every step there is a way back to what was found.
func TestCases(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	entries, err := os.ReadDir("testdata/cases")
	if err != nil {
		t.Fatal(err)
	}
	for _, entry := range entries {
		data, err := os.ReadFile("testdata/cases/" + entry.Name())
		if err != nil {
			t.Fatal(err)
		}
		c, err := circuit.Parse(data)
		if err != nil {
			t.Fatal(err)
		}
		ids, feasible := map[string]bool{}, 0
		for _, o := range retrofit.Plan(c).Options {
			name := entry.Name() + " " + o.ID
			if ids[o.ID] {
				t.Errorf("%s: two options have this id", name)
			}
			ids[o.ID] = true
			if o.Light == nil {
				t.Errorf("%s: for no light", name)
			}
			if !o.Feasible {
				continue
			}
			feasible++
			p := For(inspect.Compile(c), &o, nil)
			mounted(t, name, p)
			freed(t, name, c, o.After)
			for n := range len(p.Steps) + 1 {
				back, err := p.Back(n)
				if err != nil {
					t.Fatalf("%s: back from %d: %v", name, n, err)
				}
				found, err := back.At(len(back.Steps))
				if err != nil {
					t.Fatalf("%s: the way back from %d: %v", name, n, err)
				}
				if d := same(found, c); len(back.Steps) > 0 && len(d) > 0 {
					t.Fatalf("%s: back from %d it is not what was found: %v", name, n, d)
				}
			}
		}
		if feasible == 0 {
			t.Errorf("%s: nothing fits", entry.Name())
		}
	}
}

// mounted holds that nothing is joined to a device that is not there yet.
func mounted(t *testing.T, name string, p *Procedure) {
	t.Helper()
	there := map[string]bool{}
	for _, d := range p.Before.Devices {
		there[d.ID] = true
	}
	for _, s := range p.Steps {
		for _, e := range s.Edits {
			switch e := e.Edit.(type) {
			case Mount:
				there[e.Device.ID] = true
			case TakeOut:
				delete(there, e.Device.ID)
			case Join:
				for _, m := range []circuit.Ref{e.End, e.With} {
					if p.After.Device(m.Owner) != nil && !there[m.Owner] {
						t.Fatalf("%s, step %d: %s is joined and %s is not there yet", name, s.Number, m, m.Owner)
					}
				}
			}
		}
	}
}

// shut reports whether a box that hangs on a ladder is not opened: then what is freed stays
// spliced in it, a spare conductor that is capped where it comes out.
func shut(before, after *circuit.Circuit, box string) bool {
	in := func(c *circuit.Circuit) (out []string) {
		for _, j := range c.Joins {
			if j.Box == box {
				out = append(out, fmt.Sprint(j.Of))
			}
		}
		slices.Sort(out)
		return out
	}
	return before.Box(box).Kind != circuit.Switch && slices.Equal(in(before), in(after))
}

// freed holds that a core which had a net and has none now is capped at both ends, alone.
func freed(t *testing.T, name string, before, after *circuit.Circuit) {
	t.Helper()
	for _, k := range before.Cables {
		for _, core := range k.Cores {
			if circuit.GroundColour(core) { // they stay joined, whatever else goes
				continue
			}
			m := circuit.Ref{Owner: k.ID, Part: core}
			for i, box := range k.Ends {
				other := k.Ends[1-i]
				if box == nil || other == nil || before.JoinOf(*box, m) < 0 || before.JoinOf(*other, m) < 0 {
					continue
				}
				if after.JoinOf(*box, m) >= 0 || after.JoinOf(*other, m) < 0 || shut(before, after, *other) {
					continue
				}
				// one end is freed: then the other may hold nothing but what is freed with it
				if of := after.Joins[after.JoinOf(*other, m)].Of; len(of) > 1 {
					var with []string
					for _, x := range of {
						with = append(with, x.String())
					}
					t.Errorf("%s: %s is capped in %s and still stands with %s in %s", name, m, *box, strings.Join(with, ", "), *other)
				}
			}
		}
	}
}

// TestButtonsOnOnePlate: two lights on central relays whose buttons stand at the same places get
// one plate and one data cable at each, and the way back takes them away again.
func TestButtonsOnOnePlate(t *testing.T) {
	c, seen := circuittest.Doubled(2), 0
	for _, o := range retrofit.Plan(c).Options {
		if !o.Feasible || o.Strategy != retrofit.CentralModule || len(o.Light) != 2 {
			continue
		}
		p := For(inspect.Compile(c), &o, nil)
		items := p.Materials()
		want := map[string]int{"low-voltage plate, 2 buttons": 2, "low-voltage push-button": 4, "low-voltage plate of six buttons": 0, "data cable": 2}
		if strings.Contains(o.ID, "plate") { // one device with all the buttons of a place
			want = map[string]int{"low-voltage plate, ": 0, "low-voltage push-button": 0, "low-voltage plate of six buttons": 2, "data cable": 2}
		}
		for what, n := range want {
			if got := count(items, what); got != n {
				t.Errorf("%s: %d of %s, want %d: %+v", o.ID, got, what, n, items)
			}
		}
		after, err := p.At(len(p.Steps))
		if err != nil {
			t.Fatal(err)
		}
		if d := same(after, o.After); len(d) > 0 {
			t.Errorf("all steps done, it is not the plan: %v", d)
		}
		back, err := p.Back(len(p.Steps))
		if err != nil {
			t.Fatal(err)
		}
		if found, err := back.At(len(back.Steps)); err != nil || len(same(found, c)) > 0 {
			t.Errorf("the way back: %v, %v", same(found, c), err)
		}
		seen++
	}
	if seen != 2 {
		t.Errorf("two lights are planned together with central relays in %d ways", seen)
	}
}
