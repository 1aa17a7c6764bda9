-- +goose Up

-- Where a size lies, and how few of it are too few.
ALTER TABLE drawer_item
    ADD COLUMN bin   text NOT NULL DEFAULT '',
    ADD COLUMN least int NOT NULL DEFAULT 0 CHECK (least >= 0);

-- What went in and out, by whom and why; rebuild_id where a pack was fitted.
CREATE TABLE drawer_move (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    drawer     text NOT NULL,
    size       text NOT NULL,
    change     int NOT NULL,
    why        text NOT NULL,
    rebuild_id uuid REFERENCES rebuild (id),
    by_login   text NOT NULL,
    by_name    text NOT NULL,
    at         timestamptz NOT NULL
);
CREATE INDEX drawer_move_of ON drawer_move (drawer, id);

-- +goose Down
DROP TABLE drawer_move;
ALTER TABLE drawer_item DROP COLUMN bin, DROP COLUMN least;
