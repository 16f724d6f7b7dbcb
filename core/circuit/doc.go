// Package circuit holds the circuit document: boxes, cables, ends, joins and
// devices as an electrician finds them or plans them.
//
// A [Circuit] is what one file of format "ambivia-circuit/1" says, no more and
// no less. The package knows nothing electrical: that a three-way connects its
// common to one of two travelers is for package electric to say. What is held
// here is the shape (which fields there are), the grammar (how an end is
// written) and the sense of the references (a join names cores that its cable
// has, terminals that its device has).
//
// # Ends
//
// A cable core has two ends, one in each box that the cable joins. Inside a
// join, which has a box, an end is written "CABLE.CORE"; everywhere else
// "CABLE.CORE@BOX". A terminal is "DEVICE.TERMINAL" in both places. [Ref] is the
// first form, [End] the second. An end that stands in no join is capped on its
// own; an end stands in one join at most.
//
// # Reading and writing
//
// [Read] refuses what the published JSON Schema refuses and what a schema
// cannot say, and names the place of each fault. What [Write] writes of what
// Read read has the same values in the same places: a field that was absent
// stays absent, one that was present stays present.
package circuit

import (
	"fmt"
	"slices"
	"strings"
)

// Format is the value of the format field of every circuit file.
const Format = "ambivia-circuit/1"

// Circuit is one document: a switching circuit as found, half known, or as
// planned. The zero Circuit is an empty record, not a valid file.
type Circuit struct {
	Format       string           `json:"format"`
	Name         string           `json:"name,omitzero"`
	Practice     string           `json:"practice"`
	Colours      string           `json:"colours,omitzero"`
	Supply       *Supply          `json:"supply,omitzero"`
	Controls     *int             `json:"controls,omitzero"`
	Boxes        []Box            `json:"boxes"`
	Cables       []Cable          `json:"cables"`
	Devices      []Device         `json:"devices"`
	Joins        []Join           `json:"joins"`
	Loose        []End            `json:"loose,omitzero"`
	Marks        []Mark           `json:"marks,omitzero"`
	Models       map[string]Model `json:"models,omitzero"`
	Links        []Link           `json:"links,omitzero"`
	Automation   *Automation      `json:"automation,omitzero"`
	Observations []Observation    `json:"observations,omitzero"`
	Reports      []Report         `json:"reports,omitzero"`
	Gates        []Gate           `json:"gates,omitzero"`
	Evidence     []Evidence       `json:"evidence,omitzero"`
	Accepted     []Accepted       `json:"accepted,omitzero"`
	Cannot       []string         `json:"cannot,omitzero"`
	Confirm      string           `json:"confirm,omitzero"`
}

// Supply is the circuit's feed: nominal volts, the breaker's rating in amperes
// and what is written beside it. A nil field was not recorded.
type Supply struct {
	Volts        *float64 `json:"volts,omitzero"`
	BreakerAmps  *float64 `json:"breakerAmps,omitzero"`
	BreakerLabel string   `json:"breakerLabel,omitzero"`
}

// Kinds of box.
const (
	Panel    = "panel"
	Switch   = "switch"
	Fixture  = "fixture"
	Junction = "junction"
)

// What the colours of a house's insulation are, where a practice changed them
// once. Absent means that nobody said: both are accepted.
const (
	ColoursNew   = "new"
	ColoursOld   = "old"
	ColoursMixed = "mixed"
)

// Materials of a box.
const (
	Metal   = "metal"
	Plastic = "plastic"
)

// Box is a place where cables end. VolumeCm3 is the stamped volume in cubic
// centimetres, DepthMm the depth inside in millimetres. Material is [Metal] or
// [Plastic], or "" where nobody noted it. Opened says whether its inside has
// been seen.
type Box struct {
	ID        string   `json:"id"`
	Kind      string   `json:"kind"`
	Name      string   `json:"name,omitzero"`
	Opened    *bool    `json:"opened,omitzero"`
	Gangs     *int     `json:"gangs,omitzero"`
	VolumeCm3 *float64 `json:"volumeCm3,omitzero"`
	DepthMm   *float64 `json:"depthMm,omitzero"`
	Material  string   `json:"material,omitzero"`
	Clamps    *bool    `json:"clamps,omitzero"` // it has clamps inside for its cables
}

// Clamped reports whether a box has clamps inside: as noted, else where it is not known to be of plastic.
func (b Box) Clamped() bool {
	if b.Clamps != nil {
		return *b.Clamps
	}
	return b.Material != Plastic
}

// Seen reports whether the record says that the box was opened.
func (b Box) Seen() bool { return b.Opened != nil && *b.Opened }

