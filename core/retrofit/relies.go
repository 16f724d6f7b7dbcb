package retrofit

import (
	"context"

	"ambivia/core/evidence"
	"ambivia/core/parallel"
)

// relyOn finds for each plan that fits what of the record it relies on. One that fails behind walls that
// no test tells from the recorded ones is not offered: it could only be known once it is built. The walls
// are nil where nothing of the record was traced.
func (p *planner) relyOn(ctx context.Context, options []Option) (*evidence.Walls, error) {
	for i := range options {
		options[i].base, options[i].half = p.recorded, p.half
	}
	walls, err := evidence.Look(ctx, p.doc)
	if walls == nil || err != nil {
		return nil, err
	}
	return walls, parallel.Each(ctx, len(options), func(i int) {
		o := &options[i]
		if !o.Feasible {
			return
		}
		found, err := walls.Judge(ctx, o.Compiled(), o.BoxesTouched)
		if err != nil {
			return // the context's, which is told
		}
		o.judged, o.walls, o.Relies = found, walls, found.Relies
		if o.judged.Open {
			o.refuse(*because("not-known", p.say.Expand("It depends on what a closed box joins, and no test from the open boxes shows that. Open the box where these conductors lead first."), o.judged.At))
		}
	})
}

// refuse makes a plan one that does not fit.
func (o *Option) refuse(why Reason) {
	*o = Option{ID: o.ID, Strategy: o.Strategy, Family: o.Family, FamilyName: o.FamilyName, Title: o.Title, Light: o.Light, About: o.About, Proved: Proved{Reasons: []Reason{why}}, planned: planned{group: o.group}}
}

// otherwise names for each test that a plan relies on the best plan that is right where it reads
// differently. The options are sorted, the best first.
func otherwise(walls *evidence.Walls, options []Option) {
	if walls == nil {
		return
	}
	known := map[string]*Option{} // by test and group
	for i := range options {
		o := &options[i]
		for n := range o.Relies {
			r := &o.Relies[n]
			key := r.Test.Key() + o.lights()
			best, found := known[key]
			if !found {
				for k := range options {
					if x := &options[k]; x.Feasible && x.lights() == o.lights() && walls.Holds(x.judged, *r) {
						best = x
						break
					}
				}
				known[key] = best
			}
			if best != nil && best.ID != o.ID {
				r.Otherwise.Option = &best.ID
			}
		}
	}
}

func (o *Option) lights() string {
	out := ""
	for _, l := range o.Light {
		out += " " + l
	}
	return out
}
