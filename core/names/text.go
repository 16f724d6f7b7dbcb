package names

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Expand puts the practice's words in the place of canonical names in braces and
// begins with a capital letter.
func (s Terms) Expand(text string) string { return Capitalize(s.Fill(text)) }

// Fill puts the practice's words in the place of canonical names in braces.
func (s Terms) Fill(text string) string {
	for {
		a := strings.IndexByte(text, '{')
		b := strings.IndexByte(text, '}')
		if a < 0 || b < a {
			return text
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
