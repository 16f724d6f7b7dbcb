package hub

import (
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/rehearsal"
	"ambivia/core/schedule"
)

// prefix begins every topic.
const prefix = "ambivia/"

// Gesture is the payload of ambivia/DEVICE/press, which a person's hand sends, and of ambivia/DEVICE/event, which the device
// tells.
type Gesture struct {
	Gesture string `json:"gesture"`
}

// Command is the payload of ambivia/DEVICE/command: "on", "off" or "toggle", at a level in percent, 0 for the last. Via says
// over which way a rule sent it; others leave it out.
type Command struct {
	Action string `json:"action"`
	Level  int    `json:"level,omitempty"`
	Via    string `json:"via,omitempty"`
}

// State is the payload of ambivia/DEVICE/state, kept by the broker for who comes later: how its switch stands, "" where it has
// none, whether it has power, and whether it says otherwise than the light.
type State struct {
	Switch    string `json:"switch"`
	Power     bool   `json:"power"`
	Level     int    `json:"level,omitempty"`
	OutOfStep bool   `json:"outOfStep,omitempty"`
}

// Light is the payload of ambivia/light/state, kept by the broker.
type Light struct {
	Lit bool `json:"lit"`
}

// Cut is the payload of ambivia/cut: the way of messages, or the device, that is down; "" for none.
type Cut struct {
	Down string `json:"down"`
}

// Refused is the payload of ambivia/refused: what was sent and not understood.
type Refused struct {
	Topic string `json:"topic"`
	Why   string `json:"why"`
}

// Topics lists what goes over the broker for the devices of a document, and for the schedules and inputs of a use, nil where
// there is none.
func Topics(c *circuit.Circuit, use *schedule.Use) []automation.Topic {
	example := func(v any) string {
		data, err := json.Marshal(v)
		if err != nil {
			panic(err) // values of this package
		}
		return string(data)
	}
	line := func(topic, payload, who string) automation.Topic {
		return automation.Topic{Topic: topic, Payload: payload, Who: who}
	}
	out := []automation.Topic{}
	for _, s := range rehearsal.Speakers(c) {
		if len(s.Events) > 0 {
			first := s.Events[0].Gesture
			out = append(out, line(prefix+s.Device+"/press", example(Gesture{first}), "a person presses at "+s.Name),
				line(prefix+s.Device+"/event", example(Gesture{first}), s.Name+" tells of it"),
				line(prefix+s.Device+"/state", example(State{Switch: "on", Power: true}), s.Name+" says how it stands; kept"))
		}
		if s.Listener {
			out = append(out, line(prefix+s.Device+"/command", example(Command{Action: "on", Level: 50}), "a rule, or anybody, asks it of "+s.Name))
		}
	}
	if use != nil {
		at := time.Date(2026, 12, 24, 17, 0, 0, 0, time.UTC)
		out = append(out, line(prefix+"clock", example(Clock{at}), "puts the clock to a time; what the schedules do until then is done"),
			line(prefix+"schedule", example(Scheduled{Due: schedule.Due{At: at, On: true, Level: 40, By: "evening"}}), "what a schedule or an input asks of the light"))
		for i, in := range use.Inputs {
			out = append(out, line(fmt.Sprintf("%sinput/%d", prefix, i+1), example(Input{true}), in.Name+" goes off, or is reset"))
		}
	}
	return append(out, line(prefix+"light/state", example(Light{true}), "whether the light is lit; kept"),
		line(prefix+"cut", example(Cut{"hub"}), "cuts a way of messages or a device; {\"down\":\"\"} makes all whole"))
}

// note is something to be published.
type note struct {
	topic   string // without the prefix
	payload any
	kept    bool
}

func (h *Hub) publish(notes []note) {
	for _, n := range notes {
		payload, err := json.Marshal(n.payload)
		if err == nil {
			err = h.broker.Publish(prefix+n.topic, payload, n.kept, 0)
		}
		if err != nil {
			h.log.Warn("not published", "topic", n.topic, "why", err.Error())
		}
	}
}

