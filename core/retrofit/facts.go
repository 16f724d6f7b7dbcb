package retrofit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/inspect"
)

// fins counts the sides on which a device's neighbours leave no room for its fins: as many as it has neighbours in its box,
// at worst; each gang of the box is a neighbour, whether it is recorded what stands there or not.
func (p *planner) fins(box string) int {
	n := -1
	for _, d := range p.doc.Devices {
		if d.Box == box && d.Case == "" && (d.Mechanical() || d.Type == circuit.TypeReceptacle || d.Type == circuit.TypeSmart) {
			n++
		}
	}
	if b := p.doc.Box(box); b != nil && b.Gangs != nil {
		n = max(n, *b.Gangs-1)
	}
	return max(0, min(2, n))
}

// limits says whether a device carries a load: nil where it does or nobody can tell.
func (p *planner) limits(d device.Device, l circuit.Load, box string) *Reason {
	if d.PerLamp && l.Other {
		return because("not-a-lamp", fmt.Sprintf("What hangs there is not all lamps, and a %s takes the place of a lamp.", d.Name), []circuit.End{})
	}
	if d.Dims && l.Fixed && !l.Other && !d.PerLamp {
		return because("not-dimmable", fmt.Sprintf("The lamps may not be dimmed, and the %s dims. Lamps that may be, or a device that only switches, would free it.", d.Name), []circuit.End{})
	}
	other := because("not-dimmable", fmt.Sprintf("What hangs there is not all lamps and is not dimmed, and the %s dims. A device that only switches would free it.", d.Name), []circuit.End{})
	if !d.Dims || !l.Other {
		other = nil
	}
	if d.PerLamp {
		return nil
	}
	if len(d.Limits) == 0 {
		return other
	}
	limits := d.WithFins(p.fins(box))
	share, refused := limits.Share(l.Watts)
	switch {
	case refused != "":
		return because("load-kind", fmt.Sprintf("The %s takes no %s lamps; it takes %s.", d.Name, refused, limitWords(d.Limits)), []circuit.End{})
	case share > 1:
		why := ""
		if whole, _ := d.Limits.Share(l.Watts); whole < share {
			why = fmt.Sprintf(" with its fins broken off for its neighbours (%s with them)", limitWords(only(d.Limits, l)))
		}
		text := fmt.Sprintf("The lamps take %s; the %s carries %s%s", loadWords(l), d.Name, limitWords(only(limits, l)), why)
		if len(l.Kinds()) > 1 {
			text += ", or a share of each"
		}
		return because("load-limit", text+". Fewer or smaller lamps would free it.", []circuit.End{})
	case l.Known() && l.Total() < d.MinimumWatts && !d.NeedsBypass(l.Total()):
		return because("minimum-load", fmt.Sprintf("The lamps take %g W; the %s needs %g W at least to live through them. More lamps would free it.", l.Total(), d.Name, d.MinimumWatts), []circuit.End{})
	}
	return other
}

// only is those of some limits that a load has a kind of.
func only(limits device.Limits, l circuit.Load) device.Limits {
	out := device.Limits{}
	for _, kind := range l.Kinds() {
		if most, ok := limits.Of(kind); ok {
			out[kind] = most
		}
	}
	return out
}

// loadWords says what lamps take, by kind.
func loadWords(l circuit.Load) string {
	var out []string
	for _, kind := range l.Kinds() {
		if w := l.Watts[kind]; kind != "" {
			out = append(out, fmt.Sprintf("%g W %s", w, kind))
		}
	}
	return strings.Join(out, " and ")
}

// fitting lists the kits that carry the group's lamps, those first that meet more wishes,
// then the cheaper; or the reasons why none does.
func (p *planner) fitting(g group, x proposal) ([]kit, []Reason) {
	var out []kit
	var reasons []Reason
	l := p.doc.LoadOf(g.lamps)
	box := ""
	if x.main != "" {
		box = p.doc.Device(x.main).Box
	}
	for _, k := range x.kits {
		if r := p.limits(k.main, l, box); r != nil {
			reasons = append(reasons, *r)
			continue
		}
		out = append(out, k)
	}
	slices.SortStableFunc(out, func(a, b kit) int { return p.request.Wishes.prefer(b, l) - p.request.Wishes.prefer(a, l) })
	return out, reasons
}

