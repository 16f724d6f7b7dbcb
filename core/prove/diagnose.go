package prove

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/parallel"
	"ambivia/core/retrofit"
)

// Seen is what a person did and saw: Lamps has one more entry than Presses, the first of them the
// start. A lamp is "lit", "dark" or, where the breaker went, "trip"; one that is not named was not
// looked at. Readings were taken after the last press.
type Seen struct {
	Presses  []string              `json:"presses"`
	Lamps    []map[string]string   `json:"lamps"`
	Readings []circuit.Observation `json:"readings"`
}

// Suspect is a single mistake that explains what was seen.
type Suspect struct {
	Mistake
	Box  string  `json:"box"`
	Text string  `json:"text"`
	Odds float64 `json:"odds"`
}

// Next is what tells the suspects apart best: a press, or a reading.
type Next struct {
	Press string               `json:"press,omitempty"`
	Box   string               `json:"box,omitempty"`
	Test  *circuit.Observation `json:"test,omitempty"`
	Right any                  `json:"right,omitempty"`
	Text  string               `json:"text"`
	// Asks is what is confirmed before the reading is taken, by who knows how the power stands.
	Asks []string `json:"asks,omitempty"`
}

// Diagnosis is the answer of [Diagnose]. Where no single mistake explains what was seen, Text says
// so, and Boxes are those to look at first.
type Diagnosis struct {
	Right    bool      `json:"right"`
	Mistakes []Suspect `json:"mistakes"`
	Next     *Next     `json:"next"`
	Text     string    `json:"text"`
	Boxes    []string  `json:"boxes"`
}

// How usual the kinds of mistake are against each other, before anything was seen: rules of thumb
// of the trade. Two conductors are exchanged more often than one is loose, and one seldom ends up
// in another joint.
var usual = map[string]float64{Swap: 0.5, Loose: 0.35, Misplaced: 0.15}

// Diagnose finds every single mistake that explains what was seen of an option that was carried
// out. The error names what of it cannot be, or is the context's.
func Diagnose(ctx context.Context, c *circuit.Circuit, o *retrofit.Option, seen Seen) (*Diagnosis, error) {
	b, err := NewBench(ctx, c, o)
	if err != nil {
		return nil, err
	}
	return b.Diagnose(ctx, seen)
}

// Bench holds every circuit with a single mistake in it that matters, for as long as somebody
// looks for the one that was made. Use it from one goroutine at a time.
type Bench struct {
	*work
	presses  []string // what can be pressed
	right    *maker
	suspects []*maker
	alike    []*maker // those that are the same as right but for which of two like ends stands where
	kinds    map[string]int
}

// maker is a mistake with the circuit that it makes.
type maker struct {
	m     Mistake
	table table
	start []int32 // in which state of the table it is in each of the ways to stand at the start
	from  []electric.State
	off   int // how many of those there are where the light was switched off first: the first ones
	read  *sample
}

// NewBench makes one for an option, or for the circuit as recorded where that is nil. The error is
// the context's, or that there are too many switches.
func NewBench(ctx context.Context, c *circuit.Circuit, o *retrofit.Option) (*Bench, error) {
	b := &Bench{work: of(c, o), kinds: map[string]int{}}
	b.presses = b.controls()
	mistakes, err := b.mistakes()
	if err != nil {
		return nil, err
	}
	if b.right, err = b.maker(b.read, Mistake{}); err != nil {
		return nil, err
	}
	made, failed, likes := make([]*maker, len(mistakes)), make([]error, len(mistakes)), make([]bool, len(mistakes))
	err = parallel.Each(ctx, len(mistakes), func(i int) {
		if wrong := b.wrong(mistakes[i]); !b.identical(wrong) {
			made[i], failed[i] = b.maker(newSample(wrong), mistakes[i])
			likes[i] = b.sameAsRight(mistakes[i], wrong)
		}
	})
	if err != nil {
		return nil, err
	}
	if errors.Join(failed...) != nil {
		return nil, errTooMany
	}
	for i, x := range made {
		b.kinds[mistakes[i].Kind]++
		switch {
		case x == nil:
		case likes[i]:
			b.alike = append(b.alike, x)
		default:
			b.suspects = append(b.suspects, x)
		}
	}
	return b, nil
}

