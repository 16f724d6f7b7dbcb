package prove

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// knowledge is how the right circuit may stand by what was seen so far. It is a node: a press and
// what is seen after it lead to another, or to none, and then it is not the right circuit.
type knowledge struct {
	states []electric.State
	after  map[step]*knowledge
}

// step is what is seen after a press.
type step struct {
	press int
	seen  sight
}

// trial is a circuit with a mistake, from one starting position.
type trial struct {
	mistake int
	state   electric.State
	known   *knowledge // nil where it was revealed
}

// search looks for presses that reveal mistakes.
type search struct {
	doc      *circuit.Circuit
	controls []string
	right    *machine
	wrong    []*machine // by mistake
	start    []trial
	sets     map[string]*knowledge
	can      []map[node]bool // by mistake: whether some presses reveal it from there
}

// node is how a circuit with a mistake stands, with what is known of the right one.
type node struct {
	state electric.State
	known *knowledge
}

// mostSwitches bounds the mechanical switches whose positions at the start are gone through, for
// each mistake.
const mostSwitches = 6

var errTooMany = errors.New("devices: more than six mechanical switches are not proved at once; the positions in which they may stand at the start are too many")

func newSearch(ctx context.Context, w *work, mistakes []Mistake) (*search, error) {
	s := &search{doc: w.doc, right: newMachine(w.read.net), sets: map[string]*knowledge{}}
	s.controls = inWalkingOrder(w.doc, s.right.net.Controls())
	if len(s.right.net.MechanicalBits()) > mostSwitches {
		return nil, errTooMany
	}
	starts := s.right.starts()
	first := s.firstSeen(starts)
	for i, m := range mistakes {
		if i%64 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		x := newMachine(w.wrong(m))
		s.wrong = append(s.wrong, x)
		s.can = append(s.can, map[node]bool{})
		for _, from := range starts {
			s.start = append(s.start, trial{i, from, first[x.shows(from)]})
		}
		s.explore(i)
	}
	return s, nil
}

// inWalkingOrder sorts controls as their boxes stand in the record.
func inWalkingOrder(c *circuit.Circuit, controls []string) []string {
	rank := func(id string) int {
		return slices.IndexFunc(c.Boxes, func(b circuit.Box) bool { return b.ID == c.Device(id).Box })
	}
	out := slices.Clone(controls)
	slices.SortStableFunc(out, func(a, b string) int { return rank(a) - rank(b) })
	return out
}

// firstSeen is what is known by what is seen before anybody presses.
func (s *search) firstSeen(starts []electric.State) map[sight]*knowledge {
	by := map[sight][]electric.State{}
	for _, x := range starts {
		by[s.right.shows(x)] = append(by[s.right.shows(x)], x)
	}
	out := map[sight]*knowledge{}
	for seen, states := range by {
		out[seen] = s.set(states)
	}
	return out
}

// set is the one node of a set of states.
func (s *search) set(states []electric.State) *knowledge {
	slices.Sort(states)
	states = slices.Compact(states)
	key := fmt.Sprint(states)
	if s.sets[key] == nil {
		s.sets[key] = &knowledge{states, map[step]*knowledge{}}
	}
	return s.sets[key]
}

// learn is what is known after a press and what was seen; nil where the right circuit could not
// have shown it.
func (s *search) learn(k *knowledge, press int, seen sight) *knowledge {
	key := step{press, seen}
	if to, known := k.after[key]; known {
		return to
	}
	var states []electric.State
	for _, x := range k.states {
		if to := s.right.press(x, s.controls[press]); s.right.shows(to) == seen {
			states = append(states, to)
		}
	}
	var to *knowledge
	if len(states) > 0 {
		to = s.set(states)
	}
	k.after[key] = to
	return to
}

// after is a trial after a press.
func (s *search) after(t trial, press int) trial {
	if t.known == nil {
		return t
	}
	x := s.wrong[t.mistake]
	state := x.press(t.state, s.controls[press])
	return trial{t.mistake, state, s.learn(t.known, press, x.shows(state))}
}

// explore finds from where a mistake can be revealed at all: forward over all that presses reach,
// then back from where it shows.
func (s *search) explore(mistake int) {
	can := s.can[mistake]
	back := map[node][]node{}
	met := map[node]bool{}
	var todo, shown []node
	for _, t := range s.start {
		if n := (node{t.state, t.known}); t.mistake == mistake && t.known != nil && !met[n] {
			met[n] = true
			todo = append(todo, n)
		}
	}
	for len(todo) > 0 {
		at := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		for press := range s.controls {
			t := s.after(trial{mistake, at.state, at.known}, press)
			if t.known == nil {
				shown = append(shown, at)
				continue
			}
			to := node{t.state, t.known}
			back[to] = append(back[to], at)
			if !met[to] {
				met[to] = true
				todo = append(todo, to)
			}
		}
	}
	for len(shown) > 0 {
		at := shown[len(shown)-1]
		shown = shown[:len(shown)-1]
		if can[at] {
			continue
		}
		can[at] = true
		shown = append(shown, back[at]...)
	}
}

