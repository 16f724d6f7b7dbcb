package diagram

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/lettering"
	"ambivia/core/names"
)

// drawing is one document being drawn into a frame.
type drawing struct {
	*Frame
	doc     *circuit.Circuit
	net     *electric.Network
	say     names.Terms
	scene   *Scene
	changed map[circuit.End]bool
}

// Draw draws one version of the frame's document. The ends in changed carry a
// flag.
func (f *Frame) Draw(k *inspect.Compiled, title string, changed []circuit.End) *Scene {
	version := k.Doc
	d := &drawing{
		Frame: f, doc: version, net: k.Network, say: k.Terms(),
		scene: &Scene{W: f.w, H: f.h, Title: title}, changed: map[circuit.End]bool{},
	}
	for _, e := range changed {
		d.changed[e] = true
	}
	for _, r := range f.cables {
		if version.Cable(r.cable.ID) != nil {
			d.cable(r)
		}
	}
	for _, id := range f.order {
		if version.Box(id) != nil {
			d.room(id)
		}
	}
	d.legend()
	return d.scene
}

// cable draws the sheath, the cores and their letters.
func (d *drawing) cable(r run) {
	last := len(r.cable.Cores) - 1
	at := func(i int, box string) port {
		return d.ports[circuit.End{Ref: circuit.Ref{Owner: r.cable.ID, Part: r.cable.Cores[i]}, Box: box}]
	}
	out := float64(r.out)
	first := at(0, r.from).at
	middle := (first.Y + at(last, r.from).at.Y) / 2
	sheath := Sheath{Width: float64(last+1)*pitch - 2, Open: r.to == ""}
	name := cableName(d.say, r.cable)
	nameW := float64(lettering.Columns(name)) * smallChar
	nameX := beside(first.X, out, 8, nameW)
	bend := func(i int) float64 { // the uppermost core goes furthest out
		if r.flipped {
			i = last - i
		}
		return d.bendAt(r) + out*float64(last-i)*pitch
	}
	var to Point // where the middle of the cable meets its lower box
	switch {
	case r.to == "":
		sheath.Path = []Point{{first.X + out*6, middle}, {first.X + out*stubLength, middle}}
	default:
		end := at(0, r.to)
		to = Point{end.at.X + float64(end.side)*6, (end.at.Y + at(last, r.to).at.Y) / 2}
		x := (bend(0) + bend(last)) / 2
		sheath.Path = []Point{{first.X + out*6, middle}, {x, middle}, {x, to.Y}, to}
		if r.straight {
			sheath.Path = []Point{{first.X + out*6, middle}, to}
			nameX = (first.X+end.at.X)/2 - nameW/2
		}
	}
	d.scene.Sheaths = append(d.scene.Sheaths, sheath)
	d.label(nameX, min(first.Y, at(last, r.from).at.Y)-pitch/2-17, name, "cable")
	for i, core := range r.cable.Cores {
		e := circuit.End{Ref: circuit.Ref{Owner: r.cable.ID, Part: core}, Box: r.from}
		from := d.ports[e].at
		letters := circuit.Letters(core)
		labelX := beside(from.X, out, 14, float64(lettering.Columns(letters))*smallChar)
		path := []Point{from}
		switch {
		case r.to == "":
			path = append(path, Point{from.X + out*stubLength, from.Y})
		case r.straight:
			end := at(i, r.to).at
			path = append(path, end)
			labelX = (from.X+end.X)/2 - 20
		default:
			end := at(i, r.to).at
			path = append(path, Point{bend(i), from.Y}, Point{bend(i), end.Y}, end)
		}
		d.scene.Wires = append(d.scene.Wires, Wire{Path: path, Core: core, Class: d.net.Class(e), End: e})
		d.label(labelX, from.Y-8, letters, "core")
	}
}

// beside is the left edge of a text so wide that stands so far beside a wall.
func beside(wall, out, gap, width float64) float64 {
	if out < 0 {
		return wall - gap - width
	}
	return wall + gap
}

// cableName is what stands over a cable: its id and gauge, and that nobody knows where it
// goes.
func cableName(say names.Terms, k circuit.Cable) string {
	var parts []string
	if letter := say.Letter(k.ID); letter != "" {
		parts = append(parts, letter) // alone: there is little room between two boxes
	}
	if k.Gauge != "" {
		parts = append(parts, circuit.GaugeText(k.Gauge))
	}
	if k.Stub() {
		parts = append(parts, untraced)
	}
	return strings.Join(parts, " · ")
}

