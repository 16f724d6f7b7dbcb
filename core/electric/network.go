// Package electric says what a recorded circuit does.
//
// The idea in one page. Every core end and every terminal is a node; nodes are
// dense integers, and strings are left at the edge of the package. Joins hold
// nodes together at a point (a connector, a screw); a core holds the points at
// its two ends together. What is held together without any switch is a class.
// A [State] says how each contact stands; the contacts that it closes unite
// classes to nets. A net tied to the supply's hot is at full volts, one tied
// to neutral or ground at none, and any other floats. Lamps are conductances:
// floating nets that hang on lamps are solved as a small linear system, so that
// two lamps in series are half bright and a lamp fed through another one is
// seen.
//
// [New] compiles a document to a [Network]. [Network.Solve] gives one state.
// [Network.Press] moves one control, with all that follows from it: a smart
// device that is awake hears a pulse, an edge, a link. [Explore] finds every
// state that pressing controls can reach and what each control does there.
//
// The package reports facts; what they mean to an electrician, in words, is
// for package inspect.
package electric

import (
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"ambivia/core/circuit"
	"ambivia/core/practice"
	"ambivia/core/sets"
)

// State holds one bit for each contact of a network: position 2 of a
// mechanical switch, or state 1 of a relay in a smart device.
type State uint64

// contact is one thing that stands one way or the other.
type contact struct {
	key    string // "s1", or "m1.relay" in a smart device
	device int
	smart  bool
	closed [2][][2]int // node pairs that each position connects
}

type lamp struct {
	device int
	l, n   int // nodes
	watts  float64
	out    bool // taken out of its socket
}

type supply struct {
	device               int
	hot, neutral, ground int // nodes
	off                  bool
}

// Conditions are what a person has done to a circuit for a while, beside moving
// its switches. The zero value is the circuit as recorded.
type Conditions struct {
	// Lifted are terminals whose wires are off, each wire capped on its own, and
	// core ends that are taken out of their joins.
	Lifted []circuit.End
	// LampsOut are lamps taken out of their sockets.
	LampsOut []string
	// BreakersOff are supplies that are switched off.
	BreakersOff []string
}

// edge is a conductor or contact between two points, for currents.
type edge struct {
	a, b     int // points
	cable    int // index of the cable, -1 for a contact
	contact  int // for a contact: which one, and in which position it is closed
	position int
}

// layout is what of a compiled circuit depends on its cables and devices alone, however their ends
// are joined: networks of circuits that differ in nothing but joins share it.
type layout struct {
	nodes    []circuit.End
	index    map[circuit.End]int
	runs     []run // cores with both ends in boxes
	stubs    []int // nodes of cores that run on to where nobody knows
	grounds  []int // nodes that are for ground only: its colours, ground terminals
	contacts []contact
	smart    []smart
	loads    []lamp
	sockets  []lamp
	feeds    []supply
	locators []int       // devices that show where a switch is
	poles    map[int]int // devices that are taken for the neutral pole of another one
}

// run is a core between two boxes.
type run struct{ from, to, cable int }

// Network is a circuit compiled for simulation. It is immutable and may be shared: solving
// borrows scratch space of its own from a pool.
type Network struct {
	*layout
	doc   *circuit.Circuit
	Volts float64 // nominal volts of the supply

	point   []int // node → point
	class   []int // node → class
	classes int
	points  int

	lamps    []lamp // in the sockets, some taken out
	strings  []lamp // lamps between one pair of conductors taken together, without those that are out
	supplies []supply
	cores    []edge
	bar      []int  // by supply: which bar its neutral is on
	stub     []bool // by class: it runs on into a cable whose far end nobody knows

	under   Conditions
	scratch sync.Pool // of *scratch
	assign  sync.Once
	roles   map[circuit.End]Role
}

// scratch is the space that one solving needs.
type scratch struct {
	solver solver
	flow   flow
}

// borrow takes scratch space from the pool; [Network.giveBack] returns it.
func (n *Network) borrow() *scratch { return n.scratch.Get().(*scratch) }

