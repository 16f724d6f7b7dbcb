package retrofit

import (
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// TestNothingCheaper: for a small house every way of giving each core a net, or none, is
// written out and simulated; none that works needs fewer ends than the plan.
func TestNothingCheaper(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	t.Parallel()
	agreed := 0
	for _, k := range []struct {
		name    string
		circuit [2]string
	}{{"both at one end", bothAtOneEnd}, {"strapped", strapped}} {
		c := read(t, threeBoxes, k.circuit[0], k.circuit[1])
		p := newPlanner(inspect.Compile(c), Request{})
		g := p.groups()[0]
		for _, x := range p.proposals(g) {
			if x.strategy != MainRemote && x.strategy != MainAux && x.strategy != MainPush && x.strategy != NoNeutralAux {
				continue
			}
			o := p.option(g, x)
			d, reasons := x.require(x.kits[0])
			if reasons != nil {
				continue
			}
			fewest, tried := exhaust(p, g, d)
			switch {
			case o.Feasible && fewest == o.Metrics.EndsMoved:
				agreed++
			case o.Feasible && (fewest < 0 || fewest < o.Metrics.EndsMoved):
				t.Errorf("%s, %s: moves %d ends; of %d ways one works with %d", k.name, o.ID, o.Metrics.EndsMoved, tried, fewest)
			case !o.Feasible && fewest >= 0:
				t.Errorf("%s, %s: is not offered, and of %d ways one works with %d ends: %v", k.name, o.ID, tried, fewest, o.Reasons)
			}
		}
	}
	if agreed < 5 {
		t.Errorf("only %d plans were found again", agreed)
	}
}

// exhaust tries every allocation of the requirement and returns the fewest ends that one which
// works moves, or -1, and how many were tried.
func exhaust(p *planner, g group, d *requirement) (fewest, tried int) {
	var cores []circuit.Ref
	for _, cable := range p.doc.Cables {
		if cable.In("panel") {
			continue // nobody works in the panel
		}
		for _, core := range cable.Cores {
			if !circuit.GroundColour(core) {
				cores = append(cores, circuit.Ref{Owner: cable.ID, Part: core})
			}
		}
	}
	var nets []*net
	for _, x := range d.nets {
		if x.role != electric.RoleGround && len(x.terminals) > 1 {
			nets = append(nets, x)
		}
	}
	fewest = -1
	a := &allocation{of: map[circuit.Ref]*net{}}
	for _, cable := range p.doc.Cables {
		if cable.In("panel") {
			for _, core := range cable.Cores {
				ref := circuit.Ref{Owner: cable.ID, Part: core}
				for _, x := range nets {
					if x.class >= 0 && x.class == p.net.Class(circuit.End{Ref: ref, Box: "panel"}) {
						a.of[ref] = x
					}
				}
			}
		}
	}
	// Each span carries what crosses it, so that only permutations within a span, and cores
	// that carry more than they need, remain.
	var walk func(i int)
	walk = func(i int) {
		if i == len(cores) {
			for _, x := range nets {
				for s := range p.boxTree.spans {
					if !p.boxTree.crosses(x, s) {
						continue
					}
					carried := false
					for _, cable := range p.boxTree.spans[s].cables {
						for _, core := range cable.Cores {
							carried = carried || a.of[circuit.Ref{Owner: cable.ID, Part: core}] == x
						}
					}
					if !carried {
						return
					}
				}
			}
			tried++
			after := p.rebuild(d, a)
			if after.Validate() != nil {
				return
			}
			moved := len(Changes(p.doc, after))
			if fewest >= 0 && moved >= fewest {
				return
			}
			var o Option
			if p.prove(&o, g, d, after) == nil {
				fewest = moved
			}
			return
		}
		for _, x := range nets {
			taken := false
			for _, other := range cores[:i] {
				taken = taken || other.Owner == cores[i].Owner && a.of[other] == x
			}
			if taken {
				continue
			}
			a.of[cores[i]] = x
			walk(i + 1)
		}
		delete(a.of, cores[i])
		walk(i + 1)
	}
	walk(0)
	return fewest, tried
}
