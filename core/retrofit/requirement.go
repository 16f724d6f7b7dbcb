package retrofit

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
)

// terminal is one that a net must reach, a screw or a core end, in its box.
type terminal struct {
	ref circuit.Ref
	box string
}

// net is one conductor of the circuit as planned: all terminals that it joins.
// class is the class of the circuit as found that it carries on, or negative.
type net struct {
	role      electric.Role
	name      string // what it is called, where its role would mislead
	class     int
	terminals []terminal
	route     route // where cables close rings: the spans that it may run in
}

// requirement is what a family asks of the walls.
type requirement struct {
	remove []string      // devices that go
	keepAt []string      // boxes of mechanical switches that stay
	boxes  []circuit.Box // new places that need no box in the wall
	add    []circuit.Device
	stead  map[string]string // new device → the old switch in whose stead it stands
	models map[string]circuit.Model
	links  []circuit.Link
	nets   []*net
	kinds  map[string]device.Device    // new device → what it is
	shy    int                         // the span that what runs as found leaves where cables close a ring; -1 for none
	home   map[string]bool             // cables in which the group's own conductors run as found
	tied   map[circuit.Ref]circuit.Ref // spare travelers that somebody wants joined to the other one
}

// asked reports whether cores stand together because somebody wants spare travelers joined.
func (d *requirement) asked(ends []circuit.End) bool {
	return !slices.ContainsFunc(ends, func(e circuit.End) bool {
		if _, spare := d.tied[e.Ref]; spare {
			return false
		}
		for _, to := range d.tied {
			if to == e.Ref {
				return false
			}
		}
		return true
	})
}

// locatorsOf lists the locator lamps that go with switches: they lie across their screws.
func (p *planner) locatorsOf(switches []string) []string {
	var out []string
	for _, id := range p.net.Locators() {
		lamp := p.doc.Device(id)
		l, n := p.net.Class(circuit.End{Ref: circuit.Ref{Owner: id, Part: "l"}}), p.net.Class(circuit.End{Ref: circuit.Ref{Owner: id, Part: "n"}})
		if slices.ContainsFunc(switches, func(dev string) bool {
			on := map[int]bool{}
			for _, t := range p.doc.Terminals(*p.doc.Device(dev)) {
				on[p.classOf(dev, t)] = true
			}
			return p.doc.Device(dev).Box == lamp.Box && on[l] && on[n]
		}) {
			out = append(out, id)
		}
	}
	return out
}

