package retrofit

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// family is one way of making a chain of switches smart.
type family struct {
	strategy  string
	about     string
	outerOnly bool // the main part takes the place of a 3-way at an end of the chain
	title     func(p *planner, g group, main string) string
	demand    func(p *planner, g group, main string) (*demand, []Reason)
}

var families = []family{
	{
		strategy: "sensing-3way", outerOnly: true,
		about: "One sensing smart switch stands where line arrives. The other switches stay as they are.",
		title: func(p *planner, g group, main string) string {
			return fmt.Sprintf("Sensing smart switch in %s; %s", p.boxOf(main), p.others(g, main, "stays", "stay"))
		},
		demand: sensing,
	},
	{
		strategy: "main-aux",
		about:    "A smart main carries the lamp; a wired auxiliary at each other place signals it over one core. Dims, and is consistent, from every place.",
		title: func(p *planner, g group, main string) string {
			return fmt.Sprintf("Smart main in %s; %s", p.boxOf(main), p.others(g, main, "becomes a wired auxiliary", "become wired auxiliaries"))
		},
		demand: mainAux,
	},
	{
		strategy: "main-remote",
		about:    "A smart main carries the lamp; a battery remote covers each other place. The old switches there go, and what they joined is joined through or capped.",
		title: func(p *planner, g group, main string) string {
			return fmt.Sprintf("Smart main in %s; %s", p.boxOf(main), p.others(g, main, "becomes a battery remote", "become battery remotes"))
		},
		demand: mainRemote,
	},
}

func (p *planner) boxOf(dev string) string { return p.say.Box(p.doc.Device(dev).Box) }

func (p *planner) others(g group, main, one, many string) string {
	var names []string
	for _, c := range g.controls {
		if c != main {
			names = append(names, p.boxOf(c))
		}
	}
	names = slices.Compact(names)
	if len(names) == 1 {
		return names[0] + " " + one
	}
	return strings.Join(names, ", ") + " " + many
}

// place is a terminal that a net must reach, in its box.
type place struct {
	ref circuit.Ref
	box string
}

// net is one conductor of the circuit as planned: all places that it joins.
// class is the class of the circuit as found that it carries on, or negative.
type net struct {
	role   electric.Role
	class  int
	places []place
}

// demand is what a family asks of the walls.
type demand struct {
	remove []string // devices that go
	keepAt []string // boxes of mechanical switches that stay
	add    []circuit.Device
	stead  map[string]string // new device → the old switch in whose stead it stands
	models map[string]circuit.Model
	links  []circuit.Link
	nets   []*net
	home   map[string]bool // cables in which the group's own conductors run as found
}

// inherit lists the nets of the circuit as found, without the devices that go.
// Ends of cables that lead to an unknown place count as places: what hangs on
// them must not lose its feed.
func (p *planner) inherit(remove []string) *demand {
	d := &demand{remove: remove, models: map[string]circuit.Model{}, stead: map[string]string{}}
	d.home = p.homeOf(remove)
	byClass := map[int]*net{}
	add := func(e circuit.End, box string) {
		class := p.net.Class(e)
		x := byClass[class]
		if x == nil {
			x = &net{class: class, role: p.roles[e]}
			byClass[class] = x
			d.nets = append(d.nets, x)
		}
		x.places = append(x.places, place{e.Ref, box})
	}
	for _, e := range p.net.Ends() {
		if dev := p.doc.Device(e.Owner); dev != nil {
			if !slices.Contains(remove, dev.ID) {
				add(e, dev.Box)
			}
		} else if p.doc.Cable(e.Owner).Stub() && p.doc.JoinOf(e.Box, e.Ref) >= 0 {
			add(e, e.Box)
		}
	}
	return d
}

