package trace

import (
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
}

// Branch is what a reading leads to.
type Branch struct {
	Reading any     `json:"reading"`
	Words   string  `json:"words"`
	Odds    float64 `json:"odds"`
	Then    *Node   `json:"then"`
}

// maxNodes and maxDepth bound the tree.
const (
	maxNodes = 600
	maxDepth = 24
)

// Tree follows every reading of every next test to the end. Progress is told after
// each node, with how many were finished; it may be nil. The context stops it.
func (t *Tracer) Tree(ctx context.Context, prefer Prefer, describe func(circuit.Observation) string, progress func(nodes int)) (*Node, error) {
	g := &grower{ctx, prefer, describe, progress, 0}
	return g.grow(t.fork(), 0)
}

type grower struct {
	ctx      context.Context
	prefer   Prefer
	describe func(circuit.Observation) string
	progress func(int)
	nodes    int
}

// fork copies a tracer, so that readings of one do not touch the other.
func (t *Tracer) fork() *Tracer {
	g := *t
	g.frames = make([]*frame, len(t.frames))
	for i, f := range t.frames {
		if !f.fits { // nothing changes what does not fit any more
			g.frames[i] = f
			continue
		}
		copied := *f
		copied.broken, copied.either, copied.support = slices.Clone(f.broken), slices.Clone(f.either), slices.Clone(f.support)
		copied.ways = make([]*way, len(f.ways))
		for k, w := range f.ways {
			own := *w
			copied.ways[k] = &own
		}
		g.frames[i] = &copied
	}
	g.made, g.left, g.tests, g.live = slices.Clone(t.made), slices.Clone(t.left), slices.Clone(t.tests), slices.Clone(t.live)
	g.net, g.assigned, g.reps, g.slipped, g.forked = network{view: t.view}, nil, nil, nil, true
	return &g
}

func (g *grower) grow(t *Tracer, depth int) (*Node, error) {
	g.nodes++
	if g.progress != nil {
		g.progress(g.nodes)
	}
	n := &Node{Worlds: t.Worlds(), Done: t.Settled()}
	end := func() (*Node, error) {
		if t.isOn() {
			n.MeanWalks, n.WorstWalks = 1, 1
		}
		return n, nil
	}
	test, ok, err := t.Next(g.ctx, g.prefer)
	if err != nil {
		return nil, err
	}
	if !ok {
		return end()
	}
	if depth == maxDepth || g.nodes >= maxNodes {
		n.Cut = true
		return end()
	}
	n.Test, n.Text = &test, g.describe(test)
	turns := walks(t.last(), test)
	sum := 0.0
	for _, o := range t.Outcomes(test) {
		if o.Worlds == 0 {
			continue
		}
		next := t.fork()
		made := test
		made.Reading = o.Reading
		next.Observe(made)
		if !next.possible() {
			continue
		}
		then, err := g.grow(next, depth+1)
		if err != nil {
			return nil, err
		}
		n.Branches = append(n.Branches, Branch{o.Reading, ReadingWords(test.Instrument, o.Reading), o.Odds, then})
		sum += o.Odds
		n.MeanWalks += o.Odds * then.MeanWalks
		n.MeanTests += o.Odds * then.MeanTests
		n.MeanLive += o.Odds * then.MeanLive
		n.WorstWalks = max(n.WorstWalks, then.WorstWalks)
		n.WorstTests = max(n.WorstTests, then.WorstTests)
		n.Cut = n.Cut || then.Cut
	}
	if sum > 0 {
		n.MeanWalks, n.MeanTests, n.MeanLive = n.MeanWalks/sum, n.MeanTests/sum, n.MeanLive/sum
	}
	n.MeanWalks = round(n.MeanWalks + float64(turns))
	n.WorstWalks += turns
	n.MeanTests, n.WorstTests = round(n.MeanTests+1), n.WorstTests+1
	if test.Power == "on" {
		n.MeanLive++
	}
	n.MeanLive = round(n.MeanLive)
	return n, nil
}

func round(f float64) float64 { return math.Round(f*100) / 100 }
