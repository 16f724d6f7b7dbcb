package circuittest

import (
	"fmt"
	"math/rand/v2"

	"ambivia/core/circuit"
)

// Impulse makes a light that an impulse relay switches, stepped by so many push-buttons: the relay on the board or in a joint
// box, the buttons from that box in a star or one after the other, their two screws either way round, with or without their
// other circuits' neutral. It is as found, with all boxes opened.
func Impulse(rng *rand.Rand, buttons int) *circuit.Circuit {
	const hot, pulse, back, load, earth = "brown", "orange", "blue", "black", "green-yellow"
	c := &circuit.Circuit{Format: circuit.Format, Name: "hall", Practice: "eu", Models: map[string]circuit.Model{}}
	for _, name := range circuit.FoundTypes {
		c.Models[name], _ = circuit.FoundModel(name)
	}
	opened := true
	box := func(id, kind string) {
		c.Boxes = append(c.Boxes, circuit.Box{ID: id, Kind: kind, Opened: &opened})
	}
	cable := func(id, from, to string, cores ...string) {
		c.Cables = append(c.Cables, circuit.Cable{ID: id, Ends: [2]*string{&from, &to}, Cores: append(cores, earth), Gauge: "1.5mm2"})
	}
	joins := map[string][]circuit.Ref{} // by box and net
	var order []string
	join := func(box, net string, r ...circuit.Ref) {
		key := box + " " + net
		if joins[key] == nil {
			order = append(order, key)
		}
		joins[key] = append(joins[key], r...)
	}
	core := func(id, name string) circuit.Ref { return circuit.Ref{Owner: id, Part: name} }
	box("p", circuit.Panel)
	box("j", circuit.Junction)
	at := "p"
	if rng.IntN(2) == 0 {
		at = "j"
	}
	c.Devices = append(c.Devices, circuit.Device{ID: "s", Box: "p", Type: circuit.TypeSupply}, circuit.Device{ID: "r", Box: at, Type: circuit.TypeSmart, Model: circuit.FoundRelay})
	join("p", hot, core("s", "hot"))
	join("p", back, core("s", "neutral"))
	join("p", earth, core("s", "ground"))
	feed := []string{hot, back}
	if at == "p" {
		feed = append(feed, pulse, load)
	}
	cable("k0", "p", "j", feed...)
	for _, name := range append(feed, earth) {
		join("p", name, core("k0", name))
		join("j", name, core("k0", name))
	}
	for _, x := range [][2]string{{"line", hot}, {"load", load}, {"neutral", back}, {"signal", pulse}} {
		join(at, x[1], core("r", x[0]))
	}
	last, star := "j", rng.IntN(2) == 0
	for i := range buttons {
		id, k, b := fmt.Sprintf("b%d", i+1), fmt.Sprintf("k%d", i+1), fmt.Sprintf("x%d", i+1)
		box(id, circuit.Switch)
		cores := []string{hot, pulse}
		if rng.IntN(3) == 0 {
			cores = append(cores, back) // it ends there, capped
		}
		from := last
		if star {
			from = "j"
		}
		cable(k, from, id, cores...)
		for _, name := range []string{hot, pulse, earth} {
			join(from, name, core(k, name))
			join(id, name, core(k, name))
		}
		c.Devices = append(c.Devices, circuit.Device{ID: b, Box: id, Type: circuit.TypeSmart, Model: circuit.FoundButton})
		first, second := "a", "b"
		if rng.IntN(2) == 0 {
			first, second = second, first
		}
		join(id, hot, core(b, first))
		join(id, pulse, core(b, second))
		last = id
	}
	box("l", circuit.Fixture)
	cable("kl", "j", "l", load, back)
	watts := float64(5 + rng.IntN(60))
	c.Devices = append(c.Devices, circuit.Device{ID: "lp", Box: "l", Type: circuit.TypeLamp, Watts: &watts, Load: "led"})
	for _, x := range [][2]string{{load, "l"}, {back, "n"}, {earth, "ground"}} {
		join("j", x[0], core("kl", x[0]))
		join("l", x[0], core("kl", x[0]), core("lp", x[1]))
	}
	for _, key := range order {
		var box, net string
		_, _ = fmt.Sscan(key, &box, &net)
		if of := joins[key]; len(of) > 1 {
			c.Joins = append(c.Joins, circuit.Join{Box: box, Of: of})
		}
	}
	return c
}
