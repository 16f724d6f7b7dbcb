package trace

import (
	"math"
	"slices"

	"ambivia/core/circuit"
)

// Weights say how often one meets a thing, against the plainest way. They order
// worlds and tests; none is nothing, so that no odd house is ruled out by them.
const (
	hiddenJoint    = 0.03 // two cables meet in a box that nobody knows of
	colourChanges  = 0.1  // and their colours change there
	feedAtLight    = 0.4  // the feed comes to the light first
	feedInJoint    = 0.06 // the feed comes to a hidden joint
	besideAnother  = 0.05 // a cable runs beside another one
	onwardFeed     = 0.25 // line and neutral go on to other rooms
	onwardPart     = 0.03 // only one of them does
	secondLamp     = 0.05 // switched line and neutral go on to another lamp
	deadCable      = 0.05 // nothing in a cable is used
	spareCore      = 0.4
	onwardFromHere = 0.2 // something goes on from a region where others end
	whiteNotReturn = 0.2 // a core of the neutral's colour carries something else
	otherAsReturn  = 0.01
	cappedLive     = 0.03
	markContrary   = 0.05
)

// maxLabels bounds the nets of one pattern: three, a load for each light, a strap and
// the links between ten switches.
const maxLabels = 40

// inRegion is what meets in one region: the stubs, the devices, and how often each
// label goes in or ends there.
type inRegion struct {
	stubs   []int
	devices int
	feed    bool
	lamp    bool
	count   [maxLabels]uint8
	used    bool // something goes in
	twice   bool // one net runs twice in one cable
}

func (r *router) look(region int, labels []label) *inRegion {
	in := &r.seen
	*in = inRegion{stubs: r.t.stubs[region]}
	for _, s := range in.stubs {
		mask := uint64(0)
		for _, c := range r.stubs[s].cores {
			l := labels[r.cores[c].class]
			if l <= none {
				continue
			}
			in.used = true
			in.count[l]++
			in.twice = in.twice || mask>>l&1 == 1 && r.p.kinds[l] != isRails
			mask |= 1 << l
		}
	}
	for i := range r.devices {
		if int(r.rooms[i]) != region {
			continue
		}
		in.devices++
		in.feed = in.feed || r.devices[i].kind == circuit.TypeSupply
		in.lamp = in.lamp || r.devices[i].kind == circuit.TypeLamp
		for _, l := range r.devices[i].labels {
			if l > none {
				in.count[l]++
			}
		}
	}
	return in
}

// lone counts the kinds of label that go into a region and meet nothing there.
func (in *inRegion) lone(kinds []labelKind, of labelKind) int {
	n := 0
	for l, k := range kinds {
		if k == of && in.count[l] == 1 {
			n++
		}
	}
	return n
}

// sound reports whether what goes into each region comes out, or ends on something,
// before anything hangs on a net that does not need it.
func (r *router) sound() bool {
	for region := range r.t.regions {
		in := r.look(region, r.lab)
		if in.twice || !r.besideForAReason(in.stubs) {
			return false
		}
		if in.lone(r.p.kinds, isShell) > 0 {
			return false
		}
		if loads := in.lone(r.p.kinds, isLoad); loads > 1 || loads == 1 && (len(in.stubs) > 1 || in.devices > 0) {
			return false
		}
	}
	return true
}

// railsSound reports whether travelers and straps that go into a region meet there.
func (r *router) railsSound(region int) bool {
	in := r.look(region, r.lab)
	for l, k := range r.p.kinds {
		if k == isRails && in.count[l] > 0 && !r.railsMeet(region, label(l)) {
			return false
		}
	}
	return !in.twice && (in.lone(r.p.kinds, isStrap) == 0 || r.p.faulty)
}

// besideForAReason reports whether of two cables that run side by side each carries
// something that the other does not. Else they need not lead to one place.
func (r *router) besideForAReason(stubs []int) bool {
	carries := func(s int) (mask uint64) {
		for _, c := range r.stubs[s].cores {
			if l := r.lab[r.cores[c].class]; l > none {
				mask |= 1 << l
			}
		}
		return mask
	}
	for i, a := range stubs {
		for _, b := range stubs[:i] {
			if r.stubs[a].box == r.stubs[b].box && r.stubs[a].to < 0 && (carries(a)&^carries(b) == 0 || carries(b)&^carries(a) == 0) {
				return false
			}
		}
	}
	return true
}