// untraced stands at a cable whose far end is not known.
const untraced = "far end not known"

// bendAt is the x of that core of a bending cable which is nearest to its box; cables to lower
// rows bend nearer.
func (d *drawing) bendAt(r run) float64 {
	p := d.rooms[r.from]
	total := 0.0
	for _, other := range d.cables {
		if other.from == r.from && other.out == r.out && other.to != "" && !other.straight {
			total += float64(len(other.cable.Cores))*pitch + 10
		}
	}
	wall := p.rect.X
	if r.out == rightward {
		wall += p.rect.W
	}
	return wall + float64(r.out)*(p.clear+total-r.bend-float64(len(r.cable.Cores))*pitch-10)
}

func (d *drawing) label(x, y float64, text, class string) {
	w := charWidth
	if class == "core" || class == "cable" || class == "screw" {
		w = smallChar
	}
	d.scene.Labels = append(d.scene.Labels, Label{Rect: Rect{x, y, float64(lettering.Columns(text)) * w, 16}, Text: text, Class: class})
}

// room draws a box with what is in it.
func (d *drawing) room(id string) {
	p := d.rooms[id]
	b := *d.doc.Box(id)
	d.scene.Rooms = append(d.scene.Rooms, Room{p.rect, id, b.Kind, b.Kind == circuit.Panel || b.Seen()})
	d.label(p.rect.X+14, p.rect.Y+9, d.say.Label(b.ID), "room")
	bare := d.bareJoins(id)
	devices := 0
	for _, dev := range d.doc.Devices {
		if dev.Box == id {
			devices++
		}
	}
	var best *inside
	for _, try := range ways(len(bare), devices) {
		if next := d.interior(p, id, try, bare); best == nil || next.crossings < best.crossings {
			best = next
		}
	}
	s := d.scene
	s.Wires = append(s.Wires, best.Wires...)
	s.Devices = append(s.Devices, best.Devices...)
	s.Dots = append(s.Dots, best.Dots...)
	s.Caps = append(s.Caps, best.Caps...)
	s.Labels = append(s.Labels, best.Labels...)
	for _, m := range d.doc.EndsIn(id) {
		e := circuit.End{Ref: m, Box: id}
		at, in := d.ports[e].at, 1.0
		if d.ports[e].side == rightward {
			in = -1
		}
		if mark := d.doc.MarkOn(e); mark != "" {
			x := at.X + in*17
			text := markLetters(d.say, mark)
			w := float64(len(text))*smallChar + 6
			s.Tapes = append(s.Tapes, Tape{Rect{x - w/2, at.Y - 8, w, 16}, text})
		}
		if d.changed[e] {
			s.Flags = append(s.Flags, Flag{Point{at.X + in*42, at.Y}})
		}
	}
}

// markLetters shortens a role to letters for tape: line L, load SL, and so on.
func markLetters(say names.Terms, role string) string {
	word := say.Word(role)
	var out []rune
	for part := range strings.FieldsSeq(word) {
		out = append(out, []rune(strings.ToUpper(part))[0])
	}
	if len(out) == 1 && len(word) > 2 {
		out = []rune(strings.ToUpper(word))[:2]
	}
	return string(out)
}

// inside is one way of laying out the inside of a box.
type inside struct {
	Scene
	crossings int
}

// bareJoins lists the joins of a box that hold no screw, by their index.
func (d *drawing) bareJoins(id string) []int {
	var out []int
	for i, j := range d.doc.Joins {
		if j.Box == id && !slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return d.doc.Device(m.Owner) != nil }) {
			out = append(out, i)
		}
	}
	return out
}

// lanes gives each join without a screw its place among the lanes: as recorded, or by where
// its cores stand on average, from above or from below.
func (d *drawing) lanes(id string, bare []int, order int) map[int]int {
	by := slices.Clone(bare)
	if order > 0 {
		height := map[int]float64{}
		for _, i := range bare {
			for _, m := range d.doc.Joins[i].Of {
				height[i] += d.ports[circuit.End{Ref: m, Box: id}].at.Y / float64(len(d.doc.Joins[i].Of))
			}
		}
		slices.SortStableFunc(by, func(a, b int) int { return cmp.Compare(height[a], height[b]) })
		if order == 2 {
			slices.Reverse(by)
		}
	}
	out := map[int]int{}
	for place, i := range by {
		out[i] = place
	}
	return out
}

