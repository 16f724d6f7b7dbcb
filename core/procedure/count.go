package procedure

import (
	"context"
	"math"

	"ambivia/core/inspect"
	"ambivia/core/parallel"
	"ambivia/core/retrofit"
)

// Plan finds the options of a valid circuit as [retrofit.PlanFor] does, with what only their
// steps tell: connectors, pigtails with the other short wires, and how long the work takes. The error is the context's.
func Plan(ctx context.Context, c *inspect.Compiled, request retrofit.Request) (*retrofit.Result, error) {
	answer, err := retrofit.PlanFor(ctx, c, request)
	if err != nil {
		return nil, err
	}
	return answer, parallel.Each(ctx, len(answer.Options), func(i int) { countShort(c, &answer.Options[i], request) })
}

// Offer makes one option of a circuit by its id, as [retrofit.OfferFor] does; nil where there is
// none.
func Offer(c *inspect.Compiled, request retrofit.Request, id string) *retrofit.Option {
	o := retrofit.OfferFor(c, request, id)
	if o != nil {
		countShort(c, o, request)
	}
	return o
}

func countShort(c *inspect.Compiled, o *retrofit.Option, request retrofit.Request) {
	if !o.Feasible {
		return
	}
	connectors, short, walks := 0, 0, 0
	p := For(c, o, request.Library)
	say := p.Planned.Terms()
	for _, s := range p.Steps {
		if s.Kind == KindPowerOn || s.Kind == KindPowerOf || s.Gate == OffGate {
			walks++
		}
		if s.Connector != nil {
			connectors += len(s.Connector.Pieces)
		}
		for _, x := range s.Uses {
			if x.What == say.Fill(pigtailName) || x.What == say.Fill(bridgeName) {
				short += x.Count
			}
		}
	}
	o.Metrics.Walks = walks
	o.Metrics.Connectors, o.Metrics.Pigtails, o.Metrics.Minutes = &connectors, &short, 0
	for _, took := range p.Minutes(nil) {
		o.Metrics.Minutes += took
	}
	o.Metrics.Minutes = math.Ceil(o.Metrics.Minutes)
}
