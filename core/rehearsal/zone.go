package rehearsal

import (
	"encoding/binary"
	"math"
	"slices"
)

// zone is all that may be said of the ages of the messages under way, in milliseconds: how far each may differ from nought and
// from every other. It is the usual matrix of difference bounds: bound(a, b) is the most by which the age of a is above that of
// b, and clock 0 stands for nought. Clock 1 is the time since the last gesture where hands have a pause to keep. The others are
// messages, in the order of their queues and within one in that of their being sent. A zone is closed: no bound follows from
// others that are tighter. It is not changed once it is made.
type zone struct {
	queue []int // by clock from 1: the queue of a message, hands for the time since the last gesture
	most  []int32
}

// hands stands for the clock of hands among queues; forever is no bound.
const (
	hands         = -1
	forever int32 = math.MaxInt32 / 4
)

// calm is the zone in which nothing is under way, and so long ago was the last gesture that anything goes.
func calm() *zone { return &zone{most: []int32{0}} }

func (z *zone) clocks() int { return len(z.queue) + 1 }

func (z *zone) bound(a, b int) int32 { return z.most[a*z.clocks()+b] }

func (z *zone) copy() *zone { return &zone{slices.Clone(z.queue), slices.Clone(z.most)} }

// with is the zone with one clock more, which begins at nought: behind those of its queue and of the queues before.
func (z *zone) with(queue int) *zone {
	at := 1 // among clocks
	for at <= len(z.queue) && z.queue[at-1] <= queue {
		at++
	}
	out := &zone{queue: slices.Insert(slices.Clone(z.queue), at-1, queue)}
	n := out.clocks()
	out.most = make([]int32, n*n)
	old := func(k int) int {
		switch {
		case k == at:
			return 0
		case k > at:
			return k - 1
		}
		return k
	}
	for a := range n {
		for b := range n {
			out.most[a*n+b] = z.bound(old(a), old(b))
		}
	}
	return out
}

// without is the zone without a clock.
func (z *zone) without(at int) *zone {
	out := &zone{queue: slices.Delete(slices.Clone(z.queue), at-1, at)}
	for a := range z.clocks() {
		for b := range z.clocks() {
			if a != at && b != at {
				out.most = append(out.most, z.bound(a, b))
			}
		}
	}
	return out
}

// tighten bounds a minus b, and says what follows from it; nil where nothing is left.
func (z *zone) tighten(a, b int, most int32) *zone {
	if most >= z.bound(a, b) {
		return z
	}
	if z.bound(b, a)+most < 0 {
		return nil
	}
	n, out := z.clocks(), z.copy()
	for i := range n {
		for j := range n {
			through := min(forever, z.bound(i, a)+most+z.bound(b, j))
			out.most[i*n+j] = min(out.most[i*n+j], through)
		}
	}
	return out
}

// pass lets time pass for as long as no message is overdue.
func (z *zone) pass(d *delays) *zone {
	out := z.copy()
	for k := 1; k < out.clocks(); k++ {
		out.most[k*out.clocks()] = forever
	}
	for k := 1; k < out.clocks(); k++ {
		if q := out.queue[k-1]; q != hands {
			out = out.tighten(k, 0, d.slowest[q])
		}
	}
	if at := slices.Index(out.queue, hands) + 1; at > 0 && -out.bound(0, at) >= d.pause { // that pause is over, whatever happens
		out = out.without(at)
	}
	return out
}

// delivered is the zone when the first message of a queue arrives; nil where it cannot be the next that happens.
func (z *zone) delivered(queue int, d *delays) *zone {
	at := slices.Index(z.queue, queue) + 1
	if z = z.tighten(0, at, -d.quickest[queue]); z == nil {
		return nil
	}
	return z.without(at)
}

// pressed is the zone when a hand makes a gesture; nil where its pause is not over yet.
func (z *zone) pressed(d *delays) *zone {
	if d.pause == 0 {
		return z
	}
	if at := slices.Index(z.queue, hands) + 1; at > 0 {
		if z = z.tighten(0, at, -d.pause); z == nil {
			return nil
		}
		z = z.without(at)
	}
	return z.with(hands)
}

// holds reports whether all that may be said of one zone may be said of another, of the same messages. Of nothing that is known
// of time, nil, all is the same.
func (z *zone) holds(other *zone) bool {
	if z == nil || other == nil {
		return z == other
	}
	if !slices.Equal(z.queue, other.queue) {
		return false
	}
	for i, most := range other.most {
		if most > z.most[i] {
			return false
		}
	}
	return true
}

// key tells zones apart.
func (z *zone) key() string {
	out := make([]byte, 0, 4*len(z.most)+len(z.queue))
	for _, q := range z.queue {
		out = append(out, byte(q+1))
	}
	for _, most := range z.most {
		out = binary.LittleEndian.AppendUint32(out, uint32(most))
	}
	return string(out)
}
