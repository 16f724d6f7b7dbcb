package store_test

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"sync"
	"testing"

	"ambivia/store"
	"ambivia/store/storetest"
)

func open(t *testing.T, path string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), path)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// TestUndoAcrossRestart: edits, undos and a restart between each step; the head
// is always the revision that the steps lead to.
func TestUndoAcrossRestart(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "a file with spaces?.db")
	s := open(t, path)
	job, err := s.CreateJob(ctx, "Guest house")
	if err != nil {
		t.Fatal(err)
	}
	c, err := s.CreateCircuit(ctx, job.ID, store.Change{Summary: "made", Document: []byte("0")})
	if err != nil {
		t.Fatal(err)
	}
	steps := []struct {
		do         string
		want       string
		undo, redo bool
	}{
		{"1", "1", true, false}, {"2", "2", true, false}, {"undo", "1", true, true}, {"undo", "0", false, true},
		{"redo", "1", true, true}, {"3", "3", true, false}, {"undo", "1", true, true}, {"redo", "3", true, false},
	}
	for i, step := range steps {
		if err := s.Close(); err != nil {
			t.Fatal(err)
		}
		s = open(t, path)
		base := c.Head.ID
		switch step.do {
		case "undo":
			c, err = s.Undo(ctx, c.ID, base)
		case "redo":
			c, err = s.Redo(ctx, c.ID, base)
		default:
			c, err = s.Revise(ctx, c.ID, base, store.Change{Summary: step.do, Document: []byte(step.do)})
		}
		if err != nil {
			t.Fatalf("step %d, %s: %v", i, step.do, err)
		}
		if string(c.Head.Document) != step.want || c.CanUndo != step.undo || c.CanRedo != step.redo {
			t.Fatalf("step %d, %s: at %s, undo %v, redo %v", i, step.do, c.Head.Document, c.CanUndo, c.CanRedo)
		}
	}
	history, err := s.History(ctx, c.ID)
	if err != nil || len(history) != 4 {
		t.Fatalf("%d revisions, %v", len(history), err)
	}
	if old, err := s.Revision(ctx, c.ID, history[2].ID); err != nil || string(old.Document) != "2" {
		t.Errorf("the branch that was undone is lost: %s, %v", old.Document, err)
	}
	if _, err := s.Redo(ctx, c.ID, c.Head.ID); !errors.Is(err, store.ErrNothing) {
		t.Errorf("redo at the end: %v", err)
	}
}

// TestStale: of many who change the same revision at once, one succeeds.
func TestStale(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "x.db"))
	job, _ := s.CreateJob(ctx, "x")
	c, err := s.CreateCircuit(ctx, job.ID, store.Change{Document: []byte("0")})
	if err != nil {
		t.Fatal(err)
	}
	var wg sync.WaitGroup
	results := make([]error, 8)
	for i := range results {
		wg.Go(func() {
			_, results[i] = s.Revise(ctx, c.ID, c.Head.ID, store.Change{Document: fmt.Append(nil, i)})
		})
	}
	wg.Wait()
	won := 0
	for _, err := range results {
		if err == nil {
			won++
		} else if !errors.Is(err, store.ErrStale) {
			t.Error(err)
		}
	}
	if won != 1 {
		t.Errorf("%d changes of one revision succeeded", won)
	}
}

func TestJobs(t *testing.T) {
	ctx := context.Background()
	s := open(t, ":memory:")
	a, _ := s.CreateJob(ctx, "a")
	if _, err := s.CreateCircuit(ctx, storetest.Nobody, store.Change{}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a circuit of no job: %v", err)
	}
	c, err := s.CreateCircuit(ctx, a.ID, store.Change{Document: []byte("{}")})
	if err != nil {
		t.Fatal(err)
	}
	if a, err = s.ChangeJob(ctx, a.ID, new("b"), nil); err != nil || a.Name != "b" || a.Circuits != 1 {
		t.Errorf("%+v, %v", a, err)
	}
	if _, err := s.ChangeJob(ctx, a.ID, new(" "), new(true)); err == nil {
		t.Error("a job without a name")
	}
	if again, err := s.ChangeJob(ctx, a.ID, nil, nil); err != nil || again.Archived || again.Name != "b" { // all or nothing
		t.Errorf("after a change that was refused: %+v, %v", again, err)
	}
	for _, over := range []bool{true, false} {
		if both, err := s.ChangeJob(ctx, a.ID, new("c"), &over); err != nil || both.Archived != over || both.Name != "c" {
			t.Errorf("both at once: %+v, %v", both, err)
		}
	}
	if list, err := s.Circuits(ctx, a.ID); err != nil || len(list) != 1 {
		t.Errorf("%d circuits, %v", len(list), err)
	}
	if err := s.DeleteJob(ctx, a.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Circuit(ctx, c.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a circuit outlives its job: %v", err)
	}
	if err := s.DeleteJob(ctx, a.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("deleting twice: %v", err)
	}
	if err := s.DeleteCircuit(ctx, c.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("deleting a circuit that is gone: %v", err)
	}
}
