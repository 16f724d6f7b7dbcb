// Package retrofit finds what a circuit could become: for each family of smart
// devices and each place of its main part, which conductor carries what
// afterwards.
//
// A strategy says which device stands at which control and which nets its
// terminals need (proposal.go, requirement.go). On a tree of boxes the route of a net is
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
	"context"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/evidence"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/parallel"
)

// Option is one strategy at one place: a feasible plan with its whole document,
// or the reasons why it does not fit.
type Option struct {
	ID         string   `json:"id"`
	Strategy   string   `json:"strategy"`
	Family     string   `json:"family"` // the number under which the practice knows it, S1 to S14
	FamilyName string   `json:"familyName"`
	Title      string   `json:"title"`
	Light      []string `json:"light"` // the lamps that it is for
	About      string   `json:"about"`
	Feasible   bool     `json:"feasible"`
	Score      *float64 `json:"score,omitempty"`
	Carried
	Proved
	Kitted
	Worth
	planned
}

// PlannedOn is the circuit on which the option was planned for a record: the record itself, or where not all
// of that is known the circuit that it most likely is.
func (o *Option) PlannedOn(record *inspect.Compiled) *inspect.Compiled {
	if o.base != nil && o.half == record.Doc {
		return o.base
	}
	return record
}

// AsPlanned is the option for the circuit that it was planned on, once that is the record.
func (o *Option) AsPlanned() *Option {
	out := *o
	out.Relies, out.base, out.half = evidence.AsPlanned(o.Relies), nil, nil
	return &out
}

// Compiled is After with all that is computed of it. An option that was read from a file compiles it
// at the first call: make that before the option is shared.
func (o *Option) Compiled() *inspect.Compiled {
	if o.compiled == nil || o.compiled.Doc != o.After {
		o.compiled = inspect.Compile(o.After)
	}
	return o.compiled
}

// WithoutDocument is the option without what it becomes, for a list of many.
func (o Option) WithoutDocument() Option {
	o.After, o.compiled = nil, nil
	return o
}

// With is the option, as it was judged among others, with the document of the same option by itself.
func (o Option) With(by *Option) *Option {
	o.After, o.compiled = by.After, by.compiled
	return &o
}

// Moved lists the core ends that are joined differently afterwards.
func (o *Option) Moved() []circuit.End {
	var out []circuit.End
	for _, c := range o.Changes {
		out = append(out, c.End)
	}
	return out
}

// Fitted is one new device of an option: where it stands and which of the catalogue it is.
// SetTo is how its selectors stand.
type Fitted struct {
	ID     string   `json:"id"`
	Box    string   `json:"box"`
	Device string   `json:"device"`
	Name   string   `json:"name"`
	SetTo  []string `json:"setTo,omitempty"`
	Case   string   `json:"case,omitempty"` // the device in whose case it is a further gang
	Count  int      `json:"count"`          // how many are bought: a smart lamp for each lamp of its entry
}

