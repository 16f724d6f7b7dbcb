package api

import (
	"context"
	"encoding/json"

	"ambivia/core/circuit"
	"ambivia/core/inspect"
	"ambivia/core/retrofit"
	"ambivia/core/trace"
	"ambivia/store"
)

// Bounds of what is kept in memory: each is made again when it is asked for.
const (
	keptHeads  = 24 // circuits at one revision, compiled
	keptPlans  = 24
	keptOffers = 16     // options with the documents that they become
	keptThumbs = 400    // some 20 kB each
	keptTraced = 4      // tracers that stand: the largest take a hundred megabytes
	keptOfJobs = 20_000 // revisions' summaries, a line each
)

// opened is a circuit at its head as all handlers want it. What is in it is shared, and is not to be
// changed.
type opened struct {
	store.Circuit
	found  *inspect.Compiled
	option *retrofit.Option // that was chosen, nil where none was
}

// doc is the document as found.
func (o *opened) doc() *circuit.Circuit { return o.found.Doc }

// at is the circuit as found, or as planned.
func (o *opened) at(v Version) (*inspect.Compiled, error) {
	if v != Planned {
		return o.found, nil
	}
	if o.option == nil {
		return nil, errNoChoice("of")
	}
	return o.option.Compiled(), nil
}

// head is what a revision says, parsed and compiled once for all who ask.
type head struct {
	found  *inspect.Compiled
	option *retrofit.Option // as it was when it was chosen, nil where it is to be worked out anew
}

// load opens a stored circuit at its head.
func (s *Server) load(ctx context.Context, id string) (*opened, error) {
	c, err := s.store.Circuit(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.open(ctx, c)
}

// open reads a stored circuit with its document and, if one was chosen, its plan.
func (s *Server) open(ctx context.Context, c store.Circuit) (*opened, error) {
	key, newest := c.Head.ID, store.Revision{}
	if c.CanRedo { // somebody went back: what was confirmed since stays confirmed
		var err error
		if newest, err = s.store.Newest(ctx, c.ID); err != nil {
			return nil, err
		}
		key += "/" + newest.ID
	}
	h, known := s.heads.Get(key)
	if !known {
		doc, err := circuit.Parse(c.Head.Document)
		if err != nil {
			return nil, err
		}
		if c.CanRedo {
			last, err := circuit.Parse(newest.Document)
			if err != nil {
				return nil, err
			}
			doc.KeepGates(last)
		}
		if h, err = compileHead(doc, c.Head); err != nil {
			return nil, err
		}
		s.heads.Add(key, h)
	}
	o := &opened{c, h.found, h.option}
	if c.Head.Choice != "" && o.option == nil { // it came with an archive, whose plans nobody believes
		var err error
		if o.option, err = s.offered(ctx, o, c.Head.Choice); err != nil {
			return nil, err
		}
	}
	return o, nil
}

// compileHead compiles a document that is parsed already, and reads the plan of its revision.
func compileHead(doc *circuit.Circuit, of store.Revision) (*head, error) {
	h := &head{found: inspect.Compile(doc)}
	if of.Choice != "" && len(of.Planned) > 0 {
		h.option = &retrofit.Option{}
		if err := json.Unmarshal(of.Planned, h.option); err != nil {
			return nil, err
		}
		h.option.Compiled()
	}
	return h, nil
}

// standing is the tracer that stays while somebody takes readings of one circuit. Its channel holds
// one token: who works with it has taken that.
type standing struct {
	free   chan struct{}
	tracer *trace.Standing
}

// tracer makes a tracer of a circuit at its head. Where the head has only more readings than what
// was traced before, they are held against what stands, and nothing is enumerated again.
func (s *Server) tracer(ctx context.Context, o *opened) (*trace.Tracer, error) {
	s.mu.Lock()
	of, known := s.traced.Get(o.ID)
	if !known {
		of = &standing{free: make(chan struct{}, 1)}
		of.free <- struct{}{}
		s.traced.Add(o.ID, of)
	}
	s.mu.Unlock()
	select {
	case <-of.free:
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	defer func() { of.free <- struct{}{} }()
	if was := of.tracer; was != nil {
		of.tracer = nil // until it is known that nothing went wrong
		ok, err := was.Advance(ctx, o.doc())
		if err != nil {
			return nil, err
		}
		if ok {
			of.tracer = was
			return was.Tracer(ctx)
		}
	}
	anew, err := trace.Stand(ctx, o.doc())
	if err != nil {
		return nil, err
	}
	of.tracer = anew
	return anew.Tracer(ctx)
}