// homeOf finds the cables that carry what the switches that go switch: their
// travelers and loads, not the line and neutral that others share.
func (p *planner) homeOf(switches []string) map[string]bool {
	own := map[int]bool{}
	for _, e := range p.net.Ends() {
		if slices.Contains(switches, e.Owner) && (p.roles[e] == electric.Traveler || p.roles[e] == electric.Load) {
			own[p.net.Class(e)] = true
		}
	}
	home := map[string]bool{}
	for _, e := range p.net.Ends() {
		if e.Box != "" && own[p.net.Class(e)] {
			home[e.Owner] = true
		}
	}
	return home
}

// netOf returns the net that carries on the class, making it if no place of it
// was left.
func (d *demand) netOf(class int, role electric.Role) *net {
	for _, x := range d.nets {
		if x.class == class {
			return x
		}
	}
	x := &net{class: class, role: role}
	d.nets = append(d.nets, x)
	return x
}

// essentials are the classes that every family works with.
type essentials struct{ line, neutral, load int }

// find looks up which conductors are line, neutral and load of a group.
func (p *planner) find(g group) (essentials, []Reason) {
	lamp := func(t string) circuit.End {
		return circuit.End{Ref: circuit.Ref{Owner: g.lamps[0], Part: t}}
	}
	out := essentials{line: p.feedOf(g.lamps[0]), neutral: p.net.Class(lamp("n")), load: p.net.Class(lamp("l"))}
	for _, id := range g.lamps[1:] {
		if p.net.Class(circuit.End{Ref: circuit.Ref{Owner: id, Part: "l"}}) != out.load {
			return out, []Reason{{"several-loads", "The lamps of this group hang on different conductors; they are not planned as one.", p.ends(id)}}
		}
	}
	if p.roles[lamp("n")] != electric.Neutral || out.line < 0 || p.roles[lamp("l")] != electric.Load {
		return out, []Reason{{"unclear-feed", "The lamp does not hang between a switched conductor and a neutral of the supply.", p.ends(g.lamps[0])}}
	}
	return out, nil
}

// feedOf returns the class of the supply's hot that lights the lamp.
func (p *planner) feedOf(lamp string) int {
	k := slices.Index(p.net.LampIDs(), lamp)
	for _, s := range p.result.States {
		if s.Lit[k] {
			if id := p.net.Solve(s.State).FedBy(lamp); id != "" {
				return p.net.Class(circuit.End{Ref: circuit.Ref{Owner: id, Part: "hot"}})
			}
		}
	}
	return -1
}

// stand puts a catalogue device where an old switch was and returns its id.
func (d *demand) stand(p *planner, prefix, old, model string) string {
	id := ""
	for i := 1; ; i++ {
		id = fmt.Sprintf("%s%d", prefix, i)
		taken := slices.ContainsFunc(d.add, func(x circuit.Device) bool { return x.ID == id })
		if !taken && p.doc.Device(id) == nil && p.doc.Cable(id) == nil {
			break
		}
	}
	kind := device.Get(model)
	d.add = append(d.add, circuit.Device{ID: id, Box: p.doc.Device(old).Box, Type: circuit.TypeSmart, Name: kind.Name, Model: model})
	d.models[model] = kind.Model
	d.stead[id] = old
	return id
}

// connect adds a terminal of a device that was stood to a net.
func (d *demand) connect(x *net, id, terminal string) {
	for _, dev := range d.add {
		if dev.ID == id {
			x.places = append(x.places, place{circuit.Ref{Owner: id, Part: terminal}, dev.Box})
		}
	}
}

// mainAux: one traveler's core becomes the load or stays free, another the
// signal; the allocation decides which.
func mainAux(p *planner, g group, main string) (*demand, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, reasons
	}
	d := p.inherit(g.controls)
	m := d.carry(p, ess, main, "dimmer-main")
	signal := &net{role: electric.Signal, class: -1}
	d.nets = append(d.nets, signal)
	d.connect(signal, m, "signal")
	for _, c := range g.controls {
		if c == main {
			continue
		}
		a := d.stand(p, "a", c, "wired-aux")
		d.connect(d.netOf(ess.neutral, electric.Neutral), a, "neutral")
		d.connect(signal, a, "signal")
	}
	return d, nil
}

