package archive_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"

	"ambivia/core/archive"
)

// FuzzRead: whatever bytes claim to be an archive, they are read whole or refused in one line; what
// was read can be written, and comes back the same.
func FuzzRead(f *testing.F) {
	good := pack(&testing.T{}, job(&testing.T{}))
	f.Add(good)
	f.Add(good[:len(good)/2])
	f.Add([]byte("PK\x03\x04"))
	f.Fuzz(func(t *testing.T, data []byte) {
		j, err := read(data)
		if err != nil {
			var e *archive.Error
			if !errors.As(err, &e) || strings.Contains(err.Error(), "\n") || len(err.Error()) > 1000 {
				t.Fatalf("refused with %.400q", err)
			}
			return
		}
		again, err := read(pack(t, j))
		if err != nil {
			t.Fatalf("what was written cannot be read: %v", err)
		}
		if len(again.Circuits) != len(j.Circuits) || again.Name != j.Name {
			t.Error("it comes back as another job")
		}
		for i, c := range again.Circuits {
			if c.Head != j.Circuits[i].Head || len(c.Revisions) != len(j.Circuits[i].Revisions) || !bytes.Equal(c.Revisions[c.Head-1].Document, j.Circuits[i].Revisions[c.Head-1].Document) {
				t.Errorf("circuit %d comes back as another", i)
			}
		}
	})
}
