package procedure

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/limits"
	"ambivia/core/names"
)

// Item is one line of what to bring. Unit is "" for pieces; Price is in the neutral unit of
// the catalogue, and nil for what has none there.
type Item struct {
	Group string   `json:"group"`
	What  string   `json:"what"`
	Count int      `json:"count"`
	Note  string   `json:"note,omitempty"`
	Price *float64 `json:"price,omitempty"` // of all of them
}

// Groups of items, in their order.
const (
	Devices   = "Devices"
	Wiring    = "Connectors and conductors"
	Covering  = "Plates and boxes"
	Labelling = "Labels and tape"
	Tools     = "Tools"
)

// Together adds up the materials of several circuits, by group: what serves them one after the other is needed once.
func Together(lists [][]Item) []Item {
	all := &materials{items: []Item{}}
	for _, group := range []string{Devices, Wiring, Covering, Labelling, Tools} {
		for _, list := range lists {
			for _, item := range list {
				if item.Group == group {
					all.add(item)
				}
			}
		}
	}
	return all.items
}

// once reports whether one is enough for any number of circuits: a tool, a hub, caps for the time of the work.
func (i Item) once() bool {
	return i.Group == Tools || strings.HasPrefix(i.What, hubFor) || i.What == capForNow
}

// What is bought or brought once for a job.
const (
	hubFor    = "hub for "
	capForNow = "cap for the time of the work"
)

// Materials lists what the work takes: what its steps fit, counted, and what is needed for the
// time of the work.
func (p *Procedure) Materials() []Item {
	m := &materials{p: p, say: names.For(p.After)}
	for _, group := range []string{Devices, Wiring, Covering, Labelling} {
		for _, s := range p.Steps {
			for _, x := range s.Uses {
				if x.Group == group {
					m.add(x)
				}
			}
		}
		if group == Wiring {
			m.add(Item{Group: Wiring, What: capForNow, Count: p.mostLoose(), Note: "on every end that is lifted"})
		}
	}
	m.tools()
	return m.items
}

type materials struct {
	p     *Procedure
	say   names.Terms
	items []Item
}

// add counts an item, together with one of the same words.
func (m *materials) add(item Item) {
	if item.Count == 0 {
		return
	}
	for i := range m.items {
		x := &m.items[i]
		if x.Group == item.Group && x.What == item.What && x.Note == item.Note {
			if item.once() {
				x.Count = max(x.Count, item.Count)
				return
			}
			x.Count += item.Count
			if item.Price != nil && x.Price != nil {
				sum := *x.Price + *item.Price
				x.Price = &sum
			}
			return
		}
	}
	m.items = append(m.items, item)
}

// mostLoose is how many ends are bare at once at most.
func (p *Procedure) mostLoose() int {
	loose, most := 0, 0
	for _, s := range p.Steps {
		switch s.Kind {
		case KindJoin:
			loose -= len(s.Edits)
		case KindLift:
			loose += len(s.Wires)
			most = max(most, loose)
		}
	}
	return most
}

// faces counts what stands in the front of a box: switches, receptacles and devices that are
// wired in it and not behind another.
func (p *Procedure) faces(c *circuit.Circuit, box string) int {
	n := 0
	for _, d := range c.Devices {
		if d.Box != box || d.Case != "" {
			continue
		}
		model, known := p.model(d.ID)
		behind := known && (len(model.Mount) > 0 || model.Surface)
		if d.Mechanical() || d.Type == circuit.TypeReceptacle || d.Type == circuit.TypeSmart && len(c.Terminals(d)) > 0 && !behind {
			n++
		}
	}
	return n
}

func (m *materials) tools() {
	m.add(Item{Group: Tools, What: "lock and tag for the " + m.say.Word("breaker"), Count: len(m.say.Breakers())})
	for _, t := range []string{"two-pole tester, and a known live source to prove it on", "screwdrivers, insulated", "stripper, and a gauge for the stripping length", "camera"} {
		m.add(Item{Group: Tools, What: t, Count: 1})
	}
	if slices.ContainsFunc(m.p.opened, func(box string) bool {
		b := m.p.Before.Box(box)
		return b.Kind == circuit.Fixture || b.Kind == circuit.Junction
	}) {
		m.add(Item{Group: Tools, What: "ladder", Count: 1, Note: "for the box at the lamp"})
	}
}

// CSV writes a list of materials as comma-separated values, with a head.
func CSV(out io.Writer, items []Item) error {
	w := csv.NewWriter(out)
	rows := [][]string{{"group", "item", "count", "note", "price"}}
	for _, x := range items {
		price := ""
		if x.Price != nil {
			price = strconv.FormatFloat(*x.Price, 'f', -1, 64)
		}
		rows = append(rows, []string{limits.Cell(x.Group), limits.Cell(x.What), strconv.Itoa(x.Count), limits.Cell(x.Note), price})
	}
	if err := w.WriteAll(rows); err != nil {
		return fmt.Errorf("materials: %w", err)
	}
	return nil
}
