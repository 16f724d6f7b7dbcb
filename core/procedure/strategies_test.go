package procedure

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/retrofit"
)

// TestStrategies: a job of three and of four controls in each practice, with every strategy that
// fits it. Steps, materials, labels and gates are held against the difference of the two
// documents; leads have the colours of the practice, and every lead its terminal's name.
func TestStrategies(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	rng := rand.New(rand.NewPCG(91, 92))
	for _, p := range practice.All() {
		seen := map[string]bool{}
		for controls := 3; controls <= 4; controls++ {
			houses := []*circuit.Circuit{circuittest.Chain(controls), circuittest.Spacious(controls), circuittest.Walls(rng, controls)}
			for i, house := range houses {
				c := circuittest.In(house, p.ID)
				if err := c.Validate(); err != nil {
					t.Fatalf("%s: %v", p.ID, err)
				}
				of := map[string]int{}
				for _, o := range retrofit.Plan(c).Options {
					if !o.Feasible || of[o.Strategy] == 2 {
						continue
					}
					of[o.Strategy]++
					seen[o.Strategy] = true
					name := fmt.Sprintf("%s, %d controls, house %d, %s", p.ID, controls, i, o.ID)
					whole(t, rng, name, c, o)
					labelled(t, name, For(inspect.Compile(c), &o, nil), p)
				}
			}
		}
		t.Logf("%s: %d strategies", p.ID, len(seen))
		for _, strategy := range []string{retrofit.SensingSwitch, retrofit.SensingBoth, retrofit.MainAux, retrofit.MainRemote, retrofit.Paired, retrofit.Selectors, retrofit.MainContact, retrofit.MainPush, retrofit.NoNeutralAux, retrofit.PoweredRemote, retrofit.ModuleDry, retrofit.ModuleBare, retrofit.Messages, retrofit.NoNeutralRemote, retrofit.ModuleSwitched, retrofit.ChangeoverRelay, retrofit.CentralModule, retrofit.SmartLamps} {
			if !seen[strategy] {
				t.Errorf("%s: %s was never planned", p.ID, strategy)
			}
		}
	}
}

// labelled holds labels and gates to the plan: each core end of an opened box says what it is in
// the practice's word, spare only where it is known to be, and every opened box is proved dead
// between the breaker and the first wire that moves in it.
func labelled(t *testing.T, name string, p *Procedure, custom practice.Practice) {
	t.Helper()
	roles := electric.New(p.After).Roles()
	for _, l := range p.Labels() {
		want := "not known"
		switch role := roles[l.End]; {
		case role == electric.Unused:
			want = "spare"
		case role != "":
			want = custom.Word(string(role))
		}
		if l.Role != want {
			t.Errorf("%s: the label on %s says %q, not %q", name, l.End, l.Role, want)
		}
	}
	off, dead := false, map[string]bool{}
	for _, s := range p.Steps {
		switch {
		case s.Kind == KindGate && strings.Contains(s.Text, "locked and labelled"):
			off = true
		case s.Kind == KindGate && s.Box != "" && strings.Contains(s.Text, "tested against every other"):
			if !off {
				t.Errorf("%s: %s is proved dead with the power on", name, s.Box)
			}
			dead[s.Box] = true
		case s.Kind == KindLift && !dead[s.Box]:
			t.Errorf("%s, step %d: %s is worked in and was not proved dead", name, s.Number, s.Box)
		}
		if s.Kind == KindJoin {
			for _, x := range p.Option.Devices {
				model, _ := p.library.Get(x.Device)
				for terminal := range model.Stands {
					colour := model.Lead(terminal, custom)
					for _, other := range []string{"black", "white", "brass", "silver", "brown", "red", "blue"} {
						if other != colour && strings.Contains(s.Text, fmt.Sprintf("%s of %s %s (%s)", custom.Word(terminal), x.Name, x.ID, other)) {
							t.Errorf("%s, step %d: a lead is %s there: %s", name, s.Number, other, s.Text)
						}
					}
				}
			}
		}
	}
}
