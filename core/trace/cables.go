package trace

import (
	"fmt"
	"math"
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

// mostLaidOut is of how many of the likeliest worlds the cables are laid out.
const mostLaidOut = 4

// Cables says where each stub leads: what is certain, and apart from that what is likely,
// more than half. Nothing but the record makes it certain where a cable runs: whatever
// continuity shows, a joint or a switch that nobody recorded may stand between.
func (t *Tracer) Cables() (certain, likely []CableFact) {
	certain, likely = []CableFact{}, []CableFact{}
	odds := map[string]float64{}
	facts := map[string]CableFact{}
	var order []string
	sum := 0.0
	for _, w := range t.worlds()[:min(mostLaidOut, t.Worlds())] {
		sum += w.weight
		for _, f := range t.cablesOf(w, t.layoutOf(w)) {
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
		if f.Odds = math.Min(0.99, math.Round(odds[key]/sum*1000)/1000); t.onRecord(f) {
			f.Odds = 1
			certain = append(certain, f)
		} else if f.Odds > 0.5 {
			likely = append(likely, f)
		}
	}
	return certain, likely
}

// onRecord reports whether the record itself says where a stub leads.
func (t *Tracer) onRecord(f CableFact) bool {
	if len(f.Stubs) != 1 {
		return false
	}
	k := t.doc.Cable(f.Stubs[0])
	return !k.Stub() && f.To != "" && k.In(f.To)
}

// cablesOf says where the stubs lead in one layout. What goes on to other rooms, or to
// a box that nobody knows of, is left out.
func (t *Tracer) cablesOf(w *world, l *layout) []CableFact {
	var out []CableFact
	for region := range l.regions {
		if hub := t.hub(w, l, region); hub != "" {
			for _, s := range l.stubsIn(region) {
				out = append(out, CableFact{Stubs: []string{t.doc.Cables[t.stubs[s].cable].ID}, To: hub})
			}
			continue
		}
		for _, pair := range t.cablesIn(w, l, region) {
			out = append(out, CableFact{Stubs: []string{t.doc.Cables[t.stubs[pair[0]].cable].ID, t.doc.Cables[t.stubs[pair[1]].cable].ID}})
		}
	}
	return out
}

// cablesIn pairs the stubs of a region where it is nothing but cables between two
// opened boxes, one or several side by side: the two ends of each have the same cores
// on the same nets. It is nil where something else lies there.
func (t *Tracer) cablesIn(w *world, l *layout, region int) [][2]int {
	if len(l.devicesIn(region)) > 0 {
		return nil
	}
	p := &placer{Tracer: t, w: w}
	var out [][2]int
	stubs := l.stubsIn(region)
	for len(stubs) > 0 {
		a := stubs[0]
		i := slices.IndexFunc(stubs, func(b int) bool {
			return t.stubs[b].box != t.stubs[a].box && t.sameCores(a, b) && p.straight(a, b)
		})
		if i < 0 {
			return nil
		}
		out = append(out, [2]int{a, stubs[i]})
		stubs = slices.Concat(stubs[1:i], stubs[i+1:])
	}
	if len(out) > 1 && slices.ContainsFunc(out, func(p [2]int) bool {
		return !sameBoxes(t.stubs[p[0]].box, t.stubs[p[1]].box, t.stubs[out[0][0]].box, t.stubs[out[0][1]].box)
	}) {
		return nil
	}
	return out
}

func sameBoxes(a, b, c, d string) bool { return a == c && b == d || a == d && b == c }

// hub names the closed box in which the cables of a region meet: the light's where
// there is one, else the switch's, else the panel. It is "" for a cable, for what
// goes on to other rooms, and for boxes that nobody knew of.
func (t *Tracer) hub(w *world, l *layout, region int) string {
	for _, kind := range []string{circuit.TypeLamp, circuit.Switch, circuit.TypeSupply} {
		for _, i := range l.devicesIn(region) {
			if l.devices[i].kind == kind && (kind != circuit.TypeSupply || t.fedApart(w, l.stubsIn(region))) {
				return t.homeOf(l.devices[i])
			}
		}
	}
	return ""
}

// fedApart reports whether stubs come to a panel each for itself: no two carry the line of one supply,
// since nothing is spliced there.
func (t *Tracer) fedApart(w *world, stubs []int) bool {
	seen := map[int8]bool{}
	for _, s := range stubs {
		own := map[int8]bool{}
		for _, c := range t.stubs[s].cores {
			if net := w.nets[t.cores[c].class]; net > 0 && w.f.kinds[net] == isHot {
				own[net] = true
			}
		}
		for net := range own {
			if seen[net] {
				return false
			}
			seen[net] = true
		}
		if len(own) == 0 && len(stubs) > 1 {
			return false
		}
	}
	return true
}

// homeOf is the box of a hidden device: the record's, or the name that an unknown one
// will get.
func (t *Tracer) homeOf(d device) string {
	if d.box != "" {
		return d.box
	}
	switch d.kind {
	case circuit.TypeSupply:
		return "panel"
	case circuit.TypeLamp:
		return fmt.Sprintf("light%d", d.index+1)
	}
	return fmt.Sprintf("switch%d", d.index+1)
}
