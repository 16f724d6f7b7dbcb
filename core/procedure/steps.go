package procedure

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// Phase is a stretch of the work.
type Phase string

// Phases in the order in which each box goes through them. Nothing is live in [Preparing] after the breaker is off, in
// [Lifting], [Joining] and [Closing]; [Trying] is under power with every box closed.
const (
	Preparing Phase = "prepare"
	Lifting   Phase = "lift"
	Joining   Phase = "join"
	Closing   Phase = "close"
	Trying    Phase = "try"
	Linking   Phase = "link"
)

// Phases lists them in their order, with what they are called.
var Phases = []struct {
	Phase Phase
	Name  string
}{
	{Preparing, "Before anything comes off"}, {Lifting, "Off: everything that changes"},
	{Joining, "New work: {ground}, {neutral}, then the rest"}, {Closing, "Close the boxes"},
	{Trying, "First time under power"}, {Linking, "Links, and the last trial"},
}

// Kinds of step beside those that are named after what their edits do.
const (
	KindGate    = "gate"    // to be confirmed before anything that follows
	KindLabel   = "label"   // a label on conductors
	KindLift    = "lift"    // wires come off
	KindTakeOut = "out"     // a device comes out
	KindCable   = "cable"   // a cable is drawn
	KindMount   = "in"      // a device comes in
	KindMark    = "mark"    // tape or sleeving
	KindJoin    = "join"    // one screw or one connector
	KindCap     = "cap"     // an end that nothing uses any more
	KindCheck   = "check"   // looked at, tugged, tried
	KindTest    = "test"    // a reading that the plan relies on
	KindPowerOn = "on"      // the breaker goes on
	KindPowerOf = "off"     // and off again
	KindSet     = "set"     // a setting of a device
	KindFit     = "fit"     // a part that is no device: a bypass, a deeper cover
	KindPair    = "pair"    // a link without a wire
	KindClose   = "closing" // folded, screwed, plated
)

// Wire is one conductor end of a step: what a hand holds. StripMm is 0 where the device in
// whose screw it goes does not say, and for connectors, whose own marking rules.
type Wire struct {
	End     circuit.End `json:"end"`
	Colour  string      `json:"colour"` // "" for a pigtail
	Letters string      `json:"letters"`
	Cable   string      `json:"cable"`
	Towards string      `json:"towards"`
	Screw   string      `json:"screw"` // of which device, in words; "" for a connector
	Role    string      `json:"role"`
	Mark    string      `json:"mark,omitempty"`
	StripMm float64     `json:"stripMm,omitempty"`
}

// Connector holds so many conductors, pigtails among them, the thickest of a gauge ("" where
// nobody noted it). Pieces are the connectors that it takes, by what each holds: of more than
// fit one there are several, with short wires between.
type Connector struct {
	Conductors int    `json:"conductors"`
	Gauge      string `json:"gauge"`
	Pieces     []int  `json:"pieces"`
}

// Step is one thing to do. Number counts from one. Box is "" for what concerns the whole
// circuit. At are the ends that it is about, as drawings know them. Edits are what it does to
// the record, and nothing where it does nothing to it.
type Step struct {
	Number    int           `json:"number"`
	Phase     Phase         `json:"phase"`
	Kind      string        `json:"kind"`
	Box       string        `json:"box,omitempty"`
	Where     string        `json:"where,omitempty"`
	Text      string        `json:"text"`
	Wires     []Wire        `json:"wires,omitempty"`
	Device    string        `json:"device,omitempty"`
	Connector *Connector    `json:"connector,omitempty"`
	At        []circuit.End `json:"at,omitempty"`
	Edits     []Note        `json:"edits,omitempty"`
	// Uses is what the step fits, of what is to be brought.
	Uses []Item `json:"uses,omitempty"`
	// Enter is what is entered in a hub, a cloud or a panel of buttons, line by line.
	Enter []string `json:"enter,omitempty"`
	// Gate says of a gate, and of the breaker going off again, what it makes true; Asks is what a person confirms
	// for it, one by one, and Conductors are those that may turn out to be live.
	Gate       Gate          `json:"gate,omitempty"`
	Asks       []string      `json:"asks,omitempty"`
	Conductors []circuit.End `json:"conductors,omitempty"`
	// Metal: hands go where conductors are bare, or may be, so that every breaker must be off, and the box proved dead:
	// every box where the step is of none.
	Metal bool `json:"metal,omitempty"`
	// Test is a reading that the plan relies on, Right what it must show, Otherwise what follows where it shows
	// something else.
	Test      *circuit.Observation `json:"test,omitempty"`
	Right     any                  `json:"right,omitempty"`
	Otherwise string               `json:"otherwise,omitempty"`
	// Read is what readings of the record showed of the conductors of the step, where they are first used.
	Read []string `json:"read,omitempty"`
	// Proves: the presses that prove the work are made here, once and for all: every place can be pressed now.
	Proves bool `json:"proves,omitempty"`
	// Drawn says on which drawing the step is seen best: that of the circuit as [Found] or as
	// [Planned]. What is lifted is seen on what was there before.
	Drawn string `json:"drawn"`
}

