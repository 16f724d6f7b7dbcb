// Package exchange takes whole jobs out of the store into archives and puts
// files that come from outside into it: job archives and circuit files. The
// command line and the page's server share it.
package exchange

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"time"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/limits"
	"ambivia/core/procedure"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/store"
)

// unnamed is what a circuit file without a name is called once it is in a job.
const unnamed = "Imported circuit"

// Job is a job that was read from a file and not yet written anywhere. The file must stay open
// until it is.
type Job struct {
	Name     string
	Circuits []*store.Whole
	Lost     []string // what of the file could not be kept, in words

	Customer *record.Customer // for whom, nil where nobody said
	Firm     *record.Firm     // who did it; it does not become the firm of a store

	devices map[string][]byte // people's own models that came with it
	file    io.ReaderAt       // what it was read from, where that was an archive
	size    int64
}

// Archived reports whether the job comes from an archive, with a history of its own.
func (j *Job) Archived() bool { return j.file != nil }

// NameOfCopy is what a copy of a job is called until somebody renames it, no longer than a name may be.
func NameOfCopy(name string) string { return limits.Clip("Copy of "+name, limits.NameLetters) }

// Write writes the job to the store, all of it or nothing. A device model that meets another of
// its id there is kept beside it under an id of its own.
func (j *Job) Write(ctx context.Context, s *store.Store) (store.Job, error) {
	there, err := ownDevices(ctx, s)
	if err != nil {
		return store.Job{}, err
	}
	renamed := map[string]string{}
	for id, data := range j.devices {
		if have, taken := there[id]; !taken || bytes.Equal(have, data) {
			continue
		}
		for n := 2; ; n++ {
			to := fmt.Sprintf("%s-%d", id, n)
			if there[to] == nil && j.devices[to] == nil {
				renamed[id] = to
				break
			}
		}
	}
	if len(renamed) > 0 {
		again, err := readArchive(j.file, j.size, renamed)
		if err != nil {
			return store.Job{}, err
		}
		*j = *again
	}
	made, err := s.AddWhole(ctx, j.Name, j.Circuits, j.devices)
	if err != nil || j.Customer == nil {
		return made, err
	}
	data, err := json.Marshal(j.Customer)
	if err != nil {
		return made, err
	}
	return made, s.PutCustomer(ctx, made.ID, "", data)
}

