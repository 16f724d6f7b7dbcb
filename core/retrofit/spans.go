package retrofit

import (
	"cmp"
	"slices"

	"ambivia/core/circuit"
)

// tree is the boxes with the cables between them. Cables side by side between one pair of
// boxes are one span. Spans may close rings: then each net has a tree of its own.
type tree struct {
	spans []span
	near  []map[string]bool // by span: the boxes on the side of its first box
	root  map[string]string
	place map[string]int // of boxes, in the order of the circuit
	rings bool
}

// route is how a net may run where cables close rings: a tree of spans, with the boxes on the side
// of the first box of each, nil for a span that it leaves.
type route []map[string]bool

type span struct {
	a, b   string
	cables []circuit.Cable
}

func newTree(c *circuit.Circuit) *tree {
	t := &tree{root: map[string]string{}, place: map[string]int{}}
	for i, b := range c.Boxes {
		t.place[b.ID] = i
	}
	for _, k := range c.Cables {
		if k.Stub() {
			continue
		}
		i := slices.IndexFunc(t.spans, func(s span) bool { return k.In(s.a) && k.In(s.b) })
		if i < 0 {
			t.spans = append(t.spans, span{a: *k.Ends[0], b: *k.Ends[1]})
			i = len(t.spans) - 1
		}
		t.spans[i].cables = append(t.spans[i].cables, k)
	}
	all := func(int) bool { return true }
	for i, s := range t.spans {
		t.near = append(t.near, t.side(s.a, i, all))
		t.rings = t.rings || t.near[i][s.b]
	}
	for _, b := range c.Boxes {
		if _, known := t.root[b.ID]; !known {
			for other := range t.side(b.ID, -1, all) {
				t.root[other] = b.ID
			}
		}
	}
	return t
}

// order lists the spans by the places of their boxes in the circuit, which [circuit.Circuit.InOrder]
// listed, so that the order of the record decides nothing.
func (t *tree) order() []int {
	compare := func(x, y span) int {
		a, b, c, d := t.place[x.a], t.place[x.b], t.place[y.a], t.place[y.b]
		return cmp.Or(cmp.Compare(min(a, b), min(c, d)), cmp.Compare(max(a, b), max(c, d)))
	}
	out := make([]int, len(t.spans))
	for i := range out {
		out[i] = i
	}
	slices.SortFunc(out, func(a, b int) int { return compare(t.spans[a], t.spans[b]) })
	return out
}

// detours lists the spans that may be left where cables close rings, after -1 for none: hot and return of a light run in one
// cable all the way, and which way round that is shows once the plan is proved.
func (t *tree) detours() []int {
	out := []int{-1}
	if !t.rings {
		return out
	}
	for _, i := range t.order() {
		if t.near[i][t.spans[i].b] && len(out) <= mostDetours {
			out = append(out, i)
		}
	}
	return out
}

// mostDetours bounds the ways round that are tried for an option that fails its proof: each takes a proof.
const mostDetours = 6

// side lists the boxes that can be reached from one over those spans, but the one left out.
func (t *tree) side(from string, without int, over func(span int) bool) map[string]bool {
	seen := map[string]bool{from: true}
	queue := []string{from}
	for len(queue) > 0 {
		box := queue[0]
		queue = queue[1:]
		for i, s := range t.spans {
			if i == without || !over(i) {
				continue
			}
			for _, step := range [][2]string{{s.a, s.b}, {s.b, s.a}} {
				if step[0] == box && !seen[step[1]] {
					seen[step[1]] = true
					queue = append(queue, step[1])
				}
			}
		}
	}
	return seen
}

// crosses reports whether the net must run through the span.
func (t *tree) crosses(x *net, i int) bool {
	side := t.near[i]
	if x.route != nil {
		if side = x.route[i]; side == nil {
			return false
		}
	}
	near, far := false, false
	for _, q := range x.terminals {
		if t.root[q.box] != t.root[t.spans[i].a] {
			continue
		}
		if side[q.box] {
			near = true
		} else {
			far = true
		}
	}
	return near && far
}

// lead gives each net its tree where cables close rings: it stays in the spans in which it runs
// as found, then keeps to those of the group's own cables, so that hot and return stay
// together, and takes others only where these lead nowhere.
func (p *planner) lead(d *requirement) {
	t := p.boxTree
	if !t.rings {
		return
	}
	for _, x := range d.nets {
		order := make([]int, len(t.spans))
		rank := make([]int, len(t.spans))
		runs := func(i int) bool {
			s := t.spans[i]
			return x.class >= 0 && slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return p.runsIn(k, s.a, x.class) })
		}
		shy := d.shy >= 0 && len(x.terminals) > 0 && runs(d.shy)
		if shy { // it runs another way round as well
			reached := t.side(x.terminals[0].box, d.shy, runs)
			shy = !slices.ContainsFunc(x.terminals, func(q terminal) bool { return !reached[q.box] })
		}
		for i, s := range t.spans {
			order[i] = i
			switch {
			case shy && i == d.shy:
				rank[i] = 3
			case runs(i):
			case slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return d.home[k.ID] }):
				rank[i] = 1
			default:
				rank[i] = 2
			}
		}
		slices.SortStableFunc(order, func(a, b int) int { return rank[a] - rank[b] })
		group := map[string]string{}
		var find func(box string) string
		find = func(box string) string {
			if up, ok := group[box]; ok && up != box {
				return find(up)
			}
			return box
		}
		taken := make([]bool, len(t.spans))
		for _, i := range order {
			if a, b := find(t.spans[i].a), find(t.spans[i].b); a != b {
				group[a], taken[i] = b, true
			}
		}
		x.route = make(route, len(t.spans))
		for i, s := range t.spans {
			if taken[i] {
				x.route[i] = t.side(s.a, i, func(k int) bool { return taken[k] })
			}
		}
	}
}

// runsIn reports whether a conductor runs in a cable that comes into that box.
func (p *planner) runsIn(k circuit.Cable, box string, class int) bool {
	return slices.ContainsFunc(k.Cores, func(core string) bool {
		return p.net.Class(circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: box}) == class
	})
}
