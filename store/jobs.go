package store

import (
	"context"

	"ambivia/core/limits"
)

const selectJobs = `SELECT j.id, j.name, j.created_at, j.archived_at IS NOT NULL, count(c.id) FROM jobs j LEFT JOIN circuits c ON c.job_id = j.id AND c.removed_at IS NULL WHERE j.removed_at IS NULL`

// Jobs lists all jobs, the newest first.
func (s *Store) Jobs(ctx context.Context) ([]Job, error) { return s.JobsBefore(ctx, "", 0) }

// JobsBefore lists jobs that are older than one, the newest first, and so many at most; before "" begins with the newest,
// most 0 lists all.
func (s *Store) JobsBefore(ctx context.Context, before string, most int) ([]Job, error) {
	if most == 0 {
		most = -1 // which is no limit
	}
	rows, err := s.db.QueryContext(ctx, selectJobs+` AND (? = '' OR j.id < ?) GROUP BY j.id ORDER BY j.id DESC LIMIT ?`, before, before, most)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	jobs := []Job{}
	for rows.Next() {
		var j Job
		var created string
		if err := rows.Scan(&j.ID, &j.Name, &created, &j.Archived, &j.Circuits); err != nil {
			return nil, err
		}
		j.Created = parseTime(created)
		jobs = append(jobs, j)
	}
	return jobs, rows.Err()
}

// Job returns one job.
func (s *Store) Job(ctx context.Context, id string) (Job, error) {
	var j Job
	var created string
	err := s.db.QueryRowContext(ctx, selectJobs+` AND j.id = ? GROUP BY j.id`, id).Scan(&j.ID, &j.Name, &created, &j.Archived, &j.Circuits)
	j.Created = parseTime(created)
	return j, notFound(err)
}

// CreateJob adds a job.
func (s *Store) CreateJob(ctx context.Context, name string) (Job, error) {
	name, err := limits.Name(name)
	if err != nil {
		return Job{}, err
	}
	id := newID()
	if _, err := s.db.ExecContext(ctx, `INSERT INTO jobs (id, name, created_at) VALUES (?, ?, ?)`, id, name, now()); err != nil {
		return Job{}, err
	}
	return s.Job(ctx, id)
}

// ChangeJob gives a job another name, and puts it away among those that are over or takes it back, in one; what is nil stays.
func (s *Store) ChangeJob(ctx context.Context, id string, name *string, archived *bool) (Job, error) {
	if name != nil {
		fit, err := limits.Name(*name)
		if err != nil {
			return Job{}, err
		}
		name = &fit
	}
	var at any
	if archived != nil && *archived {
		at = now()
	}
	if _, err := s.db.ExecContext(ctx, `UPDATE jobs SET name = COALESCE(?, name), archived_at = CASE WHEN ? THEN ? ELSE archived_at END
		WHERE id = ? AND removed_at IS NULL`, name, archived != nil, at, id); err != nil {
		return Job{}, err
	}
	return s.Job(ctx, id)
}
