package rehearsal

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// lights are the lights of a document that no smart switch has in common, each with its lamps as bits. A plan for several
// lights is rehearsed for each by itself: a press at the button of one is not asked to light the other. Where all hang
// together, as with any plan for one light, there is one.
type lights struct {
	lamps []electric.State // by light: its lamps, as bits
	own   map[string][]int // by device: the lights that its own switch carries
	of    map[string][]int // by device: the lights that it carries or speaks to
}

// mostLamps bounds what the bits of a light can hold. Beyond it all lamps are one light.
const mostLamps = 63

// findLights parts the lamps: two are of one light where a smart switch moves both. A switch is tried from the start, and from
// there with each one of the others moved, so that one of two in a row is seen to move its lamp.
func (p *play) findLights() *lights {
	ids := p.net.LampIDs()
	l := &lights{own: map[string][]int{}, of: map[string][]int{}}
	if len(ids) > mostLamps {
		return l
	}
	start := p.net.Initial()
	for _, bit := range p.bits {
		start &^= bit
	}
	moves := map[string]electric.State{} // lamps, as bits
	for _, id := range p.switchy {
		for _, other := range append([]string{""}, p.switchy...) {
			from := start ^ p.bits[other] // "" moves nothing
			moves[id] |= p.lampsLit(from) ^ p.lampsLit(from^p.bits[id])
		}
	}
	for _, id := range p.switchy {
		if moves[id] == 0 {
			continue
		}
		joined, apart := moves[id], []electric.State{}
		for _, lamps := range l.lamps {
			if lamps&joined != 0 {
				joined |= lamps
			} else {
				apart = append(apart, lamps)
			}
		}
		l.lamps = append(apart, joined)
	}
	if len(l.lamps) < 2 {
		return &lights{own: map[string][]int{}, of: map[string][]int{}}
	}
	slices.SortFunc(l.lamps, func(a, b electric.State) int {
		return slices.IndexFunc(ids, in(a, ids)) - slices.IndexFunc(ids, in(b, ids))
	})
	for _, id := range p.switchy {
		for i, lamps := range l.lamps {
			if lamps&moves[id] != 0 {
				l.own[id] = append(l.own[id], i)
			}
		}
	}
	for _, d := range p.doc.Devices {
		for _, to := range p.speaksTo(d.ID) {
			for _, i := range l.own[to] {
				if !slices.Contains(l.of[d.ID], i) {
					l.of[d.ID] = append(l.of[d.ID], i)
				}
			}
		}
	}
	return l
}

// in reports of a lamp whether it is one of those.
func in(lamps electric.State, ids []string) func(string) bool {
	return func(id string) bool { return lamps>>slices.Index(ids, id)&1 == 1 }
}

// speaksTo lists a device and all that it moves by links, rules and mirrors, those that listen to these among them.
func (p *play) speaksTo(device string) []string {
	out := []string{device}
	for i := 0; i < len(out); i++ {
		from := out[i]
		to := func(id string) {
			if !slices.Contains(out, id) {
				out = append(out, id)
			}
		}
		for _, l := range p.doc.Links {
			if l.From == from {
				to(l.To)
			}
		}
		if p.doc.Automation == nil {
			continue
		}
		for _, r := range p.doc.Automation.Rules {
			if r.When.Device == from {
				to(r.Then.Device)
			}
		}
		for _, m := range p.doc.Automation.Mirrors {
			if m.From == from {
				to(m.To)
			}
			if m.Both && m.To == from {
				to(m.From)
			}
		}
	}
	return out
}

// showsAt reports whether a light is lit; any lamp is, where there is one light alone.
func (p *play) showsAt(s electric.State, light int) bool {
	if light < 0 {
		return p.shows(s)
	}
	return p.lampsLit(s)&p.lights().lamps[light] != 0
}

// lights parts the lamps once.
func (p *play) lights() *lights {
	if p.parted == nil {
		p.parted = p.findLights()
	}
	return p.parted
}

// lightsOf lists the lights that a device is there for; one that stands for all lamps, where they are one light or the device
// speaks to none.
func (p *play) lightsOf(device string) []int {
	if list := p.lights().of[device]; list != nil {
		return list
	}
	return []int{-1}
}

// shownBy lists the lights by which the switch of a device is judged: those that it carries, else those that it speaks to.
func (p *play) shownBy(device string) []int {
	if list := p.lights().own[device]; list != nil {
		return list
	}
	return p.lightsOf(device)
}

// nameOf is what a light is called in a sentence: the lamp, and where it hangs where there are several.
func (p *play) nameOf(light int) string {
	if light < 0 {
		return "the lamp"
	}
	say, ids := names.For(p.doc), p.net.LampIDs()
	i := slices.IndexFunc(ids, in(p.lights().lamps[light], ids))
	return "the lamp at " + say.Box(p.doc.Device(ids[i]).Box)
}

// Light is one of several lights that a document holds, as it shows at a moment.
type Light struct {
	Name string `json:"name"`
	Lit  bool   `json:"lit"`
}

// each says how each light shows; nil where there is one.
func (p *play) each(s electric.State) []Light {
	var out []Light
	for i := range p.lights().lamps {
		say, ids := names.For(p.doc), p.net.LampIDs()
		lamp := ids[slices.IndexFunc(ids, in(p.lights().lamps[i], ids))]
		out = append(out, Light{say.Label(p.doc.Device(lamp).Box), p.showsAt(s, i)})
	}
	return out
}

// reports says of a device whether it tells how its switch stands.
func (p *play) reports(device string) bool {
	r := p.doc.Models[p.doc.Device(device).Model].Reports
	return r == circuit.ReportsAll || r == circuit.ReportsOwn
}

// amiss is a light that the switch of a device does not agree with; ok false where it agrees with all.
func (p *play) amiss(device string, s electric.State) (light int, ok bool) {
	for _, light := range p.shownBy(device) {
		if (s&p.bits[device] != 0) != p.showsAt(s, light) {
			return light, true
		}
	}
	return 0, false
}
