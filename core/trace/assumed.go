package trace

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// Assumption is something that was neither seen nor measured, with the ends concerned.
type Assumption struct {
	Text string        `json:"text"`
	At   []circuit.End `json:"at"`
}

// Warning is something that readings showed and that a person must know before going on.
type Warning struct {
	Code string        `json:"code"`
	Text string        `json:"text"`
	At   []circuit.End `json:"at"`
}

// Codes of warnings.
const (
	WarnSecondFeed    = "second-feed"    // something is live while the breaker is off
	WarnFeedExchanged = "feed-exchanged" // line and neutral are exchanged at the feed
	WarnShellSwitched = "shell-switched" // switches choose between line and neutral on both sides of the light
	WarnEarthUsed     = "earth-used"     // a core of the ground's colour is used as another conductor
)

// polarityWord says how the feed may lie.
func (t teller) polarityWord() string {
	switch usual, exchanged := t.Polarity(); {
	case usual && !exchanged:
		return "usual"
	case exchanged && !usual:
		return "exchanged"
	}
	return "unknown"
}

// warnings lists what readings showed that changes how one works on.
func (t teller) warnings() []Warning {
	out := []Warning{}
	seen := map[circuit.End]bool{}
	for _, i := range t.live {
		o := t.made[i]
		w := Warning{Code: WarnSecondFeed, Text: t.say.Expand("STOP: a second feed is in this box. The {breaker} is off and something is live. Find the other {breaker}, turn it off, lock it, and prove dead again."), At: []circuit.End{}}
		for _, e := range o.At {
			if !seen[e] {
				seen[e] = true
				w.At = append(w.At, e)
				if e.Box != "" && len(w.At) == 1 {
					w.Text = strings.Replace(w.Text, "in this box", "in "+t.say.Box(e.Box), 1)
				}
			}
		}
		if len(w.At) > 0 || len(o.At) == 0 {
			out = append(out, w)
		}
	}
	if used := t.misused(); len(used) > 0 {
		out = append(out, Warning{Code: WarnEarthUsed, At: used,
			Text: t.say.Expand("DANGER: " + ends(t.say, used) + " is used as another conductor and may be live. Do not measure against it. Put it right first: give that conductor a core of its own, in a new cable if there is none, and join this core to {ground} at both ends.")})
	}
	if t.shellSwitched() {
		out = append(out, Warning{Code: WarnShellSwitched, At: t.endsWith(electric.Load),
			Text: t.say.Expand("DANGER: both sides of the light are switched, each between {hot} and {neutral}. Its shell is live in half of all positions, lit or dark. This circuit is prohibited. Plan nothing on it: give the light a {neutral} that no switch breaks first.")})
	} else if t.possible() && t.polarityWord() == "exchanged" {
		out = append(out, Warning{Code: WarnFeedExchanged, At: t.endsWith(electric.Line, electric.Neutral),
			Text: t.say.Expand("The feed is exchanged: what should be {neutral} is live, and the switches break the {neutral}. The light’s shell is live when the light is off. Put it right at the {panel} before anything is fitted.")})
	}
	return out
}

// endsWith lists a core end of each conductor that can only have one of these roles, in the
// order of the record.
func (t *Tracer) endsWith(roles ...electric.Role) []circuit.End {
	out := []circuit.End{}
	possible := t.possibleRoles()
	for _, class := range t.visible {
		if len(possible[class]) != 1 || !slices.ContainsFunc(roles, func(r electric.Role) bool { return possible[class][r] }) {
			continue
		}
		for _, e := range t.classes[class].ends {
			if e.Box != "" {
				out = append(out, e)
				break
			}
		}
	}
	return out
}

