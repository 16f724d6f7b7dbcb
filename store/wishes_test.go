package store_test

import (
	"errors"
	"path/filepath"
	"testing"

	"ambivia/store"
)

// TestWishes: what is wished for a circuit is kept, replaced, and gone with the circuit.
func TestWishes(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "a.db"))
	job, err := s.CreateJob(t.Context(), "Weaving works")
	if err != nil {
		t.Fatal(err)
	}
	c, err := s.CreateCircuit(t.Context(), job.ID, store.Change{Summary: "made", Document: []byte(`{}`)})
	if err != nil {
		t.Fatal(err)
	}
	last, err := s.Wishes(t.Context(), c.ID)
	if last.Data != nil || last.Version != "" || err != nil {
		t.Errorf("nothing was wished, and it is %s, %v", last.Data, err)
	}
	for _, wish := range []string{`{"budget":1}`, `{"budget":2}`} {
		if err := s.Wish(t.Context(), c.ID, last.Version, []byte(wish)); err != nil {
			t.Fatal(err)
		}
		got, err := s.Wishes(t.Context(), c.ID)
		if string(got.Data) != wish || got.Version == last.Version || err != nil {
			t.Errorf("wished %s, kept %s, %v", wish, got.Data, err)
		}
		if err := s.Wish(t.Context(), c.ID, last.Version, []byte(`{"budget":9}`)); !errors.Is(err, store.ErrStale) {
			t.Errorf("a wish in the stead of one that nobody sees any more: %v", err)
		}
		last = got
	}
	if err := s.DeleteCircuit(t.Context(), c.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Wishes(t.Context(), c.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("wishes of a circuit that is gone: %v", err)
	}
	if err := s.Wish(t.Context(), c.ID, last.Version, []byte(`{}`)); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a wish for a circuit that is gone: %v", err)
	}
}

// TestDevices: models are kept in the order in which they came, one of the same id takes
// the place of the other, and one that is not there cannot be forgotten.
func TestDevices(t *testing.T) {
	path := filepath.Join(t.TempDir(), "a.db")
	s := open(t, path)
	put := func(id, seen, data string) error {
		_, err := s.PutDevices(t.Context(), map[string]store.Versioned{id: {Version: seen, Data: []byte(data)}})
		return err
	}
	for _, x := range [][2]string{{"b", "1"}, {"a", "2"}} {
		if err := put(x[0], "", x[1]); err != nil {
			t.Fatal(err)
		}
	}
	first, err := s.Devices(t.Context())
	if err != nil || len(first) != 2 {
		t.Fatal(first, err)
	}
	if err := put("b", "", "9"); !errors.Is(err, store.ErrStale) {
		t.Errorf("a model in the stead of one that nobody saw: %v", err)
	}
	if err := put("b", first[0].Version, "3"); err != nil {
		t.Fatal(err)
	}
	stale, err := s.PutDevices(t.Context(), map[string]store.Versioned{"b": {Version: first[0].Version, Data: []byte("8")}, "a": {Version: first[1].Version, Data: []byte("8")}})
	if !errors.Is(err, store.ErrStale) || len(stale) != 1 || stale[0] != "b" {
		t.Errorf("one of two is stale: %v, %v", stale, err)
	}
	s.Close()
	s = open(t, path) // after a restart
	got, err := s.Devices(t.Context())
	if err != nil || len(got) != 2 || string(got[0].Data) != "3" || string(got[1].Data) != "2" {
		t.Errorf("kept %s, %v; want 3 and 2", got, err)
	}
	if err := s.DeleteDevice(t.Context(), "b", first[0].Version); !errors.Is(err, store.ErrStale) {
		t.Errorf("a version forgotten that was replaced: %v", err)
	}
	if err := s.DeleteDevice(t.Context(), "b", got[0].Version); err != nil {
		t.Fatal(err)
	}
	if err := s.DeleteDevice(t.Context(), "b", got[0].Version); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("forgotten twice: %v", err)
	}
}
