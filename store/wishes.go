package store

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"slices"
)

// Versioned is something that is replaced as a whole. Version is "" where there is none yet; who
// replaces it names the version that they saw, else [ErrStale].
type Versioned struct {
	Version string
	Data    []byte
}

// Tables of what a circuit has one of, replaced as a whole.
const (
	wishes = "wishes"
	uses   = "uses"
	links  = "links"
)

// Wishes returns what was wished for a circuit, empty where nothing was; [ErrNotFound] where there
// is no such circuit.
func (s *Store) Wishes(ctx context.Context, circuit string) (Versioned, error) {
	return s.single(ctx, wishes, circuit)
}

// Wish keeps what is wished for a circuit in the stead of the version base.
func (s *Store) Wish(ctx context.Context, circuit, base string, data []byte) error {
	return s.putSingle(ctx, wishes, circuit, base, data)
}

// Use returns how the light of a circuit is used, empty where nobody said; [ErrNotFound] where there is no such circuit.
func (s *Store) Use(ctx context.Context, circuit string) (Versioned, error) {
	return s.single(ctx, uses, circuit)
}

// PutUse keeps how a light is used in the stead of the version base.
func (s *Store) PutUse(ctx context.Context, circuit, base string, data []byte) error {
	return s.putSingle(ctx, uses, circuit, base, data)
}

// Links returns how the links of the chosen plan of a circuit are made, empty where nobody said; [ErrNotFound] where there is no
// such circuit.
func (s *Store) Links(ctx context.Context, circuit string) (Versioned, error) {
	return s.single(ctx, links, circuit)
}

// PutLinks keeps how links are made in the stead of the version base.
func (s *Store) PutLinks(ctx context.Context, circuit, base string, data []byte) error {
	return s.putSingle(ctx, links, circuit, base, data)
}

func (s *Store) single(ctx context.Context, table, circuit string) (Versioned, error) {
	var v Versioned
	var data string
	err := s.db.QueryRowContext(ctx, `SELECT version, data FROM `+table+` WHERE circuit_id = ? AND circuit_id IN `+keptCircuits, circuit).Scan(&v.Version, &data)
	if errors.Is(err, sql.ErrNoRows) {
		return v, kept(ctx, s.db, circuit)
	}
	v.Data = []byte(data)
	return v, err
}

func (s *Store) putSingle(ctx context.Context, table, circuit, base string, data []byte) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		if err := kept(ctx, tx, circuit); err != nil {
			return err
		}
		var have string
		if err := tx.QueryRowContext(ctx, `SELECT version FROM `+table+` WHERE circuit_id = ?`, circuit).Scan(&have); err != nil && !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		if have != base {
			return ErrStale
		}
		return insertSingle(ctx, tx, table, circuit, data)
	})
}

func insertSingle(ctx context.Context, tx *sql.Tx, table, circuit string, data []byte) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO `+table+` (circuit_id, version, data) VALUES (?, ?, ?) ON CONFLICT (circuit_id) DO UPDATE SET version = excluded.version, data = excluded.data`, circuit, newID(), string(data))
	return err
}

// Devices returns people's own device models, oldest first: each the JSON of one.
func (s *Store) Devices(ctx context.Context) ([]Versioned, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT version, data FROM devices ORDER BY created_at, id`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Versioned
	for rows.Next() {
		var v Versioned
		var data string
		if err := rows.Scan(&v.Version, &data); err != nil {
			return nil, err
		}
		v.Data = []byte(data)
		out = append(out, v)
	}
	return out, rows.Err()
}

// PutDevices keeps device models by their ids, all of them or none: each in the stead of the
// version that it names, or as the first of its id; one that is there just so stays. Where one is not that any more nothing is
// written, and the ids that are in the way come back with [ErrStale].
func (s *Store) PutDevices(ctx context.Context, byID map[string]Versioned) (stale []string, err error) {
	err = s.do(ctx, func(tx *sql.Tx) error {
		for id, v := range byID {
			have, err := deviceNow(ctx, tx, id)
			if err != nil {
				return err
			}
			if have.Version != "" && bytes.Equal(have.Data, v.Data) {
				continue // it is there already
			}
			if have.Version != v.Version {
				stale = append(stale, id)
				continue
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO devices (id, version, data, created_at) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET version = excluded.version, data = excluded.data`, id, newID(), string(v.Data), now()); err != nil {
				return err
			}
		}
		if len(stale) > 0 {
			return ErrStale
		}
		return nil
	})
	slices.Sort(stale)
	return stale, err
}

// DeleteDevice forgets the version base of one of them; [ErrNotFound] where there is none,
// [ErrStale] where it is another by now.
func (s *Store) DeleteDevice(ctx context.Context, id, base string) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		have, err := deviceNow(ctx, tx, id)
		switch {
		case err != nil:
			return err
		case have.Version == "":
			return ErrNotFound
		case have.Version != base:
			return ErrStale
		}
		_, err = tx.ExecContext(ctx, `DELETE FROM devices WHERE id = ?`, id)
		return err
	})
}

// deviceNow is a device as it stands, empty where there is none.
func deviceNow(ctx context.Context, tx *sql.Tx, id string) (v Versioned, err error) {
	var data string
	err = tx.QueryRowContext(ctx, `SELECT version, data FROM devices WHERE id = ?`, id).Scan(&v.Version, &data)
	if errors.Is(err, sql.ErrNoRows) {
		return v, nil
	}
	v.Data = []byte(data)
	return v, err
}
