package store

import (
	"context"
	"database/sql"
)

// House is a hidden circuit that answers the tests of another: Document is the
// circuit file behind the walls.
type House struct {
	Document []byte
	Seed     uint64
}

// CreateHouse adds a circuit to a job, whose first revision is what can be seen of a
// hidden house, and keeps the house with it.
func (s *Store) CreateHouse(ctx context.Context, job string, first Change, h House) (Circuit, error) {
	var id string
	err := s.do(ctx, func(tx *sql.Tx) error {
		var err error
		if id, err = createCircuit(ctx, tx, job, first); err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, `INSERT INTO houses (circuit_id, document, seed) VALUES (?, ?, ?)`, id, string(h.Document), int64(h.Seed))
		return err
	})
	if err != nil {
		return Circuit{}, err
	}
	return s.Circuit(ctx, id)
}

// House returns the hidden house of a circuit; [ErrNotFound] where it has none.
func (s *Store) House(ctx context.Context, circuit string) (House, error) {
	var h House
	var document string
	var seed int64
	err := s.db.QueryRowContext(ctx, `SELECT document, seed FROM houses WHERE circuit_id = ? AND circuit_id IN `+keptCircuits, circuit).Scan(&document, &seed)
	h.Document, h.Seed = []byte(document), uint64(seed)
	return h, notFound(err)
}
