package rehearsal

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/electric"
	"ambivia/core/names"
)

// report asks everything that has to hold.
func (x *explorer) report() (*Report, error) {
	r := &Report{Verdict: Sound, Outages: []Outage{}}
	start := x.start()
	states := x.visit(start, false, nil)
	r.States = len(states)
	r.Properties = []Property{x.converges(start, false), x.converges(start, true), x.obeysAll(start), x.inStep(start)}
	for _, p := range r.Properties {
		if !p.Holds {
			r.Verdict = Flawed
		}
	}
	r.Latencies = x.latencies(states)
	r.Patience = x.patience(states)
	r.Beyond = []Property{x.astrayMessages(start, Heals), x.astrayMessages(start, Harmless), x.restarts(start, states)}
	for _, via := range x.vias {
		r.Outages = append(r.Outages, x.outage(via, states))
	}
	r.CutOff = x.cut
	return r, x.ctx.Err()
}

// start is how everything stands before anybody presses: every smart switch at nought.
func (x *explorer) start() []electric.State {
	s := x.net.Initial()
	for _, bit := range x.bits {
		s &^= bit
	}
	return []electric.State{s}
}

func (x *explorer) converges(start []electric.State, hasty bool) Property {
	p := Property{Code: Converges, Holds: true, Witness: []Gesture{}, Text: "Messages always come to an end."}
	if hasty {
		p.Code, p.Text = ConvergesHasty, "Messages come to an end also where somebody presses again while they are under way."
	}
	x.visit(start, hasty, func(at place, more []Gesture, e *ending) bool {
		if e.never && (p.Holds || len(at.way)+len(more) < len(p.Witness)) {
			p.Holds, p.Witness = false, append(slices.Clone(at.way), more...)
		}
		return !p.Holds && len(at.way)+1 >= len(p.Witness)
	})
	if !p.Holds {
		p.Text = fmt.Sprintf("After %s messages breed messages without end: the devices chase each other.", x.words(p.Witness))
	}
	return p
}

// requests are the gestures of which it is known what a person wants by them.
var requests = []string{"up1", "down1", "press1"}

// obeyed reports whether a state that a gesture may leave is what was wanted.
func (x *explorer) obeyed(before electric.State, g Gesture, after electric.State) bool {
	_, wrong := x.refused(before, g, after)
	return !wrong
}

// refused is a light that is not as a gesture wanted it; ok false where all are.
func (x *explorer) refused(before electric.State, g Gesture, after electric.State) (light int, ok bool) {
	for _, light := range x.lightsOf(g.Device) {
		lit, wanted := x.showsAt(after, light), g.Gesture == "up1"
		if g.Gesture == "press1" {
			wanted = !x.showsAt(before, light)
		}
		if lit != wanted {
			return light, true
		}
	}
	return 0, false
}

func (x *explorer) obeysAll(start []electric.State) Property {
	p := Property{Code: Obeys, Holds: true, Witness: []Gesture{}, Text: "Up leaves the lamp lit, down leaves it dark and a press changes it, at every place and from every state."}
	x.goThrough(start, false, true, func(at place, more []Gesture, e *ending) bool {
		g := more[0]
		if !slices.Contains(requests, g.Gesture) {
			return false
		}
		for _, s := range e.states {
			if light, wrong := x.refused(at.state, g, s); wrong {
				p.Holds, p.Witness = false, append(slices.Clone(at.way), g)
				p.Text = fmt.Sprintf("After %s %s is %s: the last of these gestures was not obeyed.", x.words(p.Witness), x.nameOf(light), lamp(x.showsAt(s, light)))
				if !x.isAwake(at.state, g.Device) {
					p.Text += " " + names.Capitalize(names.For(x.doc).Place(g.Device)) + " has no power then."
				}
				return true
			}
		}
		return false
	})
	return p
}

// astray names a reporting device that stands otherwise than the lamp shows; "" for none.
func (x *explorer) astray(s electric.State) string {
	for _, id := range x.switchy {
		if !x.reports(id) {
			continue
		}
		if _, wrong := x.amiss(id, s); wrong {
			return id
		}
	}
	return ""
}

func (x *explorer) inStep(start []electric.State) Property {
	p := Property{Code: InStep, Holds: true, Witness: []Gesture{}, Text: "Every device that reports stands as the lamp shows."}
	tell := func(way []Gesture, s electric.State) bool {
		id := x.astray(s)
		if id == "" {
			return false
		}
		p.Holds, p.Witness = false, way
		light, _ := x.amiss(id, s)
		p.Text = fmt.Sprintf("After %s %s is %s, and %s says the contrary: they are out of step.", x.words(way), x.nameOf(light), lamp(x.showsAt(s, light)), names.For(x.doc).Place(id))
		return true
	}
	for _, s := range start {
		if tell([]Gesture{}, s) {
			return p
		}
	}
	x.visit(start, false, func(at place, more []Gesture, e *ending) bool {
		for _, s := range e.states {
			if tell(append(slices.Clone(at.way), more...), s) {
				return true
			}
		}
		return false
	})
	return p
}

// outage finds from which places the light still obeys while one way is down, whatever state it
// goes down in.
func (x *explorer) outage(via string, states []electric.State) Outage {
	without := x.without(via)
	out := Outage{Down: via, Works: map[string]bool{}}
	for _, d := range x.devices {
		out.Works[d] = true
	}
	without.visit(states, false, func(at place, more []Gesture, e *ending) bool {
		g := more[0]
		if !slices.Contains(requests, g.Gesture) {
			return false
		}
		for _, s := range e.states {
			if !without.obeyed(at.state, g, s) {
				out.Works[g.Device] = false
			}
		}
		if e.never {
			out.Works[g.Device] = false
		}
		return false
	})
	for _, d := range x.devices { // who has no power anywhere does nothing
		if !slices.ContainsFunc(states, func(s electric.State) bool { return x.isAwake(s, d) }) {
			out.Works[d] = false
		}
	}
	x.cut = x.cut || without.cut
	return out
}

// words says gestures in a row.
func (p *play) words(way []Gesture) string {
	if len(way) == 0 {
		return "nothing at all"
	}
	var out []string
	for _, g := range way {
		out = append(out, GestureWords(g.Gesture)+" at "+names.For(p.doc).Place(g.Device))
	}
	return strings.Join(out, ", then ")
}

// GestureWords says a gesture, or a change that a device tells, as a person does.
func GestureWords(gesture string) string {
	said := map[string]string{"press1": "a press", "up1": "up", "down1": "down", "held-up": "up held", "held-down": "down held", "on": "on", "off": "off"}
	if text, known := said[gesture]; known || gesture == "" {
		return text
	}
	times := map[byte]string{'2': "twice", '3': "three times", '4': "four times", '5': "five times"}[gesture[len(gesture)-1]]
	return strings.TrimSpace(strings.TrimRight(gesture, "12345") + " " + times)
}
