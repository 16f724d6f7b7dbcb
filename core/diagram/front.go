package diagram

import (
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/lettering"
	"ambivia/core/names"
)

// Measures of the picture of one box.
const (
	frontTop    = 78.0 // name of the box, cable names above the box
	frontSheath = 46.0 // sheath and letters inside the box's upper edge
	frontRow    = 22.0 // between joins
	frontPitch  = 30.0 // between cores: room for their letters
	frontGap    = 22.0 // between cables
)

// Front draws one box as one stands before it: every cable comes in at the top
// with its cores side by side, connectors lie behind, each on a row of its own,
// devices sit in front with their screws up. The ends in changed carry a flag.
//
// Rows and columns belong to one join, core or screw each, so no two conductors
// lie on each other. Joins without a screw are the highest rows.
func Front(k *inspect.Compiled, box string, changed []circuit.End) *Scene {
	c := k.Doc
	d := &drawing{doc: c, net: k.Network, say: k.Terms(), scene: &Scene{}, changed: map[circuit.End]bool{}}
	for _, e := range changed {
		d.changed[e] = true
	}
	b := *c.Box(box)
	best, crossed := d.front(b, false), math.MaxInt
	for _, mirrored := range []bool{false, true} {
		if s := d.front(b, mirrored); crossings(s.Wires) < crossed {
			best, crossed = s, crossings(s.Wires)
		}
	}
	best.Title = names.For(k.Doc).Label(b.ID)
	d.scene = best
	d.legend()
	return best
}

// frontBox is one way of drawing a box.
type frontBox struct {
	*drawing
	box    circuit.Box
	cores  map[circuit.Ref]float64 // x of each core
	screws map[circuit.Ref]Point
	right  float64
	enter  float64 // y where cores leave their letters
}

func (d *drawing) front(b circuit.Box, mirrored bool) *Scene {
	f := &frontBox{&drawing{doc: d.doc, net: d.net, say: d.say, scene: &Scene{}, changed: d.changed}, b, map[circuit.Ref]float64{}, map[circuit.Ref]Point{}, 0, frontTop + frontSheath}
	f.sheaths()
	joins := f.rows()
	top := f.enter + 20 + float64(len(joins)+1)*frontRow
	f.devices(top, mirrored)
	width := max(f.right+margin, 250, float64(lettering.Columns(f.say.Label(b.ID)))*charWidth*1.4+2*margin)
	room := Rect{margin / 2, frontTop, width - margin, top + deviceBody + 16 - frontTop}
	if !slices.ContainsFunc(d.doc.Devices, func(x circuit.Device) bool { return x.Box == b.ID }) {
		room.H -= deviceBody
	}
	f.scene.Rooms = []Room{{room, b.ID, b.Kind, b.Kind == circuit.Panel || b.Seen()}}
	for i, j := range joins {
		f.row(j, f.enter+20+float64(i+1)*frontRow)
	}
	for m, x := range f.cores {
		if f.doc.JoinOf(b.ID, m) >= 0 && len(f.doc.Joins[f.doc.JoinOf(b.ID, m)].Of) > 1 {
			continue
		}
		e := circuit.End{Ref: m, Box: b.ID}
		f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{x, f.enter}, {x, f.enter + 16}}, Core: m.Part, Class: f.net.Class(e), End: e})
		f.scene.Caps = append(f.scene.Caps, Cap{Point{x, f.enter + 20}})
	}
	slices.SortFunc(f.scene.Wires, func(a, b Wire) int { return a.Class - b.Class })
	slices.SortFunc(f.scene.Caps, func(a, b Cap) int { return int(a.X - b.X) })
	f.scene.W, f.scene.H = width, room.Y+room.H+12
	return f.scene
}

// sheaths draws the cables that come in, with their names and letters.
func (f *frontBox) sheaths() {
	x := margin
	for _, k := range f.doc.Cables {
		if !k.In(f.box.ID) {
			continue
		}
		to := untraced
		if other, known := k.Other(f.box.ID); known {
			to = "to " + f.say.Box(other)
		}
		wide := float64(len(k.Cores)) * frontPitch
		letter := f.say.Letter(k.ID)
		if letter != "" {
			letter = "cable " + letter
			f.label(x, 40, letter, "cable")
		}
		block := max(wide, float64(lettering.Columns(to))*smallChar, float64(lettering.Columns(letter))*smallChar)
		f.label(x, 57, to, "cable")
		f.scene.Sheaths = append(f.scene.Sheaths, Sheath{Path: []Point{{x + wide/2, frontTop - 2}, {x + wide/2, frontTop + 18}}, Width: wide - 4, Open: k.Stub()})
		for i, core := range k.Cores {
			at := x + (float64(i)+0.5)*frontPitch
			e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: f.box.ID}
			f.cores[e.Ref] = at
			f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{at, frontTop}, {at, f.enter}}, Core: core, Class: f.net.Class(e), End: e})
			text := circuit.Letters(core)
			f.label(at-float64(lettering.Columns(text))*smallChar/2, frontTop+3, text, "core")
			f.scene.Labels[len(f.scene.Labels)-1].End = e
			if mark := f.doc.MarkOn(e); mark != "" {
				letters := markLetters(f.say, mark)
				w := float64(len(letters))*smallChar + 6
				f.scene.Tapes = append(f.scene.Tapes, Tape{Rect{at - w/2, frontTop + 24, w, 16}, letters})
			}
			if f.changed[e] {
				f.scene.Flags = append(f.scene.Flags, Flag{Point{at, f.enter + 2}})
			}
		}
		x += block + frontGap
		f.right = x - frontGap
	}
}

