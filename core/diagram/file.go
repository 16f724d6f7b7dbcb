package diagram

import (
	"encoding/base64"
	"io"
	"strings"

	"golang.org/x/image/font/gofont/goregular"

	"ambivia/core/lettering"
)

// Block is what the title block of a drawing in a file says. Cautions are in the practice's
// words; an empty field is left out.
type Block struct {
	Job, Circuit, Sheet, Date, Revision string
	Cautions                            string
}

// letters stands where the font goes, once it is known which letters it needs.
const letters = "<style>letters</style>"

// Measures of the title block, in pixels.
const (
	blockRow = 20.0
)

// File writes the scene as an SVG that needs nothing beside it, styled by presentation attributes: its type is within, the one
// that is used on paper; a title block and the cautions stand below the drawing.
func (s *Scene) File(w io.Writer, about Block) error {
	framed := *s
	framed.W = max(s.W, 640)
	cells := [][2]string{}
	for _, c := range [][2]string{{"Job", about.Job}, {"Circuit", about.Circuit}, {"Sheet", about.Sheet}, {"Date", about.Date}, {"Revision", about.Revision}} {
		if c[1] != "" {
			cells = append(cells, c)
		}
	}
	cautions := wrap(about.Cautions, int((framed.W-2*margin)/charWidth))
	top := s.H + 8
	row := top + float64(len(cautions))*16 + 12
	framed.H = row + 2*blockRow + margin
	b := &svg{}
	b.open(&framed, letters)
	b.body(&framed, s.H)
	for i, line := range cautions {
		b.text(TextMark{At: Point{margin, top + 12 + float64(i)*16}, Size: 12.5, Weight: 400, Text: line})
	}
	wide := (framed.W - 2*margin) / float64(max(1, len(cells)))
	for i, c := range cells {
		at := Rect{margin + float64(i)*wide, row, wide, 2 * blockRow}
		b.marks([]Mark{
			RectMark{Rect: at, Ink: Ink{Stroke: ink, Width: 1.2}},
			TextMark{At: Point{at.X + 8, row + 14}, Size: 11, Weight: 400, Text: c[0]},
			TextMark{At: Point{at.X + 8, row + 32}, Size: 14, Weight: 600, Text: clip(c[1], max(4, int(wide/charWidth)-2))},
		})
	}
	b.line(`</svg>`)
	font := base64.StdEncoding.EncodeToString(lettering.Subset(goregular.TTF, b.said...))
	_, err := io.WriteString(w, strings.Replace(b.String(), letters, "<style>@font-face{font-family:'Paper';src:url(data:font/ttf;base64,"+font+")}text{font-family:'Paper',sans-serif}</style>", 1))
	return err
}

// wrap breaks a text into rows of at most so many characters.
func wrap(text string, most int) []string {
	var out []string
	row := ""
	for _, word := range strings.Fields(text) {
		if row != "" && lettering.Columns(row)+1+lettering.Columns(word) > most {
			out, row = append(out, row), ""
		}
		if row != "" {
			row += " "
		}
		row += word
	}
	if row != "" {
		out = append(out, row)
	}
	return out
}
