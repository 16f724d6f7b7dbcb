package trace

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/practice"
	"ambivia/core/sets"
)

// Limits of what is traced: beyond them the ways in which walls can join things
// are too many to be gone through.
const (
	maxStubs    = 40
	maxSwitches = 10
	maxSupplies = 3
	maxBits     = 16 // positions, crossings and the like of one pattern
)

// view is what a survey shows, in small numbers. Nodes are the core ends and
// terminals in opened boxes. An atom is what no test can take apart: cores under
// one connector, both ends of a cable that is known. A class is what holds
// together while nothing is lifted: atoms and the screws that join them.
type view struct {
	doc   *circuit.Circuit
	open  map[string]bool
	nodes []circuit.End
	index map[circuit.End]int

	atom       []int // by node
	atoms      int
	class      []int // by atom
	classes    []class
	earthed    []bool // by atom: stands with the ground
	loneGround []bool // by atom: a ground-coloured core that is capped on its own
	earthUsed  bool   // a core of the ground's colour does other work: what lies beyond may have no ground
	screws     []screw
	terminal   map[circuit.Ref]int // node of each terminal in an opened box

	cores    []core
	stubs    []stub
	clusters int
	cluster  map[string]int // by opened box

	switches []control // seen ones, then those in closed boxes that some test flips
	lamps    []thing   // on record
	supplies []thing   // on record, or the one that must be there
	places   int       // groups of closed boxes that known cables join
	placeOf  map[string]int

	accepted          map[int]string // by class: the role that a person took as given
	custom            practice.Practice
	recordedLamps     int
	closedSwitchBoxes int      // that may hold a switch of these lights
	numbered          int      // patterns that were made ready
	pairs             *pairing // which links readings found, nil where they are not asked for
}

// class is one conductor as far as it can be seen.
type class struct {
	ends    []circuit.End
	cores   []int // of stubs
	pieces  []int // atoms that hold such a core
	panel   bool  // one of them is known to end in the panel
	screwed bool  // a switch that works stands on it
	ground  bool
	hot     []int // supplies whose line is seen on it
	neutral []int
	lampL   []int // lamps whose line terminal is seen on it
	lampN   []int
}

// screw is a join that holds a terminal: lifting that terminal takes it apart.
type screw struct {
	terminals []int // nodes
	members   []int // nodes
}

// stub is a cable that leaves an opened box for where nobody has looked.
type stub struct {
	cable   int
	cluster int
	box     string
	cores   []int
	to      int    // place where it is known to end, or -1
	panel   bool   // it is known to end in a panel and nowhere else
	kind    string // its cores, sorted
	gauge   string
}

// core is an insulated core of a stub.
type core struct {
	stub, node, atom, class int
	name                    string
}

// kind of a switch by what its wired screws let it do.
type kind uint8

const (
	idle   kind = iota // it can switch nothing
	single             // a, b
	ending             // common, t1, t2: an end of a chain
	middle             // a1, a2, b1, b2: between two others
)

// thing is a lamp or a supply: two terminals, seen or hidden.
type thing struct {
	id    string // "" where the record does not have it
	box   string // "" where nobody knows
	seen  bool
	atoms [2]int // when seen
	place int    // of a hidden one, -1 where nobody knows
}

// Error says why a record cannot be traced.
type Error struct {
	Code circuit.Code
	Text string
}

func (e *Error) Error() string { return e.Text }

