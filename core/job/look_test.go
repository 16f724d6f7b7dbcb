package job_test

import (
	"reflect"
	"slices"
	"testing"

	"ambivia/core/circuittest"
	"ambivia/core/device"
	"ambivia/core/inspect"
	"ambivia/core/job"
	"ambivia/core/procedure"
	"ambivia/core/retrofit"
)

// TestTold: a plan that is kept without its documents tells a job the same as a fresh one, hubs included; the order of two circuits
// has a hub and the tools of one, and the devices of both.
func TestTold(t *testing.T) {
	request := retrofit.Request{Library: device.NewLibrary(nil)}
	found := inspect.Compile(circuittest.Chain(2))
	fresh, err := job.Look(t.Context(), "1", found.Doc, request, nil)
	if err != nil {
		t.Fatal(err)
	}
	kept, err := procedure.Plan(t.Context(), found, request)
	if err != nil {
		t.Fatal(err)
	}
	for i := range kept.Options {
		kept.Options[i] = kept.Options[i].WithoutDocument()
	}
	if told := job.Told("1", found, request, kept); !reflect.DeepEqual(told.Options, fresh.Options) {
		t.Errorf("kept: %+v\nfresh: %+v", told.Options, fresh.Options)
	}
	i := slices.IndexFunc(fresh.Options, func(o job.Option) bool { return len(o.Hubs) > 0 })
	if i < 0 {
		t.Fatal("no option needs a hub")
	}
	second, err := job.Look(t.Context(), "2", found.Doc, request, nil)
	if err != nil {
		t.Fatal(err)
	}
	choice := fresh.Options[i].ID
	one, err := fresh.Materials(t.Context(), choice)
	if err != nil {
		t.Fatal(err)
	}
	both, err := job.Order(t.Context(), []*job.Looked{fresh, second}, job.Plan{Choices: map[string]string{"1": choice, "2": choice}})
	if err != nil || len(both) != len(one) {
		t.Fatalf("%d lines for one, %d for both, %v", len(one), len(both), err)
	}
	hubs := 0
	for k, x := range both {
		want := 2 * one[k].Count
		if x.Group == procedure.Tools || x.Note == "on every end that is lifted" || x.What == "hub for "+fresh.Options[i].Hubs[0] {
			want = one[k].Count
		}
		if x.What == "hub for "+fresh.Options[i].Hubs[0] {
			hubs++
		}
		if x.Count != want {
			t.Errorf("%s: %d, want %d", x.What, x.Count, want)
		}
	}
	if hubs != 1 {
		t.Errorf("%d lines of hubs", hubs)
	}
}
