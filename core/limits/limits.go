// Package limits says how much a job may hold. The same limits are kept on every way in, by hand,
// by file and by archive, and on every way out: so whatever was stored can be written, and what was
// written can be read again.
package limits

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// Limits of a job and what belongs to it. Letters are counted as people count them, in any script.
const (
	NameLetters    = 120  // of a job's name
	NoteLetters    = 1000 // of a photograph's note
	SummaryLetters = 1000 // of what a revision is told as
	BoxLetters     = 32   // of the id of a photograph's box

	Circuits     = 200       // of a job
	Revisions    = 10_000    // of a circuit
	HistoryBytes = 192 << 20 // of all documents of a circuit's history together
	Photos       = 200       // of a circuit
	PhotoBytes   = 4 << 20   // of a photograph as it is kept
	LogEntries   = 20_000    // of a circuit's log
	LogBytes     = 16 << 20  // of the same; they count among those of the history
	JobBytes     = 1 << 30   // of all documents and photographs of a job together
)

// Error says which limit is reached, and what to do.
type Error struct {
	Code  string // "name", "note" or "full"
	Place string // the field, or ""
	Text  string
}

func (e *Error) Error() string { return e.Text }

// Full is the error of a limit on how much there may be.
func Full(format string, args ...any) error {
	return &Error{"full", "", fmt.Sprintf(format, args...)}
}

// Log refuses an entry of so many bytes to a log that has as many entries and bytes as it may, with an [*Error].
func Log(entries int, bytes, more int64) error {
	if entries >= LogEntries || bytes+more > LogBytes {
		return Full("a circuit's log has %d entries and %d MB at most; make a copy of the job to go on", LogEntries, LogBytes>>20)
	}
	return nil
}

// Name is a job's name without the blanks about it, or an [*Error].
func Name(name string) (string, error) {
	name = strings.TrimSpace(name)
	if n := utf8.RuneCountInString(name); n == 0 || n > NameLetters || !utf8.ValidString(name) {
		return "", &Error{"name", "name", fmt.Sprintf("a name has 1 to %d letters", NameLetters)}
	}
	return name, nil
}

// Note refuses a note that is longer than it may be, with an [*Error].
func Note(note string) error {
	if utf8.RuneCountInString(note) > NoteLetters || !utf8.ValidString(note) {
		return &Error{"note", "note", fmt.Sprintf("a note has at most %d letters", NoteLetters)}
	}
	return nil
}

// Clip shortens a text to so many letters, the last of which are dots where something is left out.
// Where room on paper counts and not letters, package lettering does it.
func Clip(text string, letters int) string {
	if utf8.RuneCountInString(text) <= letters {
		return text
	}
	return string([]rune(text)[:letters-1]) + "…"
}

// Message keeps a text from outside to one line of bearable length, to be put into a message.
func Message(text string) string {
	return Clip(strings.Map(func(r rune) rune {
		if r < ' ' {
			return ' '
		}
		return r
	}, text), messageLetters)
}

const messageLetters = 200

// Summary shortens what a revision is told as to what it may have.
func Summary(summary string) string { return Clip(summary, SummaryLetters) }

// By shortens what somebody calls themselves to the length of a name.
func By(name string) string {
	return Clip(strings.TrimSpace(strings.ToValidUTF8(name, "")), NameLetters)
}

// Document refuses a revision for which a circuit's history has no room left: it has so many
// revisions and bytes already.
func Document(revisions int, bytes, more int64) error {
	switch {
	case revisions >= Revisions:
		return Full("this circuit has %d revisions, as many as one may have; export its file and go on in a circuit of its own", Revisions)
	case bytes+more > HistoryBytes:
		return Full("the history of this circuit is as large as one may be (%d MB); export its file and go on in a circuit of its own", HistoryBytes>>20)
	}
	return nil
}

// Job refuses what would make a job larger than it may be.
func Job(bytes, more int64) error {
	if bytes+more > JobBytes {
		return Full("this job is as large as one may be (%d MB); remove photographs, or go on in a job of its own", JobBytes>>20)
	}
	return nil
}

// Cell is a text for a cell of a table that a spreadsheet opens: it is not taken for a formula.
func Cell(text string) string {
	if text != "" && strings.ContainsRune("=+-@\t\r", rune(text[0])) {
		return "'" + text
	}
	return text
}
