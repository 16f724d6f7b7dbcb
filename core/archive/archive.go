// Package archive writes and reads a whole job as one file: a zip of circuit
// files with their history and photographs.
//
// The archive holds
//
//	job.json                      what the job is called and what belongs to it
//	devices.json                  people's own device models, where there are any
//	circuits/1/circuit.json       each circuit as it stands, a plain circuit file
//	circuits/1/history.json       all that was written on the way, in order
//	circuits/1/photos/1.jpg       photographs
//
// Whoever reads an archive trusts nothing in it: names that are not of this
// form, entries that claim or turn out to be larger than allowed, documents that
// a circuit file may not hold, pictures that are none and devices that do not behave
// are refused in one line ([Error]), before anybody writes anything. A chosen plan is
// not read but made again from the circuit, the wishes and the devices, so that a plan
// in the program was always proved by it.
package archive

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strings"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/photo"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// Format is the value of the format field of every job.json.
const Format = "ambivia-job/1"

const devicesName = "devices.json"

// Limits for archives from outside.
const (
	MaxBytes     = 192 << 20 // size of the archive
	maxUnpacked  = 384 << 20 // of all its entries together
	maxManifest  = 4 << 20
	maxHistory   = 64 << 20
	maxEntries   = 4000
	maxRevisions = 5000 // of one circuit
	maxPlans     = 20   // of one circuit that are made again: the newest
)

// Job is a job with all that belongs to it.
type Job struct {
	Name     string
	Devices  []device.Device // people's own models
	Circuits []Circuit
}

// Circuit is one circuit with its history. Head is the number of the revision
// that it stands at, Wishes what is wanted of its plan, or nil.
type Circuit struct {
	Head      int
	Wishes    *retrofit.Wishes
	Revisions []Revision
	Photos    []Photo
}

// Revision is one state of a circuit. Parent is the number of the revision that
// it was made on, Next of the one that redo leads to; 0 is none. Planned is the
// chosen option of the plan, or nil.
type Revision struct {
	Number, Parent, Next int
	Said                 string
	Created              time.Time
	Document             *circuit.Circuit
	Planned              *retrofit.Option
}

// Photo is a photograph of a box.
type Photo struct {
	Box, Note string
	Created   time.Time
	photo.Photo
}

// Error says in one line what is wrong with an archive, and where.
type Error struct{ Code, Place, Text string }

func (e *Error) Error() string {
	if e.Place == "" {
		return e.Text
	}
	return e.Place + ": " + e.Text
}

func refuse(code, place, format string, args ...any) error {
	return &Error{code, place, fmt.Sprintf(format, args...)}
}

// manifest is job.json.
type manifest struct {
	Format   string          `json:"format"`
	Name     string          `json:"name"`
	Circuits []circuitRecord `json:"circuits"`
}

type circuitRecord struct {
	Head   int              `json:"head"`
	Wishes *retrofit.Wishes `json:"wishes,omitempty"`
	Photos []photoRecord    `json:"photos"`
}

type photoRecord struct {
	Box     string    `json:"box"`
	Note    string    `json:"note,omitempty"`
	Created time.Time `json:"created"`
}

// revisionRecord is one entry of history.json.
type revisionRecord struct {
	Number   int             `json:"number"`
	Parent   int             `json:"parent,omitempty"`
	Next     int             `json:"next,omitempty"`
	Said     string          `json:"said"`
	Choice   string          `json:"choice,omitempty"`
	Created  time.Time       `json:"created"`
	Document json.RawMessage `json:"document"`
}

func circuitName(i int) string  { return fmt.Sprintf("circuits/%d/circuit.json", i+1) }
func historyName(i int) string  { return fmt.Sprintf("circuits/%d/history.json", i+1) }
func photoName(i, n int) string { return fmt.Sprintf("circuits/%d/photos/%d.jpg", i+1, n+1) }

