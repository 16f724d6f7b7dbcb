package trace

import (
	"slices"

	"ambivia/core/circuit"
)

// candidate is a test with what it may show in each world.
type candidate struct {
	test  circuit.Observation
	m     made
	cost  float64
	shows []outcome // by world: what it may show
	sure  []outcome // by world: what it shows for certain in some combination
	tally []tally   // by world
}

// tally counts the combinations of a world: all of them, those in which a test may show each of three
// things, and those in which it shows it for certain. Each count is a byte, so that all are added to
// at once.
type tally uint64

// Where the counts of a tally begin, in bits.
const (
	countAll  = 0
	countMay  = 8
	countFirm = 32
)

// tallies is what one combination adds, by what a test may show in it.
var tallies = func() (out [tripped << 1]tally) {
	for o := range out {
		out[o] = 1 << countAll
		for bit := range 3 {
			if o>>bit&1 == 1 {
				out[o] |= 1 << (countMay + 8*bit)
				if o&(o-1) == 0 {
					out[o] |= 1 << (countFirm + 8*bit)
				}
			}
		}
	}
	return out
}()

func (t tally) count(from int) float64 { return float64(uint8(t >> from)) }

// share is in what share of the combinations of a world a test may show something.
func (t *candidate) share(world, bit int) float64 {
	of := t.tally[world]
	return of.count(countMay+8*bit) / of.count(countAll)
}

// firmShare is in what share it shows that for certain.
func (t *candidate) firmShare(world, bit int) float64 {
	of := t.tally[world]
	return of.count(countFirm+8*bit) / of.count(countAll)
}

// count takes some combinations of a world into account in which a test may show the same.
func (t *candidate) count(world int, o outcome, combinations uint8) {
	t.shows[world] |= o
	if o&(o-1) == 0 {
		t.sure[world] |= o
	}
	t.tally[world] += tallies[o] * tally(combinations)
}

// state is a state of breaker and wires, with what can be told there.
type state struct {
	on     bool
	lifted []circuit.Ref
	tests  []candidate
}

// mostCells bounds the tables of tests and worlds that are kept while one test is chosen; a
// cell takes some ten bytes.
const mostCells = 4_000_000

// simulated lists the tests worth a thought in one state of breaker and wires, with what each
// may show.
func (c *chooser) simulated(on bool, lifted []circuit.Ref) []candidate {
	for _, s := range c.states {
		if s.on == on && slices.Equal(s.lifted, lifted) {
			return s.tests
		}
	}
	tests := c.tests(on, lifted)
	c.simulate(tests)
	if c.cells += len(tests) * len(c.worlds); c.cells <= mostCells {
		c.states = append(c.states, state{on, lifted, tests})
	}
	return tests
}

// simulate finds what each test may show in each world.
func (c *chooser) simulate(tests []candidate) {
	for i := range tests {
		t := &tests[i]
		t.shows, t.sure, t.tally = make([]outcome, len(c.worlds)), make([]outcome, len(c.worlds)), make([]tally, len(c.worlds))
	}
	for from := 0; from < len(tests); {
		to := from + 1
		for to < len(tests) && tests[to].m.setup == tests[from].m.setup {
			to++
		}
		c.simulateGroup(tests[from:to])
		from = to
	}
}

// simulateGroup does so for tests that are made under one setup. Combinations that differ in
// nothing that could show are gone through once, and what was worked out at an earlier reading is
// not worked out again.
func (c *chooser) simulateGroup(tests []candidate) {
	g := groupOf(tests)
	s := tests[0].m.setup
	for i, w := range c.worlds {
		relevant := ^w.f.irrelevant(s)
		for j, n := range w.combinations {
			same := func(other int) bool { return other&relevant == n&relevant }
			if slices.ContainsFunc(w.combinations[:j], same) {
				continue
			}
			count := uint8(1)
			for _, other := range w.combinations[j+1:] {
				if same(other) {
					count++
				}
			}
			row := c.kept.row(w, n&relevant, s)
			g.fill(&c.net, row, w, n, tests)
			for k := range tests {
				tests[k].count(i, row[tests[k].m.column], count)
			}
		}
	}
}

// grouped are the ends at which tests of one setup are made.
type grouped struct {
	probes []probe
	spots  []spot
	found  []bool   // by probe: its spot is known
	ends   [][2]int // by test and probe
}

func groupOf(tests []candidate) *grouped {
	g := &grouped{ends: make([][2]int, len(tests))}
	number := map[probe]int{}
	for k := range tests {
		for i, p := range tests[k].m.at {
			n, ok := number[p]
			if !ok {
				n = len(g.probes)
				number[p], g.probes = n, append(g.probes, p)
			}
			g.ends[k][i] = n
		}
	}
	g.spots, g.found = make([]spot, len(g.probes)), make([]bool, len(g.probes))
	return g
}

// fill works out what is not known yet of what tests may show in one combination of a world.
func (g *grouped) fill(n *network, row []outcome, w *world, combination int, tests []candidate) {
	joined := false
	for k := range tests {
		m := &tests[k].m
		if row[m.column] != 0 {
			continue
		}
		if !joined {
			joined = true
			n.join(w.f, combination, m.setup, w.nets)
			clear(g.found)
		}
		if n.bad && n.s.on {
			row[m.column] = tripped
			continue
		}
		nets := w.f.classOf(combination)
		var at [2]spot
		for i, end := range g.ends[k][:len(m.at)] {
			if !g.found[end] {
				g.found[end], g.spots[end] = true, n.place(g.probes[end], nets, w.nets.of(g.probes[end]))
			}
			at[i] = g.spots[end]
		}
		row[m.column] = n.read(m.instrument, at[0], at[1], m.lamp)
	}
}
