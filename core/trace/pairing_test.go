package trace

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/inspect"
)

// TestManySwitches traces straight rows of six to ten switches to the end, and random trees of as many for
// as long as links are looked for and some readings more: what is true is never ruled out, and the circuit of
// record of a row is that row.
func TestManySwitches(t *testing.T) {
	t.Parallel()
	type many struct {
		name     string
		c        *circuit.Circuit
		switches int
		most     int // readings
	}
	list := []many{{"row", circuittest.Row(6), 6, 150}}
	if !testing.Short() {
		list = append(list, many{"row", circuittest.Row(10), 10, 150}, many{"tree", hiddenHouse(t, 902, 8).Truth(), 8, 45})
	}
	for _, m := range list {
		t.Run(fmt.Sprintf("%s of %d", m.name, m.switches), func(t *testing.T) {
			t.Parallel()
			h, err := house.New(m.c, 1, nil)
			if err != nil {
				t.Fatal(err)
			}
			s := h.Survey()
			s.Controls = &m.switches
			tr, err := New(context.Background(), s)
			if err != nil {
				t.Fatal(err)
			}
			roles, links, readings := trueRoles(h), 0, 0
			for readings < m.most {
				if !tr.looking && !tr.holds(roles) {
					t.Fatalf("after %d readings the true roles are in none of %d worlds", readings, tr.Worlds())
				}
				test, ok, err := tr.Next(context.Background(), Dead)
				if err != nil {
					t.Fatal(err)
				}
				if !ok {
					break
				}
				if test.Reading, err = h.Answer(test); err != nil {
					t.Fatal(err)
				}
				if readings++; tr.looking {
					links++
				}
				tr.Observe(test)
			}
			t.Logf("%d readings, %d of links", readings, links)
			if tr.looking {
				t.Errorf("links are still looked for after %d readings", readings)
			}
			if m.name != "row" {
				return
			}
			if !tr.done(t) {
				t.Fatalf("not done after %d readings", readings)
			}
			c := tr.Circuit()
			if got := inspect.Check(c).Verdict; got != inspect.Works || len(c.Boxes) != m.switches+2 || len(c.Cables) != m.switches+1 {
				t.Errorf("%s, with %d boxes and %d cables", got, len(c.Boxes), len(c.Cables))
			}
		})
	}
}

// TestFalseLink: a false reading of a link that no order agrees with is named, among what it clashes with.
func TestFalseLink(t *testing.T) {
	t.Parallel()
	h, err := house.New(circuittest.Row(6), 1, nil)
	if err != nil {
		t.Fatal(err)
	}
	s, six := h.Survey(), 6
	s.Controls = &six
	for range 3 {
		r, err := Trace(context.Background(), s, Dead)
		if err != nil {
			t.Fatal(err)
		}
		o := r.Next.Test
		if o.Reading, err = h.Answer(o); err != nil {
			t.Fatal(err)
		}
		s.Observations = append(s.Observations, o)
	}
	again := s.Observations[1]
	again.Reading = map[any]string{"open": "closed", "closed": "open"}[again.Reading]
	s.Observations = append(s.Observations, again)
	r, err := Trace(context.Background(), s, Dead)
	if err != nil {
		t.Fatal(err)
	}
	if c := r.Contradiction; c == nil || !slices.Equal(c.Readings, []int{1, 3}) || c.Recheck == "" || r.Next != nil {
		t.Errorf("%+v, next %v", c, r.Next)
	}
}

// TestTooMany: without knowing in how many places the light is switched, links are not enough; the error
// says what to tell, and telling it is enough.
func TestTooMany(t *testing.T) {
	h, err := house.New(circuittest.Row(8), 1, nil)
	if err != nil {
		t.Fatal(err)
	}
	s := h.Survey()
	if _, err := New(context.Background(), s); err == nil || !strings.Contains(err.Error(), "in how many places") {
		t.Errorf("eight switches: %v", err)
	}
	eight := 8
	s.Controls = &eight
	if r, err := Trace(context.Background(), s, Dead); err != nil || r.Next == nil || r.Done || len(r.Roles) == 0 {
		t.Errorf("eight switches in eight places: %v", err)
	}
	tr, err := New(context.Background(), s)
	if err != nil {
		t.Fatal(err)
	}
	usual, exchanged := tr.Polarity()
	if tr.Circuit() != nil || !usual || !exchanged || tr.Resolved() {
		t.Error("while links are looked for something is known already")
	}
}
