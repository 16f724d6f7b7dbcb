package circuittest

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
)

// Fault is a circuit that shows one finding, by its code, and whether it may
// still be called working.
type Fault struct {
	Code    string
	Works   bool
	Circuit *circuit.Circuit
}

// Straight is a small sound circuit with known names: panel, foot, head and
// light in a row, cables w1 to w3, switches s1 and s2, lamp1.
func Straight() *circuit.Circuit {
	c := &circuit.Circuit{Format: circuit.Format, Name: "Straight", Practice: "na", Supply: &circuit.Supply{Volts: Float(120), BreakerAmps: Float(15), BreakerLabel: "7"}}
	for _, b := range []string{"panel panel", "foot switch", "head switch", "light fixture"} {
		id, kind, _ := strings.Cut(b, " ")
		c.Boxes = append(c.Boxes, circuit.Box{ID: id, Kind: kind, Opened: Bool(true)})
	}
	w := worker{c}
	w.cable("w1", "panel", "foot", "black white bare")
	w.cable("w2", "foot", "head", "black red white bare")
	w.cable("w3", "head", "light", "black white bare")
	c.Devices = []circuit.Device{
		{ID: "supply", Box: "panel", Type: circuit.TypeSupply}, {ID: "s1", Box: "foot", Type: circuit.TypeThreeWay},
		{ID: "s2", Box: "head", Type: circuit.TypeThreeWay}, {ID: "lamp1", Box: "light", Type: circuit.TypeLamp, Watts: Float(9), Count: Int(4)},
	}
	w.joins("panel", "w1.black supply.hot", "w1.white supply.neutral", "w1.bare supply.ground")
	w.joins("foot", "w1.black s1.common", "w1.white w2.white", "w1.bare w2.bare s1.ground", "w2.black s1.t1", "w2.red s1.t2")
	w.joins("head", "w2.black s2.t1", "w2.red s2.t2", "w2.white w3.white", "w2.bare w3.bare s2.ground", "w3.black s2.common")
	w.joins("light", "w3.black lamp1.l", "w3.white lamp1.n", "w3.bare lamp1.ground")
	return c
}

// Row is a straight chain as most people wire one: panel, a switch in each of so many boxes, light, with no
// spare cores; the second brass screw of every other switch holds the traveler that the first one holds at
// the others.
func Row(controls int) *circuit.Circuit {
	c := &circuit.Circuit{Format: circuit.Format, Name: "Row", Practice: "na", Devices: []circuit.Device{{ID: "supply", Box: "panel", Type: circuit.TypeSupply}}}
	w := worker{c}
	box := func(i int) string {
		switch {
		case i == 0:
			return "panel"
		case i > controls:
			return "light"
		}
		return fmt.Sprintf("b%d", i)
	}
	for i := range controls + 2 {
		kind := circuit.Switch
		switch i {
		case 0:
			kind = circuit.Panel
		case controls + 1:
			kind = circuit.Fixture
		}
		c.Boxes = append(c.Boxes, circuit.Box{ID: box(i), Kind: kind, Opened: Bool(true)})
		if i > 0 {
			cores := "black red white bare"
			if i == 1 || i > controls {
				cores = "black white bare"
			}
			w.cable(fmt.Sprintf("w%d", i), box(i-1), box(i), cores)
		}
	}
	w.joins("panel", "w1.black supply.hot", "w1.white supply.neutral", "w1.bare supply.ground")
	for i := 1; i <= controls; i++ {
		s, in, out := fmt.Sprintf("s%d", i), fmt.Sprintf("w%d", i), fmt.Sprintf("w%d", i+1)
		kind := circuit.TypeFourWay
		switch i {
		case 1:
			kind = circuit.TypeThreeWay
			w.joins(box(i), in+".black "+s+".common", out+".black "+s+".t1", out+".red "+s+".t2")
		case controls:
			kind = circuit.TypeThreeWay
			w.joins(box(i), out+".black "+s+".common", in+".red "+s+".t1", in+".black "+s+".t2")
		default:
			a, b := "a1", "a2"
			if i%2 == 0 {
				a, b = b, a
			}
			w.joins(box(i), in+".black "+s+"."+a, in+".red "+s+"."+b, out+".black "+s+".b1", out+".red "+s+".b2")
		}
		w.device(s, box(i), kind)
		w.joins(box(i), in+".white "+out+".white", in+".bare "+out+".bare "+s+".ground")
	}
	c.Devices = append(c.Devices, circuit.Device{ID: "lamp1", Box: "light", Type: circuit.TypeLamp, Watts: Float(9)})
	last := fmt.Sprintf("w%d", controls+1)
	w.joins("light", last+".black lamp1.l", last+".white lamp1.n", last+".bare lamp1.ground")
	return c
}

