// Package device holds generic smart devices: an embedded catalogue of our own, in no
// maker's likeness, and the models that people add to it.
//
// A device's behaviour is a [circuit.Model], so that whoever reads a planned document can
// simulate it without this catalogue. What each terminal stands on (line, load, a
// signal) is said beside it, in Stands, so that package retrofit can plan with a device
// it has never seen. Limits, depth, price and the rest are facts for choosing.
//
// A file of devices has the format [Format] and is checked against [Schema];
// [Read] then tries each device on a bench ([Try]) and refuses what does not behave.
package device

import (
	_ "embed"
	"maps"
	"slices"
	"sync"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// Format is the value of the format field of a file of devices.
const Format = "ambivia-devices/1"

// Kinds of device: the part that one can play.
const (
	Sensing     = "sensing"      // a changeover in place of one three-way; the others stay
	Main        = "main"         // carries the lamp; listens to companions
	Auxiliary   = "auxiliary"    // a wired key on a signal core
	Push        = "push"         // a plain push switch on a signal core
	Remote      = "remote"       // sends without a wire, and switches nothing
	Secondary   = "secondary"    // a full device that is only powered, and sends
	Module      = "module"       // a relay whose input is the old chain of switches
	MultiModule = "multi-module" // several of them in one case
	Changeover  = "changeover"   // a changeover relay anywhere the travelers reach
	Central     = "central"      // a relay near the lamps with low-voltage buttons
	SmartLamp   = "smart-lamp"   // the lamp itself
)

// Named is an id with the name that people read.
type Named struct {
	ID   string `json:"id"`
	Text string `json:"text"`
}

// Kinds lists the kinds of device in the order in which the catalogue is read.
var Kinds = []Named{
	{Sensing, "Sensing switches"}, {Main, "Mains that carry the lamp"}, {Auxiliary, "Wired auxiliaries"}, {Push, "Push switches"},
	{Remote, "Remotes and buttons"}, {Secondary, "Powered seconds"}, {Module, "Modules"}, {MultiModule, "Modules with several channels"},
	{Changeover, "Changeover relays"}, {Central, "Central relays"}, {SmartLamp, "Smart lamps"},
}

// Radios lists the kinds of radio that a device may speak.
var Radios = []Named{{"mesh", "Mesh"}, {"wifi", "Wi-Fi"}, {"bluetooth", "Bluetooth"}}

// OldSwitch stands in a main's companions for the mechanical switch that stays as a
// contact.
const OldSwitch = "old-switch"

// Device is one generic smart device. Watts are watts, depths and stripping lengths
// millimetres, volumes cubic centimetres; the price is in a neutral currency unit.
type Device struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Kind  string `json:"kind"`
	About string `json:"about"`
	Standing
	Face
	Companionship
	Casing
	Ratings
	Size
	Network
	Price float64       `json:"price"`
	Model circuit.Model `json:"model"`
}

// Standing is how a device is wired, and where.
type Standing struct {
	// Stands says for each terminal what it stands on: "line", "load", "neutral", "ground",
	// "signal" (pulses), "contact" and "contact-return" (an old switch as a contact),
	// "switched" (what the old chain switches), "dry" and "dry-return" (the old chain,
	// freed from mains), "t1" and "t2" (travelers), "pole" (line or load, by the end of
	// the chain), "lamp" (the lamp itself), "spare" (capped).
	Stands map[string]string `json:"stands"`
	// End is where a sensing device may stand: "line", "load" or "either" end.
	End string `json:"end,omitempty"`
	// Mount is where a module may be: "behind" a switch, "at-lamp", "in-lamp", on a "rail" of the panel.
	Mount []string `json:"mount,omitempty"`
	// ThroughLoad: it takes its power through the lamp. Surface: it needs no box of its own. LowVoltage: it must be kept apart
	// from mains. PerLamp: one for each lamp.
	ThroughLoad bool `json:"throughLoad,omitempty"`
	Surface     bool `json:"surface,omitempty"`
	LowVoltage  bool `json:"lowVoltage,omitempty"`
	PerLamp     bool `json:"perLamp,omitempty"`
	// Screws are the colours of its screws or leads, as they are in the practice ScrewsOf, or in
	// any where that is "".
	Screws   map[string]string `json:"screws,omitempty"`
	ScrewsOf string            `json:"screwsOf,omitempty"`
}

