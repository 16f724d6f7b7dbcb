package diagram

import (
	"fmt"
	"html"
	"io"
	"math"
	"strings"

	"ambivia/core/circuit"
)

// insulation is the tint of each colour on screen and paper.
var insulation = map[string]string{
	"black": "#26282b", "red": "#c8322b", "white": "#ffffff", "blue": "#2f6fc4", "yellow": "#f0cf3a", "grey": "#9aa0a6",
	"brown": "#8a5a34", "orange": "#e2842c", "purple": "#8450a8", "bare": "#c9955c", "green": "#2f8f4e", "green-yellow": "#3f9f4a",
}

// SVG writes the scene. All styling is in presentation attributes, so that the
// file stands alone; class names and data attributes let a page restyle it and
// show what is live: data-class numbers a conductor, data-control a switch.
func (s *Scene) SVG(w io.Writer) error {
	b := &svg{}
	b.line(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %s %s" width="%s" height="%s" class="diagram" role="group" aria-label="%s" font-family="'Source Sans 3 Variable', 'Source Sans 3', sans-serif">`,
		num(s.W), num(s.H), num(s.W), num(s.H), html.EscapeString(s.Title))
	b.line(`<title>%s</title>`, html.EscapeString(s.Title))
	b.line(`<rect class="paper" width="%s" height="%s" fill="#ffffff"/>`, num(s.W), num(s.H))
	b.text(margin, 26, "title", "start", 17, 600, s.Title)
	for _, r := range s.Rooms {
		dash := ""
		if !r.Known {
			dash = ` stroke-dasharray="7 5"`
		}
		b.line(`<rect class="room" data-box="%s" x="%s" y="%s" width="%s" height="%s" rx="3" fill="#f7f5f0" stroke="#4a4f55" stroke-width="1.6"%s/>`,
			r.ID, num(r.X), num(r.Y), num(r.W), num(r.H), dash)
	}
	for _, h := range s.Sheaths {
		dash := ""
		if h.Open {
			dash = ` stroke-dasharray="9 6"`
		}
		b.line(`<path class="sheath-edge" d="%s" fill="none" stroke="#8d939a" stroke-width="%s" stroke-linejoin="round"%s/>`, path(h.Path), num(h.Width+2.4), dash)
		b.line(`<path class="sheath" d="%s" fill="none" stroke="#ece9e2" stroke-width="%s" stroke-linejoin="round"/>`, path(h.Path), num(h.Width))
	}
	for _, x := range s.Wires {
		b.wire(x)
	}
	for _, d := range s.Devices {
		b.device(d)
	}
	for _, d := range s.Dots {
		b.line(`<circle class="dot" cx="%s" cy="%s" r="5" fill="#1c1f22" stroke="#ffffff" stroke-width="1"/>`, num(d.X), num(d.Y))
	}
	for _, c := range s.Caps {
		b.line(`<path class="cap" d="M%s %s h6 l5 3 v12 l-5 3 h-6 z m4 5 v8" fill="#1c1f22" stroke="#ffffff" stroke-width="1.2"/>`, num(c.X-5), num(c.Y-9))
	}
	for _, f := range s.Flags {
		b.line(`<path class="flag" d="M%s %s l6 6 l-6 6 l-6 -6 z" fill="#ffffff" stroke="#1c1f22" stroke-width="1.8"/>`, num(f.X), num(f.Y-6))
	}
	for _, t := range s.Tapes {
		b.line(`<rect class="tape" x="%s" y="%s" width="%s" height="%s" fill="#ffffff" stroke="#1c1f22" stroke-width="1.4"/>`, num(t.X), num(t.Y), num(t.W), num(t.H))
		b.text(t.X+t.W/2, t.Y+12, "tape-text", "middle", 10.5, 700, t.Text)
	}
	for _, l := range s.Labels {
		b.label(l)
	}
	rows := s.legendRows()
	for i, row := range rows {
		for _, entry := range row {
			b.text(entry.X, s.H-12-legendRow*float64(len(rows)-1-i), "legend", "start", 12.5, 400, entry.Text)
		}
	}
	b.line(`</svg>`)
	_, err := io.WriteString(w, b.String())
	return err
}

type svg struct{ strings.Builder }

func (b *svg) line(format string, args ...any) { fmt.Fprintf(b, format+"\n", args...) }

func (b *svg) text(x, y float64, class, anchor string, size, weight float64, text string) {
	b.line(`<text class="%s" x="%s" y="%s" text-anchor="%s" font-size="%s" font-weight="%s" fill="#1c1f22">%s</text>`,
		class, num(x), num(y), anchor, num(size), num(weight), html.EscapeString(text))
}

