// Package calendar holds events as the rooms of the core make them; package ical writes them for the calendars that people
// use.
package calendar

import "time"

// Event is something that happens at a moment; on Weekdays ("mon") at that time of the clock from then to the end of Until,
// where there are any; or on the whole day, where it is of a Day.
type Event struct {
	ID       string // that no other event of the circuit has
	Summary  string
	At       time.Time
	Weekdays []string
	Until    int // a year
	Day      *Day
}

// Day is what an event of a whole day tells: in its description, and so many days before.
type Day struct {
	Description, Reminder string
	Before                int
}
