package diagram

import (
	"errors"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// View is a way of drawing a circuit.
type View string

// Views.
const (
	Wiring     View = "wiring"     // every conductor
	OneLine    View = "line"       // one stroke a cable, for people who do not wire
	OneBox     View = "box"        // one box from the front
	Difference View = "difference" // every conductor, with what stays as it was thin
)

// ErrNoBox is the error of a view of a box that the circuit has not.
var ErrNoBox = errors.New("the circuit has no such box")

// Show is what to draw of a circuit and its plan.
type Show struct {
	View      View
	Found     *inspect.Compiled
	Planned   *inspect.Compiled // nil where there is none; both are drawn in the same places
	AsPlanned bool              // the planned one is drawn
	Moved     []circuit.End     // ends that carry a flag
	Box       string            // for [OneBox]
	Title     string
}

// Scene draws it. The error is [ErrNoBox].
func (s Show) Scene() (*Scene, error) {
	drawn := s.Found
	if s.AsPlanned {
		drawn = s.Planned
	}
	switch s.View {
	case OneLine:
		return Schematic(drawn, s.Title), nil
	case OneBox:
		if drawn.Doc.Box(s.Box) == nil {
			return nil, ErrNoBox
		}
		return Front(drawn, s.Box, s.Moved), nil
	}
	frame := Layout(s.Found.Doc)
	if s.Planned != nil {
		frame = Layout(s.Found.Doc, s.Planned.Doc)
	}
	if s.View == Difference {
		return frame.Difference(drawn, s.Title, s.Moved), nil
	}
	return frame.Draw(drawn, s.Title, s.Moved), nil
}
