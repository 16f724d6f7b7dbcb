package diagram

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/lettering"
	"ambivia/core/names"
)

// Measures of the drawing in pixels.
const (
	pitch       = 24.0 // between cores of a cable
	half        = pitch / 2
	groupGap    = 30.0 // between cables on one wall: room for their names
	header      = 36.0 // name of a box
	wall        = 54.0 // inside a wall: tape, flag, then lanes
	lane        = 18.0
	screw       = 48.0 // between terminals
	deviceGap   = 20.0
	deviceBody  = 78.0
	gutter      = 112.0
	rowGap      = 40.0
	margin      = 24.0
	charWidth   = 7.6 // of a label at its usual size, at most
	smallChar   = 6.6
	screwChar   = 6.2
	lampSymbol  = 52.0 // beside the screws of a lamp
	stubLength  = 96.0
	clearRight  = 80.0 // beside a box without stubs
	legendSpace = 26.0
	legendRow   = 18.0 // between rows of the legend
)

// Frame is where boxes, cables and ports stand: all that stays the same when
// only devices and joins change.
type Frame struct {
	doc    *circuit.Circuit
	rooms  map[string]*place
	order  []string
	added  []circuit.Box // that only later versions have
	ports  map[circuit.End]port
	cables []run
	w, h   float64
}

// place is a box in the frame.
type place struct {
	rect     Rect
	column   int
	row      int
	offset   float64  // of the left ports against the row's base: 0 or half
	up       []string // cables on the left wall
	down     []string // cables on the right wall
	portsEnd float64  // height of the port area below the base
	lanes    float64  // width between the walls
	below    float64  // height of buses and devices
	base     float64  // y of the row
	clear    float64  // right of the box, before the first cable bends: room for names and stubs
}

type port struct {
	at   Point
	left bool
}

// run is a cable's way from its upper box to its lower one.
type run struct {
	cable    circuit.Cable
	from, to string // to is "" for a stub
	bend     float64
	straight bool
}

// Layout makes the frame of a document; others are further versions of it with
// the same boxes and cables, for whose devices room is left too.
func Layout(doc *circuit.Circuit, others ...*circuit.Circuit) *Frame {
	for i, version := range others { // a plan may add a cable: the version with most of them says where all run
		if len(version.Cables) > len(doc.Cables) {
			others = append(append([]*circuit.Circuit{doc}, others[:i]...), others[i+1:]...)
			doc = version
			break
		}
	}
	f := &Frame{doc: doc, rooms: map[string]*place{}, ports: map[circuit.End]port{}}
	f.arrange()
	f.extra(others)
	for _, id := range f.order {
		p := f.rooms[id]
		for _, version := range append([]*circuit.Circuit{doc}, others...) {
			w, below := needs(version, id)
			p.lanes, p.below = max(p.lanes, w), max(p.below, below)
		}
		label := names.For(f.doc).Label(id)
		if f.doc.Box(id) == nil {
			label = f.box(id).Label()
		}
		p.lanes = max(p.lanes, float64(lettering.Columns(label))*charWidth+90-2*wall)
	}
	f.position()
	return f
}

// extra puts places that only a later version has, such as a remote on the wall, into rows
// of their own below all others.
func (f *Frame) extra(others []*circuit.Circuit) {
	columns, rows := 1, 0
	for _, p := range f.rooms {
		columns, rows = max(columns, p.column+1), max(rows, p.row+1)
	}
	for _, version := range others {
		for _, b := range version.Boxes {
			if f.rooms[b.ID] == nil {
				n := len(f.added)
				f.rooms[b.ID] = &place{column: n % columns, row: rows + n/columns}
				f.order = append(f.order, b.ID)
				f.added = append(f.added, b)
			}
		}
	}
}

// box is a box of the frame's document, or one that a later version adds.
func (f *Frame) box(id string) *circuit.Box {
	if b := f.doc.Box(id); b != nil {
		return b
	}
	for i := range f.added {
		if f.added[i].ID == id {
			return &f.added[i]
		}
	}
	return nil
}

// arrange gives each box its column and row: a walk from the panel along the
// cables, the child with the longest way below it staying on the row.
func (f *Frame) arrange() {
	depth := map[string]int{}
	var measure func(id, from string) int
	met := map[string]bool{} // cables may close rings of boxes: each box is measured once
	measure = func(id, from string) int {
		met[id] = true
		deepest := 0
		for _, k := range f.doc.Cables {
			if other, ok := k.Other(id); k.In(id) && ok && other != from && !met[other] {
				deepest = max(deepest, 1+measure(other, id))
			}
		}
		depth[id] = deepest
		return deepest
	}
	rows := 0
	var walk func(id string, column, row int, offset float64)
	walk = func(id string, column, row int, offset float64) {
		p := &place{column: column, row: row, offset: offset}
		f.rooms[id] = p
		f.order = append(f.order, id)
		var children, stubs []circuit.Cable
		for _, k := range f.doc.Cables {
			if !k.In(id) {
				continue
			}
			other, ok := k.Other(id)
			switch {
			case !ok:
				stubs = append(stubs, k)
			case f.rooms[other] != nil:
				p.up = append(p.up, k.ID)
			default:
				children = append(children, k)
			}
		}
		slices.SortStableFunc(children, func(a, b circuit.Cable) int {
			x, _ := a.Other(id)
			y, _ := b.Other(id)
			if x != y {
				return depth[y] - depth[x]
			}
			return 0
		})
		next := row
		for _, k := range children {
			child, _ := k.Other(id)
			p.down = append(p.down, k.ID)
			r := run{cable: k, from: id, to: child, straight: next == row}
			if f.rooms[child] == nil {
				if next > row {
					rows++
					next = rows
				}
				walk(child, column+1, next, half-offset)
				next = row + 1
			} else {
				r.straight = f.rooms[child].row == row // a second cable to the same box
			}
			f.cables = append(f.cables, r)
		}
		for _, k := range stubs {
			p.down = append(p.down, k.ID)
			f.cables = append(f.cables, run{cable: k, from: id})
		}
	}
	for _, panels := range []bool{true, false} {
		for _, b := range f.doc.Boxes {
			if (b.Kind == circuit.Panel) == panels && f.rooms[b.ID] == nil {
				measure(b.ID, "")
				walk(b.ID, 0, rows, 0)
				rows++
			}
		}
	}
}

