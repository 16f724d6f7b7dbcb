package electric

import "ambivia/core/circuit"

// Role is what a conductor is for, whatever position any switch is in.
type Role string

// Roles of conductors. Signal is a core between smart devices that carries no
// load current.
const (
	Line       Role = "line"
	Neutral    Role = "neutral"
	RoleGround Role = "ground"
	Load       Role = "load"
	Traveler   Role = "traveler"
	Signal     Role = "signal"
	Unused     Role = "unused"
)

// Roles gives the role of every core end, and of every terminal. An end whose
// conductor runs on into a cable with an unknown far end has no role unless the
// known part settles it: what is unknown is left out. The map is shared: it is
// to be read only.
func (n *Network) Roles() map[circuit.End]Role {
	n.assign.Do(func() { n.roles = n.workOutRoles() })
	return n.roles
}

func (n *Network) workOutRoles() map[circuit.End]Role {
	type facts struct {
		hot, neutral, ground, lamp, load, signal, heard, stub bool
		contacts, attached                                    int
	}
	by := make([]facts, n.classes)
	for _, s := range n.supplies {
		by[n.class[s.hot]].hot = true
		by[n.class[s.neutral]].neutral = true
		by[n.class[s.ground]].ground = true
	}
	for _, l := range n.lamps {
		by[n.class[l.l]].lamp = true
		by[n.class[l.n]].lamp = true
	}
	for _, l := range n.loads {
		by[n.class[l.l]].load = true
	}
	for _, c := range n.contacts {
		seen := map[int]bool{}
		for _, pairs := range c.closed {
			for _, p := range pairs {
				for _, x := range p {
					if !seen[x] {
						seen[x] = true
						by[n.class[x]].contacts++
					}
				}
			}
		}
	}
	for _, d := range n.smart {
		for _, x := range d.signals {
			by[n.class[x]].signal = true
		}
		for _, in := range d.inputs {
			if in.pulse {
				continue
			}
			for _, x := range []int{in.node, in.to} {
				if x < 0 {
					continue
				}
				by[n.class[x]].heard = true // an old switch as a contact, or the end of a chain of them
				if by[n.class[x]].contacts == 0 {
					by[n.class[x]].signal = true
				}
			}
		}
	}
	for i, e := range n.nodes {
		if !isCore(e) {
			by[n.class[i]].attached++
		} else if n.doc.Cable(e.Owner).Stub() {
			by[n.class[i]].stub = true
		}
	}
	roleOf := func(f facts) (Role, bool) {
		switch {
		case f.hot:
			return Line, true
		case f.neutral:
			return Neutral, true
		case f.ground:
			return RoleGround, true
		case f.lamp:
			return Load, true
		case f.signal && f.attached > 1:
			return Signal, true
		case f.stub:
			return "", false
		case f.contacts > 1:
			return Traveler, true
		case f.load && f.contacts > 0:
			return Load, true
		case f.heard && f.attached > 1:
			return Signal, true
		}
		return Unused, true
	}
	out := make(map[circuit.End]Role, len(n.nodes))
	for i, e := range n.nodes {
		if role, known := roleOf(by[n.class[i]]); known {
			out[e] = role
		}
	}
	return out
}
