package retrofit

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
)

// Strategies: the ways of making a light smart that are tried on every circuit.
const (
	SensingSwitch   = "sensing-3way"          // one changeover that senses the lamp; the others stay
	SensingBoth     = "sensing-both"          // one at either end of the chain
	MainContact     = "main-contact"          // the old switch becomes a contact for the main
	MainAux         = "main-aux"              // wired auxiliaries on a signal core
	MainPush        = "main-push"             // plain push switches on a signal core
	NoNeutralAux    = "no-neutral-aux"        // power through the lamp, wired auxiliaries
	NoNeutralRemote = "no-neutral-remote"     // power through the lamp, battery remotes
	MainRemote      = "main-remote"           // battery remotes over the old boxes
	AddedRemote     = "added-remote"          // a second place where there never was one
	OneSmart        = "one-smart"             // the only switch of a light
	Paired          = "paired-switches"       // two full devices, one of them only powered
	PoweredRemote   = "powered-remote"        // remotes that live on line; the load by-passes them
	PoweredJoined   = "powered-remote-joined" // the same, with the load joined in their boxes
	Messages        = "message-switches"      // a powered switch at every place; messages between
	Selectors       = "selector-dimmers"      // main and secondaries by a selector
	ModuleSwitched  = "module-switched"       // the old chain becomes the input of a module
	ModuleDry       = "module-dry"            // the same, freed from mains
	ModuleBare      = "module-no-neutral"     // the same, power through the lamp
	ModulePulse     = "module-pulse"          // in the place of an impulse relay
	ModuleFour      = "module-four"           // several lights on one module
	ChangeoverRelay = "changeover-relay"      // a changeover with a controller, wherever the travelers reach
	CentralModule   = "central-module"        // relays near the lamps, buttons on data cable
	SmartLamps      = "smart-lamps"           // the lamps themselves
	MultiGang       = "multi-gang"            // several lights on the gangs of one case
)

// Strategies lists them all, in the order in which they are tried.
var Strategies = []string{
	SensingSwitch, SensingBoth, MainContact, MainAux, MainPush, NoNeutralAux, NoNeutralRemote, MainRemote, AddedRemote, OneSmart, Paired, PoweredRemote, PoweredJoined,
	Messages, Selectors, ModuleSwitched, ModuleDry, ModuleBare, ModulePulse, ModuleFour, ChangeoverRelay, CentralModule, SmartLamps, MultiGang,
}

// about says of each strategy in a sentence or two what it is.
var about = map[string]string{
	SensingBoth:     "A sensing smart switch at each end of the chain: either tells its hub by itself what is done there. One of them is enough for the light.",
	SensingSwitch:   "One sensing smart switch takes the place of one outer switch. The other switches stay as they are and go on working.",
	MainContact:     "A smart main carries the lamp; the old switch at the other place stays, rewired as a contact that the main listens to. More work at the second box, no second device.",
	MainAux:         "A smart main carries the lamp; a wired auxiliary at each other place signals it over one core. Dims, and is consistent, from every place.",
	MainPush:        "A smart main carries the lamp; a plain push switch at each other place pulses its signal core. Cheap, nothing to charge or pair.",
	NoNeutralAux:    "A dimmer that takes its power through the lamp, with wired auxiliaries. For boxes without a {neutral}; needs a minimum load.",
	NoNeutralRemote: "A dimmer that takes its power through the lamp, with battery remotes. For boxes without a {neutral}; needs a minimum load.",
	MainRemote:      "A smart main carries the lamp; a battery remote covers each other place. The old switches there go, and what they joined is joined through or capped.",
	AddedRemote:     "The only switch becomes a smart main, and a battery remote makes a second place with no new cable.",
	OneSmart:        "The only switch becomes a smart one.",
	Paired:          "A full smart device at every place: one carries the lamp, the others are only powered, their own relays disabled, and speak to it.",
	PoweredRemote:   "A smart main carries the lamp; at each other place a powered remote lives on {line} alone and switches nothing. The {load} by-passes its box.",
	PoweredJoined:   "The same, with the {load} joined on a screw of the remote: electrically one, for those who want to see the {load} at the far switch.",
	Messages:        "A powered switch at every place; only one is wired to the lamp, the others send messages. The freed core is capped at both ends.",
	Selectors:       "The same dimmer at every place, set by a selector on its back: main where the {load} is, secondary everywhere else.",
	ModuleSwitched:  "A relay module carries the lamp; the whole old chain of switches stays and becomes its switched input.",
	ModuleDry:       "A relay module carries the lamp; the old switches stay, are freed from mains and become a dry contact for it.",
	ModuleBare:      "A relay module without {neutral} behind a switch, powered through the lamp; the old chain becomes its input.",
	ModulePulse:     "A module takes the place of the impulse relay. The push-buttons and their cables stay as they are, and step it as they stepped the relay.",
	ModuleFour:      "One module with several channels where the loads arrive; each old chain becomes the input of its channel.",
	ChangeoverRelay: "A changeover relay with a controller takes the place of one outer switch, mounted anywhere the {traveler}s reach: {line} to one {common}, {load} to the other.",
	CentralModule:   "A relay module near the lamp, and extra-low-voltage buttons on data cable of their own. A button is re-assigned without touching a wire.",
	MultiGang:       "Powered switches that come several in one case: a case takes the place of the switches of one box, a gang for each light.",
	SmartLamps:      "The lamps become the devices and stay powered; the old switches go, and remotes take their places.",
}

