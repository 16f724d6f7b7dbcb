package pdf

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
)

// Drawings writes the drawings of a circuit: the whole of it in one line and wire by wire,
// and each box from the front.
func Drawings(w io.Writer, k *inspect.Compiled, info Info, size Size) error {
	c := k.Doc
	s := newSheets(c, info, size, info.Circuit)
	s.drawing(diagram.Schematic(k, info.Circuit+", single line"), "Single line")
	s.drawing(diagram.Layout(c).Draw(k, info.Circuit+", whole wiring", nil), "Whole wiring")
	for _, b := range c.Boxes {
		if len(c.EndsIn(b.ID)) > 0 {
			s.drawing(diagram.Front(k, b.ID, nil), names.For(k.Doc).Label(b.ID))
		}
	}
	return s.finish(w)
}

// Scene writes one drawing.
func Scene(w io.Writer, c *circuit.Circuit, scene *diagram.Scene, info Info, size Size) error {
	s := newSheets(c, info, size, scene.Title)
	s.drawing(scene, scene.Title)
	return s.finish(w)
}

// Order writes the work order of a plan: what it is, its drawings before and after, every
// box with what is done in it, all steps with squares to tick, the way back, materials, room
// and numbers, and the sheet of labels.
func Order(w io.Writer, p *procedure.Procedure, info Info, size Size) error {
	s := newSheets(p.Before, info, size, "Work order: "+info.Circuit)
	s.summary(p)
	s.drawings(p)
	for _, b := range p.Before.Boxes {
		if slices.ContainsFunc(p.Steps, func(x procedure.Step) bool { return x.Box == b.ID && len(x.Edits) > 0 }) {
			s.box(p, b)
		}
	}
	s.steps(p)
	back, err := p.Back(len(p.Steps))
	if err != nil {
		return err
	}
	s.back(back)
	s.materials(p)
	s.labels(p)
	return s.finish(w)
}

// Labels writes the sheet of labels alone.
func Labels(w io.Writer, p *procedure.Procedure, info Info, size Size) error {
	s := newSheets(p.Before, info, size, "Labels: "+info.Circuit)
	s.labels(p)
	return s.finish(w)
}

// FoundLabels writes the labels of a circuit as it was found.
func FoundLabels(w io.Writer, found *inspect.Compiled, info Info, size Size) error {
	s := newSheets(found.Doc, info, size, "Labels as found: "+info.Circuit)
	s.labelled("Labels as found", "Cut along the lines, and put them on before anything is lifted. The plain half goes round the conductor.", procedure.FoundLabels(found))
	return s.finish(w)
}

