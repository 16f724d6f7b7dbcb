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
	"ambivia/core/prove"
	"ambivia/core/trace"
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

// Order writes the work order of a plan: one sheet of what to know and bring, one of the whole circuit, two boxes to a sheet with the
// lines for each, and one for the first power and what is written down. Every step is printed once. Proof may be nil; with
// it the presses and readings of the final test are listed.
func Order(w io.Writer, p *procedure.Procedure, proof *prove.Proof, info Info, size Size) error {
	s := newSheets(p.Before, info, size, "Work order: "+info.Circuit)
	o := partsOf(p)
	s.within(1, "Work order", func(s *sheets) { s.front(p, o) })
	s.lineBeforeAndAfter(p)
	if len(o.boxes) > 0 {
		tall := 250.0 // of the pictures of one box: large where a box has a sheet to itself
		if len(o.boxes) > 2 {
			tall = 150
		}
		s.within(max(min(2, len(o.boxes)), (len(o.boxes)+1)/2), "Boxes", func(s *sheets) {
			for _, box := range o.boxes {
				s.box(p, box, o.at[box], tall)
			}
		})
	}
	s.within(1, "Power on, and the final test", func(s *sheets) { s.finalSheet(p, o, proof) })
	return s.finish(w)
}

// Annex writes what the work order leaves out: what the plan is for and against, whole wirings, the way back, the room in
// boxes, and labels.
func Annex(w io.Writer, p *procedure.Procedure, info Info, size Size) error {
	s := newSheets(p.Before, info, size, "Annex: "+info.Circuit)
	back, err := p.Back(len(p.Steps))
	if err != nil {
		return err
	}
	s.summary(p)
	s.drawings(p)
	s.back(back)
	s.sheet("Room in the boxes", false)
	s.rooms(p)
	s.labels(p)
	return s.finish(w)
}

// orderParts are the cards of a work order by where they are printed: before any box is worked in, at each such box, and after the
// last of them.
type orderParts struct {
	before, after []procedure.Card
	boxes         []string
	at            map[string][]procedure.Card
}

func partsOf(p *procedure.Procedure) orderParts {
	o := orderParts{at: map[string][]procedure.Card{}}
	cards := p.Cards()
	edits := func(c procedure.Card) bool {
		return slices.ContainsFunc(c.Steps, func(n int) bool { return len(p.Steps[n-1].Edits) > 0 })
	}
	last := -1
	for i, c := range cards {
		if c.Box != nil && edits(c) {
			last = i
			if !slices.Contains(o.boxes, *c.Box) {
				o.boxes = append(o.boxes, *c.Box)
			}
		}
	}
	powered := func(c procedure.Card) bool {
		return slices.ContainsFunc(c.Steps, func(n int) bool { return p.Steps[n-1].Kind == procedure.KindPowerOn })
	}
	for last+1 < len(cards) && !powered(cards[last+1]) && cards[last+1].Box != nil { // capping and closing move no wire
		last++
		if box := *cards[last].Box; !slices.Contains(o.boxes, box) {
			o.boxes = append(o.boxes, box)
		}
	}
	for i, c := range cards {
		switch {
		case i <= last && c.Box != nil && slices.Contains(o.boxes, *c.Box):
			o.at[*c.Box] = append(o.at[*c.Box], c)
		case i <= last:
			o.before = append(o.before, c)
		default:
			o.after = append(o.after, c)
		}
	}
	return o
}

// front is the first sheet: the plan, what it relies on, what to bring, the order of work, and the gates before any box is opened.
func (s *sheets) front(p *procedure.Procedure, o orderParts) {
	s.heading("Work order: " + s.info.Circuit)
	s.font("B", 11)
	for _, line := range s.lines(p.Option.Title, s.w-2*margin, 0) {
		s.y += 14
		s.text(margin, s.y, line)
	}
	s.y += 4
	s.paragraph(p.Known())
	for _, r := range p.Option.Relies {
		s.paragraph("– " + r.Text)
	}
	var failing []string
	for _, c := range p.Option.Checks {
		switch {
		case c.Unknown:
			failing = append(failing, "Not known: "+c.Text)
		case !c.Passed:
			failing = append(failing, "FAILS: "+c.Text)
		}
	}
	s.list("Not proved by simulation", failing)
	s.stays(p, o.before)
	s.heading("Order of work")
	var list []string
	for _, c := range p.Cards() {
		list = append(list, fmt.Sprintf("%s (%s)", c.Title, span(c.Steps)))
	}
	s.paragraph(strings.Join(list, "  ›  "))
	s.bring(p)
}

// span writes step numbers: "4 to 9".
func span(steps []int) string {
	if first, last := steps[0], steps[len(steps)-1]; first != last {
		return fmt.Sprintf("%d to %d", first, last)
	}
	return fmt.Sprint(steps[0])
}

