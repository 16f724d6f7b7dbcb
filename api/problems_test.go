package api_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/photo"
	"ambivia/store/storetest"
)

// TestProblems: each wrong request has its status and code, and breaks nothing.
func TestProblems(t *testing.T) {
	b := newBench(t)
	b.call("POST", "/jobs", map[string]any{"name": "x"}, 201)
	c := b.call("POST", "/jobs/1/circuits", map[string]any{"name": "x", "practice": "na"}, 201)
	b.call("POST", "/circuits/1/edits", edit(c["revision"], map[string]any{"op": "add-box", "preset": "panel"}), 200)
	first, head := c["revision"].(string), b.call("GET", "/circuits/1", nil, 200)["revision"].(string)
	cases := []struct {
		method, path string
		body         any
		status       int
		code         string
	}{
		{"GET", "/jobs/9", nil, 404, "not-found"},
		{"GET", "/circuits/x", nil, 400, "bad-request"},
		{"POST", "/jobs", map[string]any{"name": "  "}, 422, "name"},
		{"POST", "/jobs", map[string]any{"name": 7}, 400, "bad-request"},
		{"POST", "/jobs/1/circuits", map[string]any{"name": "x", "practice": "mars"}, 422, "schema"},
		{"POST", "/jobs/9/circuits", map[string]any{"name": "x", "practice": "na"}, 404, "not-found"},
		{"POST", "/jobs/1/import", []byte("{}"), 422, "missing-field"},
		{"POST", "/jobs/1/import", bytes.Repeat([]byte(" "), circuit.MaxBytes+10), 413, "too-large"},
		{"POST", "/import", []byte("PK, but not really"), 422, "not-an-archive"},
		{"POST", "/import", []byte("{}"), 422, "missing-field"},
		{"GET", "/jobs/9/archive", nil, 404, "not-found"},
		{"GET", "/photos/9", nil, 404, "not-found"},
		{"DELETE", "/photos/9", nil, 404, "not-found"},
		{"PATCH", "/photos/9", map[string]any{"note": "x"}, 404, "not-found"},
		{"PATCH", "/photos/9", map[string]any{"note": strings.Repeat("x", 1001)}, 422, "schema"},
		{"POST", "/circuits/1/boxes/panel/photos", []byte("<svg/>"), 422, "photo-type"},
		{"POST", "/circuits/1/boxes/panel/photos", make([]byte, photo.MaxBytes+9), 413, "too-large"},
		{"POST", "/circuits/1/boxes/attic/photos", []byte("x"), 404, "not-found"},
		{"POST", "/circuits/1/edits", edit(first, map[string]any{"op": "add-box", "kind": "switch"}), 409, "stale"},
		{"POST", "/circuits/1/edits", edit(storetest.Nobody, map[string]any{"op": "add-box", "kind": "switch"}), 422, "unknown-revision"},
		{"POST", "/circuits/1/edits", edit(head, map[string]any{"op": "add-box", "kind": "attic"}), 422, "schema"},
		{"POST", "/circuits/1/edits", edit(head, map[string]any{"op": "connect", "box": "panel", "of": []string{"k1"}}), 400, "bad-request"},
		{"POST", "/circuits/1/choice", map[string]any{"base": head, "option": "magic"}, 422, "unknown-option"},
		{"POST", "/circuits/1/press", map[string]any{"of": "found", "state": map[string]int{"s9": 1}}, 422, "unknown-state"},
		{"POST", "/circuits/1/press", map[string]any{"of": "found", "state": map[string]int{}, "under": map[string]any{"lifted": []string{"x"}}}, 422, "end"},
		{"POST", "/circuits/1/undo", map[string]any{"base": 2}, 400, "bad-request"},
		{"POST", "/circuits/1/undo", map[string]any{}, 400, "bad-request"},
		{"PUT", "/circuits/1/wishes", map[string]any{"wishes": map[string]any{}}, 400, "bad-request"},
		{"PUT", "/circuits/1/wishes", map[string]any{"base": "", "wishes": nil}, 400, "null"},
		{"PUT", "/circuits/1/wishes", map[string]any{"base": "", "wishes": map[string]any{"wishes": nil}}, 400, "null"},
		{"POST", "/jobs", []byte(nil), 400, "bad-request"},
		{"POST", "/circuits/1/edits", edit(head, map[string]any{"op": "set-circuit", "name": nil}), 400, "null"},
		{"POST", "/circuits/1/undo", map[string]any{"base": first}, 409, "stale"},
	}
	for _, k := range cases {
		t.Run(fmt.Sprintf("%s %s %s", k.method, k.path, k.code), func(t *testing.T) {
			p := b.call(k.method, k.path, k.body, k.status)
			if p["code"] != k.code {
				t.Errorf("code %v (%v), want %s", p["code"], p["detail"], k.code)
			}
		})
	}
	stale := b.call("POST", "/circuits/1/edits", edit(first, map[string]any{"op": "add-box", "kind": "switch"}), 409)
	if !strings.Contains(fmt.Sprint(stale["changed"]), "Panel added") || stale["head"] != head {
		t.Errorf("a stale change is told %v, head %v", stale["changed"], stale["head"])
	}
	if now := b.call("GET", "/circuits/1", nil, 200); now["revision"] != head {
		t.Errorf("wrong requests made revision %v", now["revision"])
	}
}
