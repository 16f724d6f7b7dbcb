package rehearsal

import (
	"context"
	"fmt"
	"math"
	"slices"

	"ambivia/core/circuit"
)

// Span is how long something takes, in seconds.
type Span struct {
	Quickest float64 `json:"quickest"`
	Slowest  float64 `json:"slowest"`
}

// Delays say how long messages take over each way, and how long a hand waits at least before it makes the next gesture, in
// seconds. A way that is not named takes any time up to a minute.
type Delays struct {
	Ways  map[string]Span `json:"ways"`
	Pause float64         `json:"pause"`
}

// Assumed is how long a message takes where nobody tried, and haste how soon one presses again who does not wait: assumptions,
// to be changed by whoever knows better.
var (
	Assumed = Span{0.1, 0.6}
	haste   = 0.3
)

// Usual are the delays of some ways: as they were measured, or as they are assumed where measured is nil.
func Usual(ways []string, measured *Measured) Delays {
	out := Delays{Ways: map[string]Span{}, Pause: haste}
	for _, way := range ways {
		out.Ways[way] = Assumed
		if measured != nil {
			out.Ways[way] = Span{min(measured.Quickest, mostDelay), min(measured.Slowest, mostDelay)}
		}
	}
	return out
}

// mostDelay bounds a delay, in seconds.
const mostDelay = 60

// Check holds delays against what may be said; place is the field that is wrong, "" where none is.
func (d *Delays) Check() (place, text string) {
	for way, span := range d.Ways {
		if math.IsNaN(span.Quickest+span.Slowest) || span.Quickest < 0 || span.Slowest < span.Quickest || span.Slowest > mostDelay {
			return "delays." + way, fmt.Sprintf("seconds from 0 to %d, the slowest not below the quickest", mostDelay)
		}
	}
	if !(d.Pause >= 0 && d.Pause <= mostDelay) {
		return "delays.pause", fmt.Sprintf("seconds from 0 to %d", mostDelay)
	}
	return "", ""
}

// delays are such by the queues of a document, in milliseconds.
type delays struct {
	quickest, slowest []int32
	pause             int32
}

// Timed is what holds where messages take no less and no more than some delays. CutOff: there was more to go through than was
// gone through.
type Timed struct {
	Verdict    string     `json:"verdict"`
	Properties []Property `json:"properties"`
	CutOff     bool       `json:"cutOff,omitempty"`
	// Waits are the seconds from a gesture at a place until the light obeys.
	Waits []Wait `json:"waits"`
	// Quiet is after how many seconds nothing is under way at the latest; nil where messages may breed without end.
	Quiet *float64 `json:"quiet,omitempty"`
}

// Wait is how long a place takes, in seconds; nought to nought where the light obeys at once.
type Wait struct {
	Device string `json:"device"`
	Span
}

// Within asks what has to hold of a valid document where messages take so long: of the orders in which they may arrive only
// those count that can come about, and people in haste keep their pause. The error is the context's.
func Within(ctx context.Context, c *circuit.Circuit, how Delays) (*Timed, error) {
	x := newExplorer(ctx, newPlay(c))
	x.delays = &delays{pause: milliseconds(how.Pause)}
	for _, via := range x.vias {
		span := how.of(via)
		x.delays.quickest = append(x.delays.quickest, milliseconds(span.Quickest))
		x.delays.slowest = append(x.delays.slowest, milliseconds(span.Slowest))
	}
	start := x.start()
	out := &Timed{Verdict: Sound, Properties: []Property{x.converges(start, false), x.converges(start, true), x.obeysAll(start), x.inStep(start)}, CutOff: x.cut}
	if slices.ContainsFunc(out.Properties, func(p Property) bool { return !p.Holds }) {
		out.Verdict = Flawed
	}
	out.wait(newExplorer(ctx, newPlay(c)), how)
	return out, ctx.Err()
}

// wait works out how long it takes, from the number of messages and the quickest and the slowest of the ways.
func (t *Timed) wait(x *explorer, how Delays) {
	span := Span{}
	for i, via := range x.vias {
		s := how.of(via)
		if span.Slowest = max(span.Slowest, s.Slowest); i == 0 || s.Quickest < span.Quickest {
			span.Quickest = s.Quickest
		}
	}
	states := x.visit(x.start(), false, nil)
	t.Waits = []Wait{}
	for _, l := range x.latencies(states) {
		t.Waits = append(t.Waits, Wait{l.Device, Span{float64(l.Least) * span.Quickest, float64(l.Most) * span.Slowest}})
	}
	if n := x.patience(states); n != nil {
		after := float64(*n) * span.Slowest
		t.Quiet = &after
	}
}

// of is how long a message takes over a way.
func (d *Delays) of(way string) Span {
	if span, named := d.Ways[way]; named {
		return span
	}
	return Span{0, mostDelay}
}

func milliseconds(seconds float64) int32 { return int32(math.Round(seconds * 1000)) }
