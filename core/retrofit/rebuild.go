package retrofit

import (
	"maps"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// rebuilder writes an allocation out as a document, box by box, leaving every
// join alone that the plan does not concern.
type rebuilder struct {
	p     *planner
	d     *requirement
	of    map[circuit.Ref]*net        // what each core carries; absent: capped at both ends, or as found
	spare map[circuit.Ref]bool        // cores freed by the plan: capped at both ends
	at    map[circuit.Ref]*net        // what each terminal stands on
	shut  map[string]bool             // boxes on a ladder that stay as they are if they can
	tied  map[circuit.Ref]circuit.Ref // spare travelers that are joined to another at both ends
}

func (p *planner) rebuild(d *requirement, a *allocation) *circuit.Circuit {
	r := &rebuilder{p: p, d: d, of: maps.Clone(a.of), shut: a.shut, spare: map[circuit.Ref]bool{}, at: map[circuit.Ref]*net{}, tied: map[circuit.Ref]circuit.Ref{}}
	for _, x := range d.nets {
		for _, q := range x.terminals {
			r.at[q.ref] = x
		}
	}
	r.keepUnconcerned()
	out := draft(p.doc)
	out.Devices = slices.DeleteFunc(out.Devices, func(x circuit.Device) bool { return slices.Contains(d.remove, x.ID) })
	out.Boxes = append(out.Boxes, d.boxes...)
	out.Devices = append(out.Devices, d.add...)
	out.Joins = r.joins()
	out.Loose = nil // what hangs loose is capped before anything else is done
	if p.request.Wishes.conventionOf(conventionSpares) == "join" {
		r.tie(out)
		d.tied = r.tied
	}
	r.marks(out)
	if len(d.models) > 0 && out.Models == nil {
		out.Models = map[string]circuit.Model{}
	}
	for id, m := range d.models {
		out.Models[id] = m
	}
	out.Links = append(out.Links, d.links...)
	out.Observations, out.Evidence = nil, p.doc.EvidenceAlone() // readings were taken of the circuit as found
	return out
}

// draft is a copy of a document in which what a plan changes may be changed: it shares the rest, of
// which many plans would else hold a copy each.
func draft(c *circuit.Circuit) *circuit.Circuit {
	out := *c
	out.Boxes, out.Cables, out.Links = slices.Clip(c.Boxes), slices.Clip(c.Cables), slices.Clip(c.Links)
	out.Devices, out.Marks, out.Models = slices.Clone(c.Devices), slices.Clone(c.Marks), maps.Clone(c.Models)
	return &out
}

// keepUnconcerned decides about the cores that no net needs. One whose
// conductor goes on existing stays joined as found, so that nothing is touched
// without need, unless it would now end in a cap: then it is freed and capped
// at both ends, since a capped end must not be live. Grounds always stay.
func (r *rebuilder) keepUnconcerned() {
	byClass := map[int]*net{}
	for _, x := range r.d.nets {
		if x.class >= 0 && len(x.terminals) > 0 {
			byClass[x.class] = x
		}
	}
	carries := map[circuit.Ref]bool{}
	for _, k := range r.p.doc.Cables {
		for _, core := range k.Cores {
			ref := circuit.Ref{Owner: k.ID, Part: core}
			if r.of[ref] != nil {
				continue
			}
			if r.p.replaced[k.ID] && !circuit.GroundColour(core) {
				r.spare[ref] = true
				continue
			}
			x := byClass[r.p.net.Class(r.endsOf(k, core)[0])]
			if x == nil && r.p.newCables[k.ID] && circuit.GroundColour(core) {
				if x = r.groundOf(k); x != nil { // a new cable's ground is joined at both ends
					r.of[ref] = x
					continue
				}
			}
			if x == nil {
				r.spare[ref] = true
				continue
			}
			r.of[ref] = x
			carries[ref] = true
		}
	}
	for changed := true; changed; {
		changed = false
		for _, k := range r.p.doc.Cables {
			for _, core := range k.Cores {
				ref := circuit.Ref{Owner: k.ID, Part: core}
				if !carries[ref] || r.spare[ref] || r.of[ref].role == electric.RoleGround {
					continue
				}
				for _, e := range r.endsOf(k, core) {
					if r.lostPartners(e) {
						r.spare[ref], changed = true, true
						delete(r.of, ref)
						break
					}
				}
			}
		}
	}
}

// groundOf is the ground net of the boxes that a cable joins, nil where they have none.
func (r *rebuilder) groundOf(k circuit.Cable) *net {
	for _, x := range r.d.nets {
		if x.role == electric.RoleGround && slices.ContainsFunc(k.Ends[:], func(box *string) bool {
			return slices.ContainsFunc(r.p.doc.EndsIn(*box), func(m circuit.Ref) bool {
				return r.p.net.Class(circuit.End{Ref: m, Box: *box}) == x.class
			})
		}) {
			return x
		}
	}
	return nil
}

func (r *rebuilder) endsOf(k circuit.Cable, core string) []circuit.End {
	var out []circuit.End
	for _, box := range k.Ends {
		if box != nil {
			out = append(out, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box})
		}
	}
	return out
}

