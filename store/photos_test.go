package store_test

import (
	"errors"
	"path/filepath"
	"testing"
	"time"

	"ambivia/store"
	"ambivia/store/storetest"
)

// circuitIn makes a job with one circuit.
func circuitIn(t *testing.T, s *store.Store) (store.Job, store.Circuit) {
	t.Helper()
	job, err := s.CreateJob(t.Context(), "Wool shed")
	if err != nil {
		t.Fatal(err)
	}
	c, err := s.CreateCircuit(t.Context(), job.ID, store.Change{Summary: "made", Document: []byte(`{"n":0}`)})
	if err != nil {
		t.Fatal(err)
	}
	return job, c
}

// TestPhotos: photographs are kept in order with their pictures, noted, removed, and gone
// with their circuit; one of a circuit that is not there is refused.
func TestPhotos(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "a.db"))
	_, c := circuitIn(t, s)
	var ids []string
	for i, note := range []string{"before", "lid off", ""} {
		p, err := s.AddPhoto(t.Context(), store.Photo{Circuit: c.ID, Box: "door", Note: note, Width: 40 + i, Height: 30}, []byte{0xff, byte(i)})
		if err != nil || p.ID == "" || p.Created.IsZero() {
			t.Fatalf("%+v, %v", p, err)
		}
		ids = append(ids, p.ID)
	}
	if p, err := s.NotePhoto(t.Context(), ids[2], "after"); err != nil || p.Note != "after" || p.Width != 42 {
		t.Errorf("%+v, %v", p, err)
	}
	if err := s.DeletePhoto(t.Context(), ids[1]); err != nil {
		t.Fatal(err)
	}
	list, err := s.Photos(t.Context(), c.ID)
	if err != nil || len(list) != 2 || list[0].Note != "before" || list[1].Note != "after" || list[1].Box != "door" {
		t.Errorf("%+v, %v", list, err)
	}
	if jpeg, err := s.Picture(t.Context(), ids[2]); err != nil || string(jpeg) != "\xff\x02" {
		t.Errorf("%x, %v", jpeg, err)
	}
	for what, err := range map[string]error{
		"removed twice":      s.DeletePhoto(t.Context(), ids[1]),
		"a picture gone":     second(s.Picture(t.Context(), ids[1])),
		"a note on nothing":  second(s.NotePhoto(t.Context(), ids[1], "x")),
		"of no circuit":      second(s.AddPhoto(t.Context(), store.Photo{Circuit: storetest.Nobody}, nil)),
		"no circuit to read": second(s.Whole(t.Context(), storetest.Nobody)),
	} {
		if !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%s: %v", what, err)
		}
	}
	if err := s.DeleteCircuit(t.Context(), c.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Picture(t.Context(), ids[0]); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a photograph outlives its circuit: %v", err)
	}
}

func second[T any](_ T, err error) error { return err }

// TestHouses: a hidden house is kept with the circuit that it answers for, its seed to the
// last bit; other circuits have none.
func TestHouses(t *testing.T) {
	path := filepath.Join(t.TempDir(), "a.db")
	s := open(t, path)
	job, plain := circuitIn(t, s)
	hidden := store.House{Document: []byte(`{"behind":"walls"}`), Seed: 1<<63 + 12345}
	c, err := s.CreateHouse(t.Context(), job.ID, store.Change{Summary: "hidden", Document: []byte(`{}`)}, hidden)
	if err != nil {
		t.Fatal(err)
	}
	s.Close()
	s = open(t, path)
	if h, err := s.House(t.Context(), c.ID); err != nil || string(h.Document) != string(hidden.Document) || h.Seed != hidden.Seed {
		t.Errorf("%+v, %v", h, err)
	}
	if _, err := s.House(t.Context(), plain.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a circuit without a house: %v", err)
	}
	if _, err := s.CreateHouse(t.Context(), storetest.Nobody, store.Change{Document: []byte(`{}`)}, hidden); err == nil {
		t.Error("a house in no job")
	}
	if list, err := s.Circuits(t.Context(), job.ID); err != nil || len(list) != 2 {
		t.Errorf("%d circuits, %v: a refused house left something behind", len(list), err)
	}
}

