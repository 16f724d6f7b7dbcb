package trace

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
)

// ErrNotTraced is the error of [Tracer.Record] before all that can be seen is certain.
var ErrNotTraced = errors.New("not everything that can be seen is certain yet")

// Record is [Tracer.Circuit] once tracing is done, held to all that files are held to. The error is
// [ErrNotTraced], the context's, or an [*circuit.Error].
func (t *Tracer) Record(ctx context.Context) (*circuit.Circuit, error) {
	done, err := t.Done(ctx)
	if err != nil {
		return nil, err
	}
	if !done {
		return nil, ErrNotTraced
	}
	return circuit.Reread(t.Circuit())
}

// Circuit writes the plainest world that is left as a whole document, with what is seen, measured and
// assumed in it. Call it when tracing is done; before that it is a guess. It returns nil where no world is
// left.
func (t *Tracer) Circuit() *circuit.Circuit {
	c, _ := t.CircuitNamed()
	return c
}

// CircuitNamed is [Tracer.Circuit] with the cables that were found to be the other end of another one: by
// the name that they had in the record, the name that they have now.
func (t *Tracer) CircuitNamed() (c *circuit.Circuit, now map[string]string) {
	if t.looking || t.Worlds() == 0 {
		return nil, nil
	}
	var plainest *circuit.Circuit
	var names map[string]string
	for _, x := range t.laidOut() {
		c, now := t.written(x.w, x.l)
		if plainest == nil {
			plainest, names = c, now
		}
		if !slices.ContainsFunc(inspect.Check(c).Findings, func(f inspect.Finding) bool { return f.Severity == inspect.Error }) {
			return c, now
		}
	}
	return plainest, names // what is wrong is so in all of them
}

// written writes a world as a document.
func (t *Tracer) written(w *world, l *layout) (*circuit.Circuit, map[string]string) {
	b := &builder{Tracer: t, w: w, l: l, out: t.doc.Clone(), alias: map[string]string{}}
	b.out.Evidence = nil
	for region := range b.l.regions {
		b.region(region)
	}
	b.ground()
	b.rename()
	b.evidence()
	return b.out, b.alias
}

// mostPlain is how many worlds are laid out in looking for the plainest.
const mostPlain = 64

// mostWritten is how many of those are written out in looking for one in which all is sound.
const mostWritten = 16

// laid is a world with a layout.
type laid struct {
	w          *world
	l          *layout
	inventions int
}

// laidOut lists worlds with their layouts, those first that invent least, a direct cable before a
// hidden joint, and where two invent as much the likelier one.
func (t *Tracer) laidOut() []laid {
	list := t.worlds()[:min(mostLaidOut, t.Worlds())]
	if t.Resolved() {
		if every, _, err := t.everyWorld(context.Background()); err == nil && len(every) > 0 {
			slices.SortStableFunc(every, func(a, b *world) int { return cmp.Compare(b.weight, a.weight) })
			list = every[:min(len(every), mostPlain)]
		}
	}
	var out []laid
	for _, w := range list {
		l := t.layoutOf(w)
		out = append(out, laid{w, l, t.inventions(w, l)})
	}
	slices.SortStableFunc(out, func(a, b laid) int {
		return cmp.Or(cmp.Compare(a.inventions, b.inventions), cmp.Compare(b.w.weight*b.l.weight, a.w.weight*a.l.weight))
	})
	return out[:min(len(out), mostWritten)]
}

// inventions counts the boxes and cables of a layout that nothing in the record asks for. A light on record
// that hangs on switches elsewhere asks for both.
func (t *Tracer) inventions(w *world, l *layout) int {
	n := 2 * len(w.f.elsewhere)
	for region := range l.regions {
		stubs, devices := l.stubsIn(region), l.devicesIn(region)
		hub := t.hub(w, l, region)
		if hub == "" && (len(devices) > 0 || len(stubs) > 1 && t.cablesIn(w, l, region) == nil) {
			n++
		}
		for _, d := range devices {
			if t.homeOf(l.devices[d]) != hub {
				n++
			}
		}
	}
	return n
}

