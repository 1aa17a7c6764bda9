-- +goose Up

-- A program that works here, an accounting or a screen on the wall, is an account
-- nobody signs in to, with one session that lasts until a lead ends it.
ALTER TABLE account ADD COLUMN program boolean NOT NULL DEFAULT false;
ALTER TABLE session ADD COLUMN lasting boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE session DROP COLUMN lasting;
ALTER TABLE account DROP COLUMN program;