// worker changes a circuit as hands would; what it cannot find is a mistake in a
// test.
type worker struct{ *circuit.Circuit }

func parse(text string) circuit.Ref {
	r, err := circuit.ParseRef(text)
	if err != nil {
		panic("circuittest: " + err.Error())
	}
	return r
}

func (w worker) cable(id, from, to, cores string) {
	k := circuit.Cable{ID: id, Ends: [2]*string{&from, &to}, Cores: strings.Fields(cores)}
	if to == "" {
		k.Ends[1] = nil
	}
	w.Cables = append(w.Cables, k)
}

func (w worker) joins(box string, lists ...string) {
	for _, list := range lists {
		j := circuit.Join{Box: box}
		for _, text := range strings.Fields(list) {
			j.Of = append(j.Of, parse(text))
		}
		w.Joins = append(w.Joins, j)
	}
}

// at is the index of the join in the box that holds the member.
func (w worker) at(box, text string) int {
	i := w.JoinOf(box, parse(text))
	if i < 0 {
		panic(fmt.Sprintf("circuittest: %s stands in no join in %s", text, box))
	}
	return i
}

// lift takes members out of their joins.
func (w worker) lift(box string, members ...string) {
	for _, text := range members {
		i := w.at(box, text)
		w.Joins[i].Of = slices.DeleteFunc(w.Joins[i].Of, func(m circuit.Ref) bool { return m == parse(text) })
		if len(w.Joins[i].Of) == 0 {
			w.Joins = slices.Delete(w.Joins, i, i+1)
		}
	}
}

// put adds members to the join that holds the first one.
func (w worker) put(box, beside string, members ...string) {
	i := w.at(box, beside)
	for _, text := range members {
		w.Joins[i].Of = append(w.Joins[i].Of, parse(text))
	}
}

// merge makes one join of two.
func (w worker) merge(box, one, other string) {
	a, b := w.at(box, one), w.at(box, other)
	w.Joins[a].Of = append(w.Joins[a].Of, w.Joins[b].Of...)
	w.Joins = slices.Delete(w.Joins, b, b+1)
}

// swap exchanges two members of one box.
func (w worker) swap(box, one, other string) {
	a, b := w.at(box, one), w.at(box, other)
	x, y := slices.Index(w.Joins[a].Of, parse(one)), slices.Index(w.Joins[b].Of, parse(other))
	w.Joins[a].Of[x], w.Joins[b].Of[y] = w.Joins[b].Of[y], w.Joins[a].Of[x]
}

func (w worker) device(id, box, kind string) {
	w.Devices = append(w.Devices, circuit.Device{ID: id, Box: box, Type: kind})
}

// recolour gives a core another colour, in its cable and in every join.
func (w worker) recolour(cable, from, to string) {
	k := w.Cable(cable)
	k.Cores[slices.Index(k.Cores, from)] = to
	for i, j := range w.Joins {
		for n, m := range j.Of {
			if m.Owner == cable && m.Part == from {
				w.Joins[i].Of[n].Part = to
			}
		}
	}
}

