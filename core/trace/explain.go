package trace

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// fits reports whether anything is left of a document with all that it says.
func fits(ctx context.Context, c *circuit.Circuit) (bool, error) {
	t, err := New(ctx, c)
	return err == nil && t.possible(), err
}

// inTheWay names what of a list of so many is why nothing fits: without each of these something
// does. It is nil where leaving out all of the list does not help. Keep makes the document hold
// only the entries at those positions.
func inTheWay(ctx context.Context, c *circuit.Circuit, n int, keep func(d *circuit.Circuit, kept []int)) ([]int, error) {
	with := func(kept []int) (bool, error) {
		d := c.Clone()
		keep(d, kept)
		return fits(ctx, d)
	}
	if n == 0 {
		return nil, nil
	}
	if ok, err := with(nil); err != nil || !ok {
		return nil, err
	}
	var guilty []int
	for i := range n {
		guilty = append(guilty, i)
	}
	for i := range n {
		without := slices.DeleteFunc(slices.Clone(guilty), func(x int) bool { return x == i })
		ok, err := with(without)
		if err != nil {
			return nil, err
		}
		if !ok {
			guilty = without
		}
	}
	return guilty, nil
}

// acceptedClash looks whether something fits once conductors are not taken for what nobody
// measured, and names those to take back; nil where that is not why.
func acceptedClash(ctx context.Context, c *circuit.Circuit) (*Contradiction, error) {
	guilty, err := inTheWay(ctx, c, len(c.Accepted), func(d *circuit.Circuit, kept []int) {
		d.Accepted = nil
		for _, i := range kept {
			d.Accepted = append(d.Accepted, c.Accepted[i])
		}
	})
	if guilty == nil || err != nil {
		return nil, err
	}
	say := names.For(c)
	var names []string
	for _, i := range guilty {
		names = append(names, End(say, c.Accepted[i].End)+" taken as "+say.Word(c.Accepted[i].As))
	}
	return &Contradiction{
		Accepted: guilty,
		Text:     "No circuit fits with " + strings.Join(names, " and ") + ".",
		Recheck:  "Take back first what nobody measured: " + names[0] + ".",
	}, nil
}

// reportClash looks whether something fits once what the customer says is left out of what
// was read, and names the reports that the readings speak against.
func reportClash(ctx context.Context, c *circuit.Circuit) (*Contradiction, error) {
	if len(c.Observations) == 0 {
		return nil, nil
	}
	guilty, err := inTheWay(ctx, c, len(c.Reports), func(d *circuit.Circuit, kept []int) {
		d.Reports = nil
		for _, i := range kept {
			d.Reports = append(d.Reports, c.Reports[i])
		}
	})
	if guilty == nil || err != nil {
		return nil, err
	}
	say := names.For(c)
	out := &Contradiction{Reports: guilty, Text: "What the customer says does not go with what was read: " + ReportWords(say, c.Reports[guilty[0]])}
	out.Recheck = "See for yourself. If it is not so, take the report back."
	if r := c.Reports[guilty[0]]; fails(r.Says) {
		who := "a switch"
		if r.Device != "" {
			who = say.Device(r.Device)
		}
		out.Recheck += " If it is, the wires are right and " + who + " itself is broken: with its wires lifted, continuity across its screws tells."
	}
	return out, nil
}

// looseEnds looks whether a core that hangs loose is why nothing fits: under which screw of
// its box, or in which connector, it would make the record a circuit that works.
func looseEnds(ctx context.Context, c *circuit.Circuit) ([]string, error) {
	say := names.For(c)
	var out []string
	try := func(e circuit.End, where string, put func(d *circuit.Circuit)) error {
		d := c.Clone()
		d.Observations, d.Reports = nil, nil
		d.Loose = slices.DeleteFunc(d.Loose, func(x circuit.End) bool { return x == e })
		put(d)
		t, err := blank(ctx, d, anyhow)
		if err == nil && t.possible() {
			out = append(out, fmt.Sprintf("%s, which hangs loose: %s it makes a circuit that works", End(say, e), where))
		}
		return ctx.Err()
	}
	for _, e := range c.Loose {
		for i, j := range c.Joins {
			if j.Box != e.Box || slices.ContainsFunc(j.Of, func(m circuit.Ref) bool { return circuit.GroundColour(m.Part) || m.Part == "ground" }) {
				continue
			}
			if err := try(e, "with "+say.End(circuit.End{Ref: j.Of[0], Box: j.Box}), func(d *circuit.Circuit) { d.Joins[i].Of = append(d.Joins[i].Of, e.Ref) }); err != nil {
				return nil, err
			}
		}
		for _, dev := range c.Devices {
			if dev.Box != e.Box || !dev.Mechanical() {
				continue
			}
			for _, terminal := range c.Terminals(dev) {
				m := circuit.Ref{Owner: dev.ID, Part: terminal}
				if terminal == "ground" || c.JoinOf(e.Box, m) >= 0 {
					continue
				}
				if err := try(e, "under "+say.Word(terminal)+" of "+say.Device(dev.ID), func(d *circuit.Circuit) {
					d.Joins = append(d.Joins, circuit.Join{Box: e.Box, Of: []circuit.Ref{e.Ref, m}})
				}); err != nil {
					return nil, err
				}
			}
		}
	}
	return out, nil
}

// Look is a flip and a look at the light that tells a report which is not so from a switch that
// is wired wrong or broken.
type Look struct {
	Text string `json:"text"`
	Next *Next  `json:"next"` // nil where both looks were made
}

// flipAndLook offers it for the first report of a switch that fails; nil where there is none,
// or where this person can do no live work.
func flipAndLook(ctx context.Context, c *circuit.Circuit) (*Look, error) {
	at := slices.IndexFunc(c.Reports, func(r circuit.Report) bool {
		return r.Device != "" && (r.Says == circuit.SaysNothing || r.Says == circuit.SaysSometimes)
	})
	if at < 0 || slices.Contains(c.Cannot, circuit.CannotLive) {
		return nil, nil
	}
	d := c.Clone()
	d.Reports = nil
	t, err := New(ctx, d)
	if err != nil {
		return nil, err
	}
	report, say := c.Reports[at], names.For(c)
	looks := [2]circuit.Observation{}
	for i := range looks {
		looks[i] = circuit.Observation{Power: "on", Instrument: circuit.LampLook}
		if len(t.lamps) > 1 {
			looks[i].Light = t.lamps[0].id
		}
	}
	looks[1].Flipped = []string{report.Device}
	var showed []any
	out := &Look{Text: ReportWords(say, report) + " That may not be so, the switch may be broken, or its wires may stand wrong. Look at the light, then flip " + say.Device(report.Device) + " and look again: if the light changes, it is not so."}
	for _, o := range looks {
		made := slices.IndexFunc(c.Observations, func(x circuit.Observation) bool {
			return x.Reading != nil && x.Reading != circuit.Unclear && x.Key() == o.Key()
		})
		if made < 0 {
			out.Next = t.tell().describe(o)
			return out, nil
		}
		showed = append(showed, c.Observations[made].Reading)
	}
	switch who := say.Device(report.Device); {
	case showed[0] == showed[1]:
		out.Text = "The light did not change when " + who + " was flipped. Its wires stand wrong, or it is broken: with its wires lifted, continuity across its screws in both positions tells which."
	case report.Says == circuit.SaysNothing:
		out.Text = "The light changed when " + who + " was flipped: the report is not so. Take it back."
	default:
		out.Text = "The light changed when " + who + " was flipped, as the others stand. Flip the others and look again before you take the report back."
	}
	return out, nil
}
