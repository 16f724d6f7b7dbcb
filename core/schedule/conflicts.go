package schedule

import (
	"fmt"
	"slices"
	"time"
)

// Kinds of conflict.
const (
	Contrary = "contrary" // one schedule undoes at once what another does
	Person   = "person"   // a schedule turns the light off while somebody is usually about
	Never    = "never"    // a schedule by the sun has days on which there is none
	Below    = "below"    // a schedule asks for less than the lowest level at which the lamps hold steady
)

// Conflict is something in a use that people will stumble over. First is the first date, and Days on how many it is so.
type Conflict struct {
	Kind  string `json:"kind"`
	Text  string `json:"text"`
	First string `json:"first"`
	Days  int    `json:"days"`
}

// atOnce is how soon after one another two contrary turnings are a conflict: nobody wants light for so short a time.
const atOnce = 10 * time.Minute

// conflicts gathers them day by day.
type conflicts struct {
	use   *Use
	found []*Conflict
	keys  []string
}

func (c *conflicts) add(day time.Time, key string, make func() Conflict) {
	i := slices.Index(c.keys, key)
	if i < 0 {
		i = len(c.keys)
		one := make()
		one.First = day.Format(time.DateOnly)
		c.keys, c.found = append(c.keys, key), append(c.found, &one)
	}
	c.found[i].Days++
}

func (c *conflicts) look(day time.Time, events []event) {
	schedules := c.use.Schedules
	for i, e := range events {
		for _, next := range events[i+1:] {
			if next.at.Sub(e.at) > atOnce || e.by < 0 || next.by < 0 || e.by == next.by || e.on == next.on {
				continue
			}
			a, b := &schedules[e.by], &schedules[next.by]
			c.add(day, fmt.Sprintf("contrary %d %d", min(e.by, next.by), max(e.by, next.by)), func() Conflict {
				return Conflict{Kind: Contrary, Text: fmt.Sprintf("“%s” and “%s” undo each other within %d minutes.", a.words(), b.words(), int(atOnce.Minutes()))}
			})
		}
		if minute := e.at.Hour()*60 + e.at.Minute(); !e.on && e.by >= 0 && slices.ContainsFunc(c.use.Home, func(h Hours) bool { return h.holds(minute) }) {
			s := &schedules[e.by]
			c.add(day, fmt.Sprintf("person %d", e.by), func() Conflict {
				return Conflict{Kind: Person, Text: fmt.Sprintf("“%s” turns the light off while somebody is usually about: who is there is left in the dark, and lights it again by hand.", s.words())}
			})
		}
	}
	for i := range schedules {
		s := &schedules[i]
		if least := c.use.Load.Least; s.On && full(s.Level) < least && slices.Contains(s.Days, weekdays[day.Weekday()]) {
			c.add(day, fmt.Sprintf("below %d", i), func() Conflict {
				return Conflict{Kind: Below, Text: fmt.Sprintf("“%s” asks for %d %%, and the lamps hold steady from %d %% on: it is lit at %d %%.", s.words(), s.Level, least, least)}
			})
		}
		if _, ok := c.use.momentOf(s, day); !ok && slices.Contains(s.Days, weekdays[day.Weekday()]) {
			c.add(day, fmt.Sprintf("never %d", i), func() Conflict {
				return Conflict{Kind: Never, Text: fmt.Sprintf("“%s”: the sun does not rise or set on these days, so that nothing happens.", s.words())}
			})
		}
	}
}

func (c *conflicts) list() []Conflict {
	out := []Conflict{}
	for _, x := range c.found {
		out = append(out, *x)
	}
	return out
}