// newView reads a valid document.
func newView(c *circuit.Circuit) (*view, error) {
	v := &view{doc: c, open: map[string]bool{}, index: map[circuit.End]int{}, terminal: map[circuit.Ref]int{}, placeOf: map[string]int{}}
	for _, d := range c.Devices {
		if d.Type == circuit.TypeSmart && d.Found() {
			return nil, &Error{"steps-a-relay", fmt.Sprintf("%s is not traced: push-buttons and their relay are followed by eye. Open their boxes and record the cables between them", names.For(c).Bare(d.ID))}
		}
		if d.Type == circuit.TypeSmart {
			return nil, &Error{"smart-device", fmt.Sprintf("devices: %s is a smart device; tracing is for circuits as found", names.For(c).Bare(d.ID))}
		}
	}
	for _, b := range c.Boxes {
		v.open[b.ID] = b.Seen() || slices.ContainsFunc(c.Joins, func(j circuit.Join) bool { return j.Box == b.ID })
	}
	v.addNodes()
	v.unite()
	v.addPlaces()
	v.addStubs()
	if err := v.addDevices(); err != nil {
		return nil, err
	}
	v.custom, v.accepted = practice.For(c), map[int]string{}
	for _, a := range c.Accepted {
		if n, ok := v.index[a.End]; ok {
			v.accepted[v.class[v.atom[n]]] = a.As
		}
	}
	if len(v.stubs) > maxStubs {
		return nil, &Error{circuit.CodeTooManyParts, fmt.Sprintf("cables: %d lead where nobody has looked; at most %d are traced at once. Open another box, or join what is known to be one cable", len(v.stubs), maxStubs)}
	}
	return v, nil
}

func (v *view) addNode(e circuit.End) {
	v.index[e] = len(v.nodes)
	v.nodes = append(v.nodes, e)
}

func (v *view) addNodes() {
	for _, k := range v.doc.Cables {
		for _, box := range k.Ends {
			if box == nil || !v.open[*box] {
				continue
			}
			for _, name := range k.Cores {
				v.addNode(circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: name}, Box: *box})
			}
		}
	}
	for _, d := range v.doc.Devices {
		if !v.open[d.Box] {
			continue
		}
		for _, t := range v.doc.Terminals(d) {
			r := circuit.Ref{Owner: d.ID, Part: t}
			v.terminal[r] = len(v.nodes)
			v.addNode(circuit.End{Ref: r})
		}
	}
}

// member finds the node of a member of a join.
func (v *view) member(r circuit.Ref, box string) int {
	if i, ok := v.index[circuit.End{Ref: r, Box: box}]; ok {
		return i
	}
	return v.index[circuit.End{Ref: r}]
}

// unite finds atoms and classes.
func (v *view) unite() {
	atoms := sets.New(len(v.nodes))
	for _, k := range v.doc.Cables {
		if k.Stub() || !v.open[*k.Ends[0]] || !v.open[*k.Ends[1]] {
			continue
		}
		for _, name := range k.Cores {
			r := circuit.Ref{Owner: k.ID, Part: name}
			atoms.Unite(v.member(r, *k.Ends[0]), v.member(r, *k.Ends[1]))
		}
	}
	for _, j := range v.doc.Joins {
		var s screw
		for _, r := range j.Of {
			i := v.member(r, j.Box)
			s.members = append(s.members, i)
			if v.doc.Device(r.Owner) != nil {
				s.terminals = append(s.terminals, i)
			}
		}
		if len(s.terminals) > 0 {
			v.screws = append(v.screws, s)
			continue
		}
		for _, i := range s.members {
			atoms.Unite(s.members[0], i)
		}
	}
	v.atom, v.atoms = atoms.Dense()
	classes := sets.New(v.atoms)
	for _, s := range v.screws {
		for _, i := range s.members {
			classes.Unite(v.atom[s.members[0]], v.atom[i])
		}
	}
	number, count := classes.Dense()
	v.class, v.classes = number, make([]class, count)
	v.earthed, v.loneGround = make([]bool, v.atoms), make([]bool, v.atoms)
	held := make([]int, v.atoms)
	for i, e := range v.nodes {
		c := &v.classes[v.class[v.atom[i]]]
		c.ends = append(c.ends, e)
		held[v.atom[i]]++
	}
	for i := range v.classes {
		v.classes[i].ground = v.isGround(&v.classes[i])
	}
	for i, e := range v.nodes {
		a := v.atom[i]
		c := v.classes[v.class[a]]
		v.earthed[a] = c.ground
		v.loneGround[a] = c.ground && len(c.ends) == 1 && e.Box != ""
	}
	v.earthUsed = len(v.misused()) > 0
}

