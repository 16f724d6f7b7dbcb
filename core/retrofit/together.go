package retrofit

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
)

// alike are the strategies that two groups in one pair of boxes are planned with together.
var alike = []string{SensingSwitch, MainAux, MainRemote, NoNeutralAux, NoNeutralRemote, Paired, CentralModule}

// allLights opens the title of an option for several lights.
const allLights = "All lights together"

// maxTogether bounds how many lights are planned as one.
const maxTogether = 4

// both plans all groups with one strategy, one after the other on the walls that the one
// before leaves, and proves the whole.
func (p *planner) both(ctx context.Context, groups []group) []Option {
	var out []Option
	for _, strategy := range alike {
		if ctx.Err() != nil {
			return nil
		}
		if chosen, doc := p.oneAfterOther(groups, p.library, strategy); chosen != nil {
			out = append(out, p.join(strategy, chosen, doc))
		}
	}
	return append(out, p.gangs(ctx, groups)...)
}

// next plans one group of a document with one strategy and some devices.
func (p *planner) next(doc *circuit.Circuit, g group, of *device.Library, strategy string) []Option {
	with := p
	if doc != p.doc || of != p.library {
		with = p.again(doc, Request{Wishes: p.request.Wishes, Library: of})
	}
	var out []Option
	for _, now := range with.groups() {
		if !sameControls(now, g) {
			continue
		}
		for _, x := range with.proposals(now) {
			if x.strategy == strategy {
				x.title += with.forLight(now)
				if o := with.option(now, x); o.Feasible {
					out = append(out, o)
				}
			}
		}
	}
	return out
}

// sameControls reports whether two groups have the same controls: in which order they come says the wiring, which the plan for
// another light may have changed.
func sameControls(a, b group) bool {
	return len(a.controls) == len(b.controls) && !slices.ContainsFunc(a.controls, func(c string) bool { return !slices.Contains(b.controls, c) })
}

// bestOf is the option with the least work.
func bestOf(options []Option) *Option {
	var best *Option
	for i := range options {
		if best == nil || options[i].Metrics.EndsMoved < best.Metrics.EndsMoved {
			best = &options[i]
		}
	}
	return best
}

// join makes one option of those of several groups.
func (p *planner) join(strategy string, chosen []Option, after *circuit.Circuit) Option {
	last := chosen[len(chosen)-1]
	o := Option{
		ID: strategy + together, Strategy: strategy, Family: familyOf[strategy], FamilyName: familyNames[familyOf[strategy]], About: p.say.Expand(about[strategy]), Feasible: true, Carried: Carried{After: after}, Title: allLights, Proved: Proved{Checks: last.Checks}, Worth: Worth{Metrics: &Metrics{}}, planned: planned{group: -1},
	}
	for i, x := range chosen {
		o.Light = append(o.Light, x.Light...)
		o.Title += map[bool]string{true: ": ", false: "; "}[i == 0] + x.Title
		o.Devices = append(o.Devices, x.Devices...)
		o.Places = append(o.Places, x.Places...)
		o.Conductors = append(o.Conductors, x.Conductors...)
		for _, text := range append(slices.Clone(x.Pros), x.Cons...) {
			of := &o.Pros
			if slices.Contains(x.Cons, text) {
				of = &o.Cons
			}
			if !slices.Contains(*of, text) {
				*of = append(*of, text)
			}
		}
		o.Metrics.add(x.Metrics)
		for _, b := range x.BypassAt {
			if !slices.Contains(o.BypassAt, b) {
				o.BypassAt = append(o.BypassAt, b)
			}
		}
		for _, down := range x.Outages {
			k := slices.IndexFunc(o.Outages, func(y Outage) bool { return y.When == down.When })
			if k < 0 {
				o.Outages = append(o.Outages, down)
				continue
			}
			o.Outages[k].Works = append(slices.Clone(o.Outages[k].Works), down.Works...)
			o.Outages[k].Lost = append(slices.Clone(o.Outages[k].Lost), down.Lost...)
			o.Outages[k].Text += " " + down.Text
		}
	}
	o.Changes = Changes(p.before, after)
	touched := map[string]bool{}
	for _, x := range chosen {
		for _, b := range x.BoxesTouched {
			touched[b] = true
		}
	}
	for _, b := range p.recorded.Doc.Boxes {
		if touched[b.ID] {
			o.BoxesTouched = append(o.BoxesTouched, b.ID)
		}
	}
	o.Metrics.BoxesTouched, o.Metrics.EndsMoved, o.Metrics.Walks = len(o.BoxesTouched), len(o.Changes), BreakerOperations
	o.Metrics.Ladders = p.aloft(o.BoxesTouched)
	return o
}
