package exchange_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"image"
	"image/jpeg"
	"reflect"
	"strings"
	"testing"
	"time"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/fitting"
	"ambivia/core/pdf"
	"ambivia/core/record"
	"ambivia/demo"
	"ambivia/demo/fitted"
	"ambivia/exchange"
	"ambivia/store"
)

// worked is a job with a circuit that was fitted to its end, with a photograph that an entry names, and who did it for whom.
func worked(t *testing.T, s *store.Store) store.Job {
	t.Helper()
	var doc *circuit.Circuit
	for _, j := range demo.Jobs() {
		for _, c := range j.Circuits {
			if c.Name == "Plate archive" {
				doc = c
			}
		}
	}
	f, err := fitted.Of(t.Context(), doc, time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC))
	if err != nil {
		t.Fatal(err)
	}
	job := must[store.Job](t)(must[*exchange.Job](t)(exchange.Fresh("Archive", doc)).Write(t.Context(), s))
	list := must[[]store.Circuit](t)(s.Circuits(t.Context(), job.ID))
	planned := must[[]byte](t)(json.Marshal(f.Option))
	head := must[store.Circuit](t)(s.Revise(t.Context(), list[0].ID, list[0].Head.ID, store.Change{Summary: "Chosen", Document: list[0].Head.Document, Choice: f.Option.ID, Planned: planned}))
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, image.NewGray(image.Rect(0, 0, 64, 48)), nil); err != nil {
		t.Fatal(err)
	}
	photo := must[store.Photo](t)(s.AddPhoto(t.Context(), store.Photo{Circuit: head.ID, Box: doc.Boxes[1].ID, Width: 64, Height: 48}, picture.Bytes()))
	f.Log = append(f.Log, fitting.Entry{Kind: fitting.Remark, Note: "a scratch on the plate", Photo: photo.ID})
	for i, e := range f.Log {
		e.Number, e.Time, e.By = 0, time.Time{}, ""
		must[store.Logged](t)(s.AddToLog(t.Context(), head.ID, i, "R. Moss", must[[]byte](t)(json.Marshal(e))))
	}
	must[store.Versioned](t)(s.PutFirm(t.Context(), "", must[[]byte](t)(json.Marshal(fitted.Firm))))
	if err := s.PutCustomer(t.Context(), job.ID, "", must[[]byte](t)(json.Marshal(fitted.Customer))); err != nil {
		t.Fatal(err)
	}
	return job
}

