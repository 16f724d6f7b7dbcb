package circuit

import (
	"fmt"
	"slices"
	"strings"
)

// MaxContacts is the largest number of switches, relays inside smart devices
// counted one by one, that one document may hold: a state of the circuit is
// kept as one bit for each.
const MaxContacts = 64

// Validate checks a circuit that was built in memory for what no schema can
// say; [Read] does so for files. The error is an [*Error].
func (c *Circuit) Validate() error {
	if found := c.problems(); len(found) > 0 {
		return &Error{found}
	}
	return nil
}

// validator collects problems while it walks the document.
type validator struct {
	*Circuit
	boxes   map[string]*Box
	cables  map[string]*Cable
	devices map[string]*Device
	found   []Problem
}

func (c *Circuit) problems() []Problem {
	v := &validator{Circuit: c, boxes: map[string]*Box{}, cables: map[string]*Cable{}, devices: map[string]*Device{}}
	v.checkBoxes()
	v.checkCables()
	v.checkModels()
	v.checkDevices()
	v.checkJoins()
	v.checkLoose()
	v.checkMarks()
	v.checkLinks()
	v.checkAutomation()
	v.checkObservations()
	v.checkReports()
	v.checkGates()
	v.checkEvidence()
	v.checkAccepted()
	return v.found
}

func (v *validator) add(code Code, place string, format string, args ...any) {
	v.found = append(v.found, Problem{code, place, 0, fmt.Sprintf(format, args...)})
}

func (v *validator) checkBoxes() {
	for i := range v.Boxes {
		b := &v.Boxes[i]
		if v.boxes[b.ID] != nil {
			v.add(CodeDuplicateID, at("boxes", i, "id"), "a box %q stands above already; each box needs an id of its own", b.ID)
		}
		v.boxes[b.ID] = b
	}
}

func (v *validator) checkCables() {
	for i := range v.Cables {
		k := &v.Cables[i]
		if v.cables[k.ID] != nil {
			v.add(CodeDuplicateID, at("cables", i, "id"), "a cable %q stands above already; each cable needs an id of its own", k.ID)
		}
		v.cables[k.ID] = k
		for j, core := range k.Cores {
			if slices.Contains(k.Cores[:j], core) {
				v.add(CodeDuplicateID, at("cables", i, "cores", j), "the cable has a core %q already; number the second one (%s2)", core, Colour(core))
			}
		}
		known := true
		for j, end := range k.Ends {
			if end == nil {
				known = false
			} else if v.boxes[*end] == nil {
				v.add(CodeUnknownID, at("cables", i, "ends", j), "there is no box %q", *end)
				known = false
			}
		}
		switch {
		case k.Ends[0] == nil && k.Ends[1] == nil:
			v.add(CodeCableEnds, at("cables", i, "ends"), "a cable is seen in one box at least; name that box")
		case !known:
		case *k.Ends[0] == *k.Ends[1]:
			v.add(CodeCableEnds, at("cables", i, "ends"), "both ends are in box %q; a cable joins two boxes", *k.Ends[0])
		}
	}
}

func (v *validator) checkDevices() {
	contacts := 0
	for i := range v.Devices {
		d := &v.Devices[i]
		where := func(field string) string { return at("devices", i, field) }
		if v.devices[d.ID] != nil {
			v.add(CodeDuplicateID, where("id"), "a device %q stands above already; each device needs an id of its own", d.ID)
		}
		if v.cables[d.ID] != nil {
			v.add(CodeDuplicateID, where("id"), "a cable has the id %q; ends of the two could not be told apart", d.ID)
		}
		v.devices[d.ID] = d
		if v.boxes[d.Box] == nil {
			v.add(CodeUnknownID, where("box"), "there is no box %q", d.Box)
		}
		if d.Mechanical() {
			contacts++
		} else if d.Position != nil {
			v.add(CodeMisplaced, where("position"), "only a switch that is moved by hand has a position")
		}
		if d.Type == TypeSmart {
			if d.Model == "" {
				v.add(CodeMissingField, where("model"), "a smart device names its model")
			} else if m, ok := v.Models[d.Model]; !ok {
				v.add(CodeUnknownID, where("model"), "models has no %q", d.Model)
			} else {
				contacts += len(m.Switches)
			}
		} else if d.Model != "" {
			v.add(CodeMisplaced, where("model"), "only a device of type smart has a model")
		}
		if d.Case != "" {
			host := v.Device(d.Case)
			switch {
			case host == nil:
				v.add(CodeUnknownID, where("case"), "there is no device %q", d.Case)
			case d.Type != TypeSmart || host.Type != TypeSmart || host.Box != d.Box || host.Case != "" || host.ID == d.ID:
				v.add(CodeMisplaced, where("case"), "a further gang is a smart device in the case of another of the same box, whose own it is")
			}
		}
		if d.Type != TypeSupply && (d.Breaker != "" || d.Amps != nil) {
			v.add(CodeMisplaced, where("label"), "only a supply has a breaker with a label and a rating")
		}
		if d.Type != TypeLamp {
			for _, f := range []struct {
				name string
				set  bool
			}{{"watts", d.Watts != nil}, {"count", d.Count != nil}, {"load", d.Load != ""}} {
				if f.set {
					v.add(CodeMisplaced, where(f.name), "only a lamp has %s", f.name)
				}
			}
		}
	}
	if contacts > MaxContacts {
		v.add(CodeTooManyParts, "devices", "%d switches; one circuit holds %d at most", contacts, MaxContacts)
	}
}

