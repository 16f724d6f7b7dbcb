package ical

import (
	"strings"
	"testing"
	"time"

	"ambivia/core/calendar"
	"ambivia/core/record"
)

// TestWrite: each kind of event is written as the standard has it, no line is longer than it may be, and no letter is cut.
func TestWrite(t *testing.T) {
	now := time.Date(2026, 11, 27, 8, 0, 0, 0, time.UTC)
	name := strings.Repeat("Straße über der Schleuse, ", 8)
	events := append(record.BatteryEvents(name, []record.Battery{{Device: "r1", Name: "wall remote; white", Where: "Pit\nhatch", In: now, Due: now.AddDate(0, 24, 0)}}),
		calendar.Event{ID: "schedule-0", Summary: "Hall: on", At: now, Weekdays: []string{"mon", "sun"}, Until: 2026}, calendar.Event{ID: "day-1", Summary: "Hall: off", At: now})
	text := string(Write("Record", "c1", events, now))
	whole := strings.ReplaceAll(text, "\r\n ", "")
	for _, want := range []string{"BEGIN:VCALENDAR\r\n", "DTSTART;VALUE=DATE:20281127\r\n", "TRIGGER:-P7D\r\n", `remote\; white`, `Pit\nhatch`, "UID:c1-schedule-0@ambivia.invalid\r\n",
		"DTSTART:20261127T080000\r\n", "RRULE:FREQ=WEEKLY;BYDAY=MO,SU;UNTIL=20261231T235959\r\n", "DTSTART:20261127T080000Z\r\n", strings.ReplaceAll(name, ",", `\,`)} {
		if !strings.Contains(whole, want) {
			t.Errorf("no %q in\n%s", want, text)
		}
	}
	if n := strings.Count(text, "BEGIN:VEVENT"); n != len(events) || n != strings.Count(text, "END:VEVENT") {
		t.Errorf("%d events of %d", n, len(events))
	}
	for line := range strings.Lines(text) {
		if len(line) > 75+2 || !strings.HasSuffix(line, "\r\n") {
			t.Errorf("%q", line)
		}
	}
}
