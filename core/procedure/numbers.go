package procedure

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/practice"
	"ambivia/core/retrofit"
)

// Label is one wrap-around label: what a conductor is, in the practice's word and its
// letters, and where it belongs.
type Label struct {
	End     circuit.End `json:"end"`
	Role    string      `json:"role"`
	Letters string      `json:"letters"`
	Cable   string      `json:"cable"`
	Towards string      `json:"towards"`
	Box     string      `json:"box"`
	Circuit string      `json:"circuit"`
	Was     string      `json:"was,omitempty"` // what it was as found, where that is another thing
}

// Labels lists a label for every core end in the boxes that are worked in, box by box, with
// what it is once the work is done. What nothing uses is spare, and what leads nobody knows
// where is not known.
func (p *Procedure) Labels() []Label {
	was, now := names.For(p.Before), names.For(p.After)
	found, planned := p.Found.Roles(), p.Planned.Roles()
	var out []Label
	for _, b := range p.After.Boxes {
		if !slices.Contains(p.opened, b.ID) {
			continue
		}
		for _, m := range p.After.EndsIn(b.ID) {
			e := circuit.End{Ref: m, Box: b.ID}
			l := Label{End: e, Letters: circuit.Letters(m.Part), Cable: m.Owner, Box: now.Label(b.ID), Circuit: p.Before.Name, Role: "spare", Towards: "not known"}
			if far := now.Far(m.Owner, b.ID); far != "" {
				l.Towards = far
			}
			switch role := string(planned[e]); {
			case role == "":
				l.Role = "not known"
			case role != "" && role != "unused":
				l.Role = now.Word(role)
			}
			if before := string(found[e]); before != "" && before != "unused" && was.Word(before) != l.Role {
				l.Was = was.Word(before)
			}
			out = append(out, l)
		}
	}
	return out
}

// FoundLabels lists a label for every core end in the boxes that were opened, as found: for putting on before anything is
// lifted.
func FoundLabels(found *inspect.Compiled) []Label {
	say, roles := found.Terms(), found.Roles()
	var out []Label
	for _, b := range found.Doc.Boxes {
		if !b.Seen() || b.Kind == circuit.Panel {
			continue
		}
		for _, e := range found.Doc.CoreEnds(b.ID) {
			l := Label{End: e, Letters: circuit.Letters(e.Part), Cable: e.Owner, Box: say.Label(b.ID), Circuit: found.Doc.Name, Role: "spare", Towards: "not known"}
			if far := say.Far(e.Owner, b.ID); far != "" {
				l.Towards = far
			}
			switch role := string(roles[e]); role {
			case "":
				l.Role = "not known"
			case "unused":
			default:
				l.Role = say.Word(role)
			}
			out = append(out, l)
		}
	}
	return out
}

