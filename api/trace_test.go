package api_test

import (
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// TestTraceContract traces a hidden house over the contract: gates, readings, a test by
// hand, the tree, the circuit of record; and what is refused.
func TestTraceContract(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "Tide mill"}, 201)
	var file strings.Builder
	if err := circuit.Write(&file, circuittest.Straight()); err != nil {
		t.Fatal(err)
	}
	b.call("POST", "/jobs/1/import", []byte(file.String()), 201)
	if got := b.call("GET", "/circuits/1/trace", nil, 200); got["done"] != true {
		t.Errorf("a circuit that is known: %v", got)
	}
	b.call("POST", "/circuits/1/ask", map[string]any{"power": "on", "instrument": "lamp"}, 404)
	b.call("GET", "/circuits/1/house", nil, 404)
	c := b.call("POST", "/circuits/1/house", nil, 201)
	if c["house"] != true || c["id"] != 2.0 {
		t.Fatalf("the hidden house: %v", c)
	}
	b.call("POST", "/circuits/2/house", nil, 422) // what is half known does not work yet
	b.call("POST", "/circuits/2/record", map[string]any{"base": c["revision"]}, 422)
	if tree := b.call("GET", "/circuits/2/trace/tree?prefer=trips", nil, 200); tree["worstTests"].(float64) < 1 {
		t.Errorf("the tree: %v", tree)
	}
	c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "report", "says": "works"}), 200)
	for range 20 {
		told := b.call("GET", "/circuits/2/trace", nil, 200)
		if told["done"] == true {
			break
		}
		next := told["next"].(map[string]any)
		if gates := next["gates"].([]any); len(gates) > 0 {
			var pass []any
			for _, g := range gates {
				pass = append(pass, map[string]any{"gate": g.(map[string]any)["gate"], "box": g.(map[string]any)["box"]})
				if pass[len(pass)-1].(map[string]any)["box"] == nil {
					delete(pass[len(pass)-1].(map[string]any), "box")
				}
			}
			c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "gate", "gates": pass}), 200)
		}
		test := next["test"].(map[string]any)
		b.call("POST", "/circuits/2/trace/preview", test, 200)
		test["reading"] = b.call("POST", "/circuits/2/ask", test, 200)["reading"]
		c = b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "observe", "observation": test}), 200)
	}
	doc := c["document"].(map[string]any)
	first := doc["observations"].([]any)[0].(map[string]any)
	if _, err := time.Parse(time.RFC3339, first["time"].(string)); err != nil {
		t.Errorf("when it was read: %v", err)
	}
	if got := b.call("GET", "/circuits/2/house", nil, 200); got["right"] != got["ends"] || got["ends"].(float64) < 10 {
		t.Errorf("compared with the house: %v", got)
	}
	c = b.call("POST", "/circuits/2/record", map[string]any{"base": c["revision"]}, 200)
	if verdict := c["reading"].(map[string]any)["report"].(map[string]any)["verdict"]; verdict != "works" {
		t.Errorf("the circuit of record is %v", verdict)
	}
	b.call("POST", "/circuits/2/edits", edit(c["revision"], map[string]any{"op": "unobserve", "index": 0}), 200)
	for body, place := range map[string]map[string]any{
		"observations[0].at[0]": {"power": "on", "instrument": "non-contact", "at": []string{"k77.black@foot"}},
		"observations[0].at":    {"power": "off", "instrument": "continuity", "at": []string{"s1.common"}},
	} {
		if got := b.call("POST", "/circuits/2/trace/preview", place, 422); got["place"] != body {
			t.Errorf("a test that makes no sense: %v", got)
		}
	}
	b.call("GET", "/circuits/9/trace", nil, 404)
}
