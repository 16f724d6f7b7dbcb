package survey

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
)

// fillLike enters a box as another one is: the same cables, the same devices,
// the same wires under the same screws. via is the cable that the new box is
// reached by; it stands for the first cable of the other box with the same
// cores, the one towards the panel before others. What no test showed is not
// copied: marks, positions and far ends.
func (w *writer) fillLike(source circuit.Box, box, via string) error {
	renamed := map[string]string{} // cables and devices of the source by their copies
	arriving := ""
	if via != "" {
		arriving = w.arriving(source.ID, w.Circuit.Cable(via).Cores)
		if arriving == "" {
			return refuse(circuit.CodeContradicts, "like", "no cable in %s has the cores of %s, so this box is not the same; enter it by hand", names.For(w.Circuit).Box(source.ID), names.For(w.Circuit).Cable(via))
		}
		renamed[arriving] = via
	}
	for _, k := range slices.Clone(w.Cables) {
		if !k.In(source.ID) || k.ID == arriving {
			continue
		}
		twin := circuit.Cable{ID: w.newID("k"), Ends: [2]*string{&box, nil}, Cores: slices.Clone(k.Cores), Gauge: k.Gauge}
		renamed[k.ID] = twin.ID
		w.Cables = append(w.Cables, twin)
	}
	for _, d := range slices.Clone(w.Devices) {
		if d.Box != source.ID {
			continue
		}
		prefix := devicePrefixes[d.Type]
		if prefix == "" {
			prefix = "s"
		}
		twin := circuit.Device{ID: w.newID(prefix), Box: box, Type: d.Type, Watts: d.Watts, Count: d.Count, Load: d.Load, DepthMm: d.DepthMm, Unmarked: d.Unmarked, Dimmable: d.Dimmable}
		renamed[d.ID] = twin.ID
		w.Devices = append(w.Devices, twin)
	}
	for _, j := range slices.Clone(w.Joins) {
		if j.Box != source.ID {
			continue
		}
		twin := circuit.Join{Box: box}
		for _, m := range j.Of {
			if name, ok := renamed[m.Owner]; ok {
				twin.Of = append(twin.Of, circuit.Ref{Owner: name, Part: m.Part})
			}
		}
		if len(twin.Of) > 1 {
			w.Joins = append(w.Joins, twin)
		}
	}
	b := w.Circuit.Box(box)
	b.Opened, b.Gangs, b.VolumeCm3, b.DepthMm, b.Material, b.Clamps = source.Opened, source.Gangs, source.VolumeCm3, source.DepthMm, source.Material, source.Clamps
	return nil
}

// arriving returns the cable of a box that has the cores: in the order in which
// power meets the boxes the one from the nearest box, or "".
func (w *writer) arriving(box string, cores []string) string {
	near := map[string]int{}
	for i, b := range Order(w.Circuit) {
		near[b.ID] = i
	}
	best, at := "", 1<<30
	for _, k := range w.Cables {
		if !k.In(box) || !sameCores(k.Cores, cores) {
			continue
		}
		far := 1 << 29
		if other, known := k.Other(box); known {
			far = near[other]
		}
		if far < at {
			best, at = k.ID, far
		}
	}
	return best
}

func sameCores(a, b []string) bool {
	return slices.Equal(slices.Sorted(slices.Values(a)), slices.Sorted(slices.Values(b)))
}

// Twins lists by cable with an unknown end, and under "" for a box that no
// recorded cable reaches, the boxes that a new box there may be the same as, the
// last recorded first.
func twins(c *circuit.Circuit) map[string][]string {
	out := map[string][]string{"": {}}
	w := &writer{c}
	for i := len(c.Boxes) - 1; i >= 0; i-- {
		b := c.Boxes[i]
		if b.Kind == circuit.Panel || len(c.EndsIn(b.ID)) == 0 {
			continue
		}
		out[""] = append(out[""], b.ID)
		for _, k := range c.Cables {
			if k.Stub() && w.arriving(b.ID, k.Cores) != "" {
				out[k.ID] = append(out[k.ID], b.ID)
			}
		}
	}
	return out
}
