// Package evidence keeps what is known of a circuit apart from what is assumed, and finds what a plan
// relies on.
//
// # Facts
//
// A fact of a record is a cable's far end, which core of one stub is which core of another, a joint behind
// a wall, where a light hangs. Each is seen in an open box, measured (the readings leave nothing else),
// accepted by a person at its odds, or assumed: the likeliest of what is left. The document carries that
// in its evidence list, package trace makes it, and all that comes after reads it here.
//
// # What a plan relies on
//
// [Survey] takes a record back to what was seen and read. Package trace lists every way in which that may
// hang together ([trace.Tracer.Cases]); what joins one net beyond the opened boxes is left open there, so
// each case stands for several walls: every way of joining the net's ends that keeps it whole as found.
// [Walls.Relies] carries a plan out in each of them. Where some end then meets other screws than the plan
// has it meet, the plan fails there, and needs a reading that tells those walls from the recorded ones.
// The fewest such readings are what it relies on.
//
// The judgement is sound and may ask too much: walls that no mason would build count too. It succeeds
// where no wall is left in which the plan fails unseen.
package evidence

import (
	"slices"

	"ambivia/core/circuit"
)

// How the document says that a fact is known, by what it is about.
func how(c *circuit.Circuit) map[string]string {
	out := make(map[string]string, len(c.Evidence))
	for _, e := range c.Evidence {
		out[e.Of] = e.How
	}
	return out
}

// Certain reports whether nothing of a document was traced: all that it holds was recorded as seen.
func Certain(c *circuit.Circuit) bool {
	return !slices.ContainsFunc(c.Evidence, func(e circuit.Evidence) bool { return e.How != circuit.Seen })
}

// SeenBoxes lists the boxes of a record whose inside somebody looked into.
func SeenBoxes(c *circuit.Circuit) map[string]bool {
	out, known := map[string]bool{}, how(c)
	for _, b := range c.Boxes {
		joined := slices.ContainsFunc(c.Joins, func(j circuit.Join) bool { return j.Box == b.ID })
		out[b.ID] = b.Seen() || joined && len(c.Evidence) == 0
	}
	for _, k := range c.Cables {
		for _, box := range k.Ends {
			if box == nil || out[*box] {
				continue
			}
			for _, core := range k.Cores {
				end := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}
				if known[end.String()] == circuit.Seen {
					out[*box] = true
				}
			}
		}
	}
	return out
}

// renamed tells the ends of a record from those of its survey: a cable whose two ends were seen apart has
// two names there.
type renamed struct{ toSurvey map[circuit.End]circuit.End }

func (n renamed) survey(e circuit.End) circuit.End {
	if to, ok := n.toSurvey[e]; ok {
		return to
	}
	return e
}

// survey takes a record back to what was seen in its open boxes, with the readings: what tracing found
// behind the walls is gone.
func survey(c *circuit.Circuit) (*circuit.Circuit, renamed) {
	n := renamed{map[circuit.End]circuit.End{}}
	if Certain(c) {
		return c, n
	}
	out, known, seen := c.Clone(), how(c), SeenBoxes(c)
	out.Evidence = nil
	inside := func(box *string) bool { return box != nil && seen[*box] }
	var cables []circuit.Cable
	for _, k := range out.Cables {
		traced := known[k.ID] != "" && known[k.ID] != circuit.Seen
		switch {
		case !traced:
			cables = append(cables, k)
		case inside(k.Ends[0]) && inside(k.Ends[1]):
			far := *k.Ends[1]
			other := k
			other.ID = out.FreshID("k", func(id string) bool {
				return slices.ContainsFunc(cables, func(x circuit.Cable) bool { return x.ID == id })
			})
			other.Ends = [2]*string{&far, nil}
			k.Ends[1] = nil
			cables = append(cables, k, other)
			for _, core := range k.Cores {
				was := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: far}
				is := circuit.End{Ref: circuit.Ref{Owner: other.ID, Part: core}, Box: far}
				n.toSurvey[was] = is
			}
		case inside(k.Ends[0]):
			k.Ends[1] = nil
			cables = append(cables, k)
		case inside(k.Ends[1]):
			k.Ends[0] = nil
			cables = append(cables, k)
		}
	}
	out.Cables = cables
	out.Joins = slices.DeleteFunc(out.Joins, func(j circuit.Join) bool { return !seen[j.Box] })
	for i := range out.Joins {
		for m, r := range out.Joins[i].Of {
			out.Joins[i].Of[m] = n.survey(circuit.End{Ref: r, Box: out.Joins[i].Box}).Ref
		}
	}
	there := func(e circuit.End) bool {
		k := out.Cable(e.Owner)
		return k == nil && out.Device(e.Owner) != nil || k != nil && k.In(e.Box)
	}
	for i := range out.Marks {
		out.Marks[i].End = n.survey(out.Marks[i].End)
	}
	out.Marks = slices.DeleteFunc(out.Marks, func(m circuit.Mark) bool { return !there(m.End) })
	for i := range out.Loose {
		out.Loose[i] = n.survey(out.Loose[i])
	}
	for i := range out.Accepted {
		out.Accepted[i].End = n.survey(out.Accepted[i].End)
	}
	for i := range out.Observations {
		o := &out.Observations[i]
		for m := range o.At {
			o.At[m] = n.survey(o.At[m])
		}
		for _, group := range o.Tied {
			for m := range group {
				group[m] = n.survey(group[m])
			}
		}
	}
	for i := range out.Boxes {
		if !seen[out.Boxes[i].ID] {
			closed := false
			out.Boxes[i].Opened = &closed
		}
	}
	return out, n
}

// Record takes a document back to what was seen in its open boxes, with the readings: what tracing found
// behind the walls is gone, and each end of a cable that was found to be one is a cable of its own.
func Record(c *circuit.Circuit) *circuit.Circuit {
	out, _ := survey(c)
	return out
}
