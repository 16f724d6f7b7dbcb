package store_test

import (
	"context"
	"database/sql"
	"errors"
	"path/filepath"
	"sync"
	"testing"

	"ambivia/core/limits"
	"ambivia/store"
)

// TestLogIsOnlyAddedTo: entries follow each other whoever writes; what is there nobody changes or takes out, not even by
// hand in the file; it goes with its circuit and with nothing else.
func TestLogIsOnlyAddedTo(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "a.db")
	s := open(t, path)
	job, err := s.CreateJob(ctx, "Mill")
	if err != nil {
		t.Fatal(err)
	}
	c, err := s.CreateCircuit(ctx, job.ID, store.Change{Summary: "made", Document: []byte("{}")})
	if err != nil {
		t.Fatal(err)
	}
	var won, lost int
	var mu sync.Mutex
	for base := range 20 {
		var both sync.WaitGroup
		for range 2 { // two people write after the same entry
			both.Go(func() {
				_, err := s.AddToLog(ctx, c.ID, base, "Ada", []byte(`{"kind":"note"}`))
				mu.Lock()
				defer mu.Unlock()
				switch {
				case err == nil:
					won++
				case errors.Is(err, store.ErrStale):
					lost++
				default:
					t.Error(err)
				}
			})
		}
		both.Wait()
	}
	list, err := s.Log(ctx, c.ID)
	if err != nil || won != 20 || lost != 20 || len(list) != 20 || list[19].Number != 20 || list[0].By != "Ada" || list[0].Created.IsZero() {
		t.Errorf("%d taken, %d refused, %d kept: %v", won, lost, len(list), err)
	}
	raw, err := sql.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer raw.Close()
	raw.SetMaxOpenConns(1)
	if _, err := raw.Exec(`PRAGMA foreign_keys = 1`); err != nil {
		t.Fatal(err)
	}
	for _, evil := range []string{`UPDATE log SET data = '{}'`, `DELETE FROM log WHERE number = 7`, `UPDATE log SET made_by = 'Eve'`} {
		if _, err := raw.Exec(evil); err == nil {
			t.Errorf("%s is done", evil)
		}
	}
	var full *limits.Error
	if _, err := s.AddToLog(ctx, c.ID, 20, "", make([]byte, limits.LogBytes)); !errors.As(err, &full) {
		t.Errorf("an entry that fills the log: %v", err)
	}
	if _, err := s.AddToLog(ctx, "nobody", 0, "", nil); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("an entry to no circuit: %v", err)
	}
	if ids, err := s.Worked(ctx, 5); err != nil || len(ids) != 1 || ids[0] != c.ID {
		t.Errorf("worked at %v, %v", ids, err)
	}
	if _, err := raw.Exec(`DELETE FROM circuits`); err != nil {
		t.Errorf("a circuit with a log cannot be removed: %v", err)
	}
	var left int
	if err := raw.QueryRow(`SELECT count(*) FROM log`).Scan(&left); err != nil || left != 0 {
		t.Errorf("%d entries are left of a circuit that is gone: %v", left, err)
	}
}

// TestParties: who does the work is replaced only by whoever saw it; customers belong to their job.
func TestParties(t *testing.T) {
	ctx := context.Background()
	s := open(t, ":memory:")
	first, err := s.Firm(ctx)
	if err != nil || string(first.Data) != "{}" {
		t.Fatal(err)
	}
	kept, err := s.PutFirm(ctx, first.Version, []byte(`{"name":"A"}`))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.PutFirm(ctx, first.Version, []byte(`{"name":"B"}`)); !errors.Is(err, store.ErrStale) {
		t.Errorf("over what nobody saw: %v", err)
	}
	if now, err := s.Firm(ctx); err != nil || now.Version != kept.Version || string(now.Data) != `{"name":"A"}` {
		t.Errorf("%s, %v", now.Data, err)
	}
	job, err := s.CreateJob(ctx, "Mill")
	if err != nil {
		t.Fatal(err)
	}
	if err := s.PutCustomer(ctx, job.ID, "", []byte(`{"name":"C"}`)); err != nil {
		t.Fatal(err)
	}
	if data, err := s.Customer(ctx, job.ID); err != nil || string(data.Data) != `{"name":"C"}` {
		t.Errorf("%s, %v", data, err)
	}
	if err := s.PutCustomer(ctx, "nobody", "", nil); !errors.Is(err, store.ErrNotFound) {
		t.Error(err)
	}
}
