package house_test

import (
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

// TestTraditions: ordinary circuits of five practices are judged as an electrician there judges them, and planned.
func TestTraditions(t *testing.T) {
	for _, x := range []struct {
		file, verdict string
		has, lacks    []string // codes of findings
		plans         int      // at least
		with, without string   // strategies that fit, and that must not
	}{
		{"na-bootleg", inspect.Faulty, []string{"ground-on-neutral"}, nil, 0, "", ""},
		{"na-bootleg3", inspect.Faulty, []string{"ground-on-neutral"}, nil, 0, "", ""},
		{"eu-locator", inspect.Works, []string{"locator-lamp"}, []string{"hot-shell"}, 12, retrofit.ModuleSwitched, ""},
		{"in-board", inspect.Works, nil, []string{"control-does-nothing"}, 30, retrofit.SensingSwitch, ""},
		{"na-halfhot", inspect.Works, nil, []string{"no-lamp"}, 10, retrofit.SensingSwitch, retrofit.SmartLamps},
		{"au-std", inspect.Works, []string{"return-beside"}, []string{"cable-unbalanced"}, 30, retrofit.SensingSwitch, ""},
		{"na-noground", inspect.Works, []string{"no-ground"}, nil, 30, retrofit.MainAux, ""},
		{"eu-2way-noPEatswitch", inspect.Works, []string{"no-ground"}, nil, 10, retrofit.NoNeutralAux, ""},
		{"eu-2pole", inspect.Works, []string{"two-pole"}, []string{"neutral-switched", "control-disabled"}, 10, retrofit.OneSmart, ""},
		{"uk-32a", inspect.Works, []string{"breaker-gauge"}, nil, 1, "", ""},
		{"na-fill", inspect.Works, nil, []string{"box-fill"}, 30, retrofit.SensingSwitch, ""},
		{"na-capneutral", inspect.Works, []string{"neutral-capped"}, []string{"loose-end"}, 10, retrofit.OneSmart, ""},
		{"au-drop", inspect.Works, nil, []string{"unmarked", "colour-misused"}, 10, "", ""},
		{"in-mod", inspect.Works, nil, []string{"unmarked", "colour-misused"}, 10, retrofit.OneSmart, ""},
		{"eu-de-old", inspect.Works, nil, []string{"unmarked", "colour-misused"}, 30, retrofit.SensingSwitch, ""},
		{"uk-borrow-bar", inspect.Faulty, []string{"borrowed-neutral"}, []string{"cable-unbalanced"}, 0, "", ""},
		{"eu-impulse", inspect.Works, nil, []string{"not-a-plain-chain"}, 1, retrofit.ModulePulse, ""},
		{"na-fanlight", inspect.Works, nil, nil, 10, retrofit.OneSmart, ""},
	} {
		t.Run(x.file, func(t *testing.T) {
			c := tradition(t, x.file)
			r := inspect.Check(c)
			var codes []string
			for _, f := range r.Findings {
				codes = append(codes, f.Code)
			}
			if r.Verdict != x.verdict {
				t.Errorf("%s: %v", r.Verdict, codes)
			}
			for _, code := range x.has {
				if !slices.Contains(codes, code) {
					t.Errorf("no %s among %v", code, codes)
				}
			}
			for _, code := range x.lacks {
				if slices.Contains(codes, code) {
					t.Errorf("%s among %v", code, codes)
				}
			}
			plans, strategies := 0, []string{}
			for _, o := range retrofit.Plan(c).Options {
				if !o.Feasible {
					continue
				}
				plans++
				strategies = append(strategies, o.Strategy)
				if got := inspect.Check(o.After); got.Verdict == inspect.Faulty {
					t.Errorf("%s: %v", o.ID, got.Findings)
				}
				for _, id := range o.Light {
					if d := c.Device(id); d.Type != circuit.TypeLamp || d.Load == "motor" {
						if o.Strategy == retrofit.SmartLamps {
							t.Errorf("%s puts a smart lamp where %s is", o.ID, id)
						}
						if slices.ContainsFunc(o.Places, func(q retrofit.Place) bool { return q.Dims }) {
							t.Errorf("%s dims %s, which is no lamp", o.ID, id)
						}
					}
				}
			}
			if plans < x.plans || x.with != "" && !slices.Contains(strategies, x.with) || x.without != "" && slices.Contains(strategies, x.without) {
				t.Errorf("%d plans: %s", plans, strings.Join(strategies, ", "))
			}
		})
	}
}

// TestShellSwitched: the prohibited circuit is named, whichever way it is traced and however the switches stood, though the rule
// that line and return share cables speaks for another; a sound circuit is never called that.
func TestShellSwitched(t *testing.T) {
	c := tradition(t, "na-carter")
	no := false
	for i := range c.Boxes {
		if c.Boxes[i].Kind != circuit.Switch {
			c.Boxes[i].Opened = &no
		}
	}
	named := func(s *circuit.Circuit) bool {
		r, err := trace.Trace(t.Context(), s, trace.Dead)
		if err != nil {
			t.Fatal(err)
		}
		return slices.ContainsFunc(r.Findings, func(w trace.Warning) bool { return w.Code == trace.WarnShellSwitched })
	}
	if !named(tradition(t, "carter-lit")) {
		t.Error("carter-lit is not named")
	}
	for seed := range uint64(24) {
		h, err := house.New(c, seed, nil)
		if err != nil {
			t.Fatal(err)
		}
		if s := traceToEnd(t, h, []trace.Prefer{trace.Dead, trace.Trips}[seed%2]); !named(s) {
			t.Errorf("house %d: not named after %d readings", seed, len(s.Observations))
		} else if len(s.Observations) > 30 {
			t.Errorf("house %d: %d readings", seed, len(s.Observations))
		}
	}
	for seed := range uint64(12) { // a coast three-way looks the same until the light is lit
		rng := rand.New(rand.NewPCG(seed, 7))
		h, err := house.New(circuittest.Walls(rng, 2), seed, nil)
		if err != nil {
			t.Fatal(err)
		}
		if named(traceToEnd(t, h, trace.Dead)) {
			t.Errorf("sound house %d is called prohibited", seed)
		}
	}
}

// traceToEnd plays the tests that are proposed, 40 at most, each read right.
func traceToEnd(t *testing.T, h *house.House, prefer trace.Prefer) *circuit.Circuit {
	t.Helper()
	s := h.Survey()
	tr, err := trace.New(t.Context(), s)
	if err != nil {
		t.Fatal(err)
	}
	for range 40 {
		test, ok, err := tr.Next(t.Context(), prefer)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatal(err)
		}
		tr.Observe(test)
		s.Observations = append(s.Observations, test)
	}
	return s
}

func tradition(t *testing.T, name string) *circuit.Circuit {
	t.Helper()
	file, err := os.Open(filepath.Join("testdata", "traditions", name+".json"))
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	c, err := circuit.Read(file)
	if err != nil {
		t.Fatal(err)
	}
	return c
}
