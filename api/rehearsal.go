package api

import (
	"context"
	"net/http"
	"strings"

	"ambivia/core/rehearsal"
)

// Rehearsal says what the links of a circuit do, in every order in which messages may arrive.
func (s *Server) Rehearsal(ctx context.Context, r RehearsalRequestObject) (RehearsalResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	k, err := o.at(r.Params.Of)
	if err != nil {
		return nil, err
	}
	report, err := askOnce(ctx, s.desk, "rehearsal "+o.ID+"/"+o.Head.ID+"/"+string(r.Params.Of), func(ctx context.Context) (*rehearsal.Report, error) {
		return rehearsal.Rehearse(ctx, k.Doc)
	})
	if err != nil {
		return nil, err
	}
	hand := rehearsal.NewHand(k.Doc, "")
	out := Rehearsal200JSONResponse{Verdict: RehearsalVerdict(report.Verdict), States: report.States, Properties: report.Properties, Outages: report.Outages, Witnesses: map[string][]RehearsalPlayed{},
		Ways: append([]string{}, hand.Ways()...), Rules: rehearsal.Words(k.Doc), Start: hand.Start()}
	for _, p := range report.Properties {
		if !p.Holds {
			out.Witnesses[p.Code] = hand.Witness(p)
		}
	}
	if report.CutOff {
		out.CutOff = &report.CutOff
	}
	return out, nil
}

// RehearseMove plays one move.
func (s *Server) RehearseMove(ctx context.Context, r RehearseMoveRequestObject) (RehearseMoveResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	k, err := o.at(r.Body.Of)
	if err != nil {
		return nil, err
	}
	down := ""
	if r.Body.Down != nil {
		down = *r.Body.Down
	}
	hand := rehearsal.NewHand(k.Doc, down)
	var shown rehearsal.Shown
	if r.Body.Move == nil {
		shown, _, err = hand.Quieten(r.Body.Moment)
	} else {
		shown, err = hand.After(r.Body.Moment, *r.Body.Move)
	}
	if err != nil {
		place, text, _ := strings.Cut(err.Error(), ": ")
		return nil, &problemError{http.StatusUnprocessableEntity, "no-such-move", place, text}
	}
	return RehearseMove200JSONResponse(shown), nil
}
