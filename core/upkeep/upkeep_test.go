package upkeep

import (
	"math"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/retrofit"
)

// TestOf works ten years of three options out by hand.
func TestOf(t *testing.T) {
	library := device.NewLibrary(nil)
	get := func(id string) device.Device {
		d, known := library.Get(id)
		if !known {
			t.Fatalf("no device %s", id)
		}
		return d
	}
	a := Assumptions{Years: 10, Energy: 0.5, Battery: 3, Hour: 60, LampYears: 4, Lamp: 5, Lamps: 2, CatalogueFor: 2}
	remote, lamp := get("battery-remote"), get("smart-lamp")
	for _, x := range []struct {
		name string
		o    retrofit.Option
		want float64
	}{
		// Two lamps wear out after four and after eight years.
		{"one device", retrofit.Option{Kitted: retrofit.Kitted{Devices: []retrofit.Fitted{{Device: "sensing-3way"}}}, Worth: retrofit.Worth{Metrics: &retrofit.Metrics{Devices: 1, Price: 40, Minutes: 30, StandbyYear: 8}}},
			40*2 + 30 + 10*8*0.5 + 2*2*5},
		{"with a remote", retrofit.Option{Kitted: retrofit.Kitted{Devices: []retrofit.Fitted{{Device: "radio-main"}, {Device: "battery-remote"}}}, Worth: retrofit.Worth{Metrics: &retrofit.Metrics{Devices: 2, Price: 60}}},
			60*2 + float64(120/remote.BatteryMonths)*3 + 2*2*5},
		{"smart lamps", retrofit.Option{Strategy: retrofit.SmartLamps, Kitted: retrofit.Kitted{Devices: []retrofit.Fitted{{Device: "smart-lamp", Count: 1}, {Device: "smart-lamp", Count: 1}}}, Worth: retrofit.Worth{Metrics: &retrofit.Metrics{Devices: 2, Price: 2 * lamp.Price}}},
			2*lamp.Price*2 + 2*2*lamp.Price*2},
	} {
		line := Of(&x.o, library, a)
		if got := line.last(); math.Abs(got-x.want) > 1e-9 || len(line.Costs) != 11 {
			t.Errorf("%s: %v after ten years, want %v: %+v", x.name, got, x.want, line.Parts)
		}
		sum := 0.0
		for _, p := range line.Parts {
			sum += p.Cost
		}
		if math.Abs(sum-line.last()) > 1e-9 {
			t.Errorf("%s: the parts are %v, all is %v", x.name, sum, line.last())
		}
		for year := 1; year < len(line.Costs); year++ {
			if line.Costs[year] < line.Costs[year-1] {
				t.Errorf("%s: year %d gives money back", x.name, year)
			}
		}
	}
}

// TestCompare: of each sort the cheapest option is taken, none twice, the cheapest first; no other of its sort is cheaper.
func TestCompare(t *testing.T) {
	library := device.NewLibrary(nil)
	plan := retrofit.Plan(circuittest.Straight())
	a := Usual()
	got := Compare(plan.Options, library, a)
	if len(got.Lines) != 3 || len(got.Says) != 2 {
		t.Fatalf("%d sorts, %v", len(got.Lines), got.Says)
	}
	for i, line := range got.Lines {
		if i > 0 && line.last() < got.Lines[i-1].last() {
			t.Errorf("%s is cheaper than what stands above it", line.Title)
		}
		for k := range plan.Options {
			o := &plan.Options[k]
			if o.Feasible && SortOf(o) == line.Sort {
				if other := Of(o, library, a); other.last() < line.last()-1e-9 {
					t.Errorf("%s costs %v, and %s %v", line.Title, line.last(), o.Title, other.last())
				}
			}
		}
	}
	a.Years = 31
	if place, _ := a.Check(); place != "years" {
		t.Errorf("31 years: %q", place)
	}
	a = Usual()
	a.LampYears = 0
	if place, _ := a.Check(); place != "lampYears" {
		t.Errorf("lamps that last no time: %q", place)
	}
}
