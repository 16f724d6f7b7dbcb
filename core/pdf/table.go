package pdf

import "ambivia/core/circuit"

// heading begins a part of a sheet, on a new one where little room is left.
func (s *sheets) heading(text string) {
	if !s.room(60) {
		return
	}
	if s.y > margin {
		s.y += 12
	}
	s.font("B", 13)
	for _, line := range s.lines(text, s.w-2*margin, 0) {
		s.y += 15
		s.text(margin, s.y, line)
	}
	s.y += 5
}

// room begins a new sheet where less than so much is left. It reports false where a bounded part has no sheet left: the caller
// then writes nothing.
func (s *sheets) room(tall float64) bool {
	if s.full {
		return false
	}
	if s.y+tall > s.floor() {
		return s.turn()
	}
	return true
}

// turn goes on on the next sheet, if there may be one.
func (s *sheets) turn() bool {
	if s.last > 0 && s.pdf.PageNo() >= s.last {
		s.full = true
		s.font("B", bodyText)
		s.text(margin, s.floor()+12, "The rest is in the annex of this record.")
		return false
	}
	s.sheet(s.what, s.w > s.h)
	return true
}

// bodySizes are the sizes of letters that a bounded part is tried in, the largest first.
var bodySizes = []float64{9, 8.2, 7.5, 6.8}

// fits finds the largest size of letters in which a part fits on so many sheets, else the smallest, and whether it fits.
func (s *sheets) fits(most int, what string, write func(*sheets)) (size float64, whole bool) {
	for _, size = range bodySizes {
		dry := newSheets(&circuit.Circuit{}, s.info, s.size, "")
		dry.say, dry.body, dry.last = s.say, size, most
		dry.sheet(what, false)
		if write(dry); !dry.full {
			return size, true
		}
	}
	return size, false
}

// bounded writes a part on at most so many sheets, beginning a new one: in the largest letters that let it fit, and where none
// do, as far as it goes in the smallest, with a line which says where the rest is. It reports whether all of it is there.
func (s *sheets) bounded(most int, what string, write func(*sheets)) (whole bool) {
	size, whole := s.fits(most, what, write)
	s.sheet(what, false)
	s.body, s.last = size, s.pdf.PageNo()+most-1
	write(s)
	s.body, s.last, s.full = bodyText, 0, false
	return whole
}

// within writes all of a part, beginning a new sheet: in the largest letters that let it fit on so many sheets, and on more only where
// none do.
func (s *sheets) within(most int, what string, write func(*sheets)) {
	size, _ := s.fits(most, what, write)
	s.sheet(what, false)
	s.body = size
	write(s)
	s.body = bodyText
}

// paragraph writes a text.
func (s *sheets) paragraph(text string) {
	s.font("", s.body)
	for _, line := range s.lines(text, s.w-2*margin, 0) {
		if !s.room(s.body * leading) {
			return
		}
		s.font("", s.body)
		s.y += s.body * leading
		s.text(margin, s.y, line)
	}
	s.y += 3
}

// column is a column of a table: its head and its share of the width. Tick draws an empty
// square in place of a text, for a pencil.
type column struct {
	head  string
	share float64
	bold  bool
	tick  bool
}

// table writes rows under heads; the heads stand again on each sheet.
func (s *sheets) table(columns []column, rows [][]string) {
	s.tabled(columns, rows, true)
}

// rows writes rows without heads.
func (s *sheets) rows(columns []column, rows [][]string) {
	s.tabled(columns, rows, false)
}

func (s *sheets) tabled(columns []column, rows [][]string, heads bool) {
	wide := s.w - 2*margin
	head := func() {
		if !heads {
			s.y += 3
			s.rule(0.5)
			return
		}
		s.font("B", 7.5)
		x := margin
		s.y += 11
		for _, c := range columns {
			s.text(x+2, s.y, c.head)
			x += c.share * wide
		}
		s.y += 4
		s.rule(0.9)
	}
	if !s.room(50) {
		return
	}
	head()
	for _, row := range rows {
		var cells [][]string
		most := 1
		for i, c := range columns {
			s.font(map[bool]string{true: "B"}[c.bold], s.body)
			lines := s.lines(row[i], c.share*wide-6, 0)
			cells = append(cells, lines)
			most = max(most, len(lines))
		}
		if s.y+s.tallOf(most) > s.floor() {
			if !s.turn() {
				return
			}
			head()
		}
		for from := 0; from < most; {
			room := max(1, int((s.floor()-s.y-5)/(s.body*leading))) // a row may be longer than a sheet
			to := min(most, from+room)
			x := margin
			for i, c := range columns {
				if c.tick && from == 0 {
					s.pdf.SetLineWidth(0.8)
					s.pdf.Rect(x+2, s.y+4, 8, 8, "D")
				}
				s.font(map[bool]string{true: "B"}[c.bold], s.body)
				for n := from; n < min(to, len(cells[i])); n++ {
					s.text(x+2, s.y+s.body*leading*(float64(n-from)+0.95), cells[i][n])
				}
				x += c.share * wide
			}
			s.y += s.tallOf(to - from)
			s.rule(0.3)
			if from = to; from < most {
				if !s.turn() {
					return
				}
				head()
			}
		}
	}
	s.y += 4
}

// tallOf is how tall a row of so many lines is.
func (s *sheets) tallOf(lines int) float64 { return float64(lines)*s.body*leading + 5 }

func (s *sheets) rule(width float64) {
	s.pdf.SetDrawColor(28, 31, 34)
	s.pdf.SetDashPattern(nil, 0)
	s.pdf.SetLineWidth(width)
	s.pdf.Line(margin, s.y, s.w-margin, s.y)
}
