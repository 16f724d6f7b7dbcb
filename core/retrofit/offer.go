package retrofit

import (
	"context"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/inspect"
)

// What the ids of options end in that ask for a new cable, or are for all lights together.
const (
	newCable = "-new-cable"
	together = "-together"
)

// Offer returns the feasible option of the plan for a circuit that has the id,
// or nil where the plan offers none.
func Offer(c *circuit.Circuit, id string) *Option { return OfferFor(inspect.Compile(c), Request{}, id) }

// OfferFor is [Offer] for somebody's wishes and devices. An id with a colon behind it names
// the devices too ("main-aux-foot:switch-main+wired-aux"): one of the option's
// alternatives. The option that is returned always names its devices so, since wishes and
// the catalogue may change later.
func OfferFor(c *inspect.Compiled, request Request, id string) *Option {
	ctx := context.Background() // which does not end
	likely, err := evidence.Likeliest(ctx, c)
	if err != nil {
		return nil
	}
	p := newPlanner(onOnePole(likely.Compiled), request)
	p.half, p.likely, p.recorded, p.before = c.Doc, likely, likely.AsRecorded, likely.Compiled.Doc
	base, devices, named := strings.Cut(id, ":")
	if strings.HasSuffix(base, together) {
		for _, o := range p.both(ctx, p.groups()) {
			if o.ID == base {
				return p.byItself(o, base)
			}
		}
		return nil
	}
	place, recabled := strings.CutSuffix(base, newCable)
	for _, t := range p.trials() {
		if t.id != place {
			continue
		}
		if named {
			t.named = devices
		}
		o := p.option(t.group, t.proposal)
		switch {
		case recabled && !o.Feasible:
			if with := p.recable(t, o.Reasons); with != nil {
				return p.byItself(*with, base)
			}
		case !recabled && o.Feasible:
			return p.byItself(o, base)
		}
	}
	return nil
}

// byItself judges an option without the others, and lets its id name its devices.
func (p *planner) byItself(o Option, base string) *Option {
	a := &Result{Options: []Option{o}}
	if _, err := p.relyOn(context.Background(), a.Options); err != nil || !a.Options[0].Feasible {
		return nil
	}
	p.likely.Recorded(a.Options[0].Relies)
	p.judge(a)
	if a.Options[0].ID = base; o.Kit != "" {
		a.Options[0].ID += ":" + o.Kit
	}
	return &a.Options[0]
}
