package trace

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/practice"
)

// lead makes a cable between two boxes of one region that no known cable joins yet,
// with a ground alone.
func (b *builder) lead(hub, far string) *circuit.Cable {
	for i, k := range b.out.Cables {
		if k.In(hub) && k.In(far) {
			return &b.out.Cables[i]
		}
	}
	p := practice.For(b.doc)
	b.out.Cables = append(b.out.Cables, circuit.Cable{ID: b.out.FreshID("w", nil), Ends: [2]*string{&hub, &far}, Cores: []string{p.Colours.Ground[0]}})
	return &b.out.Cables[len(b.out.Cables)-1]
}

// leadFor makes the cable that carries the nets of a hidden device: its cores come
// first, one for each net, in colours that may carry it.
func (b *builder) leadFor(hub, home string, d device, nets []int8) circuit.Cable {
	p := practice.For(b.doc)
	k := circuit.Cable{ID: b.out.FreshID("w", nil), Ends: [2]*string{&hub, &home}}
	for _, net := range distinct(nets) {
		name := ""
		for i, n := range nets {
			if n == net && b.w.f.kinds[d.nets[i]] == isNeutral {
				name = p.Colours.Neutral[0]
			}
		}
		if name == "" {
			name = lineCore(p, k.Cores)
		}
		k.Cores = append(k.Cores, name)
	}
	k.Cores = append(k.Cores, p.Colours.Ground[0])
	b.out.Cables = append(b.out.Cables, k)
	return k
}

// lineCore names one core more of a cable, in a colour that may carry line: one that the cable has not, else its first
// with a number.
func lineCore(p practice.Practice, cores []string) string {
	for n := 1; ; n++ {
		for _, colour := range p.Colours.Line {
			name := colour
			if n > 1 {
				name = fmt.Sprintf("%s%d", colour, n)
			}
			if colour != p.Colours.Neutral[0] && !slices.Contains(cores, name) {
				return name
			}
		}
	}
}
