package record

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/core/money"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
)

// Became is what a circuit is now, by the log.
type Became string

// What a circuit may have become.
const (
	AsFound   Became = "as-found"   // nothing of it was changed
	PutBack   Became = "put-back"   // it was changed, and is as found again
	AsPlanned Became = "as-planned" // every wire stands as planned
	InPart    Became = "in-part"    // some of it was changed, and it is not as planned
)

// stands works out what stands now, from the log alone: the plan is what it is now only where every wire of
// it stands.
func (c *Circuit) stands() {
	c.Became, c.Now = AsFound, c.Found.Doc
	if c.State.Run == nil || c.Option == nil {
		return
	}
	stood := c.State.Stood(c.Found.Doc)
	c.Now = stood.Wiring
	switch {
	case !stood.Changed && c.changedOnce():
		c.Became = PutBack
	case !stood.Changed:
	case len(circuit.Diff(stood.Wiring, procedure.Bare(c.Option.After))) == 0:
		c.Became = AsPlanned
	default:
		c.Became = InPart
	}
}

// changedOnce reports whether any step that changes the wiring was done.
func (c *Circuit) changedOnce() bool {
	run := (*fitting.Run)(nil)
	for _, e := range fitting.Counted(c.Log) {
		if e.Kind == fitting.Begin {
			run = e.Run
		}
		if e.Kind == fitting.Done && run != nil && slices.ContainsFunc(e.Steps, func(n int) bool { return n >= 1 && n <= len(run.Steps) && len(run.Steps[n-1].Edits) > 0 }) {
			return true
		}
	}
	return false
}

// Is says in a few words what the circuit is now.
func (c *Circuit) Is() string {
	switch c.Became {
	case PutBack:
		return "As found: it was put back"
	case AsPlanned:
		return c.Option.Title
	case InPart:
		return "In part: " + names.Uncapitalize(c.Option.Title) + ". It is not as planned"
	}
	return "As found"
}

// leftOut lists what was left out and what is not as drawn, of all that was done last.
func (c *Circuit) leftOut() {
	for _, x := range c.State.Steps {
		if x.Status != fitting.Skipped && x.Status != fitting.Differ {
			continue
		}
		e := c.State.Entries[slices.IndexFunc(c.State.Entries, func(e fitting.Entry) bool { return e.Number == x.Entry })]
		step := c.State.Run.Steps[x.Number-1]
		line := Line{Time: e.Time, By: e.By, What: strings.TrimSpace(fmt.Sprintf("%d. %s %s", x.Number, where(step), step.Text)), How: "not as drawn: " + e.Note}
		if x.Status == fitting.Skipped {
			line.How = leftOut(e)
		}
		c.LeftOut = append(c.LeftOut, line)
	}
}

// leftOut says why a step was left out, with what was noted beside it.
func leftOut(e fitting.Entry) string {
	return strings.TrimSpace("left out: " + e.Reason + " " + e.Note)
}

// expected is what a reading is where the work is right, if the proof says so.
func (c *Circuit) expected(test circuit.Observation) (right any, known bool) {
	if c.Proved == nil || c.Proved.Proof == nil {
		return nil, false
	}
	for _, m := range c.Proved.Proof.Tests() {
		if m.Test.Key() == test.Key() {
			return m.Right, true
		}
	}
	return nil, false
}

// contrary lists the tests of a proof that were read otherwise than right work reads, since the run began.
func contrary(proof *prove.Proof, s *fitting.State) []fitting.Entry {
	out := []fitting.Entry{}
	if proof == nil {
		return out
	}
	for _, m := range proof.Tests() {
		if e := s.ReadOf(m.Test); e != nil && !prove.Agrees(m.Right, e.Test.Reading) {
			out = append(out, *e)
		}
	}
	return out
}

// failed says what shows that not all is right: readings, trials and faults.
func (c *Circuit) failed() {
	if c.Proved != nil {
		for _, e := range c.Proved.Contrary {
			right, _ := c.expected(*e.Test)
			c.Failed = append(c.Failed, fmt.Sprintf("%s The reading is contrary: right work reads %s.", reading(c.Found.Terms(), *e.Test), trace.ReadingWords(e.Test.Instrument, right)))
		}
		if !c.Proved.Right && len(c.Proved.Contrary) == 0 {
			c.Failed = append(c.Failed, "What was seen at the lamps is not what right work shows.")
		}
	}
	for _, t := range c.Trials {
		if e, tried := c.Tried[t.Entry]; tried && e.Works != nil && !*e.Works {
			c.Failed = append(c.Failed, strings.TrimSpace(fmt.Sprintf("%s by %s, from %s: not as expected, which is %s. %s", t.Where, t.Path, t.From, t.Expect, e.Note)))
		}
	}
	for _, f := range c.Faults {
		c.Failed = append(c.Failed, "Fault: "+f.What)
	}
}

// net lists what the wiring as it stands took: what was fitted and taken out again is not in it.
func (c *Circuit) net() []procedure.Item {
	if c.Became == AsFound || c.Became == PutBack {
		return nil
	}
	now := *c.Option
	now.After = c.Now
	now.Devices = slices.DeleteFunc(slices.Clone(now.Devices), func(x retrofit.Fitted) bool { return c.Now.Device(x.ID) == nil && c.Option.After.Device(x.ID) != nil })
	var out []procedure.Item
	for _, s := range procedure.For(c.Found, &now, c.Library).Steps {
		for _, item := range s.Uses {
			i := slices.IndexFunc(out, func(x procedure.Item) bool { return x.Group == item.Group && x.What == item.What })
			if i < 0 {
				out = append(out, procedure.Item{Group: item.Group, What: item.What, Note: item.Note, Price: item.Price})
				i = len(out) - 1
			}
			out[i].Count += item.Count
		}
	}
	return out
}

// UsedSo says how the light is used, with what a year of it takes where that was worked out, at a price in that currency.
func (c *Circuit) UsedSo(currency string) []string {
	var out []string
	year := c.Year
	for _, text := range c.Use.Words() {
		out = append(out, names.Capitalize(text)+".")
	}
	if year != nil && len(out) > 0 {
		out = append(out, fmt.Sprintf("In %d it is lit for %.0f hours and takes %.0f kWh, for %s, of it %.1f kWh with the light off. As it was used before it took %.0f kWh.",
			year.Year, year.Hours, year.KWh, money.Say(math.Round(year.Cost*100)/100, currency), year.Standby.KWh, year.Today.KWh))
	}
	return out
}
