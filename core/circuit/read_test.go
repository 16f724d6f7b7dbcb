package circuit_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"math/rand/v2"
	"os"
	"reflect"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// base is a small valid document that the table below spoils.
const base = `{
  "format": "ambivia-circuit/1", "practice": "na",
  "boxes": [{"id": "panel", "kind": "panel"}, {"id": "foot", "kind": "switch", "opened": false}, {"id": "head", "kind": "switch"}],
  "cables": [
    {"id": "w1", "ends": ["panel", "foot"], "cores": ["black", "white", "bare"]},
    {"id": "w2", "ends": ["foot", "head"], "cores": ["black", "red"]},
    {"id": "w9", "ends": ["head", null], "cores": ["black"]}
  ],
  "devices": [
    {"id": "supply", "box": "panel", "type": "supply"},
    {"id": "s1", "box": "foot", "type": "three-way"},
    {"id": "m1", "box": "head", "type": "smart", "model": "relay"},
    {"id": "r1", "box": "head", "type": "smart", "model": "remote"},
    {"id": "lamp1", "box": "head", "type": "lamp", "watts": 9.5}
  ],
  "joins": [
    {"box": "panel", "of": ["w1.black", "supply.hot"]},
    {"box": "foot", "of": ["w1.black", "s1.common"]}
  ],
  "marks": [{"end": "w1.white@foot", "as": "line"}],
  "models": {
    "relay": {"terminals": ["line", "load"], "supply": [["line", "load"]], "throughLoad": true,
      "switches": [{"id": "out", "pole": "line", "throws": ["load"], "dims": false}], "button": {"toggles": "out"}, "remote": "out"},
    "remote": {"terminals": [], "supply": [], "button": {"sends": true}}
  },
  "links": [{"from": "r1", "to": "m1", "via": "radio"}],
  "observations": [
    {"power": "on", "instrument": "two-pole", "at": ["w1.black@foot", "s1.t1"], "reading": 118.5},
    {"power": "off", "instrument": "continuity", "lifted": ["s1.common"], "flipped": ["s1"], "lampsOut": ["lamp1"], "at": ["w1.black@foot", "w1.white@foot"]}
  ]
}`

