package device_test

import (
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/inspect"
)

func get(t *testing.T, id string) device.Device {
	t.Helper()
	d, ok := device.NewLibrary(nil).Get(id)
	if !ok {
		t.Fatalf("the catalogue has no %q", id)
	}
	return d
}

// bench wires catalogue devices and a lamp to a supply in one box.
func bench(t *testing.T, devices map[string]string, joins [][]string, links ...circuit.Link) *inspect.Report {
	t.Helper()
	c := &circuit.Circuit{
		Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "b", Kind: circuit.Switch}}, Cables: []circuit.Cable{},
		Models: map[string]circuit.Model{}, Links: links,
		Devices: []circuit.Device{{ID: "f", Box: "b", Type: circuit.TypeSupply}, {ID: "l", Box: "b", Type: circuit.TypeLamp}},
	}
	for _, id := range []string{"m", "o", "s"} {
		kind, used := devices[id]
		switch {
		case !used:
		case kind == circuit.TypeThreeWay:
			c.Devices = append(c.Devices, circuit.Device{ID: id, Box: "b", Type: kind})
		default:
			c.Devices = append(c.Devices, circuit.Device{ID: id, Box: "b", Type: circuit.TypeSmart, Model: kind})
			c.Models[kind] = get(t, kind).Model
		}
	}
	for _, members := range joins {
		j := circuit.Join{Box: "b"}
		for _, m := range members {
			ref, err := circuit.ParseRef(m)
			if err != nil {
				t.Fatal(err)
			}
			j.Of = append(j.Of, ref)
		}
		c.Joins = append(c.Joins, j)
	}
	if err := circuit.Recheck(c); err != nil {
		t.Fatal(err)
	}
	return inspect.Check(c)
}

// TestModels: each device of the catalogue, wired as its text says, works from
// every place; wired without its neutral it does not.
func TestModels(t *testing.T) {
	cases := []struct {
		name    string
		devices map[string]string
		joins   [][]string
		links   []circuit.Link
		states  int
	}{
		{"sensing with a mechanical end", map[string]string{"m": "sensing-3way", "s": circuit.TypeThreeWay},
			[][]string{{"f.hot", "m.line"}, {"m.t1", "s.t1"}, {"m.t2", "s.t2"}, {"s.common", "l.l"}, {"f.neutral", "l.n", "m.neutral"}}, nil, 4},
		{"main with auxiliary", map[string]string{"m": "dimmer-main", "o": "wired-aux"},
			[][]string{{"f.hot", "m.line"}, {"m.load", "l.l"}, {"m.signal", "o.signal"}, {"f.neutral", "l.n", "m.neutral", "o.neutral"}}, nil, 2},
		{"main with remote", map[string]string{"m": "radio-main", "o": "battery-remote"},
			[][]string{{"f.hot", "m.line"}, {"m.load", "l.l"}, {"f.neutral", "l.n", "m.neutral"}}, []circuit.Link{{From: "o", To: "m", Via: "radio"}}, 2},
	}
	for _, k := range cases {
		t.Run(k.name, func(t *testing.T) {
			r := bench(t, k.devices, k.joins, k.links...)
			if r.Verdict != inspect.Works || r.States != k.states || len(r.Controls) != 2 {
				t.Errorf("%s in %d states with %d controls: %v", r.Verdict, r.States, len(r.Controls), r.Findings)
			}
			last := k.joins[len(k.joins)-1]
			k.joins[len(k.joins)-1] = last[:2] // the neutral goes to the lamp alone
			if r := bench(t, k.devices, k.joins, k.links...); r.Verdict != inspect.Faulty {
				t.Error("it works without its neutral")
			}
		})
	}
}
