package pdf

import (
	"fmt"
	"slices"

	"github.com/go-text/typesetting/font/opentype"

	"ambivia/core/lettering"
)

// Words in scripts that the document's own font lacks are drawn as outlines, and laid under
// themselves as text that is not seen, so that they can be found and copied.

// shaped shapes a run, and remembers it.
func (s *sheets) shaped(r lettering.Run) lettering.Shape {
	if known, ok := s.shapes[r]; ok {
		return known
	}
	if s.shapes == nil {
		s.shapes = map[lettering.Run]lettering.Shape{}
	}
	out := r.Shape()
	s.shapes[r] = out
	return out
}

// width is how wide a text is in the present font, in points.
func (s *sheets) width(text string) float64 {
	wide := 0.0
	size, _ := s.pdf.GetFontSize()
	for _, r := range lettering.Runs(text) {
		if r.Font == nil {
			wide += s.pdf.GetStringWidth(r.Text)
			continue
		}
		sh := s.shaped(r)
		wide += sh.Wide * size / sh.Units
	}
	return wide
}

// text writes a text with its left end at a point of the base line.
func (s *sheets) text(x, y float64, text string) {
	size, _ := s.pdf.GetFontSize()
	for _, r := range lettering.Runs(text) {
		if r.Font == nil {
			s.pdf.Text(x, y, r.Text)
			x += s.pdf.GetStringWidth(r.Text)
			continue
		}
		sh := s.shaped(r)
		s.outline(sh, x, y, size/sh.Units)
		s.unseen(r, x, y, size, sh.Wide*size/sh.Units)
		x += sh.Wide * size / sh.Units
	}
}

// outline fills the outlines of a run.
func (s *sheets) outline(sh lettering.Shape, x, y, scale float64) {
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
		s.pdf.SetLineWidth(sh.Units * scale / 36)
	}
	for _, g := range sh.Glyphs {
		at := func(p opentype.SegmentPoint) (float64, float64) {
			return x + (g.X+float64(p.X))*scale, y - (g.Y+float64(p.Y))*scale
		}
		var px, py float64
		open := false
		for _, seg := range g.Outline {
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
func (s *sheets) unseen(r lettering.Run, x, y, size, wide float64) {
	if !slices.Contains(s.added, r.Font) {
		s.pdf.AddUTF8FontFromBytes(r.Font.Name, "", r.Font.Data)
		s.added = append(s.added, r.Font)
	}
	style := s.style
	text := r.Text
	if r.RTL { // as it stands on paper, from left to right
		runes := []rune(text)
		slices.Reverse(runes)
		text = string(runes)
	}
	s.pdf.SetFont(r.Font.Name, "", size)
	s.pdf.SetTextRenderingMode(3)
	if natural := s.pdf.GetStringWidth(text); natural > 0 { // letter by letter it is wider than shaped
		s.pdf.RawWriteStr(fmt.Sprintf("%.2f Tz\n", 100*wide/natural))
	}
	s.pdf.Text(x, y, text)
	s.pdf.RawWriteStr("100 Tz\n")
	s.pdf.SetTextRenderingMode(0)
	s.pdf.SetFont("go", style, size)
}
