package store

import (
	"context"
	"database/sql"
	"fmt"
)

// Whole is a circuit with its whole history and its photographs, as it goes into
// an archive and comes out of one. Head, Parent and Next are numbers of
// revisions; 0 is none.
type Whole struct {
	Head     int
	History  []Past
	Photos   []Photo
	Pictures [][]byte // of the photographs, in their order
	Wishes   []byte   // what is wanted of the plan, or nil
}

// Past is a revision with its place in the history.
type Past struct {
	Revision
	Parent, Next int
}

// Whole returns a circuit with everything that belongs to it.
func (s *Store) Whole(ctx context.Context, circuit int64) (*Whole, error) {
	c, err := s.Circuit(ctx, circuit)
	if err != nil {
		return nil, err
	}
	out := &Whole{Head: c.Head.Number}
	if out.History, err = s.History(ctx, circuit); err != nil {
		return nil, err
	}
	if out.Wishes, err = s.Wishes(ctx, circuit); err != nil {
		return nil, err
	}
	if out.Photos, err = s.Photos(ctx, circuit); err != nil {
		return nil, err
	}
	for _, p := range out.Photos {
		jpeg, err := s.Picture(ctx, p.ID)
		if err != nil {
			return nil, err
		}
		out.Pictures = append(out.Pictures, jpeg)
	}
	return out, nil
}

// History lists all revisions of a circuit in the order of making.
func (s *Store) History(ctx context.Context, circuit int64) ([]Past, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT r.id, r.number, r.said, r.document, r.choice, r.planned, r.created_at, coalesce(p.number, 0), coalesce(n.number, 0)
		FROM revisions r LEFT JOIN revisions p ON p.id = r.parent_id LEFT JOIN revisions n ON n.id = r.next_id
		WHERE r.circuit_id = ? ORDER BY r.number`, circuit)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Past
	for rows.Next() {
		var p Past
		var document, planned, created string
		if err := rows.Scan(&p.ID, &p.Number, &p.Said, &document, &p.Choice, &planned, &created, &p.Parent, &p.Next); err != nil {
			return nil, err
		}
		p.Document, p.Planned, p.Created = []byte(document), []byte(planned), parseTime(created)
		out = append(out, p)
	}
	return out, rows.Err()
}

// AddWhole adds a job with circuits and everything that belongs to them, in one
// step: either all of it is written or nothing. Device models that came with it are kept
// by their ids, but for those that are here already: a job from outside changes none.
func (s *Store) AddWhole(ctx context.Context, name string, circuits []*Whole, devices map[string][]byte) (Job, error) {
	var job int64
	err := s.do(ctx, func(tx *sql.Tx) error {
		result, err := tx.ExecContext(ctx, `INSERT INTO jobs (name, created_at) VALUES (?, ?)`, name, now())
		if err != nil {
			return err
		}
		if job, err = result.LastInsertId(); err != nil {
			return err
		}
		for id, data := range devices {
			if _, err := tx.ExecContext(ctx, `INSERT INTO devices (id, data, created_at) VALUES (?, ?, ?) ON CONFLICT (id) DO NOTHING`, id, string(data), now()); err != nil {
				return err
			}
		}
		for _, c := range circuits {
			if err := addWhole(ctx, tx, job, c); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return Job{}, err
	}
	return s.Job(ctx, job)
}

func addWhole(ctx context.Context, tx *sql.Tx, job int64, c *Whole) error {
	result, err := tx.ExecContext(ctx, `INSERT INTO circuits (job_id, head_id, created_at) VALUES (?, 0, ?)`, job, now())
	if err != nil {
		return err
	}
	id, err := result.LastInsertId()
	if err != nil {
		return err
	}
	if c.Wishes != nil {
		if _, err := tx.ExecContext(ctx, `INSERT INTO wishes (circuit_id, data) VALUES (?, ?)`, id, string(c.Wishes)); err != nil {
			return err
		}
	}
	ids := map[int]int64{} // of revisions by their number
	for _, p := range c.History {
		parent := sql.NullInt64{Int64: ids[p.Parent], Valid: p.Parent != 0}
		result, err := tx.ExecContext(ctx, `
			INSERT INTO revisions (circuit_id, parent_id, number, said, document, choice, planned, created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
			id, parent, p.Number, p.Said, string(p.Document), p.Choice, string(p.Planned), formatTime(p.Created))
		if err != nil {
			return err
		}
		if ids[p.Number], err = result.LastInsertId(); err != nil {
			return err
		}
	}
	for _, p := range c.History {
		if p.Next == 0 {
			continue
		}
		if _, err := tx.ExecContext(ctx, `UPDATE revisions SET next_id = ? WHERE id = ?`, ids[p.Next], ids[p.Number]); err != nil {
			return err
		}
	}
	if ids[c.Head] == 0 {
		return fmt.Errorf("a circuit without its head revision %d", c.Head)
	}
	if _, err := tx.ExecContext(ctx, `UPDATE circuits SET head_id = ? WHERE id = ?`, ids[c.Head], id); err != nil {
		return err
	}
	for i, p := range c.Photos {
		p.Circuit = id
		if _, err := insertPhoto(ctx, tx, p, c.Pictures[i]); err != nil {
			return err
		}
	}
	return nil
}
