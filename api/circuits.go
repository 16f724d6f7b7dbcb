package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/electric"
	"ambivia/core/names"
	"ambivia/core/netlist"
	"ambivia/core/survey"
	"ambivia/store"
)

// answer makes the answer for a circuit at its head.
func (s *Server) answer(ctx context.Context, c store.Circuit) (Circuit, error) {
	o, err := s.open(ctx, c)
	if err != nil {
		return Circuit{}, err
	}
	job, err := s.store.Job(ctx, c.Job)
	if err != nil {
		return Circuit{}, err
	}
	reading, err := s.reading(ctx, o)
	if err != nil {
		return Circuit{}, err
	}
	photos, err := s.store.Photos(ctx, c.ID)
	if err != nil {
		return Circuit{}, err
	}
	_, err = s.store.House(ctx, c.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return Circuit{}, err
	}
	out := Circuit{
		House: err == nil, Photos: toPhotos(photos), Id: c.ID, Job: c.Job, JobName: job.Name, Revision: c.Head.ID, Number: c.Head.Number, Summary: c.Head.Summary,
		CanUndo: c.CanUndo, CanRedo: c.CanRedo, Document: *o.doc(), Reading: *reading,
	}
	if o.option != nil {
		report := o.option.Compiled().Report()
		option := o.option.WithoutDocument()
		option.ID, _, _ = strings.Cut(option.ID, ":") // its devices stand in Kit
		out.Choice = &Choice{Option: option, Document: *o.option.After, Changes: option.Changes, Verdict: report.Verdict, Controls: report.Controls, Names: names.For(o.option.After).Book()}
	}
	return out, nil
}

// reading is what the program says back of a circuit, once for all who ask at the same time.
func (s *Server) reading(ctx context.Context, o *opened) (*survey.Reading, error) {
	return askOnce(ctx, s.desk, fmt.Sprintf("reading %s %d", o.Head.ID, len(o.doc().Gates)), func(context.Context) (*survey.Reading, error) {
		out := survey.Read(o.found)
		report := *out.Report
		report.Table, out.Report = nil, &report // the page asks for one state at a time
		return out, nil
	})
}

// CreateCircuit adds an empty circuit to a job.
func (s *Server) CreateCircuit(ctx context.Context, r CreateCircuitRequestObject) (CreateCircuitResponseObject, error) {
	doc := survey.New(r.Body.Name, string(r.Body.Practice))
	if err := circuit.Recheck(doc); err != nil {
		return nil, err
	}
	c, err := s.create(ctx, r.Job, doc, "Circuit made")
	return CreateCircuit201JSONResponse(c), err
}

// ImportCircuit reads a circuit file into a job.
func (s *Server) ImportCircuit(ctx context.Context, r ImportCircuitRequestObject) (ImportCircuitResponseObject, error) {
	doc, err := readCircuit(r.Body)
	if err != nil {
		return nil, err
	}
	if circuit.Blank(doc.Name) {
		doc.Name = "Imported circuit"
	}
	c, err := s.create(ctx, r.Job, doc, "Circuit imported")
	return ImportCircuit201JSONResponse(c), err
}

func (s *Server) create(ctx context.Context, job string, doc *circuit.Circuit, summary string) (Circuit, error) {
	data, err := circuit.Encode(doc)
	if err != nil {
		return Circuit{}, err
	}
	c, err := s.store.CreateCircuit(ctx, job, store.Change{Summary: summary, By: who(ctx), Document: data})
	if err != nil {
		return Circuit{}, err
	}
	return s.answer(ctx, c)
}

