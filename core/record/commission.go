package record

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"ambivia/core/calendar"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/names"
	"ambivia/core/retrofit"
)

// Trial is one line of the commissioning table: a place, tried on one path from one state of the light. Entry is that of
// the log which says how it went, 0 where nobody tried.
type Trial struct {
	Place  string `json:"place"` // the device
	Where  string `json:"where"`
	Path   string `json:"path"`
	From   string `json:"from"` // "lit" or "dark"
	Expect string `json:"expect"`
	Entry  int    `json:"entry,omitempty"`
}

// Paths by which a place is tried. A path that an outage names is the paddle while that is down.
const (
	Paddle   = "paddle"
	Remote   = "remote"
	Switch   = "switch" // an old one that stays
	App      = "app"
	Schedule = "schedule"
	Voice    = "voice"
	OtherHub = "other hub"
)

// Trials lists what is tried of an option: each place at its paddle from light and dark; each device that speaks with a
// network on the paths that lead over it, whether it has a face or not; and each place with the hub or the internet off, where that was promised or
// excluded. The log says which were.
func Trials(o *retrofit.Option, library *device.Library, log []fitting.Entry) []Trial {
	log = fitting.Counted(log)
	var out []Trial
	add := func(q retrofit.Place, path, from, expect string) {
		t := Trial{Place: q.Device, Where: q.Where, Path: path, From: from, Expect: expect}
		for _, e := range log {
			if e.Kind == fitting.Trial && e.Place == t.Place && e.Path == t.Path && e.From == t.From {
				t.Entry = e.Number
			}
		}
		out = append(out, t)
	}
	models, say := modelsOf(o, library), names.For(o.After)
	both := func(q retrofit.Place, path, more string) {
		add(q, path, "lit", "the light goes off"+more)
		add(q, path, "dark", "the light comes on"+more)
	}
	networked := func(q retrofit.Place, m device.Device) {
		if len(m.Radio) == 0 || m.Link != "" {
			return
		}
		for _, path := range []string{App, Schedule, Voice} {
			both(q, path, ", and the view follows")
		}
		if m.Hub != "none" {
			both(q, OtherHub, ", and the view follows")
		}
	}
	for _, q := range o.Places {
		m, smart := models[q.Device]
		switch {
		case smart && m.Link != "" && m.BatteryMonths > 0:
			both(q, Remote, "")
		case q.Kept:
			both(q, Switch, "")
		default:
			both(q, Paddle, "")
		}
		networked(q, m)
	}
	for _, x := range o.Devices { // a relay or a module has no face, and obeys the network as a place does
		if m, known := models[x.ID]; known && m.Model.Button == nil && m.Model.Remote != "" {
			networked(retrofit.Place{Device: x.ID, Box: x.Box, Where: say.Label(x.Box)}, m)
		}
	}
	for _, x := range o.Outages {
		if x.When != "hub" && x.When != "internet" {
			continue
		}
		for _, q := range o.Places {
			expect := "nothing: with " + strings.ToLower(x.Name) + " this place is lost"
			if slices.Contains(x.Works, q.Box) {
				expect = "the light comes on: this was promised"
			}
			add(q, x.When+" off", "dark", expect)
		}
	}
	return out
}

// modelsOf are the catalogue's devices of an option by the id that each has in the plan.
func modelsOf(o *retrofit.Option, library *device.Library) map[string]device.Device {
	out := map[string]device.Device{}
	for _, x := range o.Devices {
		if m, known := library.Get(x.Device); known {
			out[x.ID] = m
		}
	}
	return out
}

// Facts that other rooms ask for: when a battery was put in, and the lowest and the highest level that were tried.
const (
	batteryFact = "battery"
	lowestFact  = "lowest"
	highestFact = "highest"
)

// Fact is something to be noted of a device. Value is what the log says last, "" where it says nothing.
type Fact struct {
	ID    string `json:"id"`
	Label string `json:"label"`
	Hint  string `json:"hint,omitempty"`
	Date  bool   `json:"date,omitempty"` // a day, year-month-day
	Value string `json:"value,omitempty"`
	Entry int    `json:"entry,omitempty"`
}

// DeviceFacts is a device with all that is to be noted of it.
type DeviceFacts struct {
	Device string `json:"device"` // its id in the plan
	Name   string `json:"name"`
	Where  string `json:"where"`
	Facts  []Fact `json:"facts"`
}

