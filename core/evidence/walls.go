package evidence

import (
	"context"
	"errors"
	"slices"
	"strings"
	"sync"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/sets"
	"ambivia/core/trace"
)

// Walls is everything that may lie behind the walls of one record. Use it from any number of goroutines.
type Walls struct {
	record  *circuit.Circuit // as traced
	survey  *circuit.Circuit // what of it was seen and read
	names   renamed
	seen    map[string]bool // boxes whose inside was seen
	tracer  *trace.Tracer
	index   map[circuit.End]int
	ends    []circuit.End    // core ends that were seen, as the record calls them, then terminals of devices
	wires   int              // how many of those are core ends
	found   []int            // by end: the join of the record that holds it, -1
	base    *world           // the walls that the record has
	lefts   map[string]*left // by the ends that are looked at each by itself
	holding sync.Mutex
	holds   map[string]hold // by the conditions of a test
	reads   []reading       // the readings of the record
	mu      sync.Mutex
	opened  map[string]*Walls // once some closed boxes are open, by those
	// visibly is what hangs together in the boxes alone; sheath numbers by end the cable end or hidden device
	// that it belongs to, -1 for one that leads behind no wall.
	visibly  sets.Sets
	asOpened bool  // closed boxes stand in it as if they had been seen
	inSight  []int // by end: what it hangs together with there, for goroutines that only look
	sheath   []int
	sheaths  int
	// contacts are pairs of ends that some position of a switch may join.
	contacts [][2]int
	loads    [][3]int // lamps that were seen and other loads: device and two terminals
}

// left is what the record and its readings leave. sure: there is nothing else.
type left struct {
	worlds []*world
	sure   bool
}

// leaves finds what is left where a plan touches some ends. Core ends that are bare in an opened box and that it does not
// touch join nothing to anything: each is looked at by itself. The error is the context's.
func (w *Walls) leaves(ctx context.Context, touched []bool) (*left, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	idle, key := w.idle(touched)
	if known, ok := w.lefts[key]; ok {
		return known, nil
	}
	out := &left{}
	if w.tracer != nil {
		cases, all, err := w.tracer.Cases(ctx, idle...)
		if err != nil {
			return nil, err
		}
		if all {
			out.worlds, out.sure = w.everyWorld(cases)
			out.sure = out.sure && len(out.worlds) > 0 // where nothing is left, nothing is known
		}
	}
	if w.lefts == nil {
		w.lefts = map[string]*left{}
	}
	w.lefts[key] = out
	return out, nil
}

// idle lists the core ends that are bare in an opened box and that a plan does not touch, and a key for them.
func (w *Walls) idle(touched []bool) (idle []circuit.End, key string) {
	for i := range w.wires {
		if !touched[i] && w.sheath[i] >= 0 && w.bare(i) {
			idle = append(idle, w.names.survey(w.ends[i]))
			key += w.ends[i].String() + " "
		}
	}
	return idle, key
}

// bare reports whether an end hangs together with nothing in what was seen.
func (w *Walls) bare(n int) bool {
	for i, at := range w.inSight {
		if i != n && at == w.inSight[n] {
			return false
		}
	}
	return true
}

// world is one way in which things may hang together beyond the opened boxes.
type world struct {
	blocks [][]int // ends that are one conductor there, terminals of hidden devices among them
	unused []int   // ends that are on no net as found
	of     *world  // the world that this is a variant of
	weight float64
	// swapped: line and neutral are exchanged at the feed.
	swapped    bool
	once       sync.Once
	report     *inspect.Report // of the circuit as found, there
	weigh      sync.Once
	unbalanced bool // currents of a cable do not sum to zero there, as found
}

// found is the report on the circuit as found in a world.
func (w *Walls) foundIn(x *world) *inspect.Report {
	x.once.Do(func() { x.report = inspect.Compile(w.build(w.record, x)).Report() })
	return x.report
}

// byTheBook reports whether what carries a light's current runs out and back in the same cables in a world,
// or does not in the record either.
func (w *Walls) byTheBook(x *world) bool { return w.balanced(x) || !w.balanced(w.base) }

func (w *Walls) balanced(x *world) bool {
	if x.of != nil {
		x = x.of // what nothing uses carries no current
	}
	x.weigh.Do(func() {
		x.unbalanced = slices.ContainsFunc(electric.Explore(electric.New(w.build(w.record, x))).States, func(s electric.StateResult) bool {
			return slices.ContainsFunc(s.Faults, func(f electric.Fault) bool { return f.Kind == electric.CableUnbalanced })
		})
	})
	return !x.unbalanced
}

// Look finds all that may lie behind the walls of a record. It returns nil where nothing of the record was
// traced, and the context's error when that ends.
func Look(ctx context.Context, record *circuit.Circuit) (*Walls, error) {
	if Certain(record) {
		return nil, nil
	}
	return look(ctx, record)
}

