package store_test

import (
	"context"
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"

	"ambivia/store"
	"ambivia/store/storetest"
)

// TestBin: what is removed can be had back whole for a while; until then nobody can read or
// change it, and no id is ever used again.
func TestBin(t *testing.T) {
	ctx := context.Background()
	s := open(t, filepath.Join(t.TempDir(), "bin.db"))
	job, _ := s.CreateJob(ctx, "Wool shed")
	c, err := s.CreateCircuit(ctx, job.ID, store.Change{Summary: "made", Document: []byte("{}")})
	if err != nil {
		t.Fatal(err)
	}
	photo, err := s.AddPhoto(ctx, store.Photo{Circuit: c.ID, Box: "b", Width: 1, Height: 1}, []byte("jpeg"))
	if err != nil {
		t.Fatal(err)
	}
	if err := s.DeleteCircuit(ctx, c.ID); err != nil {
		t.Fatal(err)
	}
	gone := func(when string) {
		t.Helper()
		_, circuit := s.Circuit(ctx, c.ID)
		_, revise := s.Revise(ctx, c.ID, c.Head.ID, store.Change{Summary: "late", Document: []byte("{}")})
		_, picture := s.Picture(ctx, photo.ID)
		for what, err := range map[string]error{"circuit": circuit, "change": revise, "picture": picture, "wish": s.Wish(ctx, c.ID, "", []byte("{}")), "removed again": s.DeleteCircuit(ctx, c.ID)} {
			if !errors.Is(err, store.ErrNotFound) {
				t.Errorf("%s, %s: %v", when, what, err)
			}
		}
	}
	gone("circuit in the bin")
	if list, _ := s.Circuits(ctx, job.ID); len(list) != 0 {
		t.Errorf("the job still lists %d circuits", len(list))
	}
	if bin, err := s.Bin(ctx); err != nil || len(bin) != 1 || bin[0].Circuit != c.ID || string(bin[0].Document) != "{}" {
		t.Errorf("bin %+v, %v", bin, err)
	}
	if err := s.RestoreCircuit(ctx, c.ID); err != nil {
		t.Fatal(err)
	}
	if back, err := s.Circuit(ctx, c.ID); err != nil || back.Head.ID != c.Head.ID {
		t.Errorf("restored: %+v, %v", back, err)
	}
	if err := s.DeleteJob(ctx, job.ID); err != nil {
		t.Fatal(err)
	}
	gone("job in the bin")
	if err := s.RestoreCircuit(ctx, c.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a circuit restored without its job: %v", err)
	}
	if err := s.RestoreJob(ctx, job.ID); err != nil {
		t.Fatal(err)
	}
	if back, err := s.Job(ctx, job.ID); err != nil || back.Circuits != 1 {
		t.Errorf("the job restored has %d circuits, %v", back.Circuits, err)
	}
	if err := s.DeleteJob(ctx, job.ID); err != nil {
		t.Fatal(err)
	}
	if err := s.EmptyBin(ctx, time.Now().Add(-store.Kept)); err != nil {
		t.Fatal(err)
	}
	if bin, _ := s.Bin(ctx); len(bin) != 1 {
		t.Errorf("emptied too soon: %+v", bin)
	}
	if err := s.EmptyBin(ctx, time.Now().Add(time.Second)); err != nil {
		t.Fatal(err)
	}
	if bin, _ := s.Bin(ctx); len(bin) != 0 {
		t.Errorf("not emptied: %+v", bin)
	}
	next, _ := s.CreateJob(ctx, "Tide mill")
	other, err := s.CreateCircuit(ctx, next.ID, store.Change{Summary: "made", Document: []byte("{}")})
	if err != nil || next.ID == job.ID || other.ID == c.ID || other.Head.ID <= c.Head.ID {
		t.Errorf("an id used twice: job %s after %s, circuit %s after %s, revision %s after %s, %v", next.ID, job.ID, other.ID, c.ID, other.Head.ID, c.Head.ID, err)
	}
}

