package diagram

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/lettering"
	"ambivia/core/names"
)

// Measures of the drawing in pixels.
const (
	pitch       = 22.0 // between cores of a cable
	half        = pitch / 2
	groupGap    = 22.0 // between cables on one wall: room for their names
	header      = 32.0 // name of a box
	wall        = 50.0 // inside a wall: tape, flag, then lanes
	bareWall    = 16.0 // inside a wall without cables
	lane        = 18.0
	screw       = 48.0 // between terminals
	deviceGap   = 20.0
	deviceBody  = 74.0
	gutter      = 84.0
	rowGap      = 24.0
	margin      = 24.0
	charWidth   = 7.6 // of a label at its usual size, at most
	smallChar   = 6.6
	screwChar   = 6.2
	lampSymbol  = 52.0 // beside the screws of a lamp
	stubLength  = 96.0
	clearBeside = 56.0 // beside a box without stubs
	titleSpace  = 34.0
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
	onward   side    // the wall by which cables go on to further boxes; where a row turns, one may go on by the other
	offset   float64 // of the left ports against the row's base: 0 or half
	cables   map[side][]hung
	portsEnd float64 // height of the port area below the base
	lanes    float64 // width between the walls
	below    float64 // height of buses and devices
	base     float64 // y of the row
	clear    float64 // beside the box, before the first cable bends: room for names and stubs
}

// side is a wall of a box, and the way out of it along x.
type side float64

const (
	leftward  side = -1
	rightward side = 1
)

// hung is a cable on a wall; flipped if the last core stands above the others: what turns into the next row arrives so, and
// goes on so, that cores which are joined do not cross.
type hung struct {
	cable   string
	flipped bool
}

// wall is how wide a wall is inside: one without cables is thin.
func (p *place) wall(s side) float64 {
	if len(p.cables[s]) == 0 {
		return bareWall
	}
	return wall
}

type port struct {
	at   Point
	side side
}

// run is a cable's way from its upper box to its lower one.
type run struct {
	cable    circuit.Cable
	from, to string // to is "" for a stub
	out      side   // the wall by which it leaves its upper box
	bend     float64
	straight bool
	flipped  bool // the last core stands above the others in the upper box
}

// Layout makes the frame of a document; others are further versions of it with
// the same boxes and cables, for whose devices room is left too. A long row of boxes goes on
// in the next row where the drawing is shown larger so.
func Layout(doc *circuit.Circuit, others ...*circuit.Circuit) *Frame {
	best := layout(doc, others, unfolded)
	columns, rows := best.grid()
	for most := 2; most < columns || most <= min(rows, mostAlone); most++ {
		if next := layout(doc, others, most); next.scale() > max(leastTurned, worthTurning*best.scale()) {
			best = next
		}
	}
	return best
}

// layout makes the frame with rows that turn after so many boxes.
func layout(doc *circuit.Circuit, others []*circuit.Circuit, most int) *Frame {
	for i, version := range others { // a plan may add a cable: the version with most of them says where all run
		if len(version.Cables) > len(doc.Cables) {
			others = append(append([]*circuit.Circuit{doc}, others[:i]...), others[i+1:]...)
			doc = version
			break
		}
	}
	f := &Frame{doc: doc, rooms: map[string]*place{}, ports: map[circuit.End]port{}}
	f.arrange(most)
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
		p.lanes = max(p.lanes, float64(lettering.Columns(label))*charWidth+90-p.wall(leftward)-p.wall(rightward))
	}
	f.position()
	return f
}

// grid is how many columns and rows the boxes take.
func (f *Frame) grid() (columns, rows int) {
	for _, p := range f.rooms {
		columns, rows = max(columns, p.column+1), max(rows, p.row+1)
	}
	return max(columns, 1), rows
}

