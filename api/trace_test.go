package api_test

import (
	"encoding/json"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/store/storetest"
)

// TestTracing walks from a hidden house to the circuit of record over the contract: the tree,
// tests that the house answers, a test by hand, a reading taken back; nothing is recorded
// before all is certain, and the record is right.
func TestTracing(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	doc, err := json.Marshal(circuittest.Chain(2))
	if err != nil {
		t.Fatal(err)
	}
	b.call("POST", "/jobs/1/import", doc, 201)
	b.call("GET", "/circuits/1/house", nil, 404)
	c := b.call("POST", "/circuits/1/house", nil, 201)
	if c["house"] != true {
		t.Error("a hidden house is not said to be one")
	}
	told := b.call("GET", "/circuits/2/trace", nil, 200)
	if told["done"] == true || told["worlds"].(float64) < 2 {
		t.Fatalf("before any test: %v worlds, done %v", told["worlds"], told["done"])
	}
	if code := b.call("POST", "/circuits/2/record", map[string]any{"base": c["revision"]}, 422)["code"]; code != "not-traced" {
		t.Errorf("recorded before it was certain: %v", code)
	}
	if tree := b.call("GET", "/circuits/2/trace/tree?prefer=trips", nil, 200); tree["branches"] == nil {
		t.Error("the tree has no branch")
	}
	if far := b.call("GET", "/circuits/2/trace/followed?prefer=trips", nil, 200)["tests"]; far != 0.0 {
		t.Errorf("a tree that is done is still being followed: %v tests", far)
	}
	b.call("POST", "/circuits/2/trace/preview", map[string]any{"power": "off", "instrument": "continuity", "at": []string{"nothing.black@b1", "s1.common"}}, 422)
	b.call("POST", "/circuits/2/ask", map[string]any{"power": "off", "instrument": "tea-leaves"}, 422)
	undone := false
	for range 40 {
		if told["done"] == true {
			break
		}
		test := told["next"].(map[string]any)["test"].(map[string]any)
		if preview := b.call("POST", "/circuits/2/trace/preview", test, 200); len(preview["outcomes"].([]any)) < 2 {
			t.Errorf("the next test tells nothing: %v", preview)
		}
		test["reading"] = b.call("POST", "/circuits/2/ask", test, 200)["reading"]
		c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "observe", "observation": test}), 200)
		before := told["worlds"]
		told = b.call("GET", "/circuits/2/trace", nil, 200)
		if !undone && told["done"] != true {
			undone = true
			c = b.call("POST", "/circuits/2/undo", map[string]any{"base": c["revision"]}, 200)
			if again := b.call("GET", "/circuits/2/trace", nil, 200); again["worlds"] != before {
				t.Errorf("a reading taken back leaves %v worlds of %v", again["worlds"], before)
			}
			c = b.call("POST", "/circuits/2/redo", map[string]any{"base": c["revision"]}, 200)
		}
	}
	if told["done"] != true {
		t.Fatalf("never done: %v worlds left", told["worlds"])
	}
	if right := b.call("GET", "/circuits/2/house", nil, 200); right["ends"] != right["right"] || len(right["wrong"].([]any)) > 0 {
		t.Errorf("%v of %v are right: %v", right["right"], right["ends"], right["wrong"])
	}
	c = b.call("POST", "/circuits/2/record", map[string]any{"base": c["revision"]}, 200)
	if ready, _ := c["reading"].(map[string]any)["ready"].(bool); !ready {
		t.Errorf("the record of a traced circuit is not ready to plan on: %v", c["reading"].(map[string]any)["next"])
	}
	b.call("POST", "/circuits/2/record", map[string]any{"base": storetest.Nobody}, 422)
}

