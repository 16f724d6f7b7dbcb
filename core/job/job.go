// Package job looks at the circuits of a job together: which option of each, so that money, time or the number of families is
// least over all of them; what that adds up to; and which circuits hang on one breaker.
package job

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"math/bits"
	"slices"
)

// Option is what counts of one option of a circuit here.
type Option struct {
	ID         string         `json:"id"`
	Family     string         `json:"family"` // its number, S1 to S14
	FamilyName string         `json:"familyName"`
	Title      string         `json:"title"`
	Price      float64        `json:"price"`   // of its devices, in the catalogue's units
	Minutes    float64        `json:"minutes"` // of work, about
	Readings   int            `json:"readings"`
	Hubs       []string       `json:"hubs"`    // kinds of hub that it needs; the catalogue has no price for one
	Devices    map[string]int `json:"devices"` // pieces by model
}

// Circuit is one circuit with the options that fit it.
type Circuit struct {
	ID      string
	Options []Option
}

// By is what a plan for the whole job is to have least of.
type By string

// What may be least.
const (
	Price    By = "price"    // money: devices, and the minutes at the rate
	Time     By = "time"     // minutes
	Families By = "families" // ways of doing it, then money
)

// Bys lists them.
var Bys = []By{Price, Time, Families}

// Plan is one option for each circuit that any fits, with what they add up to.
type Plan struct {
	By       By                `json:"by"`
	Choices  map[string]string `json:"choices"` // by circuit, the id of an option
	Price    float64           `json:"price"`
	Minutes  float64           `json:"minutes"`
	Cost     float64           `json:"cost"` // price, and minutes at the rate
	Readings int               `json:"readings"`
	Families []string          `json:"families"`
	Hubs     []string          `json:"hubs"` // each kind once
	Devices  map[string]int    `json:"devices"`
}

// Plans are the best plans of a job by each measure, the one that was asked for first, and none twice. rate is what an hour of
// work costs. A circuit that nothing fits is in none of them.
func Plans(circuits []Circuit, by By, rate float64) []Plan {
	out := []Plan{}
	for _, b := range append([]By{by}, Bys...) {
		p := Best(circuits, b, rate)
		if len(p.Choices) > 0 && !slices.ContainsFunc(out, func(x Plan) bool { return maps.Equal(x.Choices, p.Choices) }) {
			out = append(out, p)
		}
	}
	return out
}

// Best is the plan that has least of something, over every combination of one option for each circuit; what is equal is decided by
// money, then minutes, then the order in which options are listed.
//
// Money and minutes add up by circuit: hubs have no price in the catalogue, so one circuit's choice changes nothing of another's.
// Families do not, and the sets of them are gone through, small ones first.
func Best(circuits []Circuit, by By, rate float64) Plan {
	cost := func(o Option) float64 { return o.Price + rate*o.Minutes/60 }
	less := func(a, b Option) int { return cmp.Or(cmp.Compare(cost(a), cost(b)), cmp.Compare(a.Minutes, b.Minutes)) }
	if by == Time {
		less = func(a, b Option) int { return cmp.Or(cmp.Compare(a.Minutes, b.Minutes), cmp.Compare(cost(a), cost(b))) }
	}
	all := func(Option) bool { return true }
	if by != Families {
		chosen, _ := choose(circuits, less, all)
		return sum(circuits, chosen, by, rate)
	}
	var names []string
	for _, c := range circuits {
		for _, o := range c.Options {
			if !slices.Contains(names, o.Family) {
				names = append(names, o.Family)
			}
		}
	}
	var best []*Option
	fewest, least := math.MaxInt, 0.0
	for set := range 1 << len(names) {
		n := bits.OnesCount(uint(set))
		if n > fewest {
			continue
		}
		chosen, whole := choose(circuits, less, func(o Option) bool { return set>>slices.Index(names, o.Family)&1 == 1 })
		if !whole {
			continue
		}
		total := 0.0
		for _, o := range chosen {
			if o != nil {
				total += cost(*o)
			}
		}
		if n < fewest || total < least-1e-9 {
			best, fewest, least = chosen, n, total
		}
	}
	return sum(circuits, best, by, rate)
}

// choose takes the least option of each circuit among those that may be; nil for one that nothing fits. whole is false where another
// has none of those.
func choose(circuits []Circuit, less func(a, b Option) int, may func(Option) bool) (chosen []*Option, whole bool) {
	chosen = make([]*Option, len(circuits))
	for i, c := range circuits {
		for k := range c.Options {
			if o := &c.Options[k]; may(*o) && (chosen[i] == nil || less(*o, *chosen[i]) < 0) {
				chosen[i] = o
			}
		}
		if chosen[i] == nil && len(c.Options) > 0 {
			return nil, false
		}
	}
	return chosen, true
}

func sum(circuits []Circuit, chosen []*Option, by By, rate float64) Plan {
	p := Plan{By: by, Choices: map[string]string{}, Families: []string{}, Hubs: []string{}, Devices: map[string]int{}}
	for i, o := range chosen {
		if o == nil {
			continue
		}
		p.Choices[circuits[i].ID] = o.ID
		p.Price += o.Price
		p.Minutes += o.Minutes
		p.Readings += o.Readings
		p.Families, p.Hubs = append(p.Families, o.Family), append(p.Hubs, o.Hubs...)
		for model, n := range o.Devices {
			p.Devices[model] += n
		}
	}
	p.Cost = p.Price + rate*p.Minutes/60
	slices.Sort(p.Families)
	slices.Sort(p.Hubs)
	p.Families, p.Hubs = slices.Compact(p.Families), slices.Compact(p.Hubs)
	return p
}

// ParseBy reads what a plan is to have least of.
func ParseBy(s string) (By, error) {
	if by := By(s); slices.Contains(Bys, by) {
		return by, nil
	}
	return "", fmt.Errorf("%q is none of price, time, families", s)
}
