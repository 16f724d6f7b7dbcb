package trace

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/practice"
)

// CableFact says where stubs lead: two stubs alone are the ends of one cable; To is
// the box where they end, "" where that is a box that nobody knew of.
type CableFact struct {
	Stubs []string `json:"stubs"`
	To    string   `json:"to,omitempty"`
	// Odds is how likely it is; 1 where every world that is left agrees.
	Odds float64 `json:"odds"`
}

// Cables says where each stub leads: what all worlds that are left agree on, and
// apart from that what is likely, more than half.
func (t *Tracer) Cables() (certain, likely []CableFact) {
	certain, likely = []CableFact{}, []CableFact{}
	odds := map[string]float64{}
	facts := map[string]CableFact{}
	var order []string
	for _, w := range t.worlds {
		for _, f := range t.cablesOf(w) {
			key := fmt.Sprint(f.Stubs, f.To)
			if _, known := facts[key]; !known {
				facts[key] = f
				order = append(order, key)
			}
			odds[key] += w.weight
		}
	}
	for _, key := range order {
		f := facts[key]
		switch f.Odds = odds[key]; {
		case f.Odds > 1-1e-9:
			f.Odds = 1
			certain = append(certain, f)
		case f.Odds > 0.5:
			likely = append(likely, f)
		}
	}
	return certain, likely
}

// cablesOf says where the stubs lead in one world. What goes on to other rooms, or to
// a box that nobody knows of, is left out.
func (t *Tracer) cablesOf(w *world) []CableFact {
	var out []CableFact
	for region := range w.routes.regions {
		var stubs []string
		for s, k := range w.routes.region {
			if int(k) == region {
				stubs = append(stubs, t.doc.Cables[t.stubs[s].cable].ID)
			}
		}
		if hub := t.hub(w, region); hub != "" {
			for _, id := range stubs {
				out = append(out, CableFact{Stubs: []string{id}, To: hub})
			}
			continue
		}
		for _, pair := range t.cablesIn(w, region) {
			out = append(out, CableFact{Stubs: []string{t.doc.Cables[t.stubs[pair[0]].cable].ID, t.doc.Cables[t.stubs[pair[1]].cable].ID}})
		}
	}
	return out
}

// cablesIn pairs the stubs of a region where it is nothing but cables between two
// opened boxes, one or several side by side: the two ends of each have the same cores
// on the same nets. It is nil where something else lies there.
func (v *view) cablesIn(w *world, region int) [][2]int {
	if len(v.devicesIn(w, region)) > 0 {
		return nil
	}
	r := &router{view: v, p: w.pattern}
	var out [][2]int
	stubs := v.stubsIn(w, region)
	for len(stubs) > 0 {
		a := stubs[0]
		i := slices.IndexFunc(stubs, func(b int) bool {
			return v.stubs[b].box != v.stubs[a].box && r.sameCores(a, b) && r.straight(w, []int{a, b})
		})
		if i < 0 {
			return nil
		}
		out = append(out, [2]int{a, stubs[i]})
		stubs = slices.Concat(stubs[1:i], stubs[i+1:])
	}
	if len(out) > 1 && slices.ContainsFunc(out, func(p [2]int) bool {
		return !sameBoxes(v.stubs[p[0]].box, v.stubs[p[1]].box, v.stubs[out[0][0]].box, v.stubs[out[0][1]].box)
	}) {
		return nil
	}
	return out
}

func sameBoxes(a, b, c, d string) bool { return a == c && b == d || a == d && b == c }

func (v *view) stubsIn(w *world, region int) []int {
	var out []int
	for s, k := range w.routes.region {
		if int(k) == region {
			out = append(out, s)
		}
	}
	return out
}

func (v *view) devicesIn(w *world, region int) []int {
	var out []int
	for i, k := range w.rooms {
		if int(k) == region {
			out = append(out, i)
		}
	}
	return out
}

// hub names the closed box in which the cables of a region meet: the light's where
// there is one, else the switch's, else the panel. It is "" for a cable, for what
// goes on to other rooms, and for boxes that nobody knew of.
func (v *view) hub(w *world, region int) string {
	devices := v.devicesIn(w, region)
	for _, kind := range []string{circuit.TypeLamp, circuit.Switch, circuit.TypeSupply} {
		for _, i := range devices {
			if w.devices[i].kind != kind || kind == circuit.TypeSupply && len(v.stubsIn(w, region)) > 1 {
				continue
			}
			return v.homeOf(w.devices[i])
		}
	}
	return ""
}

