// Package store keeps jobs and circuits in one SQLite file.
//
// A circuit is a row that points at its head revision. Every change appends a
// revision whose parent is the head it was made on; undo moves the head to the
// parent, redo to the revision that the parent led to last. Nothing is ever
// overwritten. Whoever changes a circuit names the revision that they saw: if
// that is not the head any more, the change is refused with [ErrStale].
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"time"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the database driver
)

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrStale    = errors.New("the circuit was changed meanwhile")
	ErrNothing  = errors.New("nothing to undo or redo")
)

// Store is an open database. It is safe for use by several goroutines.
type Store struct{ db *sql.DB }

// Job is one customer's work. The number of its circuits is counted.
type Job struct {
	ID       int64
	Name     string
	Circuits int
	Created  time.Time
}

// Revision is one state of a circuit. Document is a circuit file; Planned, if
// not empty, the chosen plan's. Said tells in a few words what was changed.
type Revision struct {
	ID       int64
	Number   int
	Said     string
	Document []byte
	Choice   string
	Planned  []byte
	Created  time.Time
}

// Circuit is a circuit at its head revision.
type Circuit struct {
	ID, Job          int64
	Head             Revision
	CanUndo, CanRedo bool
}

// Change is what a new revision holds.
type Change struct {
	Said     string
	Document []byte
	Choice   string
	Planned  []byte
}

//go:embed migrations/*.sql
var migrations embed.FS

// Open opens the file, creating it and bringing it to the newest schema.
// ":memory:" opens a database of its own that lives as long as the store.
func Open(ctx context.Context, path string) (*Store, error) {
	pragmas := url.Values{"_pragma": {"foreign_keys(1)", "busy_timeout(5000)", "journal_mode(WAL)", "synchronous(NORMAL)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?"+pragmas.Encode())
	if err != nil {
		return nil, err
	}
	if path == ":memory:" {
		db.SetMaxOpenConns(1)
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files)
	if err == nil {
		_, err = provider.Up(ctx)
	}
	if err != nil {
		return nil, errors.Join(fmt.Errorf("opening %s: %w", path, err), db.Close())
	}
	return &Store{db}, nil
}

// Close closes the database.
func (s *Store) Close() error { return s.db.Close() }

// do runs f in one transaction.
func (s *Store) do(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

func now() string { return formatTime(time.Now()) }

func formatTime(t time.Time) string { return t.UTC().Format(time.RFC3339Nano) }

func parseTime(s string) time.Time {
	t, _ := time.Parse(time.RFC3339Nano, s) // the column holds only what now wrote
	return t
}

// notFound turns the driver's answer for no row into [ErrNotFound].
func notFound(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}
