package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
)

// Firm returns who does the work: the JSON of it, and its version.
func (s *Store) Firm(ctx context.Context) (Versioned, error) {
	v := Versioned{Data: []byte("{}")}
	var data string
	err := s.db.QueryRowContext(ctx, `SELECT version, data FROM firm WHERE one = 1`).Scan(&v.Version, &data)
	if errors.Is(err, sql.ErrNoRows) {
		return v, nil
	}
	v.Data = []byte(data)
	return v, err
}

// PutFirm keeps who does the work in the stead of the version base; [ErrStale] where another is there.
func (s *Store) PutFirm(ctx context.Context, base string, data []byte) (Versioned, error) {
	v := Versioned{Version: newID(), Data: data}
	return v, s.do(ctx, func(tx *sql.Tx) error {
		var have string
		if err := tx.QueryRowContext(ctx, `SELECT version FROM firm WHERE one = 1`).Scan(&have); err != nil && !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		if have != base {
			return ErrStale
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO firm (one, version, data) VALUES (1, ?, ?) ON CONFLICT (one) DO UPDATE SET version = excluded.version, data = excluded.data`, v.Version, string(data))
		return err
	})
}

// Customer returns for whom a job is done: the JSON of it, and its version.
func (s *Store) Customer(ctx context.Context, job string) (Versioned, error) {
	var data string
	err := s.db.QueryRowContext(ctx, `SELECT customer FROM jobs WHERE id = ? AND removed_at IS NULL`, job).Scan(&data)
	return Versioned{versionOf(data), []byte(data)}, notFound(err)
}

// versionOf names what is written: the same text has the same version.
func versionOf(data string) string {
	sum := sha256.Sum256([]byte(data))
	return hex.EncodeToString(sum[:8])
}

// PutCustomer keeps for whom a job is done, over the version that was read. The error is [ErrStale] where another one is
// kept by now; base "" keeps over anything.
func (s *Store) PutCustomer(ctx context.Context, job, base string, data []byte) error {
	return s.do(ctx, func(tx *sql.Tx) error {
		var have string
		if err := tx.QueryRowContext(ctx, `SELECT customer FROM jobs WHERE id = ? AND removed_at IS NULL`, job).Scan(&have); err != nil {
			return notFound(err)
		}
		if base != "" && base != versionOf(have) {
			return ErrStale
		}
		_, err := tx.ExecContext(ctx, `UPDATE jobs SET customer = ? WHERE id = ?`, string(data), job)
		return err
	})
}
