package prove

import (
	"ambivia/core/electric"
)

// sight is what a person sees of the lamps: a bit for each that is lit, or that the breaker
// tripped, which ends it.
type sight uint64

const trip sight = 1 << 63

// machine is a circuit that is pressed and looked at. What it shows and where presses lead is
// found when it is asked for.
type machine struct {
	net   *electric.Network
	shown map[electric.State]sight
	next  map[move]electric.State
}

// move is a control pressed in a state.
type move struct {
	state   electric.State
	control string
}

func newMachine(n *electric.Network) *machine {
	return &machine{n, map[electric.State]sight{}, map[move]electric.State{}}
}

func (m *machine) shows(s electric.State) sight {
	if out, known := m.shown[s]; known {
		return out
	}
	solved, out := m.net.Solve(s), sight(0)
	if solved.Tripped {
		out = trip
	} else {
		for i := range m.net.LampIDs() {
			if solved.Lit(i) {
				out |= 1 << i
			}
		}
	}
	m.shown[s] = out
	return out
}

func (m *machine) press(s electric.State, control string) electric.State {
	if m.shows(s) == trip {
		return s // nothing more happens
	}
	key := move{s, control}
	if to, known := m.next[key]; known {
		return to
	}
	to, _ := m.net.Press(s, control, nil)
	m.next[key] = to
	return to
}

// starts lists how a circuit may stand at the start: every smart relay at nought, mechanical
// switches anyhow.
func (m *machine) starts() []electric.State {
	out := []electric.State{0}
	for _, bit := range m.net.MechanicalBits() {
		for _, s := range out {
			out = append(out, s|bit)
		}
	}
	return out
}
