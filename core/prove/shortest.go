package prove

import (
	"context"
	"slices"
	"strings"
)

// How far ahead the next presses are chosen, and from how many places after so many presses it is gone on at once when a
// shorter sequence is looked for.
const (
	mostAhead = 3
	mostWays  = 100
)

// sequence finds presses that reveal all that presses can: greedily, then by going many ways at once, as many presses deep
// as would be fewer; without those that are not needed.
func (s *search) sequence(ctx context.Context) []int {
	all := s.alive()
	var out []int
	for left := all; len(left) > 0 && ctx.Err() == nil; {
		more := s.ahead(left)
		if more == nil {
			break
		}
		out = append(out, more...)
		left = s.play(left, more)
	}
	out = s.needed(ctx, all, out)
	for ctx.Err() == nil {
		shorter := s.within(ctx, all, len(out)-1)
		if shorter == nil {
			break
		}
		out = s.needed(ctx, all, shorter)
	}
	return out
}

// needed leaves out what is not needed.
func (s *search) needed(ctx context.Context, all []int32, presses []int) []int {
	for i := 0; i < len(presses) && ctx.Err() == nil; {
		without := slices.Delete(slices.Clone(presses), i, i+1)
		if len(s.play(all, without)) == 0 {
			presses, i = without, 0
			continue
		}
		i++
	}
	return presses
}

// ahead is the next presses, a few at most, that reveal the most for each; where none reveal
// anything so soon, those that reveal one trial soonest. It never goes where one could not be
// revealed any more, if there is another way.
func (s *search) ahead(left []int32) []int {
	var best []int
	rate := 0.0
	var try func(list []int32, so []int)
	try = func(list []int32, so []int) {
		if n := len(so); n > 0 {
			if r := float64(len(left)-len(list)) / float64(n); r > rate && !s.stuck(list) {
				best, rate = slices.Clone(so), r
			}
		}
		if len(so) == mostAhead || len(list) == 0 {
			return
		}
		for press := range s.controls {
			try(s.play(list, []int{press}), append(so, press))
		}
	}
	try(left, nil)
	if best != nil {
		return best
	}
	return s.soonest(left[0])
}

// soonest is the shortest way to reveal one trial.
func (s *search) soonest(from int32) []int {
	type way struct {
		t       int32
		presses []int
	}
	met := map[int32]bool{from: true}
	for todo := []way{{from, nil}}; len(todo) > 0; todo = todo[1:] {
		at := todo[0]
		for press := range s.controls {
			t, presses := s.next[int(at.t)*s.width+press], append(slices.Clone(at.presses), press)
			if t == revealed {
				return presses
			}
			if !met[t] {
				met[t] = true
				todo = append(todo, way{t, presses})
			}
		}
	}
	return nil
}

// within finds a sequence of so many presses at most, or nil. After each press it goes on from those places that leave the
// fewest, each place once however it was come to: it is the shortest there is as long as that leaves none out.
func (s *search) within(ctx context.Context, all []int32, most int) []int {
	type way struct {
		left    []int32
		presses []int
	}
	ways := []way{{all, nil}}
	met := map[string]bool{}
	for range most {
		var next []way
		for _, at := range ways {
			if ctx.Err() != nil {
				return nil
			}
			for press := range s.controls {
				left := s.play(at.left, []int{press})
				presses := append(slices.Clone(at.presses), press)
				if len(left) == 0 {
					return presses
				}
				if key := keyOf(left); !met[key] && !s.stuck(left) {
					met[key] = true
					next = append(next, way{left, presses})
				}
			}
		}
		slices.SortStableFunc(next, func(a, b way) int { return len(a.left) - len(b.left) })
		ways = next[:min(len(next), mostWays)]
	}
	return nil
}

// keyOf is one word for a list of trials.
func keyOf(list []int32) string {
	var b strings.Builder
	for _, t := range list {
		b.Write([]byte{byte(t), byte(t >> 8), byte(t >> 16), byte(t >> 24)})
	}
	return b.String()
}
