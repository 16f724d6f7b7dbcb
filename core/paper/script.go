package paper

import (
	"bytes"
	"embed"
	"fmt"
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
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"
)

// Names come in any script. What the document's own font has is written with it; other words
// are shaped with one of the fonts below, drawn as outlines, and laid under themselves as text
// that is not seen, so that they can be found and copied.

//go:embed fonts/*.ttf
var fontFiles embed.FS

// foreign is a font for scripts that the document's own lacks.
type foreign struct {
	name string
	data []byte
	once sync.Once
	face *font.Face
	mu   sync.Mutex // a face keeps what it worked out
}

// foreigners are asked in this order, the one for many scripts last.
var foreigners = func() []*foreign {
	var out []*foreign
	for _, name := range []string{"NotoSans-Regular", "NotoSansHebrew-Regular", "NotoSansArabic-Regular", "NotoSansDevanagari-Regular", "NotoSansTamil-Regular", "NotoSansBengali-Regular", "NotoSansThai-Regular", "DroidSansFallback"} {
		data, err := fontFiles.ReadFile(path.Join("fonts", name+".ttf"))
		if err != nil {
			panic("paper: " + err.Error())
		}
		out = append(out, &foreign{name: name, data: data})
	}
	return out
}()

func (f *foreign) open() *font.Face {
	f.once.Do(func() {
		face, err := font.ParseTTF(bytes.NewReader(f.data))
		if err != nil {
			panic("paper: the embedded font " + f.name + " is unusable: " + err.Error())
		}
		f.face = face
	})
	return f.face
}

func (f *foreign) has(r rune) bool {
	_, ok := f.open().NominalGlyph(r)
	return ok
}

// run is a stretch of text in one font and one direction.
type run struct {
	text string
	font *foreign // nil for the document's own
	rtl  bool
}

