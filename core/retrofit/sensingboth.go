package retrofit

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
)

// sensingBoth proposes a second sensing device at the other end of the chain: whoever wants each
// end to speak for itself, or has a kit of two.
func (p *planner) sensingBoth(g group) []proposal {
	var outer []string
	for _, c := range g.controls {
		if p.outer(c) {
			outer = append(outer, c)
		}
	}
	if len(g.controls) < 2 || len(outer) != 2 {
		return nil
	}
	ess, reasons := p.find(g)
	if reasons != nil {
		return nil
	}
	lineAt, loadAt := outer[0], outer[1]
	if p.classOf(lineAt, "common") == ess.load {
		lineAt, loadAt = loadAt, lineAt
	}
	var kits []kit
	for _, a := range p.library.Of(device.Sensing) {
		for _, b := range p.library.Of(device.Sensing) {
			if p.goTogether(a, b) {
				kits = append(kits, kit{a, &b})
			}
		}
	}
	var out []proposal
	for n, wired := range bySignature(kits) {
		out = append(out, proposal{
			strategy: SensingBoth, id: optionID(SensingBoth, p.doc.Device(lineAt).Box, n, wired[0]), kits: wired, main: lineAt,
			title:   fmt.Sprintf("Sensing smart switches at both ends, in %s and %s", p.boxOf(lineAt), p.boxOf(loadAt)),
			require: func(k kit) (*requirement, []Reason) { return p.senseBoth(g, ess, lineAt, loadAt, k), nil },
		})
	}
	return out
}

// goTogether reports whether one device may stand at the line end while another stands at the load end: two that switch, two of
// one kind that stand at either end, or a dimmer with the second that goes with it. Two that dim would each dim what the other
// leaves.
func (p *planner) goTogether(line, load device.Device) bool {
	switch {
	case line.End == "either" || load.End == "either":
		return line.ID == load.ID && !line.Dims
	case line.End != "line" || load.End != "load" || line.Dims && load.Dims:
		return false
	case line.Dims || load.Dims || p.isSecond(line) || p.isSecond(load):
		return slices.Contains(line.Companions, load.ID) || slices.Contains(load.Companions, line.ID)
	}
	return true
}

// isSecond reports whether a sensing device is made to stand in one chain with another, and is offered with that alone.
func (p *planner) isSecond(d device.Device) bool {
	return slices.ContainsFunc(p.library.Of(device.Sensing), func(x device.Device) bool { return x.ID != d.ID && slices.Contains(x.Companions, d.ID) })
}

// senseBoth puts a changeover on line at one end and one on load at the other; whatever stands
// between them stays.
func (p *planner) senseBoth(g group, ess essentials, lineAt, loadAt string, k kit) *requirement {
	c := &cut{ess, p.inherit([]string{lineAt, loadAt}), loadAt}
	d := c.require
	first, second := d.replace(p, "m", lineAt, k.main), d.replace(p, "m", loadAt, *k.companion)
	for _, dev := range g.controls {
		if dev == lineAt || dev == loadAt {
			continue
		}
		d.keepAt = append(d.keepAt, p.doc.Device(dev).Box)
		for _, t := range p.doc.Terminals(*p.doc.Device(dev)) {
			if class := p.classOf(dev, t); class == ess.line || class == ess.load {
				d.move(p, circuit.Ref{Owner: dev, Part: t}, c.travelerOf(class))
			}
		}
	}
	nets := d.mains(ess)
	ends := map[string]map[string]*net{}
	for _, end := range [][2]string{{lineAt, "line"}, {loadAt, "load"}} {
		dev, pole := end[0], end[1]
		ends[dev] = map[string]*net{"line": nets["line"], "neutral": nets["neutral"], "load": nets["load"], "pole": nets[pole]}
		for _, t := range []string{"t1", "t2"} {
			ends[dev][t] = c.travelerOf(p.classOf(dev, t))
		}
	}
	if len(g.controls) == 2 { // the two pairs are one, whatever stood on them
		for _, t := range []string{"t1", "t2"} {
			other := t
			if p.classOf(lineAt, "t1") == p.classOf(loadAt, "t2") || p.classOf(lineAt, "t2") == p.classOf(loadAt, "t1") {
				other = map[string]string{"t1": "t2", "t2": "t1"}[t]
			}
			class := p.classOf(loadAt, t)
			if class == ess.line || class == ess.load {
				class = -2
				if t == "t2" {
					class = -3
				}
			}
			x := d.netOf(class, electric.Traveler)
			ends[loadAt][t], ends[lineAt][other] = x, x
		}
	}
	d.wire(first, ends[lineAt])
	d.wire(second, ends[loadAt])
	return d
}
