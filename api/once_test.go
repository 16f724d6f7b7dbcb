package api_test

import (
	"encoding/json"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/electric"
	"ambivia/core/trace"
)

// effort counts what one question of the page takes: documents parsed, circuits compiled, surveys
// enumerated.
func effort(do func()) (parses, compilations, enumerations int64) {
	p, c, e := circuit.Parses(), electric.Compilations(), trace.Enumerations()
	do()
	return circuit.Parses() - p, electric.Compilations() - c, trace.Enumerations() - e
}

// TestOnce: what is known of a circuit is worked out once for all who ask. A sheet of the chosen plan
// parses and compiles nothing that was compiled before; an edit parses its document once; a reading
// is held against the tracer that stands.
func TestOnce(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	doc, err := json.Marshal(circuittest.Chain(3))
	if err != nil {
		t.Fatal(err)
	}
	c := b.call("POST", "/jobs/1/import", doc, 201)
	option := b.call("GET", "/circuits/1/plan", nil, 200)["options"].([]any)[0].(map[string]any)["id"]
	c = b.call("POST", "/circuits/1/choice", map[string]any{"base": c["revision"], "option": option}, 200)

	get := func(path string) func() {
		return func() {
			if w := b.raw("GET", "/api/v1"+path, nil, nil); w.Code != 200 {
				t.Errorf("%s: %d, %.80s", path, w.Code, w.Body)
			}
		}
	}
	get("/circuits/1/paper/order")() // its final test compiles a circuit for each mistake, once
	for _, test := range []struct {
		path         string
		compilations int64
	}{
		{"/circuits/1/picture?of=planned&compare=true", 0},
		{"/circuits/1/picture?of=planned&view=line", 0},
		{"/circuits/1/picture?of=found&box=b1", 0},
		{"/circuits/1/paper/drawings", 0},
		{"/circuits/1/paper/planned", 0},
		{"/circuits/1/paper/labels", 0},
		{"/circuits/1/paper/order", 0},
		{"/circuits/1/paper/annex", 2}, // where the way back begins and ends: without readings and lone joins
		{"/circuits/1/materials", 0},
		{"/circuits/1/file", 0},
	} {
		if p, n, _ := effort(get(test.path)); p != 0 || n != test.compilations {
			t.Errorf("%s parses %d documents and compiles %d circuits, want 0 and %d", test.path, p, n, test.compilations)
		}
	}

	if p, n, _ := effort(func() {
		c = b.call("POST", "/circuits/1/edits", edit(c["revision"], map[string]any{"op": "set-box", "box": "b2", "name": "Landing"}), 200)
	}); p != 1 || n != 1 {
		t.Errorf("an edit parses %d documents and compiles %d circuits, want 1 and 1", p, n)
	}

	c = b.call("POST", "/circuits/1/house", nil, 201)
	told := b.call("GET", "/circuits/2/trace", nil, 200)
	for n := 0; n < 6 && told["done"] != true; n++ {
		test := told["next"].(map[string]any)["test"].(map[string]any)
		test["reading"] = b.call("POST", "/circuits/2/ask", test, 200)["reading"]
		p, _, e := effort(func() {
			c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "observe", "observation": test}), 200)
			told = b.call("GET", "/circuits/2/trace", nil, 200)
			b.call("POST", "/circuits/2/trace/preview", test, 200)
		})
		if p != 2 || e != 0 { // the edit's, and the test that is looked at beforehand
			t.Errorf("reading %d: %d documents parsed, %d enumerations, want 2 and none", n+1, p, e)
		}
	}
}
