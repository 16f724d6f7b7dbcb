package store

import (
	"context"
	"database/sql"
	"time"
)

// Photo is a photograph of a box, without the picture itself. Box is the id that
// the box had when the photograph was taken; a box that was removed since keeps
// its photographs.
type Photo struct {
	ID, Circuit   int64
	Box, Note     string
	Width, Height int
	Created       time.Time
}

// Photos lists the photographs of a circuit in the order of taking.
func (s *Store) Photos(ctx context.Context, circuit int64) ([]Photo, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, circuit_id, box, note, width, height, created_at FROM photos WHERE circuit_id = ? AND circuit_id IN `+keptCircuits+` ORDER BY id`, circuit)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Photo{}
	for rows.Next() {
		p, err := scanPhoto(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	return out, rows.Err()
}

func scanPhoto(row scanner) (Photo, error) {
	var p Photo
	var created string
	err := row.Scan(&p.ID, &p.Circuit, &p.Box, &p.Note, &p.Width, &p.Height, &created)
	p.Created = parseTime(created)
	return p, notFound(err)
}

// Picture returns the JPEG file of a photograph.
func (s *Store) Picture(ctx context.Context, id int64) ([]byte, error) {
	var jpeg []byte
	err := s.db.QueryRowContext(ctx, `SELECT jpeg FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id).Scan(&jpeg)
	return jpeg, notFound(err)
}

// AddPhoto keeps a photograph; its number and time are given by the store.
func (s *Store) AddPhoto(ctx context.Context, p Photo, jpeg []byte) (Photo, error) {
	err := s.do(ctx, func(tx *sql.Tx) error {
		if err := kept(ctx, tx, p.Circuit); err != nil {
			return err
		}
		p.Created = parseTime(now())
		id, err := insertPhoto(ctx, tx, p, jpeg)
		p.ID = id
		return err
	})
	return p, err
}

func insertPhoto(ctx context.Context, tx *sql.Tx, p Photo, jpeg []byte) (int64, error) {
	result, err := tx.ExecContext(ctx, `INSERT INTO photos (circuit_id, box, note, width, height, jpeg, created_at) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		p.Circuit, p.Box, p.Note, p.Width, p.Height, jpeg, formatTime(p.Created))
	if err != nil {
		return 0, err
	}
	return result.LastInsertId()
}

// NotePhoto writes what is to be said of a photograph.
func (s *Store) NotePhoto(ctx context.Context, id int64, note string) (Photo, error) {
	if _, err := s.db.ExecContext(ctx, `UPDATE photos SET note = ? WHERE id = ? AND circuit_id IN `+keptCircuits, note, id); err != nil {
		return Photo{}, err
	}
	return scanPhoto(s.db.QueryRowContext(ctx, `SELECT id, circuit_id, box, note, width, height, created_at FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id))
}

// DeletePhoto removes a photograph.
func (s *Store) DeletePhoto(ctx context.Context, id int64) error {
	return s.one(ctx, `DELETE FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id)
}
