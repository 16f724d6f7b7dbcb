// Package automation works out how the links of a plan are made where a link is no wire: which rules a hub, a broker or a
// cloud is given, which devices follow each other, and what is set at the devices for it. There are often several ways
// (sets.go). Each is tried out by package rehearsal before it is offered, and one that gets out of step, or whose messages
// chase each other, is offered with the shortest way to where it does.
//
// Where every place keeps a switch of its own the rules that keep all in step are searched for: the fewest that were found
// to be sound (step.go).
package automation

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
)

// Kinds of sets, in the order in which they are preferred.
const (
	Direct    = "direct"     // paired with each other: nothing stands between
	Scenes    = "scenes"     // each tap is a rule: up is on, down is off, several are a level
	InStep    = "in-step"    // every place keeps its own switch, and rules keep all alike
	MirrorOne = "mirror-one" // the main follows the second
	MirrorTwo = "mirror-two" // each follows the other
)

// Face is what a person can do at a device beside a plain press: Paddle where it has an upper and a lower press, Taps where
// it tells several presses in a row, Held where it tells that it is held. Hub: a hub hears it, so that it can stand in rules. Selector is how a selector on its
// back is set, "" where it has none.
type Face struct {
	Paddle, Taps, Held, Hub bool
	Selector                string
}

// Setting is what is set at a device so that a set of rules works.
type Setting struct {
	Device string `json:"device"`
	Text   string `json:"text"`
}

// Set is one way of making the links of a plan.
type Set struct {
	Kind     string    `json:"kind"`
	Title    string    `json:"title"`
	Text     string    `json:"text"`
	Via      string    `json:"via"` // what stands between: "radio", "hub", "cloud" or "bus"
	Settings []Setting `json:"settings"`
	// Rules and Mirrors count what is entered; Tried is how many sets of rules were tried until this one, where it was
	// searched for.
	Rules   int `json:"rules"`
	Mirrors int `json:"mirrors"`
	Tried   int `json:"tried,omitempty"`
	// Preferred is the first that is sound.
	Preferred bool              `json:"preferred,omitempty"`
	Report    *rehearsal.Report `json:"report"`
	// Doc is the plan with these rules in the place of its links.
	Doc *circuit.Circuit `json:"-"`
}

// Sound reports whether all held that was asked of the set.
func (s *Set) Sound() bool { return s.Report.Verdict == rehearsal.Sound }

// Sets lists the ways in which the links of a plan can be made, those that are sound first; none where it has no links. A
// face that is not given is that of a plain push. The error is the context's.
func Sets(ctx context.Context, after *circuit.Circuit, faces map[string]Face) ([]Set, error) {
	if len(after.Links) == 0 {
		return nil, nil
	}
	m := &maker{after: after, faces: faces}
	var out []Set
	for _, way := range []func(context.Context) (*Set, error){m.direct, m.scenes, m.inStep, m.mirrorOne, m.mirrorTwo} {
		set, err := way(ctx)
		if err != nil {
			return nil, err
		}
		if set == nil {
			continue
		}
		if set.Report == nil {
			if set.Report, err = rehearsal.Rehearse(ctx, set.Doc); err != nil {
				return nil, err
			}
		}
		out = append(out, *set)
	}
	slices.SortStableFunc(out, func(a, b Set) int {
		switch {
		case a.Sound() == b.Sound():
			return 0
		case a.Sound():
			return -1
		}
		return 1
	})
	if len(out) > 0 && out[0].Sound() {
		out[0].Preferred = true
	}
	return out, nil
}

// For lists the ways in which the links of an option can be made with devices of a library, as [Sets] does. A nil library is
// the catalogue.
func For(ctx context.Context, o *retrofit.Option, library *device.Library) ([]Set, error) {
	if library == nil {
		library = device.NewLibrary(nil)
	}
	faces := map[string]Face{}
	for _, f := range o.Devices {
		if kind, known := library.Get(f.Device); known {
			faces[f.ID] = Face{Held: kind.Held, Hub: kind.Hub != "none" || kind.Link != "" && kind.Link != "radio", Selector: strings.Join(f.SetTo, ", ")}
		}
	}
	for _, q := range o.Places {
		f := faces[q.Device]
		f.Paddle, f.Taps = q.UpIsOn, q.Scenes
		faces[q.Device] = f
	}
	return Sets(ctx, o.After, faces)
}

// Kept is what a person chose among the ways to make the links of an option: the kind, and rules that were changed since, nil
// where they are as they were made.
type Kept struct {
	Option     string              `json:"option"`
	Set        string              `json:"set"`
	Automation *circuit.Automation `json:"automation,omitempty"`
}

// ReadKept reads what was kept; nil where nothing was.
func ReadKept(data []byte) (*Kept, error) {
	if data == nil {
		return nil, nil
	}
	kept := &Kept{}
	return kept, json.Unmarshal(data, kept)
}

// With is the set that was kept of those of an option, rehearsed with its own rules; the preferred one where nothing was kept,
// or what was kept does not go with the option any more. It is nil where there are no sets; the error is the context's.
func With(ctx context.Context, sets []Set, option string, kept *Kept) (*Set, error) {
	if kept == nil || kept.Option != option || Of(sets, kept.Set) == nil {
		return Of(sets, ""), nil
	}
	set := Of(sets, kept.Set)
	if kept.Automation == nil {
		return set, nil
	}
	changed := *set
	changed.Doc = set.Doc.Clone()
	changed.Doc.Automation = kept.Automation
	if changed.Doc.Validate() != nil {
		return set, nil
	}
	changed.Title += ", with rules of your own"
	changed.Rules, changed.Mirrors, changed.Tried, changed.Preferred = len(kept.Automation.Rules), len(kept.Automation.Mirrors), 0, false
	report, err := rehearsal.Rehearse(ctx, changed.Doc)
	changed.Report = report
	return &changed, err
}

// Of is the set of a kind, nil where there is none; "" asks for the preferred, or the first where none is sound.
func Of(sets []Set, kind string) *Set {
	for i := range sets {
		if sets[i].Kind == kind || kind == "" {
			return &sets[i]
		}
	}
	return nil
}