// take works out what comes of what the broker brought.
func (h *Hub) take(a arrival) ([]note, error) {
	if len(a.payload) > mostBytes {
		return nil, fmt.Errorf("the payload has %d bytes; %d are the most", len(a.payload), mostBytes)
	}
	if a.topic == "cut" {
		var cut Cut
		if err := json.Unmarshal(a.payload, &cut); err != nil {
			return nil, fmt.Errorf("the payload is not {\"down\": \"…\"}: %w", err)
		}
		h.down, h.hand = cut.Down, rehearsal.NewHand(h.doc, cut.Down)
		return nil, nil
	}
	if a.topic == "clock" {
		return h.setClock(a.payload)
	}
	device, what, _ := strings.Cut(a.topic, "/")
	if device == "input" && what != "press" && what != "command" { // else it is a device that is called so
		return h.input(what, a.payload)
	}
	before, taken := h.now, ""
	var notes []note
	switch what {
	case "press":
		var g Gesture
		if err := json.Unmarshal(a.payload, &g); err != nil {
			return nil, fmt.Errorf("the payload is not {\"gesture\": \"…\"}: %w", err)
		}
		next, err := h.hand.After(before.Moment, rehearsal.Move{Device: device, Gesture: g.Gesture})
		if err != nil {
			return nil, err
		}
		h.now = next
		if h.down != device {
			notes = append(notes, note{topic: device + "/event", payload: g})
		}
	case "command":
		var c Command
		if err := json.Unmarshal(a.payload, &c); err != nil {
			return nil, fmt.Errorf("the payload is not {\"action\": \"…\"}: %w", err)
		}
		move := h.move(device, c)
		next, err := h.hand.After(before.Moment, move)
		if err != nil {
			return nil, err
		}
		h.now, taken = next, move.Deliver
		for i, q := range h.now.Moment.Queues { // a broker drops what it cannot keep
			h.now.Moment.Queues[i].Messages = q.Messages[:min(len(q.Messages), mostUnderWay)]
		}
	}
	return append(append(notes, h.states(before)...), h.sent(before, taken)...), nil
}

// move is the move that a command is: the first message of its way arriving, lost where that way was cut meanwhile, or
// something that came from elsewhere.
func (h *Hub) move(device string, c Command) rehearsal.Move {
	for _, q := range h.now.Moment.Queues {
		if c.Via != "" && q.Via == c.Via && len(q.Messages) > 0 && q.Messages[0] == (rehearsal.Message{To: device, Action: c.Action, Level: c.Level}) {
			if h.down == q.Via {
				return rehearsal.Move{Deliver: q.Via, Fate: "lost"}
			}
			return rehearsal.Move{Deliver: q.Via}
		}
	}
	return rehearsal.Move{Told: &rehearsal.Message{To: device, Action: c.Action, Level: c.Level}}
}

// states tells how devices and light stand, where that is another than before.
func (h *Hub) states(before rehearsal.Shown) []note {
	var out []note
	for i, p := range h.now.Places {
		if i >= len(before.Places) || !reflect.DeepEqual(before.Places[i], p) {
			out = append(out, note{p.Device + "/state", State{p.Switch, p.Awake, p.Level, p.Astray}, true})
		}
	}
	if len(before.Places) == 0 || before.Lit != h.now.Lit {
		out = append(out, note{"light/state", Light{h.now.Lit}, true})
	}
	return out
}

// sent are the messages that are under way now and were not before: those at the end of each queue. Of the way that is taken
// from, the first has arrived.
func (h *Hub) sent(before rehearsal.Shown, taken string) []note {
	var out []note
	for i, q := range h.now.Moment.Queues {
		stood := len(before.Moment.Queues[i].Messages)
		if q.Via == taken {
			stood--
		}
		for _, m := range q.Messages[stood:] {
			out = append(out, note{topic: m.To + "/command", payload: Command{Action: m.Action, Level: m.Level, Via: q.Via}})
		}
	}
	return out
}
