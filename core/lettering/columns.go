package lettering

import (
	"unicode"

	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/width"
)

// Columns is how much room a text takes, in letters of usual width: a letter of the scripts whose
// letters fill a square takes two, a mark on a letter none.
func Columns(text string) int {
	n := 0
	for _, r := range text {
		n += columns(r)
	}
	return n
}

func columns(r rune) int {
	if unicode.In(r, unicode.Mn, unicode.Me, unicode.Cf) {
		return 0
	}
	if k := width.LookupRune(r).Kind(); k == width.EastAsianWide || k == width.EastAsianFullwidth {
		return 2
	}
	return 1
}

// Clip shortens a text to so many columns, the last an ellipsis; it divides no letter from its
// marks.
func Clip(text string, most int) string {
	if Columns(text) <= most {
		return text
	}
	n := 0
	for i, r := range text {
		if n += columns(r); n > most-1 {
			return text[:i] + "…"
		}
	}
	return text
}

// Width is how wide a text in the program's own font is at a size, in the unit of the size.
func Width(text string, size float64) float64 {
	var buffer sfnt.Buffer
	const em = 1000
	sum := fixed.Int26_6(0)
	for _, r := range text {
		i, err := own().GlyphIndex(&buffer, r)
		if err != nil {
			continue
		}
		if a, err := own().GlyphAdvance(&buffer, i, fixed.I(em), font.HintingNone); err == nil {
			sum += a
		}
	}
	return float64(sum) / 64 / em * size
}