// homeOf is the box of a hidden device: the record's, or the name that an unknown one
// will get.
func (v *view) homeOf(d device) string {
	id, kind := "", circuit.Fixture
	switch d.kind {
	case circuit.TypeSupply:
		id, kind = v.supply.id, circuit.Panel
	case circuit.TypeLamp:
		id = v.lamps[d.index].id
	default:
		kind = circuit.Switch
		if box := v.switches[d.index].box; box != "" {
			return box
		}
	}
	if known := v.doc.Device(id); known != nil {
		return known.Box
	}
	for _, b := range v.doc.Boxes {
		if b.Kind == kind && !v.open[b.ID] && d.place >= 0 {
			return b.ID
		}
	}
	switch kind {
	case circuit.Panel:
		return "panel"
	case circuit.Fixture:
		return fmt.Sprintf("light%d", d.index+1)
	}
	return fmt.Sprintf("switch%d", d.index+1)
}

// Circuit writes the likeliest world that is left as a whole document, with what is
// seen, measured and assumed in it. Call it when tracing is done; before that it is a
// guess. It returns nil where no world is left.
func (t *Tracer) Circuit() *circuit.Circuit {
	if len(t.worlds) == 0 {
		return nil
	}
	b := &builder{Tracer: t, w: t.worlds[0], out: t.doc.Clone(), alias: map[string]string{}}
	b.out.Evidence = nil
	for region := range b.w.routes.regions {
		b.region(region)
	}
	b.ground()
	b.rename()
	b.evidence()
	return b.out
}

type builder struct {
	*Tracer
	w      *world
	out    *circuit.Circuit
	alias  map[string]string // stub that was found to be the other end of another
	hidden []hiddenJoin
}

// hiddenJoin is a join behind a wall with the cores whose ends it holds.
type hiddenJoin struct {
	end  circuit.End
	core int
}

// region writes what lies in one region.
func (b *builder) region(region int) {
	stubs, devices := b.stubsIn(b.w, region), b.devicesIn(b.w, region)
	hub := b.hub(b.w, region)
	switch {
	case len(devices) == 0 && len(stubs) == 1:
		return // on to other rooms: its far end stays unknown
	case hub == "" && b.cablesIn(b.w, region) != nil:
		for _, pair := range b.cablesIn(b.w, region) {
			b.oneCable(pair[0], pair[1])
		}
		return
	case hub == "":
		hub = b.fresh("jb")
	}
	b.box(hub, circuit.Junction)
	for _, s := range stubs {
		k := b.out.Cable(b.doc.Cables[b.stubs[s].cable].ID)
		if k.Stub() {
			for i := range k.Ends {
				if k.Ends[i] == nil {
					k.Ends[i] = &hub
					break
				}
			}
		} else if far, _ := k.Other(b.stubs[s].box); far != hub {
			b.lead(hub, far)
		}
	}
	joins := map[int]*circuit.Join{} // by net
	at := func(net int) *circuit.Join {
		if joins[net] == nil {
			joins[net] = &circuit.Join{Box: hub}
		}
		return joins[net]
	}
	for _, s := range stubs {
		id := b.doc.Cables[b.stubs[s].cable].ID
		for _, c := range b.stubs[s].cores {
			if net := b.net(c); net >= 0 {
				ref := circuit.Ref{Owner: id, Part: b.cores[c].name}
				j := at(net)
				j.Of = append(j.Of, ref)
				b.hidden = append(b.hidden, hiddenJoin{circuit.End{Ref: ref, Box: hub}, c})
			}
		}
	}
	for _, i := range devices {
		b.device(hub, b.w.devices[i], at)
	}
	var nets []int
	for net := range joins {
		nets = append(nets, net)
	}
	slices.Sort(nets)
	for _, net := range nets {
		if len(joins[net].Of) > 1 {
			b.out.Joins = append(b.out.Joins, *joins[net])
		}
	}
}

// net is the net of a point in the likeliest combination that is left.
func (b *builder) net(point int) int {
	a := b.w.joins[point]
	if a.net < 0 || a.bit < 0 {
		return a.net
	}
	for n := range 1 << (len(b.switches) + b.w.bits) {
		if b.w.alive.has(n) {
			return a.net ^ n>>(len(b.switches)+a.bit)&1
		}
	}
	return a.net
}

func (b *builder) fresh(prefix string) string {
	for i := 1; ; i++ {
		id := fmt.Sprintf("%s%d", prefix, i)
		if b.out.Box(id) == nil && b.out.Cable(id) == nil && b.out.Device(id) == nil {
			return id
		}
	}
}

