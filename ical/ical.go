// Package ical writes events as iCalendar files (RFC 5545). It stands outside the core, since the library that it writes with
// can fetch calendars too.
package ical

import (
	"fmt"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"ambivia/core/calendar"
)

// onTheClock is a moment as the clock on the wall says it, in whichever zone the calendar is.
const onTheClock = "20060102T150405"

// Write writes the events of one part of the program for one circuit. Ids begin with that of the circuit, so that two circuits
// in one calendar do not replace each other.
func Write(part, circuit string, events []calendar.Event, now time.Time) []byte {
	file := ics.NewCalendar()
	file.SetProductId("-//Ambivia//" + part + "//EN")
	for _, x := range events {
		e := file.AddEvent(fmt.Sprintf("%s-%s@ambivia.invalid", circuit, x.ID))
		e.SetDtStampTime(now)
		e.SetSummary(x.Summary)
		switch {
		case x.Day != nil:
			e.SetAllDayStartAt(x.At)
			e.SetDescription(x.Day.Description)
			alarm := e.AddAlarm()
			alarm.SetAction(ics.ActionDisplay)
			alarm.SetDescription(x.Day.Reminder)
			alarm.SetTrigger(fmt.Sprintf("-P%dD", x.Day.Before))
			continue
		case len(x.Weekdays) > 0:
			var days []string
			for _, day := range x.Weekdays {
				days = append(days, strings.ToUpper(day[:2]))
			}
			e.SetProperty(ics.ComponentPropertyDtStart, x.At.Format(onTheClock))
			e.AddRrule(fmt.Sprintf("FREQ=WEEKLY;BYDAY=%s;UNTIL=%d1231T235959", strings.Join(days, ","), x.Until))
		default:
			e.SetStartAt(x.At)
		}
		e.SetProperty(ics.ComponentPropertyDuration, "PT1M")
	}
	return []byte(file.Serialize(ics.WithNewLineWindows))
}