// interior routes a box in one of the ways.
func (d *drawing) interior(p *place, id string, way way, bare []int) *inside {
	lanes := d.lanes(id, bare, way.order)
	out := &inside{}
	x := p.rect.X + p.wall(leftward)
	leftLanes := x + lane/2
	if way.left > 0 {
		x += float64(way.left)*lane + deviceGap/2
	}
	top := p.rect.Y + p.rect.H - deviceBody - 16
	screws := map[circuit.Ref]Point{}
	devices := slices.Clone(d.doc.Devices)
	if way.reversed {
		slices.Reverse(devices)
	}
	for _, dev := range devices {
		if dev.Box != id {
			continue
		}
		x = d.device(out, dev, x, top, way.mirrored, screws) + deviceGap
	}
	rightLanes := x - deviceGap/2 + lane/2
	bus := p.base + p.portsEnd + half/2
	joined := map[circuit.Ref]bool{}
	for i, j := range d.doc.Joins {
		if j.Box != id || len(j.Of) < 2 { // a join of one is a cap
			continue
		}
		at := leftLanes + float64(lanes[i])*lane
		if n := lanes[i] - way.left; n >= 0 {
			at = rightLanes + float64(n)*lane
		}
		var cores []circuit.End
		var points []Point
		for _, m := range j.Of {
			joined[m] = true
			if s, ok := screws[m]; ok {
				points = append(points, s)
			} else {
				cores = append(cores, circuit.End{Ref: m, Box: id})
			}
		}
		if len(points) > 0 {
			at = points[0].X
		}
		d.join(out, circuit.End{Ref: j.Of[0], Box: id}, at, cores, points, &bus)
	}
	for _, m := range d.doc.EndsIn(id) {
		if joined[m] {
			continue
		}
		e := circuit.End{Ref: m, Box: id}
		from := d.ports[e]
		to := Point{from.at.X + 32, from.at.Y}
		if from.side == rightward {
			to.X = from.at.X - 32
		}
		out.Wires = append(out.Wires, Wire{Path: []Point{from.at, to}, Core: m.Part, Class: d.net.Class(e), End: e})
		out.Caps = append(out.Caps, Cap{to})
	}
	out.crossings = crossings(out.Wires)
	return out
}

// join draws what one connector or screw holds: a lane from the highest core
// down to the first screw, cores to it along their rows, further screws by a bus.
func (d *drawing) join(out *inside, of circuit.End, x float64, cores []circuit.End, screws []Point, bus *float64) {
	low := 0.0
	for _, e := range cores {
		at := d.ports[e].at
		low = max(low, at.Y)
	}
	if len(screws) > 0 {
		low = screws[0].Y
	}
	single := len(cores) == 1 && len(screws) == 1
	class := d.net.Class(circuit.End{Ref: of.Ref, Box: of.Box})
	if d.doc.Device(of.Owner) != nil {
		class = d.net.Class(circuit.End{Ref: of.Ref})
	}
	highest := low
	for _, e := range cores {
		at := d.ports[e].at
		class = d.net.Class(e)
		path := []Point{at, {x, at.Y}}
		if single {
			path = append(path, screws[0])
		} else {
			highest = math.Min(highest, at.Y)
		}
		out.Wires = append(out.Wires, Wire{Path: path, Core: e.Part, Class: class, End: e})
	}
	if single {
		return
	}
	pigtail := of
	if len(cores) > 0 {
		pigtail = cores[0]
	}
	if len(screws) > 1 {
		y := *bus
		*bus += half
		highest = math.Min(highest, y)
		for _, s := range screws[1:] {
			out.Wires = append(out.Wires, Wire{Path: []Point{{x, y}, {s.X, y}, s}, Core: "", Class: class, End: pigtail})
		}
		out.Dots = append(out.Dots, Dot{Point{x, y}, 0})
	}
	if highest < low {
		out.Wires = append(out.Wires, Wire{Path: []Point{{x, highest}, {x, low}}, Core: "", Class: class, End: pigtail})
	}
	for _, e := range cores {
		out.Dots = append(out.Dots, Dot{Point{x, d.ports[e].at.Y}, len(cores) + len(screws)})
	}
}