// Label is the box's name, or its id where it has none.
func (b Box) Label() string {
	if !Blank(b.Name) {
		return b.Name
	}
	return b.ID
}

// Cable is one sheath, or one run of singles, between two boxes. An end that is
// nil is not known yet: the cable is then a stub, seen in one box only.
type Cable struct {
	ID    string     `json:"id"`
	Ends  [2]*string `json:"ends"`
	Cores []string   `json:"cores"`
	Gauge string     `json:"gauge,omitzero"`
}

// In reports whether one of the cable's ends is in the box.
func (c Cable) In(box string) bool {
	return c.Ends[0] != nil && *c.Ends[0] == box || c.Ends[1] != nil && *c.Ends[1] == box
}

// Other returns the box at the other end of the cable than box; ok is false
// where that end is not known.
func (c Cable) Other(box string) (other string, ok bool) {
	far := c.Ends[0]
	if far != nil && *far == box {
		far = c.Ends[1]
	}
	if far == nil {
		return "", false
	}
	return *far, true
}

// Stub reports whether one end of the cable is not known.
func (c Cable) Stub() bool { return c.Ends[0] == nil || c.Ends[1] == nil }

// Types of device.
const (
	TypeSupply         = "supply"
	TypeSinglePole     = "single-pole"
	TypeThreeWay       = "three-way"
	TypeFourWay        = "four-way"
	TypeThreeWayDimmer = "three-way-dimmer"
	TypeLamp           = "lamp"
	TypeReceptacle     = "receptacle"
	TypeSmart          = "smart"
)

// SwitchTypes are the plain switches moved by hand, the commonest first; PartTypes all
// that one finds in a box; LoadKinds what a lamp may be to the device that feeds it.
var (
	SwitchTypes = []string{TypeThreeWay, TypeFourWay, TypeSinglePole, TypeThreeWayDimmer}
	PartTypes   = slices.Concat(SwitchTypes, []string{TypeLamp, TypeReceptacle, TypeSupply}, FoundTypes)
	LoadKinds   = []string{"led", "incandescent", "halogen", "fluorescent", "magnetic", "electronic"}
)

// Device is something with terminals that stands in a box. Watts is per lamp,
// Count the number of lamps wired side by side. Position is 1 or 2, and nil
// where nobody knows how the switch stands. DepthMm is how far the device
// reaches into its box, in millimetres. Dimmable says of a lamp whether it may be dimmed, nil
// where nobody knows. Breaker and Amps are what is written on a supply's breaker and its
// rating in amperes, "" and nil where the document's [Supply] says it. Unmarked
// says that nobody could read which of its screws is which. Case names the device in whose case a
// further gang sits: the two are one thing to buy and to screw in, and screws of one name that
// stand in one join are one screw.
type Device struct {
	ID       string   `json:"id"`
	Box      string   `json:"box"`
	Type     string   `json:"type"`
	Name     string   `json:"name,omitzero"`
	Model    string   `json:"model,omitzero"`
	Local    *bool    `json:"local,omitzero"`
	Case     string   `json:"case,omitzero"`
	Position *int     `json:"position,omitzero"`
	Watts    *float64 `json:"watts,omitzero"`
	Count    *int     `json:"count,omitzero"`
	Load     string   `json:"load,omitzero"`
	DepthMm  *float64 `json:"depthMm,omitzero"`
	Unmarked *bool    `json:"unmarked,omitzero"`
	Dimmable *bool    `json:"dimmable,omitzero"`
	Breaker  string   `json:"label,omitzero"`
	Amps     *float64 `json:"amps,omitzero"`
}

// ScrewsUnmarked reports whether nobody could read which screw is which.
func (d Device) ScrewsUnmarked() bool { return d.Unmarked != nil && *d.Unmarked }

// terminals of the types that do not describe themselves.
var terminals = map[string][]string{
	TypeSupply:         {"hot", "neutral", "ground"},
	TypeSinglePole:     {"a", "b", "ground"},
	TypeThreeWay:       {"common", "t1", "t2", "ground"},
	TypeFourWay:        {"a1", "a2", "b1", "b2", "ground"},
	TypeThreeWayDimmer: {"common", "t1", "t2", "ground"},
	TypeLamp:           {"l", "n", "ground"},
	TypeReceptacle:     {"l", "n", "ground"},
}

// Terminals lists the terminals of a device in the order of its type or model.
// A smart device whose model the document lacks has none.
func (c *Circuit) Terminals(d Device) []string {
	if d.Type == TypeSmart {
		return c.Models[d.Model].Terminals
	}
	return terminals[d.Type]
}

