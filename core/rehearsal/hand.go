package rehearsal

import (
	"fmt"
	"maps"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// Message is an action on its way to a device.
type Message struct {
	To     string `json:"to"`
	Action string `json:"action"`
	Level  int    `json:"level,omitempty"` // in percent, at which it goes on; 0 for the last
}

// Queue is what is under way over one way of messages; the first is delivered first.
type Queue struct {
	Via      string    `json:"via"`
	Messages []Message `json:"messages"`
}

// Moment is how everything stands between two moves: switches by their key, what is under way, and the level that was last
// asked of a device, in percent.
type Moment struct {
	State  map[string]int `json:"state"`
	Queues []Queue        `json:"queues"`
	Levels map[string]int `json:"levels,omitempty"`
}

// Move is one thing that happens: a gesture of a person, or, where Deliver is not empty, the first message of that way
// arriving; Fate "lost" lets it never arrive, "twice" arrive a second time. Told is a message from elsewhere: an app, a
// voice, another hub.
type Move struct {
	Told *Message `json:"told,omitempty"`

	Device  string `json:"device,omitempty"`
	Gesture string `json:"gesture,omitempty"`
	Deliver string `json:"deliver,omitempty"`
	Fate    string `json:"fate,omitempty"`
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
	Astray   bool     `json:"astray"`          // it reports, and says otherwise than the lamp
	Level    int      `json:"level,omitempty"` // that was last asked of it, in percent; 0 where none was
	Gestures []Choice `json:"gestures"`
}

// Shown is a moment as a person sees it.
type Shown struct {
	Moment Moment     `json:"moment"`
	Lit    bool       `json:"lit"`
	Lights []Light    `json:"lights,omitempty"` // each by itself, where there are several
	Quiet  bool       `json:"quiet"`            // nothing is under way
	Places []Standing `json:"places"`
}

// Hand plays a document move by move, in the order that a person chooses. Use it from one goroutine at a time.
type Hand struct{ p *play }

// NewHand makes one. Messages of the way that is down vanish, and a device that is down neither says nor hears anything: its
// battery is flat, or it starts anew. "" where nothing is.
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
	return h.show(h.p.at(x.start()[0]), nil)
}

// mostWaiting bounds what may be under way in a moment that somebody sends.
const mostWaiting = 200

// After is what a move makes of a moment. The error says what of them is not of this document, and where.
func (h *Hand) After(from Moment, move Move) (Shown, error) {
	m, err := h.read(from)
	if err != nil {
		return Shown{}, err
	}
	levels := maps.Clone(from.Levels)
	obeyed := func(m moment, x message) Shown {
		if x.level > 0 && x.to != h.p.down && h.p.isAwake(m.state, x.to) {
			if levels == nil {
				levels = map[string]int{}
			}
			levels[x.to] = x.level
		}
		return h.show(m, levels)
	}
	if x := move.Told; x != nil {
		if !h.p.listens(x.To, x.Action) {
			return Shown{}, fmt.Errorf("told: %q at %q is no message of this document", x.Action, x.To)
		}
		asked := message{x.To, x.Action, x.Level}
		return obeyed(h.p.obey(m.copy(), asked), asked), nil
	}
	if move.Deliver != "" {
		i := slices.Index(h.p.vias, move.Deliver)
		if i < 0 || len(m.queues[i]) == 0 {
			return Shown{}, fmt.Errorf("deliver: nothing is under way over %q", move.Deliver)
		}
		first := m.queues[i][0]
		switch move.Fate {
		case "lost":
			return h.show(h.p.lose(m, i), levels), nil
		case "twice":
			return obeyed(h.p.double(m, i), first), nil
		}
		return obeyed(h.p.deliver(m, i), first), nil
	}
	if !slices.Contains(h.p.devices, move.Device) || !slices.Contains(h.p.gestures(move.Device), move.Gesture) {
		return Shown{}, fmt.Errorf("gesture: %q at %q is nothing that anybody can do here", move.Gesture, move.Device)
	}
	return h.show(h.p.gesture(m, Gesture{move.Device, move.Gesture}), levels), nil
}

