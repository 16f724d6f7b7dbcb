package inspect

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// asTheyAre tells what ordinary old and new walls hold that is no fault of the switching: grounds on neutral, lamps in switches,
// two poles in one box.
func (i *inspector) asTheyAre(say names.Terms) {
	i.groundsOnNeutral(say)
	for _, id := range i.net.Locators() {
		i.add("locator-lamp", Note, i.screws(id), names.Capitalize(say.Device(id))+" lies across a switch and glows while the light is off.",
			"Through it runs a trickle: lamps of few watts may glow or flicker. A smart device in the place of that switch wants it gone.")
	}
	poles := i.net.Poles()
	for _, second := range slices.Sorted(maps.Keys(poles)) {
		first := poles[second]
		i.add("two-pole", Note, append(i.screws(first), i.screws(second)...),
			say.Expand(names.Capitalize(say.Device(first))+" and "+say.Device(second)+" break {line} and {neutral} of one load: they are taken for the two poles of one switch."),
			say.Expand("If each moves by itself the load is live while it is off: then the {neutral} must not be switched."))
	}
}

// groundsOnNeutral finds the screws and cores of the ground that stand on a neutral where no panel joins the two: with that neutral
// lost, all metal behind it is live.
func (i *inspector) groundsOnNeutral(say names.Terms) {
	neutral, bonded := map[int]bool{}, map[int]bool{}
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			neutral[i.net.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "neutral"}})] = true
			bonded[i.net.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "ground"}})] = true
		}
	}
	for _, j := range i.doc.Joins { // a bar on which the panel has both
		if b := i.doc.Box(j.Box); b == nil || b.Kind != circuit.Panel {
			continue
		}
		for _, m := range j.Of {
			if e := (circuit.End{Ref: m, Box: j.Box}); i.doc.Cable(m.Owner) != nil && circuit.GroundColour(m.Part) {
				bonded[i.net.Class(e)] = true
			}
		}
	}
	for _, b := range i.doc.Boxes {
		if b.Kind == circuit.Panel {
			continue
		}
		var at []circuit.End
		for _, e := range i.net.Ends() {
			core := i.doc.Cable(e.Owner) != nil
			where := e.Box
			if !core {
				where = i.doc.Device(e.Owner).Box
			}
			class := i.net.Class(e)
			if where == b.ID && (core && circuit.GroundColour(e.Part) || !core && e.Part == "ground") && neutral[class] && !bonded[class] {
				at = append(at, e)
			}
		}
		if len(at) > 0 {
			i.add("ground-on-neutral", Error, at, say.Expand(names.Capitalize(say.Ends(at))+map[bool]string{true: " stands", false: " stand"}[len(at) == 1]+" on the {neutral} at "+say.Box(b.ID)+": with that {neutral} lost, all metal there is live."),
				say.Expand("Take the {ground} off the {neutral}. Bring a {ground} that comes from the {panel}; until then no metal may be touched there."))
		}
	}
}

// returnsBeside reports whether what one cable carries too much comes back in others between the same two boxes: usual in some
// practices, where a neutral is laid beside, and no neutral is borrowed. That they run beside each other has to have been seen: in a
// traced record, and behind the walls, two cables of one box may lead anywhere. Steel parts them.
func (i *inspector) returnsBeside(s electric.State, cable string) bool {
	k := i.doc.Cable(cable)
	if k == nil || k.Stub() || i.supplies() > 1 || !i.practice.ReturnBeside {
		return false
	}
	for _, box := range k.Ends {
		if b := i.doc.Box(*box); b == nil || !b.Seen() || b.Material == circuit.Metal {
			return false
		}
	}
	amps, sum, several := i.net.CableCurrents(i.net.Solve(s)), 0.0, 0
	for n, other := range i.doc.Cables {
		if other.Stub() || !other.In(*k.Ends[0]) || !other.In(*k.Ends[1]) || i.assumed(other.ID) {
			continue
		}
		way := 1.0
		if *other.Ends[0] != *k.Ends[0] {
			way = -1
		}
		sum += way * amps[n]
		several++
	}
	return several > 1 && math.Abs(sum) < balanced
}

// balanced is up to how many amperes currents sum to zero, as sums of numbers go.
const balanced = 1e-6

// assumed reports whether a cable is on record as something other than seen.
func (i *inspector) assumed(cable string) bool {
	return slices.ContainsFunc(i.doc.Evidence, func(e circuit.Evidence) bool { return e.Of == cable && e.How != circuit.Seen })
}

// supplies counts the breakers on record.
func (i *inspector) supplies() int {
	n := 0
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			n++
		}
	}
	return n
}

// onSupply reports whether a conductor goes to the neutral of the feed without a switch.
func (i *inspector) onSupply(e circuit.End) bool {
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply && i.net.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "neutral"}}) == i.net.Class(e) {
			return true
		}
	}
	return false
}

// cappedNeutral tells of a neutral that is capped in a box of switches: newer houses bring it for what may come.
func (i *inspector) cappedNeutral(say names.Terms, e circuit.End) {
	i.add("neutral-capped", Note, []circuit.End{e}, fmt.Sprintf("%s is a %s, capped for later: there is a %s here.", names.Capitalize(say.End(e)), say.Word("neutral"), say.Word("neutral")), "")
}

// kindOf is the code and the severity of a fault in one state, as the practice judges it.
func (i *inspector) kindOf(f electric.Fault, s electric.State) (code string, severity Severity) {
	if f.Kind == electric.CableUnbalanced && i.returnsBeside(s, f.At[0].Owner) {
		return ReturnBeside, Warning
	}
	return string(f.Kind), Error
}

// ReturnBeside is the code of the finding that a light's current returns in a cable beside.
const ReturnBeside = "return-beside"
