// Package house stands in for a house: it keeps a circuit that nobody sees and
// answers tests as walls would, with instruments that lie as real ones do.
//
// A [House] is made of a whole circuit. [House.Survey] is what a person sees who
// has opened some of its boxes: cables that leave them are stubs, each end of one
// under a name of its own. [House.Answer] reads a test. It stands on package
// electric alone and knows nothing of tracing, so that it can judge it.
package house

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/limits"
)

// House is a hidden circuit and what its instruments do. Its zero value is of no
// use; see [New].
type House struct {
	truth  *circuit.Circuit
	survey *circuit.Circuit
	names  map[string]string // cable of the survey → cable of the house
	rng    *rand.Rand
	state  electric.State // how the switches were found
	bond   bool           // neutral and ground meet in the panel
	loads  bool           // something is plugged in behind a cable to other rooms
}

// New hides a valid circuit. Boxes in opened are open; where it is nil, those are
// open that hold a switch. Everything that is left to chance (how the switches
// stand, what a beeper or probe shows where it settles nothing) comes from the seed.
func New(c *circuit.Circuit, seed uint64, opened []string) (*House, error) {
	if err := c.Validate(); err != nil {
		return nil, err
	}
	h := &House{truth: c.Clone(), names: map[string]string{}, rng: rand.New(rand.NewPCG(seed, 0x5eed))}
	h.truth.Observations, h.truth.Evidence = nil, nil
	if opened == nil {
		for _, b := range c.Boxes {
			if b.Kind == circuit.Switch {
				opened = append(opened, b.ID)
			}
		}
	}
	for _, b := range opened {
		if c.Box(b) == nil {
			return nil, fmt.Errorf("there is no box %q to open", b)
		}
	}
	n := electric.New(c)
	for range n.Controls() {
		h.state = h.state<<1 | electric.State(h.rng.IntN(2))
	}
	h.bond, h.loads = h.rng.IntN(2) == 0, h.rng.IntN(2) == 0
	h.hide(opened)
	return h, nil
}

// ErrNotSound is the error of [Practice] for a circuit that does not work.
var ErrNotSound = errors.New("only a circuit that works can be hidden to practise on")

// Practice hides a circuit that works as one to practise on, and returns what is seen of it, under a
// name that says so. The error is [ErrNotSound], or as of [New].
func Practice(c *inspect.Compiled, seed uint64) (*circuit.Circuit, error) {
	if c.Report().Verdict != inspect.Works {
		return nil, ErrNotSound
	}
	h, err := New(c.Doc, seed, nil)
	if err != nil {
		return nil, err
	}
	seen := h.Survey()
	seen.Name = limits.Clip("Practice: "+c.Doc.Name, limits.NameLetters)
	return seen, nil
}

// Tested sets what instruments show where they settle nothing by how many tests were
// made before, so that a house that is opened again goes on as it was.
func (h *House) Tested(n int) { h.rng = rand.New(rand.NewPCG(uint64(n), 0x7e57)) }

// Truth is the hidden circuit.
func (h *House) Truth() *circuit.Circuit { return h.truth.Clone() }

// Survey is what can be seen with the boxes open: a valid document.
func (h *House) Survey() *circuit.Circuit { return h.survey.Clone() }

