-- +goose Up
-- What was done at a circuit, entry by entry. Nothing in it is ever changed, and nothing taken out but with its circuit.
CREATE TABLE log (
    circuit_id TEXT NOT NULL REFERENCES circuits(id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    data TEXT NOT NULL,
    created_at TEXT NOT NULL,
    made_by TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (circuit_id, number)
) STRICT, WITHOUT ROWID;

-- +goose StatementBegin
CREATE TRIGGER log_is_not_changed BEFORE UPDATE ON log
BEGIN
    SELECT RAISE(ABORT, 'the log is only added to');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER log_is_not_shortened BEFORE DELETE ON log WHEN EXISTS (SELECT 1 FROM circuits WHERE id = OLD.circuit_id)
BEGIN
    SELECT RAISE(ABORT, 'the log is only added to');
END;
-- +goose StatementEnd

-- Who does the work, and for whom: names and addresses that stand on a record and in no log of the program.
CREATE TABLE firm (
    one INTEGER PRIMARY KEY CHECK (one = 1),
    version TEXT NOT NULL,
    data TEXT NOT NULL
) STRICT;
ALTER TABLE jobs ADD COLUMN customer TEXT NOT NULL DEFAULT '{}';

-- +goose Down
ALTER TABLE jobs DROP COLUMN customer;
DROP TABLE firm;
DROP TABLE log;
