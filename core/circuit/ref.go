package circuit

import (
	"cmp"
	"fmt"
	"strings"

	"ambivia/core/limits"
)

// Ref names a cable core or a device terminal as a join does: "w1.black",
// "s1.common". The join's box says which end of the cable is meant.
type Ref struct{ Owner, Part string }

// ParseRef reads "OWNER.PART".
func ParseRef(s string) (Ref, error) {
	owner, part, ok := strings.Cut(s, ".")
	if !ok || !isID(owner) || !isID(part) {
		return Ref{}, fmt.Errorf("%q is not an end: write CABLE.CORE or DEVICE.TERMINAL", limits.Clip(s, quotedLetters))
	}
	return Ref{owner, part}, nil
}

// String writes the ref as [ParseRef] reads it.
func (r Ref) String() string { return r.Owner + "." + r.Part }

// Compare orders refs as their texts are ordered.
func (r Ref) Compare(other Ref) int {
	if r.Owner == other.Owner {
		return strings.Compare(r.Part, other.Part)
	}
	n := min(len(r.Owner), len(other.Owner))
	if c := strings.Compare(r.Owner[:n], other.Owner[:n]); c != 0 {
		return c
	}
	next := func(owner string) byte { // where one is the beginning of the other, its dot decides
		if len(owner) == n {
			return '.'
		}
		return owner[n]
	}
	return cmp.Compare(next(r.Owner), next(other.Owner))
}

// MarshalText writes the ref as [ParseRef] reads it.
func (r Ref) MarshalText() ([]byte, error) { return []byte(r.String()), nil }

// UnmarshalText reads what [ParseRef] reads.
func (r *Ref) UnmarshalText(b []byte) (err error) {
	*r, err = ParseRef(string(b))
	return err
}

// End names a core's end in one box, "w1.black@foot", or a terminal, which
// needs no box, "s1.common".
type End struct {
	Ref
	Box string
}

// ParseEnd reads "CABLE.CORE@BOX" or "DEVICE.TERMINAL".
func ParseEnd(s string) (End, error) {
	text, box, at := strings.Cut(s, "@")
	if at && !isID(box) {
		return End{}, fmt.Errorf("%q is not an end: write CABLE.CORE@BOX or DEVICE.TERMINAL", limits.Clip(s, quotedLetters))
	}
	ref, err := ParseRef(text)
	return End{ref, box}, err
}

// String writes the end as [ParseEnd] reads it.
func (e End) String() string {
	if e.Box == "" {
		return e.Ref.String()
	}
	return e.Ref.String() + "@" + e.Box
}

// MarshalText writes the end as [ParseEnd] reads it.
func (e End) MarshalText() ([]byte, error) { return []byte(e.String()), nil }

// UnmarshalText reads what [ParseEnd] reads.
func (e *End) UnmarshalText(b []byte) (err error) {
	*e, err = ParseEnd(string(b))
	return err
}

// isID reports whether s matches [a-z0-9][a-z0-9-]{0,31}.
func isID(s string) bool {
	if s == "" || len(s) > 32 || s[0] == '-' {
		return false
	}
	for i := range len(s) {
		if c := s[i]; (c < 'a' || c > 'z') && (c < '0' || c > '9') && c != '-' {
			return false
		}
	}
	return true
}

// Colour is the insulation of a core without the number that tells two cores
// of one colour apart: Colour("black2") is "black".
func Colour(core string) string { return strings.TrimRight(core, "0123456789") }

// GroundColour reports whether insulation of this colour is kept for the
// ground conductor in every practice: bare, green, green-yellow.
func GroundColour(core string) bool {
	switch Colour(core) {
	case "bare", "green", "green-yellow":
		return true
	}
	return false
}

// quotedLetters is how much of a text from outside is put into a message.
const quotedLetters = 40
