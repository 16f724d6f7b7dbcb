package trace

import (
	"context"
	"fmt"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// mostOpenLinks is how many links may be open where the orders that are left are counted at all.
const mostOpenLinks = 4

// fewLinks reports whether more than mostOpenLinks links are open: too many orders to count.
func (v *view) fewLinks() bool {
	if v.pairs == nil || v.pairs.clash {
		return false
	}
	links, _ := v.pairs.open()
	return links > mostOpenLinks
}

// tooManyLinks reports whether patterns are too many to be gone through, while links could still be found.
func (v *view) tooManyLinks(patterns []pattern, err error) bool {
	if v.pairs == nil {
		return false
	}
	if v.pairs.clash {
		return true
	}
	links, turns := v.pairs.open()
	switch {
	case links+turns == 0:
		return false
	case v.fewLinks():
		return true
	}
	changeovers := 0
	for _, ports := range v.pairs.of {
		changeovers += min(1, len(ports))
	}
	work := float64(len(patterns)) * math.Pow(2, float64(changeovers+links+turns+2))
	return err != nil || work > mostPairedWork
}

// nextLink is the reading that tells most of links: the ties of the last one are kept where they tell
// something of another pair too.
func (t *Tracer) nextLink() (test circuit.Observation, ok bool) {
	p := t.pairs
	if p.clash {
		return test, false
	}
	base := circuit.Observation{Power: "off", Lifted: p.all, LampsOut: p.lamps, Instrument: circuit.Continuity}
	ask := func(q int, ties [][]circuit.End) circuit.Observation {
		o := base
		o.Tied, o.At = ties, p.ports[q].ends[:]
		return o
	}
	if n := len(t.made); n > 0 {
		if tied := t.tiedPorts(t.made[n-1]); len(tied) > 0 {
			best, least := -1, 0.3 // below this share a new set of ties tells more
			for q := range p.ports {
				if in, all := p.split(q, tied); p.with[q] < 0 && !slices.Contains(tied, q) {
					if share := min(float64(in), float64(all-in)) / float64(all); share > least {
						best, least = q, share
					}
				}
			}
			if best >= 0 {
				return ask(best, t.made[n-1].Tied), true
			}
		}
	}
	best := -1
	for q := range p.ports {
		if p.with[q] < 0 && (best < 0 || len(p.candidates(q)) < len(p.candidates(best))) {
			best = q
		}
	}
	if best >= 0 {
		half := p.candidates(best)
		half = half[:(len(half)+1)/2]
		var ties [][]circuit.End
		for _, x := range half {
			ties = append(ties, slices.Clone(p.ports[x].ends[:]))
		}
		return ask(best, ties), true
	}
	for a, b := range p.with {
		if a > b || p.turns[a][b] == 1 || p.turns[a][b] == 2 {
			continue
		}
		// The one of the same colour, which is the usual one.
		i, j := 0, 0
		if p.ports[a].ends[0].Part == p.ports[b].ends[1].Part {
			j = 1
		}
		o := base
		o.At = []circuit.End{p.ports[b].ends[j], p.ports[a].ends[i]}
		return o, true
	}
	return test, false
}

// split counts the candidates of a port, and those among them that are tied.
func (p *pairing) split(q int, tied []int) (in, all int) {
	for _, x := range p.candidates(q) {
		if all++; slices.Contains(tied, x) {
			in++
		}
	}
	return in, all
}

// tiedPorts are the ports whose travelers a reading of links ties together.
func (t *Tracer) tiedPorts(o circuit.Observation) []int {
	var out []int
	for _, group := range o.Tied {
		var atoms []int
		for _, e := range group {
			if n, ok := t.index[e]; ok {
				atoms = append(atoms, t.atom[n])
			}
		}
		if q := t.pairs.portOf(atoms); q >= 0 {
			out = append(out, q)
		}
	}
	return out
}

// seek goes on with a reading while links are looked for: where enough of them are known, everything that
// fits is found.
func (t *Tracer) seek(o circuit.Observation) {
	t.made = append(t.made, o)
	c := t.doc.Clone()
	c.Observations = t.made
	fresh, err := New(context.Background(), c) // which does not end, and was not refused before
	if err != nil {
		t.leaves = append(t.leaves, notCounted)
		return
	}
	doc := t.doc
	*t = *fresh
	own := *t.view
	own.doc = doc
	t.view, t.net.view = &own, &own
}

// anything are the odds while links are looked for: nothing is known of any conductor.
func (t *Tracer) anything() map[circuit.End]map[electric.Role]float64 {
	out := map[circuit.End]map[electric.Role]float64{}
	roles := []electric.Role{electric.Line, electric.Load, electric.Neutral, electric.Traveler, electric.Unused}
	for _, class := range t.visible {
		for _, e := range t.classes[class].ends {
			if e.Box == "" {
				continue
			}
			out[e] = map[electric.Role]float64{}
			for _, r := range roles {
				out[e][r] = 1 / float64(len(roles))
			}
		}
	}
	return out
}

// linkOutcomes says what a reading of links may show; where one of the two cannot come, it says so by no
// world left.
func (t *Tracer) linkOutcomes(o circuit.Observation) []Outcome {
	out := []Outcome{{Reading: "closed"}, {Reading: "open"}}
	odds := 0.5
	if tied := t.tiedPorts(o); len(tied) > 0 {
		at := []int{t.atom[t.index[o.At[0]]], t.atom[t.index[o.At[1]]]}
		if q := t.pairs.portOf(at); q >= 0 {
			in, all := t.pairs.split(q, tied)
			odds = float64(in) / float64(max(1, all))
		}
	}
	for i := range out {
		out[i].Words, out[i].Odds = ReadingWords(o.Instrument, out[i].Reading), math.Round(1000*math.Abs(float64(i)-odds))/1000
		if out[i].Odds > 0 {
			out[i].Worlds = mostWorlds
		}
	}
	return out
}

// linksResult is the answer while links are looked for.
func (t *Tracer) linksResult(ctx context.Context, r *Result) (*Result, error) {
	r.Worlds, r.More, r.Roles, r.Polarity, r.Conventions = mostWorlds, true, t.anything(), "unknown", map[string]*Operations{}
	if t.pairs.clash {
		var err error
		r.Worlds, r.More = 0, false
		r.Contradiction, err = Clash(ctx, t.doc)
		return r, err
	}
	test, ok := t.nextLink()
	if !ok {
		r.Settle = tooMany(len(t.switches)).Text
		return r, nil
	}
	r.Next = t.tell().describe(test)
	return r, nil
}

// whyLink says what a reading of links is for.
func (t teller) whyLink() string {
	links, turns := t.pairs.open()
	if links == 0 {
		return fmt.Sprintf("It shows which of two travelers is which in this cable; for %s that is not known yet.", count(turns, "cable"))
	}
	return fmt.Sprintf("It shows which boxes these travelers run between: of %s between the switches %s not known yet.", count(len(t.pairs.ports)/2, "link"), isAre(links))
}

func count(n int, of string) string {
	if n == 1 {
		return "one " + of
	}
	return fmt.Sprintf("%d %ss", n, of)
}

func isAre(n int) string {
	if n == 1 {
		return "one is"
	}
	return fmt.Sprintf("%d are", n)
}

// clashingLinks is the smallest set of readings of links that no order of the switches agrees with, nil
// where one does.
func clashingLinks(c *circuit.Circuit) ([]int, error) {
	v, err := newView(c)
	if err != nil || v.pairable() == nil {
		return nil, err
	}
	fits := func(of []int) bool {
		p := v.pairable()
		var readings []circuit.Observation
		for _, i := range of {
			readings = append(readings, c.Observations[i])
		}
		p.read(v, readings)
		return !p.clash
	}
	var of []int
	for i := range c.Observations {
		of = append(of, i)
	}
	if fits(of) {
		return nil, nil
	}
	for _, i := range slices.Clone(of) {
		if without := slices.DeleteFunc(slices.Clone(of), func(x int) bool { return x == i }); !fits(without) {
			of = without
		}
	}
	return of, nil
}
