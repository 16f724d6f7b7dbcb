package retrofit

import (
	"context"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// recabled are the strategies that are worth a new cable where the old one is too thin.
var recabled = []string{SensingSwitch, MainAux, MainRemote}

// maxNewCables bounds how many cables one option may ask for.
const maxNewCables = 2

// withNewCables offers new cables for each strategy in recabled that fits nowhere. It takes the place that
// needs the fewest new cables, then the fewest moved ends.
func (p *planner) withNewCables(ctx context.Context, trials []trial, options []Option) []Option {
	var out []Option
	if p.faulty != nil {
		return nil
	}
	groups := map[int]bool{}
	for _, t := range trials {
		groups[t.number] = true
	}
	for number := range len(groups) {
		for _, strategy := range recabled {
			if ctx.Err() != nil {
				return nil
			}
			var best *Option
			for i, t := range trials {
				if t.number != number || t.strategy != strategy {
					continue
				}
				if options[i].Feasible {
					best = nil
					break
				}
				if o := p.recable(t, options[i].Reasons); o != nil && (best == nil || o.Metrics.asks() < best.Metrics.asks()) {
					best = o
				}
			}
			if best != nil {
				best.group = number
				out = append(out, *best)
			}
		}
	}
	return out
}

// asks orders what takes new cables: by how many, then by how many ends are moved.
func (m *Metrics) asks() int { return m.NewCables<<16 + m.EndsMoved }

// recable plans a trial with new cables where the old ones are too thin, or returns nil.
func (p *planner) recable(t trial, reasons []Reason) *Option {
	if len(reasons) == 0 || len(reasons) > maxNewCables || slices.ContainsFunc(reasons, func(r Reason) bool { return r.thin == nil }) {
		return nil
	}
	doc := p.doc.Clone()
	given, fresh := map[string]bool{}, map[string]bool{}
	said := ""
	for _, r := range reasons {
		preset := p.presetFor(r.thin.needs)
		if preset == nil || p.doc.Box(r.thin.span.a).Kind == circuit.Panel {
			return nil
		}
		ends := [2]*string{&r.thin.span.a, &r.thin.span.b}
		id := doc.FreshID("new", nil)
		fresh[id] = true
		doc.Cables = append(doc.Cables, circuit.Cable{ID: id, Ends: ends, Cores: preset.Cores, Gauge: r.thin.span.cables[0].Gauge})
		for _, k := range r.thin.span.cables {
			given[k.ID] = true
		}
		said += fmt.Sprintf("; a new cable, %s, between %s and %s", preset.Name, p.say.Box(r.thin.span.a), p.say.Box(r.thin.span.b))
	}
	if err := doc.Validate(); err != nil {
		return nil
	}
	with := p.again(doc, p.request)
	with.library, with.replaced, with.newCables, with.newCableCount = p.library, given, fresh, len(reasons)
	for _, again := range with.trials() {
		if again.id != t.id {
			continue
		}
		again.named = t.named
		o := with.option(again.group, again.proposal)
		if !o.Feasible {
			return nil
		}
		o.ID += newCable
		o.Title += said
		o.Cons = append([]string{"A new cable in the wall: its way, its length and what it costs to make good are not known here."}, o.Cons...)
		return &o
	}
	return nil
}

// presetFor is the usual cable of the practice with so many conductors beside ground and no
// more than it needs.
func (p *planner) presetFor(needs int) *practice.CablePreset {
	var best *practice.CablePreset
	insulated := func(cores []string) (n int) {
		for _, c := range cores {
			if !circuit.GroundColour(c) {
				n++
			}
		}
		return n
	}
	custom := practice.For(p.doc)
	for i := range custom.Cables {
		c := &custom.Cables[i]
		if n := insulated(c.Cores); n >= needs && (best == nil || n < insulated(best.Cores)) {
			best = c
		}
	}
	return best
}
