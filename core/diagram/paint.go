package diagram

import (
	"maps"
	"math"

	"ambivia/core/circuit"
)

// Insulation is how a colour of insulation is drawn: its tint, and where it has a second one, how long each of its
// dashes and what lies between them is, in units of the drawing.
type Insulation struct {
	Tint   string    `json:"tint"`
	Second string    `json:"second,omitempty"`
	Dash   []float64 `json:"dash,omitempty"`
}

// insulations are the tints of each colour on screen and paper.
var insulations = map[string]Insulation{
	"black": {Tint: "#26282b"}, "red": {Tint: "#c8322b"}, "white": {Tint: "#ffffff"}, "blue": {Tint: "#2f6fc4"},
	"yellow": {Tint: "#f0cf3a"}, "grey": {Tint: "#9aa0a6"}, "brown": {Tint: "#8a5a34"}, "orange": {Tint: "#e2842c"},
	"purple": {Tint: "#8450a8"}, "green": {Tint: "#2f8f4e"},
	"bare":         {Tint: "#c9955c", Second: "#5c4322", Dash: []float64{1.5, 3.5}},
	"green-yellow": {Tint: "#3f9f4a", Second: "#f0cf3a", Dash: []float64{7, 7}},
}

// Insulations returns how each colour of insulation is drawn.
func Insulations() map[string]Insulation { return maps.Clone(insulations) }

// Tints that are no insulation go by names, so that a page can have its own for each theme.
const (
	ink    = "ink"    // what all is drawn with
	soft   = "soft"   // sheaths' edges, and hints
	white  = "paper"  // the ground on which it is drawn
	ground = "room"   // inside a box
	edge   = "edge"   // of a box
	sheath = "sheath" // of a cable
	bare   = "pigtail"
)

var tints = map[string]string{ink: "#1c1f22", soft: "#8d939a", white: "#ffffff", ground: "#f7f5f0", edge: "#4a4f55", sheath: "#ece9e2", bare: "#6d737a"}

// Hex is a tint of an [Ink] as paper has it, "#1c1f22" say.
func Hex(tint string) string {
	if hex, named := tints[tint]; named {
		return hex
	}
	return tint
}

// Marks lists the marks of the scene without title and legend, what lies below first.
func (s *Scene) Marks() []Mark {
	p := &painter{}
	for _, r := range s.Rooms {
		room := RectMark{Part: PartRoom, Of: &Subject{Box: r.ID}, Rect: r.Rect, Round: 3, Ink: Ink{Fill: ground, Stroke: edge, Width: 1.6}}
		if !r.Known {
			room.Dash = []float64{7, 5}
		}
		p.add(room)
	}
	for _, h := range s.Sheaths {
		rim := PathMark{Runs: [][]Point{h.Path}, Ink: Ink{Stroke: soft, Width: h.Width + 2.4}}
		if h.Open {
			rim.Dash = []float64{9, 6}
		}
		p.add(rim)
		p.add(PathMark{Part: PartSheath, Runs: [][]Point{h.Path}, Ink: Ink{Stroke: sheath, Width: h.Width}})
	}
	for _, x := range s.Wires {
		p.wire(x)
	}
	for _, d := range s.Devices {
		p.device(d)
	}
	for _, l := range s.Lines {
		p.line(l)
	}
	for _, d := range s.Dots {
		p.add(CircleMark{Center: d.Point, Radius: 5, Ink: Ink{Fill: ink, Stroke: white, Width: 1}})
	}
	for _, c := range s.Caps {
		x, y := c.X-5, c.Y-9
		p.add(PathMark{Runs: [][]Point{{{x, y}, {x + 6, y}, {x + 11, y + 3}, {x + 11, y + 15}, {x + 6, y + 18}, {x, y + 18}}}, Closed: true, Ink: Ink{Fill: ink, Stroke: white, Width: 1.2}})
	}
	for _, f := range s.Flags {
		p.add(PathMark{Part: PartFlag, Runs: [][]Point{{{f.X, f.Y - 6}, {f.X + 6, f.Y}, {f.X, f.Y + 6}, {f.X - 6, f.Y}}}, Closed: true, Ink: Ink{Fill: white, Stroke: ink, Width: 1.8}})
	}
	for _, t := range s.Tapes {
		p.add(RectMark{Rect: t.Rect, Ink: Ink{Fill: white, Stroke: ink, Width: 1.4}})
		p.text(t.X+t.W/2, t.Y+12, "", true, 10.5, 700, t.Text)
	}
	for _, l := range s.Labels {
		p.label(l)
	}
	return p.marks
}

type painter struct{ marks []Mark }

func (p *painter) add(m Mark) { p.marks = append(p.marks, m) }

// group adds what a painter of its own paints, as one.
func (p *painter) group(part Part, of *Subject, paint func(*painter)) {
	own := &painter{}
	paint(own)
	p.add(GroupMark{part, of, own.marks})
}

func (p *painter) text(x, y float64, part Part, middle bool, size, weight float64, text string) {
	p.add(TextMark{Part: part, At: Point{x, y}, Middle: middle, Size: size, Weight: weight, Text: text})
}

