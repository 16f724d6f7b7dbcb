package retrofit

import "slices"

// Pick is a plan that is worth a first look, with the reasons.
type Pick struct {
	Option  string   `json:"option"`
	Reasons []string `json:"reasons"`
}

// mostPicks is how many plans are put before a person first.
const mostPicks = 3

// mostReasons is how many reasons are given for each.
const mostReasons = 3

// first picks up to three plans that differ in what speaks for them. The options are sorted, the best first; each aspect picks the
// best that has it, and one that is the same for all plans picks none.
func first(options []Option, wished bool) []Pick {
	fits := slices.DeleteFunc(slices.Clone(options), func(o Option) bool { return !o.Feasible })
	if len(fits) == 0 {
		return nil
	}
	every := func(q []Place, has func(Place) bool) bool {
		return len(q) > 0 && !slices.ContainsFunc(q, func(p Place) bool { return !has(p) })
	}
	least := func(of func(*Option) float64) func(*Option) bool {
		lowest := of(&fits[0])
		for i := range fits {
			lowest = min(lowest, of(&fits[i]))
		}
		return func(o *Option) bool { return of(o) <= lowest }
	}
	best := "best overall"
	if wished {
		best = "meets your preferences best"
	}
	aspects := []struct {
		text string
		has  func(*Option) bool
	}{
		{best, func(o *Option) bool { return o.ID == fits[0].ID }},
		{"no reading to go", func(o *Option) bool { return len(o.Relies) == 0 }},
		{"least work", least(func(o *Option) float64 { return o.Metrics.Minutes })},
		{"dims from every place", func(o *Option) bool { return every(o.Places, func(q Place) bool { return q.Dims }) }},
		{"lowest price", least(func(o *Option) float64 { return o.Metrics.Price })},
		{"works without hub and internet", func(o *Option) bool {
			return !slices.ContainsFunc(o.Outages, func(x Outage) bool { return (x.When == "hub" || x.When == "internet") && len(x.Lost) > 0 })
		}},
		{"opens the fewest boxes", least(func(o *Option) float64 { return float64(o.Metrics.BoxesTouched) })},
		{"keeps the most switches", least(func(o *Option) float64 { return -float64(o.Metrics.SwitchesKept) })},
	}
	var out []Pick
	for _, a := range aspects {
		i := slices.IndexFunc(fits, func(o Option) bool { return a.has(&o) })
		if i < 0 || len(fits) > 1 && !slices.ContainsFunc(fits, func(o Option) bool { return !a.has(&o) }) {
			continue // none has it, or all do
		}
		// One that is picked already and has it too is not outdone by another.
		k := slices.IndexFunc(out, func(x Pick) bool {
			return a.has(&fits[slices.IndexFunc(fits, func(o Option) bool { return o.ID == x.Option })])
		})
		switch {
		case k >= 0 && len(out[k].Reasons) >= mostReasons:
		case k >= 0:
			out[k].Reasons = append(out[k].Reasons, a.text)
		case len(out) < mostPicks:
			out = append(out, Pick{fits[i].ID, []string{a.text}})
		}
	}
	return out
}
