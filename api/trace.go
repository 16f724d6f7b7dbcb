package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"slices"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/house"
	"ambivia/core/names"
	"ambivia/core/retrofit"
	"ambivia/core/survey"
	"ambivia/core/trace"
	"ambivia/store"
)

// Limits of one answer.
const (
	traceTime = 30 * time.Second
	treeTime  = 2 * time.Minute
)

func preferred[P ~string](p *P) trace.Prefer {
	if p != nil && trace.Prefer(*p) == trace.Trips {
		return trace.Trips
	}
	return trace.Dead
}

// tooLong says what to do where tracing does not come to an end in time.
func tooLong(err error) error {
	if errors.Is(err, context.DeadlineExceeded) {
		return &problemError{http.StatusServiceUnavailable, "too-long", "", "so many circuits fit this record that they were not gone through in time; join what is known to be one cable, or open another box"}
	}
	return err
}

// Trace says what the walls may hide, and which test to make next.
func (s *Server) Trace(ctx context.Context, r TraceRequestObject) (TraceResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, traceTime)
	defer cancel()
	prefer := preferred(r.Params.Prefer)
	told, err := askOnce(ctx, s.desk, fmt.Sprintf("trace %s %s", o.Head.ID, prefer), func(ctx context.Context) (*trace.Result, error) {
		t, err := s.tracer(ctx, o)
		if err != nil {
			return nil, err
		}
		return t.Result(ctx, prefer)
	})
	if err != nil {
		return nil, tooLong(err)
	}
	toward, next, err := s.toward(ctx, o, r.Params.Toward, told.Next)
	if err != nil {
		return nil, tooLong(err)
	}
	doc, say := o.doc(), o.found.Terms()
	out := Trace200JSONResponse{
		Worlds: told.Worlds, More: told.More, Safer: told.Safer, Look: told.Look, Confirm: TraceAnswerConfirm(cmp.Or(doc.Confirm, circuit.ConfirmFree)), Done: told.Done, Conductors: conductors(doc, told), Strip: survey.Strip(doc, told.Certain()),
		Cables: told.Cables, Likely: told.Likely, Next: next, Toward: toward, Contradiction: told.Contradiction, Open: told.Open,
		Log: told.Log, Reports: []string{}, Walks: told.Walks, On: told.On,
		Assumed: told.Assumed, Findings: told.Findings, Polarity: TraceAnswerPolarity(told.Polarity), OpenNext: told.OpenNext, Ahead: told.Ahead,
		PutBack: told.PutBack, Schools: settling(told.Conventions), Controls: doc.Controls, Cannot: []TraceAnswerCannot{},
	}
	for _, way := range doc.Cannot {
		out.Cannot = append(out.Cannot, TraceAnswerCannot(way))
	}
	for _, x := range doc.Reports {
		out.Reports = append(out.Reports, trace.ReportWords(say, x))
	}
	if told.Settle != "" {
		out.Settle = &told.Settle
	}
	return out, nil
}

// toward is the plan that a person wants the tests to lead to, with the next of them; nothing where none was
// named, or the plan for what is left offers it no more.
func (s *Server) toward(ctx context.Context, o *opened, id *string, next *trace.Next) (*TowardPlan, *trace.Next, error) {
	if id == nil || *id == "" || next == nil {
		return nil, next, nil
	}
	plan, err := s.plan(ctx, o)
	if err != nil {
		return nil, nil, err
	}
	t, err := s.tracer(ctx, o)
	if err != nil {
		return nil, nil, err
	}
	for i := range plan.Options {
		if x := &plan.Options[i]; x.ID == *id {
			if x.Feasible && len(x.Relies) > 0 {
				if x, err = s.offer(ctx, o, x.ID); err != nil {
					return nil, nil, err
				}
			}
			led, err := askOnce(ctx, s.desk, fmt.Sprintf("toward %s %s %s", o.Head.ID, x.ID, next.Test.Key()), func(ctx context.Context) (retrofit.Led, error) { return retrofit.Lead(ctx, x, t, next) })
			if err != nil {
				return nil, nil, err
			}
			out := &TowardPlan{Option: x.ID, Title: x.Title, Enough: led.Enough, Relies: led.Relies}
			if led.Refused != "" {
				out.Refused = &led.Refused
			}
			return out, led.Next, nil
		}
	}
	return nil, next, nil
}