func (b *builder) box(id, kind string) {
	if b.out.Box(id) == nil {
		closed := false
		b.out.Boxes = append(b.out.Boxes, circuit.Box{ID: id, Kind: kind, Opened: &closed})
	}
}

// oneCable makes one cable of two stubs.
func (b *builder) oneCable(x, y int) {
	a, z := b.doc.Cables[b.stubs[x].cable].ID, b.doc.Cables[b.stubs[y].cable].ID
	k := b.out.Cable(a)
	far := b.stubs[y].box
	for i := range k.Ends {
		if k.Ends[i] == nil {
			k.Ends[i] = &far
			break
		}
	}
	b.alias[z] = a
	b.out.Cables = slices.DeleteFunc(b.out.Cables, func(k circuit.Cable) bool { return k.ID == z })
}

// device puts a hidden device on its nets; where it stands in another box than the
// region's own, a cable leads there.
func (b *builder) device(hub string, d device, at func(int) *circuit.Join) {
	home := b.homeOf(d)
	var id string
	var terminals []string
	switch d.kind {
	case circuit.TypeSupply:
		id, terminals = b.addDevice(b.supply.id, "supply", home, circuit.Panel, circuit.TypeSupply), []string{"hot", "neutral"}
	case circuit.TypeLamp:
		id, terminals = b.addDevice(b.lamps[d.index].id, "lamp", home, circuit.Fixture, circuit.TypeLamp), []string{"l", "n"}
	default:
		s := b.switches[d.index]
		terminals = map[kind][]string{single: {"a", "b"}, ending: {"common", "t1", "t2"}, middle: {"a1", "a2", "b1", "b2"}}[s.kind]
		kindOf := map[kind]string{single: circuit.TypeSinglePole, ending: circuit.TypeThreeWay, middle: circuit.TypeFourWay}[s.kind]
		id = b.addDevice(s.id, "s", home, circuit.Switch, kindOf)
	}
	var nets []int
	for _, term := range d.terms {
		nets = append(nets, b.net(len(b.cores)+term))
	}
	if home == hub {
		for i, net := range nets {
			j := at(net)
			j.Of = append(j.Of, circuit.Ref{Owner: id, Part: terminals[i]})
		}
		return
	}
	cable := b.leadFor(hub, home, d, nets)
	for i, net := range nets {
		ref := circuit.Ref{Owner: cable.ID, Part: cable.Cores[slices.Index(distinct(nets), net)]}
		if j := at(net); !slices.Contains(j.Of, ref) {
			j.Of = append(j.Of, ref)
		}
		n := b.out.JoinOf(home, ref)
		if n < 0 {
			b.out.Joins = append(b.out.Joins, circuit.Join{Box: home, Of: []circuit.Ref{ref}})
			n = len(b.out.Joins) - 1
		}
		b.out.Joins[n].Of = append(b.out.Joins[n].Of, circuit.Ref{Owner: id, Part: terminals[i]})
	}
}

func distinct(nets []int) []int {
	var out []int
	for _, n := range nets {
		if !slices.Contains(out, n) {
			out = append(out, n)
		}
	}
	return out
}

func (b *builder) addDevice(id, prefix, box, boxKind, kind string) string {
	b.box(box, boxKind)
	if id != "" {
		return id
	}
	if prefix == "supply" && b.out.Device("supply") == nil {
		id = "supply"
	} else {
		id = b.fresh(prefix)
	}
	b.out.Devices = append(b.out.Devices, circuit.Device{ID: id, Box: box, Type: kind})
	return id
}

// lead makes a cable between two boxes of one region that no known cable joins yet,
// with a ground alone.
func (b *builder) lead(hub, far string) *circuit.Cable {
	for i, k := range b.out.Cables {
		if k.In(hub) && k.In(far) {
			return &b.out.Cables[i]
		}
	}
	p := practice.For(b.doc)
	b.out.Cables = append(b.out.Cables, circuit.Cable{ID: b.fresh("w"), Ends: [2]*string{&hub, &far}, Cores: []string{p.Colours.Ground[0]}})
	return &b.out.Cables[len(b.out.Cables)-1]
}

