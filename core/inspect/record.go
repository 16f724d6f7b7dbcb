package inspect

import (
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
)

// recordFindings tells what the record still lacks and what looks odd in it,
// before anything is simulated.
func (i *inspector) recordFindings() {
	say := names.For(i.doc)
	has := map[string]int{}
	for _, d := range i.doc.Devices {
		has[d.Type]++
	}
	missing := Error
	if slices.ContainsFunc(i.doc.Cables, func(k circuit.Cable) bool { return k.Stub() }) { // it may hang on what is not followed
		missing = Note
	}
	i.half = missing == Note && (has[circuit.TypeSupply] == 0 || len(i.net.LampIDs()) == 0)
	if has[circuit.TypeSupply] == 0 {
		i.add("no-supply", missing, nil, "Nothing feeds this circuit yet.",
			"Record the "+say.Word("panel")+" and the cable that comes from it.")
	}
	if len(i.net.LampIDs()) == 0 {
		i.add("no-lamp", missing, nil, "There is no lamp in this circuit yet.", "Record the box of the light and the lamp in it.")
	}
	for _, k := range i.doc.Cables {
		if !k.Stub() {
			continue
		}
		box := k.Ends[0]
		if box == nil {
			box = k.Ends[1]
		}
		var at []circuit.End
		for _, core := range k.Cores {
			at = append(at, circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box})
		}
		i.add("far-end-unknown", Note, at, fmt.Sprintf("Not known yet: where %s goes.", say.Cable(k.ID)),
			"Record the box at its other end, or leave it open if it feeds other rooms.")
	}
	for _, b := range i.doc.Boxes {
		if i.unrecorded(b.ID) {
			i.begun = true
			i.add("not-recorded-yet", Note, i.endsIn(b.ID), "Nothing is recorded yet of how the conductors in "+say.Box(b.ID)+" are joined.",
				say.Fill("Record what is under each screw and in each {connector}."))
		}
	}
	i.looseFindings(say)
	if !i.begun {
		i.groundFindings(say)
		i.asTheyAre(say)
	}
}

// unrecorded reports whether somebody has entered a device of a box that wires belong to, and
// nothing yet of how they are joined: what is not entered is not wrong. Cables alone may all be
// capped.
func (i *inspector) unrecorded(box string) bool {
	joined := slices.ContainsFunc(i.doc.Joins, func(j circuit.Join) bool { return j.Box == box })
	device := slices.ContainsFunc(i.doc.Devices, func(d circuit.Device) bool { return d.Box == box && len(i.doc.Terminals(d)) > 0 })
	return !joined && device
}

// looseFindings tells of insulated cores and of switch screws on which nothing
// stands.
func (i *inspector) looseFindings(say names.Terms) {
	joined := map[circuit.End]bool{}
	for _, j := range i.doc.Joins {
		if len(j.Of) < 2 {
			continue
		}
		for _, r := range j.Of {
			e := circuit.End{Ref: r, Box: j.Box}
			if i.doc.Device(r.Owner) != nil {
				e.Box = ""
			}
			joined[e] = true
		}
	}
	for _, k := range i.doc.Cables {
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, core := range k.Cores {
				e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}
				if slices.Contains(i.doc.Loose, e) {
					i.hangsLoose(say, e)
					continue
				}
				if joined[e] || circuit.GroundColour(core) || i.roles[e] == "" || i.unrecorded(*box) {
					continue
				}
				switch i.roles[e] {
				case electric.Unused:
					if other, known := k.Other(*box); known && joined[circuit.End{Ref: e.Ref, Box: other}] && !i.spareThrough(e) {
						i.loose(say, e)
						continue
					}
					i.add("spare-core", Note, []circuit.End{e}, names.Capitalize(say.End(e))+" is capped: a spare core.", "")
				case electric.Line:
					i.add("capped-live", Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" ends in a cap and is live whenever the "+say.Word("breaker")+" is on.",
						"Cap it at its other end too if nothing needs it.")
				case electric.Neutral:
					if other, known := k.Other(*box); !known || !joined[circuit.End{Ref: e.Ref, Box: other}] || !i.onSupply(e) || i.doc.Box(*box).Kind != circuit.Switch {
						i.loose(say, e)
						continue
					}
					i.cappedNeutral(say, e)
				default:
					i.loose(say, e)
				}
			}
		}
	}
	for _, d := range i.doc.Devices {
		if !d.Mechanical() || i.unrecorded(d.Box) {
			continue
		}
		i.tiedPair(say, d)
		if i.usedAsThreeWay(d, joined) {
			i.add(FourWayAsThreeWay, Note, i.screws(d.ID), names.Capitalize(say.Device(d.ID))+" is a "+say.Word("four-way")+" body used as a "+say.Word("three-way")+": one of its screws is empty.",
				"What stands on its screws counts, not what is printed on it.")
			continue
		}
		if i.usedAsContact(d, joined) {
			i.add("three-way-as-contact", Note, i.screws(d.ID), names.Capitalize(say.Device(d.ID))+" is used as a plain contact: one of its screws is empty.", "")
			continue
		}
		for _, e := range i.screws(d.ID) {
			if !joined[e] {
				i.add("empty-screw", Warning, []circuit.End{e}, "Nothing is under "+say.End(e)+".", "Record the conductor under it, or look whether one came off.")
			}
		}
	}
}

