package store

import (
	"context"
	"database/sql"
	"time"

	"ambivia/core/limits"
)

// Photo is a photograph of a box, without the picture itself. Box is the id that
// the box had when the photograph was taken; a box that was removed since keeps
// its photographs.
type Photo struct {
	ID, Circuit   string
	Box, Note     string
	Width, Height int
	Created       time.Time
}

// Photos lists the photographs of a circuit in the order of taking.
func (s *Store) Photos(ctx context.Context, circuit string) ([]Photo, error) {
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
func (s *Store) Picture(ctx context.Context, id string) ([]byte, error) {
	var jpeg []byte
	err := s.db.QueryRowContext(ctx, `SELECT jpeg FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id).Scan(&jpeg)
	return jpeg, notFound(err)
}

// AddPhoto keeps a photograph; its id and time are given by the store.
func (s *Store) AddPhoto(ctx context.Context, p Photo, jpeg []byte) (Photo, error) {
	err := s.do(ctx, func(tx *sql.Tx) error {
		if err := kept(ctx, tx, p.Circuit); err != nil {
			return err
		}
		p.Created = parseTime(now())
		if err := limits.Note(p.Note); err != nil {
			return err
		}
		var err error
		p.ID, err = insertPhoto(ctx, tx, p, jpeg)
		return err
	})
	return p, err
}

func insertPhoto(ctx context.Context, tx *sql.Tx, p Photo, jpeg []byte) (string, error) {
	if err := roomForPhoto(ctx, tx, p.Circuit, int64(len(jpeg))); err != nil {
		return "", err
	}
	if _, err := tx.ExecContext(ctx, `UPDATE circuits SET photo_bytes = photo_bytes + ? WHERE id = ?`, len(jpeg), p.Circuit); err != nil {
		return "", err
	}
	id := newID()
	_, err := tx.ExecContext(ctx, `INSERT INTO photos (id, circuit_id, box, note, width, height, jpeg, created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
		id, p.Circuit, p.Box, p.Note, p.Width, p.Height, jpeg, formatTime(p.Created))
	return id, err
}

// NotePhoto writes what is noted of a photograph.
func (s *Store) NotePhoto(ctx context.Context, id string, note string) (Photo, error) {
	if err := limits.Note(note); err != nil {
		return Photo{}, err
	}
	if _, err := s.db.ExecContext(ctx, `UPDATE photos SET note = ? WHERE id = ? AND circuit_id IN `+keptCircuits, note, id); err != nil {
		return Photo{}, err
	}
	return scanPhoto(s.db.QueryRowContext(ctx, `SELECT id, circuit_id, box, note, width, height, created_at FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id))
}

// DeletePhoto removes a photograph, and gives its room back to the disk.
func (s *Store) DeletePhoto(ctx context.Context, id string) error {
	return s.removing(ctx, func() error {
		return s.do(ctx, func(tx *sql.Tx) error { return deletePhoto(ctx, tx, id) })
	})
}

func deletePhoto(ctx context.Context, tx *sql.Tx, id string) error {
	var circuit string
	var bytes int64
	err := tx.QueryRowContext(ctx, `SELECT circuit_id, octet_length(jpeg) FROM photos WHERE id = ? AND circuit_id IN `+keptCircuits, id).Scan(&circuit, &bytes)
	if err != nil {
		return notFound(err)
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM photos WHERE id = ?`, id); err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `UPDATE circuits SET photo_bytes = photo_bytes - ? WHERE id = ?`, bytes, circuit)
	return err
}