// Mechanical reports whether the device is a plain switch moved by hand.
func (d Device) Mechanical() bool {
	return slices.Contains(SwitchTypes, d.Type)
}

// Blank reports whether a name says nothing: it is empty, or made of spaces alone.
func Blank(name string) bool { return strings.TrimSpace(name) == "" }

// Join is what one connector, or one screw, holds together in one box.
type Join struct {
	Box string `json:"box"`
	Of  []Ref  `json:"of"`
}

// Mark is tape or sleeving that tells what a conductor is used as.
type Mark struct {
	End End    `json:"end"`
	As  string `json:"as"`
}

// Model is how a smart device behaves; see docs/format.md for the meaning of
// each field.
type Model struct {
	Terminals   []string          `json:"terminals"`
	Supply      [][2]string       `json:"supply"`
	ThroughLoad *bool             `json:"throughLoad,omitzero"`
	Paddle      *bool             `json:"paddle,omitzero"`
	Events      []string          `json:"events,omitzero"`
	Reports     string            `json:"reports,omitzero"`
	Switches    []Relay           `json:"switches,omitzero"`
	Inputs      []Input           `json:"inputs,omitzero"`
	Needs       map[string]string `json:"needs,omitzero"`
	Button      *Button           `json:"button,omitzero"`
	Remote      string            `json:"remote,omitzero"`
}

// DrawsThroughLoad reports whether the device takes its power through the lamp.
func (m Model) DrawsThroughLoad() bool { return m.ThroughLoad != nil && *m.ThroughLoad }

// Relay is a contact inside a smart device: one throw is an open or closed
// contact, two throws a changeover.
type Relay struct {
	ID     string   `json:"id"`
	Pole   string   `json:"pole"`
	Throws []string `json:"throws"`
	Dims   *bool    `json:"dims,omitzero"`
}

// Input is a terminal that a smart device listens at: On is "pulse" or "edge";
// with To the device watches a dry contact between the two terminals.
type Input struct {
	Terminal string `json:"terminal"`
	On       string `json:"on"`
	Toggles  string `json:"toggles"`
	To       string `json:"to,omitzero"`
}

// Button is what a press on a smart device does. From is the other side of a plain contact: the press joins the two, so that
// either gives the pulse where the other stands on line.
type Button struct {
	Toggles string `json:"toggles,omitzero"`
	Pulse   string `json:"pulse,omitzero"`
	From    string `json:"from,omitzero"`
	Sends   *bool  `json:"sends,omitzero"`
}

// Send reports whether a press is sent along the device's links.
func (b *Button) Send() bool { return b != nil && b.Sends != nil && *b.Sends }

// Link joins two smart devices without a wire. Via is "radio", "hub", "cloud"
// or "bus".
type Link struct {
	From string `json:"from"`
	To   string `json:"to"`
	Via  string `json:"via"`
}

// Observation is one test and, once it was made, its reading: a word, or volts
// as a number. Reading is nil for a test still to make and [Unclear] where the
// person could not tell. Light is the lamp looked at; "" means the only one. Tied are ends that a connector holds together while the
// test lasts. Time is when it was read, as RFC 3339 writes it, or "".
type Observation struct {
	Power      string   `json:"power"`
	Lifted     []Ref    `json:"lifted,omitzero"`
	Tied       [][]End  `json:"tied,omitzero"`
	Flipped    []string `json:"flipped,omitzero"`
	LampsOut   []string `json:"lampsOut,omitzero"`
	Instrument string   `json:"instrument"`
	Light      string   `json:"light,omitzero"`
	At         []End    `json:"at,omitzero"`
	Reading    any      `json:"reading,omitempty"`
	Time       string   `json:"time,omitzero"`
}

// Instruments of a test. A two-pole tester loads what it measures, so that a
// floating conductor reads nothing; a multimeter does not, and shows ghost volts.
const (
	NonContact = "non-contact"
	TwoPole    = "two-pole"
	Multimeter = "multimeter"
	Continuity = "continuity"
	LampLook   = "lamp"
)

// Unclear is the reading of a test that told the person nothing; Trips of one with the
// power on in which the breaker tripped.
const (
	Unclear = "unclear"
	Trips   = "trips"
)

// Accepted is a conductor that a person takes for what it most likely is, without a
// reading: As is its role, Odds how likely that was. It stays assumed.
type Accepted struct {
	End  End      `json:"end"`
	As   string   `json:"as"`
	Odds *float64 `json:"odds,omitzero"`
}

// Ways of testing that a person may not be able to use.
const (
	CannotLampOut      = "lamp-out"      // the lamp cannot come out of its socket
	CannotLadder       = "ladder"        // nobody can get up to the light
	CannotSecondPerson = "second-person" // no helper, and no lead that is long enough
	CannotLive         = "live"          // no work with the power on
)