// assumed lists what was neither seen nor measured.
func (t teller) assumed() []Assumption {
	out := []Assumption{}
	add := func(at []circuit.End, text string) { out = append(out, Assumption{t.say.Expand(text), at}) }
	switch {
	case t.polarityWord() != "unknown":
	case t.readAgainstGround():
		add(t.endsWith(electric.Line, electric.Neutral), "which of the feed’s two conductors is {line}: the volts that were read against {ground} could come through a lamp. The next tests settle it.")
	default:
		add(t.endsWith(electric.Line, electric.Neutral), "which of the feed’s two conductors is {line}: no reading with the power on, against {ground}, has shown it yet. Read it before anything is fitted.")
	}
	if read := t.unread(); len(read) > 0 && t.rule != anyhow && t.Resolved() {
		add(read, "what carries the light’s current runs out and back in the same cables: nobody measured these conductors.")
	}
	if len(t.doc.Reports) == 0 {
		add([]circuit.End{}, "each switch works, however the others stand. Ask, or flip and look.")
	}
	if t.doc.Controls == nil && t.seenControls() > 1 && t.closedSwitchBoxes == 0 {
		add([]circuit.End{}, "the switches in these boxes control the same lights. Say in how many places the light is switched.")
	}
	for _, lamp := range t.alwaysLit() {
		add([]circuit.End{}, names.Capitalize(names.For(t.doc).Short(t.lamps[lamp].id))+" was lit whenever you looked: it hangs on the feed, and no switch elsewhere turns it off.")
	}
	for _, a := range t.doc.Accepted {
		text := fmt.Sprintf("%s is taken as {%s}", End(t.say, a.End), a.As)
		if a.Odds != nil {
			text += fmt.Sprintf(", %.4g %% likely then", *a.Odds*100)
		}
		add([]circuit.End{a.End}, text+": nobody measured it.")
	}
	return out
}

// behindWalls lists the assumed facts of a circuit of record: where cables run and end, what each light is
// joined to, and supposed boxes.
func behindWalls(say names.Terms, c *circuit.Circuit) []Assumption {
	var cables, things []string
	at := []circuit.End{}
	for _, e := range c.Evidence {
		if e.How != circuit.Assumed {
			continue
		}
		switch k := c.Cable(e.Of); {
		case k != nil:
			cables = append(cables, say.Cable(k.ID))
			for _, box := range k.Ends {
				if box != nil && c.Box(*box).Seen() {
					at = append(at, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: k.Cores[0]}, Box: *box})
					break
				}
			}
		case c.Device(e.Of) != nil && c.Device(e.Of).Type != circuit.TypeSupply: // where a feed comes from goes with its cable
			things = append(things, "what "+names.For(c).Short(e.Of)+" hangs on")
		case c.Box(e.Of) != nil:
			things = append(things, "that "+say.Box(e.Of)+" is there")
		}
	}
	out := []Assumption{}
	if len(cables) > 0 {
		out = append(out, Assumption{"Where these run behind the walls, and where they end: " + strings.Join(cables, ", ") + ". A plan that needs it asks for the reading that shows it.", at})
	}
	if len(things) > 0 {
		out = append(out, Assumption{names.Capitalize(strings.Join(things, ", ")) + ": not tested.", []circuit.End{}})
	}
	return out
}

// readAgainstGround reports whether somebody read full volts between a conductor and ground.
func (t *Tracer) readAgainstGround() bool {
	return slices.ContainsFunc(t.made, func(o circuit.Observation) bool {
		return o.Power == "on" && o.Instrument == circuit.TwoPole && t.readingBit(o) == second &&
			slices.ContainsFunc(o.At, func(e circuit.End) bool { return t.probe(e).ground })
	})
}

// acceptable is from what odds on a conductor may be accepted for what it most likely is: one
// wrong in ten is too many to offer it.
const acceptable = 0.9

// TakeAs is the role that a person may take a conductor for without a reading, by its odds; ok
// is false where none is likely enough, or it is certain anyway.
func TakeAs(roles map[electric.Role]float64) (role electric.Role, ok bool) {
	if len(roles) < 2 {
		return role, false
	}
	for r, odds := range roles {
		if odds > acceptable {
			return r, true
		}
	}
	return role, false
}

