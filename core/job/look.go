package job

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// Looked is what a job is told of one of its circuits.
type Looked struct {
	ID       string     `json:"id"` // its place in the archive, from 1
	Name     string     `json:"name"`
	Controls int        `json:"controls"`
	Wiring   string     `json:"wiring"` // where the feed arrives and where the light hangs, in words
	State    string     `json:"state"`  // works, faulty or unknown, as checking says
	Families []FamilyOf `json:"families"`
	Circuit  `json:"-"` // what fits it
	found    *inspect.Compiled
	request  retrofit.Request
	plan     *retrofit.Result
}

// FamilyOf is what a family can do in one circuit: the cheapest option of it that fits, or why none does.
type FamilyOf struct {
	Family string  `json:"family"`
	Name   string  `json:"name"`
	Best   *string `json:"best"`
	Why    string  `json:"why"`
}

// Look plans a circuit for a job. without are wishes of [retrofit] that every option that counts must meet. The error is the
// context's.
func Look(ctx context.Context, id string, doc *circuit.Circuit, request retrofit.Request, without []string) (*Looked, error) {
	found := inspect.Compile(doc)
	wishes := map[string]string{}
	for wish, how := range request.Wishes.Wishes {
		wishes[wish] = how
	}
	for _, w := range without {
		wishes[w] = "must"
	}
	request.Wishes.Wishes = wishes
	plan, err := procedure.Plan(ctx, found, request)
	if err != nil {
		return nil, err
	}
	return Told(id, found, request, plan), nil
}

// Told is what a job is told of a circuit that is planned already.
func Told(id string, found *inspect.Compiled, request retrofit.Request, plan *retrofit.Result) *Looked {
	doc, report := found.Doc, found.Report()
	x := &Looked{ID: id, Name: doc.Name, Controls: len(report.Controls), Wiring: wiring(doc), State: string(report.Verdict), Families: []FamilyOf{}, Circuit: Circuit{ID: id}, found: found, request: request, plan: plan}
	for i := range plan.Options {
		o := &plan.Options[i]
		why, fits := "", o.Feasible
		if !fits && len(o.Reasons) > 0 {
			why = o.Reasons[0].Text
		}
		for _, w := range o.Wishes {
			if fits && w.How == "must" && !w.Met {
				fits, why = false, w.Text
			}
		}
		x.family(o, fits, why)
		if !fits {
			continue
		}
		of := Option{ID: o.ID, Family: o.Family, FamilyName: o.FamilyName, Title: o.Title, Price: o.Metrics.Price, Minutes: o.Metrics.Minutes, Readings: len(o.Relies), Hubs: o.Hubs(), Devices: map[string]int{}}
		for _, d := range o.Devices {
			of.Devices[d.Device] += max(1, d.Count)
		}
		x.Options = append(x.Options, of)
	}
	return x
}

// Why says why nothing fits the circuit: the first reason of the first family; "" where something does.
func (x *Looked) Why() string {
	switch {
	case len(x.Options) > 0:
		return ""
	case len(x.Families) > 0 && x.Families[0].Why != "":
		return x.Families[0].Why
	}
	return "Nothing is recorded yet that could be planned."
}

// family notes what one option says of its family.
func (x *Looked) family(o *retrofit.Option, fits bool, why string) {
	at := slices.IndexFunc(x.Families, func(f FamilyOf) bool { return f.Family == o.Family })
	if at < 0 {
		at = len(x.Families)
		x.Families = append(x.Families, FamilyOf{Family: o.Family, Name: o.FamilyName, Why: why})
	}
	f := &x.Families[at]
	if !fits {
		return
	}
	if f.Best != nil {
		i := slices.IndexFunc(x.plan.Options, func(b retrofit.Option) bool { return b.ID == *f.Best })
		if cmp.Or(cmp.Compare(x.plan.Options[i].Metrics.Price, o.Metrics.Price), cmp.Compare(x.plan.Options[i].Metrics.Minutes, o.Metrics.Minutes)) <= 0 {
			return
		}
	}
	f.Best, f.Why = &o.ID, ""
}

// Materials lists what one option of the circuit takes.
func (x *Looked) Materials(ctx context.Context, option string) ([]procedure.Item, error) {
	i := slices.IndexFunc(x.plan.Options, func(o retrofit.Option) bool { return o.ID == option })
	if i < 0 {
		return nil, fmt.Errorf("circuit %s has no option %q", x.ID, option)
	}
	p := procedure.For(x.found, &x.plan.Options[i], x.request.Library)
	sets, err := automation.For(ctx, &x.plan.Options[i], x.request.Library)
	if err != nil {
		return nil, err
	}
	automation.Of(sets, "").Enter(p)
	return p.Materials(), nil
}

// Order adds up what a plan of the job takes. Tools and hubs are needed once for the job, and the rest for each circuit.
func Order(ctx context.Context, circuits []*Looked, plan Plan) ([]procedure.Item, error) {
	var lists [][]procedure.Item
	for _, x := range circuits {
		option, planned := plan.Choices[x.ID]
		if !planned {
			continue
		}
		items, err := x.Materials(ctx, option)
		if err != nil {
			return nil, err
		}
		lists = append(lists, items)
	}
	return procedure.Together(lists), nil
}

// Breaker is a breaker with the circuits that hang on it.
type Breaker struct {
	Label    string   `json:"label"`
	Circuits []string `json:"circuits"` // their ids
}

// Breakers lists the breakers of the circuits. Those without a label are never taken for one.
func Breakers(circuits []*Looked) []Breaker {
	out := []Breaker{}
	for _, x := range circuits {
		say := names.For(x.found.Doc)
		for _, d := range x.found.Doc.Devices {
			if d.Type != circuit.TypeSupply {
				continue
			}
			label := say.Breaker(d.ID)
			if label == say.Word("breaker") {
				label += " of " + x.Name
			}
			at := slices.IndexFunc(out, func(b Breaker) bool { return b.Label == label })
			if at < 0 {
				at = len(out)
				out = append(out, Breaker{Label: label})
			}
			if !slices.Contains(out[at].Circuits, x.ID) {
				out[at].Circuits = append(out[at].Circuits, x.ID)
			}
		}
	}
	return out
}

// wiring says in words where the feed arrives and what feeds the light, as far as the record shows it.
func wiring(doc *circuit.Circuit) string {
	say := names.For(doc)
	in := func(of string) string {
		i := slices.IndexFunc(doc.Devices, func(d circuit.Device) bool { return d.Type == of })
		if i < 0 {
			return ""
		}
		return doc.Devices[i].Box
	}
	panel, fixture := in(circuit.TypeSupply), in(circuit.TypeLamp)
	far := func(box, not string) string {
		for _, k := range doc.Cables {
			if k.Stub() {
				continue
			}
			for i := range k.Ends {
				if to := *k.Ends[1-i]; *k.Ends[i] == box && to != box && to != not {
					return say.Box(to)
				}
			}
		}
		return ""
	}
	feed, light := far(panel, ""), far(fixture, panel)
	switch {
	case feed != "" && feed == say.Box(fixture):
		return "feed at " + feed + ", switches from there"
	case feed == "" && light == "":
		return "not followed yet"
	case feed == "":
		return "light from " + light + ", feed not followed yet"
	case light == "":
		return "feed at " + feed + ", light not followed yet"
	}
	return "feed at " + feed + ", light from " + light
}
