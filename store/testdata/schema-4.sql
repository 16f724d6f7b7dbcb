-- A database as the program made it before there was a bin.
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


CREATE TABLE photos (
    id INTEGER PRIMARY KEY,
    circuit_id INTEGER NOT NULL REFERENCES circuits(id) ON DELETE CASCADE,
    box TEXT NOT NULL,
    note TEXT NOT NULL DEFAULT '',
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    jpeg BLOB NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
CREATE INDEX photos_by_circuit ON photos(circuit_id);


-- A hidden house that answers the tests of a circuit: the circuit behind the walls,
-- and the seed of how its switches stood and its instruments lie.
CREATE TABLE houses (
    circuit_id INTEGER PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    document TEXT NOT NULL,
    seed INTEGER NOT NULL
) STRICT;


-- What somebody wants of a circuit's plan, and people's own device models.
CREATE TABLE wishes (
    circuit_id INTEGER PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    data TEXT NOT NULL
) STRICT;
CREATE TABLE devices (
    id TEXT PRIMARY KEY,
    data TEXT NOT NULL,
    created_at TEXT NOT NULL
) STRICT;



CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY AUTOINCREMENT, version_id INTEGER NOT NULL, is_applied INTEGER NOT NULL, tstamp TIMESTAMP DEFAULT (datetime('now')));
INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1), (1, 1), (2, 1), (3, 1), (4, 1);
BEGIN;
INSERT INTO jobs VALUES (1, 'Tide mill', '2026-10-01T08:00:00Z'), (7, 'Wool shed', '2026-10-02T08:00:00Z');
INSERT INTO circuits VALUES (3, 1, 12, '2026-10-01T08:00:00Z'), (5, 1, 14, '2026-10-01T09:00:00Z');
INSERT INTO revisions VALUES
    (11, 3, NULL, 12, 1, 'made', 'first', '', '', '2026-10-01T08:00:00Z'),
    (12, 3, 11, 13, 2, 'changed', 'second', '', '', '2026-10-01T08:01:00Z'),
    (13, 3, 12, NULL, 3, 'changed', 'third', '', '', '2026-10-01T08:02:00Z'),
    (14, 5, NULL, NULL, 1, 'made', 'other', '', '', '2026-10-01T09:00:00Z');
INSERT INTO photos VALUES (4, 3, 'b1', 'note', 1, 1, CAST('jpeg' AS BLOB), '2026-10-01T08:03:00Z');
INSERT INTO houses VALUES (5, 'hidden', 9);
INSERT INTO wishes VALUES (3, '{}');
COMMIT;