// leadFor makes the cable that carries the nets of a hidden device: its cores come
// first, one for each net, in colours that may carry it.
func (b *builder) leadFor(hub, home string, d device, nets []int) circuit.Cable {
	p := practice.For(b.doc)
	k := circuit.Cable{ID: b.fresh("w"), Ends: [2]*string{&hub, &home}}
	lines := 0
	for _, net := range distinct(nets) {
		name := ""
		for i, n := range nets {
			if n == net && d.labels[i] == neutral {
				name = p.Colours.Neutral[0]
			}
		}
		if name == "" {
			colours := p.Colours.Line
			name = colours[lines%len(colours)]
			if slices.Contains(k.Cores, name) || name == p.Colours.Neutral[0] {
				lines++
				name = colours[lines%len(colours)]
			}
			lines++
		}
		k.Cores = append(k.Cores, name)
	}
	k.Cores = append(k.Cores, p.Colours.Ground[0])
	b.out.Cables = append(b.out.Cables, k)
	return k
}

// ground joins all grounds of each box that was not opened.
func (b *builder) ground() {
	for _, box := range b.out.Boxes {
		if b.open[box.ID] {
			continue
		}
		j := circuit.Join{Box: box.ID}
		for _, r := range b.out.EndsIn(box.ID) {
			if circuit.GroundColour(r.Part) && b.out.JoinOf(box.ID, r) < 0 {
				j.Of = append(j.Of, r)
			}
		}
		for _, d := range b.out.Devices {
			r := circuit.Ref{Owner: d.ID, Part: "ground"}
			if d.Box == box.ID && slices.Contains(b.out.Terminals(d), "ground") && b.out.JoinOf(box.ID, r) < 0 {
				j.Of = append(j.Of, r)
			}
		}
		if len(j.Of) > 1 {
			b.out.Joins = append(b.out.Joins, j)
		}
	}
}

// rename puts the one name of a cable where its other end had one of its own, and
// gives switches whose screws nobody could read the screws that were found.
func (b *builder) rename() {
	screws := map[circuit.Ref]circuit.Ref{}
	for i, s := range b.switches {
		if !s.loose || s.nodes == nil {
			continue
		}
		for t, n := range b.w.pattern.nodes[i] {
			screws[b.nodes[n].Ref] = b.nodes[s.nodes[t]].Ref
		}
		b.out.Device(s.id).Unmarked = nil
	}
	to := func(r circuit.Ref) circuit.Ref {
		if id, ok := b.alias[r.Owner]; ok {
			r.Owner = id
		}
		if screw, ok := screws[r]; ok {
			return screw
		}
		return r
	}
	for i := range b.out.Joins {
		for n, r := range b.out.Joins[i].Of {
			b.out.Joins[i].Of[n] = to(r)
		}
	}
	for i := range b.out.Marks {
		b.out.Marks[i].End.Ref = to(b.out.Marks[i].End.Ref)
	}
	for i := range b.out.Observations {
		o := &b.out.Observations[i]
		for n := range o.At {
			o.At[n].Ref = to(o.At[n].Ref)
		}
		for n := range o.Lifted {
			o.Lifted[n] = to(o.Lifted[n])
		}
		for _, group := range o.Tied {
			for n := range group {
				group[n].Ref = to(group[n].Ref)
			}
		}
	}
}

// evidence says of each cable and of each end how it is known.
func (b *builder) evidence() {
	agreed := map[string]bool{}
	certain, _ := b.Cables()
	for _, f := range certain {
		for _, id := range f.Stubs {
			agreed[id] = true
		}
	}
	how := func(sure bool) string {
		if sure {
			return circuit.Measured
		}
		return circuit.Assumed
	}
	for _, k := range b.out.Cables {
		was := b.doc.Cable(k.ID)
		switch {
		case was == nil:
			b.note(k.ID, circuit.Assumed)
		case !was.Stub():
			b.note(k.ID, circuit.Seen)
		case !k.Stub():
			b.note(k.ID, how(agreed[k.ID]))
		}
	}
	for _, n := range b.nodes {
		if n.Box == "" {
			continue
		}
		if id, ok := b.alias[n.Owner]; ok {
			n.Owner = id
		}
		b.note(n.String(), circuit.Seen)
	}
	for _, h := range b.hidden {
		class := b.cores[h.core].class
		same := !slices.ContainsFunc(b.worlds, func(w *world) bool { return w.roles[class] != b.w.roles[class] })
		b.note(h.end.String(), how(same && b.w.roles[class] != electric.Traveler))
	}
}

func (b *builder) note(of, how string) {
	b.out.Evidence = append(b.out.Evidence, circuit.Evidence{Of: of, How: how})
}
