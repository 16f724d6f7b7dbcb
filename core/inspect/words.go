package inspect

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// Terms names the parts of a circuit as people of its practice do.
type Terms struct {
	doc *circuit.Circuit
	practice.Practice
}

// TermsFor returns the terms of a circuit's practice.
func TermsFor(c *circuit.Circuit) Terms { return Terms{c, practice.For(c)} }

// Box names a box: "Foot of the dome stair".
func (s Terms) Box(id string) string {
	if b := s.doc.Box(id); b != nil {
		return b.Label()
	}
	return id
}

// Cable names a cable by where it runs: "the cable between Foot and Head".
func (s Terms) Cable(id string) string {
	k := s.doc.Cable(id)
	if k == nil {
		return "cable " + id
	}
	switch {
	case k.Ends[0] == nil:
		return "the cable " + id + " in " + s.Box(*k.Ends[1])
	case k.Ends[1] == nil:
		return "the cable " + id + " in " + s.Box(*k.Ends[0])
	}
	name := "the cable between " + s.Box(*k.Ends[0]) + " and " + s.Box(*k.Ends[1])
	for _, other := range s.doc.Cables {
		if other.ID != id && other.In(*k.Ends[0]) && other.In(*k.Ends[1]) {
			return name + " (" + id + ")"
		}
	}
	return name
}

// Device names a device: its name, or its kind and box.
func (s Terms) Device(id string) string {
	d := s.doc.Device(id)
	switch {
	case d == nil:
		return id
	case !circuit.Blank(d.Name):
		return d.Name
	case d.Type == circuit.TypeSupply:
		return "the " + s.Word("breaker")
	case d.Type == circuit.TypeSmart:
		return fmt.Sprintf("the smart device %s in %s", id, s.Box(d.Box))
	}
	return fmt.Sprintf("the %s %s in %s", s.Word(d.Type), id, s.Box(d.Box))
}

// End names an end: "black to Head in Foot", or a screw of a device.
func (s Terms) End(e circuit.End) string {
	if k := s.doc.Cable(e.Owner); k != nil {
		if other, ok := k.Other(e.Box); ok {
			return fmt.Sprintf("%s towards %s, in %s", e.Part, s.Box(other), s.Box(e.Box))
		}
		return fmt.Sprintf("%s of cable %s, in %s", e.Part, e.Owner, s.Box(e.Box))
	}
	return fmt.Sprintf("screw %q of %s", s.Word(e.Part), s.Device(e.Owner))
}

// Ends names up to three ends and counts the rest.
func (s Terms) Ends(ends []circuit.End) string {
	var parts []string
	for i, e := range ends {
		if i == 3 {
			parts = append(parts, fmt.Sprintf("%d more", len(ends)-3))
			break
		}
		parts = append(parts, s.End(e))
	}
	return strings.Join(parts, "; ")
}

// Expand puts the practice's words in the place of canonical names in braces and
// begins with a capital letter.
func (s Terms) Expand(text string) string {
	for {
		a := strings.IndexByte(text, '{')
		b := strings.IndexByte(text, '}')
		if a < 0 || b < a {
			return Capitalize(text)
		}
		text = text[:a] + s.Word(text[a+1:b]) + text[b+1:]
	}
}

// Capitalize begins a text with a capital letter.
func Capitalize(s string) string {
	if s == "" {
		return s
	}
	first, size := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(first)) + s[size:]
}

// Uncapitalize writes a sentence as it stands after a colon.
func Uncapitalize(s string) string {
	if s == "" {
		return s
	}
	first, size := utf8.DecodeRuneInString(s)
	return string(unicode.ToLower(first)) + s[size:]
}
