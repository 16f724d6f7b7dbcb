package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// Kept is how long what was removed lies in the bin.
const Kept = 30 * 24 * time.Hour

// Removed is a job or a circuit in the bin. Circuit is "" for a whole job.
type Removed struct {
	Job, Circuit string
	JobName      string
	Document     []byte // of a circuit, at its head; nil for a job
	Circuits     int    // of a job
	At           time.Time
}

// Bin lists what was removed, the last first. What goes with its job is not listed by itself.
func (s *Store) Bin(ctx context.Context) ([]Removed, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT j.id, '', j.name, '', (SELECT count(*) FROM circuits c WHERE c.job_id = j.id AND c.removed_at IS NULL), j.removed_at
		FROM jobs j WHERE j.removed_at IS NOT NULL
		UNION ALL
		SELECT j.id, c.id, j.name, r.document, 0, c.removed_at
		FROM circuits c JOIN jobs j ON j.id = c.job_id JOIN revisions r ON r.id = c.head_id
		WHERE c.removed_at IS NOT NULL AND j.removed_at IS NULL
		ORDER BY 6 DESC`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Removed{}
	for rows.Next() {
		var r Removed
		var document, at string
		if err := rows.Scan(&r.Job, &r.Circuit, &r.JobName, &document, &r.Circuits, &at); err != nil {
			return nil, err
		}
		if r.At = parseTime(at); r.Circuit != "" {
			r.Document = []byte(document)
		}
		out = append(out, r)
	}
	return out, rows.Err()
}

// DeleteJob puts a job with its circuits into the bin.
func (s *Store) DeleteJob(ctx context.Context, id string) error {
	return s.removing(ctx, func() error {
		return s.one(ctx, `UPDATE jobs SET removed_at = ?2 WHERE id = ?1 AND removed_at IS NULL`, id, now())
	})
}

// DeleteCircuit puts a circuit with all its revisions into the bin.
func (s *Store) DeleteCircuit(ctx context.Context, id string) error {
	return s.removing(ctx, func() error {
		return s.one(ctx, `UPDATE circuits SET removed_at = ?2 WHERE id = ?1 AND removed_at IS NULL AND job_id IN (SELECT id FROM jobs WHERE removed_at IS NULL)`, id, now())
	})
}

// RestoreJob takes a job out of the bin, with the circuits that went with it.
func (s *Store) RestoreJob(ctx context.Context, id string) error {
	return s.one(ctx, `UPDATE jobs SET removed_at = NULL WHERE id = ? AND removed_at IS NOT NULL`, id)
}

// RestoreCircuit takes a circuit out of the bin. [ErrNotFound] where it is not there, or its job
// is in the bin itself.
func (s *Store) RestoreCircuit(ctx context.Context, id string) error {
	return s.one(ctx, `UPDATE circuits SET removed_at = NULL WHERE id = ? AND removed_at IS NOT NULL AND job_id IN (SELECT id FROM jobs WHERE removed_at IS NULL)`, id)
}

// EmptyBin removes for good what lies in the bin since before a time, and gives its room back
// to the disk. Photographs go one by one, so that little is written at once where the disk is full.
func (s *Store) EmptyBin(ctx context.Context, before time.Time) error {
	old := formatTime(before)
	for {
		var photo string
		err := s.db.QueryRowContext(ctx, `SELECT p.id FROM photos p JOIN circuits c ON c.id = p.circuit_id JOIN jobs j ON j.id = c.job_id WHERE c.removed_at < ?1 OR j.removed_at < ?1 LIMIT 1`, old).Scan(&photo)
		if errors.Is(err, sql.ErrNoRows) {
			break
		}
		if err != nil {
			return diskError(err)
		}
		if err := s.removing(ctx, func() error {
			_, err := s.db.ExecContext(ctx, `DELETE FROM photos WHERE id = ?`, photo)
			return err
		}); err != nil {
			return err
		}
	}
	return s.removing(ctx, func() error {
		return s.do(ctx, func(tx *sql.Tx) error {
			for _, table := range []string{"circuits", "jobs"} {
				if _, err := tx.ExecContext(ctx, `DELETE FROM `+table+` WHERE removed_at < ?`, old); err != nil {
					return err
				}
			}
			return nil
		})
	})
}

// one runs a statement that must change one row.
func (s *Store) one(ctx context.Context, statement string, of ...any) error {
	result, err := s.db.ExecContext(ctx, statement, of...)
	if err != nil {
		return err
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return notFound(errOr(err))
	}
	return nil
}

// keptCircuits are those that are not in the bin.
const keptCircuits = `(SELECT c.id FROM circuits c JOIN jobs j ON j.id = c.job_id WHERE c.removed_at IS NULL AND j.removed_at IS NULL)`

// kept answers [ErrNotFound] where there is no such circuit, or it is in the bin.
func kept(ctx context.Context, db interface {
	QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row
}, circuit string) error {
	var exists bool
	return notFound(db.QueryRowContext(ctx, `SELECT 1 FROM circuits WHERE id = ? AND id IN `+keptCircuits, circuit).Scan(&exists))
}
