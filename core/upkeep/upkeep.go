// Package upkeep says what options cost over years: what is bought, the energy that devices draw, batteries, and lamps that wear
// out.
package upkeep

import (
	"fmt"
	"math"
	"slices"

	"ambivia/core/device"
	"ambivia/core/money"
	"ambivia/core/retrofit"
)

// Assumptions are what nobody can know beforehand, so that whoever asks says it. Prices are in one currency.
type Assumptions struct {
	Years        int     `json:"years"`
	Energy       float64 `json:"energy"`       // price of a kilowatt-hour
	Battery      float64 `json:"battery"`      // price of one
	Hour         float64 `json:"hour"`         // price of an hour of work, 0 to leave it out
	LampYears    float64 `json:"lampYears"`    // how long a lamp lasts
	Lamp         float64 `json:"lamp"`         // price of a plain one
	Lamps        int     `json:"lamps"`        // how many there are
	CatalogueFor float64 `json:"catalogueFor"` // what one unit of the catalogue's prices is in this currency
	// Currency is what prices are in, as ISO 4217 has it; "" for plain numbers.
	Currency string `json:"currency,omitempty"`
}

// Usual are assumptions to begin with: rules of thumb that everybody changes.
func Usual() Assumptions {
	return Assumptions{Years: 10, Energy: 0.30, Battery: 2, LampYears: 8, Lamp: 4, Lamps: 1, CatalogueFor: 1}
}

// most years, and the highest price that is worked with.
const (
	mostYears = 30
	mostPrice = 1_000_000
)

// Check says which of the assumptions cannot be; "" for none.
func (a *Assumptions) Check() (place, text string) {
	if a.Years < 1 || a.Years > mostYears {
		return "years", fmt.Sprintf("from 1 to %d", mostYears)
	}
	for place, price := range map[string]float64{"energy": a.Energy, "battery": a.Battery, "hour": a.Hour, "lamp": a.Lamp, "catalogueFor": a.CatalogueFor} {
		if price < 0 || price > mostPrice || math.IsNaN(price) {
			return place, fmt.Sprintf("from 0 to %d", mostPrice)
		}
	}
	if !money.Valid(a.Currency) {
		return "currency", "three capitals, as EUR"
	}
	if a.LampYears < 0.5 || a.LampYears > 100 {
		return "lampYears", "from half a year to 100"
	}
	if a.Lamps < 0 || a.Lamps > 1000 {
		return "lamps", "from 0 to 1000"
	}
	return "", ""
}

// Line is what one option costs by the end of each year; the first is what is spent before the first.
type Line struct {
	Option string    `json:"option"`
	Title  string    `json:"title"`
	Sort   string    `json:"sort"`
	Name   string    `json:"name"` // of the sort
	Costs  []float64 `json:"costs"`
	Parts  []Part    `json:"parts"` // of the last year's sum
}

// Part is a part of what an option costs.
type Part struct {
	What string  `json:"what"`
	Cost float64 `json:"cost"`
}

// Sorts of options that are held against each other: one device that senses the old switches, several devices as a kit has
// them, and lamps that are smart themselves.
const (
	Single = "single"
	Kit    = "kit"
	Lamps  = "lamps"
)

// names are what people call the sorts.
var names = map[string]string{Single: "one device", Kit: "several devices", Lamps: "smart lamps"}

// SortOf is the sort of an option, "" where it is none of these.
func SortOf(o *retrofit.Option) string {
	switch {
	case o.Strategy == retrofit.SmartLamps:
		return Lamps
	case o.Metrics.Devices == 1:
		return Single
	case o.Metrics.Devices > 1:
		return Kit
	}
	return ""
}

// Of works out one option with devices of a library.
func Of(o *retrofit.Option, library *device.Library, a Assumptions) Line {
	out := Line{Option: o.ID, Title: o.Title, Sort: SortOf(o), Name: names[SortOf(o)]}
	var bought, batteries, lamps float64
	bought = o.Metrics.Price * a.CatalogueFor
	work := o.Metrics.Minutes / 60 * a.Hour
	energy := o.Metrics.StandbyYear * a.Energy
	smart := 0
	var months []int
	for _, f := range o.Devices {
		d, known := library.Get(f.Device)
		switch {
		case !known:
		case d.PerLamp:
			lamps += d.Price * a.CatalogueFor * float64(f.Count) // a new one for each lamp
			smart += f.Count
		case d.BatteryMonths > 0:
			months = append(months, d.BatteryMonths)
		}
	}
	lamps += a.Lamp * float64(max(0, a.Lamps-smart)) // those that stay plain
	spent := bought + work
	out.Costs = append(out.Costs, spent)
	var worn float64
	for year := 1; year <= a.Years; year++ {
		now := 0.0
		for _, m := range months {
			now += float64(year*12/m-(year-1)*12/m) * a.Battery
		}
		batteries += now
		// Lamps are bought anew when they have worn out; those of the first year are there, or bought.
		fresh := math.Floor(float64(year)/a.LampYears) - math.Floor(float64(year-1)/a.LampYears)
		worn += fresh * lamps
		spent += energy + now + fresh*lamps
		out.Costs = append(out.Costs, spent)
	}
	for _, p := range []Part{{"devices", bought}, {"work", work}, {"standby", energy * float64(a.Years)}, {"batteries", batteries}, {"lamps that wore out", worn}} {
		if p.Cost > 0 {
			out.Parts = append(out.Parts, p)
		}
	}
	return out
}

// Compared are the cheapest of each sort over the years, the cheapest first, with what the others cost more in words.
type Compared struct {
	Lines []Line   `json:"lines"`
	Says  []string `json:"says"`
}

// Compare holds the cheapest feasible option of each sort against those of the others.
func Compare(options []retrofit.Option, library *device.Library, a Assumptions) Compared {
	best := map[string]Line{}
	for i := range options {
		o := &options[i]
		if !o.Feasible || SortOf(o) == "" {
			continue
		}
		line := Of(o, library, a)
		if have, is := best[line.Sort]; !is || line.last() < have.last() {
			best[line.Sort] = line
		}
	}
	out := Compared{Lines: []Line{}, Says: []string{}}
	for _, sort := range []string{Single, Kit, Lamps} {
		if line, is := best[sort]; is {
			out.Lines = append(out.Lines, line)
		}
	}
	slices.SortStableFunc(out.Lines, func(a, b Line) int {
		switch {
		case a.last() < b.last():
			return -1
		case a.last() > b.last():
			return 1
		}
		return 0
	})
	for _, line := range out.Lines[min(1, len(out.Lines)):] {
		first := out.Lines[0]
		out.Says = append(out.Says, fmt.Sprintf("Over %d years %s cost %s more than %s.", a.Years, names[line.Sort], money.Say(math.Round((line.last()-first.last())*100)/100, a.Currency), names[first.Sort]))
	}
	return out
}

func (l *Line) last() float64 { return l.Costs[len(l.Costs)-1] }