// conductors lists the odds of every core end by box, in the order of the document.
func conductors(doc *circuit.Circuit, told *trace.Result) []Conductor {
	out := []Conductor{}
	for _, b := range survey.Order(doc) {
		for _, m := range doc.EndsIn(b.ID) {
			e := circuit.End{Ref: m, Box: b.ID}
			roles, ok := told.Roles[e]
			if !ok {
				continue
			}
			c := Conductor{End: e.String(), Box: b.ID, Core: m.Part, Cable: m.Owner, Odds: []RoleOdds{}}
			for role, odds := range roles {
				c.Odds = append(c.Odds, RoleOdds{Role: string(role), Odds: float32(odds)})
			}
			slices.SortFunc(c.Odds, func(a, b RoleOdds) int {
				return cmp.Or(cmp.Compare(b.Odds, a.Odds), cmp.Compare(a.Role, b.Role))
			})
			if role, ok := trace.TakeAs(roles); ok {
				as := string(role)
				c.TakeAs = &as
			}
			out = append(out, c)
		}
	}
	return out
}

// valid checks a test against the circuit that it is made on.
func valid(doc *circuit.Circuit, test circuit.Observation) error {
	test.Reading = nil
	probe := *doc
	probe.Observations = []circuit.Observation{test}
	return circuit.Recheck(&probe)
}

// PreviewTest says what a test chosen by hand would tell.
func (s *Server) PreviewTest(ctx context.Context, r PreviewTestRequestObject) (PreviewTestResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	if err := valid(o.doc(), *r.Body); err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, traceTime)
	defer cancel()
	t, err := s.tracer(ctx, o)
	if err != nil {
		return nil, tooLong(err)
	}
	return PreviewTest200JSONResponse(*t.Preview(*r.Body)), nil
}

// settling are those of the conventions that settle a circuit.
func settling(byConvention map[string]*trace.Operations) map[string]trace.Operations {
	out := map[string]trace.Operations{}
	for name, o := range byConvention {
		if o != nil {
			out[name] = *o
		}
	}
	return out
}

// TraceAhead forecasts the breaker operations where that takes longer than the answer waits for.
func (s *Server) TraceAhead(ctx context.Context, r TraceAheadRequestObject) (TraceAheadResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, traceTime)
	defer cancel()
	prefer := preferred(r.Params.Prefer)
	told, err := askOnce(ctx, s.desk, fmt.Sprintf("ahead %s %s", o.Head.ID, prefer), func(ctx context.Context) (TraceAhead200JSONResponse, error) {
		t, err := s.tracer(ctx, o)
		if err != nil {
			return TraceAhead200JSONResponse{}, err
		}
		ahead, byConvention, err := t.Forecast(ctx, prefer)
		return TraceAhead200JSONResponse{Ahead: ahead, Schools: settling(byConvention)}, err
	})
	if err != nil {
		return nil, tooLong(err)
	}
	return told, nil
}

// TraceTree follows every reading of every next test to the end.
func (s *Server) TraceTree(ctx context.Context, r TraceTreeRequestObject) (TraceTreeResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, treeTime)
	defer cancel()
	prefer := preferred(r.Params.Prefer)
	key := treeKey(o.Circuit, prefer)
	root, err := askOnce(ctx, s.desk, key, func(ctx context.Context) (*trace.Node, error) {
		defer s.followed.Delete(key)
		t, err := s.tracer(ctx, o)
		if err != nil {
			return nil, err
		}
		say := o.found.Terms()
		return t.Tree(ctx, prefer, func(o circuit.Observation) string { return trace.Describe(say, o) }, func(tests int) { s.followed.Store(key, tests) })
	})
	if err != nil {
		return nil, tooLong(err)
	}
	return TraceTree200JSONResponse(*root), nil
}

func treeKey(c store.Circuit, prefer trace.Prefer) string {
	return fmt.Sprintf("tree %s %s", c.Head.ID, prefer)
}

