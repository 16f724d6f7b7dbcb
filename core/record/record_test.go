package record_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/demo"
	"ambivia/demo/fitted"
)

// fittedRecord is a demo circuit with its log, and its record.
func fittedRecord(t *testing.T, name string) (*circuit.Circuit, *fitted.Fitting, *record.Circuit) {
	t.Helper()
	for _, j := range demo.Jobs() {
		for _, c := range j.Circuits {
			if c.Name != name {
				continue
			}
			f, err := fitted.Of(context.Background(), c, time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC))
			if err != nil || f == nil {
				t.Fatalf("%s: %v", name, err)
			}
			proof, err := prove.Sequence(context.Background(), c, f.Option)
			if err != nil {
				t.Fatal(err)
			}
			proved, err := record.HowFar(context.Background(), c, f.Option, proof, fitting.Read(f.Log))
			if err != nil {
				t.Fatal(err)
			}
			return c, f, record.Of(record.Source{Found: inspect.Compile(c), Option: f.Option, Library: device.NewLibrary(nil), Log: f.Log, Proved: proved})
		}
	}
	t.Fatalf("there is no %s", name)
	return nil, nil, nil
}

// TestComputedFromTheLog: every entry stands in the record where it belongs, and what nobody did stands as not done.
func TestComputedFromTheLog(t *testing.T) {
	_, f, r := fittedRecord(t, "Plate archive")
	gates, steps := 0, 0
	for _, s := range f.Log[0].Run.Steps {
		if s.Gate != "" {
			gates++
		} else {
			steps++
		}
	}
	told := 0
	for _, line := range r.Course {
		if line.Gate {
			told++
		}
	}
	if told != gates || len(r.Course)-told != steps+1 { // with the line that it began
		t.Errorf("%d gates in %d lines of %d gates and %d steps", told, len(r.Course), gates, steps)
	}
	if !slices.IsSortedFunc(r.Course, func(a, b record.Line) int { return a.Time.Compare(b.Time) }) {
		t.Error("gates and steps are not in the order of time")
	}
	if !strings.Contains(r.Status, "every one of") || len(r.Back) == 0 || len(r.People) != 1 {
		t.Errorf("%q, %d steps back, people %v", r.Status, len(r.Back), r.People)
	}
	want := map[string]int{}
	for _, s := range f.Log[0].Run.Steps {
		for _, u := range s.Uses {
			want[u.What] += u.Count
		}
	}
	for _, x := range r.Materials {
		if x.Count != want[x.What] || x.Count == 0 {
			t.Errorf("%d of %s were used, the steps fit %d", x.Count, x.What, want[x.What])
		}
		delete(want, x.What)
	}
	if len(want) > 0 {
		t.Errorf("not among the materials: %v", want)
	}
	tested := 0
	for _, x := range r.Trials {
		if x.Entry > 0 {
			tested++
		}
	}
	left := 0
	for _, text := range r.Untested {
		if strings.Contains(text, " by ") {
			left++
		}
	}
	if tested != 4 || left != len(r.Trials)-tested {
		t.Errorf("%d of %d trials made, %d stand as not tested", tested, len(r.Trials), left)
	}
	rows := r.CSV()
	if len(rows) != 1+len(r.Readings)+len(r.Proving) || len(r.Proving) < 2 {
		t.Errorf("%d rows for %d readings and %d presses", len(rows), len(r.Readings), len(r.Proving))
	}
}

// TestNotProved: what was seen otherwise than right work shows stands in the record, though every press was made; presses of
// another order prove nothing.
func TestNotProved(t *testing.T) {
	c, f, right := fittedRecord(t, "Plate archive")
	if !right.Proved.Whole() || !strings.Contains(right.Status, "Tested: every switch works as planned.") {
		t.Errorf("right work is not proved: %+v, %q", right.Proved, right.Status)
	}
	for name, spoil := range map[string]func([]fitting.Entry){
		"dark throughout": func(log []fitting.Entry) {
			for i := range log {
				for lamp := range log[i].Lamps {
					log[i].Lamps = map[string]string{lamp: "dark"}
				}
			}
		},
		"another control": func(log []fitting.Entry) {
			for i := range log {
				if log[i].Press == "a1" {
					log[i].Press = "m1"
				} else if log[i].Press == "m1" {
					log[i].Press = "a1"
				}
			}
		},
	} {
		log := slices.Clone(f.Log)
		spoil(log)
		proved, err := record.HowFar(context.Background(), c, f.Option, right.Proved.Proof, fitting.Read(log))
		if err != nil {
			t.Fatal(err)
		}
		r := record.Of(record.Source{Found: inspect.Compile(c), Option: f.Option, Library: device.NewLibrary(nil), Log: log, Proved: proved})
		if proved.Whole() || strings.Contains(r.Status, "works as planned.") || len(r.Untested) <= len(right.Untested) {
			t.Errorf("%s: %+v, %q, not tested %v", name, proved, r.Status, r.Untested)
		}
	}
}

