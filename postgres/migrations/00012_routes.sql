-- +goose Up

-- What the shop does otherwise on a route of the book; each version is kept.
CREATE TABLE route_own (
    id      text NOT NULL,
    version int NOT NULL,
    body    json NOT NULL,
    by      json NOT NULL,
    at      timestamptz NOT NULL DEFAULT now(),
    why     text NOT NULL,
    PRIMARY KEY (id, version)
);

-- +goose Down
DROP TABLE route_own;
