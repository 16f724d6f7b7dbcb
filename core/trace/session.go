package trace

import (
	"context"
	"slices"

	"ambivia/core/circuit"
)

// leftByLive is up to what share of what is open a session with the power on may leave open
// for it to be begun at once. More dead tests before it would each settle a little of what it
// settles with few readings; what it leaves may cost another walk.
const leftByLive = 0.2

// mostDeadFirst is how many readings are made with the power off, for who wants dead tests
// first, before a session is begun that has to come and settles nearly all. With more than
// [fewSwitches] they would be dozens, and there are none.
const mostDeadFirst = 6

// liveAtOnce says, with the power off, whether it has to be on in the end, and then settles
// nearly all that is open; and with which wires lifted it does so best.
func (c *chooser) liveAtOnce(ctx context.Context) (lifted []circuit.Ref, ok bool, err error) {
	if !differ(c.worlds) {
		return nil, false, nil
	}
	best := make([]separation, len(c.worlds)*len(c.worlds)) // by pair, over all tests with the power off
	different := []int{}
	for _, lifted := range c.liftings() {
		if err := ctx.Err(); err != nil {
			return nil, false, err
		}
		tests := c.simulated(false, lifted)
		different = different[:0]
		for pair, how := range c.separations(tests) {
			n := pair.i*len(c.worlds) + pair.j
			best[n], different = max(best[n], how), append(different, n)
		}
	}
	if !slices.ContainsFunc(different, func(n int) bool { return best[n] == never }) {
		return nil, false, nil
	}
	least := 1.0
	for _, now := range c.liftings() {
		if err := ctx.Err(); err != nil {
			return nil, false, err
		}
		tests := c.simulated(true, now)
		open, left := 0.0, 0.0
		for pair, how := range c.separations(tests) {
			weight := c.stake[pair.i] * c.stake[pair.j]
			if open += weight; how < surely {
				left += weight
			}
		}
		if share := left / open; share < least*(1-1e-9) {
			lifted, least = now, share
		}
	}
	return lifted, least <= leftByLive, nil
}
