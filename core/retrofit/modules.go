package retrofit

import (
	"fmt"
	"math/bits"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
	"ambivia/core/limits"
)

// moduleBoxes are the boxes in which a module may be: behind the switches of its groups,
// and where their lamps are.
func (p *planner) moduleBoxes(kind device.Device, groups ...group) []string {
	var out []string
	add := func(dev string) {
		if box := p.doc.Device(dev).Box; !slices.Contains(out, box) {
			out = append(out, box)
		}
	}
	for _, g := range groups {
		if slices.Contains(kind.Mount, "behind") {
			for _, c := range g.controls {
				add(c)
			}
		}
		if slices.Contains(kind.Mount, "at-lamp") {
			for _, l := range g.lamps {
				add(l)
			}
		}
	}
	return out
}

// moduleHeads is how the title of a module begins.
var moduleHeads = map[string]string{ModuleSwitched: "Module", ModuleDry: "Module with a dry input", ModuleBare: "Module without {neutral}"}

// modules proposes a module in each box where one may be, with the old chain as its
// input.
func (p *planner) modules(g group) []proposal {
	var kits []kit
	for _, m := range p.library.Of(device.Module) {
		if !pulsedBy(m) {
			kits = append(kits, kit{main: m})
		}
	}
	by := map[string][]kit{}
	for _, k := range kits {
		s := ModuleSwitched
		switch {
		case k.main.At("dry") != "":
			s = ModuleDry
		case k.main.ThroughLoad:
			s = ModuleBare
		}
		by[s] = append(by[s], k)
	}
	var out []proposal
	for _, strategy := range []string{ModuleSwitched, ModuleDry, ModuleBare} {
		for n, wired := range bySignature(by[strategy]) {
			for _, box := range p.moduleBoxes(wired[0].main, g) {
				title := moduleHeads[strategy] + " behind the switch in %s; the old switches stay as its input"
				if p.doc.Box(box).Kind != circuit.Switch {
					title = moduleHeads[strategy] + " at the lamp, in %s; the old switches stay as its input"
				}
				out = append(out, proposal{
					strategy: strategy, id: optionID(strategy, box, n, wired[0]), kits: wired, title: fmt.Sprintf(title, p.say.Box(box)), first: p.fedHere(box, g),
					require: func(k kit) (*requirement, []Reason) {
						d := p.inherit(nil)
						return d, p.module(d, g, k.main, box, "", "")
					},
				})
			}
		}
	}
	return out
}

// module stands a module (or, where one stands already, takes its next channel) and makes
// the chain of a group its input.
func (p *planner) module(d *requirement, g group, kind device.Device, box, id, channel string) []Reason {
	ess, reasons := p.find(g)
	if reasons != nil {
		return reasons
	}
	nets := d.mains(ess)
	dry := kind.At("dry") != ""
	if dry {
		nets["dry"], nets["dry-return"] = d.newNet(electric.Signal), d.newNet(electric.Signal)
		nets["dry"].name, nets["dry-return"].name = "one side of the old switches", "their other side"
	} else {
		nets["switched"] = d.newNet(electric.Load)
		nets["switched"].name = "what the old switches switch"
	}
	d.takeOut(p.locatorsOf(g.controls)) // an input would take their trickle for a press
	for _, c := range g.controls {
		for _, t := range p.doc.Terminals(*p.doc.Device(c)) {
			ref := circuit.Ref{Owner: c, Part: t}
			switch class := p.classOf(c, t); {
			case class == ess.load && dry:
				d.move(p, ref, nets["dry-return"])
			case class == ess.load:
				d.move(p, ref, nets["switched"])
			case class == ess.line && dry:
				d.move(p, ref, nets["dry"])
			}
		}
		d.keepAt = append(d.keepAt, p.doc.Device(c).Box)
	}
	if channel != "" {
		nets["load-"+channel], nets["switched-"+channel] = nets["load"], nets["switched"]
		for _, net := range []string{"load-" + channel, "switched-" + channel} {
			d.connect(nets[net], id, kind.At(net))
		}
		return nil
	}
	d.wire(d.stand(p, "m", box, "", kind), nets)
	return nil
}

