-- +goose Up
CREATE TABLE jobs (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    created_at TEXT NOT NULL
) STRICT;

CREATE TABLE circuits (
    id INTEGER PRIMARY KEY,
    job_id INTEGER NOT NULL REFERENCES jobs(id) ON DELETE CASCADE,
    head_id INTEGER NOT NULL REFERENCES revisions(id) DEFERRABLE INITIALLY DEFERRED,
    created_at TEXT NOT NULL
) STRICT;
CREATE INDEX circuits_by_job ON circuits(job_id);

-- A revision is never changed but for next_id, the revision that redo leads to.
CREATE TABLE revisions (
    id INTEGER PRIMARY KEY,
    circuit_id INTEGER NOT NULL REFERENCES circuits(id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    parent_id INTEGER REFERENCES revisions(id) DEFERRABLE INITIALLY DEFERRED,
    next_id INTEGER REFERENCES revisions(id) DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL,
    said TEXT NOT NULL,
    document TEXT NOT NULL,
    choice TEXT NOT NULL DEFAULT '',
    planned TEXT NOT NULL DEFAULT '',
    created_at TEXT NOT NULL,
    UNIQUE (circuit_id, number)
) STRICT;

-- +goose Down
DROP TABLE revisions;
DROP TABLE circuits;
DROP TABLE jobs;
