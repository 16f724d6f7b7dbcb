package electric

import (
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/sets"
)

// tie says what a net is fixed to; several bits at once are a fault.
type tie uint8

const (
	tieHot tie = 1 << iota
	tieNeutral
	tieGround
	tieTripped // would be hot, but the breaker has tripped on a short
)

// Potential is what a person would find at a conductor in one state.
type Potential string

// Potentials. A floating conductor is tied to nothing; one that is live through
// a lamp carries mains to a finger all the same.
const (
	Live        Potential = "live"
	ThroughLamp Potential = "live-through-lamp"
	Return      Potential = "neutral"
	Ground      Potential = "ground"
	Floating    Potential = "floating"
	Dead        Potential = "dead" // its breaker has tripped
)

// FaultKind names a fault that one state shows.
type FaultKind string

// Faults of a state.
const (
	ShortHotNeutral  FaultKind = "short-hot-neutral"
	ShortHotGround   FaultKind = "short-hot-ground"
	NeutralGround    FaultKind = "neutral-ground-joined"
	TwoSupplies      FaultKind = "two-supplies-joined"
	PartVolts        FaultKind = "part-volts"       // a lamp between nothing and full volts
	HotShell         FaultKind = "hot-shell"        // mains on the lamp's neutral terminal
	NeutralSwitched  FaultKind = "neutral-switched" // a dark lamp whose line terminal is live
	DeviceUnpowered  FaultKind = "asleep"           // a smart device without its supply
	SignalClash      FaultKind = "signal-clash"     // a signal terminal on a conductor of the mains
	GroundLive       FaultKind = "ground-live"      // a ground-coloured core or ground terminal that is live
	GroundReturn     FaultKind = "ground-return"    // a lamp or device that returns through the ground
	BorrowedNeutral  FaultKind = "borrowed-neutral" // a lamp returns through the neutral of another breaker
	NeutralsJoined   FaultKind = "neutrals-joined"  // neutrals of two breakers meet outside the panel
	LoadReversed     FaultKind = "load-reversed"    // line and neutral exchanged at a receptacle
	LoadNoNeutral    FaultKind = "load-no-neutral"  // a receptacle that is live and has no neutral
	CableUnbalanced  FaultKind = "cable-unbalanced" // currents of a cable's cores do not sum to zero
	RelayBackfed     FaultKind = "relay-backfed"    // the open throw of a relay is hot from elsewhere
	NeverConverges   FaultKind = "never-settles"    // devices that go on triggering each other
	litFraction                = 0.25               // of nominal volts: below it no lamp is seen to glow
	fullFraction               = 0.98               // of nominal volts: above it a lamp is fully lit
	balanceTolerance           = 1e-6               // amperes
	smallLoadWatts             = 1                  // stands for the draw of a device or receptacle
)

// Fault is one fault of one state with the ends that it concerns.
type Fault struct {
	Kind FaultKind
	At   []circuit.End
}

// solver is the scratch space of one solving.
type solver struct {
	nets  sets.Sets // over classes
	tie   []tie     // by net root
	feed  []uint64  // by net root: which supplies feed it
	volts []float64 // of each net root
	known []bool    // volts of the net root are settled
}

func newSolver(n *Network) solver {
	return solver{
		nets: sets.New(n.classes), tie: make([]tie, n.classes), feed: make([]uint64, n.classes),
		volts: make([]float64, n.classes), known: make([]bool, n.classes),
	}
}

// Solution is one state solved. It refers to its own memory only.
type Solution struct {
	State   State
	Tripped bool
	network *Network
	net     []int // class → net root
	tie     []tie // by net root
	feed    []uint64
	volts   []float64
	known   []bool
	awake   uint64 // by smart device
}

