// Package netlist writes a circuit as a netlist for general circuit
// simulators, in the common deck format of resistors and sources.
//
// It is written from the document alone and shares nothing with package
// electric: every core end and terminal is a node of its own, every join, core
// and closed contact a resistor of next to no ohms. So a simulator that reads it
// is an independent judge of the electrical model.
package netlist

import (
	"bufio"
	"fmt"
	"io"

	"ambivia/core/circuit"
)

// pluggedWatts stands for whatever is plugged into a receptacle.
const pluggedWatts = 1

// Ohms that stand for a good joint, and for the air between all conductors,
// without which a floating one would have no volts at all.
const (
	jointOhms = 1e-4
	airOhms   = 1e9
)

// Lamp is where a lamp's volts can be read in a deck: between two nodes.
type Lamp struct{ ID, L, N string }

// deck numbers the nodes of one state of a circuit.
type deck struct {
	w     *bufio.Writer
	c     *circuit.Circuit
	part  int
	nodes map[circuit.End]string
	parts int
}

// Write writes one deck that holds the circuit once for each state, side by
// side. A state names the position of each contact as the circuit file does; a
// contact that it does not name stands in position 1, a relay at 0. Volts are
// those of the supply. For each state it returns where the lamps' volts are to
// be read.
func Write(w io.Writer, c *circuit.Circuit, volts float64, states ...map[string]int) ([][]Lamp, error) {
	out := bufio.NewWriter(w)
	fmt.Fprintf(out, "* %s, %d states side by side\n", printable(c.Name), len(states))
	var lamps [][]Lamp
	for i, s := range states {
		d := &deck{w: out, c: c, part: i, nodes: map[circuit.End]string{}}
		lamps = append(lamps, d.write(volts, s))
	}
	fmt.Fprintln(out, ".op\n.end")
	return lamps, out.Flush()
}

// printable keeps a title to what a deck's comment may hold.
func printable(s string) string {
	out := []rune{}
	for _, r := range s {
		if r >= ' ' && r < 127 {
			out = append(out, r)
		}
	}
	return string(out)
}

// node returns the name of an end, with its leak to the air on first use.
func (d *deck) node(e circuit.End) string {
	if name, ok := d.nodes[e]; ok {
		return name
	}
	name := fmt.Sprintf("n%d_%d", d.part, len(d.nodes)+1)
	d.nodes[e] = name
	fmt.Fprintf(d.w, "* %s is %s\n", name, e)
	d.resistor(name, "0", airOhms)
	return name
}

func (d *deck) resistor(a, b string, ohms float64) {
	d.parts++
	fmt.Fprintf(d.w, "R%d_%d %s %s %g\n", d.part, d.parts, a, b, ohms)
}

func (d *deck) terminal(dev circuit.Device, t string) string {
	return d.node(circuit.End{Ref: circuit.Ref{Owner: dev.ID, Part: t}})
}

func (d *deck) write(volts float64, state map[string]int) []Lamp {
	for _, k := range d.c.Cables {
		if k.Stub() {
			continue
		}
		for _, core := range k.Cores {
			ref := circuit.Ref{Owner: k.ID, Part: core}
			d.resistor(d.node(circuit.End{Ref: ref, Box: *k.Ends[0]}), d.node(circuit.End{Ref: ref, Box: *k.Ends[1]}), jointOhms)
		}
	}
	for _, j := range d.c.Joins {
		var first string
		for i, m := range j.Of {
			e := circuit.End{Ref: m, Box: j.Box}
			if d.c.Device(m.Owner) != nil {
				e.Box = ""
			}
			if i == 0 {
				first = d.node(e)
			} else {
				d.resistor(first, d.node(e), jointOhms)
			}
		}
	}
	var lamps []Lamp
	for i, dev := range d.c.Devices {
		switch dev.Type {
		case circuit.TypeSupply:
			fmt.Fprintf(d.w, "V%d_%d %s 0 DC %g\n", d.part, i, d.terminal(dev, "hot"), volts)
			d.resistor(d.terminal(dev, "neutral"), "0", jointOhms)
			d.resistor(d.terminal(dev, "ground"), "0", jointOhms)
		case circuit.TypeLamp:
			l, n := d.terminal(dev, "l"), d.terminal(dev, "n")
			d.resistor(l, n, volts*volts/lampWatts(dev))
			lamps = append(lamps, Lamp{dev.ID, l, n})
		case circuit.TypeReceptacle:
			l, n := d.terminal(dev, "l"), d.terminal(dev, "n")
			d.resistor(l, n, volts*volts/pluggedWatts)
			lamps = append(lamps, Lamp{dev.ID, l, n})
		default:
			for _, pair := range d.closed(dev, state) {
				d.resistor(d.terminal(dev, pair[0]), d.terminal(dev, pair[1]), jointOhms)
			}
		}
	}
	return lamps
}

func lampWatts(dev circuit.Device) float64 {
	watts := 10.0 // of a lamp whose watts nobody recorded
	if dev.Watts != nil {
		watts = *dev.Watts
	}
	if dev.Count != nil {
		watts *= float64(*dev.Count)
	}
	return watts
}

// closed lists the terminals that a switch or smart device connects.
func (d *deck) closed(dev circuit.Device, state map[string]int) [][2]string {
	second := state[dev.ID] == 2
	switch dev.Type {
	case circuit.TypeSinglePole:
		if !second {
			return [][2]string{{"a", "b"}}
		}
	case circuit.TypeThreeWay, circuit.TypeThreeWayDimmer:
		if second {
			return [][2]string{{"common", "t2"}}
		}
		return [][2]string{{"common", "t1"}}
	case circuit.TypeFourWay:
		if second {
			return [][2]string{{"a1", "b2"}, {"a2", "b1"}}
		}
		return [][2]string{{"a1", "b1"}, {"a2", "b2"}}
	case circuit.TypeSmart:
		var out [][2]string
		for _, r := range d.c.Models[dev.Model].Switches {
			at := state[dev.ID+"."+r.ID]
			if len(r.Throws) == 2 {
				out = append(out, [2]string{r.Pole, r.Throws[at]})
			} else if at == 1 {
				out = append(out, [2]string{r.Pole, r.Throws[0]})
			}
		}
		return out
	}
	return nil
}
