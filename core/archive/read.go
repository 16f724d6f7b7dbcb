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
	"unicode/utf8"

	"ambivia/core/circuit"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/limits"
	"ambivia/core/photo"
)

// Is reports whether a file looks like an archive rather than a circuit file.
func Is(data []byte) bool { return bytes.HasPrefix(data, []byte("PK")) }

var entryNames = regexp.MustCompile(`^(job\.json|devices\.json|circuits/([1-9][0-9]{0,3}/(circuit\.json|history\.json|log\.json|photos/([1-9][0-9]{0,3}\.jpg)?)?)?)$`)

// reader holds an archive whose entries all have names of the right form.
type reader struct {
	entries map[string]*zip.File
	left    int64             // bytes that may still be unpacked
	renamed map[string]string // device models that come under another id
	known   []string          // ids of all device models, as they are in the archive
}

// Read reads an archive of so many bytes whole, or refuses it with an [*Error]; its pictures are
// looked at, and read again when they are asked for. The file must stay as it is until then.
// Device models may come under other ids than they have in the archive: choices that name them mean
// what they meant.
func Read(file io.ReaderAt, size int64, renamed map[string]string) (*Job, error) {
	r, err := open(file, size)
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
		return nil, refuse("format", "job.json: format", "is %q; this program reads %q", limits.Message(list.Format), Format)
	case len(list.Circuits) > limits.Circuits:
		return nil, refuse("too-large", "job.json: circuits", "a job has %d circuits at most", limits.Circuits)
	}
	name, err := limits.Name(list.Name)
	if err != nil {
		return nil, refuse("name", "job.json: name", "%v", err)
	}
	job := &Job{Name: name, Firm: list.Firm, Customer: list.Customer}
	if list.Firm != nil {
		if err := list.Firm.Check(); err != nil {
			return nil, refuse("firm", "job.json: firm", "%v", err)
		}
	}
	if list.Customer != nil {
		if err := list.Customer.Check(); err != nil {
			return nil, refuse("customer", "job.json: customer", "%v", err)
		}
	}
	for _, what := range list.LeftOut[:min(len(list.LeftOut), limits.Circuits)] {
		job.LeftOut = append(job.LeftOut, limits.Message(what))
	}
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
		return nil, refuse("extra-entry", limits.Message(name), "the archive has a file that job.json does not name")
	}
	return job, nil
}

func open(file io.ReaderAt, size int64) (*reader, error) {
	if size > MaxBytes {
		return nil, refuse("too-large", "", "the archive is larger than %d MiB", MaxBytes>>20)
	}
	z, err := zip.NewReader(file, size)
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
		case !entryNames.MatchString(f.Name) || !directory && !f.Mode().IsRegular():
			return nil, refuse("entry-name", limits.Message(f.Name), "an archive of a job has no entry of this name or kind")
		case directory:
			continue
		case r.entries[f.Name] != nil:
			return nil, refuse("entry-name", limits.Message(f.Name), "the archive has this entry twice")
		}
		if claimed += f.UncompressedSize64; f.UncompressedSize64 > maxUnpacked || claimed > maxUnpacked {
			return nil, refuse("too-large", limits.Message(f.Name), "unpacked the archive would be larger than %d MiB", maxUnpacked>>20)
		}
		r.entries[f.Name] = f
	}
	return r, nil
}

// body is an entry being unpacked, up to a limit.
type body struct {
	io.Closer
	from io.Reader
	r    *reader
	left int64
	over bool // it is larger than its limit
}

func (b *body) Read(p []byte) (int, error) {
	if b.left <= 0 {
		b.over = true
		return 0, errors.New("the entry is larger than it may be")
	}
	n, err := b.from.Read(p[:min(int64(len(p)), b.left)])
	b.left -= int64(n)
	b.r.left -= int64(n)
	return n, err
}

// open begins to unpack an entry, whatever it claims to be, up to a limit.
func (r *reader) open(name string, limit int64) (*body, error) {
	f := r.entries[name]
	if f == nil {
		return nil, refuse("missing-entry", name, "the archive lacks this file")
	}
	delete(r.entries, name)
	limit = min(limit, r.left)
	if f.UncompressedSize64 > uint64(limit) {
		return nil, refuse("too-large", name, "is larger than the %d MiB that it may have", limit>>20)
	}
	from, err := f.Open()
	if err != nil {
		return nil, refuse("broken-entry", name, "cannot be unpacked: %v", err)
	}
	return &body{Closer: from, from: from, r: r, left: limit + 1}, nil
}

