// Package hub is a stand-in for a hub and for the devices that speak through it: an MQTT broker on this machine, with the
// devices of a plan as they would behave, and the plan's rules at work. Whoever has an MQTT client can press at one place and
// see the light at another, cut the hub, and see what gets out of step.
//
// What a gesture and a message do is worked out by package rehearsal, a move at a time; here messages truly travel: each is
// published and acted on when the broker has brought it. Topics are listed by [Topics] and told in docs/ideas/links.md.
package hub

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"slices"
	"strings"
	"sync"
	"time"

	mqtt "github.com/mochi-mqtt/server/v2"
	"github.com/mochi-mqtt/server/v2/hooks/auth"
	"github.com/mochi-mqtt/server/v2/listeners"
	"github.com/mochi-mqtt/server/v2/packets"

	"ambivia/core/circuit"
	"ambivia/core/limits"
	"ambivia/core/rehearsal"
	"ambivia/core/schedule"
)

// Line is one thing that went over the broker, as the page tells it.
type Line struct {
	Time  time.Time `json:"time"`
	Topic string    `json:"topic"`
	Text  string    `json:"text"` // the payload
}

// Live is how everything stands.
type Live struct {
	Address string          `json:"address"`
	Down    string          `json:"down"` // the way or device that is cut, "" where none is
	Shown   rehearsal.Shown `json:"shown"`
	Lines   []Line          `json:"lines"` // the last ones
	// Time is what the clock of the stand-in says, Next what is due next, and Alarms the inputs as they stand, where it is
	// known how the light is used.
	Time   *time.Time    `json:"time,omitempty"`
	Next   *schedule.Due `json:"next,omitempty"`
	Alarms []Alarm       `json:"alarms"`
}

// mostLines is how many of the last lines are kept, mostBytes how long a payload may be that anybody reads, mostUnderWay how
// many messages wait for one way. Pace is how long one thing takes at least, so that messages that breed without end do not
// take the whole machine.
const (
	mostLines    = 60
	mostBytes    = 2000
	mostUnderWay = 50
	pace         = 2 * time.Millisecond
)

// Hub is a running stand-in. It is safe to share.
type Hub struct {
	doc    *circuit.Circuit
	broker *mqtt.Server
	addr   string
	log    *slog.Logger
	inbox  chan struct{} // says that something waits
	done   chan struct{}

	over     string   // the way that schedules go
	carriers []string // devices whose switch carries the light

	mu      sync.Mutex
	timed   *timed // nil where nobody said how the light is used
	waiting []arrival
	hand    *rehearsal.Hand
	now     rehearsal.Shown
	down    string
	lines   []Line
	closed  bool
}

// arrival is something that the broker brought.
type arrival struct {
	topic   string
	payload []byte
}

// errNoUse is what a stand-in says to a clock and to inputs where it knows neither.
var errNoUse = errors.New("nobody said how the light is used: there are no schedules and no inputs")

// ErrNotLocal is what [Start] says of an address that others could reach: a stand-in has no passwords.
var ErrNotLocal = errors.New("hub: the address is not one of this machine alone")

// Start starts a stand-in on a loopback address such as "127.0.0.1:0", for the devices and rules of a valid document, and for
// the schedules and inputs of a use that was checked, nil where there is none. It ends with the context, or with Close.
func Start(ctx context.Context, doc *circuit.Circuit, use *schedule.Use, address string, log *slog.Logger) (*Hub, error) {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return nil, fmt.Errorf("hub: %w", err)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return nil, ErrNotLocal
	}
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, fmt.Errorf("hub: %w", err)
	}
	capabilities := mqtt.NewDefaultServerCapabilities()
	capabilities.MaximumClients = 64
	capabilities.MaximumPacketSize = 4 * mostBytes
	h := &Hub{doc: doc, addr: listener.Addr().String(), log: log, inbox: make(chan struct{}, 1), done: make(chan struct{}), hand: rehearsal.NewHand(doc, ""), timed: newTimed(use, doc), carriers: rehearsal.Carriers(doc)}
	h.now, h.over = h.hand.Start(), over(h.hand)
	h.broker = mqtt.New(&mqtt.Options{InlineClient: true, Capabilities: capabilities, Logger: slog.New(slog.DiscardHandler)})
	err = errors.Join(
		h.broker.AddHook(new(auth.AllowHook), nil), // it listens to this machine alone
		h.broker.AddListener(listeners.NewNet("tcp", listener)),
		h.broker.Subscribe(prefix+"#", 1, h.arrive),
		h.broker.Serve(),
	)
	if err != nil {
		_ = listener.Close()
		return nil, fmt.Errorf("hub: %w", err)
	}
	h.mu.Lock()
	out := h.states(rehearsal.Shown{})
	h.mu.Unlock()
	h.publish(out)
	go h.work(ctx)
	log.Info("stand-in hub", "address", h.addr, "places", len(h.now.Places))
	return h, nil
}

