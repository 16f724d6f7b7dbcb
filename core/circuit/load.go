package circuit

import (
	"maps"
	"slices"
)

// Load is what some lamps take at full level.
type Load struct {
	Watts   map[string]float64 // by kind of load, "" where the kind is not recorded: watts of each lamp times its count
	Lamps   int                // how many there are
	Unknown int                // of those, how many have no watts recorded
	Fixed   bool               // one of them may not be dimmed
	Other   bool               // one is no lamp: a receptacle, whatever is plugged into it, or a motor
}

// LoadOf adds up loads, by their ids. What is plugged into a receptacle is not known, and neither it nor a motor is dimmed.
func (c *Circuit) LoadOf(lamps []string) Load {
	out := Load{Watts: map[string]float64{}}
	for _, id := range lamps {
		d := c.Device(id)
		if d != nil && d.Type == TypeReceptacle {
			out.Fixed, out.Other = true, true
			out.Unknown++
		}
		if d == nil || d.Type != TypeLamp {
			continue
		}
		if d.Load == "motor" {
			out.Fixed, out.Other = true, true
		}
		n := d.Lamps()
		out.Lamps += n
		out.Fixed = out.Fixed || d.Dimmable != nil && !*d.Dimmable
		if d.Watts == nil {
			out.Unknown += n
			out.Watts[d.Load] += 0 // the kind is there all the same
			continue
		}
		out.Watts[d.Load] += *d.Watts * float64(n)
	}
	return out
}

// Load is that of all lamps on record.
func (c *Circuit) Load() Load {
	var all []string
	for _, d := range c.Devices {
		all = append(all, d.ID)
	}
	return c.LoadOf(all)
}

// Total is what they take together in watts, as far as it was noted.
func (l Load) Total() float64 {
	sum := 0.0
	for _, kind := range l.Kinds() { // a sum of floats depends on its order
		sum += l.Watts[kind]
	}
	return sum
}

// Kinds lists the kinds of load among them, sorted; a kind that is not recorded is "".
func (l Load) Kinds() []string { return slices.Sorted(maps.Keys(l.Watts)) }

// Known reports whether kind and watts of each were noted.
func (l Load) Known() bool {
	_, unnamed := l.Watts[""]
	return l.Unknown == 0 && !unnamed
}

// Amps is the rating of a supply's breaker in amperes: its own, or the circuit's; ok is false where neither is recorded.
func (c *Circuit) Amps(supply Device) (amps float64, ok bool) {
	switch {
	case supply.Amps != nil:
		return *supply.Amps, true
	case c.Supply != nil && c.Supply.BreakerAmps != nil:
		return *c.Supply.BreakerAmps, true
	}
	return 0, false
}
