package pdf

// heading begins a part of a sheet, on a new one where little room is left.
func (s *sheets) heading(text string) {
	s.room(60)
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

// room begins a new sheet where less than so much is left.
func (s *sheets) room(tall float64) {
	if s.y+tall > s.floor() {
		s.sheet(s.what, s.w > s.h)
	}
}

// paragraph writes a text.
func (s *sheets) paragraph(text string) {
	s.font("", bodyText)
	for _, line := range s.lines(text, s.w-2*margin, 0) {
		s.room(bodyText * leading)
		s.font("", bodyText)
		s.y += bodyText * leading
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
	wide := s.w - 2*margin
	head := func() {
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
	s.room(50)
	head()
	for _, row := range rows {
		var cells [][]string
		most := 1
		for i, c := range columns {
			s.font(map[bool]string{true: "B"}[c.bold], bodyText)
			lines := s.lines(row[i], c.share*wide-6, 0)
			cells = append(cells, lines)
			most = max(most, len(lines))
		}
		if s.y+tallOf(most) > s.floor() {
			s.sheet(s.what, s.w > s.h)
			head()
		}
		for from := 0; from < most; {
			room := max(1, int((s.floor()-s.y-5)/(bodyText*leading))) // a row may be longer than a sheet
			to := min(most, from+room)
			x := margin
			for i, c := range columns {
				if c.tick && from == 0 {
					s.pdf.SetLineWidth(0.8)
					s.pdf.Rect(x+2, s.y+4, 8, 8, "D")
				}
				s.font(map[bool]string{true: "B"}[c.bold], bodyText)
				for n := from; n < min(to, len(cells[i])); n++ {
					s.text(x+2, s.y+bodyText*leading*(float64(n-from)+0.95), cells[i][n])
				}
				x += c.share * wide
			}
			s.y += tallOf(to - from)
			s.rule(0.3)
			if from = to; from < most {
				s.sheet(s.what, s.w > s.h)
				head()
			}
		}
	}
	s.y += 4
}

// tallOf is how tall a row of so many lines is.
func tallOf(lines int) float64 { return float64(lines)*bodyText*leading + 5 }

func (s *sheets) rule(width float64) {
	s.pdf.SetDrawColor(28, 31, 34)
	s.pdf.SetDashPattern(nil, 0)
	s.pdf.SetLineWidth(width)
	s.pdf.Line(margin, s.y, s.w-margin, s.y)
}
