-- +goose Up
-- A hidden house that answers the tests of a circuit: the circuit behind the walls,
-- and the seed of how its switches stood and its instruments lie.
CREATE TABLE houses (
    circuit_id INTEGER PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    document TEXT NOT NULL,
    seed INTEGER NOT NULL
) STRICT;

-- +goose Down
DROP TABLE houses;
