package electric

import (
	"slices"

	"ambivia/core/circuit"
)

// settleRounds bounds how long devices may go on triggering each other.
const settleRounds = 8

// Controls lists the ids of what a person can press: mechanical switches, and
// smart devices with a button, in document order.
func (n *Network) Controls() []string {
	var out []string
	for _, c := range n.controls() {
		out = append(out, n.doc.Devices[c.device].ID)
	}
	return out
}

// control is a mechanical contact or a smart device's button.
type control struct {
	device  int
	contact int // -1 for a button
	smart   int // -1 for a mechanical switch
}

func (n *Network) controls() []control {
	var out []control
	for i, c := range n.contacts {
		if !c.smart {
			out = append(out, control{c.device, i, -1})
		}
	}
	for i, s := range n.smart {
		if s.button {
			out = append(out, control{s.device, -1, i})
		}
	}
	slices.SortFunc(out, func(a, b control) int { return a.device - b.device })
	return out
}

// Outage says what does not work beside the wires while controls are pressed:
// kinds of link that are down ("radio", "hub", "cloud", "bus").
type Outage map[string]bool

// Press moves one control from a state and returns the state in which the
// circuit comes to rest; settled is false when devices go on triggering each
// other. Pressing a smart device that sleeps does nothing.
func (n *Network) Press(from State, device string, out Outage) (to State, settled bool) {
	for _, c := range n.controls() {
		if n.doc.Devices[c.device].ID == device {
			return n.press(n.Solve(from), c, out, n.Solve)
		}
	}
	return from, true
}

func (n *Network) press(from *Solution, c control, out Outage, solve func(State) *Solution) (State, bool) {
	var move State
	if c.smart < 0 {
		move = 1 << c.contact
	} else if from.awake>>c.smart&1 == 1 {
		d := n.smart[c.smart]
		if d.toggles >= 0 {
			move ^= 1 << d.toggles
		}
		switch {
		case d.from < 0 && d.pulse >= 0, d.from >= 0 && from.hot(d.from):
			move ^= from.pulseHeard(d.pulse)
		case d.from >= 0 && from.hot(d.pulse):
			move ^= from.pulseHeard(d.from)
		}
		if d.sends {
			for _, l := range d.links {
				if !out[l.via] && from.awake>>l.to&1 == 1 {
					move ^= 1 << n.smart[l.to].remote
				}
			}
		}
	}
	return n.converge(from, from.State^move, solve)
}

// converge lets devices that watch for edges answer to a change.
func (n *Network) converge(from *Solution, to State, solve func(State) *Solution) (State, bool) {
	if !n.listens() {
		return to, true
	}
	before := from
	for range settleRounds {
		after := solve(to)
		move := edges(before, after)
		if move == 0 {
			return to, true
		}
		to ^= move
		before = after
	}
	return to, false
}

// SwitchOf is the bit of the switch that messages move in a smart device; ok is false where it
// has none.
func (n *Network) SwitchOf(device string) (bit State, ok bool) {
	for _, d := range n.smart {
		if n.doc.Devices[d.device].ID == device && d.remote >= 0 {
			return 1 << d.remote, true
		}
	}
	return 0, false
}

// Set moves the switch that messages move in a smart device, and returns the state in which the
// circuit comes to rest; settled is as for [Network.Press]. A device without such a switch, or
// whose switch stands so already, changes nothing.
func (n *Network) Set(from State, device string, on bool) (to State, settled bool) {
	bit, ok := n.SwitchOf(device)
	if to = from &^ bit; on {
		to |= bit
	}
	if !ok || to == from {
		return from, true
	}
	return n.converge(n.Solve(from), to, n.Solve)
}

// listens reports whether any device watches for edges.
func (n *Network) listens() bool {
	return slices.ContainsFunc(n.smart, func(d smart) bool {
		return slices.ContainsFunc(d.inputs, func(in input) bool { return !in.pulse })
	})
}

// MaxStates bounds how many states [Explore] visits. Ten controls of one light
// reach 1,024.
const MaxStates = 1 << 14

// StateResult is what one state shows.
type StateResult struct {
	State     State
	Volts     []float64 // across each lamp, in the order of [Network.LampIDs]
	Lit       []bool
	Unpowered []string
	Faults    []Fault
}

// ControlResult is what one control does over all states that were reached.
type ControlResult struct {
	Device string
	// Lamps are those that the control changes from at least one state.
	Lamps []string
	// Works: it changes each of its lamps from every state, and has one.
	Works bool
	// Fails is a state from which it does not change a lamp of its own, when
	// Works is false and Lamps is not empty.
	Fails State
}

