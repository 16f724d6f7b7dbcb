package diagram

import (
	"fmt"
	"strings"

	"github.com/go-text/typesetting/font/opentype"

	"ambivia/core/lettering"
)

// letters writes a text whose script the file's own font lacks: shaped and as outlines, since
// nobody knows what fonts a reader has, with the text itself over them, unseen, so that it is
// found, read aloud and copied.
func (b *svg) letters(x TextMark) {
	runs := lettering.Runs(x.Text)
	wide := make([]float64, len(runs))
	shapes := make([]lettering.Shape, len(runs))
	total := 0.0
	for i, r := range runs {
		if r.Font == nil {
			wide[i] = lettering.Width(r.Text, x.Size)
		} else {
			shapes[i] = r.Shape()
			wide[i] = shapes[i].Wide * x.Size / shapes[i].Units
		}
		total += wide[i]
	}
	at := x.At.X
	if x.Middle {
		at -= total / 2
	}
	b.line(`<g>`)
	left := at
	for i, r := range runs {
		if r.Font == nil {
			b.line(`<text x="%s" y="%s" font-size="%s" font-weight="%s" fill="%s" xml:space="preserve" aria-hidden="true">%s</text>`, num(left), num(x.At.Y), num(x.Size), num(x.Weight), Hex(ink), escape(r.Text))
		} else if d := outline(shapes[i], left, x.At.Y, x.Size/shapes[i].Units); d != "" {
			bold := ""
			if x.Weight >= 600 { // these fonts have no bold of their own
				bold = fmt.Sprintf(` stroke="%s" stroke-width="%s"`, Hex(ink), num(x.Size/36))
			}
			b.line(`<path d="%s" fill="%s"%s/>`, d, Hex(ink), bold)
		}
		left += wide[i]
	}
	b.line(`<text x="%s" y="%s" font-size="%s" opacity="0" textLength="%s" lengthAdjust="spacingAndGlyphs">%s</text>`, num(at), num(x.At.Y), num(x.Size), num(total), escape(lettering.Clean(x.Text)))
	b.line(`</g>`)
}

// outline is the path of a shaped run whose origin is at a point.
func outline(s lettering.Shape, x, y, scale float64) string {
	var d strings.Builder
	for _, g := range s.Glyphs {
		at := func(p opentype.SegmentPoint) string {
			return num(x+(g.X+float64(p.X))*scale) + " " + num(y-(g.Y+float64(p.Y))*scale)
		}
		open := false
		for _, seg := range g.Outline {
			switch seg.Op {
			case opentype.SegmentOpMoveTo:
				if open {
					d.WriteByte('Z')
				}
				fmt.Fprintf(&d, "M%s", at(seg.Args[0]))
				open = true
			case opentype.SegmentOpLineTo:
				fmt.Fprintf(&d, "L%s", at(seg.Args[0]))
			case opentype.SegmentOpQuadTo:
				fmt.Fprintf(&d, "Q%s %s", at(seg.Args[0]), at(seg.Args[1]))
			case opentype.SegmentOpCubeTo:
				fmt.Fprintf(&d, "C%s %s %s", at(seg.Args[0]), at(seg.Args[1]), at(seg.Args[2]))
			}
		}
		if open {
			d.WriteByte('Z')
		}
	}
	return d.String()
}
