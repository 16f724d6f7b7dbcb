package circuit

import "slices"

// Lamps is for how many lamps an entry of a lamp stands; 0 for any other device.
func (d Device) Lamps() int {
	switch {
	case d.Type != TypeLamp:
		return 0
	case d.Count != nil:
		return *d.Count
	}
	return 1
}

// LampBehind is the lamp whose line terminal a device of its box feeds: the lamp whose socket a smart
// lamp is in. It is nil where none stands in a join with the device.
func (c *Circuit) LampBehind(device string) *Device {
	d := c.Device(device)
	if d == nil {
		return nil
	}
	for _, j := range c.Joins {
		if j.Box != d.Box || !slices.ContainsFunc(j.Of, func(m Ref) bool { return m.Owner == device }) {
			continue
		}
		for _, m := range j.Of {
			if x := c.Device(m.Owner); x != nil && x.Type == TypeLamp && m.Part == "l" {
				return x
			}
		}
	}
	return nil
}