// Write writes a job as an archive.
func Write(w io.Writer, job *Job) error {
	z := zip.NewWriter(w)
	put := func(name string, method uint16, data []byte) error {
		f, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: method})
		if err == nil {
			_, err = f.Write(data)
		}
		return err
	}
	list := manifest{Format: Format, Name: job.Name, Circuits: []circuitRecord{}}
	for i, c := range job.Circuits {
		record := circuitRecord{Head: c.Head, Wishes: c.Wishes, Photos: []photoRecord{}}
		var history []revisionRecord
		for _, r := range c.Revisions {
			var b bytes.Buffer
			if err := circuit.Write(&b, r.Document); err != nil {
				return err
			}
			entry := revisionRecord{r.Number, r.Parent, r.Next, r.Said, "", r.Created, b.Bytes()}
			if r.Planned != nil {
				entry.Choice = r.Planned.ID
			}
			history = append(history, entry)
			if r.Number == c.Head {
				if err := put(circuitName(i), zip.Deflate, b.Bytes()); err != nil {
					return err
				}
			}
		}
		data, err := json.MarshalIndent(history, "", " ")
		if err != nil {
			return err
		}
		if err := put(historyName(i), zip.Deflate, data); err != nil {
			return err
		}
		for n, p := range c.Photos {
			record.Photos = append(record.Photos, photoRecord{p.Box, p.Note, p.Created})
			if err := put(photoName(i, n), zip.Store, p.JPEG); err != nil {
				return err
			}
		}
		list.Circuits = append(list.Circuits, record)
	}
	if len(job.Devices) > 0 {
		data, err := device.Write(job.Devices)
		if err != nil {
			return err
		}
		if err := put(devicesName, zip.Deflate, data); err != nil {
			return err
		}
	}
	data, err := json.MarshalIndent(list, "", " ")
	if err != nil {
		return err
	}
	if err := put("job.json", zip.Deflate, data); err != nil {
		return err
	}
	return z.Close()
}

// Is reports whether a file looks like an archive rather than a circuit file.
func Is(data []byte) bool { return bytes.HasPrefix(data, []byte("PK")) }

var names = regexp.MustCompile(`^(job\.json|devices\.json|circuits/([1-9][0-9]{0,3}/(circuit\.json|history\.json|photos/([1-9][0-9]{0,3}\.jpg)?)?)?)$`)

// reader holds an archive whose entries all have names of the right form.
type reader struct {
	entries map[string]*zip.File
	left    int64 // bytes that may still be unpacked
	library *device.Library
	renamed map[string]string // device models that come under another id
}

// Read reads an archive whole, or refuses it with an [*Error].
func Read(data []byte) (*Job, error) { return ReadRenamed(data, nil) }

// ReadRenamed is [Read] with other ids for some of the device models that come with the job, by
// their ids in the archive: choices that name them mean what they meant.
func ReadRenamed(data []byte, renamed map[string]string) (*Job, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	r.renamed = renamed
	var list manifest
	if err := r.json("job.json", maxManifest, &list); err != nil {
		return nil, err
	}
	switch {
	case list.Format != Format:
		return nil, refuse("format", "job.json: format", "is %q; this program reads %q", clip(list.Format), Format)
	case strings.TrimSpace(list.Name) == "" || len([]rune(list.Name)) > 120:
		return nil, refuse("name", "job.json: name", "a name has 1 to 120 characters")
	}
	job := &Job{Name: list.Name}
	if job.Devices, err = r.devices(); err != nil {
		return nil, err
	}
	for i, record := range list.Circuits {
		c, err := r.circuit(i, record)
		if err != nil {
			return nil, err
		}
		job.Circuits = append(job.Circuits, *c)
	}
	for name := range r.entries {
		return nil, refuse("extra-entry", clip(name), "the archive has a file that job.json does not name")
	}
	return job, nil
}

