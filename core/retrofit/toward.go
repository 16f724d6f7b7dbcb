package retrofit

import (
	"context"
	"fmt"

	"ambivia/core/evidence"
	"ambivia/core/inspect"
	"ambivia/core/trace"
)

// Led is what a plan makes of tracing: the next test is the one that settles most of what it relies on.
type Led struct {
	Next *trace.Next
	// Enough: the plan relies on nothing any more.
	Enough bool
	Relies []evidence.Reliance
	// Refused says why the plan does not fit the circuit that is left as the likeliest.
	Refused string
}

// Lead leads tracing by one option of the plan for the same record. next is the test that is next where the
// plan does not fit what is likeliest. The error is the context's.
func Lead(ctx context.Context, o *Option, t *trace.Tracer, next *trace.Next) (Led, error) {
	out := Led{Next: next, Relies: o.Relies}
	switch {
	case !o.Feasible:
		out.Refused = o.Reasons[0].Text
	case len(o.Relies) == 0:
		out.Enough, out.Next = true, nil
	default:
		first, ok, err := o.telling(ctx)
		if err != nil {
			return out, err
		}
		if !ok {
			first = doubtful(t, o.Relies)
		}
		out.Next = t.Preview(first.Test)
		out.Next.Why = first.Text
	}
	return out, nil
}

// telling is the test that settles most of what the option relies on, with the names of the record; ok is false where
// none is better than those that it lists.
func (o *Option) telling(ctx context.Context) (test evidence.Reliance, ok bool, err error) {
	if o.walls == nil || o.After == nil {
		return test, false, nil
	}
	test, ok, err = o.walls.Telling(ctx, o.Compiled(), o.BoxesTouched)
	if ok {
		named := []evidence.Reliance{test}
		o.likely.Recorded(named)
		test = named[0]
	}
	return test, ok, err
}

// doubtful is the fact whose test is the least likely to read right: if it does not, nothing else was read in vain.
func doubtful(t *trace.Tracer, relies []evidence.Reliance) evidence.Reliance {
	best, least := relies[0], 2.0
	for _, r := range relies {
		right := 0.0
		for _, x := range t.Outcomes(r.Test) {
			if reading(x.Reading) == reading(r.Right) {
				right = x.Odds
			}
		}
		if right < least-1e-9 {
			best, least = r, right
		}
	}
	return best
}

// reading is a reading in one form, whether it came from a file or from the program.
func reading(x any) string { return fmt.Sprint(x) }

// Toward is the answer of a trace that one option leads, in the shape of the command line.
type Toward struct {
	*trace.Result
	Option  string              `json:"toward"`
	Title   string              `json:"title"`
	Enough  bool                `json:"enough"`
	Relies  []evidence.Reliance `json:"relies"`
	Refused string              `json:"refused,omitempty"`
}

// TowardOption traces a record for one option of its plan. It returns nil where the plan has none with that
// id, and the errors of [trace.New] and the context.
func TowardOption(ctx context.Context, c *inspect.Compiled, request Request, id string, prefer trace.Prefer) (*Toward, error) {
	plan, err := PlanFor(ctx, c, request)
	if err != nil {
		return nil, err
	}
	for i := range plan.Options {
		o := &plan.Options[i]
		if o.ID != id {
			continue
		}
		t, err := trace.New(ctx, evidence.Record(c.Doc))
		if err != nil {
			return nil, err
		}
		result, err := t.Result(ctx, prefer)
		if err != nil {
			return nil, err
		}
		led, err := Lead(ctx, o, t, result.Next)
		if err != nil {
			return nil, err
		}
		result.Next = led.Next
		return &Toward{Result: result, Option: id, Title: o.Title, Enough: led.Enough, Relies: led.Relies, Refused: led.Refused}, nil
	}
	return nil, nil
}