// isGround reports whether a class stands with the ground: with a ground screw, with nothing but cores of the
// ground's colour, or several of those on no other screw. A single core of that colour that stands with
// something else, or is marked as something else, was taken for another purpose: it is a conductor like any
// other, and never a reference.
func (v *view) isGround(c *class) bool {
	colours, others, screws := 0, 0, 0
	for _, e := range c.ends {
		switch {
		case e.Box == "" && e.Part == "ground":
			return true
		case e.Box == "":
			screws++
		case !circuit.GroundColour(e.Part):
			others++
		case v.doc.MarkOn(e) != "" && v.doc.MarkOn(e) != "ground":
			others++
		default:
			colours++
		}
	}
	return colours > 0 && screws == 0 && (others == 0 || colours > 1)
}

// GroundsWhole reports whether nothing seen says that a ground may have no way to the panel: a core of the ground's colour
// that does other work is missing from it.
func (v *view) GroundsWhole() bool { return !v.earthUsed }

// misused lists the core ends of the ground's colour that stand with something else than the ground.
func (v *view) misused() []circuit.End {
	var out []circuit.End
	for i, e := range v.nodes {
		if e.Box != "" && circuit.GroundColour(e.Part) && !v.classes[v.class[v.atom[i]]].ground {
			out = append(out, e)
		}
	}
	return out
}

// addPlaces groups closed boxes that known cables join.
func (v *view) addPlaces() {
	var closed []string
	for _, b := range v.doc.Boxes {
		if !v.open[b.ID] {
			v.placeOf[b.ID] = len(closed)
			closed = append(closed, b.ID)
		}
	}
	s := sets.New(len(closed))
	for _, k := range v.doc.Cables {
		if !k.Stub() && !v.open[*k.Ends[0]] && !v.open[*k.Ends[1]] {
			s.Unite(v.placeOf[*k.Ends[0]], v.placeOf[*k.Ends[1]])
		}
	}
	number, count := s.Dense()
	for _, b := range closed {
		v.placeOf[b] = number[v.placeOf[b]]
	}
	v.places = count
}

// onlyPanel reports whether a place is a panel and nothing else: nothing is spliced there.
func (v *view) onlyPanel(place int) bool {
	for _, b := range v.doc.Boxes {
		if !v.open[b.ID] && v.placeOf[b.ID] == place && b.Kind != circuit.Panel {
			return false
		}
	}
	return place >= 0
}

func (v *view) addStubs() {
	clusters := sets.New(len(v.doc.Boxes))
	at := map[string]int{}
	for i, b := range v.doc.Boxes {
		at[b.ID] = i
	}
	for _, k := range v.doc.Cables {
		if !k.Stub() && v.open[*k.Ends[0]] && v.open[*k.Ends[1]] {
			clusters.Unite(at[*k.Ends[0]], at[*k.Ends[1]])
		}
	}
	number := map[int]int{}
	for _, b := range v.doc.Boxes {
		if v.open[b.ID] {
			if _, ok := number[clusters.Root(at[b.ID])]; !ok {
				number[clusters.Root(at[b.ID])] = len(number)
			}
		}
	}
	v.clusters, v.cluster = len(number), map[string]int{}
	for _, b := range v.doc.Boxes {
		if v.open[b.ID] {
			v.cluster[b.ID] = number[clusters.Root(at[b.ID])]
		}
	}
	for i, k := range v.doc.Cables {
		near, to := "", -1
		for n, box := range k.Ends {
			if box == nil || !v.open[*box] {
				continue
			}
			far := k.Ends[1-n]
			if far != nil && v.open[*far] {
				near = ""
				break
			}
			near = *box
			if far != nil {
				to = v.placeOf[*far]
			}
		}
		if near == "" {
			continue
		}
		s := stub{cable: i, cluster: number[clusters.Root(at[near])], box: near, to: to, panel: v.onlyPanel(to), gauge: k.Gauge, kind: strings.Join(slices.Sorted(slices.Values(k.Cores)), " ")}
		for _, name := range k.Cores {
			node := v.index[circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: name}, Box: near}]
			a := v.atom[node]
			if v.classes[v.class[a]].ground {
				continue
			}
			c := &v.classes[v.class[a]]
			c.cores = append(c.cores, len(v.cores))
			c.panel = c.panel || s.panel
			if !slices.Contains(c.pieces, a) {
				c.pieces = append(c.pieces, a)
			}
			s.cores = append(s.cores, len(v.cores))
			v.cores = append(v.cores, core{len(v.stubs), node, a, v.class[a], name})
		}
		v.stubs = append(v.stubs, s)
	}
}