// mostSets is up to how many lights every choice of some of them is thought of for one module;
// of more, those that meet in one box.
const mostSets = 4

// sets lists which groups one module with so many channels may take together: all of them
// first, where they are not too many, then some, the others being left as they are.
func (p *planner) sets(kind device.Device, groups []group) [][]group {
	var out [][]group
	channels := kind.Channels()
	if len(groups) <= mostSets {
		for chosen := 1<<len(groups) - 1; chosen > 0; chosen-- {
			if n := bits.OnesCount(uint(chosen)); n < 2 || n > channels {
				continue
			}
			var of []group
			for i, g := range groups {
				if chosen>>i&1 == 1 {
					of = append(of, g)
				}
			}
			out = append(out, of)
		}
		return out
	}
	for _, box := range p.moduleBoxes(kind, groups...) {
		var of []group
		for _, g := range groups {
			if slices.Contains(p.moduleBoxes(kind, g), box) {
				of = append(of, g)
			}
		}
		same := func(have []group) bool {
			return slices.EqualFunc(have, of, func(a, b group) bool { return slices.Equal(a.controls, b.controls) })
		}
		if len(of) >= 2 && len(of) <= channels && !slices.ContainsFunc(out, same) {
			out = append(out, of)
		}
	}
	return out
}

// several is a proposal for some of the groups.
type several struct {
	proposal
	of []group
}

// together proposes one module with several channels for all groups that it can take, and for
// some of them.
func (p *planner) together(all []group) []several {
	var out []several
	for n, kind := range p.library.Of(device.MultiModule) {
		for _, groups := range p.sets(kind, all) {
			for _, x := range p.togetherOf(n, kind, groups) {
				if len(groups) < len(all) {
					x.title += p.forLight(merged(groups)) + "; the other lights stay as they are"
					for _, g := range groups {
						x.id += fmt.Sprintf("-%d", 1+slices.IndexFunc(all, func(h group) bool { return slices.Equal(h.controls, g.controls) }))
					}
				}
				out = append(out, several{x, groups})
			}
		}
	}
	return out
}

// merged is several groups as one.
func merged(groups []group) group {
	all := group{}
	for _, g := range groups {
		all.controls, all.lamps = append(all.controls, g.controls...), append(all.lamps, g.lamps...)
	}
	return all
}

func (p *planner) togetherOf(n int, kind device.Device, groups []group) []proposal {
	var out []proposal
	for _, box := range p.moduleBoxes(kind, groups...) {
		k := kit{main: kind}
		out = append(out, proposal{
			strategy: ModuleFour, id: optionID(ModuleFour, box, n, k), kits: []kit{k}, never: p.fedHere(box, groups...),
			title: fmt.Sprintf("One module for %s lights in %s; the old switches stay as its inputs", numeral(len(groups)), p.say.Box(box)),
			require: func(k kit) (*requirement, []Reason) {
				d := p.inherit(nil)
				id := d.stand(p, "m", box, "", kind)
				for i, g := range groups {
					ess, reasons := p.find(g)
					if reasons != nil {
						return nil, reasons
					}
					if first, _ := p.find(groups[0]); first.line != ess.line || first.neutral != ess.neutral {
						return nil, []Reason{*because("two-feeds", "The lights hang on different feeds or neutrals; one module would join them. A module for each, or one feed for all, would free it.", p.ends(g.lamps[0]))}
					}
					if i == 0 {
						nets := d.mains(ess)
						d.connect(nets["line"], id, kind.At("line"))
						d.connect(nets["neutral"], id, kind.At("neutral"))
					}
					if reasons := p.module(d, g, kind, box, id, fmt.Sprint(i+1)); reasons != nil {
						return nil, reasons
					}
				}
				return d, nil
			},
		})
	}
	return out
}

