package circuit

// Called is how a person calls a device: by its name, else by its box where it is the only one of its type there, else
// by its id.
func (c *Circuit) Called(id string) string {
	d := c.Device(id)
	if d == nil || !Blank(d.Name) || c.Box(d.Box) == nil || Blank(c.Box(d.Box).Name) {
		if d != nil {
			return d.Label()
		}
		return id
	}
	for _, other := range c.Devices {
		if other.Box == d.Box && other.Type == d.Type && other.ID != id {
			return id
		}
	}
	return c.Box(d.Box).Name
}

// CoreEnds lists the core ends in a box, in the order of the record.
func (c *Circuit) CoreEnds(box string) []End {
	var out []End
	for _, m := range c.EndsIn(box) {
		out = append(out, End{Ref: m, Box: box})
	}
	return out
}
