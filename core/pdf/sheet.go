// Package pdf puts drawings and the work order on sheets: PDF with text that can be
// searched, its fonts within, a title block on every sheet.
//
// A drawing that is too large to be read on one sheet is cut between its boxes and goes on
// over several, each saying at its edge where it goes on (drawing.go). The rest of a work
// order is tables (table.go, order.go). Nothing here knows a rule of wiring: what it writes
// comes from packages procedure, retrofit and diagram.
package pdf

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"ambivia/core/circuit"
	"ambivia/core/diagram"
	"ambivia/core/lettering"
	"ambivia/core/money"
	"ambivia/core/names"
	"ambivia/core/practice"
)

// Size is a size of paper.
type Size string

// Sizes of paper.
const (
	A4     Size = "a4"
	Letter Size = "letter"
)

// SizeFor is the paper that the people of a practice use.
func SizeFor(c *circuit.Circuit) Size { return Size(practice.For(c).Paper) }

// points is width and height upright, in points.
func (s Size) points() (w, h float64) {
	if s == Letter {
		return 612, 792
	}
	return 595.28, 841.89
}

// Info is what the title block says. Revision is 0 where there is none. Currency is what prices are
// in, as ISO 4217 writes it; "" for plain numbers.
type Info struct {
	Job, Circuit string
	Revision     int
	Date         time.Time
	Currency     string
}

// money writes a price as [money.Say] does, in the currency of the sheet.
func (i Info) money(price float64) string { return money.Say(price, i.Currency) }

// Measures of a sheet, in points.
const (
	margin    = 34.0
	blockTall = 50.0 // the title block
	bodyText  = 9.0  // where nothing has to be made smaller
	leading   = 1.32
)

// sheets is a document being written.
type sheets struct {
	pdf    *fpdf.Fpdf
	size   Size
	info   Info
	say    names.Terms
	what   string // of the sheet, for its title block
	y      float64
	w, h   float64                           // of the present sheet
	style  string                            // of the present font
	shapes map[lettering.Run]lettering.Shape // of runs in other scripts
	added  []*lettering.Font                 // fonts of other scripts that the document has by now
	parts  []tile                            // of the drawing that is being drawn, and which of them
	part   diagram.Rect
	body   float64 // size of paragraphs and tables
	last   int     // the page that a bounded part must not pass; 0 where nothing is bounded
	keep   float64 // what stays free at the foot of a bounded part
	full   bool    // the bounded part has no room left
}

func newSheets(c *circuit.Circuit, info Info, size Size, title string) *sheets {
	w, h := size.points()
	pdf := fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: w, Ht: h}})
	pdf.AddUTF8FontFromBytes("go", "", goregular.TTF)
	pdf.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetMargins(margin, margin, margin)
	pdf.SetCatalogSort(true)
	year, month, day := info.Date.Date() // the day and not the second: made again on one day it is the same
	made := time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
	pdf.SetCreationDate(made)
	pdf.SetModificationDate(made)
	pdf.SetLang("en")
	pdf.SetProducer("Ambivia", true)
	pdf.AliasNbPages("{sheets}")
	s := &sheets{pdf: pdf, size: size, info: info, say: names.For(c), body: bodyText}
	pdf.SetTitle(lettering.Clean(title), true)
	return s
}

// finish writes the document.
func (s *sheets) finish(w io.Writer) error {
	var b bytes.Buffer
	if err := s.pdf.Output(&b); err != nil {
		return fmt.Errorf("pdf: %w", err)
	}
	document := b.Bytes()
	copy(document, version)
	_, err := w.Write(document)
	return err
}

// version is said at the head of a document. The library says the oldest one that has all that it wrote, and knows no tags; what
// it writes means the same in this one.
const version = "%PDF-1.7"

