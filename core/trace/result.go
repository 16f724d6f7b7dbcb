package trace

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/gates"
	"ambivia/core/names"
)

// Result is the answer of a trace, in the shape of the command line.
type Result struct {
	Worlds        int                                       `json:"worlds"`
	Done          bool                                      `json:"done"`
	Roles         map[circuit.End]map[electric.Role]float64 `json:"roles"`
	Cables        []CableFact                               `json:"cables"` // with their odds
	Next          *Next                                     `json:"next"`
	Contradiction *Contradiction                            `json:"contradiction"`
	Circuit       *circuit.Circuit                          `json:"circuit"`
	// Likely are where stubs lead by more than even odds, but not for certain.
	Likely []CableFact `json:"likely"`
	// Open are the conductors that no further test can settle with these boxes open.
	Open []OpenEnd `json:"open"`
	// Settle says what would settle them.
	Settle string `json:"settle,omitempty"`
	// Log are the readings so far, in order.
	Log []LogEntry `json:"log"`
	// Walks are the changes of the breaker so far, from off; one more is due where
	// the power is on.
	Walks int  `json:"walks"`
	On    bool `json:"on"`
	// Assumed is what was neither seen nor measured.
	Assumed []Assumption `json:"assumed"`
	// Findings are what readings showed that a person must know before going on.
	Findings []Warning `json:"findings"`
	// OpenNext is the box to open next, nil where none would help.
	OpenNext *OpenNext `json:"openNext"`
	// Polarity is "usual", "exchanged" or "unknown": which way round the feed is joined.
	Polarity string `json:"polarity"`
	// PutBack is what to do to leave all as it was found, from how it was left by the last reading; empty where nothing is moved.
	PutBack []string `json:"putBack"`
	// Ahead is the breaker operations still to come, Conventions what they would be in the ways
	// of conventions A, B and E; nil where that cannot settle it, or was not worked out.
	Ahead       *Operations            `json:"ahead"`
	Conventions map[string]*Operations `json:"schools"`
	// Look is offered where the customer says that a switch fails.
	Look *Look `json:"look"`
	// More: Worlds counts those that were weighed, and there are more.
	More bool `json:"more"`
	// Safer is the reading that would still show a false one, where that is not asked; nil
	// where nothing more can, or something is open.
	Safer *Safer `json:"safer"`
}

// Safer is a reading that would make what was traced safe against one false reading, with
// its price.
type Safer struct {
	Text  string `json:"text"`
	Walks int    `json:"walks"` // changes of the breaker
}

// Operations counts changes of the breaker: at worst, and in the mean by the odds.
type Operations struct {
	Worst int     `json:"worst"`
	Mean  float64 `json:"mean"`
}

// Next is the test to make next.
type Next struct {
	Test     circuit.Observation `json:"test"`
	Why      string              `json:"why"`
	Outcomes []Outcome           `json:"outcomes"`
	// Text says the test as one does it; Measure the reading alone; Prepare what to
	// do before, step by step, coming from the test before.
	Text    string   `json:"text"`
	Measure string   `json:"measure"`
	Prepare []string `json:"prepare"`
	// Live: the power is on for it. Instead says what the dead way would be and what
	// it costs.
	Live    bool   `json:"live"`
	Instead string `json:"instead,omitempty"`
	// Gates are what must be confirmed before, Asks the same as it is asked; Passed is what was
	// confirmed and holds.
	Gates  []gates.Need `json:"gates"`
	Asks   []gates.Ask  `json:"asks"`
	Passed []string     `json:"passed"`
	// Confirms: it is asked only to show whether one of the readings was false.
	Confirms bool `json:"confirms"`
	// Needs is what it and its round take that a person may not have: see [Inabilities].
	Needs []string `json:"needs"`
	// Round are the tests to take before anything is moved again, this one first.
	Round []RoundTest `json:"round"`
	Rows  []RoundRow  `json:"rows"` // the same in words
}

