package trace

import (
	"ambivia/core/circuit"
	"ambivia/core/electric"
)

// log is what was read.
type log struct {
	made   []circuit.Observation
	tests  []made // what of it tells something, ready to be held against worlds
	leaves []int  // worlds left after each of those made
	live   []int  // readings among those made that found something live with the power off
}

// left is everything that readings have left.
type left struct {
	frames   []*frame
	net      network
	visible  []int // classes with a core end in an opened box
	assigned assignment
	reps     []*world
	every    *everyone // nil before it is asked for
	work     int       // combinations of all frames
	looked   int       // combinations in which a circuit was looked for
}

// byRoutes is the rule by which cables are taken to be led, and what stands without it.
type byRoutes struct {
	rule      joints                   // what may meet beyond the opened boxes
	trusts    bool                     // that rule is never given up
	byRule    bool                     // it was, with everything settled by it
	led       []map[electric.Role]bool // by class, roles without that rule; nil where they were not worked out
	unled     []*pattern               // those whose nets cannot be led by that rule
	others    *unledFrames             // made of them
	unledHeld []*frame                 // its own copies of those, with readings held against them; nil before
	strict    *Tracer                  // this one by the rule of routes, where no circuit fits by that rule any more
}

// doubted is what one false reading would leave.
type doubted struct {
	slipLooks int           // bounds the combinations in which a circuit is looked for that a false reading would leave
	slipped   *slips        // nil where that was not gathered yet
	asked     *Confirmation // the confirming reading that was asked last, nil where the next test is none
	plainer   *slips        // what one false reading would leave of the tracer by the rule of routes
}
