package retrofit

import (
	"context"

	"ambivia/core/evidence"
	"ambivia/core/inspect"
	"ambivia/core/trace"
)

// Toward is tracing led by one plan: the next test is the one that settles most of what the plan relies on,
// and Enough says that it relies on nothing any more.
type Toward struct {
	*trace.Result
	Option string `json:"toward"`
	Enough bool   `json:"enough"`
	// Relies is all that the plan still needs to know.
	Relies []evidence.Reliance `json:"relies"`
	// Refused says why the plan does not fit the circuit that is left as the likeliest.
	Refused string `json:"refused,omitempty"`
}

// TowardOption traces a record for one option of its plan. It returns nil where the plan has none with that
// id, and the errors of [trace.New] and the context.
func TowardOption(ctx context.Context, c *inspect.Compiled, request Request, id string, prefer trace.Prefer) (*Toward, error) {
	plan, err := PlanFor(ctx, c, request)
	if err != nil {
		return nil, err
	}
	t, err := trace.New(ctx, evidence.Record(c.Doc))
	if err != nil {
		return nil, err
	}
	for i := range plan.Options {
		o := &plan.Options[i]
		if o.ID != id {
			continue
		}
		result, err := t.Result(ctx, prefer)
		if err != nil {
			return nil, err
		}
		out := &Toward{Result: result, Option: id, Relies: o.Relies}
		switch {
		case !o.Feasible:
			out.Refused = o.Reasons[0].Text
		case len(o.Relies) == 0:
			out.Enough, out.Next = true, nil
		default:
			out.Next = t.Preview(o.Relies[0].Test)
			out.Next.Why = o.Relies[0].Text
		}
		return out, nil
	}
	return nil, nil
}
