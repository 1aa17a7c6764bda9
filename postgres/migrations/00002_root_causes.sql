-- +goose Up

-- Root causes are counted over all rebuilds to shift the diagnosis; among the
-- many entries they are few.
CREATE INDEX entry_root_cause ON entry ((body ->> 'outcome')) WHERE act = 'decision' AND step = 'cause';
