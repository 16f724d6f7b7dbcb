package retrofit

import (
	"encoding/json"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/electric"
)

// How strongly a wish is meant.
const (
	Must = "must"
	Nice = "nice"
)

// The wishes that a customer or an electrician may have.
const (
	DimOne       = "dim-one"       // dimming, from one place at least
	DimAll       = "dim-all"       // dimming from every place
	ScenesWish   = "scenes"        // several taps call scenes
	UpIsOnWish   = "up-is-on"      // up is on at every place
	NoBattery    = "no-battery"    // no batteries to change
	NoInternet   = "no-internet"   // works without the internet
	NoHub        = "no-hub"        // works without a hub
	KeepSwitches = "keep-switches" // at most one old switch goes
	FewestBoxes  = "fewest-boxes"  // work in as few boxes as any option needs
	ColourWish   = "colour"        // every new face in the colour named
	RadioWish    = "radio"         // a radio that the house has
	BudgetWish   = "budget"        // devices within the sum named
	EvenIfDead   = "works-if-dead" // works by hand when the smart device is dead
	NoLadder     = "no-ladder"     // no work at the lamp
	NoRemark     = "no-re-marking" // every conductor keeps its colour
)

// WishWords says each wish in a person's words, in the order in which they are offered.
var WishWords = []struct{ ID, Text string }{
	{DimOne, "Dims from one place"}, {DimAll, "Dims from every place"}, {ScenesWish, "Scenes by several taps"}, {UpIsOnWish, "Up is on, everywhere"},
	{NoBattery, "No batteries"}, {NoInternet, "Works without the internet"}, {NoHub, "Works without a hub"}, {EvenIfDead, "Works by hand if the device dies"},
	{KeepSwitches, "Keep the old switches"}, {FewestBoxes, "Fewest boxes opened"}, {NoLadder, "No work at the lamp"}, {NoRemark, "No re-marking"},
	{ColourWish, "Faces in one colour"}, {RadioWish, "A radio that the house has"}, {BudgetWish, "Within a budget"},
}

// Wishes is what somebody wants: by wish "must" or "nice". Colour, Radio and Budget say
// what the wishes of those names mean.
type Wishes struct {
	Wishes map[string]string `json:"wishes,omitempty"`
	Colour string            `json:"colour,omitempty"`
	Radio  []string          `json:"radio,omitempty"`
	Budget float64           `json:"budget,omitempty"`
	// Conventions are answers to the questions of [Conventions], where they are not the defaults.
	Conventions map[string]string `json:"schools,omitempty"`
	// HoursPerDay is how long the lamps burn, EnergyPrice what a kilowatt-hour costs in the
	// unit of the prices. Where they are nought no cost of energy is told.
	HoursPerDay float64 `json:"hoursPerDay,omitempty"`
	EnergyPrice float64 `json:"energyPrice,omitempty"`
	// Cores are conductors that shall carry what a person says, as the house has it.
	Cores []FixedCore `json:"cores,omitempty"`
}

// FixedCore is a core of a cable with what it shall carry in the plan: "line", "load",
// "neutral", "traveler" or "signal".
type FixedCore struct {
	Core circuit.Ref   `json:"core"`
	Role electric.Role `json:"role"`
}

// mostFixed bounds the cores that a person may fix.
const mostFixed = 64

// FixableRoles are the roles that a person may fix a core for.
var FixableRoles = []electric.Role{electric.Line, electric.Load, electric.Neutral, electric.Traveler, electric.Signal}

// maxWishesBytes bounds a file of wishes.
const maxWishesBytes = 64 << 10

// ReadWishes reads a file of wishes. The error names what is wrong in it.
func ReadWishes(r io.Reader) (Wishes, error) {
	dec := json.NewDecoder(io.LimitReader(r, maxWishesBytes))
	dec.DisallowUnknownFields()
	var w Wishes
	if err := dec.Decode(&w); err != nil {
		return w, fmt.Errorf("wishes: %s", strings.TrimPrefix(err.Error(), "json: "))
	}
	return w, w.Validate()
}

// WishError says what is wrong with wishes that came from outside, and at which place.
type WishError struct{ Place, Text string }

// Error is the place and the text.
func (e *WishError) Error() string { return e.Place + ": " + e.Text }

func wrongWish(place, format string, args ...any) error {
	return &WishError{place, fmt.Sprintf(format, args...)}
}

