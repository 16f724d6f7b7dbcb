package circuit

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
)

// Difference is one thing that differs between two versions of a circuit: a box, cable or device by its id, the wiring of a
// box, or one of the parts that have no id. How is "added", "changed" or "removed".
type Difference struct{ Kind, ID, How string }

// Kinds of differences beside "box", "cable" and "device".
const (
	DiffWiring   = "wiring"
	DiffCircuit  = "circuit"
	DiffMarks    = "marks"
	DiffReadings = "readings"
	DiffModels   = "models"
)

// Diff lists what differs between two versions of a circuit: things that came, went or changed, and joins by box. It is
// empty when the two say the same.
func Diff(before, after *Circuit) []Difference {
	out := []Difference{}
	head := func(c *Circuit) Circuit {
		return Circuit{Name: c.Name, Practice: c.Practice, Supply: c.Supply}
	}
	if text(head(before)) != text(head(after)) {
		out = append(out, Difference{Kind: DiffCircuit, How: "changed"})
	}
	compare := func(kind string, a, b map[string]string) {
		for _, id := range slices.Sorted(maps.Keys(b)) {
			if was, known := a[id]; !known {
				out = append(out, Difference{kind, id, "added"})
			} else if was != b[id] {
				out = append(out, Difference{kind, id, "changed"})
			}
		}
		for _, id := range slices.Sorted(maps.Keys(a)) {
			if _, still := b[id]; !still {
				out = append(out, Difference{kind, id, "removed"})
			}
		}
	}
	byID := func(c *Circuit) (boxes, cables, devices, joins map[string]string) {
		boxes, cables, devices, joins = map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}
		for _, b := range c.Boxes {
			boxes[b.ID] = text(b)
		}
		for _, k := range c.Cables {
			cables[k.ID] = text(k)
		}
		for _, d := range c.Devices {
			devices[d.ID] = text(d)
		}
		for _, j := range c.Joins {
			members := make([]string, len(j.Of))
			for i, r := range j.Of {
				members[i] = r.String()
			}
			slices.Sort(members)
			joins[j.Box] += strings.Join(members, " ") + "\n"
		}
		for box, lines := range joins {
			sorted := strings.Split(lines, "\n")
			slices.Sort(sorted)
			joins[box] = strings.Join(sorted, "\n")
		}
		return boxes, cables, devices, joins
	}
	b1, k1, d1, j1 := byID(before)
	b2, k2, d2, j2 := byID(after)
	compare("box", b1, b2)
	compare("cable", k1, k2)
	compare("device", d1, d2)
	compare(DiffWiring, j1, j2)
	if text(inOrder(before.Marks)) != text(inOrder(after.Marks)) {
		out = append(out, Difference{Kind: DiffMarks, How: "changed"})
	}
	if text(before.Observations) != text(after.Observations) {
		out = append(out, Difference{Kind: DiffReadings, How: "changed"})
	}
	models := len(before.Models)+len(after.Models) > 0 && text(before.Models) != text(after.Models)
	if models || len(before.Links)+len(after.Links) > 0 && text(before.Links) != text(after.Links) {
		out = append(out, Difference{Kind: DiffModels, How: "changed"})
	}
	return out
}

func text(v any) string {
	data, err := json.Marshal(v)
	if err != nil {
		panic("circuit: parts of a document always marshal: " + err.Error())
	}
	return string(data)
}

// inOrder lists marks by their ends: in which order they were put on says nothing.
func inOrder(marks []Mark) []Mark {
	return slices.SortedFunc(slices.Values(marks), func(a, b Mark) int { return strings.Compare(a.End.String(), b.End.String()) })
}