func open(data []byte) (*reader, error) {
	if len(data) > MaxBytes {
		return nil, refuse("too-large", "", "the archive is larger than %d MiB", MaxBytes>>20)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, refuse("not-an-archive", "", "this is no job archive: %v", err)
	}
	if len(z.File) > maxEntries {
		return nil, refuse("too-large", "", "the archive has %d entries; a job has at most %d", len(z.File), maxEntries)
	}
	r := &reader{entries: map[string]*zip.File{}, left: maxUnpacked}
	var claimed uint64
	for _, f := range z.File {
		directory := strings.HasSuffix(f.Name, "/")
		switch {
		case !names.MatchString(f.Name) || !directory && !f.Mode().IsRegular():
			return nil, refuse("entry-name", clip(f.Name), "an archive of a job has no entry of this name or kind")
		case directory:
			continue
		case r.entries[f.Name] != nil:
			return nil, refuse("entry-name", clip(f.Name), "the archive has this entry twice")
		}
		if claimed += f.UncompressedSize64; f.UncompressedSize64 > maxUnpacked || claimed > maxUnpacked {
			return nil, refuse("too-large", clip(f.Name), "unpacked the archive would be larger than %d MiB", maxUnpacked>>20)
		}
		r.entries[f.Name] = f
	}
	return r, nil
}

// take unpacks an entry, whatever it claims to be, up to a limit.
func (r *reader) take(name string, limit int64) ([]byte, error) {
	f := r.entries[name]
	if f == nil {
		return nil, refuse("missing-entry", name, "the archive lacks this file")
	}
	delete(r.entries, name)
	limit = min(limit, r.left)
	if f.UncompressedSize64 > uint64(limit) {
		return nil, refuse("too-large", name, "is larger than the %d MiB that it may have", limit>>20)
	}
	body, err := f.Open()
	if err != nil {
		return nil, refuse("broken-entry", name, "cannot be unpacked: %v", err)
	}
	defer body.Close()
	data, err := io.ReadAll(io.LimitReader(body, limit+1))
	switch {
	case err != nil:
		return nil, refuse("broken-entry", name, "cannot be unpacked: %v", err)
	case int64(len(data)) > limit:
		return nil, refuse("too-large", name, "is larger than the %d MiB that it may have", limit>>20)
	}
	r.left -= int64(len(data))
	return data, nil
}

func (r *reader) json(name string, limit int64, into any) error {
	data, err := r.take(name, limit)
	if err != nil {
		return err
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into); err != nil {
		return refuse("syntax", name, "%s", clip(err.Error()))
	}
	if _, more := dec.Token(); more != io.EOF {
		return refuse("syntax", name, "something follows the end of the document")
	}
	return nil
}

// devices reads people's own device models, if the archive has any.
func (r *reader) devices() (own []device.Device, err error) {
	if r.entries[devicesName] != nil {
		data, err := r.take(devicesName, device.MaxBytes)
		if err != nil {
			return nil, err
		}
		if own, err = device.Read(data); err != nil {
			return nil, refuse("device", devicesName, "%s", clip(err.Error()))
		}
	}
	for i, d := range own {
		if to := r.renamed[d.ID]; to != "" {
			own[i].ID = to
		}
		for n, companion := range d.Companions {
			if to := r.renamed[companion]; to != "" {
				own[i].Companions[n] = to
			}
		}
	}
	r.library = device.NewLibrary(own)
	return own, nil
}

// choice is the id of a chosen option with the device models as they are called here. Ids of
// options name models between dashes, colons and plusses.
func (r *reader) choice(id string) string {
	for from, to := range r.renamed {
		whole := regexp.MustCompile(`(^|[-+:])` + regexp.QuoteMeta(from) + `($|[-+:])`)
		id = whole.ReplaceAllString(id, "${1}"+to+"${2}")
	}
	return id
}