// Face is what a person can do at a device.
type Face struct {
	// Dims: the device changes the level of the lamp. DimsFromCompanions: so do its
	// companions that dim. Scenes: multiple taps. Held: it tells its hub that it is held, and by which half. UpIsOn: its face
	// has an on and an off.
	Dims               bool `json:"dims,omitempty"`
	DimsFromCompanions bool `json:"dimsFromCompanions,omitempty"`
	Scenes             bool `json:"scenes,omitempty"`
	Held               bool `json:"held,omitempty"`
	UpIsOn             bool `json:"upIsOn,omitempty"`
}

// Companionship is with which others a device works, and how it is set for that.
type Companionship struct {
	Companions []string `json:"companions,omitempty"`
	// Link is what a companion without a signal core speaks over: "radio", "hub", "cloud"
	// or "bus".
	Link     string     `json:"link,omitempty"`
	Selector []Selector `json:"selector,omitempty"`
	SetTo    []string   `json:"setTo,omitempty"`
}

// Casing is how a device is made and comes.
type Casing struct {
	// Gangs is up to how many of it come in one case on one supply, 0 where it is made singly;
	// GangPrice is what each gang after the first adds to the price.
	Gangs     int      `json:"gangs,omitempty"`
	GangPrice float64  `json:"gangPrice,omitempty"`
	Colours   []string `json:"colours,omitempty"`
}

// Ratings are what a device carries, and takes for itself.
type Ratings struct {
	// Limits are the most watts of each kind of load; a kind that is absent is refused.
	Limits Limits `json:"limits,omitempty"`
	// FinsOff are the limits that change when fins are broken off on one side or on both.
	FinsOff      map[string]Limits `json:"finsOff,omitempty"`
	MinimumWatts float64           `json:"minimumWatts,omitempty"`
	Bypass       bool              `json:"bypass,omitempty"` // a bypass at the lamp helps below the minimum
	StandbyWatts float64           `json:"standbyWatts"`
}

// Size is the room that a device takes in a box, and how far its wires are stripped.
type Size struct {
	DepthMm   float64 `json:"depthMm"`
	VolumeCm3 float64 `json:"volumeCm3"`
	StripMm   float64 `json:"stripMm"`
}

// Network is what a device needs to be heard.
type Network struct {
	Radio         []string `json:"radio"`
	Hub           string   `json:"hub"`   // "none", "optional" or "needed"
	Local         bool     `json:"local"` // works without the internet
	BatteryMonths int      `json:"batteryMonths,omitempty"`
}

// Selector is a switch on a device's back.
type Selector struct {
	Name     string   `json:"name"`
	Settings []string `json:"settings"`
}

// Limits are the most watts by kind of load: led, incandescent (halogen with it),
// magnetic, electronic, motor.
type Limits map[string]float64

// Of returns the most watts of a kind of load as circuit files name them; ok is false
// where the device takes none of it. Halogen counts as incandescent, fluorescent as
// electronic.
func (l Limits) Of(load string) (watts float64, ok bool) {
	switch load {
	case "halogen":
		load = "incandescent"
	case "fluorescent":
		load = "electronic"
	}
	watts, ok = l[load]
	return watts, ok
}

// Share is how much of these limits the watts of several kinds use up together. More than 1 is too much: two kinds at two
// thirds of their limits overload the device. Refused is the first kind that the device does not take, or "". Watts of an
// unrecorded kind are left out.
func (l Limits) Share(watts map[string]float64) (share float64, refused string) {
	for _, kind := range slices.Sorted(maps.Keys(watts)) {
		if kind == "" {
			continue
		}
		most, takes := l.Of(kind)
		if !takes {
			return 0, kind
		}
		share += watts[kind] / most
	}
	return share, ""
}

// NeedsBypass reports whether a load is so small that the device lives through it only with a bypass, and takes one.
func (d Device) NeedsBypass(watts float64) bool { return d.Bypass && watts < d.MinimumWatts }

// WithFins returns the limits with the fins of so many sides (0, 1 or 2) broken off.
func (d Device) WithFins(sides int) Limits {
	out := Limits{}
	for k, w := range d.Limits {
		out[k] = w
	}
	for k, w := range d.FinsOff[[]string{"", "one", "both"}[sides]] {
		out[k] = w
	}
	return out
}

