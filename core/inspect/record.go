package inspect

import (
	"fmt"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// recordFindings tells what the record still lacks and what looks odd in it,
// before anything is simulated.
func (i *inspector) recordFindings() {
	say := Speak(i.doc)
	has := map[string]int{}
	for _, d := range i.doc.Devices {
		has[d.Type]++
	}
	if has[circuit.TypeSupply] == 0 {
		i.add("no-supply", Error, nil, "Nothing feeds this circuit yet.",
			"Record the "+say.Word("panel")+" and the cable that comes from it.")
	}
	if has[circuit.TypeLamp] == 0 {
		i.add("no-lamp", Error, nil, "There is no lamp in this circuit yet.", "Record the box of the light and the lamp in it.")
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
		i.add("far-end-unknown", Note, at, fmt.Sprintf("Nobody knows yet where cable %s in %s goes.", k.ID, say.Box(*box)),
			"Record the box at its other end, or leave it open if it feeds other rooms.")
	}
	i.looseFindings(say)
	i.groundFindings(say)
}

// looseFindings tells of insulated cores and of switch screws on which nothing
// stands.
func (i *inspector) looseFindings(say Speaker) {
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
				if joined[e] || circuit.GroundColour(core) || i.roles[e] == "" {
					continue
				}
				switch i.roles[e] {
				case electric.Unused:
					i.add("spare-core", Note, []circuit.End{e}, Sentence(say.End(e))+" is capped: a spare core.", "")
				case electric.Line:
					i.add("capped-live", Warning, []circuit.End{e}, Sentence(say.End(e))+" ends in a cap and is live whenever the "+say.Word("breaker")+" is on.",
						"Cap it at its other end too if nothing needs it.")
				default:
					i.add("loose-end", Warning, []circuit.End{e}, Sentence(say.End(e))+" ends in a cap, though its other end is connected.",
						"See whether it came loose.")
				}
			}
		}
	}
	for _, d := range i.doc.Devices {
		if !d.Mechanical() {
			continue
		}
		for _, e := range i.screws(d.ID) {
			if !joined[e] {
				i.add("empty-screw", Warning, []circuit.End{e}, "Nothing stands under "+say.End(e)+".", "Record the conductor under it, or look whether one came off.")
			}
		}
	}
}

// groundFindings: ground is continuous to every box, device and fixture.
func (i *inspector) groundFindings(say Speaker) {
	for _, d := range i.doc.Devices {
		if d.Type == circuit.TypeSupply {
			continue
		}
		for _, t := range i.doc.Terminals(d) {
			e := circuit.End{Ref: circuit.Ref{Owner: d.ID, Part: t}}
			if t == "ground" && i.roles[e] == electric.Unused {
				i.add("no-ground", Warning, []circuit.End{e}, Sentence(say.Device(d.ID))+" has no "+say.Word("ground")+".",
					"The "+say.Word("ground")+" is continuous to every box, device and fixture.")
			}
		}
	}
}

// colourFindings compares each core's insulation and marks with its role.
func (i *inspector) colourFindings() {
	say := Speak(i.doc)
	for _, k := range i.doc.Cables {
		for _, box := range k.Ends {
			if box == nil {
				continue
			}
			for _, core := range k.Cores {
				e := circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: *box}
				role := i.roles[e]
				if role == electric.Unused || role == "" {
					continue
				}
				allowed, remark := i.practice.May(core, string(role))
				switch {
				case !allowed && circuit.GroundColour(core):
					i.add("ground-colour-misused", Error, []circuit.End{e}, Sentence(say.End(e))+" carries "+say.Word(string(role))+".",
						Sentence(core)+" carries no current, ever.")
				case !allowed:
					i.add("colour-misused", Warning, []circuit.End{e}, Sentence(say.End(e))+" carries "+say.Word(string(role))+", which its colour may not.",
						"Confirm with your local code.")
				case remark && i.doc.MarkOn(e) == "":
					i.add("unmarked", Warning, []circuit.End{e}, Sentence(say.End(e))+" carries "+say.Word(string(role))+" without a mark.",
						"Re-mark it at both ends with tape or sleeving.")
				}
			}
		}
	}
}
