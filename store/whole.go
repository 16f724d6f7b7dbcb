package store

import (
	"context"
	"database/sql"
	"fmt"

	"ambivia/core/limits"
)

// Whole is a circuit with its whole history and its photographs, as it goes into
// an archive and comes out of one. Head, Parent and Next are numbers of
// revisions; 0 is none.
type Whole struct {
	Head    int
	History []Past
	Photos  []Photo
	Picture func(i int) ([]byte, error) // of a photograph, by its place in Photos
	Wishes  []byte                      // what is wanted of the plan, or nil
	Use     []byte                      // how the light is used, or nil
	Links   []byte                      // how the links of the chosen plan are made, or nil
	// Log is what was done, entry by entry. It names photographs by the ids that Photos have here; Renamed writes an
	// entry with other ids, and is needed only where the log has any.
	Log     []Logged
	Renamed func(data []byte, ids map[string]string) ([]byte, error)
}

// Past is a revision with its place in the history.
type Past struct {
	Revision
	Parent, Next int
}

// Whole returns a circuit with everything that belongs to it.
func (s *Store) Whole(ctx context.Context, circuit string) (*Whole, error) {
	c, err := s.Circuit(ctx, circuit)
	if err != nil {
		return nil, err
	}
	out := &Whole{Head: c.Head.Number}
	if out.History, err = s.History(ctx, circuit); err != nil {
		return nil, err
	}
	wished, err := s.Wishes(ctx, circuit)
	if err != nil {
		return nil, err
	}
	out.Wishes = wished.Data
	use, err := s.Use(ctx, circuit)
	if err != nil {
		return nil, err
	}
	out.Use = use.Data
	made, err := s.Links(ctx, circuit)
	if err != nil {
		return nil, err
	}
	out.Links = made.Data
	if out.Photos, err = s.Photos(ctx, circuit); err != nil {
		return nil, err
	}
	out.Picture = func(i int) ([]byte, error) { return s.Picture(ctx, out.Photos[i].ID) }
	out.Log, err = s.Log(ctx, circuit)
	return out, err
}

// History lists all revisions of a circuit in the order of making.
func (s *Store) History(ctx context.Context, circuit string) ([]Past, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT r.id, r.number, r.said, r.made_by, r.document, r.choice, r.planned, r.created_at, coalesce(p.number, 0), coalesce(n.number, 0)
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
		if err := rows.Scan(&p.ID, &p.Number, &p.Summary, &p.By, &document, &p.Choice, &planned, &created, &p.Parent, &p.Next); err != nil {
			return nil, err
		}
		p.Document, p.Planned, p.Created = []byte(document), []byte(planned), parseTime(created)
		out = append(out, p)
	}
	return out, rows.Err()
}

// Revisions lists what was said of the revisions of a circuit, without their documents: the last first, those before a number where
// one is given, and so many at most, all where most is 0.
func (s *Store) Revisions(ctx context.Context, circuit string, before, most int) ([]Past, error) {
	if most == 0 {
		most = -1 // which is no limit
	}
	rows, err := s.db.QueryContext(ctx, `
		SELECT id, number, said, made_by, choice, created_at FROM revisions
		WHERE circuit_id = ? AND (? = 0 OR number < ?) ORDER BY number DESC LIMIT ?`, circuit, before, before, most)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Past{}
	for rows.Next() {
		var p Past
		var created string
		if err := rows.Scan(&p.ID, &p.Number, &p.Summary, &p.By, &p.Choice, &created); err != nil {
			return nil, err
		}
		p.Created = parseTime(created)
		out = append(out, p)
	}
	return out, rows.Err()
}

// AddWhole adds a job with circuits and everything that belongs to them, in one
// step: either all of it is written or nothing. Device models that came with it are kept
// by their ids, but for those that are here already: a job from outside changes none.
func (s *Store) AddWhole(ctx context.Context, name string, circuits []*Whole, devices map[string][]byte) (Job, error) {
	name, err := limits.Name(name)
	if err != nil {
		return Job{}, err
	}
	if len(circuits) > limits.Circuits {
		return Job{}, limits.Full("a job has %d circuits at most", limits.Circuits)
	}
	var job string
	err = s.do(ctx, func(tx *sql.Tx) error {
		job = newID()
		if _, err := tx.ExecContext(ctx, `INSERT INTO jobs (id, name, created_at) VALUES (?, ?, ?)`, job, name, now()); err != nil {
			return err
		}
		for id, data := range devices {
			if _, err := tx.ExecContext(ctx, `INSERT INTO devices (id, version, data, created_at) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`, id, newID(), string(data), now()); err != nil {
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

func addWhole(ctx context.Context, tx *sql.Tx, job string, c *Whole) error {
	id := newID()
	if _, err := tx.ExecContext(ctx, `INSERT INTO circuits (id, job_id, head_id, created_at) VALUES (?, ?, '', ?)`, id, job, now()); err != nil {
		return err
	}
	for table, data := range map[string][]byte{wishes: c.Wishes, uses: c.Use, links: c.Links} {
		if data == nil {
			continue
		}
		if err := insertSingle(ctx, tx, table, id, data); err != nil {
			return err
		}
	}
	ids := map[int]string{} // of revisions by their number
	bytes := int64(0)
	for n, p := range c.History {
		if err := limits.Document(n, bytes, int64(len(p.Document))); err != nil {
			return err
		}
		bytes += int64(len(p.Document))
	}
	if err := roomInJob(ctx, tx, id, bytes); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `UPDATE circuits SET history_bytes = ? WHERE id = ?`, bytes, id); err != nil {
		return err
	}
	for _, p := range c.History {
		parent := sql.NullString{String: ids[p.Parent], Valid: p.Parent != 0}
		ids[p.Number] = newID()
		_, err := tx.ExecContext(ctx, `
			INSERT INTO revisions (id, circuit_id, parent_id, number, said, document, choice, planned, created_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			ids[p.Number], id, parent, p.Number, limits.Summary(p.Summary), string(p.Document), p.Choice, string(p.Planned), formatTime(p.Created), limits.By(p.By))
		if err != nil {
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
	if ids[c.Head] == "" {
		return fmt.Errorf("a circuit without its head revision %d", c.Head)
	}
	if _, err := tx.ExecContext(ctx, `UPDATE circuits SET head_id = ? WHERE id = ?`, ids[c.Head], id); err != nil {
		return err
	}
	photos := map[string]string{}
	for i, p := range c.Photos {
		if err := limits.Note(p.Note); err != nil {
			return err
		}
		p.Circuit = id
		jpeg, err := c.Picture(i)
		if err != nil {
			return err
		}
		was := p.ID
		if photos[was], err = insertPhoto(ctx, tx, p, jpeg); err != nil {
			return err
		}
	}
	bytes = 0
	for i, e := range c.Log {
		if e.Number != i+1 {
			return fmt.Errorf("entry %d of a log stands where %d belongs", e.Number, i+1)
		}
		data, err := c.Renamed(e.Data, photos)
		if err != nil {
			return err
		}
		e.Data = data
		if err := limits.Log(i, bytes, int64(len(e.Data))); err != nil {
			return err
		}
		bytes += int64(len(e.Data))
		if err := roomInJob(ctx, tx, id, int64(len(e.Data))); err != nil {
			return err
		}
		e.By = limits.By(e.By)
		if err := insertLog(ctx, tx, id, e); err != nil {
			return err
		}
	}
	return nil
}
