package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// From [leastPaired] switches of three or four screws on, the orders in which they can follow each other
// are too many to hold readings against. Then it is found first which two pairs of travelers are one link:
// with every wire off its screw and the power off, the two travelers of a pair beep against each other
// where the pair at the other end of their link is tied together, and nowhere else. Where there are still
// too many ways, it is found for one link after the other which of its two travelers is which. What such
// readings say holds in every circuit, so that it rules out orders without going through them.
//
// It takes a record that says in how many places the light is switched, and has them all: a switch that
// is not on record could be in any link.

// leastPaired is from how many changeovers on links are found first.
const leastPaired = 6

// mostPairedWork bounds the combinations that are gone through once enough links are known.
const mostPairedWork = 1_500_000

// port is the two screws of a switch on which one pair of travelers stands, with a core end under each.
type port struct {
	control int
	ends    [2]circuit.End
	atoms   [2]int
}

// pairing holds which ports may be the two ends of one link, by the readings.
type pairing struct {
	ports []port
	of    [][]int       // by control: its ports, the first side first
	may   [][]bool      // by two ports
	with  []int         // by port: the other end of its link, -1 where that is open
	turns [][]uint8     // by two ports: whether their travelers are known to lie straight (1) or turned (2)
	clash bool          // no order agrees with the readings
	all   []circuit.Ref // every screw
	lamps []string
}

// pairable returns the ports of a record whose links can be found, or nil.
func (v *view) pairable() *pairing {
	p := &pairing{of: make([][]int, len(v.switches))}
	ends, mids := 0, 0
	for i := range v.switches {
		s := &v.switches[i]
		if s.kind == single || s.kind == idle {
			continue
		}
		if !s.seen() || s.unmarked {
			return nil
		}
		sides := [][2]int{{1, 2}}
		if ends++; s.kind == middle {
			sides = [][2]int{{0, 1}, {2, 3}}
			ends--
			mids++
		}
		for _, side := range sides {
			q := port{control: i}
			for k, terminal := range side {
				e, ok := v.coreUnder(s.nodes[terminal])
				if !ok {
					return nil
				}
				q.ends[k], q.atoms[k] = e, v.atom[v.index[e]]
			}
			p.of[i] = append(p.of[i], len(p.ports))
			p.ports = append(p.ports, q)
		}
	}
	if ends+mids < leastPaired || v.mayHideMiddles() || v.unseenEnds(ends, mids) > 0 || slices.Contains(v.doc.Cannot, circuit.CannotLampOut) || slices.Contains(v.doc.Cannot, circuit.CannotSecondPerson) {
		return nil
	}
	for i := range v.switches {
		for _, n := range v.switches[i].nodes {
			p.all = append(p.all, v.nodes[n].Ref)
		}
	}
	for _, l := range v.lamps {
		if l.id != "" {
			p.lamps = append(p.lamps, l.id)
		}
	}
	for a := range p.ports {
		p.may, p.with, p.turns = append(p.may, make([]bool, len(p.ports))), append(p.with, -1), append(p.turns, make([]uint8, len(p.ports)))
		for b := range p.ports {
			p.may[a][b] = p.ports[a].control != p.ports[b].control
		}
	}
	return p
}

// coreUnder is a core end under a screw.
func (v *view) coreUnder(node int) (circuit.End, bool) {
	for _, s := range v.screws {
		if !slices.Contains(s.members, node) {
			continue
		}
		for _, m := range s.members {
			if e := v.nodes[m]; e.Box != "" {
				return e, true
			}
		}
	}
	return circuit.End{}, false
}

// read takes what readings say of links.
func (p *pairing) read(v *view, readings []circuit.Observation) {
	for _, o := range readings {
		p.take(v, o)
	}
	p.conclude()
}

// take takes one reading, if it is one that says something of links.
func (p *pairing) take(v *view, o circuit.Observation) {
	closed := o.Reading == "closed"
	missing := func(list, of []string) bool {
		return slices.ContainsFunc(of, func(x string) bool { return !slices.Contains(list, x) })
	}
	if o.Instrument != circuit.Continuity || o.Power == "on" || len(o.At) != 2 || !closed && o.Reading != "open" || missing(o.LampsOut, p.lamps) ||
		slices.ContainsFunc(p.all, func(r circuit.Ref) bool { return !slices.Contains(o.Lifted, r) }) {
		return
	}
	atoms := func(ends []circuit.End) []int {
		var out []int
		for _, e := range ends {
			n, ok := v.index[e]
			if !ok {
				return nil
			}
			out = append(out, v.atom[n])
		}
		return out
	}
	at := atoms(o.At)
	if at == nil {
		return
	}
	if q := p.portOf(at); q >= 0 {
		tied := make([]bool, len(p.ports))
		for _, group := range o.Tied {
			t := p.portOf(atoms(group))
			if t < 0 || t == q {
				return
			}
			tied[t] = true
		}
		for x := range p.ports {
			if tied[x] != closed {
				p.not(q, x)
			}
		}
		return
	}
	a, i := p.travelerOf(at[0])
	b, j := p.travelerOf(at[1])
	if len(o.Tied) > 0 {
		return
	}
	if a < 0 || b < 0 || a == b {
		return
	}
	turn := uint8(1)
	if i != j {
		turn = 2
	}
	if closed {
		for x := range p.ports {
			if x != b {
				p.not(a, x)
			}
		}
	} else {
		turn = 3 - turn
	}
	p.turns[a][b] |= turn
	p.turns[b][a] |= turn
}

