// Package rehearsal tries out links that are not wires before anybody buys them: what rules,
// mirrors and messages do when people press, in whatever order the messages arrive.
//
// A gesture moves a device's own switch, and puts a message into a queue for each rule that waits
// for it; a switch that changes and is told of does the same for rules and mirrors (play.go). There
// is one queue for each way that messages go, and which queue is next is free, so every order is
// gone through (explore.go). A state is quiet when all queues are empty. What has to hold is then
// asked of every state that people can reach (report.go), and where something does not hold, the
// shortest way to it is told: press here, then there.
package rehearsal

import (
	"context"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Gesture is what a person does at one device.
type Gesture struct {
	Device  string `json:"device"`
	Gesture string `json:"gesture"`
}

// Codes of the properties that are asked of a set of rules.
const (
	Converges      = "settles"       // patient: the queues are always empty in the end
	ConvergesHasty = "settles-hasty" // also where one more gesture comes while messages are under way
	Obeys          = "obeys"         // patient: up leaves the lamp lit, down dark, a press changes it
	InStep         = "in-step"       // patient: every device that reports stands as the lamp shows
	Heals          = "lost-heals"    // beyond: where a message was lost, the same gesture once more sets all right
	Harmless       = "doubled"       // beyond: a message that arrives twice does no harm
	Restarts       = "restarted"     // beyond: where a device starts anew, the next gesture sets all right
)

// Property is one thing that has to hold. Witness is a shortest way, from the start, to where it
// does not.
type Property struct {
	Code    string    `json:"code"`
	Holds   bool      `json:"holds"`
	Witness []Gesture `json:"witness"`
	Text    string    `json:"text"`
}

// Outage says from which places the light still obeys while one way of messages is down.
type Outage struct {
	Down  string          `json:"down"`
	Works map[string]bool `json:"works"`
}

// Report is the answer of a rehearsal. States counts the quiet states that patient people reach.
// CutOff: there was more to go through than was gone through, so what holds holds as far as that.
type Report struct {
	Verdict    string     `json:"verdict"`
	States     int        `json:"states"`
	Properties []Property `json:"properties"`
	Outages    []Outage   `json:"outages"`
	// Beyond is asked besides, of messages that go astray and devices that start anew; the verdict does not hang on it.
	Beyond []Property `json:"beyond"`
	// Latencies says how many messages it takes at each place until the light obeys.
	Latencies []Latency `json:"latencies"`
	// Patience is how many messages pass at most after one gesture until nothing is under way: who waits for so long is
	// patient. Nil where they may breed without end.
	Patience *int `json:"patience,omitempty"`
	CutOff   bool `json:"cutOff,omitempty"`
}

// Verdicts.
const (
	Sound  = "sound"
	Flawed = "flawed"
)

// Rehearse goes through everything that people can do with the devices of a valid document. The
// error is the context's.
func Rehearse(ctx context.Context, c *circuit.Circuit) (*Report, error) {
	p := newPlay(c)
	return newExplorer(ctx, p).report()
}

// play is a document ready to be played.
type play struct {
	doc     *circuit.Circuit
	net     *electric.Network
	vias    []string // ways of messages, in the order of the document
	devices []string // smart devices that people can press, in its order
	switchy []string // smart devices with a switch that messages move
	bits    map[string]electric.State
	lit     map[electric.State]electric.State // the lamps that are lit, as bits
	parted  *lights
	awake   map[electric.State]map[string]bool
	delays  *delays // how long messages take, nil where it does not count
	down    string  // a way that is down, or a device that says and hears nothing
}

func newPlay(c *circuit.Circuit) *play {
	p := &play{doc: c, net: electric.New(c), bits: map[string]electric.State{}, lit: map[electric.State]electric.State{}, awake: map[electric.State]map[string]bool{}}
	via := func(name string) {
		for _, have := range p.vias {
			if have == name {
				return
			}
		}
		p.vias = append(p.vias, name)
	}
	if a := c.Automation; a != nil {
		for _, r := range a.Rules {
			via(r.Via)
		}
		for _, m := range a.Mirrors {
			via(m.Via)
		}
	}
	for _, l := range c.Links {
		via(l.Via)
	}
	for _, d := range c.Devices {
		if d.Type != circuit.TypeSmart {
			continue
		}
		if bit, ok := p.net.SwitchOf(d.ID); ok {
			p.switchy = append(p.switchy, d.ID)
			p.bits[d.ID] = bit
		}
		m := c.Models[d.Model]
		if m.Button != nil || m.HasPaddle() || len(m.Events) > 0 {
			p.devices = append(p.devices, d.ID)
		}
	}
	return p
}

// gestures lists what people can do at a device.
func (p *play) gestures(device string) []string {
	m := p.doc.Models[p.doc.Device(device).Model]
	if !m.HasPaddle() {
		return []string{"press1"}
	}
	out := []string{"up1", "down1"}
	for _, e := range m.Events {
		if e != "up1" && e != "down1" && e != "press1" {
			out = append(out, e)
		}
	}
	return out
}

// shows reports whether a lamp is lit in a state.
func (p *play) shows(s electric.State) bool { return p.lampsLit(s) != 0 }

// lampsLit are the lamps that are lit in a state, as bits; those past [mostLamps] share the last.
func (p *play) lampsLit(s electric.State) electric.State {
	lit, known := p.lit[s]
	if !known {
		p.look(s)
		lit = p.lit[s]
	}
	return lit
}

// isAwake reports whether a device has its power in a state.
func (p *play) isAwake(s electric.State, device string) bool {
	if _, known := p.awake[s]; !known {
		p.look(s)
	}
	return p.awake[s][device]
}

func (p *play) look(s electric.State) {
	solved := p.net.Solve(s)
	lit := electric.State(0)
	for i := range p.net.LampIDs() {
		if solved.Lit(i) {
			lit |= 1 << min(i, mostLamps)
		}
	}
	awake := map[string]bool{}
	for _, d := range p.doc.Devices {
		awake[d.ID] = true
	}
	for _, id := range solved.Unpowered() {
		awake[id] = false
	}
	p.lit[s], p.awake[s] = lit, awake
}