// Line is a line of a count, with its unit in the text.
type Line struct {
	What   string `json:"what"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// BoxRoom is the room in one box before and after: line by line where the practice counts,
// else what is known of depth. Verdict is [Fits], [TooTight] or [NotKnown].
type BoxRoom struct {
	Box     string `json:"box"`
	Where   string `json:"where"`
	Lines   []Line `json:"lines"`
	Verdict string `json:"verdict"`
	Note    string `json:"note,omitempty"`
}

// What is known of the room in a box.
const (
	Fits     = "fits"
	TooTight = "too tight"
	NotKnown = "not known"
)

// Rooms counts the room in every box that is worked in.
func (p *Procedure) Rooms() []BoxRoom {
	out := []BoxRoom{}
	for _, b := range p.Before.Boxes {
		if b.Kind == circuit.Panel || !slices.Contains(p.opened, b.ID) {
			continue
		}
		r := BoxRoom{Box: b.ID, Where: names.For(p.Before).Label(b.ID), Verdict: Fits, Lines: []Line{}}
		if practice.For(p.Before).CountsFill {
			p.fill(&r)
		} else {
			p.depth(&r, b)
		}
		out = append(out, r)
	}
	return out
}

// fill is the count of North American practice, in cubic inches.
func (p *Procedure) fill(r *BoxRoom) {
	was, now := inspect.BoxFill(p.Before, r.Box), inspect.BoxFill(p.After, r.Box)
	if now.Missing != "" {
		r.Verdict, r.Note = NotKnown, "Not counted: "+now.Missing+"."
		return
	}
	inch := func(v float64) string { return fmt.Sprintf("%.2f in³", v) }
	say := func(l inspect.FillLine) string {
		return fmt.Sprintf("%g × %.2f = %s", l.Count, l.Inch3/l.Count, inch(l.Inch3))
	}
	for _, l := range now.Lines {
		line := Line{What: l.What, After: say(l), Before: "—"}
		if i := slices.IndexFunc(was.Lines, func(x inspect.FillLine) bool { return x.What == l.What }); i >= 0 {
			line.Before = say(was.Lines[i])
		}
		r.Lines = append(r.Lines, line)
	}
	for _, l := range was.Lines {
		if !slices.ContainsFunc(now.Lines, func(x inspect.FillLine) bool { return x.What == l.What }) {
			r.Lines = append(r.Lines, Line{l.What, say(l), "—"})
		}
	}
	r.Lines = append(r.Lines, Line{"needed in all", inch(was.Inch3), inch(now.Inch3)}, Line{"the box has", inch(was.Volume), inch(now.Volume)})
	if !now.Fits() {
		r.Verdict = TooTight
	}
}

// depth states how far what stands in a box reaches, which is no sum of any code.
func (p *Procedure) depth(r *BoxRoom, b circuit.Box) {
	before, after := inspect.DepthIn(p.Before, b.ID), inspect.DepthIn(p.After, b.ID)
	say := func(mm float64) string {
		if mm == 0 {
			return "not recorded"
		}
		return fmt.Sprintf("%g mm", mm)
	}
	has := "not recorded"
	if b.DepthMm != nil {
		has = say(*b.DepthMm)
	}
	r.Lines = append(r.Lines, Line{"what stands in it reaches", say(before.Mm), say(after.Mm)}, Line{"depth of the box", has, has})
	if b.DepthMm == nil || after.Mm == 0 && p.fitted(b.ID) {
		r.Verdict, r.Note = NotKnown, "Measure the box before you promise that it fits."
	}
	for _, f := range p.Planned.Report().Findings {
		if f.Code == "box-depth" && slices.ContainsFunc(f.At, func(e circuit.End) bool { return e.Box == r.Box || p.in(e, r.Box) }) {
			r.Note, r.Verdict = f.Text+" "+f.Advice, TooTight
		}
	}
}

// fitted reports whether a new device stands in a box.
func (p *Procedure) fitted(box string) bool {
	return slices.ContainsFunc(p.Option.Devices, func(x retrofit.Fitted) bool { return x.Box == box })
}

// in reports whether a screw is in a box.
func (p *Procedure) in(e circuit.End, box string) bool {
	d := p.After.Device(e.Owner)
	return d != nil && d.Box == box
}

// Known says how the facts are known on which the plan is built: a wrong record gives a
// wrong plan, so whoever works by it wants to know what nobody saw or measured.
func (p *Procedure) Known() string {
	count := map[string]int{}
	var assumed []string
	say := names.For(p.Before)
	for _, e := range p.Before.Evidence {
		count[e.How]++
		if e.How == circuit.Assumed {
			name := say.Cable(e.Of)
			if end, err := circuit.ParseEnd(e.Of); err == nil {
				name = say.End(end)
			}
			assumed = append(assumed, name)
		}
	}
	if len(p.Before.Evidence) == 0 {
		return "The record does not say how its facts are known: by whoever wrote it down."
	}
	text := fmt.Sprintf("Of the facts of the record %d were seen, %d measured and %d assumed", count[circuit.Seen], count[circuit.Measured], count[circuit.Assumed])
	if len(assumed) == 0 {
		return text + "."
	}
	more := ""
	if len(assumed) > mostNamed {
		more = fmt.Sprintf(" and %d more", len(assumed)-mostNamed)
		assumed = assumed[:mostNamed]
	}
	return text + ". Assumed, so look again before you build on it: " + strings.Join(assumed, "; ") + more + "."
}

// mostNamed bounds how many assumed facts are named one by one.
const mostNamed = 6
