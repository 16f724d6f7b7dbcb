package trace

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
)

// Limits of what is traced: beyond them the ways in which walls can join things
// are too many to be gone through.
const (
	maxStubs    = 24
	maxSwitches = 10
	maxBits     = 13 // unknown positions and crossings of one world
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
	screws     []screw
	terminal   map[circuit.Ref]int // node of each terminal in an opened box

	cores    []core
	stubs    []stub
	clusters int
	cluster  map[string]int // by opened box

	switches []control
	lamps    []thing
	supply   thing
	outlets  [][2]int // atoms between which something small may be plugged in
	places   int      // groups of closed boxes that known cables join
	placeOf  map[string]int
	panels   map[int]bool // places that are a panel and nothing else

	hidden int // number of hidden terminals; their points follow the cores
}

// class is one conductor as far as it can be seen.
type class struct {
	ends    []circuit.End
	cores   []int // of stubs
	screwed bool  // a switch that works stands on it
	ground  bool
	hot     bool
	neutral bool
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
	to      int // place where it is known to end, or -1
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

// thing is a lamp or the supply: two terminals, seen or hidden.
type thing struct {
	id     string // "" where the record does not have it
	seen   bool
	atoms  [2]int // when seen
	hidden [2]int // hidden terminals when not
	place  int
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
		if d.Type == circuit.TypeSmart {
			return nil, &Error{"smart-device", fmt.Sprintf("devices: %s is a smart device; tracing is for circuits as found", d.ID)}
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
	atoms := newSets(len(v.nodes))
	for _, k := range v.doc.Cables {
		if k.Stub() || !v.open[*k.Ends[0]] || !v.open[*k.Ends[1]] {
			continue
		}
		for _, name := range k.Cores {
			r := circuit.Ref{Owner: k.ID, Part: name}
			atoms.unite(v.member(r, *k.Ends[0]), v.member(r, *k.Ends[1]))
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
			atoms.unite(s.members[0], i)
		}
	}
	v.atom, v.atoms = atoms.dense()
	classes := newSets(v.atoms)
	for _, s := range v.screws {
		for _, i := range s.members {
			classes.unite(v.atom[s.members[0]], v.atom[i])
		}
	}
	number, count := classes.dense()
	v.class, v.classes = number, make([]class, count)
	v.earthed, v.loneGround = make([]bool, v.atoms), make([]bool, v.atoms)
	held := make([]int, v.atoms)
	for i, e := range v.nodes {
		c := &v.classes[v.class[v.atom[i]]]
		c.ends = append(c.ends, e)
		held[v.atom[i]]++
		if e.Box != "" && circuit.GroundColour(e.Part) || e.Box == "" && e.Part == "ground" {
			c.ground = true
		}
	}
	for i, e := range v.nodes {
		a := v.atom[i]
		c := v.classes[v.class[a]]
		v.earthed[a] = c.ground
		v.loneGround[a] = c.ground && len(c.ends) == 1 && e.Box != ""
	}
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
	s := newSets(len(closed))
	for _, k := range v.doc.Cables {
		if !k.Stub() && !v.open[*k.Ends[0]] && !v.open[*k.Ends[1]] {
			s.unite(v.placeOf[*k.Ends[0]], v.placeOf[*k.Ends[1]])
		}
	}
	number, count := s.dense()
	for _, b := range closed {
		v.placeOf[b] = number[v.placeOf[b]]
	}
	v.places, v.panels = count, map[int]bool{}
	for p := range count {
		v.panels[p] = true
	}
	for _, b := range v.doc.Boxes {
		if !v.open[b.ID] && b.Kind != circuit.Panel {
			v.panels[v.placeOf[b.ID]] = false
		}
	}
}

func (v *view) addStubs() {
	clusters := newSets(len(v.doc.Boxes))
	at := map[string]int{}
	for i, b := range v.doc.Boxes {
		at[b.ID] = i
	}
	for _, k := range v.doc.Cables {
		if !k.Stub() && v.open[*k.Ends[0]] && v.open[*k.Ends[1]] {
			clusters.unite(at[*k.Ends[0]], at[*k.Ends[1]])
		}
	}
	number := map[int]int{}
	for _, b := range v.doc.Boxes {
		if v.open[b.ID] {
			if _, ok := number[clusters.root(at[b.ID])]; !ok {
				number[clusters.root(at[b.ID])] = len(number)
			}
		}
	}
	v.clusters, v.cluster = len(number), map[string]int{}
	for _, b := range v.doc.Boxes {
		if v.open[b.ID] {
			v.cluster[b.ID] = number[clusters.root(at[b.ID])]
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
		s := stub{cable: i, cluster: number[clusters.root(at[near])], box: near, to: to}
		for _, name := range k.Cores {
			node := v.index[circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: name}, Box: near}]
			a := v.atom[node]
			if v.classes[v.class[a]].ground {
				continue
			}
			c := &v.classes[v.class[a]]
			c.cores = append(c.cores, len(v.cores))
			s.cores = append(s.cores, len(v.cores))
			v.cores = append(v.cores, core{len(v.stubs), node, a, v.class[a], name})
		}
		v.stubs = append(v.stubs, s)
	}
}

// homes lists the cluster of boxes of each class.
func (v *view) homes() []int8 {
	out := make([]int8, len(v.classes))
	for i, c := range v.classes {
		box := c.ends[0].Box
		if box == "" {
			box = v.doc.Device(c.ends[0].Owner).Box
		}
		out[i] = int8(v.cluster[box])
	}
	return out
}

// hide makes hidden terminals.
func (v *view) hide(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = v.hidden
		v.hidden++
	}
	return out
}

