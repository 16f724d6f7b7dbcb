package trace

import (
	"container/heap"
	"context"
	"math"
	"slices"

	"ambivia/core/circuit"
)

// Node is one test of the whole tree, or its end.
type Node struct {
	// Test is nil at an end.
	Test     *circuit.Observation `json:"test,omitempty"`
	Text     string               `json:"text"`
	Worlds   int                  `json:"worlds"`
	Done     bool                 `json:"done"`
	Branches []Branch             `json:"branches,omitempty"`
	// Walks and Live are counted from here to the end, in the mean and at worst: a
	// walk is a change of the breaker, which is off again at the end.
	MeanWalks  float64 `json:"meanWalks"`
	WorstWalks int     `json:"worstWalks"`
	MeanTests  float64 `json:"meanTests"`
	WorstTests int     `json:"worstTests"`
	MeanLive   float64 `json:"meanLive"`
	// Cut says that the tree goes on below, but was not followed.
	Cut bool `json:"cut,omitempty"`

	turns int // changes of the breaker for its test, or at an end to off
}

// Branch is what a reading leads to.
type Branch struct {
	Reading any     `json:"reading"`
	Words   string  `json:"words"`
	Odds    float64 `json:"odds"`
	Then    *Node   `json:"then"`
}

// maxNodes bounds the tests of the tree that are followed, the likeliest first; what is past
// that is cut.
const maxNodes = 600

// Tree follows the readings of every next test to the end. Progress is told after
// each node, with how many were finished; it may be nil. The context stops it.
func (t *Tracer) Tree(ctx context.Context, prefer Prefer, describe func(circuit.Observation) string, progress func(nodes int)) (*Node, error) {
	g := &grower{prefer: prefer, describe: describe}
	root, err := g.node(ctx, t.fork(), 1)
	for nodes := 1; err == nil && len(g.buds) > 0 && nodes <= maxNodes; nodes++ {
		if progress != nil {
			progress(nodes)
		}
		err = g.grow(ctx)
	}
	if err != nil {
		return nil, err
	}
	root.sum()
	return root, nil
}

// grower grows a tree where it is likeliest to be gone.
type grower struct {
	prefer   Prefer
	describe func(circuit.Observation) string
	buds     buds
	count    int // of buds that came
}

// branch is a test whose readings were not followed yet.
type branch struct {
	t    *Tracer
	n    *Node
	odds float64
	at   int // in the order in which they came
}

// buds is a heap of them, the likeliest first.
type buds []branch

func (b buds) Len() int { return len(b) }
func (b buds) Less(i, j int) bool {
	return b[i].odds > b[j].odds || b[i].odds == b[j].odds && b[i].at < b[j].at
}
func (b buds) Swap(i, j int) { b[i], b[j] = b[j], b[i] }
func (b *buds) Push(x any)   { *b = append(*b, x.(branch)) }
func (b *buds) Pop() any {
	last := (*b)[len(*b)-1]
	*b = (*b)[:len(*b)-1]
	return last
}

// node makes a node of what is left, and a bud where there is a test to make. Until its
// readings are followed it is cut.
func (g *grower) node(ctx context.Context, t *Tracer, odds float64) (*Node, error) {
	n := &Node{Worlds: t.Worlds(), Done: t.Resolved()}
	test, ok, err := t.Next(ctx, g.prefer)
	switch {
	case err != nil:
		return nil, err
	case ok:
		n.Test, n.Text, n.Cut, n.turns = &test, g.describe(test), true, walks(t.last(), test)
		heap.Push(&g.buds, branch{t, n, odds, g.count})
		g.count++
	case t.isOn():
		n.turns = 1
	}
	return n, nil
}

// grow follows the readings of the likeliest test that was not followed yet.
func (g *grower) grow(ctx context.Context) error {
	b := heap.Pop(&g.buds).(branch)
	b.n.Cut = false
	for _, o := range b.t.Outcomes(*b.n.Test) {
		if o.Worlds == 0 {
			continue
		}
		next, made := b.t.fork(), *b.n.Test
		made.Reading = o.Reading
		if next.Observe(made); !next.possible() {
			continue
		}
		then, err := g.node(ctx, next, b.odds*o.Odds)
		if err != nil {
			return err
		}
		b.n.Branches = append(b.n.Branches, Branch{o.Reading, ReadingWords(made.Instrument, o.Reading), o.Odds, then})
	}
	return nil
}

// sum counts walks and tests from the ends to the root. A test that was not followed is an
// end that is cut.
func (n *Node) sum() {
	n.WorstWalks, n.MeanWalks = n.turns, float64(n.turns)
	if n.Test == nil {
		return
	}
	if len(n.Branches) == 0 {
		n.Test, n.Text = nil, ""
		return
	}
	odds, walks, tests, live := 0.0, 0.0, 0.0, 0.0
	for _, b := range n.Branches {
		b.Then.sum()
		odds += b.Odds
		walks += b.Odds * b.Then.MeanWalks
		tests += b.Odds * b.Then.MeanTests
		live += b.Odds * b.Then.MeanLive
		n.WorstWalks = max(n.WorstWalks, n.turns+b.Then.WorstWalks)
		n.WorstTests = max(n.WorstTests, 1+b.Then.WorstTests)
		n.Cut = n.Cut || b.Then.Cut
	}
	if odds > 0 {
		n.MeanWalks, n.MeanTests, n.MeanLive = n.MeanWalks+walks/odds, 1+tests/odds, live/odds
	}
	if n.Test.Power == "on" {
		n.MeanLive++
	}
	n.MeanWalks, n.MeanTests, n.MeanLive = round(n.MeanWalks), round(n.MeanTests), round(n.MeanLive)
}

func round(f float64) float64 { return math.Round(f*100) / 100 }

// fork copies a tracer, so that readings of one do not touch the other.
func (t *Tracer) fork() *Tracer {
	g := *t
	g.frames = make([]*frame, len(t.frames))
	for i, f := range t.frames {
		if !f.fits { // nothing changes what does not fit any more
			g.frames[i] = f
			continue
		}
		g.frames[i] = f.copy()
	}
	g.made, g.leaves, g.tests, g.live = slices.Clone(t.made), slices.Clone(t.leaves), slices.Clone(t.tests), slices.Clone(t.live)
	g.net, g.assigned, g.reps, g.every, g.slipped, g.plainer, g.strict, g.led, g.forked = network{view: t.view, kept: t.kept}, nil, nil, nil, nil, nil, nil, nil, true
	return &g
}