func TestReadRefuses(t *testing.T) {
	cases := []struct {
		name, old, new string
		code           circuit.Code
		place          string
	}{
		{"not JSON", `"format"`, `format`, circuit.CodeSyntax, ""},
		{"cut off", base[len(base)/2:], ``, circuit.CodeSyntax, ""},
		{"two documents", base, base + base, circuit.CodeSyntax, ""},
		{"a field twice", `"practice": "na"`, `"practice": "na", "practice": "uk"`, circuit.CodeDuplicateKey, "practice"},
		{"other format", `circuit/1`, `circuit/2`, circuit.CodeSchema, "format"},
		{"unknown practice", `"na"`, `"mars"`, circuit.CodeSchema, "practice"},
		{"unknown field", `"kind": "panel"`, `"kind": "panel", "colour": "blue"`, circuit.CodeUnknownField, "boxes[0].colour"},
		{"missing field", `"id": "w2", `, ``, circuit.CodeMissingField, "cables[1]"},
		{"bad id", `"id": "w2"`, `"id": "W 2"`, circuit.CodeSchema, "cables[1].id"},
		{"unknown colour", `"black", "red"`, `"black", "pink"`, circuit.CodeSchema, "cables[1].cores[1]"},
		{"core twice", `"black", "red"`, `"black", "black"`, circuit.CodeDuplicateID, "cables[1].cores[1]"},
		{"number as text", `9.5`, `"9.5"`, circuit.CodeSchema, "devices[4].watts"},
		{"box twice", `"id": "head", "kind"`, `"id": "foot", "kind"`, circuit.CodeDuplicateID, "boxes[2].id"},
		{"device and cable of one id", `"id": "s1"`, `"id": "w1"`, circuit.CodeDuplicateID, "devices[1].id"},
		{"cable to nowhere", `["foot", "head"]`, `["foot", "attic"]`, circuit.CodeUnknownID, "cables[1].ends[1]"},
		{"cable nobody saw", `["foot", "head"]`, `[null, null]`, circuit.CodeCableEnds, "cables[1].ends"},
		{"cable to itself", `["foot", "head"]`, `["foot", "foot"]`, circuit.CodeCableEnds, "cables[1].ends"},
		{"join in no box", `{"box": "foot", "of"`, `{"box": "attic", "of"`, circuit.CodeUnknownID, "joins[1].box"},
		{"join of no core", `"of": ["w1.black", "s1`, `"of": ["w1.blue", "s1`, circuit.CodeUnknownCore, "joins[1].of[0]"},
		{"join of no terminal", `s1.common"]}`, `s1.load"]}`, circuit.CodeUnknownPart, "joins[1].of[1]"},
		{"join of nothing", `s1.common"]}`, `s7.common"]}`, circuit.CodeUnknownID, "joins[1].of[1]"},
		{"core of another box", `"of": ["w1.black", "s1`, `"of": ["w9.black", "s1`, circuit.CodeWrongBox, "joins[1].of[0]"},
		{"terminal of another box", `s1.common"]}`, `lamp1.l"]}`, circuit.CodeWrongBox, "joins[1].of[1]"},
		{"end in two joins", `s1.common"]}`, `s1.common"]}, {"box": "foot", "of": ["w1.black", "s1.t1"]}`, circuit.CodeTwoJoins, "joins[2].of[0]"},
		{"end twice in a join", `s1.common"]}`, `w1.black"]}`, circuit.CodeTwoJoins, "joins[1].of[1]"},
		{"ungrammatical end", `s1.common"]}`, `s1 common"]}`, circuit.CodeSchema, "joins[1].of[1]"},
		{"mark without box", `w1.white@foot", "as"`, `w1.white", "as"`, circuit.CodeWrongBox, "marks[0].end"},
		{"mark on a terminal", `w1.white@foot", "as"`, `s1.t1", "as"`, circuit.CodeMisplaced, "marks[0].end"},
		{"position of a lamp", `"type": "lamp"`, `"type": "lamp", "position": 1`, circuit.CodeMisplaced, "devices[4].position"},
		{"watts of a switch", `"type": "three-way"`, `"type": "three-way", "watts": 4`, circuit.CodeMisplaced, "devices[1].watts"},
		{"position 3", `"type": "three-way"`, `"type": "three-way", "position": 3`, circuit.CodeSchema, "devices[1].position"},
		{"smart without model", `, "model": "relay"`, ``, circuit.CodeMissingField, "devices[2].model"},
		{"unknown model", `"model": "relay"`, `"model": "lever"`, circuit.CodeUnknownID, "devices[2].model"},
		{"model of a lamp", `"type": "lamp"`, `"type": "lamp", "model": "relay"`, circuit.CodeMisplaced, "devices[4].model"},
		{"relay without pole", `"pole": "line"`, `"pole": "hot"`, circuit.CodeUnknownPart, "models.relay.switches[0].pole"},
		{"button of no relay", `{"toggles": "out"}`, `{"toggles": "in"}`, circuit.CodeUnknownID, "models.relay.button.toggles"},
		{"link to a switch", `"to": "m1"`, `"to": "s1"`, circuit.CodeMisplaced, "links[0].to"},
		{"link to a remote", `"from": "r1", "to": "m1"`, `"from": "m1", "to": "r1"`, circuit.CodeContradicts, "links[0].to"},
		{"reading of the wrong kind", `118.5`, `"live"`, circuit.CodeObservation, "observations[0].reading"},
		{"one end too few", `["w1.black@foot", "s1.t1"]`, `["w1.black@foot"]`, circuit.CodeObservation, "observations[0].at"},
		{"continuity under power", `"power": "off"`, `"power": "on"`, circuit.CodeObservation, "observations[1].power"},
		{"core lifted", `["s1.common"]`, `["w1.black"]`, circuit.CodeObservation, "observations[1].lifted[0]"},
		{"endless number", `9.5`, `1e999999999`, circuit.CodeTooLarge, "devices[4].watts"},
		{"endlessly small number", `9.5`, `1e-999999999`, circuit.CodeSchema, "devices[4].watts"},
		{"number of many digits", `9.5`, `9.` + strings.Repeat("5", 1000), circuit.CodeTooLarge, "devices[4].watts"},
		{"deep nesting", `"marks": [`, `"marks": [` + strings.Repeat("[", 5000), circuit.CodeTooLarge, "marks[0][0][0][0][0][0][0][0][0][0][0]"},
	}
	if _, err := circuit.Parse([]byte(base)); err != nil {
		t.Fatalf("the base document: %v", err)
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			spoiled := strings.Replace(base, c.old, c.new, 1)
			if spoiled == base {
				t.Fatal("the case changes nothing")
			}
			_, err := circuit.Parse([]byte(spoiled))
			var e *circuit.Error
			if !errors.As(err, &e) {
				t.Fatalf("got %v, want an *Error", err)
			}
			first := e.Problems[0]
			if first.Code != c.code || first.Place != c.place {
				t.Errorf("got %s at %q (%s), want %s at %q", first.Code, first.Place, first.Text, c.code, c.place)
			}
			if c.code != circuit.CodeMissingField && first.Line == 0 {
				t.Error("no line is named")
			}
			if strings.Contains(e.Error(), "\n") {
				t.Error("the message has more than one line")
			}
		})
	}
}