// take unpacks a whole entry up to a limit.
func (r *reader) take(name string, limit int64) ([]byte, error) {
	b, err := r.open(name, limit)
	if err != nil {
		return nil, err
	}
	defer b.Close()
	data, err := io.ReadAll(b)
	switch {
	case b.over || int64(len(data)) > limit:
		return nil, refuse("too-large", name, "is larger than the %d MiB that it may have", limit>>20)
	case err != nil:
		return nil, refuse("broken-entry", name, "cannot be unpacked: %v", err)
	}
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
		return refuse("syntax", name, "%s", limits.Message(err.Error()))
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
			return nil, refuse("device", devicesName, "%s", limits.Message(err.Error()))
		}
	}
	for _, d := range device.NewLibrary(own).All() {
		r.known = append(r.known, d.ID)
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
	return own, nil
}

// choice is the id of a chosen option with the device models as they are called here. Ids of
// options name models between dashes, colons and plusses; of two models that both fit a place the
// one with the longer id is meant.
func (r *reader) choice(id string) string {
	if len(r.renamed) == 0 {
		return id
	}
	const marks = "-+:"
	var out strings.Builder
	for at := 0; at < len(id); {
		found := ""
		if at == 0 || strings.IndexByte(marks, id[at-1]) >= 0 {
			for _, name := range r.known {
				end := at + len(name)
				if len(name) > len(found) && strings.HasPrefix(id[at:], name) && (end == len(id) || strings.IndexByte(marks, id[end]) >= 0) {
					found = name
				}
			}
		}
		switch to := r.renamed[found]; {
		case found == "":
			out.WriteByte(id[at])
			at++
		case to != "":
			out.WriteString(to)
			at += len(found)
		default:
			out.WriteString(found)
			at += len(found)
		}
	}
	return out.String()
}

func (r *reader) circuit(i int, record circuitRecord) (*Circuit, error) {
	c := &Circuit{Head: record.Head, Wishes: record.Wishes, Use: record.Use, Links: record.Links}
	if c.Use != nil {
		if err := c.Use.Check(); err != nil {
			return nil, refuse("use", fmt.Sprintf("job.json: circuits[%d].use", i), "%s", limits.Message(err.Error()))
		}
	}
	if c.Wishes != nil {
		if err := c.Wishes.Validate(); err != nil {
			return nil, refuse("wishes", fmt.Sprintf("job.json: circuits[%d].wishes", i), "%s", limits.Message(err.Error()))
		}
	}
	current, err := r.take(circuitName(i), circuit.MaxBytes)
	if err != nil {
		return nil, err
	}
	edited, err := circuit.Parse(current)
	if err != nil {
		return nil, refuse("circuit", circuitName(i), "%s", limits.Message(err.Error()))
	}
	head, err := r.history(c, i)
	if err != nil {
		return nil, err
	}
	if head == nil {
		return nil, refuse("history", fmt.Sprintf("job.json: circuits[%d].head", i), "there is no revision %d", c.Head)
	}
	if err := c.edit(head, edited, i); err != nil {
		return nil, err
	}
	if err := r.photos(c, i, record.Photos); err != nil {
		return nil, err
	}
	return c, r.log(c, i)
}

// log reads what was done, if anything was.
func (r *reader) log(c *Circuit, i int) error {
	name := logName(i)
	if r.entries[name] == nil {
		return nil
	}
	if err := r.json(name, maxLog, &c.Log); err != nil {
		return err
	}
	if len(c.Log) > limits.LogEntries {
		return refuse("too-large", name, "a log has %d entries at most", limits.LogEntries)
	}
	if err := fitting.Valid(c.Log); err != nil {
		return refuse("log", name, "%s", limits.Message(err.Error()))
	}
	return nil
}