// Solve finds what every conductor, lamp and smart device does in one state.
func (n *Network) Solve(s State) *Solution {
	x := n.borrow()
	defer n.giveBack(x)
	w := &x.solver
	for i := range w.nets {
		w.nets[i], w.tie[i], w.feed[i], w.volts[i], w.known[i] = i, 0, 0, 0, false
	}
	for i := range n.contacts {
		for _, pair := range n.contacts[i].closed[s>>i&1] {
			w.nets.Unite(n.class[pair[0]], n.class[pair[1]])
		}
	}
	var tripped uint64
	for i, sup := range n.supplies {
		if hot := w.nets.Root(n.class[sup.hot]); !sup.off {
			w.tie[hot] |= tieHot
			w.feed[hot] |= 1 << (i & 63)
		}
		w.tie[w.nets.Root(n.class[sup.neutral])] |= tieNeutral
		w.tie[w.nets.Root(n.class[sup.ground])] |= tieGround
	}
	for i, t := range w.tie {
		if t&tieHot != 0 && t&(tieNeutral|tieGround) != 0 {
			tripped |= w.feed[i]
		}
	}
	out := &Solution{State: s, Tripped: tripped != 0, network: n, net: make([]int, n.classes)}
	for i := range out.net {
		out.net[i] = w.nets.Root(i)
	}
	for i, t := range w.tie {
		switch {
		case t&tieHot != 0 && w.feed[i]&tripped != 0:
			w.tie[i] |= tieTripped
			w.known[i] = true
		case t&tieHot != 0:
			w.volts[i], w.known[i] = n.Volts, true
		case t != 0:
			w.known[i] = true
		}
	}
	n.solveFloating(w, out.net)
	out.tie, out.feed = slices.Clone(w.tie), slices.Clone(w.feed)
	out.volts, out.known = slices.Clone(w.volts), slices.Clone(w.known)
	out.awake = out.findAwake()
	return out
}

// solveFloating settles the nets that hang on lamps only.
func (n *Network) solveFloating(w *solver, net []int) {
	for range n.strings { // most often one lamp between a floating and a fixed net
		moved := false
		for _, l := range n.strings {
			a, b := net[n.class[l.l]], net[n.class[l.n]]
			if w.known[a] == w.known[b] {
				continue
			}
			if w.known[a] {
				a, b = b, a
			}
			if n.onlyLampAt(net, a) {
				w.volts[a], w.known[a] = w.volts[b], true
				moved = true
			}
		}
		if !moved {
			break
		}
	}
	var unknown []int
	for _, l := range n.strings {
		for _, x := range []int{net[n.class[l.l]], net[n.class[l.n]]} {
			if !w.known[x] && !slices.Contains(unknown, x) {
				unknown = append(unknown, x)
			}
		}
	}
	unknown = n.reachable(w, net, unknown)
	if len(unknown) == 0 {
		return
	}
	size := len(unknown)
	m := make([][]float64, size)
	for i := range m {
		m[i] = make([]float64, size+1)
	}
	for _, l := range n.strings {
		g := l.watts / (n.Volts * n.Volts)
		a, b := net[n.class[l.l]], net[n.class[l.n]]
		if a == b {
			continue
		}
		for _, side := range [][2]int{{a, b}, {b, a}} {
			row := slices.Index(unknown, side[0])
			if row < 0 {
				continue
			}
			m[row][row] += g
			if col := slices.Index(unknown, side[1]); col >= 0 {
				m[row][col] -= g
			} else {
				m[row][size] += g * w.volts[side[1]]
			}
		}
	}
	for i, v := range eliminate(m) {
		w.volts[unknown[i]], w.known[unknown[i]] = v, true
	}
}

// onlyLampAt reports whether exactly one lamp terminal hangs on the net: no
// current can flow, so the net takes the volts of the lamp's other side.
func (n *Network) onlyLampAt(net []int, root int) bool {
	count := 0
	for _, l := range n.strings {
		if net[n.class[l.l]] == root {
			count++
		}
		if net[n.class[l.n]] == root {
			count++
		}
	}
	return count == 1
}

// reachable keeps the unknown nets that a chain of lamps ties to a known one;
// the others float however the lamps hang together.
func (n *Network) reachable(w *solver, net, unknown []int) []int {
	tied := make([]bool, len(unknown))
	for changed := true; changed; {
		changed = false
		for _, l := range n.strings {
			a, b := net[n.class[l.l]], net[n.class[l.n]]
			for _, side := range [][2]int{{a, b}, {b, a}} {
				i := slices.Index(unknown, side[0])
				if i < 0 || tied[i] {
					continue
				}
				j := slices.Index(unknown, side[1])
				if w.known[side[1]] || j >= 0 && tied[j] {
					tied[i], changed = true, true
				}
			}
		}
	}
	var out []int
	for i, ok := range tied {
		if ok {
			out = append(out, unknown[i])
		}
	}
	return out
}

