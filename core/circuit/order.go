package circuit

import (
	"cmp"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"slices"
)

// mostTies bounds how often one of several parts that nothing tells apart is put first.
const mostTies = 64

// InOrder is the same circuit with boxes, cables, cores, devices and joins in an order of its own: it depends on
// what the parts are and how they hang together, neither on the order in which they are listed nor on
// their ids. What is worked out of it is the same however the circuit was written down. Of parts that
// nothing tells apart, any comes first. joins says where each join stood.
func (c *Circuit) InOrder() (ordered *Circuit, joins []int) {
	o := newOrdering(c)
	o.refine()
	for range mostTies {
		if !o.untie() {
			break
		}
		o.refine()
	}
	out := c.Clone()
	by := func(kind, id string) uint64 { return o.hash[o.node[kind+id]] }
	slices.SortStableFunc(out.Boxes, func(a, b Box) int { return cmp.Compare(by("box ", a.ID), by("box ", b.ID)) })
	slices.SortStableFunc(out.Devices, func(a, b Device) int { return cmp.Compare(by("device ", a.ID), by("device ", b.ID)) })
	slices.SortStableFunc(out.Cables, func(a, b Cable) int { return cmp.Compare(by("cable ", a.ID), by("cable ", b.ID)) })
	for i := range out.Cables {
		slices.Sort(out.Cables[i].Cores)
	}
	for i := range c.Joins {
		joins = append(joins, i)
	}
	join := func(i int) uint64 { return by("join ", fmt.Sprint(i)) }
	slices.SortStableFunc(joins, func(a, b int) int { return cmp.Compare(join(a), join(b)) })
	for n, i := range joins {
		out.Joins[n] = Join{Box: c.Joins[i].Box, Of: slices.Clone(c.Joins[i].Of)}
		slices.SortStableFunc(out.Joins[n].Of, func(a, b Ref) int {
			return cmp.Or(cmp.Compare(by("part ", a.String()), by("part ", b.String())), cmp.Compare(by("end ", End{Ref: a, Box: out.Joins[n].Box}.String()), by("end ", End{Ref: b, Box: out.Joins[n].Box}.String())))
		})
	}
	return out, joins
}

// Follow lists boxes, cables, devices and joins in the order in which another circuit lists those of the same
// ids and ends, the others after them. What the circuit may share with another is copied first.
func (c *Circuit) Follow(other *Circuit) {
	c.Boxes, c.Cables, c.Devices = slices.Clone(c.Boxes), slices.Clone(c.Cables), slices.Clone(c.Devices)
	at := map[string]int{}
	for i, b := range other.Boxes {
		at["box "+b.ID] = i - len(other.Boxes)
	}
	for i, k := range other.Cables {
		at["cable "+k.ID] = i - len(other.Cables)
	}
	for i, d := range other.Devices {
		at["device "+d.ID] = i - len(other.Devices)
	}
	slices.SortStableFunc(c.Boxes, func(a, b Box) int { return cmp.Compare(at["box "+a.ID], at["box "+b.ID]) })
	slices.SortStableFunc(c.Cables, func(a, b Cable) int { return cmp.Compare(at["cable "+a.ID], at["cable "+b.ID]) })
	slices.SortStableFunc(c.Devices, func(a, b Device) int { return cmp.Compare(at["device "+a.ID], at["device "+b.ID]) })
	c.followJoins(other)
	for i := range c.Cables {
		k := &c.Cables[i]
		was := other.Cable(k.ID)
		if was == nil {
			continue
		}
		place := func(core string) int { return slices.Index(was.Cores, core) }
		k.Cores = slices.SortedStableFunc(slices.Values(k.Cores), func(a, b string) int { return cmp.Compare(place(a), place(b)) })
		if sameBox(k.Ends[0], was.Ends[1]) && sameBox(k.Ends[1], was.Ends[0]) {
			k.Ends[0], k.Ends[1] = k.Ends[1], k.Ends[0]
		}
	}
}

// followJoins does so for joins, and for what stands in each.
func (c *Circuit) followJoins(other *Circuit) {
	at := map[End]int{}
	for _, j := range other.Joins {
		for _, r := range j.Of {
			at[End{Ref: r, Box: j.Box}] = len(at) - 1<<30
		}
	}
	joins := make([]Join, len(c.Joins))
	for i, j := range c.Joins {
		place := func(r Ref) int { return at[End{Ref: r, Box: j.Box}] }
		joins[i] = Join{Box: j.Box, Of: slices.SortedStableFunc(slices.Values(j.Of), func(a, b Ref) int { return cmp.Compare(place(a), place(b)) })}
	}
	first := func(j Join) int {
		if len(j.Of) == 0 {
			return 0
		}
		return at[End{Ref: j.Of[0], Box: j.Box}]
	}
	slices.SortStableFunc(joins, func(a, b Join) int { return cmp.Compare(first(a), first(b)) })
	c.Joins = joins
}

func sameBox(a, b *string) bool { return a == b || a != nil && b != nil && *a == *b }

// ordering tells the parts of a circuit apart by what they are, then by what they hang together with, and so
// on until nothing more is told apart.
type ordering struct {
	node   map[string]int // by kind and id
	hash   []uint64       // by node
	beside [][]int        // by node, those that it touches
	parts  int            // how many are told apart
}

