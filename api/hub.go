package api

import (
	"context"
	"errors"
	"net/http"
	"sync"

	"ambivia/core/circuit"
	"ambivia/core/schedule"
	"ambivia/hub"
)

// stand is the stand-in hub of the program: one at a time.
type stand struct {
	mu      sync.Mutex
	running *hub.Hub
	doc     *circuit.Circuit
	use     *schedule.Use // nil where nobody said how the light is used
	circuit string
}

func (s *stand) stop() error {
	if s.running == nil {
		return nil
	}
	err := s.running.Close()
	s.running, s.doc, s.use, s.circuit = nil, nil, nil, ""
	return err
}

func (s *stand) answer() HubAnswer {
	if s.running == nil {
		return HubAnswer{}
	}
	live, topics := s.running.Live(), hub.Topics(s.doc, s.use)
	return HubAnswer{Runs: true, Circuit: &s.circuit, Live: &live, Topics: &topics}
}

// Hub tells of the stand-in that runs.
func (s *Server) Hub(context.Context, HubRequestObject) (HubResponseObject, error) {
	s.stand.mu.Lock()
	defer s.stand.mu.Unlock()
	return Hub200JSONResponse(s.stand.answer()), nil
}

// StartHub starts one, in the place of another.
func (s *Server) StartHub(ctx context.Context, r StartHubRequestObject) (StartHubResponseObject, error) {
	doc, _, err := s.rehearsed(ctx, r.Body.Circuit, r.Body.What)
	if err != nil {
		return nil, err
	}
	use, err := s.useInJob(ctx, r.Body.Circuit)
	if err != nil {
		return nil, err
	}
	address := "127.0.0.1:0"
	if r.Body.Address != nil {
		address = *r.Body.Address
	}
	s.stand.mu.Lock()
	defer s.stand.mu.Unlock()
	if err := s.stand.stop(); err != nil {
		return nil, err
	}
	running, err := hub.Start(context.WithoutCancel(ctx), doc, use, address, s.log)
	if err != nil {
		return nil, &problemError{http.StatusUnprocessableEntity, "hub", "address", err.Error()}
	}
	s.stand.running, s.stand.doc, s.stand.use, s.stand.circuit = running, doc, use, r.Body.Circuit
	return StartHub200JSONResponse(s.stand.answer()), nil
}

// StopHub stops it.
func (s *Server) StopHub(context.Context, StopHubRequestObject) (StopHubResponseObject, error) {
	s.stand.mu.Lock()
	defer s.stand.mu.Unlock()
	return StopHub204Response{}, s.stand.stop()
}

// PressAtHub makes a gesture at a place of the stand-in, cuts a way, puts its clock forward or lets an input go off.
func (s *Server) PressAtHub(_ context.Context, r PressAtHubRequestObject) (PressAtHubResponseObject, error) {
	s.stand.mu.Lock()
	defer s.stand.mu.Unlock()
	if s.stand.running == nil {
		return nil, &problemError{http.StatusConflict, "no-hub", "hub", "no stand-in runs; start one"}
	}
	var err error
	if r.Body.Cut != nil {
		err = s.stand.running.Cut(*r.Body.Cut)
	}
	if r.Body.Device != nil && r.Body.Gesture != nil {
		err = errors.Join(err, s.stand.running.Press(*r.Body.Device, *r.Body.Gesture))
	}
	if r.Body.Time != nil {
		err = errors.Join(err, s.stand.running.SetClock(*r.Body.Time))
	}
	if r.Body.Input != nil {
		err = errors.Join(err, s.stand.running.SetInput(r.Body.Input.Number, r.Body.Input.On))
	}
	return PressAtHub200JSONResponse(s.stand.answer()), err
}
