package device

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// bench is a test circuit: a supply, lamps, and devices wired net by net in one box.
type bench struct {
	c    *circuit.Circuit
	nets map[string][]circuit.Ref
}

func newBench(lamps int) *bench {
	b := &bench{
		c: &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "bench", Kind: circuit.Switch}},
			Cables: []circuit.Cable{}, Joins: []circuit.Join{}, Models: map[string]circuit.Model{}},
		nets: map[string][]circuit.Ref{},
	}
	b.add("supply", circuit.TypeSupply, nil, map[string]string{"hot": "line", "neutral": "neutral"})
	for i := range lamps {
		load := "load"
		if lamps > 1 {
			load = fmt.Sprintf("load-%d", i+1)
		}
		b.add(fmt.Sprintf("lamp%d", i+1), circuit.TypeLamp, nil, map[string]string{"l": load, "n": "neutral"})
	}
	return b
}

// add puts a device on the bench; stands says on which net each terminal stands.
func (b *bench) add(id, kind string, model *circuit.Model, stands map[string]string) {
	d := circuit.Device{ID: id, Box: "bench", Type: kind}
	if model != nil {
		d.Model = "model-" + id
		b.c.Models[d.Model] = *model
	}
	b.c.Devices = append(b.c.Devices, d)
	for _, t := range b.c.Terminals(d) {
		if net := stands[t]; net != "" && net != "spare" && net != "ground" {
			b.nets[net] = append(b.nets[net], circuit.Ref{Owner: id, Part: t})
		}
	}
}

// remote puts a generic remote on the bench that speaks to the device.
func (b *bench) remote() {
	b.add("remote", circuit.TypeSmart, &benchRemote, nil)
	b.link("remote", "d")
}

func (b *bench) link(from, to string) {
	b.c.Links = append(b.c.Links, circuit.Link{From: from, To: to, Via: "radio"})
}

// verdict says what is wrong, or nil: every control, of which there are at least so many,
// switches each lamp it works on from every state; nothing sleeps, shorts or never
// settles.
func (b *bench) verdict(controls int) error {
	names := make([]string, 0, len(b.nets))
	for n := range b.nets {
		names = append(names, n)
	}
	slices.Sort(names)
	for _, n := range names {
		b.c.Joins = append(b.c.Joins, circuit.Join{Box: "bench", Of: b.nets[n]})
	}
	r := electric.Explore(electric.New(b.c))
	for _, s := range r.States {
		if len(s.Unpowered) > 0 {
			return fmt.Errorf("on the bench %s has no power in some state", s.Unpowered[0])
		}
		if len(s.Faults) > 0 {
			return fmt.Errorf("on the bench it makes a fault: %s", s.Faults[0].Kind)
		}
	}
	works := 0
	for _, c := range r.Controls {
		if !c.Works {
			return fmt.Errorf("on the bench the control %s does not switch the lamp from every state", c.Device)
		}
		works++
	}
	if works < controls {
		return fmt.Errorf("on the bench %d controls should work and %d do: it has no button, or none that does anything", controls, works)
	}
	return nil
}

// Generic partners of a device on the bench.
var (
	yes       = true
	benchMain = circuit.Model{Terminals: []string{"line", "load", "signal", "neutral"}, Supply: [][2]string{{"line", "neutral"}},
		Switches: []circuit.Relay{{ID: "out", Pole: "line", Throws: []string{"load"}}}, Inputs: []circuit.Input{{Terminal: "signal", On: "pulse", Toggles: "out"}},
		Button: &circuit.Button{Toggles: "out"}, Remote: "out"}
	benchMainStands = map[string]string{"line": "line", "load": "load", "signal": "signal", "neutral": "neutral"}
	benchKey        = circuit.Model{Terminals: []string{"signal"}, Supply: [][2]string{}, Button: &circuit.Button{Pulse: "signal"}}
	benchRemote     = circuit.Model{Terminals: []string{}, Supply: [][2]string{}, Button: &circuit.Button{Sends: &yes}}
)