// Validate says what is wrong with wishes that came from outside. The error is a [*WishError].
func (w Wishes) Validate() error {
	for id, how := range w.Wishes {
		if !slices.ContainsFunc(WishWords, func(x struct{ ID, Text string }) bool { return x.ID == id }) {
			return wrongWish("wishes."+id, "there is no such wish")
		}
		if how != Must && how != Nice {
			return wrongWish("wishes."+id, "%q is neither must nor nice", how)
		}
	}
	for id, answer := range w.Conventions {
		i := slices.IndexFunc(Conventions, func(x Convention) bool { return x.ID == id })
		if i < 0 {
			return wrongWish("schools."+id, "there is no such question")
		}
		if !slices.ContainsFunc(Conventions[i].Choices, func(c ConventionChoice) bool { return c.ID == answer }) {
			return wrongWish("schools."+id, "%q is no answer to it", answer)
		}
	}
	if len(w.Cores) > mostFixed {
		return wrongWish("cores", "at most %d may be fixed", mostFixed)
	}
	for i, x := range w.Cores {
		if !slices.Contains(FixableRoles, x.Role) {
			return wrongWish(fmt.Sprintf("cores[%d].role", i), "%q is nothing that a core can be fixed for", x.Role)
		}
		if slices.ContainsFunc(w.Cores[:i], func(y FixedCore) bool { return x.Core == y.Core }) {
			return wrongWish(fmt.Sprintf("cores[%d].core", i), "%s is fixed already", x.Core)
		}
	}
	switch {
	case w.HoursPerDay < 0 || w.HoursPerDay > 24:
		return wrongWish("hoursPerDay", "must be between nought and 24")
	case w.EnergyPrice < 0 || w.EnergyPrice > 1000:
		return wrongWish("energyPrice", "must be between nought and a thousand")
	case w.Budget < 0 || w.Budget > 1e6 || math.IsNaN(w.Budget):
		return wrongWish("budget", "must be between nought and a million")
	case w.Wishes[BudgetWish] != "" && w.Budget == 0:
		return wrongWish("budget", "the wish for a budget needs a sum")
	case w.Wishes[ColourWish] != "" && w.Colour == "":
		return wrongWish("colour", "the wish for a colour needs one")
	case w.Wishes[RadioWish] != "" && len(w.Radio) == 0:
		return wrongWish("radio", "the wish for a radio needs those that the house has")
	}
	return nil
}

// Wished is one wish and whether an option meets it.
type Wished struct {
	Wish string `json:"wish"`
	How  string `json:"how"`
	Met  bool   `json:"met"`
	Text string `json:"text"`
}

// Conflict is wishes that no option meets together.
type Conflict struct {
	Wishes []string `json:"wishes"`
	Text   string   `json:"text"`
}

// prefer counts how well a kit suits the wishes that depend on the devices alone, to choose
// between kits that are wired alike.
func (w Wishes) prefer(k kit, l circuit.Load) int {
	points := 0
	worth := func(wish string, met bool) {
		if met {
			points += map[string]int{Must: 100, Nice: 20}[w.Wishes[wish]]
		}
	}
	devices := []device.Device{k.main}
	if k.companion != nil {
		devices = append(devices, *k.companion)
	}
	every := func(is func(device.Device) bool) bool {
		return !slices.ContainsFunc(devices, func(d device.Device) bool { return !is(d) })
	}
	worth(DimOne, k.dims())
	worth(DimAll, k.dims() && every(func(d device.Device) bool { return d.Dims }))
	worth(ScenesWish, slices.ContainsFunc(devices, func(d device.Device) bool { return d.Scenes }))
	worth(UpIsOnWish, every(func(d device.Device) bool { return d.UpIsOn }))
	worth(NoHub, every(func(d device.Device) bool { return d.Hub != "needed" }))
	worth(NoInternet, every(func(d device.Device) bool { return d.Local }))
	worth(ColourWish, every(func(d device.Device) bool { return len(d.Colours) == 0 || slices.Contains(d.Colours, w.Colour) }))
	worth(RadioWish, every(func(d device.Device) bool { return w.hasRadio(d) }))
	if share, refused := k.main.Limits.Share(l.Watts); refused == "" && len(k.main.Limits) > 0 && l.Known() && share <= 1 {
		points++
	}
	return points
}

func (w Wishes) hasRadio(d device.Device) bool {
	return len(d.Radio) == 0 || slices.ContainsFunc(d.Radio, func(r string) bool { return slices.Contains(w.Radio, r) })
}

// halfScore is the effort at which the part of a score that weighs work is one half.
const halfScore = 60

