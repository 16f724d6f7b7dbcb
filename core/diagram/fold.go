package diagram

import "slices"

// unfolded is the number of boxes in a row that never turns.
const unfolded = 0

// mostAlone is how many boxes that hang on no other stand in one row.
const mostAlone = 4

// benchW and benchH are the room that a drawing has beside the inspector on a screen of 1280 by 800, in pixels.
const (
	benchW = 880.0
	benchH = 560.0
)

// worthTurning is by how much larger a drawing has to be shown for rows to turn: a turn costs crossings in each box after it.
// Below leastTurned it cannot be read at once either way, and one row is easier to follow.
const (
	worthTurning = 1.15
	leastTurned  = 0.5
)

// scale is how large boxes and cables are shown on the bench, at most as drawn.
func (f *Frame) scale() float64 {
	return min(1, benchW/(f.w-margin), benchH/(f.h-titleSpace-margin))
}

// turn is how a row goes on in the next one after a box: the next box hangs right below it. Where two hang on it, that is the one on
// which nothing more hangs, and the other goes on beside that.
type turn struct{ leaf string }

// turns lists the boxes after which a row turns back: every so many along the way from a box to others. Where more ways lead on,
// or cables close a ring, rows go on as they run: what turned there would run into its own branches.
func (f *Frame) turns(from string, most int) map[string]turn {
	out := map[string]turn{}
	if most == unfolded {
		return out
	}
	met := map[string]bool{}
	for n, at := 1, from; ; n++ {
		met[at] = true
		ways := f.beside(at, met)
		for _, next := range ways {
			if len(f.beside(next, nil)) != len(f.beside(next, met))+1 {
				return out // a ring
			}
		}
		leaf := slices.IndexFunc(ways, func(next string) bool { return len(f.beside(next, met)) == 0 })
		switch turning := n%most == 0; {
		case len(ways) == 1 && turning:
			out[at] = turn{}
		case len(ways) == 1:
		case len(ways) == 2 && turning && leaf >= 0:
			out[at] = turn{ways[leaf]}
			ways = slices.Delete(ways, leaf, leaf+1)
			n++ // it stands beside the leaf
		default:
			return out
		}
		at = ways[0]
	}
}

// beside lists the boxes to which cables lead from a box, but those that were met.
func (f *Frame) beside(box string, met map[string]bool) []string {
	var out []string
	for _, k := range f.doc.Cables {
		if other, ok := k.Other(box); k.In(box) && ok && other != box && !met[other] && !slices.Contains(out, other) {
			out = append(out, other)
		}
	}
	return out
}
