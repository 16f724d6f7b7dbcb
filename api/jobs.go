package api

import (
	"context"
	"fmt"
	"slices"

	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/practice"
	"ambivia/core/record"
	"ambivia/core/survey"
	"ambivia/store"
)

// Alive answers that the program is there.
func (s *Server) Alive(context.Context, AliveRequestObject) (AliveResponseObject, error) {
	return Alive204Response{}, nil
}

// ListPractices answers with the practices as data.
func (s *Server) ListPractices(context.Context, ListPracticesRequestObject) (ListPracticesResponseObject, error) {
	out := ListPractices200JSONResponse{}
	for _, p := range practice.All() {
		out = append(out, Practice{
			Id: p.ID, Name: p.Name, Volts: float32(p.Volts), Hertz: float32(p.Hertz), Words: p.Words, Cables: p.Cables,
			Presets: survey.Usual(p), WhoMay: p.WhoMay, Caution: p.Caution, Eras: len(p.Eras) > 0,
			Switches: append(slices.Clone(circuit.SwitchTypes), circuit.FoundButton), Parts: circuit.PartTypes, Loads: circuit.LoadKinds,
			Paper: PracticePaper(p.Paper), CountsFill: p.CountsFill,
		})
	}
	return out, nil
}

func toJob(j store.Job) Job {
	return Job{Id: j.ID, Name: j.Name, Circuits: j.Circuits, Created: j.Created, Archived: j.Archived}
}

// ListJobs lists the jobs.
func (s *Server) ListJobs(ctx context.Context, r ListJobsRequestObject) (ListJobsResponseObject, error) {
	jobs, err := s.store.JobsBefore(ctx, deref(r.Params.Before), deref(r.Params.Limit))
	if err != nil {
		return nil, err
	}
	out := ListJobs200JSONResponse{}
	for _, j := range jobs {
		out = append(out, toJob(j))
	}
	return out, nil
}

// CreateJob adds a job.
func (s *Server) CreateJob(ctx context.Context, r CreateJobRequestObject) (CreateJobResponseObject, error) {
	j, err := s.store.CreateJob(ctx, r.Body.Name)
	return CreateJob201JSONResponse(toJob(j)), err
}

// ChangeJob gives a job another name, puts it away among those that are over, or takes it back.
func (s *Server) ChangeJob(ctx context.Context, r ChangeJobRequestObject) (ChangeJobResponseObject, error) {
	j, err := s.store.ChangeJob(ctx, r.Job, r.Body.Name, r.Body.Archived)
	return ChangeJob200JSONResponse(toJob(j)), err
}

// DeleteJob removes a job.
func (s *Server) DeleteJob(ctx context.Context, r DeleteJobRequestObject) (DeleteJobResponseObject, error) {
	return DeleteJob204Response{}, s.store.DeleteJob(ctx, r.Job)
}

// GetJob answers with a job and what is told of its circuits.
func (s *Server) GetJob(ctx context.Context, r GetJobRequestObject) (GetJobResponseObject, error) {
	j, err := s.store.Job(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	circuits, err := s.store.Circuits(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	logs, err := s.store.LogLengths(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	out := GetJob200JSONResponse{Id: j.ID, Name: j.Name, Created: j.Created, Archived: j.Archived, Circuits: []CircuitSummary{}}
	for _, c := range circuits {
		told, err := s.summary(ctx, c, logs[c.ID])
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, told)
	}
	return out, nil
}

// summary says in a line what a circuit is, and what comes next on it. A revision never changes and a log only grows, so what
// was told of both once is remembered.
func (s *Server) summary(ctx context.Context, c store.Circuit, logged int) (CircuitSummary, error) {
	key := fmt.Sprint(c.Head.ID, " ", logged)
	told, known := s.told.Get(key)
	if known {
		return told, nil
	}
	doc, err := circuit.Parse(c.Head.Document)
	if err != nil { // the rest of the job works
		s.log.Error("a stored circuit cannot be read", "circuit", c.ID, "revision", c.Head.ID)
		return CircuitSummary{Id: c.ID, Name: "circuit that cannot be read", Practice: "", Verdict: CircuitSummaryVerdictUnreadable, Stage: CircuitSummaryStage(record.ToSurvey)}, nil
	}
	var log []fitting.Entry
	if logged > 0 {
		if log, err = s.worklog(ctx, c.ID); err != nil {
			return told, err
		}
	}
	compiled := inspect.Compile(doc)
	report, next := compiled.Report(), record.StageOf(compiled, c.Head.Choice != "", log)
	verdict := CircuitSummaryVerdict(report.Verdict)
	if len(doc.Boxes) == 0 {
		verdict = CircuitSummaryVerdictEmpty
	}
	told = CircuitSummary{
		Id: c.ID, Name: doc.Name, Practice: doc.Practice, Boxes: len(doc.Boxes), Controls: len(report.Controls),
		Verdict: verdict, Chosen: c.Head.Choice != "",
		Stage: CircuitSummaryStage(next.ID), Steps: next.Of, Settled: next.Done,
	}
	s.told.Add(key, told)
	return told, nil
}
