package store

import (
	"fmt"
	"testing"
)

// LimitPages lets the database have so many pages, as a disk does that is full.
func LimitPages(t *testing.T, s *Store, pages int) {
	t.Helper()
	s.db.SetMaxOpenConns(1) // the limit is of a connection
	if _, err := s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages)); err != nil {
		t.Fatal(err)
	}
}