func (s *sheets) summary(p *procedure.Procedure) {
	o := p.Option
	s.sheet("Work order", false)
	s.heading("Work order: " + s.info.Circuit)
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

// drawings puts the whole circuit on sheets: in one line, and wire by wire before, after and
// as what changes.
func (s *sheets) drawings(p *procedure.Procedure) {
	scenes := [2]*diagram.Scene{diagram.Schematic(p.Found, ""), diagram.Schematic(p.Planned, "")}
	tall := s.floor() - margin - 14
	if beside, below := s.scales(scenes, tall); max(beside, below) >= smallest {
		s.sheet("Single line, before and after", false)
		s.pair([2]string{"Before", "After"}, scenes, tall)
		s.legend(scenes[1], s.floor())
	} else {
		scenes[0].Title, scenes[1].Title = "Before, single line", "After, single line"
		s.drawing(scenes[0], "Before, single line")
		s.drawing(scenes[1], "After, single line")
	}
	moved := p.Option.Moved()
	f := diagram.Layout(p.Before, p.After)
	s.drawing(f.Draw(p.Found, "Before: whole wiring", nil), "Before: whole wiring")
	s.drawing(f.Draw(p.Planned, "After: whole wiring", moved), "After: whole wiring")
	s.drawing(f.Difference(p.Planned, "What changes: the rest is thin", moved), "What changes")
}

// box is one box as one stands before it, with the steps in it.
func (s *sheets) box(p *procedure.Procedure, b circuit.Box) {
	say := names.For(p.After)
	s.sheet("Box: "+say.Label(b.ID), false)
	moved := p.Option.Moved()
	s.heading(say.Label(b.ID) + ", from the front")
	s.y += s.pair([2]string{"Before", "After"}, [2]*diagram.Scene{diagram.Front(p.Found, b.ID, nil), diagram.Front(p.Planned, b.ID, moved)}, 0.58*(s.floor()-s.y)) + 8
	var rows [][]string
	for _, row := range stepRows(p, func(x procedure.Step) bool {
		return x.Box == b.ID && (x.Phase == procedure.Lifting || x.Phase == procedure.Joining)
	}) {
		rows = append(rows, []string{row[0], row[1], row[3]})
	}
	s.table([]column{stepColumns[0], stepColumns[1], {head: "What", share: 0.9}}, rows)
}

var stepColumns = []column{{head: "", share: 0.04, tick: true}, {head: "No.", share: 0.06, bold: true}, {head: "Where", share: 0.18}, {head: "What", share: 0.72}}

func stepRows(p *procedure.Procedure, want func(procedure.Step) bool) [][]string {
	var rows [][]string
	for _, x := range p.Steps {
		if want(x) {
			rows = append(rows, []string{"", fmt.Sprint(x.Number), x.Where, strings.Join(append([]string{x.Text}, x.Enter...), " · ")})
		}
	}
	return rows
}

func (s *sheets) steps(p *procedure.Procedure) {
	s.sheet("Steps", false)
	s.heading("All steps, in order")
	s.paragraph("Each heading is one stay at one place; none begins before the one above it is done. With power put on in the middle by mistake, what is joined is always a part of the circuit as found or of the planned one: no short, but bare ends that are live.")
	s.cards(p)
}

func (s *sheets) cards(p *procedure.Procedure) {
	for _, c := range p.Cards() {
		s.heading(c.Title)
		s.table(stepColumns, stepRows(p, func(step procedure.Step) bool { return slices.Contains(c.Steps, step.Number) }))
	}
}

func (s *sheets) back(back *procedure.Procedure) {
	s.sheet("Put it back", false)
	s.heading("Put it back: the whole original wiring")
	s.paragraph("From the finished work back to the circuit as found. The page gives this list from any step that was reached.")
	s.cards(back)
}

func (s *sheets) materials(p *procedure.Procedure) {
	s.sheet("Materials and numbers", false)
	s.heading("Materials")
	items := p.Materials()
	group := ""
	var rows [][]string
	total := 0.0
	for _, x := range items {
		name := ""
		if x.Group != group {
			name, group = x.Group, x.Group
		}
		price := ""
		if x.Price != nil {
			price = s.info.money(*x.Price)
			total += *x.Price
		}
		rows = append(rows, []string{name, fmt.Sprint(x.Count), x.What, x.Note, price})
	}
	rows = append(rows, []string{"", "", "Price of the devices together", "", s.info.money(total)})
	s.table([]column{{head: "Group", share: 0.19, bold: true}, {head: "Count", share: 0.08}, {head: "What", share: 0.37}, {head: "Note", share: 0.25}, {head: "Price", share: 0.11}}, rows)
	s.rooms(p)
}

// rooms says how full each box is, before and after.
func (s *sheets) rooms(p *procedure.Procedure) {
	s.heading("Room in the boxes")
	for _, r := range p.Rooms() {
		s.room(80)
		s.font("B", 10)
		s.y += 14
		s.text(margin, s.y, s.lines(r.Where+": "+r.Verdict, s.w-2*margin, 1)[0])
		if r.Note != "" {
			s.paragraph(r.Note)
		}
		rows := [][]string{}
		for _, l := range r.Lines {
			rows = append(rows, []string{l.What, l.Before, l.After})
		}
		if len(rows) > 0 {
			s.table([]column{{head: "What", share: 0.4}, {head: "Before", share: 0.3}, {head: "After", share: 0.3, bold: true}}, rows)
		}
	}
}

// Measures of a wrap-around label, in points: 25 by 38 millimetres, of which the upper half
// is written on and the lower goes round the conductor.
const (
	labelWide = 71.0
	labelTall = 108.0
)

func (s *sheets) labels(p *procedure.Procedure) {
	s.labelled("Labels for conductors", "Cut along the lines. The written half is read; the plain half goes round the conductor under it. What a conductor was as found stands in brackets.", p.Labels())
}

func (s *sheets) labelled(title, how string, labels []procedure.Label) {
	s.sheet(title, false)
	s.heading(title)
	s.paragraph(how)
	across := int((s.w - 2*margin) / labelWide)
	s.y += 4
	for i, l := range labels {
		if i%across == 0 {
			if i > 0 {
				s.y += labelTall
			}
			s.room(labelTall)
		}
		s.label(l, margin+float64(i%across)*labelWide, s.y)
	}
	s.y += labelTall
}

func (s *sheets) label(l procedure.Label, x, y float64) {
	s.pdf.SetDrawColor(120, 120, 120)
	s.pdf.SetLineWidth(0.4)
	s.pdf.SetDashPattern([]float64{2, 2}, 0)
	s.pdf.Rect(x, y, labelWide, labelTall, "D")
	s.pdf.SetDashPattern(nil, 0)
	// one line, as large as it can be written
	put := func(size, dy float64, text string) {
		for s.font("B", size); size > 3 && s.width(text) > labelWide-8; s.font("B", size) {
			size -= 0.5
		}
		s.text(x+4, y+dy, text)
	}
	put(10.5, 13, names.Capitalize(l.Role))
	put(8, 23, l.Letters)
	below := []string{"to " + l.Towards, l.Box, l.Circuit}
	if l.Was != "" {
		below = append(below, "(was "+l.Was+")")
	}
	const room = labelTall/2 - 26 // the written half
	size := 6.5
	var lines []string
	for ; size > 2; size -= 0.25 { // all of it, as large as it fits
		s.font("", size)
		lines = nil
		for _, text := range below {
			lines = append(lines, s.lines(text, labelWide-8, 0)...)
		}
		if float64(len(lines))*size*1.2 <= room {
			break
		}
	}
	for i, line := range lines {
		s.text(x+4, y+24+size*1.2*(float64(i)+0.9), line)
	}
}
