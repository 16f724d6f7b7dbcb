package circuit

import (
	"fmt"
	"strconv"
	"strings"

	"ambivia/core/limits"
)

// Code names a kind of fault in a file; codes never change their meaning.
type Code string

// Codes of the faults that [Read] and [Circuit.Validate] find.
const (
	CodeSyntax       Code = "syntax"          // not JSON
	CodeTooLarge     Code = "too-large"       // over a limit of size or depth
	CodeDuplicateKey Code = "duplicate-field" // one object names a field twice
	CodeSchema       Code = "schema"          // the JSON Schema refuses it
	CodeUnknownField Code = "unknown-field"   // a field the format does not have
	CodeMissingField Code = "missing-field"   // a field the format requires
	CodeDuplicateID  Code = "duplicate-id"    // two things with one id
	CodeUnknownID    Code = "unknown-id"      // a reference to nothing
	CodeUnknownCore  Code = "unknown-core"    // a core that the cable lacks
	CodeUnknownPart  Code = "unknown-terminal"
	CodeWrongBox     Code = "wrong-box"   // an end or terminal that is not in the join's box
	CodeTwoJoins     Code = "two-joins"   // an end in two joins, or twice in one
	CodeCableEnds    Code = "cable-ends"  // a cable without a known end, or with one box twice
	CodeMisplaced    Code = "misplaced"   // a field on a type that has no use for it
	CodeObservation  Code = "observation" // a test or reading that makes no sense
	CodeContradicts  Code = "contradicts" // two statements that cannot both hold
	CodeTooManyParts Code = "too-many"    // more switches than can be simulated
)

// Problem is one fault: what it is, where it stands and what would be right.
// Place is a path such as "joins[3].of[1]"; Line is 0 where it is not known.
type Problem struct {
	Code  Code   `json:"code"`
	Place string `json:"place"`
	Line  int    `json:"line,omitempty"`
	Text  string `json:"text"`
}

// String puts the problem in one line, place first.
func (p Problem) String() string {
	var b strings.Builder
	if p.Line > 0 {
		fmt.Fprintf(&b, "line %d, ", p.Line)
	}
	if p.Place == "" {
		p.Place = "the document"
	}
	fmt.Fprintf(&b, "%s: %s", p.Place, p.Text)
	return b.String()
}

// Error is returned for a document that cannot be used; it holds at least one
// problem, in the order of the file as far as that is known.
type Error struct{ Problems []Problem }

// Error names the first problem in one line and counts the others.
func (e *Error) Error() string {
	s := e.Problems[0].String()
	if n := len(e.Problems) - 1; n > 0 {
		s += fmt.Sprintf(" (and %d more)", n)
	}
	return s
}

// place turns path elements into "joins[3].of[1]".
func place(path []string) string {
	var b strings.Builder
	for _, p := range path {
		if _, err := strconv.Atoi(p); err == nil {
			b.WriteString("[" + p + "]")
			continue
		}
		if b.Len() > 0 {
			b.WriteByte('.')
		}
		b.WriteString(limits.Clip(p, quotedLetters))
	}
	return b.String()
}

// at builds a place from path elements of any kind.
func at(parts ...any) string {
	path := make([]string, len(parts))
	for i, p := range parts {
		path[i] = fmt.Sprint(p)
	}
	return place(path)
}