// TestWhole: a circuit goes out and comes in with its history, where redo leads to, its
// pictures and its wishes; all of a job is written or nothing.
func TestWhole(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "a.db"))
	_, c := circuitIn(t, s)
	for n := 1; n <= 3; n++ {
		var err error
		if c, err = s.Revise(t.Context(), c.ID, c.Head.ID, store.Change{Summary: "step", Document: []byte{'0' + byte(n)}, Choice: "main", Planned: []byte("{}")}); err != nil {
			t.Fatal(err)
		}
	}
	c, err := s.Undo(t.Context(), c.ID, c.Head.ID)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddPhoto(t.Context(), store.Photo{Circuit: c.ID, Box: "b", Note: "n", Width: 1, Height: 2}, []byte("jpeg")); err != nil {
		t.Fatal(err)
	}
	if err := s.Wish(t.Context(), c.ID, "", []byte(`{"budget":3}`)); err != nil {
		t.Fatal(err)
	}
	whole, err := s.Whole(t.Context(), c.ID)
	if err != nil {
		t.Fatal(err)
	}
	job, err := s.AddWhole(t.Context(), "Copied", []*store.Whole{whole, whole}, nil)
	if err != nil || job.Circuits != 2 {
		t.Fatalf("%+v, %v", job, err)
	}
	list, err := s.Circuits(t.Context(), job.ID)
	if err != nil {
		t.Fatal(err)
	}
	for _, copied := range list {
		again, err := s.Whole(t.Context(), copied.ID)
		if err != nil {
			t.Fatal(err)
		}
		if again.Head != whole.Head || len(again.History) != len(whole.History) || len(again.Photos) != 1 || string(pictureOf(t, again)) != "jpeg" || string(again.Wishes) != string(whole.Wishes) {
			t.Errorf("came in as %+v", again)
		}
		for i, p := range again.History {
			was := whole.History[i]
			if p.Number != was.Number || p.Parent != was.Parent || p.Next != was.Next || p.Choice != was.Choice || string(p.Document) != string(was.Document) || p.Created.Sub(was.Created).Abs() > time.Second {
				t.Errorf("revision %d came in as %+v; it was %+v", i, p, was)
			}
		}
		redone, err := s.Redo(t.Context(), copied.ID, copied.Head.ID)
		if err != nil || string(redone.Head.Document) != "3" {
			t.Errorf("redo leads to %s, %v", redone.Head.Document, err)
		}
	}
	before, err := s.Jobs(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	broken := *whole
	broken.History = append([]store.Past{}, whole.History...)
	broken.History[1].Parent = 77
	if _, err := s.AddWhole(t.Context(), "Broken", []*store.Whole{whole, &broken}, map[string][]byte{"x": []byte("{}")}); err == nil {
		t.Error("a revision that follows none was written")
	}
	after, err := s.Jobs(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if devices, err := s.Devices(t.Context()); err != nil || len(after) != len(before) || len(devices) != 0 {
		t.Errorf("half of a broken job was written: %d jobs, %d devices, %v", len(after)-len(before), len(devices), err)
	}
}

// TestJobsFromStartToEnd: jobs are renamed, and take all that is theirs with them when they go.
func TestJobsFromStartToEnd(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "a.db"))
	job, c := circuitIn(t, s)
	if renamed, err := s.ChangeJob(t.Context(), job.ID, new("Wool shed, north"), nil); err != nil || renamed.Name != "Wool shed, north" || renamed.Circuits != 1 {
		t.Errorf("%+v, %v", renamed, err)
	}
	if _, err := s.ChangeJob(t.Context(), storetest.Nobody, new("x"), nil); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("renamed nothing: %v", err)
	}
	if r, err := s.Revision(t.Context(), c.ID, c.Head.ID); err != nil || string(r.Document) != `{"n":0}` {
		t.Errorf("%s, %v", r.Document, err)
	}
	if _, err := s.Revision(t.Context(), c.ID, storetest.Nobody); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a revision that is none: %v", err)
	}
	if err := s.DeleteJob(t.Context(), job.ID); err != nil {
		t.Fatal(err)
	}
	for what, err := range map[string]error{"the job": second(s.Job(t.Context(), job.ID)), "its circuit": second(s.Circuit(t.Context(), c.ID)), "it again": s.DeleteJob(t.Context(), job.ID)} {
		if !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%s is still there: %v", what, err)
		}
	}
	if _, err := s.CreateCircuit(t.Context(), job.ID, store.Change{Document: []byte("{}")}); err == nil {
		t.Error("a circuit in a job that is gone")
	}
}

// pictureOf is the first picture of a whole circuit.
func pictureOf(t *testing.T, w *store.Whole) []byte {
	t.Helper()
	jpeg, err := w.Picture(0)
	if err != nil {
		t.Fatal(err)
	}
	return jpeg
}
