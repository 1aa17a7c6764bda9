-- +goose Up
-- What the workshop says of itself: name, units, rates, zone, paper. Each saying
-- is kept; the last one holds.
CREATE TABLE shop (
    id    bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    body  jsonb NOT NULL,
    by    text NOT NULL REFERENCES account (login),
    at    timestamptz NOT NULL DEFAULT now()
);

-- The code that opens a database where nobody works yet: the last one made.
CREATE TABLE first_code (
    one    boolean PRIMARY KEY DEFAULT true CHECK (one),
    digest text NOT NULL,
    until  timestamptz NOT NULL
);

-- +goose Down
DROP TABLE first_code, shop;
