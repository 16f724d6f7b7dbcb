package inspect

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// faultWords: what each fault of a state means and what to do. %s stands for
// the ends concerned; words in braces are the practice's.
var faultWords = map[electric.FaultKind]struct{ text, advice string }{
	electric.ShortHotNeutral: {"{line} meets {neutral}: the {breaker} trips. Joined there: %s.",
		"Look again at these conductors; one of them stands in the wrong join."},
	electric.ShortHotGround: {"{line} meets {ground}: the {breaker} trips. Joined there: %s.",
		"Take the {ground} conductor out of this join; it carries no current, ever."},
	electric.NeutralGround: {"{neutral} and {ground} are joined outside the {panel}: %s.",
		"Part them; {ground} would carry current all the time."},
	electric.TwoSupplies: {"Two breakers feed one conductor: %s.",
		"Part the two circuits; switching one breaker off would leave the box live."},
	electric.PartVolts: {"A lamp gets neither full volts nor none: it is fed through another lamp. %s.",
		"Give each lamp its own {neutral}."},
	electric.HotShell: {"The lamp's {neutral} side is live: whoever changes the lamp may touch it. %s. A circuit that does this is prohibited.",
		"Do not build on it. Rewire so that only {line} is switched."},
	electric.NeutralSwitched: {"The lamp is dark and yet live: its {neutral} is switched, or not connected. %s.",
		"Only {line} is switched; take the {neutral} straight to the lamp."},
	electric.GroundLive: {"{ground} is live: %s. Touching metal here can kill.",
		"Turn the {breaker} off. Take it out of this join."},
	electric.GroundReturn: {"Current returns through {ground}: %s.",
		"Give it a {neutral}; {ground} carries no current, ever."},
	electric.DeviceUnpowered: {"A smart device has no power in this state: %s.",
		"It needs its supply in every position of every switch."},
	electric.SignalClash: {"A signal terminal stands on a conductor of the mains: %s.",
		"Give the signal a core of its own."},
	electric.RelayBackfed: {"The open side of a relay is live from elsewhere: %s. Closing it feeds a circuit from both sides.",
		"Part the two feeds."},
	electric.NeutralsJoined: {"The {neutral}s of two {breaker}s are joined outside the {panel}: %s. With one {breaker} off they carry the other’s current all the same.",
		"Part them: each {neutral} belongs to the {line} that comes with it."},
	electric.LoadReversed: {"{line} and {neutral} are exchanged at a receptacle: %s. What is plugged in stays live when it is switched off.",
		"Exchange the two conductors."},
	electric.LoadNoNeutral: {"A receptacle is live and has no {neutral}: %s.",
		"Bring it the {neutral} that comes with its {line}."},
	electric.BorrowedNeutral: {"The lamp is fed by one {breaker} and returns through the {neutral} of another: %s. With its own {breaker} off that {neutral} may still be live.",
		"Give it the {neutral} that comes with its {line}; test {neutral} conductors too before touching them."},
	electric.CableUnbalanced: {"The currents in one cable do not sum to zero: %s. The current returns another way, so a {neutral} is borrowed or a cable is split.",
		"Hot and its return run in the same cable."},
	electric.NeverConverges: {"Devices go on triggering each other and never come to rest: %s.",
		"Take one of the inputs or links away."},
}

// stateFindings tells of each fault once, with the first state that shows it.
func (i *inspector) stateFindings() {
	type key struct {
		kind electric.FaultKind
		at   string
	}
	seen := map[key]int{} // index into found
	count := map[key]int{}
	for _, s := range i.result.States {
		for _, f := range s.Faults {
			k := key{f.Kind, fmt.Sprint(f.At)}
			if f.Kind == electric.CableUnbalanced || f.Kind == electric.ShortHotNeutral || f.Kind == electric.ShortHotGround {
				k.at = f.At[0].Owner // the same fault grows and shrinks with the switches
			}
			count[k]++
			if _, told := seen[k]; told {
				continue
			}
			seen[k] = len(i.found)
			words := faultWords[f.Kind]
			code, severity := i.kindOf(f, s.State)
			if code == ReturnBeside {
				words.text, words.advice = "The current of %s comes back in another cable beside it.", "Usual where a {neutral} was laid beside. Where steel parts the two it grows warm: bring line and return together then."
			}
			text := fmt.Sprintf(names.For(i.doc).Expand(words.text), names.For(i.doc).Ends(f.At))
			i.add(code, severity, f.At, text, names.For(i.doc).Expand(words.advice))
			i.found[len(i.found)-1].State = i.net.Keys(s.State)
		}
	}
	i.polarityFindings()
	for k, n := range count {
		if n == len(i.result.States) {
			i.found[seen[k]].State = map[string]int{}
		}
	}
	i.nameBorrowed(names.For(i.doc))
	if i.result.Truncated {
		i.add("too-many-states", Warning, nil, fmt.Sprintf("The controls reach more states than the %d that were simulated. What the others show is not known.", len(i.result.States)),
			"Split groups that have nothing to do with each other into files of their own.")
	}
}

