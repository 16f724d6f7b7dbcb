package inspect

import (
	"fmt"
	"math"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
	"ambivia/core/sets"
)

// asTheyAre tells what ordinary old and new walls hold that is no fault of the switching: grounds on neutral, lamps in switches,
// two poles in one box.
func (i *inspector) asTheyAre(say names.Terms) {
	i.groundsOnNeutral(say)
	for _, id := range i.net.Locators() {
		i.add("locator-lamp", Note, i.screws(id), names.Capitalize(say.Device(id))+" lies across a switch and glows while the light is off.",
			"Through it runs a trickle: lamps of few watts may glow or flicker. A smart device in the place of that switch wants it gone.")
	}
	for second, first := range i.net.Poles() {
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

// besides reports whether what one cable carries too much comes back in another that runs between the same two boxes, neither of
// which is of metal: usual in some practices, where a neutral is laid beside, and no neutral is borrowed.
func (i *inspector) besides(s electric.State, cable string) bool {
	k := i.doc.Cable(cable)
	if k == nil || k.Stub() || i.supplies() > 1 || !i.practice.ReturnBeside || !i.seenWhole() {
		return false
	}
	for _, box := range k.Ends {
		if b := i.doc.Box(*box); b == nil || b.Material == circuit.Metal {
			return false
		}
	}
	amps, sum, several := i.net.CableCurrents(i.net.Solve(s)), 0.0, 0
	for n, other := range i.doc.Cables {
		if !other.Stub() && other.In(*k.Ends[0]) && other.In(*k.Ends[1]) {
			way := 1.0
			if *other.Ends[0] != *k.Ends[0] {
				way = -1
			}
			sum += way * amps[n]
			several++
		}
	}
	return several > 1 && math.Abs(sum) < 1e-6
}

// seenWhole reports whether nothing of the record was traced: only of cables that somebody saw is it known that they run beside
// each other.
func (i *inspector) seenWhole() bool {
	return len(i.doc.Evidence) == 0 && !slices.ContainsFunc(i.doc.Cables, func(k circuit.Cable) bool { return k.Stub() })
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

// broughtFor tells of a neutral that is capped in a box of switches: newer houses bring it for what may come.
func (i *inspector) broughtFor(say names.Terms, e circuit.End) {
	i.add("neutral-capped", Note, []circuit.End{e}, fmt.Sprintf("%s is a %s, capped for later: there is a %s here.", names.Capitalize(say.End(e)), say.Word("neutral"), say.Word("neutral")), "")
}

// kindOf is the code and the severity of a fault in one state, as the practice judges it.
func (i *inspector) kindOf(f electric.Fault, s electric.State) (code string, severity Severity) {
	if f.Kind == electric.CableUnbalanced && i.besides(s, f.At[0].Owner) {
		return ReturnBeside, Warning
	}
	return string(f.Kind), Error
}

// ReturnBeside is the code of the finding that a light's current returns in a cable beside.
const ReturnBeside = "return-beside"

// borrowed is a load whose current comes from one breaker and goes back in the cable of another, to the bar that both share.
type borrowed struct {
	load      string
	from, way string // breakers
	at        circuit.End
}

// borrowedOnBar finds them: what a load's neutral hangs together with outside the panels is the cable of another breaker.
func (i *inspector) borrowedOnBar() []borrowed {
	if i.supplies() < 2 {
		return nil
	}
	ends := i.net.Ends()
	index := map[circuit.End]int{}
	for n, e := range ends {
		index[e] = n
	}
	apart := sets.New(len(ends)) // what hangs together where no panel joins it
	number := func(r circuit.Ref, box string) (int, bool) {
		n, ok := index[circuit.End{Ref: r, Box: box}]
		if !ok {
			n, ok = index[circuit.End{Ref: r}]
		}
		return n, ok
	}
	for _, j := range i.doc.Joins {
		if b := i.doc.Box(j.Box); b == nil || b.Kind == circuit.Panel {
			continue
		}
		first, known := number(j.Of[0], j.Box)
		for _, m := range j.Of[1:] {
			if n, ok := number(m, j.Box); ok && known {
				apart.Unite(first, n)
			}
		}
	}
	owner := map[int]string{} // by what hangs together: the breaker in whose cable it leaves the panel
	hot := map[int]string{}   // by conductor
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			hot[i.net.Class(circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "hot"}})] = d.ID
		}
	}
	for _, k := range i.doc.Cables {
		if k.Stub() {
			continue
		}
		breaker := ""
		for _, core := range k.Cores {
			a, b := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[1]}
			apart.Unite(index[a], index[b])
			if i.fromPanel(k) && hot[i.net.Class(a)] != "" {
				breaker = hot[i.net.Class(a)]
			}
		}
		for _, core := range k.Cores {
			e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}
			if breaker != "" && i.onSupply(e) {
				owner[index[e]] = breaker
			}
		}
	}
	returns := map[int]string{}
	for n, breaker := range owner {
		root := apart.Root(n)
		if other, known := returns[root]; known && other != breaker {
			breaker = "" // neutrals that are joined in the wall, which is another fault
		}
		returns[root] = breaker
	}
	var out []borrowed
	for l, id := range i.net.LampIDs() {
		n := circuit.End{Ref: circuit.Ref{Owner: id, Part: "n"}}
		way := returns[apart.Root(index[n])]
		for _, s := range i.result.States {
			if !s.Lit[l] || way == "" {
				continue
			}
			if from := i.net.Solve(s.State).FedBy(id); from != "" && from != way {
				out = append(out, borrowed{id, from, way, n})
				break
			}
		}
	}
	return out
}

// fromPanel reports whether a cable comes out of a panel.
func (i *inspector) fromPanel(k circuit.Cable) bool {
	return slices.ContainsFunc(k.Ends[:], func(box *string) bool { return box != nil && i.doc.Box(*box).Kind == circuit.Panel })
}

// nameBorrowed tells of borrowed neutrals by name, in the place of every cable whose currents they leave unbalanced.
func (i *inspector) nameBorrowed(say names.Terms) {
	if slices.ContainsFunc(i.found, func(f Finding) bool {
		return f.Code == string(electric.BorrowedNeutral) || f.Code == string(electric.NeutralsJoined)
	}) {
		return // told already, where the breakers have no bar in common
	}
	list := i.borrowedOnBar()
	if len(list) == 0 {
		return
	}
	i.found = slices.DeleteFunc(i.found, func(f Finding) bool { return f.Code == string(electric.CableUnbalanced) })
	for _, x := range list {
		i.add(string(electric.BorrowedNeutral), Error, []circuit.End{x.at},
			say.Expand(names.Capitalize(say.Device(x.load))+" is fed by "+say.Breaker(x.from)+", and its current goes back in the cable of "+say.Breaker(x.way)+": a borrowed {neutral}. With "+say.Breaker(x.way)+" off that {neutral} still carries it."),
			say.Expand("Give it the {neutral} that comes with its {line}. Until then turn both off, and test the {neutral} too before touching it."))
	}
}
