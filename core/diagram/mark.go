package diagram

import (
	"encoding/json"
	"fmt"
	"strings"
)

// Mark is one mark of a drawing: a [PathMark], a [RectMark], a [CircleMark], a [TextMark], or a
// [GroupMark] of others. A scene is drawn as a list of them, in one order on every paper.
type Mark interface{ kind() string }

// Ink is how a mark is drawn. "" is no fill, and no stroke.
type Ink struct {
	Fill    string    `json:"fill,omitempty"`
	Stroke  string    `json:"stroke,omitempty"`
	Width   float64   `json:"width,omitempty"`
	Dash    []float64 `json:"dash,omitempty"`
	Opacity float64   `json:"opacity,omitempty"` // 0 is 1
}

// Subject is what of the circuit a mark stands for. Zero fields do not apply.
type Subject struct {
	Box       string `json:"box,omitempty"`
	Device    string `json:"device,omitempty"`
	Press     string `json:"press,omitempty"`     // what is pressed there, in words; "" where nothing is
	Lamp      string `json:"lamp,omitempty"`      // by its device
	End       string `json:"end,omitempty"`       // a core end or terminal, in the notation of circuits
	Conductor *int   `json:"conductor,omitempty"` // by its class, as package electric numbers them
	Contact   string `json:"contact,omitempty"`   // the key of what stands one way or the other
	Position  *int   `json:"position,omitempty"`  // of the contact, in which this is connected
}

// Part says what a mark is in the picture, for a page that shows what is live. What is [PartState] or
// [PartRays] is seen there alone, and has no ink of its own.
type Part string

// Parts of a picture.
const (
	PartTitle      Part = "title"
	PartLegend     Part = "legend"
	PartRoom       Part = "room"
	PartSheath     Part = "sheath"
	PartWire       Part = "wire"
	PartKept       Part = "kept" // a wire that is as it was
	PartCasing     Part = "casing"
	PartInsulation Part = "insulation"
	PartState      Part = "state"
	PartDevice     Part = "device"
	PartBody       Part = "body"
	PartContact    Part = "contact"
	PartScrew      Part = "screw"
	PartLamp       Part = "lamp"
	PartRays       Part = "rays"
	PartFlag       Part = "flag" // an end that is joined differently than before
	PartCore       Part = "core" // the letters of a core, and the pill that they stand on
)

// PathMark is straight runs, of which a closed one is filled.
type PathMark struct {
	Ink
	Part   Part      `json:"part,omitempty"`
	Of     *Subject  `json:"of,omitempty"`
	Runs   [][]Point `json:"-"`
	Closed bool      `json:"-"`
}

// RectMark is a rectangle whose corners are rounded by Round.
type RectMark struct {
	Ink
	Part  Part     `json:"part,omitempty"`
	Of    *Subject `json:"of,omitempty"`
	Rect  Rect     `json:"-"`
	Round float64  `json:"round,omitempty"`
}

// CircleMark is a circle.
type CircleMark struct {
	Ink
	Part   Part     `json:"part,omitempty"`
	Of     *Subject `json:"of,omitempty"`
	Center Point    `json:"-"`
	Radius float64  `json:"r"`
}

// TextMark is a line of text on its base line, from At on or around it.
type TextMark struct {
	Part   Part    `json:"part,omitempty"`
	At     Point   `json:"-"`
	Middle bool    `json:"middle,omitempty"`
	Size   float64 `json:"size"`
	Weight float64 `json:"weight,omitempty"` // 400 is plain, 600 and more is bold
	Text   string  `json:"text"`
}

// GroupMark is marks that stand for one thing.
type GroupMark struct {
	Part  Part     `json:"part,omitempty"`
	Of    *Subject `json:"of,omitempty"`
	Marks []Mark   `json:"marks"`
}

func (PathMark) kind() string   { return "path" }
func (RectMark) kind() string   { return "rect" }
func (CircleMark) kind() string { return "circle" }
func (TextMark) kind() string   { return "text" }
func (GroupMark) kind() string  { return "group" }

// MarshalJSON writes the path as SVG has it.
func (m PathMark) MarshalJSON() ([]byte, error) {
	type plain PathMark
	return json.Marshal(struct {
		Kind string `json:"kind"`
		D    string `json:"d"`
		plain
	}{m.kind(), path(m.Runs, m.Closed), plain(m)})
}