// Facts lists what is to be noted of each device of an option, from its model: nothing is asked of a device that it
// cannot have.
func Facts(o *retrofit.Option, library *device.Library, log []fitting.Entry) []DeviceFacts {
	log, say := fitting.Counted(log), names.For(o.After)
	out := []DeviceFacts{}
	models := modelsOf(o, library)
	for _, x := range o.Devices {
		m, known := models[x.ID]
		if !known {
			continue
		}
		of := DeviceFacts{Device: x.ID, Name: x.Name, Where: x.Box}
		if b := o.After.Box(x.Box); b != nil {
			of.Where = say.Label(b.ID)
		}
		add := func(id, label, hint string) {
			f := Fact{ID: id, Label: label, Hint: hint, Date: id == batteryFact}
			for _, e := range log {
				if e.Kind == fitting.Device && e.Place == x.ID && e.Field == id {
					f.Value, f.Entry = e.Value, e.Number
				}
			}
			of.Facts = append(of.Facts, f)
		}
		if len(m.Model.Supply) > 0 {
			add("power-up", "Sign on power-up", say.Fill("what it shows when the {breaker} goes on"))
		}
		if len(m.Radio) > 0 || m.Link != "" {
			add("paired", "Paired", "at its place, by "+speaks(m)+"; a metal box, distance, or a phone on the wrong band are the usual traps")
			add("name", "Name", "as the view calls it")
			add("room", "Room", "")
			add("firmware", "Firmware", "")
		}
		add("serial", "Serial number", "")
		for i, s := range m.Selector {
			hint := strings.Join(s.Settings, " or ")
			if i < len(x.SetTo) {
				hint = "stands at " + x.SetTo[i]
			}
			add("selector "+s.Name, "Selector: "+s.Name, hint)
		}
		if d := o.After.Device(x.ID); d != nil && d.Local != nil && !*d.Local {
			add("relay", "Own relay disabled", "it only tells the other; its paddle moves nothing of its own")
		}
		if m.Dims {
			add("load", "Kind of lamp set", "")
			add(lowestFact, "Lowest level at which the lamps hold steady, %", "no flicker, and it starts from there")
			add(highestFact, "Highest level, %", "")
			add("fade", "Fade, seconds up / down", "")
		}
		if m.Link != "" {
			add("linked", "Linked with", "")
		}
		if m.BatteryMonths > 0 {
			add(batteryFact, "Battery put in", fmt.Sprintf("the day; it lasts about %d months", m.BatteryMonths))
		}
		out = append(out, of)
	}
	return out
}

func speaks(m device.Device) string {
	if len(m.Radio) > 0 {
		return strings.Join(m.Radio, " or ")
	}
	return m.Link
}

// Trouble is a fault that is often seen, with what to do.
type Trouble struct {
	ID   string   `json:"id"`
	Text string   `json:"text"`
	Do   []string `json:"do"`
}

// Troubles lists them in the words of a practice.
func Troubles(say names.Terms) []Trouble {
	list := []Trouble{
		{"view", "The light is off while the view says on", []string{"Press at the place: does the view follow? Then only a report was lost.", "Look which device carries the lamp: the view must be of that one.", "Renew the link; bring the hub nearer, or out of metal."}},
		{"slow", "A second place is slow", []string{"Time it: half a second and more is a rule in a hub or a cloud.", "Link it directly, or by a local rule."}},
		{"first", "The first press is ignored", []string{"A battery remote wakes on the first press: try another after a second.", "Two devices that tell each other: one thinks the light is on. Look at their links, one way only."}},
		{"glow", "The lamps glow when off", []string{"The device draws its power through the lamp: fit its bypass at the lamp.", "Measure the load against its least watts."}},
		{"flicker", "The lamps flicker", []string{"Set the kind of lamp.", "Raise the lowest level until they hold steady; note it.", "Lamps of one kind only, and such as may be dimmed."}},
		{"hum", "It hums", []string{"Lamp or device? Try the full level.", "Sum the watts against the limit; with fins off the limit is lower."}},
		{"trip", "The {breaker} trips", []string{"Off, and off it stays. Say in Prove what was seen: the steps find the mistake.", "A {neutral} of another {breaker} trips a protected one: look where the {neutral} comes from."}},
		{"neighbour", "A neighbour’s {receptacle} or light is dead", []string{"Turn the {breaker} off. A pair that passed through this box was parted: two wires stood on one screw.", "Look in the record as found what stood there, and join it again."}},
	}
	for i := range list {
		list[i].Text = names.Capitalize(say.Expand(list[i].Text))
		for k, text := range list[i].Do {
			list[i].Do[k] = names.Capitalize(say.Expand(text))
		}
	}
	return list
}

// Battery is when one is due.
type Battery struct {
	Device, Name, Where string
	In, Due             time.Time
}

// Batteries lists those whose date was noted, by the model's months.
func Batteries(o *retrofit.Option, library *device.Library, log []fitting.Entry) []Battery {
	var out []Battery
	models := modelsOf(o, library)
	for _, d := range Facts(o, library, log) {
		for _, f := range d.Facts {
			in, err := time.Parse(time.DateOnly, strings.TrimSpace(f.Value))
			if f.ID == batteryFact && err == nil {
				out = append(out, Battery{d.Device, d.Name, d.Where, in, in.AddDate(0, models[d.Device].BatteryMonths, 0)})
			}
		}
	}
	return out
}

// BatteryEvents are the days on which batteries are due, with a reminder a week before. Name is that of the circuit.
func BatteryEvents(name string, list []Battery) []calendar.Event {
	var out []calendar.Event
	for _, x := range list {
		out = append(out, calendar.Event{
			ID: fmt.Sprintf("battery-%s-%s", x.Device, x.Due.Format("20060102")), Summary: "Change the battery: " + x.Name + ", " + x.Where, At: x.Due,
			Day: &calendar.Day{Description: name + ". Put in on " + x.In.Format(time.DateOnly) + ".", Reminder: "Battery of " + x.Name, Before: 7},
		})
	}
	return out
}
