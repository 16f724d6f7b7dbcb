package store_test

import (
	"bytes"
	"context"
	"errors"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"
	"time"

	"ambivia/core/limits"
	"ambivia/store"
)

// noise is a picture whose bytes stand nowhere else.
func noise(seed uint64, size int) []byte {
	rng := rand.New(rand.NewPCG(seed, 7))
	out := make([]byte, size)
	for i := range out {
		out[i] = byte(rng.Uint32())
	}
	return out
}

// TestRemovedPictures: a photograph that is removed, alone or with its circuit out of the bin, is in
// no file of the database any more, and the file is smaller by it.
func TestRemovedPictures(t *testing.T) {
	ctx, dir := t.Context(), t.TempDir()
	path := filepath.Join(dir, "a.db")
	s := open(t, path)
	job, err := s.CreateJob(ctx, "Tide mill")
	if err != nil {
		t.Fatal(err)
	}
	var circuits [2]store.Circuit
	var photos [2]store.Photo
	pictures := [2][]byte{noise(1, 300_000), noise(2, 300_000)}
	for i := range circuits {
		if circuits[i], err = s.CreateCircuit(ctx, job.ID, store.Change{Document: []byte("{}")}); err != nil {
			t.Fatal(err)
		}
		if photos[i], err = s.AddPhoto(ctx, store.Photo{Circuit: circuits[i].ID, Box: "b"}, pictures[i]); err != nil {
			t.Fatal(err)
		}
	}
	size := func() (n int64, has [2]bool) {
		files, err := filepath.Glob(filepath.Join(dir, "a.db*"))
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range files {
			data, err := os.ReadFile(f)
			if err != nil {
				t.Fatal(err)
			}
			if ext := filepath.Ext(f); ext == ".db" || ext == ".db-wal" {
				n += int64(len(data))
			}
			for i, p := range pictures {
				has[i] = has[i] || bytes.Contains(data, p[100_000:100_500])
			}
		}
		return n, has
	}
	if _, has := size(); !has[0] || !has[1] {
		t.Fatalf("the pictures are not found in the files at all: %v", has)
	}
	before, _ := size()
	if err := s.DeletePhoto(ctx, photos[0].ID); err != nil {
		t.Fatal(err)
	}
	now, has := size()
	if has[0] || !has[1] {
		t.Errorf("after one was removed: %v", has)
	}
	if err := errors.Join(s.DeleteCircuit(ctx, circuits[1].ID), s.EmptyBin(ctx, time.Now().Add(time.Minute))); err != nil {
		t.Fatal(err)
	}
	end, has := size()
	if has[1] {
		t.Error("a photograph outlives its circuit")
	}
	if now > before-250_000 || end > now-250_000 {
		t.Errorf("%d bytes, then %d, then %d: the room is not given back", before, now, end)
	}
}

