package schedule

import (
	"math/rand/v2"
	"slices"
	"time"
)

// event is one turning on or off.
type event struct {
	at    time.Time
	on    bool
	level int // in percent
	by    int // the schedule, -1 for [Away]
}

// evening is when somebody who is home turns a light on and off.
var evening = Hours{From: "17:30", To: "23:30"}

// eventsOf lists what happens on one day, in its order.
func (u *Use) eventsOf(day time.Time) []event {
	var out []event
	weekday := weekdays[day.Weekday()]
	for i := range u.Schedules {
		s := &u.Schedules[i]
		if !slices.Contains(s.Days, weekday) {
			continue
		}
		if at, ok := u.momentOf(s, day); ok {
			out = append(out, event{at, s.On, full(s.Level), i})
		}
	}
	out = append(out, u.away(day)...)
	slices.SortStableFunc(out, func(a, b event) int { return a.at.Compare(b.at) })
	return out
}

// momentOf is when a schedule acts on a day; never where the sun does not rise or set.
func (u *Use) momentOf(s *Schedule, day time.Time) (time.Time, bool) {
	if minutes, ok := clock(s.At); ok {
		y, m, d := day.Date()
		return time.Date(y, m, d, minutes/60, minutes%60, 0, 0, day.Location()), true
	}
	at, set := Sun(day, u.Latitude, u.Longitude)
	if s.At == "sunset" {
		at = set
	}
	return at.Add(time.Duration(s.Offset) * time.Minute).Truncate(time.Minute), !at.IsZero()
}

// away are the turnings of an evening on which nobody is home: two to four times on, of twelve minutes to an hour and a half,
// by chance from the seed and the date.
func (u *Use) away(day time.Time) []event {
	a := u.Away
	if a == nil {
		return nil
	}
	if date := day.Format(time.DateOnly); date < a.From || date > a.To {
		return nil
	}
	rng := rand.New(rand.NewPCG(a.Seed, uint64(day.Year()*1000+day.YearDay())))
	from, _ := clock(evening.From)
	to, _ := clock(evening.To)
	var out []event
	y, m, d := day.Date()
	at := func(minute int) time.Time { return time.Date(y, m, d, minute/60, minute%60, 0, 0, day.Location()) }
	switch dusk, known := u.dusk(day); {
	case !known: // the sun does not set: no light is needed
		return nil
	case dusk > from:
		from = dusk
	}
	minute := from + rng.IntN(60)
	for range 2 + rng.IntN(3) {
		stay := 12 + rng.IntN(79)
		if minute+stay >= to {
			break
		}
		out = append(out, event{at(minute), true, 100, -1}, event{at(minute + stay), false, 0, -1})
		minute += stay + 10 + rng.IntN(50)
	}
	return out
}

// dusk is the minute of the day from which a light is wanted: sunset, or the first minute where the sun does not rise at all.
// known is false where it does not set.
func (u *Use) dusk(day time.Time) (minute int, known bool) {
	rise, set := Sun(day, u.Latitude, u.Longitude)
	switch {
	case !set.IsZero():
		return set.Hour()*60 + set.Minute(), true
	case !rise.IsZero(): // it rises and stays up
		return 0, false
	}
	return 0, Dark(day, u.Latitude, u.Longitude)
}

// location is the zone of the use, which was checked.
func (u *Use) location() *time.Location {
	zone, err := time.LoadLocation(u.Zone)
	if err != nil {
		return time.UTC
	}
	return zone
}

// days calls for each day of a year, with its midnight.
func (u *Use) days(year int, each func(day time.Time)) {
	zone := u.location()
	for day := time.Date(year, 1, 1, 0, 0, 0, 0, zone); day.Year() == year; day = time.Date(year, day.Month(), day.Day()+1, 0, 0, 0, 0, zone) {
		each(day)
	}
}
