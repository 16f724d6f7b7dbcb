-- +goose Up
-- No id is ever used twice, so that what is known of one circuit is never shown as another's;
-- and what is removed lies in a bin for a while. Children are copied and dropped before their
-- parents: dropping a table removes its rows, and what hangs on them.
CREATE TABLE new_jobs (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    created_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;
INSERT INTO new_jobs (id, name, created_at) SELECT id, name, created_at FROM jobs;

CREATE TABLE new_circuits (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL REFERENCES new_jobs(id) ON DELETE CASCADE,
    head_id INTEGER NOT NULL REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    created_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;

CREATE TABLE new_revisions (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    circuit_id INTEGER NOT NULL REFERENCES new_circuits(id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    parent_id INTEGER REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    next_id INTEGER REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL,
    said TEXT NOT NULL,
    document TEXT NOT NULL,
    choice TEXT NOT NULL DEFAULT '',
    planned TEXT NOT NULL DEFAULT '',
    created_at TEXT NOT NULL,
    UNIQUE (circuit_id, number)
) STRICT;
INSERT INTO new_circuits (id, job_id, head_id, created_at) SELECT id, job_id, head_id, created_at FROM circuits;
INSERT INTO new_revisions (id, circuit_id, parent_id, next_id, number, said, document, choice, planned, created_at)
    SELECT id, circuit_id, parent_id, next_id, number, said, document, choice, planned, created_at FROM revisions;

CREATE TABLE new_photos (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    circuit_id INTEGER NOT NULL REFERENCES new_circuits(id) ON DELETE CASCADE,
    box TEXT NOT NULL,
    note TEXT NOT NULL DEFAULT '',
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    jpeg BLOB NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
INSERT INTO new_photos SELECT id, circuit_id, box, note, width, height, jpeg, created_at FROM photos;

CREATE TABLE new_houses (
    circuit_id INTEGER PRIMARY KEY REFERENCES new_circuits(id) ON DELETE CASCADE,
    document TEXT NOT NULL,
    seed INTEGER NOT NULL
) STRICT;
INSERT INTO new_houses SELECT circuit_id, document, seed FROM houses;

CREATE TABLE new_wishes (
    circuit_id INTEGER PRIMARY KEY REFERENCES new_circuits(id) ON DELETE CASCADE,
    data TEXT NOT NULL
) STRICT;
INSERT INTO new_wishes SELECT circuit_id, data FROM wishes;

DROP TABLE wishes;
DROP TABLE houses;
DROP TABLE photos;
DROP TABLE circuits;
DROP TABLE revisions;
DROP TABLE jobs;
ALTER TABLE new_jobs RENAME TO jobs;
ALTER TABLE new_circuits RENAME TO circuits;
ALTER TABLE new_revisions RENAME TO revisions;
ALTER TABLE new_photos RENAME TO photos;
ALTER TABLE new_houses RENAME TO houses;
ALTER TABLE new_wishes RENAME TO wishes;
CREATE INDEX circuits_by_job ON circuits(job_id);
CREATE INDEX photos_by_circuit ON photos(circuit_id);

-- +goose Down
ALTER TABLE circuits DROP COLUMN removed_at;
ALTER TABLE jobs DROP COLUMN removed_at;
