// Package record is what is handed over when the work is done: all that the log, the circuit before and after, and the
// devices say, put in order for the customer and the firm. Nothing in it is typed twice, and what nobody did or tested is
// said to be so.
package record

import (
	"fmt"
	"unicode/utf8"
)

// Firm is who does the work, as it stands at the head of a record.
type Firm struct {
	Name    string `json:"name,omitempty"`
	Licence string `json:"licence,omitempty"`
	Address string `json:"address,omitempty"`
	Phone   string `json:"phone,omitempty"`
	Picture []byte `json:"picture,omitempty"` // a JPEG file
}

// Customer is for whom it is done.
type Customer struct {
	Name    string `json:"name,omitempty"`
	Address string `json:"address,omitempty"`
	Phone   string `json:"phone,omitempty"`
	Notes   string `json:"notes,omitempty"`
}

// Limits of both.
const (
	mostLetters = 200
	mostNotes   = 2000
	// MostPicture is how large a firm's picture may be, in bytes.
	MostPicture = 256 << 10
)

// Error says what of a firm or a customer cannot be kept.
type Error struct{ Place, Text string }

func (e *Error) Error() string { return e.Text }

func short(place, text string, most int) error {
	if utf8.RuneCountInString(text) > most || !utf8.ValidString(text) {
		return &Error{place, fmt.Sprintf("has at most %d letters", most)}
	}
	return nil
}

// Check holds a firm against its limits. The error is an [*Error].
func (f Firm) Check() error {
	for _, x := range [][2]string{{"name", f.Name}, {"licence", f.Licence}, {"address", f.Address}, {"phone", f.Phone}} {
		if err := short(x[0], x[1], mostLetters); err != nil {
			return err
		}
	}
	if len(f.Picture) > MostPicture {
		return &Error{"picture", fmt.Sprintf("has at most %d kB", MostPicture>>10)}
	}
	return nil
}

// Check holds a customer against its limits. The error is an [*Error].
func (c Customer) Check() error {
	for _, x := range [][2]string{{"name", c.Name}, {"address", c.Address}, {"phone", c.Phone}} {
		if err := short(x[0], x[1], mostLetters); err != nil {
			return err
		}
	}
	return short("notes", c.Notes, mostNotes)
}