// hide writes the survey: joins of opened boxes, and their cables as stubs.
func (h *House) hide(opened []string) {
	s := h.truth.Clone()
	s.Cables, s.Joins, s.Marks = []circuit.Cable{}, []circuit.Join{}, nil
	for i := range s.Boxes {
		b := &s.Boxes[i]
		is := slices.Contains(opened, b.ID)
		b.Opened = &is
	}
	alias := map[circuit.End]string{} // cable and box → stub
	for _, box := range opened {
		var here []circuit.Cable
		for _, k := range h.truth.Cables {
			if k.In(box) {
				here = append(here, k)
			}
		}
		h.rng.Shuffle(len(here), func(i, j int) { here[i], here[j] = here[j], here[i] })
		for _, k := range here {
			id := fmt.Sprintf("k%d", len(s.Cables)+1)
			s.Cables = append(s.Cables, circuit.Cable{ID: id, Ends: [2]*string{&box, nil}, Cores: slices.Clone(k.Cores), Gauge: k.Gauge})
			h.names[id] = k.ID
			alias[circuit.End{Ref: circuit.Ref{Owner: k.ID}, Box: box}] = id
		}
	}
	for _, j := range h.truth.Joins {
		if !slices.Contains(opened, j.Box) {
			continue
		}
		seen := circuit.Join{Box: j.Box}
		for _, r := range j.Of {
			if id, ok := alias[circuit.End{Ref: circuit.Ref{Owner: r.Owner}, Box: j.Box}]; ok {
				r.Owner = id
			}
			seen.Of = append(seen.Of, r)
		}
		s.Joins = append(s.Joins, seen)
	}
	// A box that nobody knows of is not in the record.
	s.Boxes = slices.DeleteFunc(s.Boxes, func(b circuit.Box) bool { return b.Kind == circuit.Junction && !b.Seen() })
	s.Devices = slices.DeleteFunc(s.Devices, func(d circuit.Device) bool { return s.Box(d.Box) == nil })
	for i := range s.Devices {
		s.Devices[i].Position = nil
	}
	h.survey = s
}

// True names an end of the survey as the house does.
func (h *House) True(e circuit.End) circuit.End {
	if id, ok := h.names[e.Owner]; ok {
		e.Owner = id
	}
	return e
}

// Wrong is an end whose role was taken for another than it has in the house.
type Wrong struct {
	End         circuit.End
	Is, Claimed electric.Role
}

// Compare holds the roles that somebody found for ends of the survey against the house:
// how many are right, and which are not, in no order.
func (h *House) Compare(said map[circuit.End]electric.Role) (right int, wrong []Wrong) {
	truth := electric.New(h.truth).Roles()
	for e, role := range said {
		switch is, known := truth[h.True(e)]; {
		case !known:
		case is == role:
			right++
		default:
			wrong = append(wrong, Wrong{e, is, role})
		}
	}
	return right, wrong
}

// under is the house as a test finds it: lifted wires capped, ties made.
func (h *House) under(o circuit.Observation) *circuit.Circuit {
	c := h.truth.Clone()
	for _, r := range o.Lifted {
		c.Joins = slices.DeleteFunc(c.Joins, func(j circuit.Join) bool { return slices.Contains(j.Of, r) })
	}
	for _, group := range o.Tied {
		var first circuit.End
		for i, e := range group {
			e = h.True(e)
			if e.Box == "" {
				e.Box = c.Device(e.Owner).Box
			}
			if i == 0 {
				first = e
				continue
			}
			tie(c, first, e)
		}
	}
	return c
}

// tie joins two ends of one box, with all that each stands with. Ends in two boxes
// are tied by a long lead, which is a cable for a while.
func tie(c *circuit.Circuit, a, b circuit.End) {
	if a.Box != b.Box {
		id := fmt.Sprintf("lead%d", len(c.Cables))
		c.Cables = append(c.Cables, circuit.Cable{ID: id, Ends: [2]*string{&a.Box, &b.Box}, Cores: []string{"orange"}})
		lead := circuit.Ref{Owner: id, Part: "orange"}
		tie(c, a, circuit.End{Ref: lead, Box: a.Box})
		tie(c, b, circuit.End{Ref: lead, Box: b.Box})
		return
	}
	of := []circuit.Ref{}
	for _, e := range []circuit.End{a, b} {
		if j := c.JoinOf(e.Box, e.Ref); j >= 0 {
			of = append(of, c.Joins[j].Of...)
			c.Joins = slices.Delete(c.Joins, j, j+1)
		} else {
			of = append(of, e.Ref)
		}
	}
	slices.SortFunc(of, func(a, b circuit.Ref) int {
		if a.String() < b.String() {
			return -1
		}
		return 1
	})
	c.Joins = append(c.Joins, circuit.Join{Box: a.Box, Of: slices.Compact(of)})
}

