-- +goose Up

-- A program that may read the board and nothing else: a screen on the wall.
ALTER TABLE account ADD COLUMN board_only boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE account DROP COLUMN board_only;
