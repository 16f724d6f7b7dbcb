// Package calendar writes iCalendar files (RFC 5545), which any calendar reads.
package calendar

import (
	"fmt"
	"strings"
	"time"
)

// File is an iCalendar file that is being written.
type File struct{ b strings.Builder }

// New begins a file of one part of the program.
func New(part string) *File {
	f := &File{}
	f.Line("BEGIN:VCALENDAR")
	f.Line("VERSION:2.0")
	f.Line("PRODID:-//Ambivia//" + part + "//EN")
	return f
}

// Line writes a line as it is, folded where it is longer than 75 octets and no letter is cut.
func (f *File) Line(text string) {
	for len(text) > 73 {
		at := 73
		for at > 0 && text[at]&0xC0 == 0x80 {
			at--
		}
		f.b.WriteString(text[:at] + "\r\n ")
		text = text[at:]
	}
	f.b.WriteString(text + "\r\n")
}

// Text writes a line whose value is free text.
func (f *File) Text(name, value string) { f.Line(name + ":" + escape(value)) }

// Linef writes a line.
func (f *File) Linef(text string, of ...any) { f.Line(fmt.Sprintf(text, of...)) }

// Stamp is a moment as such files have it, in UTC.
func Stamp(t time.Time) string { return t.UTC().Format("20060102T150405Z") }

// End ends the file and returns it.
func (f *File) End() []byte {
	f.Line("END:VCALENDAR")
	return []byte(f.b.String())
}

var escape = strings.NewReplacer(`\`, `\\`, ";", `\;`, ",", `\,`, "\n", `\n`, "\r", "").Replace
