package circuit

import "slices"

// RemoveReading takes the reading at a place, from 0, out of the record. A fact that it showed is assumed
// from then on, and what others showed names them by their new places.
func (c *Circuit) RemoveReading(at int) {
	c.Observations = slices.Delete(c.Observations, at, at+1)
	if len(c.Observations) == 0 {
		c.Observations = nil
	}
	for i := range c.Evidence {
		e := &c.Evidence[i]
		if slices.Contains(e.By, at+1) {
			e.How, e.By = Assumed, nil
		}
		for n := range e.By {
			if e.By[n] > at+1 {
				e.By[n]--
			}
		}
	}
	for i := range c.Gates { // a gate keeps its place among the readings that are left
		if c.Gates[i].After > at {
			c.Gates[i].After--
		}
	}
}

// EvidenceAlone is the evidence for a document that holds no readings: it says how each fact is known and
// not by which of them.
func (c *Circuit) EvidenceAlone() []Evidence {
	if c.Evidence == nil {
		return nil
	}
	out := slices.Clone(c.Evidence)
	for i := range out {
		out[i].By = nil
	}
	return out
}