// judge scores the feasible options and says which wishes each meets. The order of
// decision is wiring, companion, device: work weighs most, then what can be done and what
// fails, then the price.
func (p *planner) judge(a *Result) {
	fewest := math.MaxInt
	for _, o := range a.Options {
		if o.Feasible {
			fewest = min(fewest, o.Metrics.BoxesTouched)
		}
	}
	w := p.request.Wishes
	for i := range a.Options {
		o := &a.Options[i]
		if !o.Feasible {
			continue
		}
		effort := o.Metrics.effort()
		work, price := halfScore/(halfScore+effort), halfPrice/(halfPrice+o.Metrics.Price)
		score := 0.7*work + 0.2*quality(o) + 0.1*price
		if w.conventionOf(conventionOrder) == "product" {
			score = 0.4*work + 0.4*quality(o) + 0.2*price
		}
		score *= w.conventionsKept(o)
		for range o.Metrics.PlacesLost { // a place from which nobody can switch any more
			score *= lostPlace
		}
		met, of := 0.0, 0.0
		for _, x := range WishWords {
			how := w.Wishes[x.ID]
			if how == "" {
				continue
			}
			is := p.meets(o, x.ID, fewest)
			o.Wishes = append(o.Wishes, Wished{x.ID, how, is, x.Text})
			weight := map[string]float64{Must: 3, Nice: 1}[how]
			of += weight
			if is {
				met += weight
			} else if how == Must {
				score *= unmetMust
			}
		}
		if of > 0 {
			score = score/2 + met/of/2*math.Min(1, score*2)
		}
		score = math.Round(1000*score) / 10
		o.Score = &score
	}
	p.neutralFirst(a.Options)
	comparePrices(a.Options)
	a.Conflicts = conflicts(a.Options, w)
}

// neutralFirst puts a device that takes its power through the lamp behind the best one with a
// neutral, for the same light in the same box, where there is a neutral in that box: it needs a
// minimum load and lets a little current through dark lamps, for nothing.
func (p *planner) neutralFirst(options []Option) {
	type spot struct{ light, box string }
	best := map[spot]float64{}
	main := func(o *Option) (device.Device, spot, bool) {
		if !o.Feasible || o.Score == nil || len(o.Devices) == 0 {
			return device.Device{}, spot{}, false
		}
		d, known := p.library.Get(o.Devices[0].Device)
		return d, spot{fmt.Sprint(o.Light), o.Devices[0].Box}, known
	}
	for i := range options {
		if d, at, ok := main(&options[i]); ok && !d.ThroughLoad && d.At("neutral") != "" && p.hasNeutral(at.box) {
			best[at] = max(best[at], *options[i].Score)
		}
	}
	for i := range options {
		d, at, ok := main(&options[i])
		if rival, have := best[at]; ok && d.ThroughLoad && have && *options[i].Score >= rival {
			behind := math.Max(0, math.Round(10*rival-1)/10)
			options[i].Score = &behind
		}
	}
}

// hasNeutral reports whether there is a neutral in a box as found.
func (p *planner) hasNeutral(box string) bool {
	for _, m := range p.doc.EndsIn(box) {
		if p.roles[circuit.End{Ref: m, Box: box}] == electric.Neutral {
			return true
		}
	}
	return false
}

// standsAlone reports whether every place of an option works without hub and internet.
func standsAlone(o Option) bool {
	return !slices.ContainsFunc(o.Outages, func(x Outage) bool {
		return (x.When == "hub" || x.When == "internet") && len(x.Lost) > 0
	})
}

// comparePrices sets a single device against the cheapest kit of two or more, and each option
// against smart lamps: what is saved, and what lamps would cost instead.
func comparePrices(options []Option) {
	kit, lamps := map[int]float64{}, map[int]float64{} // by group
	cheapest := func(by map[int]float64, o Option) {
		if was, ok := by[o.group]; !ok || o.Metrics.Price < was {
			by[o.group] = o.Metrics.Price
		}
	}
	for _, o := range options {
		switch {
		case !o.Feasible:
		case o.Strategy == SmartLamps:
			cheapest(lamps, o)
		case o.Metrics.Devices > 1 && o.Strategy != CentralModule && standsAlone(o):
			cheapest(kit, o)
		}
	}
	for i := range options {
		o := &options[i]
		if !o.Feasible {
			continue
		}
		if sum, ok := kit[o.group]; ok && o.Metrics.Devices == 1 && sum > o.Metrics.Price {
			o.Metrics.SavedAgainstKit = rounded(sum - o.Metrics.Price)
		}
		if sum, ok := lamps[o.group]; ok && o.Strategy != SmartLamps {
			o.Metrics.LampsInstead = &sum
		}
	}
}

const (
	halfPrice = 100  // the price at which the part of a score that weighs it is one half
	lostPlace = 0.6  // what a place that has no control any more leaves of a score
	unmetMust = 0.25 // what a must that is not met leaves of a score
)

