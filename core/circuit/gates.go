package circuit

import "slices"

// LastGate is the position of the last gate of a kind, -1 where there is none.
func (c *Circuit) LastGate(gate string) int {
	last := -1
	for i, g := range c.Gates {
		if g.Gate == gate {
			last = i
		}
	}
	return last
}

// BreakerOn reports whether, by the log, the breaker was on since it was last confirmed off:
// by a reading made so, or by one of which nothing is left but that.
func (c *Circuit) BreakerOn() bool {
	off := c.LastGate(GateBreakerOff)
	from := 0
	if off >= 0 {
		from = min(c.Gates[off].After, len(c.Observations))
	}
	return c.LastGate(GateWasOn) > off ||
		slices.ContainsFunc(c.Observations[from:], func(o Observation) bool { return o.Reading != nil && o.Power == "on" })
}

// KeepGates gives a record that somebody went back to the gates that were passed since, in
// newest: what was confirmed was confirmed, and a breaker that was turned on is on, whatever
// of the record is taken back.
func (c *Circuit) KeepGates(newest *Circuit) {
	on := newest.BreakerOn() || newest.LastGate(GatePowerOn) > newest.LastGate(GateBreakerOff)
	c.Gates = slices.DeleteFunc(slices.Clone(newest.Gates), func(g Gate) bool { return g.Box != "" && c.Box(g.Box) == nil })
	for i := range c.Gates {
		c.Gates[i].After = min(c.Gates[i].After, len(c.Observations))
	}
	if on && !c.BreakerOn() {
		c.NoteOn()
	}
}

// NoteOn notes that the breaker was on, where the reading that told so is gone.
func (c *Circuit) NoteOn() {
	c.Gates = append(c.Gates, Gate{Gate: GateWasOn, After: len(c.Observations)})
}
