// Package fitted is how far demo circuits are fitted, and who does it for whom.
package fitted

import (
	"context"
	"fmt"
	"strings"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/core/schedule"
)

// Fitting is the plan that was chosen for a demo circuit, with the log of how far it was fitted.
type Fitting struct {
	Option *retrofit.Option
	Log    []fitting.Entry
}

// plans says of demo circuits by name which kind of plan was chosen, and up to which kind of step it is done; "" is to
// the end, proved and noted.
var plans = map[string]struct{ strategy, until string }{
	"Plate archive": {"main-aux", ""},
	"Card room":     {"", procedure.KindJoin},

	"Mill house, three floors":   {"message-switches-b1-cloud", onlyChosen},
	"Weaving shed, six switches": {"central-module", onlyChosen},
}

// onlyChosen stands for a plan that was chosen and not begun.
const onlyChosen = "chosen"

// Who works in the demo, and for whom.
var (
	Firm     = record.Firm{Name: "Lantern and Loft Electrical", Licence: "LL 0417", Address: "2 Sluice Lane, Millhaven"}
	Customer = record.Customer{Name: "The observatory guest house", Address: "Hilltop Road 9", Notes: "Ring at the east door."}
)

// UseOf is how the light of a demo circuit is used, nil where nobody said.
func UseOf(c *circuit.Circuit) *schedule.Use {
	if c.Name != "Mill house, three floors" {
		return nil
	}
	daily := []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}
	return &schedule.Use{
		Zone: "Europe/Lisbon", Latitude: 38.7, Longitude: -9.1, TodayHours: 7,
		Schedules: []schedule.Schedule{
			{Name: "dusk", Days: daily, At: "sunset", Offset: -15, On: true, Level: 60},
			{Name: "night", Days: daily, At: "23:00"},
			{Name: "early shift", Days: daily[:5], At: "05:30", On: true, Level: 40},
			{Name: "daylight", Days: daily, At: "sunrise", Offset: 20},
		},
		Inputs: []schedule.Input{{Name: "Smoke detector, loft", Kind: "smoke", Lights: []string{}}},
		Home:   []schedule.Hours{{From: "06:00", To: "08:00"}, {From: "18:00", To: "22:30"}},
		Load:   schedule.Load{Watts: 48, Table: []schedule.LevelOfWatts{{Level: 20, Watts: 12}, {Level: 60, Watts: 30}, {Level: 100, Watts: 48}}, Standby: 2.4, Most: 80},
		Tariff: schedule.Tariff{Price: 0.24, Bands: []schedule.Band{{Hours: schedule.Hours{From: "22:00", To: "08:00"}, Price: 0.13}}},
	}
}

const fitter = "R. Moss"

// Of is the fitting of a demo circuit that began some hours before now, nil where it has none. The error is a
// fault of the demo data.
func Of(ctx context.Context, c *circuit.Circuit, now time.Time) (*Fitting, error) {
	want, has := plans[c.Name]
	if !has {
		return nil, nil
	}
	found := inspect.Compile(c)
	id := ""
	for _, o := range retrofit.Plan(c).Options {
		if o.Feasible && strings.HasPrefix(o.ID, want.strategy) {
			id = o.ID
			break
		}
	}
	o := procedure.Offer(found, retrofit.Request{Library: device.NewLibrary(nil)}, id)
	if o == nil {
		return nil, fmt.Errorf("demo: %s offers nothing of %q", c.Name, want.strategy)
	}
	if want.until == onlyChosen {
		return &Fitting{Option: o}, nil
	}
	w := &worker{at: now.Add(-4 * time.Hour)}
	run := fitting.Read(nil).NewRun(found, o, device.NewLibrary(nil), nil, 2, nil)
	w.add(fitting.Entry{Kind: fitting.Begin, Began: fitting.Began{Run: run}})
	for {
		s := fitting.Read(w.log)
		if s.Now == 0 {
			break
		}
		step := s.Run.Steps[s.Now-1]
		if step.Kind == want.until {
			return &Fitting{o, w.log}, nil
		}
		w.add(fitting.Entry{Kind: fitting.Done, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Asked: step.Asks}})
	}
	return &Fitting{o, w.log}, w.prove(ctx, c, o)
}

// worker writes a log.
type worker struct {
	log []fitting.Entry
	at  time.Time
}

func (w *worker) add(e fitting.Entry) {
	w.at = w.at.Add(time.Duration(60+37*(len(w.log)%5)) * time.Second)
	e.Number, e.Time, e.By = len(w.log)+1, w.at, fitter
	w.log = append(w.log, e)
}

// prove presses what shows that the work is right, as right work does it, and notes a few trials and facts.
func (w *worker) prove(ctx context.Context, c *circuit.Circuit, o *retrofit.Option) error {
	proof, err := prove.Sequence(ctx, c, o)
	if err != nil {
		return err
	}
	n := electric.New(o.After)
	state, _ := n.StateOf(nil)
	look := func(press string) {
		lamps := map[string]string{}
		solved := n.Solve(state)
		for i, id := range n.LampIDs() {
			lamps[id] = map[bool]string{true: "lit", false: "dark"}[solved.Lit(i)]
		}
		w.add(fitting.Entry{Kind: fitting.Press, Pressed: fitting.Pressed{Press: press, Lamps: lamps}})
	}
	look("")
	for _, press := range proof.Presses {
		state, _ = n.Press(state, press, nil)
		look(press)
	}
	library := device.NewLibrary(nil)
	yes := true
	for i, t := range record.Trials(o, library, nil) {
		if i < 4 {
			w.add(fitting.Entry{Kind: fitting.Trial, Place: t.Place, Tried: fitting.Tried{Path: t.Path, From: t.From, Works: &yes, Seconds: 0.2}})
		}
	}
	for i, d := range record.Facts(o, library, nil) {
		for _, f := range d.Facts {
			if f.ID == "serial" {
				w.add(fitting.Entry{Kind: fitting.Device, Place: d.Device, Fact: fitting.Fact{Field: f.ID}, Value: fmt.Sprintf("0042-%03d", 17*(i+1))})
			}
		}
	}
	return nil
}