// extra puts places that only a later version has, such as a remote on the wall, into rows
// of their own below all others.
func (f *Frame) extra(others []*circuit.Circuit) {
	columns, rows := f.grid()
	for _, version := range others {
		for _, b := range version.Boxes {
			if f.rooms[b.ID] == nil {
				n := len(f.added)
				f.rooms[b.ID] = &place{column: n % columns, row: rows + n/columns, onward: rightward}
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
// cables, the child with the longest way below it staying on the row. A row of
// so many boxes that goes on without a branch turns back in the next row; so many that hang on no other share one.
func (f *Frame) arrange(most int) {
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
	var turns map[string]turn
	var walk func(id string, column, row int, offset float64, onward side, flipped, turned bool)
	walk = func(id string, column, row int, offset float64, onward side, flipped, turned bool) {
		p := &place{column: column, row: row, offset: offset, onward: onward, cables: map[side][]hung{}}
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
				p.cables[-onward] = append(p.cables[-onward], hung{k.ID, flipped})
			default:
				children = append(children, k)
			}
		}
		if turned {
			slices.Reverse(p.cables[-onward])
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
		turn, turns := turns[id]
		if turns {
			rows++
			next = rows
		}
		for _, k := range children {
			child, _ := k.Other(id)
			r := run{cable: k, from: id, to: child, out: onward, straight: next == row, flipped: flipped}
			if turns && turn.leaf != "" && child != turn.leaf {
				r.out = -onward
			}
			p.cables[r.out] = append(p.cables[r.out], hung{k.ID, flipped})
			switch {
			case f.rooms[child] != nil: // a second cable to the same box
				r.straight = f.rooms[child].row == row
			case r.out == -onward:
				walk(child, column-int(onward), next, half-offset, -onward, flipped, false)
			case turns:
				walk(child, column, next, half-offset, -onward, !flipped, true)
			default:
				if next > row {
					rows++
					next = rows
				}
				walk(child, column+int(onward), next, half-offset, onward, flipped, false)
				next = row + 1
			}
			f.cables = append(f.cables, r)
		}
		for _, k := range stubs {
			p.cables[onward] = append(p.cables[onward], hung{k.ID, flipped})
			f.cables = append(f.cables, run{cable: k, from: id, out: onward, flipped: flipped})
		}
	}
	alone := 0 // boxes of the last row, if none of them has a cable to another
	for _, panels := range []bool{true, false} {
		for _, b := range f.doc.Boxes {
			if (b.Kind == circuit.Panel) != panels || f.rooms[b.ID] != nil {
				continue
			}
			if single := len(f.beside(b.ID, nil)) == 0; !single {
				alone = 0
			} else if alone > 0 && alone < most {
				walk(b.ID, alone, rows-1, 0, rightward, false, false)
				alone++
				continue
			} else {
				alone = 1
			}
			measure(b.ID, "")
			turns = f.turns(b.ID, most)
			walk(b.ID, 0, rows, 0, rightward, false, false)
			rows++
		}
	}
	leftmost := 0 // a branch of a row that runs back may go past where the first row began
	for _, p := range f.rooms {
		leftmost = min(leftmost, p.column)
	}
	for _, p := range f.rooms {
		p.column -= leftmost
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
	columns, rows := f.grid()
	width := make([]float64, columns)
	taken := map[side][]float64{leftward: make([]float64, columns+1), rightward: make([]float64, columns+1)} // of the gutter before each column, and after the last
	for _, id := range f.order {
		p := f.rooms[id]
		width[p.column] = max(width[p.column], p.lanes+p.wall(leftward)+p.wall(rightward))
		bent := map[side]float64{}
		p.clear = clearBeside
		stubs := false
		for i := range f.cables {
			r := &f.cables[i]
			switch {
			case r.from == id && r.to == "":
				stubs = true
				p.clear = max(p.clear, stubLength+20, float64(lettering.Columns(cableName(names.For(f.doc), r.cable)))*smallChar+20)
			case r.from == id && !r.straight:
				r.bend = bent[r.out]
				bent[r.out] += float64(len(r.cable.Cores))*pitch + 10
			}
		}
		for _, wall := range []side{leftward, rightward} {
			at := p.column
			if wall == rightward {
				at++
			}
			if bent[wall] > 0 || stubs && wall == p.onward {
				taken[wall][at] = max(taken[wall][at], p.clear+bent[wall])
			}
		}
		left, right := f.wallHeight(p.cables[leftward]), f.wallHeight(p.cables[rightward])
		p.portsEnd = max(left+p.offset, right+half-p.offset)
	}
	space := make([]float64, columns+1)
	for i := range space {
		space[i] = taken[leftward][i] + taken[rightward][i]
		if 0 < i && i < columns {
			space[i] = max(0, space[i]-clearBeside) // a gutter has that anyway
		}
	}
	height := make([]float64, rows)
	for _, p := range f.rooms {
		height[p.row] = max(height[p.row], header+p.portsEnd+p.below+16)
	}
	x := make([]float64, columns)
	at := margin + space[0]
	for i := range columns {
		x[i] = at
		at += width[i] + gutter + space[i+1]
	}
	y := make([]float64, rows)
	down := margin + titleSpace
	for i := range rows {
		y[i] = down
		down += height[i] + rowGap
	}
	for _, id := range f.order {
		p := f.rooms[id]
		p.base = y[p.row] + header
		// A box narrower than its column ends where the column does, so that the
		// gutter to its children has one width.
		p.rect = Rect{x[p.column], y[p.row], width[p.column], header + p.portsEnd + p.below + 16}
		p.lanes = width[p.column] - p.wall(leftward) - p.wall(rightward)
		f.place(id, leftward, p.rect.X, p.base+p.offset)
		f.place(id, rightward, p.rect.X+p.rect.W, p.base+half-p.offset)
		f.w = max(f.w, p.rect.X+p.rect.W)
		f.h = max(f.h, p.rect.Y+p.rect.H)
	}
	f.w += space[columns] + margin
	f.h += margin
}

// wallHeight is how much of a wall the cables take.
func (f *Frame) wallHeight(cables []hung) float64 {
	h := 0.0
	for _, c := range cables {
		h += float64(len(f.doc.Cable(c.cable).Cores))*pitch + groupGap
	}
	return h
}

// place puts the ports of the cables along a wall, from y down.
func (f *Frame) place(box string, at side, x, y float64) {
	for _, c := range f.rooms[box].cables[at] {
		y += groupGap / 2
		cores := slices.Clone(f.doc.Cable(c.cable).Cores)
		if c.flipped {
			slices.Reverse(cores)
		}
		for _, core := range cores {
			f.ports[circuit.End{Ref: circuit.Ref{Owner: c.cable, Part: core}, Box: box}] = port{Point{x, y + half}, at}
			y += pitch
		}
		y += groupGap / 2
	}
}
