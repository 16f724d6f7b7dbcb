package procedure

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
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

// Materials lists what the work takes, counted from its steps and from the plan.
func (p *Procedure) Materials() []Item {
	m := &materials{p: p, say: inspect.Speak(p.After)}
	m.devices()
	m.wiring()
	m.plates()
	m.rooms()
	m.labels()
	m.tools()
	return m.items
}

type materials struct {
	p     *Procedure
	say   inspect.Speaker
	items []Item
}

// add counts an item, together with one of the same words.
func (m *materials) add(group, what string, count int, note string, price *float64) {
	if count == 0 {
		return
	}
	for i := range m.items {
		x := &m.items[i]
		if x.Group == group && x.What == what && x.Note == note {
			x.Count += count
			if price != nil && x.Price != nil {
				sum := *x.Price + *price
				x.Price = &sum
			}
			return
		}
	}
	m.items = append(m.items, Item{group, what, count, note, price})
}

func (m *materials) devices() {
	for _, x := range m.p.Option.Devices {
		d, known := m.p.library.Get(x.Device)
		if !known {
			m.add(Devices, x.Name, 1, "its model is not in the catalogue any more", nil)
			continue
		}
		count, price := 1, d.Price
		if d.PerLamp {
			count = lampsIn(m.p.After, x.Box)
			price *= float64(count)
		}
		note := ""
		if len(x.SetTo) > 0 {
			note = "set to " + strings.Join(x.SetTo, ", ")
		}
		m.add(Devices, d.Name, count, note, &price)
		if d.Hub == "needed" {
			m.add(Devices, "hub for "+strings.Join(d.Radio, " or "), 1, "if the house has none", nil)
			m.items[len(m.items)-1].Count = 1
		}
	}
	m.add(Devices, "bypass for a small load, at the lamp", int(m.p.Option.Metrics["bypasses"]), "", nil)
}

// lampsIn counts the lamps of a box.
func lampsIn(c *circuit.Circuit, box string) int {
	n := 0
	for _, d := range c.Devices {
		if d.Box == box && (d.Type == circuit.TypeLamp || d.Type == circuit.TypeSmart) {
			if d.Count != nil {
				n += *d.Count
			} else {
				n++
			}
		}
	}
	return max(1, n)
}

func (m *materials) wiring() {
	pigtails, caps, loose, most := 0, 0, 0, 0
	for _, s := range m.p.Steps {
		for _, e := range s.Edits {
			if e.End != nil && m.p.After.Device(e.End.Owner) != nil && e.Op == Join && s.Connector != nil {
				pigtails++
			}
		}
		switch s.Kind {
		case KindJoin:
			if c := s.Connector; c != nil {
				gauge := circuit.GaugeText(c.Gauge)
				if gauge == "" {
					gauge = "gauge not recorded"
				}
				m.add(Wiring, fmt.Sprintf("connector for %d conductors", c.Conductors), 1, gauge, nil)
			}
			loose -= len(s.Edits)
		case KindLift:
			loose += len(s.Wires)
			most = max(most, loose)
		case KindCap:
			caps++
		case KindCable:
			m.add(Wiring, "new cable: "+strings.Join(s.Edits[0].Cable.Cores, ", "), 1, "its length is not known here", nil)
		}
	}
	for _, l := range m.p.After.Links {
		if l.Via == "bus" && !slices.Contains(m.p.Before.Links, l) {
			m.add(Wiring, "data cable to a button", 1, "its length is not known here", nil)
		}
	}
	m.add(Wiring, "pigtail", pigtails, "of the colour of what it carries", nil)
	m.add(Wiring, "cap that stays, on an end that nothing uses", caps, "", nil)
	m.add(Wiring, "cap for the time of the work", most, "on every end that is lifted", nil)
}

// plates counts a plate for each switch box that is worked in: as many gangs as it has, with
// blanks where a switch went and nothing came.
func (m *materials) plates() {
	for _, b := range m.p.After.Boxes {
		if b.Kind != circuit.Switch || m.p.Before.Box(b.ID) == nil || !m.p.works(b.ID) {
			continue
		}
		was, now, covers := m.faces(m.p.Before, b.ID), m.faces(m.p.After, b.ID), 0
		for _, x := range m.p.Option.Devices {
			if d, known := m.p.library.Get(x.Device); known && x.Box == b.ID && d.Surface {
				covers++
			}
		}
		gangs := max(was, now, 1)
		if b.Gangs != nil {
			gangs = *b.Gangs
		}
		note := "at " + b.Label()
		if blanks := max(0, was-now-covers); blanks > 0 {
			note += fmt.Sprintf(", with %d blank", blanks)
		}
		if covers > 0 {
			note += "; a remote covers a place: the box stays accessible"
		}
		m.add(Covering, fmt.Sprintf("plate, %d gang", gangs), 1, note, nil)
	}
}

// faces counts what stands in the front of a box: switches, receptacles and devices that are
// wired in it and not behind another.
func (m *materials) faces(c *circuit.Circuit, box string) int {
	n := 0
	for _, d := range c.Devices {
		if d.Box != box {
			continue
		}
		model, known := m.p.model(d.ID)
		behind := known && (len(model.Mount) > 0 || model.Surface)
		if d.Mechanical() || d.Type == circuit.TypeReceptacle || d.Type == circuit.TypeSmart && len(c.Terminals(d)) > 0 && !behind {
			n++
		}
	}
	return n
}

// works reports whether there is work in a box.
func (p *Procedure) works(box string) bool {
	return slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Box == box && len(s.Edits) > 0 })
}

// rooms asks for a deeper box or cover where fill or depth does.
func (m *materials) rooms() {
	for _, f := range inspect.Check(m.p.After).Findings {
		if f.Code != "box-fill" && f.Code != "box-depth" {
			continue
		}
		what := "deeper box, or an extension on it"
		if f.Tight {
			what = "deeper box, if it proves too tight"
		}
		m.add(Covering, what, 1, f.Text, nil)
	}
}

func (m *materials) labels() {
	marks := map[string]int{}
	for _, s := range m.p.Steps {
		for _, e := range s.Edits {
			if e.Op == Mark {
				marks[m.say.Word(e.Mark.As)]++
			}
		}
	}
	var words []string
	for w := range marks {
		words = append(words, w)
	}
	slices.Sort(words)
	for _, w := range words {
		m.add(Labelling, "end to tape or sleeve as "+w, marks[w], "both ends of a conductor", nil)
	}
	m.add(Labelling, "label for a conductor", len(m.p.Labels()), "on the sheet of labels", nil)
}

func (m *materials) tools() {
	for _, t := range []string{"two-pole tester, and a known live source to prove it on", "lock and tag for the " + m.say.Word("breaker"), "screwdrivers, insulated", "stripper, and a gauge for the stripping length", "camera"} {
		m.add(Tools, t, 1, "", nil)
	}
	if m.p.Option.Metrics["ladders"] > 0 {
		m.add(Tools, "ladder", 1, "for the box at the lamp", nil)
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
		rows = append(rows, []string{x.Group, x.What, strconv.Itoa(x.Count), x.Note, price})
	}
	if err := w.WriteAll(rows); err != nil {
		return fmt.Errorf("materials: %w", err)
	}
	return nil
}