func (n *Network) giveBack(x *scratch) { n.scratch.Put(x) }

// mostTerminals is about how many a device has, for the room that nodes take.
const mostTerminals = 5

// assumedWatts stands in for a lamp whose watts nobody recorded: only how
// lamps in series share the volts depends on it.
const assumedWatts = 10

var compilations atomic.Int64

// Compilations counts the networks that were compiled since the program began: what answers one
// question should compile each circuit once.
func Compilations() int64 { return compilations.Load() }

// New compiles a valid document.
func New(c *circuit.Circuit) *Network { return NewUnder(c, Conditions{}) }

// NewUnder compiles a valid document under conditions. Names in them that the
// document lacks are passed over.
func NewUnder(c *circuit.Circuit, under Conditions) *Network { return compile(newLayout(c), c, under) }

// Rejoined compiles a document that differs from the one of this network in nothing but its joins,
// under conditions: for who asks about many ways of joining the same ends.
func (n *Network) Rejoined(c *circuit.Circuit, under Conditions) *Network {
	return compile(n.layout, c, under)
}

func compile(l *layout, c *circuit.Circuit, under Conditions) *Network {
	compilations.Add(1)
	n := &Network{layout: l, doc: c, Volts: practice.Volts(c), under: under}
	n.joinNodes()
	n.lamps, n.supplies = slices.Clone(l.sockets), slices.Clone(l.feeds)
	for i := range n.lamps {
		n.lamps[i].out = slices.Contains(under.LampsOut, c.Devices[n.lamps[i].device].ID)
	}
	for i := range n.supplies {
		n.supplies[i].off = slices.Contains(under.BreakersOff, c.Devices[n.supplies[i].device].ID)
	}
	n.bar = n.bars()
	n.stub = make([]bool, n.classes)
	for _, i := range l.stubs {
		n.stub[n.class[i]] = true
	}
	n.strings = n.bundled()
	n.scratch.New = func() any { return &scratch{newSolver(n), newFlow(n)} }
	return n
}

func newLayout(c *circuit.Circuit) *layout {
	l := &layout{}
	l.addNodes(c)
	at := l.hangTogether(c)
	l.poles = l.twoPoles(c, at)
	l.addDevices(c)
	l.sortLoads(c, at)
	return l
}

func (l *layout) add(e circuit.End) int {
	if isCore(e) && circuit.GroundColour(e.Part) || !isCore(e) && e.Part == "ground" {
		l.grounds = append(l.grounds, len(l.nodes))
	}
	l.index[e] = len(l.nodes)
	l.nodes = append(l.nodes, e)
	return len(l.nodes) - 1
}

func (l *layout) addNodes(c *circuit.Circuit) {
	size := 0
	for _, k := range c.Cables {
		size += 2 * len(k.Cores)
	}
	size += mostTerminals * len(c.Devices)
	l.index, l.nodes = make(map[circuit.End]int, size), make([]circuit.End, 0, size)
	for i, k := range c.Cables {
		first := len(l.nodes)
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, core := range k.Cores {
				at := l.add(circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box})
				if k.Stub() {
					l.stubs = append(l.stubs, at)
				}
			}
		}
		if !k.Stub() {
			for core := range k.Cores {
				l.runs = append(l.runs, run{first + core, first + len(k.Cores) + core, i})
			}
		}
	}
	for _, d := range c.Devices {
		for _, t := range c.Terminals(d) {
			l.add(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
		}
	}
}

// node finds the node of a member of a join in the box: terminals are kept
// without their box.
func (n *Network) node(r circuit.Ref, box string) int {
	if i, ok := n.index[circuit.End{Ref: r, Box: box}]; ok {
		return i
	}
	return n.index[circuit.End{Ref: r}]
}

