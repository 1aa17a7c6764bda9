-- +goose Up

-- What is looked for by words stands ready in small letters: ten thousand rebuilds
-- are looked through while one types.
ALTER TABLE rebuild
    ADD COLUMN vehicle_id  text GENERATED ALWAYS AS (vehicle ->> 'id') STORED,
    ADD COLUMN cause_words text GENERATED ALWAYS AS (lower(cause)) STORED;
ALTER TABLE customer ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || phone || ' ' || mail || ' ' || address)) STORED;
ALTER TABLE vehicle ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || registration)) STORED;
ALTER TABLE unit ADD COLUMN words text GENERATED ALWAYS AS (lower(name || ' ' || serial || ' ' || kind)) STORED;

-- +goose Down
ALTER TABLE unit DROP COLUMN words;
ALTER TABLE vehicle DROP COLUMN words;
ALTER TABLE customer DROP COLUMN words;
ALTER TABLE rebuild DROP COLUMN cause_words, DROP COLUMN vehicle_id;
