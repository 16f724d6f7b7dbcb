package lettering

import (
	"testing"

	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

// TestSubset: the letters of the texts are drawn as in the whole font, composed ones too, and take the same room; no other is
// drawn, and what is left is a small part of the font.
func TestSubset(t *testing.T) {
	small := Subset(goregular.TTF, "Chart room door", "Lüfter ½ in³ Ω →")
	if len(small) > len(goregular.TTF)/4 {
		t.Errorf("%d of %d bytes are left", len(small), len(goregular.TTF))
	}
	for _, table := range []string{"OS/2", "cmap", "head", "hhea", "hmtx", "maxp", "name", "post"} { // a browser refuses a font that lacks one
		if len(tablesOf(small)[table]) == 0 {
			t.Errorf("there is no table %s", table)
		}
	}
	was, err := sfnt.Parse(goregular.TTF)
	if err != nil {
		t.Fatal(err)
	}
	is, err := sfnt.Parse(small)
	if err != nil {
		t.Fatal(err)
	}
	var buffer sfnt.Buffer
	outline := func(f *sfnt.Font, r rune) (int, fixed.Int26_6) {
		t.Helper()
		g, err := f.GlyphIndex(&buffer, r)
		if err != nil {
			t.Fatal(err)
		}
		segments, err := f.LoadGlyph(&buffer, g, fixed.I(100), nil)
		if err != nil {
			t.Fatalf("%c: %v", r, err)
		}
		n := len(segments)
		wide, err := f.GlyphAdvance(&buffer, g, fixed.I(100), 0)
		if err != nil {
			t.Fatal(err)
		}
		return n, wide
	}
	for _, r := range "Chartomdüfe½³Ω→" {
		n, wide := outline(was, r)
		if m, w := outline(is, r); m != n || w != wide || n == 0 {
			t.Errorf("%c: %d strokes and %v wide, was %d and %v", r, m, w, n, wide)
		}
	}
	for _, r := range "XQz7%" {
		_, wide := outline(was, r)
		if n, w := outline(is, r); n != 0 || w != wide {
			t.Errorf("%c is in no text, and has %d strokes and is %v wide, was %v", r, n, w, wide)
		}
	}
	if got := Subset([]byte("no font"), "a"); string(got) != "no font" {
		t.Errorf("%q", got)
	}
}
