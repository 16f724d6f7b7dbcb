package api

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"slices"
	"strconv"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/diagram"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/pdf"
	"ambivia/core/procedure"
	"ambivia/core/survey"
)

// drawing says what to draw: the circuit as found or as planned, both in the same places.
type drawing struct {
	of      Version
	view    *View
	box     *string
	compare *bool
	option  *string // of the plan, in place of the chosen one
}

// scene draws it.
func (s *Server) scene(ctx context.Context, id string, want drawing) (*opened, *diagram.Scene, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	option := o.option
	if want.option != nil {
		if option, err = s.offer(ctx, o, *want.option); err != nil {
			return nil, nil, err
		}
	}
	show := diagram.Show{View: diagram.Wiring, Found: o.found, Title: o.doc().Name + ": as found", AsPlanned: want.of == Planned}
	if want.view != nil {
		show.View = diagram.View(*want.view)
	}
	if want.box != nil {
		show.View, show.Box = diagram.OneBox, *want.box
	}
	switch {
	case option != nil:
		show.Found, show.Planned = option.PlannedOn(o.found), option.Compiled()
		if want.compare != nil && *want.compare {
			show.Moved = option.Moved()
		}
		if show.AsPlanned {
			show.Title = o.doc().Name + ": " + option.Title
		}
	case show.AsPlanned:
		return nil, nil, errNoChoice("of")
	}
	scene, err := show.Scene()
	if errors.Is(err, diagram.ErrNoBox) {
		return nil, nil, &problemError{http.StatusNotFound, "not-found", "box", "there is no such box; it may have been removed"}
	}
	if want.option != nil {
		scene.DisableControls() // an option is looked at; what is chosen can be switched
	}
	return o, scene, nil
}

// Picture draws the circuit for a page.
func (s *Server) Picture(ctx context.Context, r PictureRequestObject) (PictureResponseObject, error) {
	_, scene, err := s.scene(ctx, r.Circuit, drawing{r.Params.Of, r.Params.View, r.Params.Box, r.Params.Compare, r.Params.Option})
	if err != nil {
		return nil, err
	}
	return Picture200JSONResponse(scene.Picture()), nil
}

// Usual draws the usual boxes that may come next.
func (s *Server) Usual(ctx context.Context, r UsualRequestObject) (UsualResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	cable := ""
	if r.Params.Cable != nil {
		cable = *r.Params.Cable
	}
	if cable != "" && o.doc().Cable(cable) == nil {
		return nil, &problemError{http.StatusUnprocessableEntity, string(circuit.CodeUnknownID), "cable", "the circuit has no such cable"}
	}
	out := Usual200JSONResponse{}
	for _, u := range survey.UsualBoxes(o.doc(), cable) {
		out = append(out, UsualBox{Id: u.ID, Title: u.Title, Cables: u.Cables, Cores: u.Cores, Device: u.Device, Picture: diagram.Front(inspect.Compile(u.Alone), u.Box, nil).Picture()})
	}
	return out, nil
}

// Diagram draws the circuit as a file.
func (s *Server) Diagram(ctx context.Context, r DiagramRequestObject) (DiagramResponseObject, error) {
	o, scene, err := s.scene(ctx, r.Circuit, drawing{r.Params.Of, r.Params.View, r.Params.Box, r.Params.Compare, r.Params.Option})
	if err != nil {
		return nil, err
	}
	job, err := s.store.Job(ctx, o.Job)
	if err != nil {
		return nil, err
	}
	say := o.found.Terms()
	var b bytes.Buffer
	err = scene.File(&b, diagram.Block{Job: job.Name, Circuit: o.doc().Name, Date: time.Now().Format(time.DateOnly), Revision: strconv.Itoa(o.Head.Number), Cautions: say.Caution + " " + say.WhoMay})
	return Diagram200ImagesvgXmlResponse{Body: &b, ContentLength: int64(b.Len())}, err
}

// chosen is the procedure of a circuit's chosen plan.
func (s *Server) chosen(ctx context.Context, id string) (*opened, *procedure.Procedure, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	if o.option == nil {
		return nil, nil, errNoChoice("")
	}
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, nil, err
	}
	p := procedure.For(o.found, o.option, device.NewLibrary(own))
	made, _, err := s.made(ctx, o)
	made.Enter(p)
	return o, p, err
}

