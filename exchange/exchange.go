// Package exchange takes whole jobs out of the store into archives and puts
// files that come from outside into it: job archives and circuit files. The
// command line and the page's server share it.
package exchange

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"time"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/photo"
	"ambivia/core/retrofit"
	"ambivia/store"
)

// unnamed is what a circuit file without a name is called once it is in a job.
const unnamed = "Imported circuit"

// Job is a job that was read from a file and not yet written anywhere.
type Job struct {
	Name     string
	Circuits []*store.Whole
	devices  map[string][]byte // people's own models that came with it
	archive  []byte            // what it was read from, where that was an archive
}

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
		read, err := archive.ReadRenamed(j.archive, renamed)
		if err != nil {
			return store.Job{}, err
		}
		if j, err = jobOf(read, j.archive); err != nil {
			return store.Job{}, err
		}
	}
	return s.AddWhole(ctx, j.Name, j.Circuits, j.devices)
}

// ownDevices are people's own models in a store, by their ids.
func ownDevices(ctx context.Context, s *store.Store) (map[string][]byte, error) {
	list, err := s.Devices(ctx)
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for _, data := range list {
		var d device.Device
		if err := json.Unmarshal(data, &d); err != nil {
			return nil, err
		}
		if out[d.ID], err = json.Marshal(d); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Export writes a job of the store as an archive.
func Export(ctx context.Context, s *store.Store, id int64, w io.Writer) error {
	job, err := s.Job(ctx, id)
	if err != nil {
		return err
	}
	circuits, err := s.Circuits(ctx, id)
	if err != nil {
		return err
	}
	out := &archive.Job{Name: job.Name}
	own, err := s.Devices(ctx)
	if err != nil {
		return err
	}
	for _, data := range own {
		var d device.Device
		if err := json.Unmarshal(data, &d); err != nil {
			return err
		}
		out.Devices = append(out.Devices, d)
	}
	for _, c := range circuits {
		whole, err := s.Whole(ctx, c.ID)
		if err != nil {
			return err
		}
		packed, err := pack(whole)
		if err != nil {
			return err
		}
		out.Circuits = append(out.Circuits, *packed)
	}
	return archive.Write(w, out)
}

func pack(whole *store.Whole) (*archive.Circuit, error) {
	out := &archive.Circuit{Head: whole.Head}
	if whole.Wishes != nil {
		if err := json.Unmarshal(whole.Wishes, &out.Wishes); err != nil {
			return nil, err
		}
	}
	for _, p := range whole.History {
		doc, err := circuit.Parse(p.Document)
		if err != nil {
			return nil, err
		}
		r := archive.Revision{Number: p.Number, Parent: p.Parent, Next: p.Next, Said: p.Said, Created: p.Created, Document: doc}
		if p.Choice != "" {
			r.Planned = &retrofit.Option{ID: p.Choice}
		}
		out.Revisions = append(out.Revisions, r)
	}
	for i, p := range whole.Photos {
		out.Photos = append(out.Photos, archive.Photo{Box: p.Box, Note: p.Note, Created: p.Created,
			Photo: photo.Photo{JPEG: whole.Pictures[i], Width: p.Width, Height: p.Height}})
	}
	return out, nil
}

// Read reads a file from outside: a job archive, or a circuit file, which
// becomes a job of its own. Nothing is written.
func Read(data []byte) (*Job, error) {
	if !archive.Is(data) {
		doc, err := circuit.Parse(data)
		if err != nil {
			return nil, err
		}
		return Fresh("", doc)
	}
	read, err := archive.Read(data)
	if err != nil {
		return nil, err
	}
	return jobOf(read, data)
}

// jobOf makes a job of an archive that was read.
func jobOf(read *archive.Job, data []byte) (*Job, error) {
	out := &Job{Name: read.Name, devices: map[string][]byte{}, archive: data}
	for _, d := range read.Devices {
		model, err := json.Marshal(d)
		if err != nil {
			return nil, err
		}
		out.devices[d.ID] = model
	}
	for _, c := range read.Circuits {
		whole, err := unpack(c)
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, whole)
	}
	return out, nil
}

func unpack(c archive.Circuit) (*store.Whole, error) {
	out := &store.Whole{Head: c.Head}
	if c.Wishes != nil {
		var err error
		if out.Wishes, err = json.Marshal(c.Wishes); err != nil {
			return nil, err
		}
	}
	for _, r := range c.Revisions {
		document, err := encode(r.Document)
		if err != nil {
			return nil, err
		}
		p := store.Past{Parent: r.Parent, Next: r.Next,
			Revision: store.Revision{Number: r.Number, Said: r.Said, Created: r.Created, Document: document}}
		if r.Planned != nil {
			p.Choice = r.Planned.ID
			if p.Planned, err = json.Marshal(r.Planned); err != nil {
				return nil, err
			}
		}
		out.History = append(out.History, p)
	}
	for _, p := range c.Photos {
		out.Photos = append(out.Photos, store.Photo{Box: p.Box, Note: p.Note, Width: p.Width, Height: p.Height, Created: p.Created})
		out.Pictures = append(out.Pictures, p.JPEG)
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
		document, err := encode(c)
		if err != nil {
			return nil, err
		}
		out.Circuits = append(out.Circuits, &store.Whole{Head: 1, History: []store.Past{{
			Revision: store.Revision{Number: 1, Said: "Circuit imported", Created: time.Now(), Document: document}}}})
	}
	return out, nil
}

func encode(c *circuit.Circuit) ([]byte, error) {
	var b bytes.Buffer
	err := circuit.Write(&b, c)
	return b.Bytes(), err
}
