-- +goose Up

-- The day as it was promised last, and the hours of work that are left: they
-- move on with the place for the board. The first promise stays sealed.
ALTER TABLE rebuild ADD COLUMN due date, ADD COLUMN hours_left float8 NOT NULL DEFAULT 0;
UPDATE rebuild SET due = promised;
ALTER TABLE rebuild ALTER COLUMN due SET NOT NULL;
DROP INDEX rebuild_board;
CREATE INDEX rebuild_board ON rebuild (closed, due, number);

-- +goose Down
DROP INDEX rebuild_board;
CREATE INDEX rebuild_board ON rebuild (closed, promised, number);
ALTER TABLE rebuild DROP COLUMN due, DROP COLUMN hours_left;
