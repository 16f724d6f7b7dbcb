// Package lettering shapes names in any script for paper and for drawings in files. What the
// program's own font for files has is written with it; other words are shaped with one of the
// embedded fonts, so that they can be drawn as outlines where no reader has the font.
package lettering

import (
	"bytes"
	"embed"
	"path"
	"slices"
	"strings"
	"sync"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"
)

//go:embed fonts/*.ttf
var fontFiles embed.FS

// Font is a font for scripts that the document's own lacks.
type Font struct {
	Name string
	Data []byte
	once sync.Once
	face *font.Face
	mu   sync.Mutex // a face keeps what it worked out
}

// foreigners are asked in this order, the one for many scripts last.
var foreigners = func() []*Font {
	var out []*Font
	for _, name := range []string{"NotoSans-Regular", "NotoSansHebrew-Regular", "NotoSansArabic-Regular", "NotoSansDevanagari-Regular", "NotoSansTamil-Regular", "NotoSansBengali-Regular", "NotoSansThai-Regular", "DroidSansFallback"} {
		data, err := fontFiles.ReadFile(path.Join("fonts", name+".ttf"))
		if err != nil {
			panic("lettering: " + err.Error())
		}
		out = append(out, &Font{Name: name, Data: data})
	}
	return out
}()

func (f *Font) open() *font.Face {
	f.once.Do(func() {
		face, err := font.ParseTTF(bytes.NewReader(f.Data))
		if err != nil {
			panic("lettering: the embedded font " + f.Name + " is unusable: " + err.Error())
		}
		f.face = face
	})
	return f.face
}

func (f *Font) has(r rune) bool {
	_, ok := f.open().NominalGlyph(r)
	return ok
}

// Run is a stretch of text in one font and one direction.
type Run struct {
	Text string
	Font *Font // nil for the program's own
	RTL  bool
}

// Clean leaves out what is no letter: control characters, and marks of direction.
func Clean(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\n' || r == '\t':
			return ' '
		case r == zwj || r == zwnj:
			return r
		case unicode.In(r, unicode.Cc, unicode.Cf, unicode.Co, unicode.Cs, unicode.Zl, unicode.Zp):
			return -1
		}
		return r
	}, text)
}

// Joiners, which shape letters and are none.
const (
	zwnj = '\u200c'
	zwj  = '\u200d'
)

// joins reports whether a rune belongs to the letter before it.
func joins(r rune) bool { return r == zwj || r == zwnj || unicode.In(r, unicode.Mn, unicode.Mc) }

// own is what the program's own font for files has.
var own = sync.OnceValue(func() *sfnt.Font {
	f, err := sfnt.Parse(goregular.TTF)
	if err != nil {
		panic("lettering: the program's own font is unusable: " + err.Error())
	}
	return f
})

// Own reports whether the program's own font has all of a text.
func Own(text string) bool {
	var buffer sfnt.Buffer
	for _, r := range text {
		if i, err := own().GlyphIndex(&buffer, r); err != nil || i == 0 {
			return false
		}
	}
	return true
}

// Runs lists the stretches of a text as they stand from left to right. What no font has is a
// question mark, so that a gap in a name is seen.
func Runs(text string) []Run {
	text = Clean(text)
	if Own(text) {
		return []Run{{Text: text}}
	}
	var p bidi.Paragraph
	if _, err := p.SetString(text); err != nil {
		return []Run{{Text: strings.Repeat("?", len([]rune(text)))}}
	}
	order, err := p.Order()
	if err != nil {
		return []Run{{Text: strings.Repeat("?", len([]rune(text)))}}
	}
	var groups [][]Run
	for i := range order.NumRuns() {
		r := order.Run(i)
		rtl := r.Direction() == bidi.RightToLeft
		words := words(r.String(), rtl)
		if rtl {
			slices.Reverse(words)
		}
		groups = append(groups, words)
	}
	if leftwards(text) {
		slices.Reverse(groups)
	}
	return slices.Concat(groups...)
}

// leftwards reports whether a text as a whole runs from right to left: by its first letter.
func leftwards(text string) bool {
	for _, r := range text {
		switch p, _ := bidi.LookupRune(r); p.Class() {
		case bidi.L:
			return false
		case bidi.R, bidi.AL:
			return true
		}
	}
	return false
}

// words divides a text of one direction by font: a word in one font where one has all of it,
// else letter by letter.
func words(text string, rtl bool) []Run {
	var out []Run
	add := func(part string, f *Font) {
		if n := len(out); n > 0 && out[n-1].Font == f && !rtl {
			out[n-1].Text += part
			return
		}
		out = append(out, Run{part, f, rtl && f != nil})
	}
	for _, word := range strings.SplitAfter(text, " ") {
		word, space := strings.CutSuffix(word, " ")
		switch f := fontOf(word); {
		case word == "":
		case Own(word):
			add(word, nil)
		case f != nil:
			add(word, f)
		default:
			for _, letter := range letters(word) {
				switch f := fontOf(letter); {
				case Own(letter):
					add(letter, nil)
				case f != nil:
					add(letter, f)
				default:
					add("?", nil)
				}
			}
		}
		if space {
			add(" ", nil)
		}
	}
	return out
}

// letters divides a word where a letter begins.
func letters(word string) []string {
	var out []string
	for _, r := range word {
		if n := len(out); n > 0 && joins(r) {
			out[n-1] += string(r)
			continue
		}
		out = append(out, string(r))
	}
	return out
}

// fontOf is the first font that has all of a text, nil where none has.
func fontOf(text string) *Font {
	for _, f := range foreigners {
		if !strings.ContainsFunc(text, func(r rune) bool { return !joins(r) && !f.has(r) || unicode.In(r, unicode.Mn, unicode.Mc) && !f.has(r) }) {
			return f
		}
	}
	return nil
}

// Shape is a run as it is drawn, in units of its font, of which Units make the em.
type Shape struct {
	Units  float64
	Wide   float64
	Glyphs []Glyph
}

// Glyph is one outline with the place of its origin.
type Glyph struct {
	X, Y    float64
	Outline []opentype.Segment
}

// Shape shapes a run in another font than the program's own.
func (r Run) Shape() Shape {
	r.Font.mu.Lock()
	defer r.Font.mu.Unlock()
	face := r.Font.open()
	runes := []rune(r.Text)
	direction := di.DirectionLTR
	if r.RTL {
		direction = di.DirectionRTL
	}
	script := language.Latin
	for _, c := range runes {
		if found := language.LookupScript(c); found != language.Common && found != language.Inherited {
			script = found
			break
		}
	}
	units := int(face.Upem())
	var shaper shaping.HarfbuzzShaper
	line := shaper.Shape(shaping.Input{Text: runes, RunEnd: len(runes), Direction: direction, Face: face, Size: fixed.I(units), Script: script, Language: "en"})
	out := Shape{Units: float64(units)}
	of := func(v fixed.Int26_6) float64 { return float64(v) / 64 }
	for _, g := range line.Glyphs {
		if outline, ok := face.GlyphDataOutline(g.GlyphID); ok {
			out.Glyphs = append(out.Glyphs, Glyph{out.Wide + of(g.XOffset), of(g.YOffset), outline.Segments})
		}
		out.Wide += of(g.Advance)
	}
	return out
}
