package trace

import (
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// How well insulation and marks agree with what a conductor carries, the plainest way
// having 1. Colour is a hint and never evidence: none of these is nothing, and none
// decides anything. They order the circuits that fit, and so the tests.
const (
	whiteNotReturn = 0.2  // a core of the neutral's colour carries something else
	otherAsReturn  = 0.01 // a neutral in another colour
	markContrary   = 0.05
	notPlain       = 0.05 // something else than where all cables run the plain way
	spareSpliced   = 0.1  // joined to another core, and used by nothing here
	spareCapped    = 0.9
	lineSpliced    = 0.3 // a feed that goes on to other rooms
	lineCapped     = 0.05
	neutralCapped  = 0.15 // kept for later
	loadSpliced    = 0.1  // on to another lamp
	loadCapped     = 0.02
	linkSpliced    = 0.1 // travelers that pass a box by
	linkCapped     = 0.005
)

// roleOf is the role of a conductor on a net of this kind.
func roleOf(k labelKind) electric.Role {
	switch k {
	case isHot:
		return electric.Line
	case isNeutral:
		return electric.Neutral
	case isLoad, isShell:
		return electric.Load
	case isTraveler, isStrap:
		return electric.Traveler
	}
	return electric.Unused
}

// roleAt is the role of a class on a net.
func (f *frame) roleAt(net int8) electric.Role {
	if net == earthed {
		return electric.RoleGround
	}
	return roleOf(f.kinds[net])
}

// colours says how well the cores of a class agree with a kind of net.
func (t *Tracer) colours(class int, k labelKind) float64 {
	if t.kept.colours == nil {
		t.kept.colours = make([][isStrap + 1]float64, len(t.classes))
	}
	known := &t.kept.colours[class][k]
	if *known == 0 { // not asked for yet: no weight is nothing
		*known = t.coloursOf(class, k)
	}
	return *known
}

func (t *Tracer) coloursOf(class int, k labelKind) float64 {
	weight := 1.0
	for _, i := range t.classes[class].cores {
		c := t.cores[i]
		switch returns := t.custom.NeutralOnly(c.name); {
		case k == isNone:
		case k == isNeutral && !returns && !slices.Contains(t.custom.Colours.Neutral, circuit.Colour(c.name)):
			weight *= otherAsReturn
		case k != isNeutral && returns:
			weight *= whiteNotReturn
		}
		if mark := t.doc.MarkOn(t.nodes[c.node]); mark != "" && mark != string(roleOf(k)) {
			weight *= markContrary
		}
	}
	return weight
}

// How usual it is for a conductor that no switch settles to be on a kind of net, where it is
// spliced and where it is capped.
var (
	usualSpliced = [isStrap + 1]float64{isNone: spareSpliced, isHot: lineSpliced, isNeutral: 1, isLoad: loadSpliced, isShell: loadSpliced, isTraveler: linkSpliced, isStrap: linkSpliced}
	usualCapped  = [isStrap + 1]float64{isNone: spareCapped, isHot: lineCapped, isNeutral: neutralCapped, isLoad: loadCapped, isShell: loadCapped, isTraveler: linkCapped, isStrap: linkCapped}
)

// suits says how usual a net is for a free class.
func (t *Tracer) suits(f *frame, class int, net int8) float64 {
	k := f.kinds[net]
	capped := len(t.classes[class].ends) == 1
	usual := usualSpliced[k]
	if capped {
		usual = usualCapped[k]
	}
	if f.wild[net] {
		usual *= elsewhereWeight
	}
	if u := slices.Index(f.free, class); f.plain != nil && f.plain[u] != 0 && f.plain[u]>>net&1 == 0 {
		usual *= notPlain
	}
	return usual * t.colours(class, k)
}

// suitsAll says how usual the nets are that a frame gives to the classes which it settles.
func (t *Tracer) suitsAll(f *frame) float64 {
	weight := 1.0
	for _, nets := range f.class {
		if nets == nil {
			continue
		}
		for class, n := range nets {
			if n >= 0 {
				weight *= t.colours(class, f.kinds[n])
			}
		}
		break
	}
	return weight
}
