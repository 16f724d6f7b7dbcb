package trace

import "math/bits"

// index finds the topologies in which stubs meet, without going through all of them: a
// set of topologies for each pair of stubs that meet in one region, and for each stub
// those in which at least three meet in its region.
type index struct {
	size int
	meet [][]bitset
	many []bitset
}

func newIndex(routes []topology, stubs int) *index {
	x := &index{size: len(routes), meet: make([][]bitset, stubs), many: make([]bitset, stubs)}
	empty := func() bitset { return make(bitset, (len(routes)+63)/64) }
	for s := range stubs {
		x.many[s] = empty()
		x.meet[s] = make([]bitset, stubs)
		for other := range s {
			x.meet[s][other] = empty()
			x.meet[other][s] = x.meet[s][other]
		}
	}
	for i := range routes {
		word, bit := i>>6, uint64(1)<<(i&63)
		for s, k := range routes[i].region {
			with := 0
			for other, region := range routes[i].region {
				if other != s && region == k {
					with++
					if other < s {
						x.meet[s][other][word] |= bit
					}
				}
			}
			if with > 1 {
				x.many[s][word] |= bit
			}
		}
	}
	return x
}

// asks is what a pattern asks of the stubs: labels by stub, how many of its other cores
// may be spliced past, and which labels must meet themselves or be spliced past.
type asks struct {
	masks        []uint64
	free         []int
	pairs, rails uint64
}

// indexBlock is how many topologies are looked at together.
const indexBlock = 64 * 64

// candidates are, among so many words of topologies from one word on, those in which
// each label that must meet something may.
func (x *index) candidates(a asks, from, words int) bitset {
	out := make(bitset, words)
	for w := range out {
		out[w] = ^uint64(0)
	}
	if last := x.size - 64*(from+words-1); last < 64 {
		out[words-1] = 1<<last - 1
	}
	some := make(bitset, len(out))
	for s := range a.masks {
		for left := a.masks[s] & a.pairs; left != 0; left &= left - 1 {
			l := bits.TrailingZeros64(left)
			copy(some, x.many[s][from:from+words])
			enough := 1
			if a.rails>>l&1 == 1 {
				enough = 2
			}
			for other := range a.masks {
				if other != s && (a.masks[other]>>l&1 == 1 || a.free[other] >= enough) {
					for w, b := range x.meet[s][other][from : from+words] {
						some[w] |= b
					}
				}
			}
			for w := range out {
				out[w] &= some[w]
			}
		}
	}
	return out
}
