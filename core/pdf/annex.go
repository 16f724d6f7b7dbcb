package pdf

import (
	"fmt"
	"math"
	"strings"

	"ambivia/core/diagram"
	"ambivia/core/names"
	"ambivia/core/record"
)

// annex writes all that is known of one circuit: for the inspector what was confirmed, done, read and tried, for the electrician
// the way back and the whole wiring, for the office time, materials and settings.
func (s *sheets) annex(c *record.Circuit) error {
	s.info.Circuit, s.say = c.Called(), c.Found.Terms()
	s.sheet("Annex: "+c.Called(), false)
	s.heading("Annex: " + c.Called())
	s.paragraph(c.Is() + ". " + c.Status)
	s.inspector(c)
	s.electrician(c)
	s.office(c)
	photos, err := pictures(c, math.MaxInt)
	s.photographs(photos)
	s.wiring(c)
	return err
}

// inspector writes what was confirmed and done in one order of time, what was read and what right work reads, presses, trials, the
// room in boxes, and what is assumed.
func (s *sheets) inspector(c *record.Circuit) {
	s.list("Left out, or not right", c.Wrong())
	s.list("Not tested", c.Untested)
	if c.Work != nil || len(c.Found.Doc.Observations) > 0 {
		s.heading("What it relies on")
		if c.Work != nil {
			s.paragraph(c.Work.Known())
		} else {
			s.paragraph(fmt.Sprintf("%d readings were taken of it.", len(c.Found.Doc.Observations)))
		}
		for _, x := range c.Assumed() {
			s.paragraph("– " + x)
		}
	}
	s.happened("Gates and steps, as they happened", c.Course)
	s.happened("Readings", c.Readings)
	s.happened("Presses of the final test", c.Proving)
	s.trials(c)
	s.happened("Faults seen", c.Faults)
	s.happened("Notes", c.Notes)
	if c.Changed() {
		s.rooms(c.Work)
	}
}

// electrician writes the way back.
func (s *sheets) electrician(c *record.Circuit) {
	if len(c.Back) == 0 {
		return
	}
	s.heading("Back to the old wiring")
	for i, text := range c.Back {
		s.paragraph(fmt.Sprintf("%d. %s", i+1, text))
	}
}

// office writes who worked how long, what it took, and how devices are set.
func (s *sheets) office(c *record.Circuit) {
	if !c.Begun.IsZero() {
		s.heading("Who, and how long")
		people := or(strings.Join(c.People, ", "), "no name given")
		s.paragraph(fmt.Sprintf("%s; from %s to %s: %.0f minutes of work, all runs and proving included, pauses left out.", people, stamp(c.Begun), stamp(c.Ended), c.Minutes))
		var rows [][]string
		for _, t := range c.Taken() {
			rows = append(rows, []string{t.Name, fmt.Sprintf("%.0f", t.Worked), fmt.Sprintf("%.0f", t.Before)})
		}
		s.table([]column{{head: "Phase", share: 0.6, bold: true}, {head: "Minutes", share: 0.2}, {head: "Thought before", share: 0.2}}, rows)
	}
	s.used(c)
	s.told("Devices and settings", "Place", c.Noted())
	var links []string
	for _, text := range c.Links() {
		links = append(links, names.Capitalize(text)+".")
	}
	s.list("Links and rules", links)
}

// wiring draws the circuit in one line and wire by wire, before and as it is now.
func (s *sheets) wiring(c *record.Circuit) {
	before := diagram.Schematic(c.Found, "")
	if !c.Changed() {
		before.Title = "As found, single line"
		s.drawing(before, before.Title)
		s.drawing(diagram.Layout(c.Found.Doc).Draw(c.Found, "As found: whole wiring", nil), "As found: whole wiring")
		return
	}
	now, called := stood(c)
	after := diagram.Schematic(now, "")
	before.Title, after.Title = "Before, single line", called+", single line"
	s.drawing(before, before.Title)
	s.drawing(after, after.Title)
	f := diagram.Layout(c.Found.Doc, now.Doc)
	s.drawing(f.Draw(c.Found, "Before: whole wiring", nil), "Before: whole wiring")
	s.drawing(f.Draw(now, called+": whole wiring", nil), called+": whole wiring")
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
	s.heading("Trials: each place, from each state, on each path")
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