func (v *validator) checkModels() {
	for _, id := range sortedKeys(v.Models) {
		m := v.Models[id]
		has := func(terminal, field string) {
			if terminal != "" && !slices.Contains(m.Terminals, terminal) {
				v.add(CodeUnknownPart, at("models", id, field), "the model has no terminal %q; it has %s", terminal, list(m.Terminals))
			}
		}
		relays := make([]string, len(m.Switches))
		for i, t := range m.Terminals {
			if slices.Contains(m.Terminals[:i], t) {
				v.add(CodeDuplicateID, at("models", id, "terminals", i), "the model has a terminal %q already", t)
			}
		}
		for i, s := range m.Switches {
			if slices.Contains(relays[:i], s.ID) {
				v.add(CodeDuplicateID, at("models", id, "switches", i, "id"), "the model has a switch %q already", s.ID)
			}
			relays[i] = s.ID
			has(s.Pole, fmt.Sprintf("switches[%d].pole", i))
			for _, t := range s.Throws {
				has(t, fmt.Sprintf("switches[%d].throws", i))
			}
		}
		switchOf := func(relay, field string) {
			if relay != "" && !slices.Contains(relays, relay) {
				v.add(CodeUnknownID, at("models", id, field), "the model has no switch %q", relay)
			}
		}
		for i, pair := range m.Supply {
			has(pair[0], fmt.Sprintf("supply[%d]", i))
			has(pair[1], fmt.Sprintf("supply[%d]", i))
		}
		for i, in := range m.Inputs {
			has(in.Terminal, fmt.Sprintf("inputs[%d].terminal", i))
			has(in.To, fmt.Sprintf("inputs[%d].to", i))
			switchOf(in.Toggles, fmt.Sprintf("inputs[%d].toggles", i))
			if in.On == "pulse" && in.To != "" {
				v.add(CodeContradicts, at("models", id, fmt.Sprintf("inputs[%d].to", i)), "a pulse is heard at one terminal; only an edge is watched between two")
			}
		}
		for _, t := range sortedKeys(m.Needs) {
			has(t, "needs")
		}
		if m.Button != nil {
			switchOf(m.Button.Toggles, "button.toggles")
			has(m.Button.Pulse, "button.pulse")
			has(m.Button.From, "button.from")
		}
		switchOf(m.Remote, "remote")
		if m.DrawsThroughLoad() && len(m.Supply) == 0 {
			v.add(CodeContradicts, at("models", id, "throughLoad"), "a device that draws its power through the lamp names the pair line and load in supply")
		}
	}
}

// ref checks that a core or terminal exists, and that it is in the box unless
// box is "".
func (v *validator) ref(r Ref, box, place string) {
	if k := v.cables[r.Owner]; k != nil {
		if !slices.Contains(k.Cores, r.Part) {
			v.add(CodeUnknownCore, place, "cable %q has no core %q; it has %s", k.ID, r.Part, list(k.Cores))
		} else if box != "" && !k.In(box) {
			v.add(CodeWrongBox, place, "cable %q does not end in box %q", k.ID, box)
		}
		return
	}
	d := v.devices[r.Owner]
	if d == nil {
		v.add(CodeUnknownID, place, "there is no cable or device %q", r.Owner)
		return
	}
	if d.Type == TypeSmart && !v.hasModel(d) {
		return // its missing model is reported where the device stands
	}
	if ts := v.Terminals(*d); !slices.Contains(ts, r.Part) {
		v.add(CodeUnknownPart, place, "%s %q has no terminal %q; it has %s", d.Type, d.ID, r.Part, list(ts))
	} else if box != "" && d.Box != box {
		v.add(CodeWrongBox, place, "device %q stands in box %q, not in %q", d.ID, d.Box, box)
	}
}

func (v *validator) hasModel(d *Device) bool { _, ok := v.Models[d.Model]; return ok }