// OpenEnd is a conductor whose role is open, and what would settle it.
type OpenEnd struct {
	End    circuit.End               `json:"end"`
	Text   string                    `json:"text"`
	Roles  map[electric.Role]float64 `json:"roles"`
	Settle string                    `json:"settle"`
}

// LogEntry is one reading in words, with a remark where it settles nothing.
type LogEntry struct {
	Index  int    `json:"index"` // among the document's observations
	Text   string `json:"text"`
	Words  string `json:"words"`
	Remark string `json:"remark,omitempty"`
	Worlds int    `json:"worlds"` // left after it; -1 where that was not worked out
	Time   string `json:"time,omitempty"`
}

// Trace reads a half-known document with its observations and answers.
func Trace(ctx context.Context, c *circuit.Circuit, prefer Prefer) (*Result, error) {
	t, err := New(ctx, c)
	if err != nil {
		return nil, err
	}
	return t.Result(ctx, prefer)
}

// Result says all that is known of the document that the tracer was made of, with the readings in
// it. The error is the context's.
func (t *Tracer) Result(ctx context.Context, prefer Prefer) (*Result, error) {
	c := t.doc
	err := t.workOutRoles(ctx)
	if err != nil {
		return nil, err
	}
	told := t.tell()
	if t.looking {
		return t.linksResult(ctx, &Result{PutBack: told.putBack()})
	}
	r := &Result{Worlds: t.Worlds(), More: t.More(), Roles: t.Odds(), Open: []OpenEnd{}, Log: []LogEntry{}, Assumed: []Assumption{}, Findings: []Warning{}, PutBack: told.putBack()}
	last := circuit.Observation{Power: "off"}
	certain, likely := t.Cables()
	r.Cables, r.Likely = append(certain, likely...), likely
	for i, o := range c.Observations {
		if o.Reading == nil {
			continue
		}
		r.Walks += walks(last, o)
		r.On, last = o.Power == "on", o
		r.Log = append(r.Log, LogEntry{Index: i, Worlds: t.leaves[i], Time: o.Time, Text: Describe(told.say, o), Words: ReadingWords(o.Instrument, o.Reading), Remark: t.Remark(o)})
	}
	r.Findings, r.Polarity = told.warnings(), told.polarityWord()
	if r.Look, err = flipAndLook(ctx, c); err != nil {
		return nil, err
	}
	if !t.possible() {
		r.Contradiction, err = Clash(ctx, c)
		r.Assumed, r.Conventions = []Assumption{}, map[string]*Operations{}
		return r, err
	}
	r.Assumed = told.assumed()
	if r.Ahead, r.Conventions, err = t.ahead(ctx, prefer); err != nil {
		return nil, err
	}
	if r.Done, err = t.Done(ctx); err != nil {
		return nil, err
	}
	if r.Done {
		r.Circuit = t.Circuit()
		r.Assumed = append(append(r.Assumed, behindWalls(names.For(r.Circuit), r.Circuit)...), told.unconfirmed()...)
		r.Safer, err = told.safer(ctx, prefer)
		return r, err
	}
	test, ok, err := t.Next(ctx, prefer)
	if err != nil {
		return nil, err
	}
	if !ok || len(t.closedSwitches()) > 0 { // tests alone cannot end it
		r.OpenNext = told.openNext()
	}
	for e, roles := range r.Roles {
		if len(roles) > 1 {
			r.Open = append(r.Open, OpenEnd{End: e, Text: End(told.say, e), Roles: roles, Settle: told.settleOne(e, ok)})
		}
	}
	slices.SortFunc(r.Open, func(a, b OpenEnd) int { return strings.Compare(a.End.String(), b.End.String()) })
	if ok {
		r.Next = told.describe(test)
		if r.Next.Round, err = t.round(ctx, prefer, test); err != nil {
			return nil, err
		}
		r.Next.Needs = t.needs(r.Next.Round)
		for _, x := range r.Next.Round[1:] {
			r.Next.Rows = append(r.Next.Rows, told.row(x))
		}
		if r.Next.Live && !r.Next.Confirms && !t.isOn() {
			r.Next.Instead = told.instead()
		}
		return r, nil
	}
	r.Settle = told.resolution()
	return r, nil
}

