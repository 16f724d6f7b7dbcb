-- +goose Up
-- Ids that nobody can guess and no other row ever has, in the order of making: what was here
-- keeps its order by its old number, which stands where new ids have their time.
CREATE TABLE old_ids (of_table TEXT, old INTEGER, new TEXT, PRIMARY KEY (of_table, old)) STRICT;
INSERT INTO old_ids SELECT of_table, old,
    printf('%08x-%04x-7%03x-%04x-%012x', old >> 16, old & 65535, (random() >> 8) & 4095, 32768 + ((random() >> 8) & 16383), (random() >> 8) & 281474976710655)
    FROM (SELECT 'jobs' AS of_table, id AS old FROM jobs UNION ALL SELECT 'circuits', id FROM circuits
          UNION ALL SELECT 'revisions', id FROM revisions UNION ALL SELECT 'photos', id FROM photos);

CREATE TABLE new_jobs (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    created_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;
INSERT INTO new_jobs SELECT i.new, name, created_at, removed_at FROM jobs JOIN old_ids i ON of_table = 'jobs' AND old = jobs.id;

CREATE TABLE new_circuits (
    id TEXT PRIMARY KEY,
    job_id TEXT NOT NULL REFERENCES new_jobs(id) ON DELETE CASCADE,
    head_id TEXT NOT NULL REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    created_at TEXT NOT NULL,
    removed_at TEXT,
    history_bytes INTEGER NOT NULL DEFAULT 0, -- of all its documents, so that nobody has to read them to know
    photo_bytes INTEGER NOT NULL DEFAULT 0
) STRICT;

-- A revision is never changed but for next_id, the revision that redo leads to.
CREATE TABLE new_revisions (
    id TEXT PRIMARY KEY,
    circuit_id TEXT NOT NULL REFERENCES new_circuits(id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    parent_id TEXT REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    next_id TEXT REFERENCES new_revisions(id) DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL,
    said TEXT NOT NULL,
    document TEXT NOT NULL,
    choice TEXT NOT NULL DEFAULT '',
    planned TEXT NOT NULL DEFAULT '',
    created_at TEXT NOT NULL,
    made_by TEXT NOT NULL DEFAULT '', -- who, as the person calls themselves on their machine
    UNIQUE (circuit_id, number)
) STRICT;
INSERT INTO new_circuits SELECT i.new, j.new, r.new, created_at, removed_at,
    (SELECT coalesce(sum(octet_length(document)), 0) FROM revisions h WHERE h.circuit_id = circuits.id),
    (SELECT coalesce(sum(octet_length(jpeg)), 0) FROM photos p WHERE p.circuit_id = circuits.id) FROM circuits
    JOIN old_ids i ON i.of_table = 'circuits' AND i.old = circuits.id
    JOIN old_ids j ON j.of_table = 'jobs' AND j.old = job_id
    JOIN old_ids r ON r.of_table = 'revisions' AND r.old = head_id;
INSERT INTO new_revisions SELECT i.new, c.new, p.new, n.new, number, said, document, choice, planned, created_at, '' FROM revisions
    JOIN old_ids i ON i.of_table = 'revisions' AND i.old = revisions.id
    JOIN old_ids c ON c.of_table = 'circuits' AND c.old = circuit_id
    LEFT JOIN old_ids p ON p.of_table = 'revisions' AND p.old = parent_id
    LEFT JOIN old_ids n ON n.of_table = 'revisions' AND n.old = next_id;

CREATE TABLE new_photos (
    id TEXT PRIMARY KEY,
    circuit_id TEXT NOT NULL REFERENCES new_circuits(id) ON DELETE CASCADE,
    box TEXT NOT NULL,
    note TEXT NOT NULL DEFAULT '',
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    jpeg BLOB NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
INSERT INTO new_photos SELECT i.new, c.new, box, note, width, height, jpeg, created_at FROM photos
    JOIN old_ids i ON i.of_table = 'photos' AND i.old = photos.id
    JOIN old_ids c ON c.of_table = 'circuits' AND c.old = circuit_id;

CREATE TABLE new_houses (
    circuit_id TEXT PRIMARY KEY REFERENCES new_circuits(id) ON DELETE CASCADE,
    document TEXT NOT NULL,
    seed INTEGER NOT NULL
) STRICT;
INSERT INTO new_houses SELECT c.new, document, seed FROM houses JOIN old_ids c ON c.of_table = 'circuits' AND c.old = circuit_id;

-- Whoever changes wishes or a device names the version that they saw.
CREATE TABLE new_wishes (
    circuit_id TEXT PRIMARY KEY REFERENCES new_circuits(id) ON DELETE CASCADE,
    version TEXT NOT NULL,
    data TEXT NOT NULL
) STRICT;
INSERT INTO new_wishes SELECT c.new, c.new, data FROM wishes JOIN old_ids c ON c.of_table = 'circuits' AND c.old = circuit_id;

CREATE TABLE new_devices (
    id TEXT PRIMARY KEY,
    version TEXT NOT NULL,
    data TEXT NOT NULL,
    created_at TEXT NOT NULL
) STRICT;
INSERT INTO new_devices SELECT id, lower(hex(randomblob(16))), data, created_at FROM devices;

DROP TABLE old_ids;
DROP TABLE wishes;
DROP TABLE houses;
DROP TABLE photos;
DROP TABLE circuits;
DROP TABLE revisions;
DROP TABLE jobs;
DROP TABLE devices;
ALTER TABLE new_jobs RENAME TO jobs;
ALTER TABLE new_circuits RENAME TO circuits;
ALTER TABLE new_revisions RENAME TO revisions;
ALTER TABLE new_photos RENAME TO photos;
ALTER TABLE new_houses RENAME TO houses;
ALTER TABLE new_wishes RENAME TO wishes;
ALTER TABLE new_devices RENAME TO devices;
CREATE INDEX circuits_by_job ON circuits(job_id);
CREATE INDEX photos_by_circuit ON photos(circuit_id);

-- +goose Down
SELECT 1;
