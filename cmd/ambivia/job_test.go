package main

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"ambivia/exchange"
	"ambivia/store"
)

// planned is what a test reads of the options of a circuit by the command for it alone.
type planned struct {
	Options []struct {
		ID       string
		Feasible bool
		Metrics  struct {
			Price, Minutes     float64
			Ladders, Batteries int
		}
	}
}

// lookedAt is what a test reads of a circuit of a job.
type lookedAt struct {
	ID, Name, Wiring, State string
	Families                []struct {
		Family, Why string
		Best        *string
	}
}

// TestJob: a job planned as one has for each circuit what planning that circuit alone finds cheapest, or quickest; what must not be
// needed is needed by none; the order holds the devices of the first plan.
func TestJob(t *testing.T) {
	dir := t.TempDir()
	s, err := openStore(t.Context(), filepath.Join(dir, "a.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	made, err := s.CreateJob(t.Context(), "Mill house")
	if err != nil {
		t.Fatal(err)
	}
	var alone []planned
	files := []string{"../../demo/observatory/chart-room.json", "../../demo/observatory/west-dome.json", "../../demo/mill/landing-rose.json"}
	for _, file := range files {
		doc, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := s.CreateCircuit(t.Context(), made.ID, store.Change{Summary: "As found", Document: doc}); err != nil {
			t.Fatal(err)
		}
		text, err := run("plan", file)
		if err != nil {
			t.Fatal(err)
		}
		var p planned
		if err := json.Unmarshal([]byte(text), &p); err != nil {
			t.Fatal(err)
		}
		alone = append(alone, p)
	}
	path := filepath.Join(dir, "job.zip")
	f, err := os.Create(path)
	if err != nil {
		t.Fatal(err)
	}
	if err := exchange.Export(t.Context(), s, made.ID, f); err != nil {
		t.Fatal(err)
	}
	f.Close()
	for _, x := range []struct {
		args  []string
		least func(price, minutes float64) float64
		may   func(ladders, batteries int) bool
	}{
		{nil, func(price, _ float64) float64 { return price }, func(int, int) bool { return true }},
		{[]string{"--rate", "60"}, func(price, minutes float64) float64 { return price + minutes }, func(int, int) bool { return true }},
		{[]string{"--by", "time"}, func(_, minutes float64) float64 { return minutes }, func(int, int) bool { return true }},
		{[]string{"--without", "ladder,battery"}, func(price, _ float64) float64 { return price }, func(l, b int) bool { return l == 0 && b == 0 }},
	} {
		text, err := run(append([]string{"job", path}, x.args...)...)
		if err != nil {
			t.Fatal(err)
		}
		var got struct {
			Circuits []lookedAt
			Plans    []struct {
				Choices        map[string]string
				Price, Minutes float64
				Devices        map[string]int
			}
			Breakers []struct {
				Label    string
				Circuits []string
			}
			Order []struct {
				Group string
				Count int
			}
		}
		if err := json.Unmarshal([]byte(text), &got); err != nil {
			t.Fatal(err)
		}
		price, minutes := 0.0, 0.0
		for i, c := range got.Circuits {
			least, chosen := math.Inf(1), math.NaN()
			for _, o := range alone[i].Options {
				if !o.Feasible || !x.may(o.Metrics.Ladders, o.Metrics.Batteries) {
					continue
				}
				m := x.least(o.Metrics.Price, o.Metrics.Minutes)
				least = min(least, m)
				if o.ID == got.Plans[0].Choices[c.ID] {
					chosen = m
					price, minutes = price+o.Metrics.Price, minutes+o.Metrics.Minutes
				}
			}
			if !(chosen <= least+1e-9) && !math.IsInf(least, 1) {
				t.Errorf("%v: %s takes %v, the least is %v", x.args, c.Name, chosen, least)
			}
			for _, f := range c.Families {
				if (f.Best == nil) == (f.Why == "") {
					t.Errorf("%v: %s, family %s: best %v, why %q", x.args, c.Name, f.Family, f.Best, f.Why)
				}
			}
		}
		devices, ordered := 0, 0
		for _, n := range got.Plans[0].Devices {
			devices += n
		}
		for _, o := range got.Order {
			if o.Group == "Devices" {
				ordered += o.Count
			}
		}
		if math.Abs(got.Plans[0].Price-price) > 1e-6 || math.Abs(got.Plans[0].Minutes-minutes) > 1e-6 || ordered < devices {
			t.Errorf("%v: sums %v and %v, want %v and %v; %d devices, %d ordered", x.args, got.Plans[0].Price, got.Plans[0].Minutes, price, minutes, devices, ordered)
		}
		if len(got.Breakers) != 3 || slices.ContainsFunc(got.Circuits, func(c lookedAt) bool {
			return c.Wiring == "" || c.State == ""
		}) {
			t.Errorf("%v: %+v, %+v", x.args, got.Breakers, got.Circuits)
		}
	}
	for args, says := range map[string]string{"--by money": "none of price, time, families", "--without stairs": "none of battery, hub, internet, ladder", "--rate -1": "no price of an hour"} {
		if _, err := run(append([]string{"job", path}, strings.Fields(args)...)...); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", args, err)
		}
	}
}
