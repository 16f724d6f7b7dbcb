package api

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"strings"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/record"
	"ambivia/core/rehearsal"
	"ambivia/core/retrofit"
	"ambivia/hub"
)

// Links lists the ways in which the links of a plan can be made.
func (s *Server) Links(ctx context.Context, r LinksRequestObject) (LinksResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	option := o.option
	if r.Params.Option != nil {
		if option, err = s.offer(ctx, o, *r.Params.Option); err != nil {
			return nil, err
		}
	}
	if option == nil {
		return nil, errNoChoice("option")
	}
	sets, err := s.linkSets(ctx, o, option)
	return append(Links200JSONResponse{}, sets...), err
}

func (s *Server) linkSets(ctx context.Context, o *opened, option *retrofit.Option) ([]automation.Set, error) {
	own, _, version, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	return askOnce(ctx, s.desk, "links "+o.ID+"/"+o.Head.ID+"/"+version+"/"+option.ID, func(ctx context.Context) ([]automation.Set, error) {
		return automation.For(ctx, option, device.NewLibrary(own))
	})
}

// made is how the links of the chosen plan are made, as it was kept or as it is preferred, with the version that is kept; nil
// where no plan is chosen, or it has no links.
func (s *Server) made(ctx context.Context, o *opened) (*automation.Set, string, error) {
	if o.option == nil {
		return nil, "", nil
	}
	sets, err := s.linkSets(ctx, o, o.option)
	if err != nil {
		return nil, "", err
	}
	have, err := s.store.Links(ctx, o.ID)
	if err != nil {
		return nil, "", err
	}
	kept, err := automation.ReadKept(have.Data)
	if err != nil {
		return nil, "", err
	}
	set, err := automation.With(ctx, sets, o.option.ID, kept)
	return set, have.Version, err
}

// KeepLinks keeps how the links of the chosen plan are made.
func (s *Server) KeepLinks(ctx context.Context, r KeepLinksRequestObject) (KeepLinksResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	if o.option == nil {
		return nil, errNoChoice("option")
	}
	what := RehearsalOf{Of: Planned, Automation: r.Body.Automation}
	if r.Body.Set != "" {
		what.Set = &r.Body.Set
	}
	if _, _, err := s.rehearsed(ctx, r.Circuit, what); err != nil { // what is kept can be played
		return nil, err
	}
	data, err := json.Marshal(automation.Kept{Option: o.option.ID, Set: r.Body.Set, Automation: r.Body.Automation})
	if err != nil {
		return nil, err
	}
	return KeepLinks204Response{}, stale(s.store.PutLinks(ctx, r.Circuit, r.Body.Base, data), "how the links are made", func() (string, error) {
		now, err := s.store.Links(ctx, r.Circuit)
		return now.Version, err
	})
}

// rehearsed is the document that is tried out, and which way to make its links that is.
func (s *Server) rehearsed(ctx context.Context, id string, what RehearsalOf) (doc *circuit.Circuit, set *automation.Set, err error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	doc = o.doc()
	if what.Of == Planned {
		option := o.option
		if what.Option != nil {
			if option, err = s.offer(ctx, o, *what.Option); err != nil {
				return nil, nil, err
			}
		}
		if option == nil {
			return nil, nil, errNoChoice("of")
		}
		kind := ""
		if what.Set != nil {
			kind = *what.Set
		}
		if what.Option == nil && kind == "" {
			set, _, err = s.made(ctx, o)
		} else {
			var sets []automation.Set
			if sets, err = s.linkSets(ctx, o, option); err == nil {
				set = automation.Of(sets, kind)
			}
		}
		switch {
		case err != nil:
			return nil, nil, err
		case set != nil:
			doc = set.Doc
		case kind != "":
			return nil, nil, &problemError{http.StatusUnprocessableEntity, "unknown-set", "set", "the links of this plan cannot be made so"}
		default:
			doc = option.After
		}
	}
	if what.Automation != nil {
		doc = doc.Clone()
		doc.Automation = what.Automation
		if err := doc.Validate(); err != nil {
			return nil, nil, err
		}
	}
	return doc, set, nil
}

// fitted is the log of the fitting of a circuit, with the devices that may stand in it.
func (s *Server) fitted(ctx context.Context, id string) ([]fitting.Entry, *device.Library, error) {
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, nil, err
	}
	log, err := s.worklog(ctx, id)
	return log, device.NewLibrary(own), err
}

// report goes through a document at the work desk: once for all who ask it of the same.
func (s *Server) report(ctx context.Context, doc *circuit.Circuit) (*rehearsal.Report, error) {
	data, err := circuit.Encode(doc)
	if err != nil {
		return nil, err
	}
	return askOnce(ctx, s.desk, "rehearsal "+string(data), func(ctx context.Context) (*rehearsal.Report, error) {
		return rehearsal.Rehearse(ctx, doc)
	})
}