// dims is the check of whether the lamps may be dimmed by a device that dims. Filament lamps may;
// of others somebody has to say so, and nobody is taken at no word.
func (p *planner) dims(g group, d *requirement) []Check {
	for _, x := range d.add {
		k := d.kinds[x.ID]
		if !k.Dims || k.PerLamp || len(k.Limits) == 0 {
			continue
		}
		for _, id := range g.lamps {
			lamp := p.doc.Device(id)
			if lamp.Dimmable != nil || lamp.Load == "incandescent" || lamp.Load == "halogen" {
				continue
			}
			return []Check{{Code: "dimmable", Passed: true, Unknown: true, Text: fmt.Sprintf("The record does not say whether the lamps of %s may be dimmed, and the %s dims. Look at the lamps, and ask whoever bought them; some flicker, hum or fail.", p.say.Device(id), k.Name)}}
		}
		return []Check{{Code: "dimmable", Passed: true, Text: fmt.Sprintf("The lamps may be dimmed by the %s.", k.Name)}}
	}
	return nil
}

// carries are the checks of load against limits.
func (p *planner) carries(g group, d *requirement) []Check {
	l := p.doc.LoadOf(g.lamps)
	for _, x := range d.add {
		k := d.kinds[x.ID]
		if len(k.Limits) == 0 || k.PerLamp {
			continue
		}
		if r := p.limits(k, l, x.Box); r != nil && r.Code == "load-limit" { // in another box than was thought of first
			return []Check{{Code: "load", Passed: false, Unknown: false, Text: r.Text}}
		}
		limits := k.WithFins(p.fins(x.Box))
		switch {
		case !l.Known():
			return []Check{{Code: "load", Passed: true, Unknown: true, Text: fmt.Sprintf("The lamps' watts or kind are not recorded; hold them against the limits of the %s: %s.", k.Name, limitWords(limits))}}
		case k.NeedsBypass(l.Total()):
			return []Check{{Code: "load", Passed: true, Unknown: false, Text: fmt.Sprintf("The lamps take %s, less than the %g W that the %s needs: a bypass at the lamp is part of this plan.", loadWords(l), k.MinimumWatts, k.Name)}}
		}
		derated := ""
		if p.fins(x.Box) > 0 && len(k.FinsOff) > 0 {
			derated = ", derated for its neighbours"
		}
		return []Check{{Code: "load", Passed: true, Unknown: false, Text: fmt.Sprintf("The lamps take %s; the %s carries %s%s.", loadWords(l), k.Name, limitWords(only(limits, l)), derated)}}
	}
	return nil
}

// limitWords says what a device carries, by kind.
func limitWords(limits device.Limits) string {
	var out []string
	for _, kind := range []string{"led", "incandescent", "halogen", "magnetic", "electronic", "fluorescent", "motor"} {
		if w, ok := limits[kind]; ok {
			out = append(out, fmt.Sprintf("%g W %s", w, kind))
		}
	}
	return strings.Join(out, ", ")
}

