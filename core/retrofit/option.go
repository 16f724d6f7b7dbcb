package retrofit

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/evidence"
	"ambivia/core/inspect"
)

// Carried is the wiring that an option makes of the walls.
type Carried struct {
	After        *circuit.Circuit `json:"after,omitempty"`
	Changes      []Change         `json:"changes,omitempty"`
	BoxesTouched []string         `json:"boxesTouched,omitempty"`
	BypassAt     []string         `json:"bypassAt,omitempty"` // boxes at a lamp in which a bypass is fitted
	Conductors   []Conductor      `json:"conductors,omitempty"`
}

// Proved is what an option was held against: what it was checked for, why it is not feasible, what it takes for granted.
type Proved struct {
	Checks  []Check  `json:"checks,omitempty"`
	Reasons []Reason `json:"reasons,omitempty"`
	// Relies are the facts that the plan needs and that are only assumed, each with the test that shows it. A
	// feasible plan without any is right in every circuit that the record and its readings leave.
	Relies []evidence.Reliance `json:"relies"`
}

// Kitted is with which devices an option is carried out.
type Kitted struct {
	Kit          string        `json:"kit,omitempty"` // names the devices, behind a colon after the id
	Devices      []Fitted      `json:"devices,omitempty"`
	Alternatives []Alternative `json:"alternatives,omitempty"`
}

// Worth is what an option is weighed by.
type Worth struct {
	Metrics *Metrics `json:"metrics,omitempty"` // of a feasible one
	Places  []Place  `json:"places,omitempty"`
	Outages []Outage `json:"outages,omitempty"`
	Pros    []string `json:"pros,omitempty"`
	Cons    []string `json:"cons,omitempty"`
	Wishes  []Wished `json:"wishes,omitempty"`
}

// planned is what the planner keeps of an option while it weighs it among others.
type planned struct {
	group    int
	judged   evidence.Judgement
	hubs     []string          // kinds of them, which outlive the document
	walls    *evidence.Walls   // what it was judged against
	likely   *evidence.Likely  // what the record most likely is
	compiled *inspect.Compiled // of After
	base     *inspect.Compiled // the whole circuit that it was planned on
	half     *circuit.Circuit  // the half-known record that this most likely is
}

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
	if at, ok := p.impulseOf(g); ok {
		if x.strategy == ModulePulse {
			return nil
		}
		return []Reason{*because("buttons-step-a-relay", fmt.Sprintf("The push-buttons step %s and carry no current of the light. A module in its place takes them as they are.", p.say.Device(at.relay)), p.ends(at.relay))}
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