func (b *svg) label(l Label) {
	middle := l.X + l.W/2
	switch l.Class {
	case "room":
		b.text(l.X, l.Y+13, "room-name", "start", 15, 650, l.Text)
	case "core":
		b.line(`<rect class="pill" x="%s" y="%s" width="%s" height="15" rx="2" fill="#ffffff" stroke="#8d939a" stroke-width="0.8"/>`, num(l.X-3), num(l.Y+0.5), num(l.W+6))
		b.text(middle, l.Y+12, "core-letters", "middle", 12.5, 650, l.Text)
	case "screw":
		b.text(middle, l.Y+12, "screw-name", "middle", 12.5, 400, l.Text)
	case "device":
		b.text(middle, l.Y+12, "device-name", "middle", 13, 600, l.Text)
	default:
		b.text(l.X, l.Y+12, l.Class+"-name", "start", 12.5, 400, l.Text)
	}
}

// wire draws a conductor: a dark casing, the insulation on it, and an overlay
// that is drawn only where a page shows what is live.
func (b *svg) wire(x Wire) {
	d := path(x.Path)
	width := 5.4
	tint := insulation[circuit.Colour(x.Core)]
	if x.Core == "" {
		width, tint = 3.6, "#6d737a" // a pigtail, of whatever colour the person takes
	}
	b.line(`<g class="wire" data-class="%d" data-end="%s"><path class="casing" d="%s" fill="none" stroke="#1c1f22" stroke-width="%s" stroke-linejoin="round"/>`, x.Class, x.End, d, num(width))
	b.line(`<path class="insulation" d="%s" fill="none" stroke="%s" stroke-width="%s" stroke-linejoin="round"/>`, d, tint, num(width-2))
	switch circuit.Colour(x.Core) {
	case "green-yellow":
		b.line(`<path d="%s" fill="none" stroke="#f0cf3a" stroke-width="%s" stroke-dasharray="7 7"/>`, d, num(width-2))
	case "bare":
		b.line(`<path d="%s" fill="none" stroke="#5c4322" stroke-width="%s" stroke-dasharray="1.5 3.5"/>`, d, num(width-2))
	}
	b.line(`<path class="state" d="%s" fill="none" stroke="none"/></g>`, d)
}

// device draws a device with its screws and, for a switch, what it connects in
// each position; a page shows the position that holds.
func (b *svg) device(d Device) {
	role := ""
	if d.Control {
		role = fmt.Sprintf(` data-control="%s" role="button" tabindex="0" aria-label="%s"`, d.ID, html.EscapeString("Press "+d.Name))
	}
	b.line(`<g class="device" data-device="%s"%s>`, d.ID, role)
	b.line(`<rect class="device-body" x="%s" y="%s" width="%s" height="%s" rx="4" fill="#ffffff" stroke="#1c1f22" stroke-width="1.6"/>`, num(d.X), num(d.Y), num(d.W), num(d.H))
	if d.Type == circuit.TypeLamp {
		x, y := d.X+d.W-lampSymbol/2-4, d.Y+32
		b.line(`<g class="lamp" data-lamp="%s"><circle cx="%s" cy="%s" r="11" fill="#ffffff" stroke="#1c1f22" stroke-width="1.6"/>`, d.ID, num(x), num(y))
		b.line(`<path class="cross" d="M%s %s l15 15 m0 -15 l-15 15" stroke="#1c1f22" stroke-width="1.4"/>`, num(x-7.5), num(y-7.5))
		var rays strings.Builder
		for i := range 8 {
			sin, cos := math.Sincos(float64(i) * math.Pi / 4)
			fmt.Fprintf(&rays, "M%s %s L%s %s ", num(x+14*cos), num(y+14*sin), num(x+20*cos), num(y+20*sin))
		}
		b.line(`<path class="rays" d="%s" stroke="#1c1f22" stroke-width="2" visibility="hidden"/></g>`, strings.TrimSpace(rays.String()))
	}
	for _, c := range d.Contacts {
		b.line(`<path class="contact" data-contact="%s" data-position="%d" d="M%s %s v12 L%s %s v-12" fill="none" stroke="#1c1f22" stroke-width="2.4" stroke-linejoin="round" opacity="0.22"/>`,
			c.Key, c.Position, num(c.From.X), num(c.From.Y), num(c.To.X), num(c.To.Y+12))
	}
	for _, t := range d.Terminals {
		b.line(`<circle class="screw" data-class="%d" data-end="%s.%s" cx="%s" cy="%s" r="5" fill="#ffffff" stroke="#1c1f22" stroke-width="1.8"/>`, t.Class, d.ID, t.Name, num(t.X), num(t.Y))
		b.line(`<path class="slot" d="M%s %s h6" stroke="#1c1f22" stroke-width="1.4"/>`, num(t.X-3), num(t.Y))
		if t.Name == "ground" {
			b.line(`<path class="earth" d="M%s %s v6 m-7 0 h14 m-11.5 3.5 h9 m-6.5 3.5 h4" fill="none" stroke="#1c1f22" stroke-width="1.4"/>`, num(t.X), num(t.Y+8))
		}
	}
	b.line(`</g>`)
}

func path(points []Point) string {
	var b strings.Builder
	for i, p := range points {
		letter := "L"
		if i == 0 {
			letter = "M"
		}
		fmt.Fprintf(&b, "%s%s %s", letter, num(p.X), num(p.Y))
	}
	return b.String()
}

// num writes a coordinate without needless digits.
func num(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.1f", v), "0"), ".")
}
