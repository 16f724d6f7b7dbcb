package evidence

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/sets"
	"ambivia/core/trace"
)

// Limits of going through all walls: beyond them a plan is judged by use.
const (
	mostWorlds = 3000
	mostSteps  = 400_000
	mostPorts  = 14 // ends of one net that lead behind a wall
)

// What is taken for granted of walls: no conductor closes a ring on itself, a cable ends in one place, and
// a conductor that a box merely passes on does not come back to where it came from, line and return of a
// light run in the same cables where the record has them so, and each light is on record. All else may be.

// port is an end that leads behind a wall: a core of a cable whose far end was not seen, or the terminal of a
// device there.
type port struct {
	end    int
	sheath int // its cable end, or its device: all of one are in one place
}

// net is the ports of one net of a case with the ways in which walls may join them.
type net struct {
	feed  bool // line or neutral of a supply
	ports []port
	ways  [][]int // the block of each port
}

// everyWorld lists the walls of those cases that the readings leave; sure is false where there are more than
// are gone through.
func (w *Walls) everyWorld(cases []trace.Case) (out []*world, sure bool) {
	steps := 0
	for i := range cases {
		some, ok := w.worldsOf(&cases[i], &steps, mostWorlds)
		if out = append(out, some...); !ok || len(out) > mostWorlds {
			return nil, false
		}
	}
	return out, true
}

// likelyWorlds lists walls of the likeliest cases until there are enough of them.
func (w *Walls) likelyWorlds(cases []trace.Case) (out []*world) {
	steps := 0
	for i := range cases {
		some, _ := w.worldsOf(&cases[i], &steps, mostOfCase)
		if out = append(out, some...); len(out) > mostWorlds || steps > mostSteps {
			break
		}
	}
	return out[:min(mostWorlds, len(out))]
}

// mostOfCase is how many walls of each of the likely cases are thought of where not all are gone through.
const mostOfCase = 4

// worldsOf lists the walls of one case, at most so many; all is false where there are more.
func (w *Walls) worldsOf(c *trace.Case, steps *int, most int) (out []*world, all bool) {
	if c.Hidden {
		return nil, false // a switch of these lights may stand between
	}
	nets := make([]net, 0, len(c.Role))
	for n := 1; n < len(c.Role); n++ {
		ports := w.ports(c, n)
		if len(ports) > mostPorts {
			return nil, false
		}
		if len(ports) == 0 {
			continue
		}
		ways, ok := w.trees(ports)
		if !ok {
			return nil, false
		}
		nets = append(nets, net{c.Role[n] == electric.Line || c.Role[n] == electric.Neutral, ports, ways})
	}
	slices.SortStableFunc(nets, func(a, b net) int { return len(a.ways) - len(b.ways) })
	r := &regions{Walls: w, c: c, nets: nets, steps: steps, most: most, way: make([]int, len(nets))}
	all = r.choose(0, sets.New(w.sheaths))
	for _, x := range r.found {
		if c.Exchanged { // whatever else is so, too
			if y := (&world{blocks: x.blocks, weight: x.weight, swapped: true}); w.agrees(y) {
				out = append(out, y)
			}
		}
		if c.Usual && w.agrees(x) {
			out = append(out, x)
		}
	}
	return out, all
}

// ports lists the ports of a net of a case.
func (w *Walls) ports(c *trace.Case, n int) []port {
	var out []port
	for i := range w.wires {
		if at, known := c.Net[w.names.survey(w.ends[i])]; known && at == n && w.sheath[i] >= 0 {
			out = append(out, port{i, w.sheath[i]})
		}
	}
	hidden := func(id, terminal string, at int) {
		if e, known := w.index[circuit.End{Ref: circuit.Ref{Owner: id, Part: terminal}}]; at == n && known {
			out = append(out, port{e, w.sheath[e]})
		}
	}
	for _, f := range c.Feeds {
		if f.Hidden {
			hidden(f.ID, "hot", f.Hot)
			hidden(f.ID, "neutral", f.Neutral)
		}
	}
	for _, l := range c.Lamps {
		if l.Hidden && l.ID != "" {
			hidden(l.ID, "l", l.L)
			hidden(l.ID, "n", l.N)
		}
	}
	return out
}

// mostTries bounds the search for the ways of one net.
const mostTries = 60_000

// trees lists the ways in which walls may join the ports of a net so that it is whole as found, and no
// conductor of it closes a ring. ok is false where there are too many, or none.
func (w *Walls) trees(ports []port) (out [][]int, ok bool) {
	n := len(ports)
	found := make([]int, n) // a number for each set of ports that hang together in the boxes
	for i, p := range ports {
		found[i] = i
		for k, q := range ports[:i] {
			if w.inSight[p.end] == w.inSight[q.end] {
				found[i] = found[k]
				break
			}
		}
	}
	block, tries := make([]int, n), 0
	var put func(i, blocks int, s sets.Sets)
	put = func(i, blocks int, s sets.Sets) {
		if tries++; tries > mostTries || len(out) > mostWorlds {
			return
		}
		if i == n {
			for k := range n {
				if s.Root(found[k]) != s.Root(found[0]) {
					return
				}
			}
			out = append(out, slices.Clone(block))
			return
		}
		for b := range blocks + 1 {
			if b < blocks && s.Root(n+b) == s.Root(found[i]) {
				continue // a ring
			}
			next := slices.Clone(s)
			next.Unite(found[i], n+b)
			block[i] = b
			put(i+1, max(blocks, b+1), next)
		}
	}
	put(0, 0, sets.New(2*n+1))
	return out, tries <= mostTries && len(out) > 0 && len(out) <= mostWorlds
}

