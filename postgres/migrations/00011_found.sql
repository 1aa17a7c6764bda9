-- +goose Up

-- What is looked for by words stands ready in small letters, and the vehicle's id
-- apart from what the order says of it: ten thousand rebuilds are looked through
-- while one types.
ALTER TABLE rebuild ADD COLUMN vehicle_id text NOT NULL DEFAULT '';
UPDATE rebuild SET vehicle_id = vehicle ->> 'id';
ALTER TABLE customer ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || phone || ' ' || mail || ' ' || address)) STORED;
ALTER TABLE vehicle ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || registration)) STORED;
ALTER TABLE unit ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || serial || ' ' || kind)) STORED;

-- +goose Down
ALTER TABLE unit DROP COLUMN words;
ALTER TABLE vehicle DROP COLUMN words;
ALTER TABLE customer DROP COLUMN words;
ALTER TABLE rebuild DROP COLUMN vehicle_id;
