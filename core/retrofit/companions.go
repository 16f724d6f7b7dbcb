package retrofit

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
)

// strategyOf says under which strategy a main with a companion falls.
func strategyOf(main, companion device.Device) string {
	switch companion.Kind {
	case device.Auxiliary:
		if main.ThroughLoad {
			return NoNeutralAux
		}
		return MainAux
	case device.Push:
		return MainPush
	case device.Secondary:
		switch {
		case main.Selector != nil:
			return Selectors
		case companion.Link == "radio":
			return Paired
		}
		return Messages
	}
	switch {
	case main.Kind == device.SmartLamp:
		return SmartLamps
	case main.Kind == device.Central:
		return CentralModule
	case main.ThroughLoad:
		return NoNeutralRemote
	case companion.Surface:
		return MainRemote
	case companion.At("load") != "":
		return PoweredJoined
	}
	return PoweredRemote
}

// companionsOf lists the kits of the mains of a kind, strategy by strategy.
func (p *planner) companionsOf(kind string) map[string][]kit {
	out := map[string][]kit{}
	for _, m := range p.library.Of(kind) {
		for _, id := range m.Companions {
			if c, ok := p.library.Get(id); ok {
				s := strategyOf(m, c)
				out[s] = append(out[s], kit{m, &c})
			}
		}
	}
	return out
}

// becomes says what each other place becomes, for one and for many.
var becomes = map[string][2]string{
	MainAux: {"becomes a wired auxiliary", "become wired auxiliaries"}, NoNeutralAux: {"becomes a wired auxiliary", "become wired auxiliaries"},
	MainPush: {"becomes a push switch", "become push switches"}, MainRemote: {"becomes a battery remote", "become battery remotes"},
	NoNeutralRemote: {"becomes a battery remote", "become battery remotes"}, Paired: {"becomes its powered twin", "become its powered twins"},
	PoweredRemote: {"becomes a powered remote", "become powered remotes"}, PoweredJoined: {"becomes a powered remote with the {load} joined in it", "become powered remotes with the {load} joined in them"},
	Messages: {"sends it messages", "send it messages"}, Selectors: {"becomes a secondary", "become secondaries"},
}

// heads is how a title begins.
var heads = map[string]string{
	NoNeutralAux: "Dimmer without {neutral} in %s", NoNeutralRemote: "Dimmer without {neutral} in %s", Paired: "Paired device that carries the lamp in %s",
	Messages: "Message switch that carries the lamp in %s", Selectors: "Selector dimmer as main in %s",
}

// companions proposes each main at each control, with its companions at the others.
func (p *planner) companions(g group) []proposal {
	var out []proposal
	if len(g.controls) == 1 {
		return p.alone(g)
	}
	kits := p.companionsOf(device.Main)
	for _, strategy := range Strategies {
		for n, wired := range bySignature(kits[strategy]) {
			for _, main := range g.controls {
				head := heads[strategy]
				if head == "" {
					head = "Smart main in %s"
				}
				out = append(out, proposal{
					strategy: strategy, id: optionID(strategy, p.doc.Device(main).Box, n, wired[0]), kits: wired, main: main,
					title:   fmt.Sprintf(head, p.boxOf(main)) + p.others(g, main, becomes[strategy][0], becomes[strategy][1]),
					require: func(k kit) (*requirement, []Reason) { return p.accompany(g, main, k) },
				})
			}
		}
	}
	return out
}

// accompany stands a main where one switch was and a companion at each other place. Of the
// old travelers' cores one becomes the load or stays free, another the signal; the
// allocation decides which.
func (p *planner) accompany(g group, main string, k kit) (*requirement, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, reasons
	}
	d := p.inherit(g.controls)
	nets := d.mains(ess)
	if k.main.At("signal") != "" && k.companion.At("signal") != "" {
		nets["signal"] = d.newNet(electric.Signal)
	}
	m := d.replace(p, "m", main, k.main)
	d.wire(m, nets)
	prefix := map[string]string{device.Auxiliary: "a", device.Push: "p"}[k.companion.Kind]
	if prefix == "" {
		prefix = "r"
	}
	for _, c := range g.controls {
		if c == main {
			continue
		}
		id := d.replace(p, prefix, c, *k.companion)
		d.wire(id, nets)
		if k.companion.Link != "" {
			d.links = append(d.links, circuit.Link{From: id, To: m, Via: k.companion.Link})
		}
	}
	return d, nil
}

