package pdf

import (
	"fmt"

	"ambivia/core/diagram"
	"ambivia/core/procedure"
)

// summary says what a plan is, what is for it and against it, what each place can do, what fails when, its numbers and checks.
func (s *sheets) summary(p *procedure.Procedure) {
	o := p.Option
	s.sheet("The plan", false)
	s.heading("The plan: " + s.info.Circuit)
	s.font("B", 11)
	for _, line := range s.lines(o.Title, s.w-2*margin, 0) {
		s.y += 14
		s.text(margin, s.y, line)
	}
	s.y += 4
	s.paragraph(o.About)
	s.heading("For it and against it")
	for _, text := range o.Pros {
		s.paragraph("+ " + text)
	}
	for _, text := range o.Cons {
		s.paragraph("– " + text)
	}
	s.heading("How sure it is")
	s.paragraph(p.Known())
	s.heading("What each place can do afterwards")
	yes := map[bool]string{true: "yes", false: "no"}
	var rows [][]string
	for _, q := range o.Places {
		name := q.Name
		if q.Kept {
			name += ", stays"
		}
		rows = append(rows, []string{q.Where, name, yes[q.Dims], yes[q.Scenes], yes[q.UpIsOn], yes[q.Battery]})
	}
	s.table([]column{{head: "Place", share: 0.26, bold: true}, {head: "Device", share: 0.34}, {head: "Dims", share: 0.1}, {head: "Scenes", share: 0.1}, {head: "Up is on", share: 0.1}, {head: "Battery", share: 0.1}}, rows)
	s.heading("What fails when")
	for _, x := range o.Outages {
		s.paragraph(x.Text)
	}
	s.heading("In numbers")
	m := o.Metrics
	rows = [][]string{
		{"Boxes opened", fmt.Sprint(m.BoxesTouched)}, {"Ends touched; re-marked; capped for good", fmt.Sprintf("%d; %d; %d", m.EndsMoved, m.Remarked, m.Capped)},
		{"Walks to the " + s.say.Word("panel"), fmt.Sprint(m.Walks)}, {"Minutes, about", fmt.Sprintf("%.0f", m.Minutes)},
		{"Price of the devices", s.info.money(m.Price)}, {"Standby", fmt.Sprintf("%g W, %g kWh a year", m.StandbyWatts, m.StandbyYear)},
	}
	s.table([]column{{head: "What", share: 0.5}, {head: "How much", share: 0.5, bold: true}}, rows)
	s.heading("Proved by simulation, on the circuit as recorded")
	rows = nil
	for _, c := range o.Checks {
		how := "holds"
		switch {
		case c.Unknown:
			how = "not known"
		case !c.Passed:
			how = "FAILS"
		}
		rows = append(rows, []string{how, c.Text})
	}
	s.table([]column{{head: "", share: 0.14, bold: true}, {head: "What", share: 0.86}}, rows)
}

// closest is how small the two drawings may be to stand on one sheet: a little smaller than by themselves, since both in one look
// tell what changes.
const closest = 0.8 * smallest

// lineBeforeAndAfter draws the whole circuit in one line before and after, with what changes.
func (s *sheets) lineBeforeAndAfter(p *procedure.Procedure) {
	scenes := [2]*diagram.Scene{diagram.Schematic(p.Found, ""), diagram.Schematic(p.Planned, "")}
	best := func() (float64, float64) {
		tall := s.floor() - margin - 14
		beside, below := s.scales(scenes, tall)
		return max(beside, below), tall
	}
	upright, _ := best()
	s.w, s.h = s.h, s.w
	across, _ := best()
	if across < upright {
		s.w, s.h = s.h, s.w
	}
	if scale, tall := best(); scale >= closest {
		s.sheet("Single line, before and after", across >= upright)
		s.pair([2]string{"Before", "After"}, scenes, tall)
		s.legend(scenes[1], s.floor())
	} else {
		scenes[0].Title, scenes[1].Title = "Before, single line", "After, single line"
		s.drawing(scenes[0], "Before, single line")
		s.drawing(scenes[1], "After, single line")
	}
}

// drawings draws the whole circuit wire by wire: before, after, and what changes.
func (s *sheets) drawings(p *procedure.Procedure) {
	moved := p.Option.Moved()
	f := diagram.Layout(p.Before, p.After)
	s.drawing(f.Draw(p.Found, "Before: whole wiring", nil), "Before: whole wiring")
	s.drawing(f.Draw(p.Planned, "After: whole wiring", moved), "After: whole wiring")
	s.drawing(f.Difference(p.Planned, "What changes: the rest is thin", moved), "What changes")
}
