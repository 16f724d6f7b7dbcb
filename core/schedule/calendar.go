package schedule

import (
	"fmt"
	"time"

	"ambivia/core/calendar"
)

// Events lists a year of the schedules for a calendar: those by the clock once, with their days; those by the sun, and the
// evenings on which the house is empty, day by day. Name is that of the light.
func (u *Use) Events(name string, year int) []calendar.Event {
	var out []calendar.Event
	for i := range u.Schedules {
		s := &u.Schedules[i]
		if _, byClock := clock(s.At); !byClock {
			continue
		}
		first, done := time.Time{}, false
		u.days(year, func(day time.Time) {
			for _, e := range u.eventsOf(day) {
				if !done && e.by == i {
					first, done = e.at, true
				}
			}
		})
		out = append(out, calendar.Event{ID: fmt.Sprintf("schedule-%d-%d", i, year), Summary: u.said(name, s), At: first, Weekdays: s.Days, Until: year})
	}
	u.days(year, func(day time.Time) {
		for n, e := range u.eventsOf(day) {
			id := fmt.Sprintf("day-%s-%d", day.Format("20060102"), n)
			switch {
			case e.by < 0:
				out = append(out, calendar.Event{ID: id, At: e.at, Summary: name + ": " + map[bool]string{true: "on", false: "off"}[e.on] + ", as if somebody were home"})
			case u.Schedules[e.by].At == "sunrise" || u.Schedules[e.by].At == "sunset":
				out = append(out, calendar.Event{ID: id, At: e.at, Summary: u.said(name, &u.Schedules[e.by])})
			}
		}
	})
	return out
}

func (u *Use) said(name string, s *Schedule) string {
	what := "off"
	if s.On {
		what = "on"
	}
	if s.Level > 0 {
		what += fmt.Sprintf(" at %d %%", s.Level)
	}
	text := name + ": " + what
	if s.Name != "" {
		text += ", " + s.Name
	}
	return text
}