func newOrdering(c *Circuit) *ordering {
	o := &ordering{node: map[string]int{}}
	add := func(name string, is any) int {
		if n, ok := o.node[name]; ok {
			return n
		}
		text, err := json.Marshal(is)
		if err != nil { // a number that cannot be written: nothing is told apart by it
			text = nil
		}
		o.node[name] = len(o.hash)
		o.hash, o.beside = append(o.hash, hashOf(text)), append(o.beside, nil)
		return len(o.hash) - 1
	}
	touch := func(a, b int) { o.beside[a], o.beside[b] = append(o.beside[a], b), append(o.beside[b], a) }
	for _, b := range c.Boxes {
		is := b
		is.ID = ""
		add("box "+b.ID, []any{"box", is})
	}
	box := func(id string) int { return add("box "+id, []any{"box", id}) }
	for _, k := range c.Cables {
		is := k
		is.ID, is.Ends, is.Cores = "", [2]*string{}, nil
		cable := add("cable "+k.ID, []any{"cable", is})
		for _, core := range k.Cores {
			part := add("part "+Ref{k.ID, core}.String(), []any{"core", core})
			touch(part, cable)
			for _, end := range k.Ends {
				if end != nil {
					at := add("end "+End{Ref: Ref{k.ID, core}, Box: *end}.String(), "end")
					touch(at, part)
					touch(at, box(*end))
				}
			}
		}
	}
	for _, d := range c.Devices {
		is := d
		is.ID, is.Box = "", ""
		device := add("device "+d.ID, []any{"device", is})
		touch(device, box(d.Box))
		for _, terminal := range c.Terminals(d) {
			touch(device, add("part "+Ref{d.ID, terminal}.String(), []any{"terminal", terminal}))
		}
	}
	for i, j := range c.Joins {
		join := add("join "+fmt.Sprint(i), "join")
		touch(join, box(j.Box))
		for _, r := range j.Of {
			if n, ok := o.node["end "+End{Ref: r, Box: j.Box}.String()]; ok {
				touch(join, n)
			} else {
				touch(join, add("part "+r.String(), r.Part))
			}
		}
	}
	// What is said of parts tells them apart too.
	said := 0
	say := func(is any, ends ...End) {
		said++
		for _, e := range ends {
			n, ok := o.node["end "+e.String()]
			if !ok {
				n, ok = o.node["part "+e.Ref.String()]
			}
			if !ok {
				n, ok = o.node["device "+e.Owner]
			}
			if ok {
				touch(n, add(fmt.Sprint("said ", said), is))
			}
		}
	}
	whole := func(id string) End { return End{Ref: Ref{Owner: id}} }
	for i, t := range c.Observations {
		for n, e := range t.At {
			say([]any{i, "at", n, t.Instrument, t.Power, t.Reading}, e)
		}
		for _, r := range t.Lifted {
			say([]any{i, "lifted"}, End{Ref: r})
		}
		for _, group := range t.Tied {
			say([]any{i, "tied"}, group...)
		}
		for _, id := range t.Flipped {
			say([]any{i, "flipped"}, whole(id))
		}
		for _, id := range t.LampsOut {
			say([]any{i, "out"}, whole(id))
		}
		if t.Light != "" {
			say([]any{i, "light", t.Reading}, whole(t.Light))
		}
	}
	for _, m := range c.Marks {
		is := m
		is.End = End{}
		say([]any{"mark", is}, m.End)
	}
	for _, a := range c.Accepted {
		say([]any{"accepted", a.As}, a.End)
	}
	for _, r := range c.Reports {
		if r.Device != "" {
			say([]any{"report", r.Says}, whole(r.Device))
		}
	}
	for _, e := range c.Loose {
		say("loose", e)
	}
	return o
}

func hashOf(text []byte) uint64 {
	h := fnv.New64a()
	_, _ = h.Write(text) // which does not fail
	return h.Sum64()
}

// mixed is one number of two, which differs where either does.
func mixed(a, b uint64) uint64 {
	x := a*0x9e3779b97f4a7c15 + b
	x ^= x >> 29
	x *= 0xbf58476d1ce4e5b9
	return x ^ x>>32
}

// refine tells parts apart by what they touch, as long as that tells any apart.
func (o *ordering) refine() {
	next := make([]uint64, len(o.hash))
	var around []uint64
	for {
		for n := range o.hash {
			around = around[:0]
			for _, m := range o.beside[n] {
				around = append(around, o.hash[m])
			}
			slices.Sort(around)
			next[n] = o.hash[n]
			for _, h := range around {
				next[n] = mixed(next[n], h)
			}
		}
		o.hash, next = next, o.hash
		told := map[uint64]bool{}
		for _, h := range o.hash {
			told[h] = true
		}
		if len(told) <= o.parts {
			return
		}
		o.parts = len(told)
	}
}

// untie puts one of several parts first that nothing tells apart; false where there are none.
func (o *ordering) untie() bool {
	count := map[uint64]int{}
	for _, h := range o.hash {
		count[h]++
	}
	tied := -1
	for n, h := range o.hash {
		if count[h] > 1 && (tied < 0 || h < o.hash[tied]) {
			tied = n
		}
	}
	if tied >= 0 {
		o.hash[tied] = mixed(o.hash[tied], 1)
		o.parts = 0
	}
	return tied >= 0
}
