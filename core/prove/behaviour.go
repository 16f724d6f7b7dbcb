package prove

import (
	"errors"
	"slices"

	"ambivia/core/electric"
)

// sight is what a person sees of the lamps: a bit for each that is lit, or that the breaker
// tripped, which ends it.
type sight uint64

const trip sight = 1 << 63

// sightOf is what a person sees of the lamps of a circuit that stands so.
func sightOf(solved *electric.Solution, lamps int) (out sight) {
	if solved.Tripped {
		return trip
	}
	for i := range lamps {
		if solved.Lit(i) {
			out |= 1 << i
		}
	}
	return out
}

// starts lists the states of a circuit after the light was switched off: every smart relay at 0, mechanical
// switches in any position. A proof counts its presses from these states.
func starts(n *electric.Network) []electric.State {
	out := []electric.State{0}
	if len(n.MechanicalBits()) > mostSwitches {
		return out // which [tableOf] refuses
	}
	for _, bit := range n.MechanicalBits() {
		for _, s := range out {
			out = append(out, s|bit)
		}
	}
	return out
}

// mostStarts bounds the ways in which a circuit is thought to stand at the start.
const mostStarts = 1 << 11

// anyStarts lists the states that presses and messages reach from [starts], those first. A device may keep any
// of them, and a kept state is not a mistake.
func anyStarts(n *electric.Network) []electric.State {
	out := starts(n)
	if len(n.Bits()) == len(n.MechanicalBits()) {
		return out // nothing but mechanical switches, which stand anyhow already
	}
	seen := map[electric.State]bool{}
	for _, s := range out {
		seen[s] = true
	}
	add := func(s electric.State, settled bool) {
		if settled && !seen[s] && len(out) < mostStarts {
			seen[s] = true
			out = append(out, s)
		}
	}
	for i := 0; i < len(out); i++ {
		if n.Solve(out[i]).Tripped {
			continue
		}
		for _, id := range n.Controls() {
			add(n.Press(out[i], id, nil))
			if _, told := n.SwitchOf(id); told {
				add(n.Set(out[i], id, true))
				add(n.Set(out[i], id, false))
			}
		}
	}
	return out
}

// pressed is how a circuit stands after presses. Once the breaker tripped nothing more happens.
func pressed(n *electric.Network, at electric.State, presses []string) electric.State {
	for _, id := range presses {
		if n.Solve(at).Tripped {
			break
		}
		at, _ = n.Press(at, id, nil)
	}
	return at
}

// mostSwitches bounds the mechanical switches whose positions at the start are gone through, for
// each mistake: as many as there are controls of one light at most.
const mostSwitches = 10

// mostLamps is how many a sight has room for.
const mostLamps = 63

var errTooMany = errors.New("devices: more than ten mechanical switches, devices that may stand in more ways than these, or more than 63 lamps, are not proved at once")

// table is what each state of a circuit shows, and where each control leads from there.
type table struct {
	shows []sight
	next  []int32 // by state, and in that by control
}

// tableOf writes out what a circuit shows as controls are pressed, from any of some ways in which it may stand at the start;
// states that no pressing tells apart are one. It returns in which state each of those is. The error is errTooMany.
func tableOf(n *electric.Network, controls []string, from []electric.State) (t table, start []int32, err error) {
	if len(n.MechanicalBits()) > mostSwitches || len(n.LampIDs()) > mostLamps {
		return table{}, nil, errTooMany
	}
	order := make([]int, len(controls))
	for k, id := range n.Controls() {
		order[k] = slices.Index(controls, id)
	}
	lamps := len(n.LampIDs())
	complete := n.Reach(from, func(here *electric.Solution, next []int32) {
		at := int32(len(t.shows))
		seen := sightOf(here, lamps)
		t.shows = append(t.shows, seen)
		row := make([]int32, len(next))
		for k, to := range next {
			if seen == trip {
				to = at // nothing more happens
			}
			row[order[k]] = to
		}
		t.next = append(t.next, row...)
	})
	if !complete {
		return table{}, nil, errTooMany
	}
	class := t.classes()
	return t.merged(class), class[:len(from)], nil
}

// width is how many controls there are.
func (t *table) width() int { return len(t.next) / max(1, len(t.shows)) }

// classes numbers the states so that those have one number which no pressing tells apart.
func (t *table) classes() []int32 {
	class := make([]int32, len(t.shows))
	first := map[sight]int32{}
	for i, seen := range t.shows {
		if _, known := first[seen]; !known {
			first[seen] = int32(len(first))
		}
		class[i] = first[seen]
	}
	width, count := t.width(), len(first)
	finer := map[[2]int32]int32{}
	for still := 0; still < width; { // until every control was tried since the last that told some apart
		for press := range width {
			clear(finer)
			now := make([]int32, len(class))
			for i, c := range class {
				pair := [2]int32{c, class[t.next[i*width+press]]}
				if _, known := finer[pair]; !known {
					finer[pair] = int32(len(finer))
				}
				now[i] = finer[pair]
			}
			if still++; len(finer) > count {
				still = 0
			}
			class, count = now, len(finer)
		}
	}
	return class
}

// merged is the table with one state for each class.
func (t *table) merged(class []int32) table {
	width := t.width()
	out := table{shows: make([]sight, slices.Max(class)+1)}
	out.next = make([]int32, len(out.shows)*width)
	for i, c := range class {
		out.shows[c] = t.shows[i]
		for press := range width {
			out.next[int(c)*width+press] = class[t.next[i*width+press]]
		}
	}
	return out
}

// put adds another table behind its own states, and returns the number of the first.
func (t *table) put(other table) int32 {
	first := int32(len(t.shows))
	t.shows = append(t.shows, other.shows...)
	for _, to := range other.next {
		t.next = append(t.next, first+to)
	}
	return first
}