func (v *view) addDevices() error {
	v.supply.place = -1
	found := map[string]int{}
	for _, d := range v.doc.Devices {
		found[d.Type]++
		switch d.Type {
		case circuit.TypeSupply:
			if found[d.Type] > 1 {
				return &Error{"two-supplies", fmt.Sprintf("devices: %s is a second supply; one circuit is traced at a time", d.ID)}
			}
			v.supply = v.thing(d, "hot", "neutral")
		case circuit.TypeLamp:
			v.lamps = append(v.lamps, v.thing(d, "l", "n"))
		case circuit.TypeReceptacle:
			if v.open[d.Box] {
				t := v.thing(d, "l", "n")
				v.outlets = append(v.outlets, t.atoms)
			}
		default:
			v.switches = append(v.switches, v.control(d))
		}
	}
	if found[circuit.TypeSupply] == 0 {
		v.supply = v.unseen(circuit.Panel)
	}
	if len(v.lamps) == 0 {
		v.lamps = append(v.lamps, v.unseen(circuit.Fixture))
	}
	v.addUnseenSwitches()
	for len(v.lamps) < v.lights() { // each light has a lamp somewhere
		h := v.hide(2)
		v.lamps = append(v.lamps, thing{hidden: [2]int{h[0], h[1]}, place: -1})
	}
	if len(v.switches) > maxSwitches {
		return &Error{circuit.CodeTooManyParts, fmt.Sprintf("devices: %d switches; at most %d are traced at once", len(v.switches), maxSwitches)}
	}
	for i := range v.lamps {
		if l := v.lamps[i]; l.seen {
			v.classes[v.class[l.atoms[0]]].lampL = append(v.classes[v.class[l.atoms[0]]].lampL, i)
			v.classes[v.class[l.atoms[1]]].lampN = append(v.classes[v.class[l.atoms[1]]].lampN, i)
		}
	}
	if v.supply.seen {
		v.classes[v.class[v.supply.atoms[0]]].hot = true
		v.classes[v.class[v.supply.atoms[1]]].neutral = true
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

func (v *view) thing(d circuit.Device, a, b string) thing {
	if v.open[d.Box] {
		at := func(t string) int { return v.atom[v.terminal[circuit.Ref{Owner: d.ID, Part: t}]] }
		return thing{id: d.ID, seen: true, atoms: [2]int{at(a), at(b)}, place: -1}
	}
	h := v.hide(2)
	return thing{id: d.ID, hidden: [2]int{h[0], h[1]}, place: v.placeOf[d.Box]}
}

// unseen makes a lamp or supply that must be there though nobody recorded it: in
// a closed box of its kind where there is one.
func (v *view) unseen(kindOfBox string) thing {
	h := v.hide(2)
	t := thing{hidden: [2]int{h[0], h[1]}, place: -1}
	for _, b := range v.doc.Boxes {
		if b.Kind == kindOfBox && !v.open[b.ID] {
			t.place = v.placeOf[b.ID]
			break
		}
	}
	return t
}

// sets is a union-find forest over small integers.
type sets []int

func newSets(n int) sets {
	s := make(sets, n)
	for i := range s {
		s[i] = i
	}
	return s
}

func (s sets) root(i int) int {
	for s[i] != i {
		s[i] = s[s[i]]
		i = s[i]
	}
	return i
}

func (s sets) unite(a, b int) { s[s.root(a)] = s.root(b) }

func (s sets) dense() (number []int, count int) {
	number = make([]int, len(s))
	by := map[int]int{}
	for i := range s {
		r := s.root(i)
		if _, ok := by[r]; !ok {
			by[r] = len(by)
		}
		number[i] = by[r]
	}
	return number, len(by)
}

// sameCores reports whether two stubs may be the ends of one cable by what they are.
func (v *view) sameCores(x, y int) bool {
	a, b := v.doc.Cables[v.stubs[x].cable], v.doc.Cables[v.stubs[y].cable]
	return (a.Gauge == b.Gauge || a.Gauge == "" || b.Gauge == "") && v.stubs[x].to < 0 && v.stubs[y].to < 0 &&
		slices.Equal(slices.Sorted(slices.Values(a.Cores)), slices.Sorted(slices.Values(b.Cores)))
}

// sameNames lists for each two stubs in different boxes that may be the ends of one
// cable the pairs of cores of one name; nil for all others.
func (v *view) sameNames() [][][][2]int {
	out := make([][][][2]int, len(v.stubs))
	for x := range v.stubs {
		out[x] = make([][][2]int, len(v.stubs))
		for y := range v.stubs {
			if v.stubs[x].box == v.stubs[y].box || !v.sameCores(x, y) {
				continue
			}
			out[x][y] = [][2]int{}
			for _, a := range v.stubs[x].cores {
				for _, b := range v.stubs[y].cores {
					if v.cores[a].name == v.cores[b].name {
						out[x][y] = append(out[x][y], [2]int{a, b})
					}
				}
			}
		}
	}
	return out
}