// portOf is the port whose two travelers these are, -1 for any others.
func (p *pairing) portOf(atoms []int) int {
	return slices.IndexFunc(p.ports, func(q port) bool {
		return len(atoms) == 2 && (q.atoms == [2]int{atoms[0], atoms[1]} || q.atoms == [2]int{atoms[1], atoms[0]})
	})
}

// travelerOf is the port and the side of one traveler, -1 for another conductor.
func (p *pairing) travelerOf(atom int) (in, side int) {
	for i, q := range p.ports {
		if side := slices.Index(q.atoms[:], atom); side >= 0 {
			return i, side
		}
	}
	return -1, 0
}

func (p *pairing) not(a, b int) { p.may[a][b], p.may[b][a] = false, false }

// conclude draws what follows: a port has one other end, and a chain is no ring.
func (p *pairing) conclude() {
	for again := true; again && !p.clash; {
		again = false
		for a := range p.ports {
			if p.with[a] >= 0 {
				continue
			}
			left := p.candidates(a)
			switch len(left) {
			case 0:
				p.clash = true
				return
			case 1:
				b := left[0]
				p.with[a], p.with[b], again = b, a, true
				for x := range p.ports {
					if x != a && x != b {
						p.not(a, x)
						p.not(b, x)
					}
				}
				if end := p.farOf(a); end >= 0 && end == p.farOf(b) {
					p.clash = true
					return
				}
			}
		}
		for a := range p.ports { // one more link would close a ring
			if end := p.farOf(a); p.with[a] < 0 && end >= 0 && end != a && p.may[a][end] {
				p.not(a, end)
				again = true
			}
		}
	}
}

// farOf goes along known links from an open port, through its own switch, to the open port where they end;
// -1 where they end at the last switch of a chain, or come back.
func (p *pairing) farOf(a int) int {
	for range p.ports {
		sides := p.of[p.ports[a].control]
		if len(sides) < 2 {
			return -1
		}
		next := sides[0]
		if next == a {
			next = sides[1]
		}
		if p.with[next] < 0 {
			return next
		}
		a = p.with[next]
	}
	return -1
}

// candidates are the ports that may be the other end of one.
func (p *pairing) candidates(a int) []int {
	var out []int
	for b, may := range p.may[a] {
		if may {
			out = append(out, b)
		}
	}
	return out
}

// open counts the unknown links, and the known links whose travelers are not told apart.
func (p *pairing) open() (links, turns int) {
	for a, b := range p.with {
		switch {
		case b < 0:
			links++
		case a < b && p.turns[a][b] != 1 && p.turns[a][b] != 2:
			turns++
		}
	}
	return links / 2, turns
}

// linked reports whether a link may lead from one port to another.
func (v *view) linked(a, b int) bool {
	return v.pairs == nil || a < 0 || b < 0 || v.pairs.may[a][b]
}

// portAt is a port of a switch by its side, -1 where links are not asked for.
func (v *view) portAt(control, side int) int {
	if v.pairs == nil || control >= len(v.pairs.of) || side >= len(v.pairs.of[control]) {
		return -1
	}
	return v.pairs.of[control][side]
}

// turnOf says how the travelers on the screws of two switches lie, if it is known: 1 straight, 2 turned.
func (v *view) turnOf(a, terminalA, b, terminalB int) uint8 {
	side := func(control, terminal int) int {
		if v.switches[control].kind == middle {
			return terminal / 2
		}
		return 0
	}
	if v.pairs == nil || a >= len(v.switches) || b >= len(v.switches) {
		return 0
	}
	p, q := v.portAt(a, side(a, terminalA)), v.portAt(b, side(b, terminalB))
	if p < 0 || q < 0 {
		return 0
	}
	return v.pairs.turns[p][q]
}
