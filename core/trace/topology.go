package trace

import (
	"context"
	"slices"
)

// maxTopologies bounds how many ways of running the cables are gone through.
const maxTopologies = 400_000

// topology says which stubs meet beyond the opened boxes. A region is what lies
// there and hangs together: the two ends of one cable, a closed box, or several
// closed boxes with the cables between them. Boxes and regions form a tree, but
// that two cables may run side by side between one box and one region.
type topology struct {
	region  []int8 // by stub
	regions int
	bound   float64     // weight at best
	joints  int         // regions where cables meet in a box that nobody opened
	twins   []twin      // cores that would go on in each other
	cables  uint32      // regions that seem to be one cable
	stubs   [][]int     // by region: those that meet there
	beside  float64     // weight of cables that run side by side
	plain   float64     // weight where no hidden device is anywhere
	near    []side      // by stub: what hangs together on its own box's side of it
	doubled int         // cables that run beside another one
	places  []placement // of hidden devices, once somebody asked
	dist    [][]int8    // steps between regions, once somebody asked
}

// twin is two cores of one name at the ends of what seems to be one cable, with their
// classes and the region.
type twin struct{ core, other, class, otherClass, region int16 }

// topologies lists every way in which the stubs can meet, so that all opened
// boxes hang together.
func (v *view) topologies(ctx context.Context) ([]topology, error) {
	e := &meeting{view: v, ctx: ctx, region: make([]int8, len(v.stubs)), sets: newSets(v.clusters + len(v.stubs))}
	e.place(0, 0, 0, v.clusters)
	return e.out, e.err
}

type meeting struct {
	*view
	ctx    context.Context
	region []int8
	sets   sets // clusters, then regions; copied on change
	out    []topology
	err    error
}

// place decides for stub i; parts counts what does not hang together yet.
func (e *meeting) place(i, regions, doubled, parts int) {
	if e.err != nil || parts-1 > len(e.stubs)-i {
		return
	}
	if i == len(e.stubs) {
		if parts == 1 || e.clusters <= 1 && regions == 0 {
			t := topology{region: slices.Clone(e.region), regions: regions, doubled: doubled}
			e.out = append(e.out, t)
			if len(e.out) > maxTopologies {
				e.err = &Error{"too-many-worlds", "cables: there are too many ways in which these could run. Join what is known to be one cable, or open another box"}
			}
			if len(e.out)%1024 == 0 && e.ctx.Err() != nil {
				e.err = e.ctx.Err()
			}
		}
		return
	}
	s := e.stubs[i]
	known := -1 // the region of a stub that is known to end at the same place
	for k := range i {
		if s.to >= 0 && e.stubs[k].to == s.to {
			known = int(e.region[k])
		}
	}
	for r := 0; r <= regions; r++ {
		if known >= 0 && r != known || r < regions && known < 0 && e.atPanel(i, r) {
			continue
		}
		e.region[i] = int8(r)
		if r == regions { // a region of its own adds a part and joins it
			before := slices.Clone(e.sets)
			e.sets.unite(e.clusters+r, s.cluster)
			e.place(i+1, regions+1, doubled, parts)
			copy(e.sets, before)
			continue
		}
		if e.sets.root(e.clusters+r) != e.sets.root(s.cluster) {
			before := slices.Clone(e.sets)
			e.sets.unite(e.clusters+r, s.cluster)
			e.place(i+1, regions, doubled, parts-1)
			copy(e.sets, before)
			continue
		}
		// It would close a ring, unless it runs beside one from the same box.
		beside := 0
		for k := range i {
			if int(e.region[k]) == r && e.stubs[k].box == s.box {
				beside++
			}
		}
		if beside == 1 && (doubled < 2 || known >= 0) {
			e.place(i+1, regions, doubled+1, parts)
		}
	}
}

// atPanel reports whether a stub that does not end in a panel would meet one that does:
// nothing is spliced in a panel.
func (e *meeting) atPanel(i, region int) bool {
	if to := e.stubs[i].to; to >= 0 && e.panels[to] {
		return true
	}
	for k := range i {
		if to := e.stubs[k].to; int(e.region[k]) == region && to >= 0 && e.panels[to] {
			return true
		}
	}
	return false
}

// distances counts the steps from region to region through opened boxes.
func (v *view) distances(t *topology) [][]int8 {
	if t.dist != nil {
		return t.dist
	}
	dist := make([][]int8, t.regions)
	for r := range dist {
		dist[r] = make([]int8, t.regions)
		for i := range dist[r] {
			dist[r][i] = -1
		}
		dist[r][r] = 0
		queue := []int8{int8(r)}
		for len(queue) > 0 {
			at := queue[0]
			queue = queue[1:]
			for i, ri := range t.region {
				for k, rk := range t.region {
					if ri == at && v.stubs[i].cluster == v.stubs[k].cluster && dist[r][rk] < 0 {
						dist[r][rk] = dist[r][at] + 1
						queue = append(queue, rk)
					}
				}
			}
		}
	}
	t.dist = dist
	return dist
}

// side is what lies on one side of a stub: clusters of opened boxes and regions, as
// bits. A stub beside which another runs has no sides.
type side struct {
	clusters, regions uint32
	whole             bool // everything lies here
}

// sides finds what lies on the box's side of each stub.
func (v *view) sidesOf(t *topology) []side {
	out := make([]side, len(v.stubs))
	for s := range out {
		d := side{clusters: 1 << v.stubs[s].cluster}
		for grown := true; grown; {
			grown = false
			for k, r := range t.region {
				if k == s {
					continue
				}
				c := uint32(1) << v.stubs[k].cluster
				switch inC, inR := d.clusters&c != 0, d.regions>>r&1 == 1; {
				case inC && !inR:
					d.regions |= 1 << r
					grown = true
				case inR && !inC:
					d.clusters |= c
					grown = true
				}
			}
		}
		d.whole = d.regions>>t.region[s]&1 == 1
		out[s] = d
	}
	return out
}
