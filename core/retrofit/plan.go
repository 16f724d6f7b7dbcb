// Package retrofit finds what a circuit could become: for each family of smart
// devices and each place of its main part, which conductor carries what
// afterwards.
//
// A family says which device stands at which control and which nets its
// terminals need (file family.go). On a tree of boxes the route of a net is
// decided: the smallest subtree that joins its boxes. A plan is possible when
// every cable has a core for each net that crosses it, by colour and practice
// (allocate.go). Among the possible allocations the one that moves the fewest
// conductors is taken, and written out as a whole document in which all that is
// not concerned stays as it was (rebuild.go). That document is then simulated
// in every state it can reach (proof.go); only a plan that passes each check is
// offered. A plan that does not fit says which cable lacks what.
package retrofit

import (
	"cmp"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// Option is one family at one place: a feasible plan with its whole document,
// or the reasons why it does not fit.
type Option struct {
	ID           string             `json:"id"`
	Strategy     string             `json:"strategy"`
	Title        string             `json:"title"`
	About        string             `json:"about"`
	Feasible     bool               `json:"feasible"`
	Score        *float64           `json:"score,omitempty"`
	After        *circuit.Circuit   `json:"after,omitempty"`
	Changes      []Change           `json:"changes,omitempty"`
	BoxesTouched []string           `json:"boxesTouched,omitempty"`
	Checks       []Check            `json:"checks,omitempty"`
	Metrics      map[string]float64 `json:"metrics,omitempty"`
	Reasons      []Reason           `json:"reasons,omitempty"`
}

// Change is one core end that is joined differently afterwards. Was and Now
// list what shares its connector or screw; "capped" is a cap of its own. Mark
// is what the end is re-marked as, if it must be.
type Change struct {
	Box  string      `json:"box"`
	End  circuit.End `json:"end"`
	Was  string      `json:"was"`
	Now  string      `json:"now"`
	Mark string      `json:"mark"`
	Text string      `json:"text"`
}

// Check is one thing that was proved of a plan, or not.
type Check struct {
	Code   string `json:"code"`
	Passed bool   `json:"passed"`
	Text   string `json:"text"`
}

// Reason says why a plan does not fit, and at which ends.
type Reason struct {
	Code string        `json:"code"`
	Text string        `json:"text"`
	At   []circuit.End `json:"at"`
}

// Answer is all that was found for one circuit, the best first.
type Answer struct {
	Options []Option `json:"options"`
}

// planner is what the families share for one circuit.
type planner struct {
	doc     *circuit.Circuit
	net     *electric.Network
	result  *electric.Result
	report  *inspect.Report
	say     inspect.Speaker
	roles   map[circuit.End]electric.Role
	boxTree *tree
}

// Plan finds the options of a valid circuit.
func Plan(c *circuit.Circuit) *Answer {
	n := electric.New(c)
	result := electric.Explore(n)
	p := &planner{
		doc: c, net: n, result: result, report: inspect.Tell(result), say: inspect.Speak(c),
		roles: n.Roles(), boxTree: newTree(c),
	}
	out := &Answer{Options: []Option{}}
	groups := p.groups()
	for i, g := range groups {
		for _, f := range families {
			for _, main := range g.controls {
				o := p.option(f, g, main)
				if len(groups) > 1 {
					o.ID = fmt.Sprintf("%s-%d", o.ID, i+1)
				}
				out.Options = append(out.Options, o)
			}
		}
	}
	slices.SortStableFunc(out.Options, func(a, b Option) int {
		if a.Feasible != b.Feasible {
			if a.Feasible {
				return -1
			}
			return 1
		}
		if a.Score != nil && b.Score != nil {
			return cmp.Compare(*b.Score, *a.Score)
		}
		return 0
	})
	return out
}

// group is one light, or several that switch together, and its controls.
type group struct {
	controls []string
	lamps    []string
}

// groups finds which controls work on which lamps. Controls that the faults of
// a circuit keep from doing anything are one group with its lamps, so that the
// answer can say why nothing is offered.
func (p *planner) groups() []group {
	var out []group
	var idle []string
	for _, c := range p.result.Controls {
		if len(c.Lamps) == 0 {
			idle = append(idle, c.Device)
			continue
		}
		g := group{[]string{c.Device}, slices.Clone(c.Lamps)}
		rest := out[:0]
		for _, other := range out {
			if slices.ContainsFunc(other.lamps, func(l string) bool { return slices.Contains(g.lamps, l) }) {
				g.controls = append(slices.Clone(other.controls), g.controls...)
				for _, l := range other.lamps {
					if !slices.Contains(g.lamps, l) {
						g.lamps = append(g.lamps, l)
					}
				}
				continue
			}
			rest = append(rest, other)
		}
		out = append(rest, g)
	}
	if len(out) == 0 && len(idle) > 0 {
		out = append(out, group{controls: idle})
	}
	return out
}

// option makes one option: refused at once, infeasible by allocation, or built
// and proved.
func (p *planner) option(f family, g group, main string) Option {
	o := Option{ID: f.strategy + "-" + p.doc.Device(main).Box, Strategy: f.strategy, About: f.about}
	o.Title = f.title(p, g, main)
	if r := p.refuse(g, main, f); r != nil {
		o.Reasons = r
		return o
	}
	d, reasons := f.demand(p, g, main)
	if reasons == nil {
		var a *allocation
		if a, reasons = p.allocate(d); reasons == nil {
			after := p.rebuild(d, a)
			reasons = p.prove(&o, d, after)
		}
	}
	o.Reasons = reasons
	return o
}

// refuse lists what keeps any family from being planned: a record that is
// faulty is mended first, since a plan built on it would be wrong.
func (p *planner) refuse(g group, main string, f family) []Reason {
	var out []Reason
	for _, x := range p.report.Findings {
		if x.Severity == inspect.Error {
			out = append(out, Reason{"circuit-faulty", "As recorded the circuit is not sound, so nothing is planned on it: " + x.Text, x.At})
		}
	}
	if out != nil {
		return out
	}
	if len(g.controls) < 2 {
		out = append(out, Reason{"one-control", "Only one control works this light; this family joins two or more.", p.ends(main)})
	}
	for _, id := range g.controls {
		d := p.doc.Device(id)
		if d.Type == circuit.TypeSmart || d.Type == circuit.TypeSinglePole {
			out = append(out, Reason{"not-a-plain-chain", upper(p.say.Device(id)) + " is no " + p.say.Word("three-way") + " or " + p.say.Word("four-way") + ".", p.ends(id)})
		}
	}
	if t := p.doc.Device(main).Type; t == circuit.TypeFourWay && f.outerOnly {
		out = append(out, Reason{"four-way-stays", upper(p.say.Device(main)) + " passes two conductors on; only a " + p.say.Word("three-way") + " at an end of the chain can be replaced by this device.", p.ends(main)})
	}
	return out
}

func (p *planner) ends(device string) []circuit.End {
	var out []circuit.End
	for _, t := range p.doc.Terminals(*p.doc.Device(device)) {
		out = append(out, circuit.End{Ref: circuit.Ref{Owner: device, Part: t}})
	}
	return out
}

// Offer returns the feasible option of the plan for a circuit that has the id,
// or nil where the plan offers none.
func Offer(c *circuit.Circuit, id string) *Option {
	for _, o := range Plan(c).Options {
		if o.ID == id && o.Feasible {
			return &o
		}
	}
	return nil
}