// Alternative is other devices that would be wired just so.
type Alternative struct {
	Kit     string   `json:"kit"`
	Devices []string `json:"devices"`
	Text    string   `json:"text"`
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

// Check is one thing that was proved of a plan, or not. Unknown: the record lacks what it
// takes to tell. AsFound: it does not hold, but neither did it before, and the plan makes it no
// worse.
type Check struct {
	Code    string `json:"code"`
	Passed  bool   `json:"passed"`
	Unknown bool   `json:"unknown,omitempty"`
	AsFound bool   `json:"asFound,omitempty"`
	Text    string `json:"text"`
}

// Reason says why a plan does not fit, and at which ends.
type Reason struct {
	Code string        `json:"code"`
	Text string        `json:"text"`
	At   []circuit.End `json:"at"`
	thin *thin         // the cables that are too thin, where that is the reason
}

func because(code, text string, at []circuit.End) *Reason {
	return &Reason{Code: code, Text: text, At: at}
}

// thin is a span that has too few cores for what must cross it.
type thin struct {
	span  span
	needs int // conductors beside ground
	has   int // cores beside ground
}

// Result is all that was found for one circuit, the best first. Conflicts names wishes
// that no option can meet together.
type Result struct {
	Options   []Option   `json:"options"`
	First     []Pick     `json:"first,omitempty"` // those to look at first
	Conflicts []Conflict `json:"conflicts,omitempty"`
	Narrow    []Narrow   `json:"narrow,omitempty"` // stretches of cable that are too thin for some of them
}

// Request is what planning takes beside the circuit. The zero Request is no wishes and the embedded
// catalogue.
type Request struct {
	Wishes  Wishes
	Library *device.Library
}

// planner is what the strategies share for one circuit.
type planner struct {
	doc      *circuit.Circuit
	before   *circuit.Circuit // doc with what no plan keeps: the neutral pole of a switch
	likely   evidence.Likely
	place    map[string]int    // of cables and devices, in the order in which doc lists them
	recorded *inspect.Compiled // doc as the record lists it
	half     *circuit.Circuit  // the record that was asked about, where doc is what that most likely is
	net      *electric.Network
	result   *electric.Result
	report   *inspect.Report
	say      names.Terms
	roles    map[circuit.End]electric.Role
	boxTree  *tree
	// asThreeWay: by four-way body that is wired as a three-way, which screw stands for which.
	asThreeWay    map[string]map[string]string
	library       *device.Library
	request       Request
	faulty        []Reason
	joins         map[circuit.End]int // the join of each end, in its box
	replaced      map[string]bool     // cables that are given up for a new one beside them
	newCables     map[string]bool     // new cables
	newCableCount int                 // how many they are
}

// Plan finds the options of a valid circuit, with no wishes and the embedded catalogue.
func Plan(c *circuit.Circuit) *Result {
	answer, _ := PlanFor(context.Background(), inspect.Compile(c), Request{}) // a context that does not end
	return answer
}

// trial is a proposal for a group, or for all of them together.
type trial struct {
	group
	proposal
	number int // of the group, or -1
}

// trials lists all that is to be tried.
func (p *planner) trials() []trial {
	var out []trial
	groups := p.groups()
	for i, g := range groups {
		for _, x := range p.proposals(g) {
			if len(groups) > 1 {
				x.id = fmt.Sprintf("%s-%d", x.id, i+1)
				x.title += p.forLight(g)
			}
			out = append(out, trial{g, x, i})
		}
	}
	if len(groups) > 1 {
		for _, x := range p.together(groups) {
			out = append(out, trial{merged(x.of), x.proposal, -1})
		}
	}
	tellApart(out)
	return out
}

// tellApart gives options their own ids where two would have one, two switches in one box, say; and their own titles where they
// differ in devices alone.
func tellApart(trials []trial) {
	count := map[string]int{}
	for _, t := range trials {
		count[t.id]++
	}
	taken := map[string]bool{}
	for i := range trials {
		t := &trials[i]
		id := t.id
		if count[id] > 1 && t.main != "" {
			id += "-" + t.main
		}
		for n := 2; taken[id]; n++ {
			id = fmt.Sprintf("%s-%d", t.id, n)
		}
		t.id, taken[id] = id, true
	}
	first := map[string]kit{} // by title
	for i := range trials {
		t := &trials[i]
		if len(t.kits) == 0 {
			continue
		}
		of, again := first[t.title]
		if !again {
			first[t.title] = t.kits[0]
			continue
		}
		t.title += " (" + t.kits[0].differs(of) + ")"
	}
}

// differs says in what a kit differs from another: the words in which the names of their companions go apart, where both have one,
// else those of the devices that carry.
func (k kit) differs(from kit) string {
	if k.companion != nil && from.companion != nil && k.companion.Name != from.companion.Name {
		return apart(k.companion.Name, from.companion.Name)
	}
	return apart(k.main.Name, from.main.Name)
}

// apart is a name without the words with which another one begins too; the whole name where nothing is left of it.
func apart(name, other string) string {
	words, others := strings.Fields(name), strings.Fields(other)
	n := 0
	for n < len(words) && n < len(others) && strings.Trim(words[n], ",") == strings.Trim(others[n], ",") {
		n++
	}
	if n == len(words) {
		return name
	}
	return strings.Join(words[n:], " ")
}

// forLight says in a title which light of several an option is for.
func (p *planner) forLight(g group) string {
	var names []string
	for _, id := range g.lamps {
		d := p.doc.Device(id)
		name := d.Name
		if circuit.Blank(name) {
			name = p.say.Box(d.Box)
			if slices.ContainsFunc(p.doc.Devices, func(x circuit.Device) bool {
				return x.ID != id && x.Type == circuit.TypeLamp && x.Box == d.Box && !slices.Contains(g.lamps, x.ID)
			}) {
				name = p.say.Device(id)
			}
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) == 0 {
		return ""
	}
	return ", for " + strings.Join(names, " and ")
}

// PlanFor finds the options of a valid circuit for somebody's wishes and devices. The error is
// the context's, where that ended before all were gone through.
//
// A half-known record is planned on as the circuit that it most likely is; each option says
// which readings would show that it may.
func PlanFor(ctx context.Context, c *inspect.Compiled, request Request) (*Result, error) {
	likely, err := evidence.Likeliest(ctx, c)
	if err != nil {
		return nil, err
	}
	p := newPlanner(onOnePole(likely.Compiled), request)
	p.half, p.recorded, p.before = c.Doc, likely.AsRecorded, likely.Compiled.Doc
	trials := p.trials()
	out := &Result{Options: make([]Option, len(trials))}
	err = parallel.Each(ctx, len(trials), func(i int) {
		out.Options[i] = p.option(trials[i].group, trials[i].proposal)
		out.Options[i].group = trials[i].number
	})
	if err == nil {
		out.Options = append(out.Options, p.withNewCables(ctx, trials, out.Options)...)
	}
	if groups := p.groups(); len(groups) > 1 && len(groups) <= maxTogether && p.faulty == nil {
		out.Options = append(out.Options, p.both(ctx, groups)...)
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	out.Options = distinct(out.Options)
	walls, err := p.relyOn(ctx, out.Options)
	if err != nil {
		return nil, err
	}
	p.judge(out)
	slices.SortStableFunc(out.Options, func(a, b Option) int {
		switch {
		case a.Feasible != b.Feasible:
			return cmp.Compare(truth(b.Feasible), truth(a.Feasible))
		case a.Feasible:
			return cmp.Compare(*b.Score, *a.Score)
		}
		return 0
	})
	otherwise(walls, out.Options)
	for i := range out.Options {
		likely.Recorded(out.Options[i].Relies)
		out.Options[i].likely = &likely
		out.Options[i].hubs = out.Options[i].hubsOf(p.library)
	}
	out.Narrow = narrowPlaces(p.say, out.Options)
	out.First = first(out.Options, len(request.Wishes.Wishes) > 0)
	return out, nil
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}

func newPlanner(k *inspect.Compiled, request Request) *planner {
	c, n, result := k.Doc, k.Network, k.Result()
	p := &planner{
		doc: c, before: c, recorded: k, net: n, result: result, report: k.Report(), say: k.Terms(),
		roles: n.Roles(), boxTree: newTree(c), library: request.Library, request: request, joins: map[circuit.End]int{}, place: map[string]int{},
	}
	for i, j := range c.Joins {
		for _, m := range j.Of {
			p.joins[circuit.End{Ref: m, Box: j.Box}] = i
		}
	}
	if p.library == nil {
		p.library = device.NewLibrary(nil)
	}
	for i, k := range c.Cables {
		p.place[k.ID] = i
	}
	for i, d := range c.Devices {
		p.place[d.ID] = len(c.Cables) + i
	}
	p.asThreeWay = wiredAsThreeWay(c, p.report)
	if result.Truncated {
		p.faulty = append(p.faulty, *because("not-explored", fmt.Sprintf("Only %d states of this circuit were gone through, and a plan must be right in all of them. Split what has nothing to do with each other into circuits of its own.", len(result.States)), []circuit.End{}))
	}
	for _, x := range p.report.Findings {
		if x.Severity == inspect.Error && x.Code != inspect.LooseCore { // which every plan caps first
			p.faulty = append(p.faulty, *because("circuit-faulty", "As recorded the circuit is not sound, so nothing is planned on it: "+x.Text, x.At))
		}
	}
	return p
}

// again is a planner of what the circuit becomes on the way to a plan.
func (p *planner) again(doc *circuit.Circuit, request Request) *planner {
	ordered, _ := doc.InOrder()
	with := newPlanner(inspect.Compile(ordered), request)
	with.recorded = p.recorded
	return with
}

// joinOf is [circuit.Circuit.JoinOf] for the circuit as found.
func (p *planner) joinOf(box string, ref circuit.Ref) int {
	if i, ok := p.joins[circuit.End{Ref: ref, Box: box}]; ok {
		return i
	}
	return -1
}

// distinct drops options of one strategy that come to the same wiring with the same kinds
// of device: the first stays.
func distinct(options []Option) []Option {
	seen := map[string]bool{}
	return slices.DeleteFunc(options, func(o Option) bool {
		if !o.Feasible {
			return false
		}
		key := o.Strategy
		for _, d := range o.Devices {
			key += " " + d.Box + "=" + d.Device
		}
		for _, c := range o.Changes {
			key += " " + c.End.String() + ">" + c.Now
		}
		was := seen[key]
		seen[key] = true
		return was
	})
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

func (p *planner) ends(device string) []circuit.End {
	var out []circuit.End
	for _, t := range p.doc.Terminals(*p.doc.Device(device)) {
		out = append(out, circuit.End{Ref: circuit.Ref{Owner: device, Part: t}})
	}
	return out
}
