package inspect

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// wiringFindings tells what is worth knowing of how the boxes are wired before
// anybody builds on it.
func (i *inspector) wiringFindings() {
	say := names.For(i.doc)
	i.parallelFindings(say)
	i.ringFindings(say)
	i.receptacleFindings(say)
	if !i.begun {
		i.neutralFindings(say)
	}
	i.screwFindings(say)
	i.eraFindings(say)
}

// parallelFindings: small conductors are not paralleled. Two cores of one cable
// that stand together at both ends are one conductor made of two.
func (i *inspector) parallelFindings(say names.Terms) {
	for _, k := range i.doc.Cables {
		if k.Stub() {
			continue
		}
		var told []string
		for a, core := range k.Cores {
			if circuit.GroundColour(core) || slices.Contains(told, core) {
				continue
			}
			together := []circuit.End{}
			for _, other := range k.Cores[a+1:] {
				if !circuit.GroundColour(other) && i.joinedAt(k.ID, core, other, *k.Ends[0]) && i.joinedAt(k.ID, core, other, *k.Ends[1]) {
					together = append(together, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: other}, Box: *k.Ends[0]})
					told = append(told, other)
				}
			}
			if len(together) == 0 {
				continue
			}
			together = append([]circuit.End{{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *k.Ends[0]}}, together...)
			i.add("parallel-cores", Warning, together, fmt.Sprintf("Cores of %s are tied together at both ends: %s.", say.Cable(k.ID), say.Ends(together)),
				"Use one of them and cap the other at both ends: if one came loose, nobody would notice until it carried too much.")
		}
	}
}

// ringFindings: a conductor that closes a ring on itself carries what it likes on either way.
// Grounds may: they carry nothing. Cores of one cable are told as parallel.
func (i *inspector) ringFindings(say names.Terms) {
	type place struct {
		box  string
		join int
	}
	parent := map[place]place{}
	var root func(p place) place
	root = func(p place) place {
		if q, ok := parent[p]; ok && q != p {
			parent[p] = root(q)
			return parent[p]
		}
		return p
	}
	seen := map[[2]place]string{} // places that a cable joins already
	for _, k := range i.doc.Cables {
		if k.Stub() {
			continue
		}
		for _, core := range k.Cores {
			m := circuit.Ref{Owner: k.ID, Part: core}
			a, b := place{*k.Ends[0], i.doc.JoinOf(*k.Ends[0], m)}, place{*k.Ends[1], i.doc.JoinOf(*k.Ends[1], m)}
			if circuit.GroundColour(core) || a.join < 0 || b.join < 0 || seen[[2]place{a, b}] == k.ID {
				continue
			}
			seen[[2]place{a, b}] = k.ID
			if root(a) != root(b) {
				parent[root(a)] = root(b)
				continue
			}
			e := circuit.End{Ref: m, Box: *k.Ends[0]}
			i.add("conductor-ring", Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" closes a ring: this conductor comes back to where it starts over other boxes.",
				say.Fill("Open the ring at one {connector} and cap both ends; what carries the current out and back must run in one cable."))
		}
	}
}

// receptacleFindings: a receptacle belongs on the line, not on a conductor that is live in one
// position of a switch and dead in another.
func (i *inspector) receptacleFindings(say names.Terms) {
	for _, d := range i.doc.Devices {
		if d.Type != circuit.TypeReceptacle {
			continue
		}
		for _, t := range []string{"l", "n"} {
			e := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}
			joined := i.doc.JoinOf(d.Box, e.Ref) >= 0
			switch i.roles[e] {
			case electric.Neutral, electric.Unused:
				// one that is reversed is live all the same, and told as that
				reversed := i.roles[circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: "n"}}] == electric.Line
				if joined && !reversed && (t == "l" || i.roles[e] == electric.Unused) {
					i.add("receptacle-never-live", Error, []circuit.End{e}, names.Capitalize(say.Device(d.ID))+" is never live: its pole "+t+" hangs on nothing that feeds it.",
						say.Expand("It belongs on {line} and {neutral}."))
				}
			case electric.RoleGround:
				i.add("receptacle-on-ground", Error, []circuit.End{e}, names.Capitalize(say.Device(d.ID))+" stands on the "+say.Word("ground")+" with a pole: what is plugged in would send its current through it.",
					say.Expand("{ground} carries no current. A receptacle belongs on {line} and {neutral}."))
			case electric.Traveler:
				i.add("receptacle-on-traveler", Error, []circuit.End{e}, names.Capitalize(say.Device(d.ID))+" stands on a "+say.Word("traveler")+": it is live in some positions of the switches only.",
					say.Expand("Take it off there; it belongs on {line} and {neutral}."))
			}
		}
	}
}

