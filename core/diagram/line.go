package diagram

import (
	"fmt"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/lettering"
	"ambivia/core/names"
)

// Measures of the one-line drawing.
const (
	lineNode  = 260.0 // width of a box
	linePitch = 350.0 // between branches
	lineGap   = 74.0  // between a box and the next: room for what its cable carries
	lineText  = 20.0  // between rows of text
	lineLeft  = 60.0  // left of the first branch: room for links
	lineWords = 38    // characters of a row
)

// Schematic draws the circuit in one line for people who do not wire: each box with what
// stands in it, one below the other as power meets them, each cable as one line with a stroke
// and a word for every conductor, links between devices dotted. It is narrow enough for a
// phone and for a sheet upright; branches go to the right.
func Schematic(k *inspect.Compiled, title string, others ...*circuit.Circuit) *Scene {
	c := k.Doc
	f := layout(c, others, unfolded)
	d := &schematic{f, c, k.Terms(), k.Roles(), &Scene{Title: title}, map[string]Rect{}}
	d.nodes()
	for _, r := range f.cables {
		if c.Cable(r.cable.ID) != nil {
			d.cable(r)
		}
	}
	d.links()
	if len(c.Links) > 0 {
		d.scene.Legend = append(d.scene.Legend, Entry{SignLink, "a link: radio, hub, cloud or data cable"})
	}
	d.scene.Legend = append(d.scene.Legend, Entry{SignConductor, "one conductor"})
	d.scene.H += legendSpace
	d.scene.H += legendRow * float64(max(0, len(d.scene.legendRows())-1))
	return d.scene
}

type schematic struct {
	*Frame
	doc   *circuit.Circuit
	say   names.Terms
	roles map[circuit.End]electric.Role
	scene *Scene
	at    map[string]Rect
}

// texts lists what stands in a box.
func (d *schematic) texts(box string) []string {
	var out []string
	for _, dev := range d.doc.Devices {
		if dev.Box != box {
			continue
		}
		text := d.say.Title(dev.ID)
		if dev.Count != nil && *dev.Count > 1 {
			text += fmt.Sprintf(" × %d", *dev.Count)
		}
		out = append(out, clip(text, lineWords))
	}
	return out
}

// clip keeps a text to so many characters.
func clip(text string, most int) string { return lettering.Clip(text, most) }

// nodes places the boxes: depth goes down, branches go right.
func (d *schematic) nodes() {
	levels, stubs := map[int]float64{}, map[int]float64{}
	deepest := 0
	for _, id := range d.order {
		p := d.rooms[id]
		levels[p.column] = max(levels[p.column], 34+lineText*float64(max(1, len(d.texts(id)))))
		if rows := d.stubRows(id); len(rows) > 0 {
			stubs[p.column] = max(stubs[p.column], 16*float64(len(rows))+12)
		}
		deepest = max(deepest, p.column)
	}
	top := map[int]float64{}
	y := margin + 34
	for level := range deepest + 1 {
		top[level] = y
		y += levels[level] + stubs[level] + lineGap
	}
	rows := map[int]int{} // rows that hold a box of this version, close together
	for _, id := range d.order {
		if _, seen := rows[d.rooms[id].row]; !seen {
			rows[d.rooms[id].row] = len(rows)
		}
	}
	lowest := y - lineGap
	for _, id := range d.order {
		p := d.rooms[id]
		b := d.doc.Box(id)
		if b == nil {
			continue
		}
		texts := d.texts(id)
		r := Rect{lineLeft + float64(rows[p.row])*linePitch, top[p.column], lineNode, 34 + lineText*float64(max(1, len(texts)))}
		if d.hung(id) { // hangs on no cable: below all others
			r.Y = lowest + lineGap/2
			lowest = r.Y + r.H
			r.X = lineLeft
		}
		d.at[id] = r
		d.scene.Rooms = append(d.scene.Rooms, Room{r, id, b.Kind, b.Kind == circuit.Panel || b.Seen()})
		d.scene.Labels = append(d.scene.Labels, Label{Rect: Rect{r.X + 12, r.Y + 8, float64(lettering.Columns(clip(d.say.Label(b.ID), 30))) * charWidth, 16}, Text: clip(d.say.Label(b.ID), 30), Class: "room"})
		for i, text := range texts {
			d.scene.Labels = append(d.scene.Labels, Label{Rect: Rect{r.X + 12, r.Y + 30 + float64(i)*lineText, float64(lettering.Columns(text)) * smallChar, 16}, Text: text, Class: "cable"})
		}
		d.scene.W, d.scene.H = max(d.scene.W, r.X+r.W+margin), max(d.scene.H, r.Y+r.H+margin)
	}
	d.scene.W = max(d.scene.W, lineLeft+linePitch)
}

// hung reports whether a box has no cable.
func (d *schematic) hung(box string) bool {
	for _, k := range d.doc.Cables {
		if k.In(box) {
			return false
		}
	}
	return true
}

// carries says what a cable carries in the practice's words, alike ones counted.
func (d *schematic) carries(k circuit.Cable) []string {
	var order []string
	count := map[string]int{}
	for _, core := range k.Cores {
		role := ""
		for _, box := range k.Ends {
			if box != nil && role == "" {
				role = string(d.roles[circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}])
			}
		}
		word := d.say.Word(role)
		switch role {
		case "":
			word = "not known"
		case string(electric.Unused):
			word = "spare"
		}
		if count[word]++; count[word] == 1 {
			order = append(order, word)
		}
	}
	var rows []string
	row := ""
	if letter := d.say.Letter(k.ID); letter != "" {
		row = letter + ": "
	}
	for i, word := range order {
		if n := count[word]; n > 1 {
			if word == d.say.Word("traveler") {
				word = d.say.Word("travelers")
			}
			word = fmt.Sprintf("%d %s", n, word)
		}
		if i < len(order)-1 {
			word += ", "
		}
		if lettering.Columns(row+word) > lineWords && row != "" {
			rows, row = append(rows, strings.TrimSpace(row)), ""
		}
		row += word
	}
	return append(rows, row)
}