// Rehearse says what the links of a circuit do, in every order in which messages may arrive.
func (s *Server) Rehearse(ctx context.Context, r RehearseRequestObject) (RehearseResponseObject, error) {
	doc, set, err := s.rehearsed(ctx, r.Circuit, *r.Body)
	if err != nil {
		return nil, err
	}
	report, err := s.report(ctx, doc)
	if err != nil {
		return nil, err
	}
	hand := rehearsal.NewHand(doc, "")
	out := Rehearse200JSONResponse{Report: *report, Witnesses: map[string][]RehearsalPlayed{}, Ways: append([]string{}, hand.Ways()...), Said: rehearsal.Say(doc), Start: hand.Start(),
		Speakers: rehearsal.Speakers(doc)}
	if set != nil {
		out.Title, out.Set = set.Title, &set.Kind
	}
	kept, err := s.store.Links(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	out.Kept = kept.Version
	if doc.Automation != nil {
		out.Automation = *doc.Automation
	}
	if what := r.Body; what.Of == Planned && what.Option == nil { // what was tried of the plan that was fitted
		o, err := s.load(ctx, r.Circuit)
		if err != nil {
			return nil, err
		}
		log, library, err := s.fitted(ctx, r.Circuit)
		if err != nil {
			return nil, err
		}
		if o.option != nil {
			out.Measured = report.Measured(record.Delays(record.Trials(o.option, library, log), log))
		}
	}
	out.Delays = rehearsal.Usual(out.Ways, out.Measured)
	for _, p := range report.Properties {
		if !p.Holds {
			out.Witnesses[p.Code] = hand.Witness(p)
		}
	}
	return out, nil
}

// RehearseWithin says what holds where messages take no less and no more than some delays.
func (s *Server) RehearseWithin(ctx context.Context, r RehearseWithinRequestObject) (RehearseWithinResponseObject, error) {
	if place, text := r.Body.Delays.Check(); place != "" {
		return nil, &problemError{http.StatusUnprocessableEntity, "delays", place, text}
	}
	doc, _, err := s.rehearsed(ctx, r.Circuit, r.Body.What)
	if err != nil {
		return nil, err
	}
	asked, err := json.Marshal(r.Body.Delays)
	if err != nil {
		return nil, err
	}
	data, err := circuit.Encode(doc)
	if err != nil {
		return nil, err
	}
	timed, err := askOnce(ctx, s.desk, "rehearsal within "+string(asked)+string(data), func(ctx context.Context) (*rehearsal.Timed, error) {
		return rehearsal.Within(ctx, doc, r.Body.Delays)
	})
	if err != nil {
		return nil, err
	}
	return RehearseWithin200JSONResponse(*timed), nil
}

// RehearseMove plays one move.
func (s *Server) RehearseMove(ctx context.Context, r RehearseMoveRequestObject) (RehearseMoveResponseObject, error) {
	doc, _, err := s.rehearsed(ctx, r.Circuit, r.Body.What)
	if err != nil {
		return nil, err
	}
	down := ""
	if r.Body.Down != nil {
		down = *r.Body.Down
	}
	hand := rehearsal.NewHand(doc, down)
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

// Rules writes the rules as a file.
func (s *Server) Rules(ctx context.Context, r RulesRequestObject) (RulesResponseObject, error) {
	doc, set, err := s.rehearsed(ctx, r.Circuit, RehearsalOf{Of: r.Params.Of, Option: r.Params.Option, Set: r.Params.Set})
	if err != nil {
		return nil, err
	}
	report, err := s.report(ctx, doc)
	if err != nil {
		return nil, err
	}
	use, err := s.useInJob(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	if err := automation.FormOf(doc, set, report, hub.Topics(doc, use), use.Words()).Write(&b, string(r.Form)); err != nil {
		return nil, err
	}
	return Rules200ApplicationoctetStreamResponse{
		Body: &b, ContentLength: int64(b.Len()),
		Headers: Rules200ResponseHeaders{ContentDisposition: attachment(doc.Name+" rules", "."+string(r.Form))},
	}, nil
}

// Ramp says what comes of a paddle that is held.
func (s *Server) Ramp(ctx context.Context, r RampRequestObject) (RampResponseObject, error) {
	if place, text := r.Body.Check(); place != "" {
		return nil, &problemError{http.StatusUnprocessableEntity, "held", place, text}
	}
	out, err := r.Body.Ramp(ctx)
	if err != nil {
		return nil, err
	}
	return Ramp200JSONResponse(*out), nil
}
