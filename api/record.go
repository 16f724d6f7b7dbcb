package api

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/limits"
	"ambivia/core/pdf"
	"ambivia/core/photo"
	"ambivia/core/record"
	"ambivia/exchange"
	"ambivia/ical"
	"ambivia/store"
)

// recorded is the record of one circuit; with what shows that the work is right where that is asked, and can be worked out.
func (s *Server) recorded(ctx context.Context, id string, proved bool) (*record.Circuit, error) {
	o, err := s.load(ctx, id)
	if err != nil {
		return nil, err
	}
	own, _, _, err := s.ownDevices(ctx)
	if err != nil {
		return nil, err
	}
	log, err := s.worklog(ctx, id)
	if err != nil {
		return nil, err
	}
	src := record.Source{Found: o.found, Option: o.option, Library: device.NewLibrary(own), Log: log}
	if src.Made, _, err = s.made(ctx, o); err != nil {
		return nil, err
	}
	photos, err := s.store.Photos(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, p := range photos {
		src.Photos = append(src.Photos, record.Photo{ID: p.ID, Where: exchange.WhereTaken(o.doc(), p.Box), Note: p.Note, Created: p.Created,
			Picture: func() ([]byte, error) { return s.store.Picture(ctx, p.ID) }})
	}
	if proved && o.option != nil {
		// Where it cannot be proved there is nothing of it, and the record says so; only a request that ended is an error.
		src.Proved, _ = s.proved(ctx, o, fitting.Read(log))
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	if src.Use, err = s.useInJob(ctx, id); err != nil {
		return nil, err
	}
	if src.Use != nil {
		if src.Year, err = src.Use.Of(ctx, time.Now().Year()); ctx.Err() != nil {
			return nil, err
		}
	}
	return record.Of(src), nil
}

// Record writes what is handed over of a job.
func (s *Server) Record(ctx context.Context, r RecordRequestObject) (RecordResponseObject, error) {
	job, err := s.store.Job(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	circuits, err := s.store.Circuits(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	out := &record.Record{Job: job.Name, Date: time.Now()}
	firm, customer, err := exchange.Parties(ctx, s.store, r.Job)
	if err != nil {
		return nil, err
	}
	if firm != nil {
		out.Firm = *firm
	}
	if customer != nil {
		out.Customer = *customer
	}
	about := &circuit.Circuit{}
	for _, c := range circuits {
		one, err := s.recorded(ctx, c.ID, true)
		if err != nil {
			return nil, err
		}
		if len(out.Circuits) == 0 {
			about = one.Found.Doc
		}
		out.Circuits = append(out.Circuits, one)
	}
	info := pdf.Info{Job: job.Name, Date: out.Date}
	if r.Params.Currency != nil {
		info.Currency = *r.Params.Currency
	}
	size := pdf.SizeFor(about)
	if r.Params.Size != nil {
		size = pdf.Size(*r.Params.Size)
	}
	var b bytes.Buffer
	if err := pdf.Record(&b, out, info, size, r.Params.Annex != nil && *r.Params.Annex); err != nil {
		return nil, err
	}
	return Record200ApplicationpdfResponse{Body: &b, ContentLength: int64(b.Len()), Headers: Record200ResponseHeaders{attachment(job.Name+" record", ".pdf")}}, nil
}

// Handover says what the record says of a circuit.
func (s *Server) Handover(ctx context.Context, r HandoverRequestObject) (HandoverResponseObject, error) {
	c, err := s.recorded(ctx, r.Circuit, true)
	if err != nil {
		return nil, err
	}
	currency := ""
	if r.Params.Currency != nil {
		currency = *r.Params.Currency
	}
	return Handover200JSONResponse{Handover: *c.Handover(currency), Claims: c.Claims()}, nil
}

// Batteries writes when batteries are due.
func (s *Server) Batteries(ctx context.Context, r BatteriesRequestObject) (BatteriesResponseObject, error) {
	c, err := s.recorded(ctx, r.Circuit, false)
	if err != nil {
		return nil, err
	}
	b := bytes.NewReader(ical.Write("Record", r.Circuit, record.BatteryEvents(c.Called(), c.Batteries), time.Now()))
	return Batteries200TextcalendarResponse{Body: b, ContentLength: b.Size(), Headers: Batteries200ResponseHeaders{attachment(c.Called()+" batteries", ".ics")}}, nil
}

// Readings writes every reading of a circuit.
func (s *Server) Readings(ctx context.Context, r ReadingsRequestObject) (ReadingsResponseObject, error) {
	c, err := s.recorded(ctx, r.Circuit, false)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	b.WriteString("\ufeff") // so that a spreadsheet knows the letters
	w := csv.NewWriter(&b)
	for _, row := range c.CSV() {
		for i := range row {
			row[i] = limits.Cell(row[i])
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return Readings200TextcsvResponse{Body: &b, ContentLength: int64(b.Len()), Headers: Readings200ResponseHeaders{attachment(c.Called()+" readings", ".csv")}}, w.Error()
}

// Customer says for whom a job is done.
func (s *Server) Customer(ctx context.Context, r CustomerRequestObject) (CustomerResponseObject, error) {
	kept, err := s.store.Customer(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	out := KeptCustomer{Version: kept.Version}
	err = json.Unmarshal(kept.Data, &out.Customer)
	return Customer200JSONResponse(out), err
}

// PutCustomer keeps for whom a job is done.
func (s *Server) PutCustomer(ctx context.Context, r PutCustomerRequestObject) (PutCustomerResponseObject, error) {
	if err := r.Body.Customer.Check(); err != nil {
		return nil, parties("customer.", err)
	}
	data, err := json.Marshal(r.Body.Customer)
	if err != nil {
		return nil, err
	}
	version := func() (string, error) {
		now, err := s.store.Customer(ctx, r.Job)
		return now.Version, err
	}
	if err := stale(s.store.PutCustomer(ctx, r.Job, r.Body.Version, data), "the customer", version); err != nil {
		return nil, err
	}
	now, err := version()
	return PutCustomer200JSONResponse{Version: now, Customer: r.Body.Customer}, err
}

func parties(at string, err error) error {
	var wrong *record.Error
	if errors.As(err, &wrong) {
		return &problemError{http.StatusUnprocessableEntity, "too-long", at + wrong.Place, fmt.Sprintf("%s %s", wrong.Place, wrong.Text)}
	}
	return err
}

// Firm says who does the work.
func (s *Server) Firm(ctx context.Context, _ FirmRequestObject) (FirmResponseObject, error) {
	kept, err := s.store.Firm(ctx)
	if err != nil {
		return nil, err
	}
	out := Firm200JSONResponse{Version: kept.Version}
	err = json.Unmarshal(kept.Data, &out.Firm)
	return out, err
}

// PutFirm keeps who does the work. Its picture is made small and loses what a camera wrote into it.
func (s *Server) PutFirm(ctx context.Context, r PutFirmRequestObject) (PutFirmResponseObject, error) {
	firm := r.Body.Firm
	if len(firm.Picture) > 0 {
		clean, err := photo.Clean(firm.Picture)
		if err == nil {
			firm.Picture, err = photo.Small(clean.JPEG)
		}
		if err != nil {
			return nil, &problemError{http.StatusUnprocessableEntity, "photo-type", "firm.picture", err.Error()}
		}
	}
	if err := firm.Check(); err != nil {
		return nil, parties("firm.", err)
	}
	data, err := json.Marshal(firm)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.PutFirm(ctx, r.Body.Version, data)
	if errors.Is(err, store.ErrStale) {
		return nil, &staleError{"the firm", "", []string{"the firm was changed elsewhere; look again"}}
	}
	return PutFirm200JSONResponse{Version: kept.Version, Firm: firm}, err
}
