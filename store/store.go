// Package store keeps jobs and circuits in one SQLite file.
//
// A circuit is a row that points at its head revision. Every change appends a
// revision whose parent is the head it was made on; undo moves the head to the
// parent, redo to the revision that the parent led to last. Nothing is ever
// overwritten. Whoever changes a circuit names the revision that they saw: if
// that is not the head any more, the change is refused with [ErrStale]. Wishes and
// devices have versions to the same end.
//
// Every id is a UUID of version 7: nobody can guess one, none is ever given twice, and
// they sort in the order of making.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"time"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the database driver
)

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrStale    = errors.New("it was changed meanwhile")
	ErrNothing  = errors.New("nothing to undo or redo")
	ErrNewer    = errors.New("the database was written by a newer version of this program; use that one, or another file")
	ErrDamaged  = errors.New("the database is damaged; take the newest backup, or export what can still be read")
)

// Store is an open database. It is safe for use by several goroutines.
type Store struct {
	db   *sql.DB
	path string // "" in memory
	lost *time.Time
}

// Job is one customer's work. The number of its circuits is counted.
type Job struct {
	ID       string
	Name     string
	Circuits int
	Created  time.Time
	Archived bool // it is over, and stands apart from those that are worked on
}

// Revision is one state of a circuit. Document is a circuit file; Planned, if
// not empty, the chosen plan's. Summary tells in a few words what was changed, By who did it,
// "" where nobody said.
type Revision struct {
	ID       string
	Number   int
	Summary  string
	By       string
	Document []byte
	Choice   string
	Planned  []byte
	Created  time.Time
}

// Circuit is a circuit at its head revision.
type Circuit struct {
	ID, Job          string
	Head             Revision
	CanUndo, CanRedo bool
}

// Change is what a new revision holds.
type Change struct {
	Summary  string
	By       string
	Document []byte
	Choice   string
	Planned  []byte
}

//go:embed migrations/*.sql
var migrations embed.FS

// Open opens the file, creating it and bringing it to the newest schema.
// ":memory:" opens a database of its own that lives as long as the store.
func Open(ctx context.Context, path string) (*Store, error) {
	pragmas := url.Values{"_pragma": {"foreign_keys(1)", "busy_timeout(20000)", "journal_mode(WAL)", "synchronous(FULL)", "secure_delete(1)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?"+pragmas.Encode())
	if err != nil {
		return nil, err
	}
	s := &Store{db: db}
	if path == ":memory:" {
		db.SetMaxOpenConns(1)
	} else {
		s.path = path
		if err := ownersEyes(path); err != nil {
			return nil, errors.Join(err, db.Close())
		}
	}
	since, lost := walMissing(path)
	changed, err := s.prepare(ctx, path)
	if err != nil {
		return nil, errors.Join(fmt.Errorf("opening %s: %w", path, diskError(err)), db.Close())
	}
	if s.path != "" {
		if lost && !changed { // the program of before did not leave its files like that
			s.lost = &since
		}
		if err := errors.Join(s.enableIncrementalVacuum(ctx), s.reclaim(ctx)); err != nil {
			return nil, errors.Join(fmt.Errorf("opening %s: %w", path, diskError(err)), db.Close())
		}
	}
	return s, nil
}

// ownersEyes makes the file if it is not there, readable by nobody but its owner.
func ownersEyes(path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return err
	}
	if err := f.Close(); err != nil {
		return err
	}
	return os.Chmod(path, 0o600)
}

// prepare looks at the file and brings it to the newest schema, with a copy of it as it was; it
// says whether it changed that.
func (s *Store) prepare(ctx context.Context, path string) (changed bool, err error) {
	var verdict string
	if err := s.db.QueryRowContext(ctx, `PRAGMA quick_check(1)`).Scan(&verdict); err != nil {
		return false, err
	}
	if verdict != "ok" {
		return false, fmt.Errorf("%w: %s", ErrDamaged, verdict)
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return false, err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, s.db, files)
	if err != nil {
		return false, err
	}
	have, want, err := provider.GetVersions(ctx)
	switch {
	case err != nil:
		return false, err
	case have > want:
		return false, ErrNewer
	case have == want:
		return false, nil
	case have > 0 && path != ":memory:":
		if err := s.Backup(ctx, fmt.Sprintf("%s.before-schema-%d", path, want)); err != nil && !errors.Is(err, fs.ErrExist) {
			return false, fmt.Errorf("a copy before the schema is changed: %w", err)
		}
	}
	_, err = provider.Up(ctx)
	return true, err
}

// Backup writes a consistent copy of the database to a file that is not there yet, while others
// may go on using it. The error wraps [fs.ErrExist] where the file is there.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s: %w", path, fs.ErrExist)
	}
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, path); err != nil {
		return err
	}
	return os.Chmod(path, 0o600)
}

// Close closes the database.
func (s *Store) Close() error {
	if s.path != "" { // where nobody else has it open, all is in the one file from now on
		s.db.SetMaxIdleConns(0)
		if conn, err := s.db.Conn(context.Background()); err == nil {
			_, _ = conn.ExecContext(context.Background(), `PRAGMA busy_timeout = 0; PRAGMA journal_mode = DELETE`)
			_ = conn.Close()
		}
	}
	return s.db.Close()
}

// do runs f in one transaction.
func (s *Store) do(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return diskError(err)
	}
	if err := f(tx); err != nil {
		back := tx.Rollback()
		if errors.Is(back, sql.ErrTxDone) {
			back = nil
		}
		return errors.Join(diskError(err), back)
	}
	return diskError(tx.Commit())
}

// newID makes an id.
func newID() string { return uuid.Must(uuid.NewV7()).String() } // it fails where the system has no random numbers

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