func (v *validator) checkJoins() {
	taken := map[End]int{}
	for i, j := range v.Joins {
		if v.boxes[j.Box] == nil {
			v.add(CodeUnknownID, at("joins", i, "box"), "there is no box %q", j.Box)
			continue
		}
		for n, r := range j.Of {
			where := at("joins", i, "of", n)
			v.ref(r, j.Box, where)
			e := End{r, j.Box}
			if first, twice := taken[e]; twice {
				v.add(CodeTwoJoins, where, "%s in box %q stands in joins[%d] already; put all that one connector holds into one join", r, j.Box, first)
				continue
			}
			taken[e] = i
		}
	}
}

// end checks a reference outside a join, where a core names its box.
func (v *validator) end(e End, place string) {
	if v.cables[e.Owner] != nil && e.Box == "" {
		v.add(CodeWrongBox, place, "a core outside a join names its box: %s@BOX", e.Ref)
		return
	}
	if e.Box != "" && v.boxes[e.Box] == nil {
		v.add(CodeUnknownID, place, "there is no box %q", e.Box)
		return
	}
	v.ref(e.Ref, e.Box, place)
}

// checkLoose holds loose ends to what they are: cores that stand in no join.
func (v *validator) checkLoose() {
	for i, e := range v.Loose {
		where := at("loose", i)
		v.end(e, where)
		if v.cables[e.Owner] == nil && v.devices[e.Owner] != nil {
			v.add(CodeMisplaced, where, "a loose end is a core, not a terminal")
		} else if e.Box != "" && v.JoinOf(e.Box, e.Ref) >= 0 {
			v.add(CodeContradicts, where, "%s stands in a join; a loose end stands in none", e)
		}
		if slices.Contains(v.Loose[:i], e) {
			v.add(CodeContradicts, where, "%s is listed already", e)
		}
	}
}

// checkAccepted holds what was accepted to core ends, each once.
func (v *validator) checkAccepted() {
	for i, a := range v.Accepted {
		where := at("accepted", i, "end")
		v.end(a.End, where)
		if v.cables[a.End.Owner] == nil && v.devices[a.End.Owner] != nil {
			v.add(CodeMisplaced, where, "a conductor is accepted at a core, not at a terminal")
		}
		if slices.ContainsFunc(v.Accepted[:i], func(b Accepted) bool { return a.End == b.End }) {
			v.add(CodeContradicts, where, "%s is accepted already", a.End)
		}
	}
}

func (v *validator) checkMarks() {
	seen := map[End]bool{}
	for i, m := range v.Marks {
		v.end(m.End, at("marks", i, "end"))
		if v.cables[m.End.Owner] == nil && v.devices[m.End.Owner] != nil {
			v.add(CodeMisplaced, at("marks", i, "end"), "a mark stands on a core, not on a terminal")
		}
		if seen[m.End] {
			v.add(CodeContradicts, at("marks", i, "end"), "%s is marked already", m.End)
		}
		seen[m.End] = true
	}
}

func (v *validator) checkLinks() {
	for i, l := range v.Links {
		for _, side := range []struct{ field, id string }{{"from", l.From}, {"to", l.To}} {
			if d := v.devices[side.id]; d == nil {
				v.add(CodeUnknownID, at("links", i, side.field), "there is no device %q", side.id)
			} else if d.Type != TypeSmart {
				v.add(CodeMisplaced, at("links", i, side.field), "%q is no smart device; only those can be linked", side.id)
			}
		}
		if l.From == l.To {
			v.add(CodeContradicts, at("links", i), "a link joins two devices, not one with itself")
		}
		if d := v.devices[l.To]; d != nil && d.Type == TypeSmart && v.hasModel(d) && v.Models[d.Model].Remote == "" {
			v.add(CodeContradicts, at("links", i, "to"), "the model of %q has no remote: nothing in it can be switched by a link", l.To)
		}
	}
}

func (v *validator) checkObservations() {
	for i, o := range v.Observations {
		where := func(parts ...any) string { return at(append([]any{"observations", i}, parts...)...) }
		for n, r := range o.Lifted {
			v.ref(r, "", where("lifted", n))
			if v.cables[r.Owner] != nil {
				v.add(CodeObservation, where("lifted", n), "wires are lifted off terminals; %s is a core", r)
			}
		}
		for n, id := range o.Flipped {
			if d := v.devices[id]; d == nil {
				v.add(CodeUnknownID, where("flipped", n), "there is no device %q", id)
			} else if !d.Mechanical() {
				v.add(CodeObservation, where("flipped", n), "%q is no switch that is moved by hand", id)
			}
		}
		for n, id := range o.LampsOut {
			if d := v.devices[id]; d == nil {
				v.add(CodeUnknownID, where("lampsOut", n), "there is no device %q", id)
			} else if d.Type != TypeLamp {
				v.add(CodeObservation, where("lampsOut", n), "%q is no lamp", id)
			}
		}
		for n, e := range o.At {
			v.end(e, where("at", n))
		}
		v.checkLight(o, where)
		for n, group := range o.Tied {
			for m, e := range group {
				v.end(e, where("tied", n, m))
			}
		}
		v.checkReading(o, where)
	}
}

