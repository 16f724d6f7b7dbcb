package survey

import (
	"encoding/json"
	"slices"

	"ambivia/core/circuit"
)

// Edit is one thing that a person notes: one of the types below. [Apply] carries it out, and
// [Note] is how it travels.
type Edit interface {
	// op is its name where it travels.
	op() string
	// apply carries it out, and says in a few words what was done. The error's place names the
	// field of the edit.
	apply(w *writer) (string, error)
}

// SetCircuit describes the circuit at large. What is not given stays; a number that is 0, and what Clear
// names by its field, is not known any more.
type SetCircuit struct {
	Name         string   `json:"name,omitempty"`
	Practice     string   `json:"practice,omitempty"`
	Colours      string   `json:"colours,omitempty"`
	Volts        *float64 `json:"volts,omitempty"`
	BreakerAmps  *float64 `json:"breakerAmps,omitempty"`
	BreakerLabel string   `json:"breakerLabel,omitempty"`
	Controls     *int     `json:"controls,omitempty"`
	Confirm      string   `json:"confirm,omitempty"`
	Clear        []string `json:"clear,omitempty"`
}

func (SetCircuit) op() string { return opSetCircuit }

// AddBox adds a box: of a kind, or a usual one (Preset), or one that is the same as another (Like). Cable is the stub that ends in it.
type AddBox struct {
	Kind   string `json:"kind,omitempty"`
	Name   string `json:"name,omitempty"`
	Preset string `json:"preset,omitempty"`
	Like   string `json:"like,omitempty"`
	Cable  string `json:"cable,omitempty"`
}

func (AddBox) op() string { return opAddBox }

// SetBox describes a box, in the same way.
type SetBox struct {
	Box       string   `json:"box,omitempty"`
	Name      string   `json:"name,omitempty"`
	Opened    *bool    `json:"opened,omitempty"`
	Gangs     *int     `json:"gangs,omitempty"`
	VolumeCm3 *float64 `json:"volumeCm3,omitempty"`
	DepthMm   *float64 `json:"depthMm,omitempty"`
	Material  string   `json:"material,omitempty"`
	Clamps    *bool    `json:"clamps,omitempty"`
	Clear     []string `json:"clear,omitempty"`
}

func (SetBox) op() string { return opSetBox }

// RemoveBox removes a box with all that is in it; its cables become stubs.
type RemoveBox struct {
	Box string `json:"box,omitempty"`
}

func (RemoveBox) op() string { return opRemoveBox }

// AddCable adds a cable that comes into a box. To is "" where nobody knows where it goes.
type AddCable struct {
	Box   string   `json:"box,omitempty"`
	To    string   `json:"to,omitempty"`
	Cores []string `json:"cores,omitempty"`
	Gauge string   `json:"gauge,omitempty"`
}

func (AddCable) op() string { return opAddCable }

// SetCable says where a stub ends, or what gauge a cable is of; "none" for one that is not known.
type SetCable struct {
	Cable string `json:"cable,omitempty"`
	To    string `json:"to,omitempty"`
	Gauge string `json:"gauge,omitempty"`
}

func (SetCable) op() string { return opSetCable }

// JoinStubs makes one cable of two stubs that were seen from their two boxes.
type JoinStubs struct {
	Cable string `json:"cable,omitempty"`
	Other string `json:"other,omitempty"`
}

func (JoinStubs) op() string { return opJoinStubs }

// RemoveCable removes a cable.
type RemoveCable struct {
	Cable string `json:"cable,omitempty"`
}

func (RemoveCable) op() string { return opRemoveCable }

// AddDevice adds a device to a box.
type AddDevice struct {
	Box   string   `json:"box,omitempty"`
	Type  string   `json:"type,omitempty"`
	Name  string   `json:"name,omitempty"`
	Watts *float64 `json:"watts,omitempty"`
	Count *int     `json:"count,omitempty"`
	Load  string   `json:"load,omitempty"`
}

func (AddDevice) op() string { return opAddDevice }