// Pairs is the link that a step makes, nil where it makes none.
func (s *Step) Pairs() *circuit.Link {
	for _, e := range s.Edits {
		if pair, ok := e.Edit.(Pair); ok {
			return &pair.Link
		}
	}
	return nil
}

// Drawings on which a step is seen.
const (
	Found   = "found"
	Planned = "planned"
)

// Procedure is all that it takes to get from a circuit to its plan.
type Procedure struct {
	Before, After *circuit.Circuit
	Found         *inspect.Compiled // Before, with all that is computed of it
	Planned       *inspect.Compiled // After, likewise
	Option        *retrofit.Option
	Steps         []Step
	library       *device.Library
	opened        []string // boxes in the wall that are worked in
}

// For works out the procedure of an option that was offered for a circuit. A nil library is
// the catalogue.
func For(found *inspect.Compiled, o *retrofit.Option, library *device.Library) *Procedure {
	if library == nil {
		library = device.NewLibrary(nil)
	}
	found = o.PlannedOn(found)
	planned := o.Compiled()
	p := &Procedure{Before: found.Doc, Found: found, After: o.After, Planned: planned, Option: o, library: library}
	w := &writer{p: p, was: found.Terms(), now: planned.Terms(), roles: planned.Roles(), found: found.Roles(), placed: map[string]bool{}}
	w.write(compare(found, planned))
	for i := range p.Steps {
		s := &p.Steps[i]
		s.Number = i + 1
		s.Metal = handlesMetal(s)
		for k := range s.Uses {
			s.Uses[k].What, s.Uses[k].Note = w.now.Fill(s.Uses[k].What), w.now.Fill(s.Uses[k].Note)
		}
	}
	return p
}

// At returns the record after the first n steps.
func (p *Procedure) At(n int) (*circuit.Circuit, error) {
	return run(Bare(p.Before), p.Steps[:n])
}

func run(c *circuit.Circuit, steps []Step) (*circuit.Circuit, error) {
	for _, s := range steps {
		for _, e := range s.Edits {
			if err := e.Apply(c); err != nil {
				return nil, fmt.Errorf("step %d: %w", s.Number, err)
			}
		}
	}
	return c, nil
}

// writer writes the steps.
type writer struct {
	p          *Procedure
	was, now   names.Terms
	roles      map[circuit.End]electric.Role // as planned
	found      map[circuit.End]electric.Role
	difference *difference
	room       []tight
	placed     map[string]bool // places that are there by now
}

func (w *writer) step(phase Phase, kind, box, text string, of ...any) *Step {
	s := Step{Phase: phase, Kind: kind, Box: box, Drawn: Planned, Text: w.now.Expand(fmt.Sprintf(text, of...))}
	if phase == Preparing || phase == Lifting {
		s.Drawn = Found
	}
	if box != "" {
		s.Where = w.was.Box(box)
		if w.p.Before.Box(box) == nil {
			s.Where = w.now.Box(box)
		}
	}
	w.p.Steps = append(w.p.Steps, s)
	return &w.p.Steps[len(w.p.Steps)-1]
}

// boxes lists the boxes in the wall that are worked in, in the order of the record.
func (w *writer) boxes() []string {
	d := w.difference
	touched := map[string]bool{}
	for _, x := range append(slices.Clone(d.apart), d.together...) {
		touched[x.box] = true
	}
	for _, x := range append(slices.Clone(d.out), d.in...) {
		touched[x.Box] = touched[x.Box] || !d.inSocket(x.ID)
	}
	for _, m := range append(slices.Clone(d.mark), d.unmark...) {
		touched[m.End.Box] = true
	}
	for _, box := range w.p.Option.BypassAt {
		touched[box] = true
	}
	for _, e := range d.bare {
		touched[e.Box] = true
	}
	var out []string
	for _, b := range w.p.Before.Boxes {
		if touched[b.ID] && w.p.After.Box(b.ID) != nil {
			out = append(out, b.ID)
		}
	}
	return out
}

