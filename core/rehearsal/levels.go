package rehearsal

import (
	"context"
	"fmt"
	"math"
	"time"
)

// Dimmer is how one dimmer moves its level, which is from 0 to 100 percent. Times are seconds: Ramp is how long it takes from
// nothing to full, Every how often it tells its level while it moves; 0 tells it at the end alone. Least is the level below
// which its lamps do not hold steady. Echo: it tells a level that it reached because it was told to, as it tells any other.
type Dimmer struct {
	Ramp  float64 `json:"ramp"`
	Least float64 `json:"least"`
	Every float64 `json:"every"`
	Echo  bool    `json:"echo"`
}

// Held is a paddle that is held up at the first of two dimmers, from a level and for so many seconds, while the second follows
// it, or each the other. A message takes from Quickest to Slowest seconds.
type Held struct {
	First    Dimmer  `json:"first"`
	Second   Dimmer  `json:"second"`
	Both     bool    `json:"both"`
	For      float64 `json:"for"`
	From     float64 `json:"from"`
	Quickest float64 `json:"quickest"`
	Slowest  float64 `json:"slowest"`
}

// Check says which field cannot be; "" for none.
func (h *Held) Check() (place, text string) {
	for place, seconds := range map[string]float64{"first.ramp": h.First.Ramp, "second.ramp": h.Second.Ramp, "first.every": h.First.Every, "second.every": h.Second.Every, "for": h.For, "quickest": h.Quickest, "slowest": h.Slowest} {
		if !(seconds >= 0 && seconds <= 30) {
			return place, "from 0 to 30 seconds"
		}
	}
	for place, level := range map[string]float64{"first.least": h.First.Least, "second.least": h.Second.Least, "from": h.From} {
		if !(level >= 0 && level <= 100) {
			return place, "from 0 to 100 percent"
		}
	}
	if h.Quickest > h.Slowest {
		return "slowest", "no less than the quickest"
	}
	return "", ""
}

func seconds(x float64) time.Duration { return time.Duration(x * float64(time.Second)) }

// Point is where both dimmers stand at a moment.
type Point struct {
	Seconds float64 `json:"seconds"`
	First   float64 `json:"first"`
	Second  float64 `json:"second"`
}

// Ramped is what comes of it. Turns counts how often the first goes the other way by itself, which is seen as light that goes up and
// down. Apart is how far the two stand from each other in the end.
type Ramped struct {
	Settles bool    `json:"settles"`
	Seconds float64 `json:"seconds"` // until all is at rest, or as long as it was looked at
	Turns   int     `json:"turns"`
	Apart   float64 `json:"apart"`
	Latest  float64 `json:"latest"` // seconds by which the second comes to rest after the first
	Text    string  `json:"text"`
	Points  []Point `json:"points"`
}

// How finely a ramp is looked at, and for how long.
const (
	tick     = 10 * time.Millisecond
	lookedAt = 60 * time.Second
	drawn    = 100 * time.Millisecond
	alike    = 1.0 // levels that are nearer than this are one to the eye
)

// dimmer is a dimmer that moves.
type dimmer struct {
	Dimmer
	level, aim float64
	told       float64 // the level that it told last
	since      time.Duration
	way        float64 // in which it moved last
	turns      int
}

// step moves it on by a tick; report says that it tells its level now.
func (d *dimmer) step() (report bool) {
	if d.level == d.aim {
		return false
	}
	by := 100 * float64(tick) / float64(max(seconds(d.Ramp), tick))
	way := 1.0
	if d.aim < d.level {
		way = -1
	}
	if d.way != 0 && d.way != way {
		d.turns++
	}
	d.way = way
	if math.Abs(d.aim-d.level) <= by {
		d.level = d.aim
	} else {
		d.level += way * by
	}
	d.since += tick
	if d.level == d.aim || d.Every > 0 && d.since >= seconds(d.Every) {
		d.since = 0
		if d.level != d.told {
			d.told = d.level
			return true
		}
	}
	return false
}

// aimAt lets it go to a level, no lower than its lamps hold; nothing is off.
func (d *dimmer) aimAt(level float64) {
	if level > 0 {
		level = max(level, d.Least)
	}
	d.aim = min(level, 100)
}

// news is a level on its way.
type news struct {
	at    time.Duration
	level float64
}

// Ramp plays a paddle that is held up, with each message taking the longest, the shortest and times between in turn: the
// worst for two that follow each other. The error is the context's.
func (h Held) Ramp(ctx context.Context) (*Ramped, error) {
	first, second := dimmer{Dimmer: h.First, level: h.From, aim: h.From, told: h.From}, dimmer{Dimmer: h.Second, level: h.From, aim: h.From, told: h.From}
	first.aimAt(100)
	var toFirst, toSecond []news
	out := &Ramped{Points: []Point{}}
	sent := 0
	takes := func() time.Duration {
		sent++
		return seconds(h.Slowest - (h.Slowest-h.Quickest)*float64(sent%3)/2)
	}
	send := func(queue []news, now time.Duration, level float64) []news {
		at := now + takes()
		if n := len(queue); n > 0 { // one way keeps its order
			at = max(at, queue[n-1].at)
		}
		return append(queue, news{at, level})
	}
	receive := func(queue []news, now time.Duration, d *dimmer) []news {
		for len(queue) > 0 && queue[0].at <= now {
			d.aimAt(queue[0].level)
			if !d.Echo {
				d.told = queue[0].level
			}
			queue = queue[1:]
		}
		return queue
	}
	held := seconds(h.For)
	rest := map[*dimmer]time.Duration{}
	now := time.Duration(0)
	for ; now < lookedAt; now += tick {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if now >= held && now < held+tick {
			first.aimAt(first.level) // the paddle is let go
			if first.level != first.told {
				first.told = first.level
				toSecond = send(toSecond, now, first.level)
			}
		}
		toSecond = receive(toSecond, now, &second)
		if now >= held { // a hand on the paddle is stronger than any message
			toFirst = receive(toFirst, now, &first)
		}
		if first.step() {
			toSecond = send(toSecond, now, first.level)
		}
		if second.step() && h.Both {
			toFirst = send(toFirst, now, second.level)
		}
		for _, d := range []*dimmer{&first, &second} {
			if d.level != d.aim {
				rest[d] = now
			}
		}
		if now%drawn == 0 {
			out.Points = append(out.Points, Point{now.Seconds(), round1(first.level), round1(second.level)})
		}
		if now > held && len(toFirst) == 0 && len(toSecond) == 0 && first.level == first.aim && second.level == second.aim {
			out.Settles = true
			break
		}
	}
	out.Seconds, out.Turns = round1(now.Seconds()), first.turns
	out.Apart, out.Latest = round1(math.Abs(first.level-second.level)), round1((rest[&second] - rest[&first]).Seconds())
	out.Points = append(out.Points, Point{now.Seconds(), round1(first.level), round1(second.level)})
	out.Text = out.words()
	return out, nil
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

func (r *Ramped) words() string {
	switch {
	case !r.Settles:
		return fmt.Sprintf("They chase each other: the light goes up and down, %d times in %g s, and it never ends by itself.", r.Turns, r.Seconds)
	case r.Turns > 0:
		return fmt.Sprintf("The light goes up and down %d times until all is at rest, after %g s.", r.Turns, r.Seconds)
	case r.Apart >= alike:
		return fmt.Sprintf("They come to rest %g %% apart: their lowest levels differ.", r.Apart)
	case r.Latest > 0.5:
		return fmt.Sprintf("The second comes to rest %g s after the first.", r.Latest)
	}
	return "Both come to rest together."
}
