package circuit

// CoreEnds lists the core ends in a box, in the order of the record.
func (c *Circuit) CoreEnds(box string) []End {
	var out []End
	for _, m := range c.EndsIn(box) {
		out = append(out, End{Ref: m, Box: box})
	}
	return out
}
