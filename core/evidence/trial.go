package evidence

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// trial carries a plan out in a world and simulates it: whether it does there what it does behind the
// recorded walls, though other screws meet. Two travelers that cross, say, change nothing where a switch
// at each end tells them apart for itself. What was wrong in that world as found is not the plan's doing.
func (p *plan) trial(x *world) bool {
	is := inspect.Compile(p.build(p.after, x))
	does := is.Result().Controls // most worlds that fail show it here, before anything is told of them
	for _, want := range p.report.Controls {
		if !want.Works {
			continue
		}
		i := slices.IndexFunc(does, func(c electric.ControlResult) bool { return c.Device == want.Device })
		if i < 0 || !does[i].Works || !sameLamps(does[i].Lamps, want.Lamps) {
			return false
		}
	}
	news := faultsBeyond(is.Report(), p.report)
	return len(news) == 0 || !slices.ContainsFunc(news, func(code string) bool { return !hasFault(p.foundIn(x), code) })
}

func sameLamps(a, b []string) bool {
	return slices.Equal(slices.Sorted(slices.Values(a)), slices.Sorted(slices.Values(b)))
}

// faultsBeyond lists what is wrong with a finished work that its plan does not have, by code.
func faultsBeyond(is, planned *inspect.Report) []string {
	var out []string
	for _, f := range is.Findings {
		if (f.Severity == inspect.Error || f.Code == "capped-live") && !hasFault(planned, f.Code) {
			out = append(out, f.Code)
		}
	}
	return out
}

func hasFault(r *inspect.Report, code string) bool {
	return slices.ContainsFunc(r.Findings, func(f inspect.Finding) bool { return f.Code == code })
}

// build writes a document as it is in a world: all that lies behind walls is one box, to which
// every cable leads whose far end was not seen.
func (w *Walls) build(of *circuit.Circuit, x *world) *circuit.Circuit {
	c := *of
	walls := of.FreshID("walls", nil)
	c.Marks, c.Evidence, c.Observations, c.Gates, c.Reports, c.Accepted, c.Loose = nil, nil, nil, nil, nil, nil, nil
	c.Boxes, c.Cables, c.Devices, c.Joins = nil, nil, slices.Clone(of.Devices), nil
	hidden := func(box string) bool { return w.record.Box(box) != nil && !w.seen[box] }
	for _, b := range of.Boxes {
		if !hidden(b.ID) {
			c.Boxes = append(c.Boxes, b)
		}
	}
	c.Boxes = append(c.Boxes, circuit.Box{ID: walls, Kind: circuit.Junction})
	for i := range c.Devices {
		if hidden(c.Devices[i].Box) {
			c.Devices[i].Box = walls
		}
	}
	open, name := map[string]bool{}, map[circuit.End]string{} // by cable, and by cable and box
	w.openCables(func(k circuit.Cable) { open[k.ID] = true })
	var grounds []circuit.Ref
	for _, k := range of.Cables {
		if !open[k.ID] {
			c.Cables = append(c.Cables, k)
			continue
		}
		for _, box := range k.Ends {
			if box == nil || hidden(*box) {
				continue
			}
			part := circuit.Cable{ID: fmt.Sprintf("wall%d", len(name)), Ends: [2]*string{box, &walls}, Cores: k.Cores, Gauge: k.Gauge}
			name[circuit.End{Ref: circuit.Ref{Owner: k.ID}, Box: *box}] = part.ID
			c.Cables = append(c.Cables, part)
			for _, core := range k.Cores {
				if e := (circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}); circuit.GroundColour(core) && w.grounded(e) {
					grounds = append(grounds, circuit.Ref{Owner: part.ID, Part: core})
				}
			}
		}
	}
	here := func(r circuit.Ref, box string) circuit.Ref {
		if to, ok := name[circuit.End{Ref: circuit.Ref{Owner: r.Owner}, Box: box}]; ok {
			r.Owner = to
		}
		return r
	}
	for _, j := range of.Joins {
		if hidden(j.Box) {
			continue
		}
		to := circuit.Join{Box: j.Box}
		for _, r := range j.Of {
			to.Of = append(to.Of, here(r, j.Box))
		}
		c.Joins = append(c.Joins, to)
	}
	for _, b := range x.blocks {
		j := circuit.Join{Box: walls}
		for _, n := range b {
			e := w.ends[n]
			switch {
			case e.Box != "":
				j.Of = append(j.Of, here(e.Ref, e.Box))
			case of.Device(e.Owner) != nil:
				j.Of = append(j.Of, e.Ref)
			}
		}
		c.Joins = append(c.Joins, j)
	}
	for _, d := range c.Devices {
		if d.Box == walls && slices.Contains(c.Terminals(d), "ground") {
			grounds = append(grounds, circuit.Ref{Owner: d.ID, Part: "ground"})
		}
	}
	if len(grounds) > 1 {
		c.Joins = append(c.Joins, circuit.Join{Box: walls, Of: grounds})
	}
	return &c
}