// centrals proposes a central relay where the lamps are, with low-voltage buttons at every
// place.
func (p *planner) centrals(g group) []proposal {
	var out []proposal
	for n, wired := range bySignature(p.companionsOf(device.Central)[CentralModule]) {
		for _, box := range p.moduleBoxes(wired[0].main, g) {
			out = append(out, proposal{
				strategy: CentralModule, id: optionID(CentralModule, box, n, wired[0]), kits: wired,
				title: fmt.Sprintf("Central relay module in %s; low-voltage buttons on data cable at every place", p.say.Box(box)),
				require: func(k kit) (*requirement, []Reason) {
					ess, reasons := p.find(g)
					if reasons != nil {
						return nil, reasons
					}
					d := p.inherit(g.controls)
					m := d.stand(p, "m", box, "", k.main)
					d.wire(m, d.mains(ess))
					p.away(d, g, k, []string{m})
					return d, nil
				},
			})
		}
	}
	return out
}

// fedHere refuses a module in a box where the feed stands on the screws of an old switch that is
// to be its input: what the switches switch comes out at their other end, and a channel that has
// the feed on both its sides is destroyed. Nil where it does not.
func (p *planner) fedHere(box string, groups ...group) *Reason {
	for _, g := range groups {
		ess, reasons := p.find(g)
		if reasons != nil {
			continue
		}
		fed, leaves := p.screwsOn(g, ess.line), p.screwsOn(g, ess.load)
		here := func(e circuit.End) bool { return p.doc.Device(e.Owner).Box == box }
		i := slices.IndexFunc(fed, here)
		if i < 0 || slices.ContainsFunc(leaves, here) {
			continue
		}
		text := fmt.Sprintf("The feed stands on the screws of %s: a module there would be fed from both sides, and be destroyed.", p.say.Device(fed[i].Owner))
		var other []string
		for _, e := range leaves {
			if name := p.boxOf(e.Owner); !slices.Contains(other, name) {
				other = append(other, name)
			}
		}
		if len(other) > 0 {
			text += " It belongs where the {load} leaves, in " + strings.Join(other, " or ") + "."
		}
		return because("fed-from-both-sides", p.say.Expand(text), fed[i:i+1])
	}
	return nil
}

// screwsOn lists the screws of a group's switches that stand on a class.
func (p *planner) screwsOn(g group, class int) []circuit.End {
	var out []circuit.End
	for _, c := range g.controls {
		for _, t := range p.doc.Terminals(*p.doc.Device(c)) {
			if p.classOf(c, t) == class {
				out = append(out, circuit.End{Ref: circuit.Ref{Owner: c, Part: t}})
			}
		}
	}
	return out
}

// away puts a companion that needs no box at each old place, over the old box or, where it
// is kept apart from mains, beside it, and links it with the mains.
func (p *planner) away(d *requirement, g group, k kit, mains []string) {
	for _, c := range g.controls {
		var r string
		if k.companion.LowVoltage { // kept apart from mains, so beside the old box
			r = d.plate(p, "r", limits.Clip("Low-voltage plate near "+p.say.Box(p.doc.Device(c).Box), limits.NameLetters), *k.companion)
		} else {
			r = d.replace(p, "r", c, *k.companion)
		}
		for _, m := range mains {
			d.links = append(d.links, circuit.Link{From: r, To: m, Via: k.companion.Link})
		}
	}
}

// lamps proposes smart lamps that stay powered, with remotes in place of the switches.
func (p *planner) lamps(g group) []proposal {
	var out []proposal
	if len(g.lamps) == 0 {
		return nil
	}
	for n, wired := range bySignature(p.companionsOf(device.SmartLamp)[SmartLamps]) {
		out = append(out, proposal{
			strategy: SmartLamps, id: optionID(SmartLamps, p.doc.Device(g.lamps[0]).Box, n, wired[0]), kits: wired,
			title: "Smart lamps that stay powered; remotes take the places of the switches",
			require: func(k kit) (*requirement, []Reason) {
				ess, reasons := p.find(g)
				if reasons != nil {
					return nil, reasons
				}
				d := p.inherit(g.controls)
				nets := d.mains(ess)
				var mains []string
				for _, l := range g.lamps {
					own := d.newNet(electric.Load)
					d.move(p, circuit.Ref{Owner: l, Part: "l"}, own)
					m := d.stand(p, "m", p.doc.Device(l).Box, "", k.main)
					nets["lamp"] = own
					d.wire(m, nets)
					mains = append(mains, m)
				}
				p.away(d, g, k, mains)
				return d, nil
			},
		})
	}
	return out
}
