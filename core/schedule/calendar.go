package schedule

import (
	"fmt"
	"strings"
	"time"

	"ambivia/core/calendar"
)

// Calendar writes a year of the schedules as an iCalendar file: those by the clock once, with their days; those by the sun,
// and the evenings on which nobody is home, day by day.
// Its ids begin with that of the circuit, so that two circuits in one calendar do not replace each other.
func (u *Use) Calendar(circuit, name string, year int, now time.Time) []byte {
	f := calendar.New("Schedules", circuit, now)
	for i := range u.Schedules {
		s := &u.Schedules[i]
		if _, byClock := clock(s.At); !byClock {
			continue
		}
		var days []string
		for _, d := range s.Days {
			days = append(days, strings.ToUpper(d[:2]))
		}
		first, done := time.Time{}, false
		u.days(year, func(day time.Time) {
			for _, e := range u.eventsOf(day) {
				if !done && e.by == i {
					first, done = e.at, true
				}
			}
		})
		f.Event(fmt.Sprintf("schedule-%d-%d", i, year), u.said(name, s)).Weekly(first, strings.Join(days, ","), year)
	}
	u.days(year, func(day time.Time) {
		for n, e := range u.eventsOf(day) {
			uid := fmt.Sprintf("day-%s-%d", day.Format("20060102"), n)
			switch {
			case e.by < 0:
				f.Event(uid, name+": "+map[bool]string{true: "on", false: "off"}[e.on]+", as if somebody were home").At(e.at)
			case u.Schedules[e.by].At == "sunrise" || u.Schedules[e.by].At == "sunset":
				f.Event(uid, u.said(name, &u.Schedules[e.by])).At(e.at)
			}
		}
	})
	return f.End()
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
