package store

import (
	"context"
	"database/sql"
)

const selectCircuits = `
	SELECT c.id, c.job_id, r.id, r.number, r.said, r.document, r.choice, r.planned, r.created_at,
	       r.parent_id IS NOT NULL, r.next_id IS NOT NULL
	FROM circuits c JOIN revisions r ON r.id = c.head_id JOIN jobs j ON j.id = c.job_id
	WHERE c.removed_at IS NULL AND j.removed_at IS NULL`

type scanner interface{ Scan(...any) error }

func scanCircuit(row scanner) (Circuit, error) {
	var c Circuit
	var document, planned, created string
	err := row.Scan(&c.ID, &c.Job, &c.Head.ID, &c.Head.Number, &c.Head.Said, &document, &c.Head.Choice, &planned, &created, &c.CanUndo, &c.CanRedo)
	c.Head.Document, c.Head.Planned, c.Head.Created = []byte(document), []byte(planned), parseTime(created)
	return c, notFound(err)
}

// Circuits lists the circuits of a job at their heads, in the order of making.
func (s *Store) Circuits(ctx context.Context, job int64) ([]Circuit, error) {
	rows, err := s.db.QueryContext(ctx, selectCircuits+` AND c.job_id = ? ORDER BY c.id`, job)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Circuit
	for rows.Next() {
		c, err := scanCircuit(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, rows.Err()
}

// Circuit returns one circuit at its head.
func (s *Store) Circuit(ctx context.Context, id int64) (Circuit, error) {
	return scanCircuit(s.db.QueryRowContext(ctx, selectCircuits+` AND c.id = ?`, id))
}

// Revision returns one revision of a circuit by its number.
func (s *Store) Revision(ctx context.Context, circuit int64, number int) (Revision, error) {
	var r Revision
	var document, planned, created string
	err := s.db.QueryRowContext(ctx, `SELECT id, number, said, document, choice, planned, created_at FROM revisions WHERE circuit_id = ? AND number = ? AND circuit_id IN `+keptCircuits,
		circuit, number).Scan(&r.ID, &r.Number, &r.Said, &document, &r.Choice, &planned, &created)
	r.Document, r.Planned, r.Created = []byte(document), []byte(planned), parseTime(created)
	return r, notFound(err)
}

// Newest returns the revision of a circuit that was made last, whether or not it is the head.
func (s *Store) Newest(ctx context.Context, circuit int64) (Revision, error) {
	var number int
	err := s.db.QueryRowContext(ctx, `SELECT max(number) FROM revisions WHERE circuit_id = ?`, circuit).Scan(&number)
	if err != nil {
		return Revision{}, notFound(err)
	}
	return s.Revision(ctx, circuit, number)
}

// CreateCircuit adds a circuit to a job; its first revision is the change.
func (s *Store) CreateCircuit(ctx context.Context, job int64, first Change) (Circuit, error) {
	var id int64
	err := s.do(ctx, func(tx *sql.Tx) (err error) {
		id, err = createCircuit(ctx, tx, job, first)
		return err
	})
	if err != nil {
		return Circuit{}, err
	}
	return s.Circuit(ctx, id)
}

func createCircuit(ctx context.Context, tx *sql.Tx, job int64, first Change) (id int64, err error) {
	var exists bool
	if err := tx.QueryRowContext(ctx, `SELECT 1 FROM jobs WHERE id = ? AND removed_at IS NULL`, job).Scan(&exists); err != nil {
		return 0, notFound(err)
	}
	result, err := tx.ExecContext(ctx, `INSERT INTO circuits (job_id, head_id, created_at) VALUES (?, 0, ?)`, job, now())
	if err != nil {
		return 0, err
	}
	if id, err = result.LastInsertId(); err != nil {
		return 0, err
	}
	return id, appendRevision(ctx, tx, id, sql.NullInt64{}, first)
}

// appendRevision adds a revision after parent and makes it the head.
func appendRevision(ctx context.Context, tx *sql.Tx, circuit int64, parent sql.NullInt64, c Change) error {
	result, err := tx.ExecContext(ctx, `
		INSERT INTO revisions (circuit_id, parent_id, number, said, document, choice, planned, created_at)
		VALUES (?1, ?2, (SELECT coalesce(max(number), 0) + 1 FROM revisions WHERE circuit_id = ?1), ?3, ?4, ?5, ?6, ?7)`,
		circuit, parent, c.Said, string(c.Document), c.Choice, string(c.Planned), now())
	if err != nil {
		return err
	}
	id, err := result.LastInsertId()
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `UPDATE revisions SET next_id = ? WHERE id = ?`, id, parent); err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `UPDATE circuits SET head_id = ? WHERE id = ?`, id, circuit)
	return err
}

// Revise appends a revision to the one with the number base. It returns
// [ErrStale] when base is not the head any more.
func (s *Store) Revise(ctx context.Context, id int64, base int, c Change) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error {
		return appendRevision(ctx, tx, id, sql.NullInt64{Int64: head.id, Valid: true}, c)
	})
}

// Undo makes the parent of the head the head; base is as for [Store.Revise].
func (s *Store) Undo(ctx context.Context, id int64, base int) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error { return setHead(ctx, tx, id, head.parent) })
}

// Redo takes the last Undo back.
func (s *Store) Redo(ctx context.Context, id int64, base int) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error { return setHead(ctx, tx, id, head.next) })
}

func setHead(ctx context.Context, tx *sql.Tx, circuit int64, to sql.NullInt64) error {
	if !to.Valid {
		return ErrNothing
	}
	_, err := tx.ExecContext(ctx, `UPDATE circuits SET head_id = ? WHERE id = ?`, to, circuit)
	return err
}

// head is where a circuit stands in its revisions.
type head struct {
	id           int64
	parent, next sql.NullInt64
}

// move changes the head of a circuit if it still is what the caller saw.
func (s *Store) move(ctx context.Context, id int64, base int, f func(*sql.Tx, head) error) (Circuit, error) {
	err := s.do(ctx, func(tx *sql.Tx) error {
		var h head
		var number int
		err := tx.QueryRowContext(ctx, `SELECT r.id, r.parent_id, r.next_id, r.number FROM circuits c JOIN revisions r ON r.id = c.head_id JOIN jobs j ON j.id = c.job_id
			WHERE c.id = ? AND c.removed_at IS NULL AND j.removed_at IS NULL`, id).
			Scan(&h.id, &h.parent, &h.next, &number)
		if err != nil {
			return notFound(err)
		}
		if number != base {
			return ErrStale
		}
		return f(tx, h)
	})
	if err != nil {
		return Circuit{}, err
	}
	return s.Circuit(ctx, id)
}

func errOr(err error) error {
	if err == nil {
		return sql.ErrNoRows
	}
	return err
}