// TestLogTravels: a job that was fitted goes out and comes in with nothing of it lost; its record is the same on both
// sides, and from the archive alone.
func TestLogTravels(t *testing.T) {
	here, there := open(t), open(t)
	job := worked(t, here)
	circuit := must[[]store.Circuit](t)(here.Circuits(t.Context(), job.ID))[0].ID
	use := must[[]byte](t)(json.Marshal(fitted.UseOf(demo.Jobs()[1].Circuits[2])))
	links := must[[]byte](t)(json.Marshal(automation.Kept{Option: "x", Set: automation.Scenes}))
	if err := errors.Join(here.PutUse(t.Context(), circuit, "", use), here.PutLinks(t.Context(), circuit, "", links)); err != nil {
		t.Fatal(err)
	}
	var file bytes.Buffer
	if err := exchange.Export(t.Context(), here, job.ID, &file); err != nil {
		t.Fatal(err)
	}
	came := must[*exchange.Job](t)(read(file.Bytes()))
	made := must[store.Job](t)(came.Write(t.Context(), there))
	came1 := must[[]store.Circuit](t)(there.Circuits(t.Context(), made.ID))[0].ID
	if got := must[store.Versioned](t)(there.Use(t.Context(), came1)).Data; !bytes.Equal(got, use) {
		t.Errorf("how the light is used comes in as %s", got)
	}
	if got := must[store.Versioned](t)(there.Links(t.Context(), came1)).Data; !bytes.Equal(got, links) {
		t.Errorf("how the links are made comes in as %s", got)
	}
	entries := func(s *store.Store, job string) ([]fitting.Entry, []store.Photo) {
		c := must[[]store.Circuit](t)(s.Circuits(t.Context(), job))[0]
		return must[[]fitting.Entry](t)(exchange.Entries(must[[]store.Logged](t)(s.Log(t.Context(), c.ID)))), must[[]store.Photo](t)(s.Photos(t.Context(), c.ID))
	}
	was, wasPhotos := entries(here, job.ID)
	now, nowPhotos := entries(there, made.ID)
	if last := now[len(now)-1]; last.Photo != nowPhotos[0].ID || was[len(was)-1].Photo != wasPhotos[0].ID || last.Photo == wasPhotos[0].ID {
		t.Errorf("the photograph of an entry is %q, the one that came %q", last.Photo, nowPhotos[0].ID)
	}
	was[len(was)-1].Photo, now[len(now)-1].Photo = "", ""
	if !reflect.DeepEqual(must[[]byte](t)(json.Marshal(was)), must[[]byte](t)(json.Marshal(now))) {
		t.Error("the log comes in as another one")
	}
	_, customer, err := exchange.Parties(t.Context(), there, made.ID)
	if err != nil || customer == nil || *customer != fitted.Customer {
		t.Errorf("the customer is %v, %v", customer, err)
	}
	if firm, _, _ := exchange.Parties(t.Context(), there, made.ID); firm != nil {
		t.Error("a job from outside makes itself the firm of this program")
	}
	written := func() []byte {
		r := must[*record.Record](t)(must[*exchange.Job](t)(read(file.Bytes())).Record(context.Background(), time.Date(2026, 11, 27, 0, 0, 0, 0, time.UTC)))
		if r.Firm.Name != fitted.Firm.Name || r.Customer.Name != fitted.Customer.Name || len(r.Circuits) != 1 || len(r.Circuits[0].Photos) != 1 || len(r.Circuits[0].Notes) != 1 {
			t.Errorf("the record is of %q for %q with %d circuits", r.Firm.Name, r.Customer.Name, len(r.Circuits))
		}
		var b bytes.Buffer
		if err := pdf.Record(&b, r, pdf.Info{Job: r.Job, Date: r.Date}, pdf.A4, true); err != nil {
			t.Fatal(err)
		}
		return b.Bytes()
	}
	if first := written(); !bytes.Equal(first, written()) || len(first) < 20_000 {
		t.Errorf("the record is not the same twice, or has %d bytes", len(first))
	}
}

// TestHostileLog: a log that is none is refused in one line.
func TestHostileLog(t *testing.T) {
	s := open(t)
	job := worked(t, s)
	var file bytes.Buffer
	if err := exchange.Export(t.Context(), s, job.ID, &file); err != nil {
		t.Fatal(err)
	}
	good := must[*exchange.Job](t)(read(file.Bytes())).Circuits[0].Log
	log := must[[]fitting.Entry](t)(exchange.Entries(good))
	for name, spoil := range map[string]func([]fitting.Entry){
		"numbers that leap":       func(l []fitting.Entry) { l[3].Number = 9 },
		"a step of no run":        func(l []fitting.Entry) { l[1].Steps = []int{4000} },
		"a run without its steps": func(l []fitting.Entry) { l[0].Run = nil },
		"a run of another length": func(l []fitting.Entry) { l[0].Run.Minutes = nil },
		"a book for a note":       func(l []fitting.Entry) { l[1].Note = strings.Repeat("x", 5000) },
	} {
		var bad []fitting.Entry
		if err := json.Unmarshal(must[[]byte](t)(json.Marshal(log)), &bad); err != nil {
			t.Fatal(err)
		}
		spoil(bad)
		if err := fitting.Valid(bad); err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
	}
	if err := fitting.Valid(log); err != nil {
		t.Errorf("a good log: %v", err)
	}
}
