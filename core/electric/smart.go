package electric

import "ambivia/core/circuit"

// smart is a smart device compiled: nodes instead of terminal names, contact
// numbers instead of relay names.
type smart struct {
	device      int
	supply      [][2]int
	throughLoad bool
	needHot     []int
	needNeutral []int
	inputs      []input
	toggles     int // contact that the button moves, -1 for none
	pulse       int // node that the button pulses, -1 for none
	from        int // its other side, where it is a plain contact, else -1
	sends       bool
	remote      int // contact that a link moves, -1 for none
	button      bool
	signals     []int // nodes that carry signals
	links       []link
}

type input struct {
	node, to int // to is -1 unless a dry contact is watched
	pulse    bool
	toggles  int
}

type link struct {
	to  int // index into Network.smart
	via string
}

func (l *layout) addSmart(c *circuit.Circuit, i int, d circuit.Device) {
	m := c.Models[d.Model]
	at := func(t string) int {
		if t == "" {
			return -1
		}
		return l.terminal(d.ID, t)
	}
	s := smart{device: i, throughLoad: m.DrawsThroughLoad(), pulse: -1, from: -1, button: m.Button != nil}
	relays := map[string]int{}
	for _, r := range m.Switches {
		relays[r.ID] = len(l.contacts)
		relay := contact{key: relayKey(d.ID, r.ID), device: i, smart: true}
		for k, throw := range r.Throws {
			position := k
			if len(r.Throws) == 1 {
				position = 1 // open at 0, closed at 1
			}
			relay.closed[position] = [][2]int{{at(r.Pole), at(throw)}}
		}
		l.contacts = append(l.contacts, relay)
	}
	contactOf := func(relay string) int {
		if at, ok := relays[relay]; ok {
			return at
		}
		return -1
	}
	for _, pair := range m.Supply {
		s.supply = append(s.supply, [2]int{at(pair[0]), at(pair[1])})
	}
	for terminal, net := range m.Needs {
		if net == "hot" {
			s.needHot = append(s.needHot, at(terminal))
		} else {
			s.needNeutral = append(s.needNeutral, at(terminal))
		}
	}
	for _, in := range m.Inputs {
		s.inputs = append(s.inputs, input{at(in.Terminal), at(in.To), in.On == "pulse", contactOf(in.Toggles)})
		if in.On == "pulse" {
			s.signals = append(s.signals, at(in.Terminal))
		}
	}
	s.remote, s.toggles = contactOf(m.Remote), -1
	if b := m.Button; b != nil {
		s.toggles, s.pulse, s.from, s.sends = contactOf(b.Toggles), at(b.Pulse), at(b.From), b.Send()
		if s.pulse >= 0 && s.from < 0 { // a plain contact may stand on mains with either side
			s.signals = append(s.signals, s.pulse)
		}
	}
	l.smart = append(l.smart, s)
}

// addLinks runs after all devices are known.
func (l *layout) addLinks(c *circuit.Circuit) {
	byID := map[string]int{}
	for i, s := range l.smart {
		byID[c.Devices[s.device].ID] = i
	}
	for _, x := range c.Links {
		from := &l.smart[byID[x.From]]
		from.links = append(from.links, link{byID[x.To], x.Via})
	}
}

// findAwake decides for every smart device whether it has its supply in full:
// one pair between a net tied to hot and one tied to neutral. A ground is no
// neutral. A device that draws through the load is fed when its other side
// returns through lamps.
func (s *Solution) findAwake() uint64 {
	var awake uint64
	for i, d := range s.network.smart {
		if s.hasNeeds(d) && (len(d.supply) == 0 || s.pairOf(d) >= 0) {
			awake |= 1 << i
		}
	}
	return awake
}

func (s *Solution) hasNeeds(d smart) bool {
	for _, x := range d.needHot {
		if !s.hot(x) {
			return false
		}
	}
	for _, x := range d.needNeutral {
		if !s.neutral(x) {
			return false
		}
	}
	return true
}

// pairOf returns the first supply pair that feeds the device, or -1.
func (s *Solution) pairOf(d smart) int {
	for i, p := range d.supply {
		if d.throughLoad {
			if s.hot(p[0]) && s.returns(p[1]) || s.hot(p[1]) && s.returns(p[0]) {
				return i
			}
		} else if s.hot(p[0]) && s.neutral(p[1]) || s.hot(p[1]) && s.neutral(p[0]) {
			return i
		}
	}
	return -1
}

// returns reports whether lamps lead from the node to a neutral.
func (s *Solution) returns(node int) bool {
	n := s.network
	seen := map[int]bool{s.root(node): true}
	for grown := true; grown; {
		grown = false
		for _, l := range n.lamps {
			a, b := s.root(l.l), s.root(l.n)
			if l.out || seen[a] == seen[b] {
				continue
			}
			for _, x := range []int{a, b} {
				if t := s.tie[x]; !seen[x] && t&tieNeutral != 0 && t&tieHot == 0 {
					return true
				} else if !seen[x] && t == 0 {
					seen[x], grown = true, true
				}
			}
		}
	}
	return false
}

// pulseHeard lists the contacts that a pulse on the node moves in this state: a
// device that is awake listens, and the conductor must belong to no mains net.
func (s *Solution) pulseHeard(node int) State {
	if s.tie[s.root(node)] != 0 {
		return 0
	}
	var move State
	for i, d := range s.network.smart {
		for _, in := range d.inputs {
			if in.pulse && s.awake>>i&1 == 1 && s.root(in.node) == s.root(node) {
				move ^= 1 << in.toggles
			}
		}
	}
	return move
}

// edges lists the contacts that move because a watched terminal turned hot or
// stopped being hot, or a watched dry contact opened or closed, between two
// states. A device that slept in either hears nothing.
func edges(before, after *Solution) State {
	var move State
	for i, d := range before.network.smart {
		if before.awake&after.awake>>i&1 == 0 {
			continue
		}
		for _, in := range d.inputs {
			if in.pulse {
				continue
			}
			was, is := before.hot(in.node), after.hot(in.node)
			if in.to >= 0 {
				was = before.root(in.node) == before.root(in.to)
				is = after.root(in.node) == after.root(in.to)
			}
			if was != is {
				move ^= 1 << in.toggles
			}
		}
	}
	return move
}
