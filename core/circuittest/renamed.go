package circuittest

import (
	"fmt"
	"math/rand/v2"

	"ambivia/core/circuit"
)

// Renamed is the same circuit with another id for every box, cable and device, in no order. now gives the
// new name of an end.
func Renamed(rng *rand.Rand, c *circuit.Circuit) (out *circuit.Circuit, now func(circuit.End) circuit.End) {
	out = c.Clone()
	ids := map[string]string{}
	rename := func(prefix string, id *string) {
		if ids[*id] == "" {
			ids[*id] = fmt.Sprintf("%s%d", prefix, rng.IntN(1_000_000))
		}
		*id = ids[*id]
	}
	for i := range out.Boxes {
		rename("b", &out.Boxes[i].ID)
	}
	for i := range out.Cables {
		k := &out.Cables[i]
		rename("k", &k.ID)
		for n, box := range k.Ends {
			if box != nil {
				id := ids[*box]
				k.Ends[n] = &id
			}
		}
	}
	for i := range out.Devices {
		rename("d", &out.Devices[i].ID)
		rename("b", &out.Devices[i].Box)
	}
	for i := range out.Joins {
		rename("b", &out.Joins[i].Box)
		for n := range out.Joins[i].Of {
			rename("x", &out.Joins[i].Of[n].Owner)
		}
	}
	now = func(e circuit.End) circuit.End {
		rename("x", &e.Owner)
		if e.Box != "" {
			rename("b", &e.Box)
		}
		return e
	}
	for i := range out.Observations {
		out.Observations[i] = RenamedTest(out.Observations[i], now)
	}
	return out, now
}

// RenamedTest is the same test of a circuit whose parts have other names.
func RenamedTest(o circuit.Observation, now func(circuit.End) circuit.End) circuit.Observation {
	device := func(id string) string { return now(circuit.End{Ref: circuit.Ref{Owner: id}}).Owner }
	list := func(of []string) []string {
		var out []string
		for _, id := range of {
			out = append(out, device(id))
		}
		return out
	}
	ends := func(of []circuit.End) []circuit.End {
		var out []circuit.End
		for _, e := range of {
			out = append(out, now(e))
		}
		return out
	}
	out := o
	out.At, out.Flipped, out.LampsOut, out.Lifted, out.Tied = ends(o.At), list(o.Flipped), list(o.LampsOut), nil, nil
	for _, r := range o.Lifted {
		out.Lifted = append(out.Lifted, now(circuit.End{Ref: r}).Ref)
	}
	for _, group := range o.Tied {
		out.Tied = append(out.Tied, ends(group))
	}
	if o.Light != "" {
		out.Light = device(o.Light)
	}
	return out
}