// maker writes out what a circuit does.
func (b *Bench) maker(read *sample, m Mistake) (*maker, error) {
	if len(read.net.MechanicalBits()) > mostSwitches {
		return nil, errTooMany
	}
	x := &maker{m: m, read: read, from: anyStarts(read.net), off: len(starts(read.net))}
	var err error
	x.table, x.start, err = tableOf(read.net, b.presses, x.from)
	return x, err
}

// Diagnose does so for what was seen.
func (b *Bench) Diagnose(ctx context.Context, seen Seen) (*Diagnosis, error) {
	w := b.work
	if err := w.check(seen); err != nil {
		return nil, err
	}
	out := &Diagnosis{Mistakes: []Suspect{}, Boxes: []string{}}
	out.Right = len(b.explains(b.right, seen)) > 0
	type suspect struct {
		*maker
		at []int32
	}
	var suspects []suspect
	sum := 0.0
	list := b.suspects
	if !out.Right { // from where relays stand at the start, even like ends may show which stands where
		list = slices.Concat(list, b.alike)
	}
	for i, made := range list {
		if i%64 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		m, ends := made.m, b.explains(made, seen)
		if len(ends) == 0 {
			continue
		}
		odds := usual[m.Kind] / float64(b.kinds[m.Kind]) * w.plausible(m) * float64(len(ends)) / float64(len(made.start))
		sum += odds
		suspects = append(suspects, suspect{made, ends})
		out.Mistakes = append(out.Mistakes, Suspect{m, w.boxOf(m.Ends[0]), w.text(m), odds})
	}
	order := make([]int, len(suspects))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(out.Mistakes[b].Odds, out.Mistakes[a].Odds) })
	sorted, reads := make([]Suspect, 0, len(order)), make([]*sample, 0, len(order))
	for _, i := range order {
		s := out.Mistakes[i]
		s.Odds = math.Round(s.Odds/sum*1e4) / 1e4
		sorted, reads = append(sorted, s), append(reads, suspects[i].read)
	}
	out.Mistakes = sorted
	switch {
	case out.Right:
		out.Text = "What was seen is what the right work shows."
	case len(sorted) == 0:
		out.Boxes = w.boxes()
		out.Text = "No single mistake explains what was seen: there are two at least, or something was seen otherwise than it was. Look at these boxes first, in this order."
	default:
		out.Text = fmt.Sprintf("%d single mistakes explain what was seen; the likeliest first.", len(sorted))
		if len(sorted) == 1 {
			out.Text = "One single mistake explains what was seen."
		}
	}
	if len(order) > 1 || len(order) == 1 && out.Right {
		best, most := -1, 0.0
		for p := range b.presses {
			by := map[sight]float64{}
			for k, i := range order {
				weight := sorted[k].Odds / float64(len(suspects[i].at))
				for _, at := range suspects[i].at {
					by[suspects[i].table.shows[suspects[i].table.next[int(at)*len(b.presses)+p]]] += weight
				}
			}
			if gain := spread(by); gain > most+1e-9 {
				best, most = p, gain
			}
		}
		if best >= 0 {
			id := b.presses[best]
			out.Next = &Next{Press: id, Box: w.doc.Device(id).Box, Text: "Press " + w.say.Device(id) + " and look at the lamps: what they do rules some of these out."}
		}
	}
	if out.Next == nil && len(order) > 0 {
		out.Next = w.nextReading(sorted, reads, seen)
	}
	return out, ctx.Err()
}

// mostMetered is of how many of the likeliest suspects readings are thought of.
const mostMetered = 10

// nextReading is the reading that tells the suspects apart best, nil where none does that was not
// made yet: readings that tell the likeliest from each of the others, and from right work. What each
// suspect makes of the circuit is given with it.
func (w *work) nextReading(suspects []Suspect, made []*sample, seen Seen) *Next {
	var best *Next
	most := 1e-9
	if len(suspects) == 1 {
		most = -1 // it is to be confirmed
	}
	for i, s := range suspects[:min(len(suspects), mostMetered)] {
		against, ends := w.read, s.Ends
		if i > 0 {
			against, ends = made[i], slices.Concat(suspects[0].Ends, s.Ends)
		}
		test, _, ok := w.tell(made[0], against, ends, false)
		if !ok || slices.ContainsFunc(seen.Readings, func(o circuit.Observation) bool {
			return o.Key() == test.Key()
		}) {
			continue
		}
		by := map[string]float64{}
		for n, other := range suspects {
			by[made[n].shows(test)] += other.Odds
		}
		if gain := spread(by); gain > most {
			most = gain
			best = &Next{Test: &test, Text: "Read this next, it tells most of them apart."}
			if right := w.read.shows(test); right != "" {
				best.Right, best.Text = right, best.Text+" "+w.reading(test, right)+" where the work is right."
			}
		}
	}
	return best
}