// TestBreakerOutlivesUndo: a breaker that was turned on is on, whatever of the record is
// undone: the next test that touches a wire asks for it off, and for the boxes proved dead.
func TestBreakerOutlivesUndo(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	doc, err := json.Marshal(circuittest.Chain(2))
	if err != nil {
		t.Fatal(err)
	}
	b.call("POST", "/jobs/1/import", doc, 201)
	c := b.call("POST", "/circuits/1/house", nil, 201)
	asked := func() []string {
		var out []string
		next := b.call("GET", "/circuits/2/trace", nil, 200)["next"].(map[string]any)
		for _, g := range next["gates"].([]any) {
			out = append(out, g.(map[string]any)["gate"].(string))
		}
		return out
	}
	if got := asked(); len(got) < 2 || got[0] != "breaker-off" {
		t.Fatalf("before anything: %v", got)
	}
	pass := func(gates ...map[string]any) {
		t.Helper()
		c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "gate", "gates": gates}), 200)
	}
	pass(map[string]any{"gate": "breaker-off"}, map[string]any{"gate": "proved-dead", "box": "b1"}, map[string]any{"gate": "proved-dead", "box": "b2"})
	if got := asked(); len(got) > 1 || len(got) == 1 && got[0] != "power-on" { // the next test may be a live one
		t.Fatalf("with all confirmed: %v", got)
	}
	pass(map[string]any{"gate": "power-on"})
	c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "observe", "observation": map[string]any{"power": "on", "instrument": "lamp", "reading": "lit"}}), 200)
	for range 2 { // the reading, then the gate
		c = b.call("POST", "/circuits/2/undo", map[string]any{"base": c["revision"]}, 200)
		if got := asked(); len(got) < 2 || got[0] != "breaker-off" {
			t.Errorf("the breaker is on, and after going back the next test asks for %v", got)
		}
	}
	c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "set-circuit", "controls": 2}), 200)
	if got := asked(); len(got) < 2 || got[0] != "breaker-off" {
		t.Errorf("after going on from there: %v", got)
	}
	b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "gate", "gates": []map[string]any{{"gate": "was-on"}}}), 422)
}

// TestForecast: where the answer does not wait for it, the breaker operations still to come are
// told on their own.
func TestForecast(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	doc, err := json.Marshal(circuittest.Chain(3))
	if err != nil {
		t.Fatal(err)
	}
	b.call("POST", "/jobs/1/import", doc, 201)
	b.call("POST", "/circuits/1/house", nil, 201)
	told := b.call("GET", "/circuits/2/trace", nil, 200)
	forecast := b.call("GET", "/circuits/2/trace/ahead", nil, 200)
	if told["ahead"] != nil || forecast["ahead"] == nil || forecast["schools"] == nil {
		t.Errorf("at once %v, on its own %v", told["ahead"], forecast)
	}
	b.call("GET", "/circuits/9/trace/ahead", nil, 404)
}

// TestToward: a plan that is named leads the tests. The house can answer each of them, and after a few the plan relies on nothing,
// or the answer says why it does not fit.
func TestToward(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	doc, err := json.Marshal(circuittest.Chain(2))
	if err != nil {
		t.Fatal(err)
	}
	b.call("POST", "/jobs/1/import", doc, 201)
	c := b.call("POST", "/circuits/1/house", nil, 201)
	plan := ""
	for _, x := range b.call("GET", "/circuits/2/plan", nil, 200)["options"].([]any) {
		o := x.(map[string]any)
		if o["feasible"] == true && len(o["relies"].([]any)) > 0 && plan == "" {
			plan = o["id"].(string)
		}
	}
	for n := 0; ; n++ {
		told := b.call("GET", "/circuits/2/trace?toward="+plan, nil, 200)
		toward, named := told["toward"].(map[string]any)
		if !named || toward["enough"] == true || toward["refused"] != nil {
			if n == 0 {
				t.Errorf("%s is not led to: %v", plan, told["toward"])
			}
			return
		}
		if n > 12 {
			t.Fatalf("%s still relies on %v", plan, toward["relies"])
		}
		test := told["next"].(map[string]any)["test"].(map[string]any)
		test["reading"] = b.call("POST", "/circuits/2/ask", test, 200)["reading"]
		c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "observe", "observation": test}), 200)
	}
}
