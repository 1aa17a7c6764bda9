-- +goose Up

-- What was read with a gauge, the latest first: how well each repeats is learned from it.
CREATE INDEX entry_read_with ON entry (at DESC) WHERE act = 'reading' AND body->>'instrument' <> '';

-- +goose Down
DROP INDEX entry_read_with;