// needs computes the width between the walls and the height below the ports
// that a box needs in one version of the document.
func needs(c *circuit.Circuit, box string) (width, below float64) {
	lanes, buses := 0, 0
	for _, j := range c.Joins {
		if j.Box != box {
			continue
		}
		screws := 0
		for _, m := range j.Of {
			if c.Device(m.Owner) != nil {
				screws++
			}
		}
		if screws == 0 {
			lanes++
		}
		if screws > 1 {
			buses++
		}
	}
	width = float64(lanes+1) * lane
	devices := false
	for _, d := range c.Devices {
		if d.Box == box {
			width += deviceWidth(c, d) + deviceGap
			devices = true
		}
	}
	below = float64(buses+1) * half
	if devices {
		below += deviceBody + 14
	}
	return width, below
}

func deviceWidth(c *circuit.Circuit, d circuit.Device) float64 {
	screws := float64(len(c.Terminals(d)))*screw + 14
	if d.Type == circuit.TypeLamp {
		screws += lampSymbol
	}
	return max(screws, 120, float64(lettering.Columns(names.For(c).Title(d.ID)))*smallChar+16)
}

// position turns columns and rows into pixels and places the ports.
func (f *Frame) position() {
	columns, rows := 0, 0
	for _, p := range f.rooms {
		columns, rows = max(columns, p.column+1), max(rows, p.row+1)
	}
	width, space := make([]float64, columns), make([]float64, columns)
	for _, id := range f.order {
		p := f.rooms[id]
		width[p.column] = max(width[p.column], p.lanes+2*wall)
		bent := 0.0
		p.clear = clearRight
		for i := range f.cables {
			r := &f.cables[i]
			switch {
			case r.from == id && r.to == "":
				p.clear = max(p.clear, float64(lettering.Columns(cableName(names.For(f.doc), r.cable)))*smallChar+20)
			case r.from == id && !r.straight:
				r.bend = bent
				bent += float64(len(r.cable.Cores))*pitch + 10
			}
		}
		space[p.column] = max(space[p.column], bent+p.clear-clearRight)
		left, right := f.wallHeight(p.up), f.wallHeight(p.down)
		p.portsEnd = max(left+p.offset, right+half-p.offset)
	}
	height := make([]float64, rows)
	for _, p := range f.rooms {
		height[p.row] = max(height[p.row], header+p.portsEnd+p.below+16)
	}
	x := make([]float64, columns)
	at := margin
	for i := range columns {
		x[i] = at
		at += width[i] + gutter + space[i]
	}
	y := make([]float64, rows)
	down := margin + 34
	for i := range rows {
		y[i] = down
		down += height[i] + rowGap
	}
	for _, id := range f.order {
		p := f.rooms[id]
		p.base = y[p.row] + header
		p.rect = Rect{x[p.column], y[p.row], p.lanes + 2*wall, header + p.portsEnd + p.below + 16}
		// A box narrower than its column ends where the column does, so that the
		// gutter to its children has one width.
		p.rect.W = width[p.column]
		p.lanes = width[p.column] - 2*wall
		f.place(id, p.up, p.rect.X, p.base+p.offset, true)
		f.place(id, p.down, p.rect.X+p.rect.W, p.base+half-p.offset, false)
		f.w = max(f.w, p.rect.X+p.rect.W)
		f.h = max(f.h, p.rect.Y+p.rect.H)
	}
	for _, r := range f.cables {
		if r.to == "" {
			p := f.rooms[r.from]
			f.w = max(f.w, p.rect.X+p.rect.W+max(p.clear, stubLength)+20)
		}
	}
	f.w += margin
	f.h += margin
}

// wallHeight is how much of a wall the cables take.
func (f *Frame) wallHeight(cables []string) float64 {
	h := 0.0
	for _, id := range cables {
		h += float64(len(f.doc.Cable(id).Cores))*pitch + groupGap
	}
	return h
}

// place puts the ports of the cables along a wall, from the base down.
func (f *Frame) place(box string, cables []string, x, y float64, left bool) {
	for _, id := range cables {
		y += groupGap / 2
		for _, core := range f.doc.Cable(id).Cores {
			f.ports[circuit.End{Ref: circuit.Ref{Owner: id, Part: core}, Box: box}] = port{Point{x, y + half}, left}
			y += pitch
		}
		y += groupGap / 2
	}
}