func (v *view) addDevices() error {
	wanted := map[string]bool{} // switches in closed boxes that somebody flipped
	for _, o := range v.doc.Observations {
		for _, id := range o.Flipped {
			wanted[id] = true
		}
	}
	var closed []control
	for _, d := range v.doc.Devices {
		switch {
		case d.Type == circuit.TypeSupply:
			v.supplies = append(v.supplies, v.thing(d, "hot", "neutral"))
		case d.Type == circuit.TypeLamp:
			v.lamps = append(v.lamps, v.thing(d, "l", "n"))
		case d.Type == circuit.TypeReceptacle:
		case v.open[d.Box]:
			v.switches = append(v.switches, v.control(d))
		case wanted[d.ID]:
			closed = append(closed, v.control(d))
		}
	}
	v.switches = append(v.switches, closed...)
	v.recordedLamps = len(v.lamps)
	if len(v.supplies) == 0 {
		v.supplies = []thing{v.unseen(circuit.Panel)}
	}
	if len(v.lamps) == 0 {
		v.lamps = []thing{v.unseen(circuit.Fixture)}
	}
	for _, b := range v.doc.Boxes {
		if b.Kind == circuit.Switch && !v.open[b.ID] {
			v.closedSwitchBoxes++
		}
	}
	if len(v.switches) > maxSwitches {
		return &Error{circuit.CodeTooManyParts, fmt.Sprintf("devices: %d switches; at most %d are traced at once", len(v.switches), maxSwitches)}
	}
	if len(v.supplies) > maxSupplies {
		return &Error{circuit.CodeTooManyParts, fmt.Sprintf("devices: %d supplies; at most %d are traced at once", len(v.supplies), maxSupplies)}
	}
	for i, l := range v.lamps {
		if l.seen {
			v.classOf(l.atoms[0]).lampL = append(v.classOf(l.atoms[0]).lampL, i)
			v.classOf(l.atoms[1]).lampN = append(v.classOf(l.atoms[1]).lampN, i)
		}
	}
	for i, s := range v.supplies {
		if s.seen {
			v.classOf(s.atoms[0]).hot = append(v.classOf(s.atoms[0]).hot, i)
			v.classOf(s.atoms[1]).neutral = append(v.classOf(s.atoms[1]).neutral, i)
		}
	}
	for _, s := range v.switches {
		for _, n := range s.nodes {
			if s.kind != idle {
				v.classes[v.class[v.atom[n]]].screwed = true
			}
		}
	}
	return nil
}

func (v *view) classOf(atom int) *class { return &v.classes[v.class[atom]] }

func (v *view) thing(d circuit.Device, a, b string) thing {
	if v.open[d.Box] {
		at := func(t string) int { return v.atom[v.terminal[circuit.Ref{Owner: d.ID, Part: t}]] }
		return thing{id: d.ID, box: d.Box, seen: true, atoms: [2]int{at(a), at(b)}, place: -1}
	}
	return thing{id: d.ID, box: d.Box, place: v.placeOf[d.Box]}
}

// unseen makes a lamp or supply that must be there though nobody recorded it: in
// a closed box of its kind where there is one.
func (v *view) unseen(kindOfBox string) thing {
	for _, b := range v.doc.Boxes {
		if b.Kind == kindOfBox && !v.open[b.ID] {
			return thing{box: b.ID, place: v.placeOf[b.ID]}
		}
	}
	return thing{place: -1}
}

// sameCores reports whether two stubs may be the ends of one cable by what they are.
func (v *view) sameCores(x, y int) bool {
	a, b := &v.stubs[x], &v.stubs[y]
	return a.kind == b.kind && (a.gauge == b.gauge || a.gauge == "" || b.gauge == "") && a.to < 0 && b.to < 0
}
