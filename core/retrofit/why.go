package retrofit

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Conductor says of one core what it carries in a plan, and why this one.
type Conductor struct {
	Core circuit.Ref `json:"core"`
	Role string      `json:"role"`
	Text string      `json:"text"`
}

// conductors answers "why this core?" for each core that a net was led through.
func (p *planner) conductors(d *requirement, a *allocation) []Conductor {
	out := []Conductor{}
	for _, k := range p.doc.Cables {
		for _, core := range k.Cores {
			ref := circuit.Ref{Owner: k.ID, Part: core}
			if x := a.of[ref]; x != nil && x.role != electric.RoleGround {
				out = append(out, Conductor{ref, string(x.role), p.why(d, a, k, ref, x)})
			}
		}
	}
	return out
}

// why compares a core with the others of its cable.
func (p *planner) why(d *requirement, a *allocation, k circuit.Cable, core circuit.Ref, x *net) string {
	say := upper(p.word(x))
	if joins := p.between(d, x); joins != "" {
		say += " between " + joins
	}
	if at := a.led[core]; at != "" {
		return say + ". It is joined in " + p.say.Box(at) + ", so that nobody needs a ladder."
	}
	near := circuit.End{Ref: core, Box: *cmp.Or(k.Ends[0], k.Ends[1])} // one of them may not be known
	if x.class >= 0 && p.net.Class(near) == x.class {
		return say + ". It carries that already and stays."
	}
	s := p.spanOf(k.ID)
	cost := p.cost(d, a, x, core, s)
	var why []string
	for _, other := range k.Cores {
		ref := circuit.Ref{Owner: k.ID, Part: other}
		if other == core.Part || circuit.GroundColour(other) {
			continue
		}
		switch c := p.cost(d, a, x, ref, s); {
		case c >= costForbidden:
			switch fixed := p.fixedFor(ref); {
			case fixed != "" && fixed != x.role:
				why = append(why, fmt.Sprintf("%s is fixed for %s", other, p.say.Word(string(fixed))))
			case p.contrary(x, ref, s): // another core is fixed for it, which says so itself
			default:
				why = append(why, fmt.Sprintf("%s is of a colour that may not be %s", other, p.word(x)))
			}
		case a.of[ref] != nil:
			why = append(why, fmt.Sprintf("%s is needed for %s", other, p.word(a.of[ref])))
		case c > cost:
			_, tape := p.say.May(other, string(x.role))
			if tape {
				why = append(why, other+" would have to be re-marked or moved at more ends")
			} else {
				why = append(why, other+" would have to be moved at more ends")
			}
		default:
			why = append(why, other+" would do as well")
		}
	}
	if len(why) == 0 {
		return say + ". There is no other core in this cable."
	}
	return say + ". " + upper(strings.Join(why, "; ")) + "."
}

// between names the devices at the ends of a net, a few of them.
func (p *planner) between(d *requirement, x *net) string {
	if x.role == electric.Neutral || x.role == electric.Line {
		return ""
	}
	var names []string
	for _, q := range x.terminals {
		name := ""
		if kind, ok := d.kinds[q.ref.Owner]; ok {
			name = "the " + kind.Name
		} else if p.doc.Device(q.ref.Owner) != nil {
			name = p.say.Device(q.ref.Owner)
		}
		if name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) < 2 || len(names) > 3 {
		return ""
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

func (p *planner) spanOf(cable string) span {
	for _, s := range p.boxTree.spans {
		if slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return k.ID == cable }) {
			return s
		}
	}
	return span{}
}