// familyOf is the number of the family of a strategy; docs/ideas/retrofit.md says what each is.
var familyOf = map[string]string{
	SensingSwitch: "S1", SensingBoth: "S1", MainContact: "S2", MainAux: "S3", MainPush: "S8", NoNeutralAux: "S4", NoNeutralRemote: "S4", MainRemote: "S5", AddedRemote: "S5", OneSmart: "S5",
	Paired: "S6", PoweredRemote: "S7", PoweredJoined: "S7", Messages: "S11", Selectors: "S14", ModuleSwitched: "S9", ModuleDry: "S9", ModuleBare: "S9", ModulePulse: "S9", ModuleFour: "S9",
	ChangeoverRelay: "S10", CentralModule: "S12", SmartLamps: "S13", MultiGang: "S11",
}

// kit is the devices of one option: the main part, and what stands at the other places,
// where that is a device.
type kit struct {
	main      device.Device
	companion *device.Device
}

func (k kit) id() string {
	if k.companion == nil {
		return k.main.ID
	}
	return k.main.ID + "+" + k.companion.ID
}

// dims reports whether something in a kit changes the level of the lamp.
func (k kit) dims() bool {
	return k.main.Dims || k.companion != nil && k.companion.Kind == device.Sensing && k.companion.Dims
}

// signature tells kits apart that ask different things of the walls.
func (k kit) signature() string {
	if k.companion == nil {
		return k.main.Signature()
	}
	return k.main.Signature() + " / " + k.companion.Signature()
}

// proposal is one way to make a group smart, before anyone knows whether it fits. Its kits
// are wired alike.
type proposal struct {
	strategy string
	id       string
	title    string
	kits     []kit
	named    string // the kit that somebody asked for, if any
	main     string // the control that goes in favour of the main part, or "" where none does
	require  func(k kit) (*requirement, []Reason)
	never    *Reason // why it is not tried at all
	first    *Reason // what an electrician would say first where it does not fit
}

// proposals lists all that is to be tried for a group.
func (p *planner) proposals(g group) []proposal {
	var out []proposal
	out = append(out, p.sensing(g)...)
	out = append(out, p.sensingBoth(g)...)
	out = append(out, p.companions(g)...)
	out = append(out, p.contacts(g)...)
	out = append(out, p.modules(g)...)
	out = append(out, p.pulseModules(g)...)
	out = append(out, p.changeovers(g)...)
	out = append(out, p.centrals(g)...)
	out = append(out, p.lamps(g)...)
	return out
}

// bySignature groups kits that are wired alike, in their order.
func bySignature(kits []kit) [][]kit {
	var out [][]kit
	at := map[string]int{}
	for _, k := range kits {
		s := k.signature()
		if i, ok := at[s]; ok {
			out[i] = append(out[i], k)
			continue
		}
		at[s] = len(out)
		out = append(out, []kit{k})
	}
	return out
}

// ofKind lists the devices of a kind as kits without companions, those that are wired alike
// together. A nil wanted wants all of them.
func (p *planner) ofKind(kind string, wanted func(device.Device) bool) [][]kit {
	var kits []kit
	for _, d := range p.library.Of(kind) {
		if wanted == nil || wanted(d) {
			kits = append(kits, kit{main: d})
		}
	}
	return bySignature(kits)
}

// optionID is the strategy and the place, and for all but the strategy's first way of
// wiring the device that asks for another.
func optionID(strategy, place string, n int, k kit) string {
	id := strategy + "-" + place
	if n > 0 {
		id += "-" + k.main.ID
		if k.companion != nil && k.companion.Kind != device.Secondary {
			id += "-" + k.companion.ID
		}
	}
	return id
}

// boxOf names the place of a switch, and the switch too where its box holds several.
func (p *planner) boxOf(dev string) string {
	box := p.doc.Device(dev).Box
	for _, d := range p.doc.Devices {
		if d.ID != dev && d.Box == box && d.Mechanical() {
			return p.say.Box(box) + " (" + strings.TrimPrefix(p.say.Here(dev), "the ") + ")"
		}
	}
	return p.say.Box(box)
}

