-- +goose Up
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

-- +goose Down
DROP TABLE photos;
