-- +goose Up

-- The shop's gauges; what is said of one anew is another version.
CREATE TABLE gauge (
    id       text NOT NULL,
    version  int NOT NULL,
    body     json NOT NULL,
    by_login text NOT NULL,
    by_name  text NOT NULL,
    at       timestamptz NOT NULL,
    PRIMARY KEY (id, version)
);

-- +goose Down
DROP TABLE gauge;