func (w *writer) write(d *difference) {
	w.difference = d
	w.sockets()
	for _, l := range d.unlink {
		s := w.step(Preparing, KindPair, "", "Forget the link from %s to %s.", w.was.Device(l.From), w.was.Device(l.To))
		s.Edits = []Note{{Unpair{l}}}
	}
	boxes := w.boxes()
	w.p.opened, w.room = boxes, tightBoxes(w.p.After)
	w.begin(boxes)
	if w.testedDead() { // readings between boxes, before anything comes off
		for _, box := range boxes {
			w.ready(box)
		}
		w.tests(false)
		for _, box := range boxes {
			w.lift(box)
		}
	} else { // one stay in each
		for _, box := range boxes {
			w.ready(box)
			w.lift(box)
		}
	}
	w.lampsOut()
	for _, b := range d.left {
		w.lift(b.ID)
		s := &w.p.Steps[len(w.p.Steps)-1]
		s.Edits = append(s.Edits, Note{DropBox{b}})
	}
	for _, k := range d.pulled {
		s := w.step(Lifting, KindCable, "", "Pull %s out, or leave it, capped and labelled at both ends.", w.was.Cable(k.ID))
		s.Edits = []Note{{Withdraw{k}}}
	}
	for _, k := range d.cables {
		s := w.step(Joining, KindCable, "", "Draw a new cable (%s) between %s and %s. Its way is not known here.", strings.Join(k.Cores, ", "), w.now.Box(*k.Ends[0]), w.now.Box(*k.Ends[1]))
		s.Edits = []Note{{AddCable{k}}}
		s.uses(Wiring, "new cable: "+strings.Join(k.Cores, ", "), 1, "its length is not known here", nil)
	}
	w.lampsIn()
	for _, box := range slices.Backward(boxes) { // one stands at the last of them
		w.join(box)
		w.close(box)
	}
	w.closeTraced(boxes)
	w.try()
	w.link()
}

// labelled lists the core ends of a box that are lifted.
func (w *writer) labelled(box string) []circuit.End {
	var out []circuit.End
	for _, x := range w.difference.apart {
		if x.box != box {
			continue
		}
		for _, m := range append([]circuit.Ref{x.with}, x.moves...) {
			if e := (circuit.End{Ref: m, Box: box}); w.p.Before.Cable(m.Owner) != nil && (len(x.keep) == 0 || m != x.with) {
				out = append(out, e)
			}
		}
	}
	return out
}

// lift takes everything in a box off that changes, and devices out that go: ground last.
func (w *writer) lift(box string) {
	d := w.difference
	for _, e := range d.bare {
		if e.Box == box {
			s := w.step(Lifting, KindCap, box, "Cap %s on its own: it hangs loose and bare.", w.core(w.p.Before, w.was, e))
			s.At, s.Wires, s.Edits = []circuit.End{e}, []Wire{w.wire(w.p.Before, w.was, e, w.found)}, []Note{{Cover{box, e.Ref}}}
			s.uses(Wiring, "cap that stays, on an end that nothing uses", 1, "", nil)
		}
	}
	for _, x := range sorted(d.apart, box, true) {
		s := w.step(Lifting, KindLift, box, "%s", w.liftText(x))
		w.staysTogether(s, x)
		for _, m := range x.moves {
			s.Edits = append(s.Edits, Note{Lift{box, m, x.with}})
		}
		w.ends(s, w.p.Before, w.was, x, w.found)
	}
	for _, dev := range d.out {
		if dev.Box == box && !d.inSocket(dev.ID) {
			s := w.step(Lifting, KindTakeOut, box, "Take %s out. Keep it: it is the way back.", w.was.Device(dev.ID))
			s.Device = dev.ID
			s.Edits = []Note{{TakeOut{box, dev, w.model(w.p.Before, dev)}}}
		}
	}
	for _, m := range d.unmark {
		if m.End.Box == box {
			s := w.step(Lifting, KindMark, box, "Take the mark %q off %s.", w.was.Word(m.As), w.core(w.p.Before, w.was, m.End))
			s.Edits, s.At = []Note{{Unmark{box, m}}}, []circuit.End{m.End}
		}
	}
}

func (w *writer) model(c *circuit.Circuit, d circuit.Device) *circuit.Model {
	if m, smart := c.Models[d.Model]; smart && d.Type == circuit.TypeSmart {
		return &m
	}
	return nil
}

