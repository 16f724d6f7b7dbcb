package trace

import (
	"context"
	"math/rand/v2"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/house"
)

// trueRoles are the roles of the survey's core ends in the hidden circuit.
func trueRoles(h *house.House) map[circuit.End]electric.Role {
	roles := electric.New(h.Truth()).Roles()
	out := map[circuit.End]electric.Role{}
	s := h.Survey()
	for _, k := range s.Cables {
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, name := range k.Cores {
				e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: name}, Box: *box}
				if role, known := roles[h.True(e)]; known {
					out[e] = role
				} else {
					out[e] = electric.Unused
				}
			}
		}
	}
	return out
}

// fits reports whether a world gives every end its true role.
func (t *Tracer) fits(w *world, roles map[circuit.End]electric.Role) bool {
	for i, c := range t.classes {
		for _, e := range c.ends {
			if e.Box != "" && roles[e] != w.roles[i] {
				return false
			}
		}
	}
	return true
}

// TestComplete hides random houses on any tree of boxes: the true circuit is among
// the worlds, before and after any honest reading.
func TestComplete(t *testing.T) {
	for _, switches := range []int{2} {
		count, most, sum := 0, 0, 0
		for seed := range uint64(200) {
			rng := rand.New(rand.NewPCG(seed, uint64(switches)))
			c := circuittest.Walls(rng, switches)
			h, err := house.New(c, seed, nil)
			if err != nil {
				t.Fatal(err)
			}
			tr, err := New(context.Background(), h.Survey())
			if err != nil {
				t.Errorf("%d switches, house %d: %v", switches, seed, err)
				continue
			}
			roles := trueRoles(h)
			found := 0
			for _, w := range tr.worlds {
				if tr.fits(w, roles) {
					found++
				}
			}
			if found == 0 {
				t.Errorf("%d switches, house %d: the true roles are in none of %d worlds", switches, seed, len(tr.worlds))
			}
			count++
			sum += len(tr.worlds)
			most = max(most, len(tr.worlds))
		}
		t.Logf("%d switches: %d houses, %.1f worlds in the mean, %d at most", switches, count, float64(sum)/float64(count), most)
	}
}
