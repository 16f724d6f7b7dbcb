package evidence_test

import (
	"context"
	"slices"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/evidence"
	"ambivia/core/house"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

// traced hides a circuit, traces it by the tests that are proposed, and returns what was found.
func traced(t *testing.T, c *circuit.Circuit, seed uint64, prefer trace.Prefer) (*house.House, *circuit.Circuit) {
	t.Helper()
	ctx := context.Background()
	h, err := house.New(c, seed, nil)
	if err != nil {
		t.Fatal(err)
	}
	s := h.Survey()
	tr, err := trace.New(ctx, s)
	if err != nil {
		t.Fatal(err)
	}
	for range 60 {
		test, ok, err := tr.Next(ctx, prefer)
		if err != nil {
			t.Fatal(err)
		}
		if !ok {
			break
		}
		if test.Reading, err = h.Answer(test); err != nil {
			t.Fatal(err)
		}
		s.Observations = append(s.Observations, test)
		tr.Observe(test)
	}
	if tr, err = trace.New(ctx, s); err != nil {
		t.Fatal(err)
	}
	record, err := tr.Record(ctx)
	if err != nil {
		t.Fatalf("not traced: %v", err)
	}
	return h, record
}

// cross exchanges the two travelers of a switch: brass screws are alike.
func cross(c *circuit.Circuit, device string) {
	for i := range c.Joins {
		for n, r := range c.Joins[i].Of {
			if r.Owner == device && (r.Part == "t1" || r.Part == "t2") {
				c.Joins[i].Of[n].Part = map[string]string{"t1": "t2", "t2": "t1"}[r.Part]
			}
		}
	}
}

// TestDirectCable: in the commonest circuit there is, with the travelers on opposite screws at the second
// switch, the record has one cable and no joint, says what of it is assumed, and no more.
func TestDirectCable(t *testing.T) {
	c := circuittest.Straight()
	cross(c, "s2")
	_, record := traced(t, c, 3, trace.Dead)
	for _, b := range record.Boxes {
		if b.Kind == circuit.Junction {
			t.Errorf("the record invents %s", b.ID)
		}
	}
	both := 0
	for _, k := range record.Cables {
		if slices.ContainsFunc(k.Cores, func(core string) bool { return core == "red" }) {
			both++
		}
	}
	if both != 1 {
		t.Errorf("%d cables with red, want one", both)
	}
	known := map[string]string{}
	for _, e := range record.Evidence {
		known[e.Of] = e.How
		for _, n := range e.By {
			if n < 1 || n > len(record.Observations) {
				t.Errorf("%s is known by reading %d of %d", e.Of, n, len(record.Observations))
			}
		}
	}
	for _, k := range record.Cables {
		if !k.Stub() && known[k.ID] != circuit.Assumed {
			t.Errorf("that %s runs straight is %q: no reading shows it", k.ID, known[k.ID])
		}
	}
	if err := record.Validate(); err != nil {
		t.Error(err)
	}
}

// TestRecordGoesBack: a traced record taken back to what was seen is traced to the same again.
func TestRecordGoesBack(t *testing.T) {
	for seed := range uint64(6) {
		_, record := traced(t, circuittest.Straight(), seed, trace.Dead)
		again := evidence.Record(record)
		if evidence.Certain(record) || !evidence.Certain(again) {
			t.Fatal("what was traced is not told from what was seen")
		}
		if err := again.Validate(); err != nil {
			t.Fatalf("house %d: %v", seed, err)
		}
		stubs := 0
		for _, k := range again.Cables {
			if k.Stub() {
				stubs++
			}
		}
		if stubs != 4 || len(again.Observations) != len(record.Observations) {
			t.Errorf("house %d: %d stubs and %d readings, want 4 and %d", seed, stubs, len(again.Observations), len(record.Observations))
		}
		tr, err := trace.New(context.Background(), again)
		if err != nil {
			t.Fatal(err)
		}
		if !tr.Resolved() {
			t.Errorf("house %d: what was settled is open again", seed)
		}
	}
}

// plansOf lists the plans of a record that fit, by strategy.
func plansOf(record *circuit.Circuit) map[string][]evidence.Reliance {
	out := map[string][]evidence.Reliance{}
	for _, o := range retrofit.Plan(record).Options {
		if o.Feasible {
			out[o.Strategy] = o.Relies
		}
	}
	return out
}

// TestRelies: a plan that gives red and black work of their own needs to know which is which, where no
// reading has told; one that leaves the travelers to a switch at each end never does. Once the tests are
// read, nothing is left to test.
func TestRelies(t *testing.T) {
	asked, named := 0, 0
	for seed := range uint64(8) {
		c := circuittest.Straight()
		cross(c, "s2")
		h, record := traced(t, c, seed, trace.Trips)
		first := plansOf(record)
		for _, strategy := range []string{retrofit.SensingSwitch, retrofit.SensingBoth} {
			if n := len(first[strategy]); n > 0 {
				t.Errorf("house %d: %s relies on %d tests, though brass screws are alike", seed, strategy, n)
			}
		}
		needs, ok := first[retrofit.MainAux]
		if !ok {
			t.Errorf("house %d: a main with a wired auxiliary does not fit", seed)
		}
		for _, r := range needs {
			asked++
			if r.Text == "" || r.Say == "" || r.Otherwise.Text == "" || len(r.At) == 0 || r.Test.Reading != nil {
				t.Errorf("half said: %+v", r)
			}
			if r.Otherwise.Option != nil {
				named++
				if _, fits := first[retrofit.MainRemote]; !fits || *r.Otherwise.Option == "" {
					t.Errorf("otherwise %q", *r.Otherwise.Option)
				}
			}
			test, ok := h.Seen(record, r.Test)
			if !ok {
				t.Fatalf("%v is not to be reached", r.Test.At)
			}
			reading, err := h.Answer(test)
			if err != nil {
				t.Fatal(err)
			}
			made := r.Test
			made.Reading = reading
			record.Observations = append(record.Observations, made)
			if reading != r.Right {
				t.Logf("house %d: %s: it reads %v", seed, r.Say, reading)
			}
		}
		if len(needs) == 0 {
			continue
		}
		if left := plansOf(record)[retrofit.MainAux]; len(left) > 0 {
			t.Errorf("house %d: read and asked again: %s", seed, left[0].Say)
		}
	}
	if asked == 0 || named == 0 {
		t.Errorf("%d tests were asked for, for %d of them another plan is named", asked, named)
	}
}

// TestSeenIsCertain: of a circuit that somebody recorded whole nothing is doubted.
func TestSeenIsCertain(t *testing.T) {
	walls, err := evidence.Look(context.Background(), circuittest.Chain(3))
	if walls != nil || err != nil {
		t.Errorf("walls %v, error %v", walls, err)
	}
}

// TestHalfKnown: a survey is planned on as what it most likely is, with what it relies on named as the survey
// names it, so that each reading can be entered in it.
func TestHalfKnown(t *testing.T) {
	h, err := house.New(circuittest.Straight(), 2, nil)
	if err != nil {
		t.Fatal(err)
	}
	s := h.Survey()
	found := inspect.Compile(s)
	plan, err := retrofit.PlanFor(context.Background(), found, retrofit.Request{})
	if err != nil {
		t.Fatal(err)
	}
	feasible := 0
	for _, o := range plan.Options {
		if !o.Feasible {
			continue
		}
		feasible++
		if o.PlannedOn(found) == found {
			t.Errorf("%s is planned on a record that is not whole", o.ID)
		}
		for _, r := range o.Relies {
			inside := slices.ContainsFunc(r.At, func(e circuit.End) bool { return e.Box != "" && !s.Box(e.Box).Seen() })
			probe := s.Clone()
			probe.Observations = []circuit.Observation{r.Test}
			if err := probe.Validate(); err != nil && !inside {
				t.Errorf("%s: %v", o.ID, err)
			}
		}
	}
	if feasible < 20 {
		t.Errorf("%d plans fit", feasible)
	}
}
