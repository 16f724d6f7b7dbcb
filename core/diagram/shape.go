package diagram

import (
	"fmt"
	"math"
	"strings"

	"ambivia/core/circuit"
)

// insulation is the tint of each colour on screen and paper.
var insulation = map[string]string{
	"black": "#26282b", "red": "#c8322b", "white": "#ffffff", "blue": "#2f6fc4", "yellow": "#f0cf3a", "grey": "#9aa0a6",
	"brown": "#8a5a34", "orange": "#e2842c", "purple": "#8450a8", "bare": "#c9955c", "green": "#2f8f4e", "green-yellow": "#3f9f4a",
}

// Ink is what all but insulation is drawn with; soft is for sheaths and hints.
const (
	ink   = "#1c1f22"
	soft  = "#8d939a"
	white = "#ffffff"
)

// Shape is one mark of a drawing: a path of straight runs, a rectangle, a circle, a text, or
// the begin or end of a group. A scene is drawn as a list of them, in one order on every
// paper; Class and Data are for a page that wants to restyle it, and mean nothing to ink.
type Shape struct {
	Class string
	Data  string // further attributes, well-formed and escaped
	Group bool   // begins a group of what follows, which Ungroup ends
	Ends  bool

	Path   [][]Point
	Closed bool
	Rect   *Rect
	Round  float64
	Circle *Point
	Radius float64
	Text   string
	At     Point
	Anchor string // "start" or "middle"
	Size   float64
	Weight float64

	Fill, Stroke string // "" is none
	Width        float64
	Dash         []float64
	Opacity      float64 // 0 is 1
	Hidden       bool    // shown by a page alone
}

// Shapes lists the marks of the scene, what lies below first.
func (s *Scene) Shapes() []Shape {
	p := &painter{}
	for _, r := range s.Rooms {
		shape := Shape{Class: "room", Data: fmt.Sprintf(` data-box="%s"`, r.ID), Rect: &r.Rect, Round: 3, Fill: "#f7f5f0", Stroke: "#4a4f55", Width: 1.6}
		if !r.Known {
			shape.Dash = []float64{7, 5}
		}
		p.add(shape)
	}
	for _, h := range s.Sheaths {
		edge := Shape{Class: "sheath-edge", Path: [][]Point{h.Path}, Stroke: soft, Width: h.Width + 2.4}
		if h.Open {
			edge.Dash = []float64{9, 6}
		}
		p.add(edge)
		p.add(Shape{Class: "sheath", Path: [][]Point{h.Path}, Stroke: "#ece9e2", Width: h.Width})
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
		p.add(Shape{Class: "dot", Circle: &Point{d.X, d.Y}, Radius: 5, Fill: ink, Stroke: white, Width: 1})
	}
	for _, c := range s.Caps {
		x, y := c.X-5, c.Y-9
		p.add(Shape{Class: "cap", Path: [][]Point{{{x, y}, {x + 6, y}, {x + 11, y + 3}, {x + 11, y + 15}, {x + 6, y + 18}, {x, y + 18}}}, Closed: true, Fill: ink, Stroke: white, Width: 1.2})
	}
	for _, f := range s.Flags {
		p.add(Shape{Class: "flag", Path: [][]Point{{{f.X, f.Y - 6}, {f.X + 6, f.Y}, {f.X, f.Y + 6}, {f.X - 6, f.Y}}}, Closed: true, Fill: white, Stroke: ink, Width: 1.8})
	}
	for _, t := range s.Tapes {
		p.add(Shape{Class: "tape", Rect: &t.Rect, Fill: white, Stroke: ink, Width: 1.4})
		p.text(t.X+t.W/2, t.Y+12, "tape-text", "middle", 10.5, 700, t.Text)
	}
	for _, l := range s.Labels {
		p.label(l)
	}
	return p.shapes
}

type painter struct{ shapes []Shape }

func (p *painter) add(s Shape) { p.shapes = append(p.shapes, s) }

func (p *painter) text(x, y float64, class, anchor string, size, weight float64, text string) {
	p.add(Shape{Class: class, At: Point{x, y}, Anchor: anchor, Size: size, Weight: weight, Text: text, Fill: ink})
}

func (p *painter) label(l Label) {
	middle := l.X + l.W/2
	switch l.Class {
	case "room":
		p.text(l.X, l.Y+13, "room-name", "start", 15, 650, l.Text)
	case "core":
		p.add(Shape{Class: "pill", Rect: &Rect{l.X - 3, l.Y + 0.5, l.W + 6, 15}, Round: 2, Fill: white, Stroke: soft, Width: 0.8})
		p.text(middle, l.Y+12, "core-letters", "middle", 12.5, 650, l.Text)
	case "screw":
		p.text(middle, l.Y+12, "screw-name", "middle", 12.5, 400, l.Text)
	case "device", "part":
		p.text(middle, l.Y+12, l.Class+"-name", "middle", 13, 600, l.Text)
	case "note":
		p.text(middle, l.Y+12, "note-name", "middle", 12.5, 400, l.Text)
	default:
		p.text(l.X, l.Y+12, l.Class+"-name", "start", 12.5, 400, l.Text)
	}
}

