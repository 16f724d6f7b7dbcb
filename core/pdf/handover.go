package pdf

import (
	"fmt"
	"strings"

	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/record"
)

// handover writes what the customer of a circuit reads: what it is now, how to use it, what fails when, batteries, links,
// devices, a drawing, photographs, and where the way back lies.
func (s *sheets) handover(c *record.Circuit, photos []shot) {
	h := c.Handover(s.info.Currency)
	s.heading(c.Called() + ": " + h.Is)
	s.paragraph(h.Status)
	s.list("Left out, or not right", h.Wrong)
	s.told("How to use it", "Place", h.Use)
	s.list("When something fails", h.Fails)
	s.list("Links", h.Links)
	if h.InPart != "" {
		s.paragraph(h.InPart)
	}
	s.list("Batteries", h.Batteries)
	s.list("Schedules, and what they take", h.Schedules)
	s.told("Devices", "Place", h.Devices)
	if len(h.Open) > 0 {
		s.heading("Not tested")
		s.paragraph(strings.Join(h.Open, "; ") + ".")
	}
	s.heading("The old wiring")
	s.paragraph(h.Back)
	s.lineDrawing(c)
	s.photographs(photos)
	if left := len(c.Photos) - len(photos); left > 0 {
		s.paragraph(fmt.Sprintf("%d more in the annex.", left))
	}
}

// list writes sentences under a heading, if there are any.
func (s *sheets) list(title string, sentences []string) {
	if len(sentences) == 0 {
		return
	}
	s.heading(title)
	for _, text := range sentences {
		s.paragraph("– " + text)
	}
}

// told writes what is said of each place as a table, if anything is.
func (s *sheets) told(title, name string, list []record.Told) {
	if len(list) == 0 {
		return
	}
	s.heading(title)
	var rows [][]string
	for _, x := range list {
		rows = append(rows, []string{x.Name, x.Text})
	}
	s.table([]column{{head: name, share: 0.3, bold: true}, {head: "", share: 0.7}}, rows)
}

// stood is the circuit as it is now, and what its drawings are called.
func stood(c *record.Circuit) (now *inspect.Compiled, called string) {
	if c.Became == record.AsPlanned {
		return c.Option.Compiled(), "After"
	}
	return inspect.Compile(c.Now), "As it is now"
}

// lineDrawing draws the circuit in one line before and after, or only as it is now where both would be too small to read. It is left
// to the annex where that is too large for a sheet as well.
func (s *sheets) lineDrawing(c *record.Circuit) {
	now, called := stood(c)
	before, after := diagram.Schematic(c.Found, ""), diagram.Schematic(now, "")
	both := [2]*diagram.Scene{before, after}
	for range 2 {
		tall := s.floor() - s.y - 12
		if beside, below := s.scales(both, tall); max(beside, below) >= smallest {
			s.y += 8
			s.y += s.pair([2]string{"Before", called}, both, tall) + 8
			return
		}
		if scale := min(largest, (s.w-2*margin)/after.W, (tall-18)/after.H); scale >= smallest {
			s.font("B", 9)
			s.text(margin, s.y+18, called)
			s.paint(after, diagram.Rect{W: after.W, H: after.H}, margin, s.y+22, scale, false)
			s.y += 30 + after.H*scale
			return
		}
		if !s.room(s.floor()) {
			return
		}
	}
	s.paragraph("The drawing takes more than a sheet: it is in the annex.")
}

// handedPhotos is how many photographs of a circuit are handed over without the annex.
const handedPhotos = 6

// shot is a photograph with its picture.
type shot struct {
	record.Photo
	jpeg []byte
}

// pictures reads the photographs of a circuit, so many at most.
func pictures(c *record.Circuit, most int) ([]shot, error) {
	var out []shot
	for _, p := range c.Photos[:min(most, len(c.Photos))] {
		jpeg, err := p.Picture()
		if err != nil {
			return nil, err
		}
		out = append(out, shot{p, jpeg})
	}
	return out, nil
}

// photographs puts them three in a row, with where and when.
func (s *sheets) photographs(photos []shot) {
	if len(photos) == 0 {
		return
	}
	s.heading("Photographs")
	const gap, tall = 10.0, 120.0
	wide := (s.w - 2*margin - 2*gap) / 3
	for i, p := range photos {
		if i%3 == 0 {
			if i > 0 {
				s.y += tall + 26
			}
			if !s.room(tall + 30) {
				return
			}
		}
		x := margin + float64(i%3)*(wide+gap)
		s.picture("photo "+p.ID, p.jpeg, x, s.y+4, wide, tall)
		s.font("", 7)
		for n, line := range s.lines(strings.TrimSpace(p.Where+", "+stamp(p.Created)+". "+p.Note), wide, 2) {
			s.text(x, s.y+tall+12+float64(n)*8, line)
		}
	}
	s.y += tall + 26
}