// SetDevice describes a device. Its Type may become another of the same screws.
type SetDevice struct {
	Device   string   `json:"device,omitempty"`
	Type     string   `json:"type,omitempty"`
	Name     string   `json:"name,omitempty"`
	Watts    *float64 `json:"watts,omitempty"`
	Count    *int     `json:"count,omitempty"`
	Load     string   `json:"load,omitempty"`
	DepthMm  *float64 `json:"depthMm,omitempty"`
	Unmarked *bool    `json:"unmarked,omitempty"`
	Dimmable *bool    `json:"dimmable,omitempty"`
	Clear    []string `json:"clear,omitempty"`
}

func (SetDevice) op() string { return opSetDevice }

// RemoveDevice removes a device.
type RemoveDevice struct {
	Device string `json:"device,omitempty"`
}

func (RemoveDevice) op() string { return opRemoveDevice }

// Connect puts ends under one connector or screw of a box.
type Connect struct {
	Box string        `json:"box,omitempty"`
	Of  []circuit.Ref `json:"of,omitempty"`
}

func (Connect) op() string { return opConnect }

// Move takes a core from where it stands in a box and puts it with another core or under a screw.
type Move struct {
	Box string      `json:"box,omitempty"`
	Of  circuit.Ref `json:"of,omitzero"`
	To  circuit.Ref `json:"to,omitzero"`
}

func (Move) op() string { return opMove }

// HangLoose says of cores that they hang bare, neither joined nor capped, or with Not that they do not.
type HangLoose struct {
	Box string        `json:"box,omitempty"`
	Of  []circuit.Ref `json:"of,omitempty"`
	Not bool          `json:"not,omitempty"`
}

func (HangLoose) op() string { return opHangLoose }

// Disconnect takes ends out of theirs, each with a cap of its own.
type Disconnect struct {
	Box string        `json:"box,omitempty"`
	Of  []circuit.Ref `json:"of,omitempty"`
}

func (Disconnect) op() string { return opDisconnect }

// MarkEnd notes tape or sleeving on ends. As is "" where it comes off.
type MarkEnd struct {
	Box string        `json:"box,omitempty"`
	Of  []circuit.Ref `json:"of,omitempty"`
	As  string        `json:"as,omitempty"`
}

func (MarkEnd) op() string { return opMarkEnd }

// Observe enters a test and what it showed, or all of a round: Observation first, then More, in the order made.
type Observe struct {
	Observation *circuit.Observation  `json:"observation,omitempty"`
	More        []circuit.Observation `json:"more,omitempty"`
}

func (Observe) op() string { return opObserve }

// Unobserve takes a reading back.
type Unobserve struct {
	Index *int `json:"index,omitempty"`
}

func (Unobserve) op() string { return opUnobserve }

// AddReport notes what the customer says.
type AddReport struct {
	Says   string `json:"says,omitempty"`
	Device string `json:"device,omitempty"`
}

func (AddReport) op() string { return opAddReport }

// RemoveReport takes that back.
type RemoveReport struct {
	Index *int `json:"index,omitempty"`
}

func (RemoveReport) op() string { return opRemoveReport }

// PassGate notes what a person confirmed, after the readings made so far.
type PassGate struct {
	Gates []circuit.Gate `json:"gates,omitempty"`
}

func (PassGate) op() string { return opPassGate }

// SetCannot notes which ways of testing this person cannot use, all of them.
type SetCannot struct {
	Ways []string `json:"ways,omitempty"`
}

func (SetCannot) op() string { return opSetCannot }

// Accept takes a conductor for what it most likely is; it stays assumed. As is "" where that is taken back.
type Accept struct {
	End  *circuit.End `json:"end,omitempty"`
	As   string       `json:"as,omitempty"`
	Odds *float64     `json:"odds,omitempty"`
}

func (Accept) op() string { return opAccept }

