package circuittest

import (
	"fmt"

	"ambivia/core/circuit"
)

// Gangs is a box with so many lights, each with a single-pole switch of its own, fed from so many
// breakers in turn; line and neutral come to the box.
func Gangs(lights, breakers int) *circuit.Circuit {
	c := &circuit.Circuit{Format: circuit.Format, Name: "Weaving works", Practice: "na", Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{},
		Boxes: []circuit.Box{{ID: "panel", Kind: circuit.Panel, Opened: Bool(true)}, {ID: "door", Kind: circuit.Switch, Name: "Loom room door", Opened: Bool(true)}}}
	w := worker{c}
	for b := range breakers {
		feed, supply := fmt.Sprintf("f%d", b+1), fmt.Sprintf("supply%d", b+1)
		w.cable(feed, "panel", "door", "black white bare")
		w.device(supply, "panel", circuit.TypeSupply)
		w.joins("panel", feed+".black "+supply+".hot", feed+".white "+supply+".neutral", feed+".bare "+supply+".ground")
		hot, neutral, ground := feed+".black", feed+".white", feed+".bare"
		for i := b; i < lights; i += breakers {
			lamp, sw, leg, rose := fmt.Sprintf("lamp%d", i+1), fmt.Sprintf("s%d", i+1), fmt.Sprintf("k%d", i+1), fmt.Sprintf("rose%d", i+1)
			c.Boxes = append(c.Boxes, circuit.Box{ID: rose, Kind: circuit.Fixture, Opened: Bool(true)})
			w.cable(leg, "door", rose, "black white bare")
			w.device(sw, "door", circuit.TypeSinglePole)
			w.device(lamp, rose, circuit.TypeLamp)
			c.Device(lamp).Watts, c.Device(lamp).Load = Float(9), "led"
			hot, neutral, ground = hot+" "+sw+".a", neutral+" "+leg+".white", ground+" "+leg+".bare "+sw+".ground"
			w.joins("door", leg+".black "+sw+".b")
			w.joins(rose, leg+".black "+lamp+".l", leg+".white "+lamp+".n", leg+".bare "+lamp+".ground")
		}
		w.joins("door", hot, neutral, ground)
	}
	return c
}
