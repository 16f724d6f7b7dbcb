package circuit

// Key writes a test without its reading, to know it again.
func (o Observation) Key() string {
	text := make([]byte, 0, 256)
	add := func(words ...string) {
		for _, w := range words {
			text = append(text, w...)
		}
	}
	ref := func(r Ref) { add(" ", r.Owner, ".", r.Part) }
	end := func(e End) {
		ref(e.Ref)
		add("@", e.Box)
	}
	add(o.Power, " ", o.Instrument, " ", o.Light)
	for _, e := range o.At {
		end(e)
	}
	for _, list := range [][]string{o.Flipped, o.LampsOut} {
		add(" |")
		for _, id := range list {
			add(" ", id)
		}
	}
	for _, r := range o.Lifted {
		ref(r)
	}
	for _, group := range o.Tied {
		add(" +")
		for _, e := range group {
			end(e)
		}
	}
	return string(text)
}
