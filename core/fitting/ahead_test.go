package fitting

import (
	"math/rand/v2"
	"reflect"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// speaking is a plan whose devices speak without a wire, with the circuit that it is for.
type speaking struct {
	name  string
	found *circuit.Circuit
	o     retrofit.Option
}

// linked lists such plans of two and three places, one of each strategy and way.
func linked(t *testing.T) (out []speaking) {
	t.Helper()
	have := map[string]bool{}
	for places, c := range map[string]*circuit.Circuit{"two": circuittest.Straight(), "three": circuittest.Spacious(3)} {
		for _, o := range retrofit.Plan(c).Options {
			if !o.Feasible || len(o.After.Links) == 0 {
				continue
			}
			if name := places + " " + o.Strategy + " " + o.After.Links[0].Via; !have[name] {
				have[name] = true
				out = append(out, speaking{name, c, o})
			}
		}
	}
	if len(out) < 4 {
		t.Fatalf("%d plans with links", len(out))
	}
	return out
}

// TestLookedAtAhead: every step of a run can be looked at before anything was done, as it will be when its turn comes, and
// when all is done, as it was; both times it is the same, and the last leaves the plan.
func TestLookedAtAhead(t *testing.T) {
	for _, x := range linked(t) {
		j := begin(t, x.found, &x.o)
		first := Read(j.log)
		if _, err := first.Around(len(first.Run.Steps) + 1); err == nil {
			t.Errorf("%s: a step that is not there can be looked at", x.name)
		}
		ahead := make([]*Around, len(first.Run.Steps))
		for i := range ahead {
			around, err := first.Around(i + 1)
			if err != nil || around.After == nil {
				t.Fatalf("%s, step %d cannot be looked at ahead: %v", x.name, i+1, err)
			}
			inspect.Compile(around.After).Report()
			ahead[i] = around
		}
		if ahead[0].When != Now || ahead[1].When != Ahead {
			t.Errorf("%s: the first step is looked at %s, the second %s", x.name, ahead[0].When, ahead[1].When)
		}
		for s := first; !s.Over; s = Read(j.log) {
			stands, _ := s.Stands()
			if now, err := s.Around(s.Now); err != nil || now.When != Now || !reflect.DeepEqual(now.Before, stands) {
				t.Fatalf("%s, step %d is not drawn as the wiring stands: %v", x.name, s.Now, err)
			}
			j.must(j.done(s.Now))
		}
		over := Read(j.log)
		for i := range ahead {
			back, err := over.Around(i + 1)
			if err != nil || back.When != Before || !reflect.DeepEqual(back.Before, ahead[i].Before) || !reflect.DeepEqual(back.After, ahead[i].After) {
				t.Errorf("%s, step %d was otherwise than it was to be: %v", x.name, i+1, err)
			}
		}
	}
}

// TestLookedAtLeftOut: a step that needs what was left out is drawn without what it would do.
func TestLookedAtLeftOut(t *testing.T) {
	x := linked(t)[0]
	j := begin(t, x.found, &x.o)
	mounted := ""
	for {
		s := Read(j.log)
		step := &s.Run.Steps[s.Now-1]
		if s.Steps[s.Now-1].Barred != "" {
			if around, err := s.Around(s.Now); mounted == "" || err != nil || around.After != nil || around.Before.Device(mounted) != nil {
				t.Errorf("%s, step %d needs %s, which was left out: %v", x.name, s.Now, mounted, err)
			}
			return
		}
		if step.Kind == procedure.KindMount && mounted == "" {
			mounted = step.Device
			j.must(Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{s.Now}, Reason: "it did not come"}})
		} else {
			j.must(j.done(s.Now))
		}
	}
}

// TestPairLeftOut: a device that was left out is not paired, and the wiring as it stands can be read at every step.
func TestPairLeftOut(t *testing.T) {
	for _, x := range linked(t) {
		j := begin(t, x.found, &x.o)
		left := x.o.After.Links[0].From
		barred := 0
		for {
			s := Read(j.log)
			if s.Over {
				break
			}
			step := &s.Run.Steps[s.Now-1]
			leave := Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{s.Now}, Reason: "it did not come"}}
			switch {
			case s.Steps[s.Now-1].Barred != "":
				if step.Pairs() != nil {
					barred++
				}
				j.must(leave)
			case step.Kind == procedure.KindMount && step.Device == left:
				j.must(leave)
			default:
				j.must(j.done(s.Now))
			}
			stands, err := Read(j.log).Stands()
			if err != nil {
				t.Fatalf("%s, step %d: %v", x.name, s.Now, err)
			}
			inspect.Compile(stands)
		}
		stands := Read(j.log).Stood(x.found).Wiring
		if stands.Device(left) != nil || barred == 0 {
			t.Errorf("%s: %s was left out; it stands there %v, %d pairings could not be made", x.name, left, stands.Device(left) != nil, barred)
		}
	}
}

// TestAnyWork goes through random careers of a circuit: steps done, left out and done otherwise, the work put back or led on
// to another plan in the middle. Whatever happens, the wiring as it stands is a valid record, and the next run can be written.
func TestAnyWork(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 27))
	left, barred, over := 0, 0, 0
	for _, c := range []*circuit.Circuit{circuittest.Straight(), circuittest.Spacious(3), circuittest.Chain(3)} {
		var plans []retrofit.Option
		for _, o := range retrofit.Plan(c).Options {
			if o.Feasible {
				plans = append(plans, o)
			}
		}
		for career := range 12 {
			j := begin(t, c, &plans[rng.IntN(len(plans))])
			for range 3 {
				for n := rng.IntN(120); n > 0; n-- {
					s := Read(j.log)
					if s.Over {
						over++
						break
					}
					if s.Stopped != nil { // it is not as drawn: the record comes first
						break
					}
					if s.Now == 0 {
						t.Fatalf("career %d is stuck", career)
					}
					e := j.done(s.Now)
					switch step := &s.Run.Steps[s.Now-1]; {
					case s.Steps[s.Now-1].Barred != "":
						barred++
						e = Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{s.Now}, Reason: "it cannot be done"}}
					case step.Gate == "" && rng.IntN(6) == 0:
						left++
						e = Entry{Kind: Skip, OfSteps: OfSteps{Steps: []int{s.Now}, Reason: "it is seized"}}
					case step.Gate == "" && rng.IntN(60) == 0:
						e = Entry{Kind: Differs, OfSteps: OfSteps{Steps: []int{s.Now}}, Note: "otherwise than drawn"}
					}
					if j.try(e) != nil { // what guards the power is another test's
						e = j.done(s.Now)
					}
					j.must(e)
				}
				stands, err := Read(j.log).Stands()
				if err == nil {
					err = stands.Validate()
				}
				if err != nil {
					t.Fatalf("career %d: the wiring as it stands: %v", career, err)
				}
				s, o := Read(j.log), &plans[rng.IntN(len(plans))]
				run := s.NewRun(j.found, o, device.NewLibrary(nil), nil, 1, nil)
				if rng.IntN(3) == 0 {
					run = s.NewBack(j.found, j.o, device.NewLibrary(nil), 1, nil)
				}
				if len(run.Steps) == 0 {
					break
				}
				j.put(Entry{Kind: Begin, Began: Began{Run: run}})
			}
		}
	}
	if left < 20 || barred < 5 || over == 0 {
		t.Errorf("%d steps were left out, %d could not be done for it, %d runs ended: too tame", left, barred, over)
	}
}
