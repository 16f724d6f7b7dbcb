-- +goose Up
-- Whatever writes or removes a revision looks for those that refer to it: without these it goes
-- through all of them each time.
CREATE INDEX revisions_by_parent ON revisions(parent_id);
CREATE INDEX revisions_by_next ON revisions(next_id);
CREATE INDEX circuits_by_head ON circuits(head_id);

-- +goose Down
SELECT 1;
