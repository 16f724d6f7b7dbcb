// Package archive writes and reads a whole job as one file: a zip of circuit
// files with their history and photographs.
//
// The archive holds
//
//	job.json                      what the job is called and what belongs to it
//	devices.json                  people's own device models, where there are any
//	circuits/1/circuit.json       each circuit as it stands, a plain circuit file
//	circuits/1/history.json       all that was written on the way, in order
//	circuits/1/log.json           what was done, in order, where anything was
//	circuits/1/photos/1.jpg       photographs
//
// Whoever reads an archive trusts nothing in it: names that are not of this
// form, entries that claim or turn out to be larger than allowed, documents that
// a circuit file may not hold, pictures that are none and devices that do not behave
// are refused in one line ([Error]), before anybody writes anything. A chosen plan is
// not in it but for its id: it is made again by whoever reads it, from the circuit, the
// wishes and the devices, so that a plan in the program was always proved by it.
//
// A job may be larger than memory: history is read and written entry by entry, and
// pictures one at a time, when they are asked for.
package archive

import (
	"encoding/json"
	"fmt"
	"time"

	"ambivia/core/automation"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/limits"
	"ambivia/core/record"
	"ambivia/core/retrofit"
	"ambivia/core/schedule"
)

// Format is the value of the format field of every job.json.
const Format = "ambivia-job/1"

const devicesName = "devices.json"

// Limits for archives from outside: what a job may hold, and what is told of it beside.
const (
	MaxBytes    = limits.JobBytes + 256<<20 // size of the archive
	maxUnpacked = limits.JobBytes + 512<<20 // of all its entries together
	maxManifest = 64 << 20
	maxHistory  = limits.HistoryBytes + limits.Revisions*8<<10 // a revision is told in 8 kB at most
	maxLog      = limits.LogBytes + limits.LogEntries<<9
	maxEntries  = 2 + limits.Circuits*(4+limits.Photos)
)

// Job is a job with all that belongs to it.
type Job struct {
	Name     string
	Devices  []device.Device // people's own models
	Circuits []Circuit
	LeftOut  []string // what could not be written, in words
	Firm     *record.Firm
	Customer *record.Customer
}

// Circuit is one circuit with its history. Head is the number of the revision
// that it stands at, Wishes what is wanted of its plan, or nil.
type Circuit struct {
	Head      int
	Wishes    *retrofit.Wishes
	Use       *schedule.Use    // how the light is used, or nil
	Links     *automation.Kept // how the links of the chosen plan are made, or nil
	Revisions []Revision
	Photos    []Photo
	Log       []fitting.Entry // photographs in it are named by their place among Photos, "1" for the first
}

// Revision is one state of a circuit. Parent is the number of the revision that
// it was made on, Next of the one that redo leads to; 0 is none. Document is a circuit
// file, Choice the id of the chosen option of its plan, or "".
type Revision struct {
	Number, Parent, Next int
	Summary, By          string // By is who made it, or ""
	Created              time.Time
	Document             []byte
	Choice               string
}

// Photo is a photograph of a box. Picture returns its JPEG file.
type Photo struct {
	Box, Note     string
	Created       time.Time
	Width, Height int
	Picture       func() ([]byte, error)
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
	Format   string           `json:"format"`
	Name     string           `json:"name"`
	Circuits []circuitRecord  `json:"circuits"`
	LeftOut  []string         `json:"leftOut,omitempty"`
	Firm     *record.Firm     `json:"firm,omitempty"`
	Customer *record.Customer `json:"customer,omitempty"`
}

type circuitRecord struct {
	Head   int              `json:"head"`
	Wishes *retrofit.Wishes `json:"wishes,omitempty"`
	Use    *schedule.Use    `json:"use,omitempty"`
	Links  *automation.Kept `json:"links,omitempty"`
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
	Summary  string          `json:"said"`
	By       string          `json:"by,omitempty"`
	Choice   string          `json:"choice,omitempty"`
	Created  time.Time       `json:"created"`
	Document json.RawMessage `json:"document"`
}

func circuitName(i int) string  { return fmt.Sprintf("circuits/%d/circuit.json", i+1) }
func historyName(i int) string  { return fmt.Sprintf("circuits/%d/history.json", i+1) }
func logName(i int) string      { return fmt.Sprintf("circuits/%d/log.json", i+1) }
func photoName(i, n int) string { return fmt.Sprintf("circuits/%d/photos/%d.jpg", i+1, n+1) }
