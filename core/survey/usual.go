package survey

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// UsualBox is a usual box drawn by itself, to be known by what one sees on opening it.
type UsualBox struct {
	Preset
	Alone  *circuit.Circuit // the box with its cables, and nothing else
	Box    string           // in that
	Cables int              // that come into it
	Cores  int              // insulated cores of the cable that has most
	Device string           // the type of what stands in it, "" for nothing
}

// UsualBoxes lists the usual boxes that may stand at the far end of a cable of the circuit, those that
// fit likeliest first. A cable of "" stands for one that nobody can name: then all are listed.
func UsualBoxes(c *circuit.Circuit, cable string) []UsualBox {
	fits := usualNext(c)
	var ids []string
	if cable == "" {
		for _, p := range Presets {
			if p.Via != "" || slices.Contains(fits[""], p.ID) {
				ids = append(ids, p.ID)
			}
		}
	} else {
		ids = slices.Concat(fits[""], fits[cable])
	}
	titled := Usual(practice.For(c))
	out := []UsualBox{}
	for _, id := range ids {
		p := titled[slices.IndexFunc(titled, func(p Preset) bool { return p.ID == id })]
		alone := &circuit.Circuit{Format: c.Format, Practice: c.Practice}
		via := ""
		if k := c.Cable(cable); k != nil && p.Via != "" {
			via = k.ID
			alone.Cables = []circuit.Cable{{ID: k.ID, Cores: slices.Clone(k.Cores), Gauge: k.Gauge}}
		}
		alone, _, err := change(alone, AddBox{Preset: id, Cable: via})
		if err != nil { // the cable, or the practice, has not what it needs
			continue
		}
		u := UsualBox{Preset: p, Alone: alone, Box: alone.Boxes[0].ID, Cables: len(alone.Cables)}
		for _, k := range alone.Cables {
			u.Cores = max(u.Cores, len(insulated(k.Cores)))
		}
		if len(alone.Devices) > 0 {
			u.Device = alone.Devices[0].Type
		}
		out = append(out, u)
	}
	return out
}