// railsMeet reports whether both travelers of a link come from each box, or stand
// on each switch, that the link reaches in a region, and from two at least.
func (r *router) railsMeet(region int, l label) bool {
	if r.p.faulty {
		return true
	}
	sides, box, inBox := 0, "", 0
	for s, k := range r.t.region { // stubs of one box follow each other
		if int(k) != region {
			continue
		}
		if r.stubs[s].box != box {
			if inBox == 1 {
				return false
			}
			box, inBox = r.stubs[s].box, 0
		}
		for _, c := range r.stubs[s].cores {
			if r.lab[r.cores[c].class] == l {
				if inBox++; inBox == 1 {
					sides++
				} else if inBox > 2 {
					return false
				}
			}
		}
	}
	if inBox == 1 {
		return false
	}
	for i, d := range r.devices {
		if int(r.rooms[i]) == region && d.required>>l&1 == 1 {
			sides++
		}
	}
	return sides >= 2
}

// weighRegion multiplies a world's weight by how usual a region is. It reports
// false for a load that leads nowhere.
func (r *router) weighRegion(w *world, region int) bool {
	in := r.look(region, w.labels)
	if in.twice {
		return false
	}
	lines, returns := in.lone(r.p.kinds, isHot), in.lone(r.p.kinds, isNeutral)
	switch {
	case in.lone(r.p.kinds, isLoad) > 0: // only beside a neutral can it lead to another lamp
		if in.count[neutral] == 0 {
			return false
		}
		w.prior *= secondLamp
	case lines > 0 && returns > 0:
		w.prior *= onwardFeed
	case lines+returns > 0:
		w.prior *= onwardPart
	}
	if lines+returns > 0 && (len(in.stubs) > 1 || in.devices > 0) {
		w.prior *= onwardFromHere
	}
	w.prior *= r.regionWeight(region, in)
	switch {
	case in.devices == 0 && len(in.stubs) == 2 && r.cable[region] && !r.straight(w, in.stubs):
		w.prior *= hiddenJoint * colourChanges
	case in.devices == 0 && !in.used:
		w.prior *= deadCable
	}
	return true
}

// regionWeight says how usual it is that these stubs and devices meet.
func (r *router) regionWeight(region int, in *inRegion) float64 {
	weight := 1.0
	for i, a := range in.stubs {
		for _, b := range in.stubs[:i] {
			if r.stubs[a].box == r.stubs[b].box {
				weight *= besideAnother
			}
		}
	}
	return weight * meetWeight(len(in.stubs), in.devices, in.feed, in.lamp, r.cable[region])
}

// goesOn says how usual, at best, the conductors are that go on alone from regions in
// which everything is decided, and the cables that lead where nothing else is.
func (r *router) goesOn() float64 {
	weight := 1.0
	for region, stubs := range r.t.stubs {
		switch {
		case len(stubs) == 1:
			offered, device := r.offered(region)
			weight *= r.alone(stubs[0], offered, device)
		case !r.openIn(stubs):
			in := r.look(region, r.lab)
			if in.lone(r.p.kinds, isLoad) > 0 {
				weight *= secondLamp
			} else if in.lone(r.p.kinds, isHot)+in.lone(r.p.kinds, isNeutral) > 0 {
				weight *= onwardFeed
			}
		}
	}
	return weight
}

// openIn reports whether something is undecided in these stubs.
func (r *router) openIn(stubs []int) bool {
	for _, s := range stubs {
		for _, c := range r.stubs[s].cores {
			if r.lab[r.cores[c].class] == undecided {
				return true
			}
		}
	}
	return false
}

// meetWeight says how usual it is that so many stubs and devices meet in one region.
func meetWeight(stubs, devices int, feed, lamp, cable bool) float64 {
	switch {
	case devices == 0 && stubs > 1 && !cable:
		return hiddenJoint
	case feed && lamp:
		return feedAtLight
	case feed && stubs > 1:
		return feedInJoint
	case lamp && stubs > 1:
		return hiddenJoint * 5 // travelers spliced at the light
	}
	return 1
}

