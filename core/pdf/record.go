package pdf

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"ambivia/core/circuit"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/record"
)

// Record writes what is handed over of a job: who did it for whom, and of each circuit what it was and is, how to use it,
// what fails when, what was done, confirmed, read and tried by whom, what nobody tested, and how to get back.
func Record(w io.Writer, r *record.Record, info Info, size Size) error {
	about := &circuit.Circuit{Practice: "na"}
	if len(r.Circuits) > 0 {
		about = r.Circuits[0].Found.Doc
	}
	s := newSheets(about, info, size, "Record: "+r.Job)
	s.cover(r)
	for _, c := range r.Circuits {
		if err := s.circuitRecord(c); err != nil {
			return err
		}
	}
	return s.finish(w)
}

// cover says who did what for whom, and is signed.
func (s *sheets) cover(r *record.Record) {
	s.sheet("Record", false)
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
	for _, x := range [][2]string{{"For", r.Customer.Name}, {"At", r.Customer.Address}, {"Phone", r.Customer.Phone}, {"Notes", r.Customer.Notes}} {
		if x[1] != "" {
			s.paragraph(x[0] + ": " + x[1])
		}
	}
	var rows [][]string
	for _, c := range r.Circuits {
		rows = append(rows, []string{c.Called(), c.Is(), c.Status, fmt.Sprint(len(c.Untested))})
	}
	s.heading("What was done")
	s.table([]column{{head: "Circuit", share: 0.24, bold: true}, {head: "What it is now", share: 0.34}, {head: "How far", share: 0.3}, {head: "Not tested", share: 0.12}}, rows)
	for _, c := range r.Circuits {
		if len(c.Failed) > 0 {
			s.heading("Not as it should be: " + c.Called())
			for _, text := range c.Failed {
				s.paragraph("– " + text)
			}
		}
	}
	s.heading("Signed")
	s.paragraph("What is written here is what the log of the work says. What was not tested is said to be so.")
	s.room(70)
	s.y += 44
	half := (s.w - 2*margin - 30) / 2
	for i, who := range []string{"For the firm: name, date", "For the customer: name, date"} {
		x := margin + float64(i)*(half+30)
		s.pdf.SetLineWidth(0.6)
		s.pdf.Line(x, s.y, x+half, s.y)
		s.font("", 7)
		s.text(x, s.y+9, who)
	}
	s.y += 16
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

// circuitRecord writes all of one circuit.
func (s *sheets) circuitRecord(c *record.Circuit) error {
	s.info.Circuit = c.Called()
	s.say = c.Found.Terms()
	s.sheet(c.Called(), false)
	s.heading(c.Called())
	s.paragraph(c.Is() + ". " + c.Status)
	s.happened("Left out, or not as drawn", c.LeftOut)
	if len(c.Failed) > 0 {
		s.heading("Not as it should be")
		for _, text := range c.Failed {
			s.paragraph("– " + text)
		}
	}
	switch {
	case c.Option == nil:
	case c.State.Run == nil || c.Became == record.AsPlanned:
		s.paragraph(c.Option.Title + ". " + c.Option.About)
		s.use(c)
	default:
		s.paragraph("The plan was: " + c.Option.Title + ". How the places work, and what fails when, is said of the plan alone, so it is not said here.")
	}
	if used := c.UsedSo(s.info.Currency); len(used) > 0 {
		s.heading("Schedules, and what they take")
		for _, text := range used {
			s.paragraph("– " + text)
		}
	}
	if len(c.Untested) > 0 {
		s.heading("Not tested")
		for _, text := range c.Untested {
			s.paragraph("– " + text)
		}
	}
	s.who(c)
	s.happened("Gates: confirmed before hands went in", c.Gates)
	s.happened("Steps", c.Steps)
	s.happened("Readings", c.Readings)
	s.happened("Presses that show whether it is right", c.Proving)
	s.trials(c)
	s.devices(c)
	if links := c.Links(); len(links) > 0 {
		s.heading("Links and rules")
		for _, text := range links {
			s.paragraph("– " + names.Capitalize(text) + ".")
		}
	}
	s.happened("Faults seen", c.Faults)
	s.happened("Notes", c.Notes)
	s.used(c)
	if len(c.Back) > 0 {
		s.heading("How to get back to what was found")
		for i, text := range c.Back {
			s.paragraph(fmt.Sprintf("%d. %s", i+1, text))
		}
	}
	if list := c.Found.Doc.Evidence; len(list) > 0 || len(c.Found.Doc.Observations) > 0 {
		s.heading("How sure it is")
		if c.Work != nil {
			s.paragraph(c.Work.Known())
		} else {
			s.paragraph(fmt.Sprintf("%d readings were taken of it.", len(c.Found.Doc.Observations)))
		}
	}
	if err := s.photographs(c); err != nil {
		return err
	}
	s.beforeAndAfter(c)
	return nil
}

// use says how the light is used, and what fails when.
func (s *sheets) use(c *record.Circuit) {
	s.heading("How to use it")
	yes := map[bool]string{true: "yes", false: "no"}
	var rows [][]string
	for _, q := range c.Option.Places {
		rows = append(rows, []string{q.Where, q.Name, yes[q.Dims], yes[q.Scenes], yes[q.UpIsOn]})
	}
	s.table([]column{{head: "Place", share: 0.3, bold: true}, {head: "Device", share: 0.4}, {head: "Dims", share: 0.1}, {head: "Scenes", share: 0.1}, {head: "Up is on", share: 0.1}}, rows)
	s.heading("What fails when")
	for _, x := range c.Option.Outages {
		s.paragraph(x.Text)
	}
	if len(c.Batteries) > 0 {
		s.heading("Batteries")
		var rows [][]string
		for _, b := range c.Batteries {
			rows = append(rows, []string{b.Where, b.Name, b.In.Format(time.DateOnly), b.Due.Format(time.DateOnly)})
		}
		s.table([]column{{head: "Place", share: 0.3, bold: true}, {head: "Device", share: 0.36}, {head: "Put in", share: 0.17}, {head: "Due", share: 0.17}}, rows)
	}
}

// beforeAndAfter draws the circuit in one line, as it was found and as planned, and then wire by wire.
func (s *sheets) beforeAndAfter(c *record.Circuit) {
	before := diagram.Schematic(c.Found, "")
	if c.Option == nil || c.State.Run == nil {
		before.Title = "As found, single line"
		s.drawing(before, before.Title)
		return
	}
	stands, called := c.Option.Compiled(), "After"
	if c.Became != record.AsPlanned {
		stands, called = inspect.Compile(c.Now), "As it stands"
	}
	after := diagram.Schematic(stands, "")
	scenes := [2]*diagram.Scene{before, after}
	tall := s.floor() - margin - 14
	if beside, below := s.scales(scenes, tall); max(beside, below) >= smallest {
		s.sheet("Single line, before and after", false)
		s.pair([2]string{"Before", map[bool]string{true: "After, as planned", false: called}[called == "After"]}, scenes, tall)
	} else {
		before.Title, after.Title = "Before, single line", called+", single line"
		s.drawing(before, before.Title)
		s.drawing(after, after.Title)
	}
	f := diagram.Layout(c.Found.Doc, stands.Doc)
	s.drawing(f.Draw(c.Found, "Before: whole wiring", nil), "Before: whole wiring")
	s.drawing(f.Draw(stands, called+": whole wiring", nil), called+": whole wiring")
}

// who says who worked when, and how long.
func (s *sheets) who(c *record.Circuit) {
	if c.Begun.IsZero() {
		return
	}
	s.heading("Who, and how long")
	people := or(strings.Join(c.People, ", "), "nobody gave a name")
	s.paragraph(fmt.Sprintf("%s; from %s to %s: %.0f minutes of work, all runs and proving with it, pauses left out.", people, stamp(c.Begun), stamp(c.Ended), c.Minutes))
	var rows [][]string
	for _, t := range c.State.Times() {
		name := string(t.Phase)
		for _, p := range procedure.Phases {
			if p.Phase == t.Phase {
				name = s.say.Expand(p.Name)
			}
		}
		rows = append(rows, []string{name, fmt.Sprintf("%.0f", t.Took), fmt.Sprintf("%.0f", t.Thought)})
	}
	s.table([]column{{head: "Phase", share: 0.6, bold: true}, {head: "Minutes", share: 0.2}, {head: "Thought before", share: 0.2}}, rows)
}

func stamp(t time.Time) string {
	if t.IsZero() {
		return "—"
	}
	return t.Format("2006-01-02 15:04")
}

// happened writes what happened as a table, if anything did.
func (s *sheets) happened(title string, lines []record.Line) {
	if len(lines) == 0 {
		return
	}
	s.heading(title)
	var rows [][]string
	for _, l := range lines {
		rows = append(rows, []string{stamp(l.Time), or(l.By, "—"), l.What, l.How})
	}
	s.table([]column{{head: "When", share: 0.15}, {head: "Who", share: 0.13}, {head: "What", share: 0.42}, {head: "How it came out", share: 0.3}}, rows)
}

func (s *sheets) trials(c *record.Circuit) {
	if len(c.Trials) == 0 {
		return
	}
	s.heading("Each place, from each state, on each path")
	var rows [][]string
	for _, t := range c.Trials {
		how := "not tested"
		if e, tried := c.Tried[t.Entry]; tried && e.Works != nil {
			how = map[bool]string{true: "as expected", false: "NOT as expected"}[*e.Works]
			if e.Seconds > 0 {
				how += fmt.Sprintf(", after %g s", e.Seconds)
			}
			how += prefixed(": ", e.Note)
		}
		rows = append(rows, []string{t.Where, t.Path, t.From, t.Expect, how})
	}
	s.table([]column{{head: "Place", share: 0.22, bold: true}, {head: "Path", share: 0.12}, {head: "From", share: 0.08}, {head: "Expected", share: 0.33}, {head: "Result", share: 0.25}}, rows)
}

func (s *sheets) devices(c *record.Circuit) {
	if len(c.Devices) == 0 {
		return
	}
	s.heading("Devices")
	var rows [][]string
	for _, d := range c.Devices {
		for i, f := range d.Facts {
			name, place := "", ""
			if i == 0 {
				name, place = d.Name, d.Where
			}
			rows = append(rows, []string{place, name, f.Label, or(f.Value, "not noted")})
		}
	}
	s.table([]column{{head: "Place", share: 0.22, bold: true}, {head: "Device", share: 0.28}, {head: "What", share: 0.28}, {head: "Value", share: 0.22}}, rows)
}

func (s *sheets) used(c *record.Circuit) {
	if len(c.Materials) == 0 {
		return
	}
	s.heading("Materials in what stands now")
	var rows [][]string
	for _, x := range c.Materials {
		price := ""
		if x.Price != nil {
			price = s.info.money(*x.Price)
		}
		rows = append(rows, []string{fmt.Sprint(x.Count), x.What, x.Note, price})
	}
	s.table([]column{{head: "Count", share: 0.08, bold: true}, {head: "What", share: 0.5}, {head: "Note", share: 0.3}, {head: "Each", share: 0.12}}, rows)
}

// photographs puts them three in a row, with where and when.
func (s *sheets) photographs(c *record.Circuit) error {
	if len(c.Photos) == 0 {
		return nil
	}
	s.heading("Photographs")
	const gap, tall = 10.0, 120.0
	wide := (s.w - 2*margin - 2*gap) / 3
	for i, p := range c.Photos {
		if i%3 == 0 {
			if i > 0 {
				s.y += tall + 26
			}
			s.room(tall + 30)
		}
		jpeg, err := p.Picture()
		if err != nil {
			return err
		}
		x := margin + float64(i%3)*(wide+gap)
		s.picture("photo "+p.ID, jpeg, x, s.y+4, wide, tall)
		s.font("", 7)
		for n, line := range s.lines(strings.TrimSpace(p.Where+", "+stamp(p.Created)+". "+p.Note), wide, 2) {
			s.text(x, s.y+tall+12+float64(n)*8, line)
		}
	}
	s.y += tall + 26
	return nil
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
