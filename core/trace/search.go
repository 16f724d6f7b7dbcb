package trace

import "math/bits"

// stream is the topologies of one pattern, the most usual first, as far as they can
// carry it. It is read lazily: most are never wanted.
type stream struct {
	pattern *pattern
	lab     []label
	devices []device
	used    uint64 // labels that something hangs on
	links   uint64 // those of travelers and straps
	asks    asks
	settled lay
	weight  float64  // of the pattern, with the colours of what is settled
	brings  []uint32 // by hidden device: stubs that can bring one of its nets
	alone   [maxStubs]solitude
	with    [maxStubs][1 << fewDevices]float64 // by stub and set of hidden devices there, once asked for
	at      int                                // the next topology
	block   bitset                             // of candidates, from the block that holds it
}

// solitude is how usual it is at best that a stub meets no other: with nothing where it
// ends, and with hidden devices there.
type solitude struct{ bare, device float64 }

// way is a pattern in a topology with its hidden devices in their places, and what it
// weighs at best; the places may still be open, and where the topology is nil it is the
// best that is still to be read from a stream.
type way struct {
	stream *stream
	t      *topology
	rooms  []int8 // by hidden device: its region
	placed bool
	bound  float64
}

// ways is a heap of them, the best on top.
type ways []way

func (w *ways) push(x way) {
	*w = append(*w, x)
	h := *w
	for i := len(h) - 1; i > 0; {
		up := (i - 1) / 2
		if h[up].bound >= h[i].bound {
			return
		}
		h[up], h[i] = h[i], h[up]
		i = up
	}
}

func (w *ways) pop() {
	h := *w
	h[0] = h[len(h)-1]
	*w = h[:len(h)-1]
	w.sink(0)
}

// sink moves a way down that has become less usual.
func (w ways) sink(i int) {
	for {
		best := i
		for _, below := range [2]int{2*i + 1, 2*i + 2} {
			if below < len(w) && w[below].bound > w[best].bound {
				best = below
			}
		}
		if best == i {
			return
		}
		w[i], w[best] = w[best], w[i]
		i = best
	}
}

// search goes through all patterns in all topologies, the most usual first, until what
// is left is too unlikely against the best world found.
func (r *router) search(patterns []pattern, routes []topology) {
	r.ways = r.ways[:0]
	for i := range patterns {
		if s := r.open(&patterns[i]); s != nil {
			r.ways.push(way{stream: s, bound: s.weight * routes[0].bound})
		}
	}
	factor := 1.0
	if r.bending {
		factor = changesCores
	}
	for count := 0; len(r.ways) > 0 && r.err == nil; count++ {
		best := r.ways[0]
		if best.bound*factor < r.odds*r.best {
			return
		}
		if count%64 == 0 && r.ctx.Err() != nil {
			r.err = r.ctx.Err()
			return
		}
		if best.t != nil {
			r.ways.pop()
			r.take(best)
			continue
		}
		found, more := r.read(best.stream, routes)
		if more {
			r.ways[0].bound = best.stream.weight * routes[best.stream.at].bound
			r.ways.sink(0)
		} else {
			r.ways.pop()
		}
		if found.t != nil {
			r.ways.push(found)
		}
	}
}

// open prepares a pattern; nil where what can be seen contradicts it.
func (r *router) open(p *pattern) *stream {
	lab, ok := r.seenLabels(p)
	if !ok {
		return nil
	}
	s := &stream{pattern: p, lab: lab, devices: r.hiddenDevices(p)}
	r.p, r.lab, r.devices, r.rooms = p, lab, s.devices, nil
	if s.used, s.links = r.nets(); s.used == 0 {
		return nil
	}
	var pairs, rails uint64 // labels that no hidden device offers: each needs two cores
	offered := uint64(0)
	for _, d := range s.devices {
		offered |= d.required
	}
	for l, k := range p.kinds {
		if k == isRails {
			rails |= 1 << l
		}
		if k == isRails || k == isStrap || k == isShell {
			pairs |= 1 << l
		}
	}
	pairs &^= offered
	rails &^= offered
	masks, free := make([]uint64, len(r.stubs)), make([]int, len(r.stubs))
	for i, stub := range r.stubs {
		for _, c := range stub.cores {
			if class := r.cores[c].class; lab[class] != undecided {
				masks[i] |= 1 << lab[class]
			} else if len(r.classes[class].cores) > 1 { // something may be spliced past here
				free[i]++
			}
		}
	}
	s.asks = asks{masks, free, pairs, rails}
	s.settled.layOut(r, pairs)
	s.weight = p.weight * r.colourCeiling()
	s.brings = r.brings()
	var all uint64
	for _, d := range s.devices {
		all |= d.required
	}
	for i := range r.stubs {
		s.alone[i] = solitude{max(r.alone(i, 0, false), impossible), r.alone(i, all, true)}
	}
	return s
}