type builder struct {
	*Tracer
	w      *world
	l      *layout
	out    *circuit.Circuit
	alias  map[string]string // stub that was found to be the other end of another
	hidden []hiddenJoin
	every  []*world // all that is left, if all says so
	all    bool
}

// hiddenJoin is a join behind a wall with the cores whose ends it holds.
type hiddenJoin struct {
	end  circuit.End
	core int
}

// region writes what lies in one region.
func (b *builder) region(region int) {
	stubs, devices := b.l.stubsIn(region), b.l.devicesIn(region)
	hub := b.hub(b.w, b.l, region)
	switch {
	case len(devices) == 0 && len(stubs) == 1:
		return // on to other rooms: its far end stays unknown
	case hub == "" && b.cablesIn(b.w, b.l, region) != nil:
		for _, pair := range b.cablesIn(b.w, b.l, region) {
			b.oneCable(pair[0], pair[1])
		}
		return
	case hub == "":
		hub = b.out.FreshID("jb", nil)
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
	joins := map[int8]*circuit.Join{}
	at := func(net int8) *circuit.Join {
		if joins[net] == nil {
			joins[net] = &circuit.Join{Box: hub}
		}
		return joins[net]
	}
	for _, s := range stubs {
		id := b.doc.Cables[b.stubs[s].cable].ID
		for _, c := range b.stubs[s].cores {
			if net := b.w.nets[b.cores[c].class]; net > 0 {
				ref := circuit.Ref{Owner: id, Part: b.cores[c].name}
				j := at(net)
				j.Of = append(j.Of, ref)
				b.hidden = append(b.hidden, hiddenJoin{circuit.End{Ref: ref, Box: hub}, c})
			}
		}
	}
	for _, i := range devices {
		b.device(hub, b.l.devices[i], at)
	}
	var nets []int8
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
func (b *builder) device(hub string, d device, at func(int8) *circuit.Join) {
	home := b.homeOf(d)
	var id string
	var terminals []string
	switch d.kind {
	case circuit.TypeSupply:
		id, terminals = b.addDevice(b.supplies[d.index].id, "supply", home, circuit.Panel, circuit.TypeSupply), []string{"hot", "neutral"}
	case circuit.TypeLamp:
		id, terminals = b.addDevice(b.w.f.lamps[d.index].id, "lamp", home, circuit.Fixture, circuit.TypeLamp), []string{"l", "n"}
	default:
		var s control
		if s.kind = ending; d.index < len(b.switches) {
			s = b.switches[d.index]
		}
		terminals = map[kind][]string{single: {"a", "b"}, ending: {"common", "t1", "t2"}, middle: {"a1", "a2", "b1", "b2"}}[s.kind]
		kindOf := map[kind]string{single: circuit.TypeSinglePole, ending: circuit.TypeThreeWay, middle: circuit.TypeFourWay}[s.kind]
		id = b.addDevice(s.id, "s", home, circuit.Switch, kindOf)
	}
	nets := d.nets
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

func distinct(nets []int8) []int8 {
	var out []int8
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
		id = b.out.FreshID(prefix, nil)
	}
	b.out.Devices = append(b.out.Devices, circuit.Device{ID: id, Box: box, Type: kind})
	return id
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
		if !s.unmarked || s.nodes == nil {
			continue
		}
		for t, n := range b.w.f.nodes[i] {
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

// evidence says of each cable, end, device and box that was not seen how it is known. What a cable does
// between two boxes no reading shows: a straight joint looks like none.
func (b *builder) evidence() {
	every, all, err := b.everyWorld(context.Background())
	b.every = every
	b.all = all && err == nil && b.rule == anyhow && b.Resolved()
	for _, x := range b.out.Boxes {
		if b.doc.Box(x.ID) == nil {
			b.note(x.ID, circuit.Assumed)
		}
	}
	for _, k := range b.out.Cables {
		switch was := b.doc.Cable(k.ID); {
		case was != nil && !was.Stub():
			b.note(k.ID, circuit.Seen)
		case was == nil || !k.Stub():
			b.note(k.ID, circuit.Assumed)
		}
	}
	for _, n := range b.nodes {
		if n.Box == "" {
			continue
		}
		was := b.class[b.atom[b.index[n]]]
		id, moved := b.alias[n.Owner]
		if !moved {
			b.note(n.String(), circuit.Seen)
			continue
		}
		// The end of a cable that was seen for itself: which core of the other end it is.
		n.Owner = id
		b.noteCore(n, was)
	}
	for _, h := range b.hidden {
		b.note(h.end.String(), circuit.Assumed)
	}
	for _, d := range b.out.Devices {
		switch {
		case b.open[d.Box]:
		case d.Type == circuit.TypeLamp:
			b.noteLamp(d.ID)
		case b.doc.Device(d.ID) == nil:
			b.note(d.ID, circuit.Assumed)
		}
	}
}

// noteCore says how it is known which core of a cable's first end one of its second end is: measured where
// all that is left has the two on one net of their own.
func (b *builder) noteCore(n circuit.End, class int) {
	k := b.out.Cable(n.Owner)
	box, _ := k.Other(n.Box)
	first, ok := b.index[circuit.End{Ref: n.Ref, Box: box}]
	if !ok || circuit.GroundColour(n.Part) {
		b.note(n.String(), circuit.Assumed)
		return
	}
	other := b.class[b.atom[first]]
	by := b.touching(class, other)
	sure := b.all && len(by) > 0 && !slices.ContainsFunc(b.every, func(w *world) bool {
		if w.nets[class] <= 0 || w.nets[class] != w.nets[other] {
			return true
		}
		for c, net := range w.nets { // a third conductor of the net may be the one
			if c != class && c != other && net == w.nets[class] && len(b.classes[c].cores) > 0 {
				return true
			}
		}
		return len(b.classes[class].cores) > 1 || len(b.classes[other].cores) > 1
	})
	if !sure {
		b.note(n.String(), circuit.Assumed)
		return
	}
	b.out.Evidence = append(b.out.Evidence, circuit.Evidence{Of: n.String(), How: circuit.Measured, By: by})
}

// noteLamp says how it is known which conductors a light hangs on: measured where all that is left agrees,
// and some reading was made at it.
func (b *builder) noteLamp(id string) {
	at := -1
	for i, l := range b.w.f.lamps {
		if l.id == id {
			at = i
		}
	}
	var by []int
	for i, o := range b.doc.Observations {
		if o.Reading != nil && o.Reading != circuit.Unclear && (o.Light == id || slices.ContainsFunc(o.At, func(e circuit.End) bool { return e.Owner == id })) {
			by = append(by, i+1)
		}
	}
	on := func(w *world) string {
		f := w.f
		var of []byte // the visible conductors on its two nets
		for _, net := range []int8{f.first[f.lampL[at]], f.first[f.lampN[at]]} {
			for class, n := range w.nets {
				if n == net {
					of = append(of, byte(class), byte(class>>8))
				}
			}
			of = append(of, 255, 255)
		}
		return string(of)
	}
	if !b.all || at < 0 || len(by) == 0 || slices.ContainsFunc(b.every, func(w *world) bool { return on(w) != on(b.w) }) {
		b.note(id, circuit.Assumed)
		return
	}
	b.out.Evidence = append(b.out.Evidence, circuit.Evidence{Of: id, How: circuit.Measured, By: by})
}

// touching lists the readings, from 1, in which an instrument was put to one of two conductors.
func (b *builder) touching(x, y int) []int {
	var out []int
	for i, o := range b.doc.Observations {
		if o.Reading == nil || o.Reading == circuit.Unclear {
			continue
		}
		for _, e := range o.At {
			if n, ok := b.index[e]; ok && (b.class[b.atom[n]] == x || b.class[b.atom[n]] == y) {
				out = append(out, i+1)
				break
			}
		}
	}
	return out
}

func (b *builder) note(of, how string) {
	b.out.Evidence = append(b.out.Evidence, circuit.Evidence{Of: of, How: how})
}