// lostPartners reports whether the end shared its join with others as found
// and nobody of its net is left there.
func (r *rebuilder) lostPartners(e circuit.End) bool {
	j := r.p.joinOf(e.Box, e.Ref)
	if j < 0 || len(r.p.doc.Joins[j].Of) < 2 {
		return false
	}
	x := r.of[e.Ref]
	return !slices.ContainsFunc(r.p.doc.Joins[j].Of, func(m circuit.Ref) bool { return m != e.Ref && r.netOf(m) == x })
}

// netOf is the net of a core or terminal as planned, nil where it has none.
func (r *rebuilder) netOf(m circuit.Ref) *net {
	if x := r.of[m]; x != nil {
		return x
	}
	return r.at[m]
}

// cluster is one connector or screw as planned.
type cluster struct {
	box  string
	net  *net
	of   []circuit.Ref
	from int // index of the join as found, -1 for a new one
}

func (r *rebuilder) joins() []circuit.Join {
	var clusters []*cluster
	placed := map[circuit.End]bool{}
	for i, j := range r.p.doc.Joins {
		for _, m := range j.Of {
			x := r.netOf(m)
			if x == nil {
				continue
			}
			placed[circuit.End{Ref: m, Box: j.Box}] = true
			k := slices.IndexFunc(clusters, func(c *cluster) bool { return c.from == i && c.net == x })
			if k < 0 {
				clusters = append(clusters, &cluster{box: j.Box, net: x, from: i})
				k = len(clusters) - 1
			}
			clusters[k].of = append(clusters[k].of, m)
		}
	}
	for _, b := range r.p.doc.Boxes {
		for _, m := range r.newcomers(b.ID, placed) {
			clusters = r.addTo(clusters, b.ID, m)
		}
	}
	clusters = r.connect(clusters)
	var out []circuit.Join
	for _, c := range clusters {
		asFound := c.from >= 0 && slices.Equal(c.of, r.p.doc.Joins[c.from].Of)
		if len(c.of) > 1 || asFound {
			out = append(out, circuit.Join{Box: c.box, Of: c.of})
		}
	}
	return r.keepShut(out)
}

// newcomers lists the cores and terminals of a box that have a net as planned
// and stand in no join of it yet: allocated cores, new devices, kept screws.
func (r *rebuilder) newcomers(box string, placed map[circuit.End]bool) []circuit.Ref {
	var out []circuit.Ref
	for _, m := range r.p.doc.EndsIn(box) {
		x := r.of[m]
		if x == nil || placed[circuit.End{Ref: m, Box: box}] {
			continue
		}
		if x.class >= 0 && r.p.net.Class(circuit.End{Ref: m, Box: box}) == x.class && r.p.joinOf(box, m) < 0 && !r.needed(m) {
			continue // capped as found, and nothing new asks for it
		}
		out = append(out, m)
	}
	for _, x := range r.d.nets {
		for _, q := range x.terminals {
			if q.box == box && r.p.doc.Cable(q.ref.Owner) == nil && !placed[circuit.End{Ref: q.ref, Box: box}] {
				if x.class < 0 || len(x.terminals) > 1 {
					out = append(out, q.ref)
				}
			}
		}
	}
	for _, dev := range r.d.add {
		if dev.Box == box && slices.Contains(r.d.models[dev.Model].Terminals, "ground") {
			out = append(out, circuit.Ref{Owner: dev.ID, Part: "ground"})
		}
	}
	return out
}

// needed reports whether a net must run through the core.
func (r *rebuilder) needed(core circuit.Ref) bool {
	for i, s := range r.p.boxTree.spans {
		for _, k := range s.cables {
			if k.ID == core.Owner {
				return r.p.boxTree.crosses(r.of[core], i)
			}
		}
	}
	return false
}

// addTo puts a newcomer into the best cluster of its net in the box, or into
// one of its own. A new device's ground goes where that of the old switch was,
// else where the box's grounds are.
func (r *rebuilder) addTo(clusters []*cluster, box string, m circuit.Ref) []*cluster {
	x := r.netOf(m)
	if x == nil { // the ground of a new device
		old := circuit.Ref{Owner: r.d.stead[m.Owner], Part: "ground"}
		for _, c := range clusters {
			if c.box != box || c.net.role != electric.RoleGround {
				continue
			}
			if c.from >= 0 && slices.Contains(r.p.doc.Joins[c.from].Of, old) {
				c.of = append(c.of, m)
				return clusters
			}
			if x == nil {
				x = c.net
			}
		}
		if x == nil {
			x = r.groundBy(box)
		}
		if x == nil {
			return clusters
		}
	}
	// Where a net stands in two joins of the box, hot and return stay in one
	// cable: the join with the group's own cables is taken.
	worth := func(c *cluster) int {
		if slices.ContainsFunc(c.of, func(m circuit.Ref) bool { return r.d.home[m.Owner] }) {
			return 1000 + len(c.of)
		}
		return len(c.of)
	}
	var best *cluster
	for _, c := range clusters {
		if c.box == box && c.net == x && (best == nil || worth(c) > worth(best)) {
			best = c
		}
	}
	if best == nil {
		best = &cluster{box: box, net: x, from: -1}
		clusters = append(clusters, best)
		if x.role == electric.RoleGround {
			for _, core := range r.p.doc.EndsIn(box) {
				if r.of[core] == x {
					best.of = append(best.of, core)
				}
			}
		}
	}
	best.of = append(best.of, m)
	return clusters
}