// Result is the whole behaviour of a circuit.
type Result struct {
	Network   *Network
	States    []StateResult // in the order of reaching them, the recorded one first
	Controls  []ControlResult
	Truncated bool // there are more states than were visited
}

// ExploreFrom is [Explore] from other states than the recorded one, all controls together: there
// is at least one.
func ExploreFrom(n *Network, from []State) *Result { return explore(n, from, n.controls(), true) }

// Unvisited stands for a state beyond the bound.
const Unvisited = -1

// Reach visits all that pressing leads to from some states, those states first. Of each look is told what it shows and,
// for each of the controls in the order of [Network.Controls], the number of the state to which it leads, counted in the
// order of visiting, or [Unvisited]. It reports whether it visited all: there is a bound.
func (n *Network) Reach(from []State, look func(here *Solution, next []int32)) (complete bool) {
	return n.reach(from, n.controls(), func(here *Solution, next []int32, _ []control) { look(here, next) })
}

// reach does so for some of the controls; unsettled are those after which devices go on triggering each other.
func (n *Network) reach(from []State, controls []control, look func(here *Solution, next []int32, unsettled []control)) (complete bool) {
	complete = true
	most := n.limit()
	number := map[State]int{}
	queue := slices.Clone(from)
	for i, s := range queue {
		number[s] = i
	}
	cache := map[State]*Solution{}
	solve := func(s State) *Solution {
		if x := cache[s]; x != nil {
			return x
		}
		x := n.Solve(s)
		if n.listens() {
			cache[s] = x
		}
		return x
	}
	for i := 0; i < len(queue); i++ {
		here := solve(queue[i])
		next := make([]int32, len(controls))
		var unsettled []control
		for k, c := range controls {
			to, settled := n.press(here, c, nil, solve)
			if !settled {
				unsettled = append(unsettled, c)
			}
			at, known := number[to]
			if !known {
				if len(queue) >= most {
					complete = false
					at = Unvisited
				} else {
					at = len(queue)
					number[to] = at
					queue = append(queue, to)
				}
			}
			next[k] = int32(at)
		}
		look(here, next, unsettled)
	}
	return complete
}

// explore visits what pressing those controls can reach; told lists the faults of each state too.
func explore(n *Network, from []State, controls []control, told bool) *Result {
	r := &Result{Network: n}
	next := [][]int32{} // by state and control
	r.Truncated = !n.reach(from, controls, func(here *Solution, row []int32, unsettled []control) {
		next = append(next, row)
		var faults []Fault
		if told {
			faults = n.faults(here)
		}
		for _, c := range unsettled {
			faults = append(faults, Fault{NeverConverges, n.terminals(c.device)})
		}
		lit := make([]bool, len(n.lamps))
		for l := range lit {
			lit[l] = here.Lit(l)
		}
		r.States = append(r.States, StateResult{here.State, here.LampVolts(), lit, here.Unpowered(), faults})
	})
	for k, c := range controls {
		r.Controls = append(r.Controls, r.judge(n.doc.Devices[c.device].ID, k, next))
	}
	return r
}

// judge decides what control k does from its column of the transition table.
func (r *Result) judge(device string, k int, next [][]int32) ControlResult {
	out := ControlResult{Device: device}
	for l, id := range r.Network.LampIDs() {
		var changes, fails int
		var failing State
		for i, row := range next {
			if row[k] == Unvisited { // what lies beyond is not known, and not held against it
				continue
			}
			if r.States[i].Lit[l] != r.States[row[k]].Lit[l] {
				changes++
			} else if fails++; fails == 1 {
				failing = r.States[i].State
			}
		}
		if changes == 0 {
			continue
		}
		if len(out.Lamps) == 0 {
			out.Works = true
		}
		out.Lamps = append(out.Lamps, id)
		if fails > 0 && out.Works {
			out.Works, out.Fails = false, failing
		}
	}
	return out
}

// terminals lists the terminals of a device as ends.
func (n *Network) terminals(device int) []circuit.End {
	d := n.doc.Devices[device]
	var out []circuit.End
	for _, t := range n.doc.Terminals(d) {
		out = append(out, circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
	}
	return out
}

// MechanicalBits lists the bits of a state that stand for switches which are moved by hand, in
// document order.
func (n *Network) MechanicalBits() []State {
	var out []State
	for i, c := range n.contacts {
		if !c.smart {
			out = append(out, 1<<i)
		}
	}
	return out
}

// Bits lists all bits of a state: switches that hands move first, then relays.
func (n *Network) Bits() []State {
	out := n.MechanicalBits()
	for i, c := range n.contacts {
		if c.smart {
			out = append(out, 1<<i)
		}
	}
	return out
}
