-- +goose Up
-- How a light is used: its schedules, what it draws, what that costs.
CREATE TABLE uses (
    circuit_id TEXT PRIMARY KEY REFERENCES circuits(id) ON DELETE CASCADE,
    version TEXT NOT NULL,
    data TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE uses;