// opening is the walls of the record once some closed boxes are open and show what it has of them.
func (w *Walls) opening(ctx context.Context, boxes []string) (*Walls, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	key := strings.Join(boxes, " ")
	if known, ok := w.opened[key]; ok {
		return known, nil
	}
	c := *w.record
	c.Boxes, c.Evidence = slices.Clone(c.Boxes), slices.Clone(c.Evidence)
	for i := range c.Boxes {
		if slices.Contains(boxes, c.Boxes[i].ID) {
			is := true
			c.Boxes[i].Opened = &is
		}
	}
	for i := range c.Evidence {
		if end, err := circuit.ParseEnd(c.Evidence[i].Of); err == nil && slices.Contains(boxes, end.Box) {
			c.Evidence[i].How = circuit.Seen
		}
	}
	open, err := look(ctx, &c)
	if err != nil {
		return nil, err
	}
	open.asOpened = true
	if w.opened == nil {
		w.opened = map[string]*Walls{}
	}
	w.opened[key] = open
	return open, nil
}

func look(ctx context.Context, record *circuit.Circuit) (*Walls, error) {
	w := &Walls{record: record, seen: SeenBoxes(record), index: map[circuit.End]int{}}
	w.survey, w.names = survey(record)
	w.number()
	w.base = w.recorded()
	tracer, err := trace.New(ctx, w.survey)
	var refused *trace.Error
	switch {
	case errors.As(err, &refused): // too much to be gone through: everything that may be, may be
		return w, nil
	case err != nil:
		return nil, err
	}
	w.tracer = tracer
	for _, o := range record.Observations {
		if o.Reading != nil && o.Reading != circuit.Unclear {
			w.reads = append(w.reads, w.readingOf(o))
		}
	}
	return w, nil
}

// bothEnds are the boxes of a cable in the order in which the record lists boxes: which end of a cable was written
// down first says nothing.
func (w *Walls) bothEnds(k circuit.Cable) []*string {
	place := func(box *string) int {
		return slices.IndexFunc(w.record.Boxes, func(b circuit.Box) bool { return box != nil && b.ID == *box })
	}
	if place(k.Ends[1]) < place(k.Ends[0]) {
		return []*string{k.Ends[1], k.Ends[0]}
	}
	return k.Ends[:]
}

// number numbers the ends and finds what of the visible part never depends on a plan.
func (w *Walls) number() {
	c := w.record
	add := func(e circuit.End) {
		w.index[e] = len(w.ends)
		w.ends = append(w.ends, e)
	}
	for _, k := range c.Cables {
		for _, box := range w.bothEnds(k) {
			if box == nil || !w.seen[*box] {
				continue
			}
			for _, core := range k.Cores {
				if e := (circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}); !w.grounded(e) {
					add(e)
				}
			}
		}
	}
	w.wires = len(w.ends)
	for _, d := range c.Devices {
		for _, t := range c.Terminals(d) {
			if t != "ground" {
				add(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}})
			}
		}
	}
	w.found = make([]int, len(w.ends))
	for i := range w.found {
		w.found[i] = -1
	}
	for i, j := range c.Joins {
		for _, r := range j.Of {
			if n, ok := w.at(r, j.Box); ok {
				w.found[n] = i
			}
		}
	}
	w.visibly = sets.New(len(w.ends))
	w.visible(c, w.numberOf, func(a, b int) { w.visibly.Unite(a, b) })
	w.inSight, _ = w.visibly.Dense()
	w.sheathe()
	for _, d := range c.Devices {
		at := func(t string) int {
			n, ok := w.index[circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}]
			if !ok {
				return -1
			}
			return n
		}
		pair := func(a, b string) {
			if x, y := at(a), at(b); x >= 0 && y >= 0 {
				w.contacts = append(w.contacts, [2]int{x, y})
			}
		}
		switch d.Type {
		case circuit.TypeSinglePole:
			pair("a", "b")
		case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
			pair("common", "t1")
			pair("common", "t2")
		case circuit.TypeFourWay:
			for _, a := range []string{"a1", "a2"} {
				for _, b := range []string{"b1", "b2"} {
					pair(a, b)
				}
			}
		case circuit.TypeLamp, circuit.TypeReceptacle:
			w.loads = append(w.loads, [3]int{0, at("l"), at("n")})
		case circuit.TypeSupply:
			w.loads = append(w.loads, [3]int{1, at("hot"), at("neutral")})
		}
	}
}

// sheathe numbers what leads behind the walls as a whole.
func (w *Walls) sheathe() {
	w.sheath = make([]int, len(w.ends))
	open := map[string]bool{}
	w.openCables(func(k circuit.Cable) { open[k.ID] = true })
	number := map[circuit.End]int{}
	for i, e := range w.ends {
		w.sheath[i] = -1
		of := circuit.End{Ref: circuit.Ref{Owner: e.Owner}, Box: e.Box}
		switch d := w.record.Device(e.Owner); {
		case d != nil && w.seen[d.Box], d == nil && !open[e.Owner]:
			continue
		}
		n, known := number[of]
		if !known {
			n = len(number)
			number[of] = n
		}
		w.sheath[i] = n
	}
	w.sheaths = len(number)
}

