package retrofit

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
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
	{"awake", "Every smart device has its supply in every state.", []string{string(electric.DeviceUnpowered)}},
	{"signals", "Signals have cores of their own and come to rest.", []string{string(electric.SignalClash), string(electric.NeverConverges)}},
	{"cables-balanced", "In every cable the currents sum to zero, in every state.", []string{string(electric.CableUnbalanced), string(electric.BorrowedNeutral), inspect.ReturnBeside}},
	{"not-parallel", "No two cores are tied together as one conductor.", []string{"parallel-cores"}},
	{"colours", "Every conductor has a colour that may carry it, or is re-marked.", []string{"colour-misused", "unmarked"}},
	{"caps", "No capped end is live, no conductor is left loose, no screw is empty.", []string{"capped-live", "loose-end", inspect.LooseCore, "empty-screw"}},
	{"grounded", "Every device has its {ground}.", []string{"no-ground"}},
}

// prove simulates the planned document in all its states, fills in the option,
// and returns the reasons that forbid it, if any.
func (p *planner) prove(o *Option, g group, d *requirement, after *circuit.Circuit) []Reason {
	after.Follow(p.recorded.Doc)
	if err := after.Validate(); err != nil {
		return []Reason{*because("plan-unreadable", "What this comes to could not be written down as a circuit: "+err.Error(), []circuit.End{})}
	}
	compiled := inspect.Compile(after)
	report := compiled.Report()
	var reasons []Reason
	for _, c := range checks {
		check := Check{Code: c.code, Passed: true, Text: p.say.Expand(c.text)}
		for _, f := range report.Findings {
			if !slices.Contains(c.kinds, f.Code) {
				continue
			}
			if p.asFound(f) || f.Code == inspect.ReturnBeside && p.cameBeside(f) {
				if !check.AsFound {
					check.AsFound, check.Text = true, "So it was before, and so it stays: "+f.Text
				}
				continue
			}
			if f.Code == "no-ground" && p.ungrounded(after.Device(f.At[0].Owner).Box) {
				check.AsFound = true
				check.Text = p.say.Expand("No {ground} comes to " + d.label(p, after.Device(f.At[0].Owner).Box) + ": an insulating plate and screws, and a device whose instructions allow it.")
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
			works.Text = fmt.Sprintf("The control %s does not switch the light from every state.", names.For(after).Device(c.Device))
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
	o.After, o.compiled = after, compiled
	return nil
}

// asFound reports whether a warning stood in the circuit as found already: a
// plan is not refused for what it does not change.
func (p *planner) asFound(f inspect.Finding) bool {
	return f.Severity != inspect.Error && slices.ContainsFunc(p.report.Findings, func(g inspect.Finding) bool {
		return (g.Code == f.Code || g.Code == inspect.LooseCore) && slices.Equal(g.At, f.At) // which is capped now
	})
}

// cameBeside reports whether what a cable carries came back in one beside it as found already.
func (p *planner) cameBeside(f inspect.Finding) bool {
	return slices.ContainsFunc(p.report.Findings, func(g inspect.Finding) bool { return g.Code == f.Code && g.At[0].Owner == f.At[0].Owner })
}

// ungrounded reports whether no ground comes to a box as found: that is how old houses are, and no reason against a plan.
func (p *planner) ungrounded(box string) bool {
	return p.doc.Box(box) != nil && !slices.ContainsFunc(p.doc.CoreEnds(box), func(e circuit.End) bool { return p.roles[e] == electric.RoleGround })
}

func (p *planner) idle(dev string) bool {
	return slices.ContainsFunc(p.report.Controls, func(c inspect.Control) bool { return c.Device == dev && !c.Works })
}

// How an end stands that is joined to nothing.
const (
	capped = "capped"
	loose  = "loose" // and bare
)

// Changes lists every core end that two documents with the same cables join
// differently, box by box in the order of the first.
func Changes(before, after *circuit.Circuit) []Change {
	was, now := names.For(before), names.For(after)
	out := []Change{}
	old, fresh := tellJoins(was, before), tellJoins(now, after)
	same := map[[2]int]bool{}       // of a join before and one after: whether they hold the same
	for _, b := range after.Boxes { // which are listed as the record lists them
		for _, m := range after.EndsIn(b.ID) {
			if k := before.Cable(m.Owner); k == nil || !k.In(b.ID) {
				continue
			}
			e := circuit.End{Ref: m, Box: b.ID}
			pair := [2]int{old.at[e], fresh.at[e]}
			alike, known := same[pair]
			if !known {
				alike = pair[0] > 0 && pair[1] > 0 && sameMembers(before.Joins[pair[0]-1], after.Joins[pair[1]-1])
				same[pair] = alike
			}
			mark := after.MarkOn(e)
			if mark == before.MarkOn(e) {
				mark = ""
			}
			if alike && mark == "" {
				continue
			}
			c := Change{Box: b.ID, End: e, Was: old.partners(e), Now: fresh.partners(e), Mark: mark}
			from := old.describe(e)
			if slices.Contains(before.Loose, e) && !slices.Contains(after.Loose, e) {
				c.Was, from = loose, "loose and bare"
			}
			if c.Was == c.Now && c.Mark == "" {
				continue
			}
			c.Text = rowOf(upper(old.member(m, b.ID).words), from, fresh.describe(e))
			if c.Mark != "" {
				c.Text += "; re-mark as " + now.Word(c.Mark)
			}
			out = append(out, c)
		}
	}
	return out
}

// rowOf says of one core where it was and where it goes: the core first, so that no row can be
// read as moving what it only meets.
func rowOf(core, was, now string) string {
	if was == now {
		return core + ": stays on " + now
	}
	return core + ": " + was + " → " + now
}

// joinTeller says what ends of a document are joined to. What a join holds is put into words once,
// however many of its members are asked about.
type joinTeller struct {
	say   names.Terms
	doc   *circuit.Circuit
	at    map[circuit.End]int // the place of each member's join among the joins, from 1
	words map[int][]memberWords
}

// memberWords is one member of a join: as it is written, and in words.
type memberWords struct {
	ref     circuit.Ref
	written string
	words   string
	screw   bool
}

func tellJoins(say names.Terms, c *circuit.Circuit) *joinTeller {
	t := &joinTeller{say, c, map[circuit.End]int{}, map[int][]memberWords{}}
	for i, j := range c.Joins {
		for _, m := range j.Of {
			t.at[circuit.End{Ref: m, Box: j.Box}] = i + 1
		}
	}
	return t
}

// members lists what a join holds in a fixed order.
func (t *joinTeller) members(join int) []memberWords {
	if known, ok := t.words[join]; ok {
		return known
	}
	var out []memberWords
	if join > 0 {
		j := t.doc.Joins[join-1]
		of := slices.Clone(j.Of)
		slices.SortFunc(of, circuit.Ref.Compare)
		for _, m := range of {
			out = append(out, t.member(m, j.Box))
		}
	}
	t.words[join] = out
	return out
}

func (t *joinTeller) member(m circuit.Ref, box string) memberWords {
	w := memberWords{ref: m, written: m.String()}
	if t.doc.Device(m.Owner) != nil {
		w.screw, w.words = true, t.say.ShortScrew(m)
		return w
	}
	w.words = t.say.Core(circuit.End{Ref: m, Box: box})
	return w
}

// partners lists what an end is joined to, as it is written in a file.
func (t *joinTeller) partners(e circuit.End) string {
	var out strings.Builder
	for _, w := range t.members(t.at[e]) {
		if w.ref == e.Ref {
			continue
		}
		if out.Len() > 0 {
			out.WriteString(", ")
		}
		out.WriteString(w.written)
	}
	if out.Len() == 0 {
		return capped
	}
	return out.String()
}

// describe says in words what an end is joined to: the screws first.
func (t *joinTeller) describe(e circuit.End) string {
	var words []string
	more := 0
	for _, screws := range []bool{true, false} {
		for _, w := range t.members(t.at[e]) {
			switch {
			case w.screw != screws || w.ref == e.Ref:
			case len(words) == mostNamed:
				more++
			default:
				words = append(words, w.words)
			}
		}
	}
	switch {
	case len(words) == 0:
		return capped
	case more > 0:
		return strings.Join(words, ", ") + fmt.Sprintf(" and %d more", more)
	}
	return strings.Join(words, ", ")
}

// mostNamed is how many members of a join are named one by one: nobody reads more.
const mostNamed = 8

// sameMembers reports whether two joins hold the same, in whatever order.
func sameMembers(a, b circuit.Join) bool {
	if len(a.Of) != len(b.Of) {
		return false
	}
	in := map[circuit.Ref]bool{}
	for _, m := range a.Of {
		in[m] = true
	}
	return !slices.ContainsFunc(b.Of, func(m circuit.Ref) bool { return !in[m] })
}
