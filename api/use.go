package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"time"

	"ambivia/core/device"
	"ambivia/core/record"
	"ambivia/core/schedule"
	"ambivia/core/upkeep"
	"ambivia/hub"
	"ambivia/ical"
)

// Use returns how the light of a circuit is used, and what a year of it takes.
func (s *Server) Use(ctx context.Context, r UseRequestObject) (UseResponseObject, error) {
	out, err := s.useAnswer(ctx, r.Circuit, yearOf(r.Params.Year))
	return Use200JSONResponse(out), err
}

// PutUse keeps how the light is used.
func (s *Server) PutUse(ctx context.Context, r PutUseRequestObject) (PutUseResponseObject, error) {
	var wrong *schedule.Error
	if err := r.Body.Use.Check(); errors.As(err, &wrong) {
		return nil, &problemError{http.StatusUnprocessableEntity, "use", wrong.Place, wrong.Text}
	}
	data, err := json.Marshal(r.Body.Use)
	if err != nil {
		return nil, err
	}
	if err := stale(s.store.PutUse(ctx, r.Circuit, r.Body.Base, data), "how the light is used", func() (string, error) {
		now, err := s.store.Use(ctx, r.Circuit)
		return now.Version, err
	}); err != nil {
		return nil, err
	}
	out, err := s.useAnswer(ctx, r.Circuit, yearOf(r.Params.Year))
	return PutUse200JSONResponse(out), err
}

// UseCalendar writes a year of the schedules as iCalendar.
func (s *Server) UseCalendar(ctx context.Context, r UseCalendarRequestObject) (UseCalendarResponseObject, error) {
	o, use, _, err := s.useOf(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	data := ical.Write("Schedules", o.ID, use.Events(o.doc().Name, yearOf(r.Params.Year)), time.Now())
	return UseCalendar200TextcalendarResponse{
		Body: bytes.NewReader(data), ContentLength: int64(len(data)),
		Headers: UseCalendar200ResponseHeaders{attachment(o.doc().Name+" schedules", ".ics")},
	}, nil
}

func yearOf(year *int) int {
	if year != nil {
		return *year
	}
	return time.Now().Year()
}

// useOf is how a light is used: as it was kept, or, where nobody said, with what the record and the plan know.
func (s *Server) useOf(ctx context.Context, id string) (*opened, *schedule.Use, string, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, "", err
	}
	kept, err := s.store.Use(ctx, id)
	if err != nil {
		return nil, nil, "", err
	}
	use := schedule.Usual()
	if kept.Data != nil {
		return o, use, kept.Version, json.Unmarshal(kept.Data, use)
	}
	standby := 0.0
	if o.option != nil && o.option.Metrics != nil {
		standby = o.option.Metrics.StandbyWatts
	}
	lowest, highest, err := s.levelsTried(ctx, o)
	use.Load.Know(o.doc().Load().Total(), standby, lowest, highest)
	return o, use, "", err
}

// reaching are the inputs that were entered with other lights of the job and turn that of a circuit on too, and what the lights
// of the job are called.
func (s *Server) reaching(ctx context.Context, o *opened) (inputs []schedule.Input, called []string, err error) {
	circuits, err := s.store.Circuits(ctx, o.Job)
	if err != nil {
		return nil, nil, err
	}
	logs, err := s.store.LogLengths(ctx, o.Job)
	if err != nil {
		return nil, nil, err
	}
	var others []schedule.Light
	called = []string{}
	for _, c := range circuits {
		told, err := s.summary(ctx, c, logs[c.ID])
		if err != nil {
			return nil, nil, err
		}
		if !slices.Contains(called, told.Name) {
			called = append(called, told.Name)
		}
		kept, err := s.store.Use(ctx, c.ID)
		if err != nil {
			return nil, nil, err
		}
		if c.ID == o.ID || kept.Data == nil {
			continue
		}
		other := schedule.Light{Name: told.Name, Use: &schedule.Use{}}
		if err := json.Unmarshal(kept.Data, other.Use); err != nil {
			return nil, nil, err
		}
		others = append(others, other)
	}
	return schedule.Reaching(others, hub.Lights(o.doc())...), called, nil
}

// useInJob is how a light is used with the inputs of other lights that turn it on too; nil where nobody said anything of it.
func (s *Server) useInJob(ctx context.Context, id string) (*schedule.Use, error) {
	o, use, version, err := s.useOf(ctx, id)
	if err != nil {
		return nil, err
	}
	more, _, err := s.reaching(ctx, o)
	if err != nil || version == "" && len(more) == 0 {
		return nil, err
	}
	return use.With(more), nil
}

// levelsTried are the lowest and the highest level that were noted when the chosen plan was tried, 0 where nobody did.
func (s *Server) levelsTried(ctx context.Context, o *opened) (lowest, highest int, err error) {
	if o.option == nil {
		return 0, 0, nil
	}
	log, library, err := s.fitted(ctx, o.ID)
	if err != nil {
		return 0, 0, err
	}
	lowest, highest = schedule.Bounds(record.LevelsTried(record.Facts(o.option, library, log)))
	return lowest, highest, nil
}

func (s *Server) useAnswer(ctx context.Context, id string, year int) (UseAnswer, error) {
	o, use, version, err := s.useOf(ctx, id)
	if err != nil {
		return UseAnswer{}, err
	}
	y, err := use.Of(ctx, year)
	if err != nil {
		return UseAnswer{}, err
	}
	more, called, err := s.reaching(ctx, o)
	if err != nil {
		return UseAnswer{}, err
	}
	out := UseAnswer{Version: version, Use: *use, Year: *y, Lights: called, Reaching: []string{}}
	for _, in := range more {
		out.Reaching = append(out.Reaching, in.Name)
	}
	if lowest, highest, err := s.levelsTried(ctx, o); err != nil {
		return UseAnswer{}, err
	} else if lowest > 0 || highest > 0 {
		out.Tried = &struct {
			Highest int `json:"highest"`
			Lowest  int `json:"lowest"`
		}{highest, lowest}
	}
	return out, nil
}

// Upkeep says what the cheapest options of each sort cost over years.
func (s *Server) Upkeep(ctx context.Context, r UpkeepRequestObject) (UpkeepResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	assumed := upkeep.Usual()
	if n := o.doc().Load().Lamps; n > 0 {
		assumed.Lamps = n
	}
	if r.Body.Assumptions != nil {
		assumed = *r.Body.Assumptions
	} else if r.Body.Currency != nil {
		assumed.Currency = *r.Body.Currency
	}
	if place, text := assumed.Check(); place != "" {
		return nil, &problemError{http.StatusUnprocessableEntity, "assumptions", place, text}
	}
	plan, err := s.plan(ctx, o)
	if err != nil {
		return nil, err
	}
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	compared := upkeep.Compare(plan.Options, device.NewLibrary(own), assumed)
	return Upkeep200JSONResponse{Assumptions: assumed, Lines: compared.Lines, Says: compared.Says}, nil
}