// clean leaves out what is no letter: control characters, and marks of direction.
func clean(text string) string {
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

// own reports whether the document's font has all of a text.
func (s *sheets) own(text string) bool {
	for _, r := range text {
		if i, err := s.coverage.GlyphIndex(&s.buffer, r); err != nil || i == 0 {
			return false
		}
	}
	return true
}

// runs lists the stretches of a text as they stand from left to right. What no font has is a
// question mark, so that a gap in a name is seen.
func (s *sheets) runs(text string) []run {
	text = clean(text)
	if s.own(text) {
		return []run{{text: text}}
	}
	var p bidi.Paragraph
	if _, err := p.SetString(text); err != nil {
		return []run{{text: strings.Repeat("?", len([]rune(text)))}}
	}
	order, err := p.Order()
	if err != nil {
		return []run{{text: strings.Repeat("?", len([]rune(text)))}}
	}
	var groups [][]run
	for i := range order.NumRuns() {
		r := order.Run(i)
		rtl := r.Direction() == bidi.RightToLeft
		words := s.words(r.String(), rtl)
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
func (s *sheets) words(text string, rtl bool) []run {
	var out []run
	add := func(part string, f *foreign) {
		if n := len(out); n > 0 && out[n-1].font == f && !rtl {
			out[n-1].text += part
			return
		}
		out = append(out, run{part, f, rtl && f != nil})
	}
	for _, word := range strings.SplitAfter(text, " ") {
		word, space := strings.CutSuffix(word, " ")
		switch f := s.fontOf(word); {
		case word == "":
		case s.own(word):
			add(word, nil)
		case f != nil:
			add(word, f)
		default:
			for _, letter := range letters(word) {
				switch f := s.fontOf(letter); {
				case s.own(letter):
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
func (s *sheets) fontOf(text string) *foreign {
	for _, f := range foreigners {
		if !strings.ContainsFunc(text, func(r rune) bool { return !joins(r) && !f.has(r) || unicode.In(r, unicode.Mn, unicode.Mc) && !f.has(r) }) {
			return f
		}
	}
	return nil
}

// shape is a run as it is drawn, in units of the font.
type shape struct {
	units  float64 // to the em
	wide   float64
	glyphs []placed
}

type placed struct {
	x, y    float64
	outline []opentype.Segment
}

// shaped shapes a run, and remembers it.
func (s *sheets) shaped(r run) shape {
	key := fmt.Sprintf("%s %t %s", r.font.name, r.rtl, r.text)
	if known, ok := s.shapes[key]; ok {
		return known
	}
	r.font.mu.Lock()
	defer r.font.mu.Unlock()
	face := r.font.open()
	runes := []rune(r.text)
	direction := di.DirectionLTR
	if r.rtl {
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
	out := shape{units: float64(units)}
	of := func(v fixed.Int26_6) float64 { return float64(v) / 64 }
	for _, g := range line.Glyphs {
		if outline, ok := face.GlyphDataOutline(g.GlyphID); ok {
			out.glyphs = append(out.glyphs, placed{out.wide + of(g.XOffset), of(g.YOffset), outline.Segments})
		}
		out.wide += of(g.XAdvance)
	}
	if s.shapes == nil {
		s.shapes = map[string]shape{}
	}
	s.shapes[key] = out
	return out
}

// width is how wide a text is in the present font, in points.
func (s *sheets) width(text string) float64 {
	wide := 0.0
	size, _ := s.pdf.GetFontSize()
	for _, r := range s.runs(text) {
		if r.font == nil {
			wide += s.pdf.GetStringWidth(r.text)
			continue
		}
		sh := s.shaped(r)
		wide += sh.wide * size / sh.units
	}
	return wide
}

// text writes a text with its left end at a point of the base line.
func (s *sheets) text(x, y float64, text string) {
	size, _ := s.pdf.GetFontSize()
	for _, r := range s.runs(text) {
		if r.font == nil {
			s.pdf.Text(x, y, r.text)
			x += s.pdf.GetStringWidth(r.text)
			continue
		}
		sh := s.shaped(r)
		s.outline(sh, x, y, size/sh.units)
		s.unseen(r, x, y, size, sh.wide*size/sh.units)
		x += sh.wide * size / sh.units
	}
}

// outline fills the outlines of a run.
func (s *sheets) outline(sh shape, x, y, scale float64) {
	red, green, blue := s.pdf.GetFillColor()
	s.pdf.SetFillColor(0, 0, 0)
	how := "F"
	if s.style == "B" { // these fonts have no bold of their own
		how = "DF"
		r, g, b := s.pdf.GetDrawColor()
		line := s.pdf.GetLineWidth()
		defer func() {
			s.pdf.SetDrawColor(r, g, b)
			s.pdf.SetLineWidth(line)
		}()
		s.pdf.SetDrawColor(0, 0, 0)
		s.pdf.SetLineWidth(sh.units * scale / 36)
	}
	for _, g := range sh.glyphs {
		at := func(p opentype.SegmentPoint) (float64, float64) {
			return x + (g.x+float64(p.X))*scale, y - (g.y+float64(p.Y))*scale
		}
		var px, py float64
		open := false
		for _, seg := range g.outline {
			switch seg.Op {
			case opentype.SegmentOpMoveTo:
				if open {
					s.pdf.ClosePath()
				}
				px, py = at(seg.Args[0])
				s.pdf.MoveTo(px, py)
				open = true
			case opentype.SegmentOpLineTo:
				px, py = at(seg.Args[0])
				s.pdf.LineTo(px, py)
			case opentype.SegmentOpQuadTo: // as the cubic that it is
				cx, cy := at(seg.Args[0])
				ex, ey := at(seg.Args[1])
				s.pdf.CurveBezierCubicTo(px+2*(cx-px)/3, py+2*(cy-py)/3, ex+2*(cx-ex)/3, ey+2*(cy-ey)/3, ex, ey)
				px, py = ex, ey
			case opentype.SegmentOpCubeTo:
				ax, ay := at(seg.Args[0])
				bx, by := at(seg.Args[1])
				px, py = at(seg.Args[2])
				s.pdf.CurveBezierCubicTo(ax, ay, bx, by, px, py)
			}
		}
		if open {
			s.pdf.ClosePath()
			s.pdf.DrawPath(how)
		}
	}
	s.pdf.SetFillColor(red, green, blue)
}

// unseen lays the text of a run under its outlines.
func (s *sheets) unseen(r run, x, y, size, wide float64) {
	if !slices.Contains(s.added, r.font) {
		s.pdf.AddUTF8FontFromBytes(r.font.name, "", r.font.data)
		s.added = append(s.added, r.font)
	}
	style := s.style
	text := r.text
	if r.rtl { // as it stands on paper, from left to right
		runes := []rune(text)
		slices.Reverse(runes)
		text = string(runes)
	}
	s.pdf.SetFont(r.font.name, "", size)
	s.pdf.SetTextRenderingMode(3)
	if natural := s.pdf.GetStringWidth(text); natural > 0 { // letter by letter it is wider than shaped
		s.pdf.RawWriteStr(fmt.Sprintf("%.2f Tz\n", 100*wide/natural))
	}
	s.pdf.Text(x, y, text)
	s.pdf.RawWriteStr("100 Tz\n")
	s.pdf.SetTextRenderingMode(0)
	s.pdf.SetFont("go", style, size)
}
