package api

import (
	"context"
	"fmt"

	"ambivia/core/circuit"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/store"
)

// GetHistory lists every revision of a circuit, the last first.
func (s *Server) GetHistory(ctx context.Context, r GetHistoryRequestObject) (GetHistoryResponseObject, error) {
	c, err := s.store.Circuit(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	list, err := s.store.Revisions(ctx, r.Circuit, deref(r.Params.Before), deref(r.Params.Limit))
	if err != nil {
		return nil, err
	}
	out := GetHistory200JSONResponse{}
	for _, x := range list {
		out = append(out, Revision{Id: x.ID, Number: x.Number, Summary: x.Summary, By: x.By, Created: x.Created, Head: x.Number == c.Head.Number, Chosen: x.Choice})
	}
	return out, nil
}

// GetRevision draws one revision.
func (s *Server) GetRevision(ctx context.Context, r GetRevisionRequestObject) (GetRevisionResponseObject, error) {
	rev, err := s.store.Revision(ctx, r.Circuit, r.Revision)
	if err != nil {
		return nil, err
	}
	doc, err := circuit.Parse(rev.Document)
	if err != nil {
		return nil, err
	}
	scene := diagram.Layout(doc).Draw(inspect.Compile(doc), fmt.Sprintf("%s: revision %d", doc.Name, rev.Number), nil)
	scene.DisableControls()
	return GetRevision200JSONResponse(scene.Picture()), nil
}

// GoBackTo makes a revision the head again. Nothing of what came after it is lost: it is one
// revision more.
func (s *Server) GoBackTo(ctx context.Context, r GoBackToRequestObject) (GoBackToResponseObject, error) {
	rev, err := s.store.Revision(ctx, r.Circuit, r.Revision)
	if err != nil {
		return nil, err
	}
	if _, err := circuit.Parse(rev.Document); err != nil {
		return nil, err
	}
	out, err := s.change(ctx, r.Circuit, r.Body.Base, func(*opened) (revised, error) {
		return revised{store.Change{Summary: fmt.Sprintf("Back to revision %d: %s", rev.Number, rev.Summary), Document: rev.Document, Choice: rev.Choice, Planned: rev.Planned}, nil}, nil
	})
	return GoBackTo200JSONResponse(out), err
}
