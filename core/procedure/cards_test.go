package procedure

import (
	"math/rand/v2"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// TestCards: over the plans of random houses, every step is in exactly one stay, in order and at its place; the power changes
// between stays alone; a plan of two boxes takes twelve at most, and no box is gone to more than three times beside the look
// before the power goes off.
func TestCards(t *testing.T) {
	rng := rand.New(rand.NewPCG(30, 4))
	two := 0
	for i := range 8 {
		c := circuittest.Walls(rng, 2+i%3)
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || k%3 != 0 {
				continue
			}
			p := For(inspect.Compile(c), &o, nil)
			cards, next := p.Cards(), 1
			for _, card := range cards {
				if card.Title == "" || len(card.Steps) == 0 {
					t.Fatalf("%s: %+v", o.ID, card)
				}
				for at, n := range card.Steps {
					if n != next {
						t.Fatalf("%s: step %d stands where %d belongs", o.ID, n, next)
					}
					next++
					s := p.Steps[n-1]
					if place := placeOf(s); (card.Box == nil) != (place == "") || card.Box != nil && *card.Box != place {
						t.Errorf("%s: step %d at %q is in the stay %q", o.ID, n, place, card.Title)
					}
					power := s.Kind == KindPowerOn || s.Kind == KindPowerOf || s.Gate == OffGate
					if power && s.Box == "" && at > 0 && p.Steps[n-2].Kind != KindGate {
						t.Errorf("%s: the power changes within %q", o.ID, card.Title)
					}
					if s.Gate != "" && !slices.Contains(card.Gates, s.Gate) {
						t.Errorf("%s: %q does not name its gate %s", o.ID, card.Title, s.Gate)
					}
				}
			}
			if next != len(p.Steps)+1 {
				t.Errorf("%s: %d of %d steps are in a stay", o.ID, next-1, len(p.Steps))
			}
			looks := 0
			for _, card := range cards {
				if card.Box != nil && p.Steps[card.Steps[0]-1].Phase == Preparing && len(card.Gates) == 0 {
					looks++
				}
			}
			for box, n := range Visits(cards) {
				if kind := c.Box(box); kind != nil && kind.Kind == circuit.Switch && n-looks > 3 {
					t.Errorf("%s: %d visits to %s", o.ID, n, box)
				}
			}
			if len(o.BoxesTouched) == 2 && len(p.opened) == 2 && len(c.Devices) < 6 {
				if two++; len(cards)-looks > 12 {
					t.Errorf("%s: %d stays", o.ID, len(cards))
				}
			}
		}
	}
	if two == 0 {
		t.Error("no plan of two boxes was met")
	}
}
