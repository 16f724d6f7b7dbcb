-- +goose Up
-- A job that is over is put away without being removed: it stands apart from those that are worked on.
ALTER TABLE jobs ADD COLUMN archived_at TEXT;

-- +goose Down
ALTER TABLE jobs DROP COLUMN archived_at;
