package pdf

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/fitting"
	"ambivia/core/inspect"
	"ambivia/core/record"
	"ambivia/core/retrofit"
)

// fittedFor is the record of a circuit fitted by one of its plans; each step for which skip holds is left out with a long note.
func fittedFor(t *testing.T, c *circuit.Circuit, pick int, photos []record.Photo, skip func(n int) bool) *record.Circuit {
	t.Helper()
	found := inspect.Compile(c)
	options := slices.DeleteFunc(retrofit.Plan(c).Options, func(o retrofit.Option) bool { return !o.Feasible || o.Metrics.BoxesTouched == 0 })
	if len(options) == 0 {
		return record.Of(record.Source{Found: found, Photos: photos})
	}
	o := &options[pick%len(options)]
	at := today.Date
	var log []fitting.Entry
	add := func(e fitting.Entry) {
		at = at.Add(time.Minute)
		e.Number, e.Time, e.By = len(log)+1, at, "R. Moss"
		log = append(log, e)
	}
	add(fitting.Entry{Kind: fitting.Begin, Began: fitting.Began{Run: fitting.Read(nil).NewRun(found, o, device.NewLibrary(nil), nil, 2, nil)}})
	for s := fitting.Read(log); s.Now > 0; s = fitting.Read(log) {
		step := s.Run.Steps[s.Now-1]
		e := fitting.Entry{Kind: fitting.Done, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Asked: step.Asks}}
		if skip(step.Number) && step.Gate == "" {
			e = fitting.Entry{Kind: fitting.Skip, OfSteps: fitting.OfSteps{Steps: []int{step.Number}, Reason: "The plaster is wet."}, Note: strings.Repeat("mortar fell in ", 30)}
		}
		add(e)
	}
	for i := range 8 {
		add(fitting.Entry{Kind: fitting.Fault, Note: fmt.Sprintf("the lamp hums at %d %%", 10*i)})
	}
	return record.Of(record.Source{Found: found, Option: o, Library: device.NewLibrary(nil), Log: log, Photos: photos})
}

// TestHandedOver: a record has one sheet for the job and at most two for each circuit that was changed, however much went wrong
// and however many circuits and photographs there are; no text is on another; the annex has all of it.
func TestHandedOver(t *testing.T) {
	var jpg bytes.Buffer
	if err := jpeg.Encode(&jpg, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	var photos []record.Photo
	for i := range 14 {
		photos = append(photos, record.Photo{ID: fmt.Sprint(i), Where: "Sack loft", Note: "the cable behind the beam", Created: today.Date, Picture: func() ([]byte, error) { return jpg.Bytes(), nil }})
	}
	rng := rand.New(rand.NewPCG(30, 4))
	whole := func(int) bool { return false }
	spoilt := func(n int) bool { return n%2 == 0 }
	jobs := map[string][]*record.Circuit{
		"no circuit":            nil,
		"not changed":           {record.Of(record.Source{Found: inspect.Compile(circuittest.Straight())})},
		"one":                   {fittedFor(t, circuittest.Straight(), 0, nil, whole)},
		"all that goes wrong":   {fittedFor(t, circuittest.Straight(), 1, photos, spoilt)},
		"six places, and wrong": {fittedFor(t, circuittest.Row(6), 0, photos, spoilt)},
	}
	var many []*record.Circuit
	for i := range 4 {
		many = append(many, fittedFor(t, circuittest.Walls(rng, 2+i%2), i, photos[:i], [](func(int) bool){whole, spoilt}[i%2]))
	}
	jobs["a house"] = many
	jobs["sixty"] = slices.Repeat(many[:2], 30)
	for name, circuits := range jobs {
		r := &record.Record{Job: "Tide mill", Date: today.Date, Circuits: circuits,
			Firm: record.Firm{Name: "Lantern and Loft Electrical", Licence: "LL 0417", Address: "2 Sluice Lane, Millhaven", Picture: jpg.Bytes()}, Customer: record.Customer{Name: "The mill", Notes: strings.Repeat("Ring twice. ", 20)}}
		most := 1
		for _, c := range circuits {
			if c.Changed() {
				most += 2
			}
		}
		var plain, annex bytes.Buffer
		if err := Record(&plain, r, today, A4, false); err != nil {
			t.Fatal(err)
		}
		if n := Sheets(plain.Bytes()); n > most {
			t.Errorf("%s: %d sheets, at most %d", name, n, most)
		}
		if name == "sixty" {
			continue
		}
		words := apart(t, name, plain.Bytes())
		if err := Record(&annex, r, today, A4, true); err != nil {
			t.Fatal(err)
		}
		all := apart(t, name+" with annex", annex.Bytes())
		if Sheets(annex.Bytes()) < Sheets(plain.Bytes())+len(circuits) {
			t.Errorf("%s: the annex adds nothing", name)
		}
		if slices.Contains(all, "noted") {
			t.Errorf("%s: a row says that something was not noted", name)
		}
		if !slices.Contains(words, "customer:") {
			t.Errorf("%s: no place to sign", name)
		}
		for _, c := range circuits { // a fault that the first sheets have no room for is in the annex
			for _, text := range c.Failed {
				if last := strings.Fields(text); !slices.Contains(all, last[len(last)-2]) {
					t.Errorf("%s: %q is nowhere", name, text)
				}
			}
		}
	}
}