// Names of edits where they travel.
const (
	opSetCircuit   = "set-circuit"
	opAddBox       = "add-box"
	opSetBox       = "set-box"
	opRemoveBox    = "remove-box"
	opAddCable     = "add-cable"
	opSetCable     = "set-cable"
	opJoinStubs    = "join-stubs"
	opRemoveCable  = "remove-cable"
	opAddDevice    = "add-device"
	opSetDevice    = "set-device"
	opRemoveDevice = "remove-device"
	opConnect      = "connect"
	opMove         = "move"
	opHangLoose    = "loose"
	opDisconnect   = "disconnect"
	opMarkEnd      = "mark"
	opObserve      = "observe"
	opUnobserve    = "unobserve"
	opAddReport    = "report"
	opRemoveReport = "remove-report"
	opPassGate     = "gate"
	opSetCannot    = "cannot"
	opAccept       = "accept"
)

// read reads an edit of a type.
func read[T Edit](data []byte) (Edit, error) {
	var e T
	err := json.Unmarshal(data, &e)
	return e, err
}

var reading = map[string]func([]byte) (Edit, error){
	opSetCircuit:   read[SetCircuit],
	opAddBox:       read[AddBox],
	opSetBox:       read[SetBox],
	opRemoveBox:    read[RemoveBox],
	opAddCable:     read[AddCable],
	opSetCable:     read[SetCable],
	opJoinStubs:    read[JoinStubs],
	opRemoveCable:  read[RemoveCable],
	opAddDevice:    read[AddDevice],
	opSetDevice:    read[SetDevice],
	opRemoveDevice: read[RemoveDevice],
	opConnect:      read[Connect],
	opMove:         read[Move],
	opHangLoose:    read[HangLoose],
	opDisconnect:   read[Disconnect],
	opMarkEnd:      read[MarkEnd],
	opObserve:      read[Observe],
	opUnobserve:    read[Unobserve],
	opAddReport:    read[AddReport],
	opRemoveReport: read[RemoveReport],
	opPassGate:     read[PassGate],
	opSetCannot:    read[SetCannot],
	opAccept:       read[Accept],
}

// Edits are one empty edit of each type, by its name where it travels.
func Edits() map[string]Edit {
	out := map[string]Edit{}
	for op, of := range reading {
		e, err := of([]byte("{}"))
		if err != nil {
			panic("survey: an edit that cannot be empty: " + op)
		}
		out[op] = e
	}
	return out
}

// Stamped is an edit whose reading or gates bear a time, that at which it is written where they do not
// say. The time is as RFC 3339 has it.
func Stamped(e Edit, now string) Edit {
	switch e := e.(type) {
	case Observe:
		if e.Observation != nil && e.Observation.Time == "" {
			o := *e.Observation
			o.Time, e.Observation = now, &o
		}
		e.More = slices.Clone(e.More)
		for i := range e.More {
			if e.More[i].Time == "" {
				e.More[i].Time = now
			}
		}
		return e
	case PassGate:
		e.Gates = slices.Clone(e.Gates)
		for i := range e.Gates {
			if e.Gates[i].Time == "" {
				e.Gates[i].Time = now
			}
		}
		return e
	}
	return e
}

// Note is an edit as it travels: an object whose "op" says which edit it is, beside the fields of that.
type Note struct{ Edit }

// UnmarshalJSON reads an edit. The error for a name that is none is an [*circuit.Error].
func (n *Note) UnmarshalJSON(data []byte) error {
	var named struct {
		Op string `json:"op"`
	}
	if err := json.Unmarshal(data, &named); err != nil {
		return err
	}
	of, known := reading[named.Op]
	if !known {
		return refuse(circuit.CodeUnknownID, "op", "there is no operation %q", named.Op)
	}
	e, err := of(data)
	n.Edit = e
	return err
}

// MarshalJSON writes an edit.
func (n Note) MarshalJSON() ([]byte, error) {
	fields, err := json.Marshal(n.Edit)
	if err != nil {
		return nil, err
	}
	op, err := json.Marshal(n.op())
	if err != nil {
		return nil, err
	}
	out := append([]byte(`{"op":`), op...)
	if len(fields) > len("{}") {
		out = append(out, ',')
	}
	return append(out, fields[1:]...), nil
}
