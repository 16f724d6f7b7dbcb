package retrofit

import "slices"

// School is a question on which practitioners disagree. The default is the safer choice,
// and Why says so.
type School struct {
	ID      string         `json:"id"`
	Asks    string         `json:"asks"`
	Default string         `json:"default"`
	Why     string         `json:"why"`
	Choices []SchoolChoice `json:"choices"`
}

// SchoolChoice is one answer to it, with its consequence.
type SchoolChoice struct {
	ID          string `json:"id"`
	Text        string `json:"text"`
	Consequence string `json:"consequence"`
}

// Questions on which practitioners disagree.
const (
	schoolReplace = "replace"
	schoolLoad    = "load"
	schoolLinks   = "links"
	schoolHub     = "hub"
	schoolModule  = "module"
	schoolOrder   = "order"
	schoolLamps   = "lamps"
	schoolSecond  = "second"
	schoolSpares  = "spares"
)

// Schools lists the questions, with the texts in canonical words in braces.
var Schools = []School{
	{schoolReplace, "Replace one switch or all?", "one", "Fewer boxes are opened and fewer ends moved; what works stays.", []SchoolChoice{
		{"one", "One, where that will do", "The other places keep the feel and the look of the old switches."},
		{"all", "All, so that every place feels alike", "More boxes opened, more devices bought and kept alive."}}},
	{schoolLoad, "Where is the {load} seen at a powered remote?", "bypass", "A remote that holds only {line} cannot be taken for a switch of the lamp.", []SchoolChoice{
		{"bypass", "By-passing the remote's box", "The {load} is joined through and cannot be read at the remote."},
		{"joined", "Joined in it", "Electrically the same; one more screw that is live while the lamp burns."}}},
	{schoolLinks, "Scenes or mirroring between devices?", "scenes", "Two rules, single tap up for on and down for off, cannot get out of step.", []SchoolChoice{
		{"scenes", "Scenes: taps are rules", "Two to four taps call 25, 50, 75 and 100 %. A hub, or devices that keep scenes, must carry them."},
		{"mirroring", "Mirroring: each follows the other", "One way it gets out of step: one must tap to the lamp's present state first. Two ways it may chase its own tail, on dimmers visibly ramping up and down; rates and lowest levels must be alike."}}},
	{schoolHub, "A local hub, or the cloud?", "local", "It works while the internet does not.", []SchoolChoice{
		{"local", "Local", "A hub or broker in the house, to be kept alive."},
		{"cloud", "Cloud", "Nothing to keep in the house; without the internet only the device that carries the lamp works."}}},
	{schoolModule, "A module behind the switch, or a new face?", "face", "A face leaves room in the box and can be reached without taking a switch off.", []SchoolChoice{
		{"face", "A new face", "The look of the switch changes."},
		{"module", "A module", "The old look stays; depth and heat in the box have to be looked at."}}},
	{schoolOrder, "Wiring first, or product first?", "wiring", "Starting from a favourite product and fitting the house to it is the usual mistake.", []SchoolChoice{
		{"wiring", "Wiring first", "Options with the least work stand first."},
		{"product", "Product first", "What a device can do, and its price, weigh as much as the work."}}},
	{schoolLamps, "Smart switches, or smart lamps?", "switches", "A wall switch that anyone turns off takes a smart lamp's power.", []SchoolChoice{
		{"switches", "Smart switches", "One device for all lamps."},
		{"lamps", "Smart lamps", "Colour and level lamp by lamp; each lamp is bought, and the old switches must go."}}},
	{schoolSecond, "Dimming from the second place by taps, or true ramping from both?", "ramp", "Hold to dim is what people expect of a dimmer.", []SchoolChoice{
		{"ramp", "True ramping", "Needs a companion that dims."},
		{"taps", "Taps call levels", "Any companion with scenes will do; the way there is slower than the main's own."}}},
	{schoolSpares, "A {traveler} that is left over: cap it, or join it to the other?", "cap", "Two small conductors tied together as one are not allowed in most codes: if one comes loose, nobody notices.", []SchoolChoice{
		{"cap", "Capped at both ends", "It is there, dead and labelled, for whoever comes next."},
		{"join", "Joined at both ends to the other", "Common in the field; fewer caps. The two then count as one conductor, and an inspector may ask for them to be parted."}}},
}

// schoolOf returns a person's answer to a question, or the default.
func (w Wishes) schoolOf(id string) string {
	if is := w.Schools[id]; is != "" {
		return is
	}
	for _, s := range Schools {
		if s.ID == id {
			return s.Default
		}
	}
	return ""
}

// against is what an answer that an option goes against leaves of its score.
const against = 0.9

// schooled weighs an option by the schools.
func (w Wishes) schooled(o *Option) float64 {
	weight := 1.0
	contrary := func(school, answer string, is bool) {
		if is && w.schoolOf(school) == answer {
			weight *= against
		}
	}
	several := o.Metrics["switchesKept"] == 0 && len(o.Places) > 1
	contrary(schoolReplace, "one", several)
	contrary(schoolReplace, "all", !several)
	contrary(schoolLoad, "bypass", o.Strategy == PoweredJoined)
	contrary(schoolLoad, "joined", o.Strategy == PoweredRemote)
	cloud := slices.ContainsFunc(o.Outages, func(x Outage) bool { return x.When == "internet" && len(x.Lost) > 0 })
	contrary(schoolHub, "local", cloud)
	contrary(schoolHub, "cloud", !cloud && o.Strategy == Messages)
	module := slices.Contains([]string{ModuleSwitched, ModuleDry, ModuleBare, ModuleFour, ChangeoverRelay}, o.Strategy)
	contrary(schoolModule, "face", module)
	contrary(schoolModule, "module", !module)
	contrary(schoolLamps, "switches", o.Strategy == SmartLamps)
	contrary(schoolLamps, "lamps", o.Strategy != SmartLamps)
	all := !slices.ContainsFunc(o.Places, func(q Place) bool { return !q.Dims })
	contrary(schoolSecond, "ramp", len(o.Places) > 1 && o.Places[0].Dims && !all)
	return weight
}

// linked reports whether devices of a strategy speak to each other as equals, so that the
// school of links matters.
func linked(strategy string) bool {
	return strategy == Paired || strategy == Messages || strategy == Selectors
}
