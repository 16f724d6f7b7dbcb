package prove

import (
	"fmt"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/sets"
)

// sample is a circuit that a meter is put to. What it takes to say what a reading shows is worked
// out once for each way in which the circuit is made ready: the same few are asked about again and
// again.
type sample struct {
	net    *electric.Network
	dead   map[string]*dead
	solved []*electric.Solution // with the power on, however switches and relays stand
	ready  map[string]*electric.Network
}

func newSample(n *electric.Network) *sample {
	return &sample{net: n, dead: map[string]*dead{}, ready: map[string]*electric.Network{}}
}

// dead is a circuit with the power off, every lamp out, and wires lifted.
type dead struct {
	net   *electric.Network
	loose sets.Sets // of conductors: what contacts and electronics may join
}

// surely is what continuity between two ends shows with the power off and every lamp out, however
// switches and relays stand: "closed", "open", or "" where that depends, or electronics may pass
// something. With rest relays are at nought, as before anything was pressed.
func (s *sample) surely(lifted []circuit.Ref, rest bool) func(a, b circuit.End) string {
	key := fmt.Sprint(lifted, rest)
	of := s.dead[key]
	if of == nil {
		of = s.unpowered(lifted, rest)
		s.dead[key] = of
	}
	return func(a, b circuit.End) string {
		x, y := of.net.Class(a), of.net.Class(b)
		switch {
		case x < 0 || y < 0:
			return ""
		case x == y:
			return "closed"
		case of.loose.Root(x) == of.loose.Root(y):
			return ""
		}
		return "open"
	}
}

func (s *sample) unpowered(lifted []circuit.Ref, rest bool) *dead {
	c, under := s.net.Doc(), electric.Conditions{}
	for _, r := range lifted {
		under.Lifted = append(under.Lifted, circuit.End{Ref: r})
	}
	for _, d := range c.Devices {
		switch d.Type {
		case circuit.TypeLamp:
			under.LampsOut = append(under.LampsOut, d.ID)
		case circuit.TypeSupply:
			under.BreakersOff = append(under.BreakersOff, d.ID)
		}
	}
	n := s.net.Rejoined(c, under)
	loose := sets.New(len(n.Ends())) // there are no more conductors than ends
	for _, d := range c.Devices {
		for _, pair := range mayJoin(c, d, rest) {
			x, y := n.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: pair[0]}}), n.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: pair[1]}})
			if x >= 0 && y >= 0 {
				loose.Unite(x, y)
			}
		}
	}
	return &dead{n, loose}
}

// mayJoin lists the pairs of screws that a device may join: by a contact as it may stand, or
// through what is in it. With rest its relays are at nought, as before anything was pressed.
func mayJoin(c *circuit.Circuit, d circuit.Device, rest bool) [][2]string {
	switch d.Type {
	case circuit.TypeSinglePole:
		return [][2]string{{"a", "b"}}
	case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
		return [][2]string{{"common", "t1"}, {"common", "t2"}}
	case circuit.TypeFourWay:
		return [][2]string{{"a1", "b1"}, {"a1", "b2"}, {"a2", "b1"}, {"a2", "b2"}}
	case circuit.TypeReceptacle: // whatever is plugged in
		return [][2]string{{"l", "n"}}
	case circuit.TypeSmart:
		m := c.Models[d.Model]
		out := slices.Clone(m.Supply)
		for _, r := range m.Switches {
			throws := r.Throws
			if rest { // open, or on the first of two
				throws = throws[:len(throws)-1]
			}
			for _, t := range throws {
				out = append(out, [2]string{r.Pole, t})
			}
		}
		for _, in := range m.Inputs {
			if in.To != "" {
				out = append(out, [2]string{in.Terminal, in.To})
			}
		}
		return out
	}
	return nil
}

// positions lists how switches and relays may stand.
func positions(n *electric.Network) []electric.State {
	out := []electric.State{0}
	for i, bit := range n.Bits() {
		if i == mostBits {
			break
		}
		for _, s := range out {
			out = append(out, s|bit)
		}
	}
	return out
}

