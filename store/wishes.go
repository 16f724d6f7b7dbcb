package store

import (
	"context"
	"database/sql"
	"errors"
)

// Wishes returns what was wished for a circuit, or nil where nothing was; [ErrNotFound]
// where there is no such circuit.
func (s *Store) Wishes(ctx context.Context, circuit int64) ([]byte, error) {
	var data string
	err := s.db.QueryRowContext(ctx, `SELECT data FROM wishes WHERE circuit_id = ? AND circuit_id IN `+keptCircuits, circuit).Scan(&data)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, kept(ctx, s.db, circuit)
	}
	return []byte(data), err
}

// Wish keeps what is wished for a circuit.
func (s *Store) Wish(ctx context.Context, circuit int64, data []byte) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		if err := kept(ctx, tx, circuit); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO wishes (circuit_id, data) VALUES (?, ?) ON CONFLICT (circuit_id) DO UPDATE SET data = excluded.data`, circuit, string(data))
		return err
	})
}

// Devices returns people's own device models, oldest first: each the JSON of one.
func (s *Store) Devices(ctx context.Context) ([][]byte, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT data FROM devices ORDER BY created_at, id`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out [][]byte
	for rows.Next() {
		var data string
		if err := rows.Scan(&data); err != nil {
			return nil, err
		}
		out = append(out, []byte(data))
	}
	return out, rows.Err()
}

// PutDevices keeps device models by their ids, all of them or none; one that has the id of
// another takes its place.
func (s *Store) PutDevices(ctx context.Context, byID map[string][]byte) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		for id, data := range byID {
			if _, err := tx.ExecContext(ctx, `INSERT INTO devices (id, data, created_at) VALUES (?, ?, ?) ON CONFLICT (id) DO UPDATE SET data = excluded.data`, id, string(data), now()); err != nil {
				return err
			}
		}
		return nil
	})
}

// DeleteDevice forgets one of them; [ErrNotFound] where there is none.
func (s *Store) DeleteDevice(ctx context.Context, id string) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		r, err := tx.ExecContext(ctx, `DELETE FROM devices WHERE id = ?`, id)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNotFound)
		}
		return nil
	})
}
