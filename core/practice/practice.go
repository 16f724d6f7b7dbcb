// Package practice holds what differs between the wiring practices of the
// world: words, insulation colours, usual cables, volts and who may do the
// work. It is data with a few lookups; nothing electrical depends on it.
//
// The canonical names in the source are those of North America (line, load,
// traveler, common, neutral, ground); [Practice.Word] gives the word that the
// people of a practice use for each.
package practice

import (
	"bytes"
	"cmp"
	_ "embed"
	"encoding/json"
	"iter"
	"slices"
	"sync"

	"ambivia/core/circuit"
)

// Practice is one body of custom. Volts and Hertz are nominal.
type Practice struct {
	ID      string            `json:"id"`
	Name    string            `json:"name"`
	Volts   float64           `json:"volts"`
	Hertz   float64           `json:"hertz"`
	Words   map[string]string `json:"words"`
	Cables  []CablePreset     `json:"cables"`
	Colours Colours           `json:"colours"`
	// Eras are the colours of new and of old houses, by the value that a circuit
	// file has for them, where the practice changed its colours once. Colours
	// then accepts both.
	Eras    map[string]Colours `json:"eras,omitempty"`
	WhoMay  string             `json:"whoMay"`
	Caution string             `json:"caution"`
	// Paper is the paper that its people use, "a4" or "letter". CountsFill: what a box holds is a sum
	// of volumes by code; elsewhere depth decides, as a fit. NeutralAtSwitches is what it says of a
	// neutral at each switch, "" where it says nothing.
	Paper             string `json:"paper"`
	CountsFill        bool   `json:"countsFill,omitempty"`
	NeutralAtSwitches string `json:"neutralAtSwitches,omitempty"`
	// ReturnBeside: a neutral may come back in a second cable that runs beside, where no steel parts the two.
	ReturnBeside bool `json:"returnBeside,omitempty"`
}

// CablePreset is a usual cable: its name in the trade, its cores, and which of
// them is the neutral by custom, "" where it has none. Era is set where the
// practice changed its colours once.
type CablePreset struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Cores   []string `json:"cores"`
	Gauge   string   `json:"gauge,omitempty"`
	Neutral string   `json:"neutral,omitempty"`
	Era     string   `json:"era,omitempty"`
	Singles bool     `json:"singles,omitempty"` // no sheath: conductors drawn into a conduit one by one
}

// AreSingles reports whether cores run as singles in a conduit, so that one more can be drawn: two are of one colour, as no
// sheath has them, or the practice wires with singles alone.
func (p Practice) AreSingles(cores []string) bool {
	for i, core := range cores {
		if !slices.Contains(p.Colours.Ground, circuit.Colour(core)) && slices.ContainsFunc(cores[:i], func(x string) bool { return circuit.Colour(x) == circuit.Colour(core) }) {
			return true
		}
	}
	return !slices.ContainsFunc(p.Cables, func(k CablePreset) bool { return !k.Singles })
}

// Colours says which insulation may carry what. Line colours need no mark;
// Remark colours may carry line, load or a traveler once they are re-marked at
// both ends; ReturnForbidden colours may not be the switched conductor that
// goes to the lamp even when re-marked. Neutral colours alone carry neutral.
type Colours struct {
	Line            []string `json:"line"`
	Remark          []string `json:"remark"`
	ReturnForbidden []string `json:"returnForbidden"`
	Neutral         []string `json:"neutral"`
	Ground          []string `json:"ground"`
}

//go:embed practices.json
var data []byte

var all = sync.OnceValue(func() []Practice {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	var list []Practice
	if err := dec.Decode(&list); err != nil {
		panic("practice: the embedded data is unusable: " + err.Error())
	}
	return list
})

// Each goes through the practices in the order they are offered.
func Each() iter.Seq[Practice] { return slices.Values(all()) }

// All lists the practices in the order they are offered.
func All() []Practice { return slices.Clone(all()) }

// Of returns the practice with the id, and that of North America for an id
// that nobody knows.
func Of(id string) Practice {
	for _, p := range all() {
		if p.ID == id {
			return p
		}
	}
	return all()[0]
}

// For returns the practice of a circuit with the colours of its house: in an
// old house the cables of its time come first, and in both a house that is said
// to be all new or all old accepts the colours of its own time alone.
func For(c *circuit.Circuit) Practice {
	p := Of(c.Practice)
	colours, said := p.Eras[c.Colours]
	if !said {
		return p
	}
	p.Colours = colours
	p.Cables = slices.Clone(p.Cables)
	slices.SortStableFunc(p.Cables, func(a, b CablePreset) int {
		return cmp.Compare(rank(a.Era, c.Colours), rank(b.Era, c.Colours))
	})
	return p
}

func rank(era, wanted string) int {
	if era == wanted {
		return 0
	}
	return 1
}

// Volts is what the circuit's supply gives: as recorded, else the nominal
// volts of its practice.
func Volts(c *circuit.Circuit) float64 {
	if c.Supply != nil && c.Supply.Volts != nil {
		return *c.Supply.Volts
	}
	return Of(c.Practice).Volts
}

// Word returns the practice's word for a canonical name, or the name itself.
func (p Practice) Word(name string) string {
	if w, ok := p.Words[name]; ok {
		return w
	}
	return name
}

// NeutralOnly reports whether the core's colour is by custom a neutral and
// nothing else, so that one takes it for one.
func (p Practice) NeutralOnly(core string) bool {
	colour := circuit.Colour(core)
	return slices.Contains(p.Colours.Neutral, colour) && !slices.Contains(p.Colours.Line, colour)
}

// May says whether a core of this colour may carry the role, and whether it
// must be re-marked at both ends to do so. Roles are those of package
// electric: line, load, traveler, signal, neutral, ground.
//
// The rules: ground colours carry ground and nothing else; a neutral keeps its
// colour and no other colour becomes one; a neutral-coloured core may be
// re-marked as line, traveler or signal, and in North America not as the
// switched conductor to the lamp.
func (p Practice) May(core, role string) (allowed, remark bool) {
	colour := circuit.Colour(core)
	ground := slices.Contains(p.Colours.Ground, colour)
	if circuit.GroundColour(core) || ground && !slices.Contains(p.Colours.Line, colour) && !slices.Contains(p.Colours.Neutral, colour) {
		return role == "ground", false
	}
	switch {
	case role == "ground": // in an old house a colour may have been anything
		return ground, false
	case role == "neutral":
		return slices.Contains(p.Colours.Neutral, colour), false
	case slices.Contains(p.Colours.Line, colour):
		return true, false
	case role == "load" && slices.Contains(p.Colours.ReturnForbidden, colour):
		return false, false
	}
	return true, true
}

// Lead is the colour of a new device's lead by what it stands on, "line", "neutral" or "ground",
// and "" for anything else: custom fixes no other. New devices have the colours of new houses,
// wherever they go.
func (p Practice) Lead(stands string) string {
	colours := p.Colours
	if now, changed := Of(p.ID).Eras["new"]; changed {
		colours = now
	}
	switch stands {
	case "line":
		return colours.Line[0]
	case "neutral":
		return colours.Neutral[0]
	case "ground":
		for _, c := range colours.Ground {
			if c != "bare" {
				return c
			}
		}
	}
	return ""
}