// straight reports whether two stubs carry the same nets in cores of one name.
func (r *router) straight(w *world, stubs []int) bool {
	by := map[string]label{}
	for _, c := range r.stubs[stubs[0]].cores {
		by[r.cores[c].name] = w.labels[r.cores[c].class]
	}
	for _, c := range r.stubs[stubs[1]].cores {
		if by[r.cores[c].name] != w.labels[r.cores[c].class] {
			return false
		}
	}
	return true
}

// colourWeight says how well insulation and marks agree with what they carry.
func (r *router) colourWeight(w *world) float64 {
	weight := 1.0
	for i, c := range r.cores {
		weight *= r.coreWeight(i, w.labels[c.class])
	}
	return weight
}

// coreWeight says how well one core agrees with a net.
func (r *router) coreWeight(i int, l label) float64 { return r.fits[i][r.p.kinds[l]] }

// agreement says how well a core's insulation and mark agree with a kind of net.
func (r *router) agreement(i int, k labelKind) float64 {
	c := r.cores[i]
	weight := 1.0
	switch returns := r.custom.NeutralOnly(c.name); {
	case k == isNone:
		weight *= spareCore
	case k == isNeutral && !returns && !slices.Contains(r.custom.Colours.Neutral, circuit.Colour(c.name)):
		weight *= otherAsReturn
	case k != isNeutral && returns:
		weight *= whiteNotReturn
	}
	if len(r.classes[c.class].ends) == 1 && (k == isHot || k == isLoad) {
		weight *= cappedLive
	}
	if mark := r.doc.MarkOn(r.nodes[c.node]); mark != "" && mark != string(roleOf(k)) {
		weight *= markContrary
	}
	return weight
}

// measure notes of a topology what every pattern needs to know: how many cables run
// beside another, how many regions are no plain cable, and in those that seem to be
// one, which core would go on in which.
func (r *router) measure(t *topology) {
	r.t = t
	t.joints, t.cables, t.twins, t.beside = 0, 0, nil, 1
	t.stubs = make([][]int, t.regions)
	for s, k := range t.region {
		t.stubs[k] = append(t.stubs[k], s)
	}
	for k := range t.regions {
		switch meet := len(t.stubs[k]); {
		case meet < 2:
		case !r.oneCable(k):
			t.joints++
		default:
			t.cables |= 1 << k
		}
	}
	for x := range r.stubs {
		for y := range x {
			k := t.region[x]
			if t.region[y] == k && r.stubs[x].box == r.stubs[y].box {
				t.beside *= besideAnother
			}
			if t.region[y] == k && t.cables>>k&1 == 1 {
				for _, p := range r.namesakes[x][y] {
					t.twins = append(t.twins, twin{int16(p[0]), int16(p[1]), int16(r.cores[p[0]].class), int16(r.cores[p[1]].class), int16(k)})
				}
			}
		}
	}
	t.plain = t.beside
	for k, stubs := range t.stubs {
		t.plain *= meetWeight(len(stubs), 0, false, false, t.cables>>k&1 == 1)
	}
	t.near = r.sidesOf(t)
	t.bound = r.bound(t, 0)
}

// bound is how usual a topology is at best where so many of its cables would change
// their nets from core to core: at most one region is excused by the light and the
// feed in it, or two by one each.
func (r *router) bound(t *topology, bent int) float64 {
	bound := math.Pow(besideAnother, float64(t.doubled))
	for n := range t.joints + bent {
		switch {
		case n == 0:
			bound *= feedAtLight
		case n < t.joints:
			bound *= hiddenJoint
		default:
			bound *= max(hiddenJoint*colourChanges, feedInJoint*hiddenJoint*5/feedAtLight)
		}
	}
	return bound
}

// agreements says how well a core agrees with each kind of net, and with the best it may
// be: what is capped at one end is no traveler.
func (r *router) agreements(i int) (by [isStrap + 1]float64, most float64) {
	class := r.classes[r.cores[i].class]
	for k := range by {
		by[k] = r.agreement(i, labelKind(k))
		if capped := len(class.cores) == 1 && len(class.ends) == 1; !capped || labelKind(k) < isShell {
			most = max(most, by[k])
		}
	}
	return by, most
}

// colourCeiling is the weight that settled conductors leave, with the best that the
// others may be.
func (r *router) colourCeiling() float64 {
	weight := 1.0
	for i, c := range r.cores {
		if l := r.lab[c.class]; l != undecided {
			weight *= r.coreWeight(i, l)
		} else {
			weight *= r.most[i]
		}
	}
	return weight
}
