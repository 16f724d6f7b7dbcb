package schedule

import (
	"fmt"
	"strings"
	"time"

	"ambivia/core/calendar"
)

// onTheClock is a moment as the clock on the wall says it.
const onTheClock = "20060102T150405"

// Calendar writes a year of the schedules as an iCalendar file: those by the clock once, with their days; those by the sun,
// and the evenings on which nobody is home, day by day.
// Its ids begin with that of the circuit, so that two circuits in one calendar do not replace each other.
func (u *Use) Calendar(circuit, name string, year int, now time.Time) []byte {
	f := calendar.New("Schedules")
	write := func(uid, summary string, at time.Time, more ...string) {
		f.Line("BEGIN:VEVENT")
		f.Linef("UID:%s-%s@ambivia.invalid", circuit, uid)
		f.Line("DTSTAMP:" + calendar.Stamp(now))
		if len(more) > 0 { // what repeats stays at the same time of the clock, wherever the calendar is
			f.Line("DTSTART:" + at.Format(onTheClock))
		} else {
			f.Line("DTSTART:" + calendar.Stamp(at))
		}
		f.Line("DURATION:PT1M")
		for _, line := range more {
			f.Line(line)
		}
		f.Text("SUMMARY", summary)
		f.Line("END:VEVENT")
	}
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
		write(fmt.Sprintf("schedule-%d-%d", i, year), u.said(name, s), first, "RRULE:FREQ=WEEKLY;BYDAY="+strings.Join(days, ",")+fmt.Sprintf(";UNTIL=%d1231T235959", year))
	}
	u.days(year, func(day time.Time) {
		for n, e := range u.eventsOf(day) {
			uid := fmt.Sprintf("day-%s-%d", day.Format("20060102"), n)
			switch {
			case e.by < 0:
				write(uid, name+": "+map[bool]string{true: "on", false: "off"}[e.on]+", as if somebody were home", e.at)
			case u.Schedules[e.by].At == "sunrise" || u.Schedules[e.by].At == "sunset":
				write(uid, u.said(name, &u.Schedules[e.by]), e.at)
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
