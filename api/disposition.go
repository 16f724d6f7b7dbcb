package api

import (
	"net/url"
	"strings"
	"unicode"
)

// attachment is the value of a Content-Disposition header for a file that is called so: its name
// as it is, in any script, and in letters that every program knows (RFC 6266).
func attachment(name, ending string) string {
	var plain, whole strings.Builder
	for _, r := range name {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r):
			whole.WriteRune(r)
		default:
			whole.WriteRune('-')
		}
		switch {
		case r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9':
			plain.WriteRune(r)
		default:
			plain.WriteRune('-')
		}
	}
	trim := func(s string) string {
		s = strings.Trim(strings.Join(strings.FieldsFunc(s, func(r rune) bool { return r == '-' }), "-"), "-")
		if r := []rune(s); len(r) > 80 {
			s = string(r[:80])
		}
		if s == "" {
			return "ambivia"
		}
		return s
	}
	return `attachment; filename="` + trim(plain.String()) + ending + `"; filename*=UTF-8''` + url.PathEscape(trim(whole.String())+ending)
}
