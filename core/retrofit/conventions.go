package retrofit

import "slices"

// Convention is a question on which practitioners disagree. The default is the safer choice,
// and Why says so.
type Convention struct {
	ID      string             `json:"id"`
	Asks    string             `json:"asks"`
	Default string             `json:"default"`
	Why     string             `json:"why"`
	Choices []ConventionChoice `json:"choices"`
}

// ConventionChoice is one answer to it, with its consequence.
type ConventionChoice struct {
	ID          string `json:"id"`
	Text        string `json:"text"`
	Consequence string `json:"consequence"`
}

// Questions on which practitioners disagree.
const (
	conventionReplace = "replace"
	conventionLoad    = "load"
	conventionLinks   = "links"
	conventionHub     = "hub"
	conventionModule  = "module"
	conventionOrder   = "order"
	conventionLamps   = "lamps"
	conventionSecond  = "second"
	conventionSpares  = "spares"
)

// Conventions lists the questions, with the texts in canonical words in braces.
var Conventions = []Convention{
	{conventionReplace, "Replace one switch or all?", "one", "Fewer boxes are opened and fewer ends moved; what works stays.", []ConventionChoice{
		{"one", "One, where that will do", "The other places keep the feel and the look of the old switches."},
		{"all", "All, so that every place feels alike", "More boxes opened, more devices bought and kept alive."}}},
	{conventionLoad, "Where is the {load} seen at a powered remote?", "bypass", "A remote that holds only {line} cannot be taken for a switch of the lamp.", []ConventionChoice{
		{"bypass", "By-passing the remote's box", "The {load} is joined through and cannot be read at the remote."},
		{"joined", "Joined in it", "Electrically the same; one more screw that is live while the lamp burns."}}},
	{conventionLinks, "Scenes or mirroring between devices?", "scenes", "Two rules, single tap up for on and down for off, cannot get out of step.", []ConventionChoice{
		{"scenes", "Scenes: taps are rules", "Two to four taps call 25, 50, 75 and 100 %. A hub, or devices that keep scenes, must carry them."},
		{"mirroring", "Mirroring: each follows the other", "One way it gets out of step: one must tap to the lamp's present state first. Two ways it may chase its own tail, on dimmers visibly ramping up and down; rates and lowest levels must be alike."}}},
	{conventionHub, "A local hub, or the cloud?", "local", "It works while the internet does not.", []ConventionChoice{
		{"local", "Local", "A hub or broker in the house, to be kept alive."},
		{"cloud", "Cloud", "Nothing to keep in the house; without the internet only the device that carries the lamp works."}}},
	{conventionModule, "A module behind the switch, or a new face?", "face", "A face leaves room in the box and can be reached without taking a switch off.", []ConventionChoice{
		{"face", "A new face", "The look of the switch changes."},
		{"module", "A module", "The old look stays; depth and heat in the box have to be looked at."}}},
	{conventionOrder, "Wiring first, or product first?", "wiring", "Starting from a favourite product and fitting the house to it is the usual mistake.", []ConventionChoice{
		{"wiring", "Wiring first", "Options with the least work stand first."},
		{"product", "Product first", "What a device can do, and its price, weigh as much as the work."}}},
	{conventionLamps, "Smart switches, or smart lamps?", "switches", "A wall switch that anyone turns off takes a smart lamp's power.", []ConventionChoice{
		{"switches", "Smart switches", "One device for all lamps."},
		{"lamps", "Smart lamps", "Colour and level lamp by lamp; each lamp is bought, and the old switches must go."}}},
	{conventionSecond, "Dimming from the second place by taps, or true ramping from both?", "ramp", "Hold to dim is what people expect of a dimmer.", []ConventionChoice{
		{"ramp", "True ramping", "Needs a companion that dims."},
		{"taps", "Taps call levels", "Any companion with scenes will do; the way there is slower than the main's own."}}},
	{conventionSpares, "A {traveler} that is left over: cap it, or join it to the other?", "cap", "Two small conductors tied together as one are not allowed in most codes: if one comes loose, nobody notices.", []ConventionChoice{
		{"cap", "Capped at both ends", "It is there, dead and labelled, for whoever comes next."},
		{"join", "Joined at both ends to the other", "Common in the field; fewer caps. The two then count as one conductor, and an inspector may ask for them to be parted."}}},
}

// conventionOf returns a person's answer to a question, or the default.
func (w Wishes) conventionOf(id string) string {
	if is := w.Conventions[id]; is != "" {
		return is
	}
	for _, s := range Conventions {
		if s.ID == id {
			return s.Default
		}
	}
	return ""
}

// against is what an answer that an option goes against leaves of its score.
const against = 0.9

// conventionsKept weighs an option by the conventions.
func (w Wishes) conventionsKept(o *Option) float64 {
	weight := 1.0
	contrary := func(convention, answer string, is bool) {
		if is && w.conventionOf(convention) == answer {
			weight *= against
		}
	}
	several := o.Metrics.SwitchesKept == 0 && len(o.Places) > 1
	contrary(conventionReplace, "one", several)
	contrary(conventionReplace, "all", !several)
	contrary(conventionLoad, "bypass", o.Strategy == PoweredJoined)
	contrary(conventionLoad, "joined", o.Strategy == PoweredRemote)
	cloud := slices.ContainsFunc(o.Outages, func(x Outage) bool { return x.When == "internet" && len(x.Lost) > 0 })
	contrary(conventionHub, "local", cloud)
	contrary(conventionHub, "cloud", !cloud && o.Strategy == Messages)
	module := slices.Contains([]string{ModuleSwitched, ModuleDry, ModuleBare, ModulePulse, ModuleFour, ChangeoverRelay}, o.Strategy)
	contrary(conventionModule, "face", module)
	contrary(conventionModule, "module", !module)
	contrary(conventionLamps, "switches", o.Strategy == SmartLamps)
	contrary(conventionLamps, "lamps", o.Strategy != SmartLamps)
	all := !slices.ContainsFunc(o.Places, func(q Place) bool { return !q.Dims })
	contrary(conventionSecond, "ramp", len(o.Places) > 1 && o.Places[0].Dims && !all)
	return weight
}

// linked reports whether devices of a strategy speak to each other as equals, so that the
// convention of links matters.
func linked(strategy string) bool {
	return strategy == Paired || strategy == Messages || strategy == Selectors
}
