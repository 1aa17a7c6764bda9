-- +goose Up

-- What people practised on and how it went, apart from all that is on record.
CREATE TABLE practice_task (
    id        text PRIMARY KEY,
    kind      text NOT NULL,
    level     text NOT NULL,
    seed      bigint NOT NULL,
    for_login text NOT NULL,
    note      text NOT NULL,
    by_login  text NOT NULL,
    by_name   text NOT NULL,
    at        timestamptz NOT NULL
);
CREATE TABLE practice_run (
    login    text NOT NULL,
    digest   text NOT NULL,
    body     json NOT NULL,
    at       timestamptz NOT NULL,
    PRIMARY KEY (login, digest)
);
CREATE INDEX practice_run_at ON practice_run (at DESC);
CREATE INDEX practice_task_at ON practice_task (at DESC);

-- +goose Down
DROP TABLE practice_run;
DROP TABLE practice_task;