// ownDevices are people's own models in a store, by their ids.
func ownDevices(ctx context.Context, s *store.Store) (map[string][]byte, error) {
	list, err := s.Devices(ctx)
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for _, kept := range list {
		var d device.Device
		if err := json.Unmarshal(kept.Data, &d); err != nil {
			return nil, err
		}
		if out[d.ID], err = json.Marshal(d); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Export writes a job of the store as an archive, a circuit at a time.
func Export(ctx context.Context, s *store.Store, id string, w io.Writer) error {
	job, err := s.Job(ctx, id)
	if err != nil {
		return err
	}
	circuits, err := s.Circuits(ctx, id)
	if err != nil {
		return err
	}
	own, err := s.Devices(ctx)
	if err != nil {
		return err
	}
	var devices []device.Device
	for _, kept := range own {
		var d device.Device
		if err := json.Unmarshal(kept.Data, &d); err != nil {
			return err
		}
		devices = append(devices, d)
	}
	out := archive.NewWriter(w)
	firm, customer, err := Parties(ctx, s, id)
	if err != nil {
		return err
	}
	out.Parties(firm, customer)
	for i, c := range circuits {
		if _, err := circuit.Parse(c.Head.Document); err != nil { // an archive with it could never be read
			out.LeaveOut(fmt.Sprintf("The %d. circuit of %s could not be read when the archive was written, and is not in it.", i+1, job.Name))
			continue
		}
		whole, err := s.Whole(ctx, c.ID)
		if err != nil {
			return err
		}
		if n := readable(whole); n > 0 {
			out.LeaveOut(fmt.Sprintf("%d old revisions of the %d. circuit of %s could not be read when the archive was written; each stands as the one before it.", n, i+1, job.Name))
		}
		packed, err := pack(whole)
		if err != nil {
			return err
		}
		if err := out.Add(packed); err != nil {
			return err
		}
	}
	return out.Close(job.Name, devices)
}

// Parties are who does the work and for whom, nil where nobody said.
func Parties(ctx context.Context, s *store.Store, job string) (*record.Firm, *record.Customer, error) {
	kept, err := s.Firm(ctx)
	if err != nil {
		return nil, nil, err
	}
	said, err := s.Customer(ctx, job)
	if err != nil {
		return nil, nil, err
	}
	firm, customer := &record.Firm{}, &record.Customer{}
	if err := errors.Join(json.Unmarshal(kept.Data, firm), json.Unmarshal(said.Data, customer)); err != nil {
		return nil, nil, err
	}
	if reflect.ValueOf(*firm).IsZero() {
		firm = nil
	}
	if *customer == (record.Customer{}) {
		customer = nil
	}
	return firm, customer, nil
}

// readable lets old revisions that cannot be read any more stand as the one before, since an archive with one of them could
// never be read, and says how many there were. The head can be read.
func readable(whole *store.Whole) int {
	good := map[int][]byte{} // by number
	for _, p := range whole.History {
		if p.Number == whole.Head {
			good[0] = p.Document // for who has none before
		}
	}
	n := 0
	for i := range whole.History {
		p := &whole.History[i]
		if _, err := circuit.Parse(p.Document); err != nil {
			n++
			const gone = " (could not be read any more)"
			p.Document, p.Choice, p.Planned = good[p.Parent], "", nil
			p.Summary = limits.Clip(p.Summary, limits.SummaryLetters-len(gone)) + gone
			if p.Document == nil {
				p.Document = good[0]
			}
		}
		good[p.Number] = p.Document
	}
	return n
}

func pack(whole *store.Whole) (*archive.Circuit, error) {
	out := &archive.Circuit{Head: whole.Head}
	if whole.Wishes != nil {
		if err := json.Unmarshal(whole.Wishes, &out.Wishes); err != nil {
			return nil, err
		}
	}
	for data, into := range map[*[]byte]any{&whole.Use: &out.Use, &whole.Links: &out.Links} {
		if *data == nil {
			continue
		}
		if err := json.Unmarshal(*data, into); err != nil {
			return nil, err
		}
	}
	for _, p := range whole.History {
		out.Revisions = append(out.Revisions, archive.Revision{Number: p.Number, Parent: p.Parent, Next: p.Next, Summary: p.Summary, By: p.By, Created: p.Created, Document: p.Document, Choice: p.Choice})
	}
	places := map[string]string{}
	for i, p := range whole.Photos {
		places[p.ID] = strconv.Itoa(i + 1)
		out.Photos = append(out.Photos, archive.Photo{Box: p.Box, Note: p.Note, Created: p.Created, Width: p.Width, Height: p.Height,
			Picture: func() ([]byte, error) { return whole.Picture(i) }})
	}
	for _, x := range whole.Log {
		data, err := fitting.WithPhotos(x.Data, places)
		if err != nil {
			return nil, err
		}
		var e fitting.Entry
		if err := json.Unmarshal(data, &e); err != nil {
			return nil, err
		}
		e.Number, e.Time, e.By = x.Number, x.Created, x.By
		out.Log = append(out.Log, e)
	}
	return out, nil
}

// Read reads a file from outside, of so many bytes: a job archive, or a circuit file, which
// becomes a job of its own. Nothing is written.
func Read(file io.ReaderAt, size int64) (*Job, error) {
	start := make([]byte, 4)
	n, err := file.ReadAt(start, 0)
	if err != nil && err != io.EOF {
		return nil, err
	}
	if archive.Is(start[:n]) {
		return readArchive(file, size, nil)
	}
	doc, err := circuit.Read(io.NewSectionReader(file, 0, size))
	if err != nil {
		return nil, err
	}
	return Fresh("", doc)
}

// readArchive makes a job of an archive, with other ids for some of its device models.
func readArchive(file io.ReaderAt, size int64, renamed map[string]string) (*Job, error) {
	read, err := archive.Read(file, size, renamed)
	if err != nil {
		return nil, err
	}
	out := &Job{Name: read.Name, Lost: read.LeftOut, Customer: read.Customer, Firm: read.Firm, devices: map[string][]byte{}, file: file, size: size}
	for _, d := range read.Devices {
		model, err := json.Marshal(d)
		if err != nil {
			return nil, err
		}
		out.devices[d.ID] = model
	}
	library := device.NewLibrary(read.Devices)
	for i := range read.Circuits {
		whole, err := out.unpack(&read.Circuits[i], library)
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, whole)
	}
	return out, nil
}

// unpack makes a circuit of the store. The plan that is chosen at its head is made again; what was
// chosen before that is made again when somebody goes back to it.
func (j *Job) unpack(c *archive.Circuit, library *device.Library) (*store.Whole, error) {
	out := &store.Whole{Head: c.Head}
	request := retrofit.Request{Library: library}
	if c.Wishes != nil {
		var err error
		if out.Wishes, err = json.Marshal(c.Wishes); err != nil {
			return nil, err
		}
		request.Wishes = *c.Wishes
	}
	if c.Use != nil {
		var err error
		if out.Use, err = json.Marshal(c.Use); err != nil {
			return nil, err
		}
	}
	if c.Links != nil {
		var err error
		if out.Links, err = json.Marshal(c.Links); err != nil {
			return nil, err
		}
	}
	for _, r := range c.Revisions {
		p := store.Past{Parent: r.Parent, Next: r.Next,
			Revision: store.Revision{Number: r.Number, Summary: r.Summary, By: r.By, Created: r.Created, Document: r.Document, Choice: r.Choice}}
		if r.Number == c.Head && r.Choice != "" {
			doc, err := circuit.Parse(r.Document)
			if err != nil {
				return nil, err
			}
			if o := procedure.Offer(inspect.Compile(doc), request, r.Choice); o == nil {
				j.Lost = append(j.Lost, fmt.Sprintf("%s: the plan that was chosen (%s) is not offered for this circuit; choose one anew.", doc.Name, r.Choice))
				p.Choice = ""
			} else if p.Planned, err = json.Marshal(o); err != nil {
				return nil, err
			}
		}
		out.History = append(out.History, p)
	}
	for _, p := range c.Photos {
		out.Photos = append(out.Photos, store.Photo{ID: strconv.Itoa(len(out.Photos) + 1), Box: p.Box, Note: p.Note, Width: p.Width, Height: p.Height, Created: p.Created})
	}
	out.Picture = func(i int) ([]byte, error) { return c.Photos[i].Picture() }
	out.Renamed = fitting.WithPhotos
	for _, e := range c.Log {
		data, err := json.Marshal(e)
		if err != nil {
			return nil, err
		}
		out.Log = append(out.Log, store.Logged{Number: e.Number, Data: data, Created: e.Time, By: e.By})
	}
	return out, nil
}

// Fresh makes a job of circuits without any history. Without a name it is called
// as its first circuit.
func Fresh(name string, circuits ...*circuit.Circuit) (*Job, error) {
	out := &Job{Name: name}
	for _, c := range circuits {
		if circuit.Blank(c.Name) {
			c.Name = unnamed
		}
		if circuit.Blank(out.Name) {
			out.Name = c.Name
		}
		document, err := circuit.Encode(c)
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, &store.Whole{Head: 1, History: []store.Past{{
			Revision: store.Revision{Number: 1, Summary: "Circuit imported", Created: time.Now(), Document: document}}}})
	}
	return out, nil
}