// history reads the revisions of a circuit one by one, and returns the document of its head.
func (r *reader) history(c *Circuit, i int) (head *circuit.Circuit, err error) {
	name := historyName(i)
	body, err := r.open(name, maxHistory)
	if err != nil {
		return nil, err
	}
	defer body.Close()
	dec := json.NewDecoder(body)
	dec.DisallowUnknownFields()
	wrong := func(err error) error {
		if body.over {
			return refuse("too-large", name, "is larger than the %d MiB that it may have", maxHistory>>20)
		}
		return refuse("syntax", name, "%s", limits.Message(err.Error()))
	}
	if open, err := dec.Token(); err != nil || open != json.Delim('[') {
		if err == nil {
			err = errors.New("the history is a list of revisions")
		}
		return nil, wrong(err)
	}
	var bytes int64
	for dec.More() {
		n := len(c.Revisions)
		place := fmt.Sprintf("%s: [%d]", name, n)
		var h revisionRecord
		if err := dec.Decode(&h); err != nil {
			return nil, wrong(err)
		}
		switch {
		case n >= limits.Revisions:
			return nil, refuse("history", name, "a circuit has 1 to %d revisions", limits.Revisions)
		case h.Number != n+1 || h.Parent >= h.Number || h.Parent < 0 || h.Next < 0 || h.Next > limits.Revisions:
			return nil, refuse("history", place, "revision numbers do not follow each other")
		case utf8.RuneCountInString(h.Summary) > limits.SummaryLetters:
			return nil, refuse("history", place+".said", "is longer than %d letters", limits.SummaryLetters)
		case len(h.Choice) > maxChoice:
			return nil, refuse("history", place+".choice", "is longer than %d letters", maxChoice)
		}
		doc, err := circuit.Parse(h.Document)
		if err != nil {
			return nil, refuse("circuit", place, "%s", limits.Message(err.Error()))
		}
		data, err := circuit.Encode(doc)
		if err != nil {
			return nil, refuse("circuit", place, "%s", limits.Message(err.Error()))
		}
		if err := limits.Document(n, bytes, int64(len(data))); err != nil {
			return nil, refuse("too-large", place, "%v", err)
		}
		bytes += int64(len(data))
		if h.Number == c.Head {
			head = doc
		}
		c.Revisions = append(c.Revisions, Revision{h.Number, h.Parent, h.Next, h.Summary, limits.By(h.By), h.Created, data, r.choice(h.Choice)})
	}
	if _, err := dec.Token(); err != nil {
		return nil, wrong(err)
	}
	if _, err := dec.Token(); err != io.EOF {
		return nil, refuse("syntax", name, "something follows the end of the document")
	}
	if len(c.Revisions) == 0 {
		return nil, refuse("history", name, "a circuit has 1 to %d revisions, and this has none", limits.Revisions)
	}
	for _, h := range c.Revisions {
		if h.Next != 0 && (h.Next > len(c.Revisions) || c.Revisions[h.Next-1].Parent != h.Number) {
			return nil, refuse("history", name, "revision %d is not followed by revision %d", h.Number, h.Next)
		}
	}
	return head, nil
}

// maxChoice is the length of an option's id, in bytes, at most.
const maxChoice = 2000

// edit takes a circuit file that somebody changed within the archive as one revision more.
func (c *Circuit) edit(was, edited *circuit.Circuit, i int) error {
	if len(circuit.Diff(was, edited)) == 0 {
		return nil
	}
	if len(c.Revisions) >= limits.Revisions {
		return refuse("history", circuitName(i), "the file was changed, and a circuit has %d revisions at most", limits.Revisions)
	}
	data, err := circuit.Encode(edited)
	if err != nil {
		return refuse("circuit", circuitName(i), "%s", limits.Message(err.Error()))
	}
	head, number := &c.Revisions[c.Head-1], len(c.Revisions)+1
	head.Next = number
	c.Revisions = append(c.Revisions, Revision{Number: number, Parent: c.Head, Summary: "Changed in the circuit file of the archive", Created: head.Created, Document: data})
	c.Head = number
	return nil
}

func (r *reader) photos(c *Circuit, i int, records []photoRecord) error {
	if len(records) > limits.Photos {
		return refuse("too-large", fmt.Sprintf("job.json: circuits[%d].photos", i), "a circuit keeps %d photographs at most", limits.Photos)
	}
	for n, record := range records {
		place := fmt.Sprintf("job.json: circuits[%d].photos[%d]", i, n)
		if err := limits.Note(record.Note); err != nil || utf8.RuneCountInString(record.Box) > limits.BoxLetters {
			return refuse("photo-note", place, "box or note is longer than it may be")
		}
		name := photoName(i, n)
		file := r.entries[name]
		data, err := r.take(name, photo.MaxBytes)
		if err != nil {
			return err
		}
		picture, err := clean(data, name)
		if err != nil {
			return err
		}
		asKept := bytes.Equal(picture.JPEG, data) // it need not be made anew when it is asked for
		c.Photos = append(c.Photos, Photo{record.Box, record.Note, record.Created, picture.Width, picture.Height, func() ([]byte, error) {
			again := &reader{entries: map[string]*zip.File{name: file}, left: photo.MaxBytes}
			data, err := again.take(name, photo.MaxBytes)
			if err != nil || asKept {
				return data, err
			}
			picture, err := clean(data, name)
			if err != nil {
				return nil, err
			}
			return picture.JPEG, nil
		}})
	}
	return nil
}

// clean makes a photograph of what an archive has under a name.
func clean(data []byte, name string) (*photo.Photo, error) {
	picture, err := photo.Clean(data)
	var not *photo.Error
	if errors.As(err, &not) {
		return nil, refuse(not.Code, name, "%s", not.Text)
	}
	return picture, err
}