func (i *inspector) joinedAt(cable, a, b, box string) bool {
	j := i.doc.JoinOf(box, circuit.Ref{Owner: cable, Part: a})
	return j >= 0 && slices.Contains(i.doc.Joins[j].Of, circuit.Ref{Owner: cable, Part: b})
}

// neutralFindings: neutral at the switch is present, absent, or a conductor of
// its colour that is none.
func (i *inspector) neutralFindings(say names.Terms) {
	for _, b := range i.doc.Boxes {
		if b.Kind != circuit.Switch {
			continue
		}
		var posing []circuit.End
		known, neutral := 0, false
		for _, e := range i.endsIn(b.ID) {
			if circuit.GroundColour(e.Part) {
				continue
			}
			role := i.roles[e]
			switch role {
			case "":
				known = -1000
			case electric.Neutral:
				neutral = true
			case electric.Line, electric.Load, electric.Traveler:
				if i.practice.NeutralOnly(e.Part) {
					posing = append(posing, e)
				}
			}
			known++
		}
		if len(posing) > 0 {
			i.add("not-a-neutral", Note, posing, fmt.Sprintf("In %s a conductor has the colour of the %s and is none: %s.", say.Box(b.ID), say.Word("neutral"), i.asRoles(say, posing)),
				"A colour is a hint, never evidence. Do not connect the "+say.Word("neutral")+" of a device to it.")
		}
		if known > 0 && !neutral && i.hasControl(b.ID) {
			advice := "Devices that need one cannot stand here unless a core is freed for it."
			if i.practice.NeutralAtSwitches != "" {
				advice += " " + i.practice.NeutralAtSwitches
			}
			i.add("no-neutral-here", Note, i.screwsIn(b.ID), "There is no "+say.Word("neutral")+" in "+say.Box(b.ID)+".", advice)
		}
	}
}

func (i *inspector) asRoles(say names.Terms, ends []circuit.End) string {
	var parts []string
	for _, e := range ends {
		parts = append(parts, say.End(e)+" is "+say.Word(string(i.roles[e])))
	}
	return strings.Join(parts, "; ")
}

func (i *inspector) hasControl(box string) bool {
	return slices.ContainsFunc(i.doc.Devices, func(d circuit.Device) bool { return d.Box == box && d.Mechanical() })
}

func (i *inspector) screwsIn(box string) []circuit.End {
	var out []circuit.End
	for _, d := range i.doc.Devices {
		if d.Box == box && d.Mechanical() {
			out = append(out, i.screws(d.ID)...)
		}
	}
	return out
}

// screwFindings: a screw that holds two wires passes one on, and a switch whose
// screws nobody could read is known by its wires alone.
func (i *inspector) screwFindings(say names.Terms) {
	for _, d := range i.doc.Devices {
		if !d.Mechanical() {
			continue
		}
		if d.ScrewsUnmarked() {
			i.add("screws-unmarked", Note, i.screws(d.ID), "Nobody could read which screw of "+say.Device(d.ID)+" is which.",
				"Take the wires off, power off, and find the odd screw with a continuity test: it closes with one or the other of the two.")
		}
		for _, e := range i.screws(d.ID) {
			j := i.doc.JoinOf(d.Box, e.Ref)
			if j < 0 {
				continue
			}
			var wires []circuit.End
			for _, m := range i.doc.Joins[j].Of {
				if i.doc.Cable(m.Owner) != nil {
					wires = append(wires, circuit.End{Ref: m, Box: d.Box})
				}
			}
			if len(wires) > 1 {
				i.add("screw-feeds-on", Note, append(wires, e), fmt.Sprintf("%d wires stand under %s: it passes on what it gets.", len(wires), say.End(e)),
					"Whatever replaces the switch, these wires move together.")
			}
		}
	}
}

// eraFindings: in a house of two generations a colour means one thing here and
// another there.
func (i *inspector) eraFindings(say names.Terms) {
	seen := map[string]circuit.End{}
	for _, k := range i.doc.Cables {
		for _, p := range i.practice.Cables {
			if p.Era == "" || !slices.Equal(p.Cores, k.Cores) {
				continue
			}
			box := k.Ends[0]
			if box == nil {
				box = k.Ends[1]
			}
			seen[p.Era] = circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: k.Cores[0]}, Box: *box}
		}
	}
	if len(seen) > 1 {
		i.add("colours-of-two-times", Note, []circuit.End{seen[circuit.ColoursOld], seen[circuit.ColoursNew]},
			"Old and new colours meet in this circuit: one colour is "+say.Word("neutral")+" in one cable and "+say.Word("line")+" in another.",
			"Go by tests, not by colours, and put a warning label where the two meet.")
	}
}