// Faults lists a circuit for every finding that a survey can show.
func Faults() []Fault {
	var out []Fault
	add := func(code string, works bool, spoil func(w worker)) {
		w := worker{Straight()}
		w.Name = "Shows " + code
		spoil(w)
		out = append(out, Fault{code, works, w.Circuit})
	}
	second := func(w worker) { w.device("second", "panel", circuit.TypeSupply) }

	add("no-supply", false, func(w worker) {
		w.lift("panel", "supply.hot", "supply.neutral", "supply.ground")
		w.Devices = w.Devices[1:]
	})
	add("no-lamp", false, func(w worker) {
		w.lift("light", "lamp1.l", "lamp1.n", "lamp1.ground")
		w.Devices = w.Devices[:3]
	})
	add("lamp-never-lit", false, func(w worker) { w.lift("light", "lamp1.n") })
	add("lamp-always-lit", true, func(w worker) {
		w.device("pilot", "panel", circuit.TypeLamp)
		w.put("panel", "supply.hot", "pilot.l")
		w.put("panel", "supply.neutral", "pilot.n")
		w.put("panel", "supply.ground", "pilot.ground")
	})
	add("control-does-nothing", false, func(w worker) { w.lift("foot", "s1.common") })
	add("control-disabled", false, func(w worker) { w.lift("foot", "s1.t1") })
	add("empty-screw", false, func(w worker) { w.lift("head", "s2.t2") })
	add("loose-end", false, func(w worker) { w.lift("light", "w3.black") })
	add("capped-live", true, func(w worker) {
		w.cable("w4", "foot", "head", "black white")
		w.put("foot", "w1.black", "w4.black")
	})
	add("spare-core", true, func(w worker) { w.cable("w4", "foot", "head", "black white") })
	add("far-end-unknown", true, func(w worker) { w.cable("w4", "foot", "", "black white") })
	add("screw-feeds-on", true, func(w worker) {
		w.cable("w4", "foot", "", "black white bare")
		w.put("foot", "w1.black", "w4.black")
		w.put("foot", "w1.white", "w4.white")
	})
	add("screws-unmarked", true, func(w worker) { w.Device("s1").Unmarked = Bool(true) })
	add("four-way-as-three-way", true, func(w worker) {
		w.Device("s1").Type = circuit.TypeFourWay
		for i := range w.Joins {
			for n, m := range w.Joins[i].Of {
				if to := map[string]string{"s1.common": "s1.a1", "s1.t1": "s1.b1", "s1.t2": "s1.b2"}[m.String()]; to != "" {
					w.Joins[i].Of[n] = parse(to)
				}
			}
		}
	})
	add("no-ground", true, func(w worker) { w.lift("head", "s2.ground") })
	add("ground-broken", true, func(w worker) { w.lift("head", "w2.bare") })
	add("metal-box-no-ground", true, func(w worker) {
		w.lift("panel", "w1.bare")
		w.Box("foot").Material = circuit.Metal
	})
	add("no-neutral-here", true, func(w worker) {
		// The lamp hangs in the first box, the second switch is a dead end.
		w.recolour("w2", "white", "blue")
		w.lift("foot", "w2.blue")
		w.lift("head", "w2.blue", "w3.white", "w2.bare", "w3.bare", "w3.black")
		w.put("head", "s2.common", "w2.blue")
		w.put("head", "s2.ground", "w2.bare")
		w.lift("light", "lamp1.l", "lamp1.n", "lamp1.ground", "w3.black", "w3.white", "w3.bare")
		w.Device("lamp1").Box = "foot"
		w.put("foot", "w1.white", "lamp1.n")
		w.put("foot", "w1.bare", "lamp1.ground")
		w.joins("foot", "w2.blue lamp1.l")
	})
	add("not-a-neutral", true, func(w worker) {
		w.recolour("w2", "red", "grey")
		w.Marks = []circuit.Mark{{End: circuit.End{Ref: parse("w2.grey"), Box: "foot"}, As: "traveler"}, {End: circuit.End{Ref: parse("w2.grey"), Box: "head"}, As: "traveler"}}
	})
	add("unmarked", true, func(w worker) { w.recolour("w2", "red", "grey") })
	add("colour-misused", true, func(w worker) { w.recolour("w3", "white", "brown") })
	add("ground-colour-misused", false, func(w worker) { w.recolour("w3", "white", "green") })
	add("colours-of-two-times", true, func(w worker) {
		w.Practice = "uk"
		w.Cable("w1").Cores = []string{"brown", "blue", "green-yellow"}
		w.Cable("w3").Cores = []string{"red", "black", "green-yellow"}
		for i := range w.Joins {
			for n, m := range w.Joins[i].Of {
				if to := map[string]string{"w1.black": "w1.brown", "w1.white": "w1.blue", "w1.bare": "w1.green-yellow",
					"w3.black": "w3.red", "w3.white": "w3.black", "w3.bare": "w3.green-yellow"}[m.String()]; to != "" {
					w.Joins[i].Of[n] = parse(to)
				}
			}
		}
	})
	add("parallel-cores", true, func(w worker) {
		w.Cable("w2").Cores = append(w.Cable("w2").Cores, "blue")
		w.put("foot", "w2.red", "w2.blue")
		w.put("head", "w2.red", "w2.blue")
	})
	add("box-fill", true, func(w worker) {
		for i := range w.Cables {
			w.Cables[i].Gauge = "12AWG"
		}
		w.Box("foot").VolumeCm3 = Float(205)
	})
	add("breaker-gauge", true, func(w worker) {
		w.Supply.BreakerAmps = Float(20)
		w.Cable("w1").Gauge, w.Cable("w2").Gauge = "12AWG", "14AWG"
	})
	add("breaker-load", true, func(w worker) { w.Device("lamp1").Watts = Float(900) })
	add("box-depth", true, func(w worker) { w.Box("foot").DepthMm, w.Device("s1").DepthMm = Float(35), Float(30) })
	add("two-breakers", true, func(w worker) {
		second(w)
		w.cable("w4", "panel", "foot", "black white bare")
		w.joins("panel", "w4.black second.hot", "w4.white second.neutral", "w4.bare second.ground")
	})
	add("two-supplies-joined", false, func(w worker) {
		second(w)
		w.put("panel", "supply.hot", "second.hot")
	})
	add("borrowed-neutral", false, func(w worker) {
		second(w)
		w.lift("panel", "w1.white")
		w.joins("panel", "second.neutral w1.white")
	})
	add("cable-unbalanced", false, func(w worker) {
		w.cable("w4", "foot", "head", "white")
		w.lift("foot", "w2.white")
		w.lift("head", "w2.white")
		w.put("foot", "w1.white", "w4.white")
		w.put("head", "w3.white", "w4.white")
	})
	add("short-hot-neutral", false, func(w worker) { w.merge("foot", "w1.black", "w1.white") })
	add("short-hot-ground", false, func(w worker) { w.merge("foot", "s1.common", "s1.ground") })
	add("neutral-ground-joined", false, func(w worker) { w.merge("light", "lamp1.n", "lamp1.ground") })
	add("ground-live", false, func(w worker) {
		w.lift("foot", "s1.ground")
		w.put("foot", "w1.black", "s1.ground")
	})
	add("ground-return", false, func(w worker) {
		w.lift("light", "lamp1.n")
		w.put("light", "w3.bare", "lamp1.n")
	})
	add("part-volts", false, func(w worker) {
		w.device("lamp2", "light", circuit.TypeLamp)
		w.lift("light", "lamp1.n")
		w.put("light", "w3.white", "lamp2.n")
		w.joins("light", "lamp1.n lamp2.l")
	})
	add("hot-shell", false, func(w worker) { w.swap("light", "lamp1.l", "lamp1.n") })
	add("neutral-switched", false, func(w worker) {
		w.swap("foot", "w1.black", "w1.white")
		w.swap("light", "lamp1.l", "lamp1.n")
	})
	add("polarity-switching", false, func(w worker) {
		// Line and neutral on the pair of each switch, the lamp between the commons.
		w.lift("foot", "w1.black", "w1.white", "s1.common", "w2.white")
		w.put("foot", "s1.t1", "w1.black")
		w.put("foot", "s1.t2", "w1.white")
		w.joins("foot", "s1.common w2.white")
	})
	return out
}
