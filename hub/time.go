package hub

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/rehearsal"
	"ambivia/core/schedule"
)

// Clock is the payload of ambivia/clock, which puts the clock of the stand-in to a time; what the schedules do on the way
// there is done.
type Clock struct {
	Time time.Time `json:"time"`
}

// firstYear and lastYear bound the clock.
const (
	firstYear = 2000
	lastYear  = 2100
)

// Input is the payload of ambivia/input/N, with N the place of the input in the use, from one: it goes off, or is reset.
type Input struct {
	On bool `json:"on"`
}

// Scheduled is the payload of ambivia/schedule: what a schedule or an input asks of the light. Held: an input holds the
// light, so that it waits. Lost: the hub is cut, so that nothing comes of it.
type Scheduled struct {
	schedule.Due
	Lost bool `json:"lost,omitempty"`
}

// Alarm is an input as it stands.
type Alarm struct {
	Number int    `json:"number"`
	Name   string `json:"name"`
	Raised bool   `json:"raised"`
}

// timed is what a stand-in knows of time: a keeper of the use, and by how much its clock is before that of the machine.
type timed struct {
	use    *schedule.Use
	keeper *schedule.Keeper
	ahead  time.Duration
}

func newTimed(use *schedule.Use, doc *circuit.Circuit) *timed {
	if use == nil {
		return nil
	}
	return &timed{use: use, keeper: schedule.NewKeeper(use, time.Now(), Lights(doc)...)}
}

func (t *timed) now() time.Time { return time.Now().Add(t.ahead) }

// alarms lists the inputs of the use.
func (t *timed) alarms() []Alarm {
	out := []Alarm{}
	for i, in := range t.use.Inputs {
		out = append(out, Alarm{i + 1, in.Name, t.keeper.Raised(i)})
	}
	return out
}

// soon is how long it is until something is due; long where nothing is.
func (t *timed) soon() time.Duration {
	const long = 24 * time.Hour
	if t == nil {
		return long
	}
	next, ok := t.keeper.Next()
	if !ok {
		return long
	}
	return min(long, max(0, next.At.Sub(t.now())))
}

// pass does what is due by now.
func (h *Hub) pass() []note {
	if h.timed == nil {
		return nil
	}
	return h.asked(h.timed.keeper.Pass(h.timed.now()))
}

// setClock puts the clock to a time.
func (h *Hub) setClock(payload []byte) ([]note, error) {
	var c Clock
	if err := json.Unmarshal(payload, &c); err != nil {
		return nil, fmt.Errorf("the payload is not {\"time\": \"2026-12-24T17:00:00Z\"}: %w", err)
	}
	if year := c.Time.Year(); year < firstYear || year > lastYear {
		return nil, fmt.Errorf("the clock goes from %d to %d", firstYear, lastYear)
	}
	if h.timed == nil {
		return nil, errNoUse
	}
	h.timed.ahead = time.Until(c.Time)
	return h.pass(), nil
}

// input lets an input go off, or resets it.
func (h *Hub) input(which string, payload []byte) ([]note, error) {
	var in Input
	if err := json.Unmarshal(payload, &in); err != nil {
		return nil, fmt.Errorf("the payload is not {\"on\": true}: %w", err)
	}
	if h.timed == nil {
		return nil, errNoUse
	}
	n, err := strconv.Atoi(which)
	if err != nil {
		return nil, fmt.Errorf("inputs have numbers from 1: %w", err)
	}
	notes := h.pass()
	act := h.timed.keeper.Reset
	if in.On {
		act = h.timed.keeper.Raise
	}
	due, err := act(n - 1)
	if err != nil {
		return nil, err
	}
	return append(notes, h.asked(due)...), nil
}

// Lights are the names by which a light is called: that of its circuit, and those of its lamps.
func Lights(doc *circuit.Circuit) []string {
	out := []string{doc.Name}
	for _, d := range doc.Devices {
		if d.Type == circuit.TypeLamp {
			out = append(out, names.For(doc).Short(d.ID))
		}
	}
	return out
}

// asked tells what is asked of the light, and asks it of the devices that carry it, unless the hub is cut: schedules and
// inputs live there.
func (h *Hub) asked(due []schedule.Due) []note {
	var out []note
	for _, d := range due {
		lost := h.down == "hub" || h.down != "" && h.down == h.over
		out = append(out, note{topic: "schedule", payload: Scheduled{d, lost}})
		if d.Held || lost {
			continue
		}
		command := Command{Action: "off"}
		if d.On {
			command = Command{Action: "on", Level: d.Level}
		}
		for _, id := range h.carriers {
			out = append(out, note{topic: id + "/command", payload: command})
		}
	}
	return out
}

// over is the way that schedules go: the hub, or what stands in its place.
func over(h *rehearsal.Hand) string {
	ways := h.Ways()
	if len(ways) == 0 || slices.Contains(ways, "hub") {
		return "hub"
	}
	return ways[0]
}