// TestUnderWay: a job in the middle says how far it is, and nothing of what is to come as done.
func TestUnderWay(t *testing.T) {
	_, f, r := fittedRecord(t, "Card room")
	if !strings.HasPrefix(r.Status, "Under way") || len(r.Course) != len(f.Log) {
		t.Errorf("%q with %d lines of %d entries", r.Status, len(r.Course), len(f.Log))
	}
	if len(r.Untested) == 0 || r.Trials[0].Entry != 0 {
		t.Error("something is tested that nobody tested")
	}
	none := record.Of(record.Source{Found: r.Found, Library: device.NewLibrary(nil)})
	if none.Status != "Nothing was fitted." || len(none.Back) > 0 {
		t.Errorf("%q, %d steps back", none.Status, len(none.Back))
	}
}

// TestTakenBack: what was taken back is not counted, and stands in the record as taken back.
func TestTakenBack(t *testing.T) {
	c, f, _ := fittedRecord(t, "Card room")
	last := f.Log[len(f.Log)-1]
	log := append(f.Log, fitting.Entry{Number: last.Number + 1, Time: last.Time, Kind: fitting.Undo, TookBack: fitting.TookBack{Of: last.Number}})
	source := record.Source{Found: inspect.Compile(c), Option: f.Option, Library: device.NewLibrary(nil), Log: f.Log}
	before := record.Of(source)
	source.Log = log
	after := record.Of(source)
	taken := 0
	for _, l := range after.Course {
		if strings.Contains(l.How, "taken back") {
			taken++
		}
	}
	used := func(r *record.Circuit) (n int) {
		for _, x := range r.Materials {
			n += x.Count
		}
		return n
	}
	step := f.Log[0].Run.Steps[last.Steps[0]-1]
	for _, x := range step.Uses {
		if used(before)-used(after) < x.Count {
			t.Errorf("%d of %s stay among what was used", x.Count, x.What)
		}
	}
	if taken != 1 || before.Status == after.Status || len(step.Uses) == 0 {
		t.Errorf("%d lines are taken back; before %q, after %q", taken, before.Status, after.Status)
	}
}

// TestFacts: of each device is asked what its model has, and nothing else.
func TestFacts(t *testing.T) {
	jobs := demo.Jobs()
	c := jobs[len(jobs)-1].Circuits[0]
	library := device.NewLibrary(nil)
	seen := map[string]bool{}
	for _, listed := range retrofit.Plan(c).Options {
		if !listed.Feasible {
			continue
		}
		o := procedure.Offer(inspect.Compile(c), retrofit.Request{Library: library}, listed.ID)
		for _, d := range record.Facts(o, library, nil) {
			var m device.Device
			for _, x := range o.Devices {
				if x.ID == d.Device {
					m, _ = library.Get(x.Device)
				}
			}
			has := map[string]bool{}
			for _, f := range d.Facts {
				has[f.ID], seen[f.ID] = true, true
			}
			if has["battery"] != (m.BatteryMonths > 0) || has["lowest"] != m.Dims || has["paired"] != (len(m.Radio) > 0 || m.Link != "") || !has["serial"] {
				t.Errorf("%s, %s: asked %v", o.ID, m.Name, has)
			}
		}
	}
	for _, id := range []string{"power-up", "paired", "serial", "lowest", "battery", "linked"} {
		if !seen[id] {
			t.Errorf("no device of any plan is asked for %s", id)
		}
	}
}

// TestParties: names and addresses have limits.
func TestParties(t *testing.T) {
	long := strings.Repeat("ü", 201)
	for name, err := range map[string]error{
		"firm": record.Firm{Name: long}.Check(), "picture": record.Firm{Picture: make([]byte, record.MostPicture+1)}.Check(),
		"customer": record.Customer{Address: long}.Check(), "notes": record.Customer{Notes: strings.Repeat("n", 2001)}.Check(),
	} {
		if err == nil {
			t.Errorf("%s: no limit", name)
		}
	}
	if err := (record.Customer{Name: strings.Repeat("ü", 200)}).Check(); err != nil {
		t.Errorf("200 letters: %v", err)
	}
}

// TestTroubles: faults that are often seen are told in the words of the practice.
func TestTroubles(t *testing.T) {
	for practice, word := range map[string]string{"na": "The breaker trips", "uk": "The MCB trips"} {
		found := false
		for _, x := range record.Troubles(names.For(&circuit.Circuit{Practice: practice})) {
			found = found || x.Text == word
			for _, text := range append(x.Do, x.Text) {
				if strings.ContainsAny(text, "{}") {
					t.Errorf("%s: %s", practice, text)
				}
			}
		}
		if !found {
			t.Errorf("%s: nobody says %q", practice, word)
		}
	}
}
