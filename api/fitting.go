package api

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"reflect"
	"strings"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/diagram"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/exchange"
	"ambivia/store"
)

// learnedFrom is of how many circuits own times are taken, the newest first.
const learnedFrom = 60

// worklog reads the log of a circuit.
func (s *Server) worklog(ctx context.Context, id string) ([]fitting.Entry, error) {
	kept, err := s.store.Log(ctx, id)
	if err != nil {
		return nil, err
	}
	return exchange.Entries(kept)
}

// working opens a circuit with how its fitting stands.
func (s *Server) working(ctx context.Context, id string) (*opened, *fitting.State, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	log, err := s.worklog(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	return o, fitting.Read(log), nil
}

// Work says how the fitting of a circuit stands.
func (s *Server) Work(ctx context.Context, r WorkRequestObject) (WorkResponseObject, error) {
	o, state, err := s.working(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	return Work200JSONResponse(workOf(o, state)), nil
}

func workOf(o *opened, state *fitting.State) Work {
	out := Work{Last: len(state.Entries), Phases: []Named{}, Cards: []Card{}, Steps: []Step{}, States: []StepState{}, Entries: []LogLine{}, Conflicts: []string{},
		Now: state.Now, Undo: state.Undo, Power: WorkPower(state.Power), Proved: append([]string{}, state.Proved...), Over: state.Over,
		Times: append([]PhaseTime{}, state.Times()...), MayBegin: o.option != nil && state.MayBegin(o.Head.Number)}
	for _, e := range state.Entries {
		line := LogLine{Number: e.Number, Time: e.Time, By: e.By, Kind: string(e.Kind), Words: names.Capitalize(e.Words())}
		if e.Note != "" {
			line.Note = &e.Note
		}
		if e.Value != "" {
			line.Value = &e.Value
		}
		if state.Undone(e.Number) {
			yes := true
			line.Undone = &yes
		}
		out.Entries = append(out.Entries, line)
	}
	if state.Run == nil {
		return out
	}
	say := names.For(state.Run.After)
	for _, x := range procedure.Phases {
		out.Phases = append(out.Phases, Named{ID: string(x.Phase), Text: say.Expand(x.Name)})
	}
	way := WorkWay(state.Run.Way)
	out.Way, out.Title, out.Option, out.Since = &way, &state.Run.Title, &state.Run.Option, &state.Since
	out.Steps, out.Cards = append(out.Steps, state.Run.Steps...), procedure.Cards(state.Run.Steps, say)
	out.States = append(out.States, state.Steps...)
	out.Changed = o.Head.Number != state.Run.Revision
	out.Proves = o.option != nil && state.Carries(o.option.ID, o.Head.Number)
	if state.Secure != nil {
		out.Secure = &state.Secure
	}
	if state.Stopped != nil {
		out.Stopped = &state.Stopped.Note
	}
	stands := state.Stood(o.doc())
	out.MayGoBack = state.Run.Way != fitting.Back && stands.Changed
	out.Conflicts = append(out.Conflicts, stands.Lost...)
	return out
}

// BeginWork begins a run: to the chosen plan, back to the circuit as found, or from a mistake that was found to the plan.
func (s *Server) BeginWork(ctx context.Context, r BeginWorkRequestObject) (BeginWorkResponseObject, error) {
	o, state, err := s.working(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	if o.option == nil {
		return nil, errNoChoice("")
	}
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	learned, err := s.learned(ctx)
	if err != nil {
		return nil, err
	}
	library := device.NewLibrary(own)
	var run *fitting.Run
	switch r.Body.Way {
	case WorkBeginWayForth:
		made, _, err := s.made(ctx, o)
		if err != nil {
			return nil, err
		}
		run = state.NewRun(o.found, o.option, library, made, o.Head.Number, learned)
	case WorkBeginWayBack:
		run = state.NewBack(o.found, o.option, library, o.Head.Number, learned)
	case WorkBeginWayMend:
		if r.Body.Mistake == nil || len(r.Body.Mistake.Ends) == 0 {
			return nil, &problemError{http.StatusUnprocessableEntity, "no-mistake", "mistake", "say which mistake is mended"}
		}
		wrong, err := prove.Made(o.doc(), o.option, *r.Body.Mistake)
		if err != nil {
			return nil, &problemError{http.StatusUnprocessableEntity, "no-mistake", "mistake", err.Error()}
		}
		run = fitting.NewMend(o.found, wrong, o.option, library, o.Head.Number, learned)
	}
	if len(run.Steps) == 0 {
		return nil, &problemError{http.StatusUnprocessableEntity, "no-steps", "way", "there is nothing to do: the wiring stands so already"}
	}
	out, err := s.added(ctx, o, state, r.Body.Base, fitting.Entry{Kind: fitting.Begin, Began: fitting.Began{Run: run}})
	return BeginWork201JSONResponse(out), err
}

// learned is how long own work took.
func (s *Server) learned(ctx context.Context) (fitting.Learned, error) {
	ids, err := s.store.Worked(ctx, learnedFrom)
	if err != nil {
		return nil, err
	}
	var logs [][]fitting.Entry
	for _, id := range ids {
		log, err := s.worklog(ctx, id)
		if err != nil {
			return nil, err
		}
		logs = append(logs, log)
	}
	return fitting.Learn(logs...), nil
}

// AddToLog adds an entry, where it may be added as the work stands.
func (s *Server) AddToLog(ctx context.Context, r AddToLogRequestObject) (AddToLogResponseObject, error) {
	o, state, err := s.working(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	e := r.Body.Entry
	e.Run = nil
	if e.Kind == fitting.Begin {
		return nil, &problemError{http.StatusUnprocessableEntity, "unknown-kind", "entry.kind", "a run is begun by itself"}
	}
	if r.Body.Base == len(state.Entries) {
		if err := state.Check(o.proved(), e); err != nil {
			return nil, refused(err)
		}
	}
	out, err := s.added(ctx, o, state, r.Body.Base, e)
	return AddToLog201JSONResponse(out), err
}

// refused turns what the log does not take into an answer.
func refused(err error) error {
	var wrong *fitting.Error
	if errors.As(err, &wrong) {
		return &problemError{http.StatusUnprocessableEntity, wrong.Code, "entry." + wrong.Place, wrong.Text}
	}
	return err
}

// added adds an entry after the one that its maker saw last.
func (s *Server) added(ctx context.Context, o *opened, state *fitting.State, base int, e fitting.Entry) (Work, error) {
	e.Number, e.Time, e.By = 0, time.Time{}, "" // the store says so
	data, err := json.Marshal(e)
	if err != nil {
		return Work{}, err
	}
	kept, err := s.store.AddToLog(ctx, o.ID, base, who(ctx), data)
	if errors.Is(err, store.ErrStale) {
		return Work{}, &staleError{"the log", o.Head.ID, newer(state, base)}
	}
	if err != nil {
		return Work{}, err
	}
	e.Number, e.Time, e.By = kept.Number, kept.Created, kept.By
	return workOf(o, fitting.Read(append(state.Entries, e))), nil
}

// newer says what was added since a person looked.
func newer(state *fitting.State, base int) []string {
	out := []string{}
	for _, e := range state.Entries[min(max(base, 0), len(state.Entries)):] {
		out = append(out, strings.TrimSpace(e.By+" "+e.Words()))
	}
	return out
}

// StepPicture draws the box of a step as the wiring stands, and as the step leaves it. It is of the work as its asker
// knows it: another may have begun other steps since, among which there is none of this number.
func (s *Server) StepPicture(ctx context.Context, r StepPictureRequestObject) (StepPictureResponseObject, error) {
	log, err := s.worklog(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	if known := r.Params.Last; known != nil {
		log = log[:min(*known, len(log))]
	}
	state := fitting.Read(log)
	around, err := state.Around(r.Step)
	if err != nil || around.Step.Box == "" {
		return nil, &problemError{http.StatusNotFound, "not-found", "step", "there is no such step, or it is of no box"}
	}
	out := StepPicture200JSONResponse{When: StepPicturesWhen(around.When), Before: inBox(around.Before, around.Step.Box), After: inBox(around.After, around.Step.Box)}
	if reflect.DeepEqual(out.Before, out.After) {
		out.After = nil
	}
	return out, nil
}

// inBox draws a box of a circuit, nil where there is none.
func inBox(c *circuit.Circuit, box string) *diagram.Picture {
	if c == nil || c.Box(box) == nil {
		return nil
	}
	picture := front(c, box).Picture()
	return &picture
}

// front draws a box of a circuit to be looked at alone.
func front(c *circuit.Circuit, box string) *diagram.Scene {
	scene := diagram.Front(inspect.Compile(c), box, nil)
	scene.DisableControls()
	return scene
}
