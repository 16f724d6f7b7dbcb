package automation

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/rehearsal"
)

// mostInStep is up to how many places each keeps a switch of its own: beyond it nobody makes the rules by hand that keep them
// alike, and to go through all that they may do takes seconds.
const mostInStep = 6

// shape is which places tell which others: each all others, each the one that carries the light and that all others, or
// each the next in a ring.
type shape struct {
	name  string
	tells func(from, to, n int) bool // places by number, the one that carries the light is 0
}

var shapes = []shape{
	{"in a ring", func(from, to, n int) bool { return to == (from+1)%n }},
	{"through the one that carries the light", func(from, to, n int) bool { return from != to && (from == 0 || to == 0) }},
	{"each to all others", func(from, to, n int) bool { return from != to }},
}

// trigger is what a place tells of, that its switch went on or off or the tap itself, and what that asks of the others.
type trigger struct {
	name   string
	asks   [][2]string // event and action
	paddle bool        // only paddles have it
	push   bool        // only plain pushes have it
}

var triggers = []trigger{
	{name: "when its switch goes on or off", asks: [][2]string{{"on", "on"}, {"off", "off"}}},
	{name: "when it is tapped", asks: [][2]string{{"up1", "on"}, {"down1", "off"}}, paddle: true},
	{name: "when it is pressed, so that a message that is lost leaves one behind until all are made alike by hand", asks: [][2]string{{"press1", "toggle"}}, push: true},
}

// inStep searches for the fewest rules that keep the switches of all places alike, where each keeps its own: it lights a
// mark on the place, or a lamp of its own some day. What the places tell of differs from device to device: it takes the
// worst, devices that tell of every change, also of those that a message made.
func (m *maker) inStep(ctx context.Context) (*Set, error) {
	senders := m.senders()
	main := m.after.Links[0].To
	if slices.ContainsFunc(senders, func(id string) bool { return !m.full(id) }) || m.over() == "" || m.over() == "bus" || len(senders)+1 > mostInStep ||
		slices.ContainsFunc(m.after.Links, func(l circuit.Link) bool { return l.To != main }) {
		return nil, nil
	}
	places := append([]string{main}, senders...)
	paddles, pushes := 0, 0
	for _, id := range places {
		if m.faces[id].Paddle {
			paddles++
		} else {
			pushes++
		}
	}
	var best *Set
	tried := 0
	for _, how := range triggers {
		if how.paddle && pushes > 0 || how.push && paddles > 0 {
			continue
		}
		for _, sh := range shapes {
			s := m.kept(places, how, sh)
			report, err := rehearsal.Rehearse(ctx, s.Doc)
			if err != nil {
				return nil, err
			}
			tried++
			s.Report = report
			if best == nil || better(s, best) {
				best = s
			}
		}
	}
	best.Tried = tried
	return best, nil
}

// better prefers what is sound, then what breaks fewer rules of conduct, then the fewer rules.
func better(a, b *Set) bool {
	broken := func(s *Set) (n int) {
		for _, p := range s.Report.Properties {
			if !p.Holds {
				n++
			}
		}
		return n
	}
	if x, y := broken(a), broken(b); x != y {
		return x < y
	}
	return a.Rules < b.Rules
}

// kept is the set of one trigger and one shape.
func (m *maker) kept(places []string, how trigger, sh shape) *Set {
	s := &Set{Kind: InStep, Title: "Every place kept in step", Via: m.over(), Settings: []Setting{}, Doc: m.unlinked()}
	s.Text = "Every place keeps its own switch; rules keep all alike, " + how.name + ", " + sh.name + "."
	for i, from := range places {
		if m.full(from) {
			m.remodel(s.Doc, from, true)
			s.Settings = append(s.Settings, Setting{from, "Its own relay stays enabled; its terminal for the load capped."})
		}
		for k, to := range places {
			if sh.tells(i, k, len(places)) {
				for _, ask := range how.asks {
					rule(s.Doc, from, ask[0], to, ask[1], 0, s.Via)
				}
			}
		}
	}
	s.Rules = len(s.Doc.Automation.Rules)
	return s
}
