package survey

import (
	"fmt"
	"slices"
	"strings"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/practice"
)

// Preset is a usual box: what one often sees on opening it, entered in one tap
// and corrected where it differs. Via says which cable it is reached by: "two"
// or "three" for a cable with so many insulated cores at least, "" for none.
type Preset struct {
	ID    string `json:"id"`
	Kind  string `json:"kind"`
	Title string `json:"title"`
	Via   string `json:"via,omitempty"`
	// adds lists further cables by name and kind; device is what stands in the
	// box; joins name cores by cable and part: "via.line", "on.x2". Marks are
	// never entered by a usual box: tape is recorded where somebody saw it.
	adds   [][2]string
	device string
	joins  []string
}

// Presets are the usual boxes in the order in which power meets them. Titles
// hold canonical names in braces for the practice's words.
var Presets = []Preset{
	{ID: "panel", Kind: circuit.Panel, Title: "{panel} with one feed cable", adds: [][2]string{{"on", "two"}}, device: circuit.TypeSupply,
		joins: []string{"on.line dev.hot", "on.neutral dev.neutral", "on.ground dev.ground"}},
	{ID: "feed-here", Kind: circuit.Switch, Title: "{two controls}: feed comes in, three or more cores go on", Via: "two", adds: [][2]string{{"on", "between"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.line dev.common", "on.line1 dev.t1", "on.line2 dev.t2", "via.neutral on.neutral", "via.ground on.ground dev.ground"}},
	{ID: "lamp-beyond", Kind: circuit.Switch, Title: "{two controls}: {travelers} come in, a cable goes on to the lamp", Via: "three", adds: [][2]string{{"on", "two"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.line1 dev.t1", "via.line2 dev.t2", "on.line dev.common", "via.neutral on.neutral", "via.ground on.ground dev.ground"}},
	{ID: "both-here", Kind: circuit.Switch, Title: "{two controls}: feed and lamp both here, {line} sent on", Via: "two", adds: [][2]string{{"on", "three"}, {"lamp", "two"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.line on.x1", "lamp.line dev.common", "on.x2 dev.t1", "on.x3 dev.t2", "via.neutral lamp.neutral", "via.ground on.ground lamp.ground dev.ground"}},
	{ID: "dead-end", Kind: circuit.Switch, Title: "{two controls}: dead end, {line} on the {common}", Via: "three", device: circuit.TypeThreeWay,
		joins: []string{"via.x1 dev.common", "via.x2 dev.t1", "via.x3 dev.t2", "via.ground dev.ground"}},
	{ID: "feed-at-lamp", Kind: circuit.Fixture, Title: "Light: feed comes in, two cores go down to a switch", Via: "two", adds: [][2]string{{"on", "two"}}, device: circuit.TypeLamp,
		joins: []string{"via.line on.neutral", "via.neutral dev.n", "on.line dev.l", "via.ground on.ground dev.ground"}},
	{ID: "loop-here", Kind: circuit.Switch, Title: "{two controls}: {line} and {load} come from the lamp, three cores go on", Via: "two", adds: [][2]string{{"on", "three"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.neutral on.x3", "via.line dev.common", "on.x1 dev.t1", "on.x2 dev.t2", "via.ground on.ground dev.ground"}},
	{ID: "loop-end", Kind: circuit.Switch, Title: "{two controls}: dead end, third core on the {common}", Via: "three", device: circuit.TypeThreeWay,
		joins: []string{"via.x3 dev.common", "via.x1 dev.t1", "via.x2 dev.t2", "via.ground dev.ground"}},
	{ID: "middle", Kind: circuit.Switch, Title: "{four-way} between: {travelers} in and out", Via: "three", adds: [][2]string{{"on", "between"}}, device: circuit.TypeFourWay,
		joins: []string{"via.line1 dev.a1", "via.line2 dev.a2", "on.line1 dev.b1", "on.line2 dev.b2", "via.neutral on.neutral", "via.ground on.ground dev.ground"}},
	{ID: "middle-three", Kind: circuit.Switch, Title: "{four-way} in three cores: two switched, the third straight through", Via: "three", adds: [][2]string{{"on", "three"}}, device: circuit.TypeFourWay,
		joins: []string{"via.x1 dev.a1", "via.x2 dev.a2", "on.x1 dev.b1", "on.x2 dev.b2", "via.x3 on.x3", "via.ground on.ground dev.ground"}},
	{ID: "middle-strapped", Kind: circuit.Switch, Title: "{four-way} in three cores: the first straight through, the others switched", Via: "three", adds: [][2]string{{"on", "three"}}, device: circuit.TypeFourWay,
		joins: []string{"via.x2 dev.a1", "via.x3 dev.a2", "on.x2 dev.b1", "on.x3 dev.b2", "via.x1 on.x1", "via.ground on.ground dev.ground"}},
	{ID: "rose", Kind: circuit.Fixture, Title: "Loop-in rose: feed in and out, two cores down to a switch", Via: "two", adds: [][2]string{{"down", "two"}, {"onward", "two"}}, device: circuit.TypeLamp,
		joins: []string{"via.line down.line onward.line", "via.neutral onward.neutral dev.n", "down.neutral dev.l", "via.ground down.ground onward.ground dev.ground"}},
	{ID: "strapped-here", Kind: circuit.Switch, Title: "{two controls}: {line} and {load} both here, strapped {common} to {common}", Via: "two", adds: [][2]string{{"on", "three"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.line on.x2 dev.t1", "via.neutral on.x3 dev.t2", "on.x1 dev.common", "via.ground on.ground dev.ground"}},
	{ID: "strapped-end", Kind: circuit.Switch, Title: "{two controls}: far end of two strapped switches, {common} to {common}", Via: "three", device: circuit.TypeThreeWay,
		joins: []string{"via.x1 dev.common", "via.x2 dev.t1", "via.x3 dev.t2", "via.ground dev.ground"}},
	{ID: "feed-onward", Kind: circuit.Switch, Title: "{two controls}: feed comes in and goes on to other rooms, {travelers} go on", Via: "two", adds: [][2]string{{"on", "between"}, {"onward", "two"}}, device: circuit.TypeThreeWay,
		joins: []string{"via.line onward.line dev.common", "on.line1 dev.t1", "on.line2 dev.t2", "via.neutral on.neutral onward.neutral", "via.ground on.ground onward.ground dev.ground"}},
	{ID: "single", Kind: circuit.Switch, Title: "{single-pole}: feed comes in, a cable goes on to the lamp", Via: "two", adds: [][2]string{{"on", "two"}}, device: circuit.TypeSinglePole,
		joins: []string{"via.line dev.a", "on.line dev.b", "via.neutral on.neutral", "via.ground on.ground dev.ground"}},
	{ID: "lamp-chain", Kind: circuit.Fixture, Title: "Light, and a cable on to the next light", Via: "two", adds: [][2]string{{"on", "two"}}, device: circuit.TypeLamp,
		joins: []string{"via.line on.line dev.l", "via.neutral on.neutral dev.n", "via.ground on.ground dev.ground"}},
	{ID: "junction", Kind: circuit.Junction, Title: "Junction box: one cable in, one cable on, colour to colour", Via: "two", adds: [][2]string{{"on", "two"}},
		joins: []string{"via.line on.line", "via.neutral on.neutral", "via.ground on.ground"}},
	{ID: "outlet", Kind: circuit.Junction, Title: "{receptacle} at the end of a cable", Via: "two", device: circuit.TypeReceptacle,
		joins: []string{"via.line dev.l", "via.neutral dev.n", "via.ground dev.ground"}},
	{ID: "lamp-end", Kind: circuit.Fixture, Title: "Light at the end of a cable", Via: "two", device: circuit.TypeLamp,
		joins: []string{"via.line dev.l", "via.neutral dev.n", "via.ground dev.ground"}},
}

// Usual lists the presets with titles in the words of a practice.
func Usual(p practice.Practice) []Preset {
	out := slices.Clone(Presets)
	for i := range out {
		for name, word := range p.Words {
			out[i].Title = strings.ReplaceAll(out[i].Title, "{"+name+"}", word)
		}
		out[i].Title = strings.ToUpper(out[i].Title[:1]) + out[i].Title[1:]
	}
	return out
}

// usualCable picks a cable of the practice: "two" and "three" by their ids,
// "between" the first with two line cores and a neutral.
func usualCable(p practice.Practice, kind string) (practice.CablePreset, bool) {
	for _, k := range p.Cables {
		if base, _, _ := strings.Cut(k.ID, "-"); base == kind || kind == "between" && k.Neutral != "" && len(insulated(k.Cores)) > 2 {
			return k, true
		}
	}
	// A practice without a cable of three and no neutral takes what it has.
	return practice.CablePreset{}, false
}

func insulated(cores []string) []string {
	return slices.DeleteFunc(slices.Clone(cores), circuit.GroundColour)
}

// fill enters what a usual box holds. via is the cable that it is reached by.
func (w *writer) fill(preset Preset, box, via string) error {
	p := practice.For(w.Circuit)
	cables := map[string]*circuit.Cable{}
	if preset.Via != "" {
		if via == "" { // nobody knows by which: it is one of its own until somebody does
			usual, ok := usualCable(p, preset.Via)
			if !ok {
				return refuse(circuit.CodeMissingField, "cable", "name the cable that this box is reached by: the practice has no usual one for it")
			}
			k := circuit.Cable{ID: w.newID("k"), Ends: [2]*string{&box, nil}, Cores: slices.Clone(usual.Cores), Gauge: usual.Gauge}
			w.Cables = append(w.Cables, k)
			via = k.ID
		}
		cables["via"] = w.Circuit.Cable(via)
	}
	for _, add := range preset.adds {
		usual, ok := usualCable(p, add[1])
		if !ok {
			return refuse(circuit.CodeUnknownID, "preset", "the practice has no usual cable for this box; enter it by hand")
		}
		k := circuit.Cable{ID: w.newID("k"), Ends: [2]*string{&box, nil}, Cores: slices.Clone(usual.Cores), Gauge: usual.Gauge}
		w.Cables = append(w.Cables, k)
		cables[add[0]] = &k
	}
	prefix := devicePrefixes[preset.device]
	if prefix == "" {
		prefix = "s"
	}
	dev := circuit.Device{ID: w.newID(prefix), Box: box, Type: preset.device}
	if dev.Type == circuit.TypeSupply && w.Circuit.Device("supply") == nil {
		dev.ID = "supply"
	}
	if dev.Type != "" {
		w.Devices = append(w.Devices, dev)
	}
	find := func(name string) (circuit.Ref, error) {
		owner, part, _ := strings.Cut(name, ".")
		if owner == "dev" {
			return circuit.Ref{Owner: dev.ID, Part: part}, nil
		}
		core := coreOf(p, cables[owner].Cores, part)
		if core == "" {
			return circuit.Ref{}, refuse(circuit.CodeUnknownCore, "cable", "%s (%s) has no core for this usual box (%s); choose another one, or enter the box by hand",
				names.For(w.Circuit).Cable(cables[owner].ID), strings.Join(cables[owner].Cores, ", "), part)
		}
		return circuit.Ref{Owner: cables[owner].ID, Part: core}, nil
	}
	for _, line := range preset.joins {
		j := circuit.Join{Box: box}
		for name := range strings.FieldsSeq(line) {
			ref, err := find(name)
			if err != nil {
				if strings.HasSuffix(name, ".ground") {
					continue // an old cable without ground
				}
				return err
			}
			j.Of = append(j.Of, ref)
		}
		if len(j.Of) > 1 {
			w.Joins = append(w.Joins, j)
		}
	}
	return nil
}

// coreOf finds a core by its part: "line" or "line1" the first coloured one,
// "line2" the second, "neutral", "ground", "x1" to "x3" any insulated core in
// order. It returns "" where the cable has none.
func coreOf(p practice.Practice, cores []string, part string) string {
	neutral := ""
	for _, k := range p.Cables {
		if slices.Equal(k.Cores, cores) {
			neutral = k.Neutral
		}
	}
	all := insulated(cores)
	lines := slices.DeleteFunc(slices.Clone(all), func(c string) bool { return c == neutral })
	nth := func(list []string, n int) string {
		if n < len(list) {
			return list[n]
		}
		return ""
	}
	switch part {
	case "line", "line1":
		return nth(lines, 0)
	case "line2":
		return nth(lines, 1)
	case "neutral":
		return neutral
	case "ground":
		if i := slices.IndexFunc(cores, circuit.GroundColour); i >= 0 {
			return cores[i]
		}
		return ""
	}
	var n int
	if _, err := fmt.Sscanf(part, "x%d", &n); err != nil {
		panic("survey: a preset names an unknown part: " + part)
	}
	return nth(all, n-1)
}

// Empty are the boxes that are added empty, by their kinds, with what they are called.
var Empty = []struct{ Kind, Text string }{
	{circuit.Switch, "Empty switch box"}, {circuit.Fixture, "Empty box of a light"}, {circuit.Junction, "Empty junction box"},
}

// MarkRoles are what a conductor may be marked as, canonical words.
var MarkRoles = []string{"line", "load", "traveler", "neutral", "signal"}