// TraceFollowed tells how far a tree is that somebody waits for; 0 where none is being followed.
func (s *Server) TraceFollowed(ctx context.Context, r TraceFollowedRequestObject) (TraceFollowedResponseObject, error) {
	c, err := s.store.Circuit(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	tests := 0
	if now, under := s.followed.Load(treeKey(c, preferred(r.Params.Prefer))); under {
		tests, _ = now.(int)
	}
	return TraceFollowed200JSONResponse{Tests: tests}, nil
}

// RecordTraced makes the traced circuit the circuit of record.
func (s *Server) RecordTraced(ctx context.Context, r RecordTracedRequestObject) (RecordTracedResponseObject, error) {
	out, err := s.change(ctx, r.Circuit, r.Body.Base, func(o *opened) (revised, error) {
		t, err := s.tracer(ctx, o)
		if err != nil {
			return revised{}, tooLong(err)
		}
		whole, err := t.Record(ctx)
		if errors.Is(err, trace.ErrNotTraced) {
			return revised{}, &problemError{http.StatusUnprocessableEntity, "not-traced", "", err.Error()}
		}
		if err != nil {
			return revised{}, tooLong(err)
		}
		data, err := circuit.Encode(whole)
		return revised{store.Change{Summary: "Traced circuit made the record", Document: data}, whole}, err
	})
	return RecordTraced200JSONResponse(out), err
}

// HideCircuit hides a circuit behind walls, as a circuit of its own to practise on.
func (s *Server) HideCircuit(ctx context.Context, r HideCircuitRequestObject) (HideCircuitResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	seed := rand.Uint64() >> 1
	seen, err := house.Practice(o.found, seed)
	if errors.Is(err, house.ErrNotSound) {
		return nil, &problemError{http.StatusUnprocessableEntity, "not-sound", "", err.Error()}
	}
	if err != nil {
		return nil, &problemError{http.StatusUnprocessableEntity, "not-hidden", "", err.Error()}
	}
	data, err := circuit.Encode(seen)
	if err != nil {
		return nil, err
	}
	made, err := s.store.CreateHouse(ctx, o.Job, store.Change{Summary: "House hidden", By: who(ctx), Document: data}, store.House{Document: o.Head.Document, Seed: seed})
	if err != nil {
		return nil, err
	}
	out, err := s.answer(ctx, made)
	return HideCircuit201JSONResponse(out), err
}

// hidden opens a circuit and the hidden house that answers its tests.
func (s *Server) hidden(ctx context.Context, id string) (*opened, *house.House, error) {
	seen, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	kept, err := s.store.House(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil, &problemError{http.StatusNotFound, "no-house", "", "no hidden house answers for this circuit; real walls are asked with a tester"}
	}
	if err != nil {
		return nil, nil, err
	}
	doc, err := circuit.Parse(kept.Document)
	if err != nil {
		return nil, nil, err
	}
	h, err := house.New(doc, kept.Seed, nil)
	return seen, h, err
}

// AskHouse lets the hidden house answer a test.
func (s *Server) AskHouse(ctx context.Context, r AskHouseRequestObject) (AskHouseResponseObject, error) {
	o, h, err := s.hidden(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	doc := o.doc()
	if err := valid(doc, *r.Body); err != nil {
		return nil, err
	}
	h.Tested(len(doc.Observations))
	reading, err := h.Answer(*r.Body)
	if err != nil {
		return nil, err
	}
	return AskHouse200JSONResponse{Reading: reading, Words: trace.ReadingWords(r.Body.Instrument, reading)}, nil
}

// CompareHouse says what of the record of a hidden house is right.
func (s *Server) CompareHouse(ctx context.Context, r CompareHouseRequestObject) (CompareHouseResponseObject, error) {
	o, h, err := s.hidden(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, traceTime)
	defer cancel()
	t, err := s.tracer(ctx, o)
	if err != nil {
		return nil, tooLong(err)
	}
	told, err := t.Result(ctx, trace.Dead)
	if err != nil {
		return nil, tooLong(err)
	}
	say := o.found.Terms()
	right, wrong := h.Compare(told.Certain())
	out := CompareHouse200JSONResponse{Ends: right + len(wrong), Right: right, Wrong: []string{}}
	for _, x := range wrong {
		out.Wrong = append(out.Wrong, fmt.Sprintf("%s is %s, not %s", names.Capitalize(say.End(x.End)), say.Word(string(x.Is)), say.Word(string(x.Claimed))))
	}
	slices.Sort(out.Wrong)
	return out, nil
}