// mainRemote needs only line, load and neutral at the main.
func mainRemote(p *planner, g group, main string) (*demand, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, reasons
	}
	d := p.inherit(g.controls)
	m := d.carry(p, ess, main, "radio-main")
	for _, c := range g.controls {
		if c != main {
			r := d.stand(p, "r", c, "battery-remote")
			d.links = append(d.links, circuit.Link{From: r, To: m, Via: "radio"})
		}
	}
	return d, nil
}

// carry stands the device that switches the lamp.
func (d *demand) carry(p *planner, ess essentials, main, model string) string {
	m := d.stand(p, "m", main, model)
	d.connect(d.netOf(ess.line, electric.Line), m, "line")
	d.connect(d.netOf(ess.load, electric.Load), m, "load")
	d.connect(d.netOf(ess.neutral, electric.Neutral), m, "neutral")
	return m
}

// sensing replaces one outer switch. Line comes to it, the travelers stay, and
// the common of the switch at the other end of the chain goes to the lamp: as
// found, or by turning the chain round. Two switches that are strapped common
// to common get two travelers out of the three conductors.
func sensing(p *planner, g group, main string) (*demand, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, reasons
	}
	class := func(dev, t string) int {
		return p.net.Class(circuit.End{Ref: circuit.Ref{Owner: dev, Part: t}})
	}
	d := p.inherit([]string{main})
	m := d.stand(p, "m", main, "sensing-3way")
	line, load := d.netOf(ess.line, electric.Line), d.netOf(ess.load, electric.Load)
	d.connect(line, m, "line")
	d.connect(d.netOf(ess.neutral, electric.Neutral), m, "neutral")

	far := ""
	for _, c := range g.controls {
		t := p.doc.Device(c).Type
		if c != main && (t == circuit.TypeThreeWay || t == circuit.TypeThreeWayDimmer) {
			far = c
		}
		if c != main {
			d.keepAt = append(d.keepAt, p.doc.Device(c).Box)
		}
	}
	if far == "" {
		return nil, []Reason{{"no-far-end", "There is no " + p.say.Word("three-way") + " at the other end of the chain.", p.ends(main)}}
	}
	farCommon := circuit.Ref{Owner: far, Part: "common"}
	if len(g.controls) == 2 {
		// The two travelers are whatever joins to the far switch's pair.
		for i, t := range []string{"t1", "t2"} {
			ref := circuit.Ref{Owner: far, Part: t}
			d.drop(ref)
			c := class(far, t)
			if c == ess.line || c == ess.load {
				c = -1 - i // a conductor of its own from now on
			}
			x := d.netOf(c, electric.Traveler)
			x.places = append(x.places, place{ref, p.doc.Device(far).Box})
			own := []string{"t1", "t2"}[i]
			if class(main, "t1") == class(far, "t2") || class(main, "t2") == class(far, "t1") {
				own = []string{"t2", "t1"}[i] // keep each core under the screw where it was
			}
			d.connect(x, m, own)
		}
		d.drop(farCommon)
		load.places = append(load.places, place{farCommon, p.doc.Device(far).Box})
		return d, nil
	}
	for _, t := range []string{"t1", "t2"} {
		c := class(main, t)
		if c == ess.line || c == ess.load {
			return nil, []Reason{{"strapped-chain", "Line and load stand on the pair of " + p.say.Device(main) + "; a chain of more than two that is strapped so is not turned round.", p.ends(main)}}
		}
		d.connect(d.netOf(c, electric.Traveler), m, t)
	}
	d.drop(farCommon)
	load.places = append(load.places, place{farCommon, p.doc.Device(far).Box})
	return d, nil
}

// drop takes a place out of whatever net holds it.
func (d *demand) drop(ref circuit.Ref) {
	for _, x := range d.nets {
		x.places = slices.DeleteFunc(x.places, func(q place) bool { return q.ref == ref })
	}
}

func upper(s string) string { return inspect.Sentence(s) }