// openCables hands out the cables of the record whose two ends were not seen to belong together.
func (w *Walls) openCables(take func(circuit.Cable)) {
	known := how(w.record)
	for _, k := range w.record.Cables {
		sure := (known[k.ID] == "" || known[k.ID] == circuit.Seen) && k.Ends[0] != nil && k.Ends[1] != nil && w.seen[*k.Ends[0]] && w.seen[*k.Ends[1]]
		if !sure {
			take(k)
		}
	}
}

// grounded reports whether an end stands with the ground, or is a core of its colour that stands alone.
func (w *Walls) grounded(e circuit.End) bool {
	if !circuit.GroundColour(e.Part) {
		return false
	}
	j := w.record.JoinOf(e.Box, e.Ref)
	return j < 0 || slices.ContainsFunc(w.record.Joins[j].Of, func(r circuit.Ref) bool {
		return r != e.Ref && (circuit.GroundColour(r.Part) && w.record.Cable(r.Owner) != nil || r.Part == "ground")
	})
}

// at is the number of a member of a join of the record.
func (w *Walls) at(r circuit.Ref, box string) (int, bool) {
	if n, ok := w.index[circuit.End{Ref: r, Box: box}]; ok {
		return n, true
	}
	n, ok := w.index[circuit.End{Ref: r}]
	return n, ok
}

// visible unites what a document joins in boxes that were seen, or that it adds, and along cables whose
// two ends were seen to belong together, or that it adds. number finds an end, and numbers a new one.
func (w *Walls) visible(c *circuit.Circuit, number func(circuit.End) int, unite func(a, b int)) {
	known := how(w.record)
	for _, j := range c.Joins {
		if w.record.Box(j.Box) != nil && !w.seen[j.Box] {
			continue
		}
		first := -1
		for _, r := range j.Of {
			e := circuit.End{Ref: r}
			if c.Cable(r.Owner) != nil {
				e.Box = j.Box
			}
			n := number(e)
			if n < 0 {
				continue
			}
			if first < 0 {
				first = n
			}
			unite(first, n)
		}
	}
	for _, k := range c.Cables {
		fresh := w.record.Cable(k.ID) == nil
		sure := (known[k.ID] == "" || known[k.ID] == circuit.Seen) && k.Ends[0] != nil && k.Ends[1] != nil && w.seen[*k.Ends[0]] && w.seen[*k.Ends[1]]
		if !fresh && !sure {
			continue
		}
		for _, core := range k.Cores {
			r := circuit.Ref{Owner: k.ID, Part: core}
			a, b := number(circuit.End{Ref: r, Box: *k.Ends[0]}), number(circuit.End{Ref: r, Box: *k.Ends[1]})
			if a >= 0 && b >= 0 {
				unite(a, b)
			}
		}
	}
}

func (w *Walls) numberOf(e circuit.End) int {
	if n, ok := w.index[e]; ok {
		return n
	}
	return -1
}

// recorded is the world that the record has: what hangs together through what was not seen.
func (w *Walls) recorded() *world {
	c, known := w.record, how(w.record)
	behind := map[circuit.End]int{}
	number := func(e circuit.End) int {
		if n, ok := w.index[e]; ok {
			return n
		}
		n, ok := behind[e]
		if !ok {
			n = len(w.ends) + len(behind)
			behind[e] = n
		}
		return n
	}
	var pairs [][2]int
	for _, k := range c.Cables {
		if k.Ends[0] == nil || k.Ends[1] == nil {
			continue
		}
		if (known[k.ID] == "" || known[k.ID] == circuit.Seen) && w.seen[*k.Ends[0]] && w.seen[*k.Ends[1]] {
			continue
		}
		for _, core := range k.Cores {
			r := circuit.Ref{Owner: k.ID, Part: core}
			pairs = append(pairs, [2]int{number(circuit.End{Ref: r, Box: *k.Ends[0]}), number(circuit.End{Ref: r, Box: *k.Ends[1]})})
		}
	}
	for _, j := range c.Joins {
		if w.seen[j.Box] {
			continue
		}
		for _, r := range j.Of {
			e := circuit.End{Ref: r}
			if c.Cable(r.Owner) != nil {
				e.Box = j.Box
			}
			to := circuit.End{Ref: j.Of[0]}
			if c.Cable(j.Of[0].Owner) != nil {
				to.Box = j.Box
			}
			pairs = append(pairs, [2]int{number(e), number(to)})
		}
	}
	s := sets.New(len(w.ends) + len(behind))
	for _, p := range pairs {
		s.Unite(p[0], p[1])
	}
	return &world{blocks: blocksOf(s, len(w.ends)), weight: 1}
}

// blocksOf lists the sets of more than one among the first n numbers.
func blocksOf(s sets.Of[int], n int) [][]int {
	by := map[int][]int{}
	for i := range n {
		r := s.Root(i)
		by[r] = append(by[r], i)
	}
	var out [][]int
	for i := range n {
		if b := by[s.Root(i)]; len(b) > 1 && b[0] == i {
			out = append(out, b)
		}
	}
	return out
}

// alongCables unites the two ends of each core that was seen to be one.
func (w *Walls) alongCables(unite func(a, b int)) {
	w.visible(&circuit.Circuit{Cables: w.record.Cables}, w.numberOf, unite)
}