// eliminate solves a system of n rows with n+1 columns by Gauss's method with
// partial pivoting; the rows are overwritten.
func eliminate(m [][]float64) []float64 {
	n := len(m)
	for c := range n {
		p := c
		for r := c + 1; r < n; r++ {
			if math.Abs(m[r][c]) > math.Abs(m[p][c]) {
				p = r
			}
		}
		m[c], m[p] = m[p], m[c]
		for r := range n {
			if r == c || m[r][c] == 0 {
				continue
			}
			f := m[r][c] / m[c][c]
			for k := c; k <= n; k++ {
				m[r][k] -= f * m[c][k]
			}
		}
	}
	out := make([]float64, n)
	for i := range out {
		out[i] = m[i][n] / m[i][i]
	}
	return out
}

func (s *Solution) root(node int) int { return s.net[s.network.class[node]] }

func (s *Solution) hot(node int) bool {
	t := s.tie[s.root(node)]
	return t&tieHot != 0 && t&tieTripped == 0
}

func (s *Solution) neutral(node int) bool {
	t := s.tie[s.root(node)]
	return t&tieNeutral != 0 && t&tieHot == 0
}

// LampVolts returns the volts across each lamp, by lamp in document order.
func (s *Solution) LampVolts() []float64 {
	out := make([]float64, len(s.network.lamps))
	for i := range out {
		out[i] = s.lampVolts(i)
	}
	return out
}

func (s *Solution) lampVolts(i int) float64 {
	l := s.network.lamps[i]
	if l.out {
		return 0
	}
	a, b := s.root(l.l), s.root(l.n)
	if a == b || !s.known[a] || !s.known[b] {
		return 0
	}
	v := math.Abs(s.volts[a] - s.volts[b])
	if v < 1e-9 {
		return 0
	}
	return v
}

// Lit reports whether a person would say that lamp i is lit.
func (s *Solution) Lit(i int) bool { return s.lampVolts(i) >= litFraction*s.network.Volts }

// LampIDs lists the lamps in document order.
func (n *Network) LampIDs() []string {
	out := make([]string, len(n.lamps))
	for i, l := range n.lamps {
		out[i] = n.doc.Devices[l.device].ID
	}
	return out
}

// At says what a person would find at an end.
func (s *Solution) At(e circuit.End) Potential {
	i, ok := s.network.index[e]
	if !ok {
		return Floating
	}
	r := s.root(i)
	switch t := s.tie[r]; {
	case t&tieTripped != 0:
		return Dead
	case t&tieHot != 0:
		return Live
	case t&tieNeutral != 0:
		return Return
	case t&tieGround != 0:
		return Ground
	case s.known[r] && s.volts[r] > 1:
		return ThroughLamp
	}
	return Floating
}

// Unpowered lists the smart devices without their supply, in document order.
func (s *Solution) Unpowered() []string {
	var out []string
	for i, d := range s.network.smart {
		if s.awake>>i&1 == 0 {
			out = append(out, s.network.doc.Devices[d.device].ID)
		}
	}
	return out
}

// FedBy returns the id of the supply device whose hot lights the lamp in this
// state, or "" where the lamp's line terminal is not tied to one.
func (s *Solution) FedBy(lamp string) string {
	mask := s.feed[s.root(s.network.terminal(lamp, "l"))]
	for i, sup := range s.network.supplies {
		if mask>>i&1 == 1 {
			return s.network.doc.Devices[sup.device].ID
		}
	}
	return ""
}

// Conductors says what a person would find on each conductor, by class.
func (s *Solution) Conductors() []Potential {
	out := make([]Potential, s.network.classes)
	for i, e := range s.network.nodes {
		out[s.network.class[i]] = s.At(e)
	}
	return out
}

// Volts returns the volts of an end against neutral; known is false where it
// floats.
func (s *Solution) Volts(e circuit.End) (volts float64, known bool) {
	i, ok := s.network.index[e]
	if !ok {
		return 0, false
	}
	return s.volts[s.root(i)], s.known[s.root(i)]
}

// Together reports whether two ends are one conductor in this state.
func (s *Solution) Together(a, b circuit.End) bool {
	i, j := s.network.index[a], s.network.index[b]
	return s.root(i) == s.root(j)
}
