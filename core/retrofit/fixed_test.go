package retrofit

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// TestFixedCores: whoever fixes which core carries what gets a plan in which it does, or the
// reason why none can be.
func TestFixedCores(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	rng := rand.New(rand.NewPCG(71, 72))
	met, refused := 0, map[string]int{}
	for i := range 8 {
		c := circuittest.Walls(rng, 2+i%3)
		for n, o := range Plan(c).Options {
			if !o.Feasible || o.Metrics.NewCables > 0 || n%3 != 0 || o.group < 0 {
				continue
			}
			roles := electric.New(o.After).Roles()
			for _, k := range c.Cables {
				if k.Ends[0] == nil {
					continue
				}
				carries := []electric.Role{}
				for _, core := range k.Cores {
					if r := roles[circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}]; slices.Contains(FixableRoles, r) {
						carries = append(carries, r)
					}
				}
				if len(carries) == 0 {
					continue
				}
				core := k.Cores[rng.IntN(len(k.Cores))]
				if circuit.GroundColour(core) {
					continue
				}
				fixed := FixedCore{circuit.Ref{Owner: k.ID, Part: core}, carries[rng.IntN(len(carries))]}
				name := fmt.Sprintf("house %d, %s, %v", i, o.ID, fixed)
				again := OfferFor(inspect.Compile(c), Request{Wishes: Wishes{Cores: []FixedCore{fixed}}}, o.ID)
				if again == nil {
					for _, x := range planFor(c, Request{Wishes: Wishes{Cores: []FixedCore{fixed}}}).Options {
						if x.ID == o.ID && !x.Feasible {
							refused[x.Reasons[0].Code]++
						}
					}
					continue
				}
				met++
				if got := electric.New(again.After).Roles()[circuit.End{Ref: fixed.Core, Box: *k.Ends[0]}]; got != fixed.Role {
					t.Errorf("%s: it carries %q", name, got)
				}
			}
		}
	}
	t.Logf("%d plans with a core fixed; refused: %v", met, refused)
	if met < 20 || len(refused) > 2 || refused["fixed-core"] == 0 {
		t.Errorf("%d met, refused %v", met, refused)
	}
}
