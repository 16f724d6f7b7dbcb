package trace

import (
	"math"
	"math/bits"
)

// What seems to be one cable between two opened boxes nearly always is one: each core
// goes on in the core of its name. So conductors are first taken together through all
// such cables, which leaves little to choose; only then are those circuits looked for
// in which a hidden joint changes the cores of one cable or more.

// changesCores is how usual it is that what seems to be one cable changes its cores in
// a joint that nobody knows of.
const changesCores = hiddenJoint * colourChanges

// lead goes on with hidden devices in their places.
func (r *router) lead(rooms []int8) {
	copy(r.rooms, rooms)
	for _, k := range rooms {
		r.cable[k] = false
	}
	forced, open := r.bentCables()
	r.running *= r.structure() * math.Pow(changesCores, float64(bits.OnesCount32(forced)))
	if r.bending {
		r.bend(0, open, forced)
		return
	}
	r.straighten(forced)
}

// bentCables are the regions whose cables change the cores of settled conductors, and
// those that may change others.
func (r *router) bentCables() (forced, open uint32) {
	for k, cable := range r.cable {
		if cable {
			open |= 1 << k
		}
	}
	for _, w := range r.t.twins {
		if a, b := r.lab[w.class], r.lab[w.otherClass]; a != b && a != undecided && b != undecided && r.cable[w.region] {
			forced |= 1 << w.region
		}
	}
	return forced, open &^ forced
}

// bend goes through the ways in which one more cable or several change their cores.
func (r *router) bend(from int, open, bent uint32) {
	before := r.running
	if r.running *= changesCores; r.running >= r.odds*r.best {
		for k := from; k < r.t.regions; k++ {
			if open>>k&1 == 1 {
				r.straighten(bent | 1<<k)
				r.bend(k+1, open, bent|1<<k)
			}
		}
	}
	r.running = before
}

// straighten takes the conductors together that are one in all cables but those that
// change their cores, and goes on with the decisions.
func (r *router) straighten(bent uint32) {
	for c := range r.classes {
		r.next[c], r.leader[c] = c, c
	}
	for _, w := range r.t.twins {
		if r.cable[w.region] && bent>>w.region&1 == 0 {
			r.takeTogether(int(w.class), int(w.otherClass))
		}
	}
	before, settled := r.running, len(r.trail)
	defer func() {
		for _, c := range r.trail[settled:] {
			r.lab[c] = undecided
		}
		r.trail, r.running = r.trail[:settled], before
	}()
	for c, l := range r.lab {
		if l == undecided {
			continue
		}
		for m := r.next[c]; m != c; m = r.next[m] {
			if r.lab[m] == undecided {
				r.lab[m] = l
				r.trail = append(r.trail, m)
				r.running *= r.classWeight(m, l)
			} else if r.lab[m] != l {
				return
			}
		}
	}
	for c := range r.classes {
		r.reach[c] = 0
	}
	for _, c := range r.cores {
		r.reach[r.leader[c.class]] |= 1 << r.t.region[c.stub]
	}
	if r.running < r.odds*r.best {
		return
	}
	if len(r.trail) > settled {
		if y := r.joined.layOut(r, 0); !r.crosses(r.t, y, y.all) || !r.allMayMeet() {
			return
		}
	}
	r.bent = bent
	r.decide(r.used, false)
}

// takeTogether makes two conductors one.
func (r *router) takeTogether(a, b int) {
	from, to := r.leader[a], r.leader[b]
	if from == to {
		return
	}
	for m := r.next[a]; ; m = r.next[m] {
		r.leader[m] = to
		if m == a {
			break
		}
	}
	r.next[a], r.next[b] = r.next[b], r.next[a]
}

// trulyBent reports whether each cable that is to change its cores does: else the
// world is among those of the straight cable.
func (r *router) trulyBent(w *world) bool {
	for k := range r.t.regions {
		if r.bent>>k&1 == 1 && r.straight(w, r.look(k, w.labels).stubs) {
			return false
		}
	}
	return true
}

// classWeight says how well all cores of a conductor agree with a net, against the best
// they may be.
func (r *router) classWeight(class int, l label) float64 {
	weight := 1.0
	for _, i := range r.classes[class].cores {
		weight *= r.coreWeight(i, l) / r.most[i]
	}
	return weight
}