// polarityFindings names the old circuits that put line and neutral on the two
// travelers: the lamp's shell is live in some of the states in which it burns,
// and its tip in others.
func (i *inspector) polarityFindings() {
	for l, id := range i.net.LampIDs() {
		shell, tip := 0, 0
		for _, s := range i.result.States {
			hot := slices.ContainsFunc(s.Faults, func(f electric.Fault) bool { return f.Kind == electric.HotShell && f.At[0].Owner == id })
			switch {
			case s.Lit[l] && hot:
				shell++
			case s.Lit[l]:
				tip++
			}
		}
		if shell > 0 && tip > 0 {
			at := []circuit.End{{Ref: circuit.Ref{Owner: id, Part: "l"}}, {Ref: circuit.Ref{Owner: id, Part: "n"}}}
			i.add("polarity-switching", Error, at,
				names.For(i.doc).Expand("This is a polarity-switching circuit: {line} and {neutral} change places at "+names.For(i.doc).Device(id)+" as the switches move. It is prohibited."),
				names.For(i.doc).Expand("Do not build on it. Rewire it first: only {line} goes to the switches, {neutral} straight to the lamp."))
		}
	}
}

// controlFindings tells which lamps never light or never go out, and which
// controls fail.
func (i *inspector) controlFindings() {
	say := names.For(i.doc)
	fed := slices.ContainsFunc(i.doc.Devices, func(d circuit.Device) bool { return d.Type == circuit.TypeSupply })
	for l, id := range i.net.LampIDs() {
		lit := 0
		for _, s := range i.result.States {
			if s.Lit[l] {
				lit++
			}
		}
		at := []circuit.End{{Ref: circuit.Ref{Owner: id, Part: "l"}}, {Ref: circuit.Ref{Owner: id, Part: "n"}}}
		switch {
		case lit == 0 && fed && i.halfRecorded(id):
			i.half = true
		case lit == 0 && fed:
			i.add("lamp-never-lit", Error, at, names.Capitalize(say.Device(id))+" is dark whatever the switches do.",
				"Follow its two conductors back; one of them does not arrive.")
		case lit == len(i.result.States) && len(i.result.Controls) > 0:
			i.add("lamp-always-lit", Warning, at, names.Capitalize(say.Device(id))+" burns whatever the switches do.",
				"Check that it belongs to this circuit.")
		}
	}
	for _, c := range i.result.Controls {
		at := i.screws(c.Device)
		switch {
		case c.Works || !fed || len(i.net.LampIDs()) == 0:
		case i.halfRecorded(c.Device):
			i.half = true
		case len(c.Lamps) == 0 && i.doc.SpeaksByRules(c.Device):
			i.add("control-by-rules", Note, at, names.Capitalize(say.Device(c.Device))+" changes no lamp over wires: it speaks by rules, which take their time.",
				"Rehearse them: what they do depends on the order in which messages arrive.")
		case len(c.Lamps) == 0 && i.switchesOnward(c.Device):
			i.half = true
		case len(c.Lamps) == 0:
			i.add("control-does-nothing", Error, at, names.Capitalize(say.Device(c.Device))+" changes no lamp, from whatever state.",
				"See whether its conductors arrive, or whether it belongs to another circuit.")
		default:
			i.add("control-disabled", Error, at, names.Capitalize(say.Device(c.Device))+" works from some states only: another switch disables it.",
				"Check which conductors stand on its odd screw and on its pair.")
			i.found[len(i.found)-1].State = i.net.Keys(c.Fails)
		}
	}
}

// halfRecorded reports whether a device hangs on a cable whose far end is not known and on no supply, as far as the record
// goes: however it is wired beyond, nothing can be said of it yet.
func (i *inspector) halfRecorded(id string) bool {
	of := map[int][]string{} // the devices on each conductor
	open := map[int]bool{}
	for _, e := range i.net.Ends() {
		class := i.net.Class(e)
		if k := i.doc.Cable(e.Owner); k != nil {
			open[class] = open[class] || k.Stub()
		} else if e.Part != "ground" {
			of[class] = append(of[class], e.Owner)
		}
	}
	supplied, ends := false, false
	reached, queue := map[string]bool{id: true}, []string{id}
	for len(queue) > 0 && !supplied {
		device := i.doc.Device(queue[0])
		queue = queue[1:]
		supplied = device.Type == circuit.TypeSupply
		for _, e := range i.screws(device.ID) {
			class := i.net.Class(e)
			ends = ends || open[class]
			for _, other := range of[class] {
				if !reached[other] {
					reached[other] = true
					queue = append(queue, other)
				}
			}
		}
	}
	return ends && !supplied
}

// switchesOnward reports whether a control has a conductor that no supply is on and that goes on in a cable whose far end is not
// known: what it switches may be there, a neighbour's light for one.
func (i *inspector) switchesOnward(id string) bool {
	fed := map[int]bool{}
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			for _, e := range i.screws(d.ID) {
				fed[i.net.Class(e)] = true
			}
		}
	}
	return slices.ContainsFunc(i.screws(id), func(e circuit.End) bool {
		return e.Part != "ground" && !fed[i.net.Class(e)] && i.followedNowhere(e)
	})
}

// followedNowhere reports whether the conductor of an end runs on in a cable whose far end is not known.
func (i *inspector) followedNowhere(e circuit.End) bool {
	class := i.net.Class(e)
	return slices.ContainsFunc(i.net.Ends(), func(x circuit.End) bool {
		k := i.doc.Cable(x.Owner)
		return k != nil && k.Stub() && i.net.Class(x) == class
	})
}

func (i *inspector) screws(id string) []circuit.End {
	d := i.doc.Device(id)
	var out []circuit.End
	for _, t := range i.doc.Terminals(*d) {
		if t != "ground" {
			out = append(out, circuit.End{Ref: circuit.Ref{Owner: id, Part: t}})
		}
	}
	return out
}
