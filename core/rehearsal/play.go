package rehearsal

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// message is an action on its way to a device. The level at which it goes on, 0 where none is asked, changes nothing about
// on and off.
type message struct {
	to, action string
	level      int
}

// asks is the message of a rule.
func asks(then circuit.Then) message {
	m := message{to: then.Device, action: then.Action}
	if then.Level != nil {
		m.level = *then.Level
	}
	return m
}

// moment is how everything stands, messages under way among it: a queue for each way. Where it counts how long they take,
// the zone says how old they may be; nil where it does not.
type moment struct {
	state  electric.State
	queues [][]message
	zone   *zone
}

// at is a moment in which nothing is under way.
func (p *play) at(s electric.State) moment {
	m := moment{state: s, queues: make([][]message, len(p.vias))}
	if p.delays != nil {
		m.zone = calm()
	}
	return m
}

func (m moment) quiet() bool {
	return !slices.ContainsFunc(m.queues, func(q []message) bool { return len(q) > 0 })
}

func (m moment) waiting() int {
	n := 0
	for _, q := range m.queues {
		n += len(q)
	}
	return n
}

// key tells moments apart.
func (m moment) key() string {
	if m.zone == nil {
		return m.timeless()
	}
	return m.timeless() + "|" + m.zone.key()
}

// timeless tells moments apart but for how old messages are.
func (m moment) timeless() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%x", uint64(m.state))
	for _, q := range m.queues {
		b.WriteByte('|')
		for _, x := range q {
			b.WriteString(x.to)
			b.WriteByte(' ')
			b.WriteString(x.action)
			b.WriteByte(',')
		}
	}
	return b.String()
}

func (m moment) copy() moment {
	out := moment{m.state, make([][]message, len(m.queues)), m.zone}
	for i, q := range m.queues {
		out.queues[i] = slices.Clone(q)
	}
	return out
}

// send puts a message at the end of the queue of its way, unless that way is down.
func (p *play) send(m *moment, via string, x message) {
	if via != p.down {
		i := slices.Index(p.vias, via)
		m.queues[i] = append(m.queues[i], x)
		if m.zone != nil {
			m.zone = m.zone.with(i)
		}
	}
}

// pass lets time pass until the next thing happens.
func (p *play) pass(m moment) moment {
	switch {
	case m.zone == nil:
	case m.quiet():
		m.zone = calm() // whoever waits, waits long
	default:
		m.zone = m.zone.pass(p.delays)
	}
	return m
}

// gesture is what a gesture does at a device that is awake; nothing at one that sleeps.
func (p *play) gesture(from moment, g Gesture) moment {
	m := from.copy()
	if m.zone != nil {
		if m.zone = m.zone.pressed(p.delays); m.zone == nil {
			return from // a hand is not so quick
		}
	}
	if g.Device == p.down || !p.isAwake(m.state, g.Device) {
		return m
	}
	d := p.doc.Device(g.Device)
	model := p.doc.Models[d.Model]
	before := m.state
	first := g.Gesture == "up1" || g.Gesture == "down1" || g.Gesture == "press1"
	if b := model.Button; first && b != nil && (b.Pulse != "" || b.Send()) {
		// What goes over a wire or a plain link goes at once, as for any press.
		m.state, _ = p.net.Press(m.state, g.Device, electric.Outage{p.down: true})
		if bit := p.bits[g.Device]; b.Toggles != "" { // its own switch is moved below
			m.state = m.state&^bit | before&bit
		}
	}
	if bit, ok := p.bits[g.Device]; ok && d.MovesItself() {
		switch g.Gesture {
		case "up1":
			m.state, _ = p.net.Set(m.state, g.Device, true)
		case "down1":
			m.state, _ = p.net.Set(m.state, g.Device, false)
		case "press1":
			m.state, _ = p.net.Set(m.state, g.Device, m.state&bit == 0)
		}
	}
	linked := func(id string) bool {
		return slices.ContainsFunc(p.doc.Links, func(l circuit.Link) bool { return l.From == g.Device && l.To == id })
	}
	p.told(&m, before, func(id string) bool { return id == g.Device || !linked(id) })
	if a := p.doc.Automation; a != nil {
		for _, r := range a.Rules {
			if r.When.Device == g.Device && r.When.Event == g.Gesture {
				p.send(&m, r.Via, asks(r.Then))
			}
		}
	}
	return p.pass(m)
}

// arrives reports whether the first message of a queue can be the next thing that happens.
func (p *play) arrives(m moment, queue int) bool {
	return len(m.queues[queue]) > 0 && (m.zone == nil || m.zone.delivered(queue, p.delays) != nil)
}

// deliver takes the first message of a queue, which [play.arrives], and lets it be obeyed.
func (p *play) deliver(from moment, queue int) moment {
	m := from.copy()
	x := m.queues[queue][0]
	m.queues[queue] = m.queues[queue][1:]
	if m.zone != nil {
		m.zone = m.zone.delivered(queue, p.delays)
	}
	return p.pass(p.obey(m, x))
}

// obey lets a device do what a message asks, if it is awake.
func (p *play) obey(m moment, x message) moment {
	if x.to == p.down || !p.isAwake(m.state, x.to) {
		return m
	}
	before := m.state
	on := x.action == "on" || x.action == "toggle" && before&p.bits[x.to] == 0
	m.state, _ = p.net.Set(m.state, x.to, on)
	p.told(&m, before, func(id string) bool { return id != x.to })
	return m
}

// lose takes the first message of a queue, which then never arrives.
func (p *play) lose(from moment, queue int) moment {
	m := from.copy()
	m.queues[queue] = m.queues[queue][1:]
	return m
}

// double lets the first message of a queue arrive twice.
func (p *play) double(from moment, queue int) moment {
	m := from.copy()
	m.queues[queue] = slices.Insert(m.queues[queue], 0, m.queues[queue][0])
	return p.deliver(m, queue)
}

// told sends what the devices tell whose switches changed; own says of a device whether it
// changed by itself and not by a message.
func (p *play) told(m *moment, before electric.State, own func(device string) bool) {
	a := p.doc.Automation
	if a == nil {
		return
	}
	for _, id := range p.switchy {
		bit := p.bits[id]
		if (before^m.state)&bit == 0 {
			continue
		}
		switch p.doc.Models[p.doc.Device(id).Model].Reports {
		case circuit.ReportsAll:
		case circuit.ReportsOwn:
			if !own(id) {
				continue
			}
		default:
			continue
		}
		went := "off"
		if m.state&bit != 0 {
			went = "on"
		}
		for _, r := range a.Rules {
			if r.When.Device == id && r.When.Event == went {
				p.send(m, r.Via, asks(r.Then))
			}
		}
		for _, mirror := range a.Mirrors {
			if mirror.From == id {
				p.send(m, mirror.Via, message{to: mirror.To, action: went})
			}
			if mirror.Both && mirror.To == id {
				p.send(m, mirror.Via, message{to: mirror.From, action: went})
			}
		}
	}
}
