package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// TestTraceByHand traces a hidden house with the two commands alone, as somebody who
// has nothing but the files would, and holds the answers to the shape of the contract.
func TestTraceByHand(t *testing.T) {
	whole := file(t, circuittest.Straight(), "", "")
	hide := []string{"house", whole, "--seed", "5", "--open", "foot,head"}
	text, err := run(append(hide, "--survey")...)
	if err != nil {
		t.Fatal(err)
	}
	c, err := circuit.Parse([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	type answer struct {
		Worlds int
		Done   bool
		Roles  map[string]map[string]float64
		Cables []struct {
			Stubs []string
			To    string
		}
		Next *struct {
			Test     json.RawMessage
			Why      string
			Outcomes []struct {
				Reading any
				Worlds  int
			}
		}
		Contradiction *struct{}
		Circuit       *circuit.Circuit
	}
	last := answer{}
	for range 20 {
		out, err := run("trace", file(t, c, "", ""), "--prefer", "trips")
		if err != nil {
			t.Fatal(err)
		}
		for _, key := range []string{"worlds", "done", "roles", "cables", "next", "contradiction", "circuit"} {
			if !strings.Contains(out, `"`+key+`"`) {
				t.Fatalf("no %s in the answer", key)
			}
		}
		last = answer{}
		if err := json.Unmarshal([]byte(out), &last); err != nil {
			t.Fatal(err)
		}
		if last.Done {
			break
		}
		if last.Next == nil || last.Next.Why == "" || len(last.Next.Outcomes) < 2 {
			t.Fatalf("not done, and no next test: %s", out)
		}
		root := newRoot()
		var got bytes.Buffer
		root.SetIn(bytes.NewReader(bytes.ReplaceAll(last.Next.Test, []byte("\n"), nil)))
		root.SetOut(&got)
		root.SetArgs(hide)
		if err := root.Execute(); err != nil {
			t.Fatal(err)
		}
		var o circuit.Observation
		if err := json.Unmarshal(last.Next.Test, &o); err != nil {
			t.Fatal(err)
		}
		var reading struct{ Reading any }
		if err := json.Unmarshal(got.Bytes(), &reading); err != nil {
			t.Fatal(err)
		}
		o.Reading = reading.Reading
		c.Observations = append(c.Observations, o)
	}
	if !last.Done || last.Circuit == nil || len(last.Cables) == 0 {
		t.Fatalf("not traced in 20 tests: %+v", last)
	}
	if out, err := run("check", file(t, last.Circuit, "", "")); err != nil || !strings.Contains(out, `"verdict": "works"`) {
		t.Errorf("the traced circuit: %v, %.200s", err, out)
	}
	if out, err := run("trace", whole, "--tree"); err != nil || !strings.Contains(out, `"meanWalks": 0`) {
		t.Errorf("the tree of a circuit that is known: %v, %.200s", err, out)
	}
}

// TestTraceRefuses: one clear line that names the place.
func TestTraceRefuses(t *testing.T) {
	c := circuittest.Straight()
	c.Observations = []circuit.Observation{{Power: "on", Instrument: circuit.NonContact, At: []circuit.End{{Ref: circuit.Ref{Owner: "w1", Part: "black"}, Box: "foot"}}, Reading: "live"}}
	for _, x := range []struct {
		args []string
		says string
	}{
		{[]string{"trace", file(t, c, `"reading": "live"`, `"reading": "lit"`)}, "observations[0].reading"},
		{[]string{"trace", file(t, c, `"w1.black@foot"`, `"w9.black@foot"`)}, "observations[0].at[0]"},
		{[]string{"trace", file(t, c, "", ""), "--prefer", "ease"}, "--prefer"},
		{[]string{"trace", filepath.Join(t.TempDir(), "none.json")}, "none.json"},
		{[]string{"house", file(t, c, "", ""), "--open", "cellar", "--seed", "1", "--survey"}, "cellar"},
	} {
		out, err := run(x.args...)
		if err == nil || !strings.Contains(err.Error(), x.says) || strings.Contains(err.Error(), "\n") || out != "" {
			t.Errorf("%v: %v; printed %q", x.args, err, out)
		}
	}
	root := newRoot()
	root.SetIn(strings.NewReader("{\"power\":\"on\",\"instrument\":\"lamp\"}\n{\"power\":1}\n"))
	var out bytes.Buffer
	root.SetOut(&out)
	root.SetArgs([]string{"house", file(t, circuittest.Straight(), "", ""), "--seed", "1"})
	if err := root.Execute(); err == nil || !strings.Contains(err.Error(), "line 2") || strings.Count(out.String(), "\n") != 1 {
		t.Errorf("a bad test on line 2: %v, after %q", err, fmt.Sprint(out.String()))
	}
}