func (n *Network) joinNodes() {
	points := sets.New(len(n.nodes))
	for _, j := range n.doc.Joins {
		for _, group := range n.split(n.afterLifting(j)) {
			if len(group) == 0 {
				continue
			}
			for _, m := range group[1:] {
				points.Unite(n.node(group[0], j.Box), n.node(m, j.Box))
			}
		}
	}
	n.point, n.points = points.Dense()
	classes := sets.New(n.points)
	n.cores = make([]edge, len(n.runs))
	for i, r := range n.runs {
		a, b := n.point[r.from], n.point[r.to]
		classes.Unite(a, b)
		n.cores[i] = edge{a: a, b: b, cable: r.cable}
	}
	var byPoint []int
	byPoint, n.classes = classes.Dense()
	n.class = make([]int, len(n.nodes))
	for i, p := range n.point {
		n.class[i] = byPoint[p]
	}
}

// afterLifting is what is left of a join: nothing when a terminal in it is
// lifted, since each of its wires is capped on its own; else the join without
// the core ends that are taken out.
func (n *Network) afterLifting(j circuit.Join) circuit.Join {
	for _, e := range n.under.Lifted {
		if e.Box == "" && slices.Contains(j.Of, e.Ref) {
			return circuit.Join{Box: j.Box}
		}
		if e.Box == j.Box {
			j.Of = slices.DeleteFunc(slices.Clone(j.Of), func(m circuit.Ref) bool { return m == e.Ref })
		}
	}
	return j
}

// split keeps the one allowed bond of neutral and ground, on the panel's bar,
// from hiding a second one further on: a panel join that holds both is read as
// two, ground-coloured cores with the ground.
func (n *Network) split(j circuit.Join) [][]circuit.Ref {
	box := n.doc.Box(j.Box)
	if box == nil || box.Kind != circuit.Panel {
		return [][]circuit.Ref{j.Of}
	}
	var neutral, ground []circuit.Ref
	hasNeutral, hasGround := false, false
	for _, r := range j.Of {
		d := n.doc.Device(r.Owner)
		supplied := d != nil && d.Type == circuit.TypeSupply
		hasNeutral = hasNeutral || supplied && r.Part == "neutral"
		hasGround = hasGround || supplied && r.Part == "ground"
		if supplied && r.Part == "ground" || d == nil && circuit.GroundColour(r.Part) {
			ground = append(ground, r)
		} else {
			neutral = append(neutral, r)
		}
	}
	if hasNeutral && hasGround {
		return [][]circuit.Ref{neutral, ground}
	}
	return [][]circuit.Ref{j.Of}
}

func (l *layout) addDevices(c *circuit.Circuit) {
	for i, d := range c.Devices {
		at := func(t string) int { return l.terminal(d.ID, t) }
		switch d.Type {
		case circuit.TypeSupply:
			l.feeds = append(l.feeds, supply{i, at("hot"), at("neutral"), at("ground"), false})
		case circuit.TypeLamp:
			l.sockets = append(l.sockets, lamp{i, at("l"), at("n"), lampWatts(d), false})
		case circuit.TypeReceptacle:
			l.loads = append(l.loads, lamp{i, at("l"), at("n"), smallLoadWatts, false})
		case circuit.TypeSinglePole:
			if _, second := l.poles[i]; second {
				continue // it moves with the other pole
			}
			closed := [][2]int{{at("a"), at("b")}}
			for second, first := range l.poles {
				if x := c.Devices[second].ID; first == i {
					closed = append(closed, [2]int{l.terminal(x, "a"), l.terminal(x, "b")})
				}
			}
			l.contacts = append(l.contacts, contact{d.ID, i, false, [2][][2]int{closed, nil}})
		case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
			l.contacts = append(l.contacts, contact{d.ID, i, false,
				[2][][2]int{{{at("common"), at("t1")}}, {{at("common"), at("t2")}}}})
		case circuit.TypeFourWay:
			a1, a2, b1, b2 := at("a1"), at("a2"), at("b1"), at("b2")
			l.contacts = append(l.contacts, contact{d.ID, i, false, [2][][2]int{{{a1, b1}, {a2, b2}}, {{a1, b2}, {a2, b1}}}})
		case circuit.TypeSmart:
			l.addSmart(c, i, d)
		}
	}
	l.addLinks(c)
}

