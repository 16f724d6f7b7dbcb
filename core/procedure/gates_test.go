package procedure

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
)

// withMetal is which kinds of step put a hand on bare metal, in the phases between the gates: nothing that only sets,
// looks or links does before the boxes are open or once they are closed.
var withMetal = []string{KindLabel, KindLift, KindTakeOut, KindCable, KindMount, KindMark, KindJoin, KindCap, KindFit, KindClose}

// TestMetal: over the plans of random houses, each step that moves a conductor or works in an open box is one with
// metal, after the gates that make it safe; what is done under power, or without a box, is none.
func TestMetal(t *testing.T) {
	rng := rand.New(rand.NewPCG(77, 1))
	kinds := map[string]int{}
	for i := range 6 {
		c := circuittest.Walls(rng, 2+i%3)
		for k, o := range retrofit.Plan(c).Options {
			if !o.Feasible || k%4 != 0 {
				continue
			}
			power, proved := "on", map[string]bool{}
			p := For(inspect.Compile(c), &o, nil)
			for _, s := range p.Steps {
				place := fmt.Sprintf("%s, step %d (%s, %s)", o.ID, s.Number, s.Phase, s.Kind)
				switch {
				case s.Kind == KindPowerOn:
					power, proved = "on", map[string]bool{}
				case s.Gate == OffGate:
					power = "off"
				case s.Gate == DeadGate:
					proved[s.Box] = true
				case s.Gate == AgainGate:
					power, proved[""] = "off", true
				}
				wired := slices.ContainsFunc(s.Edits, func(n Note) bool { _, is := n.Edit.(Pair); return is })
				inWall := s.Phase != Linking && s.Phase != Trying && s.Kind != KindGate
				if want := inWall && slices.Contains(withMetal, s.Kind) && !wired && (s.Phase != Preparing || s.Kind == KindLabel); want && !s.Metal {
					t.Errorf("%s: %q is said to have no metal in it", place, s.Text)
				}
				if s.Metal {
					kinds[s.Kind]++
					if power != "off" || !proved[""] && !proved[s.Box] && slices.Contains(p.Opened(), s.Box) {
						t.Errorf("%s has metal in it; power %s, proved %v", place, power, proved)
					}
				}
				if s.Metal && (s.Phase == Linking || s.Phase == Trying || s.Kind == KindGate || s.Kind == KindPowerOn) {
					t.Errorf("%s is said to have metal in it", place)
				}
			}
		}
	}
	for _, kind := range []string{KindLift, KindTakeOut, KindMount, KindJoin, KindClose} {
		if kinds[kind] == 0 {
			t.Errorf("no step of the kind %s was met", kind)
		}
	}
}

// TestBothBreakers: of a box that two breakers feed, each step and each line that turns the power off or on names both,
// by their labels; one that has none by its place in the record.
func TestBothBreakers(t *testing.T) {
	c := circuittest.Gangs(2, 2)
	labels := []string{"14", "16"}
	for i := range c.Devices {
		if d := &c.Devices[i]; d.Type == circuit.TypeSupply {
			d.Breaker = labels[0]
			labels = append(labels[1:], labels[0])
		}
	}
	i := slices.IndexFunc(retrofit.Plan(c).Options, func(o retrofit.Option) bool { return o.Feasible && o.Metrics.BoxesTouched > 0 })
	p := For(inspect.Compile(c), &retrofit.Plan(c).Options[i], nil)
	for _, s := range p.Steps {
		if s.Kind == KindPowerOn || s.Kind == KindPowerOf {
			if !strings.Contains(s.Text, "14") || !strings.Contains(s.Text, "16") {
				t.Errorf("step %d does not name both: %q", s.Number, s.Text)
			}
		}
	}
	for _, label := range []string{"14", "16"} {
		if !slices.Contains(p.Securing(), "Breaker "+label+" off, locked and labelled") {
			t.Errorf("%s is not confirmed off, locked and labelled: %q", label, p.Securing())
		}
	}
}