// TestDiskFull: where there is no room nothing of a change is written, and that is said; removing
// makes room.
func TestDiskFull(t *testing.T) {
	ctx, path := t.Context(), filepath.Join(t.TempDir(), "a.db")
	s := open(t, path)
	job, c := circuitIn(t, s)
	var kept []store.Photo
	store.LimitPages(t, s, 200)
	var err error
	for i := range uint64(100) {
		var p store.Photo
		if p, err = s.AddPhoto(ctx, store.Photo{Circuit: c.ID, Box: "b"}, noise(i, 100_000)); err != nil {
			break
		}
		kept = append(kept, p)
	}
	if !errors.Is(err, store.ErrDiskFull) || len(kept) == 0 {
		t.Fatalf("%d photographs, then %v", len(kept), err)
	}
	if list, err := s.Photos(ctx, c.ID); err != nil || len(list) != len(kept) {
		t.Errorf("%d photographs of %d, %v", len(list), len(kept), err)
	}
	if _, err := s.Revise(ctx, c.ID, c.Head.ID, store.Change{Document: noise(3, 200_000)}); !errors.Is(err, store.ErrDiskFull) {
		t.Errorf("a revision without room: %v", err)
	}
	if now, err := s.Circuit(ctx, c.ID); err != nil || now.Head.ID != c.Head.ID {
		t.Errorf("half a revision is there: %v", err)
	}
	for _, p := range kept {
		if err := s.DeletePhoto(ctx, p.ID); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.Revise(ctx, c.ID, c.Head.ID, store.Change{Document: noise(3, 200_000)}); err != nil {
		t.Errorf("no room was made: %v", err)
	}
	if job, err := s.Job(ctx, job.ID); err != nil || job.Circuits != 1 {
		t.Errorf("%+v, %v", job, err)
	}
}

// TestLost: a file that was taken alone from where a program was at work says that something may be
// missing; one that was closed, or whose program was killed with all its files there, does not.
func TestLost(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	path := filepath.Join(dir, "a.db")
	copyOf := func(from, to string) {
		t.Helper()
		data, err := os.ReadFile(from)
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(to, data, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	s := open(t, path)
	if s.Lost() != nil {
		t.Error("a new database has lost something")
	}
	if _, err := s.CreateJob(ctx, "Tide mill"); err != nil {
		t.Fatal(err)
	}
	single, both := filepath.Join(dir, "single.db"), filepath.Join(dir, "both.db")
	copyOf(path, single)
	copyOf(path, both)
	copyOf(path+"-wal", both+"-wal")
	if c := open(t, single); c.Lost() == nil {
		t.Error("a file taken alone says nothing")
	}
	killed := open(t, both)
	if jobs, err := killed.Jobs(ctx); killed.Lost() != nil || err != nil || len(jobs) != 1 {
		t.Errorf("after a kill: lost %v, %d jobs, %v", killed.Lost(), len(jobs), err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	closed := filepath.Join(dir, "closed.db")
	copyOf(path, closed)
	again := open(t, closed)
	if jobs, err := again.Jobs(ctx); again.Lost() != nil || err != nil || len(jobs) != 1 {
		t.Errorf("after it was closed: lost %v, %d jobs, %v", again.Lost(), len(jobs), err)
	}
}

// TestRoom: a job, a circuit and a photograph may hold so much and no more, by whatever way it
// comes; names and notes have a length in letters, in any script.
func TestRoom(t *testing.T) {
	ctx := t.Context()
	s := open(t, filepath.Join(t.TempDir(), "a.db"))
	job, c := circuitIn(t, s)
	is := func(code string, err error) bool {
		var e *limits.Error
		return errors.As(err, &e) && e.Code == code
	}
	long := func(n int) string { return string(bytes.Repeat([]byte("楼"), n)) }
	if _, err := s.CreateJob(ctx, long(limits.NameLetters)); err != nil {
		t.Error(err)
	}
	for _, name := range []string{"", "  ", long(limits.NameLetters + 1), "\xff"} {
		if _, err := s.CreateJob(ctx, name); !is("name", err) {
			t.Errorf("a job called %.20q: %v", name, err)
		}
		if _, err := s.ChangeJob(ctx, job.ID, new(name), nil); !is("name", err) {
			t.Errorf("renamed %.20q: %v", name, err)
		}
	}
	p, err := s.AddPhoto(ctx, store.Photo{Circuit: c.ID, Note: long(limits.NoteLetters)}, []byte("x"))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.NotePhoto(ctx, p.ID, long(limits.NoteLetters+1)); !is("note", err) {
		t.Errorf("a note that is too long: %v", err)
	}
	if _, err := s.AddPhoto(ctx, store.Photo{Circuit: c.ID}, make([]byte, limits.PhotoBytes+1)); !is("full", err) {
		t.Errorf("a photograph that is too large: %v", err)
	}
	for range limits.Photos - 1 {
		if _, err := s.AddPhoto(ctx, store.Photo{Circuit: c.ID}, []byte("x")); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.AddPhoto(ctx, store.Photo{Circuit: c.ID}, []byte("x")); !is("full", err) {
		t.Errorf("one photograph more: %v", err)
	}
	for range limits.Circuits - 1 {
		if _, err := s.CreateCircuit(ctx, job.ID, store.Change{Document: []byte("{}")}); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.CreateCircuit(ctx, job.ID, store.Change{Document: []byte("{}")}); !is("full", err) {
		t.Errorf("one circuit more: %v", err)
	}
	if _, err := s.Revise(ctx, c.ID, c.Head.ID, store.Change{Document: make([]byte, limits.HistoryBytes)}); !is("full", err) {
		t.Errorf("a history that is too large: %v", err)
	}
	revised, err := s.Revise(ctx, c.ID, c.Head.ID, store.Change{Summary: long(2 * limits.SummaryLetters), Document: []byte("{}")})
	if err != nil || len([]rune(revised.Head.Summary)) != limits.SummaryLetters {
		t.Errorf("told in %d letters, %v", len([]rune(revised.Head.Summary)), err)
	}
	if _, err := s.AddWhole(ctx, long(limits.NameLetters+1), nil, nil); !is("name", err) {
		t.Errorf("a whole job called too long: %v", err)
	}
}
