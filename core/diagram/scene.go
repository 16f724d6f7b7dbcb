// Package diagram draws the wiring of a circuit from its document, for any tree
// of boxes. [Layout] computes one [Frame] for a document, or for several with
// the same cables (before and after), so that boxes and cables keep their
// places; [Draw] routes every conductor into a [Scene]; [Scene.Picture] is it as
// data for a page, [Scene.File] a file.
//
// Boxes stand in columns by their distance from the panel; the longest way runs
// along a row. A cable is a sheath that shows each core with its letters. In a
// box each join has a vertical lane of its own, each core end a row of its own
// and each screw a column of its own, so no two conductors ever lie on each
// other; devices stand below, so none runs through one.
//
// Colour means insulation and nothing else, and is doubled by letters. What
// changed, what is capped and what is re-marked is shown by marks.
package diagram

import "ambivia/core/circuit"

// Point is a place in the drawing, in CSS pixels from its upper left corner.
type Point struct{ X, Y float64 }

// Rect is a rectangle in the drawing.
type Rect struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	W float64 `json:"w"`
	H float64 `json:"h"`
}

// Overlaps reports whether two rectangles share more than an edge.
func (r Rect) Overlaps(o Rect) bool {
	return r.X < o.X+o.W && o.X < r.X+r.W && r.Y < o.Y+o.H && o.Y < r.Y+r.H
}

// Scene is a drawing as data.
type Scene struct {
	W, H    float64
	Title   string
	Rooms   []Room
	Sheaths []Sheath
	Wires   []Wire
	Devices []Device
	Dots    []Dot
	Caps    []Cap
	Flags   []Flag
	Tapes   []Tape
	Labels  []Label
	Lines   []Line
	Legend  []Entry
}

// DisableControls takes it from the scene that its switches can be pressed, for a page that shows it
// and does not switch it.
func (s *Scene) DisableControls() {
	for i := range s.Devices {
		s.Devices[i].Control = false
	}
}

// SayLoose says of ends that stand alone that they may be loose: in wiring as somebody left it by mistake nobody capped them.
func (s *Scene) SayLoose() {
	for i := range s.Legend {
		if s.Legend[i].Sign == SignCap {
			s.Legend[i].Text = "on its own: loose, or capped"
		}
	}
}

// Room is a box of the circuit.
type Room struct {
	Rect
	ID, Kind string
	Known    bool
}

// Sheath is a cable between two boxes; Open means that its far end is unknown.
type Sheath struct {
	Path  []Point
	Width float64
	Open  bool
}

// Wire is one run of a conductor. Core is the insulation of a cable core, or ""
// for a pigtail in a box. Class is the conductor as package electric numbers it.
type Wire struct {
	Path  []Point
	Core  string
	Class int
	End   circuit.End
	Kept  bool // in a difference: as it was
}

// Line is a cable of a one-line drawing: so many strokes at Mark stand for its conductors.
// Dashed is a link that is no wire.
type Line struct {
	Path    []Point
	Mark    Point
	Strokes int
	Dashed  bool
}

// Device is a device in its box with its screws in a row on top.
type Device struct {
	Rect
	ID, Type, Name string
	Control        bool
	Terminals      []Terminal
	Contacts       []Contact
}

// Terminal is a screw. Ground screws carry no words.
type Terminal struct {
	Point
	Name, Label string
	Class       int
}

// Contact is what one position of a switch connects, drawn in the device.
type Contact struct {
	Key      string
	Position int
	From, To Point
}

// Dot is a connector that holds several conductors.
type Dot struct {
	Point
	Count int
}

// Cap is a core end that is capped on its own.
type Cap struct{ Point }

// Flag marks a core end that is joined differently than in the other drawing.
type Flag struct{ Point }

// Tape is a re-marked end with the letters of what it is used as.
type Tape struct {
	Rect
	Text string
}

// Label is text. Its rectangle is what it needs at most.
type Label struct {
	Rect
	Text, Class string
	End         circuit.End // of the core whose letters it holds, in a box from the front
}

// Sign is a mark of a drawing as its legend shows it.
type Sign string

// Signs.
const (
	SignConnector Sign = "●"
	SignCap       Sign = "▌"
	SignFlag      Sign = "◇"
	SignTape      Sign = "▭"
	SignConductor Sign = "╱"
	SignThin      Sign = "─"
	SignLink      Sign = "···"
)

// Entry is one entry of a legend.
type Entry struct {
	Sign Sign
	Text string
}

// String is the entry as a line of text.
func (e Entry) String() string { return string(e.Sign) + " " + e.Text }

// placed is an entry of a legend and where it begins.
type placed struct {
	Entry
	x float64
}
