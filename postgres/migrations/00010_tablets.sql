-- +goose Up

-- A tablet at the bench belongs to nobody; a lead enrols it once.
CREATE TABLE tablet (
    id       uuid PRIMARY KEY,
    name     text NOT NULL,
    digest   text NOT NULL UNIQUE,
    by_login text NOT NULL REFERENCES account (login),
    at       timestamptz NOT NULL,
    ended_at timestamptz
);

-- Who stands at it says a PIN; what it opens ends after a short rest.
ALTER TABLE account ADD COLUMN pin_hash text NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN tablet_id uuid REFERENCES tablet (id), ADD COLUMN idle_minutes int NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE session DROP COLUMN idle_minutes, DROP COLUMN tablet_id;
ALTER TABLE account DROP COLUMN pin_hash;
DROP TABLE tablet;