// Try simulates a device on a bench where it is wired as it says it should be, with a
// generic partner at the other place, and says what it does wrong.
func Try(d Device) error {
	switch d.Kind {
	case Sensing, Changeover:
		ends := []string{d.End}
		if d.End == "either" || d.Kind == Changeover {
			ends = []string{"line", "load"}
		}
		for _, end := range ends {
			if err := tryAtEnd(d, end); err != nil {
				return err
			}
		}
		return nil
	case Main:
		return tryMain(d)
	case Auxiliary, Push, Remote, Secondary:
		b := newBench(1)
		b.add("main", circuit.TypeSmart, &benchMain, benchMainStands)
		b.add("d", circuit.TypeSmart, &d.Model, d.Stands)
		if d.Kind == Remote || d.Kind == Secondary {
			b.link("d", "main")
		}
		return b.verdict(2)
	case Module:
		b := newBench(1)
		b.add("d", circuit.TypeSmart, &d.Model, d.Stands)
		if d.At("signal") != "" { // push-buttons step it
			b.add("key", circuit.TypeSmart, &benchKey, map[string]string{"signal": "signal"})
			return b.verdict(1)
		}
		from, to := "line", "switched"
		if d.At("dry") != "" {
			from, to = "dry", "dry-return"
		}
		b.add("s1", circuit.TypeThreeWay, nil, map[string]string{"common": from, "t1": "t1", "t2": "t2"})
		b.add("s2", circuit.TypeThreeWay, nil, map[string]string{"common": to, "t1": "t1", "t2": "t2"})
		return b.verdict(2)
	case MultiModule:
		channels := d.Channels()
		b := newBench(channels)
		b.add("d", circuit.TypeSmart, &d.Model, d.Stands)
		for i := range channels {
			b.add(fmt.Sprintf("s%d", i+1), circuit.TypeSinglePole, nil, map[string]string{"a": "line", "b": fmt.Sprintf("switched-%d", i+1)})
		}
		return b.verdict(channels)
	case Central, SmartLamp:
		b := newBench(1)
		stands := map[string]string{}
		for t, net := range d.Stands {
			if net == "lamp" {
				net = "load"
			}
			stands[t] = net
		}
		b.add("d", circuit.TypeSmart, &d.Model, stands)
		b.remote()
		return b.verdict(1)
	}
	return fmt.Errorf("there is no kind of device %q", d.Kind)
}

// tryAtEnd tries a device in place of one of two three-ways.
func tryAtEnd(d Device, end string) error {
	b := newBench(1)
	stands := map[string]string{}
	for t, net := range d.Stands {
		if net == "pole" {
			net = end
		}
		stands[t] = net
	}
	far := map[string]string{"line": "load", "load": "line"}[end]
	b.add("d", circuit.TypeSmart, &d.Model, stands)
	b.add("far", circuit.TypeThreeWay, nil, map[string]string{"common": far, "t1": "t1", "t2": "t2"})
	if d.Kind == Changeover {
		b.remote()
	}
	return b.verdict(2)
}

func tryMain(d Device) error {
	b := newBench(1)
	b.add("d", circuit.TypeSmart, &d.Model, d.Stands)
	b.remote()
	controls := 2
	switch {
	case d.At("contact-return") != "":
		b.add("old", circuit.TypeSinglePole, nil, map[string]string{"a": "contact", "b": "contact-return"})
		controls++
	case d.At("contact") != "":
		b.add("old", circuit.TypeSinglePole, nil, map[string]string{"a": "line", "b": "contact"})
		controls++
	case d.At("signal") != "":
		b.add("key", circuit.TypeSmart, &benchKey, map[string]string{"signal": "signal"})
		controls++
	}
	return b.verdict(controls)
}

// Channels counts the outputs of a module with several.
func (d Device) Channels() int {
	n := 0
	for _, net := range d.Stands {
		if strings.HasPrefix(net, "load-") {
			n++
		}
	}
	return n
}
