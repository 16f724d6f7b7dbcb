package store

import (
	"path/filepath"
	"testing"
)

// BenchmarkRevise measures what a change costs that is on the disk before it is acknowledged, and
// beside it one that a power cut may take back.
func BenchmarkRevise(b *testing.B) {
	for _, how := range []string{"FULL", "NORMAL"} {
		b.Run(how, func(b *testing.B) {
			s, err := Open(b.Context(), filepath.Join(b.TempDir(), "a.db"))
			if err != nil {
				b.Fatal(err)
			}
			defer s.Close()
			s.db.SetMaxOpenConns(1)
			if _, err := s.db.Exec(`PRAGMA synchronous = ` + how); err != nil {
				b.Fatal(err)
			}
			job, err := s.CreateJob(b.Context(), "Tide mill")
			if err != nil {
				b.Fatal(err)
			}
			c, err := s.CreateCircuit(b.Context(), job.ID, Change{Document: make([]byte, 15_000)})
			for b.Loop() && err == nil {
				c, err = s.Revise(b.Context(), c.ID, c.Head.ID, Change{Document: make([]byte, 15_000)})
			}
			if err != nil {
				b.Fatal(err)
			}
		})
	}
}