// spot is a place in tenths of a pixel, finer than which nobody sees.
type spot struct {
	X json.Number `json:"x"`
	Y json.Number `json:"y"`
}

func at(p Point) spot { return spot{json.Number(num(p.X)), json.Number(num(p.Y))} }

// MarshalJSON writes the rectangle with its kind.
func (m RectMark) MarshalJSON() ([]byte, error) {
	type plain RectMark
	return json.Marshal(struct {
		Kind string `json:"kind"`
		spot
		W json.Number `json:"w"`
		H json.Number `json:"h"`
		plain
	}{m.kind(), at(Point{m.Rect.X, m.Rect.Y}), json.Number(num(m.Rect.W)), json.Number(num(m.Rect.H)), plain(m)})
}

// MarshalJSON writes the circle with its kind.
func (m CircleMark) MarshalJSON() ([]byte, error) {
	type plain CircleMark
	return json.Marshal(struct {
		Kind string `json:"kind"`
		spot
		plain
	}{m.kind(), at(m.Center), plain(m)})
}

// MarshalJSON writes the text with its kind.
func (m TextMark) MarshalJSON() ([]byte, error) {
	type plain TextMark
	return json.Marshal(struct {
		Kind string `json:"kind"`
		spot
		plain
	}{m.kind(), at(m.At), plain(m)})
}

// MarshalJSON writes the group with its kind.
func (m GroupMark) MarshalJSON() ([]byte, error) {
	type plain GroupMark
	return json.Marshal(struct {
		Kind string `json:"kind"`
		plain
	}{m.kind(), plain(m)})
}

// Picture is a drawing as data, ready to be put on a page.
type Picture struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Drawn  Rect    `json:"drawn"` // what boxes and cables take: all but title, legend and margins
	Title  string  `json:"title"`
	Marks  []Mark  `json:"marks"`
}

// Picture is the whole drawing with its title and legend.
func (s *Scene) Picture() Picture {
	return Picture{s.W, s.H, s.drawn(), s.Title, s.whole(s.H)}
}

// drawn is what boxes and cables take, with a little room around them; the whole scene where there are none.
func (s *Scene) drawn() Rect {
	if len(s.Rooms) == 0 {
		return Rect{W: s.W, H: s.H}
	}
	const room = margin / 3
	var all []Rect
	for _, r := range s.Rooms {
		all = append(all, r.Rect)
	}
	for _, l := range s.Labels {
		all = append(all, l.Rect)
	}
	for _, sheath := range s.Sheaths {
		for _, p := range sheath.Path {
			half := sheath.Width / 2
			all = append(all, Rect{p.X - half, p.Y - half, sheath.Width, sheath.Width})
		}
	}
	out, right, bottom := all[0], 0.0, 0.0
	for _, r := range all {
		out.X, out.Y = min(out.X, r.X), min(out.Y, r.Y)
		right, bottom = max(right, r.X+r.W), max(bottom, r.Y+r.H)
	}
	out.X, out.Y = max(0, out.X-room), max(0, out.Y-room)
	out.W, out.H = min(s.W, right+room)-out.X, min(s.H, bottom+room)-out.Y
	return out
}

// whole lists all marks with title and legend, the legend above a height.
func (s *Scene) whole(bottom float64) []Mark {
	out := []Mark{TextMark{Part: PartTitle, At: Point{margin, 26}, Size: 17, Weight: 600, Text: clip(s.Title, max(8, int((s.W-2*margin)/titleChar)))}}
	out = append(out, s.Marks()...)
	rows := s.legendRows()
	for i, row := range rows {
		for _, entry := range row {
			out = append(out, TextMark{Part: PartLegend, At: Point{entry.x, bottom - 12 - legendRow*float64(len(rows)-1-i)}, Size: 12.5, Weight: 400, Text: entry.String()})
		}
	}
	return out
}

// class is the number of a conductor as a subject has it.
func class(n int) *int { return &n }

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
	s := strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.1f", v), "0"), ".")
	if s == "-0" {
		return "0"
	}
	return s
}
