-- +goose Up

-- How many forward gears a unit has, as somebody counted them; 0: nobody did.
ALTER TABLE unit ADD COLUMN gears integer NOT NULL DEFAULT 0 CHECK (gears BETWEEN 0 AND 6);

-- +goose Down
ALTER TABLE unit DROP COLUMN gears;