// stubRows says what the cables of a box carry whose far end is not known.
func (d *schematic) stubRows(box string) []string {
	var rows []string
	n := 0
	for _, r := range d.cables {
		if r.from == box && r.to == "" && d.doc.Cable(r.cable.ID) != nil {
			rows = append(rows, d.carries(r.cable)...)
			n++
		}
	}
	switch n {
	case 0:
		return nil
	case 1:
		return append(rows, untraced)
	}
	return append(rows, "far ends not known")
}

// line draws a cable, with a stroke for each conductor.
func (d *schematic) line(k circuit.Cable, path []Point, mark Point) {
	d.scene.Lines = append(d.scene.Lines, Line{Path: path, Mark: Point{mark.X - float64(len(k.Cores)-1)*3, mark.Y}, Strokes: len(k.Cores)})
}

// rows writes what cables carry, from a place down.
func (d *schematic) rows(x, y float64, rows []string) {
	for i, text := range rows {
		at := Rect{x, y + float64(i)*16, float64(lettering.Columns(text)) * smallChar, 16}
		d.scene.Labels = append(d.scene.Labels, Label{Rect: at, Text: text, Class: "cable"})
		d.scene.W, d.scene.H = max(d.scene.W, at.X+at.W+margin), max(d.scene.H, at.Y+at.H+margin)
	}
}

// cable draws one cable from its upper box to its lower one.
func (d *schematic) cable(r run) {
	from := d.at[r.from]
	if r.to == "" {
		d.stub(r, from)
		return
	}
	x := from.X + from.W/2
	start := Point{x, from.Y + from.H}
	to := d.at[r.to]
	end := Point{to.X + to.W/2, to.Y}
	path := []Point{start, end}
	if end.X != start.X { // round the corner, below all boxes of its level
		y := end.Y - lineGap + 12
		path = []Point{start, {x, y}, {end.X, y}, end}
	}
	n := d.beside(r)
	for i := range path {
		path[i].X -= 40 * float64(n)
	}
	end.X -= 40 * float64(n)
	d.line(r.cable, path, Point{end.X, end.Y - 14})
	if n > 0 {
		return // told beside the first
	}
	rows := d.carries(r.cable)
	for _, other := range d.cables {
		if other.from == r.from && other.to == r.to && d.beside(other) > 0 && d.doc.Cable(other.cable.ID) != nil {
			rows = append(rows, d.carries(other.cable)...)
		}
	}
	d.rows(end.X+22, end.Y-lineGap/2-8-float64(len(rows)-1)*8, rows)
}

// stub draws a cable whose far end is not known, at the right of its box and above the cables that go on. What all stubs of a
// box carry is written beside the first.
func (d *schematic) stub(r run, from Rect) {
	const apart, right = 26.0, 70.0
	n, rows := d.beside(r), d.stubRows(r.from)
	x, y := from.X+from.W-right-apart*float64(n), from.Y+from.H
	end := Point{x, y + 34}
	d.line(r.cable, []Point{{x, y}, end}, Point{x, y + 18})
	if n == 0 {
		d.rows(x+22, y+4, rows)
		d.scene.H = max(d.scene.H, end.Y+margin)
	}
}

// beside counts the cables between the same boxes that stand before this one.
func (d *schematic) beside(r run) (n int) {
	for _, other := range d.cables {
		if other.cable.ID == r.cable.ID {
			break
		}
		if other.from == r.from && other.to == r.to && d.doc.Cable(other.cable.ID) != nil {
			n++
		}
	}
	return n
}

// links draws what speaks without a wire, each in a lane of its own at the left.
func (d *schematic) links() {
	for i, l := range d.doc.Links {
		from, to := d.at[d.doc.Device(l.From).Box], d.at[d.doc.Device(l.To).Box]
		x := lineLeft - 12 - float64(i%5)*9
		a, b := from.Y+from.H/2+float64(i%3)*4, to.Y+to.H/2-float64(i%3)*4
		d.scene.Lines = append(d.scene.Lines, Line{Path: []Point{{from.X, a}, {x, a}, {x, b}, {to.X, b}}, Dashed: true})
	}
}

// Difference draws the later version with all that stays as it was in thin lines, so that
// only what changed stands out.
func (f *Frame) Difference(version *inspect.Compiled, title string, changed []circuit.End) *Scene {
	s := f.Draw(version, title, changed)
	s.DisableControls()
	moved := map[circuit.End]bool{}
	for _, e := range changed {
		moved[e] = true
	}
	cores := map[circuit.Ref]bool{}
	for _, e := range changed {
		cores[e.Ref] = true
	}
	for i, w := range s.Wires {
		inBox := len(w.Path) > 1 && f.inside(w)
		s.Wires[i].Kept = inBox && !moved[w.End] || !inBox && !cores[w.End.Ref]
	}
	s.Legend = append(s.Legend, Entry{SignThin, "thin: as it was"})
	return s
}

// inside reports whether a wire lies within the box of its end.
func (f *Frame) inside(w Wire) bool {
	p := f.rooms[w.End.Box]
	if p == nil {
		return true
	}
	last := w.Path[len(w.Path)-1]
	return last.X > p.rect.X && last.X < p.rect.X+p.rect.W
}