// Quieten delivers messages, one way after the other, until nothing is under way; steps are the moves that it took. It
// stops where messages breed without end.
func (h *Hand) Quieten(from Moment) (shown Shown, steps []Move, err error) {
	m, err := h.read(from)
	if err != nil {
		return Shown{}, nil, err
	}
	shown = h.show(m, from.Levels)
	for len(steps) < mostWaiting && !shown.Quiet {
		i := slices.IndexFunc(shown.Moment.Queues, func(q Queue) bool { return len(q.Messages) > 0 })
		next := Move{Deliver: shown.Moment.Queues[i].Via}
		if shown, err = h.After(shown.Moment, next); err != nil {
			return Shown{}, nil, err
		}
		steps = append(steps, next)
	}
	return shown, steps, nil
}

// Played is a moment with what led to it, in words, and the device at which that was a gesture.
type Played struct {
	Text   string `json:"text"`
	Device string `json:"device,omitempty"`
	Shown  Shown  `json:"shown"`
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
		out = append(out, Played{GestureWords(g.Gesture) + " at " + h.standing(g.Device, 0).Name, g.Device, now})
		if now.Quiet || p.Code == ConvergesHasty || p.Code == Converges && i == len(p.Witness)-1 {
			continue
		}
		if now, _, err = h.Quieten(now.Moment); err != nil {
			return out
		}
		out = append(out, Played{Text: "messages arrive", Shown: now})
	}
	return out
}

func (h *Hand) read(from Moment) (moment, error) {
	state, ok := h.p.net.StateOf(from.State)
	if !ok {
		return moment{}, fmt.Errorf("state: the circuit has no such state")
	}
	m := h.p.at(state)
	n := 0
	for _, q := range from.Queues {
		i := slices.Index(h.p.vias, q.Via)
		if i < 0 {
			return moment{}, fmt.Errorf("queues: nothing goes over %q", q.Via)
		}
		for _, x := range q.Messages {
			if !h.p.listens(x.To, x.Action) {
				return moment{}, fmt.Errorf("queues: %q at %q is no message of this document", x.Action, x.To)
			}
			m.queues[i] = append(m.queues[i], message{x.To, x.Action, x.Level})
			if n++; n > mostWaiting {
				return moment{}, fmt.Errorf("queues: more than %d messages are under way: they breed without end", mostWaiting)
			}
		}
	}
	return m, nil
}

// listens reports whether a device can be told an action.
func (p *play) listens(device, action string) bool {
	_, has := p.bits[device]
	return has && slices.Contains([]string{"on", "off", "toggle"}, action)
}

func (h *Hand) show(m moment, levels map[string]int) Shown {
	out := Shown{Moment: Moment{State: h.p.net.Keys(m.state), Queues: []Queue{}, Levels: levels}, Lit: h.p.shows(m.state), Lights: h.p.each(m.state), Quiet: m.quiet(), Places: []Standing{}}
	for i, via := range h.p.vias {
		q := Queue{Via: via, Messages: []Message{}}
		for _, x := range m.queues[i] {
			q.Messages = append(q.Messages, Message{x.to, x.action, x.level})
		}
		out.Moment.Queues = append(out.Moment.Queues, q)
	}
	for _, id := range h.p.devices {
		s := h.standing(id, m.state)
		s.Level = levels[id]
		out.Places = append(out.Places, s)
	}
	return out
}

func (h *Hand) standing(id string, s electric.State) Standing {
	out := Standing{Device: id, Name: names.For(h.p.doc).Place(id), Awake: h.p.isAwake(s, id), Gestures: []Choice{}}
	for _, g := range h.p.gestures(id) {
		out.Gestures = append(out.Gestures, Choice{g, GestureWords(g)})
	}
	if bit, has := h.p.bits[id]; has {
		on := s&bit != 0
		out.Switch = map[bool]string{true: "on", false: "off"}[on]
		_, wrong := h.p.amiss(id, s)
		out.Astray = h.p.reports(id) && wrong
	}
	return out
}
