package store

import (
	"context"
	"database/sql"

	"ambivia/core/limits"
)

const selectCircuits = `
	SELECT c.id, c.job_id, r.id, r.number, r.said, r.made_by, r.document, r.choice, r.planned, r.created_at,
	       r.parent_id IS NOT NULL, r.next_id IS NOT NULL
	FROM circuits c JOIN revisions r ON r.id = c.head_id JOIN jobs j ON j.id = c.job_id
	WHERE c.removed_at IS NULL AND j.removed_at IS NULL`

type scanner interface{ Scan(...any) error }

func scanCircuit(row scanner) (Circuit, error) {
	var c Circuit
	var document, planned, created string
	err := row.Scan(&c.ID, &c.Job, &c.Head.ID, &c.Head.Number, &c.Head.Summary, &c.Head.By, &document, &c.Head.Choice, &planned, &created, &c.CanUndo, &c.CanRedo)
	c.Head.Document, c.Head.Planned, c.Head.Created = []byte(document), []byte(planned), parseTime(created)
	return c, notFound(err)
}

// Circuits lists the circuits of a job at their heads, in the order of making.
func (s *Store) Circuits(ctx context.Context, job string) ([]Circuit, error) {
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
func (s *Store) Circuit(ctx context.Context, id string) (Circuit, error) {
	return scanCircuit(s.db.QueryRowContext(ctx, selectCircuits+` AND c.id = ?`, id))
}

// Revision returns one revision of a circuit.
func (s *Store) Revision(ctx context.Context, circuit, id string) (Revision, error) {
	var r Revision
	var document, planned, created string
	err := s.db.QueryRowContext(ctx, `SELECT id, number, said, made_by, document, choice, planned, created_at FROM revisions WHERE circuit_id = ? AND id = ? AND circuit_id IN `+keptCircuits,
		circuit, id).Scan(&r.ID, &r.Number, &r.Summary, &r.By, &document, &r.Choice, &planned, &created)
	r.Document, r.Planned, r.Created = []byte(document), []byte(planned), parseTime(created)
	return r, notFound(err)
}

// Newest returns the revision of a circuit that was made last, whether or not it is the head.
func (s *Store) Newest(ctx context.Context, circuit string) (Revision, error) {
	var id string
	err := s.db.QueryRowContext(ctx, `SELECT id FROM revisions WHERE circuit_id = ? ORDER BY number DESC LIMIT 1`, circuit).Scan(&id)
	if err != nil {
		return Revision{}, notFound(err)
	}
	return s.Revision(ctx, circuit, id)
}

// CreateCircuit adds a circuit to a job; its first revision is the change.
func (s *Store) CreateCircuit(ctx context.Context, job string, first Change) (Circuit, error) {
	var id string
	err := s.do(ctx, func(tx *sql.Tx) (err error) {
		id, err = createCircuit(ctx, tx, job, first)
		return err
	})
	if err != nil {
		return Circuit{}, err
	}
	return s.Circuit(ctx, id)
}

func createCircuit(ctx context.Context, tx *sql.Tx, job string, first Change) (id string, err error) {
	var exists bool
	if err := tx.QueryRowContext(ctx, `SELECT 1 FROM jobs WHERE id = ? AND removed_at IS NULL`, job).Scan(&exists); err != nil {
		return "", notFound(err)
	}
	if err := roomForCircuits(ctx, tx, job, 1); err != nil {
		return "", err
	}
	id = newID()
	if _, err := tx.ExecContext(ctx, `INSERT INTO circuits (id, job_id, head_id, created_at) VALUES (?, ?, '', ?)`, id, job, now()); err != nil {
		return "", err
	}
	return id, appendRevision(ctx, tx, id, sql.NullString{}, first)
}

// appendRevision adds a revision after parent and makes it the head.
func appendRevision(ctx context.Context, tx *sql.Tx, circuit string, parent sql.NullString, c Change) error {
	if err := roomForRevision(ctx, tx, circuit, int64(len(c.Document))); err != nil {
		return err
	}
	id := newID()
	_, err := tx.ExecContext(ctx, `
		INSERT INTO revisions (id, circuit_id, parent_id, number, said, document, choice, planned, created_at, made_by)
		VALUES (?1, ?2, ?3, (SELECT coalesce(max(number), 0) + 1 FROM revisions WHERE circuit_id = ?2), ?4, ?5, ?6, ?7, ?8, ?9)`,
		id, circuit, parent, limits.Summary(c.Summary), string(c.Document), c.Choice, string(c.Planned), now(), limits.By(c.By))
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `UPDATE revisions SET next_id = ? WHERE id = ?`, id, parent); err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `UPDATE circuits SET head_id = ?, history_bytes = history_bytes + ? WHERE id = ?`, id, len(c.Document), circuit)
	return err
}

// Revise appends a revision to the one whose id is base. It returns
// [ErrStale] when base is not the head any more.
func (s *Store) Revise(ctx context.Context, id string, base string, c Change) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error {
		return appendRevision(ctx, tx, id, sql.NullString{String: head.id, Valid: true}, c)
	})
}

// Undo makes the parent of the head the head; base is as for [Store.Revise].
func (s *Store) Undo(ctx context.Context, id string, base string) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error { return setHead(ctx, tx, id, head.parent) })
}

// Redo takes the last Undo back.
func (s *Store) Redo(ctx context.Context, id string, base string) (Circuit, error) {
	return s.move(ctx, id, base, func(tx *sql.Tx, head head) error { return setHead(ctx, tx, id, head.next) })
}

func setHead(ctx context.Context, tx *sql.Tx, circuit string, to sql.NullString) error {
	if !to.Valid {
		return ErrNothing
	}
	_, err := tx.ExecContext(ctx, `UPDATE circuits SET head_id = ? WHERE id = ?`, to, circuit)
	return err
}

// head is where a circuit stands in its revisions.
type head struct {
	id           string
	parent, next sql.NullString
}

// move changes the head of a circuit if it still is what the caller saw.
func (s *Store) move(ctx context.Context, id string, base string, f func(*sql.Tx, head) error) (Circuit, error) {
	err := s.do(ctx, func(tx *sql.Tx) error {
		var h head
		err := tx.QueryRowContext(ctx, `SELECT r.id, r.parent_id, r.next_id FROM circuits c JOIN revisions r ON r.id = c.head_id JOIN jobs j ON j.id = c.job_id
			WHERE c.id = ? AND c.removed_at IS NULL AND j.removed_at IS NULL`, id).
			Scan(&h.id, &h.parent, &h.next)
		if err != nil {
			return notFound(err)
		}
		if h.id != base {
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