// ReportWords says a report in the words of the practice.
func ReportWords(say names.Terms, r circuit.Report) string {
	who := "every switch"
	if r.Device != "" {
		who = say.Device(r.Device)
	}
	switch r.Says {
	case circuit.SaysWorks:
		return names.Capitalize(who) + " works, however the others stand."
	case circuit.SaysNothing:
		return names.Capitalize(who) + " does nothing."
	case circuit.SaysSometimes:
		return names.Capitalize(who) + " works only while the others stand one way."
	case circuit.SaysNeverLights:
		return "The light never comes on."
	case circuit.SaysTrips:
		return say.Expand("the {breaker} trips.")
	case circuit.SaysOthersDie:
		return say.Expand("Other lights or outlets die with this {breaker}.")
	}
	return say.Expand("Nothing else dies with this {breaker}.")
}

// Preview says of a test chosen by hand what it would tell, before it is made.
func (t *Tracer) Preview(test circuit.Observation) *Next {
	return t.tell().describe(test)
}

// Certain gives the role of each core end on which all worlds that are left agree.
func (r *Result) Certain() map[circuit.End]electric.Role {
	out := map[circuit.End]electric.Role{}
	for e, by := range r.Roles {
		if len(by) == 1 {
			for role := range by {
				out[e] = role
			}
		}
	}
	return out
}

// resolution says what would resolution what no test can.
func (t teller) resolution() string {
	if next := t.openNext(); next != nil {
		return next.Text
	}
	if t.Resolved() && t.rule != anyhow {
		return "Everything is settled if line and return run in the same cables, as they should. There is too much to go through to know it without that: open the box of the light, and record what is in it."
	}
	var closed []string
	for _, b := range t.doc.Boxes {
		if !t.open[b.ID] && b.Kind != circuit.Panel {
			closed = append(closed, t.say.Box(b.ID))
		}
	}
	if len(closed) > 0 {
		return "Open " + strings.Join(closed, ", then ") + " and record what is in it."
	}
	return "Open the box of the light, or the hidden joint, and record what is in it."
}

// describe puts a test into words.
func (t teller) describe(test circuit.Observation) *Next {
	n := &Next{Test: test, Outcomes: t.outcomes(test, true), Text: Describe(t.say, test), Measure: t.say.Expand(Measure(t.say, test)), Live: test.Power == "on", Needs: t.Needs(test)}
	best := n.leaves()
	n.Confirms = t.asked != nil && t.asked.Test.Key() == test.Key()
	switch {
	case t.looking:
		n.Why = t.whyLink()
	case n.Confirms:
		n.Why = t.whyConfirm()
	case t.byRule:
		n.Why = fmt.Sprintf("Everything is settled if line and return run in the same cables, as they should. This shows whether they do: of %d circuits weighed, it leaves %s.", t.Worlds(), best)
	case slices.ContainsFunc(n.Outcomes, func(o Outcome) bool { return o.Done }):
		n.Why = fmt.Sprintf("It may settle everything: of %d circuits weighed, it leaves %s.", t.Worlds(), best)
	default:
		n.Why = fmt.Sprintf("Of %d circuits weighed, it leaves %s.", t.Worlds(), best)
	}
	n.Round = []RoundTest{{test, n.Confirms}}
	n.Rows = []RoundRow{t.row(n.Round[0])}
	n.Prepare, n.Gates, n.Passed = t.prepareSteps(test), gates.Before(t.doc, test), gates.Passed(t.doc)
	n.Asks = gates.Asks(t.doc, n.Gates)
	return n
}

// instead says what the dead way would be in place of a live test that is proposed.
func (t teller) instead() string {
	if t.early {
		return t.say.Expand("The {breaker} has to be on in the end, and this settles nearly all. With it off first it would take many more readings.")
	}
	if t.lampKnown() {
		return t.say.Expand("Every test with the {breaker} off that tells something has been made; what is left could only be seen by opening a closed box.")
	}
	return t.say.Expand("With the {breaker} off no test can tell what is left apart; opening the light’s box would, at the price of a ladder.")
}

