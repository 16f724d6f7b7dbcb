package device_test

import (
	"errors"
	"maps"
	"reflect"
	"slices"
	"strings"
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

// TestCatalogue: the catalogue has every kind of device, its companions are known, its
// numbers make sense, and no two devices share a name.
func TestCatalogue(t *testing.T) {
	list := device.Catalogue()
	if len(list) < 24 {
		t.Errorf("%d devices", len(list))
	}
	library := device.NewLibrary(nil)
	kinds, names := map[string]bool{}, map[string]bool{}
	for _, d := range list {
		kinds[d.Kind] = true
		if names[d.Name] {
			t.Errorf("two devices are called %q", d.Name)
		}
		names[d.Name] = true
		for _, id := range d.Companions {
			if _, known := library.Get(id); !known && id != device.OldSwitch {
				t.Errorf("%s: the companion %q is not known", d.ID, id)
			}
		}
		for side, off := range d.FinsOff {
			for load, watts := range off {
				if whole, ok := d.Limits.Of(load); !ok || watts > whole {
					t.Errorf("%s, fins off %s: %g W of %s, with them %g W", d.ID, side, watts, load, whole)
				}
			}
		}
		if d.ThroughLoad != d.Model.DrawsThroughLoad() || d.ThroughLoad && (d.MinimumWatts == 0 || d.At("neutral") != "" && d.Stands["neutral"] != "spare") {
			t.Errorf("%s: power through the lamp, a minimum and no neutral belong together", d.ID)
		}
		for terminal := range d.Screws {
			if d.Stands[terminal] == "" {
				t.Errorf("%s: a screw %q that the model has not", d.ID, terminal)
			}
		}
	}
	for _, kind := range []string{device.Sensing, device.Main, device.Auxiliary, device.Push, device.Remote, device.Secondary, device.Module,
		device.MultiModule, device.Changeover, device.Central, device.SmartLamp} {
		if !kinds[kind] {
			t.Errorf("no device is a %s", kind)
		}
	}
}

// TestRead: what is written is read back; what is wrong is refused with its place, what
// does not behave with what it did.
func TestRead(t *testing.T) {
	raw, err := device.Write(device.Catalogue())
	if err != nil {
		t.Fatal(err)
	}
	again, err := device.Read(raw)
	if err != nil || !reflect.DeepEqual(again, device.Catalogue()) {
		t.Fatalf("the catalogue does not come back: %v", err)
	}
	spoil := func(change func(d *device.Device)) []byte {
		d := get(t, "radio-main")
		model := d.Model
		model.Terminals, model.Supply = slices.Clone(model.Terminals), slices.Clone(model.Supply)
		d.Model, d.Stands = model, maps.Clone(d.Stands)
		change(&d)
		raw, err := device.Write([]device.Device{d})
		if err != nil {
			t.Fatal(err)
		}
		return raw
	}
	for name, k := range map[string]struct {
		raw         []byte
		code, place string
	}{
		"no JSON":            {[]byte("["), "not-json", ""},
		"another format":     {[]byte(`{"format": "x", "devices": []}`), "schema", "format"},
		"a field too many":   {[]byte(strings.Replace(string(raw), `"hub"`, `"hubs": 1, "hub"`, 1)), "schema", "devices[0]"},
		"twice":              {[]byte(strings.Replace(string(raw), `"id": "sensing-load"`, `"id": "sensing-3way"`, 1)), "duplicate-id", "devices[1].id"},
		"nothing stands":     {spoil(func(d *device.Device) { delete(d.Stands, "load") }), "terminals", "devices[0].stands"},
		"no such terminal":   {spoil(func(d *device.Device) { d.Stands["aerial"] = "line" }), "terminals", "devices[0].stands"},
		"a model that lacks": {spoil(func(d *device.Device) { d.Model.Remote = "lever" }), "model", "devices[0].model"},
		"asleep":             {spoil(func(d *device.Device) { d.Stands["neutral"] = "spare" }), "behaviour", "devices[0].model"},
		"a short":            {spoil(func(d *device.Device) { d.Stands["load"] = "neutral" }), "behaviour", "devices[0].model"},
		"a dead button":      {spoil(func(d *device.Device) { d.Model.Button = nil }), "behaviour", "devices[0].model"},
		"a negative price":   {spoil(func(d *device.Device) { d.Price = -1 }), "schema", "devices[0].price"},
	} {
		_, err := device.Read(k.raw)
		var e *device.Error
		if !errors.As(err, &e) || e.Code != k.code || e.Place != k.place {
			t.Errorf("%s: %#v; want %s at %q", name, err, k.code, k.place)
		}
	}
	if _, err := device.Read(make([]byte, device.MaxBytes+1)); err == nil {
		t.Error("a file of any size is read")
	}
	if err := device.Check(get(t, "smart-lamp")); err != nil {
		t.Error(err)
	}
}

// TestInStead: a device of one's own stands in the stead of one with its id.
func TestInStead(t *testing.T) {
	d := get(t, "wired-aux")
	d.Price = 1
	library := device.NewLibrary([]device.Device{d})
	if got, _ := library.Get("wired-aux"); got.Price != 1 || len(library.All()) != len(device.Catalogue()) {
		t.Errorf("%g, %d devices", got.Price, len(library.All()))
	}
}
