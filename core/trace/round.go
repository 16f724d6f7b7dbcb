package trace

import (
	"context"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/names"
	"ambivia/core/practice"
)

// RoundTest is one test of a round. Confirms: it is asked only to show whether one of the readings was false.
type RoundTest struct {
	circuit.Observation
	Confirms bool `json:"confirms,omitempty"`
}

// mostRound is how many readings are taken in one go: as many as have a key.
const mostRound = 9

// mostRoundWork bounds the combinations of a record for which a round is looked for, since each of its tests costs what the next
// one does: past it they are asked one by one.
const mostRoundWork = 40_000

// mostFree is how many confirming readings join a round where only those that cost nothing are wanted: the first few show most of what
// a false reading would leave.
const mostFree = 2

// round lists the tests to take before the power, a wire, a switch or a lamp is moved again, the given one first: those that
// would follow it if each read as it most likely does, confirming ones too. What the readings so far leave no doubt about is not
// among the others.
func (t *Tracer) round(ctx context.Context, prefer Prefer, first circuit.Observation) ([]RoundTest, error) {
	out := []RoundTest{{first, t.asked != nil && t.asked.Test.Key() == first.Key()}}
	if t.looking || t.work > mostRoundWork {
		return out, nil
	}
	if out[0].Confirms {
		return t.confirming(ctx, prefer, out)
	}
	then, test := t.fork(), first
	for len(out) < mostRound {
		test.Reading = then.likeliest(test)
		if then.Observe(test); !then.possible() {
			break
		}
		next, ok, err := then.Next(ctx, prefer)
		if err != nil {
			return nil, err
		}
		if !ok && then.Resolved() { // nothing is left then but to confirm it
			return then.confirming(ctx, prefer, out)
		}
		if !ok || !standsAs(next, first) || !t.doubts(next) {
			break
		}
		out, test = append(out, RoundTest{next, false}), next
	}
	return out, nil
}

// confirming adds to a round the tests that would show a false reading with nothing moved, if the person wants any.
func (t *Tracer) confirming(ctx context.Context, prefer Prefer, out []RoundTest) ([]RoundTest, error) {
	if t.doc.Confirm == circuit.ConfirmNever {
		return out, nil
	}
	all, err := t.slips(ctx)
	if err != nil || len(all.list) == 0 {
		return out, err
	}
	list := all.list
	if t.suspected() {
		list = t.plainer.list
	}
	most := mostRound - len(out)
	if t.doc.Confirm != circuit.ConfirmAlways {
		most = min(most, mostFree)
	}
	first := out[0].Observation
	for _, next := range t.confirmer(prefer, list).further(first, list, most) {
		if !slices.ContainsFunc(out, func(x RoundTest) bool { return x.Key() == next.Key() }) {
			out = append(out, RoundTest{next, true})
		}
	}
	return out, nil
}

// likeliest is the reading that a test most likely shows.
func (t *Tracer) likeliest(test circuit.Observation) any {
	best := Outcome{Odds: -1}
	for _, o := range t.outcomes(test, false) {
		if o.Worlds > 0 && o.Odds > best.Odds {
			best = o
		}
	}
	return best.Reading
}

// doubts reports whether a test may still show more than one thing.
func (t *Tracer) doubts(test circuit.Observation) bool {
	n := 0
	for _, o := range t.outcomes(test, false) {
		if o.Worlds > 0 {
			n++
		}
	}
	return n > 1
}

// standsAs reports whether power, wires, switches and lamps stand alike for two tests.
func standsAs(a, b circuit.Observation) bool {
	return a.Power == b.Power && same(a.Lifted, b.Lifted) && same(a.Flipped, b.Flipped) && same(a.LampsOut, b.LampsOut) &&
		slices.EqualFunc(a.Tied, b.Tied, func(x, y []circuit.End) bool { return same(x, y) })
}

// same reports whether two lists have the same members.
func same[T comparable](a, b []T) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(x T) bool { return !slices.Contains(b, x) })
}

// RoundRow is a test of a round as a person reads and answers it.
type RoundRow struct {
	Measure string        `json:"measure"`
	Answers []RoundAnswer `json:"answers"`
}

// RoundAnswer is what a test may show, in words.
type RoundAnswer struct {
	Reading any    `json:"reading"`
	Words   string `json:"words"`
}

// row puts a test of a round into words.
func (t teller) row(x RoundTest) RoundRow {
	out := RoundRow{Measure: t.say.Expand(names.Capitalize(Measure(t.say, x.Observation)))}
	for _, r := range wordsOf(x.Instrument, practice.Volts(t.doc)) {
		out.Answers = append(out.Answers, RoundAnswer{r, ReadingWords(x.Instrument, r)})
	}
	return out
}
