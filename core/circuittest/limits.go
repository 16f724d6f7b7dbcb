package circuittest

import (
	"fmt"

	"ambivia/core/circuit"
)

// AtTheLimit are circuits as large as a file may be made by people or by hostile hands, by name:
// what the program must answer, or refuse when it reads them, within its bounds.
func AtTheLimit() map[string]*circuit.Circuit {
	return map[string]*circuit.Circuit{
		"200 fat cables":     fatCables(200),
		"64 contacts":        Gangs(circuit.MaxContacts, 1),
		"lamp mesh 14 × 380": lampMesh(14, 380),
		"ten controls":       Chain(circuit.MaxControls),
		"two chains of ten":  Doubled(circuit.MaxControls),
	}
}

// fatCables is a light of two controls beside so many cables of forty cores in one box, whose other
// ends nobody knows.
func fatCables(n int) *circuit.Circuit {
	c := Chain(2)
	hub := c.Boxes[1].ID
	colours := []string{"black", "red", "white", "blue", "yellow", "grey", "brown", "orange", "purple"}
	for i := range n {
		var cores []string
		for k := range 40 {
			core := colours[k%len(colours)]
			if k >= len(colours) {
				core += fmt.Sprint(k/len(colours) + 1)
			}
			cores = append(cores, core)
		}
		c.Cables = append(c.Cables, circuit.Cable{ID: fmt.Sprintf("fat%d", i), Ends: [2]*string{&hub, nil}, Cores: cores})
	}
	return c
}

// lampMesh joins so many nodes by lamps, each to each in turn.
func lampMesh(nodes, lamps int) *circuit.Circuit {
	c := &circuit.Circuit{Format: circuit.Format, Name: "Lamp mesh", Practice: "na", Cables: []circuit.Cable{}, Devices: []circuit.Device{}, Joins: []circuit.Join{},
		Boxes: []circuit.Box{{ID: "panel", Kind: circuit.Panel, Opened: Bool(true)}}}
	w := worker{c}
	w.device("supply", "panel", circuit.TypeSupply)
	at := make([]string, nodes)
	at[0], at[1] = "supply.hot", "supply.neutral"
	for i := range lamps {
		id := fmt.Sprintf("lamp%d", i)
		w.device(id, "panel", circuit.TypeLamp)
		a, b := i%nodes, (i+1+i/nodes)%nodes
		if a == b {
			b = (b + 1) % nodes
		}
		at[a] += " " + id + ".l"
		at[b] += " " + id + ".n"
	}
	w.joins("panel", at...)
	return c
}
