package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/inspect"
	"ambivia/core/names"
)

// method says in the practice's words how the circuit is wired, as far as it is
// one of the ways that have a name. Nothing depends on it: a circuit without a
// name is simulated and planned like any other.
func method(c *circuit.Circuit, say names.Terms, r *inspect.Report) []string {
	m := namer{c, say, r}
	out := []string{}
	if groups := m.groups(); len(groups) > 1 {
		out = append(out, fmt.Sprintf("%d lights share these boxes: %s.", len(groups), strings.Join(groups, "; ")))
	} else {
		out = append(out, m.places()...)
	}
	out = append(out, m.middle()...)
	out = append(out, m.neutrals()...)
	out = append(out, m.onward()...)
	return out
}

// works says first what matters most: that the circuit does what it should.
func works(r *inspect.Report) []string {
	out := []string{}
	if n := len(r.Controls); n > 0 && r.Verdict == inspect.Works && slices.ContainsFunc(r.Controls, func(x inspect.Control) bool { return x.Works }) {
		out = append(out, fmt.Sprintf("It works: each of %d controls switches its light from each of %d states.", n, r.States))
	}
	return out
}

// namer looks for the named ways in one circuit.
type namer struct {
	*circuit.Circuit
	say    names.Terms
	report *inspect.Report
}

// groups lists the sets of controls that share a light, when there are several.
func (m namer) groups() []string {
	by := map[string][]string{}
	var order []string
	for _, x := range m.report.Controls {
		if len(x.Lamps) == 0 {
			continue
		}
		key := strings.Join(x.Lamps, ", ")
		if by[key] == nil {
			order = append(order, key)
		}
		by[key] = append(by[key], x.Device)
	}
	var out []string
	for _, key := range order {
		var lamps, places []string
		for _, id := range strings.Split(key, ", ") {
			lamps = append(lamps, m.say.Short(id))
		}
		for _, id := range by[key] {
			places = append(places, m.say.Short(id))
		}
		out = append(out, strings.Join(lamps, ", ")+" by "+strings.Join(places, ", "))
	}
	return out
}

// places says where feed, lamp and switches lie.
func (m namer) places() []string {
	out := []string{}
	line, load := m.commonWith(electric.Line), m.commonWith(electric.Load)
	fixture := m.fedFixture()
	if fixture != "" && len(m.report.Controls) > 0 {
		out = append(out, m.below(fixture))
	}
	if box := strappedAt(m.Circuit, m.report); box != "" {
		common := m.say.Word("common")
		out = append(out, fmt.Sprintf("%s and %s are both at %s: the switches are strapped %s to %s.",
			names.Capitalize(m.say.Word("line")), m.say.Word("load"), m.say.Box(box), common, common))
	}
	if line == "" || load == "" {
		return out
	}
	feed, lamp := nearest(m.Circuit, line, load, circuit.Panel), nearest(m.Circuit, line, load, circuit.Fixture)
	switch {
	case fixture != "":
	case line != load && m.between(line, load):
		out = append(out, "Feed at "+m.say.Box(feed)+", lamp between the switches.")
	case feed == lamp && feed != "":
		out = append(out, "Feed and lamp both at "+m.say.Box(feed)+"; the other switch is a dead end.")
	case feed != "" && lamp != "":
		out = append(out, "Feed at "+m.say.Box(feed)+", lamp beyond "+m.say.Box(lamp)+".")
	}
	return append(out, fmt.Sprintf("%s arrives at the %s in %s; the %s in %s leads to the lamp.",
		names.Capitalize(m.say.Word("line")), m.say.Word("common"), m.say.Box(line), m.say.Word("common"), m.say.Box(load)))
}

// below names a circuit whose feed comes to a light first.
func (m namer) below(fixture string) string {
	var down []string // switch boxes that hang on the light's box itself
	passes := false
	for _, k := range m.Cables {
		other, known := k.Other(fixture)
		switch {
		case !k.In(fixture):
		case known && m.Box(other).Kind == circuit.Switch:
			down = append(down, other)
		case !known || m.Box(other).Kind != circuit.Panel:
			passes = passes || m.carries(k, fixture, electric.Line)
		}
	}
	switches := 0
	for _, b := range m.Boxes {
		if b.Kind == circuit.Switch {
			switches++
		}
	}
	where := "Feed at the lamp"
	if passes {
		where = "Feed looped in and out at the lamp"
	}
	switch {
	case len(down) > 1:
		return where + "; a cable goes to each switch, the " + m.say.Word("travelers") + " are joined through at the light."
	case len(down) == 1 && switches == 1:
		return where + ", two cores down to " + m.say.Box(down[0]) + "."
	case len(down) == 1:
		return where + ", a cable down to " + m.say.Box(down[0]) + "; the last switch is a dead end."
	}
	return where + "; the switches hang below it."
}

// carries reports whether a core of the cable has the role in the box.
func (m namer) carries(k circuit.Cable, box string, role electric.Role) bool {
	return slices.ContainsFunc(k.Cores, func(core string) bool {
		return m.report.Roles[circuit.End{Ref: circuit.Ref{Owner: k.ID, Part: core}, Box: box}] == role
	})
}

