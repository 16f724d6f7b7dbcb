package store

import (
	"context"
	"database/sql"

	"ambivia/core/limits"
)

// roomForCircuits refuses more circuits than a job may have, those in the bin among them.
func roomForCircuits(ctx context.Context, tx *sql.Tx, job string, more int) error {
	var n int
	if err := tx.QueryRowContext(ctx, `SELECT count(*) FROM circuits WHERE job_id = ? AND removed_at IS NULL`, job).Scan(&n); err != nil {
		return err
	}
	if n+more > limits.Circuits {
		return limits.Full("a job has %d circuits at most; go on in a job of its own", limits.Circuits)
	}
	return nil
}

// roomForRevision refuses a document for which a circuit or its job has no room left.
func roomForRevision(ctx context.Context, tx *sql.Tx, circuit string, more int64) error {
	var revisions int
	var bytes int64
	err := tx.QueryRowContext(ctx, `SELECT history_bytes, (SELECT coalesce(max(number), 0) FROM revisions WHERE circuit_id = c.id) FROM circuits c WHERE id = ?`, circuit).Scan(&bytes, &revisions)
	if err != nil {
		return notFound(err)
	}
	if err := limits.Document(revisions, bytes, more); err != nil {
		return err
	}
	return roomInJob(ctx, tx, circuit, more)
}

// roomForPhoto refuses a photograph for which a circuit or its job has no room left.
func roomForPhoto(ctx context.Context, tx *sql.Tx, circuit string, more int64) error {
	var n int
	if err := tx.QueryRowContext(ctx, `SELECT count(*) FROM photos WHERE circuit_id = ?`, circuit).Scan(&n); err != nil {
		return err
	}
	if n >= limits.Photos {
		return limits.Full("a circuit keeps %d photographs; remove some first", limits.Photos)
	}
	if more > limits.PhotoBytes {
		return limits.Full("a photograph has %d MB at most", limits.PhotoBytes>>20)
	}
	return roomInJob(ctx, tx, circuit, more)
}

func roomInJob(ctx context.Context, tx *sql.Tx, circuit string, more int64) error {
	var bytes int64
	err := tx.QueryRowContext(ctx, `SELECT coalesce(sum(history_bytes + photo_bytes), 0) FROM circuits WHERE job_id = (SELECT job_id FROM circuits WHERE id = ?)`, circuit).Scan(&bytes)
	if err != nil {
		return err
	}
	return limits.Job(bytes, more)
}
