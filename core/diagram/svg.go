package diagram

import (
	"fmt"
	"html"
	"io"
	"strings"

	"ambivia/core/lettering"
)

// titleChar is the width of a character of the title, at most, in pixels.
const titleChar = 9.4

func escape(s string) string { return html.EscapeString(s) }

// SVG writes the scene. All styling is in presentation attributes, so that the
// file stands alone; class names and data attributes let a page restyle it and
// show what is live: data-class numbers a conductor, data-control a switch.
func (s *Scene) SVG(w io.Writer) error {
	b := &svg{}
	b.open(s, "")
	b.body(s, s.H)
	b.line(`</svg>`)
	_, err := io.WriteString(w, b.String())
	return err
}

// open begins the drawing; style may hold what a file needs beside it.
func (b *svg) open(s *Scene, style string) {
	b.line(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %s %s" width="%s" height="%s" class="diagram" role="group" aria-label="%s" font-family="'Source Sans 3 Variable', 'Source Sans 3', sans-serif">`,
		num(s.W), num(s.H), num(s.W), num(s.H), escape(s.Title))
	b.line(`<title>%s</title>%s`, escape(s.Title), style)
	b.line(`<rect class="paper" width="%s" height="%s" fill="#ffffff"/>`, num(s.W), num(s.H))
}

// body draws title, marks and legend, the legend above a height.
func (b *svg) body(s *Scene, bottom float64) {
	b.shape(Shape{Class: "title", At: Point{margin, 26}, Anchor: "start", Size: 17, Weight: 600, Text: clip(s.Title, max(8, int((s.W-2*margin)/titleChar))), Fill: ink})
	for _, x := range s.Shapes() {
		b.shape(x)
	}
	rows := s.legendRows()
	for i, row := range rows {
		for _, entry := range row {
			b.shape(Shape{Class: "legend", At: Point{entry.X, bottom - 12 - legendRow*float64(len(rows)-1-i)}, Anchor: "start", Size: 12.5, Weight: 400, Text: entry.Text, Fill: ink})
		}
	}
}

type svg struct {
	strings.Builder
	alone bool // the file must look right whatever fonts its reader has
}

func (b *svg) line(format string, args ...any) { fmt.Fprintf(b, format+"\n", args...) }

// shape writes one mark.
func (b *svg) shape(x Shape) {
	class := ""
	if x.Class != "" {
		class = fmt.Sprintf(` class="%s"`, x.Class)
	}
	switch {
	case x.Ends:
		b.line(`</g>`)
	case x.Group:
		b.line(`<g%s%s>`, class, x.Data)
	case x.Text != "" && b.alone && !lettering.Own(x.Text):
		b.letters(x, class)
	case x.Text != "":
		b.line(`<text%s x="%s" y="%s" text-anchor="%s" font-size="%s" font-weight="%s" fill="%s">%s</text>`,
			class, num(x.At.X), num(x.At.Y), x.Anchor, num(x.Size), num(x.Weight), x.Fill, escape(x.Text))
	case x.Rect != nil:
		b.line(`<rect%s%s x="%s" y="%s" width="%s" height="%s" rx="%s"%s/>`, class, x.Data, num(x.Rect.X), num(x.Rect.Y), num(x.Rect.W), num(x.Rect.H), num(x.Round), x.style())
	case x.Circle != nil:
		b.line(`<circle%s%s cx="%s" cy="%s" r="%s"%s/>`, class, x.Data, num(x.Circle.X), num(x.Circle.Y), num(x.Radius), x.style())
	case x.Path != nil:
		b.line(`<path%s%s d="%s"%s/>`, class, x.Data, path(x.Path, x.Closed), x.style())
	}
}

// style is fill and stroke as presentation attributes.
func (x Shape) style() string {
	fill, stroke := x.Fill, ""
	if fill == "" {
		fill = "none"
	}
	if x.Stroke == "" {
		stroke = ` stroke="none"`
	} else {
		stroke = fmt.Sprintf(` stroke="%s" stroke-width="%s" stroke-linejoin="round"`, x.Stroke, num(x.Width))
	}
	if len(x.Dash) > 0 {
		stroke += fmt.Sprintf(` stroke-dasharray="%s %s"`, num(x.Dash[0]), num(x.Dash[1]))
	}
	if x.Opacity > 0 {
		stroke += fmt.Sprintf(` opacity="%g"`, x.Opacity)
	}
	if x.Hidden && x.Stroke != "" {
		stroke += ` visibility="hidden"`
	}
	return fmt.Sprintf(` fill="%s"%s`, fill, stroke)
}