// When a reading is asked that would show it if one of those made was false, before what was
// traced counts as known. Empty means where it takes no walk.
const (
	ConfirmAlways = "always"
	ConfirmFree   = "free" // where it takes no walk
	ConfirmNever  = "never"
)

// MaxControls is the largest number of places of one light that a document may tell of.
const MaxControls = 10

// Report is what the customer says of the light. Device is a switch, or "" where
// all of them are meant.
type Report struct {
	Says   string `json:"says"`
	Device string `json:"device,omitzero"`
}

// What a customer may say.
const (
	SaysWorks       = "works"        // it switches the light, however the others stand
	SaysNothing     = "does-nothing" // the switch does nothing
	SaysSometimes   = "sometimes"    // it works while the others stand one way only
	SaysOthersDie   = "others-die"   // other lights or outlets die with the same breaker
	SaysNothingElse = "nothing-else" // nothing else dies with the breaker
	SaysNeverLights = "never-lights" // the light never comes on, however the switches stand
	SaysTrips       = "breaker-trips"
)

// Gate is one thing that a person confirmed before going on: who, when, where.
// Box is "" for what concerns the whole circuit. After counts the observations that
// stood in the record by then.
type Gate struct {
	Gate  string `json:"gate"`
	Box   string `json:"box,omitzero"`
	After int    `json:"after,omitzero"`
	Time  string `json:"time,omitzero"`
	By    string `json:"by,omitzero"`
}

// Gates of tracing.
const (
	GateBreakerOff = "breaker-off" // off, locked, labelled
	GateProvedDead = "proved-dead" // tester proved, every conductor of the box tested, tester proved again
	GatePowerOn    = "power-on"    // bare ends capped, nobody near, live work accepted
	GateWasOn      = "was-on"      // nobody passed it: the breaker was on, and the reading that told so was taken back
)

// Evidence says how a fact of the record is known. Of is a cable (where it ends), a core end (which core it
// is), a device (where it hangs) or a box that was not seen. By are the readings that show a measured fact,
// their places among the observations counted from 1.
type Evidence struct {
	Of  string `json:"of"`
	How string `json:"how"`
	By  []int  `json:"by,omitzero"`
}

// How a fact is known.
const (
	Seen       = "seen"     // it was there to be seen in an opened box
	Measured   = "measured" // readings leave nothing else
	AcceptedAs = "accepted" // a person took it for what it most likely is
	Assumed    = "assumed"  // the likeliest of what the readings leave
)

// Box returns the box with the id, or nil.
func (c *Circuit) Box(id string) *Box { return find(c.Boxes, func(b *Box) bool { return b.ID == id }) }

// Cable returns the cable with the id, or nil.
func (c *Circuit) Cable(id string) *Cable {
	return find(c.Cables, func(k *Cable) bool { return k.ID == id })
}

// Device returns the device with the id, or nil.
func (c *Circuit) Device(id string) *Device {
	return find(c.Devices, func(d *Device) bool { return d.ID == id })
}

func find[T any](list []T, is func(*T) bool) *T {
	for i := range list {
		if is(&list[i]) {
			return &list[i]
		}
	}
	return nil
}

// JoinOf returns the index of the join in the box that holds ref, or -1: the
// end is then capped on its own.
func (c *Circuit) JoinOf(box string, ref Ref) int {
	return slices.IndexFunc(c.Joins, func(j Join) bool { return j.Box == box && slices.Contains(j.Of, ref) })
}

// FreshID is the first of prefix1, prefix2, … that names nothing in the circuit and nothing that
// taken knows of, if that is not nil.
func (c *Circuit) FreshID(prefix string, taken func(id string) bool) string {
	for i := 1; ; i++ {
		id := fmt.Sprintf("%s%d", prefix, i)
		if c.Box(id) == nil && c.Cable(id) == nil && c.Device(id) == nil && (taken == nil || !taken(id)) {
			return id
		}
	}
}

// EndsIn lists every core end in the box, in the order of cables and cores.
func (c *Circuit) EndsIn(box string) []Ref {
	var out []Ref
	for _, k := range c.Cables {
		if k.In(box) {
			for _, core := range k.Cores {
				out = append(out, Ref{k.ID, core})
			}
		}
	}
	return out
}

// MarkOn returns what the end is marked as, or "" where it carries no mark.
func (c *Circuit) MarkOn(e End) string {
	for _, m := range c.Marks {
		if m.End == e {
			return m.As
		}
	}
	return ""
}
