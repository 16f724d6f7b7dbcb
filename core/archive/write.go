package archive

import (
	"archive/zip"
	"encoding/json"
	"io"

	"ambivia/core/device"
	"ambivia/core/record"
)

// Writer writes an archive circuit by circuit. It holds one picture at a time.
type Writer struct {
	zip  *zip.Writer
	list manifest
}

// NewWriter begins an archive; [Writer.Close] ends it.
func NewWriter(w io.Writer) *Writer {
	return &Writer{zip.NewWriter(w), manifest{Format: Format, Circuits: []circuitRecord{}}}
}

func (w *Writer) put(name string, method uint16, data []byte) error {
	f, err := w.zip.CreateHeader(&zip.FileHeader{Name: name, Method: method})
	if err == nil {
		_, err = f.Write(data)
	}
	return err
}

// Add writes the next circuit of the job.
func (w *Writer) Add(c *Circuit) error {
	i := len(w.list.Circuits)
	record := circuitRecord{Head: c.Head, Wishes: c.Wishes, Use: c.Use, Links: c.Links, Photos: []photoRecord{}}
	for _, r := range c.Revisions {
		if r.Number == c.Head {
			if err := w.put(circuitName(i), zip.Deflate, r.Document); err != nil {
				return err
			}
		}
	}
	if err := w.history(i, c.Revisions); err != nil {
		return err
	}
	if len(c.Log) > 0 {
		data, err := json.Marshal(c.Log)
		if err != nil {
			return err
		}
		if err := w.put(logName(i), zip.Deflate, data); err != nil {
			return err
		}
	}
	for n, p := range c.Photos {
		record.Photos = append(record.Photos, photoRecord{p.Box, p.Note, p.Created})
		jpeg, err := p.Picture()
		if err != nil {
			return err
		}
		if err := w.put(photoName(i, n), zip.Store, jpeg); err != nil {
			return err
		}
	}
	w.list.Circuits = append(w.list.Circuits, record)
	return nil
}

// history writes the revisions one by one, an entry of the list on each line.
func (w *Writer) history(i int, revisions []Revision) error {
	f, err := w.zip.CreateHeader(&zip.FileHeader{Name: historyName(i), Method: zip.Deflate})
	if err != nil {
		return err
	}
	between := "[\n"
	for _, r := range revisions {
		data, err := json.Marshal(revisionRecord{r.Number, r.Parent, r.Next, r.Summary, r.By, r.Choice, r.Created, r.Document})
		if err != nil {
			return err
		}
		if _, err := io.WriteString(f, between); err != nil {
			return err
		}
		if _, err := f.Write(data); err != nil {
			return err
		}
		between = ",\n"
	}
	_, err = io.WriteString(f, "\n]\n")
	return err
}

// LeaveOut notes that something could not be written, so that whoever reads the archive is told.
func (w *Writer) LeaveOut(what string) { w.list.LeftOut = append(w.list.LeftOut, what) }

// Parties notes who did the work, and for whom; nil where nobody said.
func (w *Writer) Parties(firm *record.Firm, customer *record.Customer) {
	w.list.Firm, w.list.Customer = firm, customer
}

// Close writes what the job is called and people's own device models, and ends the archive.
func (w *Writer) Close(name string, devices []device.Device) error {
	if len(devices) > 0 {
		data, err := device.Write(devices)
		if err != nil {
			return err
		}
		if err := w.put(devicesName, zip.Deflate, data); err != nil {
			return err
		}
	}
	w.list.Name = name
	data, err := json.MarshalIndent(w.list, "", " ")
	if err != nil {
		return err
	}
	if err := w.put("job.json", zip.Deflate, data); err != nil {
		return err
	}
	return w.zip.Close()
}

// Write writes a whole job as an archive.
func Write(w io.Writer, job *Job) error {
	out := NewWriter(w)
	for i := range job.Circuits {
		if err := out.Add(&job.Circuits[i]); err != nil {
			return err
		}
	}
	for _, what := range job.LeftOut {
		out.LeaveOut(what)
	}
	out.Parties(job.Firm, job.Customer)
	return out.Close(job.Name, job.Devices)
}
