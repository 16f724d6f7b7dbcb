package pdf

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"ambivia/core/diagram"
)

// How large drawings are, in points for a pixel: no smaller than letters can be read by
// (12.5 pixels become 6.4 points), no larger than looks right.
const (
	smallest = 0.51
	largest  = 0.8
	head     = 24.0 // the drawing's name
	foot     = 28.0 // its legend, and where it goes on
)

// tile is one sheet's part of a drawing.
type tile struct {
	diagram.Rect
	column, row int
	sheet       int     // page on which it is drawn
	y, scale    float64 // and where there, below the drawing's name
}

// drawing puts a scene on as many sheets as it takes to be read.
func (s *sheets) drawing(scene *diagram.Scene, what string) {
	w, h := s.size.points()
	across := true
	fit := func(w, h float64) float64 {
		return min((w-2*margin)/scene.W, (h-2*margin-blockTall-6-head-foot)/scene.H)
	}
	if fit(w, h) > fit(h, w) {
		across = false
	}
	if across {
		w, h = h, w
	}
	wide, tall := w-2*margin, h-2*margin-blockTall-6-head-foot
	tiles := cut(scene, wide/smallest, tall/smallest)
	pack(tiles, wide, tall, s.pdf.PageNo()+1)
	for i, t := range tiles {
		if i == 0 || t.sheet != tiles[i-1].sheet {
			s.sheet(what, across)
			s.font("B", 13)
			s.text(margin, margin+12, s.lines(scene.Title, wide, 1)[0])
			s.legend(scene, h-margin-blockTall-12)
		}
		s.parts = tiles
		s.paint(scene, t.Rect, margin, margin+head+t.y, t.scale, len(tiles) > 1)
		s.parts = nil
		for _, other := range tiles {
			s.goesOn(t, other)
		}
	}
}

// pack says on which sheet each tile is drawn, at which height and scale: one below the other
// as far as there is room.
func pack(tiles []tile, wide, tall float64, sheet int) {
	const gap = 14.0
	y := 0.0
	for i := range tiles {
		t := &tiles[i]
		t.scale = min(largest, wide/t.W, tall/t.H)
		if two := (tall - gap) / 2 / t.H; len(tiles) > 1 && two >= smallest { // small enough for two on a sheet, and still to be read
			t.scale = min(t.scale, two)
		}
		if i > 0 && y+t.H*t.scale > tall+1 {
			sheet++
			y = 0
		}
		t.sheet, t.y = sheet, y
		y += t.H*t.scale + gap
	}
}

// goesOn says at the edge of a tile on which sheet its neighbour is.
func (s *sheets) goesOn(t, other tile) {
	s.font("B", 7.5)
	text := fmt.Sprintf("goes on, page %d", other.sheet)
	if other.sheet == t.sheet {
		text = "goes on below"
		if other.y < t.y {
			text = "goes on above"
		}
	}
	x, y := margin, margin+head+t.y
	switch {
	case other.row == t.row && other.column == t.column+1:
		s.text(x+t.W*t.scale-s.width(text), y-2, text)
	case other.row == t.row && other.column == t.column-1:
		s.text(x, y-2, text)
	case other.column == t.column && other.row == t.row+1:
		text = "downwards: " + text
		s.text(x+(t.W*t.scale-s.width(text))/2, y+t.H*t.scale+8, text)
	case other.column == t.column && other.row == t.row-1:
		text = "upwards: " + text
		s.text(x+(t.W*t.scale-s.width(text))/2, y-2, text)
	}
}

// cut divides a scene into tiles of at most so many pixels, between its boxes; a box that is
// larger by itself makes a larger tile, which is then drawn smaller.
func cut(scene *diagram.Scene, wide, tall float64) []tile {
	if scene.W <= wide && scene.H <= tall {
		y := max(0, topmost(scene)-8)
		return []tile{{Rect: diagram.Rect{Y: y, W: scene.W, H: scene.H - y}}}
	}
	xs := bands(scene, scene.W, wide, func(r diagram.Rect) (float64, float64) { return r.X, r.X + r.W })
	ys := bands(scene, scene.H, tall, func(r diagram.Rect) (float64, float64) { return r.Y, r.Y + r.H })
	ys[0][0] = max(0, topmost(scene)-8) // the name of the drawing stands on the sheet, not in it
	var out []tile
	for row, y := range ys {
		for column, x := range xs {
			t := tile{Rect: diagram.Rect{X: x[0], Y: y[0], W: x[1] - x[0], H: y[1] - y[0]}, column: column, row: row}
			if slices.ContainsFunc(scene.Rooms, func(r diagram.Room) bool { return r.Overlaps(t.Rect) }) {
				out = append(out, t)
			}
		}
	}
	return out
}

