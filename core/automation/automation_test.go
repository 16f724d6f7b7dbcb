package automation

import (
	"context"
	"maps"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// linked lists one plan with links for each strategy and way, of a house with cores to spare.
func linked(t testing.TB, controls int) map[string]retrofit.Option {
	t.Helper()
	c := circuittest.Spacious(controls)
	for i, k := range c.Cables { // and a core at each place that may carry neutral
		if !slices.Contains(k.Cores, "white") {
			c.Cables[i].Cores = append(slices.Clone(k.Cores), "white")
		}
	}
	out := map[string]retrofit.Option{}
	for _, o := range retrofit.Plan(c).Options {
		if o.Feasible && len(o.After.Links) > 0 {
			key := o.Strategy + " " + o.After.Links[0].Via
			if _, have := out[key]; !have {
				out[key] = o
			}
		}
	}
	return out
}

func setsOf(t testing.TB, o retrofit.Option) []Set {
	t.Helper()
	sets, err := For(context.Background(), &o, device.NewLibrary(nil))
	if err != nil {
		t.Fatal(err)
	}
	return sets
}

// broken lists what does not hold of a set.
func broken(s Set) []string {
	out := []string{}
	for _, p := range s.Report.Properties {
		if !p.Holds {
			out = append(out, p.Code)
		}
	}
	return out
}

// TestSets is the table of what the ways to make links do: of full seconds on a hub, two places and three; of cloud switches;
// of devices that no hub hears; of buttons.
func TestSets(t *testing.T) {
	type want struct {
		kind           string
		rules, mirrors int
		broken         []string
	}
	for _, x := range []struct {
		plan     string
		controls int
		want     []want
	}{
		// Two paddles: up is on, down is off; for dimmers four levels more.
		{retrofit.Paired + " radio", 2, []want{
			{Direct, 0, 0, nil}, {Scenes, 8, 0, nil}, {InStep, 4, 0, nil},
			{MirrorOne, 0, 1, []string{rehearsal.Obeys, rehearsal.InStep}}, {MirrorTwo, 0, 1, []string{rehearsal.ConvergesHasty}},
		}},
		{retrofit.Messages + " hub", 3, []want{
			{Scenes, 4, 0, nil}, {InStep, 12, 0, nil},
			{MirrorOne, 0, 2, []string{rehearsal.Obeys, rehearsal.InStep}}, {MirrorTwo, 0, 2, []string{rehearsal.ConvergesHasty}},
		}},
		// Plain pushes in the cloud: each press changes all others.
		{retrofit.Messages + " cloud", 3, []want{{Scenes, 2, 0, nil}, {InStep, 6, 0, nil}}},
		{retrofit.Selectors + " radio", 3, []want{{Direct, 0, 0, nil}}},
		{retrofit.CentralModule + " bus", 3, []want{{Scenes, 3, 0, nil}}},
	} {
		o, have := linked(t, x.controls)[x.plan]
		if !have {
			t.Errorf("no plan %s; there are %v", x.plan, slices.Sorted(maps.Keys(linked(t, x.controls))))
			continue
		}
		sets := setsOf(t, o)
		var kinds []string
		for _, s := range sets {
			kinds = append(kinds, s.Kind)
		}
		for _, w := range x.want {
			s := Of(sets, w.kind)
			if s == nil {
				t.Errorf("%s: no %s among %v", o.ID, w.kind, kinds)
				continue
			}
			if got := broken(*s); !slices.Equal(got, w.broken) || s.Rules != w.rules || s.Mirrors != w.mirrors {
				t.Errorf("%s, %s: %d rules, %d mirrors, broken %v; want %+v", o.ID, s.Kind, s.Rules, s.Mirrors, got, w)
			}
		}
		if len(sets) != len(x.want) {
			t.Errorf("%s: %v, want %d", o.ID, kinds, len(x.want))
		}
	}
}

// TestEverySet: over all plans with links of two to five places, each set is a valid document with the plan's own wiring and
// no plain link left that rules stand for; what is flawed has a witness; one at most is preferred, and it is sound; and
// where a way is down, the places that the plan says to be lost are those that its preferred rules lose.
func TestEverySet(t *testing.T) {
	count := map[string]int{}
	for controls := 2; controls <= 5; controls++ {
		for key, o := range linked(t, controls) {
			sets := setsOf(t, o)
			preferred := 0
			for i, s := range sets {
				count[s.Kind]++
				if err := s.Doc.Validate(); err != nil {
					t.Errorf("%s, %s: %v", key, s.Kind, err)
				}
				wired := o.After.Clone()
				wired.Joins, wired.Cables = s.Doc.Joins, s.Doc.Cables
				if d := circuit.Diff(o.After, wired); len(d) > 0 {
					t.Errorf("%s, %s: the wiring is another: %v", key, s.Kind, d)
				}
				if s.Kind != Direct && len(s.Doc.Links) > 0 {
					t.Errorf("%s, %s: links are left beside the rules", key, s.Kind)
				}
				for _, p := range s.Report.Properties {
					if !p.Holds && len(p.Witness) == 0 {
						t.Errorf("%s, %s: %s does not hold, and nobody is shown how", key, s.Kind, p.Code)
					}
				}
				if s.Preferred {
					if preferred++; i > 0 || !s.Sound() {
						t.Errorf("%s: %s is preferred, as number %d, sound: %v", key, s.Kind, i+1, s.Sound())
					}
				}
			}
			if preferred != 1 {
				t.Errorf("%s: %d sets are preferred", key, preferred)
				continue
			}
			lost := map[string][]string{}
			for _, down := range o.Outages {
				lost[map[string]string{"hub": "hub", "internet": "cloud"}[down.When]] = down.Lost
			}
			for _, down := range sets[0].Report.Outages {
				for _, q := range o.Places {
					promised, told := lost[down.Down]
					if !told || q.Kept {
						continue
					}
					if works, known := down.Works[q.Device]; known && works == slices.Contains(promised, q.Box) {
						t.Errorf("%s: %s down, %s works: %v; the plan says that %v is lost", key, down.Down, q.Box, works, promised)
					}
				}
			}
		}
	}
	for _, kind := range []string{Direct, Scenes, InStep, MirrorOne, MirrorTwo} {
		if count[kind] == 0 {
			t.Errorf("no set of the kind %s was met: %v", kind, count)
		}
	}
}

// TestFewest: no sound set that keeps all in step, of those that are tried, has fewer rules than the one that is offered.
func TestFewest(t *testing.T) {
	o := linked(t, 3)[retrofit.Messages+" hub"]
	s := Of(setsOf(t, o), InStep)
	m := &maker{after: o.After, faces: map[string]Face{}}
	for _, q := range o.Places {
		m.faces[q.Device] = Face{Paddle: q.UpIsOn, Taps: q.Scenes, Hub: true}
	}
	places := append([]string{o.After.Links[0].To}, m.senders()...)
	tried := 0
	for _, how := range triggers {
		for _, sh := range shapes {
			if how.push {
				continue // these are paddles
			}
			tried++
			other := m.kept(places, how, sh)
			report, err := rehearsal.Rehearse(context.Background(), other.Doc)
			if err != nil {
				t.Fatal(err)
			}
			if report.Verdict == rehearsal.Sound && other.Rules < s.Rules {
				t.Errorf("%s, %s: %d rules are sound, and %d are offered", how.name, sh.name, other.Rules, s.Rules)
			}
		}
	}
	if tried != s.Tried || !s.Sound() {
		t.Errorf("%d sets are said to be tried, not %d; sound: %v", s.Tried, tried, s.Sound())
	}
}

// BenchmarkSets makes the sets of the largest plan with links of ten places.
func BenchmarkSets(b *testing.B) {
	for _, o := range linked(b, 10) {
		b.Run(o.ID, func(b *testing.B) {
			for b.Loop() {
				setsOf(b, o)
			}
		})
	}
}