// stays writes the steps of cards with squares to tick.
func (s *sheets) stays(p *procedure.Procedure, cards []procedure.Card) {
	for _, c := range cards {
		if !s.room(50) {
			return
		}
		s.font("B", s.body+1)
		s.y += 16
		s.text(margin, s.y, s.lines(c.Title, s.w-2*margin, 1)[0])
		columns := []column{{share: 0.04, tick: true}, {share: 0.06, bold: true}, {share: 0.9}}
		var rows [][]string
		for _, n := range c.Steps {
			x := p.Steps[n-1]
			text := strings.Join(append([]string{x.Text}, x.Enter...), " · ")
			if c.Box == nil && x.Where != "" {
				text = x.Where + ": " + text
			}
			rows = append(rows, []string{"", fmt.Sprint(n), text})
		}
		s.rows(columns, rows)
	}
}

// bring lists what the work takes, a row for each group; devices by their price.
func (s *sheets) bring(p *procedure.Procedure) {
	s.heading("Materials and tools")
	var rows [][]string
	total := 0.0
	for _, x := range p.Materials() {
		text := strings.TrimSpace(fmt.Sprintf("%d %s %s", x.Count, x.What, bracketed(x.Note)))
		if x.Price != nil {
			text += " " + s.info.money(*x.Price)
			total += *x.Price
		}
		if n := len(rows) - 1; n >= 0 && rows[n][0] == x.Group {
			rows[n][1] += "; " + text
			continue
		}
		rows = append(rows, []string{x.Group, text})
	}
	rows = append(rows, []string{"Price", s.info.money(total) + " for the devices"})
	s.table([]column{{head: "Group", share: 0.19, bold: true}, {head: "What", share: 0.81}}, rows)
}

func bracketed(note string) string {
	if note == "" {
		return ""
	}
	return "(" + note + ")"
}

// box is one box from the front, before and after, with the steps in it.
func (s *sheets) box(p *procedure.Procedure, box string, cards []procedure.Card, tall float64) {
	if !s.room(tall + 90) {
		return
	}
	say := names.For(p.After)
	s.heading(say.Label(box) + ", from the front")
	s.y += s.pair([2]string{"Before", "After"}, [2]*diagram.Scene{diagram.Front(p.Found, box, nil), diagram.Front(p.Planned, box, p.Option.Moved())}, tall) + 4
	s.stays(p, cards)
}

// finalSheet is the last sheet: the steps after the last box, the presses and readings of the final test with what they show, and what is written
// down of each device.
func (s *sheets) finalSheet(p *procedure.Procedure, o orderParts, proof *prove.Proof) {
	s.heading("Power on, and the final test")
	s.stays(p, o.after)
	say := p.Planned.Terms()
	if proof != nil {
		s.heading("Presses, and what the lights do")
		var rows [][]string
		for i, x := range proof.Expect {
			what := "As it is: look at the lights"
			if x.Press != "" {
				what = "Press " + names.For(p.After).Place(x.Press)
			}
			var lamps []string
			for _, d := range p.After.Devices {
				if how, seen := x.Lamps[d.ID]; seen {
					lamps = append(lamps, say.Short(d.ID)+" "+how)
				}
			}
			rows = append(rows, []string{"", fmt.Sprint(i + 1), what, strings.Join(lamps, ", ")})
		}
		s.table([]column{{head: "", share: 0.04, tick: true}, {head: "No.", share: 0.06, bold: true}, {head: "Press", share: 0.5}, {head: "Expected", share: 0.4}}, rows)
		if tests := proof.Tests(); len(tests) > 0 {
			s.heading("Readings for what no press shows")
			s.readings(say, tests[:min(mostReadings, len(tests))])
			if more := len(tests) - mostReadings; more > 0 {
				s.paragraph(fmt.Sprintf("%d more are listed in Ambivia under Prove; these take the least effort.", more))
			}
		}
	}
	if len(p.Option.Devices) > 0 {
		s.heading("Write down")
		var rows [][]string
		for _, x := range p.Option.Devices {
			rows = append(rows, []string{say.Label(x.Box), x.Name, ""})
		}
		s.table([]column{{head: "Place", share: 0.28, bold: true}, {head: "Device", share: 0.36}, {head: "Serial number", share: 0.36}}, rows)
	}
}

// mostReadings is how many readings of the final test are printed.
const mostReadings = 12

// readings writes tests with what they show where the work is right, under how all stands for them.
func (s *sheets) readings(say names.Terms, tests []prove.MeterTest) {
	for len(tests) > 0 {
		how := trace.Conditions(say, tests[0].Test)
		var rows [][]string
		for len(tests) > 0 && trace.Conditions(say, tests[0].Test) == how {
			m := tests[0]
			rows = append(rows, []string{"", say.Expand(names.Capitalize(trace.Measure(say, m.Test))), trace.ReadingWords(m.Test.Instrument, m.Right)})
			tests = tests[1:]
		}
		s.paragraph(how)
		s.rows([]column{{head: "", share: 0.04, tick: true}, {head: "Read", share: 0.78}, {head: "Expected", share: 0.18}}, rows)
	}
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
