// Package calendar makes the iCalendar files of the program: what happens when, for any calendar that people use.
package calendar

import (
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"
)

// File is an iCalendar file that is being made. Ids of events begin with that of the circuit they are of, so that two
// circuits in one calendar do not replace each other.
type File struct {
	of  *ics.Calendar
	id  string
	now time.Time
}

// New begins the file of one part of the program for one circuit, at a moment.
func New(part, circuit string, now time.Time) *File {
	f := &File{ics.NewCalendar(), circuit, now}
	f.of.SetProductId("-//Ambivia//" + part + "//EN")
	return f
}

// Event is one event of a file.
type Event struct{ of *ics.VEvent }

// Event adds an event, by an id that no other of the circuit has.
func (f *File) Event(id, summary string) Event {
	e := f.of.AddEvent(fmt.Sprintf("%s-%s@ambivia.invalid", f.id, id))
	e.SetDtStampTime(f.now)
	e.SetSummary(summary)
	return Event{e}
}

// onTheClock is a moment as the clock on the wall says it, in whichever zone the calendar is.
const onTheClock = "20060102T150405"

// At lets it happen at a moment, for a minute.
func (e Event) At(t time.Time) Event {
	e.of.SetStartAt(t)
	e.of.SetProperty(ics.ComponentPropertyDuration, "PT1M")
	return e
}

// Weekly lets it happen on days of the week ("MO") at a time of the clock, from its first day to the end of a year.
func (e Event) Weekly(first time.Time, days string, year int) Event {
	e.of.SetProperty(ics.ComponentPropertyDtStart, first.Format(onTheClock))
	e.of.SetProperty(ics.ComponentPropertyDuration, "PT1M")
	e.of.AddRrule(fmt.Sprintf("FREQ=WEEKLY;BYDAY=%s;UNTIL=%d1231T235959", days, year))
	return e
}

// OnDay lets it happen on a whole day, with a reminder so many days before.
func (e Event) OnDay(day time.Time, description, reminder string, before int) Event {
	e.of.SetAllDayStartAt(day)
	e.of.SetDescription(description)
	alarm := e.of.AddAlarm()
	alarm.SetAction(ics.ActionDisplay)
	alarm.SetDescription(reminder)
	alarm.SetTrigger(fmt.Sprintf("-P%dD", before))
	return e
}

// End ends the file and returns it.
func (f *File) End() []byte { return []byte(f.of.Serialize(ics.WithNewLineWindows)) }
