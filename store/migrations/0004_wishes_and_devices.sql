-- +goose Up
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

-- +goose Down
DROP TABLE devices;
DROP TABLE wishes;