// read finds the next topology of a stream that may carry its pattern; more says whether
// there are others behind it.
func (r *router) read(s *stream, routes []topology) (found way, more bool) {
	r.p, r.lab, r.devices, r.rooms = s.pattern, s.lab, s.devices, nil
	for s.at < len(routes) {
		if s.at%indexBlock == 0 {
			s.block = r.meetings.candidates(s.asks, s.at/64, min(indexBlock, len(routes)-s.at+63)/64)
		}
		in := s.at % indexBlock
		word := s.block[in/64] >> (in % 64)
		if word == 0 {
			s.at += 64 - in%64
			continue
		}
		if skip := bits.TrailingZeros64(word); skip > 0 {
			s.at += skip
			continue
		}
		t := &routes[s.at]
		s.at++
		if r.crosses(t, &s.settled, s.settled.paired) && s.asks.met(t) {
			_, lonely := s.lonely(t)
			found = way{s, t, nil, false, s.weight * r.bound(t, r.bentIn(t)) * lonely}
			break
		}
	}
	return found, s.at < len(routes)
}

// lonely is how usual it is that stubs are as alone as a topology has them, with nothing
// where they end, and at best: all but those where the hidden devices are lead to other
// rooms, or nowhere.
func (s *stream) lonely(t *topology) (bare, best float64) {
	weight := 1.0
	var gains [maxDevices]float64 // the largest, first
	for _, stubs := range t.stubs {
		if len(stubs) != 1 {
			continue
		}
		stub := stubs[0]
		weight *= s.alone[stub].bare
		gain := s.alone[stub].device / s.alone[stub].bare
		for i := range min(len(s.devices), len(gains)) {
			if gain > gains[i] {
				gain, gains[i] = gains[i], gain
			}
		}
	}
	bare = weight
	for _, gain := range gains {
		if gain > 1 {
			weight *= gain
		}
	}
	return bare, weight
}

// fewDevices is up to how many hidden devices what a stub weighs with each set of them is
// kept: a supply and a lamp, and one more.
const fewDevices = 3

// lonelyWith is how usual it is at best that stubs are as alone as they are, with the
// hidden devices in their places: bare is what it is without them.
func (s *stream) lonelyWith(r *router, bare float64) float64 {
	weight := bare
	for i, room := range r.rooms {
		if len(r.t.stubs[room]) != 1 {
			continue
		}
		set, first := 0, true
		for k, other := range r.rooms {
			if other == room {
				set |= 1 << k
				first = first && k >= i
			}
		}
		if !first {
			continue
		}
		stub := r.t.stubs[room][0]
		with := 0.0
		if set < 1<<fewDevices {
			with = s.with[stub][set]
		}
		if with == 0 {
			labels, _ := r.offered(int(room))
			with = r.alone(stub, labels, true)
			if set < 1<<fewDevices {
				s.with[stub][set] = with
			}
		}
		weight *= with / s.alone[stub].bare
	}
	return weight
}

// impossible stands for nought where one divides by it.
const impossible = 1e-30

// maxDevices is how many hidden devices are told apart in weighing lonely stubs: a
// supply, a few lamps and a switch or two.
const maxDevices = 12

// take leads a pattern through a topology.
func (r *router) take(w way) {
	if w.rooms == nil {
	} else {
	}
	r.tire(takeTires)
	s := w.stream
	r.p, r.lab, r.devices, r.used, r.links, r.rooms, r.t, r.stream = s.pattern, s.lab, s.devices, s.used, s.links, nil, w.t, s
	r.running = s.weight
	r.route()
	if !w.placed {
		r.settle()
	} else {
		r.lead(w.rooms)
	}
}

// alone says how usual it is at best that a stub meets no other where it ends: labels
// are those that hidden devices there offer. Of its conductors that are still undecided
// one can be line, one neutral and one a load; the others are spare.
func (r *router) alone(stub int, labels uint64, device bool) float64 {
	var have uint64
	spare := 1.0
	var gain [isStrap + 1]float64 // by kind: what the conductor gains that suits it best
	for _, i := range r.stubs[stub].cores {
		if l := r.lab[r.cores[i].class]; l != undecided {
			have |= 1 << l
			continue
		}
		spare *= r.idle[i]
		for k, g := range r.gain[i] {
			gain[k] = max(gain[k], g)
		}
	}
	needs := func(l label) float64 { // for a label to be there
		if have>>l&1 == 1 {
			return 1
		}
		return gain[r.p.kinds[l]]
	}
	line, back := needs(hot), needs(neutral)
	if device {
		weight := spare * max(1, line) * max(1, back) * max(1, gain[isLoad])
		for left := labels &^ have &^ (1<<hot | 1<<neutral); left != 0; left &= left - 1 {
			k := r.p.kinds[bits.TrailingZeros64(left)]
			weight *= max(1, gain[k])
			if k == isRails {
				weight *= max(1, gain[k])
			}
		}
		return weight
	}
	if r.p.faulty {
		return 1
	}
	load := gain[isLoad]
	for left := have &^ (1 << none); left != 0; left &= left - 1 {
		switch r.p.kinds[bits.TrailingZeros64(left)] {
		case isRails, isStrap, isShell:
			return 0
		case isLoad:
			return secondLamp * spare * back * max(1, line)
		}
	}
	best := max(onwardFeed*line*back, secondLamp*load*back*max(1, line))
	switch {
	case have>>hot&1 == 1 && have>>neutral&1 == 0:
		best = max(best, onwardPart)
	case have>>hot&1 == 0 && have>>neutral&1 == 1:
		best = max(best, onwardPart)
	case have&^(1<<none) == 0:
		best = max(best, onwardPart*line, onwardPart*back, deadCable)
	}
	return best * spare
}