// TestOldDatabase: a database of the schema before, with all that hangs together in it, is
// brought to the newest one and loses nothing.
func TestOldDatabase(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "old.db")
	db, err := sql.Open("sqlite", "file:"+path+"?_pragma=foreign_keys(1)")
	if err != nil {
		t.Fatal(err)
	}
	script, err := os.ReadFile("testdata/schema-4.sql")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.ExecContext(ctx, string(script)); err != nil {
		t.Fatal(err)
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	s := open(t, path)
	jobs, err := s.Jobs(ctx)
	if err != nil || len(jobs) != 2 || jobs[1].Circuits != 2 {
		t.Fatalf("%+v, %v", jobs, err)
	}
	n := storetest.Numbers{Store: s}
	number := func(id string) string { return n.Circuit(t, map[string]int{"3": 1, "5": 2}[id]) }
	c, err := s.Circuit(ctx, number("3"))
	if err != nil || c.Head.Number != 2 || string(c.Head.Document) != "second" || !c.CanUndo || !c.CanRedo {
		t.Errorf("%+v, %v", c, err)
	}
	if c, err = s.Redo(ctx, c.ID, c.Head.ID); err != nil || string(c.Head.Document) != "third" {
		t.Errorf("redo: %+v, %v", c, err)
	}
	photos, err := s.Photos(ctx, c.ID)
	if err != nil || len(photos) != 1 {
		t.Fatalf("%+v, %v", photos, err)
	}
	picture, err := s.Picture(ctx, photos[0].ID)
	if wishes, werr := s.Wishes(ctx, c.ID); err != nil || werr != nil || string(picture) != "jpeg" || string(wishes.Data) != "{}" || wishes.Version == "" {
		t.Errorf("%q %q %v %v", picture, wishes.Data, err, werr)
	}
	if house, err := s.House(ctx, number("5")); err != nil || house.Seed != 9 {
		t.Errorf("%+v, %v", house, err)
	}
}

// TestFile: the database is for its owner's eyes; a copy of it is consistent, and is never
// written over another file; a newer schema and a damaged file are refused by name; before the
// schema changes the file is copied as it was.
func TestFile(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	path := filepath.Join(dir, "file.db")
	s := open(t, path)
	if _, err := s.CreateJob(ctx, "Tide mill"); err != nil {
		t.Fatal(err)
	}
	if info, err := os.Stat(path); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("mode %v, %v", info.Mode(), err)
	}
	copied := filepath.Join(dir, "copy.db")
	if err := s.Backup(ctx, copied); err != nil {
		t.Fatal(err)
	}
	if err := s.Backup(ctx, copied); !errors.Is(err, os.ErrExist) {
		t.Errorf("a copy over another: %v", err)
	}
	if jobs, err := open(t, copied).Jobs(ctx); err != nil || len(jobs) != 1 {
		t.Errorf("the copy has %d jobs, %v", len(jobs), err)
	}
	newer := filepath.Join(dir, "newer.db")
	if err := s.Backup(ctx, newer); err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("sqlite", "file:"+newer)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.ExecContext(ctx, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)`); err != nil {
		t.Fatal(err)
	}
	_ = db.Close()
	if _, err := store.Open(ctx, newer); !errors.Is(err, store.ErrNewer) {
		t.Errorf("a newer schema: %v", err)
	}
	damaged := filepath.Join(dir, "damaged.db")
	data, err := os.ReadFile(copied)
	if err != nil {
		t.Fatal(err)
	}
	for i := 5000; i < len(data) && i < 24000; i++ {
		data[i] ^= 0x5a
	}
	if err := os.WriteFile(damaged, data, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := store.Open(ctx, damaged); err == nil {
		t.Error("a damaged file is opened")
	}
	old := filepath.Join(dir, "old.db")
	script, err := os.ReadFile("testdata/schema-4.sql")
	if err != nil {
		t.Fatal(err)
	}
	if db, err = sql.Open("sqlite", "file:"+old); err != nil {
		t.Fatal(err)
	}
	if _, err := db.ExecContext(ctx, string(script)); err != nil {
		t.Fatal(err)
	}
	_ = db.Close()
	open(t, old)
	if matches, _ := filepath.Glob(old + ".before-schema-*"); len(matches) != 1 {
		t.Errorf("copies before the schema changed: %v", matches)
	}
}