// fits are the checks of box fill and depth with the new devices: what was too full as
// found is no reason against a plan, what becomes so is.
func (p *planner) fits(after *circuit.Circuit, report *inspect.Report, d *requirement) []Check {
	check := Check{Code: "box-room", Passed: true, Text: "Every box has room for what comes into it."}
	for _, f := range report.Findings {
		if f.Code != "box-fill" && f.Code != "box-depth" {
			continue
		}
		if f.Tight {
			check.Text = f.Text + " " + f.Advice
			continue
		}
		box := boxAbout(f, after)
		if f.Code == "box-fill" {
			was, now := inspect.BoxFill(p.doc, box), inspect.BoxFill(after, box)
			if was.Missing == "" && !was.Fits() && now.Inch3 <= was.Inch3+0.001 {
				check.AsFound = true
				check.Text = fmt.Sprintf("%s is too full as it is: it needs %.2f in³ and has %.2f in³. This needs %.2f in³ there.", upper(p.say.Box(box)), was.Inch3, was.Volume, now.Inch3)
				continue
			}
		} else if inspect.DepthIn(p.doc, box).Mm >= inspect.DepthIn(after, box).Mm {
			check.AsFound, check.Text = true, "So it was before, and so it stays: "+f.Text
			continue
		}
		return []Check{{Code: "box-room", Text: f.Text + " " + f.Advice}}
	}
	for _, x := range d.add {
		b := after.Box(x.Box)
		if x.DepthMm != nil && b.DepthMm == nil && b.VolumeCm3 == nil {
			check.Unknown = true
			check.Text = fmt.Sprintf("Neither depth nor volume of %s is recorded; the %s reaches %g mm into it.", p.say.Box(x.Box), d.kinds[x.ID].Name, *x.DepthMm)
		}
		if behind := p.behind(x, d, after); behind != nil {
			return []Check{*behind}
		}
	}
	return []Check{check}
}

// boxAbout is the box that a finding of room is about.
func boxAbout(f inspect.Finding, after *circuit.Circuit) string {
	for _, e := range f.At {
		if e.Box != "" {
			return e.Box
		}
		if d := after.Device(e.Owner); d != nil {
			return d.Box
		}
	}
	return ""
}

// behind looks at a module that goes behind a switch which stays, whose own depth is not recorded: both share the depth of
// the box. Nil where they fit, or where no such switch stays before it.
func (p *planner) behind(x circuit.Device, d *requirement, after *circuit.Circuit) *Check {
	b := after.Box(x.Box)
	if b.Kind != circuit.Switch || b.DepthMm == nil || x.DepthMm == nil || d.kinds[x.ID].Kind != device.Module {
		return nil
	}
	for _, old := range after.Devices {
		if old.Box == x.Box && old.Mechanical() && old.DepthMm == nil && *x.DepthMm+usualSwitchMm > *b.DepthMm {
			return &Check{Code: "box-room", Unknown: true, Passed: true, Text: fmt.Sprintf("%s is %g mm deep. The module takes %g mm of it behind the %s, whose own depth is not recorded: measure it.", upper(p.say.Box(x.Box)), *b.DepthMm, *x.DepthMm, p.say.Device(old.ID))}
		}
	}
	return nil
}

// usualSwitchMm is how far a plain switch reaches into its box, where nobody measured it: a rule
// of thumb of the trade.
const usualSwitchMm = 20

// BreakerOperations is how often the breaker is moved in any option's steps: off for the work, and on once every box is closed.
const BreakerOperations = 2

