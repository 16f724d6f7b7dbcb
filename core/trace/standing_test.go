package trace

import (
	"context"
	"encoding/json"
	"maps"
	"math"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// asText is a result as the command line writes it.
func asText(t testing.TB, r *Result) string {
	t.Helper()
	data, err := json.Marshal(r)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// TestStanding holds a tracer that stays while readings come in against one that is made anew for
// each, in houses of every kind, by tests that are proposed and by any other: they say the same,
// byte for byte, and the one that stays finds what fits the survey once.
func TestStanding(t *testing.T) {
	ctx := context.Background()
	for i, k := range circuittest.Kinds() {
		if testing.Short() && i%3 != 0 {
			continue
		}
		h, c := surveyOf(t, k, 4)
		rng := rand.New(rand.NewPCG(4, 4))
		before := Enumerations()
		s, err := Stand(ctx, c)
		if err != nil {
			t.Fatal(err)
		}
		if n := Enumerations() - before; n != 1 {
			t.Fatalf("%s: standing took %d enumerations", k.Name, n)
		}
		advanced := 0
		for n := range 8 {
			got, err := s.Trace(ctx, Dead)
			if err != nil {
				t.Fatal(err)
			}
			want, err := Trace(ctx, c, Dead)
			if err != nil {
				t.Fatal(err)
			}
			if a, b := asText(t, got), asText(t, want); a != b {
				t.Fatalf("%s, after %d readings: the standing tracer says\n%s\nanew\n%s", k.Name, n, a, b)
			}
			var o circuit.Observation
			switch {
			case got.Next != nil && n%4 != 3:
				o = got.Next.Test
			default:
				o = anyTest(rng, c)
			}
			if o.Reading, err = h.Answer(o); err != nil {
				t.Fatal(err)
			}
			next := c.Clone()
			next.Observations = append(next.Observations, o)
			next.Gates = append(next.Gates, circuit.Gate{Gate: circuit.GateBreakerOff, After: n})
			c = next
			before := Enumerations()
			if ok, err := s.Advance(ctx, c); err != nil {
				t.Fatal(err)
			} else if !ok {
				if s, err = Stand(ctx, c); err != nil { // a switch in a closed box was flipped
					t.Fatal(err)
				}
				continue
			}
			if n := Enumerations() - before; n != 0 {
				t.Fatalf("%s: a reading took %d enumerations", k.Name, n)
			}
			advanced++
		}
		if advanced < 5 {
			t.Errorf("%s: only %d readings were held against what stood", k.Name, advanced)
		}
	}
}

// TestStandingApart: what differs in more than further readings is not gone on with, and a tracer
// that was handed out stays as it is.
func TestStandingApart(t *testing.T) {
	ctx := context.Background()
	_, c := surveyOf(t, circuittest.Kinds()[0], 1)
	s, err := Stand(ctx, c)
	if err != nil {
		t.Fatal(err)
	}
	old, err := s.Tracer(ctx)
	if err != nil {
		t.Fatal(err)
	}
	worlds := old.Worlds()
	test, _, err := old.Next(ctx, Dead)
	if err != nil {
		t.Fatal(err)
	}
	later := c.Clone()
	test.Reading = "silent"
	later.Observations = append(later.Observations, test)
	for name, change := range map[string]func(*circuit.Circuit){
		"a name":          func(c *circuit.Circuit) { c.Boxes[0].Name = "Another" },
		"a reading less":  func(c *circuit.Circuit) { c.Observations = nil },
		"a reading other": func(c *circuit.Circuit) { c.Observations[0].Reading = "beep" },
		"a box opened": func(c *circuit.Circuit) {
			opened := !c.Boxes[0].Seen()
			c.Boxes[0].Opened = &opened
		},
	} {
		s, err := Stand(ctx, later)
		if err != nil {
			t.Fatal(err)
		}
		other := later.Clone()
		change(other)
		if ok, err := s.Advance(ctx, other); ok || err != nil {
			t.Errorf("%s: gone on with (%v)", name, err)
		}
	}
	if ok, err := s.Advance(ctx, later); !ok || err != nil {
		t.Fatalf("a further reading: %t, %v", ok, err)
	}
	if old.Worlds() != worlds || len(old.made) != 0 {
		t.Error("a tracer that was handed out changed with a reading")
	}
}

// TestReadingsNumbered: readings of a tracer that was handed out bear numbers of their own, also those that
// it is told afterwards: by them what a reading leaves of conductors together is kept.
func TestReadingsNumbered(t *testing.T) {
	ctx := context.Background()
	h, c := surveyOf(t, circuittest.Kinds()[0], 2)
	rng := rand.New(rand.NewPCG(2, 2))
	for range 3 {
		o := anyTest(rng, c)
		reading, err := h.Answer(o)
		if err != nil {
			t.Fatal(err)
		}
		o.Reading = reading
		c.Observations = append(c.Observations, o)
	}
	s, err := Stand(ctx, c)
	if err != nil {
		t.Fatal(err)
	}
	tr, err := s.Tracer(ctx)
	if err != nil {
		t.Fatal(err)
	}
	before := len(tr.tests)
	for n := 0; n < 20 && len(tr.tests) < before+3; n++ {
		o := anyTest(rng, c)
		if o.Reading, err = h.Answer(o); err != nil {
			t.Fatal(err)
		}
		tr.Observe(o)
	}
	seen := map[int]bool{}
	for _, m := range tr.tests {
		if m.number == 0 || seen[m.number] {
			t.Errorf("the number %d stands twice, or for none", m.number)
		}
		seen[m.number] = true
	}
	if before < 2 || len(tr.tests) < before+3 {
		t.Errorf("%d readings told something, %d with those made after", before, len(tr.tests))
	}
}

// TestNarrows: what a test is said to narrow is what it narrows: for each reading that may be, the odds told of a
// conductor are those of a tracer that took the reading; each that this makes certain, or changes by a twentieth, is
// told, and no other.
func TestNarrows(t *testing.T) {
	told, certain, quiet := 0, 0, 0
	for seed := range uint64(6) {
		_, s := surveyOf(t, circuittest.Kinds()[seed%2], seed)
		tr, err := New(context.Background(), s)
		if err != nil {
			t.Fatal(err)
		}
		test, ok, err := tr.Next(context.Background(), Dead)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			continue
		}
		now := tr.Odds()
		for _, o := range tr.outcomes(test, true) {
			taken := test
			taken.Reading = o.Reading
			after := tr.fork()
			if after.Observe(taken); !after.possible() {
				continue
			}
			for e, then := range after.Odds() {
				moved := 0.0
				for role := range now[e] {
					moved = max(moved, math.Abs(now[e][role]-then[role]))
				}
				narrowed, listed := o.Narrows[e]
				switch want := len(now[e]) > 1 && (len(then) == 1 || moved >= toldFrom); {
				case want != listed:
					t.Errorf("house %d, %v: %s goes from %v to %v, told: %v", seed, o.Reading, e, now[e], then, listed)
				case listed && !maps.Equal(narrowed, then):
					t.Errorf("house %d, %v: %s is told to be %v, and becomes %v", seed, o.Reading, e, narrowed, then)
				case listed:
					told++
					if len(then) == 1 {
						certain++
					}
				case len(now[e]) > 1:
					quiet++
				}
			}
		}
	}
	if told == 0 || certain == 0 || quiet == 0 {
		t.Errorf("%d told, %d of them made certain, %d open ones that hardly change", told, certain, quiet)
	}
}