// groundBy finds the ground net that a core brings into the box, where none of
// its ends stands in a join with another.
func (r *rebuilder) groundBy(box string) *net {
	for _, core := range r.p.doc.EndsIn(box) {
		if x := r.of[core]; x != nil && x.role == electric.RoleGround {
			return x
		}
	}
	return nil
}

// connect merges clusters of one net in one box when nothing else connects
// them any more.
func (r *rebuilder) connect(clusters []*cluster) []*cluster {
	group := make([]int, len(clusters))
	for i := range group {
		group[i] = i
	}
	unite := func(a, b int) {
		from, to := group[a], group[b]
		for i := range group {
			if group[i] == from {
				group[i] = to
			}
		}
	}
	where := map[circuit.Ref]int{}
	for i, c := range clusters {
		for _, m := range c.of {
			if first, seen := where[m]; seen {
				unite(first, i)
			}
			where[m] = i
		}
	}
	gone := map[int]bool{}
	merge := func(in func(box string) bool) {
		for i, a := range clusters {
			for j := i + 1; j < len(clusters); j++ {
				b := clusters[j]
				if a.box != b.box || a.net != b.net || group[i] == group[j] || gone[i] || gone[j] || !in(a.box) {
					continue
				}
				a.of = append(a.of, b.of...)
				gone[j] = true
				unite(j, i)
			}
		}
	}
	merge(func(box string) bool { return !r.shut[box] })
	merge(func(box string) bool { return r.shut[box] })
	var out []*cluster
	for i, c := range clusters {
		if !gone[i] {
			out = append(out, c)
		}
	}
	return out
}

// tie joins each traveler that is left over to the other traveler of its cable, at both
// ends, for those who ask for it: only where both have their joins there, and the colour
// may carry what the other carries.
func (r *rebuilder) tie(out *circuit.Circuit) {
	traveler := func(k circuit.Cable, core string) bool {
		ends := r.endsOf(k, core)
		return len(ends) == 2 && !slices.ContainsFunc(ends, func(e circuit.End) bool { return r.p.roles[e] != electric.Traveler })
	}
	for _, k := range r.p.doc.Cables {
		for _, core := range k.Cores {
			ref := circuit.Ref{Owner: k.ID, Part: core}
			if !r.spare[ref] || !traveler(k, core) {
				continue
			}
			for _, other := range k.Cores {
				to := circuit.Ref{Owner: k.ID, Part: other}
				if other == core || r.of[to] == nil || !traveler(k, other) || !r.joinable(out, k, to) {
					continue
				}
				if allowed, _ := r.p.say.May(core, string(r.of[to].role)); !allowed {
					continue
				}
				for _, box := range k.Ends {
					j := &out.Joins[out.JoinOf(*box, to)]
					j.Of = append(slices.Clone(j.Of), ref)
				}
				r.tied[ref] = to
				break
			}
		}
	}
}

// joinable reports whether the core stands in a join at both ends.
func (r *rebuilder) joinable(out *circuit.Circuit, k circuit.Cable, core circuit.Ref) bool {
	return !slices.ContainsFunc(k.Ends[:], func(box *string) bool { return out.JoinOf(*box, core) < 0 })
}

// stays reports whether a core carries on at both of its ends what it carried.
func (r *rebuilder) stays(k circuit.Cable, core string) bool {
	return !slices.ContainsFunc(r.endsOf(k, core), func(e circuit.End) bool {
		x := r.of[e.Ref]
		return x == nil || x.role != r.p.roles[e]
	})
}

// marks re-marks both ends of every core whose colour asks for it, and drops
// marks that are no longer true.
func (r *rebuilder) marks(out *circuit.Circuit) {
	role := func(e circuit.End) electric.Role {
		ref := e.Ref
		if to, is := r.tied[ref]; is {
			ref = to
		}
		if x := r.of[ref]; x != nil {
			return x.role
		}
		return ""
	}
	var marks []circuit.Mark
	for _, m := range out.Marks {
		if string(role(m.End)) == m.As || !r.spare[m.End.Ref] && role(m.End) == r.p.roles[m.End] {
			marks = append(marks, m)
		}
	}
	for _, k := range out.Cables {
		for _, core := range k.Cores {
			for _, e := range r.endsOf(k, core) {
				x := role(e)
				if x == "" || x == r.p.roles[e] && r.stays(k, core) {
					continue // nobody opens a box to put on tape that was missing already
				}
				allowed, remark := r.p.say.May(core, string(x))
				marked := slices.ContainsFunc(marks, func(m circuit.Mark) bool { return m.End == e })
				if allowed && remark && !marked {
					marks = append(marks, circuit.Mark{End: e, As: string(x)})
				}
			}
		}
	}
	out.Marks = marks
}
