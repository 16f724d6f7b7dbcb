package evidence

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/sets"
)

// plan is a document that a record is to become, as far as walls concern it.
type plan struct {
	*Walls
	*left
	compiled *inspect.Compiled
	after    *circuit.Circuit
	nodes    map[circuit.End]int // ends that the plan adds, after those of the record
	count    int
	pairs    [][2]int // what it joins where it was seen, or adds
	judged   []int    // terminals of the finished work, then core ends that move
	screws   int      // how many of those are terminals
	touched  []bool   // by end of the record: joined otherwise afterwards
	report   *inspect.Report
	want     []int // what the judged stand with, behind the walls of the record
}

// planned reads what a plan changes.
func (w *Walls) planned(compiled *inspect.Compiled) *plan {
	after := compiled.Doc
	p := &plan{Walls: w, compiled: compiled, after: after, nodes: map[circuit.End]int{}, count: len(w.ends), touched: make([]bool, len(w.ends))}
	number := func(e circuit.End) int {
		if n, ok := w.index[e]; ok {
			return n
		}
		if e.Box == "" && e.Part == "ground" || e.Box != "" && w.record.Cable(e.Owner) != nil {
			return -1 // a ground, or an end that was not seen
		}
		n, ok := p.nodes[e]
		if !ok {
			n = p.count
			p.nodes[e] = n
			p.count++
		}
		return n
	}
	w.visible(after, number, func(a, b int) { p.pairs = append(p.pairs, [2]int{a, b}) })
	now := make([][]circuit.Ref, len(w.ends))
	for _, j := range after.Joins {
		for _, r := range j.Of {
			if n, ok := w.at(r, j.Box); ok {
				now[n] = j.Of
			}
		}
	}
	for i := range w.ends {
		var was []circuit.Ref
		if w.found[i] >= 0 {
			was = w.record.Joins[w.found[i]].Of
		}
		p.touched[i] = !sameMembers(was, now[i])
	}
	for _, d := range after.Devices {
		for _, t := range after.Terminals(d) {
			if t != "ground" {
				if n := number(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}); n >= 0 {
					p.judged = append(p.judged, n)
				}
			}
		}
	}
	p.screws = len(p.judged)
	for i := range w.wires {
		if p.touched[i] {
			p.judged = append(p.judged, i)
		}
	}
	p.want = p.meets(w.base.blocks)
	p.report = compiled.Report()
	return p
}

func sameMembers(a, b []circuit.Ref) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(r circuit.Ref) bool { return !slices.Contains(b, r) })
}

// meets says for each judged end what it stands with once the work is done, where walls join these blocks:
// the place of the first terminal among the judged, -1 for none.
func (p *plan) meets(blocks [][]int) []int {
	s := sets.New(p.count)
	for _, pair := range p.pairs {
		s.Unite(pair[0], pair[1])
	}
	for _, b := range blocks {
		for _, e := range b[1:] {
			s.Unite(b[0], e)
		}
	}
	first := make([]int, p.count) // by root, one more
	out := make([]int, len(p.judged))
	for i, n := range p.judged {
		root := s.Root(n)
		if first[root] == 0 && i < p.screws {
			first[root] = i + 1
		}
		out[i] = first[root] - 1
	}
	return out
}

// failing lists the worlds, among all that the record and its readings leave, in which the plan is not
// what it should be. sure is false where there are more than are gone through.
// The context ends it, and then nothing is sure.
func (p *plan) failing(ctx context.Context) (out []*world, sure bool) {
	if !p.sure {
		return nil, false
	}
	return p.failingOf(ctx, p.worlds)
}

// failingOf is failing for some worlds.
func (p *plan) failingOf(ctx context.Context, worlds []*world) (out []*world, sure bool) {
	verdict := map[string]bool{} // by what meets what: whether it works all the same
	for i, x := range worlds {
		if i%16 == 0 && ctx.Err() != nil {
			return nil, false
		}
		if x.swapped {
			if (len(p.hots()) > 1 || !slices.Equal(p.meets(p.turned(x)), p.want)) && p.byTheBook(x) { // of several feeds any one may be exchanged
				out = append(out, x)
			}
			continue
		}
		spares := p.spares(x)
		if spares == nil {
			return nil, false
		}
		for _, y := range spares {
			meets := p.meets(y.blocks)
			if slices.Equal(meets, p.want) || !p.byTheBook(y) {
				continue
			}
			key := keyOf(meets)
			works, known := verdict[key]
			if !known {
				works = p.trial(y)
				verdict[key] = works
			}
			if !works {
				out = append(out, y)
			}
		}
		if len(out) > mostWorlds {
			return nil, false
		}
	}
	return out, true
}

// turned are the blocks of a world whose feed is exchanged as they really are: what is said to hang on line hangs on neutral.
func (w *Walls) turned(x *world) [][]int {
	other := map[int]int{}
	for _, l := range w.loads {
		if l[0] == 1 && l[1] >= 0 && l[2] >= 0 {
			other[l[1]], other[l[2]] = l[2], l[1]
		}
	}
	out := make([][]int, len(x.blocks))
	for i, b := range x.blocks {
		for _, e := range b {
			if to, supply := other[e]; supply {
				e = to
			}
			out[i] = append(out[i], e)
		}
	}
	return out
}

func keyOf(meets []int) string {
	out := make([]byte, 0, 2*len(meets))
	for _, n := range meets {
		out = append(out, byte(n), byte(n>>8))
	}
	return string(out)
}

// mostSpares bounds how many unused conductors that a plan takes are joined in every way.
const mostSpares = 6

// spares lists a world in every way in which walls may join the conductors that nothing used and that the
// plan takes: each may be one with any other, or end nowhere; nil where they are too many.
func (p *plan) spares(x *world) []*world {
	var used []int
	for _, e := range x.unused {
		if p.touched[e] {
			used = append(used, e)
		}
	}
	if len(used) == 0 {
		return []*world{x}
	}
	if len(used) > mostSpares {
		return nil
	}
	out := []*world{}
	var telling []reading // those that touch one of them
	for _, r := range p.reads {
		if slices.ContainsFunc(r.at, func(n int) bool { return slices.Contains(x.unused, n) }) || len(r.Tied) > 0 {
			telling = append(telling, r)
		}
	}
	partitions(len(used), func(block []int) {
		by := make([][]int, len(used))
		for i, b := range block {
			by[b] = append(by[b], used[i])
		}
		y := &world{weight: x.weight, blocks: slices.Clone(x.blocks), of: x}
		for _, b := range by {
			if len(b) > 1 {
				y.blocks = append(y.blocks, b)
			}
		}
		if !slices.ContainsFunc(telling, func(r reading) bool { return !p.may(y, r) }) {
			out = append(out, y)
		}
	})
	return out
}

// partitions hands out every way of sorting n things into blocks, as the block of each.
func partitions(n int, take func(block []int)) {
	block := make([]int, n)
	var put func(i, blocks int)
	put = func(i, blocks int) {
		if i == n {
			take(block)
			return
		}
		for b := range blocks + 1 {
			block[i] = b
			put(i+1, max(blocks, b+1))
		}
	}
	put(0, 0)
}