func (p *painter) label(l Label) {
	middle := l.X + l.W/2
	switch l.Class {
	case "room":
		p.text(l.X, l.Y+13, "", false, 15, 650, l.Text)
	case "core":
		var of *Subject
		if l.End != (circuit.End{}) {
			of = &Subject{End: l.End.String()}
		}
		p.add(RectMark{Part: PartCore, Of: of, Rect: Rect{l.X - 3, l.Y + 0.5, l.W + 6, 15}, Round: 2, Ink: Ink{Fill: white, Stroke: soft, Width: 0.8}})
		p.text(middle, l.Y+12, PartCore, true, 12.5, 650, l.Text)
	case "screw", "note":
		p.text(middle, l.Y+12, "", true, 12.5, 400, l.Text)
	case "device", "part":
		p.text(middle, l.Y+12, "", true, 13, 600, l.Text)
	default:
		p.text(l.X, l.Y+12, "", false, 12.5, 400, l.Text)
	}
}

// wire draws a conductor: a dark casing, the insulation on it, and an overlay that is drawn
// only where a page shows what is live. What a difference keeps is a thin line.
func (p *painter) wire(x Wire) {
	width := 5.4
	tint := insulations[circuit.Colour(x.Core)].Tint
	if x.Core == "" {
		width, tint = 3.6, bare // a pigtail, of whatever colour the person takes
	}
	part := PartWire
	if x.Kept {
		part, width, tint = PartKept, 3, soft
	}
	runs := [][]Point{x.Path}
	p.group(part, &Subject{Conductor: class(x.Class), End: x.End.String()}, func(p *painter) {
		casing := PathMark{Part: PartCasing, Runs: runs, Ink: Ink{Stroke: ink, Width: width}}
		if x.Kept {
			casing.Stroke = soft
		}
		p.add(casing)
		p.add(PathMark{Part: PartInsulation, Runs: runs, Ink: Ink{Stroke: tint, Width: width - 2}})
		if second := insulations[circuit.Colour(x.Core)]; second.Second != "" && !x.Kept {
			p.add(PathMark{Runs: runs, Ink: Ink{Stroke: second.Second, Width: width - 2, Dash: second.Dash}})
		}
		p.add(PathMark{Part: PartState, Runs: runs})
	})
}

// device draws a device with its screws and, for a switch, what it connects in each
// position; a page shows the position that holds.
func (p *painter) device(d Device) {
	of := &Subject{Device: d.ID}
	if d.Control {
		of.Press = "Press " + d.Name
	}
	p.group(PartDevice, of, func(p *painter) {
		p.add(RectMark{Part: PartBody, Rect: d.Rect, Round: 4, Ink: Ink{Fill: white, Stroke: ink, Width: 1.6}})
		if d.Type == circuit.TypeLamp {
			p.lamp(d.ID, d.X+d.W-lampSymbol/2-4, d.Y+32)
		}
		for _, c := range d.Contacts {
			p.add(PathMark{Part: PartContact, Of: &Subject{Contact: c.Key, Position: class(c.Position)},
				Runs: [][]Point{{c.From, {c.From.X, c.From.Y + 12}, {c.To.X, c.To.Y + 12}, c.To}}, Ink: Ink{Stroke: ink, Width: 2.4, Opacity: 0.22}})
		}
		for _, t := range d.Terminals {
			end := circuit.Ref{Owner: d.ID, Part: t.Name}
			p.add(CircleMark{Part: PartScrew, Of: &Subject{Conductor: class(t.Class), End: end.String()}, Center: t.Point, Radius: 5, Ink: Ink{Fill: white, Stroke: ink, Width: 1.8}})
			p.add(PathMark{Runs: [][]Point{{{t.X - 3, t.Y}, {t.X + 3, t.Y}}}, Ink: Ink{Stroke: ink, Width: 1.4}})
			if t.Name == "ground" {
				p.earth(t.X, t.Y+8)
			}
		}
	})
}

// lamp draws the sign of a lamp, with rays that a page shows where it is lit.
func (p *painter) lamp(id string, x, y float64) {
	p.group(PartLamp, &Subject{Lamp: id}, func(p *painter) {
		p.add(CircleMark{Center: Point{x, y}, Radius: 11, Ink: Ink{Fill: white, Stroke: ink, Width: 1.6}})
		p.add(PathMark{Runs: [][]Point{{{x - 7.5, y - 7.5}, {x + 7.5, y + 7.5}}, {{x + 7.5, y - 7.5}, {x - 7.5, y + 7.5}}}, Ink: Ink{Stroke: ink, Width: 1.4}})
		var rays [][]Point
		for i := range 8 {
			sin, cos := math.Sincos(float64(i) * math.Pi / 4)
			rays = append(rays, []Point{{x + 14*cos, y + 14*sin}, {x + 20*cos, y + 20*sin}})
		}
		p.add(PathMark{Part: PartRays, Runs: rays})
	})
}

// earth draws the sign of ground below a screw.
func (p *painter) earth(x, y float64) {
	p.add(PathMark{Runs: [][]Point{{{x, y}, {x, y + 6}}, {{x - 7, y + 6}, {x + 7, y + 6}}, {{x - 4.5, y + 9.5}, {x + 4.5, y + 9.5}}, {{x - 2, y + 13}, {x + 2, y + 13}}}, Ink: Ink{Stroke: ink, Width: 1.4}})
}

// line draws a cable of a one-line drawing, with a stroke across it for each conductor.
func (p *painter) line(l Line) {
	line := PathMark{Runs: [][]Point{l.Path}, Ink: Ink{Stroke: ink, Width: 2}}
	if l.Dashed {
		line.Dash = []float64{2, 6}
	}
	p.add(line)
	for i := range l.Strokes {
		x := l.Mark.X + float64(i)*6
		p.add(PathMark{Runs: [][]Point{{{x - 3, l.Mark.Y + 6}, {x + 3, l.Mark.Y - 6}}}, Ink: Ink{Stroke: ink, Width: 1.6}})
	}
}
