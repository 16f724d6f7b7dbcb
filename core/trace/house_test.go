package trace

import (
	"context"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
)

// traced is how one hidden house was traced.
type traced struct {
	done, wrong  bool
	walks, tests int
	live         int
	worlds       int
}

// play traces a hidden house to the end.
func play(t *testing.T, h *house.House, prefer Prefer) traced {
	t.Helper()
	ctx := context.Background()
	c := h.Survey()
	tr, err := New(ctx, c)
	if err != nil {
		t.Fatal(err)
	}
	out := traced{worlds: tr.Worlds()}
	roles := trueRoles(h)
	power := "off"
	for range 60 {
		test, ok, err := tr.Next(ctx, prefer)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if test.Power != power {
			out.walks++
			power = test.Power
		}
		if power == "on" {
			out.live++
		}
		out.tests++
		reading, err := h.Answer(test)
		if err != nil {
			t.Fatalf("%+v: %v", test, err)
		}
		test.Reading = reading
		tr.Observe(test)
	}
	if power == "on" {
		out.walks++
	}
	out.done = tr.Done()
	out.wrong = out.done && !tr.fits(tr.worlds[0], roles) || tr.Worlds() == 0
	return out
}

// hidden makes a random hidden house.
func hidden(t *testing.T, seed uint64, switches int) *house.House {
	t.Helper()
	c := circuittest.Walls(rand.New(rand.NewPCG(seed, uint64(switches))), switches)
	h, err := house.New(c, seed, nil)
	if err != nil {
		t.Fatal(err)
	}
	return h
}

var _ = circuit.Unclear
