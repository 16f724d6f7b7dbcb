package rehearsal

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// Message is an action on its way to a device.
type Message struct {
	To     string `json:"to"`
	Action string `json:"action"`
}

// Queue is what is under way over one way of messages; the first is delivered first.
type Queue struct {
	Via      string    `json:"via"`
	Messages []Message `json:"messages"`
}

// Moment is how everything stands between two moves: switches by their key, and what is under way.
type Moment struct {
	State  map[string]int `json:"state"`
	Queues []Queue        `json:"queues"`
}

// Move is one thing that happens: a gesture of a person, or, where Deliver is not empty, the first message of that way
// arriving.
type Move struct {
	Device  string `json:"device,omitempty"`
	Gesture string `json:"gesture,omitempty"`
	Deliver string `json:"deliver,omitempty"`
}

// Choice is a gesture that a person may make, with how one says it.
type Choice struct {
	Gesture string `json:"gesture"`
	Text    string `json:"text"`
}

// Standing is a place with how it stands in a moment.
type Standing struct {
	Device   string   `json:"device"`
	Name     string   `json:"name"`
	Switch   string   `json:"switch"` // "on" or "off"; "" where it has none
	Awake    bool     `json:"awake"`
	Astray   bool     `json:"astray"` // it reports, and says otherwise than the lamp
	Gestures []Choice `json:"gestures"`
}

// Shown is a moment as a person sees it.
type Shown struct {
	Moment Moment     `json:"moment"`
	Lit    bool       `json:"lit"`
	Quiet  bool       `json:"quiet"` // nothing is under way
	Places []Standing `json:"places"`
}

// Hand plays a document move by move, in the order that a person chooses. Use it from one goroutine at a time.
type Hand struct{ p *play }

// NewHand makes one. Messages of the way that is down vanish; "" where none is.
func NewHand(c *circuit.Circuit, down string) *Hand {
	p := newPlay(c)
	p.down = down
	return &Hand{p}
}

// Ways lists the ways that messages go, in the order of the document.
func (h *Hand) Ways() []string { return slices.Clone(h.p.vias) }

// Start is how everything stands before anybody presses: every smart switch at nought.
func (h *Hand) Start() Shown {
	x := &explorer{play: h.p}
	return h.show(moment{x.start()[0], make([][]message, len(h.p.vias))})
}

// mostWaiting bounds what may be under way in a moment that somebody sends.
const mostWaiting = 200

// After is what a move makes of a moment. The error says what of them is not of this document, and where.
func (h *Hand) After(from Moment, move Move) (Shown, error) {
	m, err := h.read(from)
	if err != nil {
		return Shown{}, err
	}
	if move.Deliver != "" {
		i := slices.Index(h.p.vias, move.Deliver)
		if i < 0 || len(m.queues[i]) == 0 {
			return Shown{}, fmt.Errorf("deliver: nothing is under way over %q", move.Deliver)
		}
		return h.show(h.p.deliver(m, i)), nil
	}
	if !slices.Contains(h.p.devices, move.Device) || !slices.Contains(h.p.gestures(move.Device), move.Gesture) {
		return Shown{}, fmt.Errorf("gesture: %q at %q is nothing that anybody can do here", move.Gesture, move.Device)
	}
	return h.show(h.p.gesture(m, Gesture{move.Device, move.Gesture})), nil
}

// Quieten delivers messages, one way after the other, until nothing is under way; steps are the moves that it took. It
// stops where messages breed without end.
func (h *Hand) Quieten(from Moment) (shown Shown, steps []Move, err error) {
	m, err := h.read(from)
	if err != nil {
		return Shown{}, nil, err
	}
	for len(steps) < mostWaiting && !m.quiet() {
		i := slices.IndexFunc(m.queues, func(q []message) bool { return len(q) > 0 })
		m = h.p.deliver(m, i)
		steps = append(steps, Move{Deliver: h.p.vias[i]})
	}
	return h.show(m), steps, nil
}

// Played is a moment with what led to it, in words.
type Played struct {
	Text  string `json:"text"`
	Shown Shown  `json:"shown"`
}

// Witness plays the way to where something does not hold, from the start. Patient people wait for all that a gesture sends
// before they make the next; where messages breed without end, or nobody waits, they are left under way.
func (h *Hand) Witness(p Property) []Played {
	out := []Played{}
	now := h.Start()
	for i, g := range p.Witness {
		next, err := h.After(now.Moment, Move{Device: g.Device, Gesture: g.Gesture})
		if err != nil {
			return out // a witness is made of moves of the document
		}
		now = next
		out = append(out, Played{GestureWords(g.Gesture) + " at " + h.standing(g.Device, 0).Name, now})
		if now.Quiet || p.Code == ConvergesHasty || p.Code == Converges && i == len(p.Witness)-1 {
			continue
		}
		if now, _, err = h.Quieten(now.Moment); err != nil {
			return out
		}
		out = append(out, Played{"messages arrive", now})
	}
	return out
}

func (h *Hand) read(from Moment) (moment, error) {
	state, ok := h.p.net.StateOf(from.State)
	if !ok {
		return moment{}, fmt.Errorf("state: the circuit has no such state")
	}
	m := moment{state, make([][]message, len(h.p.vias))}
	n := 0
	for _, q := range from.Queues {
		i := slices.Index(h.p.vias, q.Via)
		if i < 0 {
			return moment{}, fmt.Errorf("queues: nothing goes over %q", q.Via)
		}
		for _, x := range q.Messages {
			if _, ok := h.p.bits[x.To]; !ok || !slices.Contains([]string{"on", "off", "toggle"}, x.Action) {
				return moment{}, fmt.Errorf("queues: %q at %q is no message of this document", x.Action, x.To)
			}
			m.queues[i] = append(m.queues[i], message{x.To, x.Action})
			if n++; n > mostWaiting {
				return moment{}, fmt.Errorf("queues: more than %d messages are under way: they breed without end", mostWaiting)
			}
		}
	}
	return m, nil
}

func (h *Hand) show(m moment) Shown {
	out := Shown{Moment: Moment{State: h.p.net.Keys(m.state), Queues: []Queue{}}, Lit: h.p.shows(m.state), Quiet: m.quiet(), Places: []Standing{}}
	for i, via := range h.p.vias {
		q := Queue{Via: via, Messages: []Message{}}
		for _, x := range m.queues[i] {
			q.Messages = append(q.Messages, Message{x.to, x.action})
		}
		out.Moment.Queues = append(out.Moment.Queues, q)
	}
	for _, id := range h.p.devices {
		out.Places = append(out.Places, h.standing(id, m.state))
	}
	return out
}

func (h *Hand) standing(id string, s electric.State) Standing {
	d := h.p.doc.Device(id)
	out := Standing{Device: id, Name: h.p.doc.Called(id), Awake: h.p.isAwake(s, id), Gestures: []Choice{}}
	for _, g := range h.p.gestures(id) {
		out.Gestures = append(out.Gestures, Choice{g, GestureWords(g)})
	}
	if b := h.p.doc.Box(d.Box); b != nil && !circuit.Blank(b.Name) && b.Name != out.Name {
		out.Name = b.Name + ", " + out.Name
	}
	if bit, has := h.p.bits[id]; has {
		on := s&bit != 0
		out.Switch = map[bool]string{true: "on", false: "off"}[on]
		reports := h.p.doc.Models[d.Model].Reports
		out.Astray = (reports == circuit.ReportsAll || reports == circuit.ReportsOwn) && on != h.p.shows(s)
	}
	return out
}