// quality is between nought and one: what can be done from the places, and what fails.
func quality(o *Option) float64 {
	points, of := 0.0, 0.0
	count := func(is bool, weight float64) {
		of += weight
		if is {
			points += weight
		}
	}
	for _, q := range o.Places {
		count(q.Dims, 1)
		count(q.UpIsOn, 1)
		count(!q.Battery, 2)
	}
	for _, x := range o.Outages {
		for range x.Works {
			count(true, 0.5)
		}
		for range x.Lost {
			count(false, 0.5)
		}
	}
	return points / max(of, 1)
}

// meets reports whether an option meets a wish.
func (p *planner) meets(o *Option, wish string, fewest int) bool {
	w := p.request.Wishes
	every := func(is func(Place) bool) bool {
		return len(o.Places) > 0 && !slices.ContainsFunc(o.Places, func(q Place) bool { return !is(q) })
	}
	lost := func(when string) bool {
		return slices.ContainsFunc(o.Outages, func(x Outage) bool { return x.When == when && len(x.Lost) > 0 })
	}
	devices := func(is func(device.Device) bool) bool {
		return !slices.ContainsFunc(o.Devices, func(f Fitted) bool {
			d, _ := p.library.Get(f.Device)
			return !is(d)
		})
	}
	switch wish {
	case DimOne:
		return slices.ContainsFunc(o.Places, func(q Place) bool { return q.Dims })
	case DimAll:
		return every(func(q Place) bool { return q.Dims })
	case ScenesWish:
		return slices.ContainsFunc(o.Places, func(q Place) bool { return q.Scenes })
	case UpIsOnWish:
		return every(func(q Place) bool { return q.UpIsOn })
	case NoBattery:
		return o.Metrics.Batteries == 0
	case NoInternet:
		return !lost("internet") && devices(func(d device.Device) bool { return d.Local })
	case NoHub:
		return !lost("hub") && devices(func(d device.Device) bool { return d.Hub != "needed" })
	case EvenIfDead:
		return slices.ContainsFunc(o.Outages, func(x Outage) bool { return x.When == "device" && len(x.Works) > 0 })
	case KeepSwitches:
		return o.Metrics.SwitchesKept >= len(p.switchesOf(o))-1
	case FewestBoxes:
		return o.Metrics.BoxesTouched <= fewest
	case NoLadder:
		return o.Metrics.Ladders == 0
	case NoRemark:
		return o.Metrics.Remarked == 0
	case ColourWish:
		return devices(func(d device.Device) bool { return len(d.Colours) == 0 || slices.Contains(d.Colours, w.Colour) })
	case RadioWish:
		return devices(w.hasRadio)
	case BudgetWish:
		return o.Metrics.Price <= w.Budget
	}
	return false
}

// switchesOf lists the old switches that an option is about: those that stay, and those
// that are gone.
func (p *planner) switchesOf(o *Option) []string {
	var out []string
	for _, q := range o.Places {
		if q.Kept {
			out = append(out, q.Device)
		}
	}
	for _, d := range p.doc.Devices {
		if d.Mechanical() && o.After.Device(d.ID) == nil {
			out = append(out, d.ID)
		}
	}
	return out
}

// conflicts names the smallest sets of musts that no option meets together.
func conflicts(options []Option, w Wishes) []Conflict {
	var musts []string
	for _, x := range WishWords {
		if w.Wishes[x.ID] == Must {
			musts = append(musts, x.ID)
		}
	}
	var met []int // by feasible option: the musts that it meets, as bits
	for _, o := range options {
		if !o.Feasible {
			continue
		}
		bits := 0
		for i, id := range musts {
			if slices.ContainsFunc(o.Wishes, func(x Wished) bool { return x.Wish == id && x.Met }) {
				bits |= 1 << i
			}
		}
		met = append(met, bits)
	}
	if len(met) == 0 || slices.Contains(met, 1<<len(musts)-1) {
		return nil
	}
	words := map[string]string{}
	for _, x := range WishWords {
		words[x.ID] = x.Text
	}
	var out []Conflict
	for size := 1; size <= len(musts) && out == nil; size++ {
		for set := range 1 << len(musts) {
			if popcount(set) != size || slices.ContainsFunc(met, func(m int) bool { return m&set == set }) {
				continue
			}
			c := Conflict{}
			var names []string
			for i, id := range musts {
				if set>>i&1 == 1 {
					c.Wishes = append(c.Wishes, id)
					names = append(names, "“"+words[id]+"”")
				}
			}
			c.Text = "No way of wiring these conductors meets " + strings.Join(names, " together with ") + "."
			out = append(out, c)
		}
	}
	return out
}

func popcount(x int) int {
	n := 0
	for ; x != 0; x &= x - 1 {
		n++
	}
	return n
}