// wire draws a conductor: a dark casing, the insulation on it, and an overlay that is drawn
// only where a page shows what is live. What a difference keeps is a thin line.
func (p *painter) wire(x Wire) {
	width := 5.4
	tint := insulation[circuit.Colour(x.Core)]
	if x.Core == "" {
		width, tint = 3.6, "#6d737a" // a pigtail, of whatever colour the person takes
	}
	class := "wire"
	if x.Kept {
		class, width, tint = "wire kept", 3, soft
	}
	p.add(Shape{Group: true, Class: class, Data: fmt.Sprintf(` data-class="%d" data-end="%s"`, x.Class, x.End)})
	path := [][]Point{x.Path}
	casing := Shape{Class: "casing", Path: path, Stroke: ink, Width: width}
	if x.Kept {
		casing.Stroke = soft
	}
	p.add(casing)
	p.add(Shape{Class: "insulation", Path: path, Stroke: tint, Width: width - 2})
	if !x.Kept {
		switch circuit.Colour(x.Core) {
		case "green-yellow":
			p.add(Shape{Path: path, Stroke: "#f0cf3a", Width: width - 2, Dash: []float64{7, 7}})
		case "bare":
			p.add(Shape{Path: path, Stroke: "#5c4322", Width: width - 2, Dash: []float64{1.5, 3.5}})
		}
	}
	p.add(Shape{Class: "state", Path: path, Hidden: true})
	p.add(Shape{Ends: true})
}

// device draws a device with its screws and, for a switch, what it connects in each
// position; a page shows the position that holds.
func (p *painter) device(d Device) {
	data := fmt.Sprintf(` data-device="%s"`, d.ID)
	if d.Control {
		data += fmt.Sprintf(` data-control="%s" role="button" tabindex="0" aria-label="%s"`, d.ID, escape("Press "+d.Name))
	}
	p.add(Shape{Group: true, Class: "device", Data: data})
	p.add(Shape{Class: "device-body", Rect: &d.Rect, Round: 4, Fill: white, Stroke: ink, Width: 1.6})
	if d.Type == circuit.TypeLamp {
		p.lamp(d.ID, d.X+d.W-lampSymbol/2-4, d.Y+32)
	}
	for _, c := range d.Contacts {
		p.add(Shape{Class: "contact", Data: fmt.Sprintf(` data-contact="%s" data-position="%d"`, c.Key, c.Position),
			Path: [][]Point{{c.From, {c.From.X, c.From.Y + 12}, {c.To.X, c.To.Y + 12}, c.To}}, Stroke: ink, Width: 2.4, Opacity: 0.22})
	}
	for _, t := range d.Terminals {
		p.add(Shape{Class: "screw", Data: fmt.Sprintf(` data-class="%d" data-end="%s.%s"`, t.Class, d.ID, t.Name), Circle: &Point{t.X, t.Y}, Radius: 5, Fill: white, Stroke: ink, Width: 1.8})
		p.add(Shape{Class: "slot", Path: [][]Point{{{t.X - 3, t.Y}, {t.X + 3, t.Y}}}, Stroke: ink, Width: 1.4})
		if t.Name == "ground" {
			p.earth(t.X, t.Y+8)
		}
	}
	p.add(Shape{Ends: true})
}

// lamp draws the sign of a lamp, with rays that a page shows where it is lit.
func (p *painter) lamp(id string, x, y float64) {
	p.add(Shape{Group: true, Class: "lamp", Data: fmt.Sprintf(` data-lamp="%s"`, id)})
	p.add(Shape{Circle: &Point{x, y}, Radius: 11, Fill: white, Stroke: ink, Width: 1.6})
	p.add(Shape{Class: "cross", Path: [][]Point{{{x - 7.5, y - 7.5}, {x + 7.5, y + 7.5}}, {{x + 7.5, y - 7.5}, {x - 7.5, y + 7.5}}}, Stroke: ink, Width: 1.4})
	var rays [][]Point
	for i := range 8 {
		sin, cos := math.Sincos(float64(i) * math.Pi / 4)
		rays = append(rays, []Point{{x + 14*cos, y + 14*sin}, {x + 20*cos, y + 20*sin}})
	}
	p.add(Shape{Class: "rays", Path: rays, Stroke: ink, Width: 2, Hidden: true})
	p.add(Shape{Ends: true})
}

// earth draws the sign of ground below a screw.
func (p *painter) earth(x, y float64) {
	p.add(Shape{Class: "earth", Path: [][]Point{{{x, y}, {x, y + 6}}, {{x - 7, y + 6}, {x + 7, y + 6}}, {{x - 4.5, y + 9.5}, {x + 4.5, y + 9.5}}, {{x - 2, y + 13}, {x + 2, y + 13}}}, Stroke: ink, Width: 1.4})
}

// line draws a cable of a one-line drawing, with a stroke across it for each conductor.
func (p *painter) line(l Line) {
	shape := Shape{Class: "line", Path: [][]Point{l.Path}, Stroke: ink, Width: 2}
	if l.Dashed {
		shape.Dash = []float64{2, 6}
	}
	p.add(shape)
	for i := range l.Strokes {
		x := l.Mark.X + float64(i)*6
		p.add(Shape{Class: "stroke", Path: [][]Point{{{x - 3, l.Mark.Y + 6}, {x + 3, l.Mark.Y - 6}}}, Stroke: ink, Width: 1.6})
	}
}

func path(points [][]Point, closed bool) string {
	var b strings.Builder
	for _, run := range points {
		for i, p := range run {
			letter := "L"
			if i == 0 {
				letter = "M"
			}
			fmt.Fprintf(&b, "%s%s %s", letter, num(p.X), num(p.Y))
		}
		if closed {
			b.WriteString("z")
		}
	}
	return b.String()
}

// num writes a coordinate without needless digits.
func num(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.1f", v), "0"), ".")
}
