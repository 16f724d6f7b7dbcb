package device

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"ambivia/core/circuit"
)

// Schema is the published JSON Schema of a file of devices, draft 2020-12.
//
//go:embed schema.json
var Schema []byte

// MaxBytes is the largest file of devices that is read.
const MaxBytes = 4 << 20

// Error says what is wrong with a file of devices, and where.
type Error struct {
	Code  string // "not-json", "schema", "terminals", "model" or "behaviour"
	Place string // as "devices[3].stands"
	Text  string
}

func (e *Error) Error() string {
	if e.Place == "" {
		return e.Text
	}
	return e.Place + ": " + e.Text
}

var compiled = sync.OnceValue(func() *jsonschema.Schema {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		panic("device: the embedded schema is not JSON: " + err.Error())
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("urn:ambivia:devices:1", doc); err != nil {
		panic("device: " + err.Error())
	}
	return c.MustCompile("urn:ambivia:devices:1")
})

type file struct {
	Format  string   `json:"format"`
	Devices []Device `json:"devices"`
}

// Read reads a file of devices and tries each on the bench. The error is an [*Error].
func Read(raw []byte) ([]Device, error) {
	if len(raw) > MaxBytes {
		return nil, &Error{"too-large", "", fmt.Sprintf("the file is larger than %d MB", MaxBytes>>20)}
	}
	raw = bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf")) // some editors write one
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	if err != nil {
		return nil, &Error{"not-json", "", "this is no JSON document: " + err.Error()}
	}
	if err := compiled().Validate(value); err != nil {
		return nil, explain(err)
	}
	var f file
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&f); err != nil {
		return nil, &Error{"model", "", "a model has a field that the format lacks: " + strings.TrimPrefix(err.Error(), "json: ")}
	}
	for i, d := range f.Devices {
		place := fmt.Sprintf("devices[%d]", i)
		if slices.ContainsFunc(f.Devices[:i], func(x Device) bool { return x.ID == d.ID }) {
			return nil, &Error{"duplicate-id", place + ".id", fmt.Sprintf("a device %q stands above already", d.ID)}
		}
		if err := check(d); err != nil {
			err.Place = place + err.Place
			return nil, err
		}
	}
	return f.Devices, nil
}

// Check checks one device as [Read] does: its terminals, its model, its behaviour. The error
// is an [*Error] whose place is within the device.
func Check(d Device) error {
	raw, err := Write([]Device{d})
	if err != nil {
		return err
	}
	if _, err = Read(raw); err != nil {
		var e *Error
		if errors.As(err, &e) {
			e.Place = strings.TrimPrefix(strings.TrimPrefix(e.Place, "devices[0]"), ".")
		}
		return err
	}
	return nil
}

// Write writes a file of devices.
func Write(devices []Device) ([]byte, error) {
	return json.MarshalIndent(file{Format, devices}, "", "  ")
}

// explain puts the first leaf of the schema's verdict into words.
func explain(err error) *Error {
	var failed *jsonschema.ValidationError
	if !errors.As(err, &failed) {
		return &Error{"schema", "", err.Error()}
	}
	for len(failed.Causes) > 0 {
		failed = failed.Causes[0]
	}
	place := ""
	for _, part := range failed.InstanceLocation {
		switch {
		case part != "" && strings.Trim(part, "0123456789") == "":
			place += "[" + part + "]"
		case place == "":
			place = part
		default:
			place += "." + part
		}
	}
	return &Error{"schema", place, failed.ErrorKind.LocalizedString(message.NewPrinter(language.English))}
}

// check looks at what no schema can say.
func check(d Device) *Error {
	for _, t := range d.Model.Terminals {
		if d.Stands[t] == "" {
			return &Error{"terminals", ".stands", fmt.Sprintf("the model has a terminal %q, and nothing says what it stands on", t)}
		}
	}
	for t := range d.Stands {
		if !slices.Contains(d.Model.Terminals, t) {
			return &Error{"terminals", ".stands", fmt.Sprintf("the model has no terminal %q", t)}
		}
	}
	doc := &circuit.Circuit{Format: circuit.Format, Practice: "na", Boxes: []circuit.Box{{ID: "bench", Kind: circuit.Switch}}, Cables: []circuit.Cable{},
		Devices: []circuit.Device{{ID: "d", Box: "bench", Type: circuit.TypeSmart, Model: "m"}}, Joins: []circuit.Join{}, Models: map[string]circuit.Model{"m": d.Model}}
	if err := circuit.Recheck(doc); err != nil {
		return &Error{"model", ".model", strings.ReplaceAll(err.Error(), "models.m.", "")}
	}
	if err := Try(d); err != nil {
		return &Error{"behaviour", ".model", err.Error()}
	}
	return nil
}