// Address is where a client finds the broker.
func (h *Hub) Address() string { return h.addr }

// Close ends it.
func (h *Hub) Close() error {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		return nil
	}
	h.closed = true
	close(h.done)
	return h.broker.Close()
}

// Live is how everything stands now.
func (h *Hub) Live() Live {
	h.mu.Lock()
	defer h.mu.Unlock()
	live := Live{Address: h.addr, Down: h.down, Shown: h.now, Lines: slices.Clone(h.lines), Alarms: []Alarm{}}
	if h.timed != nil {
		now := h.timed.now().In(h.timed.keeper.Now().Location())
		live.Time, live.Alarms = &now, h.timed.alarms()
		if next, ok := h.timed.keeper.Next(); ok {
			live.Next = &next
		}
	}
	return live
}

// Press lets a person make a gesture at a place, as a client would.
func (h *Hub) Press(device, gesture string) error {
	payload, err := json.Marshal(Gesture{gesture})
	if err != nil {
		return err
	}
	return h.broker.Publish(prefix+device+"/press", payload, false, 0)
}

// Cut cuts a way of messages or a device; "" lets all be whole again.
func (h *Hub) Cut(down string) error {
	payload, err := json.Marshal(Cut{down})
	if err != nil {
		return err
	}
	return h.broker.Publish(prefix+"cut", payload, false, 0)
}

// SetClock puts the clock to a time, as a client would.
func (h *Hub) SetClock(to time.Time) error {
	payload, err := json.Marshal(Clock{to})
	if err != nil {
		return err
	}
	return h.broker.Publish(prefix+"clock", payload, false, 0)
}

// SetInput lets an input go off by its number, or resets it.
func (h *Hub) SetInput(number int, on bool) error {
	payload, err := json.Marshal(Input{on})
	if err != nil {
		return err
	}
	return h.broker.Publish(fmt.Sprintf("%sinput/%d", prefix, number), payload, false, 0)
}

// arrive takes what the broker brings. It runs inside the broker: what comes of it is worked out elsewhere.
func (h *Hub) arrive(_ *mqtt.Client, _ packets.Subscription, p packets.Packet) {
	topic := strings.TrimPrefix(p.TopicName, prefix)
	h.mu.Lock()
	defer h.mu.Unlock()
	text := limits.Clip(string(p.Payload), mostBytes)
	h.lines = append(h.lines, Line{time.Now(), p.TopicName, text})
	h.lines = h.lines[max(0, len(h.lines)-mostLines):]
	if topic != "cut" && topic != "clock" && !strings.HasPrefix(topic, "input/") && !strings.HasSuffix(topic, "/press") && !strings.HasSuffix(topic, "/command") {
		return
	}
	h.waiting = append(h.waiting, arrival{topic, slices.Clone(p.Payload)})
	select {
	case h.inbox <- struct{}{}:
	default:
	}
}

func (h *Hub) work(ctx context.Context) {
	for {
		h.mu.Lock()
		soon := h.timed.soon()
		h.mu.Unlock()
		select {
		case <-ctx.Done():
			_ = h.Close()
			return
		case <-h.done:
			return
		case <-time.After(soon):
			h.mu.Lock()
			due := h.pass()
			h.mu.Unlock()
			h.publish(due)
			continue
		case <-h.inbox:
		}
		for {
			h.mu.Lock()
			if len(h.waiting) == 0 || h.closed {
				h.mu.Unlock()
				break
			}
			next := h.waiting[0]
			h.waiting = h.waiting[1:]
			out, err := h.take(next)
			h.mu.Unlock()
			if err != nil {
				h.log.Warn("not understood", "topic", next.topic, "why", err.Error())
				out = []note{{topic: "refused", payload: Refused{next.topic, err.Error()}}}
			}
			h.publish(out)
			time.Sleep(pace)
		}
	}
}
