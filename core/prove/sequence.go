package prove

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/parallel"
)

// knowledge is how the right circuit may stand by what was seen so far. It is a node: a press and
// what is seen after it lead to another, or to none, and then it is not the right circuit.
type knowledge struct {
	classes []int32
	after   map[step]*knowledge
}

// step is what is seen after a press.
type step struct {
	press int
	seen  sight
}

// trial is a circuit that stands as all those do that no pressing tells apart, with what is known
// of the right one.
type trial struct {
	class int32
	known *knowledge // nil where it was revealed that it is not the right one
}

// search looks for presses that reveal mistakes. What the right circuit and each wrong one do is in
// one table, in which those that do the same have the same states. Trials go by number; the mistakes
// share them.
type search struct {
	doc      *circuit.Circuit
	controls []string
	lamps    []string
	table    table
	width    int     // how many controls there are
	right    []int32 // the classes in which the right circuit may stand at the start
	wrong    []*electric.Network
	of       [][]int32 // the trials of each mistake at the start, but for those revealed before anybody presses
	next     []int32   // by trial and press: the trial after it, or revealed
	can      []bool    // by trial: whether some presses reveal it
	sets     map[string]*knowledge
}

// revealed stands for a trial that was.
const revealed = -1

func newSearch(ctx context.Context, w *work, mistakes []Mistake) (*search, error) {
	s := &search{doc: w.doc, controls: w.controls(), lamps: w.read.net.LampIDs(),
		wrong: make([]*electric.Network, len(mistakes)), of: make([][]int32, len(mistakes)), sets: map[string]*knowledge{}}
	s.width = len(s.controls)
	start, err := s.write(ctx, w, mistakes)
	if err != nil {
		return nil, err
	}
	s.right = start[len(mistakes)]
	s.explore(start[:len(mistakes)])
	return s, nil
}

// write writes the table, and returns in which of its states the circuit with each mistake may stand at the start, and last
// the right one. The error is the context's, or that there are too many.
func (s *search) write(ctx context.Context, w *work, mistakes []Mistake) (start [][]int32, err error) {
	tables, start, failed := make([]table, len(mistakes)+1), make([][]int32, len(mistakes)+1), make([]error, len(mistakes)+1)
	if err := parallel.Each(ctx, len(tables), func(i int) {
		n := w.read.net
		if i < len(mistakes) {
			n = w.wrong(mistakes[i])
			s.wrong[i] = n
		}
		tables[i], start[i], failed[i] = tableOf(n, s.controls, starts(n))
		start[i] = each(start[i])
	}); err != nil {
		return nil, err
	}
	if err := errors.Join(failed...); err != nil {
		return nil, errTooMany
	}
	var all table
	first := make([]int32, len(tables))
	for i, t := range tables {
		first[i] = all.put(t)
	}
	class := all.classes()
	s.table = all.merged(class)
	for i := range start {
		for k, at := range start[i] {
			start[i][k] = class[first[i]+at]
		}
		start[i] = each(start[i])
	}
	return start, nil
}

// each is each of them once, in order.
func each(list []int32) []int32 {
	out := slices.Sorted(slices.Values(list))
	return slices.Compact(out)
}

// controls are what can be pressed, in the order in which one walks past them.
func (w *work) controls() []string { return inWalkingOrder(w.doc, w.read.net.Controls()) }

// inWalkingOrder sorts controls as their boxes stand in the record.
func inWalkingOrder(c *circuit.Circuit, controls []string) []string {
	rank := func(id string) int {
		return slices.IndexFunc(c.Boxes, func(b circuit.Box) bool { return b.ID == c.Device(id).Box })
	}
	out := slices.Clone(controls)
	slices.SortStableFunc(out, func(a, b string) int { return rank(a) - rank(b) })
	return out
}

// press is where a control leads.
func (s *search) press(class int32, press int) int32 { return s.table.next[int(class)*s.width+press] }