// At returns the terminal that stands on something, or "".
func (d Device) At(net string) string {
	for _, t := range d.Model.Terminals {
		if d.Stands[t] == net {
			return t
		}
	}
	return ""
}

// Lead is the colour of a screw or lead where a practice sells the device; "" where no custom
// says it.
func (d Device) Lead(terminal string, p practice.Practice) string {
	if d.ScrewsOf == "" || d.ScrewsOf == p.ID {
		if colour := d.Screws[terminal]; colour != "" {
			return colour
		}
	}
	return p.Lead(d.Stands[terminal])
}

// JoinsNetwork reports whether the device is joined to the radio network of the house or its
// hub before it can do its part; one that speaks to its main directly is paired with that alone.
func (d Device) JoinsNetwork() bool { return len(d.Radio) > 0 && d.Link != "radio" }

// Signature tells apart devices that ask different things of the walls: two devices of
// one signature are wired alike.
func (d Device) Signature() string {
	out := d.Kind + d.End + d.Link
	for _, t := range d.Model.Terminals {
		out += " " + t + "=" + d.Stands[t]
	}
	if d.ThroughLoad {
		out += " through"
	}
	return out
}

//go:embed catalogue.json
var data []byte

var catalogue = sync.OnceValue(func() []Device {
	list, err := Read(data)
	if err != nil {
		panic("device: the embedded catalogue is unusable: " + err.Error())
	}
	return list
})

// Catalogue returns the embedded devices in their order. The slice is shared: callers
// must not change it.
func Catalogue() []Device { return catalogue() }

// Library is the devices that planning draws on.
type Library struct{ devices []Device }

// NewLibrary is the catalogue with a person's own devices behind it. One of their own that
// has the id of a catalogue device stands in its stead.
func NewLibrary(own []Device) *Library {
	l := &Library{}
	mine := map[string]bool{}
	for _, d := range own {
		mine[d.ID] = true
	}
	for _, d := range Catalogue() {
		if !mine[d.ID] {
			l.devices = append(l.devices, d)
		}
	}
	l.devices = append(l.devices, own...)
	return l
}

// Get returns the device with the id.
func (l *Library) Get(id string) (Device, bool) {
	for _, d := range l.devices {
		if d.ID == id {
			return d, true
		}
	}
	return Device{}, false
}

// Only is the library with no other devices than those with some ids.
func (l *Library) Only(ids []string) *Library {
	out := &Library{}
	for _, d := range l.devices {
		if slices.Contains(ids, d.ID) {
			out.devices = append(out.devices, d)
		}
	}
	return out
}

// Of lists the devices of a kind.
func (l *Library) Of(kind string) []Device {
	var out []Device
	for _, d := range l.devices {
		if d.Kind == kind {
			out = append(out, d)
		}
	}
	return out
}

// Colours lists the colours in which faces of the library come, each once.
func (l *Library) Colours() []string {
	out := []string{}
	for _, d := range l.devices {
		for _, c := range d.Colours {
			if !slices.Contains(out, c) {
				out = append(out, c)
			}
		}
	}
	return out
}

// All lists every device.
func (l *Library) All() []Device { return l.devices }

// Quantities are the numbers of a model that a person enters, by their fields, with their units.
var Quantities = []struct{ Field, Text string }{
	{"price", "Price, in units"}, {"standbyWatts", "Standby, W"}, {"depthMm", "Depth, mm"}, {"volumeCm3", "Volume, cm³"},
	{"stripMm", "Stripping length, mm"}, {"minimumWatts", "Minimum load, W"},
}

// Abilities are what a model can do or not, by their fields.
var Abilities = []struct{ Field, Text string }{
	{"dims", "Dims"}, {"dimsFromCompanions", "Companions dim too"}, {"scenes", "Scenes by taps"}, {"held", "Tells when it is held"}, {"upIsOn", "Up is on"}, {"local", "Works without the internet"},
}

// LimitedLoads are the kinds of load for which a model names a limit of its own.
var LimitedLoads = []string{"led", "incandescent", "magnetic", "electronic", "motor"}