// device draws a device and returns the x of its right side.
func (d *drawing) device(out *inside, dev circuit.Device, x, top float64, mirrored bool, screws map[circuit.Ref]Point) float64 {
	names := slices.Clone(d.doc.Terminals(dev))
	if mirrored {
		slices.Reverse(names)
	}
	shape := Device{Rect: Rect{x, top, deviceWidth(d.doc, dev), deviceBody}, ID: dev.ID, Type: dev.Type, Name: d.say.Title(dev.ID)}
	shape.Control = dev.Mechanical() || dev.Type == circuit.TypeSmart && d.doc.Models[dev.Model].Button != nil
	room := shape.W
	if dev.Type == circuit.TypeLamp {
		room -= lampSymbol
	}
	first := x + (room-float64(len(names))*screw)/2 + screw/2
	at := map[string]Point{}
	for i, name := range names {
		t := Terminal{Point: Point{first + float64(i)*screw, top}, Name: name, Label: d.screwLabel(name)}
		t.Class = d.net.Class(circuit.End{Ref: circuit.Ref{Owner: dev.ID, Part: name}})
		at[name] = Point{t.X, top + 30}
		screws[circuit.Ref{Owner: dev.ID, Part: name}] = t.Point
		shape.Terminals = append(shape.Terminals, t)
		out.Labels = append(out.Labels, Label{Rect: Rect{t.X - screw/2 + 1, top + 8, screw - 2, 16}, Text: t.Label, Class: "screw"})
	}
	for _, c := range d.net.Contacts(dev.ID) {
		shape.Contacts = append(shape.Contacts, Contact{c.Key, c.Position, at[c.From], at[c.To]})
	}
	out.Devices = append(out.Devices, shape)
	out.Labels = append(out.Labels, Label{Rect: Rect{x + 2, top + deviceBody - 20, shape.W - 4, 16}, Text: shape.Name, Class: "device"})
	return x + shape.W
}

// screwLabel is the word under a screw, short enough for it.
func (d *drawing) screwLabel(name string) string {
	if name == "ground" {
		return "" // drawn as the symbol for earth
	}
	word := d.say.Part(name)
	if float64(lettering.Columns(word))*screwChar > screw-2 {
		return markLetters(d.say, name)
	}
	return word
}

func (d *drawing) legend() {
	s := d.scene
	add := func(present bool, sign Sign, text string) {
		if present {
			s.Legend = append(s.Legend, Entry{sign, text})
		}
	}
	add(len(s.Dots) > 0, SignConnector, d.say.Fill("{connector}"))
	add(len(s.Caps) > 0, SignCap, "capped")
	add(len(s.Flags) > 0, SignFlag, "joined differently")
	add(len(s.Tapes) > 0, SignTape, "re-marked")
	s.H += legendSpace + legendRow*float64(max(0, len(s.legendRows())-1))
}

// legendRows breaks the legend into rows that fit the width of the scene.
func (s *Scene) legendRows() [][]placed {
	var rows [][]placed
	x := margin
	for _, entry := range s.Legend {
		w := float64(lettering.Columns(entry.String())) * charWidth
		if len(rows) == 0 || x+w > s.W && x > margin {
			rows, x = append(rows, nil), margin
		}
		rows[len(rows)-1] = append(rows[len(rows)-1], placed{entry, x})
		x += w + 24
	}
	return rows
}

// crossings counts where conductors of different classes cross.
func crossings(wires []Wire) int {
	around := make([]Rect, len(wires)) // each wire as a whole: most are nowhere near each other
	parts := make([][]Rect, len(wires))
	for i, w := range wires {
		for x := 1; x < len(w.Path); x++ {
			part := spanned(w.Path[x-1], w.Path[x])
			if x == 1 {
				around[i] = part
			}
			right, bottom := max(around[i].X+around[i].W, part.X+part.W), max(around[i].Y+around[i].H, part.Y+part.H)
			around[i].X, around[i].Y = min(around[i].X, part.X), min(around[i].Y, part.Y)
			around[i].W, around[i].H = right-around[i].X, bottom-around[i].Y
			parts[i] = append(parts[i], part)
		}
	}
	n := 0
	for i, a := range wires {
		for k := i + 1; k < len(wires); k++ {
			if a.Class == wires[k].Class || !meet(around[i], around[k]) {
				continue
			}
			for _, r := range parts[i] {
				for _, s := range parts[k] {
					if meet(r, s) {
						n++
					}
				}
			}
		}
	}
	return n
}

// spanned is what a straight run takes, meet whether two such share a point.
func spanned(p, q Point) Rect {
	return Rect{min(p.X, q.X), min(p.Y, q.Y), max(p.X, q.X) - min(p.X, q.X), max(p.Y, q.Y) - min(p.Y, q.Y)}
}

func meet(r, s Rect) bool {
	return r.X <= s.X+s.W && s.X <= r.X+r.W && r.Y <= s.Y+s.H && s.Y <= r.Y+r.H
}