func (r *reader) circuit(i int, record circuitRecord) (*Circuit, error) {
	c := &Circuit{Head: record.Head, Wishes: record.Wishes}
	ask := retrofit.Ask{Library: r.library}
	if c.Wishes != nil {
		if err := c.Wishes.Validate(); err != nil {
			return nil, refuse("wishes", fmt.Sprintf("job.json: circuits[%d].wishes", i), "%s", clip(err.Error()))
		}
		ask.Wishes = *c.Wishes
	}
	current, err := r.take(circuitName(i), circuit.MaxBytes)
	if err != nil {
		return nil, err
	}
	edited, err := circuit.Parse(current)
	if err != nil {
		return nil, refuse("circuit", circuitName(i), "%s", clip(err.Error()))
	}
	var history []revisionRecord
	if err := r.json(historyName(i), maxHistory, &history); err != nil {
		return nil, err
	}
	if len(history) == 0 || len(history) > maxRevisions {
		return nil, refuse("history", historyName(i), "a circuit has 1 to %d revisions, not %d", maxRevisions, len(history))
	}
	seen := map[int]bool{}
	for n, h := range history {
		place := fmt.Sprintf("%s: [%d]", historyName(i), n)
		if h.Number != n+1 || h.Parent >= h.Number || h.Parent != 0 && !seen[h.Parent] || h.Next < 0 || h.Next > len(history) || h.Parent < 0 {
			return nil, refuse("history", place, "revision numbers do not follow each other")
		}
		if len(h.Said) > 1000 {
			return nil, refuse("history", place+".said", "is longer than 1000 characters")
		}
		seen[h.Number] = true
		doc, err := circuit.Parse(h.Document)
		if err != nil {
			return nil, refuse("circuit", place, "%s", clip(err.Error()))
		}
		c.Revisions = append(c.Revisions, Revision{h.Number, h.Parent, h.Next, h.Said, h.Created, doc, nil})
	}
	plans := 0
	for n := len(history) - 1; n >= 0 && plans < maxPlans; n-- {
		if id := history[n].Choice; id != "" {
			c.Revisions[n].Planned = procedure.Offer(c.Revisions[n].Document, ask, r.choice(id))
			plans++
		}
	}
	for _, h := range history {
		if h.Next != 0 && history[h.Next-1].Parent != h.Number {
			return nil, refuse("history", historyName(i), "revision %d is not followed by revision %d", h.Number, h.Next)
		}
	}
	if !seen[c.Head] {
		return nil, refuse("history", fmt.Sprintf("job.json: circuits[%d].head", i), "there is no revision %d", c.Head)
	}
	if err := c.edit(edited, i); err != nil {
		return nil, err
	}
	return c, r.photos(c, i, record.Photos)
}

// edit takes a circuit file that somebody changed within the archive as one revision more.
func (c *Circuit) edit(edited *circuit.Circuit, i int) error {
	head := &c.Revisions[c.Head-1]
	if len(circuit.Diff(head.Document, edited)) == 0 {
		return nil
	}
	if len(c.Revisions) >= maxRevisions {
		return refuse("history", circuitName(i), "the file was changed, and a circuit has %d revisions at most", maxRevisions)
	}
	number := len(c.Revisions) + 1
	head.Next = number
	c.Revisions = append(c.Revisions, Revision{Number: number, Parent: c.Head, Said: "Changed in the circuit file of the archive", Created: head.Created, Document: edited})
	c.Head = number
	return nil
}

func (r *reader) photos(c *Circuit, i int, records []photoRecord) error {
	for n, record := range records {
		data, err := r.take(photoName(i, n), photo.MaxBytes)
		if err != nil {
			return err
		}
		picture, err := photo.Clean(data)
		var not *photo.Error
		if errors.As(err, &not) {
			return refuse(not.Code, photoName(i, n), "%s", not.Text)
		}
		if err != nil {
			return err
		}
		if len(record.Box) > 32 || len(record.Note) > 1000 {
			return refuse("photo-note", fmt.Sprintf("job.json: circuits[%d].photos[%d]", i, n), "box or note is longer than it may be")
		}
		c.Photos = append(c.Photos, Photo{record.Box, record.Note, record.Created, *picture})
	}
	return nil
}

// clip keeps a message to one line of bearable length.
func clip(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < ' ' {
			return ' '
		}
		return r
	}, s)
	if r := []rune(s); len(r) > 200 {
		return string(r[:200]) + " …"
	}
	return s
}
