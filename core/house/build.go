package house

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
)

// NotAsRecordedError is the error of [House.Build] where a plan works in a closed box whose inside is
// another than the record has: who opens it sees that, and does not go on.
type NotAsRecordedError struct{ Box string }

func (e *NotAsRecordedError) Error() string {
	return fmt.Sprintf("%s is not as the record has it", e.Box)
}

// Build carries a plan out in the house. record is what was traced of the survey, planned what it is to
// become. In opened boxes all is joined as planned; what lies behind the walls stays as it truly is.
// The error is a [*NotAsRecordedError], or says what of the plan has no place in the house.
func (h *House) Build(record, planned *circuit.Circuit) (*circuit.Circuit, error) {
	b := &build{House: h, names: h.ends(record), out: h.truth.Clone(), planned: planned}
	for _, box := range planned.Boxes {
		if h.truth.Box(box.ID) == nil && record.Box(box.ID) == nil {
			b.out.Boxes = append(b.out.Boxes, box)
		}
	}
	for _, k := range planned.Cables {
		if record.Cable(k.ID) == nil {
			b.out.Cables = append(b.out.Cables, k)
			for _, box := range k.Ends {
				b.names[cableEnd{k.ID, *box}] = k.ID
			}
		}
	}
	for _, box := range planned.Boxes {
		if err := b.box(record, box.ID); err != nil {
			return nil, err
		}
	}
	b.out.Links, b.out.Automation = planned.Links, planned.Automation
	b.out.Models = planned.Models
	if err := b.out.Validate(); err != nil {
		return nil, fmt.Errorf("what was built cannot be: %w", err)
	}
	return b.out, nil
}

// cableEnd is one end of a cable of a record.
type cableEnd struct{ cable, box string }

// ends names the true cable for each end of the record's cables that was seen. A record begins with the
// joins of its survey, in their order, with the names that tracing gave.
func (h *House) ends(record *circuit.Circuit) map[cableEnd]string {
	out, taken := map[cableEnd]string{}, map[string]bool{}
	for _, k := range h.survey.Cables {
		for _, box := range k.Ends {
			if box != nil && record.Cable(k.ID) != nil && record.Cable(k.ID).In(*box) {
				out[cableEnd{k.ID, *box}] = h.names[k.ID]
				taken[k.ID] = true
			}
		}
	}
	for i, j := range h.survey.Joins {
		for n, r := range j.Of {
			if h.survey.Cable(r.Owner) != nil {
				out[cableEnd{record.Joins[i].Of[n].Owner, j.Box}] = h.names[r.Owner]
				taken[r.Owner] = true
			}
		}
	}
	for _, k := range record.Cables { // one that stands in no join
		for _, box := range k.Ends {
			if box == nil || out[cableEnd{k.ID, *box}] != "" {
				continue
			}
			for _, s := range h.survey.Cables {
				if s.In(*box) && !taken[s.ID] && slices.Equal(s.Cores, k.Cores) {
					out[cableEnd{k.ID, *box}] = h.names[s.ID]
					taken[s.ID] = true
					break
				}
			}
		}
	}
	return out
}

type build struct {
	*House
	names   map[cableEnd]string
	out     *circuit.Circuit
	planned *circuit.Circuit
}

// box joins one box as planned.
func (b *build) box(record *circuit.Circuit, id string) error {
	seen := b.survey.Box(id) != nil && b.survey.Box(id).Seen()
	fresh := record.Box(id) == nil
	if !seen && !fresh {
		if sameBox(record, b.planned, id) {
			return nil // the plan leaves it alone
		}
		was, err := b.joins(record, id)
		if err != nil || b.out.Box(id) == nil || !alike(was, joinsIn(b.truth, id)) {
			return &NotAsRecordedError{id}
		}
	}
	joins, err := b.joins(b.planned, id)
	if err != nil {
		return err
	}
	b.out.Joins = slices.DeleteFunc(b.out.Joins, func(j circuit.Join) bool { return j.Box == id })
	b.out.Joins = append(b.out.Joins, joins...)
	b.out.Devices = slices.DeleteFunc(b.out.Devices, func(d circuit.Device) bool { return d.Box == id && b.planned.Device(d.ID) == nil })
	for _, d := range b.planned.Devices {
		if d.Box == id && b.out.Device(d.ID) == nil {
			b.out.Devices = append(b.out.Devices, d)
		}
	}
	return nil
}

// joins are the joins of a box with the true names of its cables.
func (b *build) joins(c *circuit.Circuit, box string) ([]circuit.Join, error) {
	var out []circuit.Join
	for _, j := range c.Joins {
		if j.Box != box {
			continue
		}
		to := circuit.Join{Box: box}
		for _, r := range j.Of {
			if c.Cable(r.Owner) != nil {
				name := b.names[cableEnd{r.Owner, box}]
				if name == "" { // an end that was not seen: the cable of its other end, if that comes here
					if far, ok := c.Cable(r.Owner).Other(box); ok {
						name = b.names[cableEnd{r.Owner, far}]
					}
				}
				k := b.out.Cable(name)
				if k == nil || !k.In(box) {
					return nil, fmt.Errorf("no cable %s comes to %s", r.Owner, box)
				}
				r.Owner = name
			}
			to.Of = append(to.Of, r)
		}
		out = append(out, to)
	}
	return out, nil
}

func joinsIn(c *circuit.Circuit, box string) []circuit.Join {
	var out []circuit.Join
	for _, j := range c.Joins {
		if j.Box == box {
			out = append(out, j)
		}
	}
	return out
}

// alike reports whether two lists of joins hold the same, in whatever order. A join of one is none.
func alike(a, b []circuit.Join) bool { return slices.Equal(written(a), written(b)) }

func written(joins []circuit.Join) []string {
	var out []string
	for _, j := range joins {
		of := slices.SortedFunc(slices.Values(j.Of), circuit.Ref.Compare)
		if len(of) > 1 {
			out = append(out, fmt.Sprint(of))
		}
	}
	slices.Sort(out)
	return out
}

// sameBox reports whether a box holds the same in two documents.
func sameBox(a, b *circuit.Circuit, id string) bool {
	in := func(c *circuit.Circuit) []string {
		var out []string
		for _, d := range c.Devices {
			if d.Box == id {
				out = append(out, d.ID)
			}
		}
		slices.Sort(out)
		return out
	}
	return alike(joinsIn(a, id), joinsIn(b, id)) && slices.Equal(in(a), in(b))
}

// Seen names the ends of a test that was thought of for a record as the survey does, which [House.Answer]
// takes; ok is false where one of them was never seen.
func (h *House) Seen(record *circuit.Circuit, o circuit.Observation) (to circuit.Observation, ok bool) {
	names := h.ends(record)
	ok = true
	one := func(e circuit.End) circuit.End {
		if e.Box == "" {
			return e
		}
		for _, k := range h.survey.Cables {
			if k.In(e.Box) && h.names[k.ID] == names[cableEnd{e.Owner, e.Box}] {
				e.Owner = k.ID
				return e
			}
		}
		ok = false
		return e
	}
	all := func(list []circuit.End) []circuit.End {
		var out []circuit.End
		for _, e := range list {
			out = append(out, one(e))
		}
		return out
	}
	to = o
	to.At = all(o.At)
	to.LampsOut = slices.DeleteFunc(slices.Clone(o.LampsOut), func(id string) bool { return h.survey.Device(id) == nil })
	to.Tied = nil
	for _, group := range o.Tied {
		to.Tied = append(to.Tied, all(group))
	}
	return to, ok
}