// alone proposes what a light with one switch can become.
func (p *planner) alone(g group) []proposal {
	var out []proposal
	main := g.controls[0]
	place := p.doc.Device(main).Box
	plain := func(m device.Device) bool { return m.At("signal") == "" && m.At("contact") == "" || m.ThroughLoad }
	for n, wired := range p.ofKind(device.Main, plain) {
		out = append(out, proposal{
			strategy: OneSmart, id: optionID(OneSmart, place, n, wired[0]), kits: wired, main: main,
			title: fmt.Sprintf("Smart switch in %s", p.boxOf(main)),
			require: func(k kit) (*requirement, []Reason) {
				d, _, reasons := p.single(g, main, k)
				return d, reasons
			},
		})
	}
	for n, wired := range bySignature(append(p.companionsOf(device.Main)[MainRemote], p.companionsOf(device.Main)[NoNeutralRemote]...)) {
		out = append(out, proposal{
			strategy: AddedRemote, id: optionID(AddedRemote, place, n, wired[0]), kits: wired, main: main,
			title: fmt.Sprintf("Smart main in %s; a battery remote makes a second place", p.boxOf(main)),
			require: func(k kit) (*requirement, []Reason) {
				d, m, reasons := p.single(g, main, k)
				if reasons == nil {
					r := d.surface(p, "r", "Remote on the wall", *k.companion)
					d.links = append(d.links, circuit.Link{From: r, To: m, Via: k.companion.Link})
				}
				return d, reasons
			},
		})
	}
	return out
}

func (p *planner) single(g group, main string, k kit) (*requirement, string, []Reason) {
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil, "", reasons
	}
	d := p.inherit(g.controls)
	m := d.replace(p, "m", main, k.main)
	d.wire(m, d.mains(ess))
	return d, m, nil
}

// contacts proposes a main whose input is the rest of the old chain, as a contact.
func (p *planner) contacts(g group) []proposal {
	var out []proposal
	if len(g.controls) < 2 {
		return nil
	}
	for n, wired := range p.ofKind(device.Main, func(m device.Device) bool { return m.At("contact") != "" }) {
		for _, main := range g.controls {
			out = append(out, proposal{
				strategy: MainContact, id: optionID(MainContact, p.doc.Device(main).Box, n, wired[0]), kits: wired, main: main,
				title:   fmt.Sprintf("Smart main in %s", p.boxOf(main)) + p.others(g, main, "stays as a contact", "stay as a contact"),
				require: func(k kit) (*requirement, []Reason) { return p.asContact(g, main, k.main) },
			})
		}
	}
	return out
}

// asContact frees the chain beyond one outer switch from its old travelers: what was the
// nearest switch's pair becomes one side of a contact, the far common the other.
func (p *planner) asContact(g group, main string, kind device.Device) (*requirement, []Reason) {
	cut, reasons := p.cutOff(g, main)
	if reasons != nil {
		return nil, reasons
	}
	ess, d, far := cut.ess, cut.require, cut.far
	nets := d.mains(ess)
	d.takeOut(p.locatorsOf(g.controls)) // a contact that leaks is no contact
	nets["contact"] = d.newNet(electric.Signal)
	nets["contact"].name = "the old switch's contact"
	from := nets["line"]
	if kind.At("contact-return") != "" {
		nets["contact-return"] = d.newNet(electric.Signal)
		nets["contact-return"].name = "that contact's other side"
		from = nets["contact-return"]
	}
	pair := []int{p.classOf(main, "t1"), p.classOf(main, "t2")}
	for _, c := range g.controls {
		if c == main {
			continue
		}
		for _, t := range p.doc.Terminals(*p.doc.Device(c)) { // nothing of the old pair, nor line or load, is on these screws any more
			ref := circuit.Ref{Owner: c, Part: t}
			switch class := p.classOf(c, t); {
			case slices.Contains(pair, class) || p.isCommon(c, t) && (class == ess.line || class == ess.load):
				d.drop(ref)
			case class == ess.line || class == ess.load: // a strapped chain is turned round
				d.move(p, ref, cut.travelerOf(class))
			}
		}
	}
	put := func(ref circuit.Ref, x *net) {
		x.terminals = append(x.terminals, terminal{ref, p.doc.Device(ref.Owner).Box})
	}
	if len(g.controls) == 2 {
		d.drop(p.screw(far, "common"))
		put(p.screw(far, "common"), from)
		put(p.screw(far, "t1"), nets["contact"])
	} else {
		near := circuit.Ref{}
		for _, c := range g.controls {
			if c == main || p.outer(c) {
				continue
			}
			for _, t := range []string{"a1", "a2", "b1", "b2"} {
				if class := p.classOf(c, t); near.Owner == "" && slices.Contains(pair, class) {
					near = circuit.Ref{Owner: c, Part: t}
				}
			}
		}
		if near.Owner == "" {
			return nil, []Reason{*because("no-near-switch", "The pair of "+p.say.Device(main)+" leads to no other switch.", p.ends(main))}
		}
		d.drop(p.screw(far, "common"))
		put(near, from)
		put(p.screw(far, "common"), nets["contact"])
	}
	m := d.replace(p, "m", main, kind)
	d.wire(m, nets)
	return d, nil
}