// regions chooses a way for each net so that cables end in one place each.
type regions struct {
	*Walls
	c     *trace.Case
	nets  []net
	way   []int
	steps *int
	most  int // so many are enough
	found []*world
}

// choose chooses for the nets from i on; false where that is too much to go through.
func (r *regions) choose(i int, places sets.Sets) bool {
	if *r.steps++; *r.steps > mostSteps || len(r.found) > r.most {
		return false
	}
	if i == len(r.nets) {
		if x := r.world(); r.crossings(x, places) <= mostCrossings {
			r.found = append(r.found, x)
		}
		return true
	}
	n := &r.nets[i]
	for k, way := range n.ways {
		next := slices.Clone(places)
		for a := range way {
			for b := range a {
				if way[a] == way[b] {
					next.Unite(n.ports[a].sheath, n.ports[b].sheath)
				}
			}
		}
		r.way[i] = k
		if !r.comesBack(i, next) && r.dangling(i) <= mostDangling && !r.choose(i+1, next) {
			return false
		}
	}
	return true
}

// comesBack reports whether a conductor of the first nets, to i, leads out of a place and, through boxes
// that merely pass it on, back to it: it would have been joined there.
func (r *regions) comesBack(i int, places sets.Sets) bool {
	for k := range i + 1 {
		n, way := &r.nets[k], r.nets[k].ways[r.way[k]]
		for a, p := range n.ports {
			if alone(way, a) {
				continue
			}
			for b, q := range n.ports[:a] {
				if way[a] != way[b] && !alone(way, b) && places.Root(p.sheath) == places.Root(q.sheath) {
					return true
				}
			}
		}
	}
	return false
}

// mostDangling is how many cores that end nowhere, spliced in a box to what is used, are thought of. Line
// and neutral of a cable that carries nothing else go on to other rooms and count for none.
const mostDangling = 1

// dangling counts such cores of the first nets, to i.
func (r *regions) dangling(i int) int {
	leads := make([]bool, r.sheaths) // it leads somewhere, or carries what no other room wants
	for k := range i + 1 {
		n, way := &r.nets[k], r.nets[k].ways[r.way[k]]
		for a, p := range n.ports {
			leads[p.sheath] = leads[p.sheath] || !alone(way, a) || !n.feed
		}
	}
	count := 0
	for k := range i + 1 {
		n, way := &r.nets[k], r.nets[k].ways[r.way[k]]
		for a, p := range n.ports {
			if leads[p.sheath] && alone(way, a) && p.end < r.wires && slices.ContainsFunc(n.ports, func(q port) bool {
				return q.end != p.end && r.box(q.end) == r.box(p.end) && r.inSight[q.end] == r.inSight[p.end]
			}) {
				count++
			}
		}
	}
	return count
}

// mostCrossings is how many cables that seem to run straight are thought of as two that meet in a closed
// joint in other colours.
const mostCrossings = 1

// crossings counts the places where nothing but two cables of the same cores meet, in other colours.
func (r *regions) crossings(x *world, places sets.Sets) int {
	sheaths := map[int][]int{} // by place
	for s := range r.sheaths {
		sheaths[places.Root(s)] = append(sheaths[places.Root(s)], s)
	}
	crossed := map[int]bool{}
	for _, b := range x.blocks {
		for _, e := range b[1:] {
			place := places.Root(r.sheath[e])
			if len(sheaths[place]) == 2 && len(b) == 2 && b[0] < r.wires && e < r.wires && r.ends[b[0]].Part != r.ends[e].Part && r.sameCores(b[0], e) {
				crossed[place] = true
			}
		}
	}
	return len(crossed)
}

// sameCores reports whether two ends are of cables, or ends of one, that have the same cores.
func (w *Walls) sameCores(a, b int) bool {
	x, y := w.record.Cable(w.ends[a].Owner), w.record.Cable(w.ends[b].Owner)
	return x.ID == y.ID || slices.Equal(slices.Sorted(slices.Values(x.Cores)), slices.Sorted(slices.Values(y.Cores)))
}

func (w *Walls) box(end int) string { return w.ends[end].Box }

// alone reports whether walls join a port to no other.
func alone(way []int, port int) bool {
	for i, b := range way {
		if i != port && b == way[port] {
			return false
		}
	}
	return true
}

// world is the one that was chosen.
func (r *regions) world() *world {
	x := &world{weight: r.c.Weight}
	for i := range r.nets {
		n, way := &r.nets[i], r.nets[i].ways[r.way[i]]
		by := make([][]int, len(way))
		for k, b := range way {
			by[b] = append(by[b], n.ports[k].end)
		}
		for _, b := range by {
			if len(b) > 1 {
				x.blocks = append(x.blocks, b)
			}
		}
	}
	x.unused = r.unused()
	return x
}

// unused lists the ports of the case that are on no net.
func (r *regions) unused() []int {
	var out []int
	for i := range r.wires {
		if n, known := r.c.Net[r.names.survey(r.ends[i])]; known && n == 0 && r.sheath[i] >= 0 {
			out = append(out, i)
		}
	}
	return out
}

// agrees reports whether a world could have shown all readings.
func (w *Walls) agrees(x *world) bool {
	return !slices.ContainsFunc(w.reads, func(r reading) bool { return !w.may(x, r) })
}
