package api

import (
	"context"
	"time"

	"ambivia/core/circuit"
	"ambivia/store"
)

// GetBin lists what was removed, the last first.
func (s *Server) GetBin(ctx context.Context, _ GetBinRequestObject) (GetBinResponseObject, error) {
	list, err := s.store.Bin(ctx)
	if err != nil {
		return nil, err
	}
	out := GetBin200JSONResponse{}
	for _, r := range list {
		b := Binned{Job: r.Job, Name: r.JobName, Circuits: r.Circuits, Removed: r.At, Until: r.At.Add(store.Kept)}
		if r.Circuit != "" {
			id, of := r.Circuit, r.JobName
			b.Circuit, b.Of, b.Name = &id, &of, "a circuit"
			if doc, err := circuit.Parse(r.Document); err == nil {
				b.Name = doc.Name
			}
		}
		out = append(out, b)
	}
	return out, nil
}

// EmptyBin removes for good what lies in the bin.
func (s *Server) EmptyBin(ctx context.Context, _ EmptyBinRequestObject) (EmptyBinResponseObject, error) {
	return EmptyBin204Response{}, s.store.EmptyBin(ctx, time.Now())
}

// RestoreJob takes a job out of the bin.
func (s *Server) RestoreJob(ctx context.Context, r RestoreJobRequestObject) (RestoreJobResponseObject, error) {
	if err := s.store.RestoreJob(ctx, r.Job); err != nil {
		return nil, err
	}
	j, err := s.store.Job(ctx, r.Job)
	return RestoreJob200JSONResponse(toJob(j)), err
}

// RestoreCircuit takes a circuit out of the bin.
func (s *Server) RestoreCircuit(ctx context.Context, r RestoreCircuitRequestObject) (RestoreCircuitResponseObject, error) {
	if err := s.store.RestoreCircuit(ctx, r.Circuit); err != nil {
		return nil, err
	}
	c, err := s.store.Circuit(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	told, err := s.answer(ctx, c)
	return RestoreCircuit200JSONResponse(told), err
}
