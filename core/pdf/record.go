package pdf

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"ambivia/core/circuit"
	"ambivia/core/record"
)

// Record writes what is handed over of a job: one sheet for the job, at most two for each circuit that was changed. With the
// annex all that is known of every circuit follows, for the inspector, the electrician and the office.
func Record(w io.Writer, r *record.Record, info Info, size Size, annex bool) error {
	about := &circuit.Circuit{Practice: "na"}
	if len(r.Circuits) > 0 {
		about = r.Circuits[0].Found.Doc
	}
	s := newSheets(about, info, size, "Record: "+r.Job)
	whole := s.bounded(1, "Record", func(s *sheets) { s.cover(r) })
	for _, c := range r.Circuits {
		if !c.Changed() {
			continue
		}
		photos, err := pictures(c, handedPhotos)
		if err != nil {
			return err
		}
		s.info.Circuit, s.say = c.Called(), c.Found.Terms()
		s.bounded(2, c.Called(), func(s *sheets) { s.handover(c, photos) })
	}
	if annex {
		if !whole {
			s.info.Circuit = info.Circuit
			s.sheet("Annex: the job", false)
			s.became(r)
		}
		for _, c := range r.Circuits {
			if err := s.annex(c); err != nil {
				return err
			}
		}
	}
	return s.finish(w)
}

// signing is how tall the lines for signatures are, at the foot of the job's sheet.
const signing = 100.0

// cover says who did what for whom, and is signed.
func (s *sheets) cover(r *record.Record) {
	s.keep = signing
	if len(r.Firm.Picture) > 0 {
		s.picture("firm", r.Firm.Picture, s.w-margin-90, margin, 90, 60)
	}
	s.heading(or(r.Firm.Name, "Record of work"))
	for _, line := range []string{r.Firm.Address, r.Firm.Phone, prefixed("Licence ", r.Firm.Licence)} {
		if line != "" {
			s.paragraph(line)
		}
	}
	s.y = max(s.y, margin+66)
	s.heading("Record: " + r.Job)
	for _, x := range [][2]string{{"Date", r.Date.Format(time.DateOnly)}, {"For", r.Customer.Name}, {"At", r.Customer.Address}, {"Phone", r.Customer.Phone}, {"Notes", r.Customer.Notes}} {
		if x[1] != "" {
			s.paragraph(x[0] + ": " + x[1])
		}
	}
	s.became(r)
	s.keep = 0
	s.signed()
}

// mostNamed is how many things that are not right the job's sheet names of one circuit.
const mostNamed = 5

// became lists what each circuit is now, with what is wrong with it by name and what was not tested as counts.
func (s *sheets) became(r *record.Record) {
	var rows [][]string
	var kept []string
	for _, c := range r.Circuits {
		if !c.Changed() && len(c.Failed) == 0 && len(c.LeftOut) == 0 {
			kept = append(kept, c.Called())
			continue
		}
		wrong := c.Wrong()
		if more := len(wrong) - mostNamed; more > 0 && c.Changed() {
			wrong = append(wrong[:mostNamed:mostNamed], fmt.Sprintf("and %d more, on its own sheet", more))
		}
		rows = append(rows, []string{c.Called(), c.Is() + ". " + c.Status, or(strings.Join(wrong, " · "), "nothing"), or(strings.Join(c.Open, ", "), "nothing")})
	}
	if len(rows) > 0 {
		s.heading("What was done")
		s.table([]column{{head: "Circuit", share: 0.2, bold: true}, {head: "Now", share: 0.34}, {head: "Left out, or not right", share: 0.28}, {head: "Not tested", share: 0.18}}, rows)
	}
	if len(kept) > 0 {
		s.heading("Not changed")
		s.paragraph(strings.Join(kept, "; ") + ".")
	}
}

// signed draws the lines for signatures at the foot of the sheet.
func (s *sheets) signed() {
	y := s.floor() - signing + 30
	s.font("", s.body)
	s.text(margin, y, "All of this is from the log of the work. Anything not tested is listed as such.")
	y += 46
	half := (s.w - 2*margin - 30) / 2
	for i, who := range []string{"For the firm: name, date", "For the customer: name, date"} {
		x := margin + float64(i)*(half+30)
		s.pdf.SetDrawColor(28, 31, 34)
		s.pdf.SetDashPattern(nil, 0)
		s.pdf.SetLineWidth(0.6)
		s.pdf.Line(x, y, x+half, y)
		s.font("", 7)
		s.text(x, y+9, who)
	}
}

func or(text, otherwise string) string {
	if strings.TrimSpace(text) == "" {
		return otherwise
	}
	return text
}

func prefixed(with, text string) string {
	if text == "" {
		return ""
	}
	return with + text
}

func stamp(t time.Time) string {
	if t.IsZero() {
		return "—"
	}
	return t.Format("2006-01-02 15:04")
}

// picture puts a JPEG into a frame, as large as it fits.
func (s *sheets) picture(name string, jpeg []byte, x, y, wide, tall float64) {
	o := fpdf.ImageOptions{ImageType: "JPG"}
	info := s.pdf.RegisterImageOptionsReader(name, o, bytes.NewReader(jpeg))
	if info == nil || s.pdf.Err() {
		s.pdf.ClearError() // a picture that nobody can read leaves its place empty
		return
	}
	w, h := info.Extent()
	scale := min(wide/w, tall/h)
	s.pdf.ImageOptions(name, x, y, w*scale, h*scale, false, o, 0, "")
}
