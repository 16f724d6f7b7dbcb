package retrofit

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// fixedFor is what a person wants a core to carry; "" where nobody said.
func (p *planner) fixedFor(core circuit.Ref) electric.Role {
	for _, x := range p.request.Wishes.Cores {
		if x.Core == core {
			return x.Role
		}
	}
	return ""
}

// contrary reports whether a core may not carry a net since somebody fixed it, or another core
// of the same cables, for something else.
func (p *planner) contrary(x *net, core circuit.Ref, s span) bool {
	if role := p.fixedFor(core); role != "" {
		return role != x.role
	}
	if x.role == electric.Traveler || x.role == electric.Signal { // there may be several, on other cores
		return false
	}
	return slices.ContainsFunc(p.request.Wishes.Cores, func(f FixedCore) bool {
		return f.Role == x.role && slices.ContainsFunc(s.cables, func(k circuit.Cable) bool { return k.ID == f.Core.Owner && slices.Contains(k.Cores, f.Core.Part) })
	})
}

// unmet says which of the cores that somebody fixed carry something else in an allocation, or
// nothing; nil where all is as asked.
func (p *planner) unmet(d *requirement, a *allocation) []Reason {
	var out []Reason
	for _, f := range p.request.Wishes.Cores {
		k := p.doc.Cable(f.Core.Owner)
		if k == nil || !slices.Contains(k.Cores, f.Core.Part) {
			out = append(out, *because("fixed-core", fmt.Sprintf("%s is to carry %s, and the record has no such core.", f.Core, p.say.Word(string(f.Role))), []circuit.End{}))
			continue
		}
		if x := a.of[f.Core]; x != nil && x.role == f.Role {
			continue
		}
		if a.of[f.Core] == nil && p.roles[circuit.End{Ref: f.Core, Box: p.boxOfCore(*k)}] == f.Role && !p.planned(d, f) {
			continue // nothing of this plan concerns it: it stays what it is
		}
		needs := p.crossing(d, *k)
		text := fmt.Sprintf("You want %s of %s to carry %s.", f.Core.Part, p.say.Cable(f.Core.Owner), p.say.Word(string(f.Role)))
		switch {
		case len(needs) == 0:
			text += " Nothing of this plan runs in that cable."
		case !slices.Contains(needs, p.say.Word(string(f.Role))):
			text += fmt.Sprintf(" In this plan that cable carries %s, and no %s.", strings.Join(tally(needs), ", "), p.say.Word(string(f.Role)))
		default:
			text += " It carries something else here."
		}
		out = append(out, *because("fixed-core", text, p.bothEnds(f.Core, *k)))
	}
	return out
}

// planned reports whether the plan leads a net of that role where a core was fixed for it.
func (p *planner) planned(d *requirement, f FixedCore) bool {
	return slices.Contains(p.crossing(d, *p.doc.Cable(f.Core.Owner)), p.say.Word(string(f.Role)))
}

// crossing lists, in words, what a plan leads through the cables beside which one runs.
func (p *planner) crossing(d *requirement, k circuit.Cable) []string {
	var out []string
	for i, s := range p.boxTree.spans {
		if !slices.ContainsFunc(s.cables, func(other circuit.Cable) bool { return other.ID == k.ID }) {
			continue
		}
		for _, x := range d.nets {
			if x.role != electric.RoleGround && x.role != electric.Unused && p.boxTree.crosses(x, i) {
				out = append(out, p.say.Word(string(x.role)))
			}
		}
	}
	return out
}

func (p *planner) boxOfCore(k circuit.Cable) string {
	for _, box := range k.Ends {
		if box != nil {
			return *box
		}
	}
	return ""
}

func (p *planner) bothEnds(core circuit.Ref, k circuit.Cable) []circuit.End {
	out := []circuit.End{}
	for _, box := range k.Ends {
		if box != nil {
			out = append(out, circuit.End{Ref: core, Box: *box})
		}
	}
	return out
}

// whyFixed says that a cable could carry what is needed, were its cores not fixed otherwise; nil
// where it could not either way.
func (p *planner) whyFixed(d *requirement, out *allocation, s span, nets []*net, cores []circuit.Ref) *Reason {
	var fixed []string
	var at []circuit.End
	for _, f := range p.request.Wishes.Cores {
		if slices.Contains(cores, f.Core) {
			fixed = append(fixed, fmt.Sprintf("%s of %s for %s", f.Core.Part, p.say.Cable(f.Core.Owner), p.say.Word(string(f.Role))))
			at = append(at, p.bothEnds(f.Core, *p.doc.Cable(f.Core.Owner))...)
		}
	}
	if fixed == nil {
		return nil
	}
	free := *p
	free.request.Wishes.Cores = nil
	if r := free.match(d, &allocation{of: map[circuit.Ref]*net{}, shut: out.shut, led: out.led}, s, nets, cores); r != nil {
		return nil
	}
	var needs []string
	for _, x := range nets {
		needs = append(needs, p.word(x))
	}
	return because("fixed-core", fmt.Sprintf("You fixed %s. This needs %s there, which the other cores cannot carry then. Without that it would fit.", strings.Join(fixed, ", "), strings.Join(tally(needs), ", ")), at)
}