func (t *Tracer) lampKnown() bool {
	return slices.ContainsFunc(t.lamps, func(l thing) bool { return l.id != "" })
}

// leaves says how many worlds each outcome leaves, in words.
func (n *Next) leaves() string {
	var parts []string
	for _, o := range n.Outcomes {
		if o.Worlds > 0 {
			parts = append(parts, fmt.Sprintf("%d if %s", o.Worlds, ReadingWords(n.Test.Instrument, o.Reading)))
		}
	}
	return strings.Join(parts, ", ")
}

// walks counts the changes of the breaker from one test to the next: wires are lifted, put back
// and tied with the power off, between two live tests too.
func walks(last, next circuit.Observation) int {
	was, is := last.Power == "on", next.Power == "on"
	switch {
	case was != is:
		return 1
	case was && moves(last, next):
		return 2
	}
	return 0
}

// moves reports whether a wire, or a lamp in its socket, is moved from one test to the next.
func moves(last, next circuit.Observation) bool {
	return !slices.Equal(last.Lifted, next.Lifted) || !slices.Equal(last.LampsOut, next.LampsOut) || !slices.EqualFunc(last.Tied, next.Tied, slices.Equal)
}

// prepareSteps says what to do before a test, from how all stands after the last one.
func (t teller) prepareSteps(test circuit.Observation) []string {
	last := circuit.Observation{Power: "off"}
	for _, o := range t.made {
		if o.Reading != nil {
			last = o
		}
	}
	steps := []string{}
	add := func(text string) { steps = append(steps, t.say.Expand(text)) }
	work := moves(last, test)
	on := last.Power == "on"
	if on && (test.Power == "off" || work) {
		add("{breaker} off, and prove dead again")
		on = false
	}
	if back := missing(last.Lifted, test.Lifted); len(back) > 0 {
		add("put back under their screws: " + screws(t.say, back))
	}
	if up := missing(test.Lifted, last.Lifted); len(up) > 0 {
		add("lift, and cap each wire on its own: " + screws(t.say, up))
	}
	same := func(a [][]circuit.End) func([]circuit.End) bool {
		return func(g []circuit.End) bool {
			return slices.ContainsFunc(a, func(h []circuit.End) bool { return slices.Equal(g, h) })
		}
	}
	for _, group := range slices.DeleteFunc(slices.Clone(last.Tied), same(test.Tied)) {
		add("take apart, and cap each on its own: " + ends(t.say, group))
	}
	for _, group := range slices.DeleteFunc(slices.Clone(test.Tied), same(last.Tied)) {
		add(t.say.Fill("join in one {connector} for the test: ") + ends(t.say, group))
	}
	for _, id := range missing(test.LampsOut, last.LampsOut) {
		add("take the lamp out of its socket: " + t.say.Short(id))
	}
	for _, id := range missing(last.LampsOut, test.LampsOut) {
		add("put the lamp back into its socket: " + t.say.Short(id))
	}
	for _, id := range slices.Concat(missing(test.Flipped, last.Flipped), missing(last.Flipped, test.Flipped)) {
		add("flip " + t.say.Device(id))
	}
	if test.Power == "on" && !on {
		add("{breaker} on")
	}
	return steps
}

// putBack lists what to do to leave all as it was found.
func (t teller) putBack() []string {
	last := t.last()
	if len(last.Lifted)+len(last.Tied)+len(last.LampsOut) == 0 {
		return []string{}
	}
	steps := t.prepareSteps(circuit.Observation{Power: "off"})
	for _, text := range []string{"tug every conductor, close every box", "{breaker} on, and try every switch"} {
		steps = append(steps, t.say.Expand(text))
	}
	return steps
}

// missing lists what is in a and not in b.
func missing[T comparable](a, b []T) []T {
	var out []T
	for _, x := range a {
		if !slices.Contains(b, x) {
			out = append(out, x)
		}
	}
	return out
}