// alive lists the trials that presses may still reveal, each once.
func (s *search) alive(list []trial) []trial {
	met := map[trial]bool{}
	var out []trial
	for _, t := range list {
		if t.known != nil && s.can[t.mistake][node{t.state, t.known}] && !met[t] {
			met[t] = true
			out = append(out, t)
		}
	}
	return out
}

// How far ahead the next presses are chosen, and how many sequences are tried for a shorter one.
const (
	mostAhead = 3
	mostTried = 6_000
)

// sequence finds presses that reveal all that presses can: greedily, then without those that are
// not needed, then by trying every shorter sequence as far as there are not too many.
func (s *search) sequence(ctx context.Context) []int {
	all := s.alive(s.start)
	var out []int
	for left := all; len(left) > 0 && ctx.Err() == nil; {
		more := s.ahead(left)
		if more == nil {
			break
		}
		out = append(out, more...)
		left = s.play(left, more)
	}
	for i := 0; i < len(out); {
		without := slices.Delete(slices.Clone(out), i, i+1)
		if len(s.play(all, without)) == 0 && ctx.Err() == nil {
			out = without
			i = 0
			continue
		}
		i++
	}
	for n, tried := 1, 1; n < len(out); n++ {
		if tried *= len(s.controls); tried > mostTried || ctx.Err() != nil {
			break
		}
		if shorter := s.within(all, n); shorter != nil {
			return shorter
		}
	}
	return out
}

// play is what presses leave unrevealed.
func (s *search) play(list []trial, presses []int) []trial {
	for _, press := range presses {
		next := make([]trial, 0, len(list))
		for _, t := range list {
			if t = s.after(t, press); t.known != nil {
				next = append(next, t)
			}
		}
		list = next
	}
	return list
}

// ahead is the next presses, a few at most, that reveal the most for each; where none reveal
// anything so soon, those that reveal one trial soonest. It never goes where one could not be
// revealed any more, if there is another way.
func (s *search) ahead(left []trial) []int {
	var best []int
	rate := 0.0
	var try func(list []trial, so []int)
	try = func(list []trial, so []int) {
		if n := len(so); n > 0 {
			stuck := slices.ContainsFunc(list, func(t trial) bool { return !s.can[t.mistake][node{t.state, t.known}] })
			if r := float64(len(left)-len(list)) / float64(n); !stuck && r > rate {
				best, rate = slices.Clone(so), r
			}
		}
		if len(so) == mostAhead || len(list) == 0 {
			return
		}
		for press := range s.controls {
			try(s.play(list, []int{press}), append(so, press))
		}
	}
	try(left, nil)
	if best != nil {
		return best
	}
	return s.soonest(left[0])
}

// soonest is the shortest way to reveal one trial.
func (s *search) soonest(from trial) []int {
	type way struct {
		t       trial
		presses []int
	}
	met := map[trial]bool{from: true}
	for todo := []way{{from, nil}}; len(todo) > 0; todo = todo[1:] {
		at := todo[0]
		for press := range s.controls {
			t, presses := s.after(at.t, press), append(slices.Clone(at.presses), press)
			if t.known == nil {
				return presses
			}
			if !met[t] {
				met[t] = true
				todo = append(todo, way{t, presses})
			}
		}
	}
	return nil
}

// within tries every sequence of a length.
func (s *search) within(list []trial, n int) []int {
	if n == 0 {
		if len(list) == 0 {
			return []int{}
		}
		return nil
	}
	for press := range s.controls {
		if rest := s.within(s.play(list, []int{press}), n-1); rest != nil {
			return append([]int{press}, rest...)
		}
	}
	return nil
}

// revealedBy says of each mistake whether presses reveal it from every starting position.
func (s *search) revealedBy(presses []string) []bool {
	list := slices.Clone(s.start)
	for _, id := range presses {
		for i, t := range list {
			list[i] = s.after(t, slices.Index(s.controls, id))
		}
	}
	out := make([]bool, len(s.wrong))
	for i := range out {
		out[i] = true
	}
	for _, t := range list {
		out[t.mistake] = out[t.mistake] && t.known == nil
	}
	return out
}

// expect is what each press does where the work is right.
func (s *search) expect(presses []string) []Expected {
	out := []Expected{}
	states := s.right.starts()
	for _, id := range presses {
		x := Expected{Press: id, Box: s.doc.Device(id).Box, Lamps: map[string]string{}}
		changed, same := sight(0), sight(0)
		for i, at := range states {
			before := s.right.shows(at)
			states[i] = s.right.press(at, id)
			changed |= before ^ s.right.shows(states[i])
			same |= ^(before ^ s.right.shows(states[i]))
		}
		for i, lamp := range s.right.net.LampIDs() {
			switch bit := sight(1) << i; {
			case changed&bit != 0 && same&bit != 0:
				x.Lamps[lamp] = "depends"
			case changed&bit != 0:
				x.Lamps[lamp] = "changes"
			default:
				x.Lamps[lamp] = "stays"
			}
		}
		out = append(out, x)
	}
	return out
}