func (p *planner) others(g group, main, one, many string) string {
	var names []string
	for _, c := range p.asRecorded(g.controls) {
		if c != main {
			names = append(names, p.boxOf(c))
		}
	}
	names = slices.Compact(names)
	switch len(names) {
	case 0:
		return ""
	case 1:
		return "; " + names[0] + " " + one
	}
	return "; " + strings.Join(names, ", ") + " " + many
}

// asRecorded lists devices in the order of the record, in which a person knows them.
func (p *planner) asRecorded(devices []string) []string {
	place := func(id string) int {
		return slices.IndexFunc(p.recorded.Doc.Devices, func(d circuit.Device) bool { return d.ID == id })
	}
	return slices.SortedStableFunc(slices.Values(devices), func(a, b string) int { return cmp.Compare(place(a), place(b)) })
}

// outer reports whether a control is a three-way, or wired as one: at an end of a chain.
func (p *planner) outer(id string) bool {
	t := p.doc.Device(id).Type
	return t == circuit.TypeThreeWay || t == circuit.TypeThreeWayDimmer || p.asThreeWay[id] != nil
}

// wiredAsThreeWay says of each four-way body that is wired as a three-way which of its screws
// stands for which: beside the empty screw is the one that either of the other two is joined to.
func wiredAsThreeWay(c *circuit.Circuit, report *inspect.Report) map[string]map[string]string {
	out := map[string]map[string]string{}
	for _, f := range report.Findings {
		if f.Code != inspect.FourWayAsThreeWay {
			continue
		}
		dev := f.At[0].Owner
		for _, t := range [][4]string{{"a1", "a2", "b1", "b2"}, {"a2", "a1", "b1", "b2"}, {"b1", "b2", "a1", "a2"}, {"b2", "b1", "a1", "a2"}} {
			if j := c.JoinOf(c.Device(dev).Box, circuit.Ref{Owner: dev, Part: t[0]}); j < 0 || len(c.Joins[j].Of) < 2 {
				out[dev] = map[string]string{"common": t[1], "t1": t[2], "t2": t[3]}
			}
		}
	}
	return out
}

// screw is a terminal of a three-way, or the screw that stands for it.
func (p *planner) screw(dev, terminal string) circuit.Ref {
	if t, ok := p.asThreeWay[dev][terminal]; ok {
		terminal = t
	}
	return circuit.Ref{Owner: dev, Part: terminal}
}

func (p *planner) isCommon(dev, terminal string) bool { return p.screw(dev, "common").Part == terminal }

func (p *planner) classOf(dev, terminal string) int {
	return p.net.Class(circuit.End{Ref: p.screw(dev, terminal)})
}

// sensing proposes one sensing switch in place of each outer switch.
func (p *planner) sensing(g group) []proposal {
	var out []proposal
	if len(g.controls) < 2 {
		return nil
	}
	for n, wired := range p.ofKind(device.Sensing, func(d device.Device) bool { return !p.isSecond(d) }) {
		for _, main := range g.controls {
			out = append(out, proposal{
				strategy: SensingSwitch, id: optionID(SensingSwitch, p.doc.Device(main).Box, n, wired[0]), kits: wired, main: main,
				title: fmt.Sprintf("Sensing smart switch (%s) in %s%s", p.endWords(wired[0].main.End), p.boxOf(main), p.others(g, main, "stays", "stay")),
				require: func(k kit) (*requirement, []Reason) {
					end := k.main.End
					if end == "either" {
						end = "line"
						if ess, _ := p.find(g); p.classOf(main, "common") == ess.load {
							end = "load"
						}
					}
					return p.senseAt(g, main, end, k.main, p.doc.Device(main).Box)
				},
			})
		}
	}
	return out
}

func (p *planner) endWords(end string) string {
	if end == "either" {
		return "either end"
	}
	return p.say.Word(end) + " end"
}

// cut is a chain of which one outer switch goes: what is known of line and load, what is
// asked of the walls so far, and the switch at the chain's other end.
type cut struct {
	ess     essentials
	require *requirement
	far     string
}

// cutOff takes an outer switch off its chain, or says why that cannot be.
func (p *planner) cutOff(g group, main string) (*cut, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, reasons
	}
	if !p.outer(main) {
		return nil, []Reason{p.fourWayStays(main)}
	}
	for _, c := range slices.Backward(g.controls) {
		if c != main && p.outer(c) {
			return &cut{ess, p.inherit([]string{main}), c}, nil
		}
	}
	return nil, []Reason{*because("no-far-end", "There is no "+p.say.Word("three-way")+" at the other end of the chain.", p.ends(main))}
}

// travelerOf is the traveler that a conductor is from now on: what was line or load on a
// pair becomes one of its own.
func (c *cut) travelerOf(class int) *net {
	switch class { // below nought, and not newNet's
	case c.ess.line:
		class = -2
	case c.ess.load:
		class = -3
	}
	return c.require.netOf(class, electric.Traveler)
}

