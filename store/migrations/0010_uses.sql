-- +goose Up
-- How a light is used: its schedules, what it draws, what that costs.
CREATE TABLE uses (
    circuit_id TEXT PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    version TEXT NOT NULL,
    data TEXT NOT NULL
) STRICT;

-- How the links of the chosen plan are made: which way, and rules that a person changed.
CREATE TABLE links (
    circuit_id TEXT PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    version TEXT NOT NULL,
    data TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE links;
DROP TABLE uses;