// spread is how evenly sights share the odds: nought where all show the same.
func spread[K comparable](by map[K]float64) float64 {
	odds := slices.Sorted(maps.Values(by)) // a sum of floats depends on its order, and a map has none
	sum, squares := 0.0, 0.0
	for _, x := range odds {
		sum += x
		squares += x * x
	}
	if sum == 0 {
		return 0
	}
	return 1 - squares/(sum*sum)
}

// check says what of what was seen cannot be.
func (w *work) check(seen Seen) error {
	controls, known := w.read.net.Controls(), w.read.net.LampIDs()
	for i, id := range seen.Presses {
		if !slices.Contains(controls, id) {
			return fmt.Errorf("presses[%d]: %q is nothing that can be pressed here", i, id)
		}
	}
	if len(seen.Lamps) != len(seen.Presses)+1 {
		return fmt.Errorf("lamps: %d entries for %d presses; there is one for the start and one after each", len(seen.Lamps), len(seen.Presses))
	}
	for i, lamps := range seen.Lamps {
		for id, how := range lamps {
			switch {
			case !slices.Contains(known, id):
				return fmt.Errorf("lamps[%d].%s: there is no such lamp", i, id)
			case how != "lit" && how != "dark" && how != "trip":
				return fmt.Errorf("lamps[%d].%s: %q is neither lit, dark nor trip", i, id, how)
			}
		}
	}
	return nil
}

// explains lists the states of a table in which a circuit ends that shows what was seen, one for each
// starting position that does.
func (b *Bench) explains(x *maker, seen Seen) []int32 {
	presses := make([]int, len(seen.Presses))
	for i, id := range seen.Presses {
		presses[i] = slices.Index(b.presses, id)
	}
	lamps := b.read.net.LampIDs()
	var out []int32
	for k, at := range x.start {
		fits := looks(x.table.shows[at], lamps, seen.Lamps[0])
		for i, press := range presses {
			if !fits {
				break
			}
			at = x.table.next[int(at)*len(b.presses)+press]
			fits = looks(x.table.shows[at], lamps, seen.Lamps[i+1])
		}
		if fits && x.couldRead(x.from[k], seen) {
			out = append(out, at)
		}
	}
	return out
}

// couldRead reports whether readings may have come so after the presses from a starting position.
func (x *maker) couldRead(at electric.State, seen Seen) bool {
	if len(seen.Readings) == 0 {
		return true
	}
	at = pressed(x.read.net, at, seen.Presses)
	return !slices.ContainsFunc(seen.Readings, func(o circuit.Observation) bool { return !x.read.couldRead(at, o) })
}

// looks reports whether what is seen is how the lamps looked, as far as anybody looked.
func looks(shown sight, known []string, lamps map[string]string) bool {
	for i, id := range known {
		how, looked := lamps[id]
		if !looked {
			continue
		}
		is := "dark"
		switch {
		case shown == trip:
			is = "trip"
		case shown>>i&1 == 1:
			is = "lit"
		}
		if how != is {
			return false
		}
	}
	return true
}

// plausible is how likely a mistake is among those of its kind: who exchanges two conductors
// mostly does so with two of one cable, or at one device; who lets one come loose, one that moved.
func (w *work) plausible(m Mistake) float64 {
	if m.Kind == Loose || m.Ends[0].Owner == m.Ends[1].Owner {
		return 1
	}
	return 0.2
}

// boxes are those in which ends were moved, the one with the most first.
func (w *work) boxes() []string {
	count := map[string]int{}
	out := []string{}
	for _, e := range w.ends {
		box := w.boxOf(e)
		if count[box]++; count[box] == 1 {
			out = append(out, box)
		}
	}
	slices.SortStableFunc(out, func(a, b string) int { return count[b] - count[a] })
	return out
}