// measure lists the changes and what they amount to.
func (p *planner) measure(o *Option, g group, d *requirement) {
	o.Changes = Changes(p.before, o.After)
	touched := map[string]bool{}
	remarks, caps := 0, 0
	for _, c := range o.Changes {
		touched[c.Box] = true
		if c.Mark != "" {
			remarks++
		}
		if c.Now == capped {
			caps++
		}
	}
	for _, id := range d.remove {
		touched[p.doc.Device(id).Box] = true
	}
	price, standby, batteries := 0.0, 0.0, 0
	for _, x := range d.add {
		k := d.kinds[x.ID]
		n := float64(pieces(o.After, x.ID, k))
		price += n * k.Price
		standby += n * k.StandbyWatts
		if k.BatteryMonths > 0 {
			batteries++
		}
		if len(k.Model.Terminals) > 0 {
			touched[x.Box] = true
		}
	}
	if l := p.doc.LoadOf(g.lamps); l.Known() && slices.ContainsFunc(d.add, func(x circuit.Device) bool { return d.kinds[x.ID].NeedsBypass(l.Total()) }) {
		o.BypassAt = []string{p.doc.Device(g.lamps[0]).Box} // who needs one and takes none is refused
		touched[o.BypassAt[0]] = true
	}
	o.BoxesTouched = []string{}
	for _, b := range p.recorded.Doc.Boxes {
		if touched[b.ID] {
			o.BoxesTouched = append(o.BoxesTouched, b.ID)
		}
	}
	aloft := p.aloft(o.BoxesTouched)
	kept := 0
	for _, c := range g.controls {
		if !slices.Contains(d.remove, c) {
			kept++
		}
	}
	o.Metrics = &Metrics{
		BoxesTouched: len(o.BoxesTouched), EndsMoved: len(o.Changes), Remarked: remarks, Capped: caps, Devices: len(d.add), Batteries: batteries,
		SwitchesKept: kept, Walks: BreakerOperations, Ladders: aloft, Bypasses: len(o.BypassAt), NewCables: p.newCableCount,
		Price: round(price), StandbyWatts: round(standby), StandbyYear: round(standby * hoursPerYear / 1000),
	}
}

// aloft counts the boxes among some that are reached from a ladder.
func (p *planner) aloft(boxes []string) int {
	n := 0
	for _, id := range boxes {
		if b := p.doc.Box(id); b.Kind == circuit.Fixture || b.Kind == circuit.Junction {
			n++
		}
	}
	return n
}

const (
	hoursPerYear = 8760
	daysPerYear  = 365
)

// energy tells what the devices and the lamps take in a year, as far as it is known.
func (p *planner) energy(o *Option, g group) {
	w := p.request.Wishes
	if l := p.doc.LoadOf(g.lamps); l.Unknown == 0 && w.HoursPerDay > 0 {
		o.Metrics.LampsYear = rounded(l.Total() * w.HoursPerDay * daysPerYear / 1000)
	}
	if w.EnergyPrice > 0 {
		o.Metrics.StandbyCostYear = rounded(o.Metrics.StandbyYear * w.EnergyPrice)
		if kwh := o.Metrics.LampsYear; kwh != nil {
			o.Metrics.LampsCostYear = rounded(*kwh * w.EnergyPrice)
		}
	}
}

func round(x float64) float64 { return math.Round(x*100) / 100 }

// pieces is how many of a model are bought for one device of a plan: one for each lamp behind a smart
// lamp, else one.
func pieces(after *circuit.Circuit, dev string, model device.Device) int {
	if lamp := after.LampBehind(dev); model.PerLamp && lamp != nil {
		return lamp.Lamps()
	}
	return 1
}

// tell fills in what a person wants to know of a feasible option.
func (p *planner) tell(o *Option, g group, x proposal, d *requirement, a *allocation, kits []kit) {
	p.measure(o, g, d)
	o.Kit = kits[0].id()
	for _, n := range d.add {
		k := d.kinds[n.ID]
		o.Devices = append(o.Devices, Fitted{n.ID, n.Box, k.ID, k.Name, k.SetTo, "", pieces(o.After, n.ID, k)})
	}
	for _, k := range kits[1:] {
		other := Alternative{Kit: k.id(), Devices: []string{k.main.ID}, Text: k.main.Name}
		if k.companion != nil {
			other.Devices = append(other.Devices, k.companion.ID)
			other.Text += " with " + k.companion.Name
		}
		o.Alternatives = append(o.Alternatives, other)
	}
	o.Places = p.places(g, d, kits[0])
	o.Metrics.PlacesLost = max(0, len(g.controls)-len(o.Places))
	o.Outages = p.outages(o, g, d)
	p.energy(o, g)
	o.Conductors = p.conductors(d, a)
	o.Pros, o.Cons = p.weighUp(o, g, d, kits[0])
	for i, text := range o.Pros {
		o.Pros[i] = p.say.Expand(text)
	}
	for i, text := range o.Cons {
		o.Cons[i] = p.say.Expand(text)
	}
}