// join does all new work in a box: devices come in, marks go on, ground is joined first,
// then neutral, then the rest; what nothing uses any more is capped.
func (w *writer) join(box string) {
	d := w.difference
	w.cover(box)
	for _, dev := range d.in {
		if dev.Box == box && !d.inSocket(dev.ID) {
			w.set(dev)
			if dev.Case == "" { // a further gang comes in with its case
				w.mount(dev)
			}
		}
	}
	for _, m := range d.mark {
		if m.End.Box == box {
			s := w.step(Joining, KindMark, box, "Tape or sleeve on %s: it is %s from now on.", w.core(w.p.After, w.now, m.End), w.now.Word(m.As))
			s.Edits, s.At = []Note{{Mark{box, m}}}, []circuit.End{m.End}
			s.Wires = []Wire{w.wire(w.p.After, w.now, m.End, w.roles)}
			s.uses(Labelling, "end to tape or sleeve as "+w.now.Word(m.As), 1, "both ends of a conductor", nil)
		}
	}
	together := sorted(d.together, box, false)
	for _, x := range together {
		hand := w.physical(x)
		s := w.step(Joining, KindJoin, box, "%s", w.joinText(hand))
		for _, m := range x.moves {
			s.Edits = append(s.Edits, Note{Join{box, m, x.with}})
		}
		w.ends(s, w.p.After, w.now, hand, w.roles)
		w.fasten(s, hand)
	}
	w.bypass(box)
	var spare []circuit.End
	for _, m := range w.p.After.EndsIn(box) {
		if w.p.After.JoinOf(box, m) < 0 && w.p.Before.Cable(m.Owner) != nil && w.joined(box, m) {
			spare = append(spare, circuit.End{Ref: m, Box: box})
		}
	}
	for _, e := range spare {
		s := w.step(Joining, KindCap, box, "%s", w.capText(e))
		s.At, s.Wires = []circuit.End{e}, []Wire{w.wire(w.p.After, w.now, e, w.roles)}
		s.uses(Wiring, "cap that stays, on an end that nothing uses", 1, "", nil)
	}
	for _, dev := range d.in {
		if dev.Box == box {
			w.unused(dev)
		}
	}
	if len(together) > 0 {
		w.step(Joining, KindCheck, box, "Tug every conductor, one by one.")
	}
}

// unused tells of the screws and leads of a new device to which nothing goes.
func (w *writer) unused(dev circuit.Device) {
	model, _ := w.p.model(dev.ID)
	var screws []string
	var at []circuit.End
	for _, t := range w.p.After.Terminals(dev) {
		if m := (circuit.Ref{Owner: dev.ID, Part: t}); model.Stands[t] == "spare" && w.p.After.JoinOf(dev.Box, m) < 0 {
			screws, at = append(screws, w.screw(w.p.After, w.now, m)), append(at, circuit.End{Ref: m})
		}
	}
	if len(screws) > 0 {
		w.step(Joining, KindCheck, dev.Box, "Nothing goes to %s: cap the lead, or leave the screw tight and covered. It may be live.", list(screws)).At = at
	}
}

// joined reports whether an end stood with others as found.
func (w *writer) joined(box string, m circuit.Ref) bool {
	j := w.p.Before.JoinOf(box, m)
	return j >= 0 && len(w.p.Before.Joins[j].Of) > 1
}

// mount brings a device in, with how its selectors stand.
func (w *writer) mount(dev circuit.Device) {
	d := w.difference
	var edits []Note
	placed := false
	for _, b := range d.places {
		if b.ID == dev.Box && !w.placed[b.ID] { // one place may hold several
			w.placed[b.ID] = true
			edits = append(edits, Note{AddBox{b}})
			placed = true
		}
	}
	edits = append(edits, Note{Mount{dev.Box, dev, w.model(w.p.After, dev)}})
	name := w.newName(dev)
	model, _ := w.p.model(dev.ID)
	for i, more := range w.p.gangsIn(dev.ID) {
		edits = append(edits, Note{Mount{dev.Box, more, w.model(w.p.After, more)}})
		if model.LowVoltage { // a plate is one thing, whatever its buttons are for
			continue
		}
		if i == 0 {
			name = "the case with the gangs " + name
		}
		name += " and " + w.newName(more)
	}
	text := "Bring %s to the box; it goes in when all is joined."
	switch b := w.p.After.Box(dev.Box); {
	case len(w.p.After.Terminals(dev)) == 0:
		text = "Have %s at hand; it goes on the wall when all else is closed."
	case b.Material == circuit.Metal && w.radio(dev.ID):
		text += " The box is of metal, which weakens radio: try its range first, from the hub to this place."
	}
	s := w.step(Joining, KindMount, dev.Box, text, name)
	s.Device, s.Edits = dev.ID, edits
	w.fits(s, dev.ID)
	w.buttons(s, dev, placed)
}

// radio reports whether a new device speaks by radio.
func (w *writer) radio(id string) bool {
	d, known := w.p.model(id)
	return known && len(d.Radio) > 0
}

// model is the catalogue's device that stands under an id in the plan.
func (p *Procedure) model(id string) (device.Device, bool) {
	for _, x := range p.Option.Devices {
		if x.ID == id {
			return p.library.Get(x.Device)
		}
	}
	return device.Device{}, false
}