// inherit lists the nets of the circuit as found, without the devices that go.
// Ends of cables that lead to an unknown place count as places: what hangs on
// them must not lose its feed.
func (p *planner) inherit(remove []string) *requirement {
	remove = append(slices.Clone(remove), p.locatorsOf(remove)...)
	d := &requirement{remove: remove, shy: -1, models: map[string]circuit.Model{}, stead: map[string]string{}, kinds: map[string]device.Device{}}
	byClass := map[int]*net{}
	add := func(e circuit.End, box string) {
		class := p.net.Class(e)
		x := byClass[class]
		if x == nil {
			x = &net{class: class, role: p.roles[e]}
			byClass[class] = x
			d.nets = append(d.nets, x)
		}
		x.terminals = append(x.terminals, terminal{e.Ref, box})
	}
	for _, e := range p.net.Ends() {
		if dev := p.doc.Device(e.Owner); dev != nil {
			if !slices.Contains(remove, dev.ID) {
				add(e, dev.Box)
			}
		} else if p.doc.Cable(e.Owner).Stub() && p.joinOf(e.Box, e.Ref) >= 0 {
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
func (d *requirement) netOf(class int, role electric.Role) *net {
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
	if len(g.lamps) == 0 {
		return essentials{-1, -1, -1}, []Reason{*because("no-lamp", "No control of this circuit works on a lamp.", []circuit.End{})}
	}
	lamp := func(t string) circuit.End {
		return circuit.End{Ref: circuit.Ref{Owner: g.lamps[0], Part: t}}
	}
	out := essentials{line: p.feedOf(g.lamps[0]), neutral: p.net.Class(lamp("n")), load: p.net.Class(lamp("l"))}
	for _, id := range g.lamps[1:] {
		if p.net.Class(circuit.End{Ref: circuit.Ref{Owner: id, Part: "l"}}) != out.load {
			return out, []Reason{*because("several-loads", "The lamps of this group hang on different conductors; they are not planned as one.", p.ends(id))}
		}
	}
	if p.roles[lamp("n")] != electric.Neutral || out.line < 0 || p.roles[lamp("l")] != electric.Load {
		return out, []Reason{*because("unclear-feed", "The lamp does not hang between a switched conductor and a neutral of the supply.", p.ends(g.lamps[0]))}
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

// newID returns an id that nothing of the circuit or the plan has.
func (d *requirement) newID(p *planner, prefix string) string {
	return p.doc.FreshID(prefix, func(id string) bool {
		return slices.ContainsFunc(d.add, func(x circuit.Device) bool { return x.ID == id }) ||
			slices.ContainsFunc(d.boxes, func(b circuit.Box) bool { return b.ID == id })
	})
}

// stand puts a device into a box and returns its id; old is the switch in whose stead
// it stands, or "".
func (d *requirement) stand(p *planner, prefix, box, old string, kind device.Device) string {
	id := d.newID(p, prefix)
	x := circuit.Device{ID: id, Box: box, Type: circuit.TypeSmart, Name: kind.Name, Model: kind.ID}
	if kind.PerLamp {
		x.Name += ", in the socket"
	}
	if kind.DepthMm > 0 && !kind.Surface && !slices.Contains(kind.Mount, "rail") {
		depth := kind.DepthMm
		x.DepthMm = &depth
	}
	d.add = append(d.add, x)
	d.models[kind.ID] = kind.Model
	d.kinds[id] = kind
	if old != "" {
		d.stead[id] = old
	}
	return id
}

// replace puts a device where an old switch was.
func (d *requirement) replace(p *planner, prefix, old string, kind device.Device) string {
	return d.stand(p, prefix, p.doc.Device(old).Box, old, kind)
}

// surface makes a place that needs no box in the wall and puts a device there.
func (d *requirement) surface(p *planner, prefix, name string, kind device.Device) string {
	box := circuit.Box{ID: d.newID(p, "wall"), Kind: circuit.Switch, Name: name}
	d.boxes = append(d.boxes, box)
	return d.stand(p, prefix, box.ID, "", kind)
}

// plate puts a button on a plate that needs no box in the wall: on the one that is there, where
// another light has its button at the same place.
func (d *requirement) plate(p *planner, prefix, name string, kind device.Device) string {
	for _, b := range append(slices.Clone(p.doc.Boxes), d.boxes...) {
		if b.Kind == circuit.Switch && b.Name == name {
			return d.stand(p, prefix, b.ID, "", kind)
		}
	}
	return d.surface(p, prefix, name, kind)
}

// connect adds a terminal of a new device to a net.
func (d *requirement) connect(x *net, id, part string) {
	for _, dev := range d.add {
		if dev.ID == id {
			x.terminals = append(x.terminals, terminal{circuit.Ref{Owner: id, Part: part}, dev.Box})
		}
	}
}

// wire connects every terminal of a new device that stands on something, by the nets for
// each; grounds are joined when the plan is written out.
func (d *requirement) wire(id string, nets map[string]*net) {
	kind := d.kinds[id]
	for _, t := range kind.Model.Terminals {
		if x := nets[kind.Stands[t]]; x != nil {
			d.connect(x, id, t)
		}
	}
}

// newNet makes a net of a role, which no conductor as found carries.
func (d *requirement) newNet(role electric.Role) *net {
	x := &net{role: role, class: -1}
	d.nets = append(d.nets, x)
	return x
}

// word is what a net is called in the words of the practice.
func (p *planner) word(x *net) string {
	if x.name != "" {
		return x.name
	}
	return p.say.Word(string(x.role))
}

// mains are the nets of line, neutral and load.
func (d *requirement) mains(ess essentials) map[string]*net {
	return map[string]*net{
		"line": d.netOf(ess.line, electric.Line), "neutral": d.netOf(ess.neutral, electric.Neutral), "load": d.netOf(ess.load, electric.Load),
	}
}

// drop takes a place out of whatever net holds it.
func (d *requirement) drop(ref circuit.Ref) {
	for _, x := range d.nets {
		x.terminals = slices.DeleteFunc(x.terminals, func(q terminal) bool { return q.ref == ref })
	}
}

// takeOut takes devices out, with all their places.
func (d *requirement) takeOut(devices []string) {
	for _, id := range devices {
		if !slices.Contains(d.remove, id) {
			d.remove = append(d.remove, id)
		}
	}
	for _, x := range d.nets {
		x.terminals = slices.DeleteFunc(x.terminals, func(q terminal) bool { return slices.Contains(devices, q.ref.Owner) })
	}
}

// move takes a place out of its net and puts it on another.
func (d *requirement) move(p *planner, ref circuit.Ref, x *net) {
	d.drop(ref)
	x.terminals = append(x.terminals, terminal{ref, p.doc.Device(ref.Owner).Box})
}
