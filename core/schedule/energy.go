package schedule

import (
	"context"
	"math"
	"time"
)

// Amount is energy in kilowatt-hours and what it costs, in the currency of the tariff.
type Amount struct {
	KWh  float64 `json:"kWh"`
	Cost float64 `json:"cost"`
}

func (a *Amount) add(kWh, price float64) {
	a.KWh += kWh
	a.Cost += kWh * price
}

// Month is one month of a year.
type Month struct {
	Month int     `json:"month"`
	Hours float64 `json:"hours"` // lit
	Amount
}

// Year is what a year of a use amounts to.
type Year struct {
	Year   int     `json:"year"`
	Hours  float64 `json:"hours"` // lit
	Months []Month `json:"months"`
	Amount
	// Standby is the part of it that is drawn with the light off.
	Standby Amount `json:"standby"`
	// Today is the light as it is used today; Saved is how much less the use takes, negative where it takes more.
	Today Amount `json:"today"`
	Saved Amount `json:"saved"`
	// Uncapped is the same use without a highest level, and SavedByCap what that level saves of it.
	Uncapped   Amount     `json:"uncapped"`
	SavedByCap Amount     `json:"savedByCap"`
	Conflicts  []Conflict `json:"conflicts"`
}

// wattsAt is what the light draws at a level: by the table, straight lines between what was measured, or in proportion.
func (l *Load) wattsAt(level int) float64 {
	if len(l.Table) == 0 {
		return l.Watts * float64(level) / 100
	}
	below := LevelOfWatts{}
	for _, x := range l.Table {
		if level <= x.Level {
			return below.Watts + (x.Watts-below.Watts)*float64(level-below.Level)/float64(x.Level-below.Level)
		}
		below = x
	}
	return below.Watts
}

// used is the level that is used where one is asked.
func (l *Load) used(level int) int {
	if l.Most > 0 {
		level = min(level, l.Most)
	}
	return max(level, l.Least)
}

// prices lists the price of each minute of a day by the clock; where bands overlap the first counts.
func (t *Tariff) prices() (out [24 * 60]float64) {
	for minute := range out {
		out[minute] = t.Price
		for _, b := range t.Bands {
			if b.holds(minute) {
				out[minute] = b.Price
				break
			}
		}
	}
	return out
}

// levelBefore is the level at which the last turning before a year leaves the light: the year begins as the one before ended.
func (u *Use) levelBefore(year int) int {
	for back := 1; back <= 366; back++ {
		events := u.eventsOf(time.Date(year, 1, 1-back, 0, 0, 0, 0, u.location()))
		if len(events) == 0 {
			continue
		}
		if last := events[len(events)-1]; last.on {
			return last.level
		}
		return 0
	}
	return 0
}

// Of works out a year of a use that was checked, minute by minute. The light is off when the year begins. The error is the
// context's.
func (u *Use) Of(ctx context.Context, year int) (*Year, error) {
	out := &Year{Year: year, Months: make([]Month, 12), Conflicts: []Conflict{}}
	for i := range out.Months {
		out.Months[i].Month = i + 1
	}
	prices := u.Tariff.prices()
	full := u.Load.wattsAt(100)
	today := int(u.TodayHours * 60) // the evening hours before midnight
	level := u.levelBefore(year)
	found := conflicts{use: u}
	u.days(year, func(day time.Time) {
		if ctx.Err() != nil {
			return
		}
		events := u.eventsOf(day)
		found.look(day, events)
		month := &out.Months[day.Month()-1]
		next := time.Date(day.Year(), day.Month(), day.Day()+1, 0, 0, 0, 0, day.Location())
		minutes := int(next.Sub(day).Minutes())
		for n := range minutes {
			at := day.Add(time.Duration(n) * time.Minute)
			for len(events) > 0 && !events[0].at.After(at) {
				if level = 0; events[0].on {
					level = events[0].level
				}
				events = events[1:]
			}
			clock := n
			if minutes != len(prices) { // the clock is put forward or back on this day
				clock = at.Hour()*60 + at.Minute()
			}
			price := prices[clock]
			watts := u.Load.Standby
			if level > 0 {
				month.Hours += 1.0 / 60
				watts = u.Load.wattsAt(u.Load.used(level)) + u.Load.Standby
				out.Uncapped.add((u.Load.wattsAt(max(level, u.Load.Least))+u.Load.Standby)/60_000, price)
			} else {
				out.Standby.add(watts/60_000, price)
				out.Uncapped.add(watts/60_000, price)
			}
			month.add(watts/60_000, price)
			if minutes-n <= today {
				out.Today.add(full/60_000, price)
			}
		}
		for _, e := range events { // at the last minute
			if level = 0; e.on {
				level = e.level
			}
		}
	})
	for _, m := range out.Months {
		out.Hours += m.Hours
		out.KWh += m.KWh
		out.Cost += m.Cost
	}
	out.Saved = Amount{out.Today.KWh - out.KWh, out.Today.Cost - out.Cost}
	if u.Load.Most > 0 { // else nothing is saved, whatever the sums of many small numbers say
		out.SavedByCap = Amount{math.Max(0, out.Uncapped.KWh-out.KWh), math.Max(0, out.Uncapped.Cost-out.Cost)}
	}
	out.Conflicts = found.list()
	return out, ctx.Err()
}