// errNoChoice says that a circuit has no plan: that there is nothing to see at a place of the request,
// or nothing to work out.
func errNoChoice(place string) error {
	status := http.StatusUnprocessableEntity
	if place != "" {
		status = http.StatusNotFound
	}
	return &problemError{status, "no-choice", place, "no plan is chosen for this circuit yet"}
}

// Procedure lists the steps of the chosen plan, or the way back, with what it takes.
func (s *Server) Procedure(ctx context.Context, r ProcedureRequestObject) (ProcedureResponseObject, error) {
	o, p, err := s.chosen(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	log, err := s.worklog(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	say := names.For(p.After)
	out := Procedure200JSONResponse{Steps: p.Steps, Materials: p.Materials(), Rooms: p.Rooms(), Labels: p.Labels(), Known: p.Known()}
	if state := fitting.Read(log); state.Carries(o.option.ID, o.Head.Number) && state.Run.Way == fitting.Forth {
		out.Steps = state.Run.Steps // what is being done is numbered so everywhere
	}
	if n := r.Params.Back; n != nil {
		if *n < 0 || *n > len(p.Steps) {
			return nil, &problemError{http.StatusUnprocessableEntity, "no-step", "back", "there is no such step"}
		}
		back, err := p.Back(*n)
		if err != nil {
			return nil, err
		}
		out.Steps = append([]Step{}, back.Steps...)
	}
	out.Cards = procedure.Cards(out.Steps, say)
	return out, nil
}

// Paper writes a document for the printer.
func (s *Server) Paper(ctx context.Context, r PaperRequestObject) (PaperResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	doc := o.doc()
	job, err := s.store.Job(ctx, o.Job)
	if err != nil {
		return nil, err
	}
	info := pdf.Info{Job: job.Name, Circuit: doc.Name, Revision: o.Head.Number, Date: time.Now()}
	if r.Params.Currency != nil {
		info.Currency = *r.Params.Currency
	}
	size := pdf.SizeFor(doc)
	if r.Params.Size != nil {
		size = pdf.Size(*r.Params.Size)
	}
	if size != pdf.A4 && size != pdf.Letter {
		return nil, &problemError{http.StatusUnprocessableEntity, "paper-size", "size", "the sizes of paper are a4 and letter"}
	}
	if !slices.Contains([]string{"order", "drawings", "planned", "annex", "labels", "found-labels", "pocket"}, r.Sheet) {
		return nil, &problemError{http.StatusNotFound, "not-found", "sheet", "there is no such document"}
	}
	var b bytes.Buffer
	switch r.Sheet {
	case "drawings":
		err = pdf.Drawings(&b, o.found, info, size)
		return paperNamed(&b, doc.Name, r.Sheet), err
	case "found-labels":
		err = pdf.FoundLabels(&b, o.found, info, size)
		return paperNamed(&b, doc.Name, r.Sheet), err
	}
	o, p, err := s.chosen(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	switch r.Sheet {
	case "annex":
		err = pdf.Annex(&b, p, info, size)
	case "labels":
		err = pdf.Labels(&b, p, info, size)
	case "pocket":
		err = pdf.Pocket(&b, p, info, size)
	case "planned":
		info.Circuit += ", as planned"
		err = pdf.Drawings(&b, p.Planned, info, size)
	default:
		proof, _ := s.proofOf(ctx, o) // an order is useful without it
		if err = ctx.Err(); err == nil {
			err = pdf.Order(&b, p, proof, info, size)
		}
	}
	return paperNamed(&b, doc.Name, r.Sheet), err
}

func paperNamed(b *bytes.Buffer, name, sheet string) Paper200ApplicationpdfResponse {
	return Paper200ApplicationpdfResponse{Body: b, ContentLength: int64(b.Len()), Headers: Paper200ResponseHeaders{attachment(name+" "+sheet, ".pdf")}}
}

// Materials lists what the chosen plan takes, for a spreadsheet.
func (s *Server) Materials(ctx context.Context, r MaterialsRequestObject) (MaterialsResponseObject, error) {
	_, p, err := s.chosen(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	if err := procedure.CSV(&b, p.Materials()); err != nil {
		return nil, err
	}
	return Materials200TextcsvResponse{Body: &b, ContentLength: int64(b.Len()), Headers: Materials200ResponseHeaders{attachment(p.Before.Name+" materials", ".csv")}}, nil
}