// topmost is the upper edge of the highest box, or of what stands above it; but for the drawing's name.
func topmost(scene *diagram.Scene) float64 {
	y := scene.H
	for _, r := range scene.Rooms {
		y = min(y, r.Y)
	}
	var over func(list []diagram.Mark)
	over = func(list []diagram.Mark) {
		for _, m := range list {
			switch m := m.(type) {
			case diagram.GroupMark:
				over(m.Marks)
			case diagram.TextMark:
				if m.Part != diagram.PartTitle {
					y = min(y, m.At.Y-m.Size)
				}
			}
		}
	}
	over(scene.Marks())
	return y
}

// bands divides one direction between boxes, as few times as the limit allows. What lies
// between two boxes at a cut is in both bands, so that each shows the cables by name.
func bands(scene *diagram.Scene, whole, limit float64, side func(diagram.Rect) (float64, float64)) [][2]float64 {
	const clear = 4.0
	var spans [][2]float64
	for _, r := range scene.Rooms {
		a, b := side(r.Rect)
		spans = append(spans, [2]float64{a, b})
	}
	slices.SortFunc(spans, func(a, b [2]float64) int { return cmp.Compare(a[0], b[0]) })
	var gaps [][2]float64 // end of what is before, start of what is after
	end := 0.0
	for i, x := range spans {
		if i > 0 && x[0] > end+2*clear {
			gaps = append(gaps, [2]float64{end + clear, x[0] - clear})
		}
		end = math.Max(end, x[1])
	}
	var out [][2]float64
	from := 0.0
	for i, g := range gaps {
		next := whole
		if i+1 < len(gaps) {
			next = gaps[i+1][1]
		}
		if next-from > limit {
			out = append(out, [2]float64{from, g[1]})
			from = g[0]
		}
	}
	return append(out, [2]float64{from, whole})
}

// paint draws the part of a scene that lies in a rectangle, at a place of the sheet.
func (s *sheets) paint(scene *diagram.Scene, part diagram.Rect, x, y, scale float64, clip bool) {
	p := s.pdf
	s.part = part
	if clip {
		p.ClipRect(x-1, y, part.W*scale+2, part.H*scale, false)
		defer p.ClipEnd()
	}
	at := func(q diagram.Point) (float64, float64) { return x + (q.X-part.X)*scale, y + (q.Y-part.Y)*scale }
	p.SetLineJoinStyle("round")
	s.marks(scene.Marks(), at, scale)
	p.SetDashPattern(nil, 0)
}

// marks draws marks one after the other, at places of the sheet. What only a page shows is left out.
func (s *sheets) marks(list []diagram.Mark, at func(diagram.Point) (float64, float64), scale float64) {
	p := s.pdf
	for _, m := range list {
		switch m := m.(type) {
		case diagram.GroupMark:
			s.marks(m.Marks, at, scale)
		case diagram.TextMark:
			s.write(m, at, scale)
		case diagram.RectMark:
			how := s.ink(m.Ink, scale)
			left, top := at(diagram.Point{X: m.Rect.X, Y: m.Rect.Y})
			if m.Round > 0 {
				p.RoundedRect(left, top, m.Rect.W*scale, m.Rect.H*scale, m.Round*scale, "1234", how)
			} else {
				p.Rect(left, top, m.Rect.W*scale, m.Rect.H*scale, how)
			}
		case diagram.CircleMark:
			how := s.ink(m.Ink, scale)
			cx, cy := at(m.Center)
			p.Circle(cx, cy, m.Radius*scale, how)
		case diagram.PathMark:
			if m.Fill != "" || m.Stroke != "" {
				s.path(m, at, scale)
			}
		}
	}
}

// ink sets how the next mark is drawn, and returns that in the printer's letters.
func (s *sheets) ink(m diagram.Ink, scale float64) (how string) {
	p := s.pdf
	if m.Fill != "" {
		p.SetFillColor(rgb(diagram.Hex(m.Fill)))
		how = "F"
	}
	if m.Stroke != "" {
		r, g, b := rgb(diagram.Hex(m.Stroke))
		if m.Opacity > 0 { // paper has no layers: what is faint is pale
			r, g, b = pale(r, m.Opacity), pale(g, m.Opacity), pale(b, m.Opacity)
		}
		p.SetDrawColor(r, g, b)
		p.SetLineWidth(m.Width * scale)
		how += "D"
	}
	var dash []float64
	for _, d := range m.Dash {
		dash = append(dash, d*scale)
	}
	p.SetDashPattern(dash, 0)
	return how
}

func (s *sheets) path(m diagram.PathMark, at func(diagram.Point) (float64, float64), scale float64) {
	p := s.pdf
	how := s.ink(m.Ink, scale)
	if m.Closed {
		var points []fpdf.PointType
		for _, q := range m.Runs[0] {
			x, y := at(q)
			points = append(points, fpdf.PointType{X: x, Y: y})
		}
		p.Polygon(points, how)
		return
	}
	for _, run := range m.Runs {
		for i, q := range run {
			x, y := at(q)
			if i == 0 {
				p.MoveTo(x, y)
			} else {
				p.LineTo(x, y)
			}
		}
	}
	p.DrawPath("D")
}

