-- +goose Up

-- What the axles of a family have taught, the latest first.
CREATE INDEX entry_axle ON entry (at DESC) WHERE method LIKE 'ring-pinion/%';

-- +goose Down
DROP INDEX entry_axle;
