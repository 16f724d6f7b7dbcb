package retrofit

import (
	"cmp"
	"fmt"
	"slices"

	"ambivia/core/names"
)

// familyNames are the families in a word or two, by number; docs/ideas/retrofit.md says what each is.
var familyNames = map[string]string{
	"S1": "sensing switch", "S2": "companion as contact", "S3": "wired auxiliary", "S4": "through the lamp", "S5": "battery remote",
	"S6": "paired switches", "S7": "powered remote", "S8": "push switch", "S9": "module", "S10": "changeover relay", "S11": "messages",
	"S12": "central module", "S13": "smart lamps", "S14": "selector",
}

// Narrow is a stretch between two boxes whose cables cannot carry what some options need there.
type Narrow struct {
	A      string   `json:"a"` // boxes
	B      string   `json:"b"`
	Cables []string `json:"cables"`
	Has    int      `json:"has"` // cores beside ground
	Text   string   `json:"text"`
	Bars   []Bar    `json:"bars"`
}

// Bar says what a stretch keeps from being fitted.
type Bar struct {
	Family     string `json:"family"` // its number, S1 to S14
	FamilyName string `json:"familyName"`
	Needs      int    `json:"needs"`   // cores beside ground, of the option that needs fewest
	Colours    bool   `json:"colours"` // there are enough, but of colours that may not
	Options    int    `json:"options"` // how many of the family fail there
	Fitting    int    `json:"fitting"` // how many of the family fit all the same, elsewhere or with other devices
}

// narrowPlaces gathers the stretches that are too thin for some options, those that bar most first.
func narrowPlaces(say names.Terms, options []Option) []Narrow {
	out := []Narrow{}
	fitting := map[string]int{}
	for i := range options {
		if options[i].Feasible {
			fitting[options[i].Family]++
		}
	}
	for i := range options {
		o := &options[i]
		for _, r := range o.Reasons {
			if o.Feasible || r.thin == nil {
				continue
			}
			s := r.thin.span
			at := slices.IndexFunc(out, func(n Narrow) bool { return n.A == s.a && n.B == s.b })
			if at < 0 {
				at = len(out)
				out = append(out, narrowOf(say, r.thin))
			}
			out[at].bar(o, r.thin.needs, fitting[o.Family])
		}
	}
	for i := range out {
		slices.SortStableFunc(out[i].Bars, func(a, b Bar) int { return cmp.Compare(a.Needs, b.Needs) })
	}
	slices.SortStableFunc(out, func(a, b Narrow) int { return cmp.Compare(len(b.Bars), len(a.Bars)) })
	return out
}

// narrowOf describes a stretch.
func narrowOf(say names.Terms, t *thin) Narrow {
	n := Narrow{A: t.span.a, B: t.span.b, Has: t.has, Bars: []Bar{}}
	for _, k := range t.span.cables {
		n.Cables = append(n.Cables, k.ID)
	}
	verb := "has"
	if len(n.Cables) > 1 {
		verb = "have"
	}
	n.Text = fmt.Sprintf("%s %s %s beside %s", upper(cablesOf(say, t.span)), verb, count(t.has), say.Word("ground"))
	return n
}

// bar counts an option that fails there.
func (n *Narrow) bar(o *Option, needs, fitting int) {
	at := slices.IndexFunc(n.Bars, func(b Bar) bool { return b.Family == o.Family })
	if at < 0 {
		at = len(n.Bars)
		n.Bars = append(n.Bars, Bar{Family: o.Family, FamilyName: o.FamilyName, Needs: needs, Fitting: fitting})
	}
	b := &n.Bars[at]
	b.Options++
	b.Needs = min(b.Needs, needs)
	b.Colours = b.Needs <= n.Has
}

// cablesOf names the cables of a stretch.
func cablesOf(say names.Terms, s span) string {
	if len(s.cables) == 1 {
		return say.Cable(s.cables[0].ID)
	}
	return fmt.Sprintf("the %d cables between %s and %s together", len(s.cables), say.Box(s.a), say.Box(s.b))
}
