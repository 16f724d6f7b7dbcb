package procedure

import (
	"fmt"
	"slices"

	"ambivia/core/names"
)

// Card is one stay at one place between changes of the power: its lines are done in any order that the steps allow. Box is nil
// where it concerns the whole circuit. Steps are numbers of steps, Gates those that are passed in it.
type Card struct {
	ID    string  `json:"id"`
	Title string  `json:"title"`
	Box   *string `json:"box"`
	Phase Phase   `json:"phase"` // of its last line
	Steps []int   `json:"steps"`
	Gates []Gate  `json:"gates"`
}

// Cards sorts steps, as they stand, into stays. Every step is in exactly one.
func Cards(steps []Step, say names.Terms) []Card {
	out := []Card{}
	for i, stay := range stays(steps) {
		c := Card{ID: fmt.Sprintf("c%d", i+1), Steps: stay, Gates: []Gate{}, Phase: steps[stay[len(stay)-1]-1].Phase}
		if at := placeOf(steps[stay[0]-1]); at != "" {
			c.Box = &at
		}
		for _, n := range stay {
			if g := steps[n-1].Gate; g != "" {
				c.Gates = append(c.Gates, g)
			}
		}
		c.Title = say.Expand(c.title(steps))
		out = append(out, c)
	}
	return out
}

// StayOf lists the steps, by number, of the stay in which a step is made.
func StayOf(steps []Step, number int) []int {
	list := stays(steps)
	return list[slices.IndexFunc(list, func(stay []int) bool { return slices.Contains(stay, number) })]
}

// stays sorts steps into stays, by number.
func stays(steps []Step) [][]int {
	var out [][]int
	for i, s := range steps {
		if i == 0 || placeOf(s) != placeOf(steps[i-1]) || parts(steps[i-1], s) {
			out = append(out, nil)
		}
		out[len(out)-1] = append(out[len(out)-1], i+1)
	}
	return out
}

// placeOf is the box at which one stands for a step; what is paired or set is done from anywhere in the house.
func placeOf(s Step) string {
	if s.Phase == Linking && (s.Kind == KindPair || s.Kind == KindSet) {
		return ""
	}
	return s.Box
}

// parts reports whether the power changes between two steps at one place.
func parts(before, next Step) bool {
	return next.Gate == OffGate && before.Kind != KindGate || next.Gate == CapsGate || next.Kind == KindPowerOf ||
		next.Kind == KindPowerOn && before.Gate != CapsGate || before.Kind == KindPowerOf || before.Gate == OffGate ||
		before.Kind == KindPowerOn && next.Phase != Linking && before.Phase != Trying
}

// title says in a few words what is done.
func (c *Card) title(steps []Step) string {
	has := func(is func(Step) bool) bool {
		return slices.ContainsFunc(c.Steps, func(n int) bool { return is(steps[n-1]) })
	}
	phase := func(p Phase) bool { return has(func(s Step) bool { return s.Phase == p && s.Kind != KindGate }) }
	kind := func(k string) bool { return has(func(s Step) bool { return s.Kind == k }) }
	if c.Box != nil {
		where := steps[c.Steps[0]-1].Where + ": "
		switch {
		case phase(Lifting) && phase(Joining):
			return where + "take off, rewire, close"
		case phase(Joining):
			return where + "rewire, close"
		case phase(Lifting):
			return where + "take off what changes"
		case phase(Trying):
			return where + "try"
		case phase(Closing):
			return where + "close"
		case kind(KindTest):
			return where + "one reading first"
		case phase(Linking):
			return where + "put up and try"
		}
		return where + "look before the power goes off"
	}
	switch {
	case slices.Contains(c.Gates, CapsGate):
		return "First time under power"
	case slices.Contains(c.Gates, OffGate):
		return "Power off"
	case kind(KindPowerOf):
		return "Power off again"
	case kind(KindPowerOn):
		return "Power on, links, and the last trial"
	case phase(Linking):
		return "Links, and the last trial"
	case phase(Lifting) || phase(Joining):
		return "Between the boxes"
	}
	return "Before you begin"
}

// Visits counts how often the work goes to each box.
func Visits(cards []Card) map[string]int {
	out := map[string]int{}
	for _, c := range cards {
		if c.Box != nil {
			out[*c.Box]++
		}
	}
	return out
}

// Cards are the stays of the procedure.
func (p *Procedure) Cards() []Card { return Cards(p.Steps, p.Planned.Terms()) }