// turn frees the pairs of the switches that stay of line and load, which stand on them
// where a chain is strapped common to common.
func (c *cut) turn(p *planner, g group, main string) {
	for _, dev := range g.controls {
		if dev == main {
			continue
		}
		for _, t := range p.doc.Terminals(*p.doc.Device(dev)) {
			if class := p.classOf(dev, t); !p.isCommon(dev, t) && (class == c.ess.line || class == c.ess.load) {
				c.require.move(p, circuit.Ref{Owner: dev, Part: t}, c.travelerOf(class))
			}
		}
	}
}

// senseAt replaces one outer switch by a changeover whose pole stands on line or load; the
// common at the other end of the chain goes to the other of the two: as found, or by
// turning the chain round. Two switches that are strapped common to common get two
// travelers out of the three conductors. The device stands in a box, which may be
// another than the switch's.
func (p *planner) senseAt(g group, main, end string, kind device.Device, box string) (*requirement, []Reason) {
	c, reasons := p.cutOff(g, main)
	if reasons != nil {
		return nil, reasons
	}
	ess, d, far := c.ess, c.require, c.far
	m := ""
	if box == p.doc.Device(main).Box {
		m = d.replace(p, "m", main, kind)
	} else {
		m = d.stand(p, "m", box, "", kind)
	}
	nets := d.mains(ess)
	nets["pole"] = nets[end]
	for _, c := range g.controls {
		if c != main {
			d.keepAt = append(d.keepAt, p.doc.Device(c).Box)
		}
	}
	if len(g.controls) == 2 {
		// The two travelers are whatever joins to the far switch's pair.
		crossed := p.classOf(main, "t1") == p.classOf(far, "t2") || p.classOf(main, "t2") == p.classOf(far, "t1")
		for i, t := range []string{"t1", "t2"} {
			ref := p.screw(far, t)
			c := p.classOf(far, t)
			if c == ess.line || c == ess.load {
				c = -1 - i // a conductor of its own from now on
			}
			x := d.netOf(c, electric.Traveler)
			d.move(p, ref, x)
			if own := t; crossed { // keep each core under the screw where it was
				own = []string{"t2", "t1"}[i]
				nets[own] = x
			} else {
				nets[own] = x
			}
		}
	} else {
		c.turn(p, g, main)
		for _, t := range []string{"t1", "t2"} {
			nets[t] = c.travelerOf(p.classOf(main, t))
		}
	}
	other := map[string]string{"line": "load", "load": "line"}[end]
	d.move(p, p.screw(far, "common"), nets[other])
	d.wire(m, nets)
	return d, nil
}

func (p *planner) fourWayStays(dev string) Reason {
	return *because("four-way-stays", upper(p.say.Device(dev))+" passes two conductors on; only a "+p.say.Word("three-way")+" at an end of the chain can be replaced by this device."+p.outerInstead(dev), p.ends(dev))
}

// outerInstead names the ends of the chain at which the device could stand.
func (p *planner) outerInstead(dev string) string {
	var names []string
	for _, g := range p.groups() {
		if slices.Contains(g.controls, dev) {
			for _, c := range g.controls {
				if p.outer(c) {
					names = append(names, p.boxOf(c))
				}
			}
		}
	}
	if len(names) == 0 {
		return ""
	}
	return " It could stand in " + strings.Join(names, " or ") + "."
}

// changeovers proposes a changeover relay with a controller for each outer switch, in its
// box and in each box without switches.
func (p *planner) changeovers(g group) []proposal {
	var out []proposal
	if len(g.controls) < 2 {
		return nil
	}
	for n, wired := range p.ofKind(device.Changeover, nil) {
		for _, main := range g.controls {
			if !p.outer(main) {
				continue
			}
			for _, b := range p.doc.Boxes {
				if b.ID != p.doc.Device(main).Box && b.Kind != circuit.Fixture && b.Kind != circuit.Junction {
					continue
				}
				end := "line"
				if ess, _ := p.find(g); p.classOf(main, "common") == ess.load {
					end = "load"
				}
				place := p.doc.Device(main).Box
				if b.ID != place {
					place += "-at-" + b.ID
				}
				out = append(out, proposal{
					strategy: ChangeoverRelay, id: optionID(ChangeoverRelay, place, n, wired[0]), kits: wired, main: main,
					title:   fmt.Sprintf("Changeover relay in %s in place of the switch in %s%s", p.say.Box(b.ID), p.boxOf(main), p.others(g, main, "stays", "stay")),
					require: func(k kit) (*requirement, []Reason) { return p.senseAt(g, main, end, k.main, b.ID) },
				})
			}
		}
	}
	return out
}

func upper(s string) string { return names.Capitalize(s) }
