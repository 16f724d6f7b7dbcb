package trace

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
)

// CableFact says where stubs lead: two stubs alone are the ends of one cable; To is
// the box where they end, "" where that is a box that nobody knew of.
type CableFact struct {
	Stubs []string `json:"stubs"`
	To    string   `json:"to,omitempty"`
	// Odds is how likely it is; 1 where every world that is left agrees.
	Odds float64 `json:"odds"`
}

// Cables says where each stub leads: what all worlds that are left agree on, and
// apart from that what is likely, more than half.
func (t *Tracer) Cables() (certain, likely []CableFact) {
	certain, likely = []CableFact{}, []CableFact{}
	odds := map[string]float64{}
	facts := map[string]CableFact{}
	var order []string
	for _, w := range t.worlds {
		for _, f := range t.cablesOf(w) {
			key := fmt.Sprint(f.Stubs, f.To)
			if _, known := facts[key]; !known {
				facts[key] = f
				order = append(order, key)
			}
			odds[key] += w.weight
		}
	}
	for _, key := range order {
		f := facts[key]
		switch f.Odds = odds[key]; {
		case f.Odds > 1-1e-9:
			f.Odds = 1
			certain = append(certain, f)
		case f.Odds > 0.5:
			likely = append(likely, f)
		}
	}
	return certain, likely
}

// cablesOf says where the stubs lead in one world. What goes on to other rooms, or to
// a box that nobody knows of, is left out.
func (t *Tracer) cablesOf(w *world) []CableFact {
	var out []CableFact
	for region := range w.routes.regions {
		var stubs []string
		for s, k := range w.routes.region {
			if int(k) == region {
				stubs = append(stubs, t.doc.Cables[t.stubs[s].cable].ID)
			}
		}
		if hub := t.hub(w, region); hub != "" {
			for _, id := range stubs {
				out = append(out, CableFact{Stubs: []string{id}, To: hub})
			}
			continue
		}
		for _, pair := range t.cablesIn(w, region) {
			out = append(out, CableFact{Stubs: []string{t.doc.Cables[t.stubs[pair[0]].cable].ID, t.doc.Cables[t.stubs[pair[1]].cable].ID}})
		}
	}
	return out
}

// cablesIn pairs the stubs of a region where it is nothing but cables between two
// opened boxes, one or several side by side: the two ends of each have the same cores
// on the same nets. It is nil where something else lies there.
func (v *view) cablesIn(w *world, region int) [][2]int {
	if len(v.devicesIn(w, region)) > 0 {
		return nil
	}
	r := &router{view: v, p: w.pattern}
	var out [][2]int
	stubs := v.stubsIn(w, region)
	for len(stubs) > 0 {
		a := stubs[0]
		i := slices.IndexFunc(stubs, func(b int) bool {
			return v.stubs[b].box != v.stubs[a].box && r.sameCores(a, b) && r.straight(w, []int{a, b})
		})
		if i < 0 {
			return nil
		}
		out = append(out, [2]int{a, stubs[i]})
		stubs = slices.Concat(stubs[1:i], stubs[i+1:])
	}
	if len(out) > 1 && slices.ContainsFunc(out, func(p [2]int) bool {
		return !sameBoxes(v.stubs[p[0]].box, v.stubs[p[1]].box, v.stubs[out[0][0]].box, v.stubs[out[0][1]].box)
	}) {
		return nil
	}
	return out
}

func sameBoxes(a, b, c, d string) bool { return a == c && b == d || a == d && b == c }

func (v *view) stubsIn(w *world, region int) []int {
	var out []int
	for s, k := range w.routes.region {
		if int(k) == region {
			out = append(out, s)
		}
	}
	return out
}

func (v *view) devicesIn(w *world, region int) []int {
	var out []int
	for i, k := range w.rooms {
		if int(k) == region {
			out = append(out, i)
		}
	}
	return out
}

// hub names the closed box in which the cables of a region meet: the light's where
// there is one, else the switch's, else the panel. It is "" for a cable, for what
// goes on to other rooms, and for boxes that nobody knew of.
func (v *view) hub(w *world, region int) string {
	devices := v.devicesIn(w, region)
	for _, kind := range []string{circuit.TypeLamp, circuit.Switch, circuit.TypeSupply} {
		for _, i := range devices {
			if w.devices[i].kind != kind || kind == circuit.TypeSupply && len(v.stubsIn(w, region)) > 1 {
				continue
			}
			return v.homeOf(w.devices[i])
		}
	}
	return ""
}

// homeOf is the box of a hidden device: the record's, or the name that an unknown one
// will get.
func (v *view) homeOf(d device) string {
	id, kind := "", circuit.Fixture
	switch d.kind {
	case circuit.TypeSupply:
		id, kind = v.supply.id, circuit.Panel
	case circuit.TypeLamp:
		id = v.lamps[d.index].id
	default:
		kind = circuit.Switch
		if box := v.switches[d.index].box; box != "" {
			return box
		}
	}
	if known := v.doc.Device(id); known != nil {
		return known.Box
	}
	for _, b := range v.doc.Boxes {
		if b.Kind == kind && !v.open[b.ID] && d.place >= 0 {
			return b.ID
		}
	}
	switch kind {
	case circuit.Panel:
		return "panel"
	case circuit.Fixture:
		return fmt.Sprintf("light%d", d.index+1)
	}
	return fmt.Sprintf("switch%d", d.index+1)
}
