package store

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"time"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Errors of the disk that callers tell apart.
var (
	ErrDiskFull = errors.New("the disk is full; nothing was changed. Remove photographs or jobs, empty the bin, or make room on the disk")
	ErrReadOnly = errors.New("the database or its folder cannot be written; nothing was changed. Look at the disk, and at who may write there")
	ErrBusy     = errors.New("the database is being written by somebody else for too long; nothing was changed. Try again")
)

// diskError turns the driver's errors of the disk into those that callers tell apart.
func diskError(err error) error {
	var e *sqlite.Error
	if !errors.As(err, &e) {
		return err
	}
	switch e.Code() & 0xff {
	case sqlite3.SQLITE_FULL:
		return errors.Join(ErrDiskFull, err)
	case sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_PERM:
		return errors.Join(ErrReadOnly, err)
	case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
		return errors.Join(ErrBusy, err)
	}
	return err
}

// reserveBytes is what is kept free beside the database. Removing something from it writes before
// it gives anything back: on a full disk the reserve is where that is written.
const reserveBytes = 8 << 20

func (s *Store) reserve() string { return s.path + "-reserve" }

// keepReserve makes the reserve if there is room for it; without it only removing on a full disk
// fails.
func (s *Store) keepReserve() {
	if s.path == "" {
		return
	}
	if info, err := os.Stat(s.reserve()); err == nil && info.Size() == reserveBytes {
		return
	}
	if err := os.WriteFile(s.reserve(), make([]byte, reserveBytes), 0o600); err != nil {
		_ = os.Remove(s.reserve()) // half of it helps nobody
	}
}

// removing runs something that removes from the database, with the reserve where the disk is full,
// and gives the room back to the disk.
func (s *Store) removing(ctx context.Context, remove func() error) error {
	err := diskError(remove())
	if errors.Is(err, ErrDiskFull) && s.path != "" && os.Remove(s.reserve()) == nil {
		err = diskError(remove())
	}
	if err != nil {
		return err
	}
	return s.reclaim(ctx)
}

// reclaim gives free pages back to the disk, and what was written on the way to the database: what
// was removed is in no file then. Where others read meanwhile, it is done the next time.
func (s *Store) reclaim(ctx context.Context) error {
	for _, pragma := range []string{`PRAGMA incremental_vacuum`, `PRAGMA wal_checkpoint(TRUNCATE)`} {
		rows, err := s.db.QueryContext(ctx, pragma)
		if err != nil {
			if err = diskError(err); errors.Is(err, ErrBusy) || errors.Is(err, ErrDiskFull) {
				continue
			}
			return err
		}
		for rows.Next() {
			continue // a page is given back with each row
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil && !errors.Is(diskError(err), ErrBusy) {
			return diskError(err)
		}
	}
	s.keepReserve()
	return nil
}

// enableIncrementalVacuum lets a database of before give free pages back one by one; it is written anew once.
func (s *Store) enableIncrementalVacuum(ctx context.Context) error {
	const incremental = 2
	var now int
	if err := s.db.QueryRowContext(ctx, `PRAGMA auto_vacuum`).Scan(&now); err != nil || now == incremental {
		return err
	}
	conn, err := s.db.Conn(ctx) // the pragma is of a connection until the file is written anew
	if err != nil {
		return err
	}
	defer conn.Close()
	for _, statement := range []string{`PRAGMA auto_vacuum = 2`, `VACUUM`} {
		if _, err := conn.ExecContext(ctx, statement); err != nil {
			return err
		}
	}
	return nil
}

// walMissing reports, before a database is opened, that it was not closed by its program and that what
// lay beside it is gone: somebody took the file alone from where a program was at work, or lost the
// other. The head of the file says how it was left: [Store.Close] leaves a file that is whole by
// itself, and one that is open, or whose program was killed, says that more is written beside it.
func walMissing(path string) (since time.Time, lost bool) {
	f, err := os.Open(path)
	if err != nil {
		return since, false
	}
	defer f.Close()
	const versionAt, besideIt = 18, 2 // of the file format: the version for writing, and the one that writes beside
	head := make([]byte, versionAt+1)
	if n, err := f.ReadAt(head, 0); n < len(head) || err != nil || head[versionAt] != besideIt {
		return since, false
	}
	info, err := f.Stat()
	if err != nil {
		return since, false
	}
	_, err = os.Stat(path + "-wal")
	return info.ModTime(), errors.Is(err, fs.ErrNotExist)
}

// Lost says since when what was written may be missing from this database, nil where all is there.
func (s *Store) Lost() *time.Time { return s.lost }
