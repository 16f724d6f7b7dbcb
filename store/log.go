package store

import (
	"context"
	"database/sql"
	"time"

	"ambivia/core/limits"
)

// Logged is one entry of a circuit's log. Number counts from one; By is who made it, "" where nobody said.
type Logged struct {
	Number  int
	Data    []byte // JSON
	Created time.Time
	By      string
}

// Log returns the log of a circuit in its order.
func (s *Store) Log(ctx context.Context, circuit string) ([]Logged, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT number, data, created_at, made_by FROM log WHERE circuit_id = ? AND circuit_id IN `+keptCircuits+` ORDER BY number`, circuit)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Logged
	for rows.Next() {
		var e Logged
		var data, created string
		if err := rows.Scan(&e.Number, &data, &created, &e.By); err != nil {
			return nil, err
		}
		e.Data, e.Created = []byte(data), parseTime(created)
		out = append(out, e)
	}
	return out, rows.Err()
}

// LogLengths counts the entries of the log of each circuit of a job; a circuit without any is left out.
func (s *Store) LogLengths(ctx context.Context, job string) (map[string]int, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT circuit_id, count(*) FROM log WHERE circuit_id IN (SELECT id FROM circuits WHERE job_id = ?) GROUP BY circuit_id`, job)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := map[string]int{}
	for rows.Next() {
		var id string
		var n int
		if err := rows.Scan(&id, &n); err != nil {
			return nil, err
		}
		out[id] = n
	}
	return out, rows.Err()
}

// Worked lists the circuits that have a log, the newest first, as many as are asked for.
func (s *Store) Worked(ctx context.Context, most int) ([]string, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT DISTINCT circuit_id FROM log WHERE circuit_id IN `+keptCircuits+` ORDER BY circuit_id DESC LIMIT ?`, most)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []string
	for rows.Next() {
		var id string
		if err := rows.Scan(&id); err != nil {
			return nil, err
		}
		out = append(out, id)
	}
	return out, rows.Err()
}

// AddToLog adds an entry to the log of a circuit, after the one that its maker saw last: base is the number of that, 0
// where there was none. It is [ErrStale] where others were added since, and an [*limits.Error] where the log is full.
func (s *Store) AddToLog(ctx context.Context, circuit string, base int, by string, data []byte) (Logged, error) {
	out := Logged{Number: base + 1, Data: data, By: limits.By(by), Created: parseTime(now())}
	err := s.do(ctx, func(tx *sql.Tx) error {
		if err := kept(ctx, tx, circuit); err != nil {
			return err
		}
		var last int
		var bytes int64
		if err := tx.QueryRowContext(ctx, `SELECT coalesce(max(number), 0), coalesce(sum(octet_length(data)), 0) FROM log WHERE circuit_id = ?`, circuit).Scan(&last, &bytes); err != nil {
			return err
		}
		if last != base {
			return ErrStale
		}
		if err := limits.Log(last, bytes, int64(len(data))); err != nil {
			return err
		}
		if err := roomInJob(ctx, tx, circuit, int64(len(data))); err != nil {
			return err
		}
		return insertLog(ctx, tx, circuit, out)
	})
	return out, err
}

func insertLog(ctx context.Context, tx *sql.Tx, circuit string, e Logged) error {
	if _, err := tx.ExecContext(ctx, `UPDATE circuits SET history_bytes = history_bytes + ? WHERE id = ?`, len(e.Data), circuit); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO log (circuit_id, number, data, created_at, made_by) VALUES (?, ?, ?, ?, ?)`, circuit, e.Number, string(e.Data), formatTime(e.Created), e.By)
	return err
}
