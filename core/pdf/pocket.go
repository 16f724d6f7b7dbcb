package pdf

import (
	"fmt"
	"io"
	"slices"

	"ambivia/core/electric"
	"ambivia/core/procedure"
)

// Sizes of text that are tried for the sheet for the pocket, the largest that fits is taken. What does not
// even fit in the smallest is counted and left to the work order.
var pocketText = []float64{8.5, 8, 7.5, 7, 6.5, 6}

// Pocket writes one sheet that is folded once and carried: what stands where when it is done, box by box, and
// what is confirmed before and after, with squares to tick. It does not replace the work order.
func Pocket(w io.Writer, p *procedure.Procedure, info Info, size Size) error {
	s := newSheets(p.Before, info, size, "For the pocket: "+info.Circuit)
	s.sheet("For the pocket", true)
	list := pocketLines(s, p)
	letters := pocketText[len(pocketText)-1]
	for _, text := range pocketText {
		if try := (&pocket{sheets: s, size: text, dry: true}); try.write(list) {
			letters = text
			break
		}
	}
	(&pocket{sheets: s, size: letters}).write(list)
	return s.finish(w)
}

// pocketLine is one line of the sheet: a heading, something to tick, or a remark.
type pocketLine struct {
	text       string
	head, tick bool
}

// pocketLines lists what stands on it: of the new work each conductor, of the other phases each step that is no
// work on conductors. What comes off is left to the work order.
func pocketLines(s *sheets, p *procedure.Procedure) []pocketLine {
	out := []pocketLine{{text: p.Option.Title, head: true}}
	for _, c := range p.Cards() {
		name := c.Title
		for _, n := range c.Steps {
			step := p.Steps[n-1]
			if step.Phase == procedure.Lifting || len(step.Wires) > 0 && step.Phase != procedure.Joining {
				continue
			}
			text := step.Text
			if c.Box == nil && step.Where != "" {
				text = step.Where + ": " + text
			}
			if lastHead(out) != name {
				out = append(out, pocketLine{text: name, head: true})
			}
			for _, wire := range step.Wires {
				out = append(out, pocketLine{text: s.pocketWire(step, wire), tick: true})
			}
			if len(step.Wires) == 0 {
				out = append(out, pocketLine{text: text, tick: true})
			}
			for _, line := range step.Enter {
				out = append(out, pocketLine{text: line, tick: true})
			}
		}
	}
	return out
}

func lastHead(lines []pocketLine) string {
	for _, l := range slices.Backward(lines) {
		if l.head {
			return l.text
		}
	}
	return ""
}

// pocketWire says where one conductor goes.
func (s *sheets) pocketWire(x procedure.Step, wire procedure.Wire) string {
	name := s.say.Word("pigtail")
	if wire.Letters != "" {
		name = wire.Letters
	}
	if wire.Towards != "" {
		name += " to " + wire.Towards
	}
	role := s.say.Word(wire.Role)
	switch wire.Role {
	case "":
		role = "not known"
	case string(electric.Unused):
		role = "spare"
	}
	to := wire.Screw
	if to == "" && x.Connector != nil {
		to = fmt.Sprintf("%s for %d", s.say.Word("connector"), x.Connector.Conductors)
	}
	if to == "" {
		to = "its cap"
	}
	text := fmt.Sprintf("%s: %s → %s", name, role, to)
	if wire.Mark != "" {
		text += ", marked " + s.say.Word(wire.Mark)
	}
	if wire.StripMm > 0 {
		text += fmt.Sprintf(", strip %g mm", wire.StripMm)
	}
	return text
}

// pocket writes into the two halves of a sheet, one after the other.
type pocket struct {
	*sheets
	size float64
	half int
	y    float64 // within the half
	dry  bool    // nothing is drawn: it is seen whether all fits
}

// fold is what stays free on either side of the fold, in points.
const fold = 16.0

// write writes lines, and reports whether all of them fit.
func (k *pocket) write(list []pocketLine) bool {
	if !k.dry {
		k.pdf.SetDrawColor(150, 150, 150)
		k.pdf.SetLineWidth(0.4)
		k.pdf.SetDashPattern([]float64{3, 3}, 0)
		k.pdf.Line(k.w/2, margin, k.w/2, k.floor())
		k.pdf.SetDashPattern(nil, 0)
	}
	for i, l := range list {
		if !k.line(l) {
			if !k.dry {
				k.y, k.half = k.floor()-margin-k.size*leading, 1
				k.font("B", k.size)
				k.text(k.x(), margin+k.y+k.size, fmt.Sprintf("and %d lines more: see the work order", len(list)-i))
			}
			return false
		}
	}
	return true
}

func (k *pocket) x() float64 { return margin + float64(k.half)*(k.w/2-margin+fold) }

// line writes one; false where there is no room for it any more. The last line of the second half is kept
// free for the remark that there is more.
func (k *pocket) line(l pocketLine) bool {
	style, before, indent := "", 0.0, 0.0
	if l.head {
		style, before = "B", k.size*0.6
	}
	if l.tick {
		indent = k.size * 1.4
	}
	k.font(style, k.size)
	lines := k.lines(l.text, k.w/2-margin-fold-indent, 0)
	tall := before + float64(len(lines))*k.size*leading
	room := k.floor() - margin
	if k.half == 1 {
		room -= k.size * leading
	}
	if l.head { // not alone at the end
		room -= 2 * k.size * leading
	}
	if k.y+tall > room {
		if k.half == 1 {
			return false
		}
		k.half, k.y = 1, 0
	}
	if k.y > 0 {
		k.y += before
	}
	for i, text := range lines {
		if !k.dry {
			if l.tick && i == 0 {
				k.pdf.SetDrawColor(28, 31, 34)
				k.pdf.SetLineWidth(0.6)
				k.pdf.Rect(k.x(), margin+k.y+k.size*0.25, k.size*0.8, k.size*0.8, "D")
			}
			k.font(style, k.size)
			k.text(k.x()+indent, margin+k.y+k.size, text)
		}
		k.y += k.size * leading
	}
	return true
}
