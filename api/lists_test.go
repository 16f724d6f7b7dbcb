package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/house"
	"ambivia/core/survey"
)

// circuitAddresses are the addresses of the contract that answer about one circuit and need no more
// than that it is named.
func circuitAddresses(t *testing.T) []string {
	t.Helper()
	doc, err := openapi3.NewLoader().LoadFromFile("openapi.yaml")
	if err != nil {
		t.Fatal(err)
	}
	var out []string
	for path, item := range doc.Paths.Map() {
		if item.Get != nil && strings.HasPrefix(path, "/circuits/{circuit}") && strings.Count(path, "{") == 1 {
			out = append(out, strings.TrimPrefix(path, "/circuits/{circuit}"))
		}
	}
	slices.Sort(out)
	if len(out) < 10 {
		t.Fatalf("only %d addresses about a circuit", len(out))
	}
	return out
}

// listsIn reports the places of an answer at which the contract wants a list and there is none. The
// answer may be a refusal.
func (b *bench) listsIn(path string) {
	b.t.Helper()
	w := b.raw("GET", "/api/v1"+path, nil, nil)
	if w.Code >= 500 {
		b.t.Errorf("%s: status %d: %s", path, w.Code, w.Body)
		return
	}
	request := httptest.NewRequest("GET", "/api/v1"+b.ids.Address(b.t, path), nil)
	route, params, err := b.router.FindRoute(request)
	if err != nil {
		b.t.Fatalf("%s: %v", path, err)
	}
	err = openapi3filter.ValidateResponse(context.Background(), &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: request, PathParams: params, Route: route},
		Status:                 w.Code, Header: w.Header(), Body: io.NopCloser(bytes.NewReader(w.Body.Bytes())),
	})
	if err != nil {
		b.t.Errorf("%s: %v", path, err)
	}
}

// TestListsAreLists asks every address about circuits that are hardly known, or that nothing
// fits: what is a list by the contract is one in each answer, and an empty one is [].
func TestListsAreLists(t *testing.T) {
	if testing.Short() {
		t.Skip("long")
	}
	addresses := circuitAddresses(t)
	of := map[string]func(b *bench){}
	for _, practice := range []string{"na", "uk", "au", "in", "eu"} {
		for _, box := range survey.Empty {
			of[practice+", first box: "+box.Text] = func(b *bench) {
				c := b.call("POST", "/jobs/1/circuits", map[string]any{"name": "New", "practice": practice}, 201)
				b.call("POST", "/circuits/1/edits", edit(c["revision"], map[string]any{"op": "add-box", "kind": box.Kind}), 200)
			}
		}
	}
	of["nothing recorded"] = func(b *bench) {
		b.call("POST", "/jobs/1/circuits", map[string]any{"name": "New", "practice": "na"}, 201)
	}
	imported := func(c *circuit.Circuit) func(b *bench) {
		return func(b *bench) {
			data, err := json.Marshal(c)
			if err != nil {
				t.Fatal(err)
			}
			b.call("POST", "/jobs/1/import", data, 201)
		}
	}
	h, err := house.New(circuittest.Chain(2), 1, nil)
	if err != nil {
		t.Fatal(err)
	}
	half := h.Survey()
	of["half known"] = imported(half)
	none := half.Clone()
	for _, reading := range []string{"lit", "dark"} {
		none.Observations = append(none.Observations, circuit.Observation{Power: "on", Instrument: circuit.LampLook, Reading: reading})
	}
	of["no circuit fits"] = imported(none)
	for name, make := range of {
		t.Run(name, func(t *testing.T) {
			b := newBench(t)
			b.call("POST", "/jobs", map[string]any{"name": "Tide mill"}, 201)
			make(b)
			for _, a := range addresses {
				b.listsIn("/circuits/1" + a)
			}
		})
	}
}

// TestPages: jobs and revisions come by pages of a size, the newest first, each once; without a size all come in one page.
func TestPages(t *testing.T) {
	b := newBench(t)
	for i := range 5 {
		b.call("POST", "/jobs", map[string]any{"name": fmt.Sprintf("Mill %d", i+1)}, 201)
	}
	var names []string
	before := ""
	for range 5 {
		page := b.list("GET", "/jobs?limit=2"+before)
		if len(page) == 0 {
			break
		}
		for _, x := range page {
			j := x.(map[string]any)
			names, before = append(names, j["name"].(string)), "&before="+j["id"].(string)
		}
	}
	if want := []string{"Mill 5", "Mill 4", "Mill 3", "Mill 2", "Mill 1"}; !slices.Equal(names, want) {
		t.Errorf("by pages: %v, want %v", names, want)
	}
	if all := b.list("GET", "/jobs"); len(all) != 5 {
		t.Errorf("%d jobs in one page", len(all))
	}
	b.call("GET", "/jobs?limit=0", nil, 400)
	c := b.call("POST", "/jobs/1/circuits", map[string]any{"name": "Stair", "practice": "na"}, 201)
	for i := range 4 {
		c = b.call("POST", "/circuits/1/edits", map[string]any{"base": c["revision"], "edit": map[string]any{"op": "set-circuit", "name": fmt.Sprintf("Stair %d", i)}}, 200)
	}
	var numbers []float64
	for from := ""; ; {
		page := b.list("GET", "/circuits/1/history?limit=3"+from)
		if len(page) == 0 {
			break
		}
		for _, x := range page {
			n := x.(map[string]any)["number"].(float64)
			numbers, from = append(numbers, n), fmt.Sprintf("&before=%v", n)
		}
	}
	if !slices.Equal(numbers, []float64{5, 4, 3, 2, 1}) {
		t.Errorf("revisions by pages: %v", numbers)
	}
}