// volts is what a two-pole tester shows between two ends with the power on, however switches
// stand; ok is false where that depends, nobody can tell, or the breaker trips.
func (s *sample) volts(a, b circuit.End) (volts float64, ok bool) {
	if s.solved == nil {
		for _, at := range positions(s.net) {
			s.solved = append(s.solved, s.net.Solve(at))
		}
	}
	for i, at := range s.solved {
		x, known := at.Volts(a)
		y, also := at.Volts(b)
		if v := math.Abs(x - y); !known || !also || at.Tripped || i > 0 && v != volts {
			return 0, false
		} else if i == 0 {
			volts = v
		}
	}
	return volts, true
}

// voltsOff is [sample.volts] while the light is off: in the states in which each lamp is dark that ever is, and in
// those in which no relay was told anything yet.
func (s *sample) voltsOff(a, b circuit.End) (volts float64, ok bool) {
	if volts, ok = s.volts(a, b); ok {
		return volts, true
	}
	litIn := make([]int, len(s.net.LampIDs()))
	for _, at := range s.solved {
		for i := range litIn {
			if at.Lit(i) {
				litIn[i]++
			}
		}
	}
	mechanical := electric.State(0)
	for _, bit := range s.net.MechanicalBits() {
		mechanical |= bit
	}
	some := false
	for k, state := range positions(s.net) {
		at, off := s.solved[k], true
		for i, n := range litIn {
			off = off && (n == len(s.solved) || !at.Lit(i))
		}
		if !off && state&^mechanical != 0 {
			continue
		}
		x, known := at.Volts(a)
		y, also := at.Volts(b)
		if v := math.Abs(x - y); !known || !also || at.Tripped || some && v != volts {
			return 0, false
		} else if !some {
			volts, some = v, true
		}
	}
	return volts, some
}

// mostBits bounds the positions of switches for which a reading is looked at.
const mostBits = 10

// shows says what a test shows, "" where nobody can say.
func (s *sample) shows(o circuit.Observation) string {
	if o.Power == "on" {
		volts, ok := s.volts(o.At[0], o.At[1])
		if !ok {
			return ""
		}
		return fmt.Sprint(volts)
	}
	return s.surely(o.Lifted, false)(o.At[0], o.At[1])
}

// on is the circuit as it is while a reading is made.
func (s *sample) on(o circuit.Observation) *electric.Network {
	key := fmt.Sprint(o.Power == "on", o.Lifted, o.LampsOut)
	if s.ready[key] == nil {
		under := electric.Conditions{LampsOut: o.LampsOut}
		for _, r := range o.Lifted {
			under.Lifted = append(under.Lifted, circuit.End{Ref: r})
		}
		for _, d := range s.net.Doc().Devices {
			if o.Power != "on" && d.Type == circuit.TypeSupply {
				under.BreakersOff = append(under.BreakersOff, d.ID)
			}
		}
		s.ready[key] = s.net.Rejoined(s.net.Doc(), under)
	}
	return s.ready[key]
}

// couldRead reports whether a reading may come so, as far as that is known: what floats, or hangs
// on loads, may come any way.
func (s *sample) couldRead(from electric.State, o circuit.Observation) bool {
	keys, n := s.net.Keys(from), s.on(o)
	for _, id := range o.Flipped {
		keys[id] = 3 - keys[id] // positions are 1 and 2
	}
	at, ok := n.StateOf(keys)
	if !ok {
		at = from
	}
	solved := n.Solve(at)
	switch o.Instrument {
	case circuit.Continuity:
		if len(o.At) != 2 || o.Reading == nil {
			return true
		}
		if solved.Together(o.At[0], o.At[1]) {
			return o.Reading != "open"
		}
		// A beep may come through a load, or through contacts and electronics that nobody sees.
		return o.Reading != "closed" || len(o.LampsOut) < len(n.LampIDs()) || s.surely(o.Lifted, false)(o.At[0], o.At[1]) != "open"
	case circuit.TwoPole, circuit.Multimeter:
		volts, number := o.Reading.(float64)
		if len(o.At) != 2 || !number {
			return true
		}
		x, known := solved.Volts(o.At[0])
		y, also := solved.Volts(o.At[1])
		return !known || !also || math.Abs(math.Abs(x-y)-volts) < n.Volts/3
	case circuit.NonContact:
		if len(o.At) != 1 {
			return true
		}
		switch solved.At(o.At[0]) {
		case electric.Live:
			return o.Reading != "quiet"
		case electric.Return, electric.Ground:
			return o.Reading != "live"
		}
	}
	return true
}