// tiedPair tells of two screws that a switch chooses between, or of one pair of a 4-way, under one connector: however the
// switch stands, both are joined.
func (i *inspector) tiedPair(say names.Terms, d circuit.Device) {
	for _, pair := range [][2]string{{"t1", "t2"}, {"a1", "a2"}, {"b1", "b2"}} {
		a, b := circuit.Ref{Owner: d.ID, Part: pair[0]}, circuit.Ref{Owner: d.ID, Part: pair[1]}
		if j := i.doc.JoinOf(d.Box, a); j >= 0 && j == i.doc.JoinOf(d.Box, b) {
			i.add("tied-pair", Warning, []circuit.End{{Ref: a}, {Ref: b}}, fmt.Sprintf("%s and %s of %s are tied together: the switch cannot tell them apart.",
				names.Capitalize(say.Screw(a)), say.Screw(b), say.Device(d.ID)), "Look at the wires under both screws, and record each under its own.")
		}
	}
}

// spareThrough reports whether a conductor that is capped where it comes out goes through splices
// alone, to nothing: a spare conductor of several cores.
func (i *inspector) spareThrough(e circuit.End) bool {
	class := i.net.Class(e)
	return !slices.ContainsFunc(i.net.Ends(), func(other circuit.End) bool {
		return i.net.Class(other) == class && (i.doc.Device(other.Owner) != nil || i.doc.Cable(other.Owner).Stub())
	})
}

// hangsLoose tells of a bare end that stands in no connector and under no screw.
func (i *inspector) hangsLoose(say names.Terms, e circuit.End) {
	if i.roles[e] == electric.Line {
		i.add(LooseCore, Error, []circuit.End{e}, names.Capitalize(say.End(e))+" hangs loose and bare, and is live whenever the "+say.Word("breaker")+" is on.",
			say.Expand("{breaker} off before anybody reaches in. Cap it, or find where it came off."))
		return
	}
	i.add(LooseCore, Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" hangs loose and bare.", "Find where it came off, or cap it.")
}

func (i *inspector) loose(say names.Terms, e circuit.End) {
	i.add("loose-end", Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" ends in a cap, though its other end is connected.",
		"See whether it came loose.")
}

// LooseCore is the code of the finding that a bare end hangs loose.
const LooseCore = "loose-core"

// FourWayAsThreeWay is the code of the finding that a four-way body is wired as a three-way. At
// are its screws.
const FourWayAsThreeWay = "four-way-as-three-way"

// usedAsThreeWay reports whether a four-way has wires under three of its screws
// and works as a control.
func (i *inspector) usedAsThreeWay(d circuit.Device, joined map[circuit.End]bool) bool {
	count := 0
	for _, e := range i.screws(d.ID) {
		if joined[e] {
			count++
		}
	}
	return d.Type == circuit.TypeFourWay && count == 3 &&
		slices.ContainsFunc(i.result.Controls, func(c electric.ControlResult) bool { return c.Device == d.ID && c.Works })
}

// usedAsContact reports whether a three-way has a wire under its common and one other
// screw, and works as a control: a smart device listens to it.
func (i *inspector) usedAsContact(d circuit.Device, joined map[circuit.End]bool) bool {
	on := func(t string) bool { return joined[circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}] }
	return d.Type == circuit.TypeThreeWay && on("common") && on("t1") != on("t2") &&
		slices.ContainsFunc(i.result.Controls, func(c electric.ControlResult) bool { return c.Device == d.ID && c.Works })
}

// groundFindings: ground is continuous to every box, device and fixture.
func (i *inspector) groundFindings(say names.Terms) {
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			continue
		}
		for _, t := range i.doc.Terminals(d) {
			e := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}
			if t == "ground" && i.roles[e] == electric.Unused {
				i.add("no-ground", Warning, []circuit.End{e}, names.Capitalize(say.Device(d.ID))+" has no "+say.Word("ground")+".",
					"The "+say.Word("ground")+" is continuous to every box, device and fixture.")
			}
		}
	}
	for _, b := range i.doc.Boxes {
		var broken []circuit.End
		grounded := false
		for _, e := range i.endsIn(b.ID) {
			if !circuit.GroundColour(e.Part) {
				continue
			}
			grounded = grounded || i.roles[e] == electric.RoleGround
			if i.roles[e] == electric.Unused {
				broken = append(broken, e)
			}
		}
		if len(broken) > 0 {
			i.add("ground-broken", Warning, broken, fmt.Sprintf("The %s does not go through %s: %s leads nowhere.", say.Word("ground"), say.Box(b.ID), say.Ends(broken)),
				"Join every "+say.Word("ground")+" conductor in the box, so that it reaches all that lies behind.")
		}
		if b.Material == circuit.Metal && !grounded {
			i.add("metal-box-no-ground", Warning, i.endsIn(b.ID), names.Capitalize(say.Box(b.ID))+" is of metal and no "+say.Word("ground")+" reaches it.",
				"A fault would make the box live. Bring a "+say.Word("ground")+" to it and bond it.")
		}
	}
}

// colourFindings compares each core's insulation and marks with its role.
func (i *inspector) colourFindings() {
	say := names.For(i.doc)
	for _, k := range i.doc.Cables {
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, core := range k.Cores {
				e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}
				role := i.roles[e]
				if role == electric.Unused || role == "" || i.half && role == electric.Load && i.followedNowhere(e) {
					continue
				}
				allowed, remark := i.practice.May(core, string(role))
				switch {
				case !allowed && circuit.GroundColour(core):
					i.add("ground-colour-misused", Error, []circuit.End{e}, names.Capitalize(say.End(e))+" carries "+say.Word(string(role))+".",
						names.Capitalize(core)+" carries no current, ever.")
				case !allowed:
					i.add("colour-misused", Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" carries "+say.Word(string(role))+", which its colour may not.",
						"Confirm with your local code.")
				case remark && i.doc.MarkOn(e) == "":
					i.add("unmarked", Warning, []circuit.End{e}, names.Capitalize(say.End(e))+" carries "+say.Word(string(role))+" without a mark.",
						"Re-mark it at both ends with tape or sleeving.")
				}
			}
		}
	}
}