func TestLineOfProblem(t *testing.T) {
	_, err := circuit.Parse([]byte(strings.Replace(base, `["foot", "head"]`, `["foot", "attic"]`, 1)))
	if want := `line 6, cables[1].ends[1]: there is no box "attic"`; err == nil || !strings.HasPrefix(err.Error(), want) {
		t.Errorf("got %v, want %s", err, want)
	}
}

func TestTooLarge(t *testing.T) {
	_, err := circuit.Read(strings.NewReader(strings.Repeat(" ", circuit.MaxBytes+1)))
	var e *circuit.Error
	if !errors.As(err, &e) || e.Problems[0].Code != circuit.CodeTooLarge {
		t.Errorf("got %v", err)
	}
}

// TestParallelCables: two cables side by side are usual and no ring.
func TestParallelCables(t *testing.T) {
	if _, err := circuit.Parse([]byte(strings.Replace(base, `["head", null]`, `["head", "foot"]`, 1))); err != nil {
		t.Error(err)
	}
}

func sameJSON(t *testing.T, a, b []byte) {
	t.Helper()
	var x, y any
	if err := json.Unmarshal(a, &x); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(b, &y); err != nil {
		t.Fatal(err)
	}
	if !reflect.DeepEqual(x, y) {
		t.Errorf("changed by reading and writing:\n%s\n---\n%s", a, b)
	}
}

func roundTrip(t *testing.T, data []byte) {
	t.Helper()
	c, err := circuit.Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := circuit.Write(&out, c); err != nil {
		t.Fatal(err)
	}
	sameJSON(t, data, out.Bytes())
}

func TestRoundTrip(t *testing.T) {
	roundTrip(t, []byte(base))
	if data, err := os.ReadFile("../../../shared/examples/split.json"); err == nil {
		roundTrip(t, data)
	}
	rng := rand.New(rand.NewPCG(1, 2))
	for range 50 {
		data, err := json.Marshal(circuittest.House(rng, 2+rng.IntN(4)))
		if err != nil {
			t.Fatal(err)
		}
		roundTrip(t, data)
	}
}

// FuzzParse: whatever the bytes, Parse returns a circuit that writes and reads
// back as itself, or an error that names a problem; it never panics.
func FuzzParse(f *testing.F) {
	f.Add([]byte(base))
	f.Add([]byte(`{"format":"ambivia-circuit/1","practice":"uk","boxes":[],"cables":[],"devices":[],"joins":[]}`))
	f.Add([]byte(`[[[[`))
	f.Add([]byte(`{"format":1e999999999}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := circuit.Parse(data)
		if err != nil {
			var e *circuit.Error
			if !errors.As(err, &e) || len(e.Problems) == 0 {
				t.Fatalf("not an *Error: %v", err)
			}
			return
		}
		var out bytes.Buffer
		if err := circuit.Write(&out, c); err != nil {
			t.Fatal(err)
		}
		again, err := circuit.Parse(out.Bytes())
		if err != nil {
			t.Fatalf("what was written is refused: %v", err)
		}
		if !reflect.DeepEqual(c, again) {
			t.Fatal("changed by writing and reading")
		}
	})
}