// unread lists a core end of each conductor that is settled though no reading touched it and
// no switch stands on it.
func (t *Tracer) unread() []circuit.End {
	touched := map[int]bool{}
	for i := range t.tests {
		for _, p := range t.tests[i].at {
			touched[p.class] = true
		}
	}
	out := []circuit.End{}
	possible := t.possibleRoles()
	for _, class := range t.visible {
		c := t.classes[class]
		if touched[class] || c.screwed || len(possible[class]) != 1 || len(c.hot)+len(c.neutral)+len(c.lampL)+len(c.lampN) > 0 {
			continue
		}
		for _, e := range c.ends {
			if e.Box != "" {
				out = append(out, e)
				break
			}
		}
	}
	return out
}

// OpenNext is the box to open next.
type OpenNext struct {
	Box  string `json:"box"`
	Text string `json:"text"`
}

// openNext names the closed box that would settle most, and why: a box that may hold a
// switch of the light before any other, among those the one to which most of what is open
// may lead.
func (t teller) openNext() *OpenNext {
	candidates := t.closedSwitches()
	if len(candidates) == 0 {
		if t.Resolved() {
			return nil
		}
		for _, b := range t.doc.Boxes {
			if !t.open[b.ID] && b.Kind != circuit.Panel {
				candidates = append(candidates, b.ID)
			}
		}
	}
	if len(candidates) == 0 {
		return nil
	}
	count := map[string]int{}
	for _, w := range t.worlds()[:min(mostLaidOut, t.Worlds())] {
		l := t.layoutOf(w)
		for region := range l.regions {
			if hub := t.hub(w, l, region); hub != "" {
				for _, s := range l.stubsIn(region) {
					count[hub] += len(t.stubs[s].cores)
				}
			}
		}
	}
	best := candidates[0]
	for _, box := range candidates[1:] {
		if count[box] > count[best] {
			best = box
		}
	}
	return &OpenNext{best, t.whyOpen(best)}
}

// whyOpen says what opening a box is good for.
func (t teller) whyOpen(box string) string {
	name := t.say.Box(box)
	if t.doc.Box(box).Kind != circuit.Switch {
		return t.say.Expand("open " + name + ": what is joined in it settles what no test from these boxes can.")
	}
	opened, may := 0, 0
	odds := t.Odds()
	for _, b := range t.doc.Boxes {
		if b.Kind != circuit.Switch || !t.open[b.ID] {
			continue
		}
		opened++
		if t.mayHold(b.ID, odds) {
			may++
		}
	}
	switch {
	case opened > 0 && may == 0 && opened == 1:
		return t.say.Expand("open " + name + ": the box that is open cannot hold your device, it has no {neutral} beside an end of the chain.")
	case opened > 0 && may == 0:
		return t.say.Expand(fmt.Sprintf("open %s: none of the %d open boxes can hold your device, none has {neutral} beside an end of the chain.", name, opened))
	}
	return t.say.Expand("open " + name + ": it may hold another switch of this light, and the plan needs to know.")
}

// worthSaying is how likely a thing must be for advice to reckon with it.
const worthSaying = 0.02

// mayHold reports whether a device that switches the light may stand in a box: neutral may
// be there, and the common of a switch at an end of the chain.
func (t *Tracer) mayHold(box string, odds map[circuit.End]map[electric.Role]float64) bool {
	back, end := false, false
	for e, roles := range odds {
		back = back || e.Box == box && roles[electric.Neutral] > worthSaying
	}
	for i := range t.switches {
		end = end || t.switches[i].box == box && t.switches[i].kind == ending
	}
	return back && end
}

// settleOne says what would settle one conductor.
func (t teller) settleOne(e circuit.End, tests bool) string {
	if tests {
		return "The next tests settle it."
	}
	class := t.class[t.atom[t.index[e]]]
	for _, i := range t.classes[class].cores {
		if to := t.stubs[t.cores[i].stub].to; to >= 0 {
			for _, b := range t.doc.Boxes {
				if !t.open[b.ID] && t.placeOf[b.ID] == to {
					return "Open " + t.say.Box(b.ID) + ", where it leads."
				}
			}
		}
	}
	return "Follow its cable to the box where it ends, and open that."
}
