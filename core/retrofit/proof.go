package retrofit

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
)

// checks: what is proved of every plan, each with the findings that would break
// it. The texts say what holds when the check is passed.
var checks = []struct {
	code  string
	text  string
	kinds []string
}{
	{"no-short", "No short in any state, no conductor fed by two supplies.", []string{
		string(electric.ShortHotNeutral), string(electric.ShortHotGround), string(electric.TwoSupplies), string(electric.RelayBackfed)}},
	{"lamps", "Each lamp gets full volts or none.", []string{string(electric.PartVolts), "lamp-never-lit", "lamp-always-lit"}},
	{"line-only", "Only line is switched; no lamp is live while it is dark.", []string{string(electric.HotShell), string(electric.NeutralSwitched)}},
	{"ground-clear", "{ground} carries nothing and meets {neutral} only in the {panel}.", []string{
		string(electric.NeutralGround), string(electric.GroundLive), string(electric.GroundReturn), "ground-colour-misused"}},
	{"awake", "Every smart device has its supply in every state.", []string{string(electric.Asleep)}},
	{"signals", "Signals have cores of their own and come to rest.", []string{string(electric.SignalClash), string(electric.NeverSettles)}},
	{"cables-balanced", "In every cable the currents sum to zero, in every state.", []string{string(electric.CableUnbalanced), string(electric.BorrowedNeutral)}},
	{"not-parallel", "No two cores are tied together as one conductor.", []string{"parallel-cores"}},
	{"colours", "Every conductor has a colour that may carry it, or is re-marked.", []string{"colour-misused", "unmarked"}},
	{"caps", "No capped end is live, no conductor is left loose, no screw is empty.", []string{"capped-live", "loose-end", "empty-screw"}},
	{"grounded", "Every device has its {ground}.", []string{"no-ground"}},
}

// prove simulates the planned document in all its states, fills in the option,
// and returns the reasons that forbid it, if any.
func (p *planner) prove(o *Option, g group, d *demand, after *circuit.Circuit) []Reason {
	if err := after.Validate(); err != nil {
		return []Reason{*because("plan-unreadable", "What this comes to could not be written down as a circuit: "+err.Error(), []circuit.End{})}
	}
	result := electric.Explore(electric.New(after))
	report := inspect.Tell(result)
	var reasons []Reason
	for _, c := range checks {
		check := Check{Code: c.code, Passed: true, Text: p.say.Fill(c.text)}
		for _, f := range report.Findings {
			if !slices.Contains(c.kinds, f.Code) {
				continue
			}
			if p.asFound(f) {
				if !check.AsFound {
					check.AsFound, check.Text = true, "So it was before, and so it stays: "+f.Text
				}
				continue
			}
			if f.Code == "parallel-cores" && d.asked(f.At) {
				check.Text = f.Text + " Your setting asks for it; practice advises to cap one."
				continue
			}
			check.Passed, check.Text = false, f.Text
			reasons = append(reasons, *because("fails-"+c.code, "The plan fails its proof: "+f.Text, f.At))
			break
		}
		o.Checks = append(o.Checks, check)
	}
	works := Check{Code: "every-control", Passed: true, Text: fmt.Sprintf("Each of the %d controls switches its light from each of the %d states.", len(report.Controls), report.States)}
	for _, c := range report.Controls {
		if !c.Works && slices.ContainsFunc(d.add, func(x circuit.Device) bool { return x.ID == c.Device }) || !c.Works && !p.idle(c.Device) {
			works.Passed = false
			works.Text = fmt.Sprintf("The control %s does not switch the light from every state.", inspect.Speak(after).Device(c.Device))
			reasons = append(reasons, *because("fails-every-control", works.Text, []circuit.End{}))
			break
		}
	}
	o.Checks = append([]Check{works}, o.Checks...)
	o.Checks = append(o.Checks, p.fits(after, report, d)...)
	o.Checks = append(o.Checks, p.carries(g, d)...)
	o.Checks = append(o.Checks, p.dims(g, d)...)
	for _, c := range o.Checks[len(checks)+1:] {
		if !c.Passed {
			reasons = append(reasons, *because("fails-"+c.Code, c.Text, []circuit.End{}))
		}
	}
	if reasons != nil {
		return reasons
	}
	o.Feasible = true
	o.After, o.behaves = after, result
	return nil
}

// asFound reports whether a warning stood in the circuit as found already: a
// plan is not refused for what it does not change.
func (p *planner) asFound(f inspect.Finding) bool {
	return f.Severity != inspect.Error && slices.ContainsFunc(p.report.Findings, func(g inspect.Finding) bool {
		return g.Code == f.Code && slices.Equal(g.At, f.At)
	})
}

func (p *planner) idle(dev string) bool {
	return slices.ContainsFunc(p.report.Controls, func(c inspect.Control) bool { return c.Device == dev && !c.Works })
}

const capped = "capped"

// Changes lists every core end that two documents with the same cables join
// differently, box by box in the order of the first.
func Changes(before, after *circuit.Circuit) []Change {
	was, now := inspect.Speak(before), inspect.Speak(after)
	out := []Change{}
	for _, b := range before.Boxes {
		for _, m := range before.EndsIn(b.ID) {
			e := circuit.End{Ref: m, Box: b.ID}
			c := Change{Box: b.ID, End: e, Was: partners(before, e), Now: partners(after, e)}
			if mark := after.MarkOn(e); mark != before.MarkOn(e) {
				c.Mark = mark
			}
			if c.Was == c.Now && c.Mark == "" {
				continue
			}
			c.Text = upper(describe(was, before, e)) + " → " + describe(now, after, e)
			if c.Was == c.Now {
				c.Text = "Stays as it is"
			}
			if c.Mark != "" {
				c.Text += "; re-mark as " + now.Word(c.Mark)
			}
			out = append(out, c)
		}
	}
	return out
}

// shared lists what stands in the end's join beside it, in a fixed order.
func shared(c *circuit.Circuit, e circuit.End) []circuit.Ref {
	j := c.JoinOf(e.Box, e.Ref)
	if j < 0 {
		return nil
	}
	out := slices.DeleteFunc(slices.Clone(c.Joins[j].Of), func(m circuit.Ref) bool { return m == e.Ref })
	slices.SortFunc(out, func(a, b circuit.Ref) int { return strings.Compare(a.String(), b.String()) })
	return out
}

func partners(c *circuit.Circuit, e circuit.End) string {
	refs := shared(c, e)
	if len(refs) == 0 {
		return capped
	}
	names := make([]string, len(refs))
	for i, m := range refs {
		names[i] = m.String()
	}
	return strings.Join(names, ", ")
}

// describe says in words what the end is joined to: the screws first.
func describe(say inspect.Speaker, c *circuit.Circuit, e circuit.End) string {
	var screws, cores []string
	for _, m := range shared(c, e) {
		if d := c.Device(m.Owner); d != nil {
			name := d.Name
			if circuit.Blank(name) {
				name = say.Word(d.Type)
			}
			screws = append(screws, say.Word(m.Part)+" of "+name+" "+d.ID)
			continue
		}
		text := m.Part
		if other, ok := c.Cable(m.Owner).Other(e.Box); ok {
			text += " towards " + say.Box(other)
		} else {
			text += " of " + m.Owner
		}
		cores = append(cores, text)
	}
	if len(screws)+len(cores) == 0 {
		return capped
	}
	return strings.Join(append(screws, cores...), ", ")
}
