package diagram

import (
	"fmt"
	"html"
	"strings"

	"ambivia/core/lettering"
)

// titleChar is the width of a character of the title, at most, in pixels.
const titleChar = 9.4

func escape(s string) string { return html.EscapeString(s) }

// open begins the drawing; style may hold what a file needs beside it.
func (b *svg) open(s *Scene, style string) {
	b.line(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %s %s" width="%s" height="%s" role="img" aria-label="%s" font-family="'Source Sans 3 Variable', 'Source Sans 3', sans-serif">`,
		num(s.W), num(s.H), num(s.W), num(s.H), escape(s.Title))
	b.line(`<title>%s</title>%s`, escape(s.Title), style)
	b.line(`<rect width="%s" height="%s" fill="#ffffff"/>`, num(s.W), num(s.H))
}

// body draws title, marks and legend, the legend above a height.
func (b *svg) body(s *Scene, bottom float64) { b.marks(s.whole(bottom)) }

type svg struct {
	strings.Builder
	said []string // texts that the reader writes with the font of the file
}

func (b *svg) line(format string, args ...any) { fmt.Fprintf(b, format+"\n", args...) }

// marks writes marks one after the other. What only a page shows is left out.
func (b *svg) marks(list []Mark) {
	for _, m := range list {
		switch m := m.(type) {
		case GroupMark:
			b.line(`<g>`)
			b.marks(m.Marks)
			b.line(`</g>`)
		case TextMark:
			b.text(m)
		case RectMark:
			b.line(`<rect x="%s" y="%s" width="%s" height="%s" rx="%s"%s/>`, num(m.Rect.X), num(m.Rect.Y), num(m.Rect.W), num(m.Rect.H), num(m.Round), m.style())
		case CircleMark:
			b.line(`<circle cx="%s" cy="%s" r="%s"%s/>`, num(m.Center.X), num(m.Center.Y), num(m.Radius), m.style())
		case PathMark:
			if m.Fill != "" || m.Stroke != "" {
				b.line(`<path d="%s"%s/>`, path(m.Runs, m.Closed), m.style())
			}
		}
	}
}

// text writes a text, as outlines where the file's own type lacks its script.
func (b *svg) text(m TextMark) {
	if !lettering.Own(m.Text) { // nobody knows what fonts a reader has
		b.letters(m)
		return
	}
	anchor := "start"
	if m.Middle {
		anchor = "middle"
	}
	b.said = append(b.said, m.Text)
	b.line(`<text x="%s" y="%s" text-anchor="%s" font-size="%s" font-weight="%s" fill="%s">%s</text>`, num(m.At.X), num(m.At.Y), anchor, num(m.Size), num(m.Weight), Hex(ink), escape(m.Text))
}

// style is fill and stroke as presentation attributes.
func (x Ink) style() string {
	fill, stroke := Hex(x.Fill), ""
	if fill == "" {
		fill = "none"
	}
	if x.Stroke == "" {
		stroke = ` stroke="none"`
	} else {
		stroke = fmt.Sprintf(` stroke="%s" stroke-width="%s" stroke-linejoin="round"`, Hex(x.Stroke), num(x.Width))
	}
	if len(x.Dash) > 0 {
		stroke += fmt.Sprintf(` stroke-dasharray="%s %s"`, num(x.Dash[0]), num(x.Dash[1]))
	}
	if x.Opacity > 0 {
		stroke += fmt.Sprintf(` opacity="%g"`, x.Opacity)
	}
	return fmt.Sprintf(` fill="%s"%s`, fill, stroke)
}