// rows lists the joins of the box that are drawn: those without a screw first.
func (f *frontBox) rows() []circuit.Join {
	var bare, screwed []circuit.Join
	for _, j := range f.doc.Joins {
		switch {
		case j.Box != f.box.ID || len(j.Of) < 2:
		case slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return f.doc.Device(m.Owner) != nil }):
			screwed = append(screwed, j)
		default:
			bare = append(bare, j)
		}
	}
	return append(bare, screwed...)
}

// devices puts the devices side by side under the middle of the cables.
func (f *frontBox) devices(top float64, mirrored bool) {
	total := -deviceGap
	for _, dev := range f.doc.Devices {
		if dev.Box == f.box.ID {
			total += deviceWidth(f.doc, dev) + deviceGap
		}
	}
	if total < 0 {
		return
	}
	start, best, clear := max(margin, (f.right+margin-total)/2), 0.0, -1.0
	for shift := 0.0; shift < screw; shift += 3 { // so that no screw stands under a core
		screws := map[circuit.Ref]Point{}
		f.place(&inside{}, start+shift, top, mirrored, screws)
		if d := f.nearest(screws); d > clear {
			best, clear = shift, d
		}
	}
	out := &inside{}
	f.right = max(f.right, f.place(out, start+best, top, mirrored, f.screws))
	f.scene.Devices = out.Devices
	f.scene.DisableControls() // a picture to work by
	f.scene.Labels = append(f.scene.Labels, out.Labels...)
}

// place draws the devices from x on and returns the x of their right side.
func (f *frontBox) place(out *inside, x, top float64, mirrored bool, screws map[circuit.Ref]Point) float64 {
	for _, dev := range f.doc.Devices {
		if dev.Box == f.box.ID {
			x = f.device(out, dev, x, top, mirrored, screws) + deviceGap
		}
	}
	return x - deviceGap
}

// nearest is the least distance from a core's column to a screw's, up to what is
// plenty.
func (f *frontBox) nearest(screws map[circuit.Ref]Point) float64 {
	least := frontPitch / 3
	for _, s := range screws {
		for _, x := range f.cores {
			least = min(least, math.Abs(s.X-x))
		}
	}
	return least
}

// row draws a join along its row: cores come down to it, screws rise to it.
func (f *frontBox) row(j circuit.Join, y float64) {
	left, right := math.Inf(1), math.Inf(-1)
	var cores []circuit.Ref
	var first circuit.End
	class := -1
	for _, m := range j.Of {
		x, core := f.cores[m]
		if core {
			cores = append(cores, m)
			e := circuit.End{Ref: m, Box: f.box.ID}
			if class < 0 {
				class, first = f.net.Class(e), e
			}
		} else {
			x = f.screws[m].X
		}
		left, right = min(left, x), max(right, x)
	}
	if class < 0 { // screws alone
		class = f.net.Class(circuit.End{Ref: j.Of[0]})
		first = circuit.End{Ref: j.Of[0]}
	}
	if len(cores) == 1 && len(j.Of) == 2 {
		x := f.cores[cores[0]]
		other := j.Of[0]
		if other == cores[0] {
			other = j.Of[1]
		}
		to := f.screws[other]
		f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{x, f.enter}, {x, y}, {to.X, y}, to}, Core: cores[0].Part, Class: class, End: first})
		return
	}
	f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{left, y}, {right, y}}, Core: "", Class: class, End: first})
	for _, m := range j.Of {
		if x, core := f.cores[m]; core {
			e := circuit.End{Ref: m, Box: f.box.ID}
			f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{x, f.enter}, {x, y}}, Core: m.Part, Class: class, End: e})
			f.scene.Dots = append(f.scene.Dots, Dot{Point{x, y}, len(j.Of)})
			continue
		}
		to := f.screws[m]
		f.scene.Wires = append(f.scene.Wires, Wire{Path: []Point{{to.X, y}, to}, Core: "", Class: class, End: first})
		f.scene.Dots = append(f.scene.Dots, Dot{Point{to.X, y}, len(j.Of)})
	}
}