// GetCircuit answers with a circuit at its head.
func (s *Server) GetCircuit(ctx context.Context, r GetCircuitRequestObject) (GetCircuitResponseObject, error) {
	c, err := s.store.Circuit(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	out, err := s.answer(ctx, c)
	return GetCircuit200JSONResponse(out), err
}

// DeleteCircuit removes a circuit.
func (s *Server) DeleteCircuit(ctx context.Context, r DeleteCircuitRequestObject) (DeleteCircuitResponseObject, error) {
	return DeleteCircuit204Response{}, s.store.DeleteCircuit(ctx, r.Circuit)
}

// GetCircuitFile answers with the circuit file.
func (s *Server) GetCircuitFile(ctx context.Context, r GetCircuitFileRequestObject) (GetCircuitFileResponseObject, error) {
	c, err := s.store.Circuit(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	name := ""
	if o, err := s.open(ctx, c); err == nil { // one that cannot be read can be had all the same
		name = o.doc().Name
	}
	return GetCircuitFile200ApplicationoctetStreamResponse{Body: bytes.NewReader(c.Head.Document), ContentLength: int64(len(c.Head.Document)), Headers: GetCircuitFile200ResponseHeaders{attachment(name, ".json")}}, nil
}

// GetNetlist answers with the circuit as a netlist.
func (s *Server) GetNetlist(ctx context.Context, r GetNetlistRequestObject) (GetNetlistResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	var b strings.Builder
	doc, n := o.doc(), o.found.Network
	_, err = netlist.Write(&b, doc, n.Volts, n.Keys(n.Initial()))
	return GetNetlist200TextResponse{Body: b.String(), Headers: GetNetlist200ResponseHeaders{attachment(doc.Name, ".cir")}}, err
}

// EditCircuit writes one thing that a person noted.
func (s *Server) EditCircuit(ctx context.Context, r EditCircuitRequestObject) (EditCircuitResponseObject, error) {
	edit := survey.Stamped(r.Body.Edit.Edit, time.Now().UTC().Format(time.RFC3339))
	out, err := s.change(ctx, r.Circuit, r.Body.Base, func(o *opened) (revised, error) {
		next, summary, err := survey.Apply(o.doc(), edit)
		if err != nil {
			return revised{}, err
		}
		data, err := circuit.Encode(next)
		return revised{store.Change{Summary: summary, Document: data}, next}, err
	})
	return EditCircuit200JSONResponse(out), err
}

// revised is a revision to be written, with its document where that is parsed already.
type revised struct {
	store.Change
	doc *circuit.Circuit
}

// change appends a revision made by f from the head, if base is the head.
func (s *Server) change(ctx context.Context, id string, base string, f func(*opened) (revised, error)) (Circuit, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return Circuit{}, err
	}
	if o.Head.ID != base {
		return Circuit{}, s.stale(ctx, id, base)
	}
	next, err := f(o)
	if err != nil {
		return Circuit{}, err
	}
	next.By = who(ctx)
	written, err := s.store.Revise(ctx, id, base, next.Change)
	if err == nil && next.doc != nil {
		h, err := compileHead(next.doc, written.Head)
		if err != nil {
			return Circuit{}, err
		}
		s.heads.Add(written.Head.ID, h)
	}
	return s.moved(ctx, id, base)(written, err)
}

// moved turns the store's answer to a change into the page's.
func (s *Server) moved(ctx context.Context, id string, base string) func(store.Circuit, error) (Circuit, error) {
	return func(c store.Circuit, err error) (Circuit, error) {
		if errors.Is(err, store.ErrStale) {
			return Circuit{}, s.stale(ctx, id, base)
		}
		if err != nil {
			return Circuit{}, err
		}
		return s.answer(ctx, c)
	}
}

// stale says what changed between the revision that a caller saw and the head.
func (s *Server) stale(ctx context.Context, id string, base string) error {
	o, err := s.load(ctx, id)
	if err != nil {
		return err
	}
	old, err := s.store.Revision(ctx, id, base)
	if errors.Is(err, store.ErrNotFound) {
		return &problemError{http.StatusUnprocessableEntity, "unknown-revision", "base", "the circuit never had this revision"}
	}
	if err != nil {
		return err
	}
	was, err := circuit.Parse(old.Document)
	if err != nil {
		return err
	}
	changed := names.Changes(was, o.doc())
	if old.Choice != o.Head.Choice {
		changed = append(changed, "the chosen plan changed")
	}
	return &staleError{"the circuit", o.Head.ID, changed}
}

// Undo goes back one revision.
func (s *Server) Undo(ctx context.Context, r UndoRequestObject) (UndoResponseObject, error) {
	out, err := s.moved(ctx, r.Circuit, r.Body.Base)(s.store.Undo(ctx, r.Circuit, r.Body.Base))
	return Undo200JSONResponse(out), err
}

// Redo takes the last undo back.
func (s *Server) Redo(ctx context.Context, r RedoRequestObject) (RedoResponseObject, error) {
	out, err := s.moved(ctx, r.Circuit, r.Body.Base)(s.store.Redo(ctx, r.Circuit, r.Body.Base))
	return Redo200JSONResponse(out), err
}

// conditions reads what a person has done to the circuit for a while.
func conditions(c *Conditions) (electric.Conditions, error) {
	var out electric.Conditions
	if c == nil {
		return out, nil
	}
	if c.LampsOut != nil {
		out.LampsOut = *c.LampsOut
	}
	if c.BreakersOff != nil {
		out.BreakersOff = *c.BreakersOff
	}
	if c.Lifted != nil {
		for _, text := range *c.Lifted {
			e, err := circuit.ParseEnd(text)
			if err != nil {
				return out, &problemError{http.StatusUnprocessableEntity, "end", "under.lifted", err.Error()}
			}
			out.Lifted = append(out.Lifted, e)
		}
	}
	return out, nil
}

// Press presses a control, or looks at a state.
func (s *Server) Press(ctx context.Context, r PressRequestObject) (PressResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	shown, err := o.at(r.Body.Of)
	if err != nil {
		return nil, err
	}
	under, err := conditions(r.Body.Under)
	if err != nil {
		return nil, err
	}
	n := electric.NewUnder(shown.Doc, under)
	state, ok := n.StateOf(r.Body.State)
	if !ok {
		return nil, &problemError{http.StatusUnprocessableEntity, "unknown-state", "state", "the circuit has no such state"}
	}
	settled := true
	if r.Body.Press != nil {
		state, settled = n.Press(state, *r.Body.Press, nil)
	}
	solved := n.Solve(state)
	out := Press200JSONResponse{State: n.Keys(state), Asleep: []string{}, Tripped: solved.Tripped, Settled: settled, Lamps: []LampState{}}
	for _, id := range solved.Unpowered() {
		out.Asleep = append(out.Asleep, shown.Terms().Short(id))
	}
	for i, id := range n.LampIDs() {
		out.Lamps = append(out.Lamps, LampState{Device: id, Name: shown.Terms().Short(id), Volts: float32(solved.LampVolts()[i]), Lit: solved.Lit(i)})
	}
	for _, p := range solved.Conductors() {
		out.Conductors = append(out.Conductors, string(p))
	}
	return out, nil
}
