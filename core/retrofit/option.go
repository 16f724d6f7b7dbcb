package retrofit

import (
	"slices"

	"ambivia/core/circuit"
)

// option makes one option: refused at once, infeasible by allocation, or built
// and proved.
func (p *planner) option(g group, x proposal) Option {
	o := Option{ID: x.id, Strategy: x.strategy, Family: familyOf[x.strategy], FamilyName: familyNames[familyOf[x.strategy]], About: p.say.Expand(about[x.strategy]), Title: p.say.Expand(x.title), Light: append([]string{}, g.lamps...)}
	if o.Reasons = p.refuse(g, x); o.Reasons != nil {
		return o
	}
	kits, reasons := p.fitting(g, x)
	if len(kits) == 0 {
		o.Reasons = reasons
		return o
	}
	if x.named != "" {
		n := slices.IndexFunc(kits, func(k kit) bool { return k.id() == x.named })
		if n < 0 {
			o.Reasons = []Reason{*because("unknown-devices", "There are no such devices, or they are not wired like this.", []circuit.End{})}
			return o
		}
		kits = append([]kit{kits[n]}, slices.Delete(slices.Clone(kits), n, n+1)...)
	}
	d, reasons := x.require(kits[0])
	if reasons == nil {
		d.home = p.homeOf(g.controls)
		if reasons = p.anyWayRound(&o, g, x, d, kits); reasons == nil {
			return o
		}
	}
	o.Reasons = reasons
	if len(p.request.Wishes.Cores) > 0 && reasons[0].Code != "fixed-core" {
		free := *p
		if free.request.Wishes.Cores = nil; free.option(g, x).Feasible {
			o.Reasons = append([]Reason{*because("fixed-core", "With the cores as you fixed them this does not hold; without that it would.", []circuit.End{})}, reasons...)
		}
	}
	if x.first != nil {
		o.Reasons = append([]Reason{*x.first}, reasons...)
	}
	return o
}

// anyWayRound builds an option by each way round the rings of cables until one holds. It returns why the first does not, nil
// where o is the option as planned.
func (p *planner) anyWayRound(o *Option, g group, x proposal, d *requirement, kits []kit) (first []Reason) {
	for _, d.shy = range p.boxTree.detours() {
		why := p.build(o, g, x, d, kits)
		if why == nil {
			return nil
		}
		if first == nil {
			first = why
		}
	}
	return first
}

// build allocates cores for an option, rebuilds the wiring and proves it, without a ladder if that can be. It returns why
// that does not hold, nil where o is the option as planned.
func (p *planner) build(o *Option, g group, x proposal, d *requirement, kits []kit) []Reason {
	a, reasons := p.allocate(d)
	if reasons != nil {
		return reasons
	}
	for _, a := range []*allocation{p.bridge(d, a), a} {
		if a == nil || a.shut != nil && p.unmet(d, a) != nil {
			continue
		}
		try, after := *o, p.rebuild(d, a)
		if a.shut != nil && !p.fromTheFloor(after) {
			continue
		}
		if reasons = p.prove(&try, g, d, after); reasons == nil {
			p.tell(&try, g, x, d, a, kits)
			*o = try
			return nil
		}
	}
	return reasons
}

// refuse lists what keeps any strategy from being planned: a record that is
// faulty is mended first, since a plan built on it would be wrong.
func (p *planner) refuse(g group, x proposal) []Reason {
	if p.faulty != nil {
		return p.faulty
	}
	if x.never != nil {
		return []Reason{*x.never}
	}
	var out []Reason
	for _, id := range g.controls {
		d := p.doc.Device(id)
		if d.Type == circuit.TypeSmart || d.Type == circuit.TypeSinglePole && len(g.controls) > 1 && x.strategy != ModuleFour {
			out = append(out, *because("not-a-plain-chain", upper(p.say.Device(id))+" is no "+p.say.Word("three-way")+" or "+p.say.Word("four-way")+". With a plain switch recorded in its place this would be planned.", p.ends(id)))
		}
	}
	return out
}