// sheet begins a new sheet; what stands in its title block and among the bookmarks.
func (s *sheets) sheet(what string, across bool) {
	w, h := s.size.points()
	orientation := "P"
	if across {
		orientation = "L"
	}
	s.pdf.AddPageFormat(orientation, fpdf.SizeType{Wd: w, Ht: h})
	if s.w, s.h = w, h; across {
		s.w, s.h = h, w
	}
	if what != s.what {
		s.pdf.Bookmark(lettering.Clean(what), 0, 0)
	}
	s.what = what
	s.block()
	s.y = margin
}

// floor is the lowest y that a sheet's content may reach.
func (s *sheets) floor() float64 {
	floor := s.h - margin - blockTall - 6
	if s.last > 0 && s.pdf.PageNo() >= s.last {
		floor -= 14 + s.keep // for the line which says that the rest is elsewhere
	}
	return floor
}

// block draws the title block with the cautions that stand on every sheet.
func (s *sheets) block() {
	top := s.h - margin - blockTall
	wide := s.w - 2*margin
	s.pdf.SetDrawColor(28, 31, 34)
	s.pdf.SetLineWidth(0.8)
	s.pdf.SetDashPattern(nil, 0)
	s.pdf.Rect(margin, top, wide, blockTall, "D")
	s.font("", 6.6)
	caution := s.say.Caution + " " + s.say.WhoMay + " A plan is of the circuit as recorded; the device's own instructions, the local code and the inspector decide."
	for i, line := range s.lines(caution, wide-10, 2) {
		s.text(margin+5, top+8.5+float64(i)*7.6, line)
	}
	row := top + 20
	s.pdf.SetLineWidth(0.5)
	s.pdf.Line(margin, row, margin+wide, row)
	revision := "—"
	if s.info.Revision > 0 {
		revision = fmt.Sprint(s.info.Revision)
	}
	cells := []struct {
		head, text string
		share      float64
	}{
		{"Job", s.info.Job, 0.26}, {"Circuit", s.info.Circuit, 0.22}, {"Sheet", s.what, 0.26},
		{"Date", s.info.Date.Format("2006-01-02"), 0.11}, {"Revision", revision, 0.07}, {"Page", fmt.Sprintf("%d of {sheets}", s.pdf.PageNo()), 0.08},
	}
	x := margin
	for i, c := range cells {
		if i > 0 {
			s.pdf.Line(x, row, x, top+blockTall)
		}
		s.font("", 6)
		s.text(x+4, row+8, c.head)
		s.font("B", 8.5)
		lines := s.lines(c.text, c.share*wide-8, 2)
		if i == len(cells)-1 { // the mark for the number of sheets is longer than the number
			lines = []string{c.text}
		}
		for n, line := range lines {
			s.text(x+4, row+17.5+float64(n)*9, line)
		}
		x += c.share * wide
	}
}

func (s *sheets) font(style string, size float64) {
	s.style = style
	s.pdf.SetFont("go", style, size)
	s.pdf.SetTextColor(0, 0, 0)
}

// lines breaks a text to a width in the present font, into so many lines at most; 0 is as
// many as it takes. A word that is too long for the width is broken.
func (s *sheets) lines(text string, width float64, most int) []string {
	var out []string
	line := ""
	for word := range strings.FieldsSeq(lettering.Clean(text)) {
		next := word
		if line != "" {
			next = line + " " + word
		}
		if s.width(next) <= width {
			line = next
			continue
		}
		if line != "" {
			out = append(out, line)
		}
		line = word
		for s.width(line) > width {
			r := []rune(line)
			n := len(r) - 1
			for n > 1 && s.width(string(r[:n])) > width {
				n--
			}
			out = append(out, string(r[:n]))
			line = string(r[n:])
		}
	}
	if line != "" || len(out) == 0 { // a text of spaces alone is a line of its own
		out = append(out, line)
	}
	if most > 0 && len(out) > most {
		out = out[:most]
		r := []rune(out[most-1])
		for len(r) > 1 && s.width(string(r)+"…") > width {
			r = r[:len(r)-1]
		}
		out[most-1] = string(r) + "…"
	}
	return out
}
