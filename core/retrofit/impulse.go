package retrofit

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
)

// An impulse relay is stepped by any number of push-buttons, all of them on one core; each press turns what it carries on or
// off. The buttons carry no current of the light, so that nothing at their places has to be opened: what takes the relay's
// place takes their pulses.

// impulse is such a relay with the conductor on which the buttons step it.
type impulse struct {
	relay  string
	pulsed int
}

// impulseOf finds the relay of a group whose controls are all buttons that step it; ok is false for any other group.
func (p *planner) impulseOf(g group) (found impulse, ok bool) {
	pulsed := -1
	for _, id := range g.controls {
		d := p.doc.Device(id)
		m := p.doc.Models[d.Model]
		if d.Type != circuit.TypeSmart || m.Button == nil || m.Button.Pulse == "" || len(m.Switches) > 0 {
			return impulse{}, false
		}
		on := p.classOf(id, m.Button.Pulse)
		if from := m.Button.From; from != "" && p.roles[circuit.End{Ref: circuit.Ref{Owner: id, Part: m.Button.Pulse}}] == electric.Line {
			on = p.classOf(id, from) // its screws are alike
		}
		if pulsed >= 0 && on != pulsed {
			return impulse{}, false
		}
		pulsed = on
	}
	for _, d := range p.doc.Devices {
		if d.Type != circuit.TypeSmart {
			continue
		}
		for _, in := range p.doc.Models[d.Model].Inputs {
			if in.On == "pulse" && in.To == "" && p.classOf(d.ID, in.Terminal) == pulsed {
				if found.relay != "" {
					return impulse{}, false // two are stepped at once: whichever of them goes, the other stays
				}
				found = impulse{d.ID, pulsed}
			}
		}
	}
	return found, found.relay != ""
}

// pulsedBy reports whether a module takes pulses, as an impulse relay does.
func pulsedBy(m device.Device) bool { return m.At("signal") != "" }

// pulseModules proposes modules with an input for pulses in the place of an impulse relay. On a rail they stand where it
// stands; in a box they need the room.
func (p *planner) pulseModules(g group) []proposal {
	at, ok := p.impulseOf(g)
	if !ok {
		return nil
	}
	relay := p.doc.Device(at.relay)
	onRail := p.doc.Box(relay.Box).Kind == circuit.Panel
	var out []proposal
	for n, wired := range p.ofKind(device.Module, func(m device.Device) bool {
		return pulsedBy(m) && slices.Contains(m.Mount, "rail") == onRail
	}) {
		out = append(out, proposal{
			strategy: ModulePulse, id: optionID(ModulePulse, relay.Box, n, wired[0]), kits: wired,
			title: fmt.Sprintf("Module in the place of the %s; the push-buttons stay", p.say.Word(circuit.FoundRelay)),
			require: func(k kit) (*requirement, []Reason) {
				d := p.inherit([]string{at.relay})
				return d, p.inItsPlace(d, g, at, k.main)
			},
		})
	}
	return out
}

// inItsPlace stands a module where a relay was, with what the relay had.
func (p *planner) inItsPlace(d *requirement, g group, at impulse, kind device.Device) []Reason {
	ess, reasons := p.find(g)
	if reasons != nil {
		return reasons
	}
	nets := d.mains(ess)
	nets["signal"] = d.netOf(at.pulsed, electric.Signal)
	d.wire(d.replace(p, "m", at.relay, kind), nets)
	return nil
}