// write draws a text of a scene.
func (s *sheets) write(m diagram.TextMark, at func(diagram.Point) (float64, float64), scale float64) {
	style := ""
	if m.Weight >= 600 {
		style = "B"
	}
	s.font(style, m.Size*scale)
	text := m.Text
	tx, ty := at(m.At)
	wide := s.width(text)
	if m.Middle {
		tx -= wide / 2
	}
	if len(s.parts) > 0 {
		whole := diagram.Rect{X: m.At.X, Y: m.At.Y - m.Size, W: wide / scale, H: m.Size}
		if m.Middle {
			whole.X -= whole.W / 2
		}
		if m.Part == diagram.PartTitle || !s.belongs(whole) {
			return
		}
	}
	s.text(tx, ty, text)
}

// belongs reports whether a text is to be written in the part of a drawing that is being drawn: it lies in it as a whole, or
// in none of the parts, and its middle in this one. What a part would cut off is read in another.
func (s *sheets) belongs(text diagram.Rect) bool {
	holds := func(r diagram.Rect) bool {
		return text.X >= r.X-1 && text.X+text.W <= r.X+r.W+1 && text.Y+text.H/2 >= r.Y && text.Y+text.H/2 <= r.Y+r.H
	}
	if holds(s.part) {
		return true
	}
	if slices.ContainsFunc(s.parts, func(t tile) bool { return holds(t.Rect) }) {
		return false
	}
	x, y := text.X+text.W/2, text.Y+text.H/2
	return x >= s.part.X && x <= s.part.X+s.part.W && y >= s.part.Y && y <= s.part.Y+s.part.H
}

// legend draws the scene's legend with its signs.
func (s *sheets) legend(scene *diagram.Scene, y float64) {
	x := margin
	p := s.pdf
	p.SetDrawColor(28, 31, 34)
	p.SetFillColor(28, 31, 34)
	p.SetDashPattern(nil, 0)
	for _, entry := range scene.Legend {
		p.SetLineWidth(1)
		switch entry.Sign {
		case diagram.SignConnector:
			p.Circle(x+4, y-2.5, 3, "F")
		case diagram.SignCap:
			p.Rect(x+2, y-6, 4, 7, "F")
		case diagram.SignFlag:
			p.Polygon([]fpdf.PointType{{X: x + 4, Y: y - 7}, {X: x + 8, Y: y - 3}, {X: x + 4, Y: y + 1}, {X: x, Y: y - 3}}, "D")
		case diagram.SignTape:
			p.Rect(x, y-6, 9, 6, "D")
		case diagram.SignConductor:
			p.Line(x+1, y+1, x+6, y-6)
		case diagram.SignThin:
			p.SetLineWidth(0.5)
			p.Line(x, y-2.5, x+10, y-2.5)
		default:
			p.SetDashPattern([]float64{1, 3}, 0)
			p.Line(x, y-2.5, x+10, y-2.5)
			p.SetDashPattern(nil, 0)
		}
		s.font("", 7.5)
		p.Text(x+13, y, entry.Text)
		x += 13 + s.width(entry.Text) + 14
	}
}

// scales are the scales at which two scenes fit beside each other, and one below the other.
func (s *sheets) scales(scenes [2]*diagram.Scene, tall float64) (beside, below float64) {
	wide := s.w - 2*margin
	a, b := scenes[0], scenes[1]
	return min(largest, (wide-20)/(a.W+b.W), (tall-18)/max(a.H, b.H)), min(largest, wide/max(a.W, b.W), (tall-36)/(a.H+b.H))
}

// pair puts two scenes beside each other on the present sheet, or one below the other where
// that is larger, at one scale, and returns how much of the sheet they took.
func (s *sheets) pair(names [2]string, scenes [2]*diagram.Scene, tall float64) float64 {
	a, b := scenes[0], scenes[1]
	beside, below := s.scales(scenes, tall)
	y := s.y
	put := func(i int, x, y, scale float64) {
		s.font("B", 9)
		s.text(x, y+10, names[i])
		s.paint(scenes[i], diagram.Rect{W: scenes[i].W, H: scenes[i].H}, x, y+14, scale, false)
	}
	if beside >= below {
		put(0, margin, y, beside)
		put(1, margin+a.W*beside+20, y, beside)
		return 18 + max(a.H, b.H)*beside
	}
	put(0, margin, y, below)
	put(1, margin, y+18+a.H*below, below)
	return 36 + (a.H+b.H)*below
}

func rgb(hex string) (r, g, b int) {
	v, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 32)
	if err != nil {
		return 0, 0, 0
	}
	return int(v >> 16 & 255), int(v >> 8 & 255), int(v & 255)
}

func pale(v int, opacity float64) int { return int(255 - (255-float64(v))*opacity) }