// firstSeen is what is known by what is seen before anybody presses.
func (s *search) firstSeen() map[sight]*knowledge {
	by := map[sight][]int32{}
	for _, class := range s.right {
		seen := s.table.shows[class]
		by[seen] = append(by[seen], class)
	}
	out := map[sight]*knowledge{}
	for seen, classes := range by {
		out[seen] = s.set(classes)
	}
	return out
}

// set is the one node of a set of classes.
func (s *search) set(classes []int32) *knowledge {
	slices.Sort(classes)
	classes = slices.Compact(classes)
	key := fmt.Sprint(classes)
	if s.sets[key] == nil {
		s.sets[key] = &knowledge{classes, map[step]*knowledge{}}
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
	var classes []int32
	for _, x := range k.classes {
		if to := s.press(x, press); s.table.shows[to] == seen {
			classes = append(classes, to)
		}
	}
	var to *knowledge
	if len(classes) > 0 {
		to = s.set(classes)
	}
	k.after[key] = to
	return to
}

// after is a trial after a press.
func (s *search) after(t trial, press int) trial {
	class := s.press(t.class, press)
	return trial{class, s.learn(t.known, press, s.table.shows[class])}
}

// explore numbers all trials that presses reach, and finds from which a mistake can be revealed at
// all: forward from the start of each mistake, then back from where it shows.
func (s *search) explore(starts [][]int32) {
	number := map[trial]int32{}
	var all []trial
	of := func(t trial) int32 {
		if t.known == nil {
			return revealed
		}
		n, met := number[t]
		if !met {
			n = int32(len(all))
			number[t] = n
			all = append(all, t)
		}
		return n
	}
	first := s.firstSeen()
	for i, classes := range starts {
		for _, class := range classes {
			if t := of(trial{class, first[s.table.shows[class]]}); t != revealed {
				s.of[i] = append(s.of[i], t)
			}
		}
	}
	var back [][]int32
	var shown []int32
	for i := 0; i < len(all); i++ {
		for press := range s.controls {
			to := of(s.after(all[i], press))
			s.next = append(s.next, to)
			back = append(back, make([][]int32, len(all)-len(back))...)
			if to == revealed {
				shown = append(shown, int32(i))
			} else {
				back[to] = append(back[to], int32(i))
			}
		}
	}
	s.can = make([]bool, len(all))
	for len(shown) > 0 {
		at := shown[len(shown)-1]
		shown = shown[:len(shown)-1]
		if !s.can[at] {
			s.can[at] = true
			shown = append(shown, back[at]...)
		}
	}
}

// alive lists the trials of all mistakes at the start that presses can reveal, each once.
func (s *search) alive() []int32 {
	all := slices.Concat(s.of...)
	slices.Sort(all)
	return slices.DeleteFunc(slices.Compact(all), func(t int32) bool { return !s.can[t] })
}

// play is what presses leave unrevealed, each once.
func (s *search) play(list []int32, presses []int) []int32 {
	for _, press := range presses {
		next := make([]int32, 0, len(list))
		for _, t := range list {
			if to := s.next[int(t)*s.width+press]; to != revealed {
				next = append(next, to)
			}
		}
		slices.Sort(next)
		list = slices.Compact(next)
	}
	return list
}

// stuck reports whether there is one among them that can not be revealed any more.
func (s *search) stuck(list []int32) bool {
	return slices.ContainsFunc(list, func(t int32) bool { return !s.can[t] })
}

// revealedBy says of each mistake whether presses reveal it from every starting position.
func (s *search) revealedBy(presses []int) []bool {
	out := make([]bool, len(s.of))
	for i, list := range s.of {
		out[i] = len(s.play(list, presses)) == 0
	}
	return out
}

// expect is what each press does where the work is right.
func (s *search) expect(presses []int) []Expected {
	out := []Expected{}
	at := slices.Clone(s.right)
	for _, press := range presses {
		id := s.controls[press]
		x := Expected{Press: id, Box: s.doc.Device(id).Box, Lamps: map[string]string{}}
		changed, same := sight(0), sight(0)
		for i, class := range at {
			at[i] = s.press(class, press)
			moved := s.table.shows[class] ^ s.table.shows[at[i]]
			changed |= moved
			same |= ^moved
		}
		for i, lamp := range s.lamps {
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
