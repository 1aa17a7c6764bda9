-- +goose Up

-- Backups that ran by themselves, and those that failed.
CREATE TABLE backup_run (
    id    bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at    timestamptz NOT NULL,
    file  text NOT NULL,
    error text NOT NULL
);

-- +goose Down
DROP TABLE backup_run;
