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
	c, err := s.CreateCircuit(t.Context(), job.ID, store.Change{Said: "made", Document: []byte(`{}`)})
	if err != nil {
		t.Fatal(err)
	}
	if got, err := s.Wishes(t.Context(), c.ID); got != nil || err != nil {
		t.Errorf("nothing was wished, and it is %s, %v", got, err)
	}
	for _, wish := range []string{`{"budget":1}`, `{"budget":2}`} {
		if err := s.Wish(t.Context(), c.ID, []byte(wish)); err != nil {
			t.Fatal(err)
		}
		if got, err := s.Wishes(t.Context(), c.ID); string(got) != wish || err != nil {
			t.Errorf("wished %s, kept %s, %v", wish, got, err)
		}
	}
	if err := s.DeleteCircuit(t.Context(), c.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Wishes(t.Context(), c.ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("wishes of a circuit that is gone: %v", err)
	}
	if err := s.Wish(t.Context(), c.ID, []byte(`{}`)); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a wish for a circuit that is gone: %v", err)
	}
}

// TestDevices: models are kept in the order in which they came, one of the same id takes
// the place of the other, and one that is not there cannot be forgotten.
func TestDevices(t *testing.T) {
	path := filepath.Join(t.TempDir(), "a.db")
	s := open(t, path)
	for _, put := range []map[string][]byte{{"b": []byte("1")}, {"a": []byte("2")}, {"b": []byte("3")}} {
		if err := s.PutDevices(t.Context(), put); err != nil {
			t.Fatal(err)
		}
	}
	s.Close()
	s = open(t, path) // after a restart
	got, err := s.Devices(t.Context())
	if err != nil || len(got) != 2 || string(got[0]) != "3" || string(got[1]) != "2" {
		t.Errorf("kept %s, %v; want 3 and 2", got, err)
	}
	if err := s.DeleteDevice(t.Context(), "b"); err != nil {
		t.Fatal(err)
	}
	if err := s.DeleteDevice(t.Context(), "b"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("forgotten twice: %v", err)
	}
}
