package retrofit

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
)

// gangs plans all groups with devices that come several in one case, one option for each kind of
// case: where two of them stand in one box and take their supply in the same joins, they are
// gangs of one case, on one supply.
func (p *planner) gangs(ctx context.Context, groups []group) []Option {
	var out []Option
	for _, x := range p.cases() {
		if ctx.Err() != nil {
			return nil
		}
		chosen, doc := p.oneAfterOther(groups, p.library.Only(x.devices), x.strategies...)
		if chosen == nil {
			continue
		}
		o := p.join(x.as, chosen, doc)
		o.Title = x.title + strings.TrimPrefix(o.Title, allLights)
		if slices.Contains(alike, x.as) || slices.ContainsFunc(out, func(y Option) bool { return y.Strategy == x.as }) {
			o.ID = x.as + "-" + x.of + together
		}
		if p.oneCase(&o) {
			out = append(out, o)
		}
	}
	return out
}

// cased is a kind of case that holds several devices, with what is planned to fill it.
type cased struct {
	as, of     string // the strategy, and the device whose case it is
	title      string
	devices    []string
	strategies []string
}

// cases lists the kinds of case of the library: mains of several gangs with their companions, and plates of several buttons
// with the relays that these work.
func (p *planner) cases() []cased {
	var out []cased
	for _, main := range p.library.Of(device.Main) {
		if main.Gangs > 1 {
			out = append(out, cased{MultiGang, main.ID, "Gangs of one case", append([]string{main.ID}, main.Companions...), []string{OneSmart, Messages}})
		}
	}
	for _, main := range p.library.Of(device.Central) {
		for _, id := range main.Companions {
			if c, known := p.library.Get(id); known && c.Gangs > 1 {
				out = append(out, cased{CentralModule, id, "All lights, one plate of buttons at each place", []string{main.ID, id}, []string{CentralModule}})
			}
		}
	}
	return out
}

// oneAfterOther plans each group with the first of some strategies that fits, on the walls that
// the one before leaves. Nil where a group has none.
func (p *planner) oneAfterOther(groups []group, of *device.Library, strategies ...string) ([]Option, *circuit.Circuit) {
	var chosen []Option
	doc := p.doc
	for _, g := range groups {
		var best *Option
		for _, strategy := range strategies {
			if best == nil {
				best = bestOf(p.next(doc, g, of, strategy))
			}
		}
		if best == nil {
			return nil, nil
		}
		chosen, doc = append(chosen, *best), best.After
	}
	return chosen, doc
}

// oneCase puts what may share a case into one, and counts it as one. It reports whether anything
// could: gangs of one case have one supply, so lights of two breakers never share one.
func (p *planner) oneCase(o *Option) bool {
	after := o.After.Clone()
	gangs := map[string]int{} // by the device whose case it is
	for i := range o.Devices {
		x := &o.Devices[i]
		kind, known := p.library.Get(x.Device)
		if !known || kind.Gangs < 2 {
			continue
		}
		gangs[x.ID] = 1
		for _, host := range o.Devices[:i] {
			of, _ := p.library.Get(host.Device)
			if n := gangs[host.ID]; n == 0 || n >= of.Gangs || host.Box != x.Box || !oneSupply(after, host.ID, x.ID, kind) {
				continue
			}
			gangs[host.ID]++
			delete(gangs, x.ID)
			after.Device(x.ID).Case, x.Case = host.ID, host.ID
			o.Metrics.Devices--
			o.Metrics.Price = round(o.Metrics.Price - kind.Price + kind.GangPrice)
			o.Metrics.StandbyWatts = round(o.Metrics.StandbyWatts - kind.StandbyWatts)
			break
		}
	}
	o.After = after
	shared := false
	for _, host := range o.Devices {
		if n := gangs[host.ID]; n > 1 {
			shared = true
			if kind, _ := p.library.Get(host.Device); kind.LowVoltage {
				o.Pros = append(o.Pros, fmt.Sprintf("%s has %s buttons in use and room for %s.", boxNames(after, []string{host.Box}), numeral(n), numeral(kind.Gangs)))
			} else {
				o.Pros = append(o.Pros, fmt.Sprintf("In %s one case holds %s gangs: one supply to join, one plate.", p.say.Box(host.Box), numeral(n)))
			}
		}
	}
	o.Metrics.StandbyYear = round(o.Metrics.StandbyWatts * hoursPerYear / 1000)
	return shared
}

// oneSupply reports whether two devices stand in the same joins with all that a case has once:
// its supply and its ground.
func oneSupply(c *circuit.Circuit, a, b string, kind device.Device) bool {
	box := c.Device(b).Box
	for _, net := range []string{"line", "neutral", "ground"} {
		t := kind.At(net)
		if t == "" {
			continue
		}
		i := c.JoinOf(box, circuit.Ref{Owner: b, Part: t})
		if i < 0 && net == "ground" && c.JoinOf(box, circuit.Ref{Owner: a, Part: t}) < 0 {
			continue // no ground comes here
		}
		if i < 0 || !slices.Contains(c.Joins[i].Of, circuit.Ref{Owner: a, Part: t}) {
			return false
		}
	}
	return true
}