// bundled takes lamps that hang between the same two conductors together: they share nothing but
// their watts.
func (n *Network) bundled() []lamp {
	var out []lamp
	at := map[[2]int]int{}
	for _, l := range n.lamps {
		if l.out {
			continue
		}
		pair := [2]int{n.class[l.l], n.class[l.n]}
		slices.Sort(pair[:])
		if i, have := at[pair]; have {
			out[i].watts += l.watts
			continue
		}
		at[pair] = len(out)
		out = append(out, l)
	}
	return out
}

func lampWatts(d circuit.Device) float64 {
	watts, count := float64(assumedWatts), 1
	if d.Watts != nil {
		watts = *d.Watts
	}
	if d.Count != nil {
		count = *d.Count
	}
	return watts * float64(count)
}

func (l *layout) terminal(device, terminal string) int {
	return l.index[circuit.End{Ref: circuit.Ref{Owner: device, Part: terminal}}]
}

// Doc returns the document that the network was compiled from.
func (n *Network) Doc() *circuit.Circuit { return n.doc }

// Initial is the state that the document records: a switch whose position
// nobody knows stands in position 1, smart relays at 0.
func (n *Network) Initial() State {
	var s State
	for i, c := range n.contacts {
		if p := n.doc.Devices[c.device].Position; p != nil && *p == 2 {
			s |= 1 << i
		}
	}
	return s
}

// Keys writes a state as the file format does: 1 or 2 for mechanical switches
// by device, 0 or 1 for smart ones by "DEVICE.SWITCH".
func (n *Network) Keys(s State) map[string]int {
	out := make(map[string]int, len(n.contacts))
	for i, c := range n.contacts {
		v := int(s >> i & 1)
		if !c.smart {
			v++
		}
		out[c.key] = v
	}
	for second, first := range n.Poles() { // which move together
		out[second] = out[first]
	}
	return out
}

// StateOf reads what [Network.Keys] writes; a key that is missing leaves the
// contact as the document records it. ok is false for a key or value that the
// circuit does not have.
func (n *Network) StateOf(keys map[string]int) (s State, ok bool) {
	s = n.Initial()
	found, together := 0, map[string]int{}
	for second, first := range n.Poles() {
		v, given := keys[second]
		if !given {
			continue
		}
		if other, both := keys[first]; both && other != v {
			return s, false
		}
		found++
		if _, both := keys[first]; !both {
			together[first] = v
			found--
		}
	}
	for i, c := range n.contacts {
		v, given := keys[c.key]
		if !given {
			v, given = together[c.key]
		}
		if !given {
			continue
		}
		found++
		if !c.smart {
			v--
		}
		if v != 0 && v != 1 {
			return s, false
		}
		s = s&^(1<<i) | State(v)<<i
	}
	return s, found == len(keys)
}

// Class returns a number that two ends share when they are one conductor
// whatever any switch does, or -1 for an end that the circuit lacks.
func (n *Network) Class(e circuit.End) int {
	i, ok := n.index[e]
	if !ok {
		return -1
	}
	return n.class[i]
}

// Ends lists every core end and terminal of the circuit.
func (n *Network) Ends() []circuit.End { return slices.Clone(n.nodes) }

// isCore reports whether an end is a core's and not a terminal.
func isCore(e circuit.End) bool { return e.Box != "" }

// relayKey is how a smart device's switch is named in a state.
func relayKey(device, relay string) string { return strings.Join([]string{device, relay}, ".") }

// Throw is one way in which a position of a contact connects two terminals of
// its device.
type Throw struct {
	Key      string // as in a state: "s1", "m1.relay"
	Position int    // as in a state: 1 or 2, for a relay 0 or 1
	From, To string // terminals
}

// Contacts lists what the contacts of a device connect in each position.
func (n *Network) Contacts(device string) []Throw {
	var out []Throw
	for _, c := range n.contacts {
		if n.doc.Devices[c.device].ID != device {
			continue
		}
		for position, pairs := range c.closed {
			if !c.smart {
				position++
			}
			for _, p := range pairs {
				out = append(out, Throw{c.key, position, n.nodes[p[0]].Part, n.nodes[p[1]].Part})
			}
		}
	}
	return out
}