// checkLight holds a look at a light to a lamp that there is; it must be named where there
// are several.
func (v *validator) checkLight(o Observation, where func(...any) string) {
	switch d := v.devices[o.Light]; {
	case o.Light == "":
		lamps := 0
		for _, d := range v.Devices {
			if d.Type == TypeLamp {
				lamps++
			}
		}
		if o.Instrument == LampLook && len(o.At) == 0 && lamps > 1 {
			v.add(CodeMissingField, where("light"), "there are %d lamps; name the one looked at", lamps)
		}
	case o.Instrument != LampLook:
		v.add(CodeMisplaced, where("light"), "only a look at a lamp names one")
	case d == nil:
		v.add(CodeUnknownID, where("light"), "there is no device %q", o.Light)
	case d.Type != TypeLamp:
		v.add(CodeObservation, where("light"), "%q is no lamp", o.Light)
	}
}

// instruments: how many ends each touches and the words it can answer.
var instruments = map[string]struct {
	ends     int
	readings []string
}{
	NonContact: {1, []string{"live", "quiet"}},
	TwoPole:    {2, nil},
	Multimeter: {2, nil},
	Continuity: {2, []string{"closed", "open"}},
	LampLook:   {0, []string{"lit", "dark"}},
}

// Probes is how many ends an instrument is put to.
func Probes(instrument string) int { return instruments[instrument].ends }

func (v *validator) checkReading(o Observation, where func(...any) string) {
	kind := instruments[o.Instrument]
	if o.Instrument != LampLook && len(o.At) != kind.ends {
		v.add(CodeObservation, where("at"), "a %s test is made at %d ends; this names %d", o.Instrument, kind.ends, len(o.At))
	}
	if o.Instrument == Continuity && o.Power == "on" {
		v.add(CodeObservation, where("power"), "continuity is tested with the power off")
	}
	switch r := o.Reading.(type) {
	case nil:
	case string:
		if r == Trips && o.Power != "on" {
			v.add(CodeObservation, where("reading"), "a breaker trips with the power on only")
		}
		if r != Unclear && r != Trips && !slices.Contains(kind.readings, r) {
			want := list(kind.readings)
			if kind.readings == nil {
				want = "volts as a number"
			}
			v.add(CodeObservation, where("reading"), "a %s test does not read %q; it reads %s", o.Instrument, r, want)
		}
	default:
		if kind.readings != nil {
			v.add(CodeObservation, where("reading"), "a %s test reads %s, not a number", o.Instrument, list(kind.readings))
		}
	}
}

func (v *validator) checkReports() {
	for i, r := range v.Reports {
		where := at("reports", i, "device")
		switch d := v.devices[r.Device]; {
		case r.Device == "" && (r.Says == SaysNothing || r.Says == SaysSometimes):
			v.add(CodeMissingField, where, "say of which switch it is told")
		case r.Device != "" && d == nil:
			v.add(CodeUnknownID, where, "there is no device %q", r.Device)
		case d != nil && !d.Mechanical():
			v.add(CodeMisplaced, where, "%q is no switch that is moved by hand", r.Device)
		}
	}
}

func (v *validator) checkGates() {
	for i, g := range v.Gates {
		if g.Box != "" && v.boxes[g.Box] == nil {
			v.add(CodeUnknownID, at("gates", i, "box"), "there is no box %q", g.Box)
		}
	}
}

func (v *validator) checkEvidence() {
	for i, e := range v.Evidence {
		for n, by := range e.By {
			if by > len(v.Observations) {
				v.add(CodeUnknownID, at("evidence", i, "by", n), "there is no observation %d", by)
			}
		}
		where := at("evidence", i, "of")
		if !strings.Contains(e.Of, ".") {
			if v.cables[e.Of] == nil && v.Device(e.Of) == nil && v.boxes[e.Of] == nil {
				v.add(CodeUnknownID, where, "there is no cable, device or box %q", e.Of)
			}
			continue
		}
		end, err := ParseEnd(e.Of)
		if err != nil {
			v.add(CodeSchema, where, "%v", err)
			continue
		}
		v.end(end, where)
	}
}

// list writes names as "a, b, c".
func list(names []string) string {
	if len(names) == 0 {
		return "none"
	}
	return strings.Join(names, ", ")
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}