// Answer makes a test and returns its reading: a word, or volts.
func (h *House) Answer(o circuit.Observation) (any, error) {
	probe := h.survey.Clone()
	o.Reading = nil
	probe.Observations = []circuit.Observation{o}
	if err := probe.Validate(); err != nil {
		return nil, err
	}
	c := h.under(o)
	conditions := electric.Conditions{LampsOut: o.LampsOut}
	if o.Power != "on" {
		for _, d := range c.Devices {
			if d.Type == circuit.TypeSupply {
				conditions.BreakersOff = append(conditions.BreakersOff, d.ID)
			}
		}
	}
	n := electric.NewUnder(c, conditions)
	state := h.state
	for _, id := range o.Flipped {
		state, _ = n.Press(state, id, nil)
	}
	s := n.Solve(state)
	at := make([]circuit.End, len(o.At))
	for i, e := range o.At {
		at[i] = h.True(e)
	}
	switch o.Instrument {
	case circuit.NonContact:
		return h.sniff(s, at[0], o.Power == "on"), nil
	case circuit.TwoPole:
		return h.load(n, s, at), nil
	case circuit.Multimeter:
		return h.meter(n, s, at), nil
	case circuit.Continuity:
		return h.beep(c, n, s, o, at), nil
	}
	for i, id := range n.LampIDs() {
		if o.Light != "" && id != o.Light {
			continue
		}
		if s.Lit(i) && (len(at) == 0 || slices.ContainsFunc(at, func(e circuit.End) bool { return e.Owner == id })) {
			return "lit", nil
		}
	}
	return "dark", nil
}

func (h *House) chance(in int) bool { return h.rng.IntN(in) == 0 }

// sniff is a non-contact probe: sure of what is tied to a source, a coin on what
// floats or hangs on a lamp alone.
func (h *House) sniff(s *electric.Solution, e circuit.End, on bool) string {
	switch s.At(e) {
	case electric.Live:
		return "live"
	case electric.Return, electric.Ground, electric.Dead:
		return "quiet"
	}
	if on && h.chance(2) {
		return "live"
	}
	return "quiet"
}

func firm(p electric.Potential) bool {
	return p == electric.Live || p == electric.Return || p == electric.Ground
}

// load is a two-pole tester: what floats reads nothing under its load; what hangs
// on a lamp alone reads anything.
func (h *House) load(n *electric.Network, s *electric.Solution, at []circuit.End) float64 {
	a, known := s.Volts(at[0])
	b, both := s.Volts(at[1])
	switch {
	case !known || !both:
		return 0
	case firm(s.At(at[0])) && firm(s.At(at[1])), a == b:
		return abs(a - b)
	}
	return n.Volts * h.rng.Float64()
}

// meter is a multimeter: a floating conductor beside a live one shows ghost volts.
func (h *House) meter(n *electric.Network, s *electric.Solution, at []circuit.End) float64 {
	if firm(s.At(at[0])) && firm(s.At(at[1])) {
		return h.load(n, s, at)
	}
	return n.Volts * h.rng.Float64()
}

func abs(f float64) float64 {
	if f < 0 {
		return -f
	}
	return f
}

// beep is continuity: it sounds on one conductor, may sound through lamps and
// through what is plugged in elsewhere, and through the panel's own bond.
func (h *House) beep(c *circuit.Circuit, n *electric.Network, s *electric.Solution, o circuit.Observation, at []circuit.End) string {
	if s.Together(at[0], at[1]) {
		return "closed"
	}
	reached := map[circuit.End]bool{at[0]: true}
	hangs := func(device, terminal string) circuit.End {
		return circuit.End{Ref: circuit.Ref{Owner: device, Part: terminal}}
	}
	var paths [][2]circuit.End
	for _, d := range c.Devices {
		switch d.Type {
		case circuit.TypeLamp, circuit.TypeReceptacle:
			if !slices.Contains(o.LampsOut, d.ID) {
				paths = append(paths, [2]circuit.End{hangs(d.ID, "l"), hangs(d.ID, "n")})
			}
		case circuit.TypeSupply:
			if h.loads {
				paths = append(paths, [2]circuit.End{hangs(d.ID, "hot"), hangs(d.ID, "neutral")})
			}
			if h.bond {
				paths = append(paths, [2]circuit.End{hangs(d.ID, "neutral"), hangs(d.ID, "ground")})
			}
		}
	}
	for range paths {
		for _, p := range paths {
			for e := range reached {
				for i := range p {
					if s.Together(e, p[i]) {
						reached[p[1-i]] = true
					}
				}
			}
		}
	}
	for e := range reached {
		if s.Together(e, at[1]) {
			return "closed" // a load sounds as a wire does
		}
	}
	return "open"
}
