package exchange_test

import (
	"bytes"
	"context"
	"encoding/json"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
	"ambivia/exchange"
	"ambivia/store"
)

func open(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "a.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func must[T any](t *testing.T) func(T, error) T {
	return func(x T, err error) T {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return x
	}
}

func read(data []byte) (*exchange.Job, error) {
	return exchange.Read(bytes.NewReader(data), int64(len(data)))
}

// TestToAnotherProgram: a job goes out of one store and into another with its wishes, with
// people's own device models and with a choice of such; a model of the same id that is
// there already is left alone, and the one that comes stands beside it under an id of its own.
func TestToAnotherProgram(t *testing.T) {
	here, there := open(t), open(t)
	doc := circuittest.Straight()
	job := must[store.Job](t)(must[*exchange.Job](t)(exchange.Fresh("Wool shed", doc)).Write(t.Context(), here))
	circuit := must[[]store.Circuit](t)(here.Circuits(t.Context(), job.ID))[0]

	own, _ := device.NewLibrary(nil).Get("sensing-either")
	own.ID, own.Name = "shed-sensor", "Shed sensor"
	model := must[[]byte](t)(json.Marshal(own))
	if _, err := here.PutDevices(t.Context(), map[string]store.Versioned{own.ID: {Data: model}}); err != nil {
		t.Fatal(err)
	}
	wishes := []byte(`{"wishes":{"keep-switches":"must"}}`)
	if err := here.Wish(t.Context(), circuit.ID, "", wishes); err != nil {
		t.Fatal(err)
	}
	request := retrofit.Request{Library: device.NewLibrary([]device.Device{own})}
	var chosen *retrofit.Option
	answer, err := procedure.Plan(context.Background(), inspect.Compile(doc), request)
	if err != nil {
		t.Fatal(err)
	}
	for _, o := range answer.Options {
		if chosen == nil && strings.HasPrefix(o.ID, retrofit.SensingSwitch) {
			chosen = procedure.Offer(inspect.Compile(doc), request, o.ID+":shed-sensor")
		}
	}
	if chosen == nil {
		t.Fatal("nobody's own sensor is offered")
	}
	must[store.Circuit](t)(here.Revise(t.Context(), circuit.ID, circuit.Head.ID, store.Change{Summary: "Chosen", Document: circuit.Head.Document, Choice: chosen.ID, Planned: must[[]byte](t)(json.Marshal(chosen))}))

	own.Name = "Another of that id"
	other := must[[]byte](t)(json.Marshal(own))
	for _, already := range []bool{false, true} {
		if already {
			seen := must[[]store.Versioned](t)(there.Devices(t.Context()))[0].Version
			if _, err := there.PutDevices(t.Context(), map[string]store.Versioned{own.ID: {Version: seen, Data: other}}); err != nil {
				t.Fatal(err)
			}
		}
		var packed bytes.Buffer
		if err := exchange.Export(t.Context(), here, job.ID, &packed); err != nil {
			t.Fatal(err)
		}
		copied := must[store.Job](t)(must[*exchange.Job](t)(read(packed.Bytes())).Write(t.Context(), there))
		circuit := must[[]store.Circuit](t)(there.Circuits(t.Context(), copied.ID))[0]
		want := chosen.ID
		if already {
			want = strings.ReplaceAll(want, "shed-sensor", "shed-sensor-2")
		}
		if circuit.Head.Choice != want {
			t.Errorf("the choice comes out as %q; want %q", circuit.Head.Choice, want)
		}
		if planned := (retrofit.Option{}); json.Unmarshal(circuit.Head.Planned, &planned) != nil || planned.Devices[0].Name != "Shed sensor" {
			t.Errorf("what was chosen is %+v", planned.Devices)
		}
		if got := must[store.Versioned](t)(there.Wishes(t.Context(), circuit.ID)); string(got.Data) != string(wishes) {
			t.Errorf("wishes come out as %s", got.Data)
		}
		devices := must[[]store.Versioned](t)(there.Devices(t.Context()))
		if want := map[bool][]byte{false: model, true: other}[already]; string(devices[0].Data) != string(want) || len(devices) != map[bool]int{false: 1, true: 2}[already] {
			t.Errorf("with a model of that id there already %t: %d devices, %s", already, len(devices), devices[0].Data)
		}
	}
}

// TestUnreadable: what is neither an archive nor a circuit file is refused, and names the place.
func TestUnreadable(t *testing.T) {
	for text, place := range map[string]string{`{"format": "ambivia-circuit/1"}`: "practice", "PK\x03\x04": "archive", "": "JSON"} {
		if _, err := read([]byte(text)); err == nil || !strings.Contains(err.Error(), place) {
			t.Errorf("%q: %v; want something about %q", text, err, place)
		}
	}
}
