package api

import (
	"context"

	"ambivia/core/job"
)

// Together plans all circuits of a job together.
func (s *Server) Together(ctx context.Context, r TogetherRequestObject) (TogetherResponseObject, error) {
	by, rate := job.Price, 0.0
	if r.Params.By != nil {
		by = job.By(*r.Params.By)
	}
	if r.Params.Rate != nil {
		rate = float64(*r.Params.Rate)
	}
	looked, err := s.looked(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	circuits, named := make([]job.Circuit, len(looked)), map[string]*job.Looked{}
	out := Together200JSONResponse{Plans: []JobPlan{}, Left: []LeftOut{}, Breakers: []SharedBreaker{}}
	for i, x := range looked {
		circuits[i], named[x.ID] = x.Circuit, x
		if why := x.Why(); why != "" {
			out.Left = append(out.Left, LeftOut{Circuit: x.ID, Name: x.Name, Why: why})
		}
	}
	for _, p := range job.Plans(circuits, by, rate) {
		out.Plans = append(out.Plans, jobPlan(p, looked))
	}
	for _, b := range job.Breakers(looked) {
		told := SharedBreaker{Label: b.Label, Circuits: []string{}}
		for _, id := range b.Circuits {
			told.Circuits = append(told.Circuits, named[id].Name)
		}
		out.Breakers = append(out.Breakers, told)
	}
	return out, nil
}

// looked plans each circuit of a job, as far as it can be read.
func (s *Server) looked(ctx context.Context, of string) ([]*job.Looked, error) {
	if _, err := s.store.Job(ctx, of); err != nil {
		return nil, err
	}
	circuits, err := s.store.Circuits(ctx, of)
	if err != nil {
		return nil, err
	}
	logs, err := s.store.LogLengths(ctx, of)
	if err != nil {
		return nil, err
	}
	var out []*job.Looked
	for _, c := range circuits {
		told, err := s.summary(ctx, c, logs[c.ID])
		if err != nil {
			return nil, err
		}
		if told.Verdict == CircuitSummaryVerdictUnreadable {
			continue
		}
		o, err := s.load(ctx, c.ID)
		if err != nil {
			return nil, err
		}
		request, _, err := s.request(ctx, c.ID)
		if err != nil {
			return nil, err
		}
		plan, err := s.plan(ctx, o)
		if err != nil {
			return nil, err
		}
		out = append(out, job.Told(c.ID, o.found, request, plan))
	}
	return out, nil
}

func jobPlan(p job.Plan, looked []*job.Looked) JobPlan {
	out := JobPlan{By: JobPlanBy(p.By), Price: float32(p.Price), Minutes: float32(p.Minutes), Cost: float32(p.Cost), Readings: p.Readings, Families: []string{}, Hubs: p.Hubs, Choices: []JobChoice{}}
	for _, n := range p.Devices {
		out.Devices += n
	}
	words := map[string]bool{}
	for _, x := range looked {
		for _, o := range x.Options {
			if o.ID != p.Choices[x.ID] {
				continue
			}
			out.Choices = append(out.Choices, JobChoice{Circuit: x.ID, Name: x.Name, Option: o.ID, Title: o.Title, Price: float32(o.Price), Minutes: float32(o.Minutes)})
			if !words[o.FamilyName] {
				words[o.FamilyName] = true
				out.Families = append(out.Families, o.FamilyName)
			}
		}
	}
	return out
}