// middle names the switches between the two outer ones.
func (m namer) middle() []string {
	var boxes []string
	for _, d := range m.Devices {
		used := 0
		for _, j := range m.Joins {
			for _, r := range j.Of {
				if r.Owner == d.ID && r.Part != "ground" {
					used++
				}
			}
		}
		if d.Type == circuit.TypeFourWay && used == 4 {
			boxes = append(boxes, m.say.Box(d.Box))
		}
	}
	if len(boxes) == 0 {
		return nil
	}
	return []string{names.Capitalize(m.say.Word("four-way")) + " in the middle: " + strings.Join(boxes, ", ") + "."}
}

// neutrals says at which switches there is a neutral, once every box is known.
func (m namer) neutrals() []string {
	var with, without []string
	for _, b := range Order(m.Circuit) {
		if b.Kind != circuit.Switch {
			continue
		}
		has := false
		for _, end := range m.EndsIn(b.ID) {
			role, known := m.report.Roles[circuit.End{Ref: end, Box: b.ID}]
			if !known {
				return nil
			}
			has = has || role == electric.Neutral
		}
		if has {
			with = append(with, m.say.Box(b.ID))
		} else {
			without = append(without, m.say.Box(b.ID))
		}
	}
	word := names.Capitalize(m.say.Word("neutral"))
	switch {
	case len(with)+len(without) < 2:
		return nil
	case len(without) == 0:
		return []string{word + " at every switch."}
	case len(with) == 0:
		return []string{"No " + m.say.Word("neutral") + " at any switch."}
	}
	return []string{word + " at " + strings.Join(with, ", ") + "; none at " + strings.Join(without, ", ") + "."}
}

// onward names the cables by which the feed goes on to other rooms.
func (m namer) onward() []string {
	var out []string
	for _, k := range m.Cables {
		box := k.Ends[0]
		if box == nil {
			box = k.Ends[1]
		}
		if k.Stub() && m.carries(k, *box, electric.Line) && m.carries(k, *box, electric.Neutral) {
			out = append(out, names.Capitalize(m.say.Cable(k.ID))+" takes the feed on to a box that is not recorded yet.")
		}
	}
	return out
}

// commonWith returns the first switch box in which a common stands on the role.
func (m namer) commonWith(role electric.Role) string {
	for _, b := range Order(m.Circuit) {
		for _, d := range m.Devices {
			if b.Kind != circuit.Switch || d.Box != b.ID || d.Type != circuit.TypeThreeWay && d.Type != circuit.TypeThreeWayDimmer {
				continue
			}
			j := m.JoinOf(b.ID, circuit.Ref{Owner: d.ID, Part: "common"})
			if j >= 0 && slices.ContainsFunc(m.Joins[j].Of, func(x circuit.Ref) bool { return m.report.Roles[circuit.End{Ref: x, Box: b.ID}] == role }) {
				return b.ID
			}
		}
	}
	return ""
}

// between reports whether the way from one box to another leads through a box
// with a lamp.
func (m namer) between(a, b string) bool {
	from := map[string]string{a: a}
	queue := []string{a}
	for i := 0; i < len(queue); i++ {
		for _, k := range m.Cables {
			if !k.In(queue[i]) {
				continue
			}
			if other, ok := k.Other(queue[i]); ok && from[other] == "" {
				from[other] = queue[i]
				queue = append(queue, other)
			}
		}
	}
	if from[b] == "" {
		return false
	}
	for at := from[b]; at != a; at = from[at] {
		if m.hasLamp(at) {
			return true
		}
	}
	return false
}

func (m namer) hasLamp(box string) bool {
	return slices.ContainsFunc(m.Devices, func(d circuit.Device) bool { return d.Box == box && d.Type == circuit.TypeLamp })
}

// fedFixture returns the box of a light to which a cable comes from the panel, or
// "".
func (m namer) fedFixture() string {
	for _, k := range m.Cables {
		if k.Stub() {
			continue
		}
		for i, end := range k.Ends {
			if m.Box(*end).Kind == circuit.Panel && m.hasLamp(*k.Ends[1-i]) {
				return *k.Ends[1-i]
			}
		}
	}
	return ""
}

// strappedAt returns the box of the first switch that has line and load on its
// pair, and so its common strapped to another's, or "".
func strappedAt(c *circuit.Circuit, r *inspect.Report) string {
	on := func(d circuit.Device, t string, role electric.Role) bool {
		j := c.JoinOf(d.Box, circuit.Ref{Owner: d.ID, Part: t})
		return j >= 0 && slices.ContainsFunc(c.Joins[j].Of, func(m circuit.Ref) bool {
			return r.Roles[circuit.End{Ref: m, Box: d.Box}] == role
		})
	}
	for _, b := range Order(c) {
		for _, d := range c.Devices {
			if d.Box == b.ID && d.Type == circuit.TypeThreeWay &&
				(on(d, "t1", electric.Line) && on(d, "t2", electric.Load) || on(d, "t2", electric.Line) && on(d, "t1", electric.Load)) {
				return b.ID
			}
		}
	}
	return ""
}

// nearest returns which of two boxes a box of the kind reaches first.
func nearest(c *circuit.Circuit, a, b, kind string) string {
	for _, from := range c.Boxes {
		if from.Kind != kind {
			continue
		}
		queue, seen := []string{from.ID}, map[string]bool{from.ID: true}
		for i := 0; i < len(queue); i++ {
			if queue[i] == a || queue[i] == b {
				return queue[i]
			}
			for _, k := range c.Cables {
				if k.In(queue[i]) {
					if other, ok := k.Other(queue[i]); ok && !seen[other] {
						seen[other] = true
						queue = append(queue, other)
					}
				}
			}
		}
	}
	return ""
}
